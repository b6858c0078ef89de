using System.Diagnostics;

namespace Grate.Benchmarks;

/// <summary>Requests one after the other, as one person makes them.</summary>
internal static class Timed
{
    /// <summary>Asks so often without looking at the clock, then so often with it.</summary>
    /// <returns>Milliseconds from request to the last byte, in order.</returns>
    public static async Task<List<double>> AskAsync(int warmUp, int times, Func<int, Task<HttpResponseMessage>> ask)
    {
        var taken = new List<double>();
        for (var i = 0; i < warmUp + times; i++)
        {
            var clock = Stopwatch.StartNew();
            using var response = await ask(i);
            response.EnsureSuccessStatusCode();
            await response.Content.ReadAsByteArrayAsync();
            if (i >= warmUp)
                taken.Add(clock.Elapsed.TotalMilliseconds);
        }
        taken.Sort();
        return taken;
    }

    /// <summary>Median, the time that 95 of 100 stay under, and the longest.</summary>
    public static string Say(IReadOnlyList<double> sorted) =>
        $"p50 {sorted[sorted.Count / 2]:0.0} ms, p95 {sorted[(int)(sorted.Count * 0.95)]:0.0} ms, max {sorted[^1]:0.0} ms";
}
