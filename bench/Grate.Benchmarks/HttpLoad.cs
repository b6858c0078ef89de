using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;
using System.Text.Json;

namespace Grate.Benchmarks;

/// <summary>
/// Calculations over HTTP for 20 seconds each, sent by the clock and not by the answers: 500 drafts a second (goal: p95 under 50 ms),
/// 50 diagnoses a second, and the suspects of 50 stoves a second (goal: p95 under 40 ms). Only to an address on this machine.
/// </summary>
internal static class HttpLoad
{
    private const int Seconds = 20, WarmUpSeconds = 6;

    public static async Task<int> RunAsync(string address)
    {
        using var client = await SignedIn.ClientAsync(address);
        var stoves = await client.GetFromJsonAsync<JsonElement>("/api/stoves?q=");
        var ids = stoves.GetProperty("stoves").EnumerateArray().Select(s => s.GetProperty("line").GetProperty("id").GetString()).ToList();
        var told = new { told = new Dictionary<string, bool> { ["sluggish"] = true, ["smoke-reload"] = true, ["worsening"] = false } };
        var failed = await RunAsync("draft", 500, _ => client.PostAsJsonAsync("/api/calculations/draft", DraftBenchmark.Question))
            + await RunAsync("diagnosis", 50, _ => client.PostAsJsonAsync("/api/calculations/diagnosis", new { kind = "steel", findings = told.told }))
            + await RunAsync("suspects", 50, i => client.PostAsJsonAsync($"/api/stoves/{ids[i % ids.Count]}/suspects", told));
        return failed == 0 ? 0 : 1;
    }

    private static async Task<int> RunAsync(string name, int perSecond, Func<int, Task<HttpResponseMessage>> send)
    {
        var times = new ConcurrentBag<double>();
        var failures = 0;
        var pending = new List<Task>();
        // A fresh server compiles its hot paths first: that is not what is measured.
        await Parallel.ForEachAsync(Enumerable.Range(0, WarmUpSeconds * perSecond), new ParallelOptions { MaxDegreeOfParallelism = 2 }, async (i, _) => (await send(i)).Dispose());
        await Task.Delay(TimeSpan.FromSeconds(2));
        var clock = Stopwatch.StartNew();
        for (var i = 0; i < perSecond * Seconds; i++)
        {
            var due = TimeSpan.FromSeconds((double)i / perSecond);
            if (due > clock.Elapsed)
                await Task.Delay(due - clock.Elapsed);
            pending.Add(OneAsync(i, due));
        }
        await Task.WhenAll(pending);

        var sorted = times.Order().ToArray();
        double At(double share) => sorted[(int)(share * (sorted.Length - 1))];
        Console.WriteLine($"http {name}: {sorted.Length} answers at {perSecond}/s, {failures} failed, p50 {At(0.5):0.0} ms, p95 {At(0.95):0.0} ms, p99 {At(0.99):0.0} ms, max {At(1):0.0} ms");
        return failures;

        async Task OneAsync(int i, TimeSpan due)
        {
            using var response = await send(i);
            // Measured from when it was due: a server that falls behind shows it.
            var milliseconds = (clock.Elapsed - due).TotalMilliseconds;
            if (!response.IsSuccessStatusCode)
                Interlocked.Increment(ref failures);
            else
                times.Add(milliseconds);
        }
    }
}
