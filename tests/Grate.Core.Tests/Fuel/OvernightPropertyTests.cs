using Grate.Core.Fuel;

namespace Grate.Core.Tests.Fuel;

/// <summary>What must hold of nights and of drying wood: seeded, two hundred of each.</summary>
public class OvernightPropertyTests
{
    private const int Cases = 200;

    private static readonly string[] _species = ["unknown", "hardwood", "softwood"];

    private static OvernightAnswer Ask(OvernightEntry entry) => Calculation.Answered(e => OvernightAnswer.To(entry, e));

    // Nights made by the law itself, P = UA ΔT + C dT/dt: what made them comes back, or they are said to be too alike.
    [Fact]
    public void Nights_of_a_house_give_that_house_back_or_are_too_alike()
    {
        var random = new Random(701);
        var told = 0;
        for (var i = 0; i < Cases; i++)
        {
            var (ua, capacity) = (60 + 300 * random.NextDouble(), 3 + 30 * random.NextDouble());
            NightEntry Made()
            {
                var (inStart, drift, outdoor, hours) = (18 + 5 * random.NextDouble(), 4 * random.NextDouble() - 3, -15 + 15 * random.NextDouble(), 6 + 5 * random.NextDouble());
                var watts = ua * (inStart + drift / 2 - outdoor) + capacity * 1e6 * drift / (hours * 3600);
                // The load that gives so many watts.
                var perKg = Ask(new([new(1, 0.18, "hardwood", 0.75, hours, "some")])).Nights[0].OutputKw * 1000;
                return new(Math.Clamp(watts / perKg, 0.1, 200), 0.18, "hardwood", 0.75, hours, "some", inStart, inStart + drift, outdoor, outdoor);
            }
            var nights = new[] { Made(), Made() };
            if (nights.Any(n => n.LoadKg is 0.1 or 200) || Ask(new(nights)).House is not { TooAlike: false } house)
                continue;
            told++;
            Assert.Equal(ua, house.UaWK!.Value, 1e-6 * ua);
            Assert.Equal(capacity, house.CapacityMjK!.Value, 1e-6 * capacity);
        }
        Assert.True(told > Cases / 2, $"only {told} pairs told a house");
    }

    [Fact]
    public void More_wood_gives_more_and_the_load_for_a_night_gives_it_back()
    {
        var random = new Random(702);
        for (var i = 0; i < Cases; i++)
        {
            var (species, wet, hours, coals) = (_species[random.Next(3)], 0.1 + 0.3 * random.NextDouble(), 2 + 12 * random.NextDouble(), Word.All<Coals>().ElementAt(random.Next(3)));
            double Output(double kg) => Ask(new([new(kg, wet, species, 0.7, hours, coals)])).Nights[0].OutputKw;
            var load = 1 + 20 * random.NextDouble();
            Assert.True(Output(load * 1.1) > Output(load));
            // As much as the house loses at one kelvin of difference a watt: the load for that output is the load.
            var wanted = Ask(new(null, new(hours, 20, 10, wet, species, 0.7, coals, 100 * Output(load)))).Wanted!;
            Assert.Equal(Output(load), wanted.OutputKw!.Value, 9);
            Assert.Equal(load, wanted.LoadKg!.Value, 9);
        }
    }

    [Fact]
    public void Wood_dries_towards_its_end_and_the_months_are_those_of_the_curve()
    {
        var random = new Random(703);
        for (var i = 0; i < Cases; i++)
        {
            var stack = new Seasoning((SeasoningClass)random.Next(3), random.Next(2) == 0, random.Next(2) == 0);
            var (start, target) = (0.2 + 0.35 * random.NextDouble(), 0.145 + 0.05 * random.NextDouble());
            var months = stack.MonthsUntil(start, target)!.Value;
            Assert.Equal(target, stack.WetAfter(start, months), 9);
            Assert.True(stack.WetAfter(start, months + 1) < target && stack.WetAfter(start, months + 500) >= Seasoning.AtLastWet.Value);
            // Wetter at the start takes longer, as do rounds.
            Assert.True(stack.MonthsUntil(start + 0.05, target) > months);
            Assert.True((stack with { Rounds = true }).MonthsUntil(start, target) >= months);
        }
    }

    [Fact]
    public void Readings_are_the_same_on_either_basis_and_in_any_order()
    {
        var random = new Random(704);
        for (var i = 0; i < Cases; i++)
        {
            var dry = Enumerable.Range(0, 9).Select(_ => 8 + 30 * random.NextDouble()).ToList();
            FuelMoisture Read(IEnumerable<double> percent, string basis, string limits) =>
                Calculation.Answered(e => FuelAnswer.To(new(Readings: [.. percent.Select((p, k) => new MoistureReading($"{k / 3}", p))], Basis: basis, LimitBasis: limits), e)).Moisture!;
            var now = Read(dry, "dry", "dry");
            var asWet = Read(dry.Select(d => 100 * Moisture.WetOfDry(d / 100)), "wet", "dry");
            Assert.Equal(now.MeanPct!.Value, asWet.MeanPct!.Value, 9);
            Assert.Equal((now.Verdict, now.NotToBurn, now.JudgeStove, true), (asWet.Verdict, asWet.NotToBurn, asWet.JudgeStove, asWet.Enough));
            Assert.Equal(now.MeanPct!.Value, Read(dry.Order(), "dry", "dry").MeanPct!.Value, 9);
            Assert.Equal(now.MoistureWet!.Value, Moisture.WetOfDry(now.MeanDryPct!.Value / 100), 9);
        }
    }
}
