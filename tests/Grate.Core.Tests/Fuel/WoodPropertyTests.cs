using CsCheck;
using Grate.Core.Deposits;
using Grate.Core.Fuel;

namespace Grate.Core.Tests.Fuel;

/// <summary>What must hold for any wood.</summary>
public class WoodPropertyTests
{
    private static WoodAnswer Ask(WoodRecord record) => WoodAnswer.To(record, new EntryErrors(), UnitSystem.Metric)!;

    private static readonly Gen<double> _moisture = Gen.Double[0.05, 0.55];

    [Fact]
    public void Bases_turn_into_each_other_and_wet_is_never_more_than_dry() => _moisture.Sample(u =>
    {
        var dry = Moisture.DryOfWet(u);
        Assert.Equal(u, Moisture.WetOfDry(dry), 12);
        Assert.True(u <= dry);
    });

    [Fact]
    public void Wetter_wood_gives_less_and_weighs_more() => Gen.Select(_moisture, Gen.Double[0.001, 0.04], Gen.OneOf(Gen.Const("softwood"), Gen.Const("hardwood"), Gen.Const("mixed"))).Sample((u, more, kind) =>
    {
        var (drier, wetter) = (Ask(new WoodRecord(Wood: kind, ToldMoistureWet: u, Amount: 5, Measure: "stacked-m3")), Ask(new WoodRecord(Wood: kind, ToldMoistureWet: u + more, Amount: 5, Measure: "stacked-m3")));
        Assert.True(wetter.MJKg < drier.MJKg);
        Assert.True(wetter.KgPerYear > drier.KgPerYear);
        // The dry matter of a stack stays, whatever water is in it.
        Assert.Equal(drier.KgPerYear * (1 - u), wetter.KgPerYear * (1 - u - more), 6);
    });

    [Fact]
    public void Meters_of_both_bases_tell_the_same_wood() => Gen.Select(_moisture.List[1, 9], Gen.Double[0, 35]).Sample((wet, woodC) =>
    {
        WoodRecord Record(string basis, Func<double, double> shown) => new([[.. wet.Take(6).Select(u => (double?)shown(u))], [.. wet.Skip(6).Select(u => (double?)shown(u))]], basis, woodC);
        var (byWet, byDry) = (Ask(Record("wet", u => u)), Ask(Record("dry", Moisture.DryOfWet)));
        Assert.Equal(byWet.MoistureWet, byDry.MoistureWet, 9);
        Assert.Equal(byWet.MeanOnMeter!.Value, Moisture.WetOfDry(byDry.MeanOnMeter!.Value), 9);
        Assert.True(byDry.MeanOnMeter <= byDry.WorstOnMeter);
    });

    [Fact]
    public void More_wood_is_never_swept_later() => Gen.Select(Gen.Double[200, 5000], Gen.Double[1, 3000], Gen.Int[0, 700]).Sample((kg, more, days) =>
    {
        var day = new DateOnly(2026, 1, 1).AddDays(days);
        DateOnly Next(double amount) => SweepAnswer.DatesOf(new SweepPlace(Flue.Flues.P01(), 600, WoodYear.OrdinaryC, Technology.Conventional, [],
            new WoodRecord(Amount: amount, Habit: "slow"), [new EarlierSweep(day, null, 0.2)]), day)!.Next;
        Assert.True(Next(kg + more) <= Next(kg));
    }, iter: 60);
}
