namespace Grate.Core.Fuel;

/// <summary>How the fire is run by habit.</summary>
[JsonConverter(typeof(WordConverter<Habit>))]
public enum Habit
{
    /// <summary>Hot bright fires.</summary>
    [Said("Hot fires")]
    Hot,

    /// <summary>Now this, now that.</summary>
    Mixed,

    /// <summary>Long slow nights.</summary>
    [Said("Slow nights")]
    Slow,
}

/// <summary>A class of wood by its word.</summary>
[JsonConverter(typeof(WordConverter<WoodKind>))]
public enum WoodKind
{
    /// <summary>Softwood.</summary>
    Softwood,

    /// <summary>Hardwood.</summary>
    Hardwood,

    /// <summary>Mixed or unknown.</summary>
    Mixed,
}

/// <summary>A class of wood: what a stacked metre weighs and what it gives (handbook 07 section 1).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="DryKgM3">Dry density of solid wood.</param>
/// <param name="DryMJKg">Net energy of bone-dry wood q_dry.</param>
public sealed record WoodClass(string Code, string Name, Limit DryKgM3, Limit DryMJKg)
{
    /// <summary>Share of solid wood in a stack.</summary>
    public static readonly Limit SolidShare = Limit.Memory(0.675, "", "wood handbooks: 0.65–0.7 of a stack is wood");

    /// <summary>Stacked volume of a cord, 128 ft³.</summary>
    public static readonly Limit CordM3 = Limit.Memory(3.624556, "m³", "128 ft³");

    /// <summary>Heat that takes the water out, MJ per kg of water.</summary>
    public static readonly Limit WaterMJKg = Limit.Memory(2.443, "MJ/kg", "ISO 18125: evaporation at 25 °C");

    /// <summary>Efficiency of a stove at its nominal output.</summary>
    public static readonly Limit Efficiency = Limit.Assumed(0.75, "", "heat in the room over heat in the wood");

    /// <summary>Wood of no known class.</summary>
    public static WoodClass Mixed { get; } = new("mixed", "mixed or unknown",
        Limit.Assumed(525, "kg/m³", "between softwood and hardwood"), Limit.Memory(18.5, "MJ/kg", "ISO 18125 / EN wood-fuel handbook: dry wood"));

    /// <summary>All of them.</summary>
    public static IReadOnlyList<WoodClass> All { get; } =
    [
        new("softwood", "softwood", Limit.Memory(425, "kg/m³", "wood handbooks: 400–450"), Limit.Memory(19.1, "MJ/kg", "ISO 18125 / EN wood-fuel handbook: softwood")),
        new("hardwood", "hardwood", Limit.Memory(625, "kg/m³", "wood handbooks: 550–700"), Limit.Memory(18.3, "MJ/kg", "ISO 18125 / EN wood-fuel handbook: hardwood")),
        Mixed,
    ];

    /// <summary>The class of a code, or null.</summary>
    public static WoodClass? Find(string? code) => All.FirstOrDefault(c => c.Code == code);

    /// <summary>The class of a species' word; an unknown one is noted.</summary>
    /// <param name="species">unknown, hardwood, softwood or null.</param>
    /// <param name="field">Its field.</param>
    /// <param name="assumed">Takes the default.</param>
    public static WoodClass Of(string? species, string field, Assumptions assumed)
    {
        if (species is null)
            assumed.Note(field, Word.Of(WoodSpecies.Unknown), Mark.Assumption, "mixed or unknown wood");
        return Find(species) ?? Mixed;
    }

    /// <summary>Net energy as fired: q = q_dry (1 − u) − 2.443 u, MJ/kg. Hardwood at u 0.18: 14.57.</summary>
    /// <param name="moistureWet">u, wet basis, 0..0.6.</param>
    public double MJKg(double moistureWet) => DryMJKg.Value * (1 - moistureWet) - WaterMJKg.Value * moistureWet;

    /// <summary>Mass as fired of a stack: m³ · share · density/(1 − u), kg. A cord of hardwood at u 0.18: 1 865.</summary>
    /// <param name="stackedM3">Stacked volume, m³.</param>
    /// <param name="moistureWet">u, wet basis, 0..0.6.</param>
    public double StackKg(double stackedM3, double moistureWet) => stackedM3 * SolidShare.Value * DryKgM3.Value / (1 - moistureWet);
}

/// <summary>What a moisture reading is worth (handbook 07 section 1).</summary>
public static class Moisture
{
    /// <summary>Points of dry basis per kelvin below 20 °C.</summary>
    public static readonly Limit PerKelvin = Limit.Assumed(0.0015, "1/K", "a cold piece reads too dry, a warm one too wet");

    /// <summary>Temperature at which meters are set.</summary>
    public static readonly Limit MeterC = Limit.Assumed(20, "°C", "meters are set at room temperature");

    /// <summary>Mean up to this, on the meter's basis: dry enough.</summary>
    public static readonly Limit DryMean = Limit.Assumed(0.20, "", "logs below 20 %, on the basis the meter shows");

    /// <summary>Worst reading up to this: dry enough; mean up to this: doubtful; above: not to be burnt.</summary>
    public static readonly Limit DryWorst = Limit.Assumed(0.25, "", "above 25 % not to be burnt, on the basis the meter shows");

    /// <summary>Above this no stove is judged by its fire.</summary>
    public static readonly Limit NoJudgement = Limit.Practice(0.30, "", "wood so wet says nothing of the stove");

    /// <summary>Moisture where nobody knows it, wet basis.</summary>
    public static readonly Limit Usual = Limit.Assumed(0.18, "", "dry enough wood, wet basis");

    /// <summary>Moisture as it may be entered, wet basis.</summary>
    public static readonly EntryRange Range = new("Wood moisture, wet basis", Quantity.Share, 0, 0.6);

    /// <summary>Pieces of wood that make a mean.</summary>
    public const int WantedPieces = 3;

    /// <summary>Readings on each of them.</summary>
    public const int WantedReadings = 3;

    /// <summary>The verdict on a mean and the worst reading, both on the basis of the limits.</summary>
    public static WoodVerdict Verdict(double mean, double worst) =>
        mean <= DryMean.Value + Limit.Met && worst <= DryWorst.Value + Limit.Met ? WoodVerdict.Dry
        : mean <= DryWorst.Value + Limit.Met ? WoodVerdict.Doubtful : WoodVerdict.Wet;

    /// <summary>u = X_d/(1 + X_d): 25 % on a dry-basis meter are 20 % wet.</summary>
    public static double WetOfDry(double dry) => dry / (1 + dry);

    /// <summary>X_d = u/(1 − u).</summary>
    public static double DryOfWet(double wet) => wet / (1 - wet);

    /// <summary>A dry-basis reading at the meter's temperature: 22 % at 0 °C are 25 %.</summary>
    /// <param name="dry">As read, 0..1.5.</param>
    /// <param name="woodC">The wood's temperature, °C, 0 or more.</param>
    /// <param name="speciesOffset">Added for the species, by the meter's own table.</param>
    public static double Corrected(double dry, double woodC, double speciesOffset) =>
        Math.Max(0, dry + PerKelvin.Value * (MeterC.Value - woodC) + speciesOffset);
}
