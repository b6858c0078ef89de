using System.Diagnostics;
using System.Net.Http.Json;
using System.Net.ServerSentEvents;
using System.Text.Json;

namespace Grate.Benchmarks;

/// <summary>
/// 200 browsers listening to instruments at 4 Hz for a minute (goal: no frame lost, no memory that grows). A frame is
/// lost where an instrument's count jumps. Only to an address on this machine.
/// </summary>
internal static class LiveLoad
{
    private const int Streams = 200;
    private static readonly TimeSpan _settle = TimeSpan.FromSeconds(10), _listen = TimeSpan.FromSeconds(60);

    private static long _frames, _lost;

    public static async Task<int> RunAsync(string address, int serverId)
    {
        using var client = await SignedIn.ClientAsync(address);
        var today = await client.GetFromJsonAsync<JsonElement>("/api/today");
        var visit = today.GetProperty("stops")[0].GetProperty("stop").GetProperty("visitId").GetString();
        using var server = Process.GetProcessById(serverId);
        using var end = new CancellationTokenSource();
        var listening = Enumerable.Range(0, Streams).Select(_ => ListenAsync(client, visit!, end.Token)).ToArray();
        await Task.Delay(_settle);
        var before = MegaBytes(server);
        var frames = Interlocked.Read(ref _frames);
        await Task.Delay(_listen);
        var after = MegaBytes(server);
        frames = Interlocked.Read(ref _frames) - frames;
        await end.CancelAsync();
        await Task.WhenAll(listening);
        // Gauge and room pressure at 4 Hz, three instruments at 1 Hz.
        var due = Streams * _listen.TotalSeconds * (2 * 4 + 3);
        Console.WriteLine($"live: {Streams} streams, {frames} frames in {_listen.TotalSeconds:0} s ({frames / due:P1} of what was due), {_lost} lost, server memory {before:0} MB, then {after:0} MB");
        return _lost == 0 ? 0 : 1;
    }

    private static double MegaBytes(Process server)
    {
        server.Refresh();
        return server.WorkingSet64 / 1048576.0;
    }

    private static async Task ListenAsync(HttpClient client, string visit, CancellationToken end)
    {
        var last = new Dictionary<string, long>();
        try
        {
            await using var stream = await client.GetStreamAsync(new Uri($"/api/visits/{visit}/instruments", UriKind.Relative), end);
            await foreach (var item in SseParser.Create(stream).EnumerateAsync(end))
            {
                var frame = JsonDocument.Parse(item.Data).RootElement.GetProperty("frame");
                if (frame.ValueKind != JsonValueKind.Object)
                    continue;
                var (instrument, seq) = (frame.GetProperty("instrument").GetString()!, frame.GetProperty("seq").GetInt64());
                if (last.TryGetValue(instrument, out var before) && seq != before + 1)
                    Interlocked.Increment(ref _lost);
                last[instrument] = seq;
                Interlocked.Increment(ref _frames);
            }
        }
        catch (OperationCanceledException)
        {
            // The minute is over.
        }
    }
}
