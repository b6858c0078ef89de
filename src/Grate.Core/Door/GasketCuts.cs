namespace Grate.Core.Door;

/// <summary>A seal that is due.</summary>
/// <param name="Id">Its name, 1 to 80 characters.</param>
/// <param name="SizeMm">Diameter, mm, 3..30.</param>
/// <param name="LengthM">Length to cut, its allowance in it, m, 0.01..100.</param>
public sealed record CutNeedEntry(string? Id = null, double? SizeMm = null, double? LengthM = null);

/// <summary>A piece that lies in the van.</summary>
/// <param name="Id">Its name.</param>
/// <param name="SizeMm">Diameter, mm.</param>
/// <param name="LengthM">Length, m.</param>
public sealed record CutStockEntry(string? Id = null, double? SizeMm = null, double? LengthM = null);

/// <summary>A piece that can be bought, in any number.</summary>
/// <param name="Id">Its name.</param>
/// <param name="SizeMm">Diameter, mm.</param>
/// <param name="LengthM">Length, m.</param>
/// <param name="Price">Price of a whole piece, 0..1 000 000.</param>
public sealed record CutOfferEntry(string? Id = null, double? SizeMm = null, double? LengthM = null, double? Price = null);

/// <summary>The question of POST /api/calculations/gasket-cuts.</summary>
/// <param name="Needs">Seals that are due.</param>
/// <param name="Stock">What lies in the van.</param>
/// <param name="Offers">What can be bought.</param>
public sealed record GasketCutsEntry(IReadOnlyList<CutNeedEntry>? Needs = null, IReadOnlyList<CutStockEntry>? Stock = null, IReadOnlyList<CutOfferEntry>? Offers = null);

/// <summary>Where a piece comes from.</summary>
[JsonConverter(typeof(WordConverter<CutFrom>))]
public enum CutFrom
{
    /// <summary>It lies in the van.</summary>
    Stock,

    /// <summary>It is bought.</summary>
    Offer,
}

/// <summary>A piece that is cut.</summary>
/// <param name="Piece">Name of the stock piece or the offer.</param>
/// <param name="From">Where it comes from.</param>
/// <param name="Needs">Seals cut from it.</param>
/// <param name="LeftM">What is left of it, m.</param>
public sealed record Cut(string Piece, CutFrom From, IReadOnlyList<string> Needs, double LeftM);

/// <summary>What is bought.</summary>
/// <param name="Offer">The offer.</param>
/// <param name="Count">How many whole pieces.</param>
public sealed record CutPurchase(string Offer, int Count);

/// <summary>One size of rope: lengths in whole mm, prices in whole ten-thousandths.</summary>
/// <param name="NeedsMm">Lengths to cut.</param>
/// <param name="StockMm">Pieces that are there, each once.</param>
/// <param name="Offers">Pieces that can be bought, any number of each.</param>
public sealed record CutProblem(IReadOnlyList<int> NeedsMm, IReadOnlyList<int> StockMm, IReadOnlyList<(int Mm, long Price)> Offers);

/// <summary>A piece of a plan, by its place in the problem.</summary>
/// <param name="From">Where it comes from.</param>
/// <param name="Index">Which stock piece or offer.</param>
/// <param name="Needs">Which needs are cut from it.</param>
public sealed record CutPiece(CutFrom From, int Index, IReadOnlyList<int> Needs);

/// <summary>A plan for one size.</summary>
/// <param name="Pieces">Pieces that are cut; needs in none of them are unmet.</param>
/// <param name="Proven">Whether nothing better exists.</param>
public sealed record CutPlan(IReadOnlyList<CutPiece> Pieces, bool Proven);

/// <summary>
/// Finds the best plan: fewest needs unmet, then least cost, then least left on pieces that are cut, then fewest pieces (handbook 03 section 4).
/// </summary>
public interface ICutSolver
{
    /// <summary>Plans one size.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="time">After so long the best plan so far is taken.</param>
    CutPlan Solve(CutProblem problem, TimeSpan time);
}

/// <summary>The answer of POST /api/calculations/gasket-cuts: one piece per seal, never spliced, sizes never mixed.</summary>
/// <param name="Cost">What is bought, in the offers' money.</param>
/// <param name="Buy">Whole pieces to buy.</param>
/// <param name="Cuts">One row per piece that is cut.</param>
/// <param name="WasteM">What is left on the pieces that are cut, m.</param>
/// <param name="Unmet">Needs that no piece can hold.</param>
/// <param name="ProvenOptimal">Whether the search was complete.</param>
public sealed record GasketCuts(double Cost, IReadOnlyList<CutPurchase> Buy, IReadOnlyList<Cut> Cuts, double WasteM, IReadOnlyList<string> Unmet, bool ProvenOptimal)
{
    /// <summary>Most needs at once: a week's round.</summary>
    public const int MostNeeds = 80;

    /// <summary>Most pieces in the van.</summary>
    public const int MostStock = 200;

    /// <summary>Most offers.</summary>
    public const int MostOffers = 60;

    /// <summary>After so long the best plan so far is taken.</summary>
    public static readonly Limit Patience = Limit.Assumed(6, "s", "nobody waits longer at a van");

    private const double PriceParts = 10_000;

    /// <summary>Answers a question.</summary>
    /// <param name="entry">The question.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="solver">Finds the best plan.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static GasketCuts? To(GasketCutsEntry entry, EntryErrors errors, ICutSolver solver)
    {
        var needs = Read("needs", "needs", MostNeeds, entry.Needs, n => (n.Id, n.SizeMm, n.LengthM), errors);
        var stock = Read("stock", "pieces", MostStock, entry.Stock, s => (s.Id, s.SizeMm, s.LengthM), errors);
        var offers = Read("offers", "offers", MostOffers, entry.Offers, o => (o.Id, o.SizeMm, o.LengthM), errors);
        foreach (var (price, i) in (entry.Offers ?? []).Take(MostOffers).Select((o, i) => (o?.Price, i)))
            errors.Need($"offers[{i}].price", price, EntryRange.Price);
        if (errors.Any)
            return null;

        // Needs are rounded up to whole mm, pieces down. Sizes are never mixed, so that each is a problem of its own.
        static int Up(double metres) => (int)Math.Ceiling(metres * 1000 - Limit.Met);
        static int Down(double metres) => (int)Math.Floor(metres * 1000 + Limit.Met);
        long Price(int offer) => (long)Math.Round(entry.Offers![offer].Price!.Value * PriceParts);
        var (cuts, unmet, proven) = (new List<(CutFrom From, int Index, IReadOnlyList<int> Needs, int LeftMm)>(), new List<int>(), true);
        var sizes = needs.Select((n, i) => (n, i)).GroupBy(n => Math.Round(n.n.SizeMm, 6)).ToList();
        foreach (var size in sizes)
        {
            int[] Of(List<(string Id, double SizeMm, double LengthM)> all) => [.. Enumerable.Range(0, all.Count).Where(i => Math.Round(all[i].SizeMm, 6) == size.Key)];
            int[] wanted = [.. size.Select(n => n.i)];
            var (there, offered) = (Of(stock), Of(offers));
            var problem = new CutProblem([.. wanted.Select(i => Up(needs[i].LengthM))], [.. there.Select(i => Down(stock[i].LengthM))], [.. offered.Select(i => (Down(offers[i].LengthM), Price(i)))]);
            var plan = solver.Solve(problem, TimeSpan.FromSeconds(Patience.Value / sizes.Count));
            proven &= plan.Proven;
            unmet.AddRange(Enumerable.Range(0, wanted.Length).Except(plan.Pieces.SelectMany(p => p.Needs)).Select(i => wanted[i]));
            cuts.AddRange(plan.Pieces.Select(p => (p.From, p.From == CutFrom.Stock ? there[p.Index] : offered[p.Index], (IReadOnlyList<int>)[.. p.Needs.Select(n => wanted[n]).Order()],
                (p.From == CutFrom.Stock ? problem.StockMm[p.Index] : problem.Offers[p.Index].Mm) - p.Needs.Sum(n => problem.NeedsMm[n]))));
        }
        var bought = cuts.Where(c => c.From == CutFrom.Offer).GroupBy(c => c.Index).OrderBy(o => o.Key).ToList();
        return new GasketCuts(bought.Sum(o => o.Count() * Price(o.Key)) / PriceParts, [.. bought.Select(o => new CutPurchase(offers[o.Key].Id, o.Count()))],
            [.. cuts.OrderBy(c => c.From).ThenBy(c => c.Index).ThenBy(c => c.Needs[0]).Select(c => new Cut((c.From == CutFrom.Stock ? stock : offers)[c.Index].Id, c.From,
                [.. c.Needs.Select(n => needs[n].Id)], c.LeftMm / 1000.0))],
            cuts.Sum(c => c.LeftMm) / 1000.0, [.. unmet.Order().Select(n => needs[n].Id)], proven);
    }

    private static List<(string Id, double SizeMm, double LengthM)> Read<T>(string field, string what, int most, IReadOnlyList<T>? entries,
        Func<T, (string? Id, double? SizeMm, double? LengthM)> parts, EntryErrors errors)
    {
        var read = new List<(string, double, double)>();
        var ids = new HashSet<string>(StringComparer.Ordinal);
        foreach (var (entry, i) in errors.Each(field, entries, most, what))
        {
            var (id, sizeMm, lengthM) = parts(entry);
            errors.CheckOwnName($"{field}[{i}].id", id, ids);
            if (errors.Need($"{field}[{i}].sizeMm", sizeMm, DoorRanges.RopeSize) & errors.Need($"{field}[{i}].lengthM", lengthM, DoorRanges.RopeLength) && id is not null)
                read.Add((id, sizeMm!.Value, lengthM!.Value));
        }
        return read;
    }
}
