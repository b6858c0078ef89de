using Dapper;
using Npgsql;

namespace Grate.Store;

/// <summary>A due visit of a stove.</summary>
public sealed record DueVisitRow(Guid ApplianceId, int Number, DateOnly Earliest, DateOnly ByDay, DateOnly Latest, bool Urgent, int Minutes, string[] Kinds, string Tasks);

/// <summary>What is due for a stove: how much wood it burns, what it wants from the stock (JSON), and its visits.</summary>
public sealed record DueStoveRow(Guid ApplianceId, double WoodKg, string Wants, IReadOnlyList<DueVisitRow> Visits);

/// <summary>A stove for which nothing could be computed.</summary>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Model">Its model.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Since">Since when.</param>
/// <param name="Reason">What the program said, for whoever mends it.</param>
public sealed record DueFault(Guid ApplianceId, string Model, string Street, string Place, DateTimeOffset Since, string Reason);

/// <summary>What is due: reading what it rests on, and keeping what was computed.</summary>
public sealed class DueStore(NpgsqlDataSource database)
{
    // Any number serves, as long as nothing else locks on it.
    private const long NightlyLock = 7_236_481_002;

    /// <summary>The next stoves in order of their ids.</summary>
    /// <param name="after">The last one of the batch before; empty for the first.</param>
    /// <param name="count">How many.</param>
    public async Task<Guid[]> NextAsync(Guid after, int count)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<Guid>("select id from appliances where id > @after and out_at is null order by id limit @count", new { after, count })];
    }

    /// <summary>Stoves for which nothing could be computed, by place.</summary>
    public async Task<IReadOnlyList<DueFault>> FaultsAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<DueFault>("""
            select f.appliance_id, a.model, s.street, s.place, f.since, f.reason
            from due_faults f join appliances a on a.id = f.appliance_id join sites s on s.id = a.site_id order by s.place, s.street limit 50
            """)];
    }

    /// <summary>Keeps that nothing could be computed for a stove; it goes with the next time that it can.</summary>
    public async Task FaultAsync(Guid applianceId, string reason, DateTimeOffset at)
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("""
            insert into due_faults (appliance_id, since, reason) values (@applianceId, @at, @reason)
            on conflict (appliance_id) do update set reason = excluded.reason
            """, new { applianceId, reason, at });
    }

    /// <summary>Keeps what was computed, in one transaction; where a later look at a stove was kept already, that one stays.</summary>
    /// <param name="readAt">When the records behind it were read.</param>
    /// <param name="stoves">What is due.</param>
    /// <param name="rulesVersion">Version of the rules.</param>
    public async Task KeepAsync(DateTimeOffset readAt, IReadOnlyList<DueStoveRow> stoves, string rulesVersion)
    {
        await using var connection = await database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        // In one order everywhere, so that two servers never wait for each other.
        var ordered = stoves.OrderBy(s => s.ApplianceId).ToList();
        var kept = (await connection.QueryAsync<Guid>("""
            insert into due_stoves (appliance_id, read_at, wood_kg, wants, rules_version)
            select t.id, @readAt, wood, wants::jsonb, @rulesVersion from unnest(@ids, @woods, @wants) as t(id, wood, wants) join appliances a on a.id = t.id and a.out_at is null
            on conflict (appliance_id) do update set read_at = excluded.read_at, wood_kg = excluded.wood_kg, wants = excluded.wants, rules_version = excluded.rules_version
                where due_stoves.read_at <= excluded.read_at
            returning appliance_id
            """, new { readAt, rulesVersion, ids = ordered.Select(s => s.ApplianceId).ToArray(), woods = ordered.Select(s => s.WoodKg).ToArray(), wants = ordered.Select(s => s.Wants).ToArray() })).ToHashSet();
        // A statement of its own: in one with the lines above it would not see what another server wrote while they waited for it.
        await connection.ExecuteAsync("with mended as (delete from due_faults where appliance_id = any(@kept)) delete from due_visits where appliance_id = any(@kept)", new { kept = kept.ToArray() });
        await using (var copy = await connection.BeginBinaryImportAsync(
            "copy due_visits (appliance_id, number, earliest, by_day, latest, urgent, minutes, kinds, tasks) from stdin (format binary)"))
        {
            foreach (var visit in ordered.Where(s => kept.Contains(s.ApplianceId)).SelectMany(s => s.Visits))
            {
                await copy.StartRowAsync();
                await copy.WriteAsync(visit.ApplianceId);
                await copy.WriteAsync(visit.Number);
                await copy.WriteAsync(visit.Earliest);
                await copy.WriteAsync(visit.ByDay);
                await copy.WriteAsync(visit.Latest);
                await copy.WriteAsync(visit.Urgent);
                await copy.WriteAsync(visit.Minutes);
                await copy.WriteAsync(visit.Kinds);
                await copy.WriteAsync(visit.Tasks, NpgsqlTypes.NpgsqlDbType.Jsonb);
            }
            await copy.CompleteAsync();
        }
        await transaction.CommitAsync();
    }

    /// <summary>Tasks of a stove's due visits, in order of time, planned or not.</summary>
    public async Task<IReadOnlyList<string>> TasksAsync(Guid applianceId)
    {
        await using var connection = await database.OpenConnectionAsync();
        return [.. await connection.QueryAsync<string>("select tasks::text from due_visits where appliance_id = @applianceId order by number", new { applianceId })];
    }

    /// <summary>What was computed today is computed again.</summary>
    public async Task AgainAsync()
    {
        await using var connection = await database.OpenConnectionAsync();
        await connection.ExecuteAsync("update due_runs set finished_at = null, asked_again = asked_again + 1 where day = (select max(day) from due_runs)");
    }

    /// <summary>
    /// Runs a night's work if it was not done yet and no other server is at it. A run that broke off is made again.
    /// </summary>
    /// <param name="day">The day at the firm's place.</param>
    /// <param name="run">The work; returns how many stoves it saw.</param>
    /// <returns>Stoves seen, or null where there was nothing to do.</returns>
    public async Task<int?> OnceADayAsync(DateOnly day, Func<Task<int>> run)
    {
        // The lock goes with its connection, and with that the server that dies.
        await using var connection = await database.OpenConnectionAsync();
        if (!await connection.QuerySingleAsync<bool>("select pg_try_advisory_lock(@NightlyLock)", new { NightlyLock }))
            return null;
        try
        {
            if (await connection.QuerySingleAsync<bool>("select exists (select 1 from due_runs where day = @day and finished_at is not null)", new { day }))
                return null;
            int stoves;
            bool done;
            do
            {
                var asked = await connection.QuerySingleAsync<int>("""
                    insert into due_runs (day, started_at) values (@day, clock_timestamp())
                    on conflict (day) do update set started_at = excluded.started_at returning asked_again
                    """, new { day });
                stoves = await run();
                // What was asked for once more while it went on is done once more: it began from the ways of before.
                done = await connection.ExecuteAsync("update due_runs set finished_at = clock_timestamp(), stoves = @stoves where day = @day and asked_again = @asked", new { day, stoves, asked }) == 1;
            }
            while (!done);
            return stoves;
        }
        finally
        {
            await connection.ExecuteAsync("select pg_advisory_unlock(@NightlyLock)", new { NightlyLock });
        }
    }
}
