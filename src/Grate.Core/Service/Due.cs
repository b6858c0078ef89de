using Grate.Core.Household;

namespace Grate.Core.Service;

/// <summary>Tasks of a stove that one visit does together.</summary>
/// <param name="Earliest">First sensible day.</param>
/// <param name="By">Wanted by.</param>
/// <param name="Latest">Must be done by.</param>
/// <param name="Urgent">Whether a stop stands.</param>
/// <param name="Minutes">Time it takes, min.</param>
/// <param name="Tasks">What is done; stops first.</param>
public sealed record DueVisit(DateOnly Earliest, DateOnly By, DateOnly Latest, bool Urgent, int Minutes, IReadOnlyList<DueTask> Tasks);

/// <summary>What is due for a stove, from all rules (handbook 10 sections 3 and 5).</summary>
/// <param name="parts">The parts of the trade.</param>
public sealed class Due(Parts parts)
{
    /// <summary>Months between inspections of stove and flue, unless the firm says otherwise.</summary>
    public static readonly Limit Inspection = Limit.Memory(12, "months", "NFPA 211: stove and flue are inspected at least once a year");

    /// <summary>A yearly task makes sense this much earlier.</summary>
    public static readonly Limit YearlyEarly = Limit.Assumed(3, "months", "a quarter of a year early costs a quarter of a visit");

    /// <summary>And may be this much later.</summary>
    public static readonly Limit YearlyLate = Limit.Assumed(1, "months", "a month of grace");

    /// <summary>A part to be looked at again may be this much earlier or later.</summary>
    public static readonly Limit LookAgainSlack = Limit.Assumed(1, "months", "a wearing part does not go in a month");

    /// <summary>Time of an inspection beside the sweep.</summary>
    public static readonly Limit InspectionMinutes = Limit.Assumed(45, "min", "cold checks, inside, hot test");

    /// <summary>Time of any other task.</summary>
    public static readonly Limit TaskMinutes = Limit.Assumed(20, "min", "one part, looked at and tested");

    /// <summary>Shortest visit.</summary>
    public static readonly Limit LeastMinutes = Limit.Assumed(30, "min", "nobody drives out for less");

    private const string FlueMark = "flue";

    /// <summary>How the names of the facts begin that tasks rest on.</summary>
    public IReadOnlyList<string> Reads { get; } = [.. parts.List.SelectMany(p => p.DueReads).Distinct()];

    /// <summary>What a stove wants from the stock, of every part of the trade.</summary>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today) => parts.List.SelectMany(p => p.Wants(history, today));

    /// <summary>Calendar months from the day done; a day the month lacks becomes its last. 2028-02-29 + 12 is 2029-02-28.</summary>
    /// <param name="done">Day of the inspection.</param>
    /// <param name="months">Interval, 1..60 months.</param>
    public static DateOnly NextInspection(DateOnly done, int months) => done.AddMonths(months);

    /// <summary>
    /// When the next inspection is due: as set at the last visit that set one. Where nobody knows of one it is due with the next sweep after
    /// the one that somebody told of, and now where nobody told anything.
    /// </summary>
    /// <param name="history">What the records know.</param>
    /// <param name="months">The firm's interval.</param>
    /// <param name="today">Today at the firm's place.</param>
    public static DateOnly InspectionOf(StoveHistory history, int months, DateOnly today) =>
        history.NextInspection ?? (history.SweptTold is { } told ? NextInspection(told, months) : today);

    /// <summary>
    /// When the next inspection is due once a visit is signed; one for less, or one that did not look at flue and door, leaves the date where
    /// it was. Null where nobody knows of an inspection.
    /// </summary>
    /// <param name="at">The visit.</param>
    /// <param name="inspects">Whether it is an inspection.</param>
    /// <param name="months">The firm's interval.</param>
    public static DateOnly? InspectionAfter(VisitContext at, bool inspects, int months) =>
        inspects && LookedAt.Of(at).Inspected ? NextInspection(at.Day, months) : at.History.NextInspection;

    /// <summary>Every task: stops first, then by the day it is wanted.</summary>
    /// <param name="history">What the records know.</param>
    /// <param name="inspectionMonths">The firm's interval.</param>
    /// <param name="today">Today at the firm's place.</param>
    public IReadOnlyList<DueTask> Tasks(StoveHistory history, int inspectionMonths, DateOnly today)
    {
        var inspection = InspectionOf(history, inspectionMonths, today);
        var tasks = history.Stops.Select(s => new DueTask(DueKind.Stop, s.Code, s.Day, s.Day, s.Day, parts.StopOrOther(s.Code).Sentence)).ToList();
        foreach (var code in history.Earlier.SelectMany(v => v.Found).Select(f => f.Part).Distinct())
        {
            if (history.LastSeen(code) is not var (found, seen))
                continue;
            if (found.LookAgain is { } again)
                tasks.Add(DueTask.Around(DueKind.LookAgain, code, again, LookAgainSlack, LookAgainSlack, $"Look again at the {parts.NameOf(code)}: {Word.Of(found.Condition)} on {Day(seen)}."));
            else if (parts.Mark(code)?.Again is { } interval && seen.AddMonths((int)interval.Value) is var by && by < inspection)
                tasks.Add(DueTask.Around(DueKind.Part, code, by, YearlyEarly, YearlyLate, $"The {parts.NameOf(code)} was last seen on {Day(seen)}."));
        }
        if (history.Stove.FlueLook is { } look && !(history.LastSeen(FlueMark) is var (_, looked) && looked >= look.Since))
            tasks.Add(DueTask.Around(DueKind.LookAgain, FlueMark, look.Since, LookAgainSlack, LookAgainSlack, $"The whole flue is looked through with a camera: {look.Why} on {Day(look.Since)} (NFPA 211 level II, from memory)."));
        tasks.AddRange(parts.List.SelectMany(p => p.Due(history, today)));
        tasks.Add(DueTask.Around(DueKind.Inspection, null, inspection, YearlyEarly, YearlyLate,
            history.NextInspection is not null ? "Inspection: stove and flue once a year (NFPA 211, from memory)."
            : history.SweptTold is not null ? "Inspection: nobody knows when stove and flue were inspected last; with the next sweep."
            : "Inspection: nobody knows when stove and flue were inspected last; ask, and look now."));
        return InOrder(tasks.GroupBy(t => (t.Kind, t.Part)).Select(Joined));
    }

    // Two reasons for one thing are one task with both: no list holds it twice.
    private static DueTask Joined(IEnumerable<DueTask> same)
    {
        var all = same.ToList();
        return all is [var alone] ? alone : new(all[0].Kind, all[0].Part, all.Min(t => t.Earliest), all.Min(t => t.By), all.Min(t => t.Latest), string.Join(" ", all.Select(t => t.Reason).Distinct()),
            all.Max(t => t.Minutes), all.Any(t => t.Steps is null) ? null : [.. all.SelectMany(t => t.Steps!).Distinct()]);
    }

    /// <summary>Every task that there will be once a visit is signed as it stands.</summary>
    /// <param name="at">The visit.</param>
    /// <param name="inspects">Whether it is an inspection.</param>
    /// <param name="months">The firm's interval.</param>
    public IReadOnlyList<DueTask> After(VisitContext at, bool inspects, int months) => Tasks(at.History with
    {
        Earlier = [.. at.History.Earlier, new EarlierVisit(Guid.Empty, at.Day, true, InspectionAfter(at, inspects, months),
            [.. at.Facts.OrderBy(f => VisitSteps.NumberOf(f.Step)).Select(f => new Fact(f.Name, f.Value, f.Word))], at.Found)],
    }, months, at.Today);

    /// <summary>Tasks bundled into visits: what makes sense on the day of the most pressing one is done with it.</summary>
    /// <param name="tasks">Tasks.</param>
    /// <param name="today">Today: a visit that is overdue is made now.</param>
    public static IReadOnlyList<DueVisit> Visits(IReadOnlyList<DueTask> tasks, DateOnly today)
    {
        var visits = new List<DueVisit>();
        for (var left = tasks.OrderBy(t => t.By).ThenBy(t => t.Kind).ToList(); left.Count > 0;)
        {
            var by = left[0].By;
            var day = by > today ? by : today;
            var together = left.Where(t => t.Earliest <= day).ToList();
            var earliest = together.Max(t => t.Earliest);
            visits.Add(new DueVisit(earliest < by ? earliest : by, by, together.Min(t => t.Latest), together.Any(t => t.Kind == DueKind.Stop),
                MinutesFor(together), InOrder(together)));
            left = [.. left.Where(t => t.Earliest > day)];
        }
        return visits;
    }

    /// <summary>Steps that a visit for some tasks needs: all for an inspection.</summary>
    public IReadOnlyCollection<string> StepsFor(IReadOnlyList<DueTask> tasks)
    {
        if (tasks.Count == 0 || tasks.Any(t => t.Kind == DueKind.Inspection))
            return [.. VisitSteps.All.Select(s => s.Code)];
        IEnumerable<string> WithParts(IEnumerable<string> codes) => codes.SelectMany(c => parts.Mark(c)?.Steps ?? []);
        return [.. VisitSteps.Always.Concat(tasks.SelectMany(t => t.Steps ?? (IEnumerable<string>)(t.Kind switch
        {
            // A stop is cleared by a passed re-test; one by numbers, and one of no named part, is re-tested hot.
            DueKind.Stop => WithParts(parts.Stop(t.Part)?.Parts ?? []).Append(VisitSteps.HotTest),
            _ => WithParts([t.Part!]),
        }))).Distinct()];
    }

    /// <summary>What a visit for some tasks is called.</summary>
    public string PurposeOf(IReadOnlyList<DueTask> tasks) => string.Join(", ", tasks.Select(t => t.Kind switch
    {
        DueKind.Stop => "clear the stop",
        DueKind.Sweep => "sweep",
        DueKind.Inspection => "yearly service",
        _ => $"look at the {parts.NameOf(t.Part!)}",
    }).Distinct()) is { Length: > 0 } purpose ? purpose[..Math.Min(purpose.Length, 200)] : "service";

    private static IReadOnlyList<DueTask> InOrder(IEnumerable<DueTask> tasks) => [.. tasks.OrderBy(t => t.Kind != DueKind.Stop).ThenBy(t => t.By).ThenBy(t => t.Kind)];

    private static int MinutesFor(IReadOnlyList<DueTask> tasks) => (int)Math.Round(Math.Max(LeastMinutes.Value, tasks.Sum(t => t.Minutes > 0 ? t.Minutes
        : t.Kind == DueKind.Inspection ? InspectionMinutes.Value : TaskMinutes.Value)));

    private static string Day(DateOnly day) => $"{day:d MMM yyyy}";
}
