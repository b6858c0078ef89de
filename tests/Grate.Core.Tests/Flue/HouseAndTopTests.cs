using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Handbook 01 sections 8 and 9.</summary>
public class HouseAndTopTests
{
    private static readonly HousePressureEntry _worked = new(VolumeM3: 300, Ach50: 4, FansLS: [120], IndoorC: 20, OutdoorC: 0,
        AltitudeM: 0, StoveHeightM: 1.0, NeutralPlaneM: 2.5);

    private static HousePressureAnswer House(HousePressureEntry entry)
    {
        var errors = new EntryErrors();
        var answer = HousePressureAnswer.To(entry, errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    // Worked case: 300 m³, ACH50 4, hood 120 L/s, 0 °C outdoors.
    [Fact]
    public void Worked_house()
    {
        var answer = House(_worked);
        Assert.Equal(-10.4, answer.FanPa, 1);
        Assert.Equal(-1.3, answer.StackPa, 1);
        Assert.Equal(answer.FanPa + answer.StackPa, answer.TotalPa, 12);
        Assert.Equal(55, answer.MakeupLS, 0);
    }

    [Fact]
    public void Makeup_air_brings_the_fans_to_the_limit() =>
        Assert.Equal(-4, House(_worked with { SupplyLS = House(_worked).MakeupLS }).FanPa, 9);

    // ASHRAE power law by hand: at 50 Pa a house leaks its ACH50.
    [Fact]
    public void Leakage_at_fifty_pascal_is_the_blower_doors()
    {
        Assert.Equal(-50, HouseLeakage.Of(300, 4).FansPa(4 * 300 / 3600.0), 9);
        Assert.Equal(-50, HouseLeakage.Of(300, 4).FansPa(3), 9);
        Assert.Equal(50, HouseLeakage.Of(300, 4).FansPa(-4 * 300 / 3600.0), 9);
        Assert.Equal(0, HouseLeakage.Of(300, 4).FansPa(0));
    }

    [Fact]
    public void Stove_in_the_basement_suffers_and_one_upstairs_gains()
    {
        Assert.True(House(_worked with { StoveHeightM = 0 }).StackPa < House(_worked).StackPa);
        Assert.True(House(_worked with { StoveHeightM = 4 }).StackPa > 0);
    }

    [Fact]
    public void Era_stands_in_for_the_blower_door()
    {
        var answer = House(_worked with { Ach50 = null, BuiltEra = "to-2005" });
        Assert.Equal(6d, answer.Assumed.Single(a => a.Field == "ach50").Value);
        Assert.Equal(House(_worked with { Ach50 = 6 }).FanPa, answer.FanPa, 12);
    }

    [Fact]
    public void Neutral_plane_is_half_the_heated_height() =>
        Assert.Equal(House(_worked).StackPa, House(_worked with { NeutralPlaneM = null, HeatedHeightM = 5 }).StackPa, 12);

    [Fact]
    public void House_without_tightness_is_refused()
    {
        var errors = new EntryErrors();
        Assert.Null(HousePressureAnswer.To(new HousePressureEntry(VolumeM3: 5, OutdoorC: 0, FansLS: [-1]), errors));
        Assert.Equal(["builtEra", "fansLS[0]", "volumeM3"], errors.ByField.Keys.Order());
    }

    private static TerminationAnswer Top(TerminationEntry entry)
    {
        var errors = new EntryErrors();
        var answer = TerminationAnswer.To(entry, errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    // Drawn cases: on a 45° roof the slope 3 m uphill is 3 m up, so 3.6 m are needed unless the ridge comes first.
    [Theory]
    [InlineData(0, 10, null, 0.9)]
    [InlineData(45, 10, null, 3.6)]
    [InlineData(45, 1, null, 1.6)]
    [InlineData(45, 1, 1.2, 1.8)]
    [InlineData(45, 4, 2.0, 2.6)]
    [InlineData(10, 2, null, 0.953)]
    public void Roof_rule_against_drawn_cases(double pitch, double ridgeDistance, double? ridgeHeight, double required)
    {
        var answer = Top(new TerminationEntry(pitch, ridgeDistance, ridgeHeight, HeightAbovePenetrationM: 1.0));
        Assert.Equal(required, answer.RequiredAbovePenetrationM, 3);
        Assert.Equal(Math.Max(0, required - 1.0), answer.MissingM, 3);
    }

    [Fact]
    public void Obstacle_counts_within_three_metres_only()
    {
        var near = Top(new TerminationEntry(HeightAbovePenetrationM: 1, Obstacles: [new(3, 1.5)]));
        Assert.Equal(2.1, near.RequiredAbovePenetrationM, 9);
        Assert.Equal(1.1, near.MissingM, 9);
        Assert.Equal(0, Top(new TerminationEntry(HeightAbovePenetrationM: 1, Obstacles: [new(3.01, 9)])).MissingM);
    }

    [Theory]
    [InlineData(0.15, false, 0.017671, "ok")]
    [InlineData(0.15, false, 0.0170, "too-small")]
    [InlineData(0.15, false, 0.0531, "too-large")]
    [InlineData(0.15, true, 0.0400, "too-large")]
    [InlineData(0.15, false, 0.0400, "ok")]
    public void Area_against_the_collar(double collar, bool outdoors, double area, string verdict) =>
        Assert.Equal(verdict, Top(new TerminationEntry(HeightAbovePenetrationM: 1, CollarDiameterM: collar, FlueAreaM2: area, ExteriorWall: outdoors)).AreaVerdict);

    [Theory]
    [InlineData(4.4, "too-low")]
    [InlineData(4.5, "ok")]
    public void Effective_height(double height, string verdict)
    {
        var answer = Top(new TerminationEntry(HeightAbovePenetrationM: 1, EffectiveHeightM: height));
        Assert.Equal(verdict, answer.HeightVerdict);
        Assert.False(answer.Rules.Single(r => r.Limit == 4.6).Ok);
        Assert.Null(answer.AreaVerdict);
    }
}
