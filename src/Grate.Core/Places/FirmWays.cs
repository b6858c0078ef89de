namespace Grate.Core.Places;

/// <summary>A firm's paper.</summary>
[JsonConverter(typeof(WordConverter<PaperSize>))]
public enum PaperSize
{
    /// <summary>210 × 297 mm.</summary>
    [Said("A4")]
    A4,

    /// <summary>8.5 × 11 in.</summary>
    Letter,
}

/// <summary>A day of the week.</summary>
[JsonConverter(typeof(WordConverter<WorkDay>))]
public enum WorkDay
{
    /// <summary>Monday.</summary>
    Monday,

    /// <summary>Tuesday.</summary>
    Tuesday,

    /// <summary>Wednesday.</summary>
    Wednesday,

    /// <summary>Thursday.</summary>
    Thursday,

    /// <summary>Friday.</summary>
    Friday,

    /// <summary>Saturday.</summary>
    Saturday,

    /// <summary>Sunday.</summary>
    Sunday,
}

/// <summary>When a firm sweeps (handbook 10 section 3).</summary>
[JsonConverter(typeof(WordConverter<SweepSchool>))]
public enum SweepSchool
{
    /// <summary>By the forecast, once a year at the latest.</summary>
    Forecast,

    /// <summary>Once per quarter of use, as some countries' rules ask.</summary>
    Quarterly,
}

/// <summary>How a firm works.</summary>
/// <param name="Currency">Sign or letters of its money, 1 to 8 characters.</param>
/// <param name="Units">metric or us: what a new browser shows.</param>
/// <param name="Paper">a4 or letter.</param>
/// <param name="WorkDays">Words of its working days, at least one.</param>
/// <param name="From">A working day's beginning.</param>
/// <param name="To">And its end.</param>
/// <param name="Home">Where it is: what stands in for a house whose place nobody knows yet.</param>
/// <param name="Sweeping">Word of its school of sweeping.</param>
/// <param name="SeasonMonth">Month in which its households begin to heat, 1..12; null by each house's own climate.</param>
public sealed record FirmWays(string Currency, [property: Words(typeof(UnitSystem))] string Units, [property: Words(typeof(PaperSize))] string Paper, IReadOnlyList<string> WorkDays, TimeOnly From, TimeOnly To, Whereabouts? Home = null,
    [property: Words(typeof(SweepSchool))] string Sweeping = "forecast", int? SeasonMonth = null)
{
    private static readonly TimeSpan _shortest = TimeSpan.FromHours(1);
    private static readonly EntryRange _month = new("Month in which households begin to heat", Quantity.Count, 1, 12);

    /// <summary>Metric, A4, Monday to Friday, 08:00 to 17:00 [A].</summary>
    public static FirmWays Ordinary { get; } = new("€", "metric", "a4", ["monday", "tuesday", "wednesday", "thursday", "friday"], new(8, 0), new(17, 0));

    /// <summary>Refuses what cannot be.</summary>
    public void Check(EntryErrors errors)
    {
        errors.CheckText("ways.currency", Currency, "Currency", 8, needed: true);
        errors.Need<UnitSystem>("ways.units", Units, "Units");
        errors.Need<PaperSize>("ways.paper", Paper, "Paper");
        if (errors.Words<WorkDay>("ways.workDays", WorkDays, "Working day").Count == 0)
            errors.Add("ways.workDays", "A firm has at least one working day.");
        Home?.Check("ways.home", errors);
        errors.Need<SweepSchool>("ways.sweeping", Sweeping, "School of sweeping");
        errors.Check("ways.seasonMonth", SeasonMonth, _month);
        if (To - From < _shortest || To <= From)
            errors.Add("ways.to", $"A working day ends at least an hour after {From:HH:mm}; {To:HH:mm} was entered.");
    }

    /// <summary>Whether the firm works on a day.</summary>
    public bool WorksOn(DateOnly day) => WorkDays.Contains(Places.WorkDays.Of(day));

    /// <summary>What a time says against the firm's hours; null where it lies in them. Sunday, 09:00: "The firm does not work on a Sunday."</summary>
    /// <param name="start">Local start.</param>
    /// <param name="minutes">How long, min.</param>
    public string? Against(DateTime start, int minutes) =>
        !WorksOn(DateOnly.FromDateTime(start)) ? $"The firm does not work on a {start.DayOfWeek}."
        : TimeOnly.FromDateTime(start) < From ? $"The firm begins at {From:HH:mm}."
        : start.AddMinutes(minutes) > start.Date + To.ToTimeSpan() ? $"It would end at {start.AddMinutes(minutes):HH:mm}; the firm ends at {To:HH:mm}."
        : null;
}
