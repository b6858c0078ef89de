using CsCheck;
using Grate.Core.Door;
using Grate.Core.Flue;
using static Grate.Core.Door.StripPlace;

namespace Grate.Core.Tests.Door;

/// <summary>Handbook 03, sections 1 to 3, with the worked cases of section 6.</summary>
public class DoorTests
{
    private static DoorAnswer Ask(DoorEntry entry) => Calculation.Answered(e => DoorAnswer.To(entry, e));

    private static Dictionary<string, string[]> Refused(DoorEntry entry) => Calculation.Refusals(e => DoorAnswer.To(entry, e));

    private static StripPointEntry Point(StripPlace place, double atM, double grade) => new(Word.Of(place), atM, grade);

    // Round the door from the hinge's foot, 0.15 m from point to point.
    private static readonly StripPlace[] _round = [HingeBottom, Hinge, Hinge, HingeTop, Top, Top, LatchTop, Latch, Latch, LatchBottom, Bottom, Bottom];

    private static StripAnswer Strip(string grades, string? rope = null, bool? latchAtEnd = null) =>
        Ask(new(1.8, [.. grades.Select((g, i) => Point(_round[i], 0.15 * i, g - '0'))], rope, latchAtEnd)).Strip!;

    [Fact]
    public void Worked_cases_of_the_leak()
    {
        // One point of nine, 0.20 m its own.
        var one = Ask(new(1.8, [.. Enumerable.Range(0, 9).Select(i => Point(Top, 0.2 * i, i == 4 ? 0 : 3))], DraftPa: 12, RoomC: 20)).Strip!;
        Assert.Equal((0.2, 0.0, 1e-4), (Math.Round(one.L0M, 12), one.L1M, Math.Round(one.LeakAreaM2, 12)));
        Assert.Equal(1.161, one.LeakKgH, 3);
        Assert.Equal(12.12, one.NeedKgH, 2);
        Assert.Equal(one.LeakKgH / one.NeedKgH, one.ShareOfNeed, 12);
        // 0.30 m at grade 0, 0.40 at grade 1.
        var two = Ask(new(1.8, [.. Enumerable.Range(0, 18).Select(i => Point(Top, 0.1 * i, i < 3 ? 0 : i < 7 ? 1 : 3))])).Strip!;
        Assert.Equal(2.438, two.LeakKgH, 3);
        Assert.Equal((0.3 + 0.2) / 1.8, two.LeakingShare, 9);
        // A single point owns all; no draft, or a turned one, moves no air.
        var alone = Ask(new(1.8, [Point(Top, 0.4, 0)], DraftPa: -3)).Strip!;
        Assert.Equal((1.8, 0.0), (alone.L0M, alone.LeakKgH));
    }

    [Theory]
    [InlineData("333333333333", null, false, "", "Pass")]
    [InlineData("222222222222", "flattened", true, "", "Pass")]
    [InlineData("111111211111", null, false, "DrawLatch", "Doubtful")]
    [InlineData("111111211111", "hard", false, "RenewRope", "Doubtful")]
    [InlineData("111111211111", null, true, "RenewRope", "Doubtful")]
    [InlineData("311333333333", null, false, "Hinge", "Doubtful")]
    [InlineData("333333301333", null, false, "LatchSide", "Fail")]
    [InlineData("333333301333", "flattened", false, "RenewRope LatchSide", "Fail")]
    [InlineData("333333311333", "flattened", false, "LatchSide", "Doubtful")]
    [InlineData("333133333333", null, false, "Corner", "Doubtful")]
    [InlineData("311133333333", null, false, "Hinge", "Doubtful")]
    [InlineData("333311333333", null, false, "Corner", "Doubtful")]
    [InlineData("313333333333", null, false, "", "Doubtful")]
    [InlineData("303333333333", "hard", false, "RenewRope", "Fail")]
    public void Map_is_read(string grades, string? rope, bool latchAtEnd, string readings, string verdict)
    {
        var strip = Strip(grades, rope, latchAtEnd);
        Assert.Equal(readings, string.Join(' ', strip.Readings));
        Assert.Equal(verdict, strip.Verdict.ToString());
        Assert.Empty(strip.Missing);
    }

    [Fact]
    public void Two_weak_sides_are_not_all_round()
    {
        // Only two sides were tested: weak or not, the others may hold.
        var strip = Ask(new(1.8, [Point(Hinge, 0.1, 1), Point(Hinge, 0.3, 1), Point(Latch, 1, 1), Point(Latch, 1.2, 1)])).Strip!;
        Assert.Equal([StripReading.Hinge, StripReading.LatchSide], strip.Readings);
        Assert.Equal([Top, Bottom, HingeTop, HingeBottom, LatchTop, LatchBottom], strip.Missing);
    }

    [Fact]
    public void A_tighter_grade_never_leaks_more_and_the_order_of_points_means_nothing() =>
        Gen.Select(Gen.Int[0, 3].Array[12], Gen.Int[0, 11], Gen.Int[0, 1000]).Sample((grades, tighter, seed) =>
        {
            double Leak(IEnumerable<int> now) => Strip(string.Concat(now)).LeakKgH;
            var points = grades.Select((g, i) => new StripPoint(_round[i], 0.15 * i, g)).ToArray();
            var shuffled = points.ToArray();
            new Random(seed).Shuffle(shuffled);
            return Leak(grades.Select((g, i) => i == tighter ? Math.Min(3, g + 1) : g)) <= Leak(grades) + 1e-12
                && Math.Abs(new StripMap(1.8, points).LeakAreaM2 - new StripMap(1.8, shuffled).LeakAreaM2) < 1e-15
                && Math.Abs(Enumerable.Range(0, 4).Sum(g => new StripMap(1.8, [.. points.Select(p => p with { Grade = p.Grade == g ? 0 : 3 })]).L0M) - 1.8) < 1e-12;
        });

    [Theory]
    [InlineData(true, 120.0, 8.0, "Pass", false)]
    [InlineData(true, 121.0, 8.0, "Doubtful", false)]
    [InlineData(true, 240.0, null, "Doubtful", false)]
    [InlineData(true, 241.0, 31.0, "Fail", true)]
    [InlineData(false, 240.0, 30.0, "Pass", false)]
    [InlineData(false, 900.0, 8.0, "Doubtful", false)]
    [InlineData(true, 75.0, 31.0, "LookAtIntake", true)]
    [InlineData(true, null, 31.0, "LookAtIntake", true)]
    [InlineData(true, null, 5.0, null, false)]
    public void Closed_air_is_judged_by_kind_of_stove(bool closesFully, double? collapseS, double? reviveS, string? verdict, bool intake)
    {
        var found = Ask(new(ClosedAir: new(closesFully, collapseS, reviveS))).ClosedAir!;
        Assert.Equal((verdict, intake), (found.Verdict?.ToString(), found.LookAtIntake));
    }

    // Channel, and what the manual says → size, proud, how it was found, cement.
    [Theory]
    [InlineData(10.0, 6.0, null, null, 12.0, 6.0, "Fits", "None")]
    [InlineData(12.0, 10.0, null, null, 14.0, 4.0, "Fits", "None")]
    [InlineData(6.0, 3.0, null, null, 6.0, 3.0, "OneDown", "None")]
    [InlineData(8.0, 8.0, null, null, 12.0, 4.0, "OneUp", "None")]
    [InlineData(10.0, 2.0, null, null, null, null, "MeasureOldRope", null)]
    [InlineData(22.0, 21.0, null, null, null, null, "MeasureOldRope", null)]
    [InlineData(10.0, 6.0, 14.0, true, 14.0, 8.0, "Manual", "Needed")]
    [InlineData(10.0, 6.0, 10.0, true, 10.0, 4.0, "Manual", "ThinBead")]
    [InlineData(10.0, 2.0, 10.0, false, 10.0, 8.0, "Manual", "None")]
    [InlineData(null, null, 10.0, null, 10.0, null, "Manual", "None")]
    [InlineData(null, null, null, null, null, null, null, null)]
    public void Rope_is_chosen_from_its_channel(double? width, double? depth, double? manual, bool? manualCement, double? size, double? proud, string? advice, string? cement)
    {
        var rope = Ask(new(Channel: new(width, depth, 1.72, manual, manualCement))).Rope!;
        Assert.Equal((size, proud, advice, cement), (rope.SizeMm, rope.ProudMm, rope.Advice?.ToString(), rope.Cement?.ToString()));
        Assert.Equal(1.7794, rope.NeedM!.Value, 9);
    }

    [Fact]
    public void Defaults_that_were_used_are_listed_and_what_was_not_asked_stays_open()
    {
        var strip = Ask(new(1.8, [Point(Top, 0.4, 2)]));
        Assert.Equal(["rope", "latchAtEnd", "altitudeM", "draftPa", "roomC", "fire.burnKgH", "fire.moistureWet", "fire.excessAir"], strip.Assumed.Select(a => a.Field));
        Assert.Equal((null, null), (strip.ClosedAir, strip.Rope));
        var nothing = Ask(new());
        Assert.Equal((null, null, null, 0), (nothing.Strip, nothing.ClosedAir, nothing.Rope, nothing.Assumed.Count));
        Assert.Equal(["closedAir.closesFully"], Ask(new(ClosedAir: new(CollapseS: 40))).Assumed.Select(a => a.Field));
    }

    [Fact]
    public void Bad_input_is_named_with_range_and_unit()
    {
        Assert.Equal("Grade must lie between 0 and 3; 4 was entered.", Refused(new(1.8, [Point(Top, 0.4, 4)]))["points[0].grade"][0]);
        Assert.Equal("Grade must be a whole number between 0 and 3.", Refused(new(1.8, [Point(Top, 0.4, 1.5)]))["points[0].grade"][0]);
        Assert.Equal("Way along the door must lie between 0.00 and 1.80 m; 9.00 m was entered.", Refused(new(1.8, [Point(Top, 9, 1)]))["points[0].atM"][0]);
        Assert.Equal("Size of the rope must lie between 3 and 30 mm; 80 mm was entered.", Refused(new(Channel: new(ManualSizeMm: 80)))["channel.manualSizeMm"][0]);
        Assert.StartsWith("Way round the door is missing", Refused(new(Points: [Point(Top, 0.4, 1)]))["perimeterM"][0], StringComparison.Ordinal);
        Assert.Contains("“middle” is not known", Refused(new(1.8, [new("middle", 0.4, 1)]))["points[0].place"][0], StringComparison.Ordinal);
        Assert.Contains("At most 200 points", Refused(new(1.8, [.. Enumerable.Repeat(Point(Top, 0.4, 1), 201)]))["points"][0], StringComparison.Ordinal);
        Assert.Contains("“wool” is not known", Refused(new(Rope: "wool"))["rope"][0], StringComparison.Ordinal);
    }

    // The low fire of the draft chapter.
    [Fact]
    public void Air_of_a_low_fire() => Assert.Equal(12.12, FireAir.KgH(Fire.Ordinary(FiringLevel.Low)), 2);
}
