using Grate.Core.Service;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Service;

/// <summary>How long parts last, against a published data set.</summary>
public class PartLifeTests
{
    // Freireich et al., Blood 21 (1963): weeks of remission under 6-MP, + where it lasted; the textbook case of the product-limit estimate.
    private const string SixMp = "6 6 6 6+ 7 9+ 10 10+ 11+ 13 16 17+ 19+ 20+ 22 23 25+ 32+ 32+ 34+ 35+";

    private static List<PartLived> Read(string lives) => [.. lives.Split(' ').Select(l => new PartLived(double.Parse(l.TrimEnd('+')), !l.EndsWith('+')))];

    [Fact]
    public void It_is_the_published_estimate_with_its_band()
    {
        var life = PartLife.Of(LivingPart.Seal, Read(SixMp));
        // Estimates, numbers at risk and Greenwood's standard errors as tabulated (Collett, Modelling Survival Data, and others).
        (double Weeks, int AtRisk, double Share, double Error)[] published = [(6, 21, 0.857, 0.0764), (7, 17, 0.807, 0.0869), (10, 15, 0.753, 0.0963), (13, 12, 0.690, 0.1068), (16, 11, 0.627, 0.1141), (22, 7, 0.538, 0.1282), (23, 6, 0.448, 0.1346)];
        Assert.Equal(published.Length, life.Curve.Count);
        Assert.All(published.Zip(life.Curve), p =>
        {
            Assert.Equal((p.First.Weeks, p.First.AtRisk), (p.Second.Years, p.Second.AtRisk));
            Assert.Equal(p.First.Share, p.Second.Share, 0.0006);
            // log(−log S) ± 1.96 · error / (S |log S|), by those tables.
            var reach = 1.96 * p.First.Error / (p.First.Share * Math.Abs(Math.Log(p.First.Share)));
            Assert.Equal(Math.Exp(-Math.Exp(Math.Log(-Math.Log(p.First.Share)) + reach)), p.Second.Low, 0.004);
            Assert.Equal(Math.Exp(-Math.Exp(Math.Log(-Math.Log(p.First.Share)) - reach)), p.Second.High, 0.004);
        });
        Assert.Equal((9, 12, 23), (life.Ends, life.Going, life.MedianYears));
        Assert.Contains("Half last 23.0 years, from 13.0 on: 9 ends, 12 still going.", Histories.Words(life.Sentences), StringComparison.Ordinal);
        Assert.Contains("Under 20 ends the usual life says more.", Histories.Words(life.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Without_anything_unfinished_it_is_the_plain_share()
    {
        var life = PartLife.Of(LivingPart.Brick, Read("1 2 3 4 5 6 7 8 9 10 11 12 13 14 15 16 17 18 19 20"));
        Assert.All(life.Curve.Select((s, i) => (s, i)), p => Assert.Equal((19.0 - p.i) / 20, p.s.Share, 1e-12));
        Assert.All(life.Curve, s => Assert.True(s.Low <= s.Share && s.Share <= s.High));
        Assert.Equal(10, life.MedianYears);
        // Twenty ends are enough for dates: a quarter gone after 5, half after 10.
        Assert.Equal(new LearnedLife(5, 10), life.Learned);
        Assert.Null(PartLife.Of(LivingPart.Brick, Read("1 2 3 4 5 6 7 8 9 10 11 12 13 14 15 16 17 18 19 20+")).Learned);
        Assert.Equal((new DateOnly(2026, 10, 1), new DateOnly(2028, 4, 1)), new LearnedLife(2, 3.5).EndOf(new(2024, 10, 1)));
        Assert.Equal((0, 0, 0), (life.Curve[^1].Share, life.Curve[^1].Low, life.Curve[^1].High));
        Assert.DoesNotContain("usual life", Histories.Words(life.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void A_fitting_lives_to_the_next_to_today_or_until_its_stove_goes()
    {
        DateOnly Day(int year) => new(year, 3, 1);
        PartFitted Fit(string place, int year, int? gone = null) => new(LivingPart.Seal, place, Day(year), gone is { } g ? Day(g) : null);
        var lives = PartLife.Lives([Fit("a door", 2016), Fit("a door", 2020), Fit("a door", 2020), Fit("b door", 2018, gone: 2021), Fit("a glass", 2026)], Day(2026));
        Assert.Equal([(3.0, false), (4.0, true), (6.0, false)], lives.Select(l => (Math.Round(l.Years, 2), l.Ended)).Order());
        Assert.Equal([LivingPart.Seal, LivingPart.Combustor], PartLife.Of([Fit("a door", 2020), new(LivingPart.Combustor, "a", Day(2021), null)], Day(2026)).Select(l => l.Part));
        Assert.Equal("None of 1 was renewed yet.", PartLife.Of([Fit("a door", 2020)], Day(2026)).Single().Sentences[0].ToString());
        Assert.Equal("More than half still last: 1 ends, 2 going.", PartLife.Of(LivingPart.Seal, Read("1 2+ 3+")).Sentences[0].ToString());
        Assert.Empty(PartLife.Of([], Day(2026)));
    }
}
