using Grate.Core.Deposits;
using Grate.Core.Door;
using Grate.Core.Flue;

namespace Grate.Core.Household;

/// <summary>
/// What of flue, door and draft a visit looked at. What nobody looked at is not inspected: no fire is said to be safe, and no date moves,
/// by it (common practice).
/// </summary>
/// <param name="Flue">Whether the flue was seen, or its deposits were measured.</param>
/// <param name="Door">Whether the door rope, latch or glass was seen, or a strip was pulled.</param>
/// <param name="Draft">Whether the draft was read or judged at a fire.</param>
public sealed record LookedAt(bool Flue, bool Door, bool Draft)
{
    /// <summary>Words of the three, in the order in which they are told: the end of their keys in the language files.</summary>
    public static IReadOnlyList<string> All { get; } = ["flue", "door", "draft"];

    private static readonly string[] _door = ["door-rope", "latch", "glass"];

    /// <summary>Whether it was an inspection of stove and flue. A draft that was not read is left out with a reason, and moves no date.</summary>
    public bool Inspected => Flue && Door;

    /// <summary>Words of what was not looked at.</summary>
    public IReadOnlyList<string> Not => [.. All.Zip([Flue, Door, Draft]).Where(p => !p.Second).Select(p => p.First)];

    /// <summary>Of an earlier visit.</summary>
    public static LookedAt Of(EarlierVisit visit) => Of(visit.Found, visit.Facts.Select(f => f.Name));

    /// <summary>Of the visit that is going on.</summary>
    public static LookedAt Of(VisitContext at) => Of(at.Found, at.Facts.Select(f => f.Name));

    private static LookedAt Of(IReadOnlyList<PartFound> found, IEnumerable<string> facts)
    {
        var seen = found.Where(f => f.Condition != Condition.NotSeen).Select(f => f.Part).ToHashSet();
        var known = facts.ToHashSet();
        return new(seen.Contains("flue") || known.Contains(DepositFacts.WorstMm), _door.Any(seen.Contains) || known.Contains(DoorFacts.StripShare()),
            seen.Contains("draft") || Enum.GetValues<FiringLevel>().Any(l => known.Contains(FlueFacts.Verdict(l))));
    }

    /// <summary>What was not looked at, for whoever signs; null where all three were.</summary>
    public string? Sentence => Not.Count == 0 ? null : $"Not checked: {string.Join(", ", Not)}.";
}
