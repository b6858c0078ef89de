namespace Grate.Core.Firebox;

/// <summary>A piece where it lies in its brick.</summary>
/// <param name="XMm">From the brick's left, mm.</param>
/// <param name="YMm">From its top, mm.</param>
/// <param name="WidthMm">Width as it lies there, mm.</param>
/// <param name="HeightMm">Height as it lies there, mm.</param>
/// <param name="Panel">Where it goes.</param>
public sealed record SawnPiece(double XMm, double YMm, double WidthMm, double HeightMm, string Panel);

/// <summary>A straight cut through what lies before the saw.</summary>
/// <param name="XMm">From the brick's left, mm.</param>
/// <param name="YMm">From its top, mm.</param>
/// <param name="LongMm">How long it is, mm.</param>
/// <param name="Upright">Whether it runs from top to bottom.</param>
public sealed record SawCut(double XMm, double YMm, double LongMm, bool Upright);

/// <summary>A bought brick as it is taken to the saw, standing upright.</summary>
/// <param name="Brick">Its number, from 0.</param>
/// <param name="Pieces">What is cut from it.</param>
/// <param name="Cuts">The cuts, in their order; each goes straight through what the ones before it left.</param>
public sealed record SawnBrick(int Brick, IReadOnlyList<SawnPiece> Pieces, IReadOnlyList<SawCut> Cuts);

/// <summary>Where the pieces of a brick are sawn from it: every cut straight through, each losing the kerf, which may run off at an edge.</summary>
public sealed class BrickSaw
{
    // More than so many pieces to a brick are told by their sizes alone: the ways to arrange them are too many to go through.
    private const int MostPieces = 8;
    private const double Near = 0.01;

    private readonly double _kerf;

    private BrickSaw(double kerf) => _kerf = kerf;

    /// <summary>Arranges the pieces of a brick: two of 113 × 114 from 229 × 114 with one cut of 3.</summary>
    /// <param name="brick">Number of the brick.</param>
    /// <param name="pieces">Its pieces.</param>
    /// <param name="widthMm">Its shorter side, mm.</param>
    /// <param name="lengthMm">Its longer side, mm.</param>
    /// <param name="kerfMm">What a cut loses, mm.</param>
    /// <returns>The brick, or null where its pieces are too many or do not come out of it.</returns>
    public static SawnBrick? Of(int brick, IReadOnlyList<(double WidthMm, double HeightMm, string Panel)> pieces, double widthMm, double lengthMm, double kerfMm)
    {
        if (pieces.Count > MostPieces)
            return null;
        var (placed, cuts) = (new List<SawnPiece>(), new List<SawCut>());
        return new BrickSaw(kerfMm).Saw(new(0, 0, widthMm, lengthMm), [.. pieces.OrderByDescending(p => p.WidthMm * p.HeightMm)], placed, cuts) ? new(brick, placed, cuts) : null;
    }

    private sealed record Rest(double X, double Y, double Width, double Height);

    // One piece goes into the corner; a cut along it parts what is left in two, and the other pieces are shared out among them.
    private bool Saw(Rest rest, List<(double Width, double Height, string Panel)> pieces, List<SawnPiece> placed, List<SawCut> cuts)
    {
        if (pieces.Count == 0)
            return true;
        if (pieces.Sum(p => p.Width * p.Height) > rest.Width * rest.Height + Near)
            return false;
        foreach (var first in pieces.Distinct())
        {
            var others = pieces.ToList();
            others.Remove(first);
            foreach (var (width, height) in new[] { (first.Width, first.Height), (first.Height, first.Width) }.Distinct())
            {
                if (width > rest.Width + Near || height > rest.Height + Near)
                    continue;
                foreach (var across in new[] { true, false })
                {
                    var (beside, below) = (rest.Width - width - _kerf, rest.Height - height - _kerf);
                    var right = new Rest(rest.X + width + _kerf, rest.Y, beside, across ? height : rest.Height);
                    var under = new Rest(rest.X, rest.Y + height + _kerf, across ? rest.Width : width, below);
                    for (var share = 0; share < 1 << others.Count; share++)
                    {
                        var (toRight, toUnder) = (others.Where((_, i) => (share >> i & 1) == 1).ToList(), others.Where((_, i) => (share >> i & 1) == 0).ToList());
                        if ((toRight.Count > 0 && beside <= 0) || (toUnder.Count > 0 && below <= 0))
                            continue;
                        var (pieceCount, cutCount) = (placed.Count, cuts.Count);
                        placed.Add(new(rest.X, rest.Y, width, height, first.Panel));
                        Cut(cuts, across, rest, width, height);
                        if (Saw(right, toRight, placed, cuts) && Saw(under, toUnder, placed, cuts))
                            return true;
                        placed.RemoveRange(pieceCount, placed.Count - pieceCount);
                        cuts.RemoveRange(cutCount, cuts.Count - cutCount);
                    }
                }
            }
        }
        return false;
    }

    // The long cut first, then the one that frees the piece; none where the piece ends with what is left.
    private static void Cut(List<SawCut> cuts, bool across, Rest rest, double width, double height)
    {
        var flat = new SawCut(rest.X, rest.Y + height, across ? rest.Width : width, false);
        var upright = new SawCut(rest.X + width, rest.Y, across ? height : rest.Height, true);
        foreach (var cut in across ? new[] { flat, upright } : [upright, flat])
            if (cut.Upright ? rest.Width - width > Near : rest.Height - height > Near)
                cuts.Add(cut);
    }
}
