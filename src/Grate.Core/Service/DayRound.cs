using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>A visit of a day as its round sees it. Times are minutes since local midnight.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Street">Street of its house.</param>
/// <param name="Place">And place.</param>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="TechnicianId">Who holds it.</param>
/// <param name="FromMin">When it is planned.</param>
/// <param name="Minutes">How long it takes.</param>
/// <param name="Told">Whether the household was told its time.</param>
/// <param name="Stands">Whether it was begun, is signed, or several go: it stays where it is.</param>
/// <param name="Urgent">Whether it cannot wait.</param>
/// <param name="Needs">Skills that its stove asks for; roof: daylight.</param>
/// <param name="Wish">When the household wants its visits.</param>
public sealed record DayVisit(Guid VisitId, string Street, string Place, double Latitude, double Longitude, Guid TechnicianId, double FromMin, double Minutes, bool Told, bool Stands, bool Urgent, IReadOnlyList<Skill> Needs, VisitWish Wish);

/// <summary>Somebody who goes out that day.</summary>
/// <param name="TechnicianId">Who.</param>
/// <param name="Name">Name.</param>
/// <param name="Skills">Words of skills; none where nobody noted any.</param>
/// <param name="Away">Whether they are away that day.</param>
public sealed record DayVan(Guid TechnicianId, string Name, IReadOnlyList<string> Skills, bool Away);

/// <summary>A stop of a day's round.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Street">Street.</param>
/// <param name="Place">Place.</param>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="DriveMin">Drive to it, min.</param>
/// <param name="ArriveMin">When the van is there.</param>
/// <param name="FromMin">When it begins.</param>
/// <param name="ToMin">When it ends.</param>
/// <param name="LateMin">By how much it begins after its planned time.</param>
/// <param name="Told">Whether the household was told its time.</param>
/// <param name="Roof">Whether somebody goes on the roof.</param>
public sealed record DayStop(Guid VisitId, string Street, string Place, double Latitude, double Longitude, double DriveMin, double ArriveMin, double FromMin, double ToMin, double LateMin, bool Told, bool Roof);

/// <summary>A technician's round of a day.</summary>
/// <param name="TechnicianId">Who.</param>
/// <param name="Name">Name.</param>
/// <param name="Stops">Stops in order.</param>
/// <param name="DriveMin">Minutes driven, home again.</param>
/// <param name="LateMin">Minutes late.</param>
/// <param name="LeaveMin">When the van leaves.</param>
/// <param name="HomeMin">When it is home; null without a stop.</param>
public sealed record DayRoute(Guid TechnicianId, string Name, IReadOnlyList<DayStop> Stops, double DriveMin, double LateMin, double LeaveMin, double? HomeMin);

/// <summary>A visit that a better plan would move.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Street">Its street.</param>
/// <param name="From">Who holds it now.</param>
/// <param name="FromMin">When it is planned now.</param>
/// <param name="TechnicianId">Who would go.</param>
/// <param name="To">Their name.</param>
/// <param name="ToMin">When it would be.</param>
/// <param name="Told">Whether the household was told, and would have to be told anew.</param>
public sealed record DayMove(Guid VisitId, string Street, string From, double FromMin, Guid TechnicianId, string To, double ToMin, bool Told);

/// <summary>A visit without a place.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Street">Its street.</param>
/// <param name="Why">Why, and what would place it.</param>
public sealed record DayLeft(Guid VisitId, string Street, Sentence Why);

/// <summary>A better plan of a day.</summary>
/// <param name="Routes">Its routes.</param>
/// <param name="Moves">What it moves.</param>
/// <param name="Left">What has no place in it.</param>
/// <param name="Proven">Whether none is better.</param>
/// <param name="Sentences">In words.</param>
public sealed record DayPlan(IReadOnlyList<DayRoute> Routes, IReadOnlyList<DayMove> Moves, IReadOnlyList<DayLeft> Left, bool Proven, IReadOnlyList<Sentence> Sentences);

/// <summary>A day's round: as it is planned, and as it would be better (handbook 10 section 6).</summary>
/// <param name="Ways">When the firm works, and where it is.</param>
/// <param name="Home">Where vans start and end.</param>
/// <param name="DawnMin">Sunrise.</param>
/// <param name="DuskMin">Sunset.</param>
/// <param name="Visits">Visits of the day.</param>
/// <param name="Vans">Everybody who goes out.</param>
/// <param name="Drive">Minutes of a drive, from latitude and longitude to latitude and longitude.</param>
public sealed record DayRound(FirmWays Ways, Whereabouts Home, double DawnMin, double DuskMin, IReadOnlyList<DayVisit> Visits, IReadOnlyList<DayVan> Vans, Func<double, double, double, double, double> Drive)
{
    private const double Raster = 5, Hour = 60;

    /// <summary>Somebody who was told an hour is not kept waiting longer without a word, and not surprised earlier.</summary>
    public static readonly Limit Promise = Limit.Assumed(15, "min", "a quarter of an hour is on time");

    private static readonly Limit _late = Limit.Assumed(60, "min", "an hour late is no visit");

    private static readonly (double From, double To, double Minutes) _lunch = (690, 810, 30);

    /// <summary>The time for a clock: 08:05.</summary>
    public static string Clock(double minute) => TimeOnly.MinValue.AddMinutes(Math.Round(minute)).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The rounds as they are planned: what is driven, and who is kept waiting by it.</summary>
    public IReadOnlyList<DayRoute> AsPlanned() => [.. Vans.Where(v => !v.Away || Visits.Any(s => s.TechnicianId == v.TechnicianId)).Select(v => AsPlanned(v, [.. Visits.Where(s => s.TechnicianId == v.TechnicianId).OrderBy(s => s.FromMin)], 0))];

    /// <summary>What is left of somebody's round when they run late: everything shifts as far as it must, nothing is pulled forward.</summary>
    /// <param name="technicianId">Who.</param>
    /// <param name="nowMin">The time.</param>
    /// <param name="busyMin">How much longer they are busy where they are.</param>
    public DayRoute? Late(Guid technicianId, double nowMin, double busyMin) => Vans.FirstOrDefault(v => v.TechnicianId == technicianId) is { } van
        ? AsPlanned(van, [.. Visits.Where(s => s.TechnicianId == technicianId && s.FromMin > nowMin).OrderBy(s => s.FromMin)], nowMin + busyMin, Visits.Where(s => s.TechnicianId == technicianId && s.FromMin <= nowMin).MaxBy(s => s.FromMin)) : null;

    private DayRoute AsPlanned(DayVan van, IReadOnlyList<DayVisit> visits, double freeFrom, DayVisit? at = null)
    {
        var (stops, drive, leave) = (new List<DayStop>(), 0.0, freeFrom);
        var (time, latitude, longitude) = (freeFrom, at?.Latitude ?? Home.Latitude, at?.Longitude ?? Home.Longitude);
        foreach (var visit in visits)
        {
            var way = Drive(latitude, longitude, visit.Latitude, visit.Longitude);
            // The first is left for in time.
            if (stops.Count == 0 && at is null)
                time = leave = Math.Max(freeFrom, visit.FromMin - way);
            var arrive = time + way;
            var from = Math.Max(arrive, visit.FromMin);
            (time, latitude, longitude, drive) = (from + visit.Minutes, visit.Latitude, visit.Longitude, drive + way);
            stops.Add(new(visit.VisitId, visit.Street, visit.Place, visit.Latitude, visit.Longitude, way, arrive, from, time, from - visit.FromMin, visit.Told, visit.Needs.Contains(Skill.Roof)));
        }
        var back = stops.Count > 0 ? Drive(latitude, longitude, Home.Latitude, Home.Longitude) : 0;
        return new(van.TechnicianId, van.Name, stops, drive + back, stops.Sum(s => s.LateMin), leave, stops.Count > 0 ? time + back : null);
    }

    /// <summary>The best plan of the day's visits.</summary>
    /// <param name="solver">Who finds it.</param>
    /// <param name="keepTold">Whether those who were told keep their hour and their technician.</param>
    /// <param name="without">Who is ill.</param>
    /// <param name="time">After so long the best so far is taken.</param>
    public DayPlan Better(IRoundSolver solver, bool keepTold, IReadOnlyCollection<Guid> without, TimeSpan time)
    {
        var vans = Vans.Where(v => !v.Away && !without.Contains(v.TechnicianId)).ToList();
        // What is begun or over goes on where it is; it is nobody's to move.
        var visits = Visits.Where(v => !v.Stands || vans.Any(o => o.TechnicianId == v.TechnicianId)).ToList();
        var problem = Problem(visits, vans, keepTold, Minute(Ways.To));
        var plan = solver.Solve(problem, time);
        var routes = vans.Select((van, v) => plan.Orders[v].Count == 0 ? new DayRoute(van.TechnicianId, van.Name, [], 0, 0, Minute(Ways.From), null) : Told(van, visits, problem, v, plan.Orders[v], keepTold)).ToList();
        var placed = routes.SelectMany(r => r.Stops.Select(s => (Route: r, Stop: s))).ToDictionary(s => s.Stop.VisitId);
        var names = Vans.ToDictionary(v => v.TechnicianId, v => v.Name);
        var moves = visits.Where(v => placed.TryGetValue(v.VisitId, out var to) && (to.Route.TechnicianId != v.TechnicianId || Math.Abs(to.Stop.FromMin - v.FromMin) >= Raster))
            .Select(v => new DayMove(v.VisitId, v.Street, names.GetValueOrDefault(v.TechnicianId, ""), v.FromMin, placed[v.VisitId].Route.TechnicianId, placed[v.VisitId].Route.Name, placed[v.VisitId].Stop.FromMin, v.Told)).ToList();
        var left = visits.Select((v, i) => (Visit: v, At: i)).Where(v => !v.Visit.Stands && !placed.ContainsKey(v.Visit.VisitId)).Select(v => new DayLeft(v.Visit.VisitId, v.Visit.Street, Why(v.Visit, v.At, problem, plan, visits, vans, keepTold))).ToList();
        return new(routes, moves, left, plan.Proven, Words(routes, moves, left, plan.Proven));
    }

    /// <summary>What it costs to give a visit to somebody at an hour, the rest as it is; null where the day has no such visit or technician.</summary>
    /// <param name="visitId">The visit.</param>
    /// <param name="technicianId">Who would go.</param>
    /// <param name="fromMin">When.</param>
    public (double DriveMin, double LateMin, string Sentence)? CostOf(Guid visitId, Guid technicianId, double fromMin)
    {
        if (Visits.FirstOrDefault(v => v.VisitId == visitId) is not { } visit || Vans.FirstOrDefault(v => v.TechnicianId == technicianId) is not { } van)
            return null;
        var then = this with { Visits = [.. Visits.Select(v => v.VisitId == visitId ? v with { TechnicianId = technicianId, FromMin = fromMin } : v)] };
        var (before, after) = (AsPlanned(), then.AsPlanned());
        var (drive, late) = (after.Sum(r => r.DriveMin) - before.Sum(r => r.DriveMin), after.Sum(r => r.LateMin) - before.Sum(r => r.LateMin));
        var costs = Math.Abs(drive) < 0.5 ? "no more driving" : drive > 0 ? $"{drive:0} min more driving" : $"{-drive:0} min less driving";
        var waits = late < 0.5 ? "" : $", {late:0} min kept waiting";
        var dark = visit.Needs.Contains(Skill.Roof) && (fromMin < DawnMin || fromMin + visit.Minutes > DuskMin) ? $"; the roof is not light then ({Clock(DawnMin)} to {Clock(DuskMin)})" : "";
        return (drive, late, $"{van.Name} at {Clock(fromMin)}: {costs}{waits}{dark}.");
    }

    private static double Minute(TimeOnly time) => time.ToTimeSpan().TotalMinutes;

    private RoundProblem Problem(IReadOnlyList<DayVisit> visits, IReadOnlyList<DayVan> vans, bool keepTold, double dayEnd) => new(
        [.. visits.Select(v => Job(v, vans, keepTold))],
        [.. vans.Select(v => new RoundProblem.Van(v.TechnicianId.ToString(), Home.Latitude, Home.Longitude, Home.Latitude, Home.Longitude, Minute(Ways.From), dayEnd, new(_lunch.From, _lunch.To, _lunch.Minutes)))],
        DawnMin, DuskMin, Drive, _late.Value);

    private static bool Keeps(DayVisit visit, bool keepTold) => visit.Stands || (keepTold && visit.Told);

    private static RoundProblem.Job Job(DayVisit visit, IReadOnlyList<DayVan> vans, bool keepTold)
    {
        var (earliest, latest) = visit.Wish.Window(visit.Minutes);
        var keeps = Keeps(visit, keepTold);
        // Who is ill keeps no promise: then the hour stays, and somebody else comes.
        var own = vans.Any(v => v.TechnicianId == visit.TechnicianId);
        var able = vans.Where(v => v.Skills.Count == 0 || visit.Needs.All(n => v.Skills.Contains(Word.Of(n)))).Select(v => v.TechnicianId.ToString()).ToList();
        return new(visit.VisitId.ToString(), visit.Latitude, visit.Longitude, visit.Minutes, keeps ? visit.FromMin : earliest, keeps ? visit.FromMin + Promise.Value : latest, visit.Urgent,
            visit.Wish.ColdFrom is { } cold && !keeps ? Minute(cold) : null, visit.Needs.Contains(Skill.Roof) && !visit.Stands, keeps && own ? [visit.TechnicianId.ToString()] : able);
    }

    // On a clock that people read: every visit begins at a multiple of five minutes, and a promised hour stays what was promised.
    private static DayRoute Told(DayVan van, IReadOnlyList<DayVisit> visits, RoundProblem problem, int v, IReadOnlyList<int> order, bool keepTold)
    {
        var route = problem.Route(v, order);
        var (before, stops) = (-1, new List<DayStop>());
        foreach (var (at, times) in order.Zip(route.Stops))
        {
            var (visit, from) = (visits[at], Keeps(visits[at], keepTold) ? visits[at].FromMin : Math.Ceiling(times.StartMin / Raster - 1e-9) * Raster);
            stops.Add(new(visit.VisitId, visit.Street, visit.Place, visit.Latitude, visit.Longitude, problem.Drive(v, before, at), times.ArriveMin, from, from + visit.Minutes, times.LateMin, visit.Told, visit.Needs.Contains(Skill.Roof)));
            before = at;
        }
        return new(van.TechnicianId, van.Name, stops, route.DriveMin, route.LateMin, route.DepartMin, route.EndMin);
    }

    // What stands in its way, and the smallest change that would place it beside what the plan has.
    private Sentence Why(DayVisit visit, int at, RoundProblem problem, RoundPlan plan, IReadOnlyList<DayVisit> visits, IReadOnlyList<DayVan> vans, bool keepTold)
    {
        string? Places(RoundProblem then)
        {
            for (var v = 0; v < vans.Count; v++)
            {
                for (var place = 0; place <= plan.Orders[v].Count; place++)
                {
                    if (then.Best(v, [.. plan.Orders[v].Take(place), at, .. plan.Orders[v].Skip(place)]) is not null)
                        return vans[v].Name;
                }
            }
            return null;
        }
        var why = problem.WhyNot(at) switch
        {
            UnplacedReason.NoVan => "nobody goes out",
            UnplacedReason.Cold => "its stove is cold too late",
            UnplacedReason.Window => "nobody is there in time for what the household asked for",
            UnplacedReason.Daylight => "it would be dark before the roof is done",
            UnplacedReason.DayEnd when vans.All(v => !problem.Takes(vans.ToList().IndexOf(v), at)) => "nobody who goes out is down for its stove",
            UnplacedReason.DayEnd => "the van would not be home in time",
            _ => "the others fill the day",
        };
        var free = visits.Select((v, i) => i == at ? v with { Told = false, Wish = VisitWish.Any } : v).ToList();
        var cure = Places(Problem(visits, vans, keepTold, Minute(Ways.To) + Hour)) is { } longer ? $"One more hour for {longer} would place it."
            : Places(Problem(free, vans, keepTold, Minute(Ways.To))) is { } freed ? $"At another hour than asked for, {freed} could go." : "It needs another day.";
        return Say($"{visit.Street}: {why}. {cure}{(visit.Told ? " The household was told." : "")}");
    }

    private IReadOnlyList<Sentence> Words(IReadOnlyList<DayRoute> routes, IReadOnlyList<DayMove> moves, IReadOnlyList<DayLeft> left, bool proven)
    {
        var said = new Said();
        var (now, then) = (AsPlanned().Sum(r => r.DriveMin), routes.Sum(r => r.DriveMin));
        if (moves.Count == 0 && left.Count == 0)
            return said.Add(Weight.Verdict, Say(Visits.Count == 0 ? "No visit is planned." : "The day is as good as it gets: nothing moves.")).InOrder();
        said.Add(Weight.Verdict, Say(Computed($"{then:0} min"), $" of driving instead of {now:0}; {moves.Count} {(moves.Count == 1 ? "visit moves" : "visits move")}{(moves.Count(m => m.Told) is > 0 and var told ? $", {told} of them told already" : "")}."));
        if (left.Count > 0)
            said.Add(Weight.RuledOut, Say($"{left.Count} {(left.Count == 1 ? "visit has" : "visits have")} no place."));
        if (!proven)
            said.Add(Weight.Hint, Say("The best that was found; not proven."));
        return said.InOrder();
    }
}
