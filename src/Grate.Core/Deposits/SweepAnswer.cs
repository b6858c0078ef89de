using Grate.Core.Flue;
using Grate.Core.Fuel;
using static Grate.Core.Sentence;

namespace Grate.Core.Deposits;

/// <summary>What a sweep says, and when to come back.</summary>
/// <param name="Deposits">What hangs in the flue.</param>
/// <param name="AfterMm">What hangs there after the sweep, mm by segment in flow order; null until it is said what was left.</param>
/// <param name="WonBackPa">Draft won back by it, Pa: all that was lost, until it is said what was left.</param>
/// <param name="Forecast">When to sweep again.</param>
/// <param name="WhatIfs">What would move that date.</param>
/// <param name="LearnedFrom">Pairs of visits the forecast rests on.</param>
/// <param name="Plan">How it is swept.</param>
/// <param name="StopCode">The stop that stands, or none.</param>
/// <param name="Sentences">In words.</param>
public sealed record SweepAnswer(
    DepositsAnswer Deposits, IReadOnlyList<double>? AfterMm, double WonBackPa, SweepForecastAnswer Forecast, IReadOnlyList<SweepWhatIf> WhatIfs,
    int LearnedFrom, SweepPlan Plan, string? StopCode, IReadOnlyList<Sentence> Sentences)
{
    /// <summary>Answers a sweep.</summary>
    /// <param name="record">As recorded.</param>
    /// <param name="place">What the records know.</param>
    /// <param name="day">Day of the sweep.</param>
    /// <param name="today">Today; a start of the season before it is past.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="SweepRecord"/>.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static SweepAnswer? To(SweepRecord record, SweepPlace place, DateOnly day, DateOnly today, EntryErrors errors, UnitSystem system)
    {
        var refused = new EntryErrors(system);
        record.Check(refused);
        var year = new WoodYear(place.MonthlyC);
        var wood = WoodAnswer.To(place.Wood, refused, system);
        var question = Question(record, place, wood, year);
        var deposits = DepositsAnswer.To(question, refused);
        errors.TakeOver(refused, field => field.Replace("stageByLabel", "found", StringComparison.Ordinal));
        if (wood is null || deposits is null || refused.Any)
            return null;
        var plan = PlanOf(record, place, deposits, system);
        plan.RefuseOutOfOrder(record.Done ?? [], refused);
        var observations = Observations(record, place, day, year, wood.KgPerYear);
        var forecast = SweepForecastAnswer.To(new SweepForecastEntry(day, today, record.LeftMm ?? 0, deposits.WorstRateMmPer100Kg,
            [.. observations.Select(o => new ObservationEntry(o.GrowthMm, o.WoodKg))], wood.KgPerYear, place.MonthlyC), refused);
        errors.TakeOver(refused, field => field);
        if (forecast is null || refused.Any)
            return null;
        var after = record.LeftMm is { } left ? record.Found?.ToDictionary(f => f.Key, f => f.Value is null ? null : Thinned(f.Value, left)) : null;
        var lostAfter = after is null ? 0 : DepositsAnswer.To(question with { StageByLabel = after, SweptL = null }, new EntryErrors())?.DraftLostPa ?? 0;
        var answer = new SweepAnswer(deposits, after is null ? null : [.. deposits.Segments.Select(s => after.GetValueOrDefault(s.Label)?.Mm ?? 0)],
            Math.Max(0, deposits.DraftLostPa - lostAfter), forecast,
            SweepWhatIf.For(question, deposits, wood.MoistureWet, forecast.RateMmPer100Kg,
                rate => new SweepForecast(day, record.LeftMm ?? 0, rate, wood.KgPerYear, year), today, system),
            observations.Count, plan, record.StopCode(), []);
        return answer with { Sentences = [.. answer.Words(record, place.Wood, system)] };
    }

    /// <summary>The next sweep alone, without words, what-ifs and plan: what the due list asks of every stove.</summary>
    /// <returns>Dates, or null where the records cannot be read by today's rules.</returns>
    public static SweepDates? DatesOf(SweepRecord record, SweepPlace place, DateOnly day, DateOnly today)
    {
        var errors = new EntryErrors();
        var year = new WoodYear(place.MonthlyC);
        if (WoodAnswer.To(place.Wood, errors, UnitSystem.Metric) is not { } wood
            || DepositsAnswer.WorstRateOf(Question(record, place, wood, year), errors) is not { } worst)
            return null;
        var rate = GrowthRate.Of(worst, Observations(record, place, day, year, wood.KgPerYear)).MmPer100Kg();
        return new SweepForecast(day, record.LeftMm ?? 0, rate, wood.KgPerYear, year).Dates(today);
    }

    /// <summary>
    /// Thickness in every segment at each point of the forecast's curve in an ordinary year, mm: what was left, and what has
    /// grown since, every segment at its own rate.
    /// </summary>
    /// <param name="leftMm">Left behind, mm.</param>
    public IReadOnlyList<IReadOnlyList<double>> SegmentsMm(double leftMm) => [.. Forecast.Curve.Select(point => (IReadOnlyList<double>)
        [.. Deposits.Segments.Select(s => leftMm + (point.P50Mm - leftMm) * s.RateMmPer100Kg / Deposits.WorstRateMmPer100Kg)])];

    /// <summary>The life of a stove's deposit, from all its recorded sweeps.</summary>
    /// <param name="place">What the records know; at least one sweep.</param>
    /// <param name="until">Last day of the axis.</param>
    public static FlueLife LifeOf(SweepPlace place, DateOnly until)
    {
        var now = WoodAnswer.To(place.Wood, new EntryErrors(), UnitSystem.Metric)?.KgPerYear ?? 0;
        return FlueLife.Of(place.Past, new WoodYear(place.MonthlyC), [.. place.Past.Select((s, i) => i == place.Past.Count - 1 ? now : Burnt(s, now))], until);
    }

    private static DepositsEntry Question(SweepRecord record, SweepPlace place, WoodAnswer? wood, WoodYear year) =>
        new(place.Flue, new SurroundingsEntry(year.OutdoorC, AltitudeM: place.AltitudeM), new FireEntry(MoistureWet: wood?.MoistureWet),
            Word.Of(place.Burns), Word.Of(wood?.Habit ?? Habit.Mixed), record.Found, record.SweptL);

    private static SweepPlan PlanOf(SweepRecord record, SweepPlace place, DepositsAnswer deposits, UnitSystem system)
    {
        var flue = FlueReading.Read(place.Flue, new EntryErrors(), new Assumptions())!;
        // Glaze is quoted for once it is seen, not because it is likely.
        var stages = deposits.Segments.Select(s => record.Found?.GetValueOrDefault(s.Label)?.Stage ?? Math.Min(2, s.LikelyStage)).ToList();
        return SweepPlan.For(flue, place.Features, stages, place.Learned, system);
    }

    private static DepositEntry Thinned(DepositEntry found, double leftMm) =>
        found with { Mm = Math.Min(leftMm, found.Mm ?? found.ThickestMm), WorstMm = Math.Min(leftMm, found.ThickestMm) };

    // Each pair of sweeps is one observation: what was found now less what was left then, on the wood between.
    private static List<GrowthObservation> Observations(SweepRecord record, SweepPlace place, DateOnly day, WoodYear year, double woodKgPerYear)
    {
        IReadOnlyList<EarlierSweep> sweeps = [.. place.Past, new EarlierSweep(day, record, place.Wood)];
        return [.. sweeps.Zip(sweeps.Skip(1)).Where(pair => pair.First.ThisFlue && pair.Second.ThisFlue && pair.Second.Record.Found is { Count: > 0 } && pair.Second.Day > pair.First.Day)
            .Select(pair => new GrowthObservation(pair.Second.Record.WorstInFlueMm() - (pair.First.Record.LeftMm ?? 0),
                Burnt(pair.First, woodKgPerYear) * year.ShareBetween(pair.First.Day, pair.Second.Day)))
            .Where(o => o.WoodKg >= 1)];
    }

    private static double Burnt(EarlierSweep sweep, double otherwise) =>
        sweep.Wood is { } then && WoodAnswer.To(then, new EntryErrors(), UnitSystem.Metric) is { } known ? known.KgPerYear : otherwise;

    private IEnumerable<Sentence> Words(SweepRecord record, WoodRecord wood, UnitSystem system)
    {
        var (thickness, mass, volume, draft) = (Units.Of(Quantity.Thickness, system), Units.Of(Quantity.Mass, system), Units.Of(Quantity.SmallVolume, system), Units.Of(Quantity.Draft, system));
        var worst = record.WorstFoundMm();
        if (record.Found is { Count: > 0 } || record.Cap is not null)
        {
            yield return Say("Worst spot ", Measured(thickness.Format(worst / 1000)), record.StopCode() switch
            {
                "glaze" => " with glaze: no fire until it is treated and looked at again. No brush takes it: chemical treatment over weeks, rotary tools, or a new liner.",
                "deposit" => ": no fire until swept.",
                _ when worst >= Deposit.SweepFrom.Value => $": sweep, {thickness.Format(Deposit.SweepFrom.Value / 1000)} is the limit.",
                _ => $": under the {thickness.Format(Deposit.SweepFrom.Value / 1000)} that ask for a sweep.",
            });
            yield return Say("In all it holds ", Computed(mass.Format(Deposits.TotalMassKg)), ", which would burn like ", Computed(mass.Format(Deposits.WoodEquivalentKg)),
                " of dry wood, and takes ", Computed(draft.Format(Deposits.DraftLostPa)), " off the draft. Swept, about ",
                Computed(volume.Format(Deposits.Segments.Sum(s => s.LooseL) / 1000)), " come down.");
        }
        foreach (var change in StageChanges(record))
            yield return change;
        if (Deposits.SweptVerdict is { } verdict)
        {
            yield return Say(Measured(volume.Format(record.SweptL!.Value / 1000)), verdict switch
            {
                SweptVerdict.MoreThanComputed => " came down, much more than was seen: a hidden deposit, below or above.",
                SweptVerdict.LessThanComputed => " came down, less than half of what was seen: it is still up there.",
                _ => " came down, as it should.",
            });
        }
        if (record.Fell?.Any(f => f is "brick" or "tile") == true)
            yield return Say("Masonry came down: look through the whole length by camera before any fire; an open flue is a stop.");
        if (record.Fell?.Contains("nest") == true)
            yield return Say("A nest came down: see whether the cap still keeps birds out.");
        if (record.LeftMm is { } left)
        {
            yield return Say("Swept to ", Measured(thickness.Format(left / 1000)), ", it pulls ", Computed(draft.Format(WonBackPa)), " more than before.",
                record.SeenThrough is "daylight" or "camera" ? $" Looked through by {record.SeenThrough}." : " Not yet looked through from end to end.");
        }
        foreach (var warned in Expectations(wood))
            yield return warned;
        string Date(DateOnly? date) => date is { } at ? $"{at:d MMMM yyyy}" : "not within ten years";
        yield return Say("Sweep again by ", Computed(Date(Forecast.NextSweep)), Forecast.Bound switch
        {
            SweepBound.Deposit => ": in a bad year the limit is reached then.",
            SweepBound.Yearly => ": once a year in any case.",
            _ => ": before the heating season.",
        }, " The limit comes ", Computed(Date(Forecast.P50Date)), " in an ordinary year, ", Computed(Date(Forecast.P90Date)), " in a bad one",
            LearnedFrom == 0 ? ", by the model alone until the next visit teaches it." : LearnedFrom == 1 ? ", learned from one pair of visits." : $", learned from {LearnedFrom} pairs of visits.");
    }

    // Clean below and glazed above points at what sits between (handbook 02 section 1).
    private IEnumerable<Sentence> StageChanges(SweepRecord record) =>
        Deposits.Segments.Zip(Deposits.Segments.Skip(1))
            .Where(pair => (Stage(record, pair.First), Stage(record, pair.Second)) is (1, 3) or (3, 1) or (0, 3))
            .Select(pair => Say($"The stage changes sharply between {pair.First.Label} and {pair.Second.Label}: look at what sits there, a plate, a bend, or the point where the flue leaves the house."));

    // What the fires lead to, and how often common practice looks then.
    private IEnumerable<Sentence> Expectations(WoodRecord wood)
    {
        var glazing = Deposits.Segments.Where(s => s.LikelyStage == 3).Select(s => s.Label).ToList();
        if (glazing.Count > 0)
            yield return Say($"With such fires glaze is to be expected in: {string.Join(", ", glazing)}. Glaze stops the stove at any thickness.");
        if (wood.Habit == Word.Of(Habit.Slow) || wood.Wood == "softwood")
            yield return Say("Common practice with slow fires and softwood: a look up the flue once a month.");
    }

    private static int Stage(SweepRecord record, SegmentDeposit segment) => record.Found?.GetValueOrDefault(segment.Label)?.Stage ?? 0;
}
