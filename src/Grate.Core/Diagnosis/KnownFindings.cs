using Grate.Core.Air;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Diagnosis;

/// <summary>A finding that nobody has to be asked for.</summary>
/// <param name="Finding">Its word.</param>
/// <param name="Told">What it is.</param>
/// <param name="Source">Where it comes from.</param>
public sealed record KnownFinding(string Finding, FindingTold Told, string Source);

/// <summary>
/// What the drawing, the records and the stations of this visit already say, each as it was found before anything was done. Of an earlier
/// visit only what it left counts, and only what nobody does anything to between visits: a plate, the top, a baffle's sag, strips, the house.
/// </summary>
public static class KnownFindings
{
    private const double MostElbows = 2, LeastRiseM = 4.5;

    private static readonly (string Part, string Finding)[] _marks =
    [
        ("cap", "cap-bad"), ("bricks", "bricks-bad"), ("baffle", "baffle-bad"), ("tubes", "tubes-bad"), ("bypass", "bypass-loose"), ("thermostat", "thermo-fails"), ("controls", "control-stiff"),
        ("latch", "latch-slack"), ("ash-door", "ashdoor-fails"), ("glass", "glass-moves"), ("grate", "grate-bad"), ("channels", "channel-soot"), ("oven-path", "path-soot"), ("intake", "intake-blocked"),
    ];

    private static readonly (string Finding, string Fact, double Scale)[] _outlasting =
    [
        ("plate-present", AirFacts.Plate, 1), ("top-exposed", FlueFacts.TopBad, 1), ("baffle-bad", FireboxFacts.BaffleSagShare, 100),
        ("strip-fails", DoorFacts.StripShare(), 1), ("ashdoor-fails", DoorFacts.StripShare(SealPlace.AshDoor), 1), ("house-negative", FlueFacts.RoomOnPa, -1),
    ];

    /// <summary>Everything that is known, the surest last: of two the later counts.</summary>
    public static IReadOnlyList<KnownFinding> Of(VisitContext at) =>
    [
        .. OfTheDrawing(at),
        .. OfEarlierVisits(at),
        .. OfTheMarks(at),
        .. OfTheStations(at),
        .. OfTheDraft(at),
    ];

    private static IEnumerable<KnownFinding> OfTheDrawing(VisitContext at)
    {
        const string drawn = "from the flue's drawing";
        var segments = FlueReading.Stored(at.Flue).Segments;
        var rise = segments.Sum(s => s.RiseM);
        yield return new("outdoor-flue", new(2 * (at.Flue.Flue.Segments ?? []).Where(s => s.Surroundings == "outdoor").Sum(s => s.LengthM ?? 0) > segments.Sum(s => s.LengthM)), drawn);
        yield return new("many-bends", new((at.Flue.Flue.Segments ?? []).SelectMany(s => s.Fittings ?? []).Count(f => f.Code == "elbow-90") > MostElbows || rise < LeastRiseM), drawn);
        DraftAnswer? At(FiringLevel level) => HotPlace.Of(at).Answer(new HotReading(Word.Of(level)), at.Day.Month, new EntryErrors(), at.Units);
        if (At(FiringLevel.Normal) is { } normal)
        {
            yield return new("draft-weak", new(Number: normal.Need.MinPa - normal.ExpectedPa), "expected draft, today's weather");
            yield return new("exit-below-dew", new(Number: normal.DewPointC - normal.ExitWallC), "expected at the outlet, today's weather");
        }
        if (At(FiringLevel.High) is { } high)
            yield return new("draft-strong", new(Number: high.ExpectedPa), "expected draft at high fire");
        if (ColdPlug.Forecast(at) is { } cold)
            yield return new("plug-expected", new(Number: cold.ColdDraftPa), "forecast weather");
        if (at.NewestNumber(CombustorFacts.Hours) is { } hours)
            yield return new("comb-hours", new(Number: hours), "from the wood burned since it was fitted");
    }

    // As the newest visit that measured it left it.
    private static IEnumerable<KnownFinding> OfEarlierVisits(VisitContext at)
    {
        foreach (var (finding, fact, scale) in _outlasting)
        {
            if (at.History.Earlier.LastOrDefault(v => v.Number(fact) is not null || v.Text(fact) is "yes" or "no") is not { } visit)
                continue;
            yield return new(finding, visit.Number(fact) is { } number ? new(Number: scale * number) : new(visit.Text(fact) == "yes"), $"visit of {visit.Day:d MMMM yyyy}");
        }
    }

    private static IEnumerable<KnownFinding> OfTheMarks(VisitContext at) => from mark in _marks
                                                                            let condition = at.FoundConditionOf(mark.Part)
                                                                            where condition is not null
                                                                            select new KnownFinding(mark.Finding, new(Word: Word.Of(condition.Value)), "marked in this visit");

    private static IEnumerable<KnownFinding> OfTheStations(VisitContext at)
    {
        var known = new List<KnownFinding>();
        void Number(string finding, double? value, string source)
        {
            if (value is { } number)
                known.Add(new(finding, new(Number: number), source));
        }
        void Yes(string finding, string? word, string source)
        {
            if (word is "yes" or "no")
                known.Add(new(finding, new(word == "yes"), source));
        }
        Number("wood-wet", 100 * at.FoundNumber(FuelFacts.MoistureWet), "your meter, in this visit");
        Number("deposit-thick", at.FoundNumber(DepositFacts.WorstMm), "this sweep");
        Number("strip-fails", at.FoundNumber(DoorFacts.StripShare()), "this visit's strips");
        Number("ashdoor-fails", at.FoundNumber(DoorFacts.StripShare(SealPlace.AshDoor)), "this visit's strips");
        Number("air-close-fails", at.FoundNumber(DoorFacts.CollapseS), "this visit's closed-air test");
        Number("baffle-bad", 100 * at.FoundNumber(FireboxFacts.BaffleSagShare), "this visit's straightedge");
        Number("cells-blocked", at.FoundNumber(CombustorFacts.DarkShare), "this visit's look");
        Number("cells-dead", at.FoundNumber(CombustorFacts.BrokenShare), "this visit's look");
        Number("house-negative", -at.FoundNumber(FlueFacts.RoomOnPa), "this visit's cold checks");
        Number("intake-blocked", at.FoundNumber(AirFacts.DuctLossPa), "the duct as laid");
        Number("flue-hot", at.FoundNumber(FlueFacts.GasC(FiringLevel.Normal)), "this visit's hot test");
        Number("window-helps", at.FoundNumber(FlueFacts.WindowGainPa), "this visit's window test");
        Number("draft-unsteady", at.FoundNumber(FlueFacts.SwingShare), "this visit's run of readings");
        Yes("air-falls", at.FoundText(FlueFacts.AirFalls), "this visit's cold checks");
        Yes("glass-moves", at.FoundText(DoorFacts.GlassMoves), "this visit's look");
        Yes("glass-black-side", at.FoundText(DoorFacts.GlassBlackSide), "this visit's look");
        Yes("intake-blocked", at.FoundText(AirFacts.IntakeBlocked), "this visit's look");
        Yes("plate-present", at.FoundText(AirFacts.Plate), "this visit's look");
        Yes("top-exposed", at.FoundText(FlueFacts.TopBad), "this visit's look at the top");
        return known;
    }

    // z by the band that was expected and the gauge's own doubt (handbook 09 section 1); at normal fire, else as read.
    private static IEnumerable<KnownFinding> OfTheDraft(VisitContext at)
    {
        var now = new EarlierVisit(Guid.Empty, at.Day, true, null, [.. at.Facts.Select(f => new Fact(f.Name, f.Value, f.Word))], []);
        if (FlueFacts.Readings(now).OrderBy(r => r.Level != FiringLevel.Normal).FirstOrDefault() is not { } read)
            yield break;
        const string source = "this visit's hot test";
        yield return new(Troubles.DraftLow, new(Number: (read.DraftPa - read.ExpectedPa) / Math.Sqrt(Math.Pow((read.HighPa - read.LowPa) / 3.29, 2) + Math.Pow(FlueLimits.GaugeSigmaPa(read.DraftPa), 2))), source);
        yield return new(Troubles.DraftOver, new(Number: read.DraftPa - (at.Stove.LabelMaxPa ?? FlueLimits.GreatestDraft.Value)), source);
    }
}
