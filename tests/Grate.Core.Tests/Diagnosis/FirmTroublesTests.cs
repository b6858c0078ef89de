using Grate.Core.Diagnosis;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>The table as a firm tunes it; the shipped one stays beside it.</summary>
public class FirmTroublesTests
{
    private static FirmTroubles With(params (string What, double Value)[] own) => new(own.ToDictionary(o => o.What, o => o.Value));

    private static DiagnosisAnswer Of(FirmTroubles table, params string[] told) => Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Findings: told.ToDictionary(t => t, _ => new FindingTold(true))), e, table));

    private static double P(DiagnosisAnswer answer, string cause) => answer.Causes.Single(c => c.Cause == cause).Probability;

    [Fact]
    public void Each_number_moves_what_it_stands_for()
    {
        var shipped = Of(FirmTroubles.Shipped, "with-wind");
        Assert.True(P(Of(With(("prior:wind", 0.3)), "with-wind"), "wind") > P(shipped, "wind") + 0.05);
        Assert.True(P(Of(With(("link:wind:with-wind", 0.2)), "with-wind"), "wind") < P(shipped, "wind") - 0.2);
        Assert.True(P(Of(With(("leak:with-wind", 0.5)), "with-wind"), "wind") < P(shipped, "wind") - 0.2);
        // What a test takes counts for all its looks, and moves it down the list.
        var door = Of(FirmTroubles.Shipped, "wont-turn-down").Tests.Single(t => t.Test == "door");
        var slow = With(("minutes:door", 90));
        Assert.Equal(8, door.Minutes);
        Assert.Equal([90.0], slow.Findings.Where(f => f.Test == "door").Select(f => f.Minutes).Distinct());
        Assert.DoesNotContain(Of(slow, "wont-turn-down").Tests, t => t.Test == "door");
        // The shipped table is as it was.
        Assert.Equal(P(shipped, "wind"), P(Of(FirmTroubles.Shipped, "with-wind"), "wind"));
        Assert.Equal(0.05, Troubles.Causes.Single(c => c.Code == "wind").Prior);
    }

    [Theory]
    [InlineData("prior:wind", 0.05, "wind blows down the outlet, how often")]
    [InlineData("link:wind:with-wind", 0.9, "wind blows down the outlet, shows by: only, or worse, on windy days")]
    [InlineData("link:wet-wood:too-hot", -0.6, "wet wood, shows by: glows, or overheats the room")]
    [InlineData("leak:sluggish", 0.1, "fire lazy though air is open, without any cause")]
    [InlineData("minutes:door", 8.0, "rope flat, hard, loose, minutes")]
    public void A_number_has_a_name_and_a_shipped_value(string what, double shipped, string name)
    {
        var number = With((what, 0.25)).Find(what)!;
        Assert.Equal((shipped, 0.25, 0.25), (number.Shipped, number.Own, number.Now));
        Assert.Equal(shipped, FirmTroubles.Shipped.Find(what)!.Now);
        Assert.Equal(name, FirmTroubles.NameOf(what));
        Assert.InRange(shipped, number.From, number.To);
    }

    [Theory]
    [InlineData("")]
    [InlineData("prior")]
    [InlineData("prior:gremlins")]
    [InlineData("link:wind:wood-wet")]
    [InlineData("link:wind")]
    [InlineData("leak:gremlins")]
    [InlineData("minutes:draft-weak")]
    [InlineData("minutes:gremlins")]
    public void What_is_no_number_of_the_table_is_none(string what) => Assert.Null(FirmTroubles.Shipped.Find(what));
}
