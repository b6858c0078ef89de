using System.Globalization;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>An observation as entered.</summary>
/// <param name="GrowthMm">Growth, mm, −100..100.</param>
/// <param name="WoodKg">Wood, kg as fired, above 0.</param>
public sealed record ObservationEntry(double? GrowthMm = null, double? WoodKg = null);

/// <summary>The question of POST /api/calculations/sweep-forecast (handbook 02, section 5).</summary>
/// <param name="LastSweep">Day of the last sweep; needed.</param>
/// <param name="Today">Today; default the last sweep's day.</param>
/// <param name="LeftMm">Left behind then, mm; default 0.</param>
/// <param name="ModelMmPer100Kg">The rate model's worst segment, mm per 100 kg; needed, above 0.</param>
/// <param name="Observations">Pairs of visits.</param>
/// <param name="WoodKgPerYear">Wood a year, kg as fired; needed.</param>
/// <param name="MonthlyMeanC">Monthly means, January first, °C.</param>
/// <param name="ThresholdMm">Sweep from this on, mm; default 3.</param>
/// <param name="StopMm">No fire from this on, mm; default 6.</param>
/// <param name="SeasonStart">Start of the heating season, MM-dd.</param>
public sealed record SweepForecastEntry(
    DateOnly? LastSweep = null, DateOnly? Today = null, double? LeftMm = null, double? ModelMmPer100Kg = null,
    IReadOnlyList<ObservationEntry>? Observations = null, double? WoodKgPerYear = null, IReadOnlyList<double>? MonthlyMeanC = null,
    double? ThresholdMm = null, double? StopMm = null, string? SeasonStart = null);

/// <summary>The answer of POST /api/calculations/sweep-forecast.</summary>
/// <param name="P50Date">Threshold reached in an ordinary season; null if not within ten years.</param>
/// <param name="P90Date">In a bad season.</param>
/// <param name="StopDate">Stop reached in a bad season.</param>
/// <param name="NextSweep">When to sweep next; one in the past is overdue.</param>
/// <param name="Bound">Which rule set it.</param>
/// <param name="RateMmPer100Kg">Rates of the coming season.</param>
/// <param name="Curve">25 points.</param>
/// <param name="Assumed">Every default used.</param>
public sealed record SweepForecastAnswer(
    DateOnly? P50Date, DateOnly? P90Date, DateOnly? StopDate, DateOnly NextSweep, SweepBound Bound, Quantiles RateMmPer100Kg,
    IReadOnlyList<ForecastPoint> Curve, IReadOnlyList<Assumed> Assumed)
{
    private const int MostObservations = 200, FirstYear = 1900, LastYear = 2200;

    private static readonly EntryRange _left = new("Thickness left behind", Quantity.Thickness, 0, 100, 0.001);
    private static readonly EntryRange _model = new("Growth on 100 kg of wood", Quantity.Thickness, 1e-6, 100, 0.001);
    private static readonly EntryRange _growth = new("Growth", Quantity.Thickness, -100, 100, 0.001);
    private static readonly EntryRange _wood = new("Wood", Quantity.Mass, 0.1, 200_000);
    private static readonly EntryRange _yearly = new("Wood a year", Quantity.Wood, 0, 200_000);
    private static readonly EntryRange _limit = new("Thickness", Quantity.Thickness, 0.01, 100, 0.001);
    private static readonly Limit _clean = Limit.Assumed(0, "mm", "swept clean");

    /// <summary>Answers a forecast question.</summary>
    /// <param name="entry">The question.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="school">The firm's school of sweeping.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static SweepForecastAnswer? To(SweepForecastEntry entry, EntryErrors errors, SweepSchool school = SweepSchool.Forecast)
    {
        Check(entry, errors);
        var seasonStart = ReadSeason(entry.SeasonStart, errors);
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var lastSweep = entry.LastSweep!.Value;
        if (entry.Today is null)
            assumed.Note("today", lastSweep, Mark.Assumption, "the day of the last sweep");
        if (entry.MonthlyMeanC is null)
            assumed.Note("monthlyMeanC", WoodYear.OrdinaryC.ToArray(), Mark.Assumption, "an ordinary site");
        var year = new WoodYear(entry.MonthlyMeanC ?? WoodYear.OrdinaryC);
        if (seasonStart is null && (seasonStart = year.SeasonStart()) is { } start)
            assumed.Note("seasonStart", $"{start.Month:00}-{start.Day:00}", Mark.Assumption, WoodYear.SeasonDegreeDays.Reason);
        var threshold = assumed.Or(entry.ThresholdMm, "thresholdMm", Deposit.SweepFrom);
        var stop = assumed.Or(entry.StopMm, "stopMm", Deposit.StopFrom);

        var rate = GrowthRate.Of(entry.ModelMmPer100Kg!.Value, [.. (entry.Observations ?? []).Select(o => new GrowthObservation(o.GrowthMm!.Value, o.WoodKg!.Value))]).MmPer100Kg();
        var forecast = new SweepForecast(lastSweep, assumed.Or(entry.LeftMm, "leftMm", _clean), rate, entry.WoodKgPerYear!.Value, year);
        var dates = forecast.Dates(threshold, stop, entry.Today ?? lastSweep, seasonStart, school);
        return new SweepForecastAnswer(dates.P50, dates.P90, dates.Stop, dates.Next, dates.Bound, rate, forecast.Curve(), assumed.Used);
    }

    private static void Check(SweepForecastEntry entry, EntryErrors errors)
    {
        CheckDay("lastSweep", entry.LastSweep, errors);
        if (entry.LastSweep is null)
            errors.Add("lastSweep", "The day of the last sweep is missing: year-month-day.");
        CheckDay("today", entry.Today, errors);
        errors.Check("leftMm", entry.LeftMm, _left);
        errors.Need("modelMmPer100Kg", entry.ModelMmPer100Kg, _model);
        errors.Need("woodKgPerYear", entry.WoodKgPerYear, _yearly);
        errors.Check("thresholdMm", entry.ThresholdMm, _limit);
        errors.Check("stopMm", entry.StopMm, _limit);
        House.CheckMonths("monthlyMeanC", entry.MonthlyMeanC, errors);
        foreach (var (observation, i) in errors.Each("observations", entry.Observations, MostObservations, "observations"))
        {
            errors.Need($"observations[{i}].growthMm", observation.GrowthMm, _growth);
            errors.Need($"observations[{i}].woodKg", observation.WoodKg, _wood);
        }
    }

    private static void CheckDay(string field, DateOnly? day, EntryErrors errors)
    {
        if (day is { Year: < FirstYear or > LastYear })
            errors.Add(field, $"A day between {FirstYear} and {LastYear} is expected; {day:yyyy-MM-dd} was entered.");
    }

    private static (int Month, int Day)? ReadSeason(string? text, EntryErrors errors)
    {
        if (text is null)
            return null;
        // A leap year, so that 29 February can be entered.
        if (DateOnly.TryParseExact($"2024-{text}", "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var start))
            return (start.Month, start.Day);
        errors.Add("seasonStart", "The start of the heating season is a month and a day, as 10-01.");
        return null;
    }
}
