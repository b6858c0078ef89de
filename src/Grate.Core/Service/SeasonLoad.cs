using static Grate.Core.Sentence;

namespace Grate.Core.Service;

/// <summary>A week of the season.</summary>
/// <param name="Monday">Its first day.</param>
/// <param name="PlannedMinutes">Visits that are planned, min.</param>
/// <param name="DueVisits">Visits that are due and not planned.</param>
/// <param name="DueMinutes">Their time, min; what is overdue counts in the week it is in.</param>
/// <param name="CapacityMinutes">Time the firm has for them, min.</param>
public sealed record SeasonWeek(DateOnly Monday, int PlannedMinutes, int DueVisits, int DueMinutes, int CapacityMinutes)
{
    /// <summary>Whether more is to be done than can be.</summary>
    public bool Overloaded => PlannedMinutes + DueMinutes > CapacityMinutes;
}

/// <summary>Load against capacity (handbook 10 section 5).</summary>
public static class SeasonLoad
{
    /// <summary>What the weeks come to: where the load passes the capacity, and from when visits must be pulled forward.</summary>
    /// <param name="weeks">Consecutive weeks, this one first.</param>
    public static IReadOnlyList<Sentence> Say(IReadOnlyList<SeasonWeek> weeks)
    {
        var words = new List<Sentence>();
        for (var i = 0; i < weeks.Count; i++)
        {
            if (!weeks[i].Overloaded)
                continue;
            var end = i;
            while (end + 1 < weeks.Count && weeks[end + 1].Overloaded)
                end++;
            words.Add(Rush(weeks, i, end));
            i = end;
        }
        if (words.Count == 0)
            words.Add(Sentence.Say("No week holds more than the firm can do."));
        return words;
    }

    private static Sentence Rush(IReadOnlyList<SeasonWeek> weeks, int from, int to)
    {
        var run = weeks.Skip(from).Take(to - from + 1).ToList();
        var (load, capacity) = (run.Sum(w => w.PlannedMinutes + w.DueMinutes), run.Sum(w => w.CapacityMinutes));
        var excess = load - capacity;
        var start = from;
        while (excess > 0 && start > 0)
        {
            start--;
            excess -= Math.Max(0, weeks[start].CapacityMinutes - weeks[start].PlannedMinutes - weeks[start].DueMinutes);
        }
        var when = from == to ? $"In the week of {Day(weeks[from].Monday)}, " : $"In the {to - from + 1} weeks from {Day(weeks[from].Monday)}, ";
        var lead = Sentence.Say(when, Computed(Hours(load)), " are to be done against ", Computed(Hours(capacity)), ".").Spans;
        return new Sentence([.. lead, .. (excess > 0
            ? from == 0
                ? Sentence.Say(" It cannot all be done then: stops first, and tell the households with low use that they come later.")
                : Sentence.Say(" Even with every free hour until then ", Computed(Hours(excess)), " stay over: begin at once, low-use stoves first.")
            : Sentence.Say(" Pull low-use stoves forward, from the week of ", Computed(Day(weeks[start].Monday)), " on.")).Spans]);
    }

    private static string Hours(int minutes) => $"{minutes / 60.0:0} h";

    private static string Day(DateOnly day) => $"{day:d MMM yyyy}";
}
