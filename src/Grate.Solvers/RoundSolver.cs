using System.Diagnostics;
using System.Numerics;
using Grate.Core.Service;

namespace Grate.Solvers;

/// <summary>
/// Rounds: a small day by trying every order of every set of stops (dynamic programming, so no order is tried twice), a large one by
/// taking stops out of a good plan and putting them back better, again and again (a large neighbourhood search).
/// </summary>
public sealed class RoundSolver : IRoundSolver
{
    private const int MostExact = 11;

    /// <inheritdoc/>
    public RoundPlan Solve(RoundProblem problem, TimeSpan time, Action<RoundProgress>? progress = null, CancellationToken halt = default) => problem.Stops.Count == 0 || problem.Vans.Count == 0
        ? new([.. problem.Vans.Select(_ => (IReadOnlyList<int>)[])], true)
        : problem.Stops.Count <= MostExact ? RoundByOrders.Solve(problem) : new RoundByRebuilding(problem).Solve(time, progress, halt);
}

/// <summary>Every order of every set of stops, van by van; then the best way to share the sets out.</summary>
internal static class RoundByOrders
{
    private const double Same = 1e-9;

    // How far a van is: where, whether lunch is over, when it can go on, what it cost, and from what it came.
    private sealed record Step(int At, bool Fed, double Time, double Cost, Step? From);

    private sealed record Best(double Cost, double End, int[] Order);

    private sealed record Shared(double Cost, int Vans, double Ends, int Mine, Shared? Before);

    /// <summary>The best plan; proven.</summary>
    public static RoundPlan Solve(RoundProblem problem)
    {
        var count = problem.Stops.Count;
        var all = 1 << count;
        // What the vans so far can make of a set.
        var shared = new Shared?[all];
        shared[0] = new(0, 0, 0, 0, null);
        var known = new Dictionary<(RoundProblem.Van, int), Best?[]>();
        var routes = new Best?[problem.Vans.Count][];
        for (var v = 0; v < problem.Vans.Count; v++)
        {
            // Vans that are alike can do alike.
            var kind = (problem.Vans[v] with { Id = "" }, Enumerable.Range(0, count).Sum(s => problem.Takes(v, s) ? 1 << s : 0));
            if (!known.TryGetValue(kind, out var own))
                known[kind] = own = Routes(problem, v);
            routes[v] = own;
            var next = new Shared?[all];
            for (var set = 0; set < all; set++)
            {
                next[set] = shared[set] is { } idle ? new(idle.Cost, idle.Vans, idle.Ends, 0, idle) : null;
                for (var mine = set; mine > 0; mine = (mine - 1) & set)
                {
                    if (own[mine] is { } route && shared[set & ~mine] is { } before && new Shared(before.Cost + route.Cost, before.Vans + 1, before.Ends + route.End, mine, before) is var plan && Better(plan, next[set]))
                        next[set] = plan;
                }
            }
            shared = next;
        }
        int Urgent(int set) => Enumerable.Range(0, count).Count(s => (set >> s & 1) == 1 && problem.Stops[s].Urgent);
        var best = Enumerable.Range(0, all).Where(set => shared[set] is not null).OrderByDescending(Urgent).ThenByDescending(set => BitOperations.PopCount((uint)set))
            .Aggregate((a, b) => Urgent(a) == Urgent(b) && BitOperations.PopCount((uint)a) == BitOperations.PopCount((uint)b) && Better(shared[b]!, shared[a]) ? b : a);
        var orders = new IReadOnlyList<int>[problem.Vans.Count];
        var (plan2, at) = (shared[best]!, problem.Vans.Count - 1);
        for (; at >= 0; plan2 = plan2.Before!, at--)
            orders[at] = plan2.Mine == 0 ? [] : routes[at][plan2.Mine]!.Order;
        return new(orders, true);
    }

    // Least cost; then fewer vans; then home sooner.
    private static bool Better(Shared plan, Shared? than) => than is null || plan.Cost < than.Cost - Same
        || (plan.Cost <= than.Cost + Same && (plan.Vans < than.Vans || (plan.Vans == than.Vans && plan.Ends < than.Ends - Same)));

    // The best order of each set for a van, or null where it cannot make it.
    private static Best?[] Routes(RoundProblem problem, int van)
    {
        var (count, of) = (problem.Stops.Count, problem.Vans[van]);
        var best = new Best?[1 << count];
        var steps = new List<Step>[1 << count];
        steps[0] = [new(-1, false, of.DayStart, 0, null)];
        for (var set = 0; set < steps.Length; set++)
        {
            foreach (var step in steps[set] ?? [])
            {
                if (set > 0)
                    End(step);
                // Lunch before it leaves where it stands.
                var fed = !step.Fed && of.Lunch is { } lunch && RoundProblem.AfterLunch(lunch, step.Time) is var after && !double.IsNaN(after) ? step with { Fed = true, Time = after } : null;
                if (set > 0 && fed is not null)
                    End(fed);
                for (var s = 0; s < count; s++)
                {
                    if ((set >> s & 1) == 1 || !problem.Takes(van, s))
                        continue;
                    Go(step, s, false);
                    if (fed is not null)
                        Go(fed, s, false);
                    if (!step.Fed && of.Lunch is not null)
                        Go(step, s, true);
                }
                void End(Step from)
                {
                    var drive = problem.Drive(van, from.At, -1);
                    if (!problem.MayEnd(van, from.Time + drive, from.Fed))
                        return;
                    var (cost, home) = (from.Cost + drive, from.Time + drive);
                    if (best[set] is not { } other || cost < other.Cost - Same || (cost <= other.Cost + Same && home < other.End - Same))
                        best[set] = new(cost, home, OrderOf(from));
                }
            }
            void Go(Step from, int stop, bool eatThere)
            {
                var drive = problem.Drive(van, from.At, stop);
                var door = from.Time + drive;
                if (eatThere)
                    door = RoundProblem.AfterLunch(of.Lunch!, door);
                var start = double.IsNaN(door) ? door : problem.Begin(van, stop, door);
                if (double.IsNaN(start) || start + problem.Stops[stop].ServiceMin > of.DayEnd + Same)
                    return;
                Keep(steps[set | 1 << stop] ??= [], new(stop, from.Fed || eatThere, start + problem.Stops[stop].ServiceMin, from.Cost + drive + RoundProblem.LateCosts * problem.LateOf(stop, start), from));
            }
        }
        return best;
    }

    // Whoever is there sooner for less, and has eaten no later, leaves no use for the other.
    private static void Keep(List<Step> steps, Step step)
    {
        if (steps.Exists(s => s.At == step.At && s.Fed == step.Fed && s.Time <= step.Time + Same && s.Cost <= step.Cost + Same))
            return;
        steps.RemoveAll(s => s.At == step.At && s.Fed == step.Fed && step.Time <= s.Time && step.Cost <= s.Cost);
        steps.Add(step);
    }

    private static int[] OrderOf(Step last)
    {
        var order = new List<int>();
        for (var step = last; step is { At: >= 0 }; step = step.From!)
            order.Add(step.At);
        order.Reverse();
        return [.. order];
    }
}

/// <summary>Takes stops out of a plan and puts them back where they cost least, for as long as there is time.</summary>
internal sealed class RoundByRebuilding(RoundProblem problem)
{
    private const double UrgentUnplaced = 1e9, Unplaced = 1e6, VanGoes = 1e-4, Same = 1e-9;
    private const int MostOut = 14, Patience = 400;

    private static readonly TimeSpan _tell = TimeSpan.FromMilliseconds(250);

    private readonly Random _chance = new(1);

    private sealed class Plan(List<int>[] orders, double[] costs, List<int> left)
    {
        public List<int>[] Orders { get; } = orders;

        public double[] Costs { get; } = costs;

        public List<int> Left { get; } = left;

        public Plan Copy() => new([.. Orders.Select(o => new List<int>(o))], [.. Costs], [.. Left]);
    }

    /// <summary>The best plan that was found; not proven.</summary>
    public RoundPlan Solve(TimeSpan time, Action<RoundProgress>? progress, CancellationToken halt)
    {
        var (clock, told) = (Stopwatch.StartNew(), TimeSpan.Zero);
        var now = From([.. problem.Vans.Select(_ => (IReadOnlyList<int>)[])]);
        if (problem.Start is { } start && From(start) is var kept && CostOf(kept) < CostOf(now))
            now = kept;
        var (best, bestCost, cost) = (now.Copy(), CostOf(now), CostOf(now));
        for (var (tries, since) = (0, 0); clock.Elapsed < time && !halt.IsCancellationRequested; tries++)
        {
            var done = clock.Elapsed / time;
            if (progress is not null && clock.Elapsed >= told)
            {
                progress(new(done, problem.DriveOf(best.Orders), best.Left.Count));
                told = clock.Elapsed + _tell;
            }
            var next = now.Copy();
            TakeOut(next);
            PutBack(next, tries % 3 == 0 ? 0 : 0.15);
            var nextCost = CostOf(next);
            // A little worse is borne, the less the later it is.
            var borne = 0.02 * Math.Max(0, 1 - done) * (bestCost % Unplaced);
            if (nextCost < cost + borne * _chance.NextDouble())
                (now, cost) = (next, nextCost);
            if (nextCost < bestCost - Same)
                (best, bestCost, since) = (next.Copy(), nextCost, 0);
            else if (++since >= Patience)
                (now, cost, since) = (best.Copy(), bestCost, 0);
        }
        return new(best.Orders, false);
    }

    // What can be driven of some orders, and the rest where it costs least.
    private Plan From(IReadOnlyList<IReadOnlyList<int>> orders)
    {
        List<int>[] driven = [.. orders.Select((o, v) => o.Count > 0 && problem.Best(v, o) is not null ? [.. o] : new List<int>())];
        var plan = new Plan(driven, [.. driven.Select((o, v) => o.Count == 0 ? 0 : problem.Best(v, o)!.Value.Cost)], [.. Enumerable.Range(0, problem.Stops.Count).Except(driven.SelectMany(o => o))]);
        PutBack(plan, 0);
        return plan;
    }

    private double CostOf(Plan plan) => plan.Costs.Sum() + plan.Left.Sum(s => Unplaced + (problem.Stops[s].Urgent ? UrgentUnplaced : 0)) + VanGoes * plan.Orders.Count(o => o.Count > 0);

    // Stops near one that chance picks, a whole van's, or any.
    private void TakeOut(Plan plan)
    {
        var placed = plan.Orders.SelectMany(o => o).ToList();
        if (placed.Count == 0)
            return;
        var count = Math.Min(placed.Count, 2 + _chance.Next(Math.Min(MostOut, placed.Count)));
        var seed = plan.Left.Count > 0 && _chance.Next(2) == 0 ? plan.Left[_chance.Next(plan.Left.Count)] : placed[_chance.Next(placed.Count)];
        var kind = _chance.Next(4);
        var van = kind == 0 ? plan.Orders[_chance.Next(plan.Orders.Length)] : null;
        var outs = (kind switch
        {
            0 => van!.Take(MostOut),
            1 => placed.OrderBy(_ => _chance.Next()).Take(count),
            // Now and then one that is farther.
            _ => placed.OrderBy(s => problem.Drive(0, seed, s) * (0.7 + 0.6 * _chance.NextDouble())).Take(count),
        }).ToHashSet();
        for (var v = 0; v < plan.Orders.Length; v++)
        {
            if (plan.Orders[v].RemoveAll(outs.Contains) > 0)
                plan.Costs[v] = plan.Orders[v].Count == 0 ? 0 : problem.Best(v, plan.Orders[v])?.Cost ?? double.PositiveInfinity;
        }
        // An order that was possible stays so with fewer stops, but for a lunch that nobody finds time for any more: then all of it is laid anew.
        for (var v = 0; v < plan.Orders.Length; v++)
        {
            if (!double.IsPositiveInfinity(plan.Costs[v]))
                continue;
            outs.UnionWith(plan.Orders[v]);
            plan.Orders[v].Clear();
            plan.Costs[v] = 0;
        }
        plan.Left.AddRange(outs);
    }

    // The one that would regret most to wait comes first.
    private void PutBack(Plan plan, double noise)
    {
        var waiting = plan.Left.ToList();
        plan.Left.Clear();
        var ways = waiting.ToDictionary(s => s, s => Enumerable.Range(0, plan.Orders.Length).Select(v => Cheapest(plan, v, s, noise)).ToArray());
        while (waiting.Count > 0)
        {
            var (pick, regret) = (-1, double.NegativeInfinity);
            foreach (var s in waiting)
            {
                var (first, second) = (double.PositiveInfinity, double.PositiveInfinity);
                foreach (var way in ways[s])
                    (first, second) = way.Cost < first ? (way.Cost, first) : (first, Math.Min(second, way.Cost));
                if (double.IsPositiveInfinity(first))
                    continue;
                var own = Math.Min(second, 1e5) - first + (problem.Stops[s].Urgent ? 1e6 : 0);
                if (own > regret)
                    (pick, regret) = (s, own);
            }
            if (pick < 0)
            {
                plan.Left.AddRange(waiting);
                return;
            }
            var van = Array.IndexOf(ways[pick], ways[pick].MinBy(w => w.Cost));
            plan.Orders[van].Insert(ways[pick][van].At, pick);
            plan.Costs[van] = problem.Best(van, plan.Orders[van])!.Value.Cost;
            waiting.Remove(pick);
            foreach (var s in waiting)
                ways[s][van] = Cheapest(plan, van, s, noise);
        }
    }

    private (double Cost, int At) Cheapest(Plan plan, int van, int stop, double noise)
    {
        if (!problem.Takes(van, stop))
            return (double.PositiveInfinity, 0);
        var order = plan.Orders[van];
        var (best, place) = (double.PositiveInfinity, 0);
        for (var at = 0; at <= order.Count; at++)
        {
            var (before, after) = (at > 0 ? order[at - 1] : -1, at < order.Count ? order[at] : -1);
            var more = problem.Drive(van, before, stop) + problem.Drive(van, stop, after) - (order.Count == 0 ? 0 : problem.Drive(van, before, after));
            // Nobody becomes less late by another stop: the way alone costs more already.
            if (more >= best)
                continue;
            order.Insert(at, stop);
            var cost = problem.Best(van, order)?.Cost - plan.Costs[van] ?? double.PositiveInfinity;
            order.RemoveAt(at);
            if (cost < best)
                (best, place) = (cost, at);
        }
        return (best * (1 + noise * (_chance.NextDouble() - 0.5)), place);
    }
}
