using System.Data;
using Dapper;
using Grate.Core.Visits;
using Npgsql;

namespace Grate.Store;

/// <summary>What a stop rests on: the numbers of a station, or the mark of a part.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Step">Step.</param>
/// <param name="Station">Station; null where it is a mark.</param>
/// <param name="Part">Part; null where it is numbers.</param>
internal sealed record StopSource(Guid VisitId, string Step, string? Station, string? Part);

/// <summary>
/// Safety stops of stoves. Every opening is a row of its own that is never deleted; it ends by a re-test that passed, and a
/// stop that comes back is a new row that names the one before.
/// </summary>
public sealed class StopStore(NpgsqlDataSource database)
{
    internal const string StopColumns = """
        select t.id, t.appliance_id, t.visit_id, t.step, t.station, t.part, t.code, t.why, t.set_at, s.name as set_by,
               t.cleared_at, c.name as cleared_by, t.cleared_what, t.cleared_retest, t.opens_again
        from safety_stops t join people s on s.id = t.set_by left join people c on c.id = t.cleared_by
        """;

    /// <summary>Stops of a stove, the open ones first.</summary>
    public async Task<IReadOnlyList<StopRow>> OfStoveAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<StopRow>($"""
            {StopColumns} where t.appliance_id = @applianceId
            order by t.cleared_at desc nulls first, t.set_at desc
            """, new { applianceId })];
    }

    /// <summary>Who may clear an open stop: the technician of the visit that set it, and whoever holds an open visit at its stove; empty if there is no such stop.</summary>
    public async Task<IReadOnlyList<Guid>> HoldersAsync(Guid id)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Guid>("""
            select v.technician_id from safety_stops t join visits v on v.id = t.visit_id or (v.appliance_id = t.appliance_id and v.state = 'open')
            where t.id = @id and t.cleared_at is null
            """, new { id })];
    }

    /// <summary>Whether an open stop is a mark that somebody set since a moment; numbers are no mistake of a finger.</summary>
    public async Task<bool> SetTodayByAsync(Guid id, Guid by, DateTimeOffset since)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleAsync<bool>("select exists (select from safety_stops where id = @id and set_by = @by and set_at >= @since and part is not null and cleared_at is null)", new { id, by, since });
    }

    /// <summary>Clears a stop: who, when, what was done, and the re-test that passed.</summary>
    /// <returns>The stove it stood on; null if there is no such open stop.</returns>
    public async Task<Guid?> ClearAsync(Guid id, Guid by, DateTimeOffset at, string what, string retest)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<Guid?>("""
            update safety_stops set cleared_at = @at, cleared_by = @by, cleared_what = @what, cleared_retest = @retest
            where id = @id and cleared_at is null
            returning appliance_id
            """, new { id, by, at, what, retest });
    }

    /// <summary>Opens a stop where none of its kind stands there; where one does, it says what is the case now.</summary>
    /// <returns>Whether one was opened.</returns>
    internal static async Task<bool> OpenAsync(IDbConnection connection, StopSource source, ComputedStop stop, Guid by, DateTimeOffset at) =>
        await connection.QuerySingleAsync<bool>("""
            insert into safety_stops (id, appliance_id, visit_id, step, station, part, code, why, awaits, set_at, set_by, opens_again)
            select @id, v.appliance_id, v.id, @Step, @Station, @Part, @Code, @Why, @awaits, @at, @by,
                (select t.id from safety_stops t
                 where t.visit_id = v.id and t.step = @Step and t.station is not distinct from @Station and t.part is not distinct from @Part and t.code = @Code
                   and t.cleared_at is not null
                 order by t.set_at desc, t.id desc limit 1)
            from visits v where v.id = @VisitId
            on conflict (visit_id, step, station, part, code) where cleared_at is null do update
                set why = excluded.why, awaits = array(select unnest(safety_stops.awaits) union select unnest(excluded.awaits))
            returning id = @id
            """, new { id = Guid.CreateVersion7(), source.VisitId, source.Step, source.Station, source.Part, stop.Code, stop.Why, awaits = stop.Where ?? [stop.Code], by, at });

    /// <summary>Ends stops by numbers that have passed their re-tests, once everything that made them was measured again.</summary>
    /// <returns>Whether one ended.</returns>
    internal static async Task<bool> PassAsync(IDbConnection connection, StopSource source, IReadOnlyList<PassedRetest> passed, Guid by, DateTimeOffset at) =>
        (await connection.QueryAsync<bool>("""
            with left_over as (
                select t.id, p.what, array(select unnest(t.awaits) except select g.place from unnest(@codes, @places) as g(code, place) where g.code = t.code) as awaits
                from safety_stops t join (select r.code, string_agg(r.what, ' ') as what from unnest(@passed, @whats) as r(code, what) group by r.code) p on p.code = t.code
                where t.visit_id = @VisitId and t.step = @Step and t.station = @Station and t.cleared_at is null)
            update safety_stops t set awaits = l.awaits,
                cleared_at = case when l.awaits = '{}' then @at end, cleared_by = case when l.awaits = '{}' then @by end,
                cleared_what = case when l.awaits = '{}' then 'Measured again in the same visit.' end, cleared_retest = case when l.awaits = '{}' then l.what end
            from left_over l where t.id = l.id
            returning t.cleared_at is not null
            """, new
        {
            source.VisitId,
            source.Step,
            source.Station,
            passed = passed.Select(p => p.Code).ToArray(),
            whats = passed.Select(p => p.What).ToArray(),
            codes = passed.SelectMany(p => (p.Where ?? [p.Code]).Select(_ => p.Code)).ToArray(),
            places = passed.SelectMany(p => p.Where ?? [p.Code]).ToArray(),
            by,
            at,
        })).Contains(true);
}
