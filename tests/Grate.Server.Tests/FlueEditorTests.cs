using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>The flue editor: read, try, save as a new version.</summary>
[Collection(nameof(OneServer))]
public class FlueEditorTests(GrateServer server)
{
    private static readonly object[] _none = [];

    private static object Piece(string construction = "insulated-50", string place = "indoor", double rise = 3, double? length = null, double diameter = 0.15, params string[] fittings) =>
        new { construction, shape = new { kind = "round", diameterM = diameter }, riseM = rise, lengthM = length ?? rise, surroundings = place, fittings };

    private static object Flue(params object[] segments) => new { segments, cap = "open", screen = false };

    private static object Trial(object flue, double x = 2, object[]? obstacles = null) =>
        new { stoveXM = x, flue, obstacles = obstacles ?? _none, level = "normal", outdoorC = 0 };

    private static readonly object _good = Flue(Piece("single-wall-steel", rise: 1.2), Piece(rise: 4), Piece(place: "outdoor", rise: 4));

    private async Task<(HttpClient Client, string Stove)> StoveAsync(string role = "technician", int index = 0)
    {
        var client = await server.SignedInAsync(role);
        return (client, (await client.ReadAsync("/api/stoves?q=steel")).GetProperty("stoves")[index].Text("line", "id"));
    }

    [Fact]
    public async Task Trial_answers_with_layout_draft_before_and_after_and_what_ifs()
    {
        var (client, stove) = await StoveAsync();
        var board = await client.ReadAsync($"/api/stoves/{stove}/flue");
        Assert.Equal(8, board.GetProperty("typical").GetArrayLength());
        var answer = await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/flue/trial", Trial(_good));
        Assert.Equal(3, answer.GetProperty("layout").GetProperty("segments").GetArrayLength());
        Assert.NotEqual(answer.Number("before", "expectedPa"), answer.Number("after", "expectedPa"));
        Assert.Contains(answer.GetProperty("whatIfs").EnumerateArray(), w => w.Text("code") == "taller" && w.Number("gainPa") > 0);
        // The drawing as it stands, tried unchanged, is the same before and after.
        var flue = board.GetProperty("flue");
        var same = await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/flue/trial", Trial(flue.GetProperty("flue"), flue.Number("stoveXM")));
        Assert.Equal(same.Number("before", "expectedPa"), same.Number("after", "expectedPa"), 12);
    }

    [Fact]
    public async Task Impossible_boards_are_refused_field_by_field()
    {
        var (client, stove) = await StoveAsync();
        async Task<string[]> RefusedAsync(object trial) =>
            [.. (await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/flue/trial", trial, HttpStatusCode.BadRequest)).GetProperty("errors").EnumerateObject().Select(e => e.Name)];
        Assert.Equal(["flue.segments"], await RefusedAsync(Trial(Flue())));
        Assert.Equal(["flue.segments[0].riseM"], await RefusedAsync(Trial(Flue(Piece(rise: -2, length: 1)))));
        Assert.Equal(["flue.segments"], await RefusedAsync(Trial(Flue(Piece(rise: -1, length: 1)))));
        // Four pieces of one name would share one deposit.
        object Named(string label) => new { label, construction = "insulated-50", shape = new { kind = "round", diameterM = 0.15 }, riseM = 2, lengthM = 2, surroundings = "indoor" };
        Assert.Equal(["flue.segments[1].label"], await RefusedAsync(Trial(Flue(Named("piece"), Named("piece"), Named("piece 2")))));
        object Kept(string id, string label) => new { id, label, construction = "insulated-50", shape = new { kind = "round", diameterM = 0.15 }, riseM = 2, lengthM = 2, surroundings = "indoor" };
        Assert.Equal(["flue.segments[1].id"], await RefusedAsync(Trial(Flue(Kept("a", "pipe"), Kept("a", "stack"), Kept("b", "top")))));
        Assert.Equal(["flue.segments[0].id"], await RefusedAsync(Trial(Flue(Kept("", "pipe")))));
        Assert.Equal(["stoveXM"], await RefusedAsync(Trial(_good, 99)));
        Assert.Equal(["obstacles[0].name", "obstacles[0].widthM"], await RefusedAsync(Trial(_good, obstacles: [new { name = " ", acrossM = 1, widthM = 0, topM = 5 }])));
        Assert.Equal(["obstacles"], await RefusedAsync(Trial(_good, obstacles: [.. Enumerable.Repeat<object>(new { name = "tree", acrossM = 1, widthM = 1, topM = 5 }, 21)])));
    }

    // What is wrong in reality is there: it is recorded, and judged.
    [Fact]
    public async Task A_flue_that_stands_against_the_rules_is_recorded_and_judged()
    {
        var (client, stove) = await StoveAsync();
        async Task<string> SaidAsync(object flue) => string.Join(" ", (await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/flue/trial", Trial(flue))).GetProperty("remarks").EnumerateArray().Select(r => r.Text("sentence")));
        Assert.Contains("at most three quarters of the height", await SaidAsync(Flue(Piece("single-wall-steel", rise: 1, length: 4, fittings: "elbow-90"))), StringComparison.Ordinal);
        Assert.Contains("does not join", await SaidAsync(Flue(Piece(), Piece(diameter: 0.3))), StringComparison.Ordinal);
        var falling = Flue(Piece("single-wall-steel", rise: -0.1, length: 1.2, fittings: "elbow-90"), Piece(rise: 6));
        Assert.Contains("falls by 0.10 m: smoke and water stand in it", await SaidAsync(falling), StringComparison.Ordinal);
        var number = (await client.ReadAsync($"/api/stoves/{stove}/flue")).Number("flue", "number");
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", new { baseNumber = (int)number, stoveXM = 2.0, flue = falling, obstacles = Array.Empty<object>() });
        // The draft is reckoned with it, and the stove's page says so.
        Assert.NotEmpty((await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("today").GetProperty("answer").GetProperty("sentences").EnumerateArray());
    }

    [Fact]
    public async Task Saving_makes_a_new_version_and_old_visits_keep_theirs()
    {
        var (client, _) = await StoveAsync();
        var visit = await client.VisitAsync(0);
        var document = await client.ReadAsync($"/api/visits/{visit}");
        var stove = document.Text("stove", "id");
        var old = (await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("visits").EnumerateArray().First(v => v.Text("row", "state") == "signed").Text("row", "id");
        var before = await client.ReadAsync($"/api/visits/{old}");
        var number = (int)document.Number("flue", "number");
        var id = Guid.CreateVersion7();
        var save = new { baseNumber = number, stoveXM = 2.5, flue = _good, obstacles = new object[] { new { name = "lime", acrossM = -2, widthM = 2, topM = 6 } } };
        for (var sent = 0; sent < 2; sent++)
        {
            var saved = await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{id}", save);
            Assert.Equal(number + 1, saved.Number("number"));
        }
        var page = await client.ReadAsync($"/api/stoves/{stove}");
        Assert.Equal(number + 1, page.Number("flue", "number"));
        Assert.Equal("lime", page.GetProperty("outline").GetProperty("obstacles")[0].Text("name"));
        Assert.Equal(number + 1, (await client.ReadAsync($"/api/visits/{visit}")).Number("flue", "number"));
        var after = await client.ReadAsync($"/api/visits/{old}");
        Assert.Equal(before.GetProperty("flue").ToString(), after.GetProperty("flue").ToString());
        Assert.Equal(JsonValueKind.Null, after.Station("hot-draft").GetProperty("now").ValueKind);

        // Someone who started from the older version gets the newest one, and nothing is overwritten.
        var stale = await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", save, HttpStatusCode.Conflict);
        Assert.Equal(number + 1, stale.Number("stored", "number"));
        Assert.Equal(number + 1, (await client.ReadAsync($"/api/stoves/{stove}")).Number("flue", "number"));
    }

    [Fact]
    public async Task Open_visit_concludes_again_on_the_changed_flue_and_its_next_save_is_not_stale()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        var document = await client.ReadAsync($"/api/visits/{visit}");
        var (stove, number) = (document.Text("stove", "id"), (int)document.Number("flue", "number"));
        var label = document.GetProperty("flue").GetProperty("flue").GetProperty("segments")[0].Text("label");
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(14));
        await client.KeepAsync(visit, "deposits", new { found = new Dictionary<string, object> { [label] = new { stage = 1, mm = 1 } } });
        double Expected(JsonElement answer) => answer.GetProperty("fires")[0].Number("answer", "expectedPa");
        var before = Expected((await client.KeptAsync(visit, "hot-draft")).GetProperty("answer"));

        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", new { baseNumber = number, stoveXM = 2.5, flue = _good, obstacles = Array.Empty<object>() });
        var hot = await client.KeptAsync(visit, "hot-draft");
        var concluded = Expected(hot.GetProperty("answer"));
        Assert.True(Math.Abs(before - concluded) > 0.5, $"{before}, then {concluded}");
        Assert.Equal(Expected(await client.ReckonAsync(visit, "hot-draft", Saves.HotTest(14))), concluded, 9);
        Assert.Equal(concluded, await own.ScalarAsync<double>($"select value from station_facts where visit_id = '{visit}' and name = 'hot.normal.expected-pa'"), 9);
        Assert.Equal(1, hot.Number("version"));
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(15), version: 1);
        // What was found in a piece that is gone is kept, and keeps the visit open until somebody looks.
        var deposits = await client.KeptAsync(visit, "deposits");
        Assert.Equal(1, deposits.GetProperty("entry").GetProperty("found").Number(label, "mm"));
        Assert.Contains("does not fit the flue", (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("signing").GetProperty("refusals").ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Piece_called_otherwise_and_moved_keeps_what_was_found_in_it()
    {
        await using var own = new GrateServer();
        var client = await own.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        var document = await client.ReadAsync($"/api/visits/{visit}");
        var (stove, flue) = (document.Text("stove", "id"), document.GetProperty("flue"));
        var chain = flue.GetProperty("flue").GetProperty("segments").EnumerateArray().Select(s => JsonSerializer.Deserialize<Dictionary<string, object>>(s.GetRawText())!).ToList();
        var id = chain[^1]["id"].ToString()!;
        await client.KeepAsync(visit, "deposits", new { found = new Dictionary<string, object> { [id] = new { stage = 2, mm = 3.5 } }, leftMm = 0.2 });

        chain[^1]["label"] = "above the roof";
        chain.Insert(chain.Count - 1, new(chain[^1]) { ["id"] = Guid.CreateVersion7().ToString(), ["label"] = "new piece", ["riseM"] = 0.5, ["lengthM"] = 0.5 });
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}",
            new { baseNumber = (int)flue.Number("number"), stoveXM = flue.Number("stoveXM"), flue = Flue([.. chain]), obstacles = _none });
        var kept = await client.KeptAsync(visit, "deposits");
        Assert.Equal(3.5, kept.GetProperty("entry").GetProperty("found").Number(id, "mm"));
        var segments = kept.GetProperty("answer").GetProperty("deposits").GetProperty("segments");
        Assert.Equal("above the roof", segments[chain.Count - 1].Text("label"));
        Assert.True(segments[chain.Count - 1].Number("massKg") > 0);
        Assert.Equal(0, segments[chain.Count - 2].Number("massKg"));
    }

    [Fact]
    public async Task Office_reads_and_tries_but_does_not_save()
    {
        var (client, stove) = await StoveAsync("office", 1);
        await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/flue/trial", Trial(_good));
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}",
            new { baseNumber = 1, stoveXM = 2, flue = _good, obstacles = _none }, HttpStatusCode.Forbidden);
        await client.SendAsync(HttpMethod.Post, $"/api/stoves/{Guid.CreateVersion7()}/flue/trial", Trial(_good), HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_cannot_stand_is_not_saved()
    {
        var (client, stove) = await StoveAsync(index: 1);
        object Save(object flue) => new { baseNumber = 1, stoveXM = 2, flue, obstacles = _none };
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", Save(Flue(Piece(rise: 2, length: 1), Piece())), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.NewGuid()}", Save(_good), HttpStatusCode.BadRequest);
        Assert.Equal(1, (await client.ReadAsync($"/api/stoves/{stove}")).Number("flue", "number"));
    }

    [Fact]
    public async Task Stove_page_tells_the_year_and_its_extremes()
    {
        var (client, stove) = await StoveAsync(index: 2);
        var year = (await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("year");
        Assert.Equal(12, year.GetProperty("months").GetArrayLength());
        Assert.True(year.Number("cold", "expectedPa") > year.Number("mild", "expectedPa"));
        Assert.InRange(year.Number("belowShare"), 0, 1);
    }
}
