namespace Grate.Core.Places;

/// <summary>The firm. A day is a day at its place: nothing else turns an instant into a day.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Place">Its place.</param>
/// <param name="TimeZone">IANA time zone in which its days begin.</param>
/// <param name="InspectionMonths">Months between inspections, 1..60.</param>
/// <param name="ServiceHoursWeek">Hours a week each technician has for due visits, 0..80.</param>
/// <param name="Demo">Whether demo data is loaded.</param>
public sealed record Firm(string Name, string Place, string TimeZone, int InspectionMonths, double ServiceHoursWeek, bool Demo)
{
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
}
