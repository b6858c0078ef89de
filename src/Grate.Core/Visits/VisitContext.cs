namespace Grate.Core.Visits;

/// <summary>An earlier signed visit of a stove.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="ThisFlue">Whether the flue stood then as it stands now: growth and bias are learned from no other.</param>
/// <param name="NextInspection">As set when it was signed.</param>
/// <param name="Facts">What its stations found out.</param>
/// <param name="Found">Its word on the parts.</param>
public sealed record EarlierVisit(
    Guid Id, DateOnly Day, bool ThisFlue, DateOnly? NextInspection, IReadOnlyList<Fact> Facts, IReadOnlyList<PartFound> Found)
{
    /// <summary>A number, or null where it was not found out; the last one where two steps found it.</summary>
    public double? Number(string name) => Facts.LastOrDefault(f => f.Name == name)?.Value;

    /// <summary>A word, or null.</summary>
    public string? Text(string name) => Facts.LastOrDefault(f => f.Name == name)?.Word;
}

/// <summary>A signed visit of a stove of the same model whose way of taking apart was kept for the model.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="By">Whose visit it was.</param>
/// <param name="Facts">The list.</param>
public sealed record ModelList(Guid Id, DateOnly Day, string By, IReadOnlyList<Fact> Facts);

/// <summary>Troubles that were closed at stoves of a kind.</summary>
/// <param name="Kind">Word of the kind.</param>
/// <param name="Combustor">Whether they have a combustor.</param>
/// <param name="Visits">How many visits closed one.</param>
/// <param name="Causes">How often each cause was it, by its word.</param>
public sealed record ClosedTroubles(string Kind, bool Combustor, int Visits, IReadOnlyDictionary<string, int> Causes);

/// <summary>A stop that stands on a stove.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Day">Day it was set.</param>
public sealed record StandingStop(string Code, DateOnly Day);

/// <summary>What the records know of a stove: everything that what is due rests on.</summary>
/// <param name="House">The house.</param>
/// <param name="Stove">The stove.</param>
/// <param name="Flue">The flue that stands there.</param>
/// <param name="Earlier">Earlier signed visits, oldest first.</param>
/// <param name="Stops">Stops that stand.</param>
/// <param name="Learned">What the firm's visits at this kind of stove say.</param>
public sealed record StoveHistory(House House, Stove Stove, FlueVersion Flue, IReadOnlyList<EarlierVisit> Earlier,
    IReadOnlyList<StandingStop> Stops, IReadOnlyList<LearnedFact> Learned)
{
    /// <summary>How the firm works.</summary>
    public FirmWays Ways { get; init; } = FirmWays.Ordinary;

    /// <summary>What the firm's closed troubles were, by kind of stove.</summary>
    public IReadOnlyList<ClosedTroubles> Closed { get; init; } = [];

    /// <summary>The firm's own numbers in the table of troubles, by their names.</summary>
    public IReadOnlyDictionary<string, double> Tuned { get; init; } = new Dictionary<string, double>();

    /// <summary>How long the firm's own parts last, by their words; only those that enough ends are known of.</summary>
    public IReadOnlyDictionary<string, LearnedLife> Lives { get; init; } = new Dictionary<string, LearnedLife>();

    /// <summary>Lists of taking apart that were kept for this model of stove, newest first.</summary>
    public IReadOnlyList<ModelList> ModelLists { get; init; } = [];

    /// <summary>Day of the last sweep as somebody told it, before the firm's own visits; null where nobody did.</summary>
    public DateOnly? SweptTold { get; init; }

    /// <summary>Fields of house and stove that were taken as usual and that nobody confirmed.</summary>
    public IReadOnlyList<string> Assumed { get; init; } = [];

    /// <summary>A number as the newest visit found it that found one; null where none did.</summary>
    public double? NewestNumber(string name) => Earlier.Reverse().Select(v => v.Number(name)).FirstOrDefault(v => v is not null);

    /// <summary>A word as the newest visit found it that found one; null where none did.</summary>
    public string? NewestText(string name) => Earlier.Reverse().Select(v => v.Text(name)).FirstOrDefault(v => v is not null);

    /// <summary>When the next inspection is, as the last visit set it that set one; null where none did.</summary>
    [JsonIgnore]
    public DateOnly? NextInspection => Earlier.Reverse().Select(v => v.NextInspection).FirstOrDefault(d => d is not null);

    /// <summary>The newest word on a part and the day it was given; null where nobody saw it.</summary>
    public (PartFound Found, DateOnly Day)? LastSeen(string part) => Earlier.Reverse()
        .Select(v => (v.Found.Where(f => f.Part == part).Words().SingleOrDefault(), v.Day))
        .Where(f => f.Item1 is { Condition: not Condition.NotSeen }).Select(f => ((PartFound, DateOnly)?)(f.Item1!, f.Day)).FirstOrDefault();

    /// <summary>The stove as the records know it on a day, without a visit.</summary>
    public VisitContext On(DateOnly day, UnitSystem units) => new(this, day, day, units, [], []);

    /// <summary>What the firm learned of a number from at least so many visits; null where it knows too few.</summary>
    public LearnedFact? LearnedOf(string name, double leastVisits) => Learned.FirstOrDefault(l => l.Name == name && l.Visits >= leastVisits);
}

/// <summary>The weather at a visit, as forecast.</summary>
/// <param name="Time">Time of day it is about.</param>
/// <param name="OutdoorC">Outdoors then, °C.</param>
/// <param name="OvernightLowC">Lowest of the night before, °C.</param>
public sealed record WeatherThen(TimeOnly Time, double OutdoorC, double OvernightLowC);

/// <summary>
/// Everything that an answer of a station rests on: nothing else goes into one. It can be written as one JSON document,
/// so that the same answer comes from a server, a program or a browser.
/// </summary>
/// <param name="History">House, stove, flue and what earlier visits found.</param>
/// <param name="Day">The visit's day at the firm's place.</param>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Units">Units of the sentences.</param>
/// <param name="Facts">What the stations of this visit have found out so far.</param>
/// <param name="Found">Parts marked in this visit so far.</param>
/// <param name="Weather">The weather of its day; null where nobody tells it.</param>
public sealed record VisitContext(StoveHistory History, DateOnly Day, DateOnly Today, UnitSystem Units,
    IReadOnlyList<VisitFact> Facts, IReadOnlyList<PartFound> Found, WeatherThen? Weather = null)
{
    /// <summary>The house.</summary>
    [JsonIgnore]
    public House House => History.House;

    /// <summary>The stove.</summary>
    [JsonIgnore]
    public Stove Stove => History.Stove;

    /// <summary>The flue that stands there.</summary>
    [JsonIgnore]
    public FlueVersion Flue => History.Flue;

    /// <summary>Mean outdoor temperature of the visit's month at this place, °C.</summary>
    [JsonIgnore]
    public double MonthC => House.MonthlyC[Day.Month - 1];

    /// <summary>A number found in this visit, the latest step's; null where none was.</summary>
    public double? Number(string name) => Last(name)?.Value;

    /// <summary>A word found in this visit.</summary>
    public string? Text(string name) => Last(name)?.Word;

    /// <summary>A number as it was found, before anything was done: the earliest step's; null where none was.</summary>
    public double? FoundNumber(string name) => Facts.Where(f => f.Name == name).MinBy(f => VisitSteps.NumberOf(f.Step))?.Value;

    /// <summary>A word as it was found, before anything was done.</summary>
    public string? FoundText(string name) => Facts.Where(f => f.Name == name).MinBy(f => VisitSteps.NumberOf(f.Step))?.Word;

    /// <summary>Condition of a part as it was found, before anything was done: the earliest step's that saw it; null where it was not marked.</summary>
    public Condition? FoundConditionOf(string part) => Found.Where(f => f.Part == part).OrderBy(f => f.Condition == Condition.NotSeen).ThenBy(f => VisitSteps.NumberOf(f.Step)).FirstOrDefault()?.Condition;

    /// <summary>A number typed at another station of this visit, with its source; null where none was.</summary>
    public Known? Known(string name, string station) => Last(name) is { Value: { } value } fact ? new Known(value, $"{station}, {fact.At:HH:mm}") : null;

    /// <summary>The outdoor temperature that is forecast, until somebody reads it.</summary>
    public Known? Forecast() => Weather is { } then ? new Known(then.OutdoorC, $"forecast for {then.Time:HH:mm}, until it is read outdoors") : null;

    /// <summary>A number of this visit, else the newest earlier one.</summary>
    public double? NewestNumber(string name) => Number(name) ?? History.NewestNumber(name);

    /// <summary>A word of this visit, else the newest earlier one.</summary>
    public string? NewestText(string name) => Text(name) ?? History.NewestText(name);

    /// <summary>The visit as a station sees it that is answered anew: what it found out before is not what its new answer rests on.</summary>
    public VisitContext Without(string step, string station) => this with { Facts = [.. Facts.Where(f => f.Step != step || f.Station != station)] };

    /// <summary>This visit's word on a part; null where it was not marked.</summary>
    public Condition? ConditionOf(string part) => Found.Where(f => f.Part == part).Words().SingleOrDefault()?.Condition;

    /// <summary>Condition of a part now: found today, else at the last visit that saw it.</summary>
    public Condition? NewestConditionOf(string part) =>
        ConditionOf(part) is { } now and not Condition.NotSeen ? now : History.LastSeen(part)?.Found.Condition;

    private VisitFact? Last(string name) => Facts.Where(f => f.Name == name).MaxBy(f => VisitSteps.NumberOf(f.Step));
}
