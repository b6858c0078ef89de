namespace Grate.Core.Fuel;

/// <summary>How fast wood dries.</summary>
[JsonConverter(typeof(WordConverter<SeasoningClass>))]
public enum SeasoningClass
{
    /// <summary>Softwood.</summary>
    Softwood,

    /// <summary>Hardwood.</summary>
    Hardwood,

    /// <summary>Dense hardwood.</summary>
    [Said("Dense hardwood")]
    DenseHardwood,
}

/// <summary>Drying of a stack: u(t) = u_e + (u_0 − u_e) e^(−t/τ), wet basis (handbook 07 section 1).</summary>
/// <param name="Class">Its class.</param>
/// <param name="Rounds">Whether it lies unsplit.</param>
/// <param name="Covered">Whether it is under cover.</param>
public sealed record Seasoning(SeasoningClass Class, bool Rounds, bool Covered)
{
    /// <summary>Moisture that wood under cover comes to in the end, wet basis.</summary>
    public static readonly Limit AtLastWet = Limit.Assumed(0.14, "", "wood under cover dries no further outdoors");

    /// <summary>Moisture of fresh wood, wet basis.</summary>
    public static readonly Limit FreshWet = Limit.Assumed(0.45, "", "freshly felled");

    /// <summary>Moisture wanted, wet basis, where a program asks.</summary>
    public static readonly Limit TargetWet = Limit.Assumed(0.20, "", "20 % of the whole weight");

    private const double Slower = 1.5;

    /// <summary>τ, months: softwood 4, hardwood 7, dense hardwood 10; half as long again in rounds or without cover (an assumption of ours).</summary>
    public double TauMonths => (Class switch { SeasoningClass.Softwood => 4, SeasoningClass.Hardwood => 7, _ => 10 }) * (Rounds || !Covered ? Slower : 1);

    /// <summary>Months from one moisture to another: 11.5 from 45 to 20 %, hardwood; 0 where it is dry already; null where the target is never reached.</summary>
    /// <param name="startWet">Moisture at the start, wet basis.</param>
    /// <param name="targetWet">Moisture wanted, wet basis.</param>
    public double? MonthsUntil(double startWet, double targetWet) => startWet <= targetWet + Limit.Met ? 0
        : targetWet <= AtLastWet.Value + Limit.Met ? null
        : TauMonths * Math.Log((startWet - AtLastWet.Value) / (targetWet - AtLastWet.Value));

    /// <summary>Moisture after so many months, wet basis.</summary>
    /// <param name="startWet">Moisture at the start, wet basis.</param>
    /// <param name="months">Months, 0 or more.</param>
    public double WetAfter(double startWet, double months) => AtLastWet.Value + (startWet - AtLastWet.Value) * Math.Exp(-months / TauMonths);

    /// <summary>The class of a species' word where nobody named one: softwood for softwood, else hardwood.</summary>
    public static SeasoningClass ClassOf(string? species) => species == Word.Of(WoodSpecies.Softwood) ? SeasoningClass.Softwood : SeasoningClass.Hardwood;
}
