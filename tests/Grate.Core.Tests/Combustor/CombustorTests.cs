using System.Globalization;
using Grate.Core.Combustor;

namespace Grate.Core.Tests.Combustor;

/// <summary>The combustor: handbook 05 section 1.</summary>
public class CombustorTests
{
    private static CombustorAnswer Ask(CombustorEntry entry) => Calculation.Answered(e => CombustorAnswer.To(entry, e));

    // Handbook 05 section 5.
    [Theory]
    [InlineData(0, 0, 3, 0)]
    [InlineData(0.2, 0, 3.75, 0.75)]
    [InlineData(0.5, 0, 6, 3)]
    [InlineData(0.2, 0.1, 4.63, 1.63)]
    public void Worked_pressures(double dark, double coating, double drop, double extra)
    {
        var pressure = Ask(new(3.5, dark, coating)).Pressure;
        Assert.Equal((drop, extra), (Math.Round(pressure.DropPa, 2), Math.Round(pressure.ExtraNeedPa, 2)));
        // Laminar: half the fire costs half.
        Assert.Equal(pressure.DropPa / 2, Ask(new(1.75, dark, coating)).Pressure.DropPa, 9);
    }

    [Fact]
    public void Hours_come_from_the_wood_and_the_trend_ends_life_where_it_is_shorter()
    {
        var wood = Ask(new(WoodKg: 3000, WoodKgPerYear: 3600));
        Assert.Equal((2000.0, 9000.0, LifeBound.Life, 3.75), (wood.Life!.Hours, wood.Life.LeftH, wood.Life.Bound, wood.Life.LeftYears));
        Assert.Equal(["burnKgH", "cellsDarkShare", "coatingShare", "cleanPaAtHigh", "lifeH", "averageBurnKgH"], wood.Assumed.Select(a => a.Field).OrderBy(f => f == "averageBurnKgH"));
        LightOffVisitEntry[] visits = [new(2000, 4), new(4000, 5.5), new(6000, 7)];
        var trend = Ask(new(Hours: 6000, Visits: visits)).Life!;
        Assert.Equal((5000.0, 4000.0, 0.75, 4000.0, LifeBound.Trend, null), (trend.LifeLeftH, Math.Round(trend.TrendLeftH!.Value, 6), Math.Round(trend.MinutesPer1000H!.Value, 9), Math.Round(trend.LeftH, 6), trend.Bound, trend.LeftYears));
        // Hours: the largest of the visits where nothing else is known; two visits, falling minutes or one hour for all are no trend.
        Assert.Equal(6000, Ask(new(Visits: visits)).Life!.Hours);
        Assert.Null(Ask(new(Visits: visits[..2])).Life!.TrendLeftH);
        Assert.Null(Ask(new(Visits: [new(2000, 7), new(4000, 5.5), new(6000, 4)])).Life!.MinutesPer1000H);
        Assert.Null(Ask(new(Visits: [new(2000, 7), new(2000, 5.5), new(2000, 4)])).Life!.TrendLeftH);
        Assert.Equal((0.0, 0.0), (Ask(new(Hours: 20_000, Visits: visits)).Life!.LeftH, Ask(new(Hours: 20_000, Visits: visits)).Life!.TrendLeftH));
        Assert.Null(Ask(new()).Life);
    }

    private static LightOff Test(string series, bool goodFire = true, bool? topClear = null, double? startC = null) => Ask(new(LightOff: new(
        [.. series.Split(' ').Select(s => s.Split(':')).Select(s => new ProbeSampleEntry(double.Parse(s[0], CultureInfo.InvariantCulture), double.Parse(s[1], CultureInfo.InvariantCulture)))], startC, goodFire, topClear))).LightOff!;

    [Theory]
    [InlineData("0:280 2:300 4:330 6:380 10:470 20:610", 280, 4.0, 190.0, LightOffVerdict.Pass, CombustorZone.Working)]
    [InlineData("-5:250 5:350 12:350", 300, 5.0, 50.0, LightOffVerdict.Pass, CombustorZone.Starting)]
    [InlineData("0:300 8:320 12:360", 300, 11.0, 40.0, LightOffVerdict.Fail, CombustorZone.Starting)]
    [InlineData("0:300 10:350", 300, 10.0, 50.0, LightOffVerdict.Pass, CombustorZone.Starting)]
    [InlineData("0:300 9:320", 300, null, null, LightOffVerdict.NotJudged, CombustorZone.Starting)]
    [InlineData("0:250 11:270", 250, null, 18.18, LightOffVerdict.ClosedTooEarly, CombustorZone.Starting)]
    [InlineData("3:300 11:290", 300, null, -8.75, LightOffVerdict.Fail, CombustorZone.Starting)]
    [InlineData("10:470 0:280 6:380", 280, 3.0, 190.0, LightOffVerdict.Pass, CombustorZone.Working)]
    [InlineData("0:900 5:980", 900, 3.125, null, LightOffVerdict.Pass, CombustorZone.Destroys)]
    public void Light_off_is_judged_by_its_climb(string series, double closed, double? minutes, double? rise, LightOffVerdict verdict, CombustorZone zone)
    {
        var test = Test(series);
        Assert.Equal((closed, minutes, rise, verdict, zone), (test.ClosedAtC, test.MinutesTo50K is { } m ? Math.Round(m, 3) : null, test.RiseAt10K is { } r ? Math.Round(r, 2) : null, test.Verdict, test.PeakZone));
    }

    [Fact]
    public void Where_to_look_goes_by_what_is_cheap()
    {
        Assert.Equal([LightOffLook.CellsBlocked, LightOffLook.CellsDead, LightOffLook.BypassLeaking, LightOffLook.SealLeaking], Test("0:300 12:300").LookAt);
        Assert.Equal([LightOffLook.ClosedTooEarly], Test("0:250 12:250").LookAt);
        Assert.Equal((LightOffVerdict.Doubtful, 4), (Test("0:300 8:400", topClear: false).Verdict, Test("0:300 8:400", topClear: false).LookAt.Count));
        Assert.Equal(LightOffVerdict.NotJudged, Test("0:300 12:300", goodFire: false).Verdict);
        Assert.Equal(LightOffVerdict.ClosedTooEarly, Test("0:300 12:300", startC: 320).Verdict);
        Assert.Empty(Test("0:300 5:300").LookAt);
    }

    private static readonly double[] _edges = [259, 260, 369, 370, 760, 761, 870, 871, 979, 980];

    // The handbook's ranges: 260, 370, 760, 870, 980 °C (500, 700, 1400, 1600, 1800 °F).
    [Fact]
    public void Zones_part_where_the_trade_parts_them() => Assert.Equal("BelowStart Starting Starting Working Working Hot Hot AgesFast AgesFast Destroys",
        string.Join(' ', _edges.Select(c => LightOff.ZoneOf(c))));

    [Fact]
    public void Bad_input_is_named()
    {
        var errors = new EntryErrors();
        Assert.Null(CombustorAnswer.To(new(CellsDarkShare: 1, CoatingShare: -0.1, Hours: -1, Visits: [new(2000), null!], LightOff: new([new(0)], 2000)), errors));
        Assert.Equal(["cellsDarkShare", "coatingShare", "hours", "lightOff.series[0].probeC", "lightOff.startC", "visits[0].minutes", "visits[1]"], errors.ByField.Keys.Order(StringComparer.Ordinal));
        Assert.Contains("between 0 and 99 %", errors.ByField["cellsDarkShare"][0], StringComparison.Ordinal);
        errors = new EntryErrors();
        Assert.Null(CombustorAnswer.To(new(LightOff: new()), errors));
        Assert.Contains("at least one", errors.ByField["lightOff.series"][0], StringComparison.Ordinal);
    }
}
