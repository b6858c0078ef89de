using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using static Grate.Core.Sentence;

namespace Grate.Core.Combustor;

/// <summary>What a combustor is made of.</summary>
[JsonConverter(typeof(WordConverter<CombustorKind>))]
public enum CombustorKind
{
    /// <summary>Ceramic.</summary>
    Ceramic,

    /// <summary>Metal.</summary>
    Metal,
}

/// <summary>Its colour.</summary>
[JsonConverter(typeof(WordConverter<CombustorColour>))]
public enum CombustorColour
{
    /// <summary>Even grey-brown: as it should be.</summary>
    [Said("Even grey-brown")]
    GreyBrown,

    /// <summary>White: overheated.</summary>
    White,

    /// <summary>Black: it does not work.</summary>
    Black,
}

/// <summary>What else is seen on a combustor.</summary>
[JsonConverter(typeof(WordConverter<CombustorSign>))]
public enum CombustorSign
{
    /// <summary>A hairline.</summary>
    Hairline,

    /// <summary>A crack through.</summary>
    [Said("Cracked through")]
    CrackThrough,

    /// <summary>A piece is missing.</summary>
    [Said("A piece is missing")]
    PieceMissing,

    /// <summary>Its coat peels.</summary>
    Peeling,

    /// <summary>Its frame is warped.</summary>
    [Said("Frame warped")]
    FrameWarped,

    /// <summary>Its gasket is gone.</summary>
    [Said("Gasket gone")]
    GasketGone,

    /// <summary>The flame shield is not in place.</summary>
    [Said("Flame shield out of place")]
    ShieldOut,
}

/// <summary>A combustor as looked at; every field may still be missing.</summary>
/// <param name="Kind">ceramic or metal; default as found before.</param>
/// <param name="Across">Cells drawn across the face, 4..20; default 12.</param>
/// <param name="Down">Cells drawn down it, 2..12; default 6.</param>
/// <param name="Dark">Cells painted dark, by their number from the upper left, row by row.</param>
/// <param name="Broken">Cells painted broken.</param>
/// <param name="CoatingShare">Share of an open cell's area lost to a coating, 0..0.99; default 0.</param>
/// <param name="Colour">Its colour.</param>
/// <param name="Signs">What else is seen; an empty list is nothing.</param>
/// <param name="FittedOn">Day it was fitted; default as found before.</param>
/// <param name="Hours">Hours of use, where they are known better than by the wood, 0..100 000.</param>
/// <param name="Light">What a photograph against a lamp said.</param>
public sealed record CombustorCheck([property: Words(typeof(CombustorKind))] string? Kind = null, int? Across = null, int? Down = null, IReadOnlyList<int>? Dark = null, IReadOnlyList<int>? Broken = null,
    double? CoatingShare = null, [property: Words(typeof(CombustorColour))] string? Colour = null, [property: Words(typeof(CombustorSign))] IReadOnlyList<string>? Signs = null, DateOnly? FittedOn = null, double? Hours = null, LightReading? Light = null);

/// <summary>What follows for a combustor (handbook 05 section 1; its words [A]).</summary>
/// <param name="Across">Cells across the face.</param>
/// <param name="Down">Cells down it.</param>
/// <param name="DarkShare">Share of cells dark: as painted, else by the photograph; null where it was not held to a lamp.</param>
/// <param name="BrokenShare">Share of cells broken; null where nobody looked.</param>
/// <param name="Pressures">What it costs at low, normal and high fire; null where it was not held to a lamp.</param>
/// <param name="Life">What is left of it; null where neither hours nor its day are known.</param>
/// <param name="EndOn">When that is, by this household's wood; null where it is not known.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record CombustorCheckAnswer(int Across, int Down, double? DarkShare, double? BrokenShare, IReadOnlyList<CombustorPressure>? Pressures, CombustorLife? Life, DateOnly? EndOn,
    IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>Share of cells dark or broken from which a combustor is wearing: clean it, look again.</summary>
    public static readonly Limit WearingShare = Limit.Assumed(0.1, "", "it costs a tenth more than clean");

    /// <summary>Share of cells dark after cleaning from which it is spent: it costs 3 Pa at high fire.</summary>
    public static readonly Limit SpentShare = Limit.Assumed(0.5, "", "half blocked costs 3 Pa at high fire");

    /// <summary>Fires that its pressure is reckoned at.</summary>
    internal static readonly FiringLevel[] Fires = [FiringLevel.Low, FiringLevel.Normal, FiringLevel.High];

    private const int FarthestYears = 30;
    private static readonly EntryRange _across = new("Cells across", Quantity.Count, 4, 20);
    private static readonly EntryRange _down = new("Cells down", Quantity.Count, 2, 12);
    private static readonly EntryRange _light = new("Share dark by the photograph", Quantity.Share, 0, 1);

    // Painted cells are coarser than real ones: so much apart, brush and photograph still agree (assumption).
    private const double Agree = 0.05;

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="CombustorCheck"/>.</returns>
    public static CombustorCheckAnswer? To(CombustorCheck check, VisitContext at, EntryErrors errors)
    {
        errors.CheckWord<CombustorKind>("kind", check.Kind, "Kind of the combustor");
        errors.Check("across", check.Across, _across);
        errors.Check("down", check.Down, _down);
        errors.Check("coatingShare", check.CoatingShare, CombustorRanges.Coating);
        errors.Check("hours", check.Hours, CombustorRanges.Hours);
        if (check.Light is { } light)
            _ = errors.Need("light.darkShare", light.DarkShare, _light) & errors.Need("light.lowShare", light.LowShare, _light) & errors.Need("light.highShare", light.HighShare, _light);
        var colour = check.Colour is { } word ? errors.Need<CombustorColour>("colour", word, "Colour") : null;
        var signs = errors.Words<CombustorSign>("signs", check.Signs, "What is seen on the combustor");
        var fitted = check.FittedOn ?? Fitted(at);
        if (fitted > at.Day || fitted < new DateOnly(1970, 1, 1))
            errors.Add("fittedOn", $"A combustor was fitted between 1970 and the visit's day; {fitted:d MMM yyyy} was entered.");
        if (errors.Any)
            return null;
        var (across, down) = (check.Across ?? 12, check.Down ?? 6);
        double? Share(string field, IReadOnlyList<int>? cells, string what)
        {
            if (cells is null)
                return null;
            if (cells.Any(c => c < 0 || c >= across * down))
                errors.Add(field, $"{what} lie on the face: cells 0 to {across * down - 1}.");
            return cells.Distinct().Count() / (double)(across * down);
        }
        var painted = Share("dark", check.Dark, "Dark cells");
        var (dark, broken) = (painted ?? check.Light?.DarkShare, Share("broken", check.Broken, "Broken cells"));
        if (errors.Any)
            return null;

        var assumed = new Assumptions();
        IReadOnlyList<CombustorPressure>? pressures = null;
        if (dark is { } share)
        {
            var coating = assumed.Or(check.CoatingShare, "coatingShare", CombustorLimits.None);
            pressures = [.. Fires.Select(f => CombustorPressure.Of(FlueLimits.Burn(f).Value, Math.Min(share, CombustorRanges.Dark.Max), coating, CombustorLimits.CleanPa.Value))];
        }
        var wood = FuelFacts.Known(at);
        var life = LifeOf(check, fitted, wood, at, assumed);
        var end = life?.LeftYears is { } years && years < FarthestYears ? at.Day.AddDays((int)(years * 365.25)) : (DateOnly?)null;
        var answer = new CombustorCheckAnswer(across, down, dark, broken, pressures, life, end, [], [], assumed.Used);
        var decided = dark is null && check.Signs is null && colour is null ? null : answer.Decide(colour, signs, at.Units);
        return answer with { Parts = decided is null ? [] : [decided], Sentences = answer.Words(decided, check.Light, painted, at) };
    }

    /// <summary>When a stove's combustor was fitted, as its records know.</summary>
    public static DateOnly? Fitted(VisitContext at) => at.NewestNumber(CombustorFacts.FittedDay) is { } day ? DateOnly.FromDayNumber((int)day) : null;

    // Hours since it was fitted, by this household's wood; those that were known better at an earlier visit go on from there.
    private static CombustorLife? LifeOf(CombustorCheck check, DateOnly? fitted, WoodAnswer wood, VisitContext at, Assumptions assumed)
    {
        double PerYear() => wood.KgPerYear / assumed.Or(null, "averageBurnKgH", CombustorLimits.AverageBurn);
        var hours = check.Hours ?? HoursOn(at.History, fitted, at.Day, PerYear);
        if (hours is not { } used)
            return null;
        var tests = at.History.Earlier.Where(v => fitted is null || v.Day >= fitted)
            .Select(v => (Minutes: v.Number(CombustorFacts.LightOffMin), Hours: v.Number(CombustorFacts.Hours))).Where(v => v.Minutes is not null && v.Hours is not null).Select(v => (v.Hours!.Value, v.Minutes!.Value)).ToList();
        if (at.Number(CombustorFacts.LightOffMin) is { } now)
            tests.Add((used, now));
        return CombustorLife.Of(used, tests, CombustorLimits.Life.Value, () => CombustorLimits.Window.Value, () => PerYear());
    }

    private static double? HoursOn(StoveHistory history, DateOnly? fitted, DateOnly day, Func<double> perYear)
    {
        double Years(DateOnly since) => (day.DayNumber - since.DayNumber) / 365.25;
        if (history.Earlier.LastOrDefault(v => v.Number(CombustorFacts.Hours) is not null && (fitted is null || v.Day > fitted)) is { } known)
            return known.Number(CombustorFacts.Hours) + Years(known.Day) * perYear();
        return fitted is { } since ? Years(since) * perYear() : null;
    }

    private PartDecided Decide(CombustorColour? colour, IReadOnlyList<CombustorSign> signs, UnitSystem units)
    {
        var share = Units.Of(Quantity.Share, units);
        var (condition, why) = signs.Contains(CombustorSign.PieceMissing) ? (Condition.Spent, Say("A piece of the combustor is missing: smoke goes through unburnt, renew it."))
            : signs.Contains(CombustorSign.CrackThrough) ? (Condition.Spent, Say("The combustor is cracked through: renew it."))
            : BrokenShare >= WearingShare.Value ? (Condition.Spent, Say("Of the combustor's cells ", Computed(share.Format(BrokenShare.Value)), " are broken: renew it."))
            : DarkShare >= SpentShare.Value ? (Condition.Spent, Say("Of the combustor's cells ", Computed(share.Format(DarkShare.Value)), " are dark: clean it cold; if they stay dark, renew it."))
            : signs.Contains(CombustorSign.Peeling) ? (Condition.Spent, Say("The combustor's coat peels: it does not light off much longer, renew it."))
            : colour == CombustorColour.Black ? (Condition.Wearing, Say("The combustor is black: it does not work. Test whether it lights off, before a new one is ordered."))
            : DarkShare >= WearingShare.Value ? (Condition.Wearing, Say("Of the combustor's cells ", Computed(share.Format(DarkShare.Value)), " are dark: clean it cold, soft brush or vacuum, no wire, no compressed air."))
            : colour == CombustorColour.White ? (Condition.Wearing, Say("The combustor is white: it was overheated. It ages fast."))
            : signs.Any(s => s != CombustorSign.Hairline) ? (Condition.Wearing, Say($"At the combustor: {string.Join(", ", signs.Select(s => Word.Said(s).ToLowerInvariant()))}. Mend it today."))
            : BrokenShare > 0 ? (Condition.Wearing, Say("Of the combustor's cells ", Computed(share.Format(BrokenShare.Value)), " are broken."))
            : (Condition.Sound, Say("The combustor lets light through", DarkShare > 0 ? ", but for " : "", Computed(DarkShare > 0 ? share.Format(DarkShare.Value) : ""), DarkShare > 0 ? " of its cells." : "."));
        return new("combustor", "combustor", condition, null, why);
    }

    private IReadOnlyList<Sentence> Words(PartDecided? decided, LightReading? light, double? painted, VisitContext at)
    {
        var said = new Said();
        var (draft, hours) = (Units.Of(Quantity.Draft, at.Units), Units.Of(Quantity.Count, at.Units));
        said.Add(Weight.Verdict, decided?.Why ?? Say("Hold it to a lamp: paint the cells that stay dark, and look for cracks."));
        if (light is { DarkShare: { } share, LowShare: { } least, HighShare: { } most })
        {
            said.Add(Weight.Verdict, LightTestAnswer.Words(share, least, most));
            if (painted < least - Agree || painted > most + Agree)
                said.Add(Weight.Hint, Say("Painted are ", Measured(Units.Of(Quantity.Share, at.Units).Format(painted.Value)), ": brush and photograph do not agree, hold it to the lamp once more. The painted share counts."));
        }
        if (Pressures is [.., var high] && high.ExtraNeedPa > 0.05)
            said.Add(Weight.Verdict, Say("It costs ", Computed(draft.Format(high.DropPa)), " at high fire instead of ", Computed(draft.Format(high.CleanPa)), ": the draft that this stove needs rises by ", Computed(draft.Format(high.ExtraNeedPa)), "."));
        if (Life is { } life)
        {
            said.Add(Weight.Hint, Say("In use for about ", Computed($"{hours.Format(life.Hours)} h"), "; about ", Computed($"{hours.Format(life.LeftH)} h"), " are left",
                life.Bound == LifeBound.Trend ? ", by its light-off, which takes longer from visit to visit" : "", EndOn is { } end ? $": until about {end:MMMM yyyy}." : "."));
        }
        else
            said.Add(Weight.Hint, Say("When it was fitted, or its hours, tell what is left of it."));
        return said.InOrder();
    }
}

/// <summary>The combustor, out of its seat.</summary>
public sealed class CombustorStation : Station<CombustorCheck, CombustorCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "combustor";

    /// <inheritdoc/>
    public override string Name => "Combustor";

    /// <inheritdoc/>
    public override string? Feature => "combustor";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<CombustorCheck> EntryJson => CoreJson.Default.CombustorCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<CombustorCheckAnswer> AnswerJson => CoreJson.Default.CombustorCheckAnswer;

    /// <inheritdoc/>
    public override CombustorCheckAnswer? Answer(CombustorCheck entry, VisitContext at, EntryErrors errors) => CombustorCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(CombustorCheck entry, CombustorCheckAnswer answer) =>
    [
        .. Fact.Of(CombustorFacts.Kind, entry.Kind),
        .. Fact.Number(CombustorFacts.FittedDay, entry.FittedOn?.DayNumber),
        .. Fact.Number(CombustorFacts.DarkShare, answer.DarkShare),
        .. Fact.Number(CombustorFacts.BrokenShare, answer.BrokenShare),
        .. Fact.Number(FlueFacts.ExtraNeedPa, answer.Pressures?[^1].ExtraNeedPa),
        .. Fact.Number(CombustorFacts.Hours, answer.Life?.Hours),
        .. Fact.Number(CombustorFacts.EndDay, answer.EndOn?.DayNumber),
    ];

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(CombustorCheck entry, CombustorCheckAnswer answer, UnitSystem system)
    {
        if (answer.Pressures is not { } pressures)
            yield break;
        var draft = Units.Of(Quantity.Draft, system);
        yield return new ReportBlock(Name, ["Fire", "Costs", "Clean"],
            [.. CombustorCheckAnswer.Fires.Zip(pressures, (fire, p) => (IReadOnlyList<Sentence>)[Say(Word.Said(fire)), Say(Computed(draft.Format(p.DropPa))), Say(Computed(draft.Format(p.CleanPa)))])]);
    }
}

/// <summary>Names of what is known of a combustor.</summary>
public static class CombustorFacts
{
    /// <summary>Ceramic or metal.</summary>
    public const string Kind = "combustor.kind";

    /// <summary>Day it was fitted, as a number of days.</summary>
    public const string FittedDay = "combustor.fitted-day";

    /// <summary>Share of cells dark.</summary>
    public const string DarkShare = "combustor.dark-share";

    /// <summary>Share of cells broken.</summary>
    public const string BrokenShare = "combustor.broken-share";

    /// <summary>Hours of use.</summary>
    public const string Hours = "combustor.hours";

    /// <summary>When its life ends, as a number of days.</summary>
    public const string EndDay = "combustor.end-day";

    /// <summary>Minutes to +50 K of a light-off test.</summary>
    public const string LightOffMin = "combustor.light-off-min";

    /// <summary>Verdict of a light-off test.</summary>
    public const string LightOff = "combustor.light-off";
}
