namespace Grate.Core.Door;

/// <summary>A seal whose rope or tape is to be renewed.</summary>
/// <param name="Seal">The seal.</param>
/// <param name="SizeMm">What to lay, mm; null where it is not known.</param>
/// <param name="LengthM">What to cut, m; null where it is not known.</param>
/// <param name="Why">Why it is due.</param>
public sealed record SealNeed(StoveSeal Seal, double? SizeMm, double? LengthM, string Why)
{
    /// <summary>What a seal's kind is called in the stock.</summary>
    public static StockKind StockOf(SealKind kind) => kind == SealKind.Tape ? StockKind.Tape : StockKind.Rope;

    /// <summary>
    /// The seals of a visit that are due and not renewed in it: by their mark, by their age, or because the old rope is out. What was
    /// fitted last stands in for a channel that nobody measured.
    /// </summary>
    public static IReadOnlyList<SealNeed> Of(VisitContext at)
    {
        var seals = SealsAnswer.To(new(), at, new EntryErrors())!.Seals;
        return [.. from seal in seals
                   where at.Text(SealFacts.Fitted(seal.Place)) is null
                   let why = Reason(seal, at)
                   where why is not null
                   select new SealNeed(seal, seal.SizeMm ?? at.History.NewestNumber(SealFacts.SizeMm(seal.Place)), seal.NeedM ?? seal.Fitted?.LengthM, why)];
    }

    private static string? Reason(StoveSeal seal, VisitContext at)
    {
        if (at.Text(SealFacts.Bare(seal.Place)) is not null)
            return "the old one is out";
        var (mark, from) = seal.Place switch
        {
            SealPlace.Door => ("door-rope", Condition.Wearing),
            SealPlace.AshDoor => ("ash-door", Condition.Wearing),
            // A pane that fogs keeps its tape.
            SealPlace.Glass => ("glass", Condition.Spent),
            _ => ("", Condition.Unsafe),
        };
        if (at.NewestConditionOf(mark) is { } word and (Condition.Wearing or Condition.Spent or Condition.Unsafe) && word >= from)
            return Word.Said(word).ToLowerInvariant();
        return seal.Fitted is { } fitted && at.Today > fitted.EndBy ? $"fitted in {fitted.Fitted.Year}" : null;
    }
}
