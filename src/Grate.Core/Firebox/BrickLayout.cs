namespace Grate.Core.Firebox;

/// <summary>A panel to be lined.</summary>
/// <param name="Name">Its name, 1 to 80 characters.</param>
/// <param name="WidthMm">Width, mm, 10..3000.</param>
/// <param name="HeightMm">Height, mm, 10..3000.</param>
public sealed record BrickPanelEntry(string? Name = null, double? WidthMm = null, double? HeightMm = null);

/// <summary>The question of POST /api/calculations/brick-layout.</summary>
/// <param name="Panels">Panels to be lined with one kind of brick.</param>
/// <param name="Brick">The brick.</param>
/// <param name="JointMm">Joint between pieces, mm, 0..20; default 2.</param>
/// <param name="KerfMm">What a cut loses, mm, 0..20; default 3.</param>
public sealed record BrickLayoutEntry(IReadOnlyList<BrickPanelEntry>? Panels = null, BrickEntry? Brick = null, double? JointMm = null, double? KerfMm = null);

/// <summary>A piece in its panel.</summary>
/// <param name="XMm">Left edge, mm.</param>
/// <param name="YMm">Lower edge, mm.</param>
/// <param name="WidthMm">Width, mm.</param>
/// <param name="HeightMm">Height, mm.</param>
/// <param name="Brick">Number of the bought brick it comes from, from 0.</param>
/// <param name="Cut">Whether it is cut.</param>
public sealed record LaidPiece(double XMm, double YMm, double WidthMm, double HeightMm, int Brick, bool Cut);

/// <summary>A panel, laid out.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Pieces">Its pieces.</param>
public sealed record LaidPanel(string Name, IReadOnlyList<LaidPiece> Pieces);

/// <summary>A line of the cut list.</summary>
/// <param name="Brick">Number of the brick.</param>
/// <param name="WidthMm">Width of the piece, mm.</param>
/// <param name="HeightMm">Height, mm.</param>
/// <param name="Panel">Where it goes.</param>
public sealed record BrickCut(int Brick, double WidthMm, double HeightMm, string Panel);

/// <summary>What bricks are laid in: all lengths in whole hundredths of a mm.</summary>
/// <param name="Panels">Width and height of each panel.</param>
/// <param name="Length">Length of the brick.</param>
/// <param name="Width">Width of the brick.</param>
/// <param name="Joint">Joint between pieces.</param>
/// <param name="Kerf">What a cut loses.</param>
/// <param name="Least">Least side of a piece, where the panel is not narrower.</param>
/// <param name="Bound">Bricks below which no layout can be.</param>
public sealed record BrickProblem(IReadOnlyList<(int Width, int Height)> Panels, int Length, int Width, int Joint, int Kerf, int Least, int Bound);

/// <summary>A piece of a plan.</summary>
/// <param name="Panel">Which panel.</param>
/// <param name="X">Left edge.</param>
/// <param name="Y">Lower edge.</param>
/// <param name="Width">Width.</param>
/// <param name="Height">Height.</param>
/// <param name="Brick">Brick it is cut from.</param>
public sealed record PlannedPiece(int Panel, int X, int Y, int Width, int Height, int Brick);

/// <summary>Lays bricks so that the fewest are bought over all panels together (handbook 04 section 1).</summary>
public interface IBrickSolver
{
    /// <summary>The pieces of the best layout that was found; null where none was found that keeps the rules.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="time">After so long the best so far is taken.</param>
    IReadOnlyList<PlannedPiece>? Solve(BrickProblem problem, TimeSpan time);
}

/// <summary>The answer of POST /api/calculations/brick-layout (handbook 04 section 1).</summary>
/// <param name="Bricks">Bricks to buy.</param>
/// <param name="LowerBound">No plan can do with fewer.</param>
/// <param name="Cost">Their cost; null without a price.</param>
/// <param name="Panels">Panels with their pieces.</param>
/// <param name="CutList">Every piece that is cut, by brick.</param>
/// <param name="WasteShare">Share of what is bought that is no piece.</param>
/// <param name="Saw">Every brick that is cut, with its pieces where they lie in it; a brick of very many pieces is left out.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record BrickLayoutAnswer(int Bricks, int LowerBound, double? Cost, IReadOnlyList<LaidPanel> Panels, IReadOnlyList<BrickCut> CutList, double WasteShare, IReadOnlyList<SawnBrick> Saw, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Joint between pieces.</summary>
    public static readonly Limit Joint = Limit.Assumed(2, "mm", "room to move when hot");

    /// <summary>What a cut loses.</summary>
    public static readonly Limit Kerf = Limit.Assumed(3, "mm", "the blade of a wet saw");

    /// <summary>Least side of a piece.</summary>
    public static readonly Limit Least = Limit.Assumed(30, "mm", "shorten two neighbours instead");

    /// <summary>After so long the best layout so far is taken.</summary>
    public static readonly Limit Patience = Limit.Assumed(8, "s", "nobody waits longer at a saw");

    private const int MostPanels = 60;
    private const double MostBricks = 400;
    private const int Parts = 100;
    private static readonly EntryRange _side = new("Width and height of the panel", Quantity.Bore, 10, 3000, 0.001);
    private static readonly EntryRange _brick = new("Length and width of the brick", Quantity.Bore, 30, 1000, 0.001);
    private static readonly EntryRange _joint = new("Joint", Quantity.Bore, 0, 20, 0.001);
    private static readonly EntryRange _kerf = new("Kerf", Quantity.Bore, 0, 20, 0.001);

    /// <summary>Answers a question.</summary>
    /// <param name="entry">The question.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="solver">Finds the layout.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static BrickLayoutAnswer? To(BrickLayoutEntry entry, EntryErrors errors, IBrickSolver solver)
    {
        var names = new HashSet<string>(StringComparer.Ordinal);
        var panels = errors.Each("panels", entry.Panels, MostPanels, "panels");
        if (panels.Count == 0)
            errors.Add("panels", "The panels are missing: at least one.");
        foreach (var (panel, i) in panels)
        {
            errors.CheckOwnName($"panels[{i}].name", panel.Name, names, "panel");
            _ = errors.Need($"panels[{i}].widthMm", panel.WidthMm, _side) & errors.Need($"panels[{i}].heightMm", panel.HeightMm, _side);
        }
        errors.Need("brick.lengthMm", entry.Brick?.LengthMm, _brick);
        errors.Need("brick.widthMm", entry.Brick?.WidthMm, _brick);
        errors.Check("brick.thicknessMm", entry.Brick?.ThicknessMm, FireboxRanges.Thickness);
        errors.Check("brick.price", entry.Brick?.Price, EntryRange.Price);
        errors.Check("jointMm", entry.JointMm, _joint);
        errors.Check("kerfMm", entry.KerfMm, _kerf);
        if (errors.Any)
            return null;

        var assumed = new Assumptions();
        var (joint, kerf) = (assumed.Or(entry.JointMm, "jointMm", Joint), assumed.Or(entry.KerfMm, "kerfMm", Kerf));
        var (length, width) = (Math.Max(entry.Brick!.LengthMm!.Value, entry.Brick.WidthMm!.Value), Math.Min(entry.Brick.LengthMm.Value, entry.Brick.WidthMm.Value));
        var bound = Fewest([.. panels.Select(p => (p.Item.WidthMm!.Value, p.Item.HeightMm!.Value))], length, width, joint, kerf);
        if (bound > MostBricks)
        {
            errors.Add("panels", $"These panels take about {bound:0} bricks; at most {MostBricks:0} are laid out at once.");
            return null;
        }
        static int Whole(double mm) => (int)Math.Round(mm * Parts);
        var problem = new BrickProblem([.. panels.Select(p => (Whole(p.Item.WidthMm!.Value), Whole(p.Item.HeightMm!.Value)))], Whole(length), Whole(width), Whole(joint), Whole(kerf), Whole(Least.Value), (int)bound);
        if (solver.Solve(problem, TimeSpan.FromSeconds(Patience.Value)) is not { } pieces)
        {
            errors.Add("panels", $"No layout was found in {Patience.Value:0} s that keeps the rules, every panel filled with pieces of at least 30 mm: lay out fewer panels at once, or take another brick.");
            return null;
        }
        static double Mm(int parts) => parts / (double)Parts;
        bool IsWhole(PlannedPiece piece) => LiningCompareAnswer.Cuts(Mm(piece.Width), Mm(piece.Height), length, width) == 0;
        var count = pieces.Select(p => p.Brick).Distinct().Count();
        return new(count, (int)bound, count * entry.Brick.Price,
            [.. panels.Select(p => new LaidPanel(p.Item.Name!, [.. pieces.Where(piece => piece.Panel == p.At).OrderBy(piece => (piece.Y, piece.X))
                .Select(piece => new LaidPiece(Mm(piece.X), Mm(piece.Y), Mm(piece.Width), Mm(piece.Height), piece.Brick, !IsWhole(piece)))]))],
            [.. pieces.Where(piece => !IsWhole(piece)).OrderBy(piece => piece.Brick).Select(piece => new BrickCut(piece.Brick, Mm(piece.Width), Mm(piece.Height), panels[piece.Panel].Item.Name!))],
            1 - pieces.Sum(p => Mm(p.Width) * Mm(p.Height)) / (count * length * width),
            [.. pieces.GroupBy(p => p.Brick).Where(b => b.Any(p => !IsWhole(p))).OrderBy(b => b.Key)
                .Select(b => BrickSaw.Of(b.Key, [.. b.Select(p => (Mm(p.Width), Mm(p.Height), panels[p.Panel].Item.Name!))], width, length, kerf)).OfType<SawnBrick>()], assumed.Used);
    }

    /// <summary>
    /// Bricks below which no layout can be: ⌈Σ (W + j)(H + j) / ((L + j)(B + j))⌉ where a cut loses no less than a joint. Panels
    /// 480 × 380, 480 × 300 and two of 380 × 300 take at least 21 bricks of 229 × 114 mm. With a thinner saw a piece fills its share of
    /// a brick a little less well than its share of the panel: the smallest piece least.
    /// </summary>
    public static double Fewest(IReadOnlyList<(double WidthMm, double HeightMm)> panels, double lengthMm, double breadthMm, double jointMm, double kerfMm)
    {
        var (thin, least) = (Math.Min(jointMm, kerfMm), Math.Min(Least.Value, panels.Min(p => Math.Min(p.WidthMm, p.HeightMm))));
        var share = Math.Pow((least + thin) / (least + jointMm), 2);
        return Math.Ceiling(share * panels.Sum(p => (p.WidthMm + jointMm) * (p.HeightMm + jointMm)) / ((lengthMm + thin) * (breadthMm + thin)) - Limit.Met);
    }
}
