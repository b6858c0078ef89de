using Grate.Core.Service;

namespace Grate.Core.Tests.Places;

/// <summary>Climate where nobody measured, and the road between two places.</summary>
public class ClimateTests
{
    [Fact]
    public void The_nearest_place_stands_in_colder_the_higher()
    {
        Assert.Equal("innsbruck", Climate.Nearest(47.10, 10.20).Code);
        Assert.Equal("anchorage", Climate.Nearest(65, -150).Code);
        // Over the date line the near side is the other one.
        Assert.Equal("auckland", Climate.Nearest(-36, -179).Code);
        Assert.Equal(-8.5, Climate.MonthlyC(47.10, 10.20, 1580)[0]);
    }

    [Fact]
    public void Every_place_has_its_summer_where_it_belongs_and_a_zone_that_is_known()
    {
        foreach (var station in Climate.Stations)
        {
            var (january, july) = (station.MonthlyC[0], station.MonthlyC[6]);
            Assert.True(station.Latitude > 0 ? july > january + 8 : january > july + 7, station.Name);
            Assert.Equal(12, station.MonthlyC.Count);
            // From month to month no more than spring and autumn bring in a continental climate.
            Assert.All(station.MonthlyC.Zip([.. station.MonthlyC.Skip(1), station.MonthlyC[0]]), m => Assert.InRange(Math.Abs(m.First - m.Second), 0, 8.5));
            Assert.True(TimeZoneInfo.TryFindSystemTimeZoneById(station.TimeZone, out _), station.TimeZone);
        }
    }

    [Fact]
    public void Great_circle_and_road_as_worked_in_the_handbook()
    {
        Assert.Equal(25.20, Climate.DistanceKm(47.10, 10.20, 47.25, 10.45), 0.005);
        Assert.Equal(32.77, Road.Km(47.10, 10.20, 47.25, 10.45), 0.005);
        Assert.Equal(43.7, Road.Minutes(47.10, 10.20, 47.25, 10.45), 0.05);
        Assert.Equal(0, Road.Km(47, 10, 47, 10));
        // Half round the earth: π · 6371 km.
        Assert.Equal(Math.PI * 6371, Climate.DistanceKm(0, 0, 0, 180), 0.01);
    }

    [Fact]
    public void A_firm_says_what_is_against_a_time()
    {
        var ways = FirmWays.Ordinary;
        Assert.Null(ways.Against(new(2027, 10, 13, 8, 0, 0), 540));
        Assert.Equal("The firm does not work on a Sunday.", ways.Against(new(2027, 10, 17, 9, 0, 0), 60));
        Assert.Equal("The firm begins at 08:00.", ways.Against(new(2027, 10, 13, 7, 45, 0), 60));
        Assert.Equal("It would end at 17:15; the firm ends at 17:00.", ways.Against(new(2027, 10, 13, 16, 15, 0), 60));
        // A visit that ends after midnight ends too late, not early.
        Assert.StartsWith("It would end at 00:30", ways.Against(new(2027, 10, 13, 16, 30, 0), 480));
    }
}
