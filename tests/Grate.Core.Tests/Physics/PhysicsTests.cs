using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Tests.Physics;

/// <summary>Each formula with its worked example.</summary>
public class PhysicsTests
{
    [Fact]
    public void Station_pressure_and_density_of_the_examples()
    {
        Assert.Equal(101325, DryAir.StationPressurePa(0), 6);
        Assert.Equal(89875, DryAir.StationPressurePa(1000), 0);
        Assert.Equal(1.2041, DryAir.DensityKgM3(101325, 20), 4);
    }

    // Engineering tables of dry air at 1 bar (for example VDI Heat Atlas, from memory): cp 1.006 at 20 °C, 1.045 at 300 °C, 1.093 at 500 °C.
    [Theory]
    [InlineData(20, 1006)]
    [InlineData(300, 1045)]
    [InlineData(500, 1093)]
    public void Heat_capacity_of_air_against_tables(double celsius, double expected) =>
        Assert.Equal(expected, new WoodGas(0, 1e7).HeatCapacityJKgK(celsius), expected * 0.003);

    // The Shomate pieces meet at their breaks: no jump of more than 0.3 %.
    [Theory]
    [InlineData(500 - 273.15)]
    [InlineData(700 - 273.15)]
    public void Heat_capacity_does_not_jump_at_a_break(double celsius)
    {
        var gas = new WoodGas(0.18, 2);
        var (below, above) = (gas.HeatCapacityJKgK(celsius - 0.01), gas.HeatCapacityJKgK(celsius + 0.01));
        Assert.Equal(below, above, below * 0.003);
    }

    [Fact]
    public void Cold_vapour_and_carbon_dioxide_are_held_at_298_kelvin()
    {
        var gas = new WoodGas(0.5, 1);
        Assert.True(double.IsFinite(gas.HeatCapacityJKgK(-60)));
        Assert.InRange(gas.HeatCapacityJKgK(-60), 1000, 1400);
    }

    [Theory]
    [InlineData(1.0)]
    [InlineData(1.8)]
    [InlineData(2.5)]
    [InlineData(12)]
    public void Measured_gas_gives_back_the_excess_air(double excess)
    {
        var gas = new WoodGas(0.2, excess);
        Assert.Equal(excess, WoodGas.ExcessAirFromCo2(gas.DryCo2), 3);
        // Dry O2 by the carbon balance: CO2 and O2 shares fall on one line (Ostwald).
        var o2 = 0.20946 * (1 - gas.DryCo2 / WoodGas.MaxDryCo2);
        Assert.Equal(excess, WoodGas.ExcessAirFromO2(o2), 2);
    }

    [Fact]
    public void Stoichiometric_gas_is_wood_and_its_air()
    {
        // 1 kg of dry wood and 5.913 kg of air; moisture adds its own mass.
        Assert.Equal(1 + WoodGas.StoichiometricAirKgKg, new WoodGas(0, 1).KgPerKgDryWood, 0.003);
        Assert.Equal(new WoodGas(0, 1).KgPerKgDryWood + 0.25, new WoodGas(0.2, 1).KgPerKgDryWood, 9);
    }

    [Fact]
    public void Wetter_wood_raises_the_dew_point()
    {
        double Dew(double moisture) => Humidity.DewPointC(new WoodGas(moisture, 2).WaterFraction * 101325);
        Assert.True(Dew(0.35) > Dew(0.18) + 3);
    }

    // By hand: Re 1e4, Pr 0.7, smooth, long: 0.0214 (1e4^0.8 − 100) 0.7^0.4 = 27.55.
    [Fact]
    public void Nusselt_by_hand() => Assert.Equal(27.55, HeatTransfer.Nusselt(1e4, 0.7, 1, 0), 2);

    [Fact]
    public void Laminar_flow_is_taken_as_the_least_turbulent_one()
    {
        Assert.Equal(Friction.Colebrook(2300, 0.005), Friction.Colebrook(400, 0.005));
        Assert.Equal(HeatTransfer.Nusselt(2300, 0.7, 1.1, 0.02), HeatTransfer.Nusselt(400, 0.7, 1.1, 0.02));
    }

    // 130 × 200 mm: A 0.026 m², P 0.66 m, D_h 0.1576 m.
    [Fact]
    public void Rectangular_flue_has_true_area_and_perimeter()
    {
        var section = new Rectangular(0.13, 0.20);
        Assert.Equal(0.026, section.AreaM2, 12);
        Assert.Equal(0.66, section.PerimeterM, 12);
        Assert.Equal(0.15758, section.HydraulicDiameterM, 5);
        Assert.Equal(0.15, new Round(0.15).HydraulicDiameterM, 12);
        Assert.Equal(0.026 * 1.02 * 1.02, section.Scaled(1.02).AreaM2, 12);
    }

    // By hand, from ideal gas and the tables of dry air.
    [Fact]
    public void Heat_reaches_into_brick_and_cold_air_pushes_in_below()
    {
        Assert.Equal(0.0173, InnerWall.Mineral(0.1).ReachedM(600), 4);
        Assert.Equal(0.01, InnerWall.Mineral(0.01).ReachedM(600), 12);
        Assert.Equal(0.001, InnerWall.Steel(0.001).ReachedM(1), 12);
        Assert.Equal(-3.89, HouseLeakage.StackPa(101325, 0, 20, 5, 0.5), 2);
        Assert.Equal(0.7058, new WoodGas(0, 1e7).DensityKgM3(101325, 227), 4);
    }

    [Fact]
    public void Attic_is_half_way_between_in_and_out()
    {
        var air = new Surroundings(-10, 20, 101325, new Given(0, Origin.Default), 0);
        Assert.Equal(5, air.AroundC(SegmentPlace.Attic));
        Assert.Equal(20, air.AroundC(SegmentPlace.Indoor));
        Assert.Equal(-10, air.AroundC(SegmentPlace.Outdoor));
    }
}
