using Grate.Core.Flue;
using Grate.Core.Fuel;
using static Grate.Core.Sentence;

namespace Grate.Core.Deposits;

/// <summary>What a sweep says, and when to come back.</summary>
/// <param name="Deposits">What hangs in the flue.</param>
/// <param name="Expected">Whether nobody looked yet: what was left last time plus what has grown since.</param>
/// <param name="HangsMm">Typical thickness that hangs there, found or expected, mm by segment in flow order.</param>
/// <param name="AfterMm">What hangs there after the sweep, mm by segment in flow order; null until it is said what was left.</param>
/// <param name="WonBackPa">Draft won back by it, Pa: all that was lost, until it is said what was left.</param>
/// <param name="From">Day of the sweep the forecast starts from: this one, else the last.</param>
/// <param name="FromMm">Left behind then, mm.</param>
/// <param name="Forecast">When to sweep again.</param>
/// <param name="WhatIfs">What would move that date.</param>
/// <param name="LearnedFrom">Pairs of visits the forecast rests on.</param>
/// <param name="Plan">How it is swept.</param>
/// <param name="StopCode">The gravest stop that stands, or none.</param>
/// <param name="Sentences">In words.</param>
public sealed record SweepAnswer(
    DepositsAnswer Deposits, bool Expected, IReadOnlyList<double> HangsMm, IReadOnlyList<double>? AfterMm, double WonBackPa, DateOnly From, double FromMm, SweepForecastAnswer Forecast,
    IReadOnlyList<SweepWhatIf> WhatIfs, int LearnedFrom, SweepPlan Plan, string? StopCode, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>A deposit that takes less than this is not felt in the draft.</summary>
    public static readonly Limit DraftFeels = Limit.Assumed(0.3, "Pa", "less than a gauge can tell");

    /// <summary>Answers a sweep, or, where nothing was recorded yet, says what hangs there by now.</summary>
    /// <param name="record">As recorded.</param>
    /// <param name="place">What the records know.</param>
    /// <param name="day">Day of the sweep, or of the look at the records.</param>
    /// <param name="today">Today; a start of the season before it is past.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="SweepRecord"/>.</param>
    /// <param name="system">Units of the sentences.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static SweepAnswer? To(SweepRecord record, SweepPlace place, DateOnly day, DateOnly today, EntryErrors errors, UnitSystem system)
    {
        var refused = new EntryErrors(system);
        record.Check(refused);
        var chain = FlueReading.Read(place.Flue, new EntryErrors(), new Assumptions());
        record = record.Named(chain?.Segments ?? [], refused);
        var year = new WoodYear(place.MonthlyC);
        var wood = WoodAnswer.To(place.Wood, refused, system);
        var question = Question(record, place, wood, year);
        var deposits = DepositsAnswer.To(question, refused);
        errors.TakeOver(refused, field => field.Replace("stageByLabel", "found", StringComparison.Ordinal));
        if (wood is null || deposits is null || refused.Any)
            return null;
        var plan = PlanOf(record, place, chain!, deposits, system);
        WorkTask.RefuseOutOfOrder(plan.Order, record.Done ?? [], "sweep", "done", refused);
        var observations = Observations(record, place, day, year, wood.KgPerYear);
        var (from, left) = StartOf(record, place, day);
        var forecast = SweepForecastAnswer.To(new SweepForecastEntry(from, today, left, deposits.WorstRateMmPer100Kg,
            [.. observations.Select(o => new ObservationEntry(o.GrowthMm, o.WoodKg))], wood.KgPerYear, place.MonthlyC,
            SeasonStart: place.SeasonMonth is { } month ? $"{month:00}-01" : null), refused, place.School);
        errors.TakeOver(refused, field => field == "leftMm" || field.StartsWith("done", StringComparison.Ordinal) ? field : "found");
        if (forecast is null || refused.Any)
            return null;
        var expected = record.Found is null or { Count: 0 } && !record.WasSwept && place.LastSwept is not null;
        if (expected)
        {
            var grown = forecast.RateMmPer100Kg.P50 / 100 * wood.KgPerYear * year.ShareBetween(from, day);
            question = question with { StageByLabel = Grown(deposits, left, grown) };
            deposits = DepositsAnswer.To(question, new EntryErrors())!;
        }
        var after = record.LeftMm is { } stays ? record.Found?.ToDictionary(f => f.Key, f => f.Value is null ? null : Thinned(f.Value, stays)) : null;
        var lostAfter = after is null ? 0 : DepositsAnswer.To(question with { StageByLabel = after, SweptL = null }, new EntryErrors())?.DraftLostPa ?? 0;
        var answer = new SweepAnswer(deposits, expected, [.. deposits.Segments.Select(s => Typical(question.StageByLabel?.GetValueOrDefault(s.Label)))], after is null ? null : [.. deposits.Segments.Select(s => after.GetValueOrDefault(s.Label)?.Mm ?? 0)],
            Math.Max(0, deposits.DraftLostPa - lostAfter), from, left, forecast,
            SweepWhatIf.For(question, deposits, wood.MoistureWet, forecast.RateMmPer100Kg, rate => new SweepForecast(from, left, rate, wood.KgPerYear, year), rates => rates.Dates(today, place), system),
            observations.Count, plan, record.StopCodes().FirstOrDefault(), []);
        return answer with { Sentences = answer.Words(record, place, day, system) };
    }

    /// <summary>The next sweep alone, without words, what-ifs and plan: what the due list asks of every stove.</summary>
    /// <returns>Dates, or null where no sweep was recorded or the records cannot be read by today's rules.</returns>
    public static SweepDates? DatesOf(SweepPlace place, DateOnly today)
    {
        if (place.LastSwept is not { } last)
            return null;
        var errors = new EntryErrors();
        var year = new WoodYear(place.MonthlyC);
        if (WoodAnswer.To(place.Wood, errors, UnitSystem.Metric) is not { } wood
            || DepositsAnswer.WorstRateOf(Question(new SweepRecord(), place, wood, year), errors) is not { } worst)
            return null;
        var rate = GrowthRate.Of(worst, Observations(new SweepRecord(), place, today, year, wood.KgPerYear)).MmPer100Kg();
        return new SweepForecast(last.Day, last.LeftMm!.Value, rate, wood.KgPerYear, year).Dates(today, place);
    }

    /// <summary>
    /// Thickness in every segment at each point of the forecast's curve in an ordinary year, mm: what was left, and what has
    /// grown since, every segment at its own rate.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<double>> SegmentsMm() => [.. Forecast.Curve.Select(point => (IReadOnlyList<double>)
        [.. Deposits.Segments.Select(s => FromMm + (point.P50Mm - FromMm) * s.RateMmPer100Kg / Deposits.WorstRateMmPer100Kg)])];

    /// <summary>The life of a stove's deposit, from all its recorded sweeps.</summary>
    /// <param name="place">What the records know; at least one sweep.</param>
    /// <param name="until">Last day of the axis.</param>
    public static FlueLife LifeOf(SweepPlace place, DateOnly until)
    {
        var now = WoodAnswer.To(place.Wood, new EntryErrors(), UnitSystem.Metric)?.KgPerYear ?? 0;
        return FlueLife.Of(place.Past, new WoodYear(place.MonthlyC), [.. place.Past.Select((s, i) => i == place.Past.Count - 1 ? now : Burnt(s, now))], until);
    }

    // The forecast starts where the flue was last swept: today's sweep, else the one before.
    private static (DateOnly Day, double LeftMm) StartOf(SweepRecord record, SweepPlace place, DateOnly day) =>
        !record.WasSwept && place.LastSwept is { } last ? (last.Day, last.LeftMm!.Value) : (day, record.LeftMm ?? 0);

    // Every segment at its own rate; the stage is the one to be expected, glaze only once it is seen.
    private static Dictionary<string, DepositEntry?> Grown(DepositsAnswer deposits, double leftMm, double worstGrownMm) => deposits.Segments.ToDictionary(s => s.Label, s =>
        (DepositEntry?)new DepositEntry(Math.Clamp(s.LikelyStage, 1, 2), leftMm + worstGrownMm * s.RateMmPer100Kg / deposits.WorstRateMmPer100Kg));

    private static DepositsEntry Question(SweepRecord record, SweepPlace place, WoodAnswer? wood, WoodYear year) =>
        new(place.Flue, new SurroundingsEntry(year.OutdoorC, AltitudeM: place.AltitudeM), new FireEntry(MoistureWet: wood?.MoistureWet) { Fires = place.Fires },
            Word.Of(place.Burns), Word.Of(wood?.Habit ?? Habit.Mixed), record.Found, record.SweptL);

    private static SweepPlan PlanOf(SweepRecord record, SweepPlace place, FlueSystem flue, DepositsAnswer deposits, UnitSystem system)
    {
        // Glaze is quoted for once it is seen, not because it is likely.
        var stages = deposits.Segments.Select(s => record.Found?.GetValueOrDefault(s.Label)?.Stage ?? Math.Min(2, s.LikelyStage)).ToList();
        return SweepPlan.For(flue, place.Features, stages, place.Learned, system);
    }

    private static double Typical(DepositEntry? entry) => entry?.Mm ?? entry?.WorstMm ?? 0;

    private static DepositEntry Thinned(DepositEntry found, double leftMm) =>
        found with { Mm = Math.Min(leftMm, found.Mm ?? found.ThickestMm), WorstMm = Math.Min(leftMm, found.ThickestMm) };

    // Each pair of looks is one observation: what was found now less what stayed then, on the wood between.
    private static List<GrowthObservation> Observations(SweepRecord record, SweepPlace place, DateOnly day, WoodYear year, double woodKgPerYear)
    {
        IReadOnlyList<EarlierSweep> looks = record.Found is { Count: > 0 }
            ? [.. place.Past, new EarlierSweep(day, record.WorstInFlueMm(), record.LeftMm, place.Wood)] : place.Past;
        return [.. looks.Zip(looks.Skip(1)).Where(pair => pair.First is { ThisFlue: true, StayedMm: not null } && pair.Second is { ThisFlue: true, FoundMm: not null } && pair.Second.Day > pair.First.Day)
            .Select(pair => new GrowthObservation(pair.Second.FoundMm!.Value - pair.First.StayedMm!.Value,
                Burnt(pair.First, woodKgPerYear) * year.ShareBetween(pair.First.Day, pair.Second.Day)))
            .Where(o => o.WoodKg >= 1)];
    }

    private static double Burnt(EarlierSweep sweep, double otherwise) =>
        sweep.Wood is { } then && WoodAnswer.To(then, new EntryErrors(), UnitSystem.Metric) is { } known ? known.KgPerYear : otherwise;

    private IReadOnlyList<Sentence> Words(SweepRecord record, SweepPlace place, DateOnly day, UnitSystem system)
    {
        var said = new Said();
        var (thickness, mass, volume) = (Units.Of(Quantity.Thickness, system), Units.Of(Quantity.Mass, system), Units.Of(Quantity.SmallVolume, system));
        var worst = record.WorstFoundMm();
        if (Expected)
        {
            said.Add(Weight.Verdict, Say($"Swept on {From:d MMMM yyyy} to ", Measured(thickness.Format(FromMm / 1000)), $"; by {day:d MMMM yyyy} about ",
                Computed(thickness.Format(HangsMm.Max() / 1000)), " hang at the worst spot, by the wood burnt since."));
            AddHolds(said, system);
        }
        if (record.Found is { Count: > 0 } || record.Cap is not null)
        {
            said.Add(StopCode is null ? Weight.Verdict : Weight.Stop, Say("Worst spot ", Measured(thickness.Format(worst / 1000)), StopCode switch
            {
                "glaze" => " with glaze: no fire until it is treated and looked at again. No brush takes it: chemical treatment over weeks, rotary tools, or a new liner.",
                "deposit" => ": no fire until swept.",
                _ when record.WasSwept => " before the sweep.",
                _ when worst >= Deposit.SweepFrom.Value => $": sweep, {thickness.Format(Deposit.SweepFrom.Value / 1000)} is the limit.",
                _ => $": under the {thickness.Format(Deposit.SweepFrom.Value / 1000)} that ask for a sweep.",
            }));
            AddHolds(said, system);
        }
        else if (StopCode is not null)
            said.Add(Weight.Stop, Say(StopCode == "glaze" ? "Glaze stayed on a wall: no fire until it is treated and looked at again." : "So much stayed in the flue: no fire until swept."));
        foreach (var change in StageChanges(record))
            said.Add(Weight.Hint, change);
        if (Deposits.SweptVerdict is { } verdict)
        {
            said.Add(verdict == SweptVerdict.AsComputed ? Weight.Hint : Weight.Verdict, Say(Measured(volume.Format(record.SweptL!.Value / 1000)), verdict switch
            {
                SweptVerdict.MoreThanComputed => " came down, much more than was seen: a hidden deposit, below or above.",
                SweptVerdict.LessThanComputed => " came down, less than half of what was seen: it is still up there.",
                _ => " came down, as it should.",
            }));
        }
        if (record.Fell?.Any(f => f is "brick" or "tile") == true)
            said.Add(Weight.Verdict, Say("Masonry came down: look through the whole length by camera before any fire; an open flue is a stop."));
        if (record.Fell?.Contains("nest") == true)
            said.Add(Weight.Hint, Say("A nest came down: see whether the cap still keeps birds out."));
        if (record.LeftMm is { } left)
        {
            said.Add(Weight.Verdict, Say("Swept to ", Measured(thickness.Format(left / 1000)), WonBackPa < DraftFeels.Value ? ". The draft hardly feels it." : ": it pulls ",
                WonBackPa < DraftFeels.Value ? "" : Computed(Units.Of(Quantity.Draft, system).Format(WonBackPa)), WonBackPa < DraftFeels.Value ? "" : " more than before.",
                record.SeenThrough is "daylight" or "camera" ? $" Looked through by {record.SeenThrough}." : " Not yet looked through from end to end."));
        }
        foreach (var warned in Expectations(place.Wood))
            said.Add(Weight.Hint, warned);
        AddDate(said, record);
        return said.InOrder();
    }

    private void AddHolds(Said said, UnitSystem system)
    {
        if (Deposits.TotalMassKg <= 0)
            return;
        var (mass, volume) = (Units.Of(Quantity.Mass, system), Units.Of(Quantity.SmallVolume, system));
        said.Add(Weight.Verdict, Say("In all it holds ", Computed(mass.Format(Deposits.TotalMassKg)), ", which would burn like ", Computed(mass.Format(Deposits.WoodEquivalentKg)),
            " of dry wood. ", Deposits.DraftLostPa < DraftFeels.Value ? "The draft does not feel it; what counts is the fire that is in it. Swept, about "
            : "It takes ", Deposits.DraftLostPa < DraftFeels.Value ? "" : Computed(Units.Of(Quantity.Draft, system).Format(Deposits.DraftLostPa)),
            Deposits.DraftLostPa < DraftFeels.Value ? "" : " off the draft, but what counts is the fire that is in it. Swept, about ",
            Computed(volume.Format(Deposits.Segments.Sum(s => s.LooseL) / 1000)), " come down."));
    }

    // Where a stop stands, no date makes sense: the next step is its cure.
    private void AddDate(Said said, SweepRecord record)
    {
        if (StopCode is not null)
            return;
        string Date(DateOnly? date) => date is { } at ? $"{at:d MMMM yyyy}" : "not within ten years";
        said.Add(Weight.Verdict, Say(record.WasSwept ? "Sweep again by " : Expected ? "The sweep is due by " : $"Swept on {From:d MMMM yyyy}, the next one is due by ", Computed(Date(Forecast.NextSweep)), Forecast.Bound switch
        {
            SweepBound.Deposit => ": in a bad year the limit is reached then.",
            SweepBound.Yearly => ": once a year in any case.",
            SweepBound.Quarter => ": once per quarter of use, as the firm sweeps.",
            _ => ": before the heating season.",
        }, " The limit comes ", Computed(Date(Forecast.P50Date)), " in an ordinary year, ", Computed(Date(Forecast.P90Date)), " in a bad one",
            LearnedFrom == 0 ? ", by the model alone until the next visit teaches it." : LearnedFrom == 1 ? ", learned from one pair of visits." : $", learned from {LearnedFrom} pairs of visits."));
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
