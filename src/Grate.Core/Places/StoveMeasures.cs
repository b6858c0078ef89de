namespace Grate.Core.Places;

/// <summary>What was measured of a stove's body; what was not is drawn in sensible proportion, and dashed.</summary>
/// <param name="WidthM">Width, m, 0.2..3.</param>
/// <param name="DepthM">Depth, m, 0.2..2.</param>
/// <param name="HeightM">Top of the body above the floor, m, 0.3..3.</param>
/// <param name="LegM">Underside of the body above the floor, m, 0..0.6.</param>
/// <param name="SillM">Lower edge of the door above the floor, m, 0.02..1.5.</param>
/// <param name="DoorM">Height of the door, m, 0.05..2.</param>
public sealed record StoveMeasures(double? WidthM = null, double? DepthM = null, double? HeightM = null, double? LegM = null, double? SillM = null, double? DoorM = null)
{
    private static readonly EntryRange
        _width = new("Width of the body", Quantity.Length, 0.2, 3),
        _depth = new("Depth of the body", Quantity.Length, 0.2, 2),
        _height = new("Height of the body", Quantity.Length, 0.3, 3),
        _leg = new("Height of the legs", Quantity.Length, 0, 0.6),
        _sill = new("Lower edge of the door", Quantity.Length, 0.02, 1.5),
        _door = new("Height of the door", Quantity.Length, 0.05, 2);

    /// <summary>Refuses what cannot be, also of two measures together.</summary>
    public void Check(EntryErrors errors)
    {
        errors.Check("widthM", WidthM, _width);
        errors.Check("depthM", DepthM, _depth);
        errors.Check("heightM", HeightM, _height);
        errors.Check("legM", LegM, _leg);
        errors.Check("sillM", SillM, _sill);
        errors.Check("doorM", DoorM, _door);
        if (LegM >= HeightM)
            errors.Add("legM", "The underside of the body must lie below its top.");
        if (SillM >= HeightM)
            errors.Add("sillM", "The lower edge of the door must lie below the body's top.");
        if (SillM < LegM)
            errors.Add("sillM", "The lower edge of the door must not lie below the body.");
        if (SillM + DoorM > HeightM)
            errors.Add("doorM", "The door must end below the body's top.");
    }

    /// <summary>Names of the measures.</summary>
    public static IReadOnlyList<string> Fields { get; } = ["widthM", "depthM", "heightM", "legM", "sillM", "doorM"];

    /// <summary>These, with one of them set, or taken away by null.</summary>
    /// <param name="field">Its name.</param>
    /// <param name="m">The measure, m.</param>
    public StoveMeasures Set(string field, double? m) => field switch
    {
        "widthM" => this with { WidthM = m },
        "depthM" => this with { DepthM = m },
        "heightM" => this with { HeightM = m },
        "legM" => this with { LegM = m },
        "sillM" => this with { SillM = m },
        "doorM" => this with { DoorM = m },
        _ => throw new ArgumentOutOfRangeException(nameof(field), field, null),
    };

    /// <summary>These, with those of another that are there in their place.</summary>
    public StoveMeasures With(StoveMeasures newer) => new(newer.WidthM ?? WidthM, newer.DepthM ?? DepthM, newer.HeightM ?? HeightM, newer.LegM ?? LegM, newer.SillM ?? SillM, newer.DoorM ?? DoorM);
}
