namespace Grate.Core.Flue;

/// <summary>What a piece of flue is made of (handbook 01 section 3; all values [A], editable per segment).</summary>
/// <param name="Code">Word of the contract.</param>
/// <param name="Name">Word of the screen.</param>
/// <param name="ResistanceM2KW">Wall resistance 1/Λ on the inner surface, m² K/W.</param>
/// <param name="RoughnessMm">Wall roughness r, mm.</param>
/// <param name="Wall">Inner wall that must warm up.</param>
/// <param name="DrawnWallM">Thickness of the whole wall as drawn, m.</param>
public sealed record Construction(string Code, string Name, Limit ResistanceM2KW, Limit RoughnessMm, InnerWall Wall, double DrawnWallM)
{
    /// <summary>Single-wall pipe: radiates to the room, and shows its gas temperature on its surface.</summary>
    public bool BareSteel => Code == "single-wall-steel";

    /// <summary>A chimney of brick or clay, or a liner in one.</summary>
    public bool InMasonry => DrawnWallM >= MasonryM;

    private const double MasonryM = 0.12;

    /// <summary>Every construction, from bare pipe to brick.</summary>
    public static IReadOnlyList<Construction> All { get; } =
    [
        Of("single-wall-steel", "single-wall steel pipe", 0.00, 1.0, InnerWall.Steel(0.0008), 0.01),
        Of("double-wall-air", "double wall, air gap", 0.15, 1.0, InnerWall.Steel(0.0005), 0.02),
        Of("insulated-25", "factory-built, 25 mm insulation", 0.35, 1.0, InnerWall.Steel(0.0005), 0.025),
        Of("insulated-50", "factory-built, 50 mm insulation", 0.60, 1.0, InnerWall.Steel(0.0005), 0.05),
        Of("clay-in-masonry", "clay liner in masonry", 0.20, 1.5, InnerWall.Mineral(0.020), MasonryM),
        Of("steel-liner-bare", "steel liner in masonry, bare", 0.25, 1.0, InnerWall.Steel(0.0005), MasonryM),
        Of("steel-liner-insulated", "steel liner in masonry, insulated", 0.45, 1.0, InnerWall.Steel(0.0005), MasonryM),
        Of("brick-unlined", "unlined brick", 0.15, 5.0, InnerWall.Mineral(0.050), MasonryM),
    ];

    /// <summary>The construction of a code, or null.</summary>
    public static Construction? Find(string? code) => All.FirstOrDefault(c => c.Code == code);

    private static Construction Of(string code, string name, double resistance, double roughness, InnerWall wall, double drawnWallM) =>
        new(code, name,
            Limit.Assumed(resistance, "m² K/W", $"{name}: in the spirit of the resistance classes of EN 1443 / EN 13384-1"),
            Limit.Assumed(roughness, "mm", $"{name}: usual inner roughness"), wall, drawnWallM);
}

/// <summary>The inner wall that must warm up before a flue pulls (handbook 01 sections 3 and 7; [A]).</summary>
/// <param name="ThicknessM">Thickness, m.</param>
/// <param name="HeatJM3K">Heat capacity ρ c, J/(m³ K).</param>
/// <param name="DiffusivityM2S">Thermal diffusivity, m²/s; 0 where the whole sheet warms at once.</param>
public sealed record InnerWall(double ThicknessM, double HeatJM3K, double DiffusivityM2S)
{
    /// <summary>Steel sheet, 7850 kg/m³, 500 J/(kg K).</summary>
    public static InnerWall Steel(double thicknessM) => new(thicknessM, 7850 * 500, 0);

    /// <summary>Clay or brick, 1900 kg/m³, 900 J/(kg K), diffusivity 5e-7 m²/s.</summary>
    public static InnerWall Mineral(double thicknessM) => new(thicknessM, 1900 * 900, 5e-7);

    /// <summary>How deep the heat has reached: min(thickness, √(a t)), m; the full sheet for steel. 0.0173 m of brick in 600 s.</summary>
    /// <param name="seconds">Time since it was cold, s, ≥ 0.</param>
    public double ReachedM(double seconds) => DiffusivityM2S == 0 ? ThicknessM : Math.Min(ThicknessM, Math.Sqrt(DiffusivityM2S * seconds));
}

/// <summary>What a segment is surrounded by.</summary>
[JsonConverter(typeof(WordConverter<SegmentPlace>))]
public enum SegmentPlace
{
    /// <summary>A heated room.</summary>
    Indoor,

    /// <summary>An attic, at the mean of indoor and outdoor temperature.</summary>
    Attic,

    /// <summary>Outdoor air.</summary>
    Outdoor,
}
