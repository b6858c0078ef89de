using System.Text.Json;
using Dapper;
using Grate.Core.Flue;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove in a list.</summary>
public sealed record StoveLine(
    Guid Id, string Customer, string Street, string Place, string Kind, bool Combustor, string Model, int Year,
    string Room, DateOnly? LastVisit, DateOnly? NextInspection, int Stops);

/// <summary>Where a stove stands and what it is. Units stand in the names; <c>CollarHeightM</c> is above its own storey's floor.</summary>
public sealed record Stove(
    Guid Id, string Customer, string Phone, string Email, string Note, string Street, string Place, double Latitude, double Longitude,
    double AltitudeM, double? HouseVolumeM3, double? Ach50, string? BuiltEra, double[] MonthlyC,
    string[] StoreyNames, double[] StoreyHeightsM, double HouseWidthM, double RoofPitchDeg, double GroundM,
    string Kind, bool Combustor, string Model, int Year, string Room, double NominalKw,
    double? LabelMinPa, double? LabelMaxPa, int Storey, double CollarHeightM)
{
    /// <summary>What stands around the house.</summary>
    public IReadOnlyList<Obstacle> Obstacles { get; init; } = [];

    /// <summary>The floor it stands on, m above that of the lowest storey.</summary>
    public double FloorM => StoreyHeightsM.Take(Storey).Sum();

    /// <summary>The house as it is drawn.</summary>
    public HouseOutline Outline() => new(HouseWidthM, StoreyHeightsM.Sum(), RoofPitchDeg, GroundM, Obstacles);

    /// <summary>Where its flue starts.</summary>
    /// <param name="acrossM">The stove's axis, m from the left wall.</param>
    public StovePlace StandsAt(double acrossM) => new(acrossM, FloorM + CollarHeightM);

    /// <summary>What is known of the house's air.</summary>
    public HouseAir Air() => new(HouseVolumeM3, Ach50, BuiltEra, AltitudeM, StoreyHeightsM.Sum(), FloorM + CollarHeightM);
}

/// <summary>A version of a flue: the chain as the model reads it, and where it stands.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Number">1, 2, …</param>
/// <param name="ValidFrom">Built or changed on.</param>
/// <param name="StoveXM">Stove's axis from the house's left wall, m.</param>
/// <param name="Flue">The chain.</param>
public sealed record FlueVersion(Guid Id, int Number, DateOnly ValidFrom, double StoveXM, FlueEntry Flue);

/// <summary>A reading of the past, with what was expected then.</summary>
public sealed record PastReading(
    Guid VisitId, DateTime At, string Level, double DraftPa, double ExpectedPa, double LowPa, double HighPa, string Verdict);

/// <summary>A reading of an earlier visit at which nothing was found wrong with the flue, on the same version of it.</summary>
public sealed record SoundReadingRow(Guid VisitId, DateTime At, string Level, double DraftPa, double ExpectedPa, string Contributions);

/// <summary>Stoves, the places they stand in, and their flues.</summary>
public sealed class StoveStore(NpgsqlDataSource database)
{
    /// <summary>Most rows of a search.</summary>
    public const int PageSize = 50;

    /// <summary>Stoves whose words hold every word of the search, by customer's name.</summary>
    /// <param name="words">Words in lower case, none for all.</param>
    /// <param name="offset">Rows to pass over.</param>
    public async Task<IReadOnlyList<StoveLine>> SearchAsync(IReadOnlyList<string> words, int offset)
    {
        await using var connection = await database.OpenConnectionAsync();
        var patterns = words.Select(w => $"%{w.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_")}%").ToArray();
        return [.. await connection.QueryAsync<StoveLine>("""
            with found as (
                select appliance_id, words from stove_search
                where words like all (@patterns)
                order by words
                limit @PageSize offset @offset)
            select a.id, c.name as customer, s.street, s.place, a.kind, a.combustor, a.model, a.year, a.room,
                   last.day as last_visit, last.next_inspection,
                   (select count(*)::int from safety_stops t where t.appliance_id = a.id and t.cleared_at is null) as stops
            from found f
            join appliances a on a.id = f.appliance_id
            join sites s on s.id = a.site_id
            join customers c on c.id = s.customer_id
            left join lateral (
                select v.planned_start::date as day, v.next_inspection from visits v
                where v.appliance_id = a.id and v.state = 'signed'
                order by v.planned_start desc limit 1) last on true
            order by f.words
            """, new { patterns, PageSize, offset })];
    }

    private const string StoveColumns = """
        select a.id, c.name as customer, c.phone, c.email, c.note, s.street, s.place, s.latitude, s.longitude,
               s.altitude_m, s.house_volume_m3, s.ach50, s.built_era, s.monthly_c,
               s.storey_names, s.storey_heights_m, s.house_width_m, s.roof_pitch_deg, s.ground_m,
               a.kind, a.combustor, a.model, a.year, a.room, a.nominal_kw,
               a.label_min_pa, a.label_max_pa, a.storey, a.collar_height_m
        from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
        """;

    /// <summary>A stove, or null.</summary>
    public async Task<Stove?> FindAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        var stove = await connection.QuerySingleOrDefaultAsync<Stove>($"{StoveColumns} where a.id = @id", new { id });
        if (stove is null)
            return null;
        var obstacles = await connection.QueryAsync<Obstacle>("""
            select o.name, o.across_m, o.width_m, o.top_m from site_obstacles o join appliances a on a.site_id = o.site_id
            where a.id = @id order by o.position
            """, new { id });
        return stove with { Obstacles = [.. obstacles] };
    }

    /// <summary>The newest version of a stove's flue.</summary>
    public async Task<FlueVersion?> NewestFlueAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await NewestFluesAsync(connection, [applianceId])).GetValueOrDefault(applianceId);
    }

    /// <summary>A version of a flue.</summary>
    public async Task<FlueVersion?> FlueAsync(Guid versionId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await FluesAsync(connection, "id = any(@keys)", [versionId])).Values.SingleOrDefault();
    }

    /// <summary>Stoves without what stands around their houses.</summary>
    internal static Task<IEnumerable<Stove>> ManyAsync(NpgsqlConnection connection, Guid[] ids) =>
        connection.QueryAsync<Stove>($"{StoveColumns} where a.id = any(@ids)", new { ids });

    /// <summary>The newest flue of each stove, by stove.</summary>
    internal static Task<Dictionary<Guid, FlueVersion>> NewestFluesAsync(NpgsqlConnection connection, Guid[] applianceIds) => FluesAsync(connection,
        "id in (select distinct on (appliance_id) id from flue_versions where appliance_id = any(@keys) order by appliance_id, number desc)", applianceIds);

    /// <summary>Readings at signed visits, oldest first.</summary>
    public async Task<IReadOnlyList<PastReading>> ReadingsAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<PastReading>("""
            select r.visit_id, v.planned_start as at, r.level, r.draft_pa, r.expected_pa, r.low_pa, r.high_pa, r.verdict
            from readings r join visits v on v.id = r.visit_id
            where v.appliance_id = @applianceId and v.state = 'signed'
            order by v.planned_start, r.level
            """, new { applianceId })];
    }

    /// <summary>
    /// Readings of earlier signed visits on a version of a flue at which nothing was found wrong on the gas's way, oldest first.
    /// </summary>
    /// <param name="flueVersionId">The version.</param>
    /// <param name="before">Only visits before this.</param>
    public async Task<IReadOnlyList<SoundReadingRow>> SoundReadingsAsync(Guid flueVersionId, DateTime before)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<SoundReadingRow>("""
            select r.visit_id, v.planned_start as at, r.level, r.draft_pa, r.expected_pa, (r.computed->'contributions')::text as contributions
            from readings r join visits v on v.id = r.visit_id
            where v.flue_version_id = @flueVersionId and v.state = 'signed' and v.planned_start < @before
              and r.verdict like 'as-expected%'
              and not exists (
                  select 1 from findings f
                  where f.visit_id = v.id and f.condition in ('spent', 'unsafe')
                    and f.part in ('flue', 'cap', 'connector', 'clean-out', 'damper', 'baffle', 'intake', 'draft', 'spill', 'hot-test'))
            order by v.planned_start
            """, new { flueVersionId, before })];
    }

    /// <summary>
    /// Saves a new version of a stove's flue and what stands around its house. Open visits take the new version; signed
    /// ones keep theirs. The same save sent twice is one.
    /// </summary>
    /// <param name="applianceId">The stove.</param>
    /// <param name="version">New content; <see cref="FlueVersion.Number"/> is the number it started from.</param>
    /// <param name="obstacles">What stands around.</param>
    /// <returns>What became of it, with the newest version.</returns>
    public async Task<SaveOutcome<FlueVersion>> SaveFlueAsync(Guid applianceId, FlueVersion version, IReadOnlyList<Obstacle> obstacles)
    {
        await using (var connection = await database.OpenConnectionAsync())
        await using (var transaction = await connection.BeginTransactionAsync())
        {
            // One save at a time per stove.
            var siteId = await connection.QuerySingleAsync<Guid>("select site_id from appliances where id = @applianceId for update", new { applianceId });
            var newest = await connection.QuerySingleOrDefaultAsync<(Guid Id, int Number)>(
                "select id, number from flue_versions where appliance_id = @applianceId order by number desc limit 1", new { applianceId });
            if (newest.Id != version.Id)
            {
                if (newest.Number != version.Number)
                    return new SaveOutcome<FlueVersion>(SaveState.Stale, await NewestFlueAsync(applianceId));
                await InsertFlueAsync(connection, applianceId, version with { Number = version.Number + 1 });
                await connection.ExecuteAsync("update visits set flue_version_id = @Id where appliance_id = @applianceId and state = 'open'", new { version.Id, applianceId });
                await connection.ExecuteAsync("delete from site_obstacles where site_id = @siteId", new { siteId });
                await connection.ExecuteAsync("""
                    insert into site_obstacles (site_id, position, name, across_m, width_m, top_m) values (@siteId, @position, @Name, @AcrossM, @WidthM, @TopM)
                    """, obstacles.Select((o, position) => new { siteId, position, o.Name, o.AcrossM, o.WidthM, o.TopM }));
                await transaction.CommitAsync();
            }
        }
        return new SaveOutcome<FlueVersion>(SaveState.Saved, await NewestFlueAsync(applianceId));
    }

    internal static async Task InsertFlueAsync(NpgsqlConnection connection, Guid applianceId, FlueVersion version)
    {
        await connection.ExecuteAsync("""
            insert into flue_versions (id, appliance_id, number, valid_from, cap, screen, stove_x_m)
            values (@Id, @applianceId, @Number, @ValidFrom, @Cap, @screen, @StoveXM)
            """, new { version.Id, applianceId, version.Number, version.ValidFrom, version.Flue.Cap, screen = version.Flue.Screen == true, version.StoveXM });
        await connection.ExecuteAsync("""
            insert into flue_segments (version_id, position, label, construction, diameter_m, width_m, depth_m, rise_m, length_m, surroundings,
                                       resistance_m2kw, roughness_mm, fittings, toward)
            values (@Id, @position, @Label, @Construction, @DiameterM, @WidthM, @DepthM, @RiseM, @LengthM, @Surroundings,
                    @ResistanceM2KW, @RoughnessMm, @fittings::jsonb, @toward)
            """, version.Flue.Segments!.Select((s, position) => new
        {
            version.Id,
            position,
            s.Label,
            s.Construction,
            s.Shape!.DiameterM,
            s.Shape.WidthM,
            s.Shape.DepthM,
            s.RiseM,
            s.LengthM,
            s.Surroundings,
            s.ResistanceM2KW,
            s.RoughnessMm,
            fittings = JsonSerializer.Serialize(s.Fittings ?? []),
            toward = s.Toward ?? "right",
        }));
    }

    private sealed record VersionRow(Guid Id, Guid ApplianceId, int Number, DateOnly ValidFrom, string Cap, bool Screen, double StoveXM);

    private sealed record SegmentRow(Guid VersionId, string Label, string Construction, double? DiameterM, double? WidthM, double? DepthM,
        double RiseM, double LengthM, string Surroundings, double? ResistanceM2kw, double? RoughnessMm, string Fittings, string Toward);

    private static async Task<Dictionary<Guid, FlueVersion>> FluesAsync(NpgsqlConnection connection, string where, Guid[] keys)
    {
        var versions = (await connection.QueryAsync<VersionRow>(
            $"select id, appliance_id, number, valid_from, cap, screen, stove_x_m from flue_versions where {where}", new { keys })).ToList();
        var segments = (await connection.QueryAsync<SegmentRow>("""
            select version_id, label, construction, diameter_m, width_m, depth_m, rise_m, length_m, surroundings,
                   resistance_m2kw, roughness_mm, fittings::text as fittings, toward
            from flue_segments where version_id = any(@ids) order by version_id, position
            """, new { ids = versions.Select(v => v.Id).ToArray() })).ToLookup(s => s.VersionId);
        return versions.ToDictionary(v => v.ApplianceId, v => new FlueVersion(v.Id, v.Number, v.ValidFrom, v.StoveXM,
            new FlueEntry([.. segments[v.Id].Select(Entry)], v.Cap, v.Screen)));
    }

    private static SegmentEntry Entry(SegmentRow row) => new(
        row.Label, row.Construction,
        row.DiameterM is { } diameter ? new ShapeEntry("round", diameter, null, null) : new ShapeEntry("rectangular", null, row.WidthM, row.DepthM),
        row.RiseM, row.LengthM, row.Surroundings, row.ResistanceM2kw, row.RoughnessMm,
        JsonSerializer.Deserialize<FittingEntry[]>(row.Fittings), 0, row.Toward);
}
