using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>Rounds of a day.</summary>
/// <param name="Day">The day.</param>
/// <param name="Routes">Everybody's round.</param>
public sealed record PlannedDay(DateOnly Day, IReadOnlyList<DayRoute> Routes);

/// <summary>A visit that a better plan would move.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="PlanVersion">Version of its plan that was looked at.</param>
/// <param name="Street">Its street.</param>
/// <param name="From">Who holds it now.</param>
/// <param name="FromDay">On which day it is planned now.</param>
/// <param name="FromMin">And when.</param>
/// <param name="TechnicianId">Who would go.</param>
/// <param name="To">Their name.</param>
/// <param name="ToDay">On which day it would be.</param>
/// <param name="ToMin">And when.</param>
/// <param name="Told">Whether the household was told, and would have to be told anew.</param>
public sealed record DayMove(Guid VisitId, int PlanVersion, string Street, string From, DateOnly FromDay, double FromMin, Guid TechnicianId, string To, DateOnly ToDay, double ToMin, bool Told);

/// <summary>A visit without a place.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="PlanVersion">Version of its plan that was looked at.</param>
/// <param name="Street">Its street.</param>
/// <param name="Why">Why, and what would place it.</param>
public sealed record DayLeft(Guid VisitId, int PlanVersion, string Street, Sentence Why);

/// <summary>A better plan of some days.</summary>
/// <param name="Days">Their rounds.</param>
/// <param name="Moves">What it moves.</param>
/// <param name="Left">What has no place in it.</param>
/// <param name="Proven">Whether none is better.</param>
/// <param name="Sentences">In words.</param>
public sealed record BetterRounds(IReadOnlyList<PlannedDay> Days, IReadOnlyList<DayMove> Moves, IReadOnlyList<DayLeft> Left, bool Proven, IReadOnlyList<Sentence> Sentences);

/// <summary>
/// The search for better rounds (handbook 10 section 6): of a day by itself, or of several days of a week, whose visits may then change
/// their day too. What was begun, is signed, or takes several people stays where it is.
/// </summary>
public sealed class RoundSearch
{
    private const double Raster = 5, Hour = 60, WorthSaying = 1, Same = 1e-6;

    // How much of the time goes to what it would be without promises: only to say what they cost.
    private const double ForPromises = 0.3;

    private static readonly RoundProblem.Pause _lunch = new(690, 810, 30);

    private readonly IReadOnlyList<DayRound> _days;
    private readonly IReadOnlyList<Hand> _hands;
    private readonly IReadOnlyList<Leg> _legs;
    private readonly bool _keepTold;

    // Somebody on a day: what the solver calls a van.
    private sealed record Hand(DayRound Round, DayVan Van)
    {
        public string Id => $"{Van.TechnicianId}/{Round.Day:yyyy-MM-dd}";
    }

    // A visit for one of those who go to it: what the solver calls a stop.
    private sealed record Leg(DayRound Round, DayVisit Visit, Guid Goer)
    {
        public bool Fixed => Visit.Stands || Visit.Goers.Count > 1;

        public bool Keeps(bool keepTold) => Fixed || (keepTold && Visit.Told);
    }

    /// <summary>A search.</summary>
    /// <param name="days">The days, each as it is planned; what is over of them left out.</param>
    /// <param name="keepTold">Whether those who were told keep their hour and their technician.</param>
    /// <param name="without">Who is ill.</param>
    public RoundSearch(IReadOnlyList<DayRound> days, bool keepTold, IReadOnlyCollection<Guid> without)
    {
        (_days, _keepTold) = (days, keepTold);
        _hands = [.. days.SelectMany(d => d.Vans.Where(v => !v.Away && !without.Contains(v.TechnicianId)).Select(v => new Hand(d, v)))];
        _legs = [.. days.SelectMany(d => d.Visits.SelectMany(v => v.Goers.Select(g => new Leg(d, v, g))).Where(l => !l.Fixed || Own(l) is not null))];
    }

    private Hand? Own(Leg leg) => _hands.FirstOrDefault(h => h.Round.Day == leg.Round.Day && h.Van.TechnicianId == leg.Goer);

    /// <summary>Looks for the best plan.</summary>
    /// <param name="solver">Who finds it.</param>
    /// <param name="time">After so long the best so far is taken.</param>
    /// <param name="progress">Told how far it is.</param>
    /// <param name="halt">Ends it sooner; the best so far is taken.</param>
    public BetterRounds Find(IRoundSolver solver, TimeSpan time, Action<RoundProgress>? progress = null, CancellationToken halt = default)
    {
        var promises = _keepTold && _legs.Any(l => l.Visit.Told && !l.Fixed);
        var share = promises ? 1 - ForPromises : 1;
        var problem = Problem(_keepTold);
        var (found, proven) = solver.Solve(problem, time * share, at => progress?.Invoke(at with { Done = at.Done * share }), halt);
        var plan = AsLittle(problem, found);
        var free = promises ? solver.Solve(Problem(false), time * ForPromises, at => progress?.Invoke(new(share + at.Done * ForPromises, problem.DriveOf(plan), problem.Unplaced(plan))), halt).Orders : null;

        var routes = _hands.Select((hand, h) => (hand.Round.Day, Route: plan[h].Count == 0 ? new DayRoute(hand.Van.TechnicianId, hand.Van.Name, [], 0, 0, Opens(hand), null) : Told(hand, problem, h, plan[h]))).ToList();
        var placed = routes.SelectMany(r => r.Route.Stops.Select(s => (r.Day, r.Route, Stop: s))).ToLookup(s => s.Stop.VisitId);
        var movable = _legs.Select((l, at) => (Leg: l, At: at)).Where(l => !l.Leg.Fixed).ToList();
        var moves = (from l in movable
                     from to in placed[l.Leg.Visit.VisitId]
                     let v = l.Leg.Visit
                     orderby to.Day, to.Stop.FromMin
                     where to.Day != l.Leg.Round.Day || to.Route.TechnicianId != v.TechnicianId || Math.Abs(to.Stop.FromMin - v.FromMin) >= Raster
                     select new DayMove(v.VisitId, v.PlanVersion, v.Street, NameOf(l.Leg), l.Leg.Round.Day, v.FromMin, to.Route.TechnicianId, to.Route.Name, to.Day, to.Stop.FromMin, v.Told)).ToList();
        var left = movable.Where(l => !placed.Contains(l.Leg.Visit.VisitId)).Select(l => new DayLeft(l.Leg.Visit.VisitId, l.Leg.Visit.PlanVersion, l.Leg.Visit.Street, Why(l.Leg, l.At, problem, plan))).ToList();
        return new([.. routes.GroupBy(r => r.Day, r => r.Route).Select(g => new PlannedDay(g.Key, [.. g]))], moves, left, proven, Words(problem, plan, proven, moves, left, free));
    }

    // What is no better than what is planned moves nobody; and where two could trade their rounds for nothing, as few as can be change hands.
    private static IReadOnlyList<IReadOnlyList<int>> AsLittle(RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> found)
    {
        var now = problem.Start!;
        if ((problem.UnplacedUrgent(now), problem.Unplaced(now)).CompareTo((problem.UnplacedUrgent(found), problem.Unplaced(found))) <= 0 && Costs(problem, now) < Costs(problem, found) + WorthSaying)
            return now;
        var orders = found.ToArray();
        for (var better = true; better;)
        {
            better = false;
            for (var a = 0; a < orders.Length; a++)
            {
                for (var b = a + 1; b < orders.Length; b++)
                {
                    if (Stay(a, orders[b]) + Stay(b, orders[a]) > Stay(a, orders[a]) + Stay(b, orders[b])
                        && CostOf(problem, a, orders[b]) + CostOf(problem, b, orders[a]) <= CostOf(problem, a, orders[a]) + CostOf(problem, b, orders[b]) + Same)
                        ((orders[a], orders[b]), better) = ((orders[b], orders[a]), true);
                }
            }
        }
        return orders;
        int Stay(int hand, IReadOnlyList<int> order) => order.Count(at => now[hand].Contains(at));
    }

    private static double CostOf(RoundProblem problem, int hand, IReadOnlyList<int> order) => order.Count == 0 ? 0 : problem.Best(hand, order)?.Cost ?? double.PositiveInfinity;

    private static double Costs(RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> orders) => orders.Select((order, hand) => CostOf(problem, hand, order)).Sum();

    private static string NameOf(Leg leg) => leg.Round.Vans.FirstOrDefault(v => v.TechnicianId == leg.Visit.TechnicianId)?.Name ?? "";

    private static double Minute(TimeOnly time) => time.ToTimeSpan().TotalMinutes;

    private static double Opens(Hand hand) => Math.Max(Minute(hand.Round.Ways.From), hand.Van.From?.Min ?? 0);

    private RoundProblem Problem(bool keepTold, double longer = 0, Leg? freed = null)
    {
        var (home, drive) = (_days[0].Home, _days[0].Drive);
        return new([.. _legs.Select(l => Job(l == freed ? l with { Visit = l.Visit with { Told = false, Wish = VisitWish.Any } } : l, keepTold))],
            [.. _hands.Select(h => new RoundProblem.Van(h.Id, h.Van.From?.Latitude ?? home.Latitude, h.Van.From?.Longitude ?? home.Longitude, home.Latitude, home.Longitude, Opens(h), Minute(h.Round.Ways.To) + longer, _lunch,
                new(h.Round.DawnMin, h.Round.DuskMin)))],
            drive, RoundProblem.UsualHardLate.Value)
        {
            Start = [.. _hands.Select(h => (IReadOnlyList<int>)[.. _legs.Select((l, at) => (Leg: l, At: at)).Where(l => Own(l.Leg) == h).OrderBy(l => l.Leg.Visit.FromMin).Select(l => l.At)])],
        };
    }

    private RoundProblem.Job Job(Leg leg, bool keepTold)
    {
        var visit = leg.Visit;
        var (earliest, latest) = visit.Wish.Window(visit.Minutes);
        var keeps = leg.Keeps(keepTold);
        // Who is ill keeps no promise: then the hour stays, and somebody else comes.
        var hands = keeps && Own(leg) is { } own ? [own] : _hands.Where(h => Able(h, visit) && (h.Round.Day == leg.Round.Day || (!keeps && On(h, leg))));
        return new($"{visit.VisitId}/{leg.Goer}", visit.Latitude, visit.Longitude, visit.Minutes, keeps ? visit.FromMin : earliest, keeps ? visit.FromMin + DayRound.Promise.Value : latest, visit.Urgent,
            visit.Wish.ColdFrom is { } cold && !keeps ? Minute(cold) : null, visit.Needs.Contains(Skill.Roof) && !visit.Stands, [.. hands.Select(h => h.Id)]);
    }

    private static bool Able(Hand hand, DayVisit visit) => hand.Van.Skills.Count == 0 || visit.Needs.All(n => hand.Van.Skills.Contains(Word.Of(n)));

    // Another day than its own: one on which the firm works, the household can, and not before its parts.
    private static bool On(Hand hand, Leg leg) => hand.Round.Ways.WorksOn(hand.Round.Day) && leg.Visit.Wish.On(hand.Round.Day) && (hand.Round.Day > leg.Round.Day || !leg.Visit.WantsParts);

    // A promised hour stays what was promised.
    private DayRoute Told(Hand hand, RoundProblem problem, int h, IReadOnlyList<int> order)
    {
        // There and back by the same places costs the same as a rule: then the way round that moves fewer.
        var (way, jobs, _) = new[] { order, [.. order.Reverse()] }.Select(o => Settled(hand, problem, h, o)).Where(w => CostOf(problem, h, w.Way) <= CostOf(problem, h, order) + Same).MaxBy(w => w.Kept);
        var route = OnTheClock(problem, h, jobs);
        var stops = way.Zip(route.Stops).Select((of, k) =>
        {
            var (visit, times) = (_legs[of.First].Visit, of.Second);
            var from = _legs[of.First].Keeps(_keepTold) ? visit.FromMin : Raised(times.StartMin);
            return new DayStop(visit.VisitId, visit.Street, visit.Place, visit.Latitude, visit.Longitude, problem.Drive(h, k > 0 ? way[k - 1] : -1, of.First), times.ArriveMin, from, from + visit.Minutes, times.LateMin, visit.Told, visit.Needs.Contains(Skill.Roof));
        }).ToList();
        return new(hand.Van.TechnicianId, hand.Van.Name, stops, route.DriveMin, route.LateMin, route.DepartMin, route.EndMin);
    }

    // On a clock that people read: every visit begins at a multiple of five minutes, and the next ones after that, where there is time.
    private RoundRoute OnTheClock(RoundProblem problem, int h, List<RoundProblem.Job> jobs)
    {
        int[] inTurn = [.. Enumerable.Range(0, jobs.Count)];
        var least = CostOf(Alone(problem, h, jobs), 0, inTurn);
        for (var k = 0; k < jobs.Count; k++)
        {
            var job = jobs[k];
            jobs[k] = job with { Earliest = Raised(Alone(problem, h, jobs).Route(0, inTurn).Stops[k].StartMin) };
            if (CostOf(Alone(problem, h, jobs), 0, inTurn) > least + Same)
                jobs[k] = job;
        }
        return Alone(problem, h, jobs).Route(0, inTurn);
    }

    private static double Raised(double minute) => Math.Ceiling(minute / Raster - 1e-9) * Raster;

    // Who keeps their technician and their day keeps the hour, too, where that costs the others nothing.
    private (IReadOnlyList<int> Way, List<RoundProblem.Job> Jobs, int Kept) Settled(Hand hand, RoundProblem problem, int h, IReadOnlyList<int> order)
    {
        var (jobs, kept, least) = (order.Select(at => problem.Stops[at]).ToList(), 0, CostOf(problem, h, order));
        int[] inTurn = [.. Enumerable.Range(0, jobs.Count)];
        for (var k = 0; k < jobs.Count; k++)
        {
            var (job, leg) = (jobs[k], _legs[order[k]]);
            if (leg.Keeps(_keepTold) || leg.Round.Day != hand.Round.Day || leg.Goer != hand.Van.TechnicianId || leg.Visit.FromMin < job.Earliest || leg.Visit.FromMin > job.Latest)
                continue;
            jobs[k] = job with { Earliest = leg.Visit.FromMin, Latest = leg.Visit.FromMin };
            if (CostOf(Alone(problem, h, jobs), 0, inTurn) > least + Same)
                jobs[k] = job;
            else
                kept++;
        }
        return (order, jobs, kept);
    }

    private RoundProblem Alone(RoundProblem problem, int h, IReadOnlyList<RoundProblem.Job> jobs) => new(jobs, [problem.Vans[h]], _days[0].Drive, problem.HardLate);

    // What stands in its way, and the smallest change that would place it beside what the plan has.
    private Sentence Why(Leg leg, int at, RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> plan)
    {
        string? Places(RoundProblem then) => _hands.Where((_, h) => Enumerable.Range(0, plan[h].Count + 1).Any(place => then.Best(h, [.. plan[h].Take(place), at, .. plan[h].Skip(place)]) is not null)).Select(h => h.Van.Name).FirstOrDefault();
        var why = problem.WhyNot(at) switch
        {
            UnplacedReason.NoVan => "nobody goes out",
            UnplacedReason.Cold => "its stove is cold too late",
            UnplacedReason.Window => "nobody is there in time for what the household asked for",
            UnplacedReason.Daylight => "it would be dark before the roof is done",
            UnplacedReason.DayEnd when !_hands.Where((_, h) => problem.Takes(h, at)).Any() => "nobody who goes out is down for its stove",
            UnplacedReason.DayEnd => "the van would not be home in time",
            _ => _days.Count > 1 ? "the others fill the days" : "the others fill the day",
        };
        var cure = Places(Problem(_keepTold, Hour)) is { } longer ? $"One more hour for {longer} would place it."
            : Places(Problem(_keepTold, freed: leg)) is { } freed ? $"At another hour than asked for, {freed} could go." : _days.Count > 1 ? "It needs another week." : "It needs another day.";
        return Say($"{leg.Visit.Street}: {why}. {cure}{(leg.Visit.Told ? " The household was told." : "")}");
    }

    private IReadOnlyList<Sentence> Words(RoundProblem problem, IReadOnlyList<IReadOnlyList<int>> plan, bool proven, IReadOnlyList<DayMove> moves, IReadOnlyList<DayLeft> left, IReadOnlyList<IReadOnlyList<int>>? free)
    {
        var said = new Said();
        var (now, then) = (_days.Sum(d => d.AsPlanned().Sum(r => r.DriveMin)), problem.DriveOf(plan));
        if (_days.All(d => d.Visits.Count == 0))
            return said.Add(Weight.Verdict, Say("No visit is planned.")).InOrder();
        string Visits(int count) => $"{count} {(count == 1 ? "visit" : "visits")}";
        if (moves.Count == 0 && left.Count == 0)
            said.Add(Weight.Verdict, Say(!proven ? "Nothing better was found: nothing moves." : _days.Count > 1 ? "The week is as good as it gets: nothing moves." : "The day is as good as it gets: nothing moves."));
        else
            said.Add(Weight.Verdict, Say(Computed($"{then:0} min"), $" of driving instead of {now:0}; {Visits(moves.Count)} {(moves.Count == 1 ? "moves" : "move")}{(moves.Count(m => m.ToDay != m.FromDay) is > 0 and var days ? $", {days} of them to another day" : "")}{(moves.Count(m => m.Told) is > 0 and var told ? $", {told} of them told already" : "")}."));
        if (left.Count > 0)
            said.Add(Weight.RuledOut, Say($"{left.Count} {(left.Count == 1 ? "visit has" : "visits have")} no place."));
        // What several go to is nobody's to hand over: it is planned by hand.
        foreach (var visit in _days.SelectMany(d => d.Visits.Select(v => (Round: d, Visit: v))).Where(v => v.Visit is { Stands: false, Goers.Count: > 1 } && v.Visit.Goers.Any(g => Own(new(v.Round, v.Visit, g)) is null)))
            said.Add(Weight.RuledOut, Say($"{visit.Visit.Street} takes several, and one of them does not go out: plan it by hand."));
        if (free is not null && (problem.Unplaced(plan) - problem.Unplaced(free), then - problem.DriveOf(free)) is var (more, less) && (more > 0 || (more == 0 && less >= WorthSaying)))
            said.Add(Weight.Hint, Say($"That nobody who was told is moved costs {(more > 0 ? $"{Visits(more)} a place" : $"{less:0} min of driving")}."));
        if (!proven && (moves.Count > 0 || left.Count > 0))
            said.Add(Weight.Hint, Say("The best that was found; not proven."));
        return said.InOrder();
    }
}
