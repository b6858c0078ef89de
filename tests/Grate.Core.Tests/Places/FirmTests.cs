namespace Grate.Core.Tests.Places;

/// <summary>One meaning of "day": the firm's. Against dates of the IANA time zone database.</summary>
public class FirmTests
{
    private static Firm In(string zone) => new("Firm", "Place", zone, 12, 30, false);

    private static DateTimeOffset Z(string moment) => DateTimeOffset.Parse(moment, System.Globalization.CultureInfo.InvariantCulture);

    // 08:00 on 1 March in Auckland is still February in UTC; Honolulu lags a day, Kiritimati is first.
    [Theory]
    [InlineData("Pacific/Auckland", "2027-02-28T19:00:00Z", "2027-03-01", "08:00")]
    [InlineData("Pacific/Honolulu", "2027-03-01T08:00:00Z", "2027-02-28", "22:00")]
    [InlineData("Pacific/Kiritimati", "2027-12-31T10:00:00Z", "2028-01-01", "00:00")]
    [InlineData("Europe/Vienna", "2028-02-28T23:30:00Z", "2028-02-29", "00:30")]
    [InlineData("America/New_York", "2027-11-07T05:30:00Z", "2027-11-07", "01:30")]
    public void Day_is_the_firms(string zone, string moment, string day, string time)
    {
        Assert.Equal(DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture), In(zone).Day(Z(moment)));
        Assert.Equal(TimeOnly.Parse(time, System.Globalization.CultureInfo.InvariantCulture), In(zone).Time(Z(moment)));
    }

    // python3's zoneinfo, fifteen zones: every day of a clock change in 2027, those without midnight among them, and 31 October.
    [Fact]
    public void Days_of_fifteen_zones_begin_and_end_where_zoneinfo_says()
    {
        var rows = Outside.OutsideTests.Rows("zones").ToList();
        Assert.Equal(15, rows.Select(r => r.GetProperty("zone").GetString()).Distinct().Count());
        Assert.True(rows.Count >= 33, $"{rows.Count} days");
        foreach (var row in rows)
        {
            var firm = In(row.GetProperty("zone").GetString()!);
            var day = DateOnly.Parse(row.GetProperty("day").GetString()!, System.Globalization.CultureInfo.InvariantCulture);
            var (from, before) = firm.Span(day);
            Assert.Equal((firm.TimeZone, day, row.GetProperty("from").GetDateTimeOffset(), row.GetProperty("hours").GetDouble()), (firm.TimeZone, day, from, (before - from).TotalHours));
            // Six in the evening is of that day and month, whatever the day is in UTC.
            Assert.Equal(row.GetProperty("evening").GetDateTimeOffset(), firm.At(day, new TimeOnly(18, 0)));
            Assert.Equal((day, new TimeOnly(18, 0)), (firm.Day(row.GetProperty("evening").GetDateTimeOffset()), firm.Time(row.GetProperty("evening").GetDateTimeOffset())));
            Assert.Equal((day, day.AddDays(-1)), (firm.Day(from), firm.Day(from.AddTicks(-1))));
        }
    }

    [Theory]
    [InlineData("Europe/Vienna", "2027-10-13", 24)]
    [InlineData("Europe/Vienna", "2027-03-28", 23)]
    [InlineData("Europe/Vienna", "2027-10-31", 25)]
    [InlineData("Australia/Lord_Howe", "2027-10-03", 23.5)]
    [InlineData("America/Santiago", "2027-09-05", 23)]
    public void Day_of_a_clock_change_is_as_long_as_it_is(string zone, string day, double hours)
    {
        var (from, before) = In(zone).Span(DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture));
        Assert.Equal(hours, (before - from).TotalHours, 9);
        Assert.Equal(DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture), In(zone).Day(from));
        Assert.NotEqual(In(zone).Day(from), In(zone).Day(before));
    }

    [Theory]
    // Left out by the change: the first moment that is there again.
    [InlineData("Europe/Vienna", "2027-03-28", "02:30", "2027-03-28T01:00:00Z")]
    [InlineData("America/Santiago", "2027-09-05", "00:00", "2027-09-05T04:00:00Z")]
    // Comes twice: the first.
    [InlineData("Europe/Vienna", "2027-10-31", "02:30", "2027-10-31T00:30:00Z")]
    [InlineData("Pacific/Auckland", "2027-03-01", "08:00", "2027-02-28T19:00:00Z")]
    public void Time_of_day_is_a_moment(string zone, string day, string time, string moment) =>
        Assert.Equal(Z(moment), In(zone).At(DateOnly.Parse(day, System.Globalization.CultureInfo.InvariantCulture), TimeOnly.Parse(time, System.Globalization.CultureInfo.InvariantCulture)));

    [Fact]
    public void A_week_has_the_hours_of_the_days_on_which_somebody_is_there()
    {
        var (firm, monday) = (In("Europe/Vienna") with { ServiceHoursWeek = 25 }, new DateOnly(2027, 10, 11));
        Assert.Equal(1500, firm.MinutesOf(monday, _ => true));
        Assert.Equal(1200, firm.MinutesOf(monday, d => d.DayOfWeek != DayOfWeek.Tuesday));
        // Nobody works on a Sunday, there or not.
        Assert.Equal(1500, firm.MinutesOf(monday, d => d.DayOfWeek != DayOfWeek.Sunday));
        Assert.Equal(0, firm.MinutesOf(monday, _ => false));
    }
}
