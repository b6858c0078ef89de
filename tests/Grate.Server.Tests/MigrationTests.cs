using System.Text.Json;
using Grate.Core.Fuel;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>Migrations that move records: what was entered before must be found again.</summary>
public class MigrationTests
{
    private static string Script(string name)
    {
        var assembly = typeof(Database).Assembly;
        using var reader = new StreamReader(assembly.GetManifestResourceStream(assembly.GetManifestResourceNames().Single(n => n.EndsWith(name, StringComparison.Ordinal)))!);
        return reader.ReadToEnd();
    }

    // Up to version 2 the wood stood in the sweep's record; signed visits had it there too.
    private const string AsItWas = """
        alter table visit_steps disable trigger signed_step;
        update visit_steps set entries = null where step = 'arrive';
        update visit_steps set entries = jsonb_set(entries, '{record}', entries->'record' || '{"woodKgPerYear": 2400, "habit": "slow", "moistureWet": 0.21}')
        where step = 'sweep';
        alter table visit_steps enable trigger signed_step;
        """;

    [Fact]
    public async Task Wood_moves_from_the_sweep_to_the_arrival_and_signed_visits_stay_guarded()
    {
        await using var server = new GrateServer();
        var client = await server.SignedInAsync("owner");
        await using var database = NpgsqlDataSource.Create(server.ConnectionString);
        await database.CreateCommand(AsItWas).ExecuteNonQueryAsync();
        var sweeps = await server.ScalarAsync<long>("select count(*) from visit_steps where step = 'sweep' and entries->'record'->>'habit' = 'slow'");
        Assert.True(sweeps > 100);
        // Run twice: what was moved is not moved again.
        for (var i = 0; i < 2; i++)
            await database.CreateCommand(Script("003_wood.sql")).ExecuteNonQueryAsync();

        var moved = await server.ScalarAsync<string>("select distinct entries::text from visit_steps where step = 'arrive' and entries is not null");
        var wood = JsonSerializer.Deserialize<WoodRecord>(moved, Json.Options)!;
        Assert.Equal((2400, "slow", 0.21), (wood.Amount, wood.Habit, wood.ToldMoistureWet));
        Assert.Equal(sweeps, await server.ScalarAsync<long>("select count(*) from visit_steps where step = 'arrive' and entries is not null"));
        Assert.Equal(0, await server.ScalarAsync<long>("select count(*) from visit_steps where step = 'sweep' and entries->'record' ?| array['woodKgPerYear', 'habit', 'moistureWet']"));
        // The household's forecast rests on it.
        var visit = await client.VisitAsync(0);
        var rate = (await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sweep", new { })).GetProperty("whatIfs").EnumerateArray().Single(w => w.Text("code") == "hotter-fires");
        Assert.InRange(rate.Number("rateFactor"), 0.01, 0.6 / 2.2 + 0.01);
        var fault = await Assert.ThrowsAsync<PostgresException>(() => database.CreateCommand("update visit_steps set note = 'changed' where step = 'sweep'").ExecuteNonQueryAsync());
        Assert.Equal(Database.SignedVisitState, fault.SqlState);
    }

    [Fact]
    public async Task Schema_holds_what_the_rules_promise()
    {
        await using var server = new GrateServer();
        await server.SignedInAsync("office");
        await using var database = NpgsqlDataSource.Create(server.ConnectionString);
        async Task RefusedAsync(string sql, string constraint)
        {
            var fault = await Assert.ThrowsAsync<PostgresException>(() => database.CreateCommand(sql).ExecuteNonQueryAsync());
            Assert.StartsWith(constraint, fault.ConstraintName, StringComparison.Ordinal);
        }
        await RefusedAsync("update due_visits set latest = earliest - 1", "due_visits_check");
        await RefusedAsync("update due_visits set minutes = 0", "due_visits_minutes_check");
        await RefusedAsync("update firm set service_hours_week = 200", "firm_service_hours_week_check");
        await RefusedAsync("insert into calendar_feeds (id, secret_hash, created_at, created_by) select gen_random_uuid(), 'short', now(), id from people limit 1", "calendar_feeds_secret_hash_check");
        // A second open visit of a technician at the same time is a double booking.
        await RefusedAsync("""
            insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose)
            select gen_random_uuid(), appliance_id, flue_version_id, technician_id, planned_start + interval '10 minutes', planned_end, purpose from visits where state = 'open' limit 1
            """, "visits_technician_id");
    }
}
