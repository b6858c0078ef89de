using System.Net;
using System.Text.Json;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>Saving and signing visits.</summary>
[Collection(nameof(OneServer))]
public class VisitTests(GrateServer server)
{
    private static string StepAddress(string visit, string step) => $"/api/visits/{visit}/steps/{step}";

    private static JsonElement Step(JsonElement document, string code) =>
        document.GetProperty("steps").EnumerateArray().Single(s => s.Text("code") == code);

    [Fact]
    public async Task The_same_save_sent_twice_is_one_save()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var save = Saves.Step(note: "fire out", id: Guid.CreateVersion7());
        Assert.Equal(1, (await client.SendAsync(HttpMethod.Put, StepAddress(visit, "arrive"), save)).Number("version"));
        Assert.Equal(1, (await client.SendAsync(HttpMethod.Put, StepAddress(visit, "arrive"), save)).Number("version"));
        Assert.Equal(2, (await client.SendAsync(HttpMethod.Put, StepAddress(visit, "arrive"), Saves.Step(1, note: "fire out, alarms there"))).Number("version"));
    }

    [Fact]
    public async Task A_stale_save_gets_both_versions_and_changes_nothing()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "load"), Saves.Step(note: "first"));
        var stale = await client.SendAsync(HttpMethod.Put, StepAddress(visit, "load"), Saves.Step(0, note: "second"), HttpStatusCode.Conflict);
        Assert.Equal("first", stale.Text("stored", "note"));
        Assert.Equal(1, stale.Number("stored", "version"));
        Assert.Equal("first", Step(await client.ReadAsync($"/api/visits/{visit}"), "load").Text("saved", "note"));
    }

    [Fact]
    public async Task Many_saves_at_once_leave_one_winner()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var answers = await Task.WhenAll(Enumerable.Range(0, 8).Select(async i =>
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, StepAddress(visit, "air"))
            { Content = System.Net.Http.Json.JsonContent.Create(Saves.Step(note: $"{i}")) };
            return (await client.SendAsync(request)).StatusCode;
        }));
        Assert.Equal(1, answers.Count(a => a == HttpStatusCode.OK));
        Assert.Equal(7, answers.Count(a => a == HttpStatusCode.Conflict));
    }

    [Fact]
    public async Task Hot_test_keeps_entries_and_conclusions()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "hot-test"), Saves.Step(hotTest: Saves.HotTest(9.0)));
        var document = await client.ReadAsync($"/api/visits/{visit}");
        var reading = document.GetProperty("readings")[0];
        Assert.Equal(9.0, reading.Number("draftPa"));
        Assert.Equal(-5, reading.Number("entered", "outdoorC"));
        Assert.Equal("below-expected", reading.Text("verdict"));
        Assert.Equal(Core.Rules.Version, reading.Text("rulesVersion"));
        var now = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/draft",
            new { level = "normal", hotTest = Saves.HotTest(9.0) });
        Assert.Equal(now.Number("answer", "expectedPa"), reading.Number("computed", "expectedPa"), 9);
        Assert.Equal(JsonValueKind.Null, reading.GetProperty("nowExpectedPa").ValueKind);

        // A reading that cannot be is refused, and nothing of the step is saved.
        var version = (int)Step(document, "hot-test").Number("saved", "version");
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "hot-test"), Saves.Step(version, note: "lost?", hotTest: Saves.HotTest(900)), HttpStatusCode.BadRequest);
        var after = await client.ReadAsync($"/api/visits/{visit}");
        Assert.Equal("", Step(after, "hot-test").Text("saved", "note"));
        Assert.Equal(9.0, after.GetProperty("readings")[0].Number("draftPa"));
    }

    [Theory]
    [InlineData("skipped", "", "reason", "Say why this step is skipped.")]
    [InlineData("finished", "", "status", "A step is open, done or skipped.")]
    public async Task Steps_that_cannot_be_saved_say_why(string status, string reason, string field, string sentence)
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var refused = await client.SendAsync(HttpMethod.Put, StepAddress(visit, "agree"), Saves.Step(status: status, reason: reason), HttpStatusCode.BadRequest);
        Assert.Equal(sentence, refused.GetProperty("errors").GetProperty(field)[0].GetString());
    }

    [Fact]
    public async Task Unknown_steps_long_notes_and_random_ids_are_refused()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "tea"), Saves.Step(), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "agree"), Saves.Step(note: new string('x', 5001)), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "agree"), Saves.Step(id: Guid.NewGuid()), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "agree"), Saves.Step(hotTest: Saves.HotTest(9)), HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Unsafe_sets_a_stop_at_once_and_another_word_lifts_it()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var address = $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}";
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "unsafe"), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "unsafe", stop: "glass"));
        var stop = Assert.Single((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray());
        Assert.Equal("The glass is cracked or broken: no fire.", stop.Text("sentence"));
        Assert.Equal(1, (await client.ReadAsync("/api/today")).GetProperty("stops")[1].Number("stop", "stops"));
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("glass", "wearing", 1, "chip at a clip"));
        Assert.Empty((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray());
    }

    [Fact]
    public async Task Not_seen_needs_its_reason()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var address = $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}";
        var refused = await client.SendAsync(HttpMethod.Put, address, Saves.Finding("cap", "not-seen"), HttpStatusCode.BadRequest);
        Assert.Equal("Say why it was not seen.", refused.GetProperty("errors").GetProperty("note")[0].GetString());
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("cap", "not-seen", note: "ice on the roof"));
        await client.SendAsync(HttpMethod.Put, address, Saves.Finding("chimney pot", "sound"), HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Reversed_draft_or_carbon_monoxide_is_a_stop_while_the_entries_say_so()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(2);
        async Task<string[]> StopsAfter(int version, object hotTest)
        {
            await client.SendAsync(HttpMethod.Put, StepAddress(visit, "hot-test"), Saves.Step(version, "open", hotTest: hotTest));
            return [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray().Select(s => s.Text("stop", "code"))];
        }
        Assert.Equal(["spillage"], await StopsAfter(0, Saves.HotTest(-1.5)));
        // It follows the entries alone: not taken back, not overruled by hand.
        await client.SendAsync(HttpMethod.Delete, $"/api/visits/{visit}/findings/hot-test", new { }, HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("hot-test", "sound", 1), HttpStatusCode.BadRequest);
        Assert.Equal(["room-co"], await StopsAfter(1, Saves.HotTest(18, coPpm: 35)));
        Assert.Empty(await StopsAfter(2, Saves.HotTest(18, coPpm: 34)));
        Assert.Contains("find out why", (await client.ReadAsync($"/api/visits/{visit}")).Text("coMeaning"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Signing_wants_every_step_sets_the_next_date_and_is_final()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        var refused = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { }, HttpStatusCode.BadRequest);
        Assert.StartsWith("Still open: Booking, Load, Arrive", refused.GetProperty("errors").GetProperty("steps")[0].GetString(), StringComparison.Ordinal);

        var document = await client.ReadAsync($"/api/visits/{visit}");
        foreach (var code in document.GetProperty("steps").EnumerateArray().Select(s => s.Text("code")).Where(c => c != "next"))
            await client.SendAsync(HttpMethod.Put, StepAddress(visit, code), code == "sweep" ? Saves.Step(status: "skipped", reason: "snow on the roof") : Saves.Step());
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("baffle", "unsafe", stop: "baffle"));
        var signed = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { });
        Assert.Equal("signed", signed.Text("visit", "state"));
        Assert.Equal("Ida Varnholt", signed.Text("visit", "signedBy"));
        var today = DateOnly.Parse((await client.ReadAsync("/api/today")).Text("day"));
        Assert.Equal(today.AddMonths(12).ToString("yyyy-MM-dd"), signed.Text("visit", "nextInspection"));

        // Nothing changes it afterwards: not the endpoints, not a statement past them.
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "air"), Saves.Step(1, note: "later"), HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"), HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { }, HttpStatusCode.Conflict);
        foreach (var sql in new[]
        {
            $"update visits set purpose = 'x' where id = '{visit}' returning 1",
            $"delete from findings where visit_id = '{visit}' returning 1",
            $"update visit_steps set note = 'x' where visit_id = '{visit}' returning 1",
        })
        {
            var fault = await Assert.ThrowsAsync<PostgresException>(() => server.ScalarAsync<int>(sql));
            Assert.Equal("GR001", fault.SqlState);
        }
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/additions", new { id = Guid.CreateVersion7(), text = "The cap was seen later: sound." }, HttpStatusCode.NoContent);
        Assert.Equal("The cap was seen later: sound.", (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("additions")[0].Text("text"));

        // The stop stays on the stove until it is cleared with a re-test that passed.
        var stove = document.Text("stove", "id");
        var stop = Assert.Single((await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("stops").EnumerateArray()).Text("stop", "id");
        await client.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { what = "new board", retest = "", retestPassed = false }, HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { what = "new board", retest = "seated, hot test", retestPassed = true }, HttpStatusCode.NoContent);
        await client.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { what = "again", retest = "again", retestPassed = true }, HttpStatusCode.NotFound);
        Assert.Equal("Ida Varnholt", (await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("stops")[0].Text("stop", "clearedBy"));
    }

    [Fact]
    public async Task Earlier_visit_stands_beside_the_new_one()
    {
        var client = await server.SignedInAsync("technician");
        var document = await client.ReadAsync($"/api/visits/{await client.VisitAsync(0)}");
        Assert.Equal("signed", document.Text("earlier", "visit", "state"));
        Assert.NotEmpty(document.GetProperty("earlier").GetProperty("readings").EnumerateArray());
        Assert.NotEmpty(document.GetProperty("earlier").GetProperty("findings").EnumerateArray());
    }
}
