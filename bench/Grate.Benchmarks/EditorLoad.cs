using System.Net.Http.Json;
using System.Text.Json;

namespace Grate.Benchmarks;

/// <summary>
/// Keystrokes in the flue editor: one technician types, each keystroke asks for layout, draft before and after and
/// what-ifs (goal: p95 under 50 ms over HTTP). Only to an address on this machine.
/// </summary>
internal static class EditorLoad
{
    private const int WarmUp = 300, Keystrokes = 1000;

    public static async Task<int> RunAsync(string address)
    {
        using var client = await SignedIn.ClientAsync(address);
        var found = await client.GetFromJsonAsync<JsonElement>("/api/stoves?q=cookstove");
        var stove = found.GetProperty("stoves")[0].GetProperty("line").GetProperty("id").GetString();
        var flue = (await client.GetFromJsonAsync<JsonElement>($"/api/stoves/{stove}/flue")).GetProperty("flue");
        var times = await Timed.AskAsync(WarmUp, Keystrokes, i => client.PostAsJsonAsync($"/api/stoves/{stove}/flue/trial",
            new { stoveXM = 1 + i % 100 / 100.0, flue = flue.GetProperty("flue"), obstacles = Array.Empty<object>(), level = "normal", outdoorC = 0 }));
        Console.WriteLine($"editor: {Keystrokes} keystrokes, {Timed.Say(times)}");
        return 0;
    }
}
