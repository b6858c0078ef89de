using System.Text.Json;
using Dapper;
using Grate.Core.Flue;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove in a list.</summary>
public sealed record StoveLine(
    Guid Id, string Customer, string Street, string Place, string Kind, bool Combustor, string Model, int Year,
    string Room, DateOnly? LastVisit, DateOnly? NextInspection, int Stops);

/// <summary>Where a stove stands and what it is. Units stand in the names.</summary>
public sealed record Stove(
    Guid Id, string Customer, string Phone, string Email, string Note, string Street, string Place, double Latitude, double Longitude,
    double AltitudeM, double? HouseVolumeM3, double? Ach50, string? BuiltEra, double[] MonthlyC,
    string[] StoreyNames, double[] StoreyHeightsM, double HouseWidthM, double RoofPitchDeg,
    string Kind, bool Combustor, string Model, int Year, string Room, double NominalKw,
    double? LabelMinPa, double? LabelMaxPa, double CollarHeightM);

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

    /// <summary>A stove, or null.</summary>
    public async Task<Stove?> FindAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Stove>("""
            select a.id, c.name as customer, c.phone, c.email, c.note, s.street, s.place, s.latitude, s.longitude,
                   s.altitude_m, s.house_volume_m3, s.ach50, s.built_era, s.monthly_c,
                   s.storey_names, s.storey_heights_m, s.house_width_m, s.roof_pitch_deg,
                   a.kind, a.combustor, a.model, a.year, a.room, a.nominal_kw,
                   a.label_min_pa, a.label_max_pa, a.collar_height_m
            from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id
            where a.id = @id
            """, new { id });
    }

    /// <summary>The newest version of a stove's flue.</summary>
    public Task<FlueVersion?> NewestFlueAsync(Guid applianceId) =>
        FlueAsync("appliance_id = @key order by number desc limit 1", applianceId);

    /// <summary>A version of a flue.</summary>
    public Task<FlueVersion?> FlueAsync(Guid versionId) => FlueAsync("id = @key", versionId);

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

    private sealed record VersionRow(Guid Id, int Number, DateOnly ValidFrom, string Cap, bool Screen, double StoveXM);

    private sealed record SegmentRow(string Label, string Construction, double? DiameterM, double? WidthM, double? DepthM,
        double RiseM, double LengthM, string Surroundings, double? ResistanceM2kw, double? RoughnessMm, string Fittings);

    private async Task<FlueVersion?> FlueAsync(string where, Guid key)
    {
        await using var connection = await database.OpenConnectionAsync();
        var version = await connection.QuerySingleOrDefaultAsync<VersionRow>(
            $"select id, number, valid_from, cap, screen, stove_x_m from flue_versions where {where}", new { key });
        if (version is null)
            return null;
        var segments = await connection.QueryAsync<SegmentRow>("""
            select label, construction, diameter_m, width_m, depth_m, rise_m, length_m, surroundings,
                   resistance_m2kw, roughness_mm, fittings::text as fittings
            from flue_segments where version_id = @Id order by position
            """, version);
        return new FlueVersion(version.Id, version.Number, version.ValidFrom, version.StoveXM,
            new FlueEntry([.. segments.Select(Entry)], version.Cap, version.Screen));
    }

    private static SegmentEntry Entry(SegmentRow row) => new(
        row.Label, row.Construction,
        row.DiameterM is { } diameter ? new ShapeEntry("round", diameter, null, null) : new ShapeEntry("rectangular", null, row.WidthM, row.DepthM),
        row.RiseM, row.LengthM, row.Surroundings, row.ResistanceM2kw, row.RoughnessMm,
        JsonSerializer.Deserialize<FittingEntry[]>(row.Fittings), 0);
}
