using System.Collections.Concurrent;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Computes what is due from the records, and keeps it.</summary>
public sealed class DueKeeper(DueStore due, HistoryStore histories, Due rules, TimeProvider clock, ILogger<DueKeeper> log)
{
    private const int Batch = 400;

    /// <summary>What is due for a stove, visit by visit, in order of time.</summary>
    public async Task<IReadOnlyList<IReadOnlyList<DueTask>>> VisitsAsync(Guid applianceId) => [.. (await due.TasksAsync(applianceId)).Select(TasksOf)];

    /// <summary>Everything that is due for a stove: stops first, then by the day it is wanted.</summary>
    public async Task<IReadOnlyList<DueTask>> TasksAsync(Guid applianceId) =>
        [.. (await VisitsAsync(applianceId)).SelectMany(tasks => tasks).OrderBy(t => t.Kind != DueKind.Stop).ThenBy(t => t.By)];

    /// <summary>Tasks as kept.</summary>
    public static IReadOnlyList<DueTask> TasksOf(string kept) => JsonSerializer.Deserialize(kept, CoreJson.Default.DueTaskArray)!;

    /// <summary>Computes one stove again, after something it rests on was saved: what cannot be computed keeps no save from being answered.</summary>
    public async Task StoveAsync(Guid applianceId)
    {
        try
        {
            if (await histories.StoveAsync(applianceId) is { } stove)
                await KeepAsync([stove], stove.Firm.Day(clock.GetUtcNow()));
        }
        catch (Exception fault) when (!Database.Away(fault))
        {
            await TellAsync(applianceId, fault);
        }
    }

    /// <summary>Computes stoves again that just came, in batches.</summary>
    /// <param name="ids">Which.</param>
    /// <param name="today">The day at the firm's place.</param>
    /// <param name="computed">Told how many are computed.</param>
    public async Task StovesAsync(IReadOnlyList<Guid> ids, DateOnly today, Action<int> computed)
    {
        var learned = new ConcurrentDictionary<string, Task<IReadOnlyList<LearnedFact>>>();
        var done = 0;
        foreach (var batch in ids.Chunk(Batch))
        {
            await BatchAsync(batch, today, learned);
            computed(done += batch.Length);
        }
    }

    /// <summary>Computes every stove again, in batches: memory does not grow with the firm.</summary>
    /// <param name="today">The day at the firm's place.</param>
    /// <param name="end">Ends it between two batches.</param>
    /// <returns>How many stoves there are.</returns>
    public async Task<int> AllAsync(DateOnly today, CancellationToken end)
    {
        var learned = new ConcurrentDictionary<string, Task<IReadOnlyList<LearnedFact>>>();
        var seen = 0;
        // Two at a time: one computes while the other waits for the database.
        var working = new Queue<Task>();
        for (var last = Guid.Empty; ;)
        {
            end.ThrowIfCancellationRequested();
            var ids = await due.NextAsync(last, Batch);
            if (ids.Length == 0)
                break;
            (last, seen) = (ids[^1], seen + ids.Length);
            if (working.Count == 2)
                await working.Dequeue();
            working.Enqueue(Task.Run(() => BatchAsync(ids, today, learned), end));
        }
        await Task.WhenAll(working);
        return seen;
    }

    // A batch in which something fails is worked through stove by stove: what is wrong with one keeps no other's dates away.
    private async Task BatchAsync(Guid[] ids, DateOnly today, ConcurrentDictionary<string, Task<IReadOnlyList<LearnedFact>>> learned)
    {
        try
        {
            await TogetherAsync(ids, today, learned);
        }
        catch (Exception fault) when (fault is not OperationCanceledException && !Database.Away(fault))
        {
            if (ids is [var alone])
            {
                await TellAsync(alone, fault);
                return;
            }
            foreach (var id in ids)
                await BatchAsync([id], today, learned);
        }
    }

    private Task TellAsync(Guid applianceId, Exception fault)
    {
        log.LogError(fault, "What is due for stove {Stove} could not be computed", applianceId);
        return due.FaultAsync(applianceId, fault.Message, clock.GetUtcNow());
    }

    // What the firm's visits at a kind of stove say is asked for once a run.
    private async Task TogetherAsync(Guid[] ids, DateOnly today, ConcurrentDictionary<string, Task<IReadOnlyList<LearnedFact>>> learned)
    {
        var stoves = new List<StoveRecord>();
        foreach (var stove in await histories.StovesAsync(ids, [], rules.Reads))
        {
            var known = await learned.GetOrAdd(stove.History.Stove.Kind, async _ => (await histories.StoveAsync(stove.History.Stove.Id))!.History.Learned);
            stoves.Add(stove with { History = stove.History with { Learned = known } });
        }
        await KeepAsync(stoves, today);
    }

    private async Task KeepAsync(IReadOnlyList<StoveRecord> stoves, DateOnly today)
    {
        if (stoves.Count > 0)
            await due.KeepAsync(stoves[0].ReadAt, [.. stoves.Select(s => Compute(s, today))], Rules.Version);
    }

    private DueStoveRow Compute(StoveRecord stove, DateOnly today)
    {
        var history = stove.History;
        var tasks = rules.Tasks(history, stove.Firm.InspectionMonths, today);
        return new DueStoveRow(history.Stove.Id, WoodAnswer.To(FuelFacts.Newest(history), new EntryErrors(), UnitSystem.Metric)?.KgPerYear ?? 0,
            JsonSerializer.Serialize([.. rules.Wants(history, today)], CoreJson.Default.WantedPartArray),
            [.. Due.Visits(tasks, today).Select((v, i) => new DueVisitRow(history.Stove.Id, i + 1, v.Earliest, v.By, v.Latest, v.Urgent, v.Minutes,
                [.. v.Tasks.Select(t => Word.Of(t.Kind)).Distinct()], JsonSerializer.Serialize([.. v.Tasks], CoreJson.Default.DueTaskArray)))]);
    }
}
