using System.Net;
using System.Text.Json;
using Grate.Core;
using Microsoft.Extensions.DependencyInjection;

namespace Grate.Server.Tests;

/// <summary>A part is its own folders and one line in the list: an invented one travels all the way.</summary>
public class InventedPartTests
{
    private static Parts With(int schema) => new([.. Parts.All.List, new KettlePart(schema)]);

    private static object Save(object entry, int version = 0) => new { saveId = Guid.CreateVersion7(), baseVersion = version, entry };

    [Fact]
    public async Task Invented_part_is_typed_reckoned_saved_stopped_signed_reported_and_read_back_by_a_later_schema()
    {
        await using var server = new GrateServer { Replace = services => services.AddSingleton(With(1)) };
        var client = await server.SignedInAsync("owner");
        var visit = await client.VisitAsync(0);
        var stove = (await client.ReadAsync($"/api/visits/{visit}")).Text("stove", "id");
        var station = $"/api/visits/{visit}/steps/inside/stations/kettle";

        // The contract lists it, in both its steps, with its fields.
        var contract = await client.ReadAsync("/openapi/v1.json");
        Assert.True(contract.GetProperty("paths").TryGetProperty("/api/visits/{id}/steps/back-together/stations/kettle", out _));
        Assert.True(contract.GetProperty("components").GetProperty("schemas").GetProperty("Kettle").GetProperty("properties").TryGetProperty("kettleC", out _));
        Assert.Contains("descaler", (await client.ReadAsync("/api/today")).GetProperty("stops")[0].Text("fromTheVan"), StringComparison.Ordinal);
        Assert.Contains((await client.ReadAsync("/api/tables")).GetProperty("marks").EnumerateArray(), m => m.Text("code") == "kettle-spout");

        // Typed and reckoned, in the asked units; refused by field.
        var typed = await client.SendAsync(HttpMethod.Post, $"{station}/answer?units=us", new { kettleC = 40 });
        Assert.Equal("To the boil 108 °F are missing.", typed.GetProperty("sentences").Words());
        var refused = await client.SendAsync(HttpMethod.Put, station, Save(new { kettleC = 300 }), HttpStatusCode.BadRequest);
        Assert.StartsWith("Water must lie between 0 and 120 °C", refused.GetProperty("errors").GetProperty("kettleC")[0].GetString(), StringComparison.Ordinal);

        // Saved with its stop; the stop goes with the numbers.
        async Task<string[]> StopsAsync() => [.. (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("stops").EnumerateArray().Select(s => $"{s.Text("stop", "code")}: {s.Text("sentence")}")];
        await client.SendAsync(HttpMethod.Put, station, Save(new { kettleC = 110, lid = false }));
        Assert.Equal(["kettle-dry: The kettle boils dry: no fire."], await StopsAsync());
        await client.SendAsync(HttpMethod.Put, station, Save(new { kettleC = 80, lid = false }, 1));
        Assert.Empty(await StopsAsync());

        // It stands in the way of signing until its lid is back, and is missed where nobody looked.
        foreach (var step in Core.Visits.VisitSteps.All.Where(s => s.Code != "next"))
            await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/{step.Code}", Saves.Step());
        var signing = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("signing");
        Assert.Equal("The kettle's lid is off.", signing.GetProperty("refusals")[0].Text("sentence"));
        Assert.Contains(signing.GetProperty("missing").EnumerateArray(), m => m.Text("sentence") == "Nobody looked at the kettle.");
        await client.SendAsync(HttpMethod.Put, station, Save(new { kettleC = 80 }, 2));
        Assert.Equal("signed", (await client.SignAsync(visit)).Text("visit", "row", "state"));

        // Reported as it was kept, and its fact makes something due.
        var kept = (await client.ReadAsync($"/api/visits/{visit}")).Station("kettle");
        Assert.Equal("To the boil 20 K are missing.", kept.GetProperty("sentences").Words());
        Assert.Equal("80 °C", kept.GetProperty("blocks")[0].GetProperty("rows")[0][0].GetProperty("spans")[0].Text("text"));
        Assert.Contains((await client.ReadAsync($"/api/stoves/{stove}")).GetProperty("due").EnumerateArray(), d => d.Text("reason") == "The kettle stood at 80 °C.");

        // A later shape reads it; the record itself is not touched, and what was said stays.
        await using var later = new GrateServer(server) { Replace = services => services.AddSingleton(With(2)) };
        var reader = await later.SignedInAsync("office");
        var again = (await reader.ReadAsync($"/api/visits/{visit}")).Station("kettle");
        Assert.True(again.GetProperty("entry").GetProperty("lid").GetBoolean());
        Assert.Equal(JsonValueKind.Null, again.GetProperty("answer").ValueKind);
        Assert.Equal("To the boil 20 K are missing.", again.GetProperty("sentences").Words());
        Assert.Equal("1 {\"lid\": null, \"kettleC\": 80}", await server.ScalarAsync<string>($"select schema || ' ' || entry from station_entries where visit_id = '{visit}' and station = 'kettle'"));
    }
}
