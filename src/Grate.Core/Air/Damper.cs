using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Air;

/// <summary>What to do with the plate in the connector.</summary>
[JsonConverter(typeof(WordConverter<PlateAdvice>))]
public enum PlateAdvice
{
    /// <summary>The maker asks for it.</summary>
    Keep,

    /// <summary>The flue pulls too hard: the appliance's own control first.</summary>
    Control,

    /// <summary>Take it out.</summary>
    Remove,

    /// <summary>Take it out, and measure again.</summary>
    RemoveAndMeasure,
}

/// <summary>Whether the long way past an oven will work.</summary>
[JsonConverter(typeof(WordConverter<OvenVerdict>))]
public enum OvenVerdict
{
    /// <summary>It works.</summary>
    Works,

    /// <summary>It usually does.</summary>
    Usually,

    /// <summary>It smokes.</summary>
    Smokes,
}

/// <summary>Dampers in the smoke path (handbook 06 section 4).</summary>
public static class Damper
{
    /// <summary>Below this at high fire nothing is left to damp.</summary>
    public static readonly Limit RemoveBelow = Limit.Practice(25, "Pa", "on a modern closed stove a plate stirs and cools the smoke even when open; glaze begins right above it");

    private const double Heads = 6, ColumnM = 0.6, ElbowZeta = 0.75;

    /// <summary>
    /// What to do with a plate, by the draft at high fire: where its maker asks for it, keep; above the maximum, control; under 25 Pa, remove;
    /// else remove and measure again. 22 Pa: remove.
    /// </summary>
    /// <param name="highFirePa">Draft at high fire, Pa.</param>
    /// <param name="maxPa">Greatest draft, Pa: the label's, else 30.</param>
    /// <param name="makerAsks">Whether the maker asks for a plate.</param>
    public static PlateAdvice Plate(double highFirePa, double maxPa, bool makerAsks) => makerAsks ? PlateAdvice.Keep
        : highFirePa > maxPa + Limit.Met ? PlateAdvice.Control
        : highFirePa < RemoveBelow.Value - Limit.Met ? PlateAdvice.Remove : PlateAdvice.RemoveAndMeasure;

    /// <summary>What the long way past an oven costs: 6 ρ_g w²/2 + 0.6 (ρ_out − ρ_g) g, Pa, at the collar's gas (an assumption of ours): 3.9 Pa at normal fire, 5 °C outdoors.</summary>
    /// <param name="gasKgM3">Density of the gas at the collar, kg/m³.</param>
    /// <param name="velocityMS">Its velocity there, m/s.</param>
    /// <param name="outdoorKgM3">Density of the outdoor air, kg/m³.</param>
    public static double OvenPa(double gasKgM3, double velocityMS, double outdoorKgM3) =>
        Heads * gasKgM3 * velocityMS * velocityMS / 2 + ColumnM * (outdoorKgM3 - gasKgM3) * DryAir.Gravity;

    /// <summary>What elbows cost by the model: 0.75 velocity heads each, Pa.</summary>
    public static double ElbowsPa(int count, double gasKgM3, double velocityMS) => count * ElbowZeta * gasKgM3 * velocityMS * velocityMS / 2;

    /// <summary>With one elbow it works, with two usually, with three it smokes (common practice).</summary>
    public static OvenVerdict Oven(int elbows90) => elbows90 switch { < 2 => OvenVerdict.Works, 2 => OvenVerdict.Usually, _ => OvenVerdict.Smokes };
}

/// <summary>An oven's long way as entered.</summary>
/// <param name="Level">low, normal or high: gives what is missing; default normal.</param>
/// <param name="BurnKgH">Burn rate as fired, kg/h.</param>
/// <param name="MoistureWet">Moisture, wet basis; default 18 %.</param>
/// <param name="ExcessAir">λ.</param>
/// <param name="CollarGasC">Gas at the collar, °C.</param>
/// <param name="DiameterM">Collar, m, 0.05..1.5; default 0.15.</param>
/// <param name="OutdoorC">Outdoors, °C; needed.</param>
/// <param name="AltitudeM">Altitude, m; default 0.</param>
/// <param name="StationPressurePa">Barometer, Pa; replaces the altitude.</param>
/// <param name="Elbows90">Elbows of 90° between the oven's outlet and the flue, 0..20.</param>
public sealed record OvenEntry([property: Words(typeof(FiringLevel))] string? Level = null, double? BurnKgH = null, double? MoistureWet = null, double? ExcessAir = null,
    double? CollarGasC = null, double? DiameterM = null, double? OutdoorC = null, double? AltitudeM = null, double? StationPressurePa = null, int? Elbows90 = null);

/// <summary>The question of POST /api/calculations/damper.</summary>
/// <param name="HighFireDraftPa">Draft at high fire, Pa.</param>
/// <param name="LabelMaxPa">Greatest draft on the label, Pa; default 30.</param>
/// <param name="MakerAsksForPlate">Whether the maker asks for a plate.</param>
/// <param name="Oven">An oven's long way.</param>
public sealed record DamperEntry(double? HighFireDraftPa = null, double? LabelMaxPa = null, bool? MakerAsksForPlate = null, OvenEntry? Oven = null);

/// <summary>The plate.</summary>
/// <param name="Advice">What to do with it.</param>
/// <param name="AboveMaxPa">How far the draft stands above the maximum, Pa.</param>
public sealed record PlateAnswer(PlateAdvice Advice, double AboveMaxPa);

/// <summary>The oven.</summary>
/// <param name="GasDensityKgM3">Gas at the collar, kg/m³.</param>
/// <param name="VelocityMS">Its velocity, m/s.</param>
/// <param name="CostPa">What the long way costs, Pa.</param>
/// <param name="ElbowsPa">What the elbows cost, Pa; null without their number.</param>
/// <param name="Verdict">Whether it works; null without the number of elbows.</param>
public sealed record OvenAnswer(double GasDensityKgM3, double VelocityMS, double CostPa, double? ElbowsPa, OvenVerdict? Verdict);

/// <summary>The answer of POST /api/calculations/damper.</summary>
/// <param name="Plate">The plate; null without a draft.</param>
/// <param name="Oven">The oven; null without one.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record DamperAnswer(PlateAnswer? Plate, OvenAnswer? Oven, IReadOnlyList<Assumed> Assumed)
{
    private static readonly Limit _collar = Limit.Assumed(0.15, "m", "a usual collar");
    /// <summary>Elbows behind an oven.</summary>
    internal static readonly EntryRange Elbows = new("Elbows", Quantity.Count, 0, 20);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static DamperAnswer? To(DamperEntry entry, EntryErrors errors)
    {
        errors.Check("highFireDraftPa", entry.HighFireDraftPa, FlueRanges.Reading);
        errors.Check("labelMaxPa", entry.LabelMaxPa, FlueRanges.NeedMax);
        if (entry.Oven is { } oven)
        {
            errors.CheckWord<FiringLevel>("oven.level", oven.Level, "Fire");
            FireAir.Check("oven.", oven.BurnKgH, oven.MoistureWet, oven.ExcessAir, errors);
            errors.Check("oven.collarGasC", oven.CollarGasC, FlueRanges.CollarGas);
            errors.Check("oven.diameterM", oven.DiameterM, FlueRanges.Bore);
            errors.Need("oven.outdoorC", oven.OutdoorC, EntryRange.Outdoors);
            errors.Check("oven.altitudeM", oven.AltitudeM, FlueRanges.Altitude);
            errors.Check("oven.stationPressurePa", oven.StationPressurePa, FlueRanges.StationPressure);
            errors.Check("oven.elbows90", oven.Elbows90, Elbows);
        }
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        PlateAnswer? plate = null;
        if (entry.HighFireDraftPa is { } draft)
        {
            var max = assumed.Or(entry.LabelMaxPa, "labelMaxPa", FlueLimits.GreatestDraft);
            plate = new(Damper.Plate(draft, max, entry.MakerAsksForPlate == true), Math.Max(0, draft - max));
        }
        return new(plate, entry.Oven is { } way ? OvenOf(way, assumed) : null, assumed.Used);
    }

    private static OvenAnswer OvenOf(OvenEntry entry, Assumptions assumed)
    {
        var level = Word.Find<FiringLevel>(entry.Level) ?? FiringLevel.Normal;
        if (entry.Level is null && (entry.BurnKgH is null || entry.ExcessAir is null || entry.CollarGasC is null))
            assumed.Note("oven.level", Word.Of(level), Mark.Assumption, "an ordinary fire");
        var burn = assumed.Or(entry.BurnKgH, "oven.burnKgH", FlueLimits.Burn(level));
        var moisture = assumed.Or(entry.MoistureWet, "oven.moistureWet", FlueLimits.Moisture);
        var gas = new WoodGas(moisture, assumed.Or(entry.ExcessAir, "oven.excessAir", FlueLimits.ExcessAir(level)));
        var pressure = FlueLimits.PressurePa(entry.StationPressurePa, entry.AltitudeM, "oven.altitudeM", assumed);
        var density = gas.DensityKgM3(pressure, assumed.Or(entry.CollarGasC, "oven.collarGasC", FlueLimits.CollarGas(level)));
        var diameter = assumed.Or(entry.DiameterM, "oven.diameterM", _collar);
        var velocity = burn * (1 - moisture) / 3600 * gas.KgPerKgDryWood / (density * Math.PI * diameter * diameter / 4);
        return new(density, velocity, Damper.OvenPa(density, velocity, DryAir.DensityKgM3(pressure, entry.OutdoorC!.Value)),
            entry.Elbows90 is { } count ? Damper.ElbowsPa(count, density, velocity) : null, entry.Elbows90 is { } elbows ? Damper.Oven(elbows) : null);
    }
}
