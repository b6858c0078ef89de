using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>The air that a fire takes.</summary>
public static class FireAir
{
    /// <summary>Burn rate · (1 − u) · λ · 5.913, kg/h: 30.55 for 3.5 kg/h of wood at u 0.18 and λ 1.8.</summary>
    /// <param name="burnKgH">Burn rate as fired, kg/h.</param>
    /// <param name="moistureWet">u, wet basis.</param>
    /// <param name="excessAir">λ.</param>
    public static double KgH(double burnKgH, double moistureWet, double excessAir) => burnKgH * (1 - moistureWet) * excessAir * WoodGas.StoichiometricAirKgKg;

    /// <summary>The same of one of a stove's own fires.</summary>
    /// <param name="fires">The stove's fires.</param>
    /// <param name="level">Which.</param>
    /// <param name="moistureWet">u, wet basis.</param>
    public static double KgH(StoveFires fires, FiringLevel level, double moistureWet) => KgH(fires.Burn(level).Value, moistureWet, FlueLimits.ExcessAir(level).Value);

    /// <summary>The same of a fire.</summary>
    public static double KgH(Fire fire) => KgH(fire.BurnKgH.Value, fire.MoistureWet, fire.ExcessAir.Value);

    /// <summary>The same of a fire as entered, its defaults noted.</summary>
    /// <param name="path">Stands before its fields: "fire.".</param>
    /// <param name="entry">The fire.</param>
    /// <param name="level">Whose defaults stand in.</param>
    /// <param name="assumed">Takes the defaults.</param>
    public static double KgH(string path, FireEntry? entry, FiringLevel level, Assumptions assumed) => KgH(
        assumed.Or(entry?.BurnKgH, $"{path}burnKgH", FlueLimits.Burn(level)),
        assumed.Or(entry?.MoistureWet, $"{path}moistureWet", FlueLimits.Moisture),
        assumed.Or(entry?.ExcessAir, $"{path}excessAir", FlueLimits.ExcessAir(level)));

    /// <summary>Refuses what no fire has.</summary>
    public static void Check(string path, double? burnKgH, double? moistureWet, double? excessAir, EntryErrors errors)
    {
        errors.Check($"{path}burnKgH", burnKgH, FlueRanges.Burn);
        errors.Check($"{path}moistureWet", moistureWet, FlueRanges.Moisture);
        errors.Check($"{path}excessAir", excessAir, FlueRanges.ExcessAir);
    }
}
