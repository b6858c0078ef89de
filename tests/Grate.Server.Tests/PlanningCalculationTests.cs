using System.Net;
using System.Text;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Diagnosis, round and parts-order over HTTP: every name of the contract, and what is refused.</summary>
[Collection(nameof(OneServer))]
public class PlanningCalculationTests(GrateServer server)
{
    private async Task<JsonElement> AskAsync(string endpoint, string json, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var client = await server.SignedInAsync("technician");
        using var content = new StringContent(json, Encoding.UTF8, "application/json");
        var response = await client.PostAsync(new Uri($"/api/calculations/{endpoint}", UriKind.Relative), content);
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.StatusCode == expected, $"{(int)response.StatusCode} {text}");
        return JsonDocument.Parse(text).RootElement;
    }

    private static string[] Names(JsonElement element) => [.. element.EnumerateObject().Select(p => p.Name)];

    [Fact]
    public async Task Diagnosis_with_every_name_of_the_contract()
    {
        var answer = await AskAsync("diagnosis", """
            { "kind": "steel", "catalytic": false, "plus": ["grate"], "minus": [],
              "findings": { "wont-turn-down": true, "too-hot": false, "strip-fails": 0.2, "bricks-bad": "spent", "tubes-bad": "not-seen" },
              "burning": false, "fireAllowed": true, "closedVisits": { "door-rope": { "confirmed": 4, "applied": 31 } }, "proposals": true }
            """);
        Assert.Equal(["causes", "none", "unexplained", "doesNotFit", "best", "questions", "tests", "done", "assumed"], Names(answer));
        var first = answer.GetProperty("causes")[0];
        Assert.Equal(["cause", "probability", "prior", "for", "against"], Names(first));
        Assert.Equal(["finding", "weight"], Names(first.GetProperty("for")[0]));
        var test = answer.GetProperty("tests")[0];
        Assert.Equal(["test", "findings", "minutes", "gainBits", "bitsPerMin", "outcomes"], Names(test));
        var outcome = test.GetProperty("outcomes")[0];
        Assert.Equal(["findings", "probability", "top"], Names(outcome));
        Assert.Equal(["cause", "probability"], Names(outcome.GetProperty("top")[0]));
        Assert.Equal(3, outcome.GetProperty("top").GetArrayLength());
        Assert.True(answer.GetProperty("unexplained").TryGetProperty("wont-turn-down", out _));
        // Most probable first, all that this stove can have: with a grate ticked on, the ash door too.
        var causes = answer.GetProperty("causes").EnumerateArray().Select(c => c.Number("probability")).ToList();
        Assert.Equal(causes.OrderDescending(), causes);
        Assert.Contains(answer.GetProperty("causes").EnumerateArray(), c => c.Text("cause") == "ash-door");
        Assert.Equal(JsonValueKind.Null, answer.GetProperty("done").ValueKind);
    }

    [Theory]
    [InlineData("""{ "kind": "steel", "findings": { "smoke-lighting": 3 } }""", "findings.smoke-lighting")]
    [InlineData("""{ "kind": "steel", "findings": { "smoke-lighting": "spent" } }""", "findings.smoke-lighting")]
    [InlineData("""{ "kind": "steel", "findings": { "smoke-lighting": null } }""", "findings.smoke-lighting")]
    [InlineData("""{ "kind": "steel", "findings": { "smoke-lighting": [1] } }""", "findings.smoke-lighting")]
    [InlineData("""{ "kind": "steel", "findings": { "cells-blocked": 0.3 } }""", "findings.cells-blocked")]
    [InlineData("""{ "kind": "steel", "findings": { "ghosts": true } }""", "findings.ghosts")]
    [InlineData("""{ "kind": "stove" }""", "kind")]
    [InlineData("{ }", "kind")]
    [InlineData("""{ "kind": "cookstove", "catalytic": true }""", "catalytic")]
    [InlineData("""{ "kind": "steel", "closedVisits": { "door-rope": { "confirmed": 2, "applied": 1 } } }""", "closedVisits.door-rope")]
    public async Task Diagnosis_names_what_it_cannot_use(string question, string field) =>
        Assert.True((await AskAsync("diagnosis", question, HttpStatusCode.BadRequest)).GetProperty("errors").TryGetProperty(field, out _));

    [Fact]
    public async Task Round_with_every_name_of_the_contract()
    {
        var answer = await AskAsync("round", """
            { "stops": [ { "id": "s1", "lat": 47.1, "lon": 10.25, "serviceMin": 60, "window": [540, 660], "urgent": false, "coldFromMin": null, "needsDaylight": false },
                         { "id": "s2", "lat": 47.12, "lon": 10.3, "serviceMin": 90, "window": [800, 820], "urgent": true, "needsDaylight": true },
                         { "id": "s3", "lat": 49, "lon": 14, "serviceMin": 60 } ],
              "vans": [ { "id": "v1", "start": { "lat": 47.1, "lon": 10.2 }, "end": null, "dayStartMin": 480, "dayEndMin": 1020, "lunch": { "window": [690, 810], "minutes": 30 } } ],
              "daylight": [480, 960], "speedKmh": 45, "roadFactor": 1.3, "hardLateMin": 60 }
            """);
        Assert.Equal(["routes", "unplaced", "objective", "provenOptimal", "assumed"], Names(answer));
        var route = answer.GetProperty("routes")[0];
        Assert.Equal(["van", "departMin", "stops", "lunchStartMin", "endMin", "driveMin", "lateMin"], Names(route));
        Assert.Equal(["id", "arriveMin", "startMin", "leaveMin", "lateMin"], Names(route.GetProperty("stops")[0]));
        Assert.Equal(["unplacedUrgent", "unplaced", "driveMin", "lateMin", "cost"], Names(answer.GetProperty("objective")));
        Assert.Equal(("s3", "day-end"), (answer.GetProperty("unplaced")[0].Text("id"), answer.GetProperty("unplaced")[0].Text("reason")));
        Assert.Empty(answer.GetProperty("assumed").EnumerateArray());
        Assert.True(answer.GetProperty("provenOptimal").GetBoolean());
        // Lunch while it stands, before the second stop's window opens.
        Assert.InRange(route.Number("lunchStartMin"), 690, 810);
    }

    [Theory]
    [InlineData("""{ "stops": [ { "id": "a", "lat": 91, "lon": 10, "serviceMin": 60 } ], "vans": [] }""", "stops[0].lat")]
    [InlineData("""{ "stops": [ { "id": "a", "lat": 47, "lon": 10 } ], "vans": [] }""", "stops[0].serviceMin")]
    [InlineData("""{ "stops": [ { "id": "a", "lat": 47, "lon": 10, "serviceMin": 60, "window": [700, 600] } ], "vans": [] }""", "stops[0].window")]
    [InlineData("""{ "stops": [], "vans": [ { "id": "v" } ] }""", "vans[0].start")]
    [InlineData("""{ "stops": [], "vans": [], "speedKmh": 0 }""", "speedKmh")]
    [InlineData("""{ "stops": [], "vans": [ { "id": "v", "start": { "lat": 47, "lon": 10 }, "lunch": { "minutes": 30 } } ] }""", "vans[0].lunch.window")]
    public async Task Round_names_what_it_cannot_use(string question, string field) =>
        Assert.True((await AskAsync("round", question, HttpStatusCode.BadRequest)).GetProperty("errors").TryGetProperty(field, out _));

    [Fact]
    public async Task Parts_order_with_every_name_of_the_contract()
    {
        var answer = await AskAsync("parts-order", """
            { "today": "2026-08-03", "listWeekday": 1,
              "parts": [ { "id": "rope-12", "stock": 2, "packSize": 5, "packPrice": 18, "leadDays": 10 } ],
              "needs": [ { "partId": "rope-12", "quantity": 3, "needOn": "2026-09-14" } ] }
            """);
        Assert.Equal(["needs", "lists", "assumed"], Names(answer));
        Assert.Equal(["partId", "needOn", "fromStock", "packs", "orderBy", "listOn", "late", "arrivesOn", "inTime"], Names(answer.GetProperty("needs")[0]));
        Assert.Equal(["on", "lines", "total"], Names(answer.GetProperty("lists")[0]));
        Assert.Equal(["partId", "packs", "pieces", "cost"], Names(answer.GetProperty("lists")[0].GetProperty("lines")[0]));
        Assert.Equal("2026-08-31", answer.GetProperty("lists")[0].Text("on"));
        Assert.Contains("today", Names((await AskAsync("parts-order", """{ "parts": [], "needs": [] }""", HttpStatusCode.BadRequest)).GetProperty("errors")));
        Assert.Contains("needs[0].needOn", Names((await AskAsync("parts-order", """{ "today": "2026-08-03", "parts": [ { "id": "a" } ], "needs": [ { "partId": "a", "quantity": 1 } ] }""", HttpStatusCode.BadRequest)).GetProperty("errors")));
    }
}
