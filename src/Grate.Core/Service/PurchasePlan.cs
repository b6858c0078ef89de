using System.Globalization;
using Grate.Core.Door;
using Grate.Core.Stock;
using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>A want of a stove, with the day it is for.</summary>
/// <param name="StoveId">The stove.</param>
/// <param name="VisitId">Its next open visit; null where none is planned.</param>
/// <param name="Household">Whose stove.</param>
/// <param name="Place">Where.</param>
/// <param name="NeedOn">Day of that visit, else the day it is wanted by.</param>
/// <param name="Part">What is wanted.</param>
public sealed record StoveWant(Guid StoveId, Guid? VisitId, string Household, string Place, DateOnly NeedOn, WantedPart Part)
{
    // A list comes within a week, and an order leaves two days before it has to.
    private const int AfterLead = 9;

    /// <summary>Whether it is no stove's, but what is kept at least.</summary>
    public bool Kept => StoveId == Guid.Empty;

    /// <summary>What is kept at least of a part: wanted by the day on which an order with the next list comes.</summary>
    public static StoveWant Minimum(StockOffer offer, DateOnly today) => new(Guid.Empty, null, offer.Name, "", today.AddDays(offer.LeadDays + AfterLead), new(offer.Kind, offer.Minimum, offer.Name, "kept at least", offer.SizeMm));
}

/// <summary>What was ordered and has not come, or not wholly.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Name">Name of the pack.</param>
/// <param name="Kind">What it is.</param>
/// <param name="SizeMm">Size, mm, where its kind has sizes.</param>
/// <param name="PackAmount">What a pack holds: m or pieces.</param>
/// <param name="Packs">Packs ordered.</param>
/// <param name="Received">Packs that came.</param>
/// <param name="Supplier">Who sells it.</param>
/// <param name="OrderedOn">Day of the order.</param>
/// <param name="ExpectedOn">When it should come.</param>
/// <param name="ShelfMonths">Months that it keeps from then; null where it does not age.</param>
public sealed record Purchase(Guid Id, string Name, StockKind Kind, double? SizeMm, double PackAmount, int Packs, int Received, string Supplier, DateOnly OrderedOn, DateOnly ExpectedOn, int? ShelfMonths = null)
{
    /// <summary>Packs that are still to come.</summary>
    public int Open => Packs - Received;
}

/// <summary>How a want is met.</summary>
/// <param name="Want">The want.</param>
/// <param name="ArrivesOn">When the last of it comes; null where it lies there, or nobody sells it.</param>
/// <param name="OrderBy">The last day to order what is to be bought; null where nothing is.</param>
/// <param name="InTime">Whether it will be there.</param>
/// <param name="Sentence">The same in words.</param>
public sealed record WantMet(StoveWant Want, DateOnly? ArrivesOn, DateOnly? OrderBy, bool InTime, Sentence Sentence);

/// <summary>A line of a supplier's list.</summary>
/// <param name="OfferId">The part of the catalogue.</param>
/// <param name="Name">Its name.</param>
/// <param name="Packs">Packs.</param>
/// <param name="Cost">What they cost.</param>
public sealed record SupplierLine(Guid OfferId, string Name, int Packs, double Cost);

/// <summary>What one supplier is to be sent on one day.</summary>
/// <param name="Supplier">Who; empty where the catalogue does not say.</param>
/// <param name="On">Day of the list.</param>
/// <param name="Lines">What.</param>
/// <param name="Total">What it costs.</param>
public sealed record SupplierList(string Supplier, DateOnly On, IReadOnlyList<SupplierLine> Lines, double Total);

/// <summary>
/// What every stove wants, what serves it, and what is to be bought by when (handbook 10 section 4). What lies there serves the earliest
/// want first, then what was ordered; rope and tape are planned by whole pieces, because a seal is never spliced.
/// </summary>
/// <param name="Wants">Every want, by its day.</param>
/// <param name="Lists">One list a supplier and week.</param>
/// <param name="Sentences">In words.</param>
public sealed record PurchasePlan(IReadOnlyList<WantMet> Wants, IReadOnlyList<SupplierList> Lists, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>Most wants that are planned at once, the earliest.</summary>
    public const int MostWants = 2000;

    /// <summary>So long a size of rope is planned at most: a list that is looked at is planned again anyway.</summary>
    public static readonly Limit Patience = Limit.Assumed(0.3, "s", "a page is waited for");

    private sealed class Hurried(ICutSolver solver) : ICutSolver
    {
        public CutPlan Solve(CutProblem problem, TimeSpan time) => solver.Solve(problem, TimeSpan.FromSeconds(Math.Min(Patience.Value, time.TotalSeconds)));
    }

    // How one want comes to be there.
    private sealed record Source(DateOnly? ArrivesOn = null, DateOnly? OrderBy = null, bool Nobody = false, bool Unmeasured = false);

    // A piece of rope or tape, and when it comes; null where it lies there.
    private sealed record Length(double? SizeMm, double Amount, DateOnly? On);

    // Something to be bought, and for which want: the first of those that it serves.
    private sealed record Buy(StockOffer Offer, double Amount, DateOnly NeedOn, IReadOnlyList<int> For);

    /// <summary>Plans the purchases.</summary>
    /// <param name="wants">What stoves want, at most <see cref="MostWants"/>.</param>
    /// <param name="pieces">What lies in vans and store; what is past its day serves nobody.</param>
    /// <param name="coming">What was ordered.</param>
    /// <param name="offers">The catalogue.</param>
    /// <param name="today">Today.</param>
    /// <param name="units">Units of the sentences.</param>
    /// <param name="solver">Plans the cuts of rope and tape.</param>
    public static PurchasePlan Of(IReadOnlyList<StoveWant> wants, IReadOnlyList<StockPiece> pieces, IReadOnlyList<Purchase> coming, IReadOnlyList<StockOffer> offers, DateOnly today, UnitSystem units, ICutSolver solver)
    {
        pieces = [.. pieces.Where(p => !(p.BestBefore < today))];
        // A day that is over is wanted today.
        var inOrder = wants.Concat(offers.Where(o => o.Minimum > 0).Select(o => StoveWant.Minimum(o, today))).Select(w => w with { NeedOn = w.NeedOn < today ? today : w.NeedOn }).OrderBy(w => w.NeedOn).ThenBy(w => w.Household, StringComparer.Ordinal).Take(MostWants).ToList();
        var (sources, buys) = (new Source[inOrder.Count], new List<Buy>());
        foreach (var own in Enumerable.Range(0, inOrder.Count).GroupBy(i => (inOrder[i].Part.Kind, inOrder[i].Part.SizeMm, Name: inOrder[i].Part.Kind == StockKind.Other ? inOrder[i].Part.What : "")))
        {
            var (kind, sizeMm, _) = own.Key;
            bool Fits(StockKind of, double? size) => of == kind && (sizeMm is null || size is null || Math.Abs(size.Value - sizeMm.Value) < Limit.Met);
            var (there, ordered, offered) = (pieces.Where(p => Fits(p.Kind, p.SizeMm)).ToList(), coming.Where(c => c.Open > 0 && Fits(c.Kind, c.SizeMm)).OrderBy(c => c.ExpectedOn).ToList(), offers.Where(o => Fits(o.Kind, o.SizeMm)).ToList());
            List<int> measured = [.. own.Where(i => inOrder[i].Part.Amount is >= 0.01 && (StockPiece.Sizes(kind) is not { } sizes || (sizeMm >= sizes.Min && sizeMm <= sizes.Max)))];
            foreach (var i in own.Except(measured))
                sources[i] = new(Unmeasured: true);
            // What is only named is nobody's stock: each is bought for itself.
            if (kind == StockKind.Other)
                measured.ForEach(i => sources[i] = new(Nobody: true));
            else if (StockPiece.IsCut(kind))
                CutTo(measured, inOrder, there, ordered, offered, sources, buys, solver);
            else
                Count(measured, inOrder, there, ordered, offered, today, sources, buys);
        }
        var lists = Order(buys, today, inOrder, sources);
        List<WantMet> met = [.. inOrder.Select((w, i) => Met(w, sources[i], units))];
        return new(met, lists, Words(met, lists, today));
    }

    // Pieces by number: what lies there serves the earliest, then what was ordered, then the packs that come in time and cost least for all that is left.
    private static void Count(List<int> own, List<StoveWant> wants, List<StockPiece> there, List<Purchase> ordered, List<StockOffer> offers, DateOnly today, Source[] sources, List<Buy> buys)
    {
        var left = new Queue<(double Amount, DateOnly? On)>([(there.Sum(p => p.Amount), null), .. ordered.Select(o => (o.Open * o.PackAmount, (DateOnly?)o.ExpectedOn))]);
        var (amount, on) = left.Dequeue();
        var unmet = new List<(int Want, double Amount)>();
        foreach (var i in own)
        {
            var (rest, arrives) = (wants[i].Part.Amount!.Value, (DateOnly?)null);
            while (rest > Limit.Met && (amount > Limit.Met || left.Count > 0))
            {
                if (amount <= Limit.Met)
                {
                    (amount, on) = left.Dequeue();
                    continue;
                }
                var taken = Math.Min(rest, amount);
                (rest, amount, arrives) = (rest - taken, amount - taken, on);
            }
            sources[i] = new(arrives);
            if (rest <= Limit.Met)
                continue;
            if (offers.Count == 0)
                sources[i] = new(Nobody: true);
            else
                unmet.Add((i, rest));
        }
        var all = unmet.Sum(u => u.Amount);
        double CostOf(StockOffer offer) => Math.Ceiling(all / offer.Amount - Limit.Met) * offer.Price;
        foreach (var (i, rest) in unmet)
        {
            var best = offers.OrderBy(o => today.AddDays(o.LeadDays) <= wants[i].NeedOn ? 0 : o.LeadDays).ThenBy(CostOf).ThenBy(o => o.LeadDays).ThenBy(o => o.Name, StringComparer.Ordinal).First();
            buys.Add(new(best, rest, wants[i].NeedOn, [i]));
        }
    }

    // Rope and tape by whole pieces, the earliest wants first where there are more than one plan takes.
    private static void CutTo(List<int> own, List<StoveWant> wants, List<StockPiece> there, List<Purchase> ordered, List<StockOffer> offers, Source[] sources, List<Buy> buys, ICutSolver solver)
    {
        var stock = there.Where(p => p.Amount >= DoorRanges.RopeLength.Min).Select(p => new Length(p.SizeMm, p.Amount, null))
            .Concat(ordered.SelectMany(o => Enumerable.Repeat(new Length(o.SizeMm, o.PackAmount, o.ExpectedOn), o.Open))).Take(GasketCuts.MostStock).ToList();
        foreach (var some in own.Chunk(GasketCuts.MostNeeds))
        {
            var plan = GasketCuts.To(new([.. some.Select(i => new CutNeedEntry($"{i}", wants[i].Part.SizeMm, wants[i].Part.Amount))], [.. stock.Select((s, i) => new CutStockEntry($"{i}", s.SizeMm, s.Amount))],
                [.. offers.Take(GasketCuts.MostOffers).Select((o, i) => new CutOfferEntry($"{i}", o.SizeMm, o.Amount, o.Price))]), new EntryErrors(), new Hurried(solver))!;
            static int At(string id) => int.Parse(id, CultureInfo.InvariantCulture);
            foreach (var i in plan.Unmet.Select(At))
                sources[i] = new(Nobody: true);
            foreach (var cut in plan.Cuts)
            {
                List<int> served = [.. cut.Needs.Select(At)];
                foreach (var i in served)
                    sources[i] = new(cut.From == CutFrom.Stock ? stock[At(cut.Piece)].On : null);
                if (cut.From == CutFrom.Offer)
                    buys.Add(new(offers[At(cut.Piece)], offers[At(cut.Piece)].Amount, served.Min(i => wants[i].NeedOn), served));
            }
            foreach (var cut in plan.Cuts.Where(c => c.From == CutFrom.Stock))
                stock[At(cut.Piece)] = stock[At(cut.Piece)] with { Amount = cut.LeftM };
            stock.RemoveAll(s => s.Amount < DoorRanges.RopeLength.Min);
        }
    }

    // Order-by dates, packs and lists come from the same rules as /api/calculations/parts-order.
    private static IReadOnlyList<SupplierList> Order(List<Buy> buys, DateOnly today, List<StoveWant> wants, Source[] sources)
    {
        if (buys.Count == 0)
            return [];
        var offers = buys.Select(b => b.Offer).DistinctBy(o => o.Id).ToDictionary(o => $"{o.Id}");
        var answer = PartsOrderAnswer.To(new(today, Parts: [.. offers.Values.Select(o => new PartEntry($"{o.Id}", 0, o.Amount, o.Price, o.LeadDays))],
            Needs: [.. buys.Select(b => new PartNeed($"{b.Offer.Id}", b.Amount, b.NeedOn))]), new EntryErrors())!;
        foreach (var (buy, met) in buys.Zip(answer.Needs))
        {
            foreach (var i in buy.For)
                sources[i] = new(new[] { sources[i]?.ArrivesOn, met.ArrivesOn }.Max(), met.OrderBy);
        }
        return [.. answer.Lists.SelectMany(list => list.Lines.GroupBy(l => offers[l.PartId].Supplier).OrderBy(s => s.Key, StringComparer.Ordinal)
            .Select(s => new SupplierList(s.Key, list.On, [.. s.Select(l => new SupplierLine(offers[l.PartId].Id, offers[l.PartId].Name, (int)l.Packs, l.Cost ?? 0))], s.Sum(l => l.Cost ?? 0))))];
    }

    private static string Day(DateOnly day) => $"{day:d MMMM}";

    private static WantMet Met(StoveWant want, Source source, UnitSystem units)
    {
        var inTime = source is { Nobody: false, Unmeasured: false } && (source.ArrivesOn is not { } comes || comes <= want.NeedOn);
        var visit = want.Kept ? "to be kept" : want.VisitId is null ? $"wanted by {Day(want.NeedOn)}" : $"for the visit of {Day(want.NeedOn)}";
        var thing = StockPiece.Named(want.Part.Kind, want.Part.SizeMm, units);
        var sentence = source switch
        {
            { Unmeasured: true } => Say("Not measured yet: take all sizes."),
            { Nobody: true } => Say($"Nothing in the catalogue gives it: {(want.Part.Kind == StockKind.Other ? want.Part.What : thing)} is to be asked for."),
            { ArrivesOn: null } => Say("It lies there."),
            { OrderBy: { } by } when inTime => Say("Order by ", Computed(Day(by)), ": it comes ", Computed(Day(source.ArrivesOn!.Value)), "."),
            { OrderBy: not null } => Say("Ordered with the next list it comes ", Computed(Day(source.ArrivesOn!.Value)), $": too late, {visit}."),
            _ => Say("Ordered, comes ", Computed(Day(source.ArrivesOn!.Value)), inTime ? "." : $": too late, {visit}."),
        };
        return new(want, source.ArrivesOn, source.OrderBy, inTime, sentence with { Weight = inTime ? Weight.Hint : Weight.Verdict });
    }

    private static IReadOnlyList<Sentence> Words(IReadOnlyList<WantMet> met, IReadOnlyList<SupplierList> lists, DateOnly today)
    {
        var said = new Said();
        if (met.Count == 0)
            return said.Add(Weight.Verdict, Say("No stove wants anything.")).InOrder();
        var endangered = met.Where(m => m is { InTime: false, Want.VisitId: not null }).Select(m => m.Want).DistinctBy(w => w.VisitId).ToList();
        if (endangered.Count > 0)
            said.Add(Weight.Verdict, Say(endangered.Count == 1 ? "A visit is without its parts: " : $"{endangered.Count} visits are without their parts: ", string.Join("; ", endangered.Take(4).Select(w => $"{w.Household}, {Day(w.NeedOn)}")), endangered.Count > 4 ? " and others." : "."));
        else
            said.Add(Weight.Verdict, Say(met.All(m => m.InTime) ? "Everything that is wanted lies there or comes in time." : "Every planned visit has its parts in time."));
        var now = lists.Where(l => l.On <= today.AddDays(6)).Sum(l => l.Lines.Sum(line => line.Packs));
        if (now > 0)
            said.Add(Weight.Hint, Say("To order within a week: ", Computed($"{now}"), now == 1 ? " pack." : " packs."));
        return said.InOrder();
    }
}
