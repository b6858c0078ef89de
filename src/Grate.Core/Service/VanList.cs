using Grate.Core.Flue;

namespace Grate.Core.Service;

/// <summary>What a stop needs from the van, from the flue itself (handbook 02 section 3, 10 section 1).</summary>
public static class VanList
{
    /// <summary>A poly brush on steel is this much over the flue's inside.</summary>
    public static readonly Limit PolyOver = Limit.Practice(0.012, "m", "a poly brush is 12 mm over the bore on steel");

    /// <summary>Lists brushes and rods; sizes in the shown units.</summary>
    public static IReadOnlyList<string> For(FlueSystem flue, UnitSystem system)
    {
        var brushes = flue.Segments.Select(s => Brush(s, Units.Of(Quantity.Bore, system))).Distinct();
        var rods = (int)Math.Ceiling(flue.LengthM) + 1;
        return [.. brushes, $"{rods} rods"];
    }

    private static string Brush(Segment segment, Unit bore)
    {
        var steel = !segment.Construction.Code.StartsWith("clay", StringComparison.Ordinal) && segment.Construction.Code != "brick-unlined";
        var over = steel ? PolyOver.Value : 0;
        var size = segment.Section switch
        {
            Rectangular r => $"{bore.Number(r.WidthM + over)} × {bore.Format(r.DepthM + over)}",
            _ => bore.Format(segment.Section.NarrowestM + over),
        };
        return $"{(steel ? "poly" : "steel wire")} brush {size}";
    }
}
