using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Handbook 01 section 6: verdicts, restatements, profile, sentences.</summary>
public class DraftMeaningTests
{
    private static DraftAnswer P01(double? reading = null, double min = 12, double max = 30, bool profile = false) =>
        Flues.Answer(Flues.P01Question(reading, profile) with { Need = new NeedEntry(min, max) });

    [Theory]
    [InlineData(26.0, 12, 30, DraftVerdict.AsExpected)]
    [InlineData(26.0, 28, 40, DraftVerdict.AsExpectedTooWeak)]
    [InlineData(26.0, 12, 25, DraftVerdict.AsExpectedTooStrong)]
    [InlineData(9.0, 12, 30, DraftVerdict.BelowExpected)]
    [InlineData(40.0, 12, 30, DraftVerdict.AboveExpected)]
    public void Band_decides_then_need(double reading, double min, double max, DraftVerdict verdict) =>
        Assert.Equal(verdict, P01(reading, min, max).Verdict);

    [Fact]
    public void Verdict_turns_at_the_band_widened_by_the_gauge()
    {
        var answer = P01();
        var sigma = (answer.HighPa - answer.LowPa) / 2 / 1.645;
        // Gauge ±(0.5 Pa + 1 % of reading), one sigma.
        var edge = answer.ExpectedPa - 1.645 * Math.Sqrt(sigma * sigma + Math.Pow(0.5 + 0.01 * 18.9, 2));
        Assert.Equal(DraftVerdict.AsExpected, P01(edge + 0.05).Verdict);
        Assert.Equal(DraftVerdict.BelowExpected, P01(edge - 0.05).Verdict);
    }

    [Fact]
    public void Restated_leak_brings_the_model_down_to_the_reading()
    {
        var question = Flues.P01Question(16.0);
        var read = DraftCase.Read(question, new EntryErrors(), new Assumptions())!;
        var leak = Flues.Answer(question).Restated!.LeakKgS!.Value;
        var mixed = CollarGas.Of(read.Fire).DrawingIn(leak, read.Fire, read.Air.IndoorC);
        Assert.Equal(16.0, FlueMarch.Run(read.Flue, mixed, read.Air).DraftPa, 4);
    }

    [Fact]
    public void Restated_blockage_costs_the_residual()
    {
        var answer = P01(16.0);
        var open = 1 - answer.Restated!.BlockedShare!.Value;
        var contraction = 0.62 + 0.38 * open * open * open;
        var zeta = Math.Pow(1 / (contraction * open) - 1, 2);
        var expected = DraftModel.Expect(Read().Flue, Read().Fire, Read().Air);
        Assert.Equal(answer.ResidualPa!.Value, zeta * expected.March.CollarHeadPa, 4);

        static DraftCase Read() => DraftCase.Read(Flues.P01Question(), new EntryErrors(), new Assumptions())!;
    }

    // By hand: σ = 0.1463 gives Cc = 0.62 + 0.38 · 0.00313 = 0.6212, 1/(Cc σ) = 11.0, ζ = 100.
    [Fact]
    public void Blocked_share_follows_Weisbach()
    {
        Assert.Equal(0, DraftMeaning.BlockedShare(1e-9), 3);
        Assert.Equal(1 - 0.1463, DraftMeaning.BlockedShare(100), 3);
        Assert.True(DraftMeaning.BlockedShare(1e6) > 0.998);
    }

    [Fact]
    public void Reading_above_expected_is_not_restated()
    {
        var answer = P01(30.0);
        Assert.Equal(new Restated(null, null, null), answer.Restated);
        Assert.True(answer.ResidualPa < 0);
    }

    [Fact]
    public void Without_a_reading_nothing_is_judged()
    {
        var answer = P01();
        Assert.Null(answer.Verdict);
        Assert.Null(answer.ResidualPa);
        Assert.Null(answer.Restated);
        Assert.Null(answer.Baseline);
    }

    [Fact]
    public void Profile_falls_from_the_collar_to_nothing_at_the_top()
    {
        var answer = Flues.Answer(Flues.Question(Flues.P05, 2.0, 2.2, 220, 2, house: -3, profile: true));
        var profile = answer.Profile!;
        Assert.Equal(answer.ExpectedPa - answer.HousePa - answer.WindPa, profile[0].DraftPa, 9);
        Assert.Equal(0, profile[^1].DraftPa, 9);
        Assert.Equal(6.3, profile[^1].HeightM, 9);
        Assert.Equal(220, profile[0].GasC, 9);
        Assert.Equal(answer.ExitGasC, profile[^1].GasC, 9);
        Assert.Equal(answer.ExitWallC, profile[^1].WallC, 9);
        Assert.All(profile.Zip(profile.Skip(1)), pair => Assert.True(pair.First.GasC > pair.Second.GasC && pair.First.DraftPa > pair.Second.DraftPa));
    }

    [Fact]
    public void Measured_inputs_narrow_the_band_and_the_answer_says_which_would()
    {
        var plain = Flues.Answer(Flues.P01Question());
        Assert.Equal(DraftInput.HousePressure, plain.Narrowing!.Input);
        var measured = Flues.Answer(Flues.P01Question() with { Surroundings = new SurroundingsEntry(5, 20, 0, null, 0, true) });
        Assert.Equal(plain.Narrowing.LowPa, measured.LowPa, 9);
        Assert.Equal(plain.Narrowing.HighPa, measured.HighPa, 9);
        Assert.DoesNotContain(measured.Contributions, c => c.Input == DraftInput.HousePressure && c.Measurable);
    }

    [Fact]
    public void Gas_temperature_by_probe_surface_or_default_carries_its_own_sigma()
    {
        double Sigma(FireEntry fire) => Flues.Answer(Flues.P01Question() with { Fire = fire })
            .Contributions.Single(c => c.Input == DraftInput.GasTemperature).SigmaPa;
        var probe = Sigma(new FireEntry(240));
        var surface = Sigma(new FireEntry(PipeSurfaceC: 130));
        var standard = Sigma(new FireEntry());
        // The same 240 °C each time; sigmas 10, 25 and 40 K.
        Assert.InRange(surface / probe, 2.4, 2.6);
        Assert.InRange(standard / probe, 3.8, 4.2);
    }

    [Fact]
    public void O2_wins_over_CO2_and_both_over_excess_air()
    {
        double Excess(FireEntry fire) => Flues.Answer(Flues.P01Question() with { Fire = fire }).ExcessAir;
        Assert.Equal(3, Excess(new FireEntry(240, ExcessAir: 3)), 9);
        Assert.Equal(2, Excess(new FireEntry(240, ExcessAir: 3, Co2DryPct: 10.2245)), 3);
        Assert.InRange(Excess(new FireEntry(240, ExcessAir: 3, Co2DryPct: 10, O2DryPct: 14)), 2.9, 3.1);
    }

    [Fact]
    public void Every_default_used_is_listed_with_its_mark()
    {
        var answer = Flues.Answer(new DraftEntry(new SurroundingsEntry(5), Flues.P01(), null, null, null, null, null));
        var fields = answer.Assumed.Select(a => a.Field).ToHashSet();
        Assert.Superset(new HashSet<string>
        {
            "surroundings.indoorC", "surroundings.altitudeM", "surroundings.housePressurePa", "surroundings.windPa",
            "fire.level", "fire.collarGasC", "fire.burnKgH", "fire.excessAir", "fire.moistureWet", "need.minPa", "need.maxPa",
            "flue.segments[0].resistanceM2KW", "flue.segments[1].roughnessMm",
        }, fields);
        Assert.Equal(240d, answer.Assumed.Single(a => a.Field == "fire.collarGasC").Value);
        Assert.Equal(Mark.FromMemory, answer.Assumed.Single(a => a.Field == "need.minPa").Mark);
        Assert.All(answer.Assumed, a => Assert.NotEmpty(a.Reason));
    }

    [Fact]
    public void Custom_fitting_costs_its_zeta()
    {
        DraftAnswer With(params FittingEntry[] fittings) => Flues.Answer(Flues.P01Question() with
        {
            Flue = new FlueEntry([Flues.P01().Segments![0] with { Fittings = fittings }, Flues.P01().Segments![1]], "low-resistance"),
        });
        var plain = With();
        var elbow = With(new FittingEntry("elbow-90"));
        var custom = With(new FittingEntry(null, 0.75, "a bend of its own"));
        Assert.Equal(elbow.LossesPa, custom.LossesPa, 12);
        Assert.True(elbow.LossesPa > plain.LossesPa);
    }

    [Fact]
    public void Section_change_costs_at_the_smaller_side()
    {
        FlueSystem Read(double first, double second) => FlueReading.Read(Flues.Chain("open",
            Flues.Segment("single-wall-steel", "indoor", 1, diameter: first),
            Flues.Segment("insulated-50", "outdoor", 3, diameter: second)), new EntryErrors(), new Assumptions())!;
        var widening = Read(0.15, 0.20);
        Assert.Equal(Math.Pow(1 - 0.15 * 0.15 / (0.2 * 0.2), 2), widening.Zeta(0), 12);
        Assert.Equal(0, widening.Zeta(1));
        var narrowing = Read(0.20, 0.15);
        Assert.Equal(0, narrowing.Zeta(0));
        Assert.Equal(0.05, narrowing.Zeta(1), 12);
    }

    [Fact]
    public void Deposit_narrows_the_inside()
    {
        var segment = Flues.P01().Segments![0] with { DepositMm = 5 };
        var read = FlueReading.Read(new FlueEntry([segment]), new EntryErrors(), new Assumptions())!.Segments[0];
        Assert.Equal(0.14, Assert.IsType<Round>(read.Free).DiameterM, 12);
        Assert.Equal(0.19 * 0.09, new Rectangular(0.2, 0.1).Narrowed(0.005).AreaM2, 12);
        Assert.Equal(2 * (0.19 + 0.09), new Rectangular(0.2, 0.1).Narrowed(0.005).PerimeterM, 12);
    }
}
