namespace Grate.Core.Places;

/// <summary>The firm. A day is a day at its place: nothing else turns an instant into a day.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Place">Its place.</param>
/// <param name="TimeZone">IANA time zone in which its days begin.</param>
/// <param name="InspectionMonths">Months between inspections, 1..60.</param>
/// <param name="ServiceHoursWeek">Hours a week each technician has for due visits, 0..80.</param>
/// <param name="Demo">Whether demo data is loaded.</param>
/// <param name="Ways">How it works; an ordinary firm's where nothing was set.</param>
/// <param name="Contact">How it is reached; empty where nobody entered it.</param>
public sealed record Firm(string Name, string Place, string TimeZone, int InspectionMonths, double ServiceHoursWeek, bool Demo, FirmWays? Ways = null, FirmContact? Contact = null)
{
    private static readonly EntryRange
        _months = new("Months between inspections", Quantity.Count, 1, 60),
        _hours = new("Hours a week for due visits", Quantity.Ratio, 0, 80);

    /// <summary>How it works.</summary>
    [JsonIgnore]
    public FirmWays Works => Ways ?? FirmWays.Ordinary;

    /// <summary>How it is reached.</summary>
    [JsonIgnore]
    public FirmContact Reached => Contact ?? new();

    /// <summary>Refuses what cannot be.</summary>
    public void Check(EntryErrors errors)
    {
        errors.CheckLine("name", Name, "The firm's name", 200, needed: true);
        errors.CheckLine("place", Place, "Place", 200, needed: true);
        if (!TimeZone.Contains('/') || !TimeZoneInfo.TryFindSystemTimeZoneById(TimeZone, out _))
            errors.Add("timeZone", $"“{TimeZone[..Math.Min(TimeZone.Length, 60)]}” is no time zone: one like Europe/Vienna or America/Denver.");
        errors.Check("inspectionMonths", InspectionMonths, _months);
        errors.Check("serviceHoursWeek", ServiceHoursWeek, _hours);
        Works.Check(errors);
        Reached.Check(errors);
    }

    private TimeZoneInfo Zone => TimeZoneInfo.FindSystemTimeZoneById(TimeZone);

    /// <summary>An instant as it reads at the firm's place. 2027-03-01T07:00Z in Auckland: 20:00 on 1 March.</summary>
    public DateTime Local(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, Zone).DateTime;

    /// <summary>The day of an instant. 2027-02-28T19:00Z in Auckland: 1 March 2027.</summary>
    public DateOnly Day(DateTimeOffset at) => DateOnly.FromDateTime(Local(at));

    /// <summary>The time of day of an instant.</summary>
    public TimeOnly Time(DateTimeOffset at) => TimeOnly.FromDateTime(Local(at));

    /// <summary>
    /// A time of day as an instant. One that a clock change leaves out is taken as the first that is there again
    /// (midnight of 5 September 2027 in Santiago: 01:00), one that comes twice as the first.
    /// </summary>
    public DateTimeOffset At(DateOnly day, TimeOnly time)
    {
        var zone = Zone;
        var local = day.ToDateTime(time);
        while (zone.IsInvalidTime(local))
            local = local.AddMinutes(15);
        var offset = zone.IsAmbiguousTime(local) ? zone.GetAmbiguousTimeOffsets(local).Max() : zone.GetUtcOffset(local);
        return new DateTimeOffset(local, offset).ToUniversalTime();
    }

    /// <summary>First and last instant of a day: from its first up to, and without, the next day's.</summary>
    public (DateTimeOffset From, DateTimeOffset Before) Span(DateOnly day) => (At(day, TimeOnly.MinValue), At(day.AddDays(1), TimeOnly.MinValue));

    /// <summary>Minutes for visits that one person has in a week. Of 25 h on five days, away on one of them: 1 200.</summary>
    /// <param name="monday">First day of the week.</param>
    /// <param name="there">Whether they are there on a day.</param>
    public int MinutesOf(DateOnly monday, Func<DateOnly, bool> there)
    {
        var days = Enumerable.Range(0, 7).Select(monday.AddDays).Where(Works.WorksOn).ToList();
        return (int)Math.Round(ServiceHoursWeek * 60 * days.Count(there) / Math.Max(1, days.Count));
    }
}
