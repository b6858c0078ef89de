using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Flue;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove as the books hold it.</summary>
/// <param name="Stove">The stove.</param>
/// <param name="Serial">Its serial number.</param>
/// <param name="Version">From 1.</param>
/// <param name="Assumed">Fields that nobody confirmed.</param>
/// <param name="OutAt">When it was taken out; null while it stands.</param>
/// <param name="OutWhy">Why.</param>
public sealed record BookedStove(Stove Stove, string Serial, int Version, IReadOnlyList<string> Assumed, DateTimeOffset? OutAt, string OutWhy);

/// <summary>A house as the books hold it.</summary>
/// <param name="House">The house.</param>
/// <param name="Version">From 1.</param>
/// <param name="Assumed">Fields that nobody confirmed.</param>
/// <param name="Stoves">Its stoves.</param>
public sealed record BookedHouse(House House, int Version, IReadOnlyList<string> Assumed, IReadOnlyList<BookedStove> Stoves);

/// <summary>Something written in the books.</summary>
/// <param name="At">When.</param>
/// <param name="By">Who.</param>
/// <param name="What">What.</param>
public sealed record BookLine(DateTimeOffset At, string By, string What);

/// <summary>A household with everything the books hold of it.</summary>
/// <param name="Customer">Whose.</param>
/// <param name="Version">Of the customer, from 1.</param>
/// <param name="Houses">Houses with their stoves.</param>
/// <param name="Log">What was written, newest first.</param>
/// <param name="JoinedInto">The record that it was joined into; null where it stands for itself.</param>
/// <param name="ForgottenAt">When it was forgotten; null where it was not.</param>
/// <param name="Before">Who lived in its houses before, newest first.</param>
public sealed record BookedHousehold(Customer Customer, int Version, IReadOnlyList<BookedHouse> Houses, IReadOnlyList<BookLine> Log, Guid? JoinedInto, DateTimeOffset? ForgottenAt, IReadOnlyList<LivedBefore> Before);

/// <summary>Who lived in a house before.</summary>
/// <param name="Id">The customer.</param>
/// <param name="Name">Name.</param>
/// <param name="Until">When the house passed.</param>
public sealed record LivedBefore(Guid Id, string Name, DateTimeOffset Until);

/// <summary>A household that may be the same.</summary>
/// <param name="Id">The customer.</param>
/// <param name="Name">Name.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Phone">Phone.</param>
public sealed record Twin(Guid Id, string Name, string Street, string Place, string Phone);

/// <summary>What became of a change in the books.</summary>
public enum BookState
{
    /// <summary>Written, or the same had been written before.</summary>
    Written,

    /// <summary>Somebody wrote another version in between.</summary>
    Stale,

    /// <summary>There is none.</summary>
    Missing,

    /// <summary>The id is that of something else.</summary>
    Reused,

    /// <summary>It has an open visit.</summary>
    Visited,
}

/// <summary>The firm's books: households, houses, stoves. Everything can be corrected; who did and what stood there before stays.</summary>
public sealed class BookStore(NpgsqlDataSource database)
{
    // What is corrected of a stove; its measures are taken at a visit, and nobody at the desk ends a look through its flue.
    private sealed record OnPlate(Stove Stove, string Serial)
    {
        public static OnPlate Of(Stove stove, string serial) => new(stove with { Measures = null, FlueLook = null, Label = stove.Label ?? new() }, serial);
    }

    /// <summary>A household, or null.</summary>
    public async Task<BookedHousehold?> FindAsync(Guid customerId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await FindAsync(connection, customerId);
    }

    private static async Task<BookedHousehold?> FindAsync(NpgsqlConnection connection, Guid customerId) =>
        await connection.QuerySingleOrDefaultAsync<string>($"""
            select json_build_object('customer', {HistoryStore.CustomerJson}, 'version', c.version,
                'houses', (select coalesce(json_agg(json_build_object('house', {HistoryStore.HouseJson}, 'version', s.version, 'assumed', s.assumed,
                        'stoves', (select coalesce(json_agg(json_build_object('stove', {HistoryStore.StoveJson}, 'serial', a.serial, 'version', a.version, 'assumed', a.assumed, 'outAt', a.out_at, 'outWhy', a.out_why)
                                order by a.out_at is not null, a.model, a.id), '[]') from appliances a where a.site_id = s.id)) order by s.place, s.street, s.id), '[]')
                    from sites s where s.customer_id = c.id),
                'log', (select coalesce(json_agg(to_json(l)), '[]') from (select b.at, p.name as by, b.what from book_log b join people p on p.id = b.by where b.customer_id = c.id order by b.at desc limit 40) l),
                'joinedInto', c.joined_into, 'forgottenAt', c.forgotten_at,
                'before', (select coalesce(json_agg(json_build_object('id', o.id, 'name', o.name, 'until', p.at) order by p.at desc), '[]') from house_passages p join sites h on h.id = p.house_id join customers o on o.id = p.from_customer where h.customer_id = c.id))::text
            from customers c where c.id = @customerId
            """, new { customerId }) is { } document ? JsonSerializer.Deserialize<BookedHousehold>(document, HistoryStore.Json) : null;

    /// <summary>Where a place lies, by the houses that the firm knows there; null where it knows none.</summary>
    public async Task<Whereabouts?> WhereaboutsAsync(string place)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Whereabouts>("""
            select avg(latitude) as latitude, avg(longitude) as longitude, round(avg(altitude_m)) as altitude_m from sites where lower(place) = lower(@place) having count(*) > 0
            """, new { place });
    }

    /// <summary>Households with the same telephone number, or at the same address.</summary>
    public async Task<IReadOnlyList<Twin>> TwinsAsync(string phone, string street, string place)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Twin>("""
            select c.id, c.name, s.street, s.place, c.phone from customers c join sites s on s.customer_id = c.id
            where ((length(@digits) >= 6 and (regexp_replace(c.phone, '[^0-9]', '', 'g') = @digits or exists (select from jsonb_array_elements(c.contacts) k where regexp_replace(k->>'phone', '[^0-9]', '', 'g') = @digits))) or (lower(s.street) = lower(@street) and lower(s.place) = lower(@place)))
                and c.joined_into is null and not exists (select from imports i where i.id = c.import_id and i.undone_at is not null)
            order by c.name limit 5
            """, new { digits = string.Concat(phone.Where(char.IsAsciiDigit)), street, place })];
    }

    /// <summary>Writes a household with its house and stove down. The same one sent twice is one.</summary>
    public async Task<BookState> AddAsync(Customer customer, House house, IReadOnlyList<string> houseAssumed, Stove stove, string serial, FlueVersion flue, IReadOnlyList<string> stoveAssumed, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        try
        {
            await AddCustomerAsync(connection, customer);
            await AddHouseAsync(connection, customer.Id, house, houseAssumed);
            await AddStoveAsync(connection, house.Id, stove, serial, flue, stoveAssumed);
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            await transaction.RollbackAsync();
            return Same((await FindAsync(connection, customer.Id))?.Customer, customer) ? BookState.Written : BookState.Reused;
        }
        await LogAsync(connection, customer.Id, by, at, $"Household written down, with a {stove.Model}.", null, new { customer, house, stove });
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>Writes another stove of a house down. The same one sent twice is one.</summary>
    public async Task<BookState> AddStoveAsync(Guid houseId, Stove stove, string serial, FlueVersion flue, IReadOnlyList<string> assumed, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<Guid?>("select customer_id from sites where id = @houseId", new { houseId }) is not { } customerId)
            return BookState.Missing;
        try
        {
            await AddStoveAsync(connection, houseId, stove, serial, flue, assumed);
        }
        catch (PostgresException fault) when (fault.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            await transaction.RollbackAsync();
            return await connection.QuerySingleAsync<bool>("select exists (select from appliances where id = @Id and site_id = @houseId)", new { stove.Id, houseId }) ? BookState.Written : BookState.Reused;
        }
        await LogAsync(connection, customerId, by, at, $"Stove written down: {stove.Model}", null, stove);
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>Corrects a customer.</summary>
    public Task<BookState> ChangeAsync(Customer customer, int baseVersion, Guid by, DateTimeOffset at) =>
        ChangeAsync(customer.Id, h => h.Customer.Id == customer.Id ? (h.Customer, h.Version) : null, customer, baseVersion, "Household corrected.", by, at, c => c.ExecuteAsync(
            "update customers set name = @Name, phone = @Phone, email = @Email, note = @Note, contacts = @contacts::jsonb, language = @Language, wish = @wish::jsonb, version = version + 1 where id = @Id", Row(customer)));

    /// <summary>Corrects a house; what was sent counts as confirmed.</summary>
    /// <param name="customerId">Whose it is.</param>
    /// <param name="house">The house as it is.</param>
    /// <param name="baseVersion">Version that was looked at.</param>
    /// <param name="by">Who.</param>
    /// <param name="at">When.</param>
    public Task<BookState> ChangeAsync(Guid customerId, House house, int baseVersion, Guid by, DateTimeOffset at) =>
        ChangeAsync(customerId, h => h.Houses.FirstOrDefault(b => b.House.Id == house.Id) is { } b ? (b.House, b.Version) : null, house, baseVersion, $"{house.Street}: house corrected.", by, at, c => c.ExecuteAsync("""
            update sites set street = @Street, place = @Place, latitude = @Latitude, longitude = @Longitude, altitude_m = @AltitudeM, house_volume_m3 = @VolumeM3, ach50 = @Ach50, built_era = @BuiltEra,
                monthly_c = @monthly, storey_names = @names, storey_heights_m = @heights, house_width_m = @WidthM, roof_pitch_deg = @RoofPitchDeg, ground_m = @GroundM, version = version + 1
            where id = @Id
            """, Row(house, null)));

    /// <summary>Corrects a stove.</summary>
    public Task<BookState> ChangeAsync(Guid customerId, Stove stove, string serial, int baseVersion, Guid by, DateTimeOffset at) =>
        ChangeAsync(customerId, h => h.Houses.SelectMany(b => b.Stoves).FirstOrDefault(s => s.Stove.Id == stove.Id) is { } s ? (OnPlate.Of(s.Stove, s.Serial), s.Version) : null,
            OnPlate.Of(stove, serial), baseVersion, $"{stove.Model}: stove corrected.", by, at, c => c.ExecuteAsync("""
            update appliances set kind = @Kind, combustor = @Combustor, model = @Model, year = @Year, room = @Room, nominal_kw = @NominalKw, label_min_pa = @LabelMinPa, label_max_pa = @LabelMaxPa,
                storey = @Storey, collar_height_m = @CollarHeightM, label = @label::jsonb, serial = @serial, version = version + 1
            where id = @Id
            """, new { stove.Id, stove.Kind, stove.Combustor, stove.Model, stove.Year, stove.Room, stove.NominalKw, stove.LabelMinPa, stove.LabelMaxPa, stove.Storey, stove.CollarHeightM, label = JsonSerializer.Serialize(stove.Label ?? new(), HistoryStore.Json), serial }));

    private static bool Same<T>(T stored, T sent) => JsonSerializer.Serialize(stored, HistoryStore.Json) == JsonSerializer.Serialize(sent, HistoryStore.Json);

    // One at a time per household: what was looked at is what is changed. A send that came through before is no other version.
    private async Task<BookState> ChangeAsync<T>(Guid customerId, Func<BookedHousehold, (T Stored, int Version)?> find, T sent, int baseVersion, string what, Guid by, DateTimeOffset at, Func<NpgsqlConnection, Task> write)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await connection.ExecuteAsync("select 1 from customers where id = @customerId for update", new { customerId });
        if (await FindAsync(connection, customerId) is not { } household || find(household) is not var (stored, version))
            return BookState.Missing;
        if (Same(stored, sent))
            return BookState.Written;
        if (version != baseVersion)
            return BookState.Stale;
        await write(connection);
        await LogAsync(connection, customerId, by, at, what, stored, sent);
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>A stove is taken out of its house: it keeps its record, and nothing is due for it any more.</summary>
    public async Task<BookState> TakeOutAsync(Guid stoveId, string why, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<(Guid Customer, string Model, bool Out)?>("""
            select s.customer_id, a.model, a.out_at is not null from appliances a join sites s on s.id = a.site_id where a.id = @stoveId for update of a
            """, new { stoveId }) is not var (customerId, model, isOut))
        {
            return BookState.Missing;
        }
        if (isOut)
            return BookState.Written;
        if (await connection.QuerySingleAsync<bool>("select exists (select from visits where appliance_id = @stoveId and state = 'open')", new { stoveId }))
            return BookState.Visited;
        await connection.ExecuteAsync("""
            update appliances set out_at = @at, out_why = @why, version = version + 1 where id = @stoveId;
            delete from due_visits where appliance_id = @stoveId;
            delete from due_stoves where appliance_id = @stoveId;
            """, new { stoveId, why, at });
        await LogAsync(connection, customerId, by, at, $"{model}: taken out. {why}", null, null);
        await transaction.CommitAsync();
        return BookState.Written;
    }

    /// <summary>Fields of a stove and its house that nobody confirmed yet.</summary>
    public async Task<IReadOnlyList<string>> UnconfirmedAsync(Guid stoveId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<string[]>("select a.assumed || s.assumed from appliances a join sites s on s.id = a.site_id where a.id = @stoveId", new { stoveId }) ?? [];
    }

    /// <summary>Somebody looked: these are as they stand there.</summary>
    public async Task<bool> ConfirmAsync(Guid stoveId, string[] fields, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await connection.QuerySingleOrDefaultAsync<(Guid House, Guid Customer)?>("select s.id, s.customer_id from appliances a join sites s on s.id = a.site_id where a.id = @stoveId for update", new { stoveId })
            is not var (houseId, customerId))
        {
            return false;
        }
        var confirmed = await connection.ExecuteAsync("""
            update appliances set assumed = array(select unnest(assumed) except select unnest(@fields)) where id = @stoveId and assumed && @fields
            """, new { stoveId, fields }) + await connection.ExecuteAsync("""
            update sites set assumed = array(select unnest(assumed) except select unnest(@fields)) where id = @houseId and assumed && @fields
            """, new { houseId, fields });
        if (confirmed > 0)
            await LogAsync(connection, customerId, by, at, $"Confirmed on site: {string.Join(", ", fields)}.", null, null);
        await transaction.CommitAsync();
        return true;
    }

    internal static Task AddCustomerAsync(NpgsqlConnection connection, Customer customer) =>
        connection.ExecuteAsync(
            "insert into customers (id, name, phone, email, note, contacts, language, wish) values (@Id, @Name, @Phone, @Email, @Note, @contacts::jsonb, @Language, @wish::jsonb)", Row(customer));

    private static object Row(Customer customer) => new
    {
        customer.Id,
        customer.Name,
        customer.Phone,
        customer.Email,
        customer.Note,
        contacts = JsonSerializer.Serialize(customer.Contacts ?? [], HistoryStore.Json),
        customer.Language,
        wish = JsonSerializer.Serialize(customer.Wish ?? VisitWish.Any, HistoryStore.Json),
    };

    internal static async Task AddHouseAsync(NpgsqlConnection connection, Guid customerId, House house, IReadOnlyList<string> assumed)
    {
        await connection.ExecuteAsync("""
            insert into sites (id, customer_id, street, place, latitude, longitude, altitude_m, house_volume_m3, ach50, built_era, monthly_c,
                               storey_names, storey_heights_m, house_width_m, roof_pitch_deg, ground_m, assumed)
            values (@Id, @customerId, @Street, @Place, @Latitude, @Longitude, @AltitudeM, @VolumeM3, @Ach50, @BuiltEra, @monthly,
                    @names, @heights, @WidthM, @RoofPitchDeg, @GroundM, @assumed)
            """, Row(house, customerId, assumed));
        await connection.ExecuteAsync("insert into site_obstacles (site_id, position, name, across_m, width_m, top_m) values (@Id, @position, @Name, @AcrossM, @WidthM, @TopM)",
            house.Obstacles.Select((o, position) => new { house.Id, position, o.Name, o.AcrossM, o.WidthM, o.TopM }));
    }

    internal static async Task AddStoveAsync(NpgsqlConnection connection, Guid houseId, Stove stove, string serial, FlueVersion flue, IReadOnlyList<string> assumed)
    {
        await connection.ExecuteAsync("""
            insert into appliances (id, site_id, kind, combustor, model, year, room, nominal_kw, label_min_pa, label_max_pa, storey, collar_height_m, label, serial, assumed)
            values (@Id, @houseId, @Kind, @Combustor, @Model, @Year, @Room, @NominalKw, @LabelMinPa, @LabelMaxPa, @Storey, @CollarHeightM, @label::jsonb, @serial, @assumed)
            """, new
        {
            stove.Id,
            houseId,
            stove.Kind,
            stove.Combustor,
            stove.Model,
            stove.Year,
            stove.Room,
            stove.NominalKw,
            stove.LabelMinPa,
            stove.LabelMaxPa,
            stove.Storey,
            stove.CollarHeightM,
            label = JsonSerializer.Serialize(stove.Label ?? new(), HistoryStore.Json),
            serial,
            assumed = assumed.ToArray(),
        });
        await StoveStore.InsertFlueAsync(connection, stove.Id, flue);
    }

    private static object Row(House house, Guid? customerId, IReadOnlyList<string>? assumed = null) => new
    {
        house.Id,
        customerId,
        house.Street,
        house.Place,
        house.Latitude,
        house.Longitude,
        house.AltitudeM,
        house.VolumeM3,
        house.Ach50,
        house.BuiltEra,
        monthly = house.MonthlyC.ToArray(),
        names = house.StoreyNames.ToArray(),
        heights = house.StoreyHeightsM.ToArray(),
        house.WidthM,
        house.RoofPitchDeg,
        house.GroundM,
        assumed = (assumed ?? []).ToArray(),
    };

    internal static Task LogAsync(NpgsqlConnection connection, Guid customerId, Guid by, DateTimeOffset at, string what, object? before, object? after) => connection.ExecuteAsync(
        "insert into book_log (id, customer_id, at, by, what, before, after) values (@id, @customerId, @at, @by, @what, @before::jsonb, @after::jsonb)",
        new
        {
            id = Guid.CreateVersion7(),
            customerId,
            at,
            by,
            what = what[..Math.Min(what.Length, 200)],
            before = before is null ? null : JsonSerializer.Serialize(before, HistoryStore.Json),
            after = after is null ? null : JsonSerializer.Serialize(after, HistoryStore.Json),
        });
}
