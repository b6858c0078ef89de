namespace Grate.Core.Clearances;

/// <summary>What stands too near to something.</summary>
[JsonConverter(typeof(WordConverter<ClearanceOf>))]
public enum ClearanceOf
{
    /// <summary>The stove.</summary>
    Stove,

    /// <summary>A connector of one wall.</summary>
    SingleWallConnector,

    /// <summary>A listed connector of two walls: its label alone tells.</summary>
    DoubleWallConnector,
}

/// <summary>What burns.</summary>
[JsonConverter(typeof(WordConverter<ClearanceSurface>))]
public enum ClearanceSurface
{
    /// <summary>A wall.</summary>
    Wall,

    /// <summary>A ceiling.</summary>
    Ceiling,
}

/// <summary>What protects it, 25 mm of ventilated air behind it unless it says otherwise.</summary>
[JsonConverter(typeof(WordConverter<Shield>))]
public enum Shield
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>Sheet metal.</summary>
    SheetMetal,

    /// <summary>Cement board.</summary>
    CementBoard,

    /// <summary>Brick of 90 mm with air behind it.</summary>
    [Said("Brick, air behind")]
    BrickVentilated,

    /// <summary>Brick of 90 mm against the wall.</summary>
    [Said("Brick on the wall")]
    BrickSolid,
}

/// <summary>A distance to what burns.</summary>
/// <param name="What">stove, single-wall-connector or double-wall-connector.</param>
/// <param name="Surface">wall or ceiling.</param>
/// <param name="LabelMm">What the label asks for, mm, 0..5000; it wins.</param>
/// <param name="LabelMinimumMm">Below which the label lets no shield bring it, mm, 0..5000.</param>
/// <param name="Shield">What protects it; default none.</param>
/// <param name="FoundMm">What was measured, mm, 0..20 000.</param>
public sealed record ClearanceEntry([property: Words(typeof(ClearanceOf))] string? What = null, [property: Words(typeof(ClearanceSurface))] string? Surface = null,
    double? LabelMm = null, double? LabelMinimumMm = null, [property: Words(typeof(Shield))] string? Shield = null, double? FoundMm = null);

/// <summary>What a distance has to be (handbook 08).</summary>
/// <param name="RequiredMm">Without a shield, mm; null where the label alone tells and is not known.</param>
/// <param name="WithShieldMm">With the shield, mm.</param>
/// <param name="ShieldCounts">Whether the shield made it smaller.</param>
/// <param name="MissingMm">What is missing, mm; null where nothing was measured.</param>
/// <param name="Ok">Whether it is far enough.</param>
public sealed record Clearance(double? RequiredMm, double? WithShieldMm, bool ShieldCounts, double? MissingMm, bool? Ok)
{
    private static readonly EntryRange
        _label = new("Clearance of the label", Quantity.Bore, 0, 5000, 0.001),
        _least = new("Least clearance of the label", Quantity.Bore, 0, 5000, 0.001),
        _found = new("Distance measured", Quantity.Bore, 0, 20_000, 0.001);

    /// <summary>Without a label, mm: stove 914, connector of one wall 457; null where the label alone tells (NFPA 211, from memory).</summary>
    public static double? Unlisted(ClearanceOf what) => what switch { ClearanceOf.Stove => 914, ClearanceOf.SingleWallConnector => 457, _ => null };

    /// <summary>Share of the distance that a shield leaves, and what is the least with it, mm (NFPA 211, from memory): a wall behind sheet metal a third, 305.</summary>
    public static (double Share, double LeastMm) Reduced(Shield shield, ClearanceSurface surface) => (shield, surface) switch
    {
        (Shield.None, _) => (1, 0),
        (Shield.SheetMetal or Shield.CementBoard, ClearanceSurface.Ceiling) => (0.5, 457),
        (_, ClearanceSurface.Ceiling) => (1, 0),
        (Shield.BrickSolid, _) => (2 / 3.0, 305),
        _ => (1 / 3.0, 305),
    };

    /// <summary>What a distance has to be. A stove without a label 914 mm from a wall, behind sheet metal 305.</summary>
    /// <param name="what">What stands there.</param>
    /// <param name="surface">What burns.</param>
    /// <param name="labelMm">What its label asks for, mm, or null.</param>
    /// <param name="labelMinimumMm">What the label lets no shield go below, mm, or null.</param>
    /// <param name="shield">What protects it.</param>
    /// <param name="foundMm">What was measured, mm, or null.</param>
    public static Clearance Of(ClearanceOf what, ClearanceSurface surface, double? labelMm, double? labelMinimumMm, Shield shield, double? foundMm)
    {
        if ((labelMm ?? Unlisted(what)) is not { } required)
            return new(null, null, false, null, null);
        var (share, least) = Reduced(shield, surface);
        // A label that gives a clearance and no minimum knows of no shield.
        var with = labelMm is not null && labelMinimumMm is null ? required : Math.Min(required, Math.Max(Math.Max(required * share, least), labelMinimumMm ?? 0));
        var missing = foundMm is { } found ? Math.Max(0, with - found) : (double?)null;
        return new(required, with, with < required - Limit.Met, missing, missing is null ? null : missing <= Limit.Met);
    }

    /// <summary>Reads and answers distances.</summary>
    internal static IReadOnlyList<Clearance> Read(string field, IReadOnlyList<ClearanceEntry>? entries, int most, EntryErrors errors)
    {
        var read = new List<Clearance>();
        foreach (var (entry, i) in errors.Each(field, entries, most, "distances"))
        {
            var what = errors.Need<ClearanceOf>($"{field}[{i}].what", entry.What, "What stands there");
            var surface = errors.Need<ClearanceSurface>($"{field}[{i}].surface", entry.Surface, "What burns");
            var shield = entry.Shield is { } word ? errors.Need<Shield>($"{field}[{i}].shield", word, "Shield") : Clearances.Shield.None;
            errors.Check($"{field}[{i}].labelMm", entry.LabelMm, _label);
            errors.Check($"{field}[{i}].labelMinimumMm", entry.LabelMinimumMm, _least);
            errors.Check($"{field}[{i}].foundMm", entry.FoundMm, _found);
            if (!errors.Any)
                read.Add(Of(what!.Value, surface!.Value, entry.LabelMm, entry.LabelMinimumMm, shield!.Value, entry.FoundMm));
        }
        return read;
    }
}
