using System.Numerics;
using Google.OrTools.LinearSolver;
using Grate.Core.Door;

namespace Grate.Solvers;

/// <summary>
/// Cutting plans out of short pieces, each holding a few needs only: there the ways to cut a piece (patterns) can be told by what they
/// are worth. A linear program prices the needs, by column generation (Gilmore and Gomory 1961): by those prices the best filling of each
/// kind of piece joins it, until none improves. Its cost is a bound; a plan that costs g more is made of patterns whose reduced cost is at
/// most g, and those few are searched in full, sum by sum from the bound up.
/// </summary>
internal sealed class CutPatterns
{
    private const int MostInAPiece = 8, MostPatterns = 20_000;

    // What the needs are worth in every length of every kind is one table: 24 million numbers are 200 MB. Beyond that this is not the way.
    private const long MostNumbers = 24_000_000;

    // Of the dearest piece: far above what a linear program rounds, far below what a price could differ by.
    private const double Slack = 1e-7;

    private readonly IReadOnlyList<int> _needs;
    private readonly CutKind[] _kinds;
    private readonly double _dearest;
    private readonly long _unit;

    // What each need is worth, and what one more piece of a kind would save; of each kind the most that the needs from one on are worth in
    // a length; all of them and the bound in dearest pieces.
    private double[] _worth = [], _saves = [];
    private readonly double[][,] _worths;
    private double _bound;

    private CutPatterns(CutProblem problem)
    {
        _needs = problem.NeedsMm;
        _kinds = CutKind.Of(problem);
        _worths = new double[_kinds.Length][,];
        _dearest = Math.Max(1, _kinds.Max(k => k.Price));
        _unit = Math.Max(1, _kinds.Aggregate(0L, (unit, kind) => (long)BigInteger.GreatestCommonDivisor(unit, kind.Price)));
    }

    /// <summary>The best plan, proven; null where this is not the way: a need that no offer holds, long pieces, no proof in the time.</summary>
    public static CutPlan? Solve(CutProblem problem, TimeSpan time)
    {
        var offered = problem.Offers.Select(o => o.Mm).DefaultIfEmpty().Max();
        if (problem.NeedsMm.Count == 0 || problem.NeedsMm.Max() > offered || problem.NeedsMm.Order().Take(MostInAPiece + 1).Sum() <= problem.StockMm.Append(offered).Max())
            return null;
        var end = DateTime.UtcNow + time;
        var patterns = new CutPatterns(problem);
        if (patterns._kinds.Sum(k => (k.Mm + 1L) * (problem.NeedsMm.Count + 1)) > MostNumbers)
            return null;
        if (!patterns.Price(end))
            return null;
        foreach (var cost in patterns.Costs())
        {
            if (patterns.Within(cost, end) is not { } within || patterns.Best(within, cost, end) is not { } best)
                return null;
            if (best.Length > 0)
                return new CutPlan(CutKind.Taken(best.Select(p => (patterns._kinds[p.Kind], p.Needs))), true);
        }
        return null;
    }

    private bool Price(DateTime end)
    {
        using var program = Solver.CreateSolver("GLOP");
        var met = _needs.Select(_ => program.MakeConstraint(1, double.PositiveInfinity, "")).ToArray();
        var most = _kinds.Select(k => program.MakeConstraint(double.NegativeInfinity, Most(k), "")).ToArray();
        program.Objective().SetMinimization();
        void Add(double price, IEnumerable<int> needs, Constraint? of)
        {
            var count = program.MakeNumVar(0, double.PositiveInfinity, "");
            program.Objective().SetCoefficient(count, price);
            of?.SetCoefficient(count, 1);
            foreach (var need in needs)
                met[need].SetCoefficient(count, 1);
        }
        // To begin with, each need is met by a piece dearer than any.
        for (var need = 0; need < _needs.Count; need++)
            Add(2, [need], null);
        for (var better = true; better;)
        {
            if (DateTime.UtcNow > end || program.Solve() != Solver.ResultStatus.OPTIMAL)
                return false;
            (_worth, _saves, _bound, better) = ([.. met.Select(m => m.DualValue())], [.. most.Select(m => m.DualValue())], program.Objective().Value(), false);
            for (var kind = 0; kind < _kinds.Length; kind++)
            {
                if (Worths(_kinds[kind].Mm, end) is not { } worths)
                    return false;
                _worths[kind] = worths;
                if (Reduced(kind) - _worths[kind][0, _kinds[kind].Mm] < -Slack)
                {
                    Add(_kinds[kind].Price / _dearest, Filling(_worths[kind]), most[kind]);
                    better = true;
                }
            }
        }
        return true;
    }

    // What a piece costs beside what it is worth, before anything is cut from it.
    private double Reduced(int kind) => _kinds[kind].Price / _dearest - _saves[kind];

    // Null where the time was up.
    private double[,]? Worths(int mm, DateTime end)
    {
        var most = new double[_needs.Count + 1, mm + 1];
        for (var need = _needs.Count - 1; need >= 0; need--)
        {
            if (DateTime.UtcNow > end)
                return null;
            for (var length = 0; length <= mm; length++)
                most[need, length] = length < _needs[need] ? most[need + 1, length] : Math.Max(most[need + 1, length], most[need + 1, length - _needs[need]] + _worth[need]);
        }
        return most;
    }

    private List<int> Filling(double[,] most)
    {
        var needs = new List<int>();
        var left = most.GetLength(1) - 1;
        for (var need = 0; need < _needs.Count; need++)
            if (most[need, left] > most[need + 1, left])
            {
                needs.Add(need);
                left -= _needs[need];
            }
        return needs;
    }

    // The sums that whole numbers of offers come to, from the bound up.
    private IEnumerable<long> Costs()
    {
        var prices = _kinds.Select(k => k.Price).Where(p => p > 0).Distinct().ToList();
        var sums = new SortedSet<long> { 0 };
        while (sums.Count > 0)
        {
            var sum = sums.Min;
            sums.Remove(sum);
            if (sum / _dearest > _bound - Slack)
                yield return sum;
            sums.UnionWith(prices.Select(p => p + sum));
        }
    }

    // Every pattern that a plan at a cost may hold; null where they are too many, or the time is up.
    private List<Pattern>? Within(long cost, DateTime end)
    {
        var gap = cost / _dearest - _bound + Slack;
        var found = new List<Pattern>();
        var cut = new Stack<int>();
        var steps = 0;
        bool Search(int kind, int need, int left, double reduced, double[,] most)
        {
            if (found.Count > MostPatterns || (++steps % 4096 == 0 && DateTime.UtcNow > end))
                return false;
            if (reduced - most[need, left] > gap)
                return true;
            if (need == _needs.Count)
            {
                if (cut.Count > 0)
                    found.Add(new(kind, [.. cut]));
                return true;
            }
            if (_needs[need] <= left)
            {
                cut.Push(need);
                var all = Search(kind, need + 1, left - _needs[need], reduced - _worth[need], most);
                cut.Pop();
                if (!all)
                    return false;
            }
            return Search(kind, need + 1, left, reduced, most);
        }
        return Enumerable.Range(0, _kinds.Length).All(kind => Search(kind, 0, _kinds[kind].Mm, Reduced(kind), _worths[kind])) ? found : null;
    }

    // The patterns that meet every need at a cost, leave least and are fewest: none if that cannot be, null if time was up.
    private Pattern[]? Best(List<Pattern> patterns, long cost, DateTime end)
    {
        using var program = Solver.CreateSolver("SCIP");
        var cut = patterns.Select(_ => program.MakeBoolVar("")).ToArray();
        var met = _needs.Select(_ => program.MakeConstraint(1, 1, "")).ToArray();
        // In whole numbers, as small as they can be: the search reckons with them.
        var paid = program.MakeConstraint(cost / _unit, cost / _unit, "");
        program.Objective().SetMinimization();
        // How many of each kind are cut: few numbers, by which the search parts best.
        var counts = _kinds.Select(kind =>
        {
            var (count, pieces) = (program.MakeIntVar(0, Most(kind), ""), program.MakeConstraint(0, 0, ""));
            pieces.SetCoefficient(count, -1);
            paid.SetCoefficient(count, kind.Price / _unit);
            program.Objective().SetCoefficient(count, kind.Mm * (_needs.Count + 1.0) + 1);
            return pieces;
        }).ToArray();
        for (var i = 0; i < cut.Length; i++)
        {
            counts[patterns[i].Kind].SetCoefficient(cut[i], 1);
            foreach (var need in patterns[i].Needs)
                met[need].SetCoefficient(cut[i], 1);
        }
        var left = (long)(end - DateTime.UtcNow).TotalMilliseconds;
        if (left <= 0)
            return null;
        program.SetTimeLimit(left);
        return program.Solve() switch
        {
            Solver.ResultStatus.OPTIMAL => [.. patterns.Where((_, i) => cut[i].SolutionValue() > 0.5)],
            Solver.ResultStatus.INFEASIBLE => [],
            _ => null,
        };
    }

    private static double Most(CutKind kind) => kind.From == CutFrom.Stock ? kind.Pieces.Length : double.PositiveInfinity;

    private sealed record Pattern(int Kind, int[] Needs);
}
