namespace Grate.Core.Places;

/// <summary>Something tall beside the house: a tree, a gable, a dormer.</summary>
/// <param name="Name">What it is.</param>
/// <param name="AcrossM">Its middle, m from the house's left wall.</param>
/// <param name="WidthM">Its width, m, 0.1..40.</param>
/// <param name="TopM">Its top, m above the floor of the lowest storey.</param>
public sealed record Obstacle(string Name, double AcrossM, double WidthM, double TopM)
{
    private const int Most = 20, LongestName = 60;

    private static readonly EntryRange
        _across = new("Place from the left wall", Quantity.Length, -60, 120),
        _width = new("Width", Quantity.Length, 0.1, 40),
        _top = new("Height", Quantity.Length, 0, 60);

    /// <summary>Refuses what cannot be.</summary>
    public static void Check(IReadOnlyList<Obstacle> obstacles, EntryErrors errors)
    {
        foreach (var (obstacle, i) in errors.Each("obstacles", obstacles, Most, "obstacles"))
        {
            errors.CheckText($"obstacles[{i}].name", obstacle.Name, "What it is", LongestName, needed: true);
            errors.Check($"obstacles[{i}].acrossM", obstacle.AcrossM, _across);
            errors.Check($"obstacles[{i}].widthM", obstacle.WidthM, _width);
            errors.Check($"obstacles[{i}].topM", obstacle.TopM, _top);
        }
    }
}

/// <summary>The house in outline, as it is drawn: a gable seen from the front, heights above the floor of the lowest storey.</summary>
/// <param name="WidthM">Width, m, 3..60.</param>
/// <param name="EavesM">Height of the eaves, m: the sum of the storeys.</param>
/// <param name="RoofPitchDeg">Roof pitch, 0..70°.</param>
/// <param name="GroundM">Ground outside, m: above 0 where the lowest storey is a cellar.</param>
/// <param name="Obstacles">What stands around.</param>
public sealed record HouseOutline(double WidthM, double EavesM, double RoofPitchDeg, double GroundM, IReadOnlyList<Obstacle> Obstacles)
{
    /// <summary>How far the roof reaches beyond the walls, m, as drawn.</summary>
    public const double OverhangM = 0.5;

    private double Slope => Math.Tan(RoofPitchDeg * Math.PI / 180);

    /// <summary>Height of the ridge, m.</summary>
    public double RidgeM => RoofAtM(WidthM / 2);

    /// <summary>Height of the roof's surface at a place, m; beyond the overhang its edge. 7 m at 2 m from the wall with eaves at 5 m and 45°.</summary>
    /// <param name="acrossM">m from the left wall.</param>
    public double RoofAtM(double acrossM) => EavesM + (WidthM / 2 - Math.Abs(Math.Clamp(acrossM, -OverhangM, WidthM + OverhangM) - WidthM / 2)) * Slope;

    /// <summary>Whether a place lies under the roof, overhang included.</summary>
    public bool Covers(double acrossM) => acrossM >= -OverhangM && acrossM <= WidthM + OverhangM;
}

/// <summary>Where a flue starts.</summary>
/// <param name="AcrossM">The stove's axis, m from the house's left wall.</param>
/// <param name="CollarM">The collar, m above the floor of the lowest storey.</param>
public readonly record struct StovePlace(double AcrossM, double CollarM);
