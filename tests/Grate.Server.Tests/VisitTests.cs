using System.Net;
using System.Text.Json;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;
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
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(9.0));
        var kept = await client.KeptAsync(visit, "hot-draft");
        var fire = kept.GetProperty("answer").GetProperty("fires")[0];
        Assert.Equal(9.0, fire.Number("readingPa"));
        Assert.Equal(-5, kept.GetProperty("entry").GetProperty("readings")[0].Number("outdoorC"));
        Assert.Equal("below-expected", fire.Text("answer", "verdict"));
        Assert.Equal(Core.Rules.Version, kept.Text("rulesVersion"));
        // What is said while typing is what is kept, and what the report prints.
        var now = await client.ReckonAsync(visit, "hot-draft", Saves.HotTest(9.0));
        Assert.Equal(now.GetProperty("fires")[0].Number("answer", "expectedPa"), fire.Number("answer", "expectedPa"), 9);
        Assert.Equal(now.GetProperty("sentences").Words(), kept.GetProperty("sentences").Words());
        Assert.Contains("you read 9.0 Pa", kept.GetProperty("sentences").Words(), StringComparison.Ordinal);
        Assert.Equal("below what this flue should pull; outdoors −5 °C, flue gas 230 °C", kept.GetProperty("blocks")[0].GetProperty("rows")[0][3].GetProperty("spans")[0].Text("text"));
        Assert.Equal(JsonValueKind.Null, kept.GetProperty("now").ValueKind);

        // A reading that cannot be is refused, and nothing is saved.
        var refused = await client.KeepAsync(visit, "hot-draft", Saves.HotTest(900), 1, HttpStatusCode.BadRequest);
        Assert.Contains("Draft", refused.GetProperty("errors").GetProperty("draftPa")[0].GetString(), StringComparison.Ordinal);
        Assert.Equal((1, 9.0), ((int)(await client.KeptAsync(visit, "hot-draft")).Number("version"), (await client.KeptAsync(visit, "hot-draft")).GetProperty("answer").GetProperty("fires")[0].Number("readingPa")));
    }

    // Two devices, one station: the second is told, whatever it holds; a lost send is known by its id alone.
    [Fact]
    public async Task Another_devices_reading_is_never_replaced_unseen()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        var (mine, id) = (Saves.HotTest(9), Guid.CreateVersion7());
        Assert.Equal(id.ToString(), (await client.KeepAsync(visit, "hot-draft", mine, 0, id: id)).Text("saveId"));
        Assert.Equal(1, (await client.KeepAsync(visit, "hot-draft", mine, 0, id: id)).Number("version"));
        var stale = await client.KeepAsync(visit, "hot-draft", Saves.HotTest(21), 0, HttpStatusCode.Conflict);
        Assert.Equal(id.ToString(), stale.Text("stored", "saveId"));
        Assert.Equal(9, stale.GetProperty("stored").GetProperty("entry").GetProperty("readings")[0].Number("draftPa"));
    }

    // Worn before and renewed: both are findings of the visit.
    [Fact]
    public async Task Mark_belongs_to_part_and_step()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        Task<JsonElement> MarkAsync(string step, string condition, HttpStatusCode expected = HttpStatusCode.OK) => client.SendAsync(HttpMethod.Put,
            $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("door-rope", condition, step: step), expected);
        await MarkAsync("cold-checks", "wearing");
        // One word counts: that "sound" takes the place of "wearing" is said knowingly, and the one before is shown.
        var asked = await MarkAsync("back-together", "sound", HttpStatusCode.BadRequest);
        Assert.Equal("wearing", asked.Text("covered"));
        Assert.Contains("Cold checks says that the door rope is wearing", asked.GetProperty("errors").GetProperty("covers")[0].GetString(), StringComparison.Ordinal);
        Assert.Equal("wearing", await WordAsync());
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("door-rope", "sound", step: "back-together", covers: "spent"), HttpStatusCode.BadRequest);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("door-rope", "sound", step: "back-together", covers: "wearing"));
        Assert.Equal("sound", await WordAsync());
        async Task<string> WordAsync() => (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("words").EnumerateArray().Single(w => w.Text("part") == "door-rope").Text("condition");
        Assert.Equal(["sound back-together", "wearing cold-checks"], (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("findings").EnumerateArray()
            .Where(f => f.Text("part") == "door-rope").Select(f => $"{f.Text("condition")} {f.Text("step")}").Order());
        await MarkAsync("sweep", "sound", HttpStatusCode.BadRequest);
    }

    [Theory]
    [InlineData("draft", "wearing", "condition")]
    [InlineData("clearances", "wearing", "condition")]
    [InlineData("spill", "wearing", "condition")]
    public async Task Words_that_do_not_fit_a_part_are_refused(string part, string condition, string field)
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var refused = await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding(part, condition), HttpStatusCode.BadRequest);
        Assert.Contains("does not fit", refused.GetProperty("errors").GetProperty(field)[0].GetString(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("9999-12-31")]
    [InlineData("2020-01-01")]
    public async Task Days_to_look_again_have_a_range(string day)
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var refused = await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("latch", "wearing", lookAgain: day), HttpStatusCode.BadRequest);
        Assert.Contains("lies between the visit and 13 October 2032", refused.GetProperty("errors").GetProperty("lookAgain")[0].GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Control_characters_are_refused_with_their_field()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(1);
        var refused = await client.SendAsync(HttpMethod.Put, StepAddress(visit, "agree"), Saves.Step(note: "fire\u0000out"), HttpStatusCode.BadRequest);
        Assert.Equal("note holds a character that cannot be kept: take it out.", refused.GetProperty("errors").GetProperty("note")[0].GetString());
        // Wherever a text stands, and in an address too.
        refused = await client.KeepAsync(visit, "agreement", new { name = "A.\u0007" }, expected: HttpStatusCode.BadRequest);
        Assert.Equal("entry.name holds a character that cannot be kept: take it out.", refused.GetProperty("errors").GetProperty("entry.name")[0].GetString());
        Assert.Contains("A search", (await client.ReadAsync("/api/stoves?q=a%00b", HttpStatusCode.BadRequest)).GetProperty("errors").GetProperty("q")[0].GetString(), StringComparison.Ordinal);
        Assert.Contains("A place", (await client.ReadAsync("/api/season?place=%00", HttpStatusCode.BadRequest)).GetProperty("errors").GetProperty("place")[0].GetString(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("22021")]
    [InlineData("22003")]
    [InlineData("23514")]
    public async Task What_the_database_cannot_keep_is_not_told_as_the_database_being_away(string state)
    {
        var context = new DefaultHttpContext { RequestServices = server.Services };
        using var body = new MemoryStream();
        context.Response.Body = body;
        Assert.True(await new Faults(server.Services.GetRequiredService<IProblemDetailsService>(), TimeProvider.System, NullLogger<Faults>.Instance)
            .TryHandleAsync(context, new PostgresException("refused", "ERROR", "ERROR", state, columnName: "next_inspection"), CancellationToken.None));
        Assert.Equal(400, context.Response.StatusCode);
        Assert.Contains("nextInspection cannot be kept as it was sent.", System.Text.Encoding.UTF8.GetString(body.ToArray()), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("skipped", "", "reason", "Say why this step is skipped.")]
    [InlineData("finished", "", "status", "How far a step is “finished” is not known: one of open, done, skipped.")]
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
        await client.SendAsync(HttpMethod.Put, $"{StepAddress(visit, "agree")}/stations/hot-draft", new { }, HttpStatusCode.NotFound);
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
    public async Task Signing_wants_every_step_sets_the_next_date_and_is_final()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        var refused = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { }, HttpStatusCode.BadRequest);
        Assert.StartsWith("Still open: Booking, Load, Arrive", refused.GetProperty("errors").GetProperty("steps")[0].GetString(), StringComparison.Ordinal);

        var document = await client.ReadAsync($"/api/visits/{visit}");
        foreach (var code in document.GetProperty("steps").EnumerateArray().Select(s => s.Text("code")).Where(c => c != "next"))
            await client.SendAsync(HttpMethod.Put, StepAddress(visit, code), code == "sweep" ? Saves.Step(status: "skipped", reason: "snow on the roof") : Saves.Step(Step(document, code).GetProperty("saved").ValueKind == JsonValueKind.Null ? 0 : 1));
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("baffle", "unsafe", stop: "baffle"));

        await client.KeepAsync(visit, "ash", new { depthMm = 20 });

        // What is missing is named, asks for a reason each, and signing is asked once more.
        var missing = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("signing").GetProperty("missing").EnumerateArray().ToDictionary(m => m.Text("code"), m => m.Text("sentence"));
        Assert.Equal("The wood is unknown: no moisture, no amount.", missing["wood"]);
        Assert.Contains("parts are not marked: fuel and moisture", missing["parts"], StringComparison.Ordinal);
        // A step that was skipped with a reason misses nothing more.
        Assert.DoesNotContain("deposits", missing.Keys);
        var why = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { confirmed = true }, HttpStatusCode.BadRequest);
        Assert.Contains("Say why, or go back and do it.", why.GetProperty("errors").GetProperty("reasons.wood")[0].GetString(), StringComparison.Ordinal);
        var reasons = missing.Keys.ToDictionary(k => k, _ => "household in a hurry");
        var once = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { confirmed = false, reasons }, HttpStatusCode.BadRequest);
        Assert.True(once.GetProperty("errors").TryGetProperty("confirmed", out _));
        var signed = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { confirmed = true, reasons });
        Assert.Equal("household in a hurry", signed.Text("visit", "leftOut", "wood"));
        Assert.Equal("signed", signed.Text("visit", "row", "state"));
        Assert.Equal("Ida Varnholt", signed.Text("visit", "row", "signedBy"));
        var today = DateOnly.Parse((await client.ReadAsync("/api/today")).Text("day"));
        // The flue was not looked at: it was no inspection, and the date stays where the last one set it.
        Assert.Equal((false, "Not checked: flue."), (signed.GetProperty("inspection").GetBoolean(), signed.Text("notChecked")));
        Assert.NotEqual(today.AddMonths(12).ToString("yyyy-MM-dd"), signed.Text("visit", "row", "nextInspection"));

        // Nothing changes it afterwards: not the endpoints, not a statement past them.
        await client.SendAsync(HttpMethod.Put, StepAddress(visit, "air"), Saves.Step(1, note: "later"), HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"), HttpStatusCode.Conflict);
        await client.KeepAsync(visit, "wood", new { amount = 1 }, 0, HttpStatusCode.Conflict);
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", new { }, HttpStatusCode.Conflict);
        foreach (var sql in new[]
        {
            $"update visits set purpose = 'x' where id = '{visit}' returning 1",
            $"delete from findings where visit_id = '{visit}' returning 1",
            $"update visit_steps set note = 'x' where visit_id = '{visit}' returning 1",
            $"update station_entries set entry = '{{}}' where visit_id = '{visit}' returning 1",
            $"insert into station_facts (visit_id, step, station, name, value) values ('{visit}', 'hot-test', 'hot-draft', 'hot.low.draft-pa', 1) returning 1",
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
        var earlier = document.GetProperty("steps").EnumerateArray().SelectMany(s => s.GetProperty("stations").EnumerateArray()).Single(s => s.Text("code") == "hot-draft").GetProperty("earlier");
        Assert.NotEmpty(earlier.GetProperty("readings").EnumerateArray());
        Assert.NotEmpty(document.GetProperty("earlier").GetProperty("findings").EnumerateArray());
    }

    [Fact]
    public async Task Visit_that_has_not_begun_is_not_signed()
    {
        var client = await server.SignedInAsync("owner");
        var tomorrow = (await client.ReadAsync("/api/today")).GetProperty("tomorrow")[0].Text("stop", "visitId");
        var refused = await client.SendAsync(HttpMethod.Post, $"/api/visits/{tomorrow}/sign", new { confirmed = true }, HttpStatusCode.BadRequest);
        Assert.Equal("This visit is planned for 14 October 2027: nobody signs a visit that has not begun.", refused.GetProperty("errors").GetProperty("steps")[0].GetString());
    }

    // What Today expects is what the visit expects while nothing was typed.
    [Fact]
    public async Task Todays_figure_and_the_visits_agree()
    {
        var client = await server.SignedInAsync("owner");
        foreach (var stop in (await client.ReadAsync("/api/today")).GetProperty("stops").EnumerateArray().Take(6))
        {
            var fire = (await client.ReckonAsync(stop.Text("stop", "visitId"), "hot-draft", new { readings = new[] { new { level = "normal" } } })).GetProperty("fires")[0];
            Assert.Contains(stop.Text("expectedDraft"), fire.GetProperty("reckoning").GetProperty("sentences").Words(), StringComparison.Ordinal);
        }
    }
}
