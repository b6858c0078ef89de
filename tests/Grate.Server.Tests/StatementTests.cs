using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net.Http.Json;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>How often a request asks the database: never once per row. Npgsql's own trace counts the statements.</summary>
public sealed class StatementTests : IDisposable
{
    private readonly GrateServer _server = new();

    public void Dispose() => _server.Dispose();

    [Fact]
    public async Task No_request_asks_the_database_once_per_row()
    {
        var client = await _server.SignedInAsync("technician");
        var visit = await client.VisitAsync(2);
        // Warm: what is read once per process is read.
        await client.ReadAsync($"/api/visits/{visit}");
        await client.ReadAsync("/api/today");
        Assert.InRange(await CountAsync(() => client.ReckonAsync(visit, "hot-draft", Saves.HotTest(14))), 1, 3);
        Assert.InRange(await CountAsync(() => client.ReadAsync($"/api/visits/{visit}")), 1, 8);
        Assert.InRange(await CountAsync(() => client.KeepAsync(visit, "hot-draft", Saves.HotTest(14))), 1, 10);
        // A stop from numbers goes with its save, and sets the dates anew.
        Assert.InRange(await CountAsync(() => client.KeepAsync(visit, "hot-draft", Saves.HotTest(14, coPpm: 120), version: 1)), 1, 10);
        Assert.InRange(await CountAsync(() => client.KeepAsync(visit, "hot-draft", Saves.HotTest(14), version: 2)), 1, 10);
        // A mark without a stop changes no date, and asks for none.
        Assert.InRange(await CountAsync(() => client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("latch", "sound"))), 1, 6);
        Assert.InRange(await CountAsync(() => client.ReadAsync("/api/today")), 1, 8);
        // The owner sees everybody's round: more stops, no more statements.
        var owner = await _server.SignedInAsync("owner");
        Assert.InRange(await CountAsync(() => owner.ReadAsync("/api/today")), 1, 8);
        Assert.InRange(await CountAsync(() => owner.ReadAsync("/api/stoves")), 1, 8);
    }

    private async Task<int> CountAsync(Func<Task> request)
    {
        var database = new NpgsqlConnectionStringBuilder(_server.ConnectionString).Database;
        var statements = new ConcurrentBag<string>();
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name == "Npgsql",
            Sample = (ref ActivityCreationOptions<ActivityContext> _) => ActivitySamplingResult.AllData,
            ActivityStopped = activity =>
            {
                var tags = activity.TagObjects.ToDictionary(t => t.Key, t => t.Value as string);
                var text = tags.GetValueOrDefault("db.query.text") ?? tags.GetValueOrDefault("db.statement");
                if (text is not null && (tags.GetValueOrDefault("db.namespace") ?? tags.GetValueOrDefault("db.name")) == database)
                    statements.Add(text);
            },
        };
        ActivitySource.AddActivityListener(listener);
        await request();
        return statements.Count;
    }
}
