namespace Grate.Core.Flue;

/// <summary>
/// Something in the flue that costs head: loss coefficient ζ on the local velocity head
/// (handbook 01 section 3; ASHRAE chimney chapter, from memory; plate settings [A]).
/// </summary>
/// <param name="Code">Word of the contract; "custom" for one entered by its ζ.</param>
/// <param name="Name">Word of the screen.</param>
/// <param name="Zeta">Loss coefficient ζ ≥ 0.</param>
/// <param name="TurnDeg">How much the flue turns here, degrees.</param>
public sealed record Fitting(string Code, string Name, double Zeta, double TurnDeg = 0)
{
    /// <summary>Every fitting of the table.</summary>
    public static IReadOnlyList<Fitting> All { get; } =
    [
        new("elbow-90", "90° elbow", 0.75, 90),
        new("elbow-45", "45° elbow", 0.3, 45),
        new("elbow-30", "30° elbow", 0.2, 30),
        new("tee-turn", "tee, flow turning", 1.25, 90),
        new("tee-through", "tee, straight through", 0.2),
        new("butterfly-open", "plate damper, open", 0.3),
        new("butterfly-half", "plate damper, half", 10),
        new("butterfly-closed", "plate damper, closed", 60),
        new("barometric", "barometric regulator", 0.5),
    ];

    /// <summary>Whether a code is that of a plate damper, open or shut.</summary>
    public static bool IsPlate(string? code) => code?.StartsWith("butterfly", StringComparison.Ordinal) == true;

    /// <summary>The fitting of a code, or null.</summary>
    public static Fitting? Find(string? code) => All.FirstOrDefault(f => f.Code == code);

    /// <summary>A fitting known by its loss coefficient alone.</summary>
    public static Fitting Custom(double zeta, string? label) => new("custom", label ?? "fitting", zeta);
}

/// <summary>What stands on top.</summary>
/// <param name="Code">Word of the contract.</param>
/// <param name="Name">Word of the screen.</param>
/// <param name="Zeta">Loss coefficient ζ on the head of the last section.</param>
public sealed record Cap(string Code, string Name, double Zeta)
{
    /// <summary>Loss of a clean spark or bird screen.</summary>
    public const double ScreenZeta = 0.5;

    /// <summary>An open top; the default.</summary>
    public static Cap Open { get; } = new("open", "open top", 0);

    /// <summary>Every top of the table.</summary>
    public static IReadOnlyList<Cap> All { get; } =
        [Open, new("low-resistance", "low-resistance rain cap", 0.5), new("cowl", "anti-downdraft cowl", 1.0)];

    /// <summary>The top of a code, or null.</summary>
    public static Cap? Find(string? code) => All.FirstOrDefault(c => c.Code == code);
}
