using Google.OrTools.ConstraintSolver;
using Grate.Core.Places;
using Grate.Core.Service;
using Grate.Solvers;
using Google.Protobuf.WellKnownTypes;

namespace Grate.Benchmarks;

/// <summary>
/// Large days: 60 stops and 4 vans, three kinds of them, six days each. What the solver finds in its time, against a plain insertion and
/// against OR-Tools' routing library (guided local search, 20 s) over the same day.
/// </summary>
internal static class RoundScale
{
    private const int Stops = 60, Vans = 4, Days = 6;

    private const long Tick = 10;

    public static int Run()
    {
        Console.WriteLine($"Rounds of {Stops} stops and {Vans} vans: urgent without a place / without a place / cost in min, mean of {Days} days");
        foreach (var (name, service, tight) in new[] { ("all fit", 14.0, 0.2), ("hardly", 24.0, 0.4), ("too much", 34.0, 0.4) })
        {
            var found = Enumerable.Range(1, Days).Select(seed =>
            {
                var problem = Day(seed, service, tight);
                return (Insertion: Worth(problem, Insertion(problem)), Ours: Worth(problem, new RoundSolver().Solve(problem, TimeSpan.FromSeconds(3.5)).Orders), Other: Worth(problem, Routing(problem, 20)), Long: Worth(problem, new RoundSolver().Solve(problem, TimeSpan.FromSeconds(20)).Orders));
            }).ToList();
            string Mean(Func<(int Urgent, int Left, double Cost), double> of, Func<int, (int, int, double)> at) => $"{Enumerable.Range(0, Days).Average(i => of(at(i))):0.0}";
            string Said(Func<int, (int, int, double)> at) => $"{Mean(w => w.Urgent, at)} / {Mean(w => w.Left, at)} / {Mean(w => w.Cost, at)}";
            Console.WriteLine($"{name,-9} insertion {Said(i => found[i].Insertion)}; ours in 3.5 s {Said(i => found[i].Ours)}, in 20 s {Said(i => found[i].Long)}; routing library {Said(i => found[i].Other)}; ours better on {found.Count(f => f.Ours.CompareTo(f.Other) < 0)}, worse on {found.Count(f => f.Ours.CompareTo(f.Other) > 0)} of {Days}");
        }
        return 0;
    }

    // A valley of 25 km; some households have windows, some stoves are cold late, some go on the roof.
    private static RoundProblem Day(int seed, double service, double tight)
    {
        var chance = new Random(seed);
        double Near(double of) => of + 0.22 * chance.NextDouble();
        RoundProblem.Job Job(int s)
        {
            var from = 480 + 60 * chance.Next(7);
            var (earliest, latest) = chance.NextDouble() < tight ? (from, from + 120.0) : (0, double.PositiveInfinity);
            return new($"s{s}", Near(47), Near(10), service * (0.6 + 0.8 * chance.NextDouble()), earliest, latest, chance.Next(10) == 0, chance.Next(10) == 0 ? 600 : null, chance.Next(5) == 0);
        }
        return new([.. Enumerable.Range(0, Stops).Select(Job)], [.. Enumerable.Range(0, Vans).Select(v => new RoundProblem.Van($"v{v}", 47.1, 10.1, 47.1, 10.1, 480, 1020, new(690, 810, 30), new(480, 960)))], Road.Minutes, 60);
    }

    private static (int Urgent, int Left, double Cost) Worth(RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> orders)
    {
        var placed = orders.SelectMany(o => o).ToHashSet();
        var left = Enumerable.Range(0, problem.Stops.Count).Where(s => !placed.Contains(s)).ToList();
        return (left.Count(s => problem.Stops[s].Urgent), left.Count, Math.Round(orders.Select((o, v) => o.Count == 0 ? 0 : problem.Best(v, o)?.Cost ?? throw new InvalidOperationException("A route that cannot be driven.")).Sum(), 3));
    }

    // One after the other to where it costs least, the urgent ones first, and never touched again.
    private static List<int>[] Insertion(RoundProblem problem)
    {
        var orders = problem.Vans.Select(_ => new List<int>()).ToArray();
        foreach (var stop in Enumerable.Range(0, problem.Stops.Count).OrderByDescending(s => problem.Stops[s].Urgent))
        {
            var ways = from v in Enumerable.Range(0, orders.Length)
                       from at in Enumerable.Range(0, orders[v].Count + 1)
                       let order = (List<int>)[.. orders[v].Take(at), stop, .. orders[v].Skip(at)]
                       let costs = problem.Best(v, order)?.Cost
                       where costs is not null
                       select (Van: v, Order: order, More: costs - (orders[v].Count == 0 ? 0 : problem.Best(v, orders[v])!.Value.Cost));
            if (ways.Any())
                orders[ways.MinBy(w => w.More).Van] = ways.MinBy(w => w.More).Order;
        }
        return orders;
    }

    // The same day for the library: whole tenths of a minute, rounded up so that what it finds can be driven.
    private static List<int>[] Routing(RoundProblem problem, int seconds)
    {
        static long Up(double minutes) => (long)Math.Ceiling(minutes * Tick - 1e-9);
        var (count, vans) = (problem.Stops.Count, problem.Vans.Count);
        using var manager = new RoutingIndexManager(count + 1, vans, 0);
        using var model = new RoutingModel(manager);
        long Way(long from, long to, bool service)
        {
            var (a, b) = (manager.IndexToNode(from) - 1, manager.IndexToNode(to) - 1);
            return a == b ? 0 : Up(problem.Drive(0, a, b)) + (service && a >= 0 ? Up(problem.Stops[a].ServiceMin) : 0);
        }
        model.SetArcCostEvaluatorOfAllVehicles(model.RegisterTransitCallback((from, to) => Way(from, to, false)));
        var transit = model.RegisterTransitCallback((from, to) => Way(from, to, true));
        model.AddDimension(transit, Up(1440), Up(1440), false, "time");
        var time = model.GetMutableDimension("time");
        for (var s = 0; s < count; s++)
        {
            var (index, stop) = (manager.NodeToIndex(s + 1), problem.Stops[s]);
            var first = Math.Max(Math.Max(stop.Earliest, stop.ColdFrom ?? 0), stop.NeedsDaylight ? problem.Vans[0].Light.Dawn : 0);
            var last = Math.Min(double.IsPositiveInfinity(stop.Latest) ? 1440 : stop.Latest + problem.HardLate, stop.NeedsDaylight ? problem.Vans[0].Light.Dusk - stop.ServiceMin : 1440);
            model.AddDisjunction([index], stop.Urgent ? 100_000_000 : 1_000_000);
            if (last < first)
            {
                model.VehicleVar(index).SetValue(-1);
                continue;
            }
            time.CumulVar(index).SetRange(Up(first), (long)(last * Tick));
            if (!double.IsPositiveInfinity(stop.Latest))
                time.SetCumulVarSoftUpperBound(index, (long)(stop.Latest * Tick), (long)RoundProblem.LateCosts);
        }
        for (var v = 0; v < vans; v++)
        {
            var van = problem.Vans[v];
            time.CumulVar(model.Start(v)).SetRange(Up(van.DayStart), Up(van.DayEnd));
            time.CumulVar(model.End(v)).SetRange(Up(van.DayStart), (long)(van.DayEnd * Tick));
            // Lunch at a house, or before it is left; service is not broken off.
            var lunch = model.solver().MakeFixedDurationIntervalVar(Up(van.Lunch!.From), (long)(van.Lunch.To * Tick), Up(van.Lunch.Minutes), false, "lunch");
            using var breaks = new IntervalVarVector();
            breaks.Add(lunch);
            time.SetBreakIntervalsOfVehicle(breaks, v, [.. Enumerable.Range(0, count + 1).Select(n => n == 0 ? 0 : Up(problem.Stops[n - 1].ServiceMin))]);
        }
        var asked = operations_research_constraint_solver.DefaultRoutingSearchParameters();
        asked.FirstSolutionStrategy = FirstSolutionStrategy.Types.Value.ParallelCheapestInsertion;
        asked.LocalSearchMetaheuristic = LocalSearchMetaheuristic.Types.Value.GuidedLocalSearch;
        asked.TimeLimit = new Duration { Seconds = seconds };
        using var found = model.SolveWithParameters(asked);
        var orders = problem.Vans.Select(_ => new List<int>()).ToArray();
        for (var v = 0; found is not null && v < vans; v++)
        {
            for (var at = found.Value(model.NextVar(model.Start(v))); !model.IsEnd(at); at = found.Value(model.NextVar(at)))
                orders[v].Add(manager.IndexToNode(at) - 1);
        }
        return orders;
    }
}
