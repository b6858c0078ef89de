using Grate.Core.Firebox;
using Grate.Solvers;

namespace Grate.Core.Tests.Firebox;

/// <summary>Standard bricks laid out over all panels together: handbook 04 section 1.</summary>
public class BrickLayoutTests
{
    private static readonly BrickEntry _split = new(229, 114, 32, 3.2);

    private static BrickLayoutEntry Of(params (double Width, double Height)[] panels) => new([.. panels.Select((p, i) => new BrickPanelEntry($"panel {i + 1}", p.Width, p.Height))], _split);

    private static BrickLayoutAnswer Ask(BrickLayoutEntry entry)
    {
        var errors = new EntryErrors();
        var answer = BrickLayoutAnswer.To(entry, errors, new BrickSolver(work: 3));
        Assert.Empty(errors.ByField);
        LayoutRules.Hold(entry, answer!);
        foreach (var brick in answer!.Saw)
            Sawn(brick, entry, answer);
        // Every brick that is cut is drawn.
        Assert.Equal(answer.CutList.Select(c => c.Brick).Distinct().Order(), answer.Saw.Select(b => b.Brick));
        return answer;
    }

    // Cut after cut, as at the saw: each goes straight through one of the rests, and loses the kerf; in the end the pieces lie there.
    private static void Sawn(SawnBrick brick, BrickLayoutEntry entry, BrickLayoutAnswer answer)
    {
        const double near = 0.02;
        var kerf = entry.KerfMm ?? 3;
        var rests = new List<(double X, double Y, double Width, double Height)> { (0, 0, 114, 229) };
        foreach (var cut in brick.Cuts)
        {
            var rest = Assert.Single(rests, r => cut.Upright
                ? Math.Abs(cut.YMm - r.Y) < near && Math.Abs(cut.LongMm - r.Height) < near && cut.XMm > r.X && cut.XMm < r.X + r.Width
                : Math.Abs(cut.XMm - r.X) < near && Math.Abs(cut.LongMm - r.Width) < near && cut.YMm > r.Y && cut.YMm < r.Y + r.Height);
            rests.Remove(rest);
            if (cut.Upright)
                rests.AddRange([rest with { Width = cut.XMm - rest.X }, (cut.XMm + kerf, rest.Y, rest.X + rest.Width - cut.XMm - kerf, rest.Height)]);
            else
                rests.AddRange([rest with { Height = cut.YMm - rest.Y }, (rest.X, cut.YMm + kerf, rest.Width, rest.Y + rest.Height - cut.YMm - kerf)]);
        }
        Assert.All(brick.Pieces, p => Assert.Contains(rests, r => Math.Abs(r.X - p.XMm) + Math.Abs(r.Y - p.YMm) + Math.Abs(r.Width - p.WidthMm) + Math.Abs(r.Height - p.HeightMm) < near));
        static (double, double, string) Size(double width, double height, string panel) => (Math.Min(width, height), Math.Max(width, height), panel);
        Assert.Equal(answer.Panels.SelectMany(p => p.Pieces.Where(l => l.Brick == brick.Brick).Select(l => Size(l.WidthMm, l.HeightMm, p.Name))).Order(),
            brick.Pieces.Select(p => Size(p.WidthMm, p.HeightMm, p.Panel)).Order());
    }

    [Fact]
    public void What_does_not_come_out_of_a_brick_is_not_drawn()
    {
        Assert.Equal([new(0, 113, 114, false)], BrickSaw.Of(0, [(113, 114, "a"), (113, 114, "b")], 114, 229, 3)!.Cuts);
        // A kerf less, and the second half is short.
        Assert.Null(BrickSaw.Of(0, [(113, 114, "a"), (114, 114, "b")], 114, 229, 3));
        Assert.Empty(BrickSaw.Of(0, [(114, 229, "whole")], 114, 229, 3)!.Cuts);
    }

    // Nominal 9 × 4½ in: 228.6 × 114.3 mm, sold as 229 × 114 (sizes of ASTM C 909's series in inches, from memory).
    [Fact]
    public void Brick_is_the_nine_inch_straight_of_the_tables() => Assert.Equal((229.0, 114.0), (Math.Round(9 * 25.4), Math.Round(4.5 * 25.4)));

    // Handbook 04 section 6.
    [Fact]
    public void Worked_layouts_of_the_handbook()
    {
        var whole = Ask(Of((460, 346)));
        Assert.Equal((6, 6, 0, 6 * 3.2), (whole.Bricks, whole.LowerBound, whole.CutList.Count, whole.Cost));
        Assert.All(whole.Panels[0].Pieces, p => Assert.False(p.Cut));
        // Two halves of 113 from one.
        Assert.Equal(3, Ask(Of((344, 114), (344, 114))).Bricks);
        var four = Ask(Of((480, 380), (480, 300), (380, 300), (380, 300)));
        Assert.Equal(21, four.LowerBound);
        Assert.InRange(four.Bricks, 21, 22);
    }

    // Cut from one brick where one serves, whichever way it lies; only what is larger is put together.
    [Theory]
    [InlineData(228, 103)]
    [InlineData(103, 228)]
    [InlineData(229, 114)]
    [InlineData(60, 40)]
    public void One_brick_that_serves_is_not_put_together_from_two(double width, double height) => Assert.Single(Assert.Single(Ask(Of((width, height))).Panels).Pieces);

    [Fact]
    public void Ends_too_short_are_taken_from_two_neighbours()
    {
        // 229 and a joint leave 18 mm: three pieces, none under 30.
        var course = Ask(Of((480, 114)));
        Assert.Equal((3, 3), (course.Bricks, course.Panels[0].Pieces.Count));
        // 18 mm above a full course: two courses that are lower.
        Assert.All(Ask(Of((229, 134))).Panels[0].Pieces, p => Assert.True(Math.Min(p.WidthMm, p.HeightMm) >= 30));
        // A panel that is narrower than 30 mm has pieces as narrow as itself.
        Assert.Equal(1, Ask(Of((25, 400))).Bricks);
    }

    [Theory]
    [InlineData(421, 401, 339)]
    [InlineData(540, 316, 341)]
    [InlineData(500, 320, 280)]
    public void Four_panels_keep_the_rules_and_no_shelf_does_better(double width, double depth, double height)
    {
        var entry = Of((width, depth), (width, height), (depth, height), (depth, height));
        var answer = Ask(entry);
        Assert.InRange(answer.Bricks, answer.LowerBound, LayoutRules.Shelf(entry));
        Assert.InRange(answer.WasteShare, 0, 0.15);
    }

    [Fact]
    public void Wide_joints_and_thin_saws_have_a_bound_of_their_own()
    {
        var entry = Of((480, 300)) with { JointMm = 4, KerfMm = 2 };
        var answer = Ask(entry);
        Assert.InRange(answer.LowerBound, 1, answer.Bricks);
        Assert.Equal(["jointMm", "kerfMm"], Ask(Of((229, 114))).Assumed.Select(a => a.Field));
        Assert.Null(Ask(Of((229, 114)) with { Brick = _split with { Price = null } }).Cost);
    }

    [Fact]
    public void Bad_input_is_named()
    {
        var errors = new EntryErrors();
        Assert.Null(BrickLayoutAnswer.To(new([new("a", 5, 300), new("a", 300, 300), null!], new(10, 114), -1, 50), errors, new BrickSolver()));
        Assert.Equal(["brick.lengthMm", "jointMm", "kerfMm", "panels[0].widthMm", "panels[1].name", "panels[2]"], errors.ByField.Keys.Order(StringComparer.Ordinal));
        Assert.Contains("between 10 and 3000 mm", errors.ByField["panels[0].widthMm"][0], StringComparison.Ordinal);
        errors = new EntryErrors();
        Assert.Null(BrickLayoutAnswer.To(Of([.. Enumerable.Repeat((3000.0, 3000.0), 4)]), errors, new BrickSolver()));
        Assert.Contains("at most 400 are laid out at once", errors.ByField["panels"][0], StringComparison.Ordinal);
        errors = new EntryErrors();
        Assert.Null(BrickLayoutAnswer.To(new(), errors, new BrickSolver()));
        Assert.Contains("at least one", errors.ByField["panels"][0], StringComparison.Ordinal);
    }
}

/// <summary>The rules of handbook 04 section 1, checked by means of their own.</summary>
internal static class LayoutRules
{
    private const double Hair = 1e-6;

    public static void Hold(BrickLayoutEntry entry, BrickLayoutAnswer answer)
    {
        var (joint, kerf) = (entry.JointMm ?? 2, entry.KerfMm ?? 3);
        var (length, width) = (entry.Brick!.LengthMm!.Value, entry.Brick.WidthMm!.Value);
        foreach (var (asked, laid) in entry.Panels!.Zip(answer.Panels))
        {
            var (panelW, panelH) = (asked.WidthMm!.Value, asked.HeightMm!.Value);
            foreach (var (piece, i) in laid.Pieces.Select((p, i) => (p, i)))
            {
                Assert.True(piece.XMm >= -Hair && piece.YMm >= -Hair && piece.XMm + piece.WidthMm <= panelW + Hair && piece.YMm + piece.HeightMm <= panelH + Hair, $"{piece} sticks out of {asked}");
                Assert.True(Math.Min(piece.WidthMm, piece.HeightMm) >= Math.Min(30, Math.Min(panelW, panelH)) - Hair, $"{piece} is too narrow");
                foreach (var other in laid.Pieces.Take(i))
                {
                    Assert.True(piece.XMm + piece.WidthMm + joint <= other.XMm + Hair || other.XMm + other.WidthMm + joint <= piece.XMm + Hair
                        || piece.YMm + piece.HeightMm + joint <= other.YMm + Hair || other.YMm + other.HeightMm + joint <= piece.YMm + Hair, $"{piece} is nearer than a joint to {other}");
                }
            }
            // Pieces apart by a joint at least that cover the panel with their joints leave room for nothing else: every joint is exact.
            Assert.Equal((panelW + joint) * (panelH + joint), laid.Pieces.Sum(p => (p.WidthMm + joint) * (p.HeightMm + joint)), 0.01);
        }
        var bricks = answer.Panels.SelectMany(p => p.Pieces).GroupBy(p => p.Brick).ToList();
        Assert.Equal(answer.Bricks, bricks.Count);
        Assert.Equal(Enumerable.Range(0, answer.Bricks), bricks.Select(b => b.Key).Order());
        Assert.All(bricks, brick => Assert.True(Cuttable([.. brick.Select(p => (p.WidthMm, p.HeightMm))], length, width, kerf), $"brick {brick.Key} cannot be cut so"));
        Assert.Equal(answer.Panels.Sum(p => p.Pieces.Count(piece => piece.Cut)), answer.CutList.Count);
        Assert.Equal(1 - answer.Panels.Sum(p => p.Pieces.Sum(piece => piece.WidthMm * piece.HeightMm)) / (answer.Bricks * length * width), answer.WasteShare, 9);
        Assert.True(answer.Bricks >= answer.LowerBound);
    }

    // Straight through cuts: a plate is cut in two where some pieces end, each part likewise.
    private static bool Cuttable((double W, double H)[] pieces, double width, double height, double kerf)
    {
        if (pieces.Length == 1)
            return (pieces[0].W <= width + Hair && pieces[0].H <= height + Hair) || (pieces[0].H <= width + Hair && pieces[0].W <= height + Hair);
        if (pieces.Sum(p => p.W * p.H) > width * height + Hair)
            return false;
        for (var mask = 1; mask < (1 << pieces.Length) - 1; mask += 2)
        {
            (double W, double H)[] here = [.. pieces.Where((_, i) => (mask >> i & 1) == 1)], there = [.. pieces.Where((_, i) => (mask >> i & 1) == 0)];
            foreach (var at in Ends(here, kerf))
            {
                if (at + kerf < width && Cuttable(here, at, height, kerf) && Cuttable(there, width - at - kerf, height, kerf))
                    return true;
                if (at + kerf < height && Cuttable(here, width, at, kerf) && Cuttable(there, width, height - at - kerf, kerf))
                    return true;
            }
        }
        return false;
    }

    private static IEnumerable<double> Ends(IEnumerable<(double W, double H)> pieces, double kerf) => pieces.Aggregate(new HashSet<double> { 0 }, (ends, piece) =>
        [.. ends, .. ends.Select(e => Math.Round(e + piece.W + kerf, 4)), .. ends.Select(e => Math.Round(e + piece.H + kerf, 4))]).Where(e => e > 0).Select(e => e - kerf);

    /// <summary>Bricks by a simple shelf: courses lie as they come, an end goes into the first off-cut that holds it.</summary>
    public static int Shelf(BrickLayoutEntry entry)
    {
        var (length, width, joint, kerf) = (entry.Brick!.LengthMm!.Value, entry.Brick.WidthMm!.Value, entry.JointMm ?? 2, entry.KerfMm ?? 3);
        var offCuts = new List<(double Length, double Width)>();
        var bricks = 0;
        void Take(double l, double w)
        {
            var at = offCuts.FindIndex(o => o.Length >= l && o.Width >= w);
            var from = at < 0 ? (Length: length, Width: width) : offCuts[at];
            if (at < 0)
                bricks++;
            else
                offCuts.RemoveAt(at);
            offCuts.Add((from.Length - l - kerf, from.Width));
            offCuts.Add((l, from.Width - w - kerf));
        }
        foreach (var panel in entry.Panels!)
        {
            for (var y = 0.0; y < panel.HeightMm!.Value; y += width + joint)
            {
                for (var x = 0.0; x < panel.WidthMm!.Value; x += length + joint)
                    Take(Math.Min(length, panel.WidthMm.Value - x), Math.Min(width, panel.HeightMm.Value - y));
            }
        }
        return bricks;
    }
}
