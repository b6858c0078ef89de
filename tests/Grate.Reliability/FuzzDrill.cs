using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;

namespace Grate.Reliability;

/// <summary>Every endpoint of the OpenAPI document, asked what nobody asks.</summary>
public class FuzzDrill
{
    private const int Seed = 20271013;

    [Fact]
    public async Task No_request_is_answered_with_a_fault_of_the_server_or_leaves_half_of_something()
    {
        using var app = new GrateApp(GrateApp.Wednesday, settings: [("Limits__SignInsPerMinute", "100000"), ("Limits__CalculationsPerSecond", "100000"), ("Limits__StreamsPerPerson", "2")]);
        using var owner = await Drill.ClientAsync(app);
        var document = await owner.ReadAsync("/openapi/v1.json");
        var visits = await Drill.VisitsAsync(owner);
        var stoves = (await owner.ReadAsync("/api/stoves")).GetProperty("stoves").EnumerateArray().Select(s => s.Text("line", "id")).ToArray();
        // The people stay: whoever asks has to stay signed in.
        var ids = new Dictionary<string, string[]>
        {
            ["/api/visits"] = [.. visits],
            ["/api/stoves"] = stoves,
            ["/api/people"] = [Guid.CreateVersion7().ToString()],
            [""] = [.. visits, .. stoves, Guid.CreateVersion7().ToString()],
        };
        var (faults, answers, asked) = (new ConcurrentBag<string>(), new ConcurrentDictionary<HttpStatusCode, int>(), 0);
        var (time, watch) = (Drill.Seconds(25), Stopwatch.StartNew());
        await Task.WhenAll(Enumerable.Range(0, 6).Select(worker => Task.Run(async () =>
        {
            using var client = await Drill.ClientAsync(app, worker % 3 == 0 ? "technician" : "owner");
            var fuzzer = new Fuzzer(document, ids, Seed + worker);
            var requests = worker == 1 ? fuzzer.Holes() : Enumerable.Range(worker, int.MaxValue - worker).TakeWhile(_ => watch.Elapsed < time).Select(fuzzer.Next);
            foreach (var next in requests)
            {
                using var request = next;
                // Signing out would leave the rest of the drill at the door.
                if (request.Method == HttpMethod.Delete && request.RequestUri!.ToString().StartsWith("/api/session", StringComparison.Ordinal))
                    continue;
                var body = request.Content is null ? "" : System.Text.Encoding.UTF8.GetString(await request.Content.ReadAsByteArrayAsync());
                using var response = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
                Interlocked.Increment(ref asked);
                answers.AddOrUpdate(response.StatusCode, 1, (_, count) => count + 1);
                if (response.StatusCode >= HttpStatusCode.InternalServerError)
                    faults.Add($"{(int)response.StatusCode} {request.Method} {request.RequestUri} {request.Content?.Headers.ContentType} {body[..Math.Min(body.Length, 400)]}");
                // The household's page has its sentence as a page: whoever reads it is no program.
                else if (response.StatusCode == HttpStatusCode.NotFound && (request.RequestUri!.AbsolutePath.StartsWith("/h/", StringComparison.Ordinal) || request.RequestUri.AbsolutePath.StartsWith("/v/", StringComparison.Ordinal)) && response.Content.Headers.ContentType?.MediaType == "text/html")
                {
                    if (!(await response.Content.ReadAsStringAsync()).Contains("<main><p>", StringComparison.Ordinal))
                        faults.Add($"404 without a sentence: {request.RequestUri}");
                }
                // %00 in a path is refused by the web server itself, before anything of Grate's.
                else if (response.StatusCode >= HttpStatusCode.BadRequest && !request.RequestUri!.AbsolutePath.Contains("%00", StringComparison.Ordinal) && request.Method != HttpMethod.Head && response.Content.Headers.ContentType?.MediaType is not "application/problem+json")
                    faults.Add($"{(int)response.StatusCode} without a sentence: {request.Method} {request.RequestUri} {response.Content.Headers.ContentType}");
            }
        })));
        Drill.Figures($"fuzzing: {asked} requests to {document.GetProperty("paths").EnumerateObject().Count()} addresses, seed {Seed}: {string.Join(", ", answers.OrderBy(a => a.Key).Select(a => $"{a.Value} × {(int)a.Key}"))}; {faults.Count} faults");
        Assert.True(faults.IsEmpty, string.Join("\n", faults.Take(12)));
        await Drill.SoundAsync(app);
        Assert.Equal(1, app.Scalar<long>("select count(*) from firm"));
        await owner.ReadAsync("/api/today");
        foreach (var visit in visits)
            await owner.ReadAsync($"/api/visits/{visit}");
    }
}
