using Grate.Core.Deposits;

namespace Grate.Core.Service;

/// <summary>What kind of rule makes something due.</summary>
public enum DueKind
{
    /// <summary>A stop that is to be cleared.</summary>
    Stop,

    /// <summary>A part that was to be looked at again.</summary>
    LookAgain,

    /// <summary>The sweep.</summary>
    Sweep,

    /// <summary>The inspection of stove and flue.</summary>
    Inspection,

    /// <summary>A part that was not seen for its interval.</summary>
    Part,
}

/// <summary>Something that is due for a stove.</summary>
/// <param name="Kind">Which rule says so.</param>
/// <param name="Part">The part it is about, or the stop's code; null where it is the whole stove.</param>
/// <param name="Earliest">Before this it is too early to make sense.</param>
/// <param name="By">Wanted by.</param>
/// <param name="Latest">Must be done by.</param>
/// <param name="Reason">Why, in a sentence.</param>
public sealed record DueTask(DueKind Kind, string? Part, DateOnly Earliest, DateOnly By, DateOnly Latest, string Reason);

/// <summary>Tasks of a stove that one visit does together.</summary>
/// <param name="Earliest">First sensible day.</param>
/// <param name="By">Wanted by.</param>
/// <param name="Latest">Must be done by.</param>
/// <param name="Urgent">Whether a stop stands.</param>
/// <param name="Minutes">Time it takes, min.</param>
/// <param name="Tasks">What is done.</param>
public sealed record DueVisit(DateOnly Earliest, DateOnly By, DateOnly Latest, bool Urgent, int Minutes, IReadOnlyList<DueTask> Tasks);

/// <summary>The last word on a part.</summary>
/// <param name="Part">Its code.</param>
/// <param name="Condition">Its condition.</param>
/// <param name="Seen">Day it was last seen.</param>
/// <param name="LookAgain">Day to look again, or null.</param>
public sealed record PartSeen(string Part, string Condition, DateOnly Seen, DateOnly? LookAgain);

/// <summary>What a stove's records say about what is due.</summary>
/// <param name="NextInspection">As set at the last inspection, or a year after the flue was built; null if neither is known.</param>
/// <param name="LastSweep">Day of the last sweep; null if none was recorded.</param>
/// <param name="Sweep">Its forecast.</param>
/// <param name="Parts">The last word on every part.</param>
/// <param name="Stops">Open stops: code and day.</param>
public sealed record DueRecords(DateOnly? NextInspection, DateOnly? LastSweep, SweepDates? Sweep,
    IReadOnlyList<PartSeen> Parts, IReadOnlyList<(string Code, DateOnly Day)> Stops);

/// <summary>What is due for a stove, from all rules (handbook 10 sections 3 and 5).</summary>
public static class Due
{
    /// <summary>A yearly task makes sense this much earlier.</summary>
    public static readonly Limit YearlyEarly = Limit.Assumed(3, "months", "a quarter of a year early costs a quarter of a visit");

    /// <summary>And may be this much later.</summary>
    public static readonly Limit YearlyLate = Limit.Assumed(1, "months", "a month of grace");

    /// <summary>A sweep may be this much later, unless the stop comes first.</summary>
    public static readonly Limit SweepLate = Limit.Assumed(3, "months", "the forecast already allows for a bad year");

    /// <summary>A part to be looked at again may be this much earlier or later.</summary>
    public static readonly Limit LookAgainSlack = Limit.Assumed(1, "months", "a wearing part does not go in a month");

    /// <summary>Time of an inspection beside the sweep.</summary>
    public static readonly Limit InspectionMinutes = Limit.Assumed(45, "min", "cold checks, inside, hot test");

    /// <summary>Time of any other task.</summary>
    public static readonly Limit TaskMinutes = Limit.Assumed(20, "min", "one part, looked at and tested");

    /// <summary>Time of a sweep with glaze, until it is quoted for.</summary>
    public static readonly Limit GlazeMinutes = Limit.Assumed(180, "min", "a first treatment");

    /// <summary>Shortest visit.</summary>
    public static readonly Limit LeastMinutes = Limit.Assumed(30, "min", "nobody drives out for less");

    /// <summary>Steps of every visit.</summary>
    private static readonly string[] _always = ["booking", "load", "arrive", "agree", "next"];

    private static readonly string[] _sweepSteps = ["open-up", "sweep", "back-together", "hot-test"];

    /// <summary>Every task, by the day it is wanted.</summary>
    public static IReadOnlyList<DueTask> Tasks(DueRecords records)
    {
        var tasks = new List<DueTask>();
        foreach (var (code, day) in records.Stops)
            tasks.Add(new DueTask(DueKind.Stop, code, day, day, day, SafetyStops.Find(code)?.Sentence ?? "Unsafe: no fire until cleared."));
        foreach (var part in records.Parts)
        {
            var name = VisitSteps.PartName(part.Part) ?? part.Part;
            if (part.LookAgain is { } again)
                tasks.Add(Around(DueKind.LookAgain, part.Part, again, LookAgainSlack, LookAgainSlack, $"Look again at the {name}: {part.Condition} on {Day(part.Seen)}."));
            else if (Intervals.MonthsOf(part.Part) is { } months && part.Seen.AddMonths(months) is var by && (records.NextInspection is not { } next || by < next))
                tasks.Add(Around(DueKind.Part, part.Part, by, YearlyEarly, YearlyLate, $"The {name} was last seen on {Day(part.Seen)}."));
        }
        if (records is { LastSweep: { } swept, Sweep: { } sweep })
            tasks.Add(OfSweep(swept, sweep));
        if (records.NextInspection is { } inspection)
            tasks.Add(Around(DueKind.Inspection, null, inspection, YearlyEarly, YearlyLate, "Inspection: stove and flue once a year (NFPA 211, from memory)."));
        return [.. tasks.OrderBy(t => t.By).ThenBy(t => t.Kind)];
    }

    /// <summary>Tasks bundled into visits: what makes sense on the day of the most pressing one is done with it.</summary>
    /// <param name="tasks">Tasks, by the day they are wanted.</param>
    /// <param name="sweepMinutes">Time of a sweep, min; null where glaze asks for a quote.</param>
    /// <param name="today">Today: a visit that is overdue is made now.</param>
    public static IReadOnlyList<DueVisit> Visits(IReadOnlyList<DueTask> tasks, double? sweepMinutes, DateOnly today)
    {
        var visits = new List<DueVisit>();
        for (var left = tasks; left.Count > 0;)
        {
            var by = left[0].By;
            var day = by > today ? by : today;
            var together = left.Where(t => t.Earliest <= day).ToList();
            var earliest = together.Max(t => t.Earliest);
            visits.Add(new DueVisit(earliest < by ? earliest : by, by, together.Min(t => t.Latest), together.Any(t => t.Kind == DueKind.Stop),
                MinutesFor(together, sweepMinutes), together));
            left = [.. left.Where(t => t.Earliest > day)];
        }
        return visits;
    }

    /// <summary>Steps that a visit for some tasks needs: all for an inspection.</summary>
    public static IReadOnlyCollection<string> StepsFor(IReadOnlyList<DueTask> tasks)
    {
        if (tasks.Count == 0 || tasks.Any(t => t.Kind == DueKind.Inspection))
            return [.. VisitSteps.All.Select(s => s.Code)];
        IEnumerable<string> WithParts(IEnumerable<string> parts) => VisitSteps.All.Where(s => s.Parts.Any(p => parts.Contains(p.Code))).Select(s => s.Code);
        return [.. _always.Concat(tasks.SelectMany(t => t.Kind switch
        {
            DueKind.Sweep => _sweepSteps,
            // A stop is cleared by a passed re-test; one by numbers, and one of no named part, is re-tested hot.
            DueKind.Stop => WithParts(SafetyStops.Find(t.Part)?.Parts ?? []).Append("hot-test"),
            _ => WithParts([t.Part!]),
        })).Distinct()];
    }

    /// <summary>What a visit for some tasks is called.</summary>
    public static string PurposeOf(IReadOnlyList<DueTask> tasks) => string.Join(", ", tasks.Select(t => t.Kind switch
    {
        DueKind.Stop => "clear the stop",
        DueKind.Sweep => "sweep",
        DueKind.Inspection => "yearly service",
        _ => $"look at the {VisitSteps.PartName(t.Part!) ?? t.Part}",
    }).Distinct()) is { Length: > 0 } purpose ? purpose[..Math.Min(purpose.Length, 200)] : "service";

    private static DueTask OfSweep(DateOnly swept, SweepDates sweep)
    {
        var latest = sweep.Next.AddMonths((int)SweepLate.Value);
        if (sweep.Stop is { } stop && stop < latest)
            latest = stop;
        var earliest = sweep.Next.AddMonths(-(int)YearlyEarly.Value);
        // The day after a sweep nothing is to be swept, however short the interval.
        if (earliest <= swept)
            earliest = swept < sweep.Next ? swept.AddDays(1) : sweep.Next;
        return new DueTask(DueKind.Sweep, null, earliest, sweep.Next, latest < sweep.Next ? sweep.Next : latest, sweep.Bound switch
        {
            SweepBound.Deposit => $"Sweep: last swept {Day(swept)}; in a bad year the limit is reached then.",
            SweepBound.Yearly => $"Sweep: last swept {Day(swept)}; once a year in any case (NFPA 211, from memory).",
            _ => $"Sweep: last swept {Day(swept)}; before the heating season.",
        });
    }

    private static DueTask Around(DueKind kind, string? part, DateOnly by, Limit early, Limit late, string reason) =>
        new(kind, part, by.AddMonths(-(int)early.Value), by, by.AddMonths((int)late.Value), reason);

    private static int MinutesFor(IReadOnlyList<DueTask> tasks, double? sweepMinutes) => (int)Math.Round(Math.Max(LeastMinutes.Value, tasks.Sum(t => t.Kind switch
    {
        DueKind.Inspection => InspectionMinutes.Value,
        DueKind.Sweep => sweepMinutes ?? GlazeMinutes.Value,
        _ => TaskMinutes.Value,
    })));

    private static string Day(DateOnly day) => $"{day:d MMM yyyy}";
}
