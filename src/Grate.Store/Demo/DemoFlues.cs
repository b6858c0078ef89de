using Grate.Core.Flue;

namespace Grate.Store.Demo;

/// <summary>The usual systems, and one with a plate damper left in and a top that is too low.</summary>
internal static class DemoFlues
{
    private static readonly string[] _patterns =
        ["inside-50", "wall", "clay", "inside-25", "liner-insulated", "offset", "plate", "brick", "liner-bare"];

    /// <summary>The stove's axis and flue of a pattern.</summary>
    public static (double StoveXM, FlueEntry Flue) Build(int pattern, HouseOutline house, double collarM, double diameterM)
    {
        var code = _patterns[pattern % _patterns.Length];
        var typical = TypicalFlue.For(house, collarM, diameterM).Single(t => t.Code == (code == "plate" ? "inside-25" : code));
        return (typical.StoveXM, code == "plate" ? WithPlate(typical.Flue) : typical.Flue);
    }

    private static FlueEntry WithPlate(FlueEntry flue) => flue with
    {
        Segments =
        [
            flue.Segments![0] with { Construction = "single-wall-steel", Fittings = [new FittingEntry("butterfly-open")] },
            .. flue.Segments.Skip(1).SkipLast(1),
            flue.Segments[^1] with { RiseM = 0.5, LengthM = 0.5 },
        ],
    };
}
