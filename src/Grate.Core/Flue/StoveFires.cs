using Grate.Core.Fuel;

namespace Grate.Core.Flue;

/// <summary>
/// Default burn rates of a recorded stove (handbook 01 section 2): normal P/(0.75 q), low half of it, high 1.75 times; a masonry
/// heater burns its load fast whatever its output.
/// </summary>
/// <param name="NormalKgH">Normal fire, kg/h as fired.</param>
/// <param name="Reason">Why.</param>
/// <param name="LowKgH">Low fire.</param>
/// <param name="HighKgH">High fire.</param>
public sealed record StoveFires(double LowKgH, double NormalKgH, double HighKgH, string Reason)
{
    /// <summary>Low fire over normal.</summary>
    public static readonly Limit LowShare = Limit.Assumed(0.5, "", "a stove turned down");

    /// <summary>High fire over normal.</summary>
    public static readonly Limit HighShare = Limit.Assumed(1.75, "", "a stove opened up");

    /// <summary>A masonry heater's fires, kg/h.</summary>
    private static readonly StoveFires _masonry = new(6, 8, 12, "a masonry heater burns its load fast, whatever its output");

    /// <summary>The fires of a stove. A steel stove of 8 kW on mixed wood at 18 %: 1.30, 2.61, 4.56 kg/h.</summary>
    /// <param name="kind">Word of its kind.</param>
    /// <param name="nominalKw">Nominal output, kW, 0.5..100.</param>
    /// <param name="mjKg">Net energy of the wood as fired, MJ/kg.</param>
    public static StoveFires Of(string kind, double nominalKw, double mjKg)
    {
        if (kind == StoveKind.MasonryHeater)
            return _masonry;
        var normal = nominalKw / (WoodClass.Efficiency.Value * mjKg / 3.6);
        return new(LowShare.Value * normal, normal, HighShare.Value * normal, $"by the stove's nominal {nominalKw:0.#} kW");
    }

    /// <summary>The fires of a stove on its household's wood.</summary>
    public static StoveFires Of(Stove stove, WoodRecord wood) =>
        Of(stove.Kind, stove.NominalKw, WoodAnswer.To(wood, new EntryErrors(), UnitSystem.Metric)?.MJKg ?? WoodClass.Mixed.MJKg(FlueLimits.Moisture.Value));

    /// <summary>Burn rate of a level.</summary>
    public Limit Burn(FiringLevel level) => Limit.Assumed(level switch
    {
        FiringLevel.Low => LowKgH,
        FiringLevel.Normal => NormalKgH,
        _ => HighKgH,
    }, "kg/h", $"{Word.Of(level)} fire, {Reason}");
}
