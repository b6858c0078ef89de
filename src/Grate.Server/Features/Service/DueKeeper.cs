using System.Collections.Concurrent;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Service;
using Grate.Server.Features.Deposits;
using Grate.Server.Features.Flue;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Computes what is due from the records, and keeps it.</summary>
public sealed class DueKeeper(DueStore due, SweepStore sweeps, FirmStore firms, TimeProvider clock, ILogger<DueKeeper> log)
{
    private const int Batch = 400;

    /// <summary>What is due for a stove, visit by visit, in order of time.</summary>
    public async Task<IReadOnlyList<IReadOnlyList<DueTask>>> VisitsAsync(Guid applianceId) => [.. (await due.TasksAsync(applianceId)).Select(TasksOf)];

    /// <summary>Everything that is due for a stove, by the day it is wanted.</summary>
    public async Task<IReadOnlyList<DueTask>> TasksAsync(Guid applianceId) => [.. (await VisitsAsync(applianceId)).SelectMany(tasks => tasks)];

    /// <summary>Tasks as kept.</summary>
    public static IReadOnlyList<DueTask> TasksOf(string kept) => JsonSerializer.Deserialize<DueTask[]>(kept, Json.Options)!;

    /// <summary>Computes one stove again, after something it rests on changed.</summary>
    public async Task StoveAsync(Guid applianceId)
    {
        var firm = await firms.GetAsync();
        await KeepAsync([applianceId], firm, firm.Day(clock.GetUtcNow()), []);
    }

    /// <summary>Computes every stove again, in batches: memory does not grow with the firm.</summary>
    /// <param name="today">The day at the firm's place.</param>
    /// <param name="end">Ends it between two batches.</param>
    /// <returns>How many stoves there are.</returns>
    public async Task<int> AllAsync(DateOnly today, CancellationToken end)
    {
        var learned = new ConcurrentDictionary<string, Task<LearnedMinutes?>>();
        var firm = await firms.GetAsync();
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
            working.Enqueue(Task.Run(() => KeepAsync(ids, firm, today, learned), end));
        }
        await Task.WhenAll(working);
        return seen;
    }

    // What the firm's sweeps of a kind took is asked for once a run.
    private async Task KeepAsync(Guid[] ids, Firm firm, DateOnly today, ConcurrentDictionary<string, Task<LearnedMinutes?>> learned)
    {
        var now = clock.GetUtcNow().UtcDateTime;
        var (readAt, stoves) = await due.ReadAsync(ids);
        var rows = new List<DueStoveRow>();
        foreach (var stove in stoves)
        {
            var minutes = await learned.GetOrAdd(stove.Stove.Kind, kind => sweeps.LearnedAsync(kind, now));
            try
            {
                rows.Add(Compute(stove, firm, today, minutes));
            }
            catch (Exception fault) when (fault is InvalidOperationException or JsonException)
            {
                // One stove whose records cannot be read must not keep the others' dates from being computed.
                log.LogError(fault, "What is due for stove {Stove} could not be computed", stove.Stove.Id);
            }
        }
        await due.KeepAsync(readAt, rows, Rules.Version);
    }

    // A stove that was never inspected is due a year after its flue was built.
    private static DueStoveRow Compute(DueInput input, Firm firm, DateOnly today, LearnedMinutes? learned)
    {
        var place = SweepRecords.PlaceOf(input.Stove, input.Flue, input.Wood, input.Sweeps, input.Combustor) with { Learned = learned };
        var last = place.Last();
        var dates = last is { } swept ? SweepAnswer.DatesOf(swept.Sweep.RecordHere, swept.Before, swept.Sweep.Day, today) : null;
        var minutes = MinutesOf(input.Flue, place, last?.Sweep.RecordHere);
        var tasks = Due.Tasks(new DueRecords(input.NextInspection ?? Intervals.NextInspection(input.Flue.ValidFrom, firm.InspectionMonths), last?.Sweep.Day, dates,
            [.. input.Parts.Select(p => new PartSeen(p.Part, p.Condition, p.Seen, p.LookAgain))], [.. input.Stops.Select(s => (s.Code, s.SetOn))]));
        return new DueStoveRow(input.Stove.Id, WoodAnswer.To(place.Wood, new EntryErrors(), UnitSystem.Metric)?.KgPerYear ?? 0,
            [.. Due.Visits(tasks, minutes, today).Select((v, i) => new DueVisitRow(input.Stove.Id, i + 1, v.Earliest, v.By, v.Latest, v.Urgent, v.Minutes,
                [.. v.Tasks.Select(t => Word.Of(t.Kind)).Distinct()], JsonSerializer.Serialize(v.Tasks, Json.Options)))]);
    }

    // What hung there at the last sweep is what the next one will meet.
    private static double? MinutesOf(FlueVersion flue, SweepPlace place, SweepRecord? last)
    {
        var chain = FlueRecords.ReadStored(flue);
        // Glaze that was treated comes back as flakes first.
        var worst = last?.GlazeLeft == true ? 3 : 2;
        return SweepPlan.For(chain, place.Features, [.. chain.Segments.Select(s => Math.Min(worst, last?.Found?.GetValueOrDefault(s.Label)?.Stage ?? 1))],
            place.Learned, UnitSystem.Metric).Minutes;
    }
}
