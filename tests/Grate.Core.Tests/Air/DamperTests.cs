using Grate.Core.Air;

namespace Grate.Core.Tests.Air;

/// <summary>Dampers in the smoke path: handbook 06 section 4.</summary>
public class DamperTests
{
    private static DamperAnswer Ask(DamperEntry entry) => Calculation.Answered(e => DamperAnswer.To(entry, e));

    [Theory]
    [InlineData(22, null, false, PlateAdvice.Remove, 0)]
    [InlineData(25, null, false, PlateAdvice.RemoveAndMeasure, 0)]
    [InlineData(30, null, false, PlateAdvice.RemoveAndMeasure, 0)]
    [InlineData(34, null, false, PlateAdvice.Control, 4)]
    [InlineData(22, 20.0, false, PlateAdvice.Control, 2)]
    [InlineData(34, null, true, PlateAdvice.Keep, 4)]
    [InlineData(-3, null, false, PlateAdvice.Remove, 0)]
    public void A_plate_is_judged_by_the_draft_at_high_fire(double draft, double? label, bool maker, PlateAdvice advice, double above) =>
        Assert.Equal(new PlateAnswer(advice, above), Ask(new(draft, label, maker ? true : null)).Plate);

    [Fact]
    public void An_oven_s_long_way_costs_about_four_pascal_and_its_elbows_next_to_nothing()
    {
        var oven = Ask(new(Oven: new(OutdoorC: 5, Elbows90: 2))).Oven!;
        Assert.Equal((3.90, 0.12, OvenVerdict.Usually), (Math.Round(oven.CostPa, 2), Math.Round(oven.ElbowsPa!.Value, 2), oven.Verdict));
        Assert.Equal((OvenVerdict.Works, OvenVerdict.Works, OvenVerdict.Smokes), (Damper.Oven(0), Damper.Oven(1), Damper.Oven(3)));
        // An elbow costs 0.02–0.2 Pa from low to high fire (handbook 06 section 4).
        double Elbow(string level) => Math.Round(Ask(new(Oven: new(level, OutdoorC: 5, Elbows90: 1))).Oven!.ElbowsPa!.Value, 2);
        Assert.Equal((0.02, 0.18), (Elbow("low"), Elbow("high")));
        Assert.Null(Ask(new(Oven: new(OutdoorC: 5))).Oven!.Verdict);
        // A level nobody needs is no assumption.
        Assert.DoesNotContain(Ask(new(Oven: new(BurnKgH: 2, ExcessAir: 2, CollarGasC: 240, OutdoorC: 5))).Assumed, a => a.Field == "oven.level");
    }

    [Fact]
    public void Bad_input_is_named() =>
        Assert.Equal(["highFireDraftPa", "oven.elbows90", "oven.level", "oven.outdoorC"],
            Calculation.Refusals(e => DamperAnswer.To(new(400, Oven: new("mild", Elbows90: 40)), e)).Keys.Order(StringComparer.Ordinal));
}
