using System.Net;
using Grate.Core.Door;
using Grate.Instruments;
using Grate.Store;
using Microsoft.Extensions.DependencyInjection;

namespace Grate.Server.Tests;

/// <summary>Cold checks, top and hot test as saved steps; the flue's own record; tomorrow's weather.</summary>
[Collection(nameof(OneServer))]
public class StationTests(GrateServer server)
{
    [Fact]
    public async Task Cold_checks_are_computed_saved_and_concluded()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(4);
        var checks = new { outdoorC = 8, overnightLowC = -2, airFall = "falls", source = "dryer", fans = new[] { new { kind = "hood" } }, roomOffPa = -1, roomOnPa = -8 };
        var live = await client.ReckonAsync(visit, "cold-flue", checks);
        Assert.Equal(0.135, live.GetProperty("fansOneByOne")[0].Number("flowM3S"));
        Assert.True(live.Number("house", "totalPa") < live.Number("house", "stackPa"));
        await client.KeepAsync(visit, "cold-flue", checks);
        var saved = await client.KeptAsync(visit, "cold-flue");
        Assert.Equal(-2, saved.Number("entry", "overnightLowC"));
        Assert.Equal(live.GetProperty("sentences").ToString(), saved.GetProperty("sentences").ToString());
        Assert.Equal(Core.Rules.Version, await server.ScalarAsync<string>($"select rules_version from station_entries where visit_id = '{visit}' and station = 'cold-flue'"));

        var refused = await client.KeepAsync(visit, "cold-flue", new { outdoorC = 99 }, 1, HttpStatusCode.BadRequest);
        Assert.Contains("Outdoor temperature", refused.GetProperty("errors").GetProperty("outdoorC")[0].GetString(), StringComparison.Ordinal);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/air/stations/cold-flue", new { }, HttpStatusCode.NotFound);

        // What was typed here is not asked again in the hot test: it stands in, and says where it comes from.
        var assumed = (await client.ReckonAsync(visit, "hot-draft", new { readings = new[] { new { level = "normal" } } })).GetProperty("fires")[0].GetProperty("answer").GetProperty("assumed").EnumerateArray()
            .Last(a => a.Text("field") == "surroundings.outdoorC");
        Assert.Equal(8, assumed.Number("value"));
        Assert.Matches(@"^from your cold checks, 09:3\d$", assumed.Text("reason"));
    }

    [Fact]
    public async Task Top_is_judged_against_the_drawing()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(4);
        var low = await client.ReckonAsync(visit, "top", new { aboveRoofM = 0.3 });
        Assert.True(low.Number("rules", "missingM") > 0);
        Assert.True(low.GetProperty("bad").GetBoolean());
        await client.KeepAsync(visit, "top", new { aboveRoofM = 9, screenCloggedShare = 0.5 });
        await client.ReckonAsync(visit, "top", new { screenCloggedShare = 3 }, HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Sweep_is_computed_concluded_and_sets_its_stop_until_it_is_swept()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(7);
        var document = await client.ReadAsync($"/api/visits/{visit}");
        var label = document.GetProperty("flue").GetProperty("flue").GetProperty("segments")[0].Text("label");
        object Record(int stage, double mm, double? left = null, bool? glazeLeft = null) =>
            new { found = new Dictionary<string, object> { [label] = new { stage, mm, worstMm = mm } }, sweptL = 2.0, leftMm = left, glazeLeft };
        var live = await client.ReckonAsync(visit, "deposits", Record(2, 4));
        Assert.Equal(4, live.Number("learnedFrom"));
        Assert.Contains("Worst spot", live.GetProperty("sentences").ToString(), StringComparison.Ordinal);

        async Task<string[]> StopsAfter(int version, object record)
        {
            await client.KeepAsync(visit, "deposits", record, version);
            return [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray().Where(s => s.Text("stop", "visitId") == visit).Select(s => s.Text("stop", "code"))];
        }
        Assert.Equal(["deposit"], await StopsAfter(0, Record(2, 6)));
        Assert.Empty(await StopsAfter(1, Record(2, 6, 0.5)));
        Assert.Equal(["glaze"], await StopsAfter(2, Record(3, 0.2)));
        // What was found typed otherwise ends no stop: somebody looks again.
        Assert.Equal(["glaze"], await StopsAfter(3, Record(2, 4)));
        Assert.Equal(["deposit", "glaze"], (await StopsAfter(4, Record(3, 7))).Order());
        Assert.Empty(await StopsAfter(5, Record(3, 7, 0.5, glazeLeft: false)));
        var refused = await client.KeepAsync(visit, "deposits", Record(9, 4), 6, HttpStatusCode.BadRequest);
        Assert.True(refused.GetProperty("errors").TryGetProperty($"found.{label}.stage", out _));

        // The stove page speaks of today: what was left last time, and what has grown since.
        var sweep = (await client.ReadAsync($"/api/stoves/{document.Text("stove", "id")}")).GetProperty("today");
        Assert.Contains("by 13 October 2027 about", sweep.GetProperty("answer").GetProperty("sentences").Words(), StringComparison.Ordinal);
        Assert.Equal(25, sweep.GetProperty("answer").GetProperty("forecast").GetProperty("curve").GetArrayLength());
        Assert.Equal(3, sweep.GetProperty("answer").Number("learnedFrom"));
    }

    [Fact]
    public async Task Reckoning_speaks_of_cold_checks_and_window_together()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(5);
        await client.KeepAsync(visit, "cold-flue", new { roomOffPa = -1, roomOnPa = -9 });
        var readings = new[] { new { level = "normal", draftPa = 6.0, gasC = 240, outdoorC = 0, roomC = 20 } };
        var said = (await client.ReckonAsync(visit, "hot-draft", new { readings, window = new { level = "normal", draftPa = 40.0 } })).GetProperty("sentences").Words();
        Assert.Contains("It is the house: with the window open the draft went from 6.0 Pa to 40.0 Pa.", said, StringComparison.Ordinal);
        Assert.Contains("the room falls by 8.0 Pa", said, StringComparison.Ordinal);
        var refused = await client.ReckonAsync(visit, "hot-draft", new { readings, window = new { level = "normal", draftPa = 400.0 } }, HttpStatusCode.BadRequest);
        Assert.True(refused.GetProperty("errors").TryGetProperty("window.draftPa", out _));
    }

    [Fact]
    public async Task Earlier_sound_visits_calibrate_this_flue()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(6);
        var flue = (await client.ReadAsync($"/api/visits/{visit}")).Text("flue", "id");
        var sound = await server.ScalarAsync<long>($"""
            select count(distinct v.id) from visits v join station_facts r on r.visit_id = v.id and r.name like 'hot.%.verdict'
            where v.flue_version_id = '{flue}' and v.state = 'signed' and r.word like 'as-expected%'
              and not exists (select 1 from findings f where f.visit_id = v.id and f.condition in ('spent', 'unsafe') and f.part <> 'door-rope')
            """);
        Assert.True(sound >= 2);
        var answer = (await client.ReckonAsync(visit, "hot-draft", new { readings = new[] { new { level = "normal" } } })).GetProperty("fires")[0].GetProperty("answer");
        Assert.Equal(sound, answer.Number("baseline", "visits"));
        Assert.True(answer.Number("baseline", "highPa") - answer.Number("baseline", "lowPa") < answer.Number("highPa") - answer.Number("lowPa"));
    }

    [Fact]
    public async Task Steadiness_of_a_run_over_http()
    {
        var client = await server.SignedInAsync("office");
        var run = await client.SendAsync(HttpMethod.Post, "/api/calculations/steadiness", new { samples = new[] { new { atS = 0, draftPa = 10 }, new { atS = 1, draftPa = 20 } } });
        Assert.True(run.GetProperty("unsteady").GetBoolean());
        Assert.Equal(15, run.Number("meanPa"));
        await client.SendAsync(HttpMethod.Post, "/api/calculations/steadiness", new { samples = Array.Empty<object>() }, HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Of_two_strip_tests_the_next_visit_sees_how_the_door_was_left()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("owner");
        var visit = await client.VisitAsync(2);
        object Test(int grade) => new { grades = new Dictionary<string, int> { ["latch-2"] = grade } };
        await client.KeepAsync(visit, "door-strips", Test(0));
        var after = await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/back-together/stations/door-strips", new { saveId = Guid.CreateVersion7(), baseVersion = 0, entry = Test(3) });
        Assert.Contains("Before the work", after.ToString(), StringComparison.Ordinal);
        await client.SignAsync(visit);
        var stove = await own.ScalarAsync<Guid>($"select appliance_id from visits where id = '{visit}'");
        var left = (await own.Services.GetRequiredService<HistoryStore>().StoveAsync(stove))!.History.Earlier[^1];
        Assert.Equal((3, 0), (left.Number(DoorFacts.Grade("latch-2")), left.Number(DoorFacts.StripShare())));
    }

    [Fact]
    public async Task Door_that_is_off_is_a_stop_on_the_stove_until_it_is_back()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("owner");
        var visit = await client.VisitAsync(2);
        object Door(params string[] done) => new { seals = new { door = new { widthMm = 10, depthMm = 6, lineM = 1.72, done } } };
        Task<string> StopAsync() => own.ScalarAsync<string>($"select coalesce(string_agg(code || ' ' || (cleared_at is null), ','), 'none') from safety_stops where visit_id = '{visit}'");
        var off = await client.KeepAsync(visit, "seals", Door("off"));
        Assert.Equal("seal-out true", await StopAsync());
        var version = (int)off.Number("version");
        Task<System.Text.Json.JsonElement> PutAsync(object entry, HttpStatusCode wanted = HttpStatusCode.OK) => client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/back-together/stations/seals", new { saveId = Guid.CreateVersion7(), baseVersion = version, entry }, wanted);
        // An order is kept by the server, whatever a browser sends.
        var refused = await PutAsync(Door("off", "laid"), HttpStatusCode.BadRequest);
        Assert.Contains("waits for", refused.ToString(), StringComparison.Ordinal);
        Assert.Equal("seal-out true", await StopAsync());
        await PutAsync(Door("off", "bare", "dry-laid", "laid", "trimmed", "refitted"));
        Assert.Equal("seal-out false", await StopAsync());
    }

    [Fact]
    public async Task Cracked_glass_stops_the_stove_by_itself()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("owner");
        var visit = await client.VisitAsync(2);
        var kept = await client.KeepAsync(visit, "door-look", new { rope = "springy", glass = (string[])["cracked"] });
        Assert.Equal("glass", await own.ScalarAsync<string>($"select code from safety_stops where visit_id = '{visit}' and cleared_at is null"));
        // Looked away is not looked at again.
        var version = (int)kept.Number("version");
        foreach (var (glass, standing) in new[] { ((string[]?)null, 1), ([], 0) })
        {
            kept = await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/cold-checks/stations/door-look", new { saveId = Guid.CreateVersion7(), baseVersion = version, entry = new { rope = "springy", glass } });
            version = (int)kept.Number("version");
            Assert.Equal(standing, await own.ScalarAsync<long>($"select count(*) from safety_stops where visit_id = '{visit}' and cleared_at is null"));
        }
    }

    private sealed class ColdNightMildDay : IWeather
    {
        public DayWeather OfDay(DateOnly day, double latitude, double longitude, IReadOnlyList<double> monthlyC) => new(-6, 9, 12);
    }

    [Fact]
    public async Task Cold_night_before_a_mild_day_warns_of_plugs_in_outdoor_flues()
    {
        await using var cold = new GrateServer(server) { Replace = services => services.AddSingleton<IWeather, ColdNightMildDay>() };
        var client = await cold.SignedInAsync("owner");
        var today = await client.ReadAsync("/api/today");
        var stops = today.GetProperty("stops").EnumerateArray().Concat(today.GetProperty("tomorrow").EnumerateArray()).ToList();
        Assert.Contains(stops, s => s.Text("warning").StartsWith("Cold plug likely: bring the torch, allow 5 minutes.", StringComparison.Ordinal));
        Assert.Contains(stops, s => s.GetProperty("warning").ValueKind == System.Text.Json.JsonValueKind.Null);
        Assert.All(stops, s => Assert.Contains("night −6 °C", s.Text("weather"), StringComparison.Ordinal));
    }

    [Fact]
    public void Stand_in_weather_is_the_same_for_a_valley_and_keeps_to_its_climate()
    {
        var weather = new StandInWeather();
        double[] monthly = [-2, 0, 4, 8, 13, 16, 18, 17, 14, 9, 3, -1];
        for (var day = new DateOnly(2026, 1, 1); day.Year == 2026; day = day.AddDays(1))
        {
            var here = weather.OfDay(day, 47.1, 10.2, monthly);
            Assert.Equal(here, weather.OfDay(day, 47.9, 10.9, monthly));
            Assert.True(here.OvernightLowC < here.MorningC && here.MorningC < here.AfternoonC);
            Assert.InRange((here.OvernightLowC + here.AfternoonC) / 2, monthly[day.Month - 1] - 5, monthly[day.Month - 1] + 5);
            Assert.InRange(here.AtHour(11), here.MorningC, here.AfternoonC);
        }
    }

    [Fact]
    public async Task List_kept_for_a_model_is_proposed_at_other_stoves_of_it_once_its_visit_is_signed()
    {
        await using var own = new GrateServer();
        var owner = await own.SignedInAsync("owner");
        var visits = (await owner.ReadAsync("/api/today")).GetProperty("stops").EnumerateArray().Select(s => (Visit: s.Text("stop", "visitId"), Stove: s.Text("stop", "applianceId"))).Take(3).ToList();
        // Two stoves of one model, spelt differently; the third is another.
        foreach (var (stove, model) in new[] { (visits[0].Stove, "Hearth 5"), (visits[1].Stove, " HEARTH 5"), (visits[2].Stove, "Hearth 7") })
            await own.ScalarAsync<int>($"with a as (update appliances set model = '{model}', kind = 'steel', combustor = false where id = '{stove}' returning 1) select count(*)::int from a");
        async Task<string> ProposedAsync(int visit) => (await owner.ReckonAsync(visits[visit].Visit, "strip-down", new { })).GetProperty("list").Text("name");
        await owner.KeepAsync(visits[0].Visit, "strip-down", new { items = new[] { new { part = "rear plate", back = true } }, forModel = true });
        // What an open visit says is nobody's list yet.
        Assert.StartsWith("as stoves of this kind", await ProposedAsync(1), StringComparison.Ordinal);
        await owner.SignAsync(visits[0].Visit);
        Assert.StartsWith("list of this model, ", await ProposedAsync(1), StringComparison.Ordinal);
        Assert.Equal("rear plate", (await owner.ReckonAsync(visits[1].Visit, "strip-down", new { })).GetProperty("list").GetProperty("items")[0].Text("part"));
        Assert.StartsWith("as stoves of this kind", await ProposedAsync(2), StringComparison.Ordinal);
        Assert.StartsWith("as stoves of this kind", (await owner.ReckonAsync(visits[1].Visit, "strip-down", new { follows = "pattern" })).GetProperty("list").Text("name"), StringComparison.Ordinal);
    }
}
