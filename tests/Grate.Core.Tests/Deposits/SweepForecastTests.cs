using CsCheck;
using Grate.Core.Deposits;
using Grate.Core.Fuel;

namespace Grate.Core.Tests.Deposits;

/// <summary>Handbook 02, section 5, with its worked cases.</summary>
public class SweepForecastTests
{
    private static readonly SweepForecastEntry _worked = new(new DateOnly(2026, 5, 20), null, 0.2, 0.06, [new(1.4, 2600)], 3000, null, null, null, "10-01");

    private static SweepForecastAnswer Ask(SweepForecastEntry entry) => Calculation.Answered(e => SweepForecastAnswer.To(entry, e));

    private static DateOnly Day(string text) => DateOnly.Parse(text);

    [Fact]
    public void Worked_case_with_one_observation()
    {
        var answer = Ask(_worked);
        Assert.Equal((0.03376, 0.05479, 0.08893), (Math.Round(answer.RateMmPer100Kg.P10, 5), Math.Round(answer.RateMmPer100Kg.P50, 5), Math.Round(answer.RateMmPer100Kg.P90, 5)));
        Assert.Equal((Day("2028-02-20"), Day("2027-09-14"), Day("2028-11-07")), (answer.P50Date!.Value, answer.P90Date!.Value, answer.StopDate!.Value));
        Assert.Equal((Day("2027-05-20"), SweepBound.Yearly), (answer.NextSweep, answer.Bound));
        Assert.Equal(1313.5, 3000 * new WoodYear(WoodYear.OrdinaryC).ShareBetween(Day("2026-05-20"), Day("2027-01-01")), 1);
    }

    [Fact]
    public void Worked_case_without_observation_is_bound_by_the_deposit()
    {
        var answer = Ask(_worked with { Observations = null });
        Assert.Equal((0.02085, 0.06, 0.17263), (Math.Round(answer.RateMmPer100Kg.P10, 5), Math.Round(answer.RateMmPer100Kg.P50, 5), Math.Round(answer.RateMmPer100Kg.P90, 5)));
        Assert.Equal((Day("2027-01-20"), SweepBound.Deposit), (answer.NextSweep, answer.Bound));
    }

    [Fact]
    public void A_firm_that_sweeps_by_quarters_comes_after_ninety_one_days_of_use()
    {
        SweepForecastAnswer Quarterly(string swept, params double[] monthlyC) => Calculation.Answered(e => SweepForecastAnswer.To(_worked with { LastSweep = Day(swept), MonthlyMeanC = monthlyC.Length > 0 ? monthlyC : null }, e, SweepSchool.Quarterly));
        // In an ordinary climate nothing heats in July and August: 91 days from 1 September are the end of November.
        Assert.Equal((Day("2026-12-01"), SweepBound.Quarter), (Quarterly("2026-07-01").NextSweep, Quarterly("2026-07-01").Bound));
        Assert.Equal(Day("2027-04-02"), Quarterly("2027-01-01").NextSweep);
        // Where every day is cold, every day counts.
        Assert.Equal(Day("2026-09-30"), Quarterly("2026-07-01", [.. Enumerable.Repeat(5d, 12)]).NextSweep);
    }

    [Fact]
    public void Worked_case_swept_in_december_moves_to_the_season()
    {
        var answer = Ask(_worked with { LastSweep = Day("2026-12-15") });
        Assert.Equal(Day("2027-12-25"), answer.P90Date);
        Assert.Equal((Day("2027-10-01"), SweepBound.Season), (answer.NextSweep, answer.Bound));
        // A season's start that is past does not draw the sweep back.
        Assert.Equal(SweepBound.Yearly, Ask(_worked with { LastSweep = Day("2026-12-15"), Today = Day("2027-10-02") }).Bound);
    }

    [Fact]
    public void Curve_begins_at_the_sweep_and_goes_by_firsts_of_months()
    {
        var curve = Ask(_worked).Curve;
        Assert.Equal(25, curve.Count);
        Assert.Equal([Day("2026-05-20"), Day("2026-06-01"), Day("2026-07-01")], curve.Take(3).Select(p => p.Date));
        Assert.Equal(Day("2028-05-01"), curve[^1].Date);
        Assert.All(curve.Zip(curve.Skip(1)), pair => Assert.True(pair.First.P50Mm <= pair.Second.P50Mm));
        Assert.Equal(0.2, curve[0].P90Mm);
        // A year's wood at the median rate.
        Assert.Equal(3000 / 100.0 * Ask(_worked).RateMmPer100Kg.P50, Ask(_worked with { LastSweep = Day("2026-06-01"), LeftMm = 0 }).Curve[12].P50Mm, 9);
    }

    [Theory]
    [InlineData(new double[] { -1, 0, 4, 8, 13, 16, 18, 18, 14, 9, 4, 0 })]
    [InlineData(new double[] { 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30, 30 })]
    public void Monthly_shares_make_a_year_leap_or_not(double[] monthly)
    {
        var year = new WoodYear(monthly);
        Assert.Equal(1, year.Shares.Sum(), 12);
        Assert.Equal(1, year.ShareBetween(Day("2027-01-01"), Day("2028-01-01")), 9);
        Assert.Equal(1, year.ShareBetween(Day("2028-01-01"), Day("2029-01-01")), 9);
        Assert.Equal(year.Shares[1] / 29, year.ShareOf(Day("2028-02-29")), 12);
    }

    [Fact]
    public void Season_starts_by_the_climate_on_both_halves_of_the_earth()
    {
        Assert.Equal((10, 1), new WoodYear(WoodYear.OrdinaryC).SeasonStart());
        Assert.Equal((4, 1), new WoodYear([.. WoodYear.OrdinaryC.Skip(6), .. WoodYear.OrdinaryC.Take(6)]).SeasonStart());
        Assert.Null(new WoodYear([.. Enumerable.Repeat(20d, 12)]).SeasonStart());
    }

    [Fact]
    public void Limits_already_passed_are_due_at_once_and_those_never_reached_are_not_due()
    {
        Assert.Equal(_worked.LastSweep, Ask(_worked with { LeftMm = 3 }).P50Date);
        var idle = Ask(_worked with { WoodKgPerYear = 0 });
        Assert.Equal((null, null, null), (idle.P50Date, idle.P90Date, idle.StopDate));
        Assert.Equal((Day("2027-05-20"), SweepBound.Yearly), (idle.NextSweep, idle.Bound));
    }

    [Fact]
    public void Yearly_date_of_a_leap_day_is_the_28th() =>
        Assert.Equal(Day("2029-02-28"), Ask(_worked with { LastSweep = Day("2028-02-29"), WoodKgPerYear = 0 }).NextSweep);

    [Fact]
    public void Shrinking_counts_as_what_an_eye_can_tell()
    {
        var shrunk = Ask(_worked with { Observations = [new(-2, 2600)] });
        Assert.Equal(shrunk.RateMmPer100Kg, Ask(_worked with { Observations = [new(0.3, 2600)] }).RateMmPer100Kg);
    }

    [Fact]
    public void More_wood_faster_growth_and_a_lower_limit_never_come_later() =>
        Gen.Select(Gen.Double[500, 9000], Gen.Double[0.01, 0.3], Gen.Double[1, 5]).Sample((wood, model, limit) =>
        {
            var entry = _worked with { WoodKgPerYear = wood, ModelMmPer100Kg = model, ThresholdMm = limit, Observations = null };
            DateOnly P90(SweepForecastEntry e) => Ask(e).P90Date ?? DateOnly.MaxValue;
            var date = P90(entry);
            return P90(entry with { WoodKgPerYear = 1.2 * wood }) <= date && P90(entry with { ModelMmPer100Kg = 1.2 * model }) <= date
                && P90(entry with { ThresholdMm = 0.9 * limit }) <= date && Ask(entry).NextSweep <= entry.LastSweep!.Value.AddMonths(12);
        }, iter: 100);

    [Fact]
    public void Bad_entries_are_told()
    {
        var errors = new EntryErrors();
        Assert.Null(SweepForecastAnswer.To(new SweepForecastEntry(null, Day("1700-01-01"), -1, 0, [new(500, 0), new()], -1, [1, 2], 0, 200, "13-40"), errors));
        Assert.Equal(["lastSweep", "leftMm", "modelMmPer100Kg", "monthlyMeanC", "observations[0].growthMm", "observations[0].woodKg", "observations[1].growthMm",
            "observations[1].woodKg", "seasonStart", "stopMm", "thresholdMm", "today", "woodKgPerYear"], errors.ByField.Keys.Order(StringComparer.Ordinal));
    }
}
