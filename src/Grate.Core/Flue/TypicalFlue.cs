namespace Grate.Core.Flue;

/// <summary>A usual system, fitted to a house: a starting point.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">In a few words.</param>
/// <param name="StoveXM">The stove's axis, m from the left wall.</param>
/// <param name="Flue">The chain.</param>
public sealed record TypicalFlue(string Code, string Name, double StoveXM, FlueEntry Flue)
{
    private const double ConnectorM = 1.2, MasonryConnectorM = 0.9;

    /// <summary>What they are called, whatever the house.</summary>
    public static IReadOnlyList<Named> Names { get; } = [.. For(new HouseOutline(9, 5.2, 40, 0, []), 0.8, 0.15).Select(t => new Named(t.Code, t.Name))];

    /// <summary>Every usual system for a collar in a house.</summary>
    /// <param name="house">The house.</param>
    /// <param name="collarM">Collar above the floor of the lowest storey, m.</param>
    /// <param name="diameterM">Collar, m.</param>
    public static IReadOnlyList<TypicalFlue> For(HouseOutline house, double collarM, double diameterM) =>
    [
        Inside("inside-50", "straight up, factory-built 50 mm", house, 0.30, collarM, diameterM, "insulated-50", "single-wall-steel", 1.0),
        Inside("inside-25", "straight up, factory-built 25 mm", house, 0.62, collarM, diameterM, "insulated-25", "double-wall-air", 0.9),
        Offset(house, 0.35, collarM, diameterM),
        Wall(house, collarM, diameterM),
        Masonry("clay", "clay chimney", house, 0.42, collarM, "clay-in-masonry", Round(0.20), ["elbow-90"], diameterM),
        Masonry("liner-insulated", "insulated liner in masonry", house, 0.55, collarM, "steel-liner-insulated", Round(diameterM), ["elbow-45", "elbow-45"], diameterM),
        Masonry("liner-bare", "bare liner in masonry", house, 0.58, collarM, "steel-liner-bare", Round(diameterM), ["tee-turn"], diameterM),
        Masonry("brick", "unlined brick, three elbows", house, 0.48, collarM, "brick-unlined", new ShapeEntry("rectangular", null, 0.20, 0.20), ["elbow-90", "elbow-90", "elbow-90"], diameterM),
    ];

    private static TypicalFlue Inside(string code, string name, HouseOutline house, double at, double collarM, double diameterM, string flue, string pipe, double aboveM)
    {
        var x = Math.Round(house.WidthM * at, 2);
        return new(code, name, x, Chain("low-resistance",
            Part("connector", pipe, "indoor", ConnectorM, diameterM),
            Part("in the house", flue, "indoor", house.EavesM - collarM - ConnectorM, diameterM),
            Part("attic", flue, "attic", house.RoofAtM(x) - house.EavesM, diameterM),
            Part("above the roof", flue, "outdoor", aboveM, diameterM)));
    }

    // Two 45° bends in the attic, round a purlin.
    private static TypicalFlue Offset(HouseOutline house, double at, double collarM, double diameterM)
    {
        const double aside = 0.5;
        var x = Math.Round(house.WidthM * at, 2);
        return new("offset", "up with an offset in the attic", x, Chain("low-resistance",
            Part("connector", "double-wall-air", "indoor", ConnectorM, diameterM),
            Part("in the house", "insulated-50", "indoor", house.EavesM - collarM - ConnectorM, diameterM),
            Part("offset", "insulated-50", "attic", aside, diameterM, aside, "elbow-45", "elbow-45"),
            Part("attic", "insulated-50", "attic", house.RoofAtM(x + aside) - house.EavesM - aside, diameterM),
            Part("above the roof", "insulated-50", "outdoor", 1.0, diameterM)) with
        { Screen = true });
    }

    // Out through the wall and up outside.
    private static TypicalFlue Wall(HouseOutline house, double collarM, double diameterM)
    {
        const double run = 0.8;
        var top = house.EavesM + 1.6;
        return new("wall", "through the wall and up outside", Math.Round(house.WidthM - 0.55, 2), Chain("low-resistance",
            Part("connector", "single-wall-steel", "indoor", 1.0, diameterM, run, "elbow-90"),
            Part("outside stack", "insulated-50", "outdoor", top - collarM - 1.0, diameterM, 0, "tee-turn")));
    }

    // A connector into a chimney that stands inside the house.
    private static TypicalFlue Masonry(string code, string name, HouseOutline house, double at, double collarM, string chimney, ShapeEntry shape, string[] fittings, double diameterM)
    {
        const double run = 0.5;
        var x = Math.Round(house.WidthM * at, 2);
        var roof = house.RoofAtM(x + run);
        SegmentEntry Stack(string label, string place, double rise) => Part(label, chimney, place, rise, diameterM) with { Shape = shape };
        return new(code, name, x, Chain("open",
            Part("connector", "single-wall-steel", "indoor", MasonryConnectorM, diameterM, run, fittings),
            Stack("chimney in the house", "indoor", house.EavesM - collarM - MasonryConnectorM),
            Stack("chimney in the attic", "attic", roof - house.EavesM),
            Stack("chimney head", "outdoor", 1.0)));
    }

    private static ShapeEntry Round(double diameterM) => new("round", diameterM, null, null);

    private static FlueEntry Chain(string cap, params SegmentEntry[] segments) => new([.. segments.Where(s => s.LengthM > 0.05)], cap, false);

    // A bend of 45° leans over its run; a square one rises first and then runs.
    private static SegmentEntry Part(string label, string construction, string place, double riseM, double diameterM, double runM = 0, params string[] fittings)
    {
        var length = fittings.Contains("elbow-45") ? Math.Sqrt(riseM * riseM + runM * runM) : riseM + runM;
        return new SegmentEntry(label, construction, Round(diameterM), Math.Round(riseM, 2), Math.Round(length, 2), place, null, null,
            [.. fittings.Select(f => new FittingEntry(f))], null);
    }
}
