using System.Net;
using System.Text;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>POST /api/calculations/draft as the contract describes it.</summary>
[Collection(nameof(OneServer))]
public class DraftEndpointTests(GrateServer server)
{
    private const string Address = "/api/calculations/draft";

    // Handbook 01, worked case P01 with a reading of 16 Pa; property names of the contract.
    private const string P01 = """
        { "surroundings": { "outdoorC": 5, "indoorC": 20, "altitudeM": 0, "stationPressurePa": null, "windPa": 0 },
          "flue": { "segments": [
            { "label": "connector", "construction": "single-wall-steel", "shape": { "kind": "round", "diameterM": 0.15 },
              "riseM": 1.5, "lengthM": 1.5, "surroundings": "indoor", "resistanceM2KW": null, "roughnessMm": null, "fittings": [], "depositMm": 0 },
            { "construction": "insulated-50", "shape": { "kind": "round", "diameterM": 0.15 }, "riseM": 5, "lengthM": 5, "surroundings": "outdoor" } ],
            "cap": "low-resistance", "screen": false },
          "fire": { "collarGasC": 250, "level": "normal", "burnKgH": 2.0, "moistureWet": 0.18, "excessAir": 2.0,
                    "co2DryPct": null, "o2DryPct": null, "pipeSurfaceC": null },
          "reading": { "draftPa": 16.0 },
          "history": [ { "measuredPa": 18.5, "expectedPa": 19.8, "visitSigmaPa": 2.9 } ],
          "profile": true }
        """;

    private async Task<(HttpStatusCode Status, JsonElement Body)> AskAsync(string json)
    {
        var client = await server.SignedInAsync("technician");
        using var content = new StringContent(json, Encoding.UTF8, "application/json");
        var response = await client.PostAsync(new Uri(Address, UriKind.Relative), content);
        var text = await response.Content.ReadAsStringAsync();
        return (response.StatusCode, JsonDocument.Parse(text).RootElement);
    }

    [Fact]
    public async Task Worked_case_over_http_with_every_name_of_the_contract()
    {
        var (status, answer) = await AskAsync(P01);
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(26.6, answer.Number("expectedPa"), 1);
        Assert.Equal(19.2, answer.Number("lowPa"), 1);
        Assert.Equal(34.0, answer.Number("highPa"), 1);
        Assert.Equal(26.8, answer.Number("buoyancyPa"), 1);
        Assert.Equal(0.16, answer.Number("lossesPa"), 2);
        Assert.Equal(102.5, answer.Number("exitGasC"), 1);
        Assert.Equal(0.87, answer.Number("restated", "blockedShare"), 2);
        Assert.Equal(0.0130, answer.Number("restated", "leakKgS"), 4);
        Assert.Equal("below-expected", answer.Text("verdict"));
        Assert.Equal(["biasPa", "sigmaPa", "visits", "expectedPa", "lowPa", "highPa"],
            answer.GetProperty("baseline").EnumerateObject().Select(p => p.Name));
        foreach (var name in new[] { "housePa", "windPa", "meanGasC", "exitWallC", "dewPointC", "gasFlowKgS", "collarVelocityMS", "co2DryPct", "excessAir", "residualPa" })
            Assert.True(double.IsFinite(answer.Number(name)), name);
        Assert.Equal(12, answer.Number("need", "minPa"));
        Assert.Equal(30, answer.Number("need", "maxPa"));
        var point = answer.GetProperty("profile")[0];
        Assert.Equal(["heightM", "lengthM", "gasC", "wallC", "draftPa"], point.EnumerateObject().Select(p => p.Name));
        Assert.Equal(["input", "sigmaPa", "measurable"], answer.GetProperty("contributions")[0].EnumerateObject().Select(p => p.Name));
        Assert.Contains(answer.GetProperty("assumed").EnumerateArray(), a => a.Text("field") == "flue.segments[1].roughnessMm" && a.Number("value") == 1.0);
    }

    // Handbook 01, worked cases of sections 7 and 8, and a drawn roof; property names of the contract.
    [Fact]
    public async Task Cold_start_house_and_top_over_http()
    {
        var client = await server.SignedInAsync("office");
        var flue = JsonDocument.Parse(P01).RootElement.GetProperty("flue");
        var cold = await client.SendAsync(HttpMethod.Post, "/api/calculations/cold-start",
            new { surroundings = new { outdoorC = 12, indoorC = 20, outdoorColdC = 5, housePressurePa = -1.5 }, flue, source = "dryer" });
        Assert.Equal(-2.5, cold.Number("coldDraftPa"), 1);
        Assert.Equal(117, cold.Number("preheatS"), 0);
        Assert.Equal("plug", cold.Text("state"));
        Assert.True(cold.GetProperty("plug").GetBoolean());
        Assert.Equal(["coldDraftPa", "plug", "state", "targetGasC", "energyKj", "preheatS", "advice", "assumed"], cold.EnumerateObject().Select(p => p.Name));

        var house = await client.SendAsync(HttpMethod.Post, "/api/calculations/house-pressure",
            new { volumeM3 = 300, ach50 = 4, fansLS = (int[])[120], indoorC = 20, outdoorC = 0, altitudeM = 0, stoveHeightM = 1.0, neutralPlaneM = 2.5 });
        Assert.Equal(-10.4, house.Number("fanPa"), 1);
        Assert.Equal(55, house.Number("makeupLS"), 0);

        var top = await client.SendAsync(HttpMethod.Post, "/api/calculations/termination",
            new { roofPitchDeg = 45, ridgeDistanceM = 10, heightAbovePenetrationM = 1.0, collarDiameterM = 0.15, flueAreaM2 = 0.04, effectiveHeightM = 5 });
        Assert.Equal(3.6, top.Number("requiredAbovePenetrationM"), 9);
        Assert.Equal(2.6, top.Number("missingM"), 9);
        Assert.Equal("ok", top.Text("areaVerdict"));
        Assert.Equal("ok", top.Text("heightVerdict"));
        Assert.Equal(["rule", "limit", "found", "ok", "mark"], top.GetProperty("rules")[0].EnumerateObject().Select(p => p.Name));
        await client.SendAsync(HttpMethod.Post, "/api/calculations/termination", new { }, HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Fittings_may_be_words_or_their_own_zeta()
    {
        var (status, answer) = await AskAsync(P01.Replace("\"fittings\": []", "\"fittings\": [\"elbow-90\", { \"zeta\": 1.4, \"label\": \"odd\" }]", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.True(answer.Number("lossesPa") > 0.3);
    }

    [Fact]
    public async Task Refusal_is_a_problem_with_field_paths()
    {
        var (status, problem) = await AskAsync(P01.Replace("\"lengthM\": 5", "\"lengthM\": -5", StringComparison.Ordinal));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Equal("Length must lie between 0.02 and 40.00 m; −5.00 m was entered.", problem.GetProperty("errors").GetProperty("flue.segments[1].lengthM")[0].GetString());
    }

    [Theory]
    [InlineData("{ \"surroundings\": { \"outdoorC\": NaN } }", "surroundings.outdoorC")]
    [InlineData("{ \"surroundings\": { \"outdoorC\": \"5\" } }", "surroundings.outdoorC")]
    [InlineData("{ \"flue\": [", "flue")]
    [InlineData("not json", "body")]
    [InlineData("", "body")]
    [InlineData("{}", "surroundings.outdoorC")]
    public async Task Unreadable_bodies_get_a_sentence(string json, string field)
    {
        var (status, problem) = await AskAsync(json);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.True(problem.GetProperty("errors").TryGetProperty(field, out _), problem.ToString());
    }

    [Fact]
    public async Task Deep_json_is_refused()
    {
        var (status, _) = await AskAsync(string.Concat(Enumerable.Repeat("{\"flue\":", 100)) + "1" + new string('}', 100));
        Assert.Equal(HttpStatusCode.BadRequest, status);
    }

    [Fact]
    public async Task Stored_flue_answers_the_same_as_its_chain()
    {
        var client = await server.SignedInAsync("technician");
        var stove = (await client.ReadAsync("/api/today")).GetProperty("stops")[0].Text("stop", "applianceId");
        var document = await client.ReadAsync($"/api/stoves/{stove}");
        var stored = await client.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/draft", new { level = "high", outdoorC = -7 });
        var burnt = stored.GetProperty("answer").GetProperty("assumed").EnumerateArray().Single(a => a.Text("field") == "fire.burnKgH");
        Assert.StartsWith("high fire, by the stove's nominal", burnt.Text("reason"), StringComparison.Ordinal);
        var direct = await client.SendAsync(HttpMethod.Post, Address, new
        {
            surroundings = new { outdoorC = -7, altitudeM = document.Number("house", "altitudeM") },
            flue = document.GetProperty("flue").GetProperty("flue"),
            // The record knows the stove's output: its high fire is not everybody's.
            fire = new { level = "high", burnKgH = burnt.Number("value") },
        });
        Assert.Equal(direct.Number("expectedPa"), stored.Number("answer", "expectedPa"), 12);
        Assert.Equal(direct.Number("highPa"), stored.Number("answer", "highPa"), 12);
    }

    [Fact]
    public async Task Sentences_speak_the_asked_units()
    {
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(0);
        var us = await client.ReckonAsync(visit, "hot-draft", Saves.HotTest(9.0), units: "us");
        Assert.Contains("in w.c.", us.GetProperty("sentences").Words(), StringComparison.Ordinal);
        var refused = await client.ReckonAsync(visit, "hot-draft", Saves.HotTest(4000.0), HttpStatusCode.BadRequest, "us");
        Assert.Contains("Did you mean Pa?", refused.GetProperty("errors").GetProperty("draftPa")[0].GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Deposits_and_forecast_speak_the_contracts_names()
    {
        var client = await server.SignedInAsync("technician");
        var segments = new object[]
        {
            new { label = "connector", construction = "single-wall-steel", shape = new { kind = "round", diameterM = 0.15 }, riseM = 1.5, lengthM = 1.5, surroundings = "indoor" },
            new { label = "stack", construction = "insulated-50", shape = new { kind = "round", diameterM = 0.15 }, riseM = 5, lengthM = 5, surroundings = "outdoor" },
        };
        var deposits = await client.SendAsync(HttpMethod.Post, "/api/calculations/deposits", new
        {
            flue = new { segments, cap = "open", screen = false },
            surroundings = new { outdoorC = 0 },
            fire = new { collarGasC = 240 },
            technology = "conventional",
            habit = "mixed",
            stageByLabel = new { stack = new { stage = 2, mm = 1.5, worstMm = (double?)null } },
            sweptL = 5.0,
        });
        Assert.Equal(["label", "volumeL", "looseL", "massKg", "freeAreaShare", "wallC", "rateMmPer100Kg", "likelyStage"], deposits.GetProperty("segments")[1].EnumerateObject().Select(p => p.Name));
        Assert.Equal(1.400, deposits.Number("totalMassKg"), 3);
        Assert.Equal("as-computed", deposits.Text("sweptVerdict"));
        foreach (var name in new[] { "draftLostPa", "woodEquivalentKg", "worstRateMmPer100Kg" })
            Assert.True(double.IsFinite(deposits.Number(name)), name);

        var forecast = await client.SendAsync(HttpMethod.Post, "/api/calculations/sweep-forecast", new
        {
            lastSweep = "2026-05-20",
            today = (string?)null,
            leftMm = 0.2,
            modelMmPer100Kg = 0.06,
            observations = new[] { new { growthMm = 1.4, woodKg = 2600 } },
            woodKgPerYear = 3000,
            thresholdMm = 3,
            stopMm = 6,
            seasonStart = "10-01",
        });
        Assert.Equal(("2028-02-20", "2027-09-14", "2028-11-07"), (forecast.Text("p50Date"), forecast.Text("p90Date"), forecast.Text("stopDate")));
        Assert.Equal(("2027-05-20", "yearly"), (forecast.Text("nextSweep"), forecast.Text("bound")));
        Assert.Equal(["p10", "p50", "p90"], forecast.GetProperty("rateMmPer100Kg").EnumerateObject().Select(p => p.Name));
        Assert.Equal(["date", "p10Mm", "p50Mm", "p90Mm"], forecast.GetProperty("curve")[24].EnumerateObject().Select(p => p.Name));
        await client.SendAsync(HttpMethod.Post, "/api/calculations/sweep-forecast", new { lastSweep = "yesterday" }, HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Missing_parts_of_a_question_are_named()
    {
        var client = await server.SignedInAsync("technician");
        var refused = await client.ReckonAsync(await client.VisitAsync(0), "hot-draft", new { }, HttpStatusCode.BadRequest);
        Assert.Equal("readings is missing.", refused.GetProperty("errors").GetProperty("readings")[0].GetString());
    }
}
