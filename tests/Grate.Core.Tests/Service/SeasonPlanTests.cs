using Grate.Core.Service;
using Grate.Core.Tests.Visits;
using Grate.Solvers;

namespace Grate.Core.Tests.Service;

/// <summary>Weeks of due visits: small seasons against trying everything, large ones against every rule, and what is said of them.</summary>
public class SeasonPlanTests
{
    private static readonly DateOnly _monday = new(2027, 3, 1);
    private static readonly Whereabouts _home = new(47.1, 10.2, 600);

    private static SeasonVisit Visit(int wanted, int early = 4, int late = 4, int minutes = 60, double woodKg = 2000, bool urgent = false, string place = "Oxlow", double latitude = 47.1, params Skill[] needs) =>
        new(Guid.NewGuid(), 1, place, latitude, 10.2, _monday.AddDays(7 * (wanted - early)), _monday.AddDays(7 * wanted + 2), _monday.AddDays(7 * (wanted + late)), urgent, minutes, woodKg, needs);

    private static SeasonHand Hand(int minutes, int weeks, params string[] skills) => new(skills, [.. Enumerable.Repeat(minutes, weeks)]);

    private static SeasonProblem Problem(IReadOnlyList<SeasonVisit> visits, int weeks, double light, Whereabouts? home, params SeasonHand[] hands) => new(_monday, visits, hands, [.. Enumerable.Repeat(light, weeks)], home);

    private static (IReadOnlyList<int?> Weeks, double Bound) Solve(SeasonProblem problem) => new SeasonSolver().Solve(problem, _ => { }, CancellationToken.None);

    private static SeasonPlan Plan(SeasonProblem problem) => SeasonPlan.Make(problem, new SeasonSolver(), _ => { }, CancellationToken.None);

    private static string Read(SeasonPlan plan) => Histories.Words(plan.Sentences);

    [Fact]
    public void A_week_has_its_price()
    {
        var visit = Visit(20, woodKg: 2000);
        var problem = Problem([visit], 52, 1, null, Hand(600, 52));
        Assert.Equal(0, problem.Price(visit, 20), 1e-9);
        Assert.Equal(15, problem.Price(visit, 7), 1e-9);
        Assert.Equal(60, problem.Price(visit, 22), 1e-9);
        // Two of five weeks are past the latest day: 30 × (5 + 3 × 1).
        Assert.Equal(30 * (5 + 3 * 1), problem.Price(visit, 25), 1e-9);
        Assert.Equal(20 * 60, problem.Price(visit with { Urgent = true }, 22), 1e-9);
        // Wanted half a year ago, with a month's grace: a week from now counts four times, and half as much again.
        var overdue = Visit(-26, woodKg: 2000);
        Assert.Equal(0, problem.Price(overdue, 0), 1e-9);
        Assert.Equal(30 * 1.5 * 4, problem.Price(overdue, 1), 1e-9);
        // A stove that burns a quarter of what others burn can wait, or come early.
        var little = Visit(20, woodKg: 100);
        var among = Problem([little, visit], 52, 1, null, Hand(600, 52));
        Assert.True(among.Price(little, 22) < among.Price(visit, 22) && among.Price(little, 7) < among.Price(visit, 7));
    }

    // Every week of every visit, each with a hand of its own choosing, without anything clever.
    private static double ByTrying(SeasonProblem problem)
    {
        var free = problem.Hands.Select(h => h.Minutes.ToArray()).ToArray();
        var light = problem.Hands.Select(h => Enumerable.Range(0, problem.Weeks).Select(w => problem.InLight(h, w)).ToArray()).ToArray();
        double From(int i)
        {
            if (i == problem.Visits.Count)
                return 0;
            var visit = problem.Visits[i];
            var best = problem.PriceLeft(visit) + From(i + 1);
            var (first, last) = problem.Span(visit);
            var roof = visit.Needs.Contains(Skill.Roof) ? visit.Minutes : 0;
            for (var week = first; week <= last; week++)
            {
                for (var hand = 0; hand < problem.Hands.Count; hand++)
                {
                    if (!problem.Hands[hand].Can(visit.Needs) || free[hand][week] < visit.Minutes || light[hand][week] < roof)
                        continue;
                    free[hand][week] -= visit.Minutes;
                    light[hand][week] -= roof;
                    best = Math.Min(best, problem.Price(visit, week) + From(i + 1));
                    free[hand][week] += visit.Minutes;
                    light[hand][week] += roof;
                }
            }
            return best;
        }
        return From(0);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void Small_seasons_are_as_good_as_trying_everything(int seed)
    {
        var chance = new Random(seed);
        Skill[][] needs = [[], [Skill.Roof], [Skill.MasonryHeater], [Skill.Roof, Skill.Combustor]];
        var visits = Enumerable.Range(0, 6).Select(_ => Visit(chance.Next(-1, 3), chance.Next(1, 3), chance.Next(0, 2), 60, 1000 + chance.Next(3000), chance.Next(5) == 0, needs: needs[chance.Next(needs.Length)])).ToList();
        var problem = Problem(visits, 3, 0.5, null, Hand(60, 3, "masonry-heater", "combustor"), Hand(120, 3, "roof", "combustor"));
        var (weeks, bound) = Solve(problem);
        var least = ByTrying(problem);
        Assert.Equal(least, problem.Cost(weeks), 0.5);
        // Prices are rounded to a thousandth of a minute for five minutes.
        Assert.Equal(least, bound, 0.5);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    public void A_large_season_keeps_every_rule_and_is_near_its_bound(int seed)
    {
        var chance = new Random(seed);
        var visits = Enumerable.Range(0, 900).Select(i => Visit(chance.Next(-4, 50), chance.Next(4, 14), 4, 30 + 15 * chance.Next(6), 500 + chance.Next(4000), i % 60 == 0,
            $"Town {i % 7}", 47 + i % 7 * 0.05, [.. i % 9 == 0 ? (Skill[])[Skill.Roof] : [], .. i % 11 == 0 ? (Skill[])[Skill.MasonryHeater] : []])).ToList();
        var problem = Problem(visits, 52, 0.6, _home, Hand(600, 52, "roof"), Hand(600, 52, "masonry-heater", "roof"), Hand(300, 52));
        var (weeks, bound) = Solve(problem);
        Assert.All(visits.Zip(weeks), v => Assert.True(v.Second is not { } week || (problem.Span(v.First) is var (first, last) && week >= first && week <= last)));
        var longest = visits.Max(v => v.Minutes);
        for (var week = 0; week < 52; week++)
        {
            int Taken(Func<SeasonVisit, bool> of) => visits.Where((v, i) => weeks[i] == week && of(v)).Sum(v => v.Minutes);
            // A flow's hours are whole hours of people: what somebody begins they end.
            Assert.True(Taken(_ => true) <= 1500 + longest, $"week {week}");
            Assert.True(Taken(v => v.Needs.Contains(Skill.Roof) && v.Needs.Contains(Skill.MasonryHeater)) <= 2 * 360 + longest, $"roofs of week {week}");
        }
        var cost = problem.Cost(weeks);
        Assert.True(bound <= cost && cost < problem.Cost(problem.AsItComes()), $"{bound:0} <= {cost:0} < {problem.Cost(problem.AsItComes()):0}; drives {problem.DriveMin(weeks):0} of {problem.DriveMin(problem.AsItComes()):0}, left {weeks.Count(w => w is null)}");
        // The bound knows no drives: what is above it was saved in drives, or is a visit's part.
        var saved = problem.DriveMin(problem.AsItComes()) - problem.DriveMin(weeks);
        Assert.True(saved > 0 && cost - problem.DriveMin(weeks) <= 1.05 * bound + saved, $"{cost - problem.DriveMin(weeks):0} without drives, {saved:0} saved, bound {bound:0}");
    }

    [Fact]
    public void A_far_town_is_driven_to_once()
    {
        // Four visits an hour away, wanted in four different weeks, none of them pressing.
        var visits = Enumerable.Range(8, 4).Select(w => Visit(w, 8, woodKg: 1000, place: "Fellgate", latitude: 47.5)).ToList();
        var problem = Problem(visits, 20, 1, _home, Hand(600, 20));
        var (weeks, _) = Solve(problem);
        Assert.Single(weeks.Distinct());
        Assert.Equal(problem.RoundTrip("Fellgate"), problem.DriveMin(weeks), 1e-9);
        Assert.Equal(4 * problem.RoundTrip("Fellgate"), problem.DriveMin(problem.AsItComes()), 1e-9);
    }

    [Fact]
    public void What_is_concluded_is_said_once_and_fits()
    {
        Assert.Equal("Nothing is due that is not planned.", Read(Plan(Problem([], 52, 1, _home, Hand(600, 52)))));
        Assert.Equal("1 of 1 visit has its week: 0 earlier than wanted, 0 later; 0 h of driving to towns. No plan is cheaper.", Read(Plan(Problem([Visit(3)], 52, 1, null, Hand(600, 52)))));
        // Nobody goes out.
        var alone = Read(Plan(Problem([Visit(3), Visit(4)], 52, 1, _home)));
        Assert.Contains("2 visits have no week: nobody goes out.", alone);
        Assert.Contains("To have all in time takes at least 2 h more at once; nobody could come before their time instead.", alone);
        // Nobody knows heaters.
        Assert.Contains("1 visit has no week: nobody who goes out is down for masonry heaters.", Read(Plan(Problem([Visit(3, needs: Skill.MasonryHeater)], 52, 1, _home, Hand(600, 52, "roof")))));
        // Each is known to somebody, both to nobody.
        Assert.Contains("nobody who goes out is down for work on the roof and masonry heaters.", Read(Plan(Problem([Visit(3, needs: [Skill.Roof, Skill.MasonryHeater])], 52, 1, _home, Hand(600, 52, "roof"), Hand(600, 52, "masonry-heater")))));
        Assert.Contains("1 visit has no week: no hours are left within reach.", Read(Plan(Problem([Visit(3, minutes: 90)], 52, 1, _home, Hand(0, 52)))));
        // A rush: ten hours wanted in one week of two.
        var rush = Plan(Problem([.. Enumerable.Range(0, 10).Select(_ => Visit(10, 8, 0))], 52, 1, null, Hand(120, 52)));
        Assert.Equal(10, rush.Bricks.Count);
        Assert.All(rush.Bricks, b => Assert.True(b.WeeksOff <= 0));
        Assert.Contains("10 of 10 visits have their week: 8 earlier than wanted, 0 later", Read(rush));
        Assert.Contains("If nothing is pulled forward, 8 stoves are past their date, the worst by 4 weeks, at 0 h of driving; so planned 0.", Read(rush));
        // Two want the one hour of week 10, and neither makes sense before: whoever burns less is asked into week 9, the other has its hour.
        var (low, high) = (Visit(10, 0, woodKg: 600), Visit(10, 0, woodKg: 3000));
        var asked = Plan(Problem([low, high], 52, 1, null, Hand(60, 52)));
        var ask = Assert.Single(asked.Bricks, b => b.AskMonday is not null);
        Assert.Equal((low.ApplianceId, _monday.AddDays(63)), (ask.ApplianceId, ask.AskMonday));
        Assert.Contains("takes at least 1 h more until the week of 10 May 2027, or a household that comes before their time: 1 h of it; their weeks say who.", Read(asked));
        Assert.EndsWith("; asked to come in the week of 3 May 2027 they are not late", ask.Say(low.By), StringComparison.Ordinal);
        // One who burns little leaves the hour to a late one who burns much and was due before.
        var (little, much) = (Visit(10, 0, woodKg: 500), Visit(10, 0, 0, woodKg: 4000, needs: Skill.Roof));
        var left = Plan(Problem([little, much, Visit(10, 10, 0, minutes: 60, woodKg: 100)], 52, 1, null, Hand(60, 52)));
        Assert.DoesNotContain(left.Bricks, b => b.AskMonday >= b.Monday);
        Assert.EndsWith("they leave the time to somebody who is late", new SeasonBrick(Guid.Empty, 1, _monday, 0, 0, _monday.AddDays(-7)).Say(_monday.AddDays(3)), StringComparison.Ordinal);
        // Late so that a far town is driven to once, with hours to spare: nobody lacks any, and nobody is asked.
        var together = Plan(Problem([Visit(8, 0, place: "Fellgate", latitude: 47.5), Visit(9, 0, place: "Fellgate", latitude: 47.5)], 52, 1, _home, Hand(600, 52)));
        Assert.Equal(1, Assert.Single(together.Bricks, b => b.WeeksOff != 0).WeeksOff);
        Assert.DoesNotContain("To have all in time", Read(together), StringComparison.Ordinal);
        Assert.DoesNotContain(together.Bricks, b => b.AskMonday is not null);
        // A stop is asked of nobody, and where no hour is free nobody is asked.
        Assert.DoesNotContain(Plan(Problem([Visit(10, 0, urgent: true), Visit(10, 0, urgent: true)], 52, 1, null, Hand(60, 52))).Bricks, b => b.AskMonday is not null);
        Assert.DoesNotContain(Plan(Problem([Visit(0, 0), Visit(0, 0)], 52, 1, null, Hand(60, 52))).Bricks, b => b.AskMonday is not null);
        static string Say(int weeksOff, double price, int wantedDay) => new SeasonBrick(Guid.Empty, 1, _monday, weeksOff, price).Say(_monday.AddDays(wantedDay));
        Assert.Equal("in the week it is wanted", Say(0, 0, 3));
        Assert.Equal("1 week earlier than wanted, which wastes 1 min of work", Say(-1, 1.15, 9));
        Assert.Equal("2 weeks later than wanted, which weighs like 60 min of work", Say(2, 60, -12));
        Assert.Equal("overdue since 20 Feb 2027, first of all", Say(0, 0, -9));
        Assert.Equal("overdue since 1 Jan 2027, hours only in 2 weeks, which weighs like 60 min of work", Say(2, 60, -59));
    }

    [Fact]
    public void A_plan_that_is_stopped_is_none()
    {
        using var cancel = new CancellationTokenSource();
        Assert.Throws<OperationCanceledException>(() => new SeasonSolver().Solve(Problem([Visit(3)], 52, 1, _home, Hand(600, 52)), _ => cancel.Cancel(), cancel.Token));
    }
}
