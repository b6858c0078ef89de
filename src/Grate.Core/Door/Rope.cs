namespace Grate.Core.Door;

/// <summary>How a rope's size was found.</summary>
[JsonConverter(typeof(WordConverter<RopeAdvice>))]
public enum RopeAdvice
{
    /// <summary>The size nearest the channel's.</summary>
    Fits,

    /// <summary>One size up, or it would not stand proud.</summary>
    OneUp,

    /// <summary>One size down, or it would stand too proud.</summary>
    OneDown,

    /// <summary>No common size suits the channel: measure the old rope.</summary>
    MeasureOldRope,

    /// <summary>By the manual.</summary>
    Manual,
}

/// <summary>Cement under a rope.</summary>
[JsonConverter(typeof(WordConverter<RopeCement>))]
public enum RopeCement
{
    /// <summary>The channel does not hold the rope.</summary>
    Needed,

    /// <summary>A thin bead.</summary>
    ThinBead,

    /// <summary>None: the channel holds it, and the next change is easier.</summary>
    None,
}

/// <summary>A rope for a channel (handbook 03 section 3).</summary>
/// <param name="SizeMm">Diameter, mm; null where no common size suits.</param>
/// <param name="ProudMm">How far it stands out before the door is closed, mm; null where channel or size is not known.</param>
/// <param name="Advice">How the size was found; null where the channel is not known.</param>
public sealed record Rope(double? SizeMm, double? ProudMm, RopeAdvice? Advice)
{
    /// <summary>Rope to width of the channel.</summary>
    public static readonly Limit PerWidth = Limit.Practice(1.25, "", "a rope is a quarter wider than its channel");

    /// <summary>Least that it stands proud.</summary>
    public static readonly Limit LeastProud = Limit.Assumed(3, "mm", "less does not reach the frame");

    /// <summary>Most that it stands proud, in diameters.</summary>
    public static readonly Limit MostProud = Limit.Assumed(0.6, "", "more does not let the door latch, or strains the glass");

    /// <summary>A channel that is shallower, in diameters, does not hold the rope by itself.</summary>
    public static readonly Limit Shallow = Limit.Practice(0.5, "", "less than half of the rope lies in it");

    /// <summary>What is laid beyond the line, as a share.</summary>
    public static readonly Limit Slack = Limit.Practice(0.02, "", "laid without pull: stretched rope is thin rope");

    /// <summary>Trimming allowance.</summary>
    public static readonly Limit Trim = Limit.Practice(0.025, "m", "trimmed square at the joint");

    /// <summary>Common sizes, mm.</summary>
    public static IReadOnlyList<double> Sizes { get; } = [6, 8, 10, 12, 14, 16, 20, 22];

    // As they are sold where inches are: 12 mm is half an inch there.
    private static readonly string[] _inches = ["1/4", "5/16", "3/8", "1/2", "9/16", "5/8", "3/4", "7/8"];

    /// <summary>How a size is asked for: "12 mm"; among inches "1/2 in", where it is a common one.</summary>
    /// <param name="sizeMm">Diameter, mm.</param>
    /// <param name="system">Units.</param>
    public static string Named(double sizeMm, UnitSystem system) => system == UnitSystem.Us && Sizes.ToList().IndexOf(sizeMm) is >= 0 and var i ? $"{_inches[i]} in"
        : Units.Of(Quantity.Bore, system).Format(sizeMm / 1000);

    /// <summary>Rope for a centre line: 1.02 · line + 25 mm. 1.72 m need 1.779 m.</summary>
    /// <param name="centreLineM">Length of the channel's centre line, m.</param>
    public static double NeedM(double centreLineM) => (1 + Slack.Value) * centreLineM + Trim.Value;

    /// <summary>
    /// The rope for a channel: by the manual, else the common size nearest 1.25 widths (of two as near the smaller), then at most one
    /// step. A channel 10 mm wide and 6 deep takes 12 mm, 12 × 10 takes 14, 6 × 3 takes 6.
    /// </summary>
    /// <param name="widthMm">Width, mm; null where it is not known.</param>
    /// <param name="depthMm">Depth, mm; null where it is not known.</param>
    /// <param name="manualMm">Size by the manual, mm; null where it is silent.</param>
    public static Rope For(double? widthMm, double? depthMm, double? manualMm)
    {
        if (manualMm is { } manual)
            return new(manual, manual - depthMm, RopeAdvice.Manual);
        if (widthMm is not { } width || depthMm is not { } depth)
            return new(null, null, null);
        var nearest = Enumerable.Range(0, Sizes.Count).MinBy(i => (Math.Round(Math.Abs(Sizes[i] - PerWidth.Value * width), 9), i));
        var step = Sizes[nearest] - depth < LeastProud.Value - Limit.Met ? 1 : Sizes[nearest] - depth > MostProud.Value * Sizes[nearest] + Limit.Met ? -1 : 0;
        var size = nearest + step < 0 || nearest + step >= Sizes.Count ? 0 : Sizes[nearest + step];
        return size - depth < LeastProud.Value - Limit.Met || size - depth > MostProud.Value * size + Limit.Met ? new(null, null, RopeAdvice.MeasureOldRope)
            : new(size, size - depth, step > 0 ? RopeAdvice.OneUp : step < 0 ? RopeAdvice.OneDown : RopeAdvice.Fits);
    }

    /// <summary>Cement under it; null without a size.</summary>
    /// <param name="depthMm">Depth of the channel, mm; null where it is not known: then it is taken to hold the rope.</param>
    /// <param name="manual">What the manual says; null where it is silent.</param>
    public RopeCement? Cement(double? depthMm, bool? manual) => SizeMm is not { } size ? null
        : manual == false ? RopeCement.None
        : depthMm < Shallow.Value * size - Limit.Met ? RopeCement.Needed
        : manual == true ? RopeCement.ThinBead : RopeCement.None;
}
