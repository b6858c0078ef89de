using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>Load against capacity, and free times (handbook 10, section 5).</summary>
public class SeasonLoadTests
{
    // Weeks of 10 h capacity, from a Monday on; hours due in each.
    private static string Say(params int[] dueHours) => string.Join(" ", SeasonLoad.Say(
        [.. dueHours.Select((h, i) => new SeasonWeek(new DateOnly(2027, 8, 2).AddDays(7 * i), 60, h, (h - 1) * 60, 600))]).Select(s => s.ToString()));

    [Fact]
    public void Quiet_weeks_say_so() => Assert.Equal("No week holds more than the firm can do.", Say(10, 3, 10));

    [Fact]
    public void A_rush_is_pulled_forward_into_the_free_weeks_before_it()
    {
        Assert.Equal("In the 2 weeks from 23 Aug 2027, 30 h are to be done against 20 h. Pull low-use stoves forward, from the week of 9 Aug 2027 on.", Say(1, 5, 5, 12, 18, 2));
        Assert.StartsWith("In the week of 9 Aug 2027, 14 h are to be done against 10 h. Pull low-use stoves forward, from the week of 2 Aug 2027 on.", Say(5, 14), StringComparison.Ordinal);
    }

    [Fact]
    public void What_no_free_hour_takes_is_said()
    {
        Assert.Contains("Even with every free hour until then 17 h stay over: begin at once", Say(8, 9, 30), StringComparison.Ordinal);
        Assert.Contains("It cannot all be done then: stops first", Say(12, 1), StringComparison.Ordinal);
        Assert.Equal(2, Say(12, 1, 1, 14).Split("are to be done").Length - 1);
    }
}
