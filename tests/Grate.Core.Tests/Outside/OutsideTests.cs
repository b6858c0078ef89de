using System.Text.Json;
using Grate.Core.Air;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Door;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Physics;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Outside;

/// <summary>
/// The core held against libraries and books outside it. Figures of libraries stand in reference.json,
/// with their versions, written by reference.py.
/// </summary>
public class OutsideTests
{
    private static readonly JsonElement _reference =
        JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Outside/reference.json"))).RootElement;

    internal static IEnumerable<JsonElement> Rows(string table) => _reference.GetProperty(table).EnumerateArray();

    private static double Of(JsonElement row, string name) => row.GetProperty(name).GetDouble();

    private static void Near(double expected, double found, double relative) =>
        Assert.True(Math.Abs(found - expected) <= relative * Math.Abs(expected), $"{found} against {expected}, allowed {relative:P2}");

    // python3-fluids, Colebrook (Lambert W, exact).
    [Fact]
    public void Friction_against_python3_fluids()
    {
        foreach (var row in Rows("colebrook"))
            Near(Of(row, "psi"), Friction.Colebrook(Of(row, "re"), Of(row, "roughness")), 1e-8);
    }

    // python3-fluids, ATMOSPHERE_1976; its geopotential altitude differs from the handbook's formula by 0.1 % at 4 500 m.
    [Fact]
    public void Atmosphere_against_python3_fluids()
    {
        foreach (var row in Rows("atmosphere"))
        {
            var pressure = DryAir.StationPressurePa(Of(row, "altitudeM"));
            Near(Of(row, "pressurePa"), pressure, 0.001);
            Near(Of(row, "densityKgM3"), DryAir.DensityKgM3(pressure, Of(row, "celsius")), 0.001);
        }
    }

    // python3-iapws, IAPWS-IF97 saturation line. Magnus is good to 0.4 % of vapour pressure, 0.1 K here.
    [Fact]
    public void Dew_point_against_python3_iapws()
    {
        foreach (var row in Rows("dewPoint"))
            Assert.Equal(Of(row, "celsius"), Humidity.DewPointC(Of(row, "vapourPa")), 0.12);
    }

    // npm psychrolib, after the ASHRAE Handbook: over water and ice alike within Magnus' 0.4 %.
    [Fact]
    public void Humid_air_against_psychrolib()
    {
        var humid = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Outside/psychro.json"))).RootElement;
        foreach (var row in humid.GetProperty("rooms").EnumerateArray())
        {
            Near(Of(row, "saturationPa"), Humidity.SaturationPa(Of(row, "celsius")), 0.004);
            Assert.Equal(Of(row, "dewPointC"), Humidity.DewPointC(Of(row, "celsius"), Of(row, "relative")), 0.1);
        }
        foreach (var row in humid.GetProperty("dryAir").EnumerateArray())
            Near(Of(row, "densityKgM3"), DryAir.DensityKgM3(101325, Of(row, "celsius")), 0.0005);
    }

    // python3-fluids: friction, K factors, viscosity of the 1976 atmosphere.
    [Fact]
    public void Duct_losses_against_python3_fluids()
    {
        foreach (var row in Rows("ducts"))
        {
            var duct = new Duct(Word.Find<DuctKind>(row.GetProperty("kind").GetString())!.Value, Of(row, "lengthM"), 0, 0, false, DuctScreen.None, false, Of(row, "zeta"));
            var loss = duct.At(Of(row, "mm"), Of(row, "airKgH"), Of(row, "celsius"), 101325);
            Near(Of(row, "re"), loss.Reynolds, 1e-4);
            Near(Of(row, "lossPa"), loss.LossPa, 1e-4);
        }
    }

    // SciPy: Fourier's law integrated over the radius, the surface brought to the dew point by Brent's method.
    [Fact]
    public void Insulation_against_numerical_integration()
    {
        foreach (var row in Rows("insulation"))
            Near(Of(row, "thicknessMm"), Duct.InsulationMm(Of(row, "mm"), Of(row, "roomC"), Of(row, "dewC"), Of(row, "coldC"), Of(row, "k"), Of(row, "film")), 1e-5);
    }

    // SciPy's adaptive integration of the cooling equation with properties along the length, five flues.
    [Fact]
    public void Cooling_and_buoyancy_against_numerical_integration()
    {
        var flues = new Dictionary<string, DraftEntry>
        {
            ["P01"] = Flues.P01Question(),
            ["P02"] = Flues.Question(Flues.P01(), 1.0, 2.5, 150, 15),
            ["P03"] = Flues.Question(Flues.P01(), 3.5, 1.8, 350, -5),
            ["P04"] = Flues.Question(Flues.P04, 2.0, 2.0, 300, 0),
            ["tall"] = Flues.Question(Flues.Chain("open",
                Flues.Segment("double-wall-air", "indoor", 2), Flues.Segment("insulated-25", "indoor", 3),
                Flues.Segment("insulated-25", "outdoor", 4)), 2.5, 2.2, 280, -10),
        };
        foreach (var row in Rows("flues"))
        {
            var answer = Flues.Answer(flues[row.GetProperty("name").GetString()!]);
            Assert.Equal(Of(row, "exitC"), answer.ExitGasC, 0.1);
            Near(Of(row, "buoyancyPa"), answer.BuoyancyPa, 0.001);
        }
    }

    // ASHRAE Fundamentals, stack effect, and ASHRAE HVAC Systems and Equipment, chimneys (both from memory):
    // air for gas, no cooling, no losses.
    [Theory]
    [InlineData(5, 150, -10, 0)]
    [InlineData(8, 250, 5, 600)]
    [InlineData(12, 60, 15, 1500)]
    public void Theoretical_draft_against_the_quick_formulas(double heightM, double gasC, double outdoorC, double altitudeM)
    {
        var pressure = DryAir.StationPressurePa(altitudeM);
        var flue = FlueReading.Read(Flues.Chain("open", Flues.Segment("insulated-50", "outdoor", heightM)), new EntryErrors(), new Assumptions())!;
        var air = new Surroundings(outdoorC, 20, pressure, new Given(0, Origin.Default), 0);
        var pureAir = new CollarGas(new WoodGas(0, 1e7), 0.005, gasC);
        var buoyancy = FlueMarch.Run(flue, pureAir, air, heatScale: 0).BuoyancyPa;

        Near(0.0342 * pressure * heightM * (1 / (outdoorC + 273.15) - 1 / (gasC + 273.15)), buoyancy, 0.01);
        double Rankine(double celsius) => (celsius + 273.15) * 1.8;
        var inchesWater = 0.2554 * (pressure / 3386.39) * (heightM / 0.3048) * (1 / Rankine(outdoorC) - 1 / Rankine(gasC));
        Near(inchesWater * 249.089, buoyancy, 0.01);
    }

    // Combustion textbooks: oxygen 32/12 C + 8 H − O, air 23.2 % oxygen by mass; CO2 max of wood 20.3 %; λ ≈ 20.9/(20.9 − O2).
    [Fact]
    public void Stoichiometry_against_textbook_values()
    {
        Near((32.0 / 12 * 0.50 + 8 * 0.06 - 0.44) / 0.232, WoodGas.StoichiometricAirKgKg, 0.005);
        Near(0.203, WoodGas.MaxDryCo2, 0.015);
        foreach (var o2 in new[] { 0.05, 0.10, 0.15 })
            Near(0.209 / (0.209 - o2), WoodGas.ExcessAirFromO2(o2), 0.02);
        // Handbook 01 section 2.
        Assert.Equal(5.913, WoodGas.StoichiometricAirKgKg, 3);
        Assert.Equal(0.2051, WoodGas.MaxDryCo2, 4);
    }

    // NIST SP 811, table of conversion factors, and the steam point.
    [Fact]
    public void Units_against_NIST_SP_811()
    {
        Assert.Equal(1, Units.Of(Quantity.Draft, UnitSystem.Us).FromSi(249.089), 9);
        Assert.Equal(212, Units.Of(Quantity.Temperature, UnitSystem.Us).FromSi(100), 9);
        Assert.Equal(-40, Units.Of(Quantity.Temperature, UnitSystem.Us).ToSi(-40), 9);
        Assert.Equal(1, Units.Of(Quantity.Bore, UnitSystem.Us).FromSi(0.0254), 9);
        Assert.Equal(100, Units.Of(Quantity.Length, UnitSystem.Us).FromSi(30.48), 9);
        Assert.Equal(2.2046226, Units.Of(Quantity.BurnRate, UnitSystem.Us).FromSi(1), 6);
        Assert.Equal(29.92, Units.Of(Quantity.StationPressure, UnitSystem.Us).FromSi(101325), 2);
    }

    // SciPy: prior times likelihood integrated numerically, and the season's scatter over it.
    [Fact]
    public void Growth_rate_against_numerical_integration()
    {
        foreach (var row in Rows("growth"))
        {
            var seen = row.GetProperty("growthMm").EnumerateArray().Zip(row.GetProperty("woodKg").EnumerateArray(),
                (growth, wood) => new GrowthObservation(growth.GetDouble(), wood.GetDouble())).ToList();
            var learned = GrowthRate.Of(Of(row, "model"), seen);
            Near(Of(row, "mean"), learned.MeanLog, 1e-6);
            Near(Of(row, "variance"), 1 / learned.Precision, 1e-5);
            Near(Of(row, "p50"), learned.MmPer100Kg().P50, 1e-5);
            Near(Of(row, "p90"), learned.MmPer100Kg().P90, 1e-5);
        }
    }

    // GNU units: every US unit of the screens. Inches of water and of mercury: at 4 °C and 0 °C there as in NIST SP 811.
    [Fact]
    public void Units_against_GNU_units()
    {
        var conversions = _reference.GetProperty("conversions");
        foreach (var row in conversions.GetProperty("us").EnumerateArray())
        {
            var quantity = Enum.Parse<Quantity>(row.GetProperty("quantity").GetString()!);
            Near(1 / Of(row, "si"), Units.Of(quantity, UnitSystem.Us).Factor, 2e-5);
        }
        Near(Of(conversions, "kWhJ"), 1 / Units.Of(Quantity.Energy, UnitSystem.Metric).Factor, 1e-9);
        Near(Of(conversions, "cordM3"), WoodClass.CordM3.Value, 2e-4);
    }

    // NumPy's calendar, day by day: five climates of both halves of the earth, leap years, no wood at all.
    [Fact]
    public void Sweep_dates_against_a_calendar_day_by_day()
    {
        foreach (var row in Rows("sweepDates"))
        {
            DateOnly? Day(string name) => row.GetProperty(name).GetString() is { } day ? DateOnly.Parse(day) : null;
            var rate = row.GetProperty("rate").EnumerateArray().Select(r => r.GetDouble()).ToList();
            var year = new WoodYear([.. row.GetProperty("monthly").EnumerateArray().Select(c => c.GetDouble())]);
            var dates = new SweepForecast(Day("last")!.Value, Of(row, "left"), new Quantiles(rate[0], rate[1], rate[2]), Of(row, "wood"), year).Dates(Deposit.SweepFrom.Value, Deposit.StopFrom.Value, Day("today")!.Value, year.SeasonStart());
            Assert.Equal((Day("p50"), Day("p90"), Day("stop"), Day("next")!.Value, row.GetProperty("bound").GetString()),
                (dates.P50, dates.P90, dates.Stop, dates.Next, dates.Bound.ToString()));
        }
        // Every rule is met somewhere among the cases.
        Assert.Equal(["Deposit", "Season", "Yearly"], Rows("sweepDates").Select(r => r.GetProperty("bound").GetString()!).Distinct().Order());
    }

    // python3-fluids, flow_meter_discharge: a sharp opening of the same area.
    [Fact]
    public void Air_past_a_rope_against_python3_fluids()
    {
        foreach (var row in Rows("leaks"))
        {
            // Three points whose own lengths are l0, l1 and the rest.
            var (l0, l1) = (Of(row, "l0"), Of(row, "l1"));
            var map = new StripMap(2 * (l0 + l1), [new(StripPlace.Hinge, 0, 0), new(StripPlace.Top, 0, 1), new(StripPlace.Latch, 2 * l1, 3)]);
            Near(Of(row, "kgH"), map.LeakKgH(Of(row, "draft"), DryAir.DensityKgM3(DryAir.StationPressurePa(Of(row, "altitude")), Of(row, "room"))), 0.001);
        }
    }

    // python3-fluids, friction_factor: laminar flow in square cells of 4 to 5 mm, some dark, some coated.
    [Fact]
    public void Pressure_of_a_combustor_against_python3_fluids()
    {
        foreach (var row in Rows("cells"))
        {
            Near(Of(row, "pa"), CombustorPressure.Of(Of(row, "burnKgH"), Of(row, "dark"), Of(row, "coating"), Of(row, "cleanPa")).DropPa, 0.001);
            Assert.InRange(Of(row, "re"), 5, 1000);
            // What the handbook takes for a clean one lies among them.
            Assert.InRange(Of(row, "cleanPa"), 1.5, 7);
        }
    }
}
