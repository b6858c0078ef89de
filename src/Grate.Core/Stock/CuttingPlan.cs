using Grate.Core.Door;
using static Grate.Core.Sentence;

namespace Grate.Core.Stock;

/// <summary>A seal that a cutting plan is made for.</summary>
/// <param name="VisitId">Its visit.</param>
/// <param name="Place">Which seal of the stove.</param>
/// <param name="Day">Day of the visit.</param>
/// <param name="Household">Whose stove.</param>
/// <param name="Seal">Name of the seal.</param>
/// <param name="Kind">Rope or tape.</param>
/// <param name="SizeMm">Size, mm; null where it is not known.</param>
/// <param name="LengthM">Length to cut, m; null where it is not known.</param>
/// <param name="Cement">Whether cement goes under it.</param>
/// <param name="Why">Why it is due.</param>
/// <param name="Cut">Whether a piece was cut for it already.</param>
public sealed record PlannedSeal(Guid VisitId, SealPlace Place, DateOnly Day, string Household, string Seal, StockKind Kind, double? SizeMm, double? LengthM, bool Cement, string Why, bool Cut)
{
    /// <summary>Its name in a list of several stoves: "Door, Varga".</summary>
    [JsonIgnore]
    public string Named => $"{Seal}, {Household}";

    /// <summary>A seal that is due on a visit.</summary>
    public static PlannedSeal Of(Guid visitId, DateOnly day, string household, SealNeed need, bool cut) => new(visitId, need.Seal.Place, day, household, need.Seal.Name, SealNeed.StockOf(need.Seal.Kind),
        need.SizeMm, need.LengthM, need.Seal.Cement is RopeCement.Needed or RopeCement.ThinBead, need.Why, cut);

    internal string Id => $"{VisitId:N}/{Word.Of(Place)}";
}

/// <summary>A piece that is to be cut.</summary>
/// <param name="PieceId">A piece that lies there; null where it is bought.</param>
/// <param name="OfferId">The offer it is bought by; null where it lies there.</param>
/// <param name="Name">Its name: "12 mm rope, 1.80 m, in the van".</param>
/// <param name="LengthM">Its length, m.</param>
/// <param name="Seals">What is cut from it, in order.</param>
/// <param name="LeftM">What is left, m.</param>
/// <param name="Sentence">The same in words.</param>
public sealed record PlannedCut(Guid? PieceId, Guid? OfferId, string Name, double LengthM, IReadOnlyList<PlannedSeal> Seals, double LeftM, Sentence Sentence);

/// <summary>What to cut from what, for a visit, a day or a week (handbook 03 section 4).</summary>
/// <param name="Seals">Every seal that is due.</param>
/// <param name="Cuts">Pieces to cut: those that lie there first.</param>
/// <param name="Cost">What is to be bought, in the firm's money.</param>
/// <param name="Proven">Whether nothing better exists.</param>
/// <param name="Sentences">In words.</param>
public sealed record CuttingPlan(IReadOnlyList<PlannedSeal> Seals, IReadOnlyList<PlannedCut> Cuts, double Cost, bool Proven, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>Plans the cuts of seals that are due, none of them cut yet.</summary>
    /// <param name="seals">Seals, at most <see cref="GasketCuts.MostNeeds"/> of a kind to be cut.</param>
    /// <param name="pieces">What lies in the van, and in the store where it is at hand.</param>
    /// <param name="offers">What can be bought.</param>
    /// <param name="units">Units of the sentences.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="solver">Finds the best plan.</param>
    public static CuttingPlan? Of(IReadOnlyList<PlannedSeal> seals, IReadOnlyList<StockPiece> pieces, IReadOnlyList<StockOffer> offers, UnitSystem units, EntryErrors errors, ICutSolver solver)
    {
        var length = Units.Of(Quantity.Length, units);
        var (cuts, unmet, cost, proven) = (new List<PlannedCut>(), new List<PlannedSeal>(), 0.0, true);
        var bought = new List<string>();
        foreach (var kind in seals.Where(s => s is { Cut: false, SizeMm: not null, LengthM: not null }).GroupBy(s => s.Kind))
        {
            var (there, offered) = (pieces.Where(p => p.Kind == kind.Key && p.Amount >= DoorRanges.RopeLength.Min).ToDictionary(p => $"{p.Id}"), offers.Where(o => o.Kind == kind.Key).ToDictionary(o => $"{o.Id}"));
            var wanted = kind.ToDictionary(s => s.Id);
            if (GasketCuts.To(new([.. wanted.Select(s => new CutNeedEntry(s.Key, s.Value.SizeMm, s.Value.LengthM))], [.. there.Select(p => new CutStockEntry(p.Key, p.Value.SizeMm, p.Value.Amount))],
                [.. offered.Select(o => new CutOfferEntry(o.Key, o.Value.SizeMm, o.Value.Amount, o.Value.Price))]), errors, solver) is not { } best)
                return null;
            cuts.AddRange(best.Cuts.Select(c => c.From == CutFrom.Stock
                ? Cut(there[c.Piece].Id, null, $"{there[c.Piece].Named(units)}, {length.Format(there[c.Piece].Amount)}, {(there[c.Piece].VanId is null ? "in the store" : "in the van")}", there[c.Piece].Amount, c)
                : Cut(null, offered[c.Piece].Id, offered[c.Piece].Name, offered[c.Piece].Amount, c)));
            unmet.AddRange(best.Unmet.Select(u => wanted[u]));
            bought.AddRange(best.Buy.Select(b => $"{b.Count} × {offered[b.Offer].Name}"));
            (cost, proven) = (cost + best.Cost, proven && best.ProvenOptimal);

            PlannedCut Cut(Guid? piece, Guid? offer, string name, double ofM, Cut cut)
            {
                var own = cut.Needs.Select(n => wanted[n]).ToList();
                var one = seals.DistinctBy(s => s.VisitId).Count() == 1;
                return new(piece, offer, name, ofM, own, cut.LeftM, Say($"From {name}: ", Computed(string.Join(", then ", own.Select(s => $"{(one ? s.Seal : s.Named)} {length.Format(s.LengthM!.Value)}"))),
                    cut.LeftM > Limit.Met ? $"; {length.Format(cut.LeftM)} left." : "; nothing is left."));
            }
        }
        return new(seals, [.. cuts.OrderBy(c => c.OfferId is not null)], cost, proven, Words());

        IReadOnlyList<Sentence> Words()
        {
            var said = new Said();
            var open = seals.Where(s => !s.Cut).ToList();
            if (open.Count == 0)
                return said.Add(Weight.Verdict, Say(seals.Count == 0 ? "No seal is due here." : "Every seal that is due here is cut.")).InOrder();
            static string List(IEnumerable<PlannedSeal> of) => string.Join("; ", of.Select(s => s.Named));
            var unknown = open.Where(s => s.SizeMm is null || s.LengthM is null).ToList();
            if (bought.Count > 0)
                said.Add(Weight.Verdict, Say("To buy: ", Computed($"{string.Join(", ", bought)}; {cost:0.00} in all"), "."));
            else if (unmet.Count == 0 && unknown.Count < open.Count)
                said.Add(Weight.Verdict, Say("Everything can be cut from what is there."));
            if (unmet.Count > 0)
                said.Add(Weight.Verdict, Say($"No piece is long enough, here or to be bought: {List(unmet)}."));
            if (unknown.Count > 0)
                said.Add(Weight.Verdict, Say($"Not measured yet, take all sizes: {List(unknown)}."));
            var (cemented, tubes) = (open.Count(s => s.Cement), pieces.Where(p => p.Kind == StockKind.Cement).Sum(p => p.Amount));
            if (cemented > 0)
                said.Add(tubes > 0 ? Weight.Hint : Weight.Verdict, Say($"Cement goes under {(cemented == 1 ? "one of them" : $"{cemented} of them")}; ", Computed(tubes > 0 ? $"{tubes:0.#}" : "no"), tubes is > 0 and <= 1 or 0 ? " tube is there." : " tubes are there."));
            if (!proven)
                said.Add(Weight.Hint, Say("The search was ended before it was through: a better plan may exist."));
            return said.InOrder();
        }
    }
}
