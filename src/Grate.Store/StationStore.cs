using System.Data;
using System.Text.Json;
using Dapper;
using Grate.Core;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>Stations of visits: entries, conclusions, facts, and the stops that follow from their numbers.</summary>
public sealed class StationStore(NpgsqlDataSource database)
{
    internal const string StationColumns = """
        select e.visit_id, e.step, e.station, e.schema, e.entry::text as entry, e.answer::text as answer, e.sentences::text as sentences, e.stops::text as stops,
               e.blocks_signing, e.rules_version, e.version, e.save_id, e.saved_at, p.name as saved_by
        from station_entries e join people p on p.id = e.saved_by
        """;

    // What a save leaves of a station's facts; stands after "with".
    private const string Facts = """
        gone as (delete from station_facts where visit_id = @VisitId and step = @Step and station = @Station and name <> all(@names))
        insert into station_facts (visit_id, step, station, name, value, word)
        select @VisitId, @Step, @Station, f.name, f.value, f.word from unnest(@names, @values, @words) as f(name, value, word)
        on conflict (visit_id, step, station, name) do update set value = excluded.value, word = excluded.word
        """;

    /// <summary>Stations of visits as saved.</summary>
    public async Task<ILookup<Guid, StationRow>> OfAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await OfAsync(connection, visitIds);
    }

    /// <summary>The same, in a transaction.</summary>
    public static async Task<ILookup<Guid, StationRow>> OfAsync(NpgsqlConnection connection, Guid[] visitIds) =>
        (await connection.QueryAsync<StationRow>($"{StationColumns} where e.visit_id = any(@visitIds)", new { visitIds })).ToLookup(s => s.VisitId);

    /// <summary>
    /// Saves a station: entry, answer, facts and the stops that follow, in one transaction. The same save sent twice is one.
    /// </summary>
    /// <param name="station">New content; its version is the one it started from, 0 for none.</param>
    /// <param name="kept">What it came to.</param>
    /// <param name="by">Who saves.</param>
    /// <param name="at">When.</param>
    public Task<SaveOutcome<StationRow>> SaveAsync(StationRow station, StationOutcome kept, Guid by, DateTimeOffset at) =>
        VisitSave.OfAsync(database, station.VisitId,
            c => c.QuerySingleOrDefaultAsync<StationRow>($"{StationColumns} where e.visit_id = @VisitId and e.step = @Step and e.station = @Station", station),
            station.Version, station.SaveId, s => s.Version, s => s.SaveId, s => SameJson(s.Entry, station.Entry),
            async (connection, stored) =>
            {
                await WriteStationAsync(connection, station, kept.Facts, by, at);
                return (station with { Version = station.Version + 1 }, await FollowStopsAsync(connection, station, stored, kept, by, at));
            });

    /// <summary>Writes a station with its facts, without asking what was there.</summary>
    internal static async Task WriteStationAsync(IDbConnection connection, StationRow station, IReadOnlyList<Fact> facts, Guid by, DateTimeOffset at)
    {
        await connection.ExecuteAsync($"""
            with kept as (
            insert into station_entries (visit_id, step, station, schema, entry, answer, sentences, stops, blocks_signing, rules_version, version, save_id, saved_at, saved_by)
            values (@VisitId, @Step, @Station, @Schema, @Entry::jsonb, @Answer::jsonb, @Sentences::jsonb, @Stops::jsonb, @BlocksSigning, @RulesVersion, @Version + 1, @SaveId, @at, @by)
            on conflict (visit_id, step, station) do update set schema = excluded.schema, entry = excluded.entry, answer = excluded.answer, sentences = excluded.sentences,
                stops = excluded.stops, blocks_signing = excluded.blocks_signing, rules_version = excluded.rules_version,
                version = excluded.version, save_id = excluded.save_id, saved_at = excluded.saved_at, saved_by = excluded.saved_by),
            {Facts}
            """, Values(station, facts, new { at, by }));
    }

    /// <summary>
    /// Keeps what an open visit's station comes to now, its entry being the same: version, time and author stay, so that nobody's
    /// next save is stale.
    /// </summary>
    /// <param name="station">The station with its new conclusion.</param>
    /// <param name="kept">What it comes to; null where its entry does not fit any more.</param>
    /// <param name="by">Who changed what it rests on.</param>
    /// <param name="at">When.</param>
    public async Task ConcludeAgainAsync(StationRow station, StationOutcome? kept, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await VisitSave.LockAsync(connection, station.VisitId) == "signed")
            return;
        var stored = await connection.QuerySingleOrDefaultAsync<StationRow>($"{StationColumns} where e.visit_id = @VisitId and e.step = @Step and e.station = @Station", station);
        // Somebody saved it in between, on what it rests on now.
        if (stored?.SaveId != station.SaveId)
            return;
        await connection.ExecuteAsync($"""
            with kept as (
            update station_entries set schema = @Schema, entry = @Entry::jsonb, answer = @Answer::jsonb, sentences = @Sentences::jsonb, stops = @Stops::jsonb,
                blocks_signing = @BlocksSigning, rules_version = @RulesVersion
            where visit_id = @VisitId and step = @Step and station = @Station),
            {Facts}
            """, Values(station, kept?.Facts ?? []));
        if (kept is not null)
            await FollowStopsAsync(connection, station, stored, kept, by, at);
        await transaction.CommitAsync();
    }

    private static DynamicParameters Values(StationRow station, IReadOnlyList<Fact> facts, object? others = null)
    {
        var values = new DynamicParameters(others);
        values.AddDynamicParams(station);
        values.AddDynamicParams(new { names = facts.Select(f => f.Name).ToArray(), values = facts.Select(f => f.Value).ToArray(), words = facts.Select(f => f.Word).ToArray() });
        return values;
    }

    // Stops follow what is stored: one comes when the numbers say so and did not before, and ends when they say that its
    // re-test has passed. One that was cleared stays so while the numbers are the same.
    private static async Task<bool> FollowStopsAsync(IDbConnection connection, StationRow station, StationRow? stored, StationOutcome kept, Guid by, DateTimeOffset at)
    {
        var source = new StopSource(station.VisitId, station.Step, station.Station, null);
        var before = stored is null ? [] : JsonSerializer.Deserialize(stored.Stops, CoreJson.Default.ComputedStopArray)!;
        var changed = false;
        foreach (var stop in kept.Stops.ExceptBy(before.Select(b => (b.Code, b.Why)), s => (s.Code, s.Why)))
            changed |= await StopStore.OpenAsync(connection, source, stop, by, at);
        if (kept.Passed.Count > 0)
            changed |= await StopStore.PassAsync(connection, source, kept.Passed, by, at);
        return changed;
    }

    private static bool SameJson(string one, string other)
    {
        using var a = JsonDocument.Parse(one);
        using var b = JsonDocument.Parse(other);
        return JsonElement.DeepEquals(a.RootElement, b.RootElement);
    }
}
