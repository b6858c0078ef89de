using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>Safety stops of stoves. A stop is cleared, never edited.</summary>
public sealed class StopStore(NpgsqlDataSource database)
{
    /// <summary>Stops of a stove, the open ones first.</summary>
    public async Task<IReadOnlyList<StopRow>> OfStoveAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<StopRow>("""
            select t.id, t.appliance_id, t.visit_id, t.step, t.station, t.code, t.why, t.set_at, s.name as set_by,
                   t.cleared_at, c.name as cleared_by, t.cleared_what, t.cleared_retest
            from safety_stops t join people s on s.id = t.set_by left join people c on c.id = t.cleared_by
            where t.appliance_id = @applianceId
            order by t.cleared_at desc nulls first, t.set_at desc
            """, new { applianceId })];
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
}
