using System.Text.Json.Serialization;
using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>What can come down in a sweep.</summary>
[JsonConverter(typeof(WordConverter<Fallen>))]
public enum Fallen
{
    /// <summary>Soot.</summary>
    Soot,

    /// <summary>Flakes.</summary>
    Flakes,

    /// <summary>Tar.</summary>
    Tar,

    /// <summary>A nest.</summary>
    Nest,

    /// <summary>Brick or mortar.</summary>
    Brick,

    /// <summary>Pieces of a flue tile.</summary>
    Tile,
}

/// <summary>How the whole length was looked through after a sweep.</summary>
[JsonConverter(typeof(WordConverter<SeenThrough>))]
public enum SeenThrough
{
    /// <summary>Daylight from end to end.</summary>
    Daylight,

    /// <summary>Camera through the whole length.</summary>
    Camera,

    /// <summary>Not yet.</summary>
    [Said("Not yet")]
    No,
}

/// <summary>A sweep as recorded in a visit; every field may still be missing.</summary>
/// <param name="Found">Deposits found before it, by the segments' ids.</param>
/// <param name="Cap">Deposit on cap and screen.</param>
/// <param name="SweptL">What came down, L.</param>
/// <param name="Fell">soot, flakes, tar, nest, brick, tile.</param>
/// <param name="LeftMm">Left behind at the worst spot, mm; default 0.</param>
/// <param name="GlazeLeft">Whether glaze stayed on a wall.</param>
/// <param name="SeenThrough">daylight, camera or no.</param>
/// <param name="Done">Tasks of the plan that are done, by code.</param>
/// <param name="Minutes">How long the sweep took, min.</param>
public sealed record SweepRecord(
    IReadOnlyDictionary<string, DepositEntry?>? Found = null, DepositEntry? Cap = null, double? SweptL = null,
    [property: Words(typeof(Fallen))] IReadOnlyList<string>? Fell = null, double? LeftMm = null, bool? GlazeLeft = null,
    [property: Words(typeof(SeenThrough))] string? SeenThrough = null, IReadOnlyList<string>? Done = null, double? Minutes = null)
{
    private static readonly EntryRange _minutes = new("Minutes of the sweep", Quantity.Count, 1, 900);

    /// <summary>Whether the brush was in the flue and the parts are not yet back.</summary>
    [JsonIgnore]
    public bool PartsOff => Done?.Contains(SweepPlan.Swept) == true && !Done.Contains(SweepPlan.Refitted);

    /// <summary>Whether the flue was swept at this visit: it was ticked, or said what came down or stayed.</summary>
    [JsonIgnore]
    public bool WasSwept => LeftMm is not null || SweptL is not null || Done?.Contains(SweepPlan.Swept) == true;

    /// <summary>Thickness at the worst spot of the flue, mm; 0 where nothing was found.</summary>
    public double WorstInFlueMm() => Found?.Values.Select(d => d?.ThickestMm ?? 0).DefaultIfEmpty().Max() ?? 0;

    /// <summary>The same with cap and screen.</summary>
    public double WorstFoundMm() => Math.Max(WorstInFlueMm(), Cap?.ThickestMm ?? 0);

    /// <summary>
    /// The stops that stand after it, the graver first: glaze until treated, 6 mm until swept (handbook 11 section 1). What was
    /// found counts until it is said what was left.
    /// </summary>
    public IEnumerable<string> StopCodes()
    {
        if (GlazeLeft ?? (Cap?.Stage == 3 || Found?.Values.Any(d => d?.Stage == 3) == true))
            yield return "glaze";
        if ((LeftMm ?? WorstFoundMm()) >= Deposit.StopFrom.Value)
            yield return "deposit";
    }

    /// <summary>The same with what was found by the segments' labels, as they are called now; a piece that is gone is refused.</summary>
    internal SweepRecord Named(IEnumerable<Segment> flue, EntryErrors errors)
    {
        var labels = flue.ToDictionary(s => s.Id, s => s.Label);
        foreach (var gone in (Found ?? new Dictionary<string, DepositEntry?>()).Keys.Where(id => !labels.ContainsKey(id)))
            errors.Add("found", $"A deposit was found in a piece that does not stand in this flue (“{gone[..Math.Min(gone.Length, 40)]}”); it has: {string.Join(", ", labels.Values)}.");
        return this with { Found = Found?.Where(f => labels.ContainsKey(f.Key)).ToDictionary(f => labels[f.Key], f => f.Value) };
    }

    /// <summary>Refuses what the deposits themselves do not say.</summary>
    internal void Check(EntryErrors errors)
    {
        if (Cap is not null)
            DepositsAnswer.Read(Cap, "cap", errors);
        foreach (var fell in Fell ?? [])
            errors.Need<Fallen>("fell", fell, "What fell");
        errors.CheckWord<SeenThrough>("seenThrough", SeenThrough, "Seen through");
        errors.Check("minutes", Minutes, _minutes);
    }
}

/// <summary>An earlier look or sweep of the stove.</summary>
/// <param name="Day">When.</param>
/// <param name="FoundMm">Thickness found at the worst spot, mm; null where nobody looked.</param>
/// <param name="LeftMm">Left behind, mm; null where it was only looked at, not swept.</param>
/// <param name="Wood">The household's wood as recorded then; null if it was not.</param>
/// <param name="ThisFlue">Whether the flue stood then as it stands now: growth is learned from no other.</param>
/// <param name="GlazeLeft">Whether glaze stayed on a wall.</param>
/// <param name="StageById">Stage found in each segment, by its id.</param>
public sealed record EarlierSweep(DateOnly Day, double? FoundMm, double? LeftMm, WoodRecord? Wood = null, bool ThisFlue = true, bool GlazeLeft = false,
    IReadOnlyDictionary<string, int>? StageById = null)
{
    /// <summary>What hung there when the visit was over, mm; null where nobody knows.</summary>
    public double? StayedMm => LeftMm ?? FoundMm;
}

/// <summary>What the records know of a stove that is swept.</summary>
/// <param name="Flue">The chain.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="MonthlyC">The site's monthly means, January first, °C.</param>
/// <param name="Burns">What burns there.</param>
/// <param name="Features">Parts and ways the stove has.</param>
/// <param name="Wood">The household's wood, newest word.</param>
/// <param name="Past">Earlier looks and sweeps, oldest first.</param>
/// <param name="Learned">What this firm's sweeps of the kind took, min; null where too few were timed.</param>
/// <param name="Fires">Burn rates of the stove; null where it is not known.</param>
/// <param name="School">The firm's school of sweeping.</param>
/// <param name="SeasonMonth">Month in which the firm's households begin to heat; null by the site's climate.</param>
public sealed record SweepPlace(FlueEntry Flue, double AltitudeM, IReadOnlyList<double> MonthlyC, Technology Burns, IReadOnlyCollection<string> Features,
    WoodRecord Wood, IReadOnlyList<EarlierSweep> Past, LearnedFact? Learned = null, StoveFires? Fires = null, SweepSchool School = SweepSchool.Forecast, int? SeasonMonth = null)
{
    /// <summary>Stoves from this year on count as certified, unless the records say otherwise.</summary>
    public static readonly Limit CertifiedFrom = Limit.Assumed(1992, "", "most stoves sold since then are tested for their smoke");

    /// <summary>The last sweep; null where none was recorded.</summary>
    public EarlierSweep? LastSwept => Past.LastOrDefault(s => s.LeftMm is not null);

    /// <summary>The place in a visit.</summary>
    public static SweepPlace Of(VisitContext at) => Of(at.History, FuelFacts.Newest(at), at.NewestConditionOf("combustor"));

    /// <summary>The place by the records alone.</summary>
    public static SweepPlace Of(StoveHistory history) => Of(history, FuelFacts.Newest(history), history.LastSeen("combustor")?.Found.Condition);

    private static SweepPlace Of(StoveHistory history, WoodRecord wood, Condition? combustor) => new(history.Flue.Flue, history.House.AltitudeM, history.House.MonthlyC,
        BurnsIn(history.Stove.Kind, history.Stove.Combustor, history.Stove.Year, combustor), history.Stove.Features, wood, DepositFacts.Sweeps(history),
        history.LearnedOf(DepositFacts.Minutes, SweepPlan.LearnFrom.Value), StoveFires.Of(history.Stove, wood), Word.Find<SweepSchool>(history.Ways.Sweeping) ?? SweepSchool.Forecast, history.Ways.SeasonMonth);

    /// <summary>First day of the heating season: the firm's, else by the site's climate; null where there is none.</summary>
    public (int Month, int Day)? SeasonStart => SeasonMonth is { } month ? (month, 1) : new WoodYear(MonthlyC).SeasonStart();

    /// <summary>What burns in a stove, by its kind and year; a spent combustor burns nothing.</summary>
    /// <param name="kind">Its kind.</param>
    /// <param name="combustor">Whether it has a combustor.</param>
    /// <param name="year">Its year.</param>
    /// <param name="found">The latest word on the combustor, or null.</param>
    public static Technology BurnsIn(string kind, bool combustor, int year, Condition? found = null) =>
        combustor ? found is Condition.Spent or Condition.Unsafe ? Technology.CatalyticFailed : Technology.Catalytic
        : kind == StoveKind.MasonryHeater ? Technology.MasonryHeater
        : year >= CertifiedFrom.Value ? Technology.Certified : Technology.Conventional;
}
