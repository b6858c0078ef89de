using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Air, hearth and fire kept on visits: facts, stops, what one station tells another.</summary>
public class FireStationTests(GrateServer server) : IClassFixture<GrateServer>
{
    private static readonly double[] _piece = [0.31, 0.33, 0.32];

    private async Task<(HttpClient Client, string Visit)> OpenAsync(string where)
    {
        var client = await server.SignedInAsync("owner");
        return (client, (await server.ScalarAsync<Guid>($"select v.id from visits v join appliances a on a.id = v.appliance_id where v.state = 'open' and {where} order by v.planned_start limit 1")).ToString());
    }

    private static async Task<string[]> StopsAsync(HttpClient client, string visit) =>
        [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray().Select(s => s.Text("stop", "code")).Order()];

    private static string Words(JsonElement station) => station.GetProperty("sentences").Words();

    [Fact]
    public async Task Smoke_at_the_door_in_the_run_is_a_stop_until_it_was_opened_again()
    {
        var (client, visit) = await OpenAsync("a.kind = 'insert'");
        object Run(string saw, double co) => new { startedAt = "2027-10-13T07:30:00Z", marks = new object[] { new { step = "light", minute = 0 }, new { step = "open-slowly", minute = 50, saw }, new { step = "room-co", minute = 51, coPpm = co } } };
        await client.KeepAsync(visit, "hot-run", Run("more", 40));
        Assert.Equal(["room-co", "spillage"], await StopsAsync(client, visit));
        Assert.Contains("Smoke comes out when the door is opened slowly", Words(await client.KeptAsync(visit, "hot-run")), StringComparison.Ordinal);
        await client.KeepAsync(visit, "hot-run", Run("puff", 40), 1);
        Assert.Equal(["room-co"], await StopsAsync(client, visit));
        // A look that is taken back passes nothing.
        await client.KeepAsync(visit, "hot-run", new { startedAt = "2027-10-13T07:30:00Z" }, 2);
        Assert.Equal(["room-co"], await StopsAsync(client, visit));
        await client.KeepAsync(visit, "hot-run", Run("none", 3), 3);
        Assert.Empty(await StopsAsync(client, visit));
        // The draft below zero is another measure: it is not ended by the door.
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(-2));
        await client.KeepAsync(visit, "hot-run", Run("none", 2), 4);
        Assert.Equal(["spillage"], await StopsAsync(client, visit));
    }

    [Fact]
    public async Task A_scorched_wall_too_near_stops_the_stove_until_it_is_far_enough()
    {
        var (client, visit) = await OpenAsync("a.kind = 'multi-fuel'");
        object Plan(double found, string shield, bool scorched) => new { things = new[] { new { name = "wall behind", side = "back", foundMm = found, shield, scorched } } };
        await client.KeepAsync(visit, "room-plan", Plan(420, "none", false));
        Assert.Empty(await StopsAsync(client, visit));
        await client.KeepAsync(visit, "room-plan", Plan(420, "none", true), 1);
        Assert.Equal(["scorching"], await StopsAsync(client, visit));
        await client.KeepAsync(visit, "room-plan", new { }, 2);
        Assert.Equal(["scorching"], await StopsAsync(client, visit));
        await client.KeepAsync(visit, "room-plan", Plan(420, "sheet-metal", true), 3);
        Assert.Empty(await StopsAsync(client, visit));
        Assert.Equal(0, await server.ScalarAsync<double>($"select value from station_facts where visit_id = '{visit}' and name = 'clearance.short-mm'"));
    }

    [Fact]
    public async Task What_one_station_found_another_goes_by()
    {
        var (client, visit) = await OpenAsync("a.combustor");
        // The fans of the cold checks decide about the duct.
        var before = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/air/stations/outside-air/answer", new { });
        Assert.Contains("not known yet", before.GetProperty("sentences").Words(), StringComparison.Ordinal);
        await client.KeepAsync(visit, "cold-flue", new { roomC = 21, roomOffPa = -1.0, roomOnPa = -8.0 });
        var after = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/air/stations/outside-air/answer", new { });
        Assert.Equal("direct", after.Text("reckoned", "school"));
        // The room, and the gas of the hot draft, stand at the surfaces.
        await client.KeepAsync(visit, "hot-draft", new { readings = new[] { new { level = "high", draftPa = 26.0, gasC = 340.0, gasBy = "probe" } } });
        var surfaces = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/hot-test/stations/surfaces/answer", new { spots = new[] { new { label = "mantel", readC = 60.0 } } });
        Assert.Equal(["gasNowC", "roomC"], surfaces.GetProperty("assumed").EnumerateArray().Select(a => a.Text("field")).Where(f => f is "roomC" or "gasNowC").Order());
        // At 340 °C already, high fire adds nothing.
        Assert.Equal(1, surfaces.Number("reckoned", "factor"));
        // The plate is judged by the draft at high fire; the run's questions by what the others found.
        var dampers = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/air/stations/dampers/answer", new { plate = true });
        Assert.Equal(26, dampers.Number("highFireDraftPa"));
        var run = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/hot-test/stations/hot-run/answer", new { startedAt = "2027-10-13T07:30:00Z" });
        Assert.DoesNotContain("not yet known", run.GetProperty("questions")[0].GetProperty("answer").GetProperty("spans")[0].Text("text"), StringComparison.Ordinal);
        // The air that does not close is what the closed-air test is read by.
        await client.KeepAsync(visit, "air-controls", new { controls = new[] { new { kind = "primary", moves = "free", closes = false } } });
        Assert.False((await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/hot-test/stations/closed-air/answer", new { collapseS = 100 })).GetProperty("closesFully").GetBoolean());
    }

    [Fact]
    public async Task Wet_wood_and_a_night_are_remembered_for_the_household_s_page()
    {
        var (client, visit) = await OpenAsync("a.kind = 'steel' and not a.combustor");
        await client.KeepAsync(visit, "wood", new { pieces = new[] { _piece }, wood = "hardwood", habit = "slow" });
        var pile = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/steps/arrive/stations/wood-pile/answer", new { stackedM3 = 4 });
        Assert.Contains("measure again on", pile.GetProperty("sentences").Words(), StringComparison.Ordinal);
        await client.KeepAsync(visit, "wood-pile", new { stackedM3 = 4 });
        await client.KeepAsync(visit, "nights", new
        {
            told = new[]
            {
                new { loadKg = 8.5, hours = 8.5, coals = "some", inStartC = 21.7, inEndC = 18.9, outStartC = -1, outEndC = -3 },
                new { loadKg = 14.0, hours = 8.5, coals = "some", inStartC = 20.0, inEndC = 20.5, outStartC = -4, outEndC = -8 },
            },
            wantedOutC = -10,
        });
        await client.SignAsync(visit);
        var stove = (await client.ReadAsync($"/api/visits/{visit}")).Text("stove", "id");
        var path = (await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/household", new { })).Text("path");
        var page = await client.GetStringAsync(new Uri($"{path}?lang=en", UriKind.Relative));
        Assert.Contains("Smaller loads, more air.", page, StringComparison.Ordinal);
        Assert.Contains("Your wood reads 32 % on the meter. Give it until", page, StringComparison.Ordinal);
        Assert.Contains("For a night like the one we reckoned:", page, StringComparison.Ordinal);
        // The report carries the new blocks of a signed visit, and its seal holds.
        Assert.Equal("signed", (await client.ReadAsync($"/api/visits/{visit}")).Text("visit", "row", "state"));
    }
}
