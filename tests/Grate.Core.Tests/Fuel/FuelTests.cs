using Grate.Core.Fuel;

namespace Grate.Core.Tests.Fuel;

/// <summary>Moisture, energy, stacks, drying: handbook 07 section 1, as programs ask for it.</summary>
public class FuelTests
{
    private static FuelAnswer Ask(FuelEntry entry) => Calculation.Answered(e => FuelAnswer.To(entry, e));

    private static FuelEntry Read(params double[] percent) => new(Readings: [.. percent.Select(p => new MoistureReading("1", p))]);

    // Handbook 07 section 7.
    [Fact]
    public void Worked_cases_of_the_handbook()
    {
        Assert.Equal(0.2, Ask(Read(25)).Moisture!.MoistureWet!.Value, 6);
        Assert.Equal(25, Ask(Read(22) with { WoodC = 0 }).Moisture!.MeanDryPct!.Value, 6);
        double At(double wet) => Math.Round(Ask(new(MoistureWet: wet)).Energy.NetMjKg, 2);
        Assert.Equal((14.31, 12.22), (At(0.20), At(0.30)));
        Assert.Equal(14.57, Math.Round(Ask(new("hardwood", MoistureWet: 0.18)).Energy.NetMjKg, 2));
        Assert.Equal(1865, Math.Round(Ask(new("hardwood", MoistureWet: 0.18, Volume: new(Cords: 1))).Pile!.MassKg));
        Assert.Equal(359, Math.Round(Ask(new("softwood", MoistureWet: 0.20, Volume: new(StackedM3: 1))).Pile!.MassKg));
        Assert.Equal(11.5, Math.Round(Ask(new("hardwood", Seasoning: new())).Seasoning!.Months!.Value, 1));
        Assert.Equal(5.0, Math.Round(Ask(new("softwood", Seasoning: new(StartWet: 0.35))).Seasoning!.Months!.Value, 1));
    }

    // Wood Fuels Handbook (AEBIOM 2008, from memory): net energy of wood by its moisture, 18.5 MJ/kg dry: 20 % 4.0, 30 % 3.4, 50 % 2.2 kWh/kg.
    [Theory]
    [InlineData(0.20, 4.0)]
    [InlineData(0.30, 3.4)]
    [InlineData(0.50, 2.2)]
    public void Energy_as_the_published_table_has_it(double wet, double kwhKg) => Assert.Equal(kwhKg, Math.Round(Ask(new(MoistureWet: wet)).Energy.NetKwhKg, 1));

    [Fact]
    public void The_verdict_is_on_the_limits_basis()
    {
        Assert.Equal(FuelVerdict.DryEnough, Ask(Read(20, 20)).Moisture!.Verdict);
        Assert.Equal(FuelVerdict.Doubtful, Ask(Read(14, 26)).Moisture!.Verdict);
        Assert.Equal((FuelVerdict.Wet, true, true), Verdicts(Read(25.1)));
        Assert.Equal((FuelVerdict.Wet, true, false), Verdicts(Read(30.5)));
        // 25 % on a dry-basis meter are 20 % of the whole weight.
        Assert.Equal((FuelVerdict.DryEnough, 20.0), (Ask(Read(25) with { LimitBasis = "wet" }).Moisture!.Verdict, Math.Round(Ask(Read(25) with { LimitBasis = "wet" }).Moisture!.MeanPct!.Value, 6)));
        Assert.Equal(25, Ask(Read(20) with { Basis = "wet", LimitBasis = "dry" }).Moisture!.MeanPct!.Value, 6);

        static (FuelVerdict, bool?, bool?) Verdicts(FuelEntry entry) => Ask(entry).Moisture is { } m ? (m.Verdict, m.NotToBurn, m.JudgeStove) : default;
    }

    [Fact]
    public void Three_pieces_with_three_readings_are_enough()
    {
        MoistureReading[] Piece(string name, int readings) => [.. Enumerable.Repeat(new MoistureReading(name, 18), readings)];
        Assert.True(Ask(new(Readings: [.. Piece("a", 3), .. Piece("b", 3), .. Piece("c", 3)])).Moisture!.Enough);
        Assert.False(Ask(new(Readings: [.. Piece("a", 3), .. Piece("b", 3), .. Piece("c", 2)])).Moisture!.Enough);
        Assert.False(Ask(new(Readings: [.. Enumerable.Repeat(new MoistureReading(null, 18), 12)])).Moisture!.Enough);
    }

    [Fact]
    public void Frozen_wood_gives_no_reading_and_its_moisture_stays_as_told()
    {
        var frozen = Ask(Read(22) with { WoodC = -3, MoistureWet = 0.22 });
        Assert.Equal(new FuelMoisture(null, null, null, null, FuelVerdict.NoReading, null, null, false), frozen.Moisture);
        Assert.Equal(0.22, frozen.Energy.MoistureWet);
        Assert.DoesNotContain(frozen.Assumed, a => a.Field is "basis" or "speciesOffset");
        Assert.Equal(FuelVerdict.NoReading, Ask(Read(22) with { Frozen = true }).Moisture!.Verdict);
    }

    [Fact]
    public void Drying_slows_down_and_ends()
    {
        Assert.Equal(10.5, Ask(new("hardwood", Seasoning: new(Rounds: true))).Seasoning!.TauMonths);
        // Half as long again once, for rounds without cover too.
        Assert.Equal(6, Ask(new("softwood", Seasoning: new(Rounds: true, Covered: false))).Seasoning!.TauMonths);
        Assert.Equal(0, Ask(new(Seasoning: new(StartWet: 0.15, TargetWet: 0.16))).Seasoning!.Months);
        Assert.Null(Ask(new(Seasoning: new(StartWet: 0.3, TargetWet: 0.14))).Seasoning!.Months);
        Assert.Equal(new DateOnly(2027, 3, 31), Ask(new("hardwood", Seasoning: new(From: new(2026, 3, 31)))).Seasoning!.MeasureAgainOn);
        // Readings tell the start.
        Assert.Equal(0.25, Ask(Read(100.0 / 3) with { Seasoning = new() }).Seasoning!.StartWet, 6);
        // What months say, the curve says back.
        var oak = new Seasoning(SeasoningClass.DenseHardwood, false, true);
        Assert.Equal(0.2, oak.WetAfter(0.45, oak.MonthsUntil(0.45, 0.2)!.Value), 9);
    }

    [Fact]
    public void Bad_input_is_named() =>
        Assert.Equal(["basis", "readings[0].percent", "readings[1]", "readings[2].percent", "seasoning.class", "seasoning.from", "species", "volume.cords"],
            Calculation.Refusals(e => FuelAnswer.To(new("oak", [new("1", -1), null!, new("1")], "moist", Volume: new(), Seasoning: new("pine", From: new(1066, 1, 1))), e)).Keys.Order(StringComparer.Ordinal));
}
