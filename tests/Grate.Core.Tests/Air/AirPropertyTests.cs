using Grate.Core.Air;
using Grate.Core.Flue;

namespace Grate.Core.Tests.Air;

/// <summary>What must hold of ducts and replaced air whatever is entered: seeded, two hundred of each.</summary>
public class AirPropertyTests
{
    private const int Cases = 200;

    private static Duct Any(Random random) => new(random.Next(2) == 0 ? DuctKind.Smooth : DuctKind.Flex, 0.2 + 12 * random.NextDouble(), random.Next(5), random.Next(4),
        random.Next(2) == 0, (DuctScreen)random.Next(3), random.Next(2) == 0, 2 * random.NextDouble());

    private static void Each(int seed, Action<Random> check)
    {
        var random = new Random(seed);
        for (var i = 0; i < Cases; i++)
            check(random);
    }

    [Fact]
    public void A_longer_a_narrower_a_rougher_duct_or_one_more_bend_never_costs_less() => Each(601, random =>
    {
        var duct = Any(random);
        var (size, air, outdoorC) = (Duct.SizesMm[random.Next(3)], 2 + 60 * random.NextDouble(), -30 + 50 * random.NextDouble());
        double Loss(Duct of, double mm, double kgH) => of.At(mm, kgH, outdoorC, 101325).LossPa;
        var now = Loss(duct, size, air);
        Assert.True(now > 0);
        Assert.True(Loss(duct with { LengthM = duct.LengthM + 1 }, size, air) > now);
        Assert.True(Loss(duct with { Bends90 = duct.Bends90 + 1 }, size, air) > now);
        Assert.True(Loss(duct with { Bends45 = duct.Bends45 + 2 }, size, air) >= Loss(duct with { Bends90 = duct.Bends90 + 1 }, size, air) - 1e-9);
        Assert.True(Loss(duct with { Screen = DuctScreen.InsectDirty }, size, air) >= now);
        Assert.True(Loss(duct with { Kind = DuctKind.Flex }, size, air) >= now);
        Assert.True(Loss(duct, size + 25, air) < now);
        Assert.True(Loss(duct, size, air * 1.2) > now);
    });

    [Fact]
    public void The_smallest_that_fits_fits_and_the_next_smaller_does_not() => Each(602, random =>
    {
        var entry = new AirDuctEntry(OutdoorDesignC: -30 + 40 * random.NextDouble(), LimitPa: 0.5 + 10 * random.NextDouble(), Fire: new FireEntry(BurnKgH: 0.3 + 12 * random.NextDouble()),
            Duct: new(random.Next(2) == 0 ? "smooth" : "flex", 0.3 + 15 * random.NextDouble(), random.Next(4), CollarMm: random.Next(3) == 0 ? 80 : null));
        var duct = Calculation.Answered(e => AirDuctAnswer.To(entry, e)).Duct!;
        foreach (var size in duct.Sizes)
            Assert.Equal(size.LossPa <= entry.LimitPa + 1e-9 && size.DiameterMm >= (entry.Duct!.CollarMm ?? 0), size.Fits);
        Assert.Equal(duct.Sizes.Where(s => s.Fits).Select(s => (double?)s.DiameterMm).Min(), duct.SmallestMm);
        Assert.Equal(duct.SmallestMm, duct.Chosen?.DiameterMm);
    });

    // Fourier and Newton in series: what flows through the insulation leaves by its surface, which is at the dew point.
    [Fact]
    public void The_insulation_brings_its_surface_to_the_dew_point() => Each(603, random =>
    {
        var (mm, room, cold, k, film) = (Duct.SizesMm[random.Next(4)], 16 + 8 * random.NextDouble(), -30 + 20 * random.NextDouble(), 0.03 + 0.05 * random.NextDouble(), 5 + 6 * random.NextDouble());
        var dew = Core.Physics.Humidity.DewPointC(room, 0.3 + 0.5 * random.NextDouble());
        var thickness = Duct.InsulationMm(mm, room, dew, cold, k, film) / 1000;
        var (inner, outer) = (mm / 2000, mm / 2000 + thickness);
        var through = 2 * Math.PI * k * (dew - cold) / Math.Log(outer / inner);
        var away = 2 * Math.PI * outer * film * (room - dew);
        Assert.Equal(away, through, 1e-6 * away);
        // Damper air asks for more.
        Assert.True(Duct.InsulationMm(mm, room, dew + 0.5 * (room - dew), cold, k, film) > 1000 * thickness);
    });

    [Fact]
    public void Heat_goes_with_the_air_and_with_the_cold() => Each(604, random =>
    {
        var (kg, room, outdoor) = (1000 * random.NextDouble(), 15 + 10 * random.NextDouble(), -20 + 30 * random.NextDouble());
        Assert.Equal(2 * ReplacedAir.HeatJ(kg, room, outdoor), ReplacedAir.HeatJ(2 * kg, room, outdoor), 1e-6 * Math.Max(1, ReplacedAir.HeatJ(kg, room, outdoor)));
        Assert.True(ReplacedAir.HeatJ(kg, room, outdoor - 1) >= ReplacedAir.HeatJ(kg, room, outdoor));
        Assert.Equal(0, ReplacedAir.HeatJ(kg, room, room + 1));
    });

    [Fact]
    public void A_house_that_leaks_more_or_has_fewer_fans_is_never_worse() => Each(605, random =>
    {
        var (volume, ach, fans, stove) = (100 + 500 * random.NextDouble(), 0.6 + 9 * random.NextDouble(), 150 * random.NextDouble(), 12 * random.NextDouble());
        double Worst(double leaks, double exhaust) => Calculation.Answered(e => AirDuctAnswer.To(new(House: new(volume, leaks, FansLS: [exhaust], StoveAirLS: stove)), e)).WorstCase!.FanPa;
        var now = Worst(ach, fans);
        Assert.InRange(now, -50, 0);
        Assert.True(Worst(ach + 1, fans) >= now);
        Assert.True(Worst(ach, fans / 2) >= now);
        // What leaks out leaks in: the flow turned round gives the pressure back.
        var leakage = HouseLeakage.Of(volume, ach);
        if (now > -50)
            Assert.Equal((fans + stove) / 1000, leakage.FlowM3S(-now), 9);
        Assert.Equal(-leakage.FlowM3S(4), leakage.FlowM3S(-4), 12);
    });

    [Fact]
    public void More_draft_never_asks_for_less_of_a_damper() => Each(606, random =>
    {
        var (draft, max) = (60 * random.NextDouble() - 5, 12 + 30 * random.NextDouble());
        // Remove, remove and measure, control: in that order as the draft grows, where the maximum lies above 25 Pa.
        PlateAdvice[] order = [PlateAdvice.Remove, PlateAdvice.RemoveAndMeasure, PlateAdvice.Control];
        if (max >= 25)
            Assert.True(Array.IndexOf(order, Damper.Plate(draft + 3, max, false)) >= Array.IndexOf(order, Damper.Plate(draft, max, false)));
        Assert.Equal(PlateAdvice.Keep, Damper.Plate(draft, max, true));
    });
}
