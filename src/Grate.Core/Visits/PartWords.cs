namespace Grate.Core.Visits;

/// <summary>A part has one word a visit, however many steps looked at it.</summary>
public static class PartWords
{
    /// <summary>
    /// The visit's word on each part: that of the latest step that saw it. That a later step did not see it takes nothing back, so
    /// "not seen" stands only where no step saw it.
    /// </summary>
    /// <param name="found">What the steps said, in any order.</param>
    public static IReadOnlyList<PartFound> Words(this IEnumerable<PartFound> found) =>
        [.. found.GroupBy(f => f.Part).Select(g => g.OrderBy(f => f.Condition != Condition.NotSeen).ThenBy(f => VisitSteps.NumberOf(f.Step)).Last())];

    /// <summary>
    /// The graver word of another step that a word would take back, or null: a rope found wearing at the cold checks is covered by "sound"
    /// when it is put back. Whichever of the two is said second, it is asked whether it is meant.
    /// </summary>
    /// <param name="now">The word that is said now.</param>
    /// <param name="others">The words of the visit's other steps on the same part.</param>
    public static PartFound? Covered(this PartFound now, IEnumerable<PartFound> others)
    {
        if (now.Condition == Condition.NotSeen)
            return null;
        var step = VisitSteps.NumberOf(now.Step);
        var seen = others.Where(o => o.Part == now.Part && o.Step != now.Step && o.Condition != Condition.NotSeen).ToLookup(o => VisitSteps.NumberOf(o.Step) < step);
        return seen[true].MaxBy(o => VisitSteps.NumberOf(o.Step)) is { } before && before.Condition > now.Condition ? before
            : seen[false].Where(o => o.Condition < now.Condition).MaxBy(o => VisitSteps.NumberOf(o.Step));
    }
}
