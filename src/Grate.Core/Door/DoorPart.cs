using System.Text.Json.Serialization.Metadata;

namespace Grate.Core.Door;

/// <summary>The door with its rope, latch and glass.</summary>
public sealed class DoorPart : IPart
{
    private static readonly Limit _yearly = Limit.Practice(12, "months", "what wears is seen once a year");
    private static readonly Limit _tubeOfASeal = Limit.Assumed(0.25, "tubes", "a thin bead round one door");

    /// <inheritdoc/>
    public string Code => "door";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new DoorLookStation(), new SealsStation(), new StripStation(SealPlace.Door), new StripStation(SealPlace.AshDoor), new StripStation(SealPlace.Lid), new ClosedAirStation()];

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
        new("seal-out", "A door or seal is out: no fire until it is back.", "door-rope", "glass", "ash-door") { Retest = "Back in place, it shuts, and the strips hold." },
    ];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = ["seal.", .. Enum.GetValues<SealPlace>().SelectMany(p => (string[])[DoorFacts.WidthM(p), DoorFacts.HeightM(p)])];

    /// <inheritdoc/>
    public IEnumerable<DueTask> Due(StoveHistory history, DateOnly today)
    {
        foreach (var place in SealsAnswer.Of(history.Stove))
        {
            if (history.Earlier.LastOrDefault(v => v.Text(SealFacts.Fitted(place)) is not null)?.Day is { } fitted && SealsAnswer.EndOf(history, fitted) is var (from, by) && today >= from)
            {
                yield return new DueTask(DueKind.Part, place switch { SealPlace.Glass => "glass", SealPlace.AshDoor => "ash-door", _ => "door-rope" },
                    from, by, by, $"{Word.Said(place)}: its rope is of {fitted:d MMM yyyy}, {SealsAnswer.LifeOf(history)}.");
            }
        }
    }

    /// <inheritdoc/>
    public IEnumerable<WantedPart> Wants(StoveHistory history, DateOnly today)
    {
        var needs = SealNeed.Of(history.On(today, UnitSystem.Metric));
        foreach (var (seal, size, cut, why) in needs)
            yield return new(SealNeed.StockOf(seal.Kind), cut, $"{Word.Of(seal.Kind)} for the {seal.Name.ToLowerInvariant()}", why, size);
        if (needs.Count(n => n.Seal.Cement is RopeCement.Needed or RopeCement.ThinBead) is > 0 and var cemented)
            yield return new(StockKind.Cement, cemented * _tubeOfASeal.Value, "cement", "under the new rope");
    }

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at)
    {
        var length = Units.Of(Quantity.Length, at.Units);
        foreach (var (seal, size, cut, _) in SealNeed.Of(at))
        {
            var (what, name) = (Word.Of(seal.Kind), seal.Name.ToLowerInvariant());
            yield return new VanItem(size is { } mm && cut is { } m ? $"{what} {Rope.Named(mm, at.Units)}, {length.Format(m)}" : $"{what} in all sizes: the {name} is not measured", $"the {name}");
            if (seal.Cement is RopeCement.Needed or RopeCement.ThinBead || (size is null && seal.Kind == SealKind.Rope))
                yield return new VanItem("cement and waxed paper", $"the {name}");
        }
    }
}

/// <summary>The strip test, before anything is disturbed and after it is back together.</summary>
/// <param name="place">The door, the ash door or the loading lid.</param>
public sealed class StripStation(SealPlace place) : Station<StripTest, StripTestAnswer>
{
    /// <inheritdoc/>
    public override string Code => $"{Word.Of(place)}-strips";

    /// <inheritdoc/>
    public override string Name => place == SealPlace.Door ? "Strips round the door" : $"{Word.Said(place)}: strips";

    /// <inheritdoc/>
    public override string? Feature => place switch { SealPlace.AshDoor => "grate", SealPlace.Lid => "lid", _ => null };

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.ColdChecks, VisitSteps.BackTogether];

    /// <inheritdoc/>
    public override JsonTypeInfo<StripTest> EntryJson => CoreJson.Default.StripTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<StripTestAnswer> AnswerJson => CoreJson.Default.StripTestAnswer;

    /// <inheritdoc/>
    public override StripTestAnswer? Answer(StripTest entry, VisitContext at, EntryErrors errors) => StripTestAnswer.To(entry, place, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(StripTest entry, StripTestAnswer answer) =>
    [
        .. Fact.Number(DoorFacts.WidthM(place), entry.WidthM),
        .. Fact.Number(DoorFacts.HeightM(place), entry.HeightM),
        .. Fact.Number(DoorFacts.StripShare(place), answer.Strip?.LeakingShare),
        .. Fact.Number(DoorFacts.LeakKgH(place), answer.Strip?.LeakKgH),
        .. Fact.Of(DoorFacts.Rope(place), entry.Rope),
        .. Fact.Of(DoorFacts.LatchAtEnd(place), entry.LatchAtEnd is { } end ? end ? "yes" : "no" : null),
        .. answer.Spots.SelectMany(s => Fact.Number(DoorFacts.Grade(s.Code, place), s.Grade)),
    ];

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(StripTest entry, StripTestAnswer answer, UnitSystem system)
    {
        if (answer.Strip is null)
            yield break;
        static Sentence Grade(int? grade) => grade is { } g ? Sentence.Say(Sentence.Measured($"{g}")) : Sentence.Say("–");
        string[] columns = ["Point", "Grade"];
        yield return new ReportBlock(Name, answer.Other is { } other ? [.. columns, other.When] : columns,
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
        [.. Fact.Number(DoorFacts.CollapseS, entry.CollapseS), .. Fact.Number(DoorFacts.ReviveS, entry.ReviveS), .. Fact.Of(DoorFacts.ClosedAir, answer.Result.Verdict is { } verdict ? Word.Of(verdict) : null)];
}
