using Google.OrTools.Sat;
using Grate.Core.Door;

namespace Grate.Solvers;

/// <summary>
/// Cutting plans by OR-Tools' CP-SAT. A piece is known by its longest need, which "opens" it; shorter ones join. So pieces of the
/// same kind are never told apart, and the search has nothing to try twice. Where pieces are short, <see cref="CutPatterns"/> tries first.
/// </summary>
public sealed class CutSolver : ICutSolver
{
    private const double ForPatterns = 0.6;

    /// <inheritdoc/>
    public CutPlan Solve(CutProblem problem, TimeSpan time)
    {
        var end = DateTime.UtcNow + time;
        if (CutPatterns.Solve(problem, time * ForPatterns) is { } plan)
            return plan;
        // Longest first. Stock pieces of the same length are one kind with a number.
        int[] needs = [.. Enumerable.Range(0, problem.NeedsMm.Count).OrderByDescending(i => problem.NeedsMm[i]).ThenBy(i => i)];
        int Mm(int need) => problem.NeedsMm[needs[need]];
        var kinds = CutKind.Of(problem);

        var model = new CpModel();
        var opens = new BoolVar?[needs.Length, kinds.Length];
        var joins = new BoolVar?[needs.Length, needs.Length];
        for (var need = 0; need < needs.Length; need++)
        {
            var fitting = Enumerable.Range(0, kinds.Length).Where(k => kinds[k].Mm >= Mm(need)).ToList();
            foreach (var kind in fitting)
                opens[need, kind] = model.NewBoolVar("");
            // Others find room beside the need that opens a piece.
            var most = fitting.Select(k => kinds[k].Mm - Mm(need)).DefaultIfEmpty(-1).Max();
            foreach (var other in Enumerable.Range(need + 1, needs.Length - need - 1).Where(o => Mm(o) <= most))
                joins[need, other] = model.NewBoolVar("");
            model.Add(LinearExpr.Sum(Enumerable.Range(0, needs.Length).Where(o => joins[need, o] is not null).Select(o => LinearExpr.Term(joins[need, o]!, Mm(o))))
                <= LinearExpr.Sum(fitting.Select(k => LinearExpr.Term(opens[need, k]!, kinds[k].Mm - Mm(need)))));
            // What an offer can hold is met; what lies in the van may not suffice for all.
            if (fitting.Any(k => kinds[k].From == CutFrom.Offer))
                model.AddExactlyOne(Ways(need));
            else
                model.AddAtMostOne(Ways(need));
        }
        var opened = (from need in Enumerable.Range(0, needs.Length)
                      from kind in Enumerable.Range(0, kinds.Length)
                      where opens[need, kind] is not null
                      select (Open: opens[need, kind]!, Kind: kinds[kind])).ToList();
        if (opened.Count == 0)
            return new CutPlan([], true);
        // How many of each kind are cut: few numbers, which the search can reckon bounds with.
        var counts = kinds.ToDictionary(k => k, k => model.NewIntVar(0, k.From == CutFrom.Stock ? k.Pieces.Length : needs.Length, ""));
        foreach (var (kind, count) in counts)
            model.Add(LinearExpr.Sum(opened.Where(o => o.Kind == kind).Select(o => o.Open)) == count);

        // One aim after the other; what was reached stays.
        var ways = Enumerable.Range(0, needs.Length).SelectMany(need => Ways(need).Select(way => (Way: way, Mm: Mm(need)))).ToList();
        var left = LinearExpr.Sum(counts.Select(c => LinearExpr.Term(c.Value, c.Key.Mm))) - LinearExpr.Sum(ways.Select(w => LinearExpr.Term(w.Way, w.Mm)));
        model.Add(left >= 0);
        LinearExpr[] aims =
        [
            -LinearExpr.Sum(ways.Select(w => w.Way)),
            LinearExpr.Sum(counts.Select(c => LinearExpr.Term(c.Value, c.Key.Price))),
            left,
            LinearExpr.Sum(counts.Values),
        ];
        var (best, proven) = (new HashSet<int>(), true);
        foreach (var aim in aims)
        {
            model.Minimize(aim);
            // No aim takes more than two thirds of what is left: those after it are to have a try.
            var seconds = Math.Max(0.1, (end - DateTime.UtcNow).TotalSeconds * 2 / 3);
            using var solver = new CpSolver { StringParameters = FormattableString.Invariant($"max_time_in_seconds:{seconds:F2},num_workers:4,random_seed:1") };
            var status = solver.Solve(model);
            if (status is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible))
                return new CutPlan(Pieces(), false);
            best = [.. ways.Where(w => solver.Value(w.Way) == 1).Select(w => w.Way.Index)];
            proven &= status == CpSolverStatus.Optimal;
            model.Add(aim <= (long)Math.Round(solver.ObjectiveValue));
            model.ClearHints();
            foreach (var (way, _) in ways)
                model.AddHint(way, best.Contains(way.Index) ? 1 : 0);
        }
        return new CutPlan(Pieces(), proven);

        IEnumerable<BoolVar> Ways(int need) =>
            Enumerable.Range(0, kinds.Length).Select(k => opens[need, k]).Concat(Enumerable.Range(0, need).Select(o => joins[o, need])).OfType<BoolVar>();

        CutKind? Opened(int need) => Enumerable.Range(0, kinds.Length).Where(k => opens[need, k] is { } open && best.Contains(open.Index)).Select(k => kinds[k]).FirstOrDefault();

        int[] Cut(int need) => [needs[need], .. Enumerable.Range(need + 1, needs.Length - need - 1).Where(o => joins[need, o] is { } join && best.Contains(join.Index)).Select(o => needs[o])];

        IReadOnlyList<CutPiece> Pieces() => CutKind.Taken(Enumerable.Range(0, needs.Length).Select(need => (Kind: Opened(need), Needs: Cut(need))).Where(c => c.Kind is not null).Select(c => (c.Kind!, c.Needs)));
    }
}
