namespace Grate.Core.Service;

/// <summary>A part as bought.</summary>
/// <param name="Id">Its id, 1 to 80 characters; needed.</param>
/// <param name="Stock">Pieces in van and store, 0..1 000 000; default 0.</param>
/// <param name="PackSize">Pieces in a pack, 0.001..1 000 000; default 1.</param>
/// <param name="PackPrice">Price of a pack; null if not known.</param>
/// <param name="LeadDays">Calendar days from order to arrival, 0..400; default 0.</param>
public sealed record PartEntry(string? Id = null, double? Stock = null, double? PackSize = null, double? PackPrice = null, int? LeadDays = null);

/// <summary>A need.</summary>
/// <param name="PartId">The part; needed.</param>
/// <param name="Quantity">Pieces, 0.001..1 000 000; needed.</param>
/// <param name="NeedOn">The day it is needed; needed.</param>
public sealed record PartNeed(string? PartId = null, double? Quantity = null, DateOnly? NeedOn = null);

/// <summary>The question of POST /api/calculations/parts-order.</summary>
/// <param name="Today">Today; needed.</param>
/// <param name="ListWeekday">Weekday of the purchase list, 1 Monday … 7 Sunday; default 1.</param>
/// <param name="Parts">Parts, at most 1 000.</param>
/// <param name="Needs">Needs in any order, at most 5 000.</param>
public sealed record PartsOrderEntry(DateOnly? Today = null, int? ListWeekday = null, IReadOnlyList<PartEntry>? Parts = null, IReadOnlyList<PartNeed>? Needs = null);

/// <summary>How a need is met.</summary>
/// <param name="PartId">The part.</param>
/// <param name="NeedOn">The day it is needed.</param>
/// <param name="FromStock">Pieces from stock.</param>
/// <param name="Packs">Packs bought for it.</param>
/// <param name="OrderBy">The last day to order; null where nothing is bought.</param>
/// <param name="ListOn">The list it stands on.</param>
/// <param name="Late">Whether that day is over.</param>
/// <param name="ArrivesOn">When the last of its pieces arrives; null where all are there.</param>
/// <param name="InTime">Whether that is no later than needed.</param>
public sealed record NeedMet(string PartId, DateOnly NeedOn, double FromStock, long Packs, DateOnly? OrderBy, DateOnly? ListOn, bool Late, DateOnly? ArrivesOn, bool InTime);

/// <summary>A line of a purchase list.</summary>
/// <param name="PartId">The part.</param>
/// <param name="Packs">Packs.</param>
/// <param name="Pieces">Pieces in them.</param>
/// <param name="Cost">What they cost; null without a price.</param>
public sealed record PurchaseLine(string PartId, long Packs, double Pieces, double? Cost);

/// <summary>A purchase list.</summary>
/// <param name="On">Its day.</param>
/// <param name="Lines">By part, in the order of the question.</param>
/// <param name="Total">Sum of the known costs.</param>
public sealed record PurchaseList(DateOnly On, IReadOnlyList<PurchaseLine> Lines, double Total);

/// <summary>
/// The answer of POST /api/calculations/parts-order (handbook 10 section 4): order-by = need − lead − 2 calendar days, one list a week.
/// Needed 2026-09-14 with a lead of 10 days: order by 2026-09-02, on the list of Monday 2026-08-31.
/// </summary>
/// <param name="Needs">Needs in the order of the question.</param>
/// <param name="Lists">Lists by date.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record PartsOrderAnswer(IReadOnlyList<NeedMet> Needs, IReadOnlyList<PurchaseList> Lists, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Days between arrival and need.</summary>
    public static readonly Limit Spare = Limit.Practice(2, "days", "a parcel may come late");

    private const int MostParts = 1000, MostNeeds = 5000, DaysInWeek = 7, LongestId = 80;

    private static readonly Limit
        _monday = Limit.Assumed(1, "", "one list a week, on Monday"),
        _noStock = Limit.Assumed(0, "", "nothing counted"),
        _single = Limit.Assumed(1, "", "sold singly"),
        _atOnce = Limit.Assumed(0, "days", "lies ready at the supplier");

    private static readonly EntryRange
        _stock = new("Stock", Quantity.Ratio, 0, 1_000_000),
        _pieces = new("Pieces", Quantity.Ratio, 0.001, 1_000_000),
        _lead = new("Lead time in days", Quantity.Count, 0, 400),
        _weekday = new("Weekday of the list", Quantity.Count, 1, DaysInWeek),
        _year = new("Year of a day", Quantity.Count, 2000, 2200);

    private sealed record Part(string Id, double Stock, double PackSize, double? PackPrice, int LeadDays);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static PartsOrderAnswer? To(PartsOrderEntry entry, EntryErrors errors)
    {
        var assumed = new Assumptions();
        if (entry.Today is null)
            errors.Add("today", "Today is missing: a day like 2026-08-03.");
        CheckDay("today", entry.Today, errors);
        errors.Check("listWeekday", entry.ListWeekday, _weekday);
        var weekday = (int)assumed.Or(entry.ListWeekday, "listWeekday", _monday);
        var parts = Read(entry.Parts, assumed, errors);
        var needs = new List<(PartNeed Need, int At)>();
        foreach (var (need, i) in errors.Each("needs", entry.Needs, MostNeeds, "needs"))
        {
            if (need.PartId is null || !parts.ContainsKey(need.PartId))
                errors.Add($"needs[{i}].partId", need.PartId is null ? "Which part is needed is missing." : $"There is no part “{need.PartId[..Math.Min(need.PartId.Length, LongestId)]}” in this question.");
            errors.Need($"needs[{i}].quantity", need.Quantity, _pieces);
            if (need.NeedOn is null)
                errors.Add($"needs[{i}].needOn", "The day it is needed is missing.");
            CheckDay($"needs[{i}].needOn", need.NeedOn, errors);
            needs.Add((need, i));
        }
        if (errors.Any)
            return null;
        var met = new NeedMet[needs.Count];
        foreach (var own in needs.GroupBy(n => n.Need.PartId!))
        {
            foreach (var (at, how) in Meet(parts[own.Key], own.OrderBy(n => n.Need.NeedOn).ThenBy(n => n.At), entry.Today!.Value, weekday))
                met[at] = how;
        }
        var order = parts.Keys.Select((id, i) => (id, i)).ToDictionary(p => p.id, p => p.i);
        var lists = met.Where(m => m.Packs > 0).GroupBy(m => m.ListOn!.Value).OrderBy(g => g.Key).Select(g =>
        {
            var lines = g.GroupBy(m => m.PartId).OrderBy(p => order[p.Key]).Select(p =>
            {
                var (part, packs) = (parts[p.Key], p.Sum(m => m.Packs));
                return new PurchaseLine(p.Key, packs, packs * part.PackSize, packs * part.PackPrice);
            }).ToList();
            return new PurchaseList(g.Key, lines, lines.Sum(l => l.Cost ?? 0));
        });
        return new(met, [.. lists], assumed.Used);
    }

    private static Dictionary<string, Part> Read(IReadOnlyList<PartEntry>? entries, Assumptions assumed, EntryErrors errors)
    {
        var parts = new Dictionary<string, Part>();
        foreach (var (part, i) in errors.Each("parts", entries, MostParts, "parts"))
        {
            errors.CheckText($"parts[{i}].id", part.Id, "A part's id", LongestId, needed: true);
            errors.Check($"parts[{i}].stock", part.Stock, _stock);
            errors.Check($"parts[{i}].packSize", part.PackSize, _pieces);
            errors.Check($"parts[{i}].packPrice", part.PackPrice, EntryRange.Price);
            errors.Check($"parts[{i}].leadDays", part.LeadDays, _lead);
            var read = new Part(part.Id ?? "", assumed.Or(part.Stock, $"parts[{i}].stock", _noStock), assumed.Or(part.PackSize, $"parts[{i}].packSize", _single), part.PackPrice,
                (int)assumed.Or(part.LeadDays, $"parts[{i}].leadDays", _atOnce));
            if (!parts.TryAdd(read.Id, read))
                errors.Add($"parts[{i}].id", $"“{read.Id[..Math.Min(read.Id.Length, LongestId)]}” stands twice: every part once.");
        }
        return parts;
    }

    private static void CheckDay(string field, DateOnly? day, EntryErrors errors) => errors.Check(field, day?.Year, _year);

    // Stock first, then what is left of packs bought for earlier needs, then the fewest packs for the rest.
    private static IEnumerable<(int At, NeedMet How)> Meet(Part part, IEnumerable<(PartNeed Need, int At)> needs, DateOnly today, int weekday)
    {
        // Packs are bought only once the ones before are used up: what is left is always of the last ones.
        var (stock, left, leftOn) = (part.Stock, 0.0, today);
        foreach (var (need, at) in needs)
        {
            var (needOn, rest) = (need.NeedOn!.Value, need.Quantity!.Value);
            var fromStock = Math.Min(stock, rest);
            (stock, rest) = (stock - fromStock, rest - fromStock);
            var fromPacks = Math.Min(left, rest);
            (left, rest) = (left - fromPacks, rest - fromPacks);
            DateOnly? arrives = fromPacks > 0 ? leftOn : null, orderBy = null, listOn = null;
            var packs = (long)Math.Ceiling(rest / part.PackSize - Limit.Met);
            if (packs > 0)
            {
                orderBy = needOn.AddDays(-part.LeadDays - (int)Spare.Value);
                listOn = ListOn(orderBy.Value, today, weekday);
                // Needs come by date: no later order arrives before an earlier one.
                arrives = leftOn = listOn.Value.AddDays(part.LeadDays);
                left = Math.Max(0, packs * part.PackSize - rest);
            }
            yield return (at, new NeedMet(part.Id, needOn, fromStock, packs, orderBy, listOn, orderBy < today, arrives, arrives is null || arrives <= needOn));
        }
    }

    // The list's weekday on or before the last day to order, but not before today.
    private static DateOnly ListOn(DateOnly orderBy, DateOnly today, int weekday)
    {
        var on = orderBy.AddDays(-(((int)orderBy.DayOfWeek + DaysInWeek - weekday) % DaysInWeek));
        return on < today ? today : on;
    }
}
