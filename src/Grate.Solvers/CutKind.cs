using Grate.Core.Door;

namespace Grate.Solvers;

/// <summary>Pieces that are never told apart: those of the stock of one length, or an offer.</summary>
/// <param name="Mm">Length.</param>
/// <param name="Price">Price of one; of the stock nothing.</param>
/// <param name="From">Where they are.</param>
/// <param name="Pieces">Places of the stock's pieces in the problem; of an offer its own place.</param>
internal sealed record CutKind(int Mm, long Price, CutFrom From, int[] Pieces)
{
    /// <summary>The kinds of a problem.</summary>
    public static CutKind[] Of(CutProblem problem) =>
        [.. problem.StockMm.Select((mm, i) => (mm, i)).GroupBy(s => s.mm, s => s.i).Select(s => new CutKind(s.Key, 0, CutFrom.Stock, [.. s])),
            .. problem.Offers.Select((o, i) => new CutKind(o.Mm, o.Price, CutFrom.Offer, [i]))];

    /// <summary>Pieces with what is cut from them; of the stock one after the other is taken.</summary>
    public static IReadOnlyList<CutPiece> Taken(IEnumerable<(CutKind Kind, int[] Needs)> cuts)
    {
        var taken = new Dictionary<CutKind, int>();
        int Next(CutKind kind) => kind.Pieces[kind.From == CutFrom.Stock ? (taken[kind] = taken.GetValueOrDefault(kind, -1) + 1) : 0];
        return [.. cuts.Select(c => new CutPiece(c.Kind.From, Next(c.Kind), c.Needs))];
    }
}
