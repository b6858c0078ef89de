using System.Text.Json;
using Dapper;
using Grate.Core;
using Npgsql;
using NpgsqlTypes;

namespace Grate.Store;

/// <summary>A list that was brought in.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Name of the file.</param>
/// <param name="Households">Households that it brought.</param>
/// <param name="Stoves">Their stoves.</param>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
/// <param name="UndoneAt">When it was taken back; null while it stands.</param>
public sealed record ImportLine(Guid Id, string Name, int Households, int Stoves, DateTimeOffset At, string By, DateTimeOffset? UndoneAt);

/// <summary>A household of a list with its stoves, ready to be written.</summary>
/// <param name="Customer">Whose.</param>
/// <param name="House">The house.</param>
/// <param name="HouseAssumed">What nobody told of it.</param>
/// <param name="Stoves">Its stoves.</param>
public sealed record ListedHousehold(Customer Customer, House House, IReadOnlyList<string> HouseAssumed, IReadOnlyList<ListedStove> Stoves);

/// <summary>A stove of a list.</summary>
/// <param name="Stove">The stove.</param>
/// <param name="Serial">Its serial number.</param>
/// <param name="Flue">A usual flue.</param>
/// <param name="Assumed">What nobody told of it.</param>
/// <param name="Swept">Day of its last sweep; null where the list tells none.</param>
public sealed record ListedStove(Stove Stove, string Serial, FlueVersion Flue, IReadOnlyList<string> Assumed, DateOnly? Swept);

/// <summary>A row of the list that goes out.</summary>
public sealed record ListLine(string Name, string Phone, string Email, string Note, string Street, string Place, double Latitude, double Longitude, double AltitudeM, int Storeys, string Kind, bool Combustor,
    string Model, string Serial, int Year, double NominalKw, string Room, DateTimeOffset? LastSweep, DateOnly? SweptTold);

/// <summary>Lists of households in and out.</summary>
public sealed class ImportStore(NpgsqlDataSource database)
{
    /// <summary>Lists that were brought in, newest first, at most 20.</summary>
    public async Task<IReadOnlyList<ImportLine>> ListAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<ImportLine>("select i.id, i.name, i.households, i.stoves, i.at, p.name as by, i.undone_at from imports i join people p on p.id = i.by order by i.at desc limit 20")];
    }

    /// <summary>Telephone numbers and addresses that the books know.</summary>
    public async Task<IReadOnlyList<(string Phone, string Street, string Place)>> KnownAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<(string, string, string)>("""
            select c.phone, s.street, s.place from customers c join sites s on s.customer_id = c.id
            where not exists (select from imports i where i.id = c.import_id and i.undone_at is not null)
            """)];
    }

    /// <summary>Where each place lies, by the houses that the firm knows there.</summary>
    public async Task<IReadOnlyDictionary<string, Whereabouts>> PlacesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<(string Place, double Latitude, double Longitude, double AltitudeM)>("select lower(place), avg(latitude), avg(longitude), round(avg(altitude_m)) from sites group by 1"))
            .ToDictionary(p => p.Place, p => new Whereabouts(p.Latitude, p.Longitude, p.AltitudeM));
    }

    /// <summary>Writes a list, all of it or nothing; sent twice it is one.</summary>
    /// <param name="id">The import.</param>
    /// <param name="name">Name of the file.</param>
    /// <param name="households">What it brings.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    /// <param name="written">Told how many stoves are written.</param>
    /// <param name="end">Ends it; nothing is kept then.</param>
    public async Task WriteAsync(Guid id, string name, IReadOnlyList<ListedHousehold> households, Guid by, DateTimeOffset at, Action<int> written, CancellationToken end)
    {
        await using var connection = await database.OpenConnectionAsync(end);
        await using var transaction = await connection.BeginTransactionAsync(end);
        if (await connection.ExecuteAsync("insert into imports (id, name, households, stoves, at, by) values (@id, @name, @households, @stoves, @at, @by) on conflict do nothing",
            new { id, name, households = households.Count, stoves = households.Sum(h => h.Stoves.Count), at, by }) == 0)
        {
            return;
        }
        var done = 0;
        foreach (var some in households.Chunk(Chunk))
        {
            await CopyAsync(connection, "customers (id, name, phone, email, note, import_id)", some.Select(h => h.Customer).Select(c => new object?[] { c.Id, c.Name, c.Phone, c.Email, c.Note, id }), end);
            await CopyAsync(connection, "sites (id, customer_id, street, place, latitude, longitude, altitude_m, house_volume_m3, ach50, built_era, monthly_c, storey_names, storey_heights_m, house_width_m, roof_pitch_deg, ground_m, assumed)",
                some.Select(h => (h.Customer, h.House, h.HouseAssumed)).Select(h => new object?[] { h.House.Id, h.Customer.Id, h.House.Street, h.House.Place, h.House.Latitude, h.House.Longitude, h.House.AltitudeM, h.House.VolumeM3, h.House.Ach50, h.House.BuiltEra,
                    h.House.MonthlyC.ToArray(), h.House.StoreyNames.ToArray(), h.House.StoreyHeightsM.ToArray(), h.House.WidthM, h.House.RoofPitchDeg, h.House.GroundM, h.HouseAssumed.ToArray() }), end);
            var stoves = some.SelectMany(h => h.Stoves, (h, s) => (House: h.House.Id, s.Stove, s.Serial, s.Flue, s.Assumed, s.Swept)).ToList();
            await CopyAsync(connection, "appliances (id, site_id, kind, combustor, model, year, room, nominal_kw, label_min_pa, label_max_pa, storey, collar_height_m, serial, assumed, swept_told)",
                stoves.Select(s => new object?[] { s.Stove.Id, s.House, s.Stove.Kind, s.Stove.Combustor, s.Stove.Model, s.Stove.Year, s.Stove.Room, s.Stove.NominalKw, s.Stove.LabelMinPa, s.Stove.LabelMaxPa, s.Stove.Storey, s.Stove.CollarHeightM, s.Serial, s.Assumed.ToArray(), s.Swept }), end);
            await CopyAsync(connection, "flue_versions (id, appliance_id, number, valid_from, cap, screen, stove_x_m)",
                stoves.Select(s => new object?[] { s.Flue.Id, s.Stove.Id, s.Flue.Number, s.Flue.ValidFrom, s.Flue.Flue.Cap, s.Flue.Flue.Screen == true, s.Flue.StoveXM }), end);
            await CopyAsync(connection, "flue_segments (version_id, position, label, construction, diameter_m, width_m, depth_m, rise_m, length_m, surroundings, resistance_m2kw, roughness_mm, fittings, toward, id)",
                stoves.SelectMany(s => s.Flue.Flue.Segments!.Select((g, position) => new object?[] { s.Flue.Id, position, g.Label, g.Construction, g.Shape!.DiameterM, g.Shape.WidthM, g.Shape.DepthM, g.RiseM, g.LengthM, g.Surroundings, g.ResistanceM2KW, g.RoughnessMm,
                    JsonSerializer.SerializeToDocument([.. g.Fittings ?? []], CoreJson.Default.FittingEntryArray), g.Toward ?? "right", g.Id })), end);
            written(done += stoves.Count);
        }
        await connection.ExecuteAsync("insert into book_log (id, customer_id, at, by, what) select gen_random_uuid(), c, @at, @by, @what from unnest(@customers) c", new { at, by, what = $"Brought in with the list {name[..Math.Min(name.Length, 160)]}.", customers = households.Select(h => h.Customer.Id).ToArray() }, commandTimeout: 0);
        await transaction.CommitAsync(end);
    }

    // A long list is written in pieces: how far it is can be told, and it can be stopped between them.
    private const int Chunk = 250;

    private static async Task CopyAsync(NpgsqlConnection connection, string into, IEnumerable<object?[]> rows, CancellationToken end)
    {
        await using var copy = await connection.BeginBinaryImportAsync($"copy {into} from stdin (format binary)", end);
        foreach (var row in rows)
        {
            await copy.StartRowAsync(end);
            foreach (var value in row)
            {
                if (value is null)
                    await copy.WriteNullAsync(end);
                else if (value is JsonDocument json)
                    await copy.WriteAsync(json, NpgsqlDbType.Jsonb, end);
                else
                    await copy.WriteAsync(value, end);
            }
        }
        await copy.CompleteAsync(end);
    }

    /// <summary>Takes a list back: its stoves are taken out and found no more.</summary>
    /// <returns>Null where there is no such list; false where something rests on it.</returns>
    public async Task<bool?> UndoAsync(Guid id, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<(bool Undone, bool Rests)?>("""
            select i.undone_at is not null, exists (
                select from customers c join sites s on s.customer_id = c.id join appliances a on a.site_id = s.id where c.import_id = i.id
                and (c.version > 1 or s.version > 1 or a.version > 1 or exists (select from visits v where v.appliance_id = a.id) or exists (select from calls l where l.appliance_id = a.id)
                    or (select count(*) from flue_versions f where f.appliance_id = a.id) > 1))
            from imports i where i.id = @id for update of i
            """, new { id }) is not var (undone, rests))
        {
            return null;
        }
        if (undone)
            return true;
        if (rests)
            return false;
        await connection.ExecuteAsync("""
            update imports set undone_at = @at, undone_by = @by where id = @id;
            create temporary table gone on commit drop as
                select a.id from customers c join sites s on s.customer_id = c.id join appliances a on a.site_id = s.id where c.import_id = @id;
            update appliances set out_at = @at, out_why = 'the list it came with was taken back' where id in (select id from gone);
            delete from due_visits where appliance_id in (select id from gone);
            delete from due_stoves where appliance_id in (select id from gone);
            delete from stove_search where appliance_id in (select id from gone);
            """, new { id, by, at }, commandTimeout: 0);
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>Every stove that stands, one row each, as such a list is brought in; its last sweep is the last visit that swept, else what was told of one.</summary>
    public async IAsyncEnumerable<ListLine> LinesAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        await foreach (var line in connection.QueryUnbufferedAsync<ListLine>("""
            select c.name, c.phone, c.email, c.note, s.street, s.place, s.latitude, s.longitude, s.altitude_m, cardinality(s.storey_names) as storeys, a.kind, a.combustor, a.model, a.serial, a.year, a.nominal_kw, a.room,
                (select max(v.planned_start) from visits v join station_facts x on x.visit_id = v.id and x.name = @swept where v.appliance_id = a.id and v.state = 'signed') as last_sweep,
                a.swept_told
            from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id where a.out_at is null order by s.place, s.street, c.name, a.id
            """, new { swept = Core.Deposits.DepositFacts.LeftMm }))
            yield return line;
    }
}
