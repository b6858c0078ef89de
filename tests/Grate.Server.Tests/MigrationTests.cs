using System.Text.Json;
using DbUp;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>Migrations that move records: what was entered before must be found again.</summary>
public class MigrationTests
{
    private const string Visit = "01a21b50-0000-7000-8000-000000000001";

    // A visit as version 2 kept it: one kind of entry a step, the wood in the sweep, a stop by numbers as a finding.
    private const string AsItWas = $$$"""
        insert into firm (name, place, time_zone) values ('Firm', 'Place', 'Europe/Vienna');
        insert into people (id, email, normalized_email, name, role, security_stamp) values ('01a21b50-0000-7000-8000-00000000000a', 'a@b', 'A@B', 'Ida', 'technician', 'x');
        insert into customers (id, name) values ('01a21b50-0000-7000-8000-00000000000b', 'Household');
        insert into sites (id, customer_id, street, place, latitude, longitude, altitude_m, built_era, monthly_c, storey_names, storey_heights_m, house_width_m, roof_pitch_deg)
        values ('01a21b50-0000-7000-8000-00000000000c', '01a21b50-0000-7000-8000-00000000000b', 'Street', 'Place', 47, 10, 600, 'to-2005', '{-2,0,4,8,13,16,18,17,14,9,3,-1}', '{room}', '{2.6}', 8, 40);
        insert into appliances (id, site_id, kind, combustor, model, year, room, nominal_kw, collar_height_m)
        values ('01a21b50-0000-7000-8000-00000000000d', '01a21b50-0000-7000-8000-00000000000c', 'steel', false, 'Stove', 2005, 'room', 8, 0.8);
        insert into flue_versions values ('01a21b50-0000-7000-8000-00000000000e', '01a21b50-0000-7000-8000-00000000000d', 1, '2020-01-01', 'open', false, 2);
        insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings)
        values ('01a21b50-0000-7000-8000-00000000000e', 0, 'stack', 'insulated-50', 0.15, 6, 6, 'outdoor');
        insert into flue_versions values ('01a21b50-0000-7000-8000-00000000001e', '01a21b50-0000-7000-8000-00000000000d', 2, '2021-01-01', 'open', false, 2);
        insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings)
        select '01a21b50-0000-7000-8000-00000000001e', position, 'piece', 'insulated-50', 0.15, 2, 2, 'outdoor' from generate_series(0, 2) position;
        insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose)
        values ('{{{Visit}}}', '01a21b50-0000-7000-8000-00000000000d', '01a21b50-0000-7000-8000-00000000000e', '01a21b50-0000-7000-8000-00000000000a', '2025-10-08T07:00Z', '2025-10-08T08:30Z', 'yearly service');
        insert into visit_steps (visit_id, step, status, note, entries, computed, rules_version, version, save_id, saved_at, saved_by)
        select '{{{Visit}}}', s.step, 'done', s.note, s.entries::jsonb, s.computed::jsonb, case when s.computed is null then null else '2025' end, 1, gen_random_uuid(), '2025-10-08T08:00Z', '01a21b50-0000-7000-8000-00000000000a'
        from (values
            ('arrive', 'fire out', null, null),
            ('cold-checks', '', '{"outdoorC": 4, "roomOffPa": -1}', '[{"spans": [{"text": "Cold, it stands.", "kind": "words"}]}]'),
            ('sweep', '', '{"top": {"exposed": true}, "record": {"found": {"stack": {"stage": 2, "mm": 2, "worstMm": 2.4}}, "sweptL": 3, "leftMm": 0.2, "minutes": 60, "woodKgPerYear": 2400, "habit": "slow", "moistureWet": 0.21}}', '[{"spans": [{"text": "Swept.", "kind": "words"}]}]'),
            ('hot-test', '', '{"readings": [{"level": "normal", "draftPa": 18.5, "run": {"meanPa": 18.5, "minPa": 17, "maxPa": 20, "deviationPa": 0.4, "swingShare": 0.1, "count": 240, "unsteady": false}}], "coPpm": 40}', null)
        ) as s(step, note, entries, computed);
        insert into readings (visit_id, level, draft_pa, entered, computed, expected_pa, low_pa, high_pa, verdict, rules_version)
        values ('{{{Visit}}}', 'normal', 18.5, '{"level": "normal", "draftPa": 18.5}', '{"contributions": [{"input": "collar-gas", "sigmaPa": 1.2}, {"input": "house-pressure", "sigmaPa": 1.6}, {"input": "lengths", "sigmaPa": 9}]}', 19, 15, 23, 'as-expected', '2025');
        insert into findings (id, visit_id, part, condition, note, stop_code, version, save_id, saved_at, saved_by)
        values ('01a21b50-0000-7000-8000-0000000000f1', '{{{Visit}}}', 'hot-test', 'unsafe', '40 ppm of CO', 'room-co', 1, gen_random_uuid(), '2025-10-08T08:00Z', '01a21b50-0000-7000-8000-00000000000a'),
               ('01a21b50-0000-7000-8000-0000000000f2', '{{{Visit}}}', 'door-rope', 'wearing', '', null, 1, gen_random_uuid(), '2025-10-08T08:00Z', '01a21b50-0000-7000-8000-00000000000a');
        insert into safety_stops (id, appliance_id, visit_id, finding_id, code, set_at, set_by)
        values ('01a21b50-0000-7000-8000-0000000000f3', '01a21b50-0000-7000-8000-00000000000d', '{{{Visit}}}', '01a21b50-0000-7000-8000-0000000000f1', 'room-co', '2025-10-08T08:00Z', '01a21b50-0000-7000-8000-00000000000a');
        update visits set state = 'signed', signed_at = planned_end, signed_by = technician_id, next_inspection = '2026-10-08';
        """;

    private static async Task<NpgsqlDataSource> OldAsync()
    {
        var name = "t_" + Guid.NewGuid().ToString("N");
        GrateServer.Admin($"create database {name}");
        var connection = new NpgsqlConnectionStringBuilder(GrateServer.Owner) { Database = name }.ConnectionString;
        Assert.True(DeployChanges.To.PostgresqlDatabase(connection).WithTransactionPerScript().LogToNowhere()
            .WithScriptsEmbeddedInAssembly(typeof(Database).Assembly, script => string.CompareOrdinal(script, "Grate.Store.Migrations.003") < 0).Build().PerformUpgrade().Successful);
        var database = NpgsqlDataSource.Create(connection);
        await database.CreateCommand(AsItWas).ExecuteNonQueryAsync();
        // Twice: what was moved is not moved again.
        Database.Migrate(connection);
        Database.Migrate(connection);
        return database;
    }

    private static async Task<List<string>> ListAsync(NpgsqlDataSource database, string sql)
    {
        var rows = new List<string>();
        await using var reader = await database.CreateCommand(sql).ExecuteReaderAsync();
        while (await reader.ReadAsync())
            rows.Add(reader.GetString(0));
        return rows;
    }

    [Fact]
    public async Task Visit_of_the_second_version_is_found_again_station_by_station()
    {
        await using var database = await OldAsync();
        Assert.Equal(["cold-flue Cold, it stands.", "deposits Swept.", "hot-draft ", "top ", "wood "],
            await ListAsync(database, "select station || ' ' || coalesce(sentences->0->'spans'->0->>'text', '') from station_entries order by 1"));
        var wood = new WoodStation().Read((await ListAsync(database, "select entry::text from station_entries where station = 'wood'"))[0], 1);
        Assert.Equal((2400, "slow", 0.21), (wood.Amount, wood.Habit, wood.ToldMoistureWet));
        Assert.Equal(
        [
            "cold.outdoor-c 4", "cold.room-off-pa -1", "deposits.left-mm 0.2", "deposits.minutes 60", "deposits.stage.stack 2", "deposits.worst-mm 2.4", "hot.normal.draft-pa 18.5",
            "hot.normal.expected-pa 19", "hot.normal.high-pa 23", "hot.normal.low-pa 15", "hot.normal.verdict as-expected", "hot.normal.visit-sigma-pa 2", "top.bad yes", "wood.habit slow",
            "wood.kg-per-year 2400", "wood.moisture-wet 0.21",
        ], await ListAsync(database, "select name || ' ' || coalesce(word, round(value::numeric, 9)::float8::text) from station_facts order by name collate \"C\""));
        // The stop by numbers stands at its station; the mark of a part has its step; notes stay.
        Assert.Equal(["room-co hot-draft 40 ppm of CO"], await ListAsync(database, "select code || ' ' || station || ' ' || why from safety_stops where part is null"));
        Assert.Equal(["cold-checks door-rope"], await ListAsync(database, "select step || ' ' || part from findings"));
        Assert.Equal(["fire out"], await ListAsync(database, "select note from visit_steps where step = 'arrive'"));
        // Pieces that shared a name each have their own.
        Assert.Equal(["piece", "piece (2)", "piece (3)", "stack"], await ListAsync(database, "select label from flue_segments order by 1"));
        // Signed stays signed.
        foreach (var table in new[] { "station_entries", "station_facts", "findings", "visit_steps" })
            Assert.Equal(Database.SignedVisitState, (await Assert.ThrowsAsync<PostgresException>(() => database.CreateCommand($"delete from {table}").ExecuteNonQueryAsync())).SqlState);
    }

    // The run of a reading had another shape then: it is read in today's, and the record itself stays as it was written.
    [Fact]
    public async Task Entry_of_an_older_shape_is_read_in_todays()
    {
        await using var database = await OldAsync();
        var stored = (await ListAsync(database, "select entry::text from station_entries where station = 'hot-draft'"))[0];
        Assert.DoesNotContain("swingPa", stored, StringComparison.Ordinal);
        var test = new HotDraftStation().Read(stored, 1);
        Assert.Equal((18.5, 240, 0.1, false), (test.Readings[0].Run!.MeanPa, test.Readings[0].Run!.Count, test.Readings[0].Run!.SwingShare, test.Readings[0].Run!.Unsteady));
        Assert.Equal(1.85, test.Readings[0].Run!.SwingPa, 9);
        Assert.Equal(40, test.CoPpm);
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
            """, "visit_times_person_id");
    }
}
