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
}
