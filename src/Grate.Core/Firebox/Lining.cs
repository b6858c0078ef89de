using System.Globalization;

namespace Grate.Core.Firebox;

/// <summary>A panel to be cast.</summary>
/// <param name="WidthMm">Width, mm, 1..3000.</param>
/// <param name="HeightMm">Height, mm, 1..3000.</param>
/// <param name="ThicknessMm">Thickness, mm, 1..300.</param>
public sealed record CastPanelEntry(double? WidthMm = null, double? HeightMm = null, double? ThicknessMm = null);

/// <summary>Castable refractory behind a form.</summary>
/// <param name="Panels">What is cast.</param>
/// <param name="VolumeM3">Its volume, m³, 0.00001..1; replaces the panels.</param>
/// <param name="DensityKgM3">Density when set, kg/m³, 500..4000; default 2100.</param>
/// <param name="AllowanceShare">What is mixed beyond it, 0..1; default 0.10.</param>
/// <param name="BagKg">Weight of a bag, kg, 1..100; default 25.</param>
/// <param name="BagPrice">Price of a bag.</param>
/// <param name="PlacedAt">When it is placed, local time: 2026-09-14T16:00.</param>
public sealed record CastableEntry(IReadOnlyList<CastPanelEntry>? Panels = null, double? VolumeM3 = null, double? DensityKgM3 = null, double? AllowanceShare = null,
    double? BagKg = null, double? BagPrice = null, string? PlacedAt = null);

/// <summary>What a slab is made of (handbook 04 section 1).</summary>
[JsonConverter(typeof(WordConverter<SlabKind>))]
public enum SlabKind
{
    /// <summary>Dense refractory.</summary>
    Dense,

    /// <summary>Vermiculite board.</summary>
    Vermiculite,

    /// <summary>Ceramic-fibre board.</summary>
    Fibre,
}

/// <summary>A slab.</summary>
/// <param name="Label">Its name, up to 80 characters.</param>
/// <param name="WidthMm">Width, mm, 1..3000.</param>
/// <param name="HeightMm">Height, mm, 1..3000.</param>
/// <param name="ThicknessMm">Thickness, mm, 1..300.</param>
/// <param name="Kind">dense, vermiculite or fibre; default dense.</param>
/// <param name="DensityKgM3">Density, kg/m³, 100..8000; default that of its kind.</param>
public sealed record SlabEntry(string? Label = null, double? WidthMm = null, double? HeightMm = null, double? ThicknessMm = null,
    [property: Words(typeof(SlabKind))] string? Kind = null, double? DensityKgM3 = null);

/// <summary>Heat in a lining.</summary>
/// <param name="MassKg">Its mass, kg, 0..20 000; default all slabs and what is cast.</param>
/// <param name="HotC">Hot, °C.</param>
/// <param name="RoomC">Room, °C; default 20.</param>
/// <param name="CKjKgK">Specific heat, kJ/(kg K), 0.1..5; default 0.9.</param>
public sealed record LiningHeatEntry(double? MassKg = null, double? HotC = null, double? RoomC = null, double? CKjKgK = null);

/// <summary>The question of POST /api/calculations/lining.</summary>
/// <param name="Castable">What is cast.</param>
/// <param name="Slabs">Slabs to be weighed.</param>
/// <param name="Heat">Heat that they hold.</param>
public sealed record LiningEntry(CastableEntry? Castable = null, IReadOnlyList<SlabEntry>? Slabs = null, LiningHeatEntry? Heat = null);

/// <summary>What castable comes to.</summary>
/// <param name="VolumeM3">Volume, m³.</param>
/// <param name="PlacedKg">Mass in place, kg.</param>
/// <param name="MixKg">To be mixed, kg.</param>
/// <param name="Bags">Whole bags.</param>
/// <param name="MaterialCost">Cost of the bags; null without a price.</param>
/// <param name="SetHours">Hours before any fire.</param>
/// <param name="SmallFires">Small fires after that, each hotter.</param>
/// <param name="FirstFire">First fire, local time; null where the placing is not known.</param>
public sealed record CastableAnswer(double VolumeM3, double PlacedKg, double MixKg, int Bags, double? MaterialCost, int SetHours, int SmallFires, string? FirstFire);

/// <summary>What a slab weighs.</summary>
/// <param name="Label">Its name.</param>
/// <param name="VolumeM3">Volume, m³.</param>
/// <param name="MassKg">Mass, kg.</param>
/// <param name="LowKg">Least, kg.</param>
/// <param name="HighKg">Most, kg.</param>
/// <param name="TwoHands">Whether it wants two hands.</param>
public sealed record SlabAnswer(string? Label, double VolumeM3, double MassKg, double LowKg, double HighKg, bool TwoHands);

/// <summary>Heat that a lining holds.</summary>
/// <param name="MassKg">Mass, kg.</param>
/// <param name="StoredKj">Heat above the room, kJ.</param>
/// <param name="StoredKwh">The same, kWh.</param>
public sealed record LiningHeat(double MassKg, double StoredKj, double StoredKwh);

/// <summary>The answer of POST /api/calculations/lining (handbook 04 section 1).</summary>
/// <param name="Castable">What is cast; null where nothing is.</param>
/// <param name="Slabs">Slabs.</param>
/// <param name="Heat">Heat held; null where it was not asked.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record LiningAnswer(CastableAnswer? Castable, IReadOnlyList<SlabAnswer> Slabs, LiningHeat? Heat, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static LiningAnswer? To(LiningEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        var castable = entry.Castable is { } cast ? Lining.Castable(cast, "castable", errors, assumed) : null;
        var slabs = new List<SlabAnswer>();
        foreach (var (slab, i) in errors.Each("slabs", entry.Slabs, Lining.MostPieces, "slabs"))
        {
            if (Lining.Slab(slab ?? new(), $"slabs[{i}]", errors, assumed) is { } answer)
                slabs.Add(answer);
        }
        var heat = entry.Heat is null ? null : Heat(entry.Heat, slabs.Sum(s => s.MassKg) + (castable?.PlacedKg ?? 0), entry.Castable is not null || slabs.Count > 0, errors, assumed);
        return errors.Any ? null : new(castable, slabs, heat, assumed.Used);

        static LiningHeat? Heat(LiningHeatEntry heat, double liningKg, bool known, EntryErrors errors, Assumptions assumed)
        {
            errors.Check("heat.massKg", heat.MassKg, FireboxRanges.Mass);
            if (heat.MassKg is null && !known)
                errors.Add("heat.massKg", "Mass is missing: send it, slabs, or what is cast.");
            errors.Need("heat.hotC", heat.HotC, FireboxRanges.Hot);
            errors.Check("heat.roomC", heat.RoomC, EntryRange.Room);
            errors.Check("heat.cKjKgK", heat.CKjKgK, FireboxRanges.SpecificHeat);
            if (errors.Any)
                return null;
            var mass = heat.MassKg ?? liningKg;
            return Lining.Heat(mass, heat.HotC!.Value, assumed.Or(heat.RoomC, "heat.roomC", Flue.FlueLimits.Room), assumed.Or(heat.CKjKgK, "heat.cKjKgK", Lining.SpecificHeat));
        }
    }
}

/// <summary>Weights, bags and heat of a lining (handbook 04 section 1).</summary>
public static class Lining
{
    /// <summary>Most panels or slabs at once.</summary>
    public const int MostPieces = 60;

    /// <summary>Density of castable when set.</summary>
    public static readonly Limit CastDensity = Limit.Assumed(2100, "kg/m³", "handbook 04 section 1");

    /// <summary>What is mixed beyond what is placed.</summary>
    public static readonly Limit Allowance = Limit.Assumed(0.10, "", "what stays in the pail and between the forms");

    /// <summary>Weight of a bag.</summary>
    public static readonly Limit Bag = Limit.Assumed(25, "kg", "the common bag");

    /// <summary>Hours before any fire.</summary>
    public static readonly Limit Set = Limit.Practice(48, "h", "48 h before any fire, then small fires");

    /// <summary>Small fires, each hotter.</summary>
    public static readonly Limit SmallFires = Limit.Practice(3, "", "three small fires, each hotter");

    /// <summary>A slab from this weight on wants two hands.</summary>
    public static readonly Limit TwoHands = Limit.Assumed(10, "kg", "a dense slab of 11 to 13 kg wants two hands");

    /// <summary>Specific heat of brick and board.</summary>
    public static readonly Limit SpecificHeat = Limit.Assumed(0.9, "kJ/(kg K)", "handbook 04 section 1");

    /// <summary>Usual, least and greatest density of a kind, kg/m³: dense 2050 (1900 to 2200).</summary>
    public static (double Usual, double Low, double High) Density(SlabKind kind) => kind switch
    {
        SlabKind.Vermiculite => (800, 700, 900),
        SlabKind.Fibre => (320, 250, 400),
        _ => (2050, 1900, 2200),
    };

    /// <summary>Volume of a plate, m³. 480 × 380 × 32 mm are 0.0058368 m³.</summary>
    public static double VolumeM3(double widthMm, double heightMm, double thicknessMm) => widthMm * heightMm * thicknessMm * 1e-9;

    /// <summary>Heat above the room, m c ΔT. 60 kg from 20 to 220 °C hold 10 800 kJ, 3 kWh.</summary>
    /// <param name="massKg">Mass, kg.</param>
    /// <param name="hotC">Hot, °C.</param>
    /// <param name="roomC">Room, °C.</param>
    /// <param name="cKjKgK">Specific heat, kJ/(kg K).</param>
    public static LiningHeat Heat(double massKg, double hotC, double roomC, double cKjKgK)
    {
        var kj = massKg * cKjKgK * (hotC - roomC);
        return new(massKg, kj, kj / 3600);
    }

    /// <summary>What castable comes to: 480 × 380 × 32 mm are 13.5 kg to mix, one bag. Null where it is refused.</summary>
    public static CastableAnswer? Castable(CastableEntry entry, string path, EntryErrors errors, Assumptions assumed)
    {
        errors.Check($"{path}.volumeM3", entry.VolumeM3, FireboxRanges.CastVolume);
        errors.Check($"{path}.densityKgM3", entry.DensityKgM3, FireboxRanges.CastDensity);
        errors.Check($"{path}.allowanceShare", entry.AllowanceShare, FireboxRanges.Allowance);
        errors.Check($"{path}.bagKg", entry.BagKg, FireboxRanges.Bag);
        errors.Check($"{path}.bagPrice", entry.BagPrice, EntryRange.Price);
        var panels = 0.0;
        foreach (var (panel, i) in errors.Each($"{path}.panels", entry.Panels, MostPieces, "panels"))
            panels += Plate($"{path}.panels[{i}]", panel.WidthMm, panel.HeightMm, panel.ThicknessMm, errors) ?? 0;
        if (entry.VolumeM3 is null && entry.Panels is not { Count: > 0 })
            errors.Add($"{path}.panels", "What is cast is missing: panels, or a volume.");
        DateTime? placed = null;
        if (entry.PlacedAt is { } at)
        {
            if (DateTime.TryParseExact(at, ["yyyy-MM-dd'T'HH:mm", "yyyy-MM-dd'T'HH:mm:ss"], CultureInfo.InvariantCulture, DateTimeStyles.None, out var time) && time.Year is >= 1900 and <= 2200)
                placed = time;
            else
                errors.Add($"{path}.placedAt", "When it was placed is a local time such as 2026-09-14T16:00.");
        }
        if (errors.Any)
            return null;
        var volume = entry.VolumeM3 ?? panels;
        var placedKg = volume * assumed.Or(entry.DensityKgM3, $"{path}.densityKgM3", CastDensity);
        var mix = placedKg * (1 + assumed.Or(entry.AllowanceShare, $"{path}.allowanceShare", Allowance));
        var bags = (int)Math.Ceiling(mix / assumed.Or(entry.BagKg, $"{path}.bagKg", Bag) - Limit.Met);
        return new(volume, placedKg, mix, bags, bags * entry.BagPrice, (int)Set.Value, (int)SmallFires.Value,
            placed?.AddHours(Set.Value).ToString("yyyy-MM-dd'T'HH:mm", CultureInfo.InvariantCulture));
    }

    /// <summary>What a slab weighs: 610 × 380 × 25 mm of dense refractory 11.9 kg. Null where it is refused.</summary>
    public static SlabAnswer? Slab(SlabEntry entry, string path, EntryErrors errors, Assumptions assumed)
    {
        errors.CheckText($"{path}.label", entry.Label, "Label", 80);
        errors.Check($"{path}.densityKgM3", entry.DensityKgM3, FireboxRanges.Density);
        var kind = entry.Kind is { } word ? errors.Need<SlabKind>($"{path}.kind", word, "Kind") : SlabKind.Dense;
        if (Plate(path, entry.WidthMm, entry.HeightMm, entry.ThicknessMm, errors) is not { } volume || kind is not { } known || errors.Any)
            return null;
        if (entry.Kind is null)
            assumed.Note($"{path}.kind", Word.Of(SlabKind.Dense), Mark.Assumption, "the common slab");
        var (usual, low, high) = entry.DensityKgM3 is { } given ? (given, given, given) : Density(known);
        return new(entry.Label, volume, volume * usual, volume * low, volume * high, volume * usual >= TwoHands.Value - Limit.Met);
    }

    private static double? Plate(string path, double? widthMm, double? heightMm, double? thicknessMm, EntryErrors errors) =>
        errors.Need($"{path}.widthMm", widthMm, FireboxRanges.Side) & errors.Need($"{path}.heightMm", heightMm, FireboxRanges.Side) & errors.Need($"{path}.thicknessMm", thicknessMm, FireboxRanges.Thickness)
            ? VolumeM3(widthMm!.Value, heightMm!.Value, thicknessMm!.Value) : null;
}

/// <summary>Accepted ranges inside the stove.</summary>
public static class FireboxRanges
{
    /// <summary>Side of a panel, slab or brick.</summary>
    public static readonly EntryRange Side = new("Width and height", Quantity.Bore, 1, 3000, 0.001);

    /// <summary>Thickness of a panel, slab or board.</summary>
    public static readonly EntryRange Thickness = new("Thickness", Quantity.Bore, 1, 300, 0.001);

    /// <summary>Volume that is cast.</summary>
    public static readonly EntryRange CastVolume = new("Volume", Quantity.SmallVolume, 0.00001, 1);

    /// <summary>Density of castable.</summary>
    public static readonly EntryRange CastDensity = new("Density, in kg/m³,", Quantity.Ratio, 500, 4000);

    /// <summary>Density of a slab.</summary>
    public static readonly EntryRange Density = new("Density, in kg/m³,", Quantity.Ratio, 100, 8000);

    /// <summary>What is mixed beyond what is placed.</summary>
    public static readonly EntryRange Allowance = new("Allowance", Quantity.Share, 0, 1);

    /// <summary>Weight of a bag.</summary>
    public static readonly EntryRange Bag = new("Weight of a bag", Quantity.Mass, 1, 100);

    /// <summary>Mass of a lining.</summary>
    public static readonly EntryRange Mass = new("Mass", Quantity.Mass, 0, 20_000);

    /// <summary>Temperature of a hot lining.</summary>
    public static readonly EntryRange Hot = new("Temperature of the lining", Quantity.Temperature, -40, 1400);

    /// <summary>Specific heat.</summary>
    public static readonly EntryRange SpecificHeat = new("Specific heat, in kJ/(kg K),", Quantity.Ratio, 0.1, 5);
}
