using System.Net;
using System.Text.Json;
using Grate.Store.Demo;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>Demo data, search, constraints, and a database that goes away.</summary>
[Collection(nameof(OneServer))]
public class RecordsTests(GrateServer server)
{
    [Fact]
    public async Task Demo_valley_is_as_wide_as_promised()
    {
        Assert.True(await server.ScalarAsync<long>("select count(*) from customers") >= 30);
        Assert.Equal(36, await server.ScalarAsync<long>("select count(*) from appliances"));
        Assert.Equal(7, await server.ScalarAsync<long>("select count(distinct kind) from appliances"));
        Assert.Equal(2, await server.ScalarAsync<long>("select count(distinct combustor) from appliances"));
        Assert.Equal(3, await server.ScalarAsync<long>("select count(*) from people where role = 'technician'"));
        Assert.Equal(144, await server.ScalarAsync<long>("select count(*) from visits where state = 'signed' and planned_start < '2027-10-12'"));
        Assert.True(await server.ScalarAsync<long>("select count(*) from flue_segments where fittings @> '[\"butterfly-open\"]'") >= 1);
        Assert.True(await server.ScalarAsync<long>("""
            select count(*) from flue_segments s join flue_versions v on v.id = s.version_id join appliances a on a.id = v.appliance_id
            where a.kind = 'cookstove' and s.fittings = '["elbow-90", "elbow-90", "elbow-90"]'
            """) >= 1);
        foreach (var construction in new[] { "single-wall-steel", "clay-in-masonry", "steel-liner-insulated", "brick-unlined" })
            Assert.True(await server.ScalarAsync<long>($"select count(*) from flue_segments where construction = '{construction}'") > 0, construction);
    }

    [Fact]
    public async Task Demo_histories_make_sense()
    {
        // Faulty years read below their band; sound years mostly within it.
        Assert.True(await server.ScalarAsync<long>("""
            select count(*) from station_facts r join findings f on f.visit_id = r.visit_id
            where f.part = 'cap' and f.condition = 'spent' and r.name like 'hot.%.verdict' and r.word = 'below-expected'
            """) >= 2);
        Assert.True(await server.ScalarAsync<double>("""
            select avg((r.word like 'as-expected%')::int)::float8 from station_facts r join visits v on v.id = r.visit_id and v.state = 'signed'
            where r.name like 'hot.%.verdict'
              and not exists (select 1 from findings f where f.visit_id = r.visit_id and f.condition in ('spent', 'unsafe') and f.part <> 'door-rope')
            """) > 0.9);
        Assert.True(await server.ScalarAsync<long>("select count(*) from safety_stops where cleared_at is null") >= 2);
    }

    [Fact]
    public async Task Round_is_dated_today_and_follows_the_date()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("owner");
        var today = await client.ReadAsync("/api/today");
        var day = DateOnly.Parse(today.Text("day"));
        Assert.Equal(12, today.GetProperty("stops").GetArrayLength());
        Assert.Equal(6, today.GetProperty("tomorrow").GetArrayLength());
        await using var database = NpgsqlDataSource.Create(own.ConnectionString);
        var firm = await own.Services.GetRequiredService<Store.FirmStore>().GetAsync();
        Task<long> OpenOnAsync(DateOnly on) => own.ScalarAsync<long>($"select count(*) from visits where state = 'open' and (planned_start at time zone 'Europe/Vienna')::date = '{on:yyyy-MM-dd}'");
        // A day goes by, then a week: both rounds move on, none meets another.
        foreach (var later in new[] { 1, 8 })
        {
            await new DemoRound(database, firm).KeepTodayAsync(day.AddDays(later));
            Assert.Equal((12, 6), (await OpenOnAsync(day.AddDays(later)), await OpenOnAsync(day.AddDays(later + 1))));
        }
        Assert.Equal(18, await own.ScalarAsync<long>("select count(*) from visits where state = 'open'"));
        Assert.Equal(0, (await client.ReadAsync("/api/today")).GetProperty("stops").GetArrayLength());
    }

    [Fact]
    public async Task Technician_sees_the_own_round_with_what_it_needs()
    {
        var client = await server.SignedInAsync("technician");
        var stops = (await client.ReadAsync("/api/today?units=us")).GetProperty("stops");
        Assert.Equal(4, stops.GetArrayLength());
        Assert.All(stops.EnumerateArray(), s => Assert.Equal("Ida Varnholt", s.Text("stop", "technician")));
        Assert.Contains("rods", stops[0].Text("fromTheVan"), StringComparison.Ordinal);
        Assert.EndsWith("in w.c.", stops[0].Text("expectedDraft"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("anwick", 1)]
    [InlineData("COOKSTOVE", 1)]
    [InlineData("high fernby", 1)]
    [InlineData("green fernby", 1)]
    [InlineData("combustor", 1)]
    [InlineData("nowhere", 0)]
    [InlineData("100%_\\", 0)]
    public async Task Search_finds_by_name_place_kind_and_model(string words, int atLeast)
    {
        var client = await server.SignedInAsync("office");
        var found = (await client.ReadAsync($"/api/stoves?q={Uri.EscapeDataString(words)}")).GetProperty("stoves");
        if (atLeast == 0)
            Assert.Equal(0, found.GetArrayLength());
        else
            Assert.True(found.GetArrayLength() >= atLeast && found.GetArrayLength() < 36);
    }

    [Fact]
    public async Task Search_finds_a_telephone_number_however_it_is_written()
    {
        var phone = await server.ScalarAsync<string>("select phone from customers where phone <> '' order by name limit 1");
        var client = await server.SignedInAsync("office");
        foreach (var typed in new[] { phone, string.Concat(phone.Where(char.IsAsciiDigit)), phone.Replace(' ', '-') })
            Assert.InRange((await client.ReadAsync($"/api/stoves?q={Uri.EscapeDataString(typed)}")).GetProperty("stoves").GetArrayLength(), 1, 3);
    }

    [Fact]
    public async Task Search_is_limited()
    {
        var client = await server.SignedInAsync("office");
        Assert.Equal(36, (await client.ReadAsync("/api/stoves")).GetProperty("stoves").GetArrayLength());
        await client.ReadAsync($"/api/stoves?q={new string('x', 101)}", HttpStatusCode.BadRequest);
        await client.ReadAsync("/api/stoves?offset=-1", HttpStatusCode.BadRequest);
        await client.ReadAsync($"/api/stoves/{Guid.CreateVersion7()}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Search_words_follow_a_renamed_household()
    {
        await server.ScalarAsync<string>("update customers set name = 'Zirbel household' where name = 'Hask household' returning name");
        var client = await server.SignedInAsync("office");
        Assert.NotEqual(0, (await client.ReadAsync("/api/stoves?q=zirbel")).GetProperty("stoves").GetArrayLength());
        Assert.Equal(0, (await client.ReadAsync("/api/stoves?q=hask")).GetProperty("stoves").GetArrayLength());
    }

    private const string NewPiece = """
        with version as (insert into flue_versions select gen_random_uuid(), id, 99, '2027-10-13', 'open', false, 2 from appliances limit 1 returning id)
        insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings) select id, 0, 'odd', 'insulated-50',
        """ + " ";

    [Theory]
    [InlineData("insert into visits select gen_random_uuid(), appliance_id, flue_version_id, technician_id, planned_start, planned_end, 'double' from visits where state = 'open' limit 1 returning 1", "23P01")]
    [InlineData(NewPiece + "0.15, 2, 1, 'outdoor' from version returning 1", "23514")]
    [InlineData(NewPiece + "6, 1, 2, 'outdoor' from version returning 1", "23514")]
    [InlineData("update appliances set label_max_pa = label_min_pa where label_min_pa is not null returning 1", "23514")]
    [InlineData("update safety_stops set cleared_at = now() returning 1", "23514")]
    public async Task Database_refuses_what_cannot_be(string sql, string state) =>
        Assert.Equal(state, (await Assert.ThrowsAsync<PostgresException>(() => server.ScalarAsync<int>(sql))).SqlState);

    [Fact]
    public async Task Database_away_is_told_and_recovered_from()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        own.DatabaseDown(true);
        var problem = await client.ReadAsync("/api/today", HttpStatusCode.ServiceUnavailable);
        Assert.StartsWith("The database does not answer", problem.Text("title"), StringComparison.Ordinal);
        own.DatabaseDown(false);
        Assert.Equal(4, (await client.ReadAsync("/api/today")).GetProperty("stops").GetArrayLength());
    }

    [Fact]
    public async Task A_field_of_one_line_takes_one_and_an_id_is_a_UUIDv7()
    {
        await using var own = new GrateServer();
        var owner = await own.SignedInAsync("owner");
        var id = await own.ScalarAsync<Guid>("select id from customers order by name limit 1");
        var version = await own.ScalarAsync<int>($"select version from customers where id = '{id}'");
        var refused = await owner.SendAsync(HttpMethod.Put, $"/api/households/{id}", new { baseVersion = version, customer = new { id, name = "Two\nlines", phone = "0555\r\n1" } }, HttpStatusCode.BadRequest);
        Assert.Equal(["name", "phone"], refused.GetProperty("errors").EnumerateObject().Select(e => e.Name).Order(StringComparer.Ordinal));
        var signed = await own.ScalarAsync<Guid>("select id from visits where state = 'signed' limit 1");
        await owner.SendAsync(HttpMethod.Post, $"/api/visits/{signed}/additions", new { id = Guid.NewGuid(), text = "seen later" }, HttpStatusCode.BadRequest);
        await owner.SendAsync(HttpMethod.Post, $"/api/visits/{signed}/additions", new { id = Guid.CreateVersion7(), text = "seen later" }, HttpStatusCode.NoContent);
    }

    // The state that PostgreSQL tells with, thrown where it would be: no test fills a disk.
    [Fact]
    public async Task A_full_disk_is_told_as_such()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        await own.ScalarAsync<int>("""
            create function no_room() returns trigger language plpgsql as $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$;
            create trigger no_room before insert on findings execute function no_room();
            select 1
            """);
        var problem = await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"), HttpStatusCode.InsufficientStorage);
        Assert.StartsWith("The disk of the database is full: nothing was saved.", problem.Text("title"), StringComparison.Ordinal);
        await own.ScalarAsync<int>("drop trigger no_room on findings; select 1");
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"));
    }

    [Fact]
    public async Task Unknown_addresses_are_told()
    {
        foreach (var method in new[] { HttpMethod.Get, HttpMethod.Post, HttpMethod.Put, HttpMethod.Delete, HttpMethod.Patch })
        {
            var problem = await server.CreateClient().SendAsync(method, "/api/nothing/here", new { }, HttpStatusCode.NotFound);
            Assert.Equal("There is no such address.", problem.Text("title"));
        }
    }

    [Fact]
    public async Task Changed_flue_is_a_new_version_and_the_visit_keeps_its_own()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.ReadAsync($"/api/visits/{await client.VisitAsync(0)}");
        var stove = visit.Text("stove", "id");
        await own.ScalarAsync<int>($"""
            with version as (insert into flue_versions values (gen_random_uuid(), '{stove}', 2, '2027-10-13', 'open', false, 2) returning id)
            insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings)
            select id, 0, 'short', 'insulated-50', 0.15, 3, 3, 'outdoor' from version returning 1
            """);
        Assert.Equal(2, (await client.ReadAsync($"/api/stoves/{stove}")).Number("flue", "number"));
        var again = await client.ReadAsync($"/api/visits/{visit.Text("visit", "row", "id")}");
        Assert.Equal(1, again.Number("flue", "number"));
        Assert.Equal(visit.GetProperty("steps").ToString(), again.GetProperty("steps").ToString());
    }

    [Fact]
    public async Task Firms_own_interval_sets_the_next_date()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        await own.ScalarAsync<int>("update firm set inspection_months = 6 returning 1");
        var today = DateOnly.Parse((await client.ReadAsync("/api/today")).Text("day"));
        var visit = await client.VisitAsync(0);
        await client.LookAsync(visit);
        Assert.Equal(today.AddMonths(6).ToString("yyyy-MM-dd"), (await client.ReadAsync($"/api/visits/{visit}")).Text("proposedInspection"));
    }

    [Fact]
    public async Task Conclusion_of_older_rules_is_kept_and_the_difference_shown()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(0);
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(18));
        var then = (await client.KeptAsync(visit, "hot-draft")).GetProperty("sentences").Words();
        Assert.Equal(JsonValueKind.Null, (await client.KeptAsync(visit, "hot-draft")).GetProperty("now").ValueKind);
        // Older rules that came to the same say nothing more; those that came to something else are set against today's.
        await own.ScalarAsync<int>($"update station_entries set rules_version = '2020-01-01' where visit_id = '{visit}' returning 1");
        Assert.Equal(JsonValueKind.Null, (await client.KeptAsync(visit, "hot-draft")).GetProperty("now").ValueKind);
        await own.ScalarAsync<int>($"update station_facts set value = value - 3 where visit_id = '{visit}' and name = 'hot.normal.expected-pa' returning 1");
        var kept = await client.KeptAsync(visit, "hot-draft");
        Assert.Equal(("2020-01-01", then), (kept.Text("rulesVersion"), kept.GetProperty("sentences").Words()));
        Assert.Contains("you read 18.0 Pa", kept.GetProperty("now").Words(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Tables_carry_units_and_steps_and_the_document_every_calculation()
    {
        var client = await server.SignedInAsync("technician");
        var tables = await client.ReadAsync("/api/tables");
        var draft = tables.GetProperty("units").EnumerateArray().Single(u => u.Text("quantity") == "draft");
        Assert.Equal("in w.c.", draft.Text("us", "symbol"));
        Assert.Equal(249.089, 1 / draft.Number("us", "factor"), 9);
        Assert.Equal(12, tables.GetProperty("steps").GetArrayLength());
        Assert.Equal(8, tables.GetProperty("constructions").GetArrayLength());
        var document = await client.ReadAsync("/openapi/v1.json");
        foreach (var name in new[] { "draft", "cold-start", "house-pressure", "termination" })
            Assert.True(document.GetProperty("paths").TryGetProperty($"/api/calculations/{name}", out _), name);
        var fittings = document.GetProperty("components").GetProperty("schemas").GetProperty("SegmentEntry").GetProperty("properties").GetProperty("fittings");
        Assert.Contains("elbow-90", fittings.ToString(), StringComparison.Ordinal);
    }
}
