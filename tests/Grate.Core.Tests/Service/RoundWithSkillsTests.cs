using Grate.Core.Service;
using Grate.Solvers;

namespace Grate.Core.Tests.Service;

/// <summary>Stops that only some vans may make: small days against trying everything, large ones against every rule.</summary>
public class RoundWithSkillsTests
{
    private static readonly RoundProblem.DayLight _day = new(0, 1440);

    private static RoundProblem Problem(int stops, int vans, int seed)
    {
        var chance = new Random(seed);
        double Near(double of) => of + 0.2 * chance.NextDouble();
        string[] ids = [.. Enumerable.Range(0, vans).Select(v => $"v{v}")];
        return new(
            [.. Enumerable.Range(0, stops).Select(s => new RoundProblem.Job($"s{s}", Near(47), Near(10), 30, 0, double.PositiveInfinity, s % 5 == 0, null, false, s % 3 == 0 ? [ids[chance.Next(vans)]] : s % 3 == 1 ? ids : null))],
            [.. ids.Select(id => new RoundProblem.Van(id, 47.1, 10.1, 47.1, 10.1, 480, 840, null, _day))], Road.Minutes, 60);
    }

    // Every share-out and every order, without anything clever.
    private static double ByTrying(RoundProblem problem)
    {
        double Best(int van, List<int> set)
        {
            if (set.Count == 0)
                return 0;
            var best = double.PositiveInfinity;
            foreach (var order in Orders(set))
                best = Math.Min(best, problem.Best(van, order)?.Cost ?? double.PositiveInfinity);
            return best;
        }
        var least = double.PositiveInfinity;
        var count = problem.Stops.Count;
        for (var share = 0; share < Math.Pow(problem.Vans.Count, count); share++)
        {
            var (sets, rest) = (problem.Vans.Select(_ => new List<int>()).ToArray(), share);
            for (var s = 0; s < count; s++, rest /= problem.Vans.Count)
                sets[rest % problem.Vans.Count].Add(s);
            least = Math.Min(least, sets.Select((set, v) => Best(v, set)).Sum());
        }
        return least;
    }

    private static IEnumerable<List<int>> Orders(List<int> set) => set.Count <= 1 ? [set] : set.SelectMany(first => Orders([.. set.Where(s => s != first)]).Select(rest => (List<int>)[first, .. rest]));

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Small_days_are_as_good_as_trying_everything(int seed)
    {
        var problem = Problem(6, 2, seed);
        var plan = new RoundSolver().Solve(problem, TimeSpan.FromSeconds(1));
        Assert.True(plan.Proven);
        Assert.Equal(6, plan.Orders.Sum(o => o.Count));
        Assert.Equal(ByTrying(problem), plan.Orders.Select((o, v) => o.Count == 0 ? 0 : problem.Best(v, o)!.Value.Cost).Sum(), 1e-6);
    }

    // One after the other to where it costs least, the urgent ones first, and never touched again.
    private static List<int>[] ByInsertion(RoundProblem problem)
    {
        var orders = problem.Vans.Select(_ => new List<int>()).ToArray();
        foreach (var stop in Enumerable.Range(0, problem.Stops.Count).OrderByDescending(s => problem.Stops[s].Urgent))
        {
            var ways = from v in Enumerable.Range(0, orders.Length)
                       from at in Enumerable.Range(0, orders[v].Count + 1)
                       let order = (List<int>)[.. orders[v].Take(at), stop, .. orders[v].Skip(at)]
                       where problem.Best(v, order) is not null
                       select (Van: v, Order: order, More: problem.Best(v, order)!.Value.Cost - (orders[v].Count == 0 ? 0 : problem.Best(v, orders[v])!.Value.Cost));
            if (ways.Any())
                orders[ways.MinBy(w => w.More).Van] = ways.MinBy(w => w.More).Order;
        }
        return orders;
    }

    private static (int Urgent, int Left, double Cost) Worth(RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> orders)
    {
        var placed = orders.SelectMany(o => o).ToHashSet();
        var left = Enumerable.Range(0, problem.Stops.Count).Where(s => !placed.Contains(s)).ToList();
        return (left.Count(s => problem.Stops[s].Urgent), left.Count, orders.Select((o, v) => o.Count == 0 ? 0 : problem.Best(v, o)!.Value.Cost).Sum());
    }

    [Theory]
    [InlineData(24, 3, 11)]
    [InlineData(36, 4, 5)]
    public void Large_days_are_never_worse_than_insertion_and_above_what_no_plan_can_undercut(int stops, int vans, int seed)
    {
        var problem = Problem(stops, vans, seed);
        var orders = new RoundSolver().Solve(problem, TimeSpan.FromSeconds(1)).Orders;
        var (ours, hand) = (Worth(problem, orders), Worth(problem, ByInsertion(problem)));
        Assert.True(ours.CompareTo(hand) <= 0, $"{ours} against {hand} by insertion");
        // Every stop is come to from somewhere, and every van that goes out comes home: the shortest of each, added up.
        var placed = orders.SelectMany((o, v) => o.Select(s => (Van: v, Stop: s))).ToList();
        var bound = placed.Sum(p => Math.Min(problem.Drive(p.Van, -1, p.Stop), placed.Where(o => o.Van == p.Van && o.Stop != p.Stop).Select(o => problem.Drive(p.Van, o.Stop, p.Stop)).DefaultIfEmpty(double.PositiveInfinity).Min()))
            + placed.GroupBy(p => p.Van).Sum(g => g.Min(p => problem.Drive(g.Key, p.Stop, -1)));
        Assert.True(ours.Cost >= bound - 1e-6 && ours.Cost < 2 * bound, $"cost {ours.Cost:0}, no plan under {bound:0}: a gap of {ours.Cost / bound - 1:P0}");
    }

    [Fact]
    public void Nobody_makes_a_stop_that_is_not_theirs_on_a_large_day()
    {
        var problem = Problem(24, 3, 4);
        var plan = new RoundSolver().Solve(problem, TimeSpan.FromSeconds(0.5));
        Assert.All(plan.Orders.SelectMany((o, v) => o.Select(s => (Van: problem.Vans[v].Id, Job: problem.Stops[s]))), p => Assert.True(p.Job.Only?.Contains(p.Van) ?? true));
        Assert.Equal(plan.Orders.Sum(o => o.Count), plan.Orders.SelectMany(o => o).Distinct().Count());
        // A stop that no van may make has no place, and takes nobody else's.
        var shut = new RoundProblem([.. problem.Stops, problem.Stops[0] with { Id = "nobody's", Only = [] }], problem.Vans, Road.Minutes, 60);
        Assert.DoesNotContain(problem.Stops.Count, new RoundSolver().Solve(shut, TimeSpan.FromSeconds(0.5)).Orders.SelectMany(o => o));
    }

    [Fact]
    public void Vans_that_are_alike_but_for_what_they_may_make_are_not_taken_for_one_another()
    {
        // Two vans from one yard; the only stop is the second's.
        var problem = new RoundProblem([new("s", 47.12, 10.12, 30, 0, double.PositiveInfinity, false, null, false, ["v1"])], [.. Enumerable.Range(0, 2).Select(v => new RoundProblem.Van($"v{v}", 47.1, 10.1, 47.1, 10.1, 480, 840, null, _day))], Road.Minutes, 60);
        var plan = new RoundSolver().Solve(problem, TimeSpan.FromSeconds(1));
        Assert.Empty(plan.Orders[0]);
        Assert.Equal([0], plan.Orders[1]);
        Assert.Equal(UnplacedReason.DayEnd, new RoundProblem([problem.Stops[0] with { Only = [] }], problem.Vans, Road.Minutes, 60).WhyNot(0));
    }
}
