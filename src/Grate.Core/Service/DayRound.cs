namespace Grate.Core.Service;

/// <summary>A visit of a day as its round sees it. Times are minutes since local midnight.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="PlanVersion">Version of its plan.</param>
/// <param name="Street">Street of its house.</param>
/// <param name="Place">And place.</param>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="TechnicianId">Who holds it.</param>
/// <param name="FromMin">When it is planned.</param>
/// <param name="Minutes">How long it takes.</param>
/// <param name="Told">Whether the household was told its time.</param>
/// <param name="Stands">Whether it was begun or is signed: it stays where it is.</param>
/// <param name="Urgent">Whether it cannot wait.</param>
/// <param name="Needs">Skills that its stove asks for; roof: daylight.</param>
/// <param name="Wish">When the household wants its visits.</param>
/// <param name="Helpers">Who else goes; null for nobody.</param>
/// <param name="WantsParts">Whether its stove wants parts, which are planned for that day: it is not moved to an earlier one.</param>
public sealed record DayVisit(Guid VisitId, int PlanVersion, string Street, string Place, double Latitude, double Longitude, Guid TechnicianId, double FromMin, double Minutes, bool Told, bool Stands, bool Urgent, IReadOnlyList<Skill> Needs, VisitWish Wish,
    IReadOnlyList<Guid>? Helpers = null, bool WantsParts = false)
{
    /// <summary>Everybody who goes.</summary>
    internal IReadOnlyList<Guid> Goers => [TechnicianId, .. Helpers ?? []];
}

/// <summary>Somebody who goes out that day.</summary>
/// <param name="TechnicianId">Who.</param>
/// <param name="Name">Name.</param>
/// <param name="Skills">Words of skills; none where nobody noted any.</param>
/// <param name="Away">Whether they are away that day.</param>
/// <param name="From">Where they are in the middle of a day, and when they can go on; null: home, when the firm's day begins.</param>
public sealed record DayVan(Guid TechnicianId, string Name, IReadOnlyList<string> Skills, bool Away, VanStart? From = null);

/// <summary>Where a van goes on from.</summary>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="Min">When, minutes since local midnight.</param>
public sealed record VanStart(double Latitude, double Longitude, double Min);

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

/// <summary>A day's round as it is planned, and what becomes of it (handbook 10 section 6).</summary>
/// <param name="Day">The day.</param>
/// <param name="Ways">When the firm works, and where it is.</param>
/// <param name="Home">Where vans start and end.</param>
/// <param name="DawnMin">Sunrise.</param>
/// <param name="DuskMin">Sunset.</param>
/// <param name="Visits">Visits of the day.</param>
/// <param name="Vans">Everybody who goes out.</param>
/// <param name="Drive">Minutes of a drive, from latitude and longitude to latitude and longitude.</param>
public sealed record DayRound(DateOnly Day, FirmWays Ways, Whereabouts Home, double DawnMin, double DuskMin, IReadOnlyList<DayVisit> Visits, IReadOnlyList<DayVan> Vans, Func<double, double, double, double, double> Drive)
{
    /// <summary>Somebody who was told an hour is not kept waiting longer without a word, and not surprised earlier.</summary>
    public static readonly Limit Promise = Limit.Assumed(15, "min", "a quarter of an hour is on time");

    /// <summary>The time for a clock: 08:05.</summary>
    public static string Clock(double minute) => TimeOnly.MinValue.AddMinutes(Math.Round(minute)).ToString("HH:mm", System.Globalization.CultureInfo.InvariantCulture);

    /// <summary>The rounds as they are planned: what is driven, and who is kept waiting by it.</summary>
    public IReadOnlyList<DayRoute> AsPlanned() => [.. Vans.Where(v => !v.Away || Visits.Any(s => s.Goers.Contains(v.TechnicianId))).Select(v => AsPlanned(v, [.. Of(v.TechnicianId)]))];

    private IOrderedEnumerable<DayVisit> Of(Guid technicianId) => Visits.Where(s => s.Goers.Contains(technicianId)).OrderBy(s => s.FromMin);

    /// <summary>What is left of somebody's round when they run late: everything shifts as far as it must, nothing is pulled forward.</summary>
    /// <param name="technicianId">Who.</param>
    /// <param name="nowMin">The time.</param>
    /// <param name="busyMin">How much longer they are busy where they are.</param>
    public DayRoute? Late(Guid technicianId, double nowMin, double busyMin)
    {
        if (Vans.FirstOrDefault(v => v.TechnicianId == technicianId) is not { } van)
            return null;
        var at = Of(technicianId).LastOrDefault(s => s.FromMin <= nowMin);
        return AsPlanned(van with { From = new(at?.Latitude ?? Home.Latitude, at?.Longitude ?? Home.Longitude, nowMin + busyMin) }, [.. Of(technicianId).Where(s => s.FromMin > nowMin)]);
    }

    /// <summary>What is left of the day: without what was begun or is signed by now, each van where that leaves it.</summary>
    /// <param name="nowMin">The time.</param>
    public DayRound Rest(double nowMin)
    {
        var over = Visits.Where(v => v.Stands && v.FromMin <= nowMin).ToHashSet();
        return this with
        {
            Visits = [.. Visits.Where(v => !over.Contains(v))],
            Vans = [.. Vans.Select(v => Of(v.TechnicianId).LastOrDefault(over.Contains) is { } at ? v with { From = new(at.Latitude, at.Longitude, Math.Max(nowMin, at.FromMin + at.Minutes)) } : v with { From = new(Home.Latitude, Home.Longitude, nowMin) })],
        };
    }

    private DayRoute AsPlanned(DayVan van, IReadOnlyList<DayVisit> visits)
    {
        var freeFrom = van.From?.Min ?? 0;
        var (stops, drive, leave) = (new List<DayStop>(), 0.0, freeFrom);
        var (time, latitude, longitude) = (freeFrom, van.From?.Latitude ?? Home.Latitude, van.From?.Longitude ?? Home.Longitude);
        foreach (var visit in visits)
        {
            var way = Drive(latitude, longitude, visit.Latitude, visit.Longitude);
            // The first is left for in time.
            if (stops.Count == 0)
                time = leave = Math.Max(freeFrom, visit.FromMin - way);
            var arrive = time + way;
            var from = Math.Max(arrive, visit.FromMin);
            (time, latitude, longitude, drive) = (from + visit.Minutes, visit.Latitude, visit.Longitude, drive + way);
            stops.Add(new(visit.VisitId, visit.Street, visit.Place, visit.Latitude, visit.Longitude, way, arrive, from, time, from - visit.FromMin, visit.Told, visit.Needs.Contains(Skill.Roof)));
        }
        var back = stops.Count > 0 ? Drive(latitude, longitude, Home.Latitude, Home.Longitude) : 0;
        return new(van.TechnicianId, van.Name, stops, drive + back, stops.Sum(s => s.LateMin), leave, stops.Count > 0 ? time + back : null);
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
}
