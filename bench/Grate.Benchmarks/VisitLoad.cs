using System.Net.Http.Json;
using System.Text.Json;

namespace Grate.Benchmarks;

/// <summary>
/// A visit as it is worked in: its document, keystrokes in the hot test, saves, and Today (goal: p95 of keystrokes and saves
/// under 50 ms, of pages under 300 ms). Only to an address on this machine.
/// </summary>
internal static class VisitLoad
{
    private const int WarmUp = 100, Times = 500;

    public static async Task<int> RunAsync(string address)
    {
        using var client = await SignedIn.ClientAsync(address);
        var today = await client.GetFromJsonAsync<JsonElement>("/api/today");
        var visit = today.GetProperty("stops")[0].GetProperty("stop").GetProperty("visitId").GetString();
        var station = $"/api/visits/{visit}/steps/hot-test/stations/hot-draft";
        var version = 0;
        object Entry(int i) => new { readings = new[] { new { level = "normal", draftPa = 8 + i % 100 / 10.0, gasC = 230, outdoorC = 4 } } };
        await TimeAsync("today", _ => client.GetAsync(new Uri("/api/today", UriKind.Relative)));
        await TimeAsync("visit", _ => client.GetAsync(new Uri($"/api/visits/{visit}", UriKind.Relative)));
        await TimeAsync("keystroke", i => client.PostAsJsonAsync($"{station}/answer", Entry(i)));
        await TimeAsync("save", i => client.PutAsJsonAsync(station, new { saveId = Guid.CreateVersion7(), baseVersion = version++, entry = Entry(i) }));
        return 0;
    }

    private static async Task TimeAsync(string name, Func<int, Task<HttpResponseMessage>> ask) =>
        Console.WriteLine($"{name}: {Times} times, {Timed.Say(await Timed.AskAsync(WarmUp, Times, ask))}");
}
