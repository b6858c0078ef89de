using System.Text.Json.Nodes;
using System.Text.Json.Serialization.Metadata;

namespace Grate.Core.Flue;

/// <summary>The flue from the collar to the cap: its draft, cold and hot, its house and its top.</summary>
public sealed class FluePart : IPart
{
    private static readonly Condition[] _pulls = [Condition.Sound, Condition.Spent, Condition.Unsafe, Condition.NotSeen];
    private static readonly Condition[] _smokes = [Condition.Sound, Condition.Unsafe, Condition.NotSeen];

    /// <inheritdoc/>
    public string Code => "flue";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new ColdStation(), new TopStation(), new HotDraftStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("connector", "connector", VisitSteps.Arrive, VisitSteps.Sweep),
        new("flue", "flue", VisitSteps.Sweep),
        new("cap", "cap and screen", VisitSteps.Sweep),
        new("draft", "draft", VisitSteps.HotTest) { Words = _pulls, Wears = false },
        new("spill", "smoke at the door", VisitSteps.HotTest) { Words = _smokes, Wears = false },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new("flue-open", "A flue tile is broken, the liner open, or the connector rusted through or disjointed: no fire.", "flue", "connector", "seals") { Retest = "Looked through with a camera, or smoke-tested: whole and tight from end to end." },
        new("chimney-fire", "Signs of a chimney fire: no fire until a level II look.", "flue", "cap", "connector") { Retest = "The level II look has passed, with a camera through the whole length." },
        new(HotDraftStation.Spillage, "Smoke comes into the room, or the draft is below 0, and cannot be cured today: no fire.", "draft", "spill") { Retest = "The worst-case test: draft above 0 at every fire, and no smoke at the door." },
        new(HotDraftStation.Co, "35 ppm or more of carbon monoxide in the room: no fire, air.", "alarms") { Retest = "CO in the room stays below 35 ppm through the hot test." },
    ];

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at)
    {
        yield return new("draft gauge, thermometer, CO meter", "every hot test");
        if (ColdPlug.Warning(at) is { } warning)
            yield return new("gas torch, hair dryer", warning);
    }
}

/// <summary>The cold flue and the house, before anything is disturbed.</summary>
public sealed class ColdStation : Station<ColdChecks, ColdChecksAnswer>
{
    /// <inheritdoc/>
    public override string Code => "cold-flue";

    /// <inheritdoc/>
    public override string Name => "Air-fall and house";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.ColdChecks];

    /// <inheritdoc/>
    public override JsonTypeInfo<ColdChecks> EntryJson => CoreJson.Default.ColdChecks;

    /// <inheritdoc/>
    public override JsonTypeInfo<ColdChecksAnswer> AnswerJson => CoreJson.Default.ColdChecksAnswer;

    /// <inheritdoc/>
    public override ColdChecksAnswer? Answer(ColdChecks entry, VisitContext at, EntryErrors errors) =>
        ColdChecksAnswer.To(entry, HotPlace.Of(at), at.Day.Month, errors, at.Units, at.Weather);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(ColdChecks entry, ColdChecksAnswer answer) =>
    [
        .. Fact.Of(FlueFacts.AirFalls, Word.Find<AirFall>(entry.AirFall) is { } seen ? (seen == AirFall.Falls ? "yes" : "no") : null),
        .. Fact.Number(FlueFacts.OutdoorC, entry.OutdoorC),
        .. Fact.Number(FlueFacts.RoomC, entry.RoomC),
        .. Fact.Number(FlueFacts.RoomOffPa, entry.RoomOffPa),
        .. Fact.Number(FlueFacts.RoomOnPa, entry.RoomOnPa),
        .. Fact.Number(FlueFacts.ExhaustM3S, entry.Fans is { Count: > 0 } fans ? fans.Sum(f => f.FlowM3S ?? Fan.Find(f.Kind)!.FlowM3S.Value) : null),
        .. Fact.Number(FlueFacts.SupplyM3S, entry.SupplyM3S),
    ];
}

/// <summary>The top of the chimney.</summary>
public sealed class TopStation : Station<TopCheck, TopCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "top";

    /// <inheritdoc/>
    public override string Name => "Top of the chimney";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Sweep];

    /// <inheritdoc/>
    public override JsonTypeInfo<TopCheck> EntryJson => CoreJson.Default.TopCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<TopCheckAnswer> AnswerJson => CoreJson.Default.TopCheckAnswer;

    /// <inheritdoc/>
    public override TopCheckAnswer? Answer(TopCheck entry, VisitContext at, EntryErrors errors) =>
        TopCheckAnswer.To(entry, FlueLayout.Of(at.History), errors, at.Units);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(TopCheck entry, TopCheckAnswer answer) => Fact.Of(FlueFacts.TopBad, answer.Bad ? "yes" : null);
}

/// <summary>Draft with a fire, and what the tests of the house say with it.</summary>
public sealed class HotDraftStation : Station<HotTest, HotTestAnswer>
{
    /// <summary>Stop by a draft below 0.</summary>
    public const string Spillage = "spillage";

    /// <summary>Stop by carbon monoxide.</summary>
    public const string Co = "room-co";

    /// <inheritdoc/>
    public override string Code => "hot-draft";

    /// <inheritdoc/>
    public override string Name => "Hot draft";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.HotTest];

    /// <inheritdoc/>
    public override string MissedAs => "No draft was read with a fire.";

    /// <summary>2: a run tells its swing in Pa, how long it was, and leaves the share open where it says nothing.</summary>
    public override int Schema => 2;

    /// <inheritdoc/>
    public override JsonTypeInfo<HotTest> EntryJson => CoreJson.Default.HotTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<HotTestAnswer> AnswerJson => CoreJson.Default.HotTestAnswer;

    /// <inheritdoc/>
    public override HotTestAnswer? Answer(HotTest entry, VisitContext at, EntryErrors errors) => HotTestAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(HotTest entry, HotTestAnswer answer) =>
    [
        .. answer.Fires.Where(f => f.ReadingPa is not null).SelectMany(f => FlueFacts.Of(f.Level, f.ReadingPa!.Value, f.Answer)),
        .. entry.Readings.Where(r => r.GasBy != Word.Of(GasBy.Surface)).SelectMany(r => Fact.Number(FlueFacts.GasC(Word.Find<FiringLevel>(r.Level)!.Value), r.GasC)),
        .. Fact.Number(FlueFacts.WindowGainPa, entry.WindowGainPa),
        .. Fact.Number(FlueFacts.SwingShare, entry.Readings.Max(r => r.Run?.SwingShare)),
    ];

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(HotTest entry, HotTestAnswer answer)
    {
        if (entry.CoPpm >= RoomCo.Stop.Value)
            yield return new(Co, RoomCo.Meaning(entry.CoPpm.Value).ToString());
        if (Drafts(entry, reversed: true) is { Count: > 0 } turned)
            yield return new(Spillage, $"The draft was below 0 {Listed(turned)}: smoke and carbon monoxide come into the room.", [.. turned.Select(d => d.Where)]);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(HotTest entry, HotTestAnswer answer)
    {
        if (entry.CoPpm < RoomCo.Stop.Value)
            yield return new(Co, RoomCo.Meaning(entry.CoPpm.Value).ToString());
        if (Drafts(entry, reversed: false) is { Count: > 0 } good)
            yield return new(Spillage, $"The draft was read again {Listed(good)}.", [.. good.Select(d => d.Where)]);
    }

    private static List<(string Where, double Pa)> Drafts(HotTest entry, bool reversed) =>
        [.. entry.Drafts().Where(d => d.Pa < FlueLimits.ReversedDraft.Value == reversed)];

    private static string Listed(IEnumerable<(string Where, double Pa)> drafts) =>
        string.Join(", ", drafts.Select(d => $"{d.Where} ({Units.Of(Quantity.Draft, UnitSystem.Metric).Format(d.Pa)})"));

    /// <inheritdoc/>
    protected override JsonNode Upgrade(JsonNode stored, int from)
    {
        foreach (var run in (stored["readings"] as JsonArray ?? []).Select(r => r?["run"]).OfType<JsonObject>())
        {
            run["swingPa"] = (double?)run["swingShare"] * (double?)run["meanPa"] ?? 0;
            // Gauges speak four times a second.
            run["spanS"] = ((double?)run["count"] ?? 0) / 4;
        }
        return stored;
    }

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(HotTest entry, HotTestAnswer answer, UnitSystem system)
    {
        var read = answer.Fires.Where(f => f.ReadingPa is not null).ToList();
        if (read.Count == 0)
            yield break;
        var (draft, temperature) = (Units.Of(Quantity.Draft, system), Units.Of(Quantity.Temperature, system));
        string At(HotReading reading, DraftAnswer then) => string.Join(", ",
            $"outdoors {temperature.Format(reading.OutdoorC ?? then.Number("surroundings.outdoorC") ?? 0)}{(reading.OutdoorC is null ? " (not read then)" : "")}",
            reading.GasC is { } gas ? $"flue gas {temperature.Format(gas)}" : "flue gas assumed");
        yield return new ReportBlock("Draft", ["Fire", "Measured", "Expected", "Which means"],
        [
            .. read.Select(f => (IReadOnlyList<Sentence>)
            [
                Sentence.Say(Word.Said(f.Level)), Sentence.Say(Sentence.Measured(draft.Format(f.ReadingPa!.Value))),
                Sentence.Say(Sentence.Computed(draft.Range(f.Answer.LowPa, f.Answer.HighPa))),
                Sentence.Say($"{Word.Said(f.Answer.Verdict!.Value)}; {At(entry.Readings.First(r => r.Level == Word.Of(f.Level)), f.Answer)}"),
            ]),
        ], Sentence.Say("This stove needs ", draft.Range(read[0].Answer.Need.MinPa, read[0].Answer.Need.MaxPa), ". Expected: 5–95 %, computed for this flue by the method of EN 13384-1 (from memory).").ToString());
    }
}
