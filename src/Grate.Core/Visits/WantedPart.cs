namespace Grate.Core.Visits;

/// <summary>Something that a stove wants from the stock, as its part of the trade knows it from signed visits.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="Amount">How much: m of rope and tape, pieces of anything else; null where it was not measured.</param>
/// <param name="What">Its name: "combustor", "left side board".</param>
/// <param name="Why">Why, in a few words: "6 to renew".</param>
/// <param name="SizeMm">Size, mm, where its kind has sizes; null where it is not known.</param>
/// <param name="By">When it is wanted, where that is a day of its own; null means with the next visit.</param>
public sealed record WantedPart(StockKind Kind, double? Amount, string What, string Why, double? SizeMm = null, DateOnly? By = null)
{
    /// <summary>What is wanted, as it goes into the van: "6 × bricks", "combustor".</summary>
    public VanItem ForTheVan() => new(Amount is { } pieces && pieces != 1 ? $"{pieces:0} × {What}" : What, Why);

    /// <summary>One of a kind, where a part was found spent or unsafe; none where it was not.</summary>
    /// <param name="history">What the records know.</param>
    /// <param name="mark">The part.</param>
    /// <param name="kind">What is then wanted.</param>
    public static IEnumerable<WantedPart> WhereSpent(StoveHistory history, string mark, StockKind kind) =>
        history.LastSeen(mark) is { Found.Condition: Condition.Spent or Condition.Unsafe } seen
            ? [new(kind, 1, Word.Said(kind).ToLowerInvariant(), $"found {Word.Said(seen.Found.Condition).ToLowerInvariant()} on {seen.Day:d MMMM yyyy}")] : [];
}
