using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Runs of readings (handbook 01 section 6).</summary>
public class SteadinessTests
{
    private static Steadiness Judge(params (double At, double Pa)[] samples)
    {
        var errors = new EntryErrors();
        var judged = Steadiness.Of([.. samples.Select(s => new RunSample(s.At, s.Pa))], errors);
        Assert.Empty(errors.ByField);
        return judged!;
    }

    [Fact]
    public void Mean_ends_and_deviation_by_hand()
    {
        var run = Judge((0, 10), (1, 12), (2, 14), (3, 16));
        Assert.Equal((13, 10, 16, 4), (run.MeanPa, run.MinPa, run.MaxPa, run.Count));
        Assert.Equal(Math.Sqrt(20.0 / 3), run.DeviationPa, 12);
        Assert.Equal((3, 3), (run.SwingPa, run.SpanS));
        Assert.Equal(3.0 / 13, run.SwingShare!.Value, 12);
        // Three seconds say nothing of a minute.
        Assert.Null(run.Unsteady);
    }

    [Theory]
    [InlineData(13.0, 7.0, false)]
    [InlineData(13.1, 6.9, true)]
    public void Thirty_percent_within_a_minute_is_the_limit(double high, double low, bool unsteady) =>
        Assert.Equal(unsteady, Judge((0, high), (30, low), (60, high), (60, low)).Unsteady!.Value);

    [Fact]
    public void Slow_drift_over_minutes_is_not_a_swing()
    {
        var drift = Enumerable.Range(0, 601).Select(i => ((double)i, 20 - i / 60.0)).ToArray();
        Assert.False(Judge(drift).Unsteady!.Value);
        Assert.Equal(10, Judge(drift).MaxPa - Judge(drift).MinPa, 9);
    }

    [Fact]
    public void Readings_round_nothing_swing_in_pascal_not_as_a_share() => Assert.Equal((0.2, null), (Judge((0, 0.2), (1, -0.2)).SwingPa, Judge((0, 0.2), (1, -0.2)).SwingShare));

    // ±4 Pa round 0.4 Pa were called steady.
    [Theory]
    [InlineData(4.4, -3.6, true)]
    [InlineData(2.0, -1.2, true)]
    [InlineData(0.9, -0.1, null)]
    public void A_draft_round_nothing_is_never_called_steady(double high, double low, bool? unsteady)
    {
        var judged = Judge([.. Enumerable.Range(0, 71).Select(i => ((double)i, i % 2 == 0 ? high : low))]);
        Assert.Equal((null, unsteady), (judged.SwingShare, judged.Unsteady));
        Assert.DoesNotContain("is steady", judged.Say(false, UnitSystem.Metric).ToString(), StringComparison.Ordinal);
    }

    // A gust within the first seconds shows at once; steadiness takes its minute.
    [Fact]
    public void Unsteady_is_seen_at_once_and_steady_only_after_its_minute()
    {
        Assert.True(Judge((0, 20), (1, 9)).Unsteady!.Value);
        (double, double)[] Calm(int seconds) => [.. Enumerable.Range(0, seconds + 1).Select(i => ((double)i, 15 + 0.1 * (i % 2)))];
        Assert.Null(Judge(Calm(59)).Unsteady);
        Assert.False(Judge(Calm(60)).Unsteady!.Value);
        var flue = new Steadiness(15, 14, 16, 0.3, 1, null, 240, 20, null);
        Assert.Contains("Over 20 s the draft moved by ±1.0 Pa", flue.Say(false, UnitSystem.Metric).ToString(), StringComparison.Ordinal);
    }

    // Live 11.5 Pa, then −9.7 Pa: a mean of the two is no reading.
    [Fact]
    public void Jump_of_the_level_is_found_and_a_gusty_run_has_none()
    {
        var jump = Judge([.. Enumerable.Range(0, 80).Select(i => (i / 4.0, (i < 40 ? 11.5 : -9.7) + 0.2 * Math.Sin(i)))]);
        Assert.Equal(10, jump.StepAtS!.Value, 9);
        Assert.Equal((11.5, -9.7), (jump.StepFromPa!.Value, jump.StepToPa!.Value), new Near(0.05));
        Assert.Null(Judge([.. Enumerable.Range(0, 80).Select(i => (i / 4.0, 14 + 5 * Math.Sin(i / 4.0)))]).StepAtS);
        // A gust of three seconds at the end of a quiet run comes back: it is a swing, not another level.
        Assert.Null(Judge([.. Enumerable.Range(0, 40).Select(i => (i / 4.0, i < 28 ? 13.6 + 0.3 * (i % 2) : 7.7))]).StepAtS);
        Assert.Null(Judge([.. Enumerable.Range(0, 80).Select(i => (i / 4.0, 14 + 0.02 * i))]).StepAtS);
    }

    private sealed class Near(double within) : IEqualityComparer<(double, double)>
    {
        public bool Equals((double, double) x, (double, double) y) => Math.Abs(x.Item1 - y.Item1) < within && Math.Abs(x.Item2 - y.Item2) < within;

        public int GetHashCode((double, double) obj) => 0;
    }

    [Fact]
    public void Bad_runs_are_refused()
    {
        Dictionary<string, string[]> Refused(params RunSample[] samples)
        {
            var errors = new EntryErrors();
            Assert.Null(Steadiness.Of(samples, errors));
            return errors.ByField;
        }
        Assert.Contains("2 to 1200", Refused(new RunSample(0, 10))["samples"][0], StringComparison.Ordinal);
        Assert.Contains("order of time", Refused(new(5, 10), new(4, 10))["samples[1].atS"][0], StringComparison.Ordinal);
        Assert.Contains("−60.0 and 150.0 Pa", Refused(new(0, 10), new(1, 900))["samples[1].draftPa"][0], StringComparison.Ordinal);
    }
}
