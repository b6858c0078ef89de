namespace Grate.Core.Clearances;

/// <summary>What a hearth is built up of.</summary>
[JsonConverter(typeof(WordConverter<HearthMaterial>))]
public enum HearthMaterial
{
    /// <summary>Cement board.</summary>
    CementBoard,

    /// <summary>Ceramic tile.</summary>
    CeramicTile,

    /// <summary>Brick.</summary>
    Brick,

    /// <summary>Mineral board.</summary>
    MineralBoard,

    /// <summary>Stone.</summary>
    Stone,

    /// <summary>A gap of still air.</summary>
    StillAir,

    /// <summary>Something else, by its own figure.</summary>
    Other,
}

/// <summary>What resists heat, by one of four figures or by its material.</summary>
public interface IHearthLayer
{
    /// <summary>What it is.</summary>
    string? Material { get; }

    /// <summary>Thickness, mm, 0.1..1000.</summary>
    double? ThicknessMm { get; }

    /// <summary>Conductivity, W/(m K), 0.005..100.</summary>
    double? KWMK { get; }

    /// <summary>k-factor, Btu in/(h ft² °F), 0.03..700.</summary>
    double? KFactorUs { get; }

    /// <summary>R per inch, ft² °F h/Btu, 0.001..200.</summary>
    double? RPerInchUs { get; }

    /// <summary>Resistance of one, m² K/W, 0..50.</summary>
    double? RM2KW { get; }
}

/// <summary>Layers of a hearth as it is.</summary>
/// <param name="Material">What it is.</param>
/// <param name="ThicknessMm">Thickness of one, mm, 0.1..1000; not needed with its resistance, nor of still air.</param>
/// <param name="Count">How many, 1..40; default 1.</param>
/// <param name="KWMK">Conductivity, W/(m K).</param>
/// <param name="KFactorUs">k-factor, Btu in/(h ft² °F).</param>
/// <param name="RPerInchUs">R per inch, ft² °F h/Btu.</param>
/// <param name="RM2KW">Resistance of one, m² K/W.</param>
public sealed record HearthLayer([property: Words(typeof(HearthMaterial))] string? Material = null, double? ThicknessMm = null, int? Count = null,
    double? KWMK = null, double? KFactorUs = null, double? RPerInchUs = null, double? RM2KW = null) : IHearthLayer;

/// <summary>What could be laid.</summary>
/// <param name="Id">Its name, 1 to 80 characters.</param>
/// <param name="Material">What it is.</param>
/// <param name="ThicknessMm">Thickness, mm, 0.1..1000.</param>
/// <param name="PricePerM2">Price of a square metre, 0 or more.</param>
/// <param name="MaxCount">Most of it, 0..20; default as many as may be laid, of still air one.</param>
/// <param name="KWMK">Conductivity, W/(m K).</param>
/// <param name="KFactorUs">k-factor, Btu in/(h ft² °F).</param>
/// <param name="RPerInchUs">R per inch, ft² °F h/Btu.</param>
/// <param name="RM2KW">Resistance, m² K/W.</param>
public sealed record HearthOffer(string? Id = null, [property: Words(typeof(HearthMaterial))] string? Material = null, double? ThicknessMm = null, double? PricePerM2 = null, int? MaxCount = null,
    double? KWMK = null, double? KFactorUs = null, double? RPerInchUs = null, double? RM2KW = null) : IHearthLayer;

/// <summary>Resistance that the label asks for.</summary>
/// <param name="RM2KW">m² K/W, 0..50; wins.</param>
/// <param name="RUs">ft² °F h/Btu, 0..300.</param>
public sealed record HearthRequired(double? RM2KW = null, double? RUs = null);

/// <summary>Three sides of a hearth.</summary>
/// <param name="FrontMm">In front, mm, 0..5000.</param>
/// <param name="SideMm">At each side, mm, 0..5000.</param>
/// <param name="BackMm">Behind, mm, 0..5000.</param>
public sealed record HearthSides(double? FrontMm = null, double? SideMm = null, double? BackMm = null);

/// <summary>How far the hearth reaches.</summary>
/// <param name="Kind">stove or fireplace.</param>
/// <param name="OpeningM2">Opening of a fireplace, m², 0.01..10; needed unless the label gives front and sides.</param>
/// <param name="Label">What the label asks for, side by side.</param>
/// <param name="Found">What was found.</param>
public sealed record HearthExtentEntry([property: Words(typeof(HearthKind))] string? Kind = null, double? OpeningM2 = null, HearthSides? Label = null, HearthSides? Found = null);

/// <summary>What stands on a hearth.</summary>
[JsonConverter(typeof(WordConverter<HearthKind>))]
public enum HearthKind
{
    /// <summary>A stove.</summary>
    Stove,

    /// <summary>A fireplace.</summary>
    Fireplace,
}

/// <summary>The question of POST /api/calculations/hearth.</summary>
/// <param name="Layers">What lies there, at most 40.</param>
/// <param name="Required">What the label asks for.</param>
/// <param name="MaxLayers">Most layers to add, 1..12; default 8.</param>
/// <param name="Offers">What could be laid, at most 20.</param>
/// <param name="Extent">How far it reaches.</param>
/// <param name="Clearances">Distances, at most 40.</param>
public sealed record HearthEntry(IReadOnlyList<HearthLayer>? Layers = null, HearthRequired? Required = null, int? MaxLayers = null, IReadOnlyList<HearthOffer>? Offers = null,
    HearthExtentEntry? Extent = null, IReadOnlyList<ClearanceEntry>? Clearances = null);

/// <summary>Resistance of a hearth.</summary>
/// <param name="RM2KW">What it has, m² K/W.</param>
/// <param name="RUs">The same, ft² °F h/Btu.</param>
/// <param name="RequiredM2KW">What is asked for; null where nothing is.</param>
/// <param name="RequiredUs">The same in US units.</param>
/// <param name="MissingM2KW">What is missing.</param>
/// <param name="Ok">Whether it has enough.</param>
public sealed record HearthResistance(double RM2KW, double RUs, double? RequiredM2KW, double? RequiredUs, double? MissingM2KW, bool? Ok);

/// <summary>Layers of one kind in a stack.</summary>
/// <param name="Id">The offer.</param>
/// <param name="Count">How many.</param>
public sealed record StackLayer(string Id, int Count);

/// <summary>Layers to add.</summary>
/// <param name="Layers">The layers.</param>
/// <param name="ThicknessMm">Added thickness, mm.</param>
/// <param name="PricePerM2">Price of a square metre.</param>
/// <param name="AddedRM2KW">Added resistance, m² K/W.</param>
public sealed record HearthLaid(IReadOnlyList<StackLayer> Layers, double ThicknessMm, double PricePerM2, double AddedRM2KW);

/// <summary>Which layers make it.</summary>
/// <param name="Thinnest">The thinnest; null where none does.</param>
/// <param name="Cheapest">The cheapest; null where none does.</param>
public sealed record HearthStacks(HearthLaid? Thinnest, HearthLaid? Cheapest);

/// <summary>How far a hearth has to reach.</summary>
/// <param name="FrontMm">In front, mm.</param>
/// <param name="SideMm">At each side, mm.</param>
/// <param name="BackMm">Behind, mm; null where nothing is asked for.</param>
/// <param name="Missing">What is missing of what was measured.</param>
/// <param name="Ok">Whether all that was measured reaches; null where nothing was.</param>
public sealed record HearthExtent(double FrontMm, double SideMm, double? BackMm, HearthSides Missing, bool? Ok);

/// <summary>The answer of POST /api/calculations/hearth (handbook 08).</summary>
/// <param name="Resistance">Its resistance; null without layers and requirement.</param>
/// <param name="Stacks">Which layers make it; null without requirement or offers.</param>
/// <param name="Extent">How far it reaches; null where that was not asked.</param>
/// <param name="Clearances">Distances.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record HearthAnswer(HearthResistance? Resistance, HearthStacks? Stacks, HearthExtent? Extent, IReadOnlyList<Clearance> Clearances, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>1 m² K/W in ft² °F h/Btu.</summary>
    public const double UsPerSi = 5.678;

    /// <summary>Conductivity of a k-factor of 1 Btu in/(h ft² °F), W/(m K).</summary>
    public const double KPerFactor = 0.1442;

    /// <summary>Most layers that are added.</summary>
    public static readonly Limit MostAdded = Limit.Assumed(8, "", "more is another hearth");

    /// <summary>Still air of 25 mm.</summary>
    public static readonly Limit StillAir = Limit.Memory(0.18, "m² K/W", "still air, 25 mm");

    /// <summary>All sides of a stove without a label.</summary>
    public static readonly Limit StoveSides = Limit.Memory(457, "mm", "NFPA 211: unlisted stove, 18 in");

    private const int Most = 40, MostOffers = 20;
    private const double SmallOpeningM2 = 0.56;

    private static readonly EntryRange
        _thickness = new("Thickness of the layer", Quantity.Bore, 0.1, 1000, 0.001),
        _count = new("Layers of a kind", Quantity.Count, 1, 40),
        _offered = new("Most of an offer", Quantity.Count, 0, MostOffers),
        _layers = new("Layers to add", Quantity.Count, 1, 12),
        _k = new("Conductivity, in W/(m K),", Quantity.Ratio, 0.005, 100),
        _factor = new("k-factor", Quantity.Ratio, 0.03, 700),
        _perInch = new("R per inch", Quantity.Ratio, 0.001, 200),
        _r = new("Resistance, in m² K/W,", Quantity.Ratio, 0, 50),
        _rUs = new("Resistance, in ft² °F h/Btu,", Quantity.Ratio, 0, 300),
        _opening = new("Opening of the fireplace", Quantity.Area, 0.01, 10),
        _side = new("Side of the hearth", Quantity.Bore, 0, 5000, 0.001);

    /// <summary>Conductivity, W/(m K); null for what has none of its own.</summary>
    public static Limit? Conductivity(HearthMaterial material) => material switch
    {
        HearthMaterial.CementBoard => Limit.Memory(0.25, "W/(m K)", "cement board"),
        HearthMaterial.CeramicTile => Limit.Memory(1.0, "W/(m K)", "ceramic tile"),
        HearthMaterial.Brick => Limit.Memory(0.7, "W/(m K)", "brick"),
        HearthMaterial.MineralBoard => Limit.Memory(0.06, "W/(m K)", "mineral board"),
        HearthMaterial.Stone => Limit.Memory(2.0, "W/(m K)", "stone"),
        _ => null,
    };

    /// <summary>Answers a question. Two cement boards of 12.7 mm and a tile of 9 mm resist 0.1106 m² K/W; for 1.0 in US units alone four boards are laid.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static HearthAnswer? To(HearthEntry entry, EntryErrors errors)
    {
        var layers = errors.Each("layers", entry.Layers, Most, "layers");
        foreach (var (layer, i) in layers)
        {
            CheckLayer($"layers[{i}]", layer, errors);
            errors.Check($"layers[{i}].count", layer.Count, _count);
        }
        errors.Check("required.rM2KW", entry.Required?.RM2KW, _r);
        errors.Check("required.rUs", entry.Required?.RUs, _rUs);
        errors.Check("maxLayers", entry.MaxLayers, _layers);
        var offers = errors.Each("offers", entry.Offers, MostOffers, "offers");
        var names = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (offer, i) in offers)
        {
            errors.CheckOwnName($"offers[{i}].id", offer.Id, names);
            CheckLayer($"offers[{i}]", offer, errors);
            errors.Need($"offers[{i}].pricePerM2", offer.PricePerM2, EntryRange.Price);
            errors.Check($"offers[{i}].maxCount", offer.MaxCount, _offered);
        }
        var kind = CheckExtent(entry.Extent, errors);
        var clearances = Clearance.Read("clearances", entry.Clearances, Most, errors);
        if (errors.Any)
            return null;

        var assumed = new Assumptions();
        var has = layers.Sum(l => (l.Item.Count ?? 1) * ResistanceOf(l.Item));
        var required = entry.Required?.RM2KW ?? entry.Required?.RUs / UsPerSi;
        var missing = required is { } wanted ? Math.Max(0, wanted - has) : (double?)null;
        HearthStacks? stacks = null;
        if (missing is { } more && offers.Count > 0)
        {
            var most = (int)assumed.Or(entry.MaxLayers, "maxLayers", MostAdded);
            var onSomething = layers.Any(l => Word.Find<HearthMaterial>(l.Item.Material) != HearthMaterial.StillAir);
            var search = new HearthStacking([.. offers.Select(o => new Stackable(o.Item.Id!, ResistanceOf(o.Item), Thickness(o.Item), o.Item.PricePerM2!.Value,
                o.Item.MaxCount ?? (IsAir(o.Item) ? 1 : most), IsAir(o.Item)))], more, most, onSomething);
            stacks = new(search.Least(s => s.ThicknessMm, s => s.PricePerM2), search.Least(s => s.PricePerM2, s => s.ThicknessMm));
        }
        return new(layers.Count == 0 && required is null ? null : new(has, has * UsPerSi, required, required * UsPerSi, missing, required is null ? null : missing <= Limit.Met),
            stacks, kind is { } of ? ExtentOf(of, entry.Extent!) : null, clearances, assumed.Used);
    }

    private static bool IsAir(IHearthLayer layer) => Word.Find<HearthMaterial>(layer.Material) == HearthMaterial.StillAir;

    private static double Thickness(IHearthLayer layer) => layer.ThicknessMm ?? 0;

    private static double ResistanceOf(IHearthLayer layer)
    {
        if (layer.RM2KW is { } given)
            return given;
        var k = layer.KWMK ?? KPerFactor * layer.KFactorUs ?? KPerFactor / layer.RPerInchUs ?? Conductivity(Word.Find<HearthMaterial>(layer.Material)!.Value)?.Value;
        return k is { } known ? Thickness(layer) / 1000 / known : StillAir.Value;
    }

    private static void CheckLayer(string field, IHearthLayer layer, EntryErrors errors)
    {
        var material = errors.Need<HearthMaterial>($"{field}.material", layer.Material, "Material");
        errors.Check($"{field}.kWMK", layer.KWMK, _k);
        errors.Check($"{field}.kFactorUs", layer.KFactorUs, _factor);
        errors.Check($"{field}.rPerInchUs", layer.RPerInchUs, _perInch);
        errors.Check($"{field}.rM2KW", layer.RM2KW, _r);
        var byThickness = (layer.KWMK ?? layer.KFactorUs ?? layer.RPerInchUs) is not null;
        if (layer.RM2KW is null && (byThickness || material is not (null or HearthMaterial.StillAir)))
            errors.Need($"{field}.thicknessMm", layer.ThicknessMm, _thickness);
        else
            errors.Check($"{field}.thicknessMm", layer.ThicknessMm, _thickness);
        if (material == HearthMaterial.Other && layer.RM2KW is null && !byThickness)
            errors.Add($"{field}.rM2KW", "Something else needs a figure: its resistance, its conductivity, its k-factor or its R per inch.");
    }

    private static HearthKind? CheckExtent(HearthExtentEntry? entry, EntryErrors errors)
    {
        if (entry is null)
            return null;
        var kind = errors.Need<HearthKind>("extent.kind", entry.Kind, "What stands on the hearth");
        foreach (var (field, sides) in new[] { ("label", entry.Label), ("found", entry.Found) })
        {
            errors.Check($"extent.{field}.frontMm", sides?.FrontMm, _side);
            errors.Check($"extent.{field}.sideMm", sides?.SideMm, _side);
            errors.Check($"extent.{field}.backMm", sides?.BackMm, _side);
        }
        if (kind == HearthKind.Fireplace && entry.Label is not { FrontMm: not null, SideMm: not null })
            errors.Need("extent.openingM2", entry.OpeningM2, _opening);
        else
            errors.Check("extent.openingM2", entry.OpeningM2, _opening);
        return kind;
    }

    private static HearthExtent ExtentOf(HearthKind kind, HearthExtentEntry entry)
    {
        // NFPA 211, from memory: 16 and 8 in, from 6 ft² on 20 and 12 in.
        (double Front, double Side, double? Back) table = kind == HearthKind.Stove ? (StoveSides.Value, StoveSides.Value, StoveSides.Value)
            : entry.OpeningM2 < SmallOpeningM2 ? (406, 203, null) : (508, 305, null);
        var (front, side, back) = (entry.Label?.FrontMm ?? table.Front, entry.Label?.SideMm ?? table.Side, entry.Label?.BackMm ?? table.Back);
        static double? Missing(double? wanted, double? found) => wanted is { } need && found is { } there ? Math.Max(0, need - there) : null;
        var missing = new HearthSides(Missing(front, entry.Found?.FrontMm), Missing(side, entry.Found?.SideMm), Missing(back, entry.Found?.BackMm));
        double[] measured = [.. new[] { missing.FrontMm, missing.SideMm, missing.BackMm }.OfType<double>()];
        return new(front, side, back, missing, measured.Length == 0 ? null : measured.All(m => m <= Limit.Met));
    }
}
