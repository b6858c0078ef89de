namespace Grate.Core.Service;

/// <summary>When what is due again (handbook 10 section 3).</summary>
public static class Intervals
{
    /// <summary>Months between inspections of stove and flue, unless the firm says otherwise.</summary>
    public static readonly Limit Inspection = Limit.Memory(12, "months", "NFPA 211: stove and flue are inspected at least once a year");

    /// <summary>Months between looks at seals, combustor, baffle, bricks, oven path, channels and clean-outs.</summary>
    public static readonly Limit Parts = Limit.Practice(12, "months", "what wears or clogs is seen once a year");

    private static readonly string[] _parts =
        ["door-rope", "glass", "ash-door", "seals", "combustor", "baffle", "bricks", "oven-path", "channels", "clean-out"];

    /// <summary>Calendar months from the day done; a day the month lacks becomes its last. 2028-02-29 + 12 is 2029-02-28.</summary>
    /// <param name="done">Day of the inspection.</param>
    /// <param name="months">Interval, 1..60 months.</param>
    public static DateOnly NextInspection(DateOnly done, int months) => done.AddMonths(months);

    /// <summary>Months after which a part is looked at again; null where it has no interval of its own.</summary>
    public static int? MonthsOf(string part) => _parts.Contains(part) ? (int)Parts.Value : null;
}
