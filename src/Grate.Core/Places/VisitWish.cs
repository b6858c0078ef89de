namespace Grate.Core.Places;

/// <summary>A part of the day that a household wishes.</summary>
[JsonConverter(typeof(WordConverter<DayPart>))]
public enum DayPart
{
    /// <summary>At any time.</summary>
    [Said("Any time")]
    Any,

    /// <summary>Over by one o'clock.</summary>
    Mornings,

    /// <summary>From noon on.</summary>
    Afternoons,
}

/// <summary>When a household wants its visits: "mornings, not on a Tuesday".</summary>
/// <param name="When">Word of the part of the day.</param>
/// <param name="NotOn">Words of days on which they cannot.</param>
/// <param name="ColdFrom">From when on their stove is cold; null where they let it go out whenever somebody comes.</param>
public sealed record VisitWish([property: Words(typeof(DayPart))] string When = "any", IReadOnlyList<string>? NotOn = null, TimeOnly? ColdFrom = null)
{
    // A morning's visit is over by one, an afternoon's does not begin before noon [A].
    private static readonly TimeOnly _noon = new(12, 0), _one = new(13, 0);

    /// <summary>At any time.</summary>
    public static VisitWish Any { get; } = new("any", []);

    /// <summary>Refuses what cannot be.</summary>
    public void Check(string field, EntryErrors errors)
    {
        errors.Need<DayPart>($"{field}.when", When, "When they can");
        if (errors.Words<WorkDay>($"{field}.notOn", NotOn, "Day").Distinct().Count() == Enum.GetValues<WorkDay>().Length)
            errors.Add($"{field}.notOn", "One day of the week is left on which they can.");
    }

    /// <summary>From and to when a visit may begin by the wish, minutes since midnight. Mornings, 90 min: 0 to 690; afternoons: from 720 on.</summary>
    /// <param name="minutes">How long it takes, min.</param>
    public (double Earliest, double Latest) Window(double minutes) => (Word.Find<DayPart>(When) ?? DayPart.Any) switch
    {
        DayPart.Mornings => (0, _one.ToTimeSpan().TotalMinutes - minutes),
        DayPart.Afternoons => (_noon.ToTimeSpan().TotalMinutes, double.PositiveInfinity),
        _ => (0, double.PositiveInfinity),
    };

    /// <summary>Whether they can on a day.</summary>
    public bool On(DateOnly day) => NotOn?.Contains(WorkDays.Of(day)) != true;

    /// <summary>What a time says against the wish; null where it suits. Mornings, not Tuesdays, on a Tuesday at 14:00: "They cannot on a Tuesday. They asked for mornings."</summary>
    /// <param name="start">Local start.</param>
    /// <param name="minutes">How long, min.</param>
    public string? Against(DateTime start, int minutes)
    {
        var part = Word.Find<DayPart>(When) ?? DayPart.Any;
        var missed = (part == DayPart.Mornings && start.AddMinutes(minutes) > start.Date + _one.ToTimeSpan()) || (part == DayPart.Afternoons && TimeOnly.FromDateTime(start) < _noon);
        string[] said = [.. !On(DateOnly.FromDateTime(start)) ? (string[])[$"They cannot on a {start.DayOfWeek}."] : [], .. missed ? (string[])[$"They asked for {Word.Of(part)}."] : [],
            .. ColdFrom > TimeOnly.FromDateTime(start) ? (string[])[$"Their stove is not cold before {ColdFrom:HH:mm}."] : []];
        return said.Length > 0 ? string.Join(" ", said) : null;
    }
}

/// <summary>Days of the week by their words.</summary>
internal static class WorkDays
{
    /// <summary>The word of a day. 3 March 2026: "tuesday".</summary>
    public static string Of(DateOnly day) => Word.Of((WorkDay)(((int)day.DayOfWeek + 6) % 7));
}
