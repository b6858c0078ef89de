namespace Grate.Core.Visits;

/// <summary>What kind of rule makes something due.</summary>
[JsonConverter(typeof(WordConverter<DueKind>))]
public enum DueKind
{
    /// <summary>A stop that is to be cleared.</summary>
    Stop,

    /// <summary>A part that was to be looked at again.</summary>
    LookAgain,

    /// <summary>The sweep.</summary>
    Sweep,

    /// <summary>The inspection of stove and flue.</summary>
    Inspection,

    /// <summary>A part that was not seen for its interval.</summary>
    Part,
}

/// <summary>Something that is due for a stove.</summary>
/// <param name="Kind">Which rule says so.</param>
/// <param name="Part">The part it is about, or the stop's code; null where it is the whole stove.</param>
/// <param name="Earliest">Before this it is too early to make sense.</param>
/// <param name="By">Wanted by.</param>
/// <param name="Latest">Must be done by.</param>
/// <param name="Reason">Why, in a sentence.</param>
/// <param name="Minutes">Time it takes, min; 0 where the rule for its kind counts.</param>
/// <param name="Steps">Steps it needs; none where they follow from the kind and the part.</param>
public sealed record DueTask(DueKind Kind, string? Part, DateOnly Earliest, DateOnly By, DateOnly Latest, string Reason, int Minutes = 0, IReadOnlyList<string>? Steps = null)
{
    /// <summary>A task around a day.</summary>
    /// <param name="kind">Which rule says so.</param>
    /// <param name="part">The part, or null.</param>
    /// <param name="by">Wanted by.</param>
    /// <param name="early">So many months earlier is too early.</param>
    /// <param name="late">So many months later is the end.</param>
    /// <param name="reason">Why.</param>
    public static DueTask Around(DueKind kind, string? part, DateOnly by, Limit early, Limit late, string reason) =>
        new(kind, part, Months(by, -(int)early.Value), by, Months(by, (int)late.Value), reason);

    // A day at an end of the calendar has no month beyond it.
    private static DateOnly Months(DateOnly day, int months) => ((day.Year * 12) + day.Month - 1 + months) switch
    {
        < 12 => DateOnly.MinValue,
        >= 120000 => DateOnly.MaxValue,
        _ => day.AddMonths(months),
    };
}
