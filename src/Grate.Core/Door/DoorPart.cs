using System.Text.Json.Serialization.Metadata;

namespace Grate.Core.Door;

/// <summary>The door with its rope, latch and glass.</summary>
public sealed class DoorPart : IPart
{
    private static readonly Limit _yearly = Limit.Practice(12, "months", "what wears is seen once a year");

    /// <inheritdoc/>
    public string Code => "door";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new StripStation(), new ClosedAirStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
    [
        new("door-rope", "door rope", VisitSteps.ColdChecks, VisitSteps.BackTogether) { Again = _yearly },
        new("latch", "latch and hinges", VisitSteps.ColdChecks),
        new("glass", "glass", VisitSteps.ColdChecks) { Feature = "glass", Again = _yearly },
        new("ash-door", "ash door", VisitSteps.ColdChecks) { Feature = "grate", Again = _yearly },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new("glass", "The glass is cracked or broken: no fire.", "glass") { Retest = "New glass in place, no crack; the door closed and the strips held around it." },
        new("latch", "The door will not latch: no fire.", "latch", "door-rope") { Retest = "The door latches, and the strips hold beside latch and hinges." },
    ];
}

/// <summary>The strip test, before anything is disturbed and after it is back together.</summary>
public sealed class StripStation : Station<StripTest, StripTestAnswer>
{
    /// <inheritdoc/>
    public override string Code => "door-strips";

    /// <inheritdoc/>
    public override string Name => "Strips round the door";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.ColdChecks, VisitSteps.BackTogether];

    /// <inheritdoc/>
    public override JsonTypeInfo<StripTest> EntryJson => CoreJson.Default.StripTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<StripTestAnswer> AnswerJson => CoreJson.Default.StripTestAnswer;

    /// <inheritdoc/>
    public override StripTestAnswer? Answer(StripTest entry, VisitContext at, EntryErrors errors) => StripTestAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(StripTest entry, StripTestAnswer answer) =>
    [
        .. Fact.Number(DoorFacts.WidthM, entry.WidthM),
        .. Fact.Number(DoorFacts.HeightM, entry.HeightM),
        .. Fact.Number(DoorFacts.StripShare, answer.Strip?.LeakingShare),
        .. Fact.Of(DoorFacts.Rope, entry.Rope),
        .. Fact.Of(DoorFacts.LatchAtEnd, entry.LatchAtEnd is { } end ? end ? "yes" : "no" : null),
        .. answer.Spots.SelectMany(s => Fact.Number(DoorFacts.Grade(s.Code), s.Grade)),
    ];

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(StripTest entry, StripTestAnswer answer, UnitSystem system)
    {
        if (answer.Strip is null)
            yield break;
        static Sentence Grade(int? grade) => grade is { } g ? Sentence.Say(Sentence.Measured($"{g}")) : Sentence.Say("–");
        string[] columns = ["Point", "Grade"];
        yield return new ReportBlock("Strips round the door", answer.Other is { } other ? [.. columns, other.When] : columns,
            [.. answer.Spots.Select(s => (IReadOnlyList<Sentence>)[Sentence.Say(s.Name), Grade(s.Grade), .. answer.Other is null ? Array.Empty<Sentence>() : [Grade(s.Other)]])],
            "0 falls out, 1 slides, 2 drags, 3 holds.");
    }
}

/// <summary>Whether the fire can be shut down.</summary>
public sealed class ClosedAirStation : Station<ClosedAirTest, ClosedAirTestAnswer>
{
    /// <inheritdoc/>
    public override string Code => "closed-air";

    /// <inheritdoc/>
    public override string Name => "Air shut";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.HotTest];

    /// <inheritdoc/>
    public override JsonTypeInfo<ClosedAirTest> EntryJson => CoreJson.Default.ClosedAirTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<ClosedAirTestAnswer> AnswerJson => CoreJson.Default.ClosedAirTestAnswer;

    /// <inheritdoc/>
    public override ClosedAirTestAnswer? Answer(ClosedAirTest entry, VisitContext at, EntryErrors errors) => ClosedAirTestAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(ClosedAirTest entry, ClosedAirTestAnswer answer) =>
        [.. Fact.Number(DoorFacts.CollapseS, entry.CollapseS), .. Fact.Number(DoorFacts.ReviveS, entry.ReviveS)];
}
