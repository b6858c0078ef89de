using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Burning;

/// <summary>The fire itself: how it is lit, and the hot test as one run.</summary>
public sealed class BurningPart : IPart
{
    /// <inheritdoc/>
    public string Code => "burning";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new HotRunStation()];
}

/// <summary>The hot test on one clock.</summary>
public sealed class HotRunStation : Station<HotRun, HotRunAnswer>
{
    private const string AtTheDoor = "at the door", InTheRun = "in the run";

    /// <inheritdoc/>
    public override string Code => "hot-run";

    /// <inheritdoc/>
    public override string Name => "The run";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.HotTest];

    /// <inheritdoc/>
    public override IReadOnlyList<string> Learns { get; } = [BurningFacts.RunMin];

    /// <inheritdoc/>
    public override JsonTypeInfo<HotRun> EntryJson => CoreJson.Default.HotRun;

    /// <inheritdoc/>
    public override JsonTypeInfo<HotRunAnswer> AnswerJson => CoreJson.Default.HotRunAnswer;

    /// <inheritdoc/>
    public override HotRunAnswer? Answer(HotRun entry, VisitContext at, EntryErrors errors) => HotRunAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(HotRun entry, HotRunAnswer answer) =>
    [
        .. Fact.Number(BurningFacts.RunMin, HotRunAnswer.Minutes(entry)),
        .. Fact.Number(BurningFacts.HottestC, HotRunAnswer.HottestC(entry)),
        .. (entry.Marks ?? []).SelectMany(m => Fact.Of(BurningFacts.Saw(m.Step!), m.Saw)),
    ];

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(HotRun entry, HotRunAnswer answer)
    {
        if (Saw(entry, RunStepKind.OpenSlowly) == RunSaw.More)
            yield return new(HotDraftStation.Spillage, "More than a puff of smoke came out when the door was opened slowly.", [AtTheDoor]);
        if (HotRunAnswer.MostCoPpm(entry) is { } ppm && ppm >= RoomCo.Stop.Value)
            yield return new(HotDraftStation.Co, RoomCo.Meaning(ppm).ToString(), [InTheRun]);
        if (HotRunAnswer.HottestC(entry) > HotRunAnswer.ChimneyFire.Value)
            yield return new("chimney-fire", $"The flue gas stood above {Units.Of(Quantity.Temperature, UnitSystem.Metric).Format(HotRunAnswer.ChimneyFire.Value)}.");
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(HotRun entry, HotRunAnswer answer)
    {
        if (Saw(entry, RunStepKind.OpenSlowly) is RunSaw.None or RunSaw.Puff)
            yield return new(HotDraftStation.Spillage, "Opened slowly again: no more than a puff.", [AtTheDoor]);
        if (HotRunAnswer.MostCoPpm(entry) is { } ppm && ppm < RoomCo.Stop.Value)
            yield return new(HotDraftStation.Co, RoomCo.Meaning(ppm).ToString(), [InTheRun]);
    }

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(HotRun entry, HotRunAnswer answer, UnitSystem system)
    {
        if (entry.StartedAt is null)
            yield break;
        yield return new("The hot test", ["Question", "Answer"], [.. answer.Questions.Select(q => (IReadOnlyList<Sentence>)[Say(q.Question), q.Answer])]);
    }

    private static RunSaw? Saw(HotRun run, RunStepKind step) => Word.Find<RunSaw>((run.Marks ?? []).FirstOrDefault(m => m.Step == Word.Of(step))?.Saw);
}

/// <summary>Names of what a run finds out.</summary>
public static class BurningFacts
{
    /// <summary>How long the run took, min.</summary>
    public const string RunMin = "run.minutes";

    /// <summary>Hottest flue gas of the run, °C.</summary>
    public const string HottestC = "run.hottest-c";

    /// <summary>What was seen at a look.</summary>
    /// <param name="step">Word of the look.</param>
    public static string Saw(string step) => $"run.{step}";
}
