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
        Assert.Equal(3.0 / 13, run.SwingShare, 12);
        Assert.False(run.Unsteady);
    }

    [Theory]
    [InlineData(13.0, 7.0, false)]
    [InlineData(13.1, 6.9, true)]
    public void Thirty_percent_within_a_minute_is_the_limit(double high, double low, bool unsteady) =>
        Assert.Equal(unsteady, Judge((0, high), (30, low), (60, high), (60, low)).Unsteady);

    [Fact]
    public void Slow_drift_over_minutes_is_not_a_swing()
    {
        var drift = Enumerable.Range(0, 601).Select(i => ((double)i, 20 - i / 60.0)).ToArray();
        Assert.False(Judge(drift).Unsteady);
        Assert.Equal(10, Judge(drift).MaxPa - Judge(drift).MinPa, 9);
    }

    [Fact]
    public void Readings_round_nothing_do_not_swing_without_end() => Assert.Equal(0.2, Judge((0, 0.2), (1, -0.2)).SwingShare, 12);

    [Fact]
    public void Bad_runs_are_refused()
    {
        Dictionary<string, string[]> Refused(params RunSample[] samples)
        {
            var errors = new EntryErrors();
            Assert.Null(Steadiness.Of(samples, errors));
            return errors.ByField;
        }
        Assert.Contains("2 to 2400", Refused(new RunSample(0, 10))["samples"][0], StringComparison.Ordinal);
        Assert.Contains("order of time", Refused(new(5, 10), new(4, 10))["samples[1].atS"][0], StringComparison.Ordinal);
        Assert.Contains("−60.0 and 150.0 Pa", Refused(new(0, 10), new(1, 900))["samples[1].draftPa"][0], StringComparison.Ordinal);
    }
}
