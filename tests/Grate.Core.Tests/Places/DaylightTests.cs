namespace Grate.Core.Tests.Places;

/// <summary>Sunrise and sunset against another program: PyEphem 4.1.4 (Debian's python3-ephem; VSOP87), the upper edge at −34′, minutes of that day's UTC.</summary>
public class DaylightTests
{
    [Theory]
    [InlineData("Tarnwick", 47.1, 10.2, "2026-12-21", 422.4, 932.1)]
    [InlineData("Tarnwick", 47.1, 10.2, "2027-03-20", 323.0, 1051.3)]
    [InlineData("Tarnwick", 47.1, 10.2, "2027-06-21", 203.6, 1158.3)]
    [InlineData("Tarnwick", 47.1, 10.2, "2027-10-13", 334.0, 996.2)]
    [InlineData("Tarnwick", 47.1, 10.2, "2028-02-29", 360.4, 1023.6)]
    [InlineData("Oslo", 59.91, 10.75, "2026-12-21", 498.0, 852.1)]
    [InlineData("Oslo", 59.91, 10.75, "2027-03-20", 319.7, 1050.8)]
    [InlineData("Oslo", 59.91, 10.75, "2027-06-21", 113.8, 1243.7)]
    [InlineData("Oslo", 59.91, 10.75, "2027-10-13", 350.4, 975.0)]
    [InlineData("Oslo", 59.91, 10.75, "2028-02-29", 376.9, 1003.1)]
    [InlineData("Denver", 39.74, -104.99, "2026-12-21", 857.5, 1418.8)]
    [InlineData("Denver", 39.74, -104.99, "2027-03-20", 783.6, 1511.9)]
    [InlineData("Denver", 39.74, -104.99, "2027-06-21", 692.2, 1591.4)]
    [InlineData("Denver", 39.74, -104.99, "2027-10-13", 788.0, 1463.7)]
    [InlineData("Denver", 39.74, -104.99, "2028-02-29", 813.5, 1491.7)]
    [InlineData("Hobart", -42.88, 147.33, "2026-12-21", -332.0, 589.1)]
    [InlineData("Hobart", -42.88, 147.33, "2027-03-20", -227.6, 503.5)]
    [InlineData("Hobart", -42.88, 147.33, "2027-06-21", -138.1, 402.8)]
    [InlineData("Hobart", -42.88, 147.33, "2027-10-13", -275.7, 510.6)]
    [InlineData("Hobart", -42.88, 147.33, "2028-02-29", -251.1, 536.6)]
    [InlineData("Quito", -0.18, -78.47, "2026-12-21", 668.0, 1396.1)]
    [InlineData("Quito", -0.18, -78.47, "2027-03-20", 678.1, 1404.6)]
    [InlineData("Quito", -0.18, -78.47, "2027-06-21", 672.3, 1399.0)]
    [InlineData("Quito", -0.18, -78.47, "2027-10-13", 656.7, 1383.5)]
    [InlineData("Quito", -0.18, -78.47, "2028-02-29", 682.8, 1409.6)]
    public void Sun_rises_and_sets_as_another_program_says(string place, double latitude, double longitude, string day, double rise, double set)
    {
        var date = DateOnly.ParseExact(day, "yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var light = Daylight.Of(date, latitude, longitude)!;
        double Minute(DateTime at) => (at - date.ToDateTime(TimeOnly.MinValue)).TotalMinutes;
        Assert.True(Math.Abs(Minute(light.Rise) - rise) < 0.6, $"{place}: rises at {Minute(light.Rise):0.0}, not {rise}");
        Assert.True(Math.Abs(Minute(light.Set) - set) < 0.6, $"{place}: sets at {Minute(light.Set):0.0}, not {set}");
        Assert.Equal(DateTimeKind.Utc, light.Rise.Kind);
    }

    [Fact]
    public void In_the_far_north_it_does_not_rise_in_winter_nor_set_in_summer()
    {
        Assert.Null(Daylight.Of(new(2026, 12, 21), 69.65, 18.96));
        Assert.Null(Daylight.Of(new(2027, 6, 21), 69.65, 18.96));
        Assert.NotNull(Daylight.Of(new(2027, 3, 20), 69.65, 18.96));
        Assert.Null(Daylight.Of(new(2027, 6, 21), 90, 0));
    }

    [Fact]
    public void Days_grow_until_june_and_shrink_until_december()
    {
        double Length(DateOnly day) => Daylight.Of(day, 47.1, 10.2) is { } light ? (light.Set - light.Rise).TotalHours : double.NaN;
        var days = Enumerable.Range(0, 365).Select(new DateOnly(2027, 1, 1).AddDays).ToList();
        var longest = days.MaxBy(Length);
        Assert.InRange(longest, new(2027, 6, 19), new(2027, 6, 23));
        Assert.All(days.Zip(days.Skip(1)).Where(d => d.First > new DateOnly(2027, 1, 3) && d.Second < new DateOnly(2027, 6, 18)), d => Assert.True(Length(d.Second) > Length(d.First)));
        // At the equinoxes a little over twelve hours: the air lifts the sun, and its edge counts.
        Assert.InRange(Length(new(2027, 3, 20)), 12.05, 12.3);
    }
}
