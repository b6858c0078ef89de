using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Handbook 01 section 5: the flue's own baseline.</summary>
public class DraftBaselineTests
{
    private static DraftAnswer With(double? reading, params HistoryEntry[] history) =>
        Flues.Answer(Flues.P01Question(reading) with { History = history });

    [Fact]
    public void Posterior_by_hand()
    {
        var plain = With(null);
        double Variance(Func<DraftInput, bool> of) => plain.Contributions.Where(c => of(c.Input)).Sum(c => c.SigmaPa * c.SigmaPa);
        bool Systematic(DraftInput i) => i is DraftInput.HeatTransfer or DraftInput.Lengths or DraftInput.Diameters;
        var (system, visit) = (Variance(Systematic), Variance(i => !Systematic(i)));

        var baseline = With(null, new(20, 23, 2.0), new(22, 24, 3.0)).Baseline!;
        var (w1, w2) = (1 / (4 + 0.7 * 0.7), 1 / (9 + 0.72 * 0.72));
        var precision = 1 / system + w1 + w2;
        Assert.Equal((w1 * -3 + w2 * -2) / precision, baseline.BiasPa, 9);
        Assert.Equal(Math.Sqrt(1 / precision + visit), baseline.SigmaPa, 9);
        Assert.Equal(2, baseline.Visits);
        Assert.Equal(plain.ExpectedPa + baseline.BiasPa, baseline.ExpectedPa, 9);
        Assert.Equal(1.645 * baseline.SigmaPa, baseline.HighPa - baseline.ExpectedPa, 9);
        Assert.True(baseline.HighPa - baseline.LowPa < plain.HighPa - plain.LowPa);
    }

    [Fact]
    public void Verdict_follows_the_baseline_from_two_visits_on()
    {
        // 20 Pa lies within the plain band of 19.2–34.0; this flue has always pulled much more.
        HistoryEntry strong = new(33, 26, 0.5);
        Assert.Equal(DraftVerdict.AsExpected, With(20).Verdict);
        Assert.Equal(DraftVerdict.AsExpected, With(20, strong).Verdict);
        var judged = With(20, strong, strong, strong);
        Assert.Equal(DraftVerdict.BelowExpected, judged.Verdict);
        Assert.Equal(judged.Baseline!.ExpectedPa - 20, judged.ResidualPa!.Value, 9);
        Assert.Equal(judged.ResidualPa.Value, judged.Restated!.HousePa!.Value, 9);
    }

    [Fact]
    public void Many_visits_learn_the_bias()
    {
        var history = Enumerable.Repeat(new HistoryEntry(23, 26, 1.0), 200).ToArray();
        Assert.Equal(-3, With(null, history).Baseline!.BiasPa, 0.05);
    }

    [Fact]
    public void Bad_history_is_refused()
    {
        var refused = Flues.Refusals(Flues.P01Question() with { History = [new(null, 20, 2), new(20, 20, -1)] });
        Assert.Equal(["history[0].measuredPa", "history[1].visitSigmaPa"], refused.Keys.Order());
    }
}
