namespace Grate.Core.Firebox;

/// <summary>Three ways to renew a lining.</summary>
[JsonConverter(typeof(WordConverter<LiningWay>))]
public enum LiningWay
{
    /// <summary>The maker's cut set.</summary>
    CutSet,

    /// <summary>Standard bricks, cut to size.</summary>
    StandardBricks,

    /// <summary>Castable refractory behind a form.</summary>
    Castable,
}

/// <summary>The maker's cut set.</summary>
/// <param name="Pieces">Pieces to set, 1..500.</param>
/// <param name="PricePerSet">Price of a set.</param>
/// <param name="Sets">Sets to buy, 1..100; default 1.</param>
public sealed record CutSetEntry(int? Pieces = null, double? PricePerSet = null, int? Sets = null);

/// <summary>A standard brick.</summary>
/// <param name="LengthMm">Length, mm, 30..1000.</param>
/// <param name="WidthMm">Width, mm, 30..1000.</param>
/// <param name="ThicknessMm">Thickness, mm, 1..300.</param>
/// <param name="Price">Price of one.</param>
public sealed record BrickEntry(double? LengthMm = null, double? WidthMm = null, double? ThicknessMm = null, double? Price = null);

/// <summary>A piece of a layout.</summary>
/// <param name="WidthMm">Width, mm.</param>
/// <param name="HeightMm">Height, mm.</param>
public sealed record LaidPieceEntry(double? WidthMm = null, double? HeightMm = null);

/// <summary>A panel of a layout.</summary>
/// <param name="Pieces">Its pieces.</param>
public sealed record LaidPanelEntry(IReadOnlyList<LaidPieceEntry>? Pieces = null);

/// <summary>An answer of brick-layout; what else it holds is not read.</summary>
/// <param name="Bricks">Bricks to buy.</param>
/// <param name="Panels">Its panels.</param>
public sealed record LaidEntry(int? Bricks = null, IReadOnlyList<LaidPanelEntry>? Panels = null);

/// <summary>Standard bricks, laid out.</summary>
/// <param name="Brick">The brick.</param>
/// <param name="Layout">The answer of brick-layout.</param>
public sealed record StandardBricksEntry(BrickEntry? Brick = null, LaidEntry? Layout = null);

/// <summary>The question of POST /api/calculations/lining-compare.</summary>
/// <param name="CutSet">The maker's cut set.</param>
/// <param name="StandardBricks">Standard bricks.</param>
/// <param name="Castable">Castable, with the price of a bag.</param>
/// <param name="LabourPerHour">Price of an hour; default 0.</param>
public sealed record LiningCompareEntry(CutSetEntry? CutSet = null, StandardBricksEntry? StandardBricks = null, CastableEntry? Castable = null, double? LabourPerHour = null);

/// <summary>The maker's cut set, reckoned.</summary>
/// <param name="Pieces">Pieces to set.</param>
/// <param name="MaterialCost">Cost of the sets.</param>
/// <param name="Minutes">Minutes of work.</param>
/// <param name="DaysWithoutFire">Days without fire.</param>
/// <param name="LabourCost">Cost of the work.</param>
/// <param name="TotalCost">Both together.</param>
public sealed record CutSetWay(int Pieces, double MaterialCost, double Minutes, int DaysWithoutFire, double LabourCost, double TotalCost);

/// <summary>Standard bricks, reckoned.</summary>
/// <param name="Bricks">Bricks to buy.</param>
/// <param name="Pieces">Pieces to set.</param>
/// <param name="Cuts">Cuts of the saw.</param>
/// <param name="MaterialCost">Cost of the bricks.</param>
/// <param name="Minutes">Minutes of work.</param>
/// <param name="DaysWithoutFire">Days without fire.</param>
/// <param name="LabourCost">Cost of the work.</param>
/// <param name="TotalCost">Both together.</param>
public sealed record StandardBricksWay(int Bricks, int Pieces, int Cuts, double MaterialCost, double Minutes, int DaysWithoutFire, double LabourCost, double TotalCost);

/// <summary>Castable, reckoned.</summary>
/// <param name="Bags">Bags to buy.</param>
/// <param name="MaterialCost">Cost of the bags.</param>
/// <param name="Minutes">Minutes of work.</param>
/// <param name="DaysWithoutFire">Days without fire.</param>
/// <param name="LabourCost">Cost of the work.</param>
/// <param name="TotalCost">Both together.</param>
public sealed record CastableWay(int Bags, double MaterialCost, double Minutes, int DaysWithoutFire, double LabourCost, double TotalCost);

/// <summary>The answer of POST /api/calculations/lining-compare (handbook 04 section 1).</summary>
/// <param name="CutSet">The cut set; null where it was not sent.</param>
/// <param name="StandardBricks">Standard bricks; null where they were not sent.</param>
/// <param name="Castable">Castable; null where it was not sent.</param>
/// <param name="Cheapest">Least money, then minutes; null where no way was sent.</param>
/// <param name="Quickest">Least minutes, then money.</param>
/// <param name="SoonestFire">Least days without fire, then money.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record LiningCompareAnswer(CutSetWay? CutSet, StandardBricksWay? StandardBricks, CastableWay? Castable, LiningWay? Cheapest, LiningWay? Quickest, LiningWay? SoonestFire, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Minutes to set a piece.</summary>
    public static readonly Limit SetMin = Limit.Assumed(2, "min", "a piece set");

    /// <summary>Minutes to cut.</summary>
    public static readonly Limit CutMin = Limit.Assumed(3, "min", "a cut of the wet saw, with marking");

    /// <summary>Minutes for a form.</summary>
    public static readonly Limit FormMin = Limit.Assumed(45, "min", "the form, oiled and braced");

    /// <summary>Minutes to mix and place a bag.</summary>
    public static readonly Limit BagMin = Limit.Assumed(20, "min", "a bag mixed and placed");

    /// <summary>Days without fire while castable sets.</summary>
    public static readonly Limit SetDays = Limit.Practice(2, "days", "48 h before any fire");

    /// <summary>Within so little a side is the brick's own, mm.</summary>
    public static readonly Limit OwnSide = Limit.Assumed(0.5, "mm", "no saw is asked for less");

    private const int MostPanels = 60;
    private const int MostPieces = 2000;
    private static readonly Limit _labour = Limit.Assumed(0, "", "material alone, until the firm's hour is known");
    private static readonly EntryRange _pieces = new("Pieces", Quantity.Count, 1, 500);
    private static readonly EntryRange _sets = new("Sets", Quantity.Count, 1, 100);
    private static readonly EntryRange _bricks = new("Bricks", Quantity.Count, 0, 100_000);
    private static readonly EntryRange _brickSide = new("Length and width of the brick", Quantity.Bore, 30, 1000, 0.001);
    private static readonly EntryRange _hour = new("Price of an hour", Quantity.Ratio, 0, 100_000);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static LiningCompareAnswer? To(LiningCompareEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        errors.Check("labourPerHour", entry.LabourPerHour, _hour);
        var set = entry.CutSet;
        if (set is not null)
        {
            errors.Need("cutSet.pieces", set.Pieces, _pieces);
            errors.Need("cutSet.pricePerSet", set.PricePerSet, EntryRange.Price);
            errors.Check("cutSet.sets", set.Sets, _sets);
        }
        var laid = entry.StandardBricks is { } bricks ? Laid(bricks, errors) : null;
        if (entry.Castable is { BagPrice: null })
            errors.Need("castable.bagPrice", null, EntryRange.Price);
        var cast = entry.Castable is { } castable ? Lining.Castable(castable, "castable", errors, assumed) : null;
        if (errors.Any)
            return null;
        var hour = set is null && laid is null && cast is null ? 0 : assumed.Or(entry.LabourPerHour, "labourPerHour", _labour);
        double Labour(double minutes) => minutes / 60 * hour;

        CutSetWay? cut = null;
        if (set is not null)
        {
            var sets = (int)assumed.Or(set.Sets, "cutSet.sets", Limit.Assumed(1, "", "one set"));
            var (minutes, material) = (SetMin.Value * set.Pieces!.Value * sets, sets * set.PricePerSet!.Value);
            cut = new(set.Pieces.Value * sets, material, minutes, 0, Labour(minutes), material + Labour(minutes));
        }
        StandardBricksWay? standard = null;
        if (laid is var (number, pieces, cuts))
        {
            var (minutes, material) = (CutMin.Value * cuts + SetMin.Value * pieces, number * entry.StandardBricks!.Brick!.Price!.Value);
            standard = new(number, pieces, cuts, material, minutes, 0, Labour(minutes), material + Labour(minutes));
        }
        CastableWay? poured = null;
        if (cast is { MaterialCost: { } bags })
        {
            var minutes = FormMin.Value + BagMin.Value * cast.Bags;
            poured = new(cast.Bags, bags, minutes, (int)SetDays.Value, Labour(minutes), bags + Labour(minutes));
        }

        var ways = new List<(LiningWay Way, double Cost, double Minutes, int Days)>();
        if (cut is not null)
            ways.Add((LiningWay.CutSet, cut.TotalCost, cut.Minutes, cut.DaysWithoutFire));
        if (standard is not null)
            ways.Add((LiningWay.StandardBricks, standard.TotalCost, standard.Minutes, standard.DaysWithoutFire));
        if (poured is not null)
            ways.Add((LiningWay.Castable, poured.TotalCost, poured.Minutes, poured.DaysWithoutFire));
        // To a cent's millionth: a sum of parts is no tie that a machine breaks.
        LiningWay? First<T>(Func<(LiningWay Way, double Cost, double Minutes, int Days), T> by) => ways.Count == 0 ? null : ways.OrderBy(by).ThenBy(w => w.Way).First().Way;
        return new(cut, standard, poured, First(w => (Math.Round(w.Cost, 6), Math.Round(w.Minutes, 6))), First(w => (Math.Round(w.Minutes, 6), Math.Round(w.Cost, 6))), First(w => (w.Days, Math.Round(w.Cost, 6))), assumed.Used);
    }

    /// <summary>Cuts that a piece takes: none for a whole brick, one where a side is the brick's, else two.</summary>
    public static int Cuts(double widthMm, double heightMm, double lengthMm, double breadthMm)
    {
        bool Is(double side, double of) => Math.Abs(side - of) <= OwnSide.Value + Limit.Met;
        if ((Is(widthMm, lengthMm) && Is(heightMm, breadthMm)) || (Is(widthMm, breadthMm) && Is(heightMm, lengthMm)))
            return 0;
        return Is(widthMm, lengthMm) || Is(widthMm, breadthMm) || Is(heightMm, lengthMm) || Is(heightMm, breadthMm) ? 1 : 2;
    }

    private static (int Bricks, int Pieces, int Cuts)? Laid(StandardBricksEntry entry, EntryErrors errors)
    {
        const string At = "standardBricks";
        errors.Need($"{At}.brick.lengthMm", entry.Brick?.LengthMm, _brickSide);
        errors.Need($"{At}.brick.widthMm", entry.Brick?.WidthMm, _brickSide);
        errors.Need($"{At}.brick.price", entry.Brick?.Price, EntryRange.Price);
        errors.Need($"{At}.layout.bricks", entry.Layout?.Bricks, _bricks);
        var panels = errors.Each($"{At}.layout.panels", entry.Layout?.Panels, MostPanels, "panels");
        if (panels.Count == 0)
            errors.Add($"{At}.layout.panels", "The layout has no panels: send the answer of brick-layout.");
        var pieces = panels.SelectMany(p => (p.Item?.Pieces ?? []).Select((piece, k) => (Piece: piece ?? new LaidPieceEntry(), Field: $"{At}.layout.panels[{p.At}].pieces[{k}]"))).ToList();
        foreach (var ((piece, field), _) in errors.Each($"{At}.layout.panels", pieces, MostPieces, "pieces"))
            _ = errors.Need($"{field}.widthMm", piece.WidthMm, FireboxRanges.Side) & errors.Need($"{field}.heightMm", piece.HeightMm, FireboxRanges.Side);
        if (errors.Any)
            return null;
        return (entry.Layout!.Bricks!.Value, pieces.Count, pieces.Sum(p => Cuts(p.Piece.WidthMm!.Value, p.Piece.HeightMm!.Value, entry.Brick!.LengthMm!.Value, entry.Brick.WidthMm!.Value)));
    }
}
