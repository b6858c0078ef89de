using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Stops are records of their own; an id stands for one thing.</summary>
[Collection(nameof(OneServer))]
public class StopTests(GrateServer server)
{
    private static string StepAddress(string visit, string step) => $"/api/visits/{visit}/steps/{step}";

    [Fact]
    public async Task Unsafe_sets_a_stop_at_once_that_only_a_passed_retest_ends_and_that_comes_back()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var address = $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}";
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "unsafe"), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "unsafe", stop: "glass"));
        var stop = Assert.Single((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray());
        Assert.Equal("The glass is cracked or broken: no fire.", stop.Text("sentence"));
        Assert.Equal(1, (await client.ReadAsync("/api/today")).GetProperty("stops")[1].Number("stop", "stops"));
        Assert.Equal("New glass in place, no crack; the door closed and the strips held around it.", stop.Text("retest"));

        // Another word ends nothing, and neither does taking the finding back, of which the version is needed.
        async Task<List<JsonElement>> StopsAsync() => [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray()];
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "wearing", 1, "chip at a clip"));
        Assert.Single(await StopsAsync());
        await client.SendAsync(HttpMethod.Delete, address, new { }, HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Delete, $"{address}?baseVersion=1", new { }, HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Delete, $"{address}?baseVersion=2", new { }, HttpStatusCode.NoContent);
        var standing = Assert.Single(await StopsAsync()).Text("stop", "id");

        // Cleared by its re-test, it comes back when the part is marked unsafe again, twice in a row too.
        foreach (var round in new[] { 0, 1, 2 })
        {
            await client.SendAsync(HttpMethod.Post, $"/api/stops/{standing}/clear", new { what = "new glass", retest = "strips held", retestPassed = true }, HttpStatusCode.NoContent);
            Assert.Empty(await StopsAsync());
            await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "unsafe", round, stop: "glass"));
            var again = Assert.Single(await StopsAsync()).GetProperty("stop");
            Assert.Equal(standing, again.Text("opensAgain"));
            standing = again.Text("id");
        }
        Assert.Equal(4, await server.ScalarAsync<long>($"select count(*) from safety_stops where visit_id = '{visit}'"));
    }

    // A slip of the thumb: taken back the same day, by whoever set it, with a word; what is measured is no slip.
    [Fact]
    public async Task A_mark_set_by_mistake_is_taken_back_the_same_day_by_its_setter_with_a_word()
    {
        await using var own = new GrateServer();
        var (client, owner) = (await own.SignedInAsync("technician"), await own.SignedInAsync("owner"));
        var visit = await client.VisitAsync(1);
        async Task<string> SetAsync(Guid finding, int version)
        {
            await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{finding}", Saves.Finding("glass", "unsafe", version, stop: "glass"));
            return (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops")[0].Text("stop", "id");
        }
        var finding = Guid.CreateVersion7();
        var stop = await SetAsync(finding, 0);
        Task<JsonElement> ClearAsync(HttpClient who, string mistake, HttpStatusCode expected) => who.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { mistake }, expected);
        var refused = await ClearAsync(owner, "that was not me", HttpStatusCode.BadRequest);
        Assert.Contains("by whoever set it, on the day it was set", refused.GetProperty("errors").GetProperty("mistake")[0].GetString()!, StringComparison.Ordinal);
        await ClearAsync(client, "  ", HttpStatusCode.BadRequest);
        await using (var tomorrow = new GrateServer(own, ("Clock:At", "2027-10-14T07:30:00Z")))
            await ClearAsync(await tomorrow.SignedInAsync("technician"), "wrong line", HttpStatusCode.BadRequest);
        await ClearAsync(client, "wrong line", HttpStatusCode.NoContent);
        Assert.Empty((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray());
        Assert.Equal("Set by mistake: wrong line", await own.ScalarAsync<string>($"select cleared_what from safety_stops where id = '{stop}'"));
        // What follows a reading has no word of anybody's to take back.
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(18, coPpm: 120));
        stop = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops")[0].Text("stop", "id");
        await ClearAsync(client, "wrong number", HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Reversed_draft_or_carbon_monoxide_is_a_stop_until_it_was_measured_again()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(2);
        async Task<string[]> StopsAfter(int version, object hotTest)
        {
            await client.KeepAsync(visit, "hot-draft", hotTest, version);
            return [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray().Select(s => s.Text("stop", "code"))];
        }
        Assert.Equal(["spillage"], await StopsAfter(0, Saves.HotTest(-1.5)));
        // It follows the entries alone: no finding stands for it.
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("hot-draft", "sound", 1), HttpStatusCode.BadRequest);
        Assert.Equal(["room-co"], await StopsAfter(1, Saves.HotTest(18, coPpm: 35)));
        Assert.Empty(await StopsAfter(2, Saves.HotTest(18, coPpm: 34)));
        Assert.Contains("find out why", (await client.KeptAsync(visit, "hot-draft")).GetProperty("sentences").Words(), StringComparison.Ordinal);

        // Cleared, it stays cleared while the numbers are the same, and comes back with worse ones.
        Assert.Equal(["room-co"], await StopsAfter(3, Saves.HotTest(18, coPpm: 120)));
        var stop = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops")[0].Text("stop", "id");
        await client.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { what = "aired, seal renewed", retest = "CO 2 ppm", retestPassed = true }, HttpStatusCode.NoContent);
        Assert.Empty(await StopsAfter(4, Saves.HotTest(19, coPpm: 120)));
        Assert.Equal(["room-co"], await StopsAfter(5, Saves.HotTest(19, coPpm: 150)));
        // An emptied field is no re-test; a new number is, and what it was is kept.
        Assert.Equal(["room-co"], await StopsAfter(6, Saves.HotTest(19)));
        Assert.Empty(await StopsAfter(7, Saves.HotTest(19, coPpm: 3)));
        Assert.Equal(4, await server.ScalarAsync<long>($"select count(*) from safety_stops where visit_id = '{visit}' and cleared_retest <> ''"));
        // A draft that fell with the fans on is measured again with the fans on; both stops at once are two.
        object Fans(double? on, double normal, double? co = null) => new { readings = new[] { new { level = "normal", draftPa = normal } }, coPpm = co, fans = new { draftOffPa = 9.0, draftOnPa = on, fans = Array.Empty<object>() } };
        Assert.Equal(["room-co", "spillage"], (await StopsAfter(8, Fans(-2, 12, 60))).Order());
        Assert.Equal(["spillage"], await StopsAfter(9, Fans(null, 12, 8)));
        Assert.Empty(await StopsAfter(10, Fans(3, 12, 8)));
    }

    // Reversed at a normal fire and with the fans on: one code, two places; each is measured again, and both words are kept.
    [Fact]
    public async Task Two_retests_of_one_code_end_their_stop_together_with_the_words_of_both()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(2);
        object Draft(double normal, double on) => new { readings = new[] { new { level = "normal", draftPa = normal } }, fans = new { draftOffPa = 9.0, draftOnPa = on, fans = Array.Empty<object>() } };
        Task<long> OpenAsync() => own.ScalarAsync<long>($"select count(*) from safety_stops where visit_id = '{visit}' and code = 'spillage' and cleared_at is null");
        await client.KeepAsync(visit, "hot-draft", Draft(-2, -3), 0);
        Assert.True(await OpenAsync() > 0);
        await client.KeepAsync(visit, "hot-draft", Draft(12, -3), 1);
        Assert.True(await OpenAsync() > 0, "the fans were not measured again");
        await client.KeepAsync(visit, "hot-draft", Draft(-2, -3), 2);
        await client.KeepAsync(visit, "hot-draft", Draft(13, 4), 3);
        Assert.Equal(0, await OpenAsync());
        var said = await own.ScalarAsync<string>($"select string_agg(cleared_retest, ' | ') from safety_stops where visit_id = '{visit}' and code = 'spillage'");
        Assert.Contains("13.0 Pa", said, StringComparison.Ordinal);
        Assert.Contains("4.0 Pa", said, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Save_id_stands_for_one_content_and_an_id_for_one_thing()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var (visit, other) = (await client.VisitAsync(1), await client.VisitAsync(3));
        var id = Guid.CreateVersion7();
        // Sent again it is the same save; with other content it is refused, and the stop stands.
        await client.KeepAsync(other, "hot-draft", Saves.HotTest(18, coPpm: 150), id: id);
        await client.KeepAsync(other, "hot-draft", Saves.HotTest(18, coPpm: 150), id: id);
        await client.KeepAsync(other, "hot-draft", Saves.HotTest(18, coPpm: 2), 0, HttpStatusCode.Conflict, id);
        Assert.Equal("room-co", Assert.Single((await client.ReadAsync($"/api/visits/{other}")).GetProperty("stops").EnumerateArray()).Text("stop", "code"));
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "air"), Saves.Step(note: "one", id: id));
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "air"), Saves.Step(note: "two", id: id), HttpStatusCode.Conflict);

        var finding = Guid.CreateVersion7();
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{finding}", Saves.Finding("connector", "sound"));
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{other}/findings/{finding}", Saves.Finding("connector", "sound"), HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{finding}", Saves.Finding("alarms", "sound"), HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Delete, $"/api/visits/{other}/findings/{finding}?baseVersion=1", new { }, HttpStatusCode.Conflict);
        Assert.Equal(1, await own.ScalarAsync<long>($"select count(*) from findings where id = '{finding}'"));
        var stoves = (await client.ReadAsync("/api/stoves?q=steel")).GetProperty("stoves").EnumerateArray().Select(s => s.Text("line", "id")).ToList();
        var flue = (await client.ReadAsync($"/api/stoves/{stoves[0]}/flue")).GetProperty("flue");
        object Flue(JsonElement of) => new { baseNumber = (int)of.Number("number"), stoveXM = of.Number("stoveXM"), flue = of.GetProperty("flue"), obstacles = Array.Empty<object>() };
        var owner = await own.SignedInAsync("owner");
        await owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stoves[0]}/flue/{finding}", Flue(flue));
        await owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stoves[1]}/flue/{finding}", Flue((await client.ReadAsync($"/api/stoves/{stoves[1]}/flue")).GetProperty("flue")), HttpStatusCode.Conflict);
        var technician = (await client.ReadAsync("/api/session")).Text("person", "id");
        var free = await own.ScalarAsync<Guid>("select id from appliances a where not exists (select from visits v where v.appliance_id = a.id and v.state = 'open') limit 1");
        object Plan(string time) => new { id = finding, applianceId = free, technicianId = technician, day = "2027-11-29", time, minutes = 60 };
        await client.SendAsync(HttpMethod.Post, "/api/season/visits", Plan("09:00:00"), HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, "/api/season/visits", Plan("09:00:00"), HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, "/api/season/visits", Plan("10:00:00"), HttpStatusCode.Conflict);
        // What was added below another visit is told from this one.
        await client.SignAsync(visit);
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/additions", new { id = finding, text = "one" }, HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/additions", new { id = finding, text = "one" }, HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/additions", new { id = finding, text = "two" }, HttpStatusCode.Conflict);
    }
}
