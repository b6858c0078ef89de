using Grate.Core.Deposits;
using Grate.Core.Fuel;
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
    public void Stops_by_what_was_found(int stage, double mm, string? stop) => Assert.Equal(stop, Found(stage, mm).StopCodes().FirstOrDefault());

    [Fact]
    public void Stops_go_when_it_is_said_what_was_left()
    {
        Assert.Null((Found(2, 7) with { LeftMm = 0.5 }).StopCodes().FirstOrDefault());
        Assert.Equal("deposit", (Found(2, 7) with { LeftMm = 6 }).StopCodes().FirstOrDefault());
        Assert.Null((Found(3, 2) with { GlazeLeft = false, LeftMm = 0 }).StopCodes().FirstOrDefault());
        Assert.Equal("glaze", (Found(2, 2) with { GlazeLeft = true, LeftMm = 0 }).StopCodes().FirstOrDefault());
        Assert.Null(new SweepRecord().StopCodes().FirstOrDefault());
        Assert.Equal("deposit", new SweepRecord(Cap: new DepositEntry(2, 4, 6)).StopCodes().FirstOrDefault());
        Assert.Equal("glaze", new SweepRecord(Cap: new DepositEntry(3, 0.1)).StopCodes().FirstOrDefault());
    }

    [Theory]
    [InlineData("steel", true, 1980, Technology.Catalytic)]
    [InlineData("masonry-heater", false, 2020, Technology.MasonryHeater)]
    [InlineData("steel", false, 1991, Technology.Conventional)]
    [InlineData("insert", false, 1992, Technology.Certified)]
    public void Stoves_burn_by_their_kind_and_year(string kind, bool combustor, int year, Technology burns) => Assert.Equal(burns, SweepPlace.BurnsIn(kind, combustor, year));

    [Fact]
    public void Spent_combustor_burns_nothing() => Assert.Equal(
        [Technology.CatalyticFailed, Technology.Catalytic, Technology.Certified],
        [SweepPlace.BurnsIn("steel", true, 2010, Condition.Spent), SweepPlace.BurnsIn("steel", true, 2010, Condition.Wearing), SweepPlace.BurnsIn("steel", false, 2010, Condition.Spent)]);

    private static SweepPlace Place(params EarlierSweep[] past) =>
        new(Flues.P01(), 600, WoodYear.OrdinaryC, Technology.Conventional, ["baffle"], new WoodRecord(Amount: 3000), past);

    private static SweepAnswer Ask(SweepRecord record, params EarlierSweep[] past) => Ask(record, Place(past));

    private static SweepAnswer Ask(SweepRecord record, SweepPlace place)
    {
        var errors = new EntryErrors();
        var answer = SweepAnswer.To(record, place, _day, _day, errors, UnitSystem.Metric);
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
        var before = new EarlierSweep(_day.AddYears(-1), null, 0.2, new WoodRecord(Amount: 3000));
        var taught = Ask(Found(2, 2.4), before);
        Assert.Equal(1, taught.LearnedFrom);
        Assert.Equal(GrowthRate.Of(taught.Deposits.WorstRateMmPer100Kg, [new(2.2, 3000)]).MmPer100Kg().P50, taught.Forecast.RateMmPer100Kg.P50, 6);
        Assert.True(Ask(Found(2, 5), before).Forecast.NextSweep <= taught.Forecast.NextSweep);
        // A visit at which nothing was looked at teaches nothing; one out of order neither. The cap's deposit is no growth of the flue.
        Assert.Equal(0, Ask(new SweepRecord(), before).LearnedFrom);
        Assert.Equal(0, Ask(Found(2, 2.4), new EarlierSweep(_day.AddDays(3), null, 0)).LearnedFrom);
        Assert.Equal(taught.Forecast.RateMmPer100Kg, Ask(Found(2, 2.4) with { Cap = new DepositEntry(2, 5) }, before).Forecast.RateMmPer100Kg);
        // Of a flue that was changed since, the day and what was left count, and nothing is learned.
        var other = before with { ThisFlue = false, FoundMm = 1 };
        Assert.Equal(0, Ask(Found(2, 2.4), other).LearnedFrom);
        Assert.Equal((other.Day, 0.2), (Ask(new SweepRecord(), other).From, Ask(new SweepRecord(), other).FromMm));
        // A year that nobody visited lies between: the wood of two winters, half the rate.
        var missing = Ask(Found(2, 2.4), before with { Day = _day.AddYears(-2) });
        Assert.Equal(GrowthRate.Of(missing.Deposits.WorstRateMmPer100Kg, [new(2.2, 6000)]).MmPer100Kg().P50, missing.Forecast.RateMmPer100Kg.P50, 6);
    }

    [Fact]
    public void Due_list_asks_for_the_same_dates()
    {
        var before = new EarlierSweep(_day.AddYears(-1), null, 0.2);
        var (answer, dates) = (Ask(Found(2, 3.4) with { LeftMm = 0.3 }, before).Forecast, SweepAnswer.DatesOf(Place(before, new EarlierSweep(_day, 3.4, 0.3)), _day)!);
        Assert.Equal((answer.P50Date, answer.P90Date, answer.StopDate, answer.NextSweep, answer.Bound), (dates.P50, dates.P90, dates.Stop, dates.Next, dates.Bound));
        Assert.Null(SweepAnswer.DatesOf(Place(before) with { Wood = new WoodRecord(Amount: -1) }, _day));
        Assert.Null(SweepAnswer.DatesOf(Place(), _day));
    }

    [Fact]
    public void Every_segment_grows_from_what_was_left_at_its_own_rate()
    {
        var answer = Ask(Found(2, 2) with { LeftMm = 0.3 });
        var segments = answer.SegmentsMm();
        Assert.Equal(25, segments.Count);
        Assert.All(segments[0], mm => Assert.Equal(0.3, mm, 9));
        var rates = answer.Deposits.Segments.Select(s => s.RateMmPer100Kg).ToList();
        Assert.Equal(answer.Forecast.Curve[^1].P50Mm, segments[^1].Max(), 9);
        Assert.Equal(rates[0] / rates[1], (segments[^1][0] - 0.3) / (segments[^1][1] - 0.3), 9);
    }

    [Fact]
    public void What_would_move_the_date()
    {
        var whatIfs = Ask(Found(2, 2), Place() with { Burns = Technology.CatalyticFailed, Wood = new WoodRecord(Amount: 3000, ToldMoistureWet: 0.25, Habit: "slow") }).WhatIfs.ToDictionary(w => w.Code);
        Assert.Equal(8.1 / 15.3, whatIfs["combustor-renewed"].RateFactor, 9);
        // Handbook 02 section 4: f is 1.4 at u 0.25, and more of it is dry wood at 0.15.
        Assert.Equal(0.85 / (0.75 * 1.4), whatIfs["drier-wood"].RateFactor, 2);
        Assert.True(whatIfs["hotter-fires"].RateFactor < 0.6 / 2.2);
        var now = Ask(Found(2, 2), Place() with { Burns = Technology.CatalyticFailed, Wood = new WoodRecord(Amount: 3000, ToldMoistureWet: 0.25, Habit: "slow") }).Forecast;
        Assert.All(whatIfs.Values, w => Assert.True(w.NextSweep >= now.NextSweep && (w.P90Date ?? DateOnly.MaxValue) >= now.P90Date));
        // Nothing is offered that is so already, nor what does not help: at 18 % wet, drier wood brings more of it up the flue.
        Assert.Equal(["hotter-fires"], Ask(Found(2, 2), Place() with { Wood = new WoodRecord(ToldMoistureWet: 0.18) }).WhatIfs.Select(w => w.Code));
        Assert.Empty(Ask(Found(2, 2), Place() with { Wood = new WoodRecord(ToldMoistureWet: 0.14, Habit: "hot") }).WhatIfs);
    }

    [Fact]
    public void Sweep_wins_the_draft_back_down_to_what_was_left()
    {
        var thick = new SweepRecord(new Dictionary<string, DepositEntry?> { ["segment 2"] = new(2, 45) });
        var open = Ask(thick);
        Assert.Equal((null, open.Deposits.DraftLostPa), (open.AfterMm, open.WonBackPa));
        Assert.True(open.WonBackPa > 1);
        var swept = Ask(thick with { LeftMm = 35 });
        Assert.Equal([0, 35], swept.AfterMm!);
        Assert.InRange(swept.WonBackPa, 0.01, open.WonBackPa - 0.01);
        Assert.Contains("Not yet looked through", Words(swept), StringComparison.Ordinal);
        Assert.Contains("Looked through by camera", Words(Ask(thick with { LeftMm = 0, SeenThrough = "camera" })), StringComparison.Ordinal);
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
        Assert.Contains("an open flue is a stop", Words(Ask(Found(2, 1.5) with { Fell = ["tile"] })), StringComparison.Ordinal);
        Assert.Contains("A nest came down", Words(Ask(Found(2, 1.5) with { Fell = ["nest"] })), StringComparison.Ordinal);
        var slow = Words(Ask(Found(2, 1), Place() with { Wood = new WoodRecord(ToldMoistureWet: 0.3, Habit: "slow") }));
        Assert.Contains("glaze is to be expected in: segment 1, segment 2. Glaze stops the stove at any thickness.", slow, StringComparison.Ordinal);
        Assert.Contains("a look up the flue once a month", slow, StringComparison.Ordinal);
        Assert.DoesNotContain("Common practice", Words(Ask(Found(2, 1))), StringComparison.Ordinal);
        var glazedAbove = new SweepRecord(new Dictionary<string, DepositEntry?> { ["segment 1"] = new(1, 0.5), ["segment 2"] = new(3, 1) });
        Assert.Contains("changes sharply between segment 1 and segment 2", Words(Ask(glazedAbove)), StringComparison.Ordinal);
    }

    [Fact]
    public void Refusals_carry_the_fields_of_the_screen()
    {
        IEnumerable<string> Refused(SweepRecord record, WoodRecord? wood = null)
        {
            var errors = new EntryErrors();
            Assert.Null(SweepAnswer.To(record, Place() with { Wood = wood ?? new WoodRecord() }, _day, _day, errors, UnitSystem.Metric));
            return errors.ByField.Keys.Order();
        }
        Assert.Equal(["found.segment 2.stage"], Refused(Found(4, 1)));
        Assert.Equal(["found.segment 2.howSeen"], Refused(new SweepRecord(new Dictionary<string, DepositEntry?> { ["segment 2"] = new(1, 1, null, "guessed") })));
        Assert.Equal(["leftMm"], Refused(new SweepRecord(LeftMm: -1)));
        Assert.Equal(["amount"], Refused(new SweepRecord(), new WoodRecord(Amount: -1)));
        Assert.Equal(["cap.mm", "fell", "minutes", "seenThrough"], Refused(new SweepRecord(Cap: new DepositEntry(1, 900), Fell: ["gold"], SeenThrough: "eye", Minutes: 0)));
        Assert.Equal(["done"], Refused(new SweepRecord(Done: ["cold", "swept"])));
    }
}
