using Dapper;
using Grate.Core.Deposits;
using Npgsql;

namespace Grate.Store;

/// <summary>A sweep recorded at an earlier signed visit, with the wood recorded then, and whether it was of the flue that was asked for.</summary>
public sealed record SweepRow(DateTime At, string Record, string? Wood, bool ThisFlue);

/// <summary>Sweeps and wood, as recorded in visits.</summary>
public sealed class SweepStore(NpgsqlDataSource database)
{
    // A firm's habits change: only its newest visits of a kind are looked through.
    private const int LookBack = 300;

    /// <summary>Sweeps recorded at signed visits of a stove, oldest first.</summary>
    /// <param name="applianceId">The stove.</param>
    /// <param name="flueVersionId">The version of its flue that is asked for.</param>
    /// <param name="before">Only visits before this.</param>
    public async Task<IReadOnlyList<SweepRow>> OfStoveAsync(Guid applianceId, Guid flueVersionId, DateTime before)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<SweepRow>("""
            select v.planned_start as at, (s.entries->'record')::text as record, w.entries::text as wood, v.flue_version_id = @flueVersionId as this_flue
            from visits v
            join visit_steps s on s.visit_id = v.id and s.step = 'sweep'
            left join visit_steps w on w.visit_id = v.id and w.step = 'arrive'
            where v.appliance_id = @applianceId and v.state = 'signed' and v.planned_start < @before
              and jsonb_typeof(s.entries->'record') = 'object'
            order by v.planned_start
            """, new { applianceId, flueVersionId, before })];
    }

    /// <summary>The newest word on a stove's wood, of a signed visit or the one that starts at a moment; null if none was recorded.</summary>
    public async Task<string?> WoodAsync(Guid applianceId, DateTime until)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<string>("""
            select w.entries::text
            from visits v join visit_steps w on w.visit_id = v.id and w.step = 'arrive'
            where v.appliance_id = @applianceId and (v.planned_start = @until or v.state = 'signed' and v.planned_start < @until) and w.entries is not null
            order by v.planned_start desc limit 1
            """, new { applianceId, until });
    }

    /// <summary>The latest word on a stove's combustor, of the same visits; null if it was not looked at.</summary>
    public async Task<string?> CombustorAsync(Guid applianceId, DateTime until)
    {
        await using var connection = await database.OpenConnectionAsync();
        return await connection.QuerySingleOrDefaultAsync<string>("""
            select f.condition
            from visits v join findings f on f.visit_id = v.id and f.part = 'combustor'
            where v.appliance_id = @applianceId and (v.planned_start = @until or v.state = 'signed' and v.planned_start < @until)
            order by v.planned_start desc limit 1
            """, new { applianceId, until });
    }

    /// <summary>What this firm's newest timed sweeps of a kind of stove took; null where none was timed.</summary>
    public async Task<LearnedMinutes?> LearnedAsync(string kind, DateTime before)
    {
        await using var connection = await database.OpenConnectionAsync();
        var (median, visits) = await connection.QuerySingleAsync<(double?, int)>("""
            select percentile_cont(0.5) within group (order by (s.entries->'record'->>'minutes')::double precision), count(*)::int
            from (
                select v.id from visits v join appliances a on a.id = v.appliance_id
                where a.kind = @kind and v.state = 'signed' and v.planned_start < @before
                order by v.planned_start desc limit @LookBack) newest
            join visit_steps s on s.visit_id = newest.id and s.step = 'sweep'
            where jsonb_typeof(s.entries->'record'->'minutes') = 'number'
            """, new { kind, before, LookBack });
        return median is { } minutes ? new LearnedMinutes(minutes, visits) : null;
    }
}
