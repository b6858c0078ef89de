using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>A visit in its week.</summary>
/// <param name="ApplianceId">Its stove.</param>
/// <param name="Number">Which of the stove's due visits.</param>
/// <param name="Monday">First day of its week.</param>
/// <param name="WeeksOff">Weeks after the one it is wanted in; before it below 0.</param>
/// <param name="PriceMin">What that costs, in minutes of work.</param>
/// <param name="AskMonday">First day of a free week, before it makes sense for the stove, into which its household could be asked so that somebody else is not late; null for none.</param>
public sealed record SeasonBrick(Guid ApplianceId, int Number, DateOnly Monday, int WeeksOff, double PriceMin, DateOnly? AskMonday = null)
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
        } + (AskMonday is { } ask ? $"; asked to come in the week of {ask:d MMM yyyy} {(WeeksOff > 0 ? "they are not late" : "they leave the time to somebody who is late")}" : "");
    }
}

/// <summary>A season's plan: every due visit in a week that has hours for it.</summary>
/// <param name="Bricks">Visits that have a week.</param>
/// <param name="Sentences">What it comes to.</param>
public sealed record SeasonPlan(IReadOnlyList<SeasonBrick> Bricks, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>More households are not asked in a season to come before their time.</summary>
    public static readonly Limit MostAsked = Limit.Assumed(200, "households", "as many calls as an office makes beside its work");

    // A season in which everything is late is not looked through to its end for whom to ask.
    private const int LooksPerAsk = 5;

    /// <summary>Makes the plan.</summary>
    /// <param name="problem">What is due.</param>
    /// <param name="solver">Who finds the weeks.</param>
    /// <param name="progress">Told how much of the work is done, 0..1.</param>
    /// <param name="cancel">Ends it.</param>
    public static SeasonPlan Make(SeasonProblem problem, ISeasonSolver solver, Action<double> progress, CancellationToken cancel)
    {
        var (weeks, bound) = solver.Solve(problem, progress, cancel);
        var free = Enumerable.Range(0, problem.Weeks).Select(w => problem.Hands.Sum(h => h.Minutes[w]) - problem.Visits.Where((_, i) => weeks[i] == w).Sum(v => v.Minutes)).ToArray();
        // Late for want of hours; who is late so that a town is driven to once is not asked to come before.
        List<int> lacking = [.. Enumerable.Range(0, problem.Visits.Count).Where(i => weeks[i] is not { } week || (week > problem.Wanted(problem.Visits[i])
            && Enumerable.Range(problem.Span(problem.Visits[i]).First, problem.Wanted(problem.Visits[i]) - problem.Span(problem.Visits[i]).First + 1).All(w => free[w] < problem.Visits[i].Minutes)))];
        var asks = Asks(problem, weeks, lacking, free);
        return new([.. problem.Visits.Select((v, i) => (Visit: v, Week: weeks[i], At: i)).Where(v => v.Week is not null)
            .Select(v => new SeasonBrick(v.Visit.ApplianceId, v.Visit.Number, problem.Monday.AddDays(7 * v.Week!.Value), v.Week.Value - problem.Wanted(v.Visit), problem.Price(v.Visit, v.Week.Value), asks.TryGetValue(v.At, out var ask) ? problem.Monday.AddDays(7 * ask) : null))],
            Words(problem, weeks, bound, lacking, asks));
    }

    private static IReadOnlyList<Sentence> Words(SeasonProblem problem, IReadOnlyList<int?> weeks, double bound, IReadOnlyList<int> lacking, IReadOnlyDictionary<int, int> asks)
    {
        var said = new Said();
        if (problem.Visits.Count == 0)
            return said.Add(Weight.Verdict, Say("Nothing is due that is not planned.")).InOrder();
        var placed = problem.Visits.Select((v, i) => (Visit: v, Week: weeks[i])).Where(v => v.Week is not null).ToList();
        var (early, late) = (placed.Count(v => v.Week < problem.Wanted(v.Visit)), placed.Count(v => v.Week > problem.Wanted(v.Visit)));
        said.Add(Weight.Verdict, Say(Computed($"{placed.Count}"), $" of {Visits(problem.Visits.Count)} {(placed.Count == 1 ? "has its week" : "have their week")}: {early} earlier than wanted, {late} later; {problem.DriveMin(weeks) / 60:0} h of driving to towns."));
        var asItComes = problem.AsItComes();
        var (without, planned) = (PastDate(problem, asItComes), PastDate(problem, weeks));
        if (without.Stoves > planned.Stoves || without.Weeks > planned.Weeks)
            said.Add(Weight.Hint, Say("If nothing is pulled forward, ", Computed($"{without.Stoves}"), $" {(without.Stoves == 1 ? "stove is" : "stoves are")} past {(without.Stoves == 1 ? "its" : "their")} date, the worst by {without.Weeks} {(without.Weeks == 1 ? "week" : "weeks")}, at {problem.DriveMin(asItComes) / 60:0} h of driving; so planned {planned.Stoves}."));
        foreach (var group in problem.Visits.Where((_, i) => weeks[i] is null).GroupBy(v => Nobody(problem, v)))
            said.Add(Weight.RuledOut, Say($"{Visits(group.Count())} {(group.Count() == 1 ? "has" : "have")} no week: {group.Key}."));
        if (lacking.Count > 0)
        {
            var (minutes, until) = (lacking.Sum(i => problem.Visits[i].Minutes), lacking.Where(i => weeks[i] is not null).Select(i => problem.Wanted(problem.Visits[i])).DefaultIfEmpty(0).Max());
            said.Add(Weight.Hint, Say("To have all in time takes at least ", Computed($"{minutes / 60.0:0.#} h"), $" more{(until > 0 ? $" until the week of {problem.Monday.AddDays(7 * until):d MMM yyyy}" : " at once")}{(asks.Count > 0 ? $", or {(asks.Count == 1 ? "a household that comes" : $"{asks.Count} households that come")} before their time: {asks.Keys.Sum(i => problem.Visits[i].Minutes) / 60.0:0.#} h of it; their weeks say who" : "; nobody could come before their time instead")}."));
        }
        var cost = problem.Cost(weeks);
        said.Add(Weight.Hint, Say(cost <= bound * 1.0005 + 1 ? "No plan is cheaper." : $"No plan is cheaper by more than {100 * (1 - bound / cost):0.#} %."));
        return said.InOrder();
    }

    // Who could be asked to come before it makes sense, so that nobody is late: the late ones themselves, or those who have the time that
    // they lack, first whoever burns least; into the last free week before their own time.
    private static Dictionary<int, int> Asks(SeasonProblem problem, IReadOnlyList<int?> weeks, IReadOnlyList<int> lacking, int[] free)
    {
        var asks = new Dictionary<int, int>();
        bool Late(int i) => weeks[i] > problem.Wanted(problem.Visits[i]);
        int FreeBefore(int i) => Enumerable.Range(0, problem.Span(problem.Visits[i]).First).LastOrDefault(w => free[w] >= problem.Visits[i].Minutes && problem.Hands.Any(h => h.Minutes[w] > 0 && h.Can(problem.Visits[i].Needs)), -1);
        var comes = Enumerable.Range(0, problem.Visits.Count).Where(i => weeks[i] is not null && !problem.Visits[i].Urgent && FreeBefore(i) >= 0).ToLookup(i => weeks[i]!.Value);
        foreach (var late in lacking.OrderByDescending(i => problem.Visits[i].Urgent).ThenBy(i => problem.Visits[i].By).Take(LooksPerAsk * (int)MostAsked.Value))
        {
            if (asks.Count >= MostAsked.Value)
                break;
            var (visit, missing) = (problem.Visits[late], problem.Visits[late].Minutes);
            var (from, to) = (problem.Wanted(visit), weeks[late] ?? problem.Span(visit).Last + 1);
            // Whoever does what they leave can do the late one too.
            foreach (var other in Enumerable.Range(from, Math.Max(0, to - from)).SelectMany(w => comes[w]).Where(i => !Late(i)).Concat(comes[to].Where(i => i == late)).Where(i => !asks.ContainsKey(i) && visit.Needs.All(problem.Visits[i].Needs.Contains)).OrderBy(i => problem.Visits[i].WoodKg))
            {
                if (missing <= 0)
                    break;
                var asked = problem.Visits[other];
                var week = FreeBefore(other);
                if (week < 0)
                    continue;
                (asks[other], missing) = (week, other == late ? 0 : missing - asked.Minutes);
                free[week] -= asked.Minutes;
            }
        }
        return asks;
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
