using System.Globalization;
using Grate.Core;
using Grate.Core.Stock;
using Grate.Store;

namespace Grate.Server.Features.Stock;

/// <summary>The catalogue as a list: out, and in again all or nothing, a part of the same name and supplier as a change.</summary>
internal static class CatalogueLists
{
    private const int MostRows = 2000, MostBytes = 1024 * 1024, MostRefused = 20;

    private static readonly string[] _columns = ["part", "kind", "size mm", "amount", "price", "supplier", "orders to", "lead days", "minimum", "shelf months"];

    private static readonly string[] _needed = ["part", "kind", "amount", "price"];

    /// <summary>What a list may weigh.</summary>
    public static readonly BodyLimit Limit = new(MostBytes, "A catalogue is at most 1 MB.");

    /// <summary>The list as a file.</summary>
    public static async Task<IResult> OutAsync(StockStore store)
    {
        var offers = await store.OffersAsync();
        return TypedResults.Stream(async stream =>
        {
            await using var csv = Csv.To(stream);
            await csv.WriteRecordAsync(_columns);
            foreach (var o in offers)
                await csv.WriteRecordAsync([o.Name, Word.Of(o.Kind), Number(o.SizeMm), Number(o.Amount), Number(o.Price), o.Supplier, o.SupplierMail, Number(o.LeadDays), Number(o.Minimum), Number(o.ShelfMonths)]);
        }, Csv.Type, "catalogue.csv");
    }

    /// <summary>Offers of a list, or none with sentences in <paramref name="errors"/> by its lines.</summary>
    /// <param name="bytes">The file.</param>
    /// <param name="known">What is in the catalogue.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static IReadOnlyList<StockOffer> Read(byte[] bytes, IReadOnlyList<StockOffer> known, EntryErrors errors)
    {
        var (header, rows) = Csv.Read(bytes, 50, MostRows, errors);
        var at = _columns.Select(c => header.ToList().FindIndex(h => string.Equals(h.Trim(), c, StringComparison.OrdinalIgnoreCase))).ToArray();
        if (!errors.Any && _columns.Where((c, i) => at[i] < 0 && _needed.Contains(c)).ToList() is { Count: > 0 } missing)
            errors.Add("list", $"Missing: {string.Join(", ", missing)}. Columns are {string.Join(", ", _columns)}.");
        if (errors.Any)
            return [];
        var (offers, seen) = (new List<StockOffer>(), new HashSet<string>(StringComparer.OrdinalIgnoreCase));
        var before = known.GroupBy(KeyOf, StringComparer.OrdinalIgnoreCase).ToDictionary(g => g.Key, g => g.First(), StringComparer.OrdinalIgnoreCase);
        foreach (var (line, cells) in rows)
        {
            string Cell(int column) => at[column] >= 0 && at[column] < cells.Count ? Plain(cells[at[column]]) : "";
            var row = new EntryErrors();
            double? Told(int column)
            {
                var text = Cell(column).Replace(',', '.');
                if (text.Length == 0)
                    return null;
                if (double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var number) && double.IsFinite(number))
                    return number;
                row.Add(_columns[column], $"“{text[..Math.Min(text.Length, 20)]}” is no number.");
                return null;
            }
            var (supplier, days, shelf) = (Cell(5), Told(7), Told(9));
            var offer = StockOffer.New(Guid.CreateVersion7(), Cell(0), Cell(1), Told(2), Told(3), Told(4), supplier, Cell(6), days is null ? null : (int)Math.Clamp(days.Value, -1, 1_000_000), Told(8), shelf is null ? null : (int)Math.Clamp(shelf.Value, -1, 1_000_000), row);
            if (offer is not null && !seen.Add(KeyOf(offer)))
                row.Add("part", "The same part of the same supplier stands above already.");
            foreach (var sentence in row.ByField.SelectMany(f => f.Value).Take(errors.ByField.Count < MostRefused ? 3 : 0))
                errors.Add($"line {line}", sentence);
            if (!row.Any)
                offers.Add(before.TryGetValue(KeyOf(offer!), out var was) ? Over(was, offer!) : offer!);
        }
        return errors.Any ? [] : offers;

        // What a list has no column for stays as it was.
        StockOffer Over(StockOffer was, StockOffer offer) => offer with { Id = was.Id, Minimum = at[8] < 0 ? was.Minimum : offer.Minimum, ShelfMonths = at[9] < 0 ? was.ShelfMonths : offer.ShelfMonths };
    }

    private static string KeyOf(StockOffer offer) => $"{offer.Name}\n{offer.Supplier}";

    // What was written out harmless for a spreadsheet is read as it was.
    private static string Plain(string cell) => cell.Trim() is ['\'', '=' or '+' or '-' or '@', ..] guarded ? guarded[1..] : cell.Trim();

    private static string Number(double? number) => number?.ToString(CultureInfo.InvariantCulture) ?? "";
}
