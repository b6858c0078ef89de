using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Flue;
using Npgsql;

namespace Grate.Store;

/// <summary>A stove in a list.</summary>
public sealed record StoveLine(
    Guid Id, Guid CustomerId, string Customer, string Street, string Place, string Kind, bool Combustor, string Model, int Year,
    string Room, DateTimeOffset? LastStart, DateOnly? NextInspection, int Stops);

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
        var values = new DynamicParameters(new { PageSize, offset });
        // A condition a word: of a list of patterns in one condition no index makes anything.
        var conditions = words.Select((w, i) => Like($"word{i}", w, values));
        return await FoundAsync(connection, $"select appliance_id, left(words, 100) as rank from stove_search {Where(conditions)} order by left(words, 100), appliance_id limit @PageSize offset @offset", values);
    }

    /// <summary>
    /// Stoves whose words come near every word of the search, as with a letter too many, too few, wrong or in the wrong place; the nearest
    /// first, one page of them. One such error leaves a half of a word as it is, or a third of a long one: by these the index finds what
    /// comes into question, and of at most a thousand the nearest are taken.
    /// </summary>
    /// <param name="words">Words in lower case, at least one.</param>
    public async Task<IReadOnlyList<StoveLine>> NearAsync(IReadOnlyList<string> words)
    {
        await using var connection = await database.OpenConnectionAsync();
        var values = new DynamicParameters(new { words = words.ToArray(), PageSize, Near, MostLookedAt });
        var conditions = words.Select((w, i) => w.Length < LeastToMistype ? Like($"word{i}", w, values)
            : $"({string.Join(" or ", Parts(w).Select((part, p) => Like($"word{i}part{p}", part, values)))})");
        return await FoundAsync(connection, $"""
            select appliance_id, to_char(1 - near, '0.000') || words as rank from (
                select appliance_id, words, (select min(word_similarity(w, words)) from unnest(@words) w) as near from (
                    select appliance_id, words from stove_search {Where(conditions)} limit @MostLookedAt) come) nearest
            where near >= @Near order by rank limit @PageSize
            """, values);
    }

    // Share of a word's threes of letters that have to be there: one wrong letter in six leaves about half of them.
    private const double Near = 0.45;

    /// <summary>Shortest word, letters, that is taken for a mistyped one.</summary>
    public const int LeastToMistype = 4;

    private const int LongWord = 9, MostLookedAt = 1000;

    private static IEnumerable<string> Parts(string word)
    {
        var parts = word.Length >= LongWord ? 3 : 2;
        return Enumerable.Range(0, parts).Select(p => word[(p * word.Length / parts)..((p + 1) * word.Length / parts)]);
    }

    private static string Where(IEnumerable<string> conditions) => conditions.ToList() is { Count: > 0 } some ? $"where {string.Join(" and ", some)}" : "";

    private static string Like(string name, string text, DynamicParameters values)
    {
        values.Add(name, $"%{text.Replace("\\", "\\\\").Replace("%", "\\%").Replace("_", "\\_")}%");
        return $"words like @{name}";
    }

    private static async Task<IReadOnlyList<StoveLine>> FoundAsync(NpgsqlConnection connection, string found, object values) =>
        [.. await connection.QueryAsync<StoveLine>($"""
            with found as ({found})
            select a.id, c.id as customer_id, c.name as customer, s.street, s.place, a.kind, a.combustor, a.model, a.year, a.room,
                   last.planned_start as last_start, last.next_inspection,
                   (select count(*)::int from safety_stops t where t.appliance_id = a.id and t.cleared_at is null) as stops
            from found f
            join appliances a on a.id = f.appliance_id
            join sites s on s.id = a.site_id
            join customers c on c.id = s.customer_id
            left join lateral (
                select v.planned_start, v.next_inspection from visits v
                where v.appliance_id = a.id and v.state = 'signed'
                order by v.planned_start desc limit 1) last on true
            order by f.rank, f.appliance_id
            """, values)];

    /// <summary>Whether there is such a stove.</summary>
    public async Task<bool> ExistsAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select 1 from appliances where id = @id)", new { id });
    }

    /// <summary>The newest version of a stove's flue.</summary>
    public async Task<FlueVersion?> NewestFlueAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await NewestFluesAsync(connection, [applianceId])).GetValueOrDefault(applianceId);
    }

    /// <summary>Who holds the open visit at a stove; null where none is open.</summary>
    public async Task<Technician?> HolderAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QueryFirstOrDefaultAsync<Technician>("""
            select p.id, p.name from visits v join people p on p.id = v.technician_id where v.appliance_id = @applianceId and v.state = 'open'
            """, new { applianceId });
    }

    /// <summary>Sets one measure of a stove's body beside those that are there, whoever else measures another at the same time.</summary>
    /// <param name="id">The stove.</param>
    /// <param name="change">The measures with the new one, from those that are there; null where it is refused.</param>
    /// <returns>Whether it was kept.</returns>
    public async Task<bool> MeasureAsync(Guid id, Func<StoveMeasures, StoveMeasures?> change)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        var kept = await connection.QuerySingleAsync<string>("select measures::text from appliances where id = @id for update", new { id });
        if (change(JsonSerializer.Deserialize(kept, CoreJson.Default.StoveMeasures)!) is not { } measures)
            return false;
        await connection.ExecuteAsync("update appliances set measures = @measures::jsonb where id = @id",
            new { id, measures = JsonSerializer.Serialize(measures, CoreJson.Default.StoveMeasures) });
        await transaction.CommitAsync();
        return true;
    }

    /// <summary>The newest flue of each stove, by stove.</summary>
    private static Task<Dictionary<Guid, FlueVersion>> NewestFluesAsync(NpgsqlConnection connection, Guid[] applianceIds) => FluesAsync(connection,
        "id in (select distinct on (appliance_id) id from flue_versions where appliance_id = any(@keys) order by appliance_id, number desc)", applianceIds);

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
            var siteId = await connection.QuerySingleAsync<Guid>("select site_id from appliances where id = @applianceId for no key update", new { applianceId });
            var newest = await connection.QuerySingleOrDefaultAsync<(Guid Id, int Number)>(
                "select id, number from flue_versions where appliance_id = @applianceId order by number desc limit 1", new { applianceId });
            if (newest.Id != version.Id)
            {
                if (newest.Number != version.Number)
                    return new SaveOutcome<FlueVersion>(SaveState.Stale, await NewestFlueAsync(applianceId));
                try
                {
                    await InsertFlueAsync(connection, applianceId, version with { Number = version.Number + 1 });
                }
                catch (PostgresException fault) when (fault is { SqlState: PostgresErrorCodes.UniqueViolation, ConstraintName: "flue_versions_pkey" })
                {
                    // The id is that of another version, here or elsewhere.
                    return new SaveOutcome<FlueVersion>(SaveState.Reused, null);
                }
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
                                       resistance_m2kw, roughness_mm, fittings, toward, id)
            values (@versionId, @position, @Label, @Construction, @DiameterM, @WidthM, @DepthM, @RiseM, @LengthM, @Surroundings,
                    @ResistanceM2KW, @RoughnessMm, @fittings::jsonb, @toward, @Id)
            """, version.Flue.Segments!.Select((s, position) => new
        {
            versionId = version.Id,
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
            fittings = JsonSerializer.Serialize([.. s.Fittings ?? []], CoreJson.Default.FittingEntryArray),
            toward = s.Toward ?? "right",
            s.Id,
        }));
    }

    private sealed record VersionRow(Guid Id, Guid ApplianceId, int Number, DateOnly ValidFrom, string Cap, bool Screen, double StoveXM);

    private sealed record SegmentRow(Guid VersionId, string Label, string Construction, double? DiameterM, double? WidthM, double? DepthM,
        double RiseM, double LengthM, string Surroundings, double? ResistanceM2kw, double? RoughnessMm, string Fittings, string Toward, string Id);

    private static async Task<Dictionary<Guid, FlueVersion>> FluesAsync(NpgsqlConnection connection, string where, Guid[] keys)
    {
        var versions = (await connection.QueryAsync<VersionRow>(
            $"select id, appliance_id, number, valid_from, cap, screen, stove_x_m from flue_versions where {where}", new { keys })).ToList();
        var segments = (await connection.QueryAsync<SegmentRow>("""
            select version_id, label, construction, diameter_m, width_m, depth_m, rise_m, length_m, surroundings,
                   resistance_m2kw, roughness_mm, fittings::text as fittings, toward, coalesce(id, label) as id
            from flue_segments where version_id = any(@ids) order by version_id, position
            """, new { ids = versions.Select(v => v.Id).ToArray() })).ToLookup(s => s.VersionId);
        return versions.ToDictionary(v => v.ApplianceId, v => new FlueVersion(v.Id, v.Number, v.ValidFrom, v.StoveXM,
            new FlueEntry([.. segments[v.Id].Select(Entry)], v.Cap, v.Screen)));
    }

    private static SegmentEntry Entry(SegmentRow row) => new(
        row.Label, row.Construction,
        row.DiameterM is { } diameter ? new ShapeEntry("round", diameter, null, null) : new ShapeEntry("rectangular", null, row.WidthM, row.DepthM),
        row.RiseM, row.LengthM, row.Surroundings, row.ResistanceM2kw, row.RoughnessMm,
        JsonSerializer.Deserialize(row.Fittings, CoreJson.Default.FittingEntryArray), 0, row.Toward, row.Id);
}
