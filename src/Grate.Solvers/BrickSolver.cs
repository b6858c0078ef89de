using Google.OrTools.Sat;
using Grate.Core.Firebox;

namespace Grate.Solvers;

/// <summary>
/// Bricks in courses. A panel is split into courses in one direction, or into courses and a block whose courses run across. A course
/// is a chain of pieces as thick as itself; a brick is ripped into lanes as thick as courses, and a lane is cut across into pieces.
/// OR-Tools' CP-SAT finds how the courses share lanes and the lanes share bricks; the splits that promise most are tried first, until
/// one is as good as the bound or the time is up. Every piece comes by straight through cuts: first along the brick, then across.
/// A panel that fits into one brick is one piece of it.
/// </summary>
/// <param name="work">Work for a whole layout by CP-SAT's own measure, about a second each, which no other load on the machine changes; null where the clock decides.</param>
public sealed class BrickSolver(double? work = null) : IBrickSolver
{
    private const double PerTry = 1.5;

    // Share of the time for courses that end in one piece.
    private const double EndsInOne = 0.5;

    // So many splits of a panel, and of several panels together, are gone on with.
    private const int MostSplits = 12, MostTogether = 200;

    // A course of a panel: where it lies, how long and thick, and which way it runs.
    private sealed record Course(int Panel, int X, int Y, int Length, int Thickness, bool Upright);

    // Courses of some panels, and about how many bricks they take.
    private sealed record Split(IReadOnlyList<Course> Courses, double Bricks);

    /// <inheritdoc/>
    public IReadOnlyList<PlannedPiece>? Solve(BrickProblem problem, TimeSpan time)
    {
        var panels = problem.Panels.Select((_, panel) => Splits(problem, panel)).ToList();
        if (panels.Any(p => p.Count == 0))
            return null;
        var start = DateTime.UtcNow;
        var choices = Together(problem, panels);
        IReadOnlyList<PlannedPiece>? best = null;
        var (bricks, worked) = (int.MaxValue, 0.0);
        var budget = work ?? time.TotalSeconds;
        // Where a course ends in one piece there is little to choose, and an answer is soon there; then ends may be divided as well.
        foreach (var (divided, share) in new[] { (false, EndsInOne), (true, 1) })
        {
            foreach (var choice in choices)
            {
                // What takes as many by itself, ends not counted, is not better; those after it take more.
                var left = share * budget - (work is null ? (DateTime.UtcNow - start).TotalSeconds : worked);
                if (left <= 0 || bricks <= problem.Bound || Math.Ceiling(choice.Bricks - 1e-6) >= bricks)
                    break;
                var limit = FormattableString.Invariant($"{(work is null ? "max_time_in_seconds" : "interleave_search:true,max_deterministic_time")}:{Math.Clamp(left, 0.1, PerTry):F2}");
                var found = Lay(problem, choice.Courses, divided, bricks, limit, out var did);
                worked += did;
                if (found is null)
                    continue;
                best = found;
                bricks = found.Max(p => p.Brick) + 1;
            }
        }
        return best;
    }

    // The ways to split a panel, those first that take the least brick.
    private static List<Split> Splits(BrickProblem problem, int panel)
    {
        var (width, height) = problem.Panels[panel];
        var splits = new List<Split>();
        // One brick that serves is not put together from two.
        foreach (var (along, across, turned) in new[] { (width, height, false), (height, width, true) })
        {
            if (along <= problem.Length && across <= problem.Width)
                return [new([new Course(panel, 0, 0, along, across, turned)], About(problem, [new Course(panel, 0, 0, along, across, turned)]))];
        }
        foreach (var upright in new[] { false, true })
        {
            // Courses lie along the one side and are stacked along the other.
            var (along, across) = upright ? (height, width) : (width, height);
            Course At(int from, int thickness) => upright ? new(panel, from, 0, along, thickness, true) : new(panel, 0, from, along, thickness, false);
            foreach (var thicknesses in Thicknesses(problem, across))
                Add([.. Stacked(problem, thicknesses).Select(c => At(c.From, c.Thickness))]);
            // Some full courses, and above them a block whose courses run across.
            for (var full = 1; full * (problem.Width + problem.Joint) < across - problem.Least; full++)
            {
                var (from, rest) = (full * (problem.Width + problem.Joint), across - full * (problem.Width + problem.Joint));
                foreach (var thicknesses in Thicknesses(problem, along))
                {
                    Add([.. Enumerable.Range(0, full).Select(i => At(i * (problem.Width + problem.Joint), problem.Width)),
                        .. Stacked(problem, thicknesses).Select(c => upright ? new Course(panel, from, c.From, rest, c.Thickness, false) : new Course(panel, c.From, from, rest, c.Thickness, true))]);
                }
            }
        }
        return [.. splits.OrderBy(s => s.Bricks).ThenBy(s => s.Courses.Count).Take(MostSplits)];

        void Add(Course[] courses)
        {
            if (courses.All(c => Fillable(problem, c.Length)))
                splits.Add(new(courses, About(problem, courses)));
        }
    }

    private static IEnumerable<(int From, int Thickness)> Stacked(BrickProblem problem, IReadOnlyList<int> thicknesses)
    {
        var from = 0;
        foreach (var thickness in thicknesses)
        {
            yield return (from, thickness);
            from += thickness + problem.Joint;
        }
    }

    // Full courses with one that closes the side, or with two that share what is left.
    private static IEnumerable<IReadOnlyList<int>> Thicknesses(BrickProblem problem, int across)
    {
        var pitch = problem.Width + problem.Joint;
        var full = (across + problem.Joint) / pitch;
        var rest = across - full * pitch;
        int[] Fulls(int count) => [.. Enumerable.Repeat(problem.Width, Math.Max(0, count))];
        if (rest == -problem.Joint)
            yield return Fulls(full);
        else if (rest >= problem.Least || (full == 0 && rest > 0))
            yield return [.. Fulls(full), rest];
        if (full == 0)
            yield break;
        // One full course less; two lesser ones in its place.
        var both = rest + pitch - problem.Joint;
        foreach (var one in new[] { problem.Least, (problem.Width - 2 * problem.Kerf) / 3, (problem.Width - problem.Kerf) / 2, both / 2 }.Distinct())
        {
            var other = both - one;
            if (one >= problem.Least && other >= one && other <= problem.Width)
                yield return [.. Fulls(full - 1), other, one];
        }
    }

    // Whether a course is whole lanes alone, or whole lanes and one piece that is not too short.
    private static bool EndsWell(BrickProblem problem, int length)
    {
        var rest = length - (length + problem.Joint) / (problem.Length + problem.Joint) * (problem.Length + problem.Joint);
        return rest == -problem.Joint || (rest >= problem.Least && rest <= problem.Length) || length < problem.Least;
    }

    // Whether a course can be a chain of pieces, none of them too short: two at least where one end would not do.
    private static bool Fillable(BrickProblem problem, int length) => EndsWell(problem, length) || length >= 2 * problem.Least + problem.Joint;

    // About how many bricks courses take: their lanes, ripped as well as they go together, ends not counted.
    private static double About(BrickProblem problem, IReadOnlyList<Course> courses)
    {
        int[] thicknesses = [.. courses.Select(c => c.Thickness).Distinct().OrderDescending()];
        var lanes = thicknesses.Select(t => courses.Where(c => c.Thickness == t).Sum(c => (double)(c.Length + problem.Joint) / (problem.Length + problem.Joint))).ToArray();
        var rips = Rips(problem, thicknesses);
        var bricks = 0.0;
        for (var t = 0; t < lanes.Length; t++)
        {
            while (lanes[t] > 1e-9)
            {
                // The rip that gives this lane and fills the brick best with what is still wanted.
                var rip = rips.Where(r => r[t] > 0).MaxBy(r => r.Select((count, i) => lanes[i] > 1e-9 ? count * (thicknesses[i] + problem.Kerf) : 0).Sum())!;
                var share = Enumerable.Range(0, lanes.Length).Where(i => rip[i] > 0 && lanes[i] > 1e-9).Min(i => lanes[i] / rip[i]);
                bricks += share;
                for (var i = 0; i < lanes.Length; i++)
                    lanes[i] = Math.Max(0, lanes[i] - share * rip[i]);
            }
        }
        return bricks;
    }

    // One split of every panel, those first that go together best; what takes the same courses is the same problem.
    private static IReadOnlyList<Split> Together(BrickProblem problem, IReadOnlyList<List<Split>> panels) =>
        panels.Aggregate((IReadOnlyList<Split>)[new([], 0)], (soFar, panel) => [.. soFar.SelectMany(s => panel.Select(own => (Course[])[.. s.Courses, .. own.Courses]))
            .Select(courses => new Split(courses, About(problem, courses))).DistinctBy(s => string.Join(' ', s.Courses.Select(c => (c.Thickness, c.Length)).Order())).OrderBy(s => s.Bricks).ThenBy(s => s.Courses.Count).Take(Math.Max(8, MostTogether / panels.Count))]);

    // Lays these courses with fewer than so many bricks; null where that is not possible, or was not found in time.
    private static IReadOnlyList<PlannedPiece>? Lay(BrickProblem problem, IReadOnlyList<Course> courses, bool divided, int fewerThan, string limit, out double worked)
    {
        int[] thicknesses = [.. courses.Select(c => c.Thickness).Append(problem.Width).Distinct().OrderDescending()];
        var rips = Rips(problem, thicknesses);
        var model = new CpModel();
        var (pitch, saw) = (problem.Length + problem.Joint, problem.Length + problem.Kerf);

        // Whole lanes of a course: as many as fit, with one piece at its end; or one less, with two where its end is divided or would be too short.
        var most = courses.Select(c => (c.Length + problem.Joint) / pitch).ToList();
        var inOne = courses.Select((c, i) => EndsWell(problem, c.Length) && !divided).ToList();
        var wholes = courses.Select((c, i) => model.NewIntVar(inOne[i] ? most[i] : Math.Max(0, most[i] - 1), divided || inOne[i] ? most[i] : Math.Max(0, most[i] - 1), "")).ToList();
        // Courses alike are not told apart.
        foreach (var (before, after) in Enumerable.Range(1, courses.Count - 1).Select(c => (c - 1, c)).Where(c => courses[c.Item1].Length == courses[c.Item2].Length && courses[c.Item1].Thickness == courses[c.Item2].Thickness))
            model.Add(wholes[before] >= wholes[after]);
        // Lanes that are shared, of each thickness: at most one for every piece of a course as thick or thinner.
        var lanes = thicknesses.SelectMany((thickness, t) => Enumerable.Range(0, courses.Count(c => c.Thickness == thickness) + 1).Select(_ => t)).ToList();
        var used = lanes.Select(_ => model.NewBoolVar("")).ToList();
        var cuts = new BoolVar?[courses.Count, lanes.Count];
        var lengths = new IntVar?[courses.Count, lanes.Count];
        for (var course = 0; course < courses.Count; course++)
        {
            var whole = courses[course].Length;
            for (var lane = 0; lane < lanes.Count; lane++)
            {
                if (thicknesses[lanes[lane]] < courses[course].Thickness)
                    continue;
                var cut = cuts[course, lane] = model.NewBoolVar("");
                var length = lengths[course, lane] = model.NewIntVar(0, Math.Min(whole, problem.Length), "");
                model.Add(length <= LinearExpr.Term(cut, Math.Min(whole, problem.Length)));
                model.Add(length >= LinearExpr.Term(cut, Math.Min(whole, problem.Least)));
                model.AddImplication(cut, used[lane]);
            }
            model.Add(LinearExpr.Term(wholes[course], pitch) + LinearExpr.Sum(Of(course).Select(lane => lengths[course, lane]! + LinearExpr.Term(cuts[course, lane]!, problem.Joint))) == whole + problem.Joint);
            model.Add(LinearExpr.Sum(Of(course).Select(lane => cuts[course, lane]!)) <= (inOne[course] ? 1 : 2));
        }
        for (var lane = 0; lane < lanes.Count; lane++)
        {
            model.Add(LinearExpr.Sum(Enumerable.Range(0, courses.Count).Where(c => cuts[c, lane] is not null).Select(c => lengths[c, lane]! + LinearExpr.Term(cuts[c, lane]!, problem.Kerf))) <= saw);
            // Lanes of one thickness are alike: they are used in order.
            if (lane > 0 && lanes[lane - 1] == lanes[lane])
                model.AddImplication(used[lane], used[lane - 1]);
        }
        var atMost = Math.Min(fewerThan - 1, most.Sum(m => m + 2));
        var ripped = rips.Select(_ => model.NewIntVar(0, atMost, "")).ToList();
        for (var t = 0; t < thicknesses.Length; t++)
        {
            model.Add(LinearExpr.Sum(rips.Select((rip, r) => LinearExpr.Term(ripped[r], rip[t])))
                >= LinearExpr.Sum(Enumerable.Range(0, courses.Count).Where(c => courses[c].Thickness == thicknesses[t]).Select(c => wholes[c]))
                 + LinearExpr.Sum(Enumerable.Range(0, lanes.Count).Where(lane => lanes[lane] == t).Select(lane => used[lane])));
        }
        var bricks = LinearExpr.Sum(ripped);
        model.Add(bricks <= atMost);
        model.Add(bricks >= problem.Bound);
        model.Minimize(bricks);
        using var solver = new CpSolver { StringParameters = $"{limit},num_workers:4,random_seed:1" };
        var status = solver.Solve(model);
        worked = solver.Response!.DeterministicTime;
        if (status is not (CpSolverStatus.Optimal or CpSolverStatus.Feasible))
            return null;

        // Bricks are numbered as their lanes are taken.
        var free = thicknesses.Select(_ => new Queue<int>()).ToArray();
        var number = 0;
        for (var rip = 0; rip < rips.Count; rip++)
        {
            for (var i = 0; i < solver.Value(ripped[rip]); i++, number++)
            {
                for (var t = 0; t < thicknesses.Length; t++)
                {
                    for (var k = 0; k < rips[rip][t]; k++)
                        free[t].Enqueue(number);
                }
            }
        }
        var brickOf = lanes.Select((t, lane) => solver.Value(used[lane]) == 1 ? free[t].Dequeue() : -1).ToArray();
        var pieces = new List<PlannedPiece>();
        for (var course = 0; course < courses.Count; course++)
        {
            var own = Of(course).Where(lane => solver.Value(cuts[course, lane]!) == 1).Select(lane => ((int)solver.Value(lengths[course, lane]!), brickOf[lane]))
                .Concat(Enumerable.Range(0, (int)solver.Value(wholes[course])).Select(_ => (problem.Length, free[Array.IndexOf(thicknesses, courses[course].Thickness)].Dequeue()))).ToList();
            // Every second course begins with its whole pieces: joints do not stand one above the other.
            if (course % 2 == 1)
                own.Reverse();
            var at = 0;
            foreach (var (length, brick) in own)
            {
                var (x, y, thickness) = (courses[course].X, courses[course].Y, courses[course].Thickness);
                pieces.Add(courses[course].Upright ? new(courses[course].Panel, x, y + at, thickness, length, brick) : new(courses[course].Panel, x + at, y, length, thickness, brick));
                at += length + problem.Joint;
            }
        }
        // A brick that nothing was taken from in the end is not bought.
        var bought = pieces.Select(p => p.Brick).Distinct().Order().ToList();
        return [.. pieces.Select(p => p with { Brick = bought.IndexOf(p.Brick) })];

        IEnumerable<int> Of(int course) => Enumerable.Range(0, lanes.Count).Where(lane => cuts[course, lane] is not null);
    }

    // Every way to rip a brick along its length that no other contains: how many lanes of each thickness.
    private static List<int[]> Rips(BrickProblem problem, IReadOnlyList<int> thicknesses)
    {
        var rips = new List<int[]>();
        Rip(new int[thicknesses.Count], 0, problem.Width + problem.Kerf);
        return rips;

        void Rip(int[] lanes, int from, int left)
        {
            var grown = false;
            for (var t = from; t < thicknesses.Count; t++)
            {
                if (thicknesses[t] + problem.Kerf > left)
                    continue;
                lanes[t]++;
                Rip(lanes, t, left - thicknesses[t] - problem.Kerf);
                lanes[t]--;
                grown = true;
            }
            if (!grown && lanes.Any(l => l > 0))
                rips.Add([.. lanes]);
        }
    }
}
