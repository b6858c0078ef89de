using System.Data;
using Dapper;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>Stations of visits: entries, conclusions, facts, and the stops that follow from their numbers.</summary>
public sealed class StationStore(NpgsqlDataSource database)
{
    private const string StationColumns = """
        select e.visit_id, e.step, e.station, e.schema, e.entry::text as entry, e.answer::text as answer, e.sentences::text as sentences, e.stop_code, e.stop_why,
               e.blocks_signing, e.rules_version, e.version, e.save_id, e.saved_at, p.name as saved_by
        from station_entries e join people p on p.id = e.saved_by
        """;

    /// <summary>Stations of visits as saved.</summary>
    public async Task<ILookup<Guid, StationRow>> OfAsync(params Guid[] visitIds)
    {
        await using var connection = await database.OpenConnectionAsync();
        return (await connection.QueryAsync<StationRow>($"{StationColumns} where e.visit_id = any(@visitIds)", new { visitIds })).ToLookup(s => s.VisitId);
    }

    /// <summary>
    /// Saves a station: entry, answer, facts and the stop that follows, in one transaction. The same save sent twice is one.
    /// </summary>
    /// <param name="station">New content; its version is the one it started from, 0 for none.</param>
    /// <param name="facts">Its facts.</param>
    /// <param name="by">Who saves.</param>
    /// <param name="at">When.</param>
    public Task<SaveOutcome<StationRow>> SaveAsync(StationRow station, IReadOnlyList<Fact> facts, Guid by, DateTimeOffset at) =>
        VisitSave.OfAsync(database, station.VisitId,
            c => c.QuerySingleOrDefaultAsync<StationRow>($"{StationColumns} where e.visit_id = @VisitId and e.step = @Step and e.station = @Station", station),
            station.Version, station.SaveId, s => s.Version, s => s.SaveId,
            async (connection, stored) =>
            {
                await WriteStationAsync(connection, station, facts, by, at);
                return (station with { Version = station.Version + 1 }, await FollowStopAsync(connection, station, stored, by, at));
            });

    /// <summary>Writes a station with its facts, without asking what was there.</summary>
    internal static async Task WriteStationAsync(IDbConnection connection, StationRow station, IReadOnlyList<Fact> facts, Guid by, DateTimeOffset at)
    {
        await connection.ExecuteAsync("""
            insert into station_entries (visit_id, step, station, schema, entry, answer, sentences, stop_code, stop_why, blocks_signing, rules_version, version, save_id, saved_at, saved_by)
            values (@VisitId, @Step, @Station, @Schema, @Entry::jsonb, @Answer::jsonb, @Sentences::jsonb, @StopCode, @StopWhy, @BlocksSigning, @RulesVersion, @Version + 1, @SaveId, @at, @by)
            on conflict (visit_id, step, station) do update set schema = excluded.schema, entry = excluded.entry, answer = excluded.answer, sentences = excluded.sentences,
                stop_code = excluded.stop_code, stop_why = excluded.stop_why, blocks_signing = excluded.blocks_signing, rules_version = excluded.rules_version,
                version = excluded.version, save_id = excluded.save_id, saved_at = excluded.saved_at, saved_by = excluded.saved_by
            """, new
        {
            station.VisitId,
            station.Step,
            station.Station,
            station.Schema,
            station.Entry,
            station.Answer,
            station.Sentences,
            station.StopCode,
            station.StopWhy,
            station.BlocksSigning,
            station.RulesVersion,
            station.Version,
            station.SaveId,
            at,
            by,
        });
        await WriteFactsAsync(connection, station, facts);
    }

    /// <summary>
    /// Keeps what an open visit's station comes to now, its entry being the same: version, time and author stay, so that nobody's
    /// next save is stale.
    /// </summary>
    /// <param name="station">The station with its new conclusion.</param>
    /// <param name="facts">Its facts.</param>
    /// <param name="by">Who changed what it rests on.</param>
    /// <param name="at">When.</param>
    public async Task ConcludeAgainAsync(StationRow station, IReadOnlyList<Fact> facts, Guid by, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        if (await VisitSave.LockAsync(connection, station.VisitId) == "signed")
            return;
        var stored = await connection.QuerySingleOrDefaultAsync<StationRow>($"{StationColumns} where e.visit_id = @VisitId and e.step = @Step and e.station = @Station", station);
        // Somebody saved it in between, on what it rests on now.
        if (stored?.SaveId != station.SaveId)
            return;
        await connection.ExecuteAsync("""
            update station_entries set schema = @Schema, entry = @Entry::jsonb, answer = @Answer::jsonb, sentences = @Sentences::jsonb, stop_code = @StopCode, stop_why = @StopWhy,
                blocks_signing = @BlocksSigning, rules_version = @RulesVersion
            where visit_id = @VisitId and step = @Step and station = @Station
            """, station);
        await WriteFactsAsync(connection, station, facts);
        await FollowStopAsync(connection, station, stored, by, at);
        await transaction.CommitAsync();
    }

    private static async Task WriteFactsAsync(IDbConnection connection, StationRow station, IReadOnlyList<Fact> facts)
    {
        await connection.ExecuteAsync("""
            with gone as (delete from station_facts where visit_id = @VisitId and step = @Step and station = @Station and name <> all(@names))
            insert into station_facts (visit_id, step, station, name, value, word)
            select @VisitId, @Step, @Station, f.name, f.value, f.word from unnest(@names, @values, @words) as f(name, value, word)
            on conflict (visit_id, step, station, name) do update set value = excluded.value, word = excluded.word
            """, new
        {
            station.VisitId,
            station.Step,
            station.Station,
            names = facts.Select(f => f.Name).ToArray(),
            values = facts.Select(f => f.Value).ToArray(),
            words = facts.Select(f => f.Word).ToArray(),
        });
    }

    // The stop follows what is stored: it comes when the numbers say so, goes when they no longer do, and stays cleared
    // while they are the same as when it was cleared.
    private static async Task<bool> FollowStopAsync(IDbConnection connection, StationRow station, StationRow? stored, Guid by, DateTimeOffset at)
    {
        if (station.StopCode == stored?.StopCode && station.StopWhy == stored?.StopWhy)
            return false;
        await connection.ExecuteAsync(station.StopCode is null
            ? "delete from safety_stops where visit_id = @VisitId and step = @Step and station = @Station and cleared_at is null"
            : """
                insert into safety_stops (id, appliance_id, visit_id, step, station, code, why, set_at, set_by)
                select @id, v.appliance_id, v.id, @Step, @Station, @StopCode, @StopWhy, @at, @by from visits v where v.id = @VisitId
                on conflict (visit_id, step, station) where station is not null and cleared_at is null do update set code = excluded.code, why = excluded.why
                """, new { id = Guid.CreateVersion7(), station.VisitId, station.Step, station.Station, station.StopCode, station.StopWhy, at, by });
        return true;
    }
}
