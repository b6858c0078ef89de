using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Deposits;

/// <summary>A sweep as recorded in a visit; every field may still be missing.</summary>
/// <param name="Found">Deposits found before it, by the segments' labels.</param>
/// <param name="SweptL">What came down, L.</param>
/// <param name="LeftMm">Left behind at the worst spot, mm; default 0.</param>
/// <param name="GlazeLeft">Whether glaze stayed on a wall.</param>
/// <param name="Habit">How the household burns: hot, mixed or slow; default mixed.</param>
/// <param name="WoodKgPerYear">Wood a year, kg as fired; default 3 000.</param>
/// <param name="MoistureWet">Moisture of the wood, wet basis; default 18 %.</param>
public sealed record SweepRecord(
    IReadOnlyDictionary<string, DepositEntry?>? Found = null, double? SweptL = null, double? LeftMm = null, bool? GlazeLeft = null,
    string? Habit = null, double? WoodKgPerYear = null, double? MoistureWet = null)
{
    /// <summary>Thickness at the worst spot, mm; 0 where nothing was found.</summary>
    public double WorstFoundMm() => Found?.Values.Select(d => d?.WorstMm ?? d?.Mm ?? 0).DefaultIfEmpty().Max() ?? 0;

    /// <summary>
    /// The stop that stands after it, or none: glaze until treated, 6 mm until swept (handbook 11 section 1). What was found
    /// counts until it is said what was left.
    /// </summary>
    public string? StopCode()
    {
        var glaze = GlazeLeft ?? Found?.Values.Any(d => d?.Stage == 3) == true;
        return glaze ? "glaze" : (LeftMm ?? WorstFoundMm()) >= Deposit.StopFrom.Value ? "deposit" : null;
    }
}

/// <summary>An earlier sweep of the same flue.</summary>
/// <param name="Day">When.</param>
/// <param name="Record">What was found and left.</param>
public sealed record EarlierSweep(DateOnly Day, SweepRecord Record);

/// <summary>What the records know of a stove that is swept.</summary>
/// <param name="Flue">The chain.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="MonthlyC">The site's monthly means, January first, °C.</param>
/// <param name="Burns">What burns there.</param>
/// <param name="Past">Earlier sweeps, oldest first.</param>
public sealed record SweepPlace(FlueEntry Flue, double AltitudeM, IReadOnlyList<double> MonthlyC, Technology Burns, IReadOnlyList<EarlierSweep> Past)
{
    /// <summary>Stoves from this year on count as certified, unless the records say otherwise.</summary>
    public static readonly Limit CertifiedFrom = Limit.Assumed(1992, "", "most stoves sold since then are tested for their smoke");

    /// <summary>What burns in a stove, by its kind and year.</summary>
    public static Technology BurnsIn(string kind, bool combustor, int year) =>
        combustor ? Technology.Catalytic
        : kind == "masonry-heater" ? Technology.MasonryHeater
        : year >= CertifiedFrom.Value ? Technology.Certified : Technology.Conventional;
}

/// <summary>What a sweep says, and when to come back.</summary>
/// <param name="Deposits">What hangs in the flue.</param>
/// <param name="Forecast">When to sweep again.</param>
/// <param name="LearnedFrom">Pairs of visits the forecast rests on.</param>
/// <param name="StopCode">The stop that stands, or none.</param>
/// <param name="Sentences">In words.</param>
public sealed record SweepAnswer(
    DepositsAnswer Deposits, SweepForecastAnswer Forecast, int LearnedFrom, string? StopCode, IReadOnlyList<Sentence> Sentences)
{
    private static readonly Limit _wood = Limit.Assumed(3000, "kg", "a main heater's winter");

    /// <summary>Answers a sweep.</summary>
    /// <param name="record">As recorded.</param>
    /// <param name="place">What the records know.</param>
    /// <param name="day">Day of the sweep.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="SweepRecord"/>.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static SweepAnswer? To(SweepRecord record, SweepPlace place, DateOnly day, EntryErrors errors, UnitSystem system)
    {
        var refused = new EntryErrors(system);
        var year = new WoodYear(place.MonthlyC);
        var wood = record.WoodKgPerYear ?? _wood.Value;
        var deposits = DepositsAnswer.To(new DepositsEntry(place.Flue, new SurroundingsEntry(year.OutdoorC, AltitudeM: place.AltitudeM),
            new FireEntry(MoistureWet: record.MoistureWet), Word.Of(place.Burns), record.Habit ?? Word.Of(Habit.Mixed), record.Found, record.SweptL), refused);
        var observations = Observations([.. place.Past, new EarlierSweep(day, record)], year, wood);
        var forecast = deposits is null ? null : SweepForecastAnswer.To(new SweepForecastEntry(day, day, record.LeftMm ?? 0, deposits.WorstRateMmPer100Kg,
            observations, wood, place.MonthlyC), refused);
        errors.TakeOver(refused, field => field == "fire.moistureWet" ? "moistureWet" : field.Replace("stageByLabel", "found", StringComparison.Ordinal));
        return deposits is null || forecast is null ? null
            : new SweepAnswer(deposits, forecast, observations.Count, record.StopCode(), [.. Words(record, deposits, forecast, observations.Count, system)]);
    }

    // Each pair of sweeps is one observation: what was found now less what was left then, on the wood between.
    private static List<ObservationEntry> Observations(IReadOnlyList<EarlierSweep> sweeps, WoodYear year, double woodKgPerYear) =>
        [.. sweeps.Zip(sweeps.Skip(1)).Where(pair => pair.Second.Record.Found is { Count: > 0 } && pair.Second.Day > pair.First.Day)
            .Select(pair => new ObservationEntry(pair.Second.Record.WorstFoundMm() - (pair.First.Record.LeftMm ?? 0),
                (pair.First.Record.WoodKgPerYear ?? woodKgPerYear) * year.ShareBetween(pair.First.Day, pair.Second.Day)))
            .Where(o => o.WoodKg >= 1)];

    private static IEnumerable<Sentence> Words(SweepRecord record, DepositsAnswer deposits, SweepForecastAnswer forecast, int pairs, UnitSystem system)
    {
        var (thickness, mass, volume, draft) = (Units.Of(Quantity.Thickness, system), Units.Of(Quantity.Mass, system), Units.Of(Quantity.SmallVolume, system), Units.Of(Quantity.Draft, system));
        var worst = record.WorstFoundMm();
        if (record.Found is { Count: > 0 })
        {
            yield return Say("Worst spot ", Measured(thickness.Format(worst / 1000)), record.StopCode() switch
            {
                "glaze" => " with glaze: no fire until it is treated and looked at again.",
                "deposit" => ": no fire until swept.",
                _ when worst >= Deposit.SweepFrom.Value => $": sweep, {thickness.Format(Deposit.SweepFrom.Value / 1000)} is the limit.",
                _ => $": under the {thickness.Format(Deposit.SweepFrom.Value / 1000)} that ask for a sweep.",
            });
            yield return Say("In all it holds ", Computed(mass.Format(deposits.TotalMassKg)), ", which would burn like ", Computed(mass.Format(deposits.WoodEquivalentKg)),
                " of dry wood, and takes ", Computed(draft.Format(deposits.DraftLostPa)), " off the draft. Swept, about ",
                Computed(volume.Format(deposits.Segments.Sum(s => s.LooseL) / 1000)), " come down.");
        }
        if (deposits.SweptVerdict is { } verdict)
        {
            yield return Say(Measured(volume.Format(record.SweptL!.Value / 1000)), verdict switch
            {
                SweptVerdict.MoreThanComputed => " came down, much more than was seen: a hidden deposit, below or above.",
                SweptVerdict.LessThanComputed => " came down, less than half of what was seen: it is still up there.",
                _ => " came down, as it should.",
            });
        }
        string Date(DateOnly? date) => date is { } at ? $"{at:d MMMM yyyy}" : "not within ten years";
        yield return Say("Sweep again by ", Computed(Date(forecast.NextSweep)), forecast.Bound switch
        {
            SweepBound.Deposit => ": in a bad year the limit is reached then.",
            SweepBound.Yearly => ": once a year in any case.",
            _ => ": before the heating season.",
        }, " The limit comes ", Computed(Date(forecast.P50Date)), " in an ordinary year, ", Computed(Date(forecast.P90Date)), " in a bad one",
            pairs == 0 ? ", by the model alone until the next visit teaches it." : pairs == 1 ? ", learned from one pair of visits." : $", learned from {pairs} pairs of visits.");
    }
}
