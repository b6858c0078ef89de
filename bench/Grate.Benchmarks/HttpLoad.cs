using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;

namespace Grate.Benchmarks;

/// <summary>
/// 500 draft calculations a second over HTTP for 20 seconds, sent by the clock and not by the answers
/// (goal: p95 under 50 ms). Only to an address on this machine.
/// </summary>
internal static class HttpLoad
{
    private const int PerSecond = 500, Seconds = 20, WarmUpRequests = 3000;

    public static async Task<int> RunAsync(string address)
    {
        using var client = await SignedIn.ClientAsync(address);

        var times = new ConcurrentBag<double>();
        var failures = 0;
        var pending = new List<Task>();
        // A fresh server compiles its hot paths first: that is not what is measured.
        await Parallel.ForEachAsync(Enumerable.Range(0, WarmUpRequests), new ParallelOptions { MaxDegreeOfParallelism = 2 },
            async (_, stop) => (await client.PostAsJsonAsync("/api/calculations/draft", DraftBenchmark.Question, stop)).Dispose());
        await Task.Delay(TimeSpan.FromSeconds(2));
        var clock = Stopwatch.StartNew();
        for (var i = 0; i < PerSecond * Seconds; i++)
        {
            var due = TimeSpan.FromSeconds((double)i / PerSecond);
            if (due > clock.Elapsed)
                await Task.Delay(due - clock.Elapsed);
            pending.Add(OneAsync(due));
        }
        await Task.WhenAll(pending);

        var sorted = times.Order().ToArray();
        double At(double share) => sorted[(int)(share * (sorted.Length - 1))];
        Console.WriteLine($"http: {sorted.Length} answers at {PerSecond}/s, {failures} failed, p50 {At(0.5):0.0} ms, p95 {At(0.95):0.0} ms, p99 {At(0.99):0.0} ms, max {At(1):0.0} ms");
        return failures == 0 ? 0 : 1;

        async Task OneAsync(TimeSpan due)
        {
            using var response = await client.PostAsJsonAsync("/api/calculations/draft", DraftBenchmark.Question);
            // Measured from when it was due: a server that falls behind shows it.
            var milliseconds = (clock.Elapsed - due).TotalMilliseconds;
            if (!response.IsSuccessStatusCode)
                Interlocked.Increment(ref failures);
            else
                times.Add(milliseconds);
        }
    }
}
