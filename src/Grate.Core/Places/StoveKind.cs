namespace Grate.Core.Places;

/// <summary>The seven stove patterns and what each has (handbook 04 section 4, 09 section 1).</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Features">Parts and ways it has.</param>
public sealed record StoveKind(string Code, string Name, params string[] Features)
{
    /// <summary>The kind that burns its load fast and stores the heat.</summary>
    public const string MasonryHeater = "masonry-heater";

    /// <summary>All seven.</summary>
    public static IReadOnlyList<StoveKind> All { get; } =
    [
        new("steel", "steel stove", "pipe", "probe", "glass", "bricks", "baffle", "tubes"),
        new("top-loader", "top-loading stove", "pipe", "probe", "glass", "bricks", "baffle", "lid"),
        new("insert", "insert", "probe", "glass", "bricks", "baffle", "tubes", "blower"),
        new("zero-clearance", "zero-clearance fireplace", "probe", "glass", "bricks", "baffle", "tubes", "blower", "duct"),
        new("multi-fuel", "multi-fuel stove", "pipe", "probe", "glass", "bricks", "baffle", "grate"),
        new(MasonryHeater, "masonry heater", "glass", "channels", "shutoff"),
        new("cookstove", "cookstove", "pipe", "probe", "bricks", "grate", "oven"),
    ];

    /// <summary>Features that a combustor brings; it takes the place of the air tubes.</summary>
    public static IReadOnlyList<string> WithCombustor { get; } = ["combustor", "bypass", "thermostat"];

    /// <summary>The kind of a code, or null.</summary>
    public static StoveKind? Find(string? code) => All.FirstOrDefault(k => k.Code == code);

    /// <summary>What a stove of this kind has.</summary>
    public IReadOnlyList<string> FeaturesOf(bool combustor) =>
        combustor ? [.. Features.Except(["tubes"]), .. WithCombustor] : Features;
}
