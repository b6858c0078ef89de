using Grate.Core.Deposits;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Deposits;

/// <summary>Sweeps recorded in visits: stops, what is learned from one to the next, and the words.</summary>
public class SweepRecordTests
{
    private static readonly DateOnly _day = new(2026, 5, 20);

    private static SweepRecord Found(int stage, double mm) => new(new Dictionary<string, DepositEntry?> { ["segment 2"] = new(stage, mm) });

    // Handbook 11, worked cases.
    [Theory]
    [InlineData(2, 5.9, null)]
    [InlineData(2, 6.0, "deposit")]
    [InlineData(3, 0.2, "glaze")]
    public void Stops_by_what_was_found(int stage, double mm, string? stop) => Assert.Equal(stop, Found(stage, mm).StopCode());

    [Fact]
    public void Stops_go_when_it_is_said_what_was_left()
    {
        Assert.Null((Found(2, 7) with { LeftMm = 0.5 }).StopCode());
        Assert.Equal("deposit", (Found(2, 7) with { LeftMm = 6 }).StopCode());
        Assert.Null((Found(3, 2) with { GlazeLeft = false, LeftMm = 0 }).StopCode());
        Assert.Equal("glaze", (Found(2, 2) with { GlazeLeft = true, LeftMm = 0 }).StopCode());
        Assert.Null(new SweepRecord().StopCode());
    }

    [Theory]
    [InlineData("steel", true, 1980, Technology.Catalytic)]
    [InlineData("masonry-heater", false, 2020, Technology.MasonryHeater)]
    [InlineData("steel", false, 1991, Technology.Conventional)]
    [InlineData("insert", false, 1992, Technology.Certified)]
    public void Stoves_burn_by_their_kind_and_year(string kind, bool combustor, int year, Technology burns) => Assert.Equal(burns, SweepPlace.BurnsIn(kind, combustor, year));

    private static SweepAnswer Ask(SweepRecord record, params EarlierSweep[] past)
    {
        var errors = new EntryErrors();
        var answer = SweepAnswer.To(record, new SweepPlace(Flues.P01(), 600, WoodYear.OrdinaryC, Technology.Conventional, past), _day, errors, UnitSystem.Metric);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    private static string Words(SweepAnswer answer) => string.Join(" ", answer.Sentences.Select(s => s.ToString()));

    [Fact]
    public void Visits_teach_the_forecast()
    {
        var first = Ask(Found(2, 1.4));
        Assert.Equal(0, first.LearnedFrom);
        Assert.Contains("by the model alone", Words(first), StringComparison.Ordinal);
        // A year of 3 000 kg between two sweeps: 2.4 mm found where 0.2 were left.
        var before = new EarlierSweep(_day.AddYears(-1), new SweepRecord(LeftMm: 0.2, WoodKgPerYear: 3000));
        var taught = Ask(Found(2, 2.4), before);
        Assert.Equal(1, taught.LearnedFrom);
        Assert.Equal(GrowthRate.Of(taught.Deposits.WorstRateMmPer100Kg, [new(2.2, 3000)]).MmPer100Kg().P50, taught.Forecast.RateMmPer100Kg.P50, 6);
        Assert.True(Ask(Found(2, 5), before).Forecast.NextSweep <= taught.Forecast.NextSweep);
        // A visit at which nothing was looked at teaches nothing; one out of order neither.
        Assert.Equal(0, Ask(new SweepRecord(), before).LearnedFrom);
        Assert.Equal(0, Ask(Found(2, 2.4), new EarlierSweep(_day.AddDays(3), new SweepRecord())).LearnedFrom);
    }

    [Fact]
    public void Words_tell_what_it_means()
    {
        Assert.Contains("Worst spot 4.0 mm: sweep, 3.0 mm is the limit.", Words(Ask(Found(2, 4))), StringComparison.Ordinal);
        Assert.Contains("no fire until swept", Words(Ask(Found(2, 6))), StringComparison.Ordinal);
        Assert.Contains("with glaze", Words(Ask(Found(3, 1))), StringComparison.Ordinal);
        // Handbook 02 section 6: 150 mm, 5 m, 1.5 mm, stage 2.
        Assert.Contains("holds 1.4 kg, which would burn like 1.9 kg of dry wood", Words(Ask(Found(2, 1.5))), StringComparison.Ordinal);
        Assert.Contains("20.0 L came down, much more than was seen", Words(Ask(Found(2, 1.5) with { SweptL = 20 })), StringComparison.Ordinal);
        Assert.Contains("still up there", Words(Ask(Found(2, 1.5) with { SweptL = 1 })), StringComparison.Ordinal);
        Assert.Contains("as it should", Words(Ask(Found(2, 1.5) with { SweptL = 5 })), StringComparison.Ordinal);
    }

    [Fact]
    public void Refusals_carry_the_fields_of_the_screen()
    {
        var errors = new EntryErrors();
        Assert.Null(SweepAnswer.To(Found(4, 1), new SweepPlace(Flues.P01(), 0, WoodYear.OrdinaryC, Technology.Certified, []), _day, errors, UnitSystem.Metric));
        Assert.Equal(["found.segment 2.stage"], errors.ByField.Keys);
        errors = new EntryErrors();
        Assert.Null(SweepAnswer.To(new SweepRecord(LeftMm: -1, WoodKgPerYear: -1), new SweepPlace(Flues.P01(), 0, WoodYear.OrdinaryC, Technology.Certified, []), _day, errors, UnitSystem.Metric));
        Assert.Equal(["leftMm", "woodKgPerYear"], errors.ByField.Keys.Order());
    }
}
