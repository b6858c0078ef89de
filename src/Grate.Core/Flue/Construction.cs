namespace Grate.Core.Flue;

/// <summary>What a piece of flue is made of (handbook 01 section 3; all values [A], editable per segment).</summary>
/// <param name="Code">Word of the contract.</param>
/// <param name="Name">Word of the screen.</param>
/// <param name="ResistanceM2KW">Wall resistance 1/Λ on the inner surface, m² K/W.</param>
/// <param name="RoughnessMm">Wall roughness r, mm.</param>
/// <param name="BareSteel">Single-wall pipe: radiates to the room, and shows its gas temperature on its surface.</param>
public sealed record Construction(string Code, string Name, Limit ResistanceM2KW, Limit RoughnessMm, bool BareSteel = false)
{
    /// <summary>Every construction, from bare pipe to brick.</summary>
    public static IReadOnlyList<Construction> All { get; } =
    [
        Of("single-wall-steel", "single-wall steel pipe", 0.00, 1.0, bareSteel: true),
        Of("double-wall-air", "double wall, air gap", 0.15, 1.0),
        Of("insulated-25", "factory-built, 25 mm insulation", 0.35, 1.0),
        Of("insulated-50", "factory-built, 50 mm insulation", 0.60, 1.0),
        Of("clay-in-masonry", "clay liner in masonry", 0.20, 1.5),
        Of("steel-liner-bare", "steel liner in masonry, bare", 0.25, 1.0),
        Of("steel-liner-insulated", "steel liner in masonry, insulated", 0.45, 1.0),
        Of("brick-unlined", "unlined brick", 0.15, 5.0),
    ];

    /// <summary>The construction of a code, or null.</summary>
    public static Construction? Find(string? code) => All.FirstOrDefault(c => c.Code == code);

    private static Construction Of(string code, string name, double resistance, double roughness, bool bareSteel = false) =>
        new(code, name,
            Limit.Assumed(resistance, "m² K/W", $"{name}: in the spirit of the resistance classes of EN 1443 / EN 13384-1"),
            Limit.Assumed(roughness, "mm", $"{name}: usual inner roughness"), bareSteel);
}

/// <summary>What a segment is surrounded by.</summary>
public enum SegmentPlace
{
    /// <summary>A heated room.</summary>
    Indoor,

    /// <summary>An attic, at the mean of indoor and outdoor temperature.</summary>
    Attic,

    /// <summary>Outdoor air.</summary>
    Outdoor,
}
