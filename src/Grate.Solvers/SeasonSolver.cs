using Google.OrTools.Graph;
using Grate.Core;
using Grate.Core.Places;
using Grate.Core.Service;

namespace Grate.Solvers;

/// <summary>
/// Visits to weeks as a flow of minutes of least cost, by OR-Tools: from each visit into a week, there by what it needs to whoever can
/// do it, and through their hours out; roofs through the hours of daylight first. A visit that the flow splits between weeks is made
/// whole where it has most of its hours, as long as somebody has some left: whoever begins it ends it. Drives, which no flow knows, follow by moving one visit after the other to where it costs less.
/// </summary>
public sealed class SeasonSolver : ISeasonSolver
{
    private const int Unit = 5, Scale = 1000;

    /// <inheritdoc/>
    public (IReadOnlyList<int?> Weeks, double Bound) Solve(SeasonProblem problem, Action<double> progress, CancellationToken cancel)
    {
        var (weeks, bound) = Flow(problem, cancel);
        progress(0.7);
        cancel.ThrowIfCancellationRequested();
        var whole = new Whole(problem, weeks);
        while (whole.Improve())
            cancel.ThrowIfCancellationRequested();
        progress(1);
        return (whole.Weeks, bound);
    }

    // The week in which each visit has most of its hours, and whether it has all of them there.
    private static ((int Week, bool All)?[] Weeks, double Cost) Flow(SeasonProblem problem, CancellationToken cancel)
    {
        var (flow, nodes) = (new MinCostFlow(), problem.Visits.Count + 1);
        const int sink = 0;
        // One gate a week and set of needs, opened by the first visit that asks for it.
        var gates = new Dictionary<(int Week, string Needs), int>();
        var hands = new Dictionary<(int Week, int Hand, bool Roof), int>();
        int Hand(int week, int hand, bool roof)
        {
            if (hands.TryGetValue((week, hand, roof), out var node))
                return node;
            node = hands[(week, hand, roof)] = nodes++;
            if (roof)
                flow.AddArcWithCapacityAndUnitCost(node, Hand(week, hand, false), problem.InLight(problem.Hands[hand], week) / Unit, 0);
            else
                flow.AddArcWithCapacityAndUnitCost(node, sink, problem.Hands[hand].Minutes[week] / Unit, 0);
            return node;
        }
        int Gate(int week, IReadOnlyList<Skill> needs, string key)
        {
            if (gates.TryGetValue((week, key), out var node))
                return node;
            node = gates[(week, key)] = nodes++;
            for (var hand = 0; hand < problem.Hands.Count; hand++)
            {
                if (problem.Hands[hand].Minutes[week] > 0 && problem.Hands[hand].Can(needs))
                    flow.AddArcWithCapacityAndUnitCost(node, Hand(week, hand, needs.Contains(Skill.Roof)), int.MaxValue, 0);
            }
            return node;
        }
        var (arcs, total) = (new List<(int Arc, int Visit, int Week)>(), 0L);
        for (var i = 0; i < problem.Visits.Count; i++)
        {
            var visit = problem.Visits[i];
            var units = (visit.Minutes + Unit - 1) / Unit;
            long PerUnit(double price) => (long)Math.Round(price * Scale / units);
            var (first, last) = problem.Span(visit);
            var needs = string.Join(' ', visit.Needs);
            for (var week = first; week <= last; week++)
                arcs.Add((flow.AddArcWithCapacityAndUnitCost(i + 1, Gate(week, visit.Needs, needs), units, PerUnit(problem.Price(visit, week))), i, week));
            flow.AddArcWithCapacityAndUnitCost(i + 1, sink, units, PerUnit(problem.PriceLeft(visit)));
            flow.SetNodeSupply(i + 1, units);
            total += units;
        }
        flow.SetNodeSupply(sink, -total);
        cancel.ThrowIfCancellationRequested();
        if (flow.Solve() != MinCostFlowBase.Status.OPTIMAL)
            throw new InvalidOperationException("The season's flow has no answer.");
        var most = new (int Week, long Flow)?[problem.Visits.Count];
        foreach (var (arc, visit, week) in arcs)
        {
            if (flow.Flow(arc) is > 0 and var units && !(most[visit]?.Flow >= units))
                most[visit] = (week, units);
        }
        return ([.. most.Select((m, i) => m is var (week, units) ? ((int, bool)?)(week, units == (problem.Visits[i].Minutes + Unit - 1) / Unit) : null)], flow.OptimalCost() / (double)Scale);
    }

    /// <summary>Whole visits, each with somebody who can do it.</summary>
    private sealed class Whole
    {
        private readonly SeasonProblem _problem;
        private readonly int[][] _free, _light, _able;
        private readonly int[] _hand;
        private readonly Dictionary<(string Place, int Week), int> _there = [];

        // What lies in one week stays there; then what lies in several, the dearest to wait first.
        public Whole(SeasonProblem problem, (int Week, bool All)?[] weeks)
        {
            (_problem, Weeks) = (problem, new int?[weeks.Length]);
            _free = [.. problem.Hands.Select(h => h.Minutes.ToArray())];
            _light = [.. problem.Hands.Select(h => Enumerable.Range(0, problem.Weeks).Select(w => problem.InLight(h, w)).ToArray())];
            var able = new Dictionary<string, int[]>();
            _able = [.. problem.Visits.Select(v => string.Join(' ', v.Needs) is var key && able.TryGetValue(key, out var known) ? known
                : able[key] = [.. Enumerable.Range(0, problem.Hands.Count).Where(h => problem.Hands[h].Can(v.Needs))])];
            _hand = new int[weeks.Length];
            var order = Enumerable.Range(0, weeks.Length).OrderBy(i => _able[i].Length).ThenByDescending(i => problem.PriceLeft(problem.Visits[i])).ToList();
            foreach (var i in order.Where(i => weeks[i] is not null).OrderBy(i => !problem.Visits[i].Urgent).ThenBy(i => !weeks[i]!.Value.All))
            {
                var (week, _) = weeks[i]!.Value;
                // The flow counts a week's hours together; a visit is made by somebody who has the time for all of it, or has no week.
                if (Freest(i, week) is var (hand, free) && free >= problem.Visits[i].Minutes)
                    Put(i, week, hand);
                else
                    Move(i);
            }
        }

        public int?[] Weeks { get; }

        /// <summary>Moves every visit once to where it costs less, or gives it the place of one that costs less elsewhere; false where none does.</summary>
        public bool Improve()
        {
            var moved = false;
            for (var i = 0; i < Weeks.Length; i++)
                moved |= Move(i) || Displace(i);
            return moved;
        }

        // Hours of a week that lie with several people are too short for a long visit, though together they would do: one shorter visit makes way.
        private bool Displace(int i)
        {
            var (visit, now, own) = (_problem.Visits[i], Weeks[i], _hand[i]);
            var costs = Costs(i, now);
            if (costs < 1e-6)
                return false;
            var (first, last) = _problem.Span(visit);
            Take(i);
            for (var j = 0; j < Weeks.Length; j++)
            {
                if (Weeks[j] is not { } week || week < first || week > last || week == now || !_able[i].Contains(_hand[j]) || _problem.Price(visit, week) >= costs)
                    continue;
                var hand = _hand[j];
                var before = costs + Costs(j, week);
                Take(j);
                if (Free(i, hand, week) >= visit.Minutes)
                {
                    var then = Costs(i, week);
                    Put(i, week, hand);
                    if (then < before && Move(j) && then + Costs(j, Weeks[j]) < before - 1e-6)
                        return true;
                    Take(j);
                    Take(i);
                }
                Put(j, week, hand);
            }
            if (now is { } back)
                Put(i, back, own);
            return false;
        }

        private bool Move(int i)
        {
            var (visit, now) = (_problem.Visits[i], Weeks[i]);
            var costs = Costs(i, now);
            // Only a drive or a better week can be saved.
            if (costs < 1e-6)
                return false;
            var (first, last) = _problem.Span(visit);
            var (best, hand, least) = (now, -1, costs - 1e-6);
            for (var week = first; week <= last; week++)
            {
                if (week != now && _problem.Price(visit, week) < least && Costs(i, week) is var then && then < least && Freest(i, week) is var (freest, free) && free >= visit.Minutes)
                    (best, hand, least) = (week, freest, then);
            }
            if (hand < 0)
                return false;
            Take(i);
            Put(i, best!.Value, hand);
            return true;
        }

        // A week's price, and the drive that the visit alone is made for.
        private double Costs(int i, int? week)
        {
            var visit = _problem.Visits[i];
            if (week is not { } there)
                return _problem.PriceLeft(visit);
            var others = _there.GetValueOrDefault((visit.Place, there)) - (Weeks[i] == there ? 1 : 0);
            return _problem.Price(visit, there) + (others % (int)SeasonProblem.OneDrive.Value == 0 ? _problem.RoundTrip(visit.Place) : 0);
        }

        private (int Hand, int Free)? Freest(int i, int week)
        {
            (int Hand, int Free)? freest = null;
            foreach (var hand in _able[i])
            {
                if (Free(i, hand, week) is var free && (freest is null || free > freest.Value.Free))
                    freest = (hand, free);
            }
            return freest;
        }

        private int Free(int i, int hand, int week) =>
            _problem.Visits[i].Needs.Contains(Skill.Roof) ? Math.Min(_free[hand][week], _light[hand][week]) : _free[hand][week];

        private void Put(int i, int week, int hand)
        {
            (Weeks[i], _hand[i]) = (week, hand);
            Add(i, week, -1);
        }

        private void Take(int i)
        {
            if (Weeks[i] is { } week)
                Add(i, week, 1);
            Weeks[i] = null;
        }

        private void Add(int i, int week, int sign)
        {
            var visit = _problem.Visits[i];
            _free[_hand[i]][week] += sign * visit.Minutes;
            if (visit.Needs.Contains(Skill.Roof))
                _light[_hand[i]][week] += sign * visit.Minutes;
            _there[(visit.Place, week)] = _there.GetValueOrDefault((visit.Place, week)) - sign;
        }
    }
}
