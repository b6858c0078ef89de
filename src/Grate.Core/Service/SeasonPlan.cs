using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>A visit in its week.</summary>
/// <param name="ApplianceId">Its stove.</param>
/// <param name="Number">Which of the stove's due visits.</param>
/// <param name="Monday">First day of its week.</param>
/// <param name="WeeksOff">Weeks after the one it is wanted in; before it below 0.</param>
/// <param name="PriceMin">What that costs, in minutes of work.</param>
public sealed record SeasonBrick(Guid ApplianceId, int Number, DateOnly Monday, int WeeksOff, double PriceMin)
{
    /// <summary>
    /// What its week means to it. Three weeks before it is wanted, at a price of 3.4: "3 weeks earlier than wanted, which wastes 3 min of
    /// work".
    /// </summary>
    /// <param name="by">The day it is wanted by.</param>
    public string Say(DateOnly by)
    {
        var off = $"{Math.Abs(WeeksOff)} {(Math.Abs(WeeksOff) == 1 ? "week" : "weeks")}";
        var overdue = by < Monday.AddDays(-7 * WeeksOff);
        return (overdue ? $"overdue since {by:d MMM yyyy}" : "") + WeeksOff switch
        {
            0 => overdue ? ", first of all" : "in the week it is wanted",
            < 0 => $"{off} earlier than wanted, which wastes {PriceMin:0} min of work",
            _ => $"{(overdue ? $", hours only in {off}" : $"{off} later than wanted")}, which weighs like {PriceMin:0} min of work",
        };
    }
}

/// <summary>A season's plan: every due visit in a week that has hours for it.</summary>
/// <param name="Bricks">Visits that have a week.</param>
/// <param name="Sentences">What it comes to.</param>
public sealed record SeasonPlan(IReadOnlyList<SeasonBrick> Bricks, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>Makes the plan.</summary>
    /// <param name="problem">What is due.</param>
    /// <param name="solver">Who finds the weeks.</param>
    /// <param name="progress">Told how much of the work is done, 0..1.</param>
    /// <param name="cancel">Ends it.</param>
    public static SeasonPlan Make(SeasonProblem problem, ISeasonSolver solver, Action<double> progress, CancellationToken cancel)
    {
        var (weeks, bound) = solver.Solve(problem, progress, cancel);
        return new([.. problem.Visits.Select((v, i) => (Visit: v, Week: weeks[i])).Where(v => v.Week is not null)
            .Select(v => new SeasonBrick(v.Visit.ApplianceId, v.Visit.Number, problem.Monday.AddDays(7 * v.Week!.Value), v.Week.Value - problem.Wanted(v.Visit), problem.Price(v.Visit, v.Week.Value)))],
            Words(problem, weeks, bound));
    }

    private static IReadOnlyList<Sentence> Words(SeasonProblem problem, IReadOnlyList<int?> weeks, double bound)
    {
        var said = new Said();
        if (problem.Visits.Count == 0)
            return said.Add(Weight.Verdict, Say("Nothing is due that is not planned.")).InOrder();
        var placed = problem.Visits.Select((v, i) => (Visit: v, Week: weeks[i])).Where(v => v.Week is not null).ToList();
        var (early, late) = (placed.Count(v => v.Week < problem.Wanted(v.Visit)), placed.Where(v => v.Week > problem.Wanted(v.Visit)).ToList());
        said.Add(Weight.Verdict, Say(Computed($"{placed.Count}"), $" of {Visits(problem.Visits.Count)} {(placed.Count == 1 ? "has its week" : "have their week")}: {early} earlier than wanted, {late.Count} later; {problem.DriveMin(weeks) / 60:0} h of driving to towns."));
        var asItComes = problem.AsItComes();
        var (without, planned) = (PastDate(problem, asItComes), PastDate(problem, weeks));
        if (without.Stoves > planned.Stoves || without.Weeks > planned.Weeks)
            said.Add(Weight.Hint, Say("If nothing is pulled forward, ", Computed($"{without.Stoves}"), $" {(without.Stoves == 1 ? "stove is" : "stoves are")} past {(without.Stoves == 1 ? "its" : "their")} date, the worst by {without.Weeks} {(without.Weeks == 1 ? "week" : "weeks")}, at {problem.DriveMin(asItComes) / 60:0} h of driving; so planned {planned.Stoves}."));
        foreach (var group in problem.Visits.Where((_, i) => weeks[i] is null).GroupBy(v => Nobody(problem, v)))
            said.Add(Weight.RuledOut, Say($"{Visits(group.Count())} {(group.Count() == 1 ? "has" : "have")} no week: {group.Key}."));
        var minutes = late.Sum(v => v.Visit.Minutes) + problem.Visits.Where((v, i) => weeks[i] is null).Sum(v => v.Minutes);
        if (minutes > 0)
        {
            var until = late.Select(v => problem.Wanted(v.Visit)).DefaultIfEmpty(0).Max();
            var free = Enumerable.Range(0, until).Sum(w => Math.Max(0, problem.Hands.Sum(h => h.Minutes[w]) - placed.Where(v => v.Week == w).Sum(v => v.Visit.Minutes)));
            said.Add(Weight.Hint, Say("To have all in time takes at least ", Computed($"{minutes / 60.0:0.#} h"), $" more{(until > 0 ? $" until the week of {problem.Monday.AddDays(7 * until):d MMM yyyy}" : " at once")}{(free >= 60 ? $", or households that come before their time: {free / 60} free hours lie before it" : "; no hour before it is free")}."));
        }
        var cost = problem.Cost(weeks);
        said.Add(Weight.Hint, Say(cost <= bound * 1.0005 + 1 ? "No plan is cheaper." : $"No plan is cheaper by more than {100 * (1 - bound / cost):0.#} %."));
        return said.InOrder();
    }

    private static string Nobody(SeasonProblem problem, SeasonVisit visit) => problem.Hands.Count == 0 ? "nobody goes out"
        : problem.Hands.Any(h => h.Can(visit.Needs)) ? "no hours are left within reach" : $"nobody who goes out is down for {string.Join(" and ", visit.Needs.Select(Skills.Named))}";

    private static string Visits(int count) => $"{count} {(count == 1 ? "visit" : "visits")}";

    // Stoves that are done after the day they must be done by, as far as that day is still to come, and the worst.
    private static (int Stoves, int Weeks) PastDate(SeasonProblem problem, IReadOnlyList<int?> weeks)
    {
        var past = problem.Visits.Select((v, i) => (weeks[i] ?? problem.Weeks) - Math.Max(0, problem.WeekOf(v.Latest))).Where(w => w > 0).ToList();
        return (past.Count, past.DefaultIfEmpty(0).Max());
    }
}
