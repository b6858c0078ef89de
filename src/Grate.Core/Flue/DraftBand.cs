namespace Grate.Core.Flue;

/// <summary>An input of the draft that carries uncertainty.</summary>
public enum DraftInput
{
    /// <summary>Gas at the collar.</summary>
    GasTemperature,

    /// <summary>Outdoor temperature.</summary>
    OutdoorTemperature,

    /// <summary>Burn rate.</summary>
    BurnRate,

    /// <summary>Excess air.</summary>
    ExcessAir,

    /// <summary>House pressure.</summary>
    HousePressure,

    /// <summary>Lengths with rises.</summary>
    Lengths,

    /// <summary>Diameters with sides.</summary>
    Diameters,

    /// <summary>Heat transfer U.</summary>
    HeatTransfer,
}

/// <summary>One input's part in the band.</summary>
/// <param name="Input">The input.</param>
/// <param name="SigmaPa">s = |expected⁺ − expected⁻|/2, Pa.</param>
/// <param name="Measurable">Whether a technician can still measure it better than it is known now.</param>
public sealed record Contribution(DraftInput Input, double SigmaPa, bool Measurable);

/// <summary>The band that a further measurement would leave.</summary>
/// <param name="Input">What to measure.</param>
/// <param name="LowPa">5 % end.</param>
/// <param name="HighPa">95 % end.</param>
public sealed record BandNarrowing(DraftInput Input, double LowPa, double HighPa);

/// <summary>The 5–95 % band of the expected draft by central differences (handbook 01 section 5; all sigmas [A]).</summary>
/// <param name="ExpectedPa">Expected draft, Pa.</param>
/// <param name="Contributions">Every input's part, greatest first.</param>
/// <param name="Narrowing">The one measurement that would narrow it most, if any would.</param>
public sealed record DraftBand(double ExpectedPa, IReadOnlyList<Contribution> Contributions, BandNarrowing? Narrowing)
{
    /// <summary>5–95 % of a normal distribution, in sigmas.</summary>
    public const double Reach = 1.645;

    /// <summary>One sigma, Pa.</summary>
    public double SigmaPa { get; } = Math.Sqrt(Contributions.Sum(c => c.SigmaPa * c.SigmaPa));

    /// <summary>5 % end, Pa.</summary>
    public double LowPa => ExpectedPa - Reach * SigmaPa;

    /// <summary>95 % end, Pa.</summary>
    public double HighPa => ExpectedPa + Reach * SigmaPa;

    private const double ProbeK = 10, MeasuredHousePa = 1;

    /// <summary>Computes the band around an expected draft.</summary>
    public static DraftBand Around(double expectedPa, FlueSystem flue, Fire fire, Surroundings air)
    {
        Contribution Part(DraftInput input) =>
            new(input, Math.Abs(Shifted(input, 1) - Shifted(input, -1)) / 2, StillMeasurable(input, fire, air));

        double Shifted(DraftInput input, int sign) => input switch
        {
            DraftInput.GasTemperature => DraftModel.Expect(flue, fire with { CollarGasC = Moved(fire.CollarGasC, sign * GasSigmaK(fire)) }, air).Pa,
            DraftInput.OutdoorTemperature => DraftModel.Expect(flue, fire, air with { OutdoorC = air.OutdoorC + sign }).Pa,
            DraftInput.BurnRate => DraftModel.Expect(flue, fire with { BurnKgH = Moved(fire.BurnKgH, sign * 0.25 * fire.BurnKgH.Value) }, air).Pa,
            DraftInput.ExcessAir => DraftModel.Expect(flue, fire with { ExcessAir = fire.ExcessAir with { Value = Math.Max(1.05, fire.ExcessAir.Value * (1 + 0.2 * sign)) } }, air).Pa,
            DraftInput.HousePressure => expectedPa + sign * HouseSigmaPa(air),
            DraftInput.Lengths => DraftModel.Expect(flue.WithLengths(1 + 0.02 * sign), fire, air).Pa,
            DraftInput.Diameters => DraftModel.Expect(flue.WithDiameters(1 + 0.02 * sign), fire, air).Pa,
            _ => DraftModel.Expect(flue, fire, air, heatScale: 1 + 0.25 * sign).Pa,
        };

        var parts = Enum.GetValues<DraftInput>().Select(Part).OrderByDescending(c => c.SigmaPa).ToList();
        return new DraftBand(expectedPa, parts, BestNarrowing(expectedPa, parts, fire, air));
    }

    private static double GasSigmaK(Fire fire) => fire.CollarGasC.Origin switch
    {
        Origin.Measured => ProbeK,
        Origin.Converted => 25,
        _ => 40,
    };

    private static double HouseSigmaPa(Surroundings air) => air.HousePressurePa.Origin == Origin.Measured ? MeasuredHousePa : 2;

    private static bool StillMeasurable(DraftInput input, Fire fire, Surroundings air) => input switch
    {
        DraftInput.GasTemperature => fire.CollarGasC.Origin != Origin.Measured,
        DraftInput.HousePressure => air.HousePressurePa.Origin != Origin.Measured,
        DraftInput.ExcessAir => fire.ExcessAir.Origin != Origin.Measured,
        DraftInput.BurnRate => fire.BurnKgH.Origin == Origin.Default,
        _ => false,
    };

    // Only gas temperature and house pressure have a smaller sigma once measured; measuring burn rate or
    // CO2 moves the centre but, by the handbook's sigmas, not the width.
    private static BandNarrowing? BestNarrowing(double expectedPa, List<Contribution> parts, Fire fire, Surroundings air)
    {
        var variance = parts.Sum(c => c.SigmaPa * c.SigmaPa);
        return parts.Where(c => c.Measurable)
            .Select(c => (c.Input, Saved: c.SigmaPa * c.SigmaPa * (1 - Math.Pow(Shrink(c.Input), 2))))
            .Where(c => c.Saved > 0)
            .OrderByDescending(c => c.Saved)
            .Select(c => (c.Input, Reach: Reach * Math.Sqrt(variance - c.Saved)))
            .Select(c => new BandNarrowing(c.Input, expectedPa - c.Reach, expectedPa + c.Reach))
            .FirstOrDefault();

        double Shrink(DraftInput input) => input switch
        {
            DraftInput.GasTemperature => ProbeK / GasSigmaK(fire),
            DraftInput.HousePressure => MeasuredHousePa / HouseSigmaPa(air),
            _ => 1,
        };
    }

    private static Given Moved(Given given, double by) => given with { Value = given.Value + by };
}
