using Grate.Core.Flue;

namespace Grate.Store.Demo;

/// <summary>Believable flues, fitted to the house they stand in.</summary>
internal static class DemoFlues
{
    private const double ConnectorM = 1.2;

    /// <summary>The stove's axis and flue of a pattern; collar height in m.</summary>
    public static (double StoveXM, FlueEntry Flue) Build(int pattern, DemoHouse house, double collarM, double diameterM) => (pattern % 9) switch
    {
        0 => Inside(house, 0.30, collarM, diameterM, "insulated-50", "single-wall-steel", 1.0),
        1 => Wall(house, collarM, diameterM, "insulated-50"),
        2 => Masonry(house, 0.42, collarM, "clay-in-masonry", Round(0.20), ["elbow-90"], diameterM),
        3 => Inside(house, 0.62, collarM, diameterM, "insulated-25", "double-wall-air", 0.9),
        4 => Masonry(house, 0.55, collarM, "steel-liner-insulated", Round(diameterM), ["elbow-45", "elbow-45"], diameterM),
        5 => Offset(house, 0.35, collarM, diameterM),
        6 => Plate(house, 0.30, collarM, diameterM),
        7 => Masonry(house, 0.48, collarM, "brick-unlined", new ShapeEntry("rectangular", null, 0.20, 0.20), ["elbow-90", "elbow-90", "elbow-90"], diameterM),
        _ => Masonry(house, 0.58, collarM, "steel-liner-bare", Round(diameterM), ["tee-turn"], diameterM),
    };

    // Straight up through floor, attic and roof.
    private static (double, FlueEntry) Inside(DemoHouse house, double at, double collarM, double diameterM, string flue, string pipe, double aboveM)
    {
        var x = Math.Round(house.WidthM * at, 2);
        return (x, Chain("low-resistance",
            Part("connector", pipe, "indoor", ConnectorM, diameterM),
            Part("in the house", flue, "indoor", house.EavesM - collarM - ConnectorM, diameterM),
            Part("attic", flue, "attic", house.RoofAtM(x) - house.EavesM, diameterM),
            Part("above the roof", flue, "outdoor", aboveM, diameterM)));
    }

    // Out through the wall and up outside.
    private static (double, FlueEntry) Wall(DemoHouse house, double collarM, double diameterM, string flue)
    {
        const double run = 0.8;
        var top = house.EavesM + 1.6;
        return (Math.Round(house.WidthM - 0.55, 2), Chain("low-resistance",
            Part("connector", "single-wall-steel", "indoor", 1.0, diameterM, run, "elbow-90"),
            Part("outside stack", flue, "outdoor", top - collarM - 1.0, diameterM, 0, "tee-turn")));
    }

    // A connector into a chimney that stands inside the house.
    private static (double, FlueEntry) Masonry(DemoHouse house, double at, double collarM, string chimney, ShapeEntry shape, string[] fittings, double diameterM)
    {
        const double run = 0.5;
        var x = Math.Round(house.WidthM * at, 2);
        var roof = house.RoofAtM(x + run);
        SegmentEntry Stack(string label, string place, double rise) =>
            Part(label, chimney, place, rise, diameterM) with { Shape = shape };
        return (x, Chain("open",
            Part("connector", "single-wall-steel", "indoor", 0.9, diameterM, run, fittings),
            Stack("chimney in the house", "indoor", house.EavesM - collarM - 0.9),
            Stack("chimney in the attic", "attic", roof - house.EavesM),
            Stack("chimney head", "outdoor", 0.9)));
    }

    // Two 45° bends in the attic, round a purlin.
    private static (double, FlueEntry) Offset(DemoHouse house, double at, double collarM, double diameterM)
    {
        const double aside = 0.5;
        var x = Math.Round(house.WidthM * at, 2);
        return (x, Chain("low-resistance",
            Part("connector", "double-wall-air", "indoor", ConnectorM, diameterM),
            Part("in the house", "insulated-50", "indoor", house.EavesM - collarM - ConnectorM, diameterM),
            Part("offset", "insulated-50", "attic", aside, diameterM, aside, "elbow-45", "elbow-45"),
            Part("attic", "insulated-50", "attic", house.RoofAtM(x + aside) - house.EavesM - aside, diameterM),
            Part("above the roof", "insulated-50", "outdoor", 1.0, diameterM)) with
        { Screen = true });
    }

    // A plate damper left in the connector, and a top that is too low.
    private static (double, FlueEntry) Plate(DemoHouse house, double at, double collarM, double diameterM)
    {
        var (x, flue) = Inside(house, at, collarM, diameterM, "insulated-25", "single-wall-steel", 0.5);
        return (x, flue with { Segments = [flue.Segments![0] with { Fittings = [new FittingEntry("butterfly-open")] }, .. flue.Segments.Skip(1)] });
    }

    private static ShapeEntry Round(double diameterM) => new("round", diameterM, null, null);

    private static FlueEntry Chain(string cap, params SegmentEntry[] segments) =>
        new([.. segments.Where(s => s.LengthM > 0.05)], cap, false);

    // A bend of 45° leans over its run; a square one rises first and then runs.
    private static SegmentEntry Part(string label, string construction, string place, double riseM, double diameterM, double runM = 0, params string[] fittings)
    {
        var length = fittings.Contains("elbow-45") ? Math.Sqrt(riseM * riseM + runM * runM) : riseM + runM;
        return new SegmentEntry(label, construction, Round(diameterM), Math.Round(riseM, 2), Math.Round(length, 2), place, null, null,
            [.. fittings.Select(f => new FittingEntry(f))], null);
    }
}
