namespace Grate.Core.Service;

/// <summary>A time that is taken.</summary>
/// <param name="TechnicianId">By whom.</param>
/// <param name="Start">Local start.</param>
/// <param name="End">And end.</param>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
public sealed record TakenTime(Guid TechnicianId, DateTime Start, DateTime End, double Latitude, double Longitude);

/// <summary>A visit that wants a time in a week.</summary>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="Minutes">How long it takes.</param>
/// <param name="Needs">Skills; the roof asks for daylight.</param>
/// <param name="Wish">When the household can.</param>
public sealed record WantingVisit(double Latitude, double Longitude, int Minutes, IReadOnlyList<Skill> Needs, VisitWish Wish);

/// <summary>Times of a week's visits: each where it costs the least driving beside what is planned.</summary>
/// <param name="ways">When the firm works, and where it is.</param>
/// <param name="days">Days that are still to come, at the firm's place.</param>
/// <param name="vans">Everybody who goes out, day by day.</param>
/// <param name="light">Sunrise and sunset of a day, local; null where there is none.</param>
/// <param name="drive">Minutes of a drive, from latitude and longitude to latitude and longitude.</param>
public sealed class WeekSlots(FirmWays ways, IReadOnlyList<DateOnly> days, Func<DateOnly, IReadOnlyList<DayVan>> vans, Func<DateOnly, (DateTime Rise, DateTime Set)?> light, Func<double, double, double, double, double> drive)
{
    private const int Raster = 15;

    // Everybody eats at noon [A]; the day's round finds a better half hour.
    private static readonly (TimeOnly From, TimeOnly To) _lunch = (new(12, 0), new(12, 30));

    private readonly List<TakenTime> _taken = [];

    /// <summary>Keeps a time.</summary>
    public void Take(TakenTime taken) => _taken.Add(taken);

    /// <summary>Who would go and when for the least driving, and takes that time; null where the week has none.</summary>
    public TakenTime? Find(WantingVisit visit)
    {
        var best = Free(visit).OrderBy(p => p.Costs).ThenBy(p => p.Time.Start).ThenBy(p => p.Way).Select(p => p.Time).FirstOrDefault();
        if (best is not null)
            _taken.Add(best);
        return best;
    }

    /// <summary>The first time that is free for it, whoever goes, for the least driving among those of one moment, and where that is equal whoever is nearest; null where the week has none.</summary>
    public TakenTime? First(WantingVisit visit) => Free(visit).OrderBy(p => p.Time.Start).ThenBy(p => p.Costs).ThenBy(p => p.Way).Select(p => p.Time).FirstOrDefault();

    private IEnumerable<(double Costs, double Way, TakenTime Time)> Free(WantingVisit visit) =>
        from day in days
        where ways.WorksOn(day)
        from van in vans(day)
        where !van.Away && (van.Skills.Count == 0 || visit.Needs.All(n => van.Skills.Contains(Word.Of(n))))
        from place in Places(visit, day, van.TechnicianId)
        select place;

    // Before, between and after what they have that day, as early as each gap allows.
    private IEnumerable<(double Costs, double Way, TakenTime Time)> Places(WantingVisit visit, DateOnly day, Guid technicianId)
    {
        double To(double latitude, double longitude) => drive(latitude, longitude, visit.Latitude, visit.Longitude);
        List<TakenTime> taken = [.. _taken.Where(t => t.TechnicianId == technicianId && DateOnly.FromDateTime(t.Start) == day).OrderBy(t => t.Start)];
        var (opens, closes) = (day.ToDateTime(ways.From), day.ToDateTime(ways.To));
        for (var gap = 0; gap <= taken.Count; gap++)
        {
            var (before, after) = (gap > 0 ? taken[gap - 1] : null, gap < taken.Count ? taken[gap] : null);
            var (way, on) = (before is null ? Home(To) : To(before.Latitude, before.Longitude), after is null ? Home(To) : To(after.Latitude, after.Longitude));
            var direct = before is null ? after is null ? 0 : Home((a, b) => drive(a, b, after.Latitude, after.Longitude)) : after is null ? Home((a, b) => drive(before.Latitude, before.Longitude, a, b)) : drive(before.Latitude, before.Longitude, after.Latitude, after.Longitude);
            var (from, until) = (before is null ? opens : before.End.AddMinutes(way), after is null ? closes : after.Start.AddMinutes(-on));
            for (var start = day.ToDateTime(TimeOnly.MinValue).AddMinutes(Math.Ceiling((from - from.Date).TotalMinutes / Raster) * Raster); start.AddMinutes(visit.Minutes) <= until; start = start.AddMinutes(Raster))
            {
                if (!Suits(visit, start, start.AddMinutes(visit.Minutes), day))
                    continue;
                yield return (Math.Round(way + on - direct, 1), way, new(technicianId, start, start.AddMinutes(visit.Minutes), visit.Latitude, visit.Longitude));
                break;
            }
        }
    }

    private double Home(Func<double, double, double> drive) => ways.Home is { } home ? drive(home.Latitude, home.Longitude) : 0;

    private bool Suits(WantingVisit visit, DateTime start, DateTime end, DateOnly day) => visit.Wish.Against(start, visit.Minutes) is null
        && (end <= day.ToDateTime(_lunch.From) || start >= day.ToDateTime(_lunch.To) || visit.Minutes > (_lunch.From - ways.From).TotalMinutes)
        && (!visit.Needs.Contains(Skill.Roof) || light(day) is not var (rise, set) || (start >= rise && end <= set));
}
