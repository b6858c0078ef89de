namespace Grate.Core.Flue;

/// <summary>An input of the draft that carries uncertainty.</summary>
[JsonConverter(typeof(WordConverter<DraftInput>))]
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

    // One sigma of each input.
    private static readonly Limit
        _probe = Limit.Assumed(10, "K", "gas by probe"),
        _surface = Limit.Assumed(25, "K", "gas converted from the pipe's surface"),
        _defaultGas = Limit.Assumed(40, "K", "gas not measured"),
        _outdoor = Limit.Assumed(1, "K", "outdoor temperature"),
        _burn = Limit.Assumed(0.25, "", "share of the burn rate"),
        _excess = Limit.Assumed(0.20, "", "share of λ"),
        _leastExcess = Limit.Assumed(1.05, "", "λ is not taken below this"),
        _measuredHouse = Limit.Assumed(1, "Pa", "house pressure, measured"),
        _estimatedHouse = Limit.Assumed(2, "Pa", "house pressure, estimated or not given"),
        _lengths = Limit.Assumed(0.02, "", "share of lengths with rises"),
        _diameters = Limit.Assumed(0.02, "", "share of diameters with sides"),
        _heat = Limit.Assumed(0.25, "", "share of U");

    /// <summary>Computes the band around an expected draft.</summary>
    public static DraftBand Around(double expectedPa, FlueSystem flue, Fire fire, Surroundings air)
    {
        Contribution Part(DraftInput input) =>
            new(input, Math.Abs(Shifted(input, 1) - Shifted(input, -1)) / 2, StillMeasurable(input, fire, air));

        double Shifted(DraftInput input, int sign) => input switch
        {
            DraftInput.GasTemperature => DraftModel.Expect(flue, fire with { CollarGasC = Moved(fire.CollarGasC, sign * GasSigmaK(fire)) }, air).Pa,
            DraftInput.OutdoorTemperature => DraftModel.Expect(flue, fire, air with { OutdoorC = air.OutdoorC + sign * _outdoor.Value }).Pa,
            DraftInput.BurnRate => DraftModel.Expect(flue, fire with { BurnKgH = Moved(fire.BurnKgH, sign * _burn.Value * fire.BurnKgH.Value) }, air).Pa,
            DraftInput.ExcessAir => DraftModel.Expect(flue, fire with { ExcessAir = fire.ExcessAir with { Value = Math.Max(_leastExcess.Value, fire.ExcessAir.Value * (1 + _excess.Value * sign)) } }, air).Pa,
            DraftInput.HousePressure => expectedPa + sign * HouseSigmaPa(air),
            DraftInput.Lengths => DraftModel.Expect(flue.WithLengths(1 + _lengths.Value * sign), fire, air).Pa,
            DraftInput.Diameters => DraftModel.Expect(flue.WithDiameters(1 + _diameters.Value * sign), fire, air).Pa,
            _ => DraftModel.Expect(flue, fire, air, heatScale: 1 + _heat.Value * sign).Pa,
        };

        var parts = Enum.GetValues<DraftInput>().Select(Part).OrderByDescending(c => c.SigmaPa).ToList();
        return new DraftBand(expectedPa, parts, BestNarrowing(expectedPa, parts, fire, air));
    }

    private static double GasSigmaK(Fire fire) => fire.CollarGasC.Origin switch
    {
        Origin.Measured => _probe.Value,
        Origin.Converted => _surface.Value,
        _ => _defaultGas.Value,
    };

    private static double HouseSigmaPa(Surroundings air) => air.HousePressurePa.Origin == Origin.Measured ? _measuredHouse.Value : _estimatedHouse.Value;

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
            DraftInput.GasTemperature => _probe.Value / GasSigmaK(fire),
            DraftInput.HousePressure => _measuredHouse.Value / HouseSigmaPa(air),
            _ => 1,
        };
    }

    private static Given Moved(Given given, double by) => given with { Value = given.Value + by };
}
