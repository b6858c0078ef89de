using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Parts on stoves over HTTP: noted once, taken out, called back by their batch, from the delivery to the stove.</summary>
public class FittedTests
{
    [Fact]
    public async Task A_batch_that_is_called_back_is_found_on_stoves_and_in_vans()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var stove = await server.ScalarAsync<Guid>("select id from appliances where not combustor and out_at is null and id not in (select appliance_id from fitted_parts) order by id limit 1");
        Assert.Empty((await desk.ReadAsync($"/api/stoves/{stove}/parts")).GetProperty("noted").EnumerateArray());
        var part = new { id = Guid.CreateVersion7(), kind = "baffle", name = "vermiculite baffle", batch = "B-77", fittedOn = "2027-10-01", warrantyUntil = "2029-10-01" };
        // A technician on the road notes it, twice: it is one.
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part);
        var fitted = await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part);
        var line = Assert.Single(fitted.GetProperty("noted").EnumerateArray());
        Assert.Equal("2027-10-01", line.Text("bar", "fittedOn"));
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part with { name = "another" }, HttpStatusCode.BadRequest);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part with { id = Guid.CreateVersion7(), fittedOn = "2028-10-01" }, HttpStatusCode.BadRequest);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{Guid.CreateVersion7()}/parts", part, HttpStatusCode.NotFound);
        // One more lies in the store.
        await desk.SendAsync(HttpMethod.Post, "/api/stock", new { id = Guid.CreateVersion7(), kind = "baffle", amount = 1, batch = "b-77", bestBefore = "2030-01-01" });

        var recall = await desk.ReadAsync("/api/parts/recall?batch=B-77");
        Assert.Equal("On 1 stove; 1 piece lies in vans and store.", recall.Text("sentence"));
        Assert.Equal($"{stove}", Assert.Single(recall.GetProperty("stoves").EnumerateArray()).Text("applianceId"));
        Assert.Equal("On no stove; no piece lies in vans and store.", (await desk.ReadAsync("/api/parts/recall?batch=X")).Text("sentence"));
        // Taken out, it is called back no more, and its line stays.
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts/{part.id}/gone", new { });
        Assert.Empty((await desk.ReadAsync("/api/parts/recall?batch=b-77")).GetProperty("stoves").EnumerateArray());
        Assert.Equal(JsonValueKind.Null, Assert.Single((await desk.ReadAsync($"/api/stoves/{stove}/parts")).GetProperty("noted").EnumerateArray()).GetProperty("bar").ValueKind);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts/{Guid.CreateVersion7()}/gone", new { }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_comes_bears_its_batch_and_the_day_it_keeps_to()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var box = (await desk.ReadAsync("/api/stock")).GetProperty("offers").EnumerateArray().Single(o => o.Text("name") == "cement, box of 6 tubes");
        Assert.Equal((6.0, 24.0), (box.Number("minimum"), box.Number("shelfMonths")));
        await desk.SendAsync(HttpMethod.Post, "/api/parts/orders", new { saveId = Guid.CreateVersion7(), lines = (object[])[new { offerId = box.Text("id"), packs = 2 }] });
        var coming = (await desk.ReadAsync("/api/parts")).GetProperty("coming").EnumerateArray().Single(c => c.Text("name") == "cement, box of 6 tubes");
        await desk.SendAsync(HttpMethod.Post, $"/api/parts/orders/{coming.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 1, batch = "K-9" });
        var piece = (await desk.ReadAsync("/api/parts/recall?batch=k-9")).GetProperty("pieces").EnumerateArray().Single().GetProperty("piece");
        // The tests' day is 13 October 2027; cement keeps two years.
        Assert.Equal(("K-9", "2029-10-13", 6.0), (piece.Text("batch"), piece.Text("bestBefore"), piece.Number("amount")));
    }
}
