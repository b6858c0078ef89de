using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>The household's wood, the plan and the order of the sweep, over HTTP.</summary>
[Collection(nameof(OneServer))]
public class SweepTests(GrateServer server)
{
    [Fact]
    public async Task Wood_found_on_arrival_is_saved_concluded_and_used_by_the_sweep()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(8);
        var little = new { pieces = new[] { new[] { 0.2, 0.21, 0.22 } }, meterBasis = "dry", wood = "hardwood", amount = 1.0, measure = "cord", habit = "hot" };
        var live = await client.ReckonAsync(visit, "wood", little);
        Assert.Equal(0.21 / 1.21, live.Number("moistureWet"), 9);
        await client.KeepAsync(visit, "wood", little);
        var saved = await client.KeptAsync(visit, "wood");
        Assert.Equal("cord", saved.Text("entry", "measure"));
        Assert.Equal(live.GetProperty("sentences").ToString(), saved.GetProperty("sentences").ToString());

        async Task<JsonElement> SweptAsync() => await client.ReckonAsync(visit, "deposits", new { });
        var hot = (await SweptAsync()).GetProperty("deposits").Number("worstRateMmPer100Kg");
        await client.KeepAsync(visit, "wood", new { habit = "slow" }, 1);
        Assert.True((await SweptAsync()).GetProperty("deposits").Number("worstRateMmPer100Kg") > 2 * hot);
        Assert.Contains((await SweptAsync()).GetProperty("whatIfs").EnumerateArray(), w => w.Text("code") == "hotter-fires");

        var refused = await client.KeepAsync(visit, "wood", new { woodC = -5, little.pieces }, 2, HttpStatusCode.BadRequest);
        Assert.Contains("Frozen wood", refused.GetProperty("errors").GetProperty("woodC")[0].GetString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Order_is_kept_and_no_visit_is_signed_with_a_part_off()
    {
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(9);
        var plan = (await client.ReckonAsync(visit, "deposits", new { })).GetProperty("plan");
        // The demo's visits are timed: the firm's own median counts.
        Assert.True(plan.Number("learnedFrom") >= 3);
        Assert.InRange(plan.Number("minutes"), 55, 85);
        var order = plan.GetProperty("order").EnumerateArray().Select(t => t.Text("code")).ToList();
        object Done(IEnumerable<string> done) => new { done };
        var refused = await client.KeepAsync(visit, "deposits", Done(["swept"]), 0, HttpStatusCode.BadRequest);
        Assert.Contains("Flue probe out", refused.GetProperty("errors").GetProperty("done")[0].GetString(), StringComparison.Ordinal);

        foreach (var step in Core.Visits.VisitSteps.All.Where(s => s.Code != "next"))
            await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/{step.Code}", Saves.Step());
        await client.KeepAsync(visit, "deposits", Done(order.TakeWhile(c => c != "refitted")));
        var off = await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", await client.SignatureAsync(visit), HttpStatusCode.BadRequest);
        Assert.Contains("no visit is finished with a part off", off.GetProperty("errors").GetProperty("steps")[0].GetString(), StringComparison.Ordinal);
        await client.KeepAsync(visit, "deposits", Done(order), 1);
        Assert.Equal("signed", (await client.SignAsync(visit)).Text("visit", "row", "state"));
    }
}
