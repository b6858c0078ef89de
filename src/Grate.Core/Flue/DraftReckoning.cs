using static Grate.Core.Sentence;

namespace Grate.Core.Flue;

/// <summary>An earlier reading of the same stove, to compare with.</summary>
/// <param name="Day">Day of that visit.</param>
/// <param name="ReadingPa">Read then, Pa.</param>
/// <param name="LowPa">5 % end of what was expected then, Pa.</param>
/// <param name="HighPa">95 % end, Pa.</param>
/// <param name="Verdict">What it meant by the rules and the stove of its day.</param>
public sealed record EarlierReading(DateOnly Day, double ReadingPa, double LowPa, double HighPa, DraftVerdict Verdict);

/// <summary>A way to explain what is missing, to be tested.</summary>
/// <param name="Name">Blocked, Leaking, House.</param>
/// <param name="Figure">Its computed figure.</param>
/// <param name="Test">What to look at or do; once a test spoke, what it said.</param>
/// <param name="State">Open, named or ruled out.</param>
public sealed record Explanation(string Name, string Figure, string Test, SuspectState State);

/// <summary>What to do now.</summary>
/// <param name="Text">In a few words.</param>
/// <param name="Why">Why.</param>
public sealed record NextTest(string Text, string Why);

/// <summary>An entry that is possible but unusual, asked back once.</summary>
/// <param name="Field">Field path.</param>
/// <param name="Sentence">The question.</param>
/// <param name="Suggested">Value meant, SI, if another unit was meant.</param>
public sealed record EntryQuestion(string Field, string Sentence, double? Suggested);

/// <summary>What follows from a draft reading, in sentences with numbers (handbook 01 section 6).</summary>
/// <param name="Sentences">In order of weight.</param>
/// <param name="Explanations">Ways to explain a missing draft; empty when nothing is missing.</param>
/// <param name="NextTest">The test to do now, if any.</param>
/// <param name="Questions">Unusual entries.</param>
/// <param name="StopCode">A stop that follows from the reading, or none.</param>
public sealed record DraftReckoning(
    IReadOnlyList<Sentence> Sentences, IReadOnlyList<Explanation> Explanations, NextTest? NextTest,
    IReadOnlyList<EntryQuestion> Questions, string? StopCode)
{
    /// <summary>Puts an answer into words.</summary>
    /// <param name="answer">The computed answer.</param>
    /// <param name="readingPa">The reading, if taken.</param>
    /// <param name="level">The fire it was taken at.</param>
    /// <param name="earlier">The last reading at an earlier visit, if any.</param>
    /// <param name="evidence">What the tests say together, if any were made.</param>
    /// <param name="system">Units of the sentences.</param>
    public static DraftReckoning Of(DraftAnswer answer, double? readingPa, FiringLevel level, EarlierReading? earlier, HotEvidence? evidence, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var said = new Said();
        var expected = Computed(draft.Range(answer.LowPa, answer.HighPa));
        if (readingPa is not { } reading)
        {
            said.Add(Weight.Verdict, Say("This flue should pull ", expected, $" now, at {Word.Of(level)} fire. Read the gauge at the collar."));
            AddBaseline(said, answer, draft);
            AddNarrowing(said, answer, draft);
            AddCondensation(said, answer, system);
            return new DraftReckoning(said.Take(evidence?.Sentences ?? []).InOrder(), [], null, [], null);
        }

        var reversed = reading < FlueLimits.ReversedDraft.Value;
        if (reversed)
            said.Add(Weight.Stop, Say("The draft is reversed, ", Measured(draft.Format(reading)), ": smoke and carbon monoxide come into the room. No fire until this is cured."));
        said.Add(Weight.Verdict, Say($"At {Word.Of(level)} fire this flue should pull ", expected, "; you read ", Measured(draft.Format(reading)), ". ", Meaning(answer, reading, draft)));
        AddBaseline(said, answer, draft);
        said.Take(evidence?.Sentences ?? []);
        if (earlier is not null)
            said.Add(Weight.Hint, Earlier(earlier, draft));
        var below = answer.Verdict == DraftVerdict.BelowExpected;
        if (!below)
            AddNarrowing(said, answer, draft);
        AddCondensation(said, answer, system);
        return new DraftReckoning(said.InOrder(), below ? Explain(answer, level, evidence, system) : [], reversed ? null : Next(answer, reading, level, evidence, draft),
            Unusual(reading, system), reversed ? HotDraftStation.Spillage : null);
    }

    private static string Meaning(DraftAnswer answer, double readingPa, Unit draft) => answer.Verdict switch
    {
        DraftVerdict.BelowExpected when readingPa < FlueLimits.ReversedDraft.Value => $"{draft.Format(answer.ResidualPa!.Value)} are missing.",
        _ when readingPa < FlueLimits.ReversedDraft.Value => "Such a fire in such weather is not to be lit in this flue.",
        DraftVerdict.BelowExpected => $"Something is wrong today: {draft.Format(answer.ResidualPa!.Value)} are missing.",
        DraftVerdict.AboveExpected => $"That is {draft.Format(-answer.ResidualPa!.Value)} more than it should: wind at the top, a hotter fire than entered, or a misplaced probe.",
        DraftVerdict.AsExpectedTooWeak => $"As expected, but too weak for this stove, which needs {draft.Format(answer.Need.MinPa)}: height, bends or size, not a fault of today.",
        DraftVerdict.AsExpectedTooStrong => $"As expected, but more than the {draft.Format(answer.Need.MaxPa)} this stove may have: overfiring is likely.",
        _ => $"As expected, and within the {draft.Range(answer.Need.MinPa, answer.Need.MaxPa)} this stove asks for.",
    };

    // Judged on its day; today's need, of a fouled combustor say, is no rule for it.
    private static Sentence Earlier(EarlierReading earlier, Unit draft) =>
        Say($"On {earlier.Day:d MMMM yyyy} it read ", Measured(draft.Format(earlier.ReadingPa)), " where ", Computed(draft.Range(earlier.LowPa, earlier.HighPa)), earlier.Verdict switch
        {
            DraftVerdict.BelowExpected or DraftVerdict.AboveExpected => " was expected: outside its band already.",
            DraftVerdict.AsExpectedTooWeak => " was expected: as it was built, but too weak for this stove by the need of that day.",
            DraftVerdict.AsExpectedTooStrong => " was expected: as it was built, but more than this stove could have by the label of that day.",
            _ => " was expected: sound then.",
        });

    private static void AddNarrowing(Said said, DraftAnswer answer, Unit draft)
    {
        if (answer.Narrowing is not { } narrowing)
            return;
        var what = narrowing.Input == DraftInput.HousePressure ? "Measuring the room against outdoors" : "A probe in the flue gas";
        said.Add(Weight.Hint, Say($"{what} would narrow the band to ", Computed(draft.Range(narrowing.LowPa, narrowing.HighPa)), "."));
    }

    private static void AddCondensation(Said said, DraftAnswer answer, UnitSystem system)
    {
        var temperature = Units.Of(Quantity.Temperature, system);
        if (answer.ExitWallC < answer.DewPointC)
        {
            said.Add(Weight.Hint, Say("At the top the wall stays at ", Computed(temperature.Format(answer.ExitWallC)), ", below the dew point of ",
                Computed(temperature.Format(answer.DewPointC)), ": water and tar condense there."));
        }
    }

    private static void AddBaseline(Said said, DraftAnswer answer, Unit draft)
    {
        if (answer.Baseline is not { } baseline)
            return;
        var judged = baseline.Visits >= DraftBaseline.VisitsToJudgeBy.Value;
        var visits = baseline.Visits == 1 ? "its one sound visit" : $"its {baseline.Visits} sound visits";
        said.Add(Weight.Hint, Say($"By {visits} this flue pulls ", Computed(draft.Format(Math.Abs(baseline.BiasPa))), baseline.BiasPa < 0 ? " less" : " more",
            " than its drawing says: ", Computed(draft.Range(baseline.LowPa, baseline.HighPa)), judged ? ". The reading is judged by that." : ". From two visits on the reading is judged by that."));
    }

    private static List<Explanation> Explain(DraftAnswer answer, FiringLevel level, HotEvidence? evidence, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var share = Units.Of(Quantity.Share, system);
        var ways = new List<Explanation>();
        void Way(string name, string figure, string test, Suspicion? stands) =>
            ways.Add(new(name, figure, stands is { Why.Length: > 0 } ? stands.Why : test, stands?.State ?? SuspectState.Open));

        if (answer.Restated!.BlockedShare is { } blocked)
        {
            Way("Blocked", $"at least {share.Format(blocked)}",
                $"of the section: cap, screen, bends. Under about {share.Format(FlueLimits.BlindBelow(level).Value)} nothing shows at {Word.Of(level)} fire"
                + (level == FiringLevel.High ? "." : "; test at high fire."), evidence?.Blockage);
        }
        if (answer.Restated.LeakKgS is { } leak)
            Way("Leaking", Units.Of(Quantity.LeakFlow, system).Format(leak), "room air drawn in at a joint, the clean-out or an open damper, above the probe.", evidence?.Leak);
        else
            Way("Leaking", "not by a leak", "no leak of room air brings the draft down that far.", evidence?.Leak);
        var entered = answer.Number("surroundings.housePressurePa") is null;
        Way("House", draft.Format(-answer.Restated.HousePa!.Value), $"{(entered ? "below the pressure entered" : "of the room against outdoors, by itself")}. Open a window: if the draft recovers, it is the house.", evidence?.House);
        return ways;
    }

    private static NextTest? Next(DraftAnswer answer, double readingPa, FiringLevel level, HotEvidence? evidence, Unit draft) => answer.Verdict switch
    {
        DraftVerdict.BelowExpected when evidence is null or { House: { State: SuspectState.Open, Why: "" } } => new("Window test",
            $"Open a window: if it rises to {draft.Format(readingPa + HotEvidence.WindowNames.Value * (answer.ResidualPa!.Value - answer.HousePa))} or more, it is the house; if it stays, look for a blockage or a leak."),
        DraftVerdict.BelowExpected when evidence.House.State != SuspectState.Named && evidence.Blockage.State == SuspectState.Open && level != FiringLevel.High =>
            new("Read at high fire", "What a blockage takes grows with the fire; what a leak or the house takes does not."),
        DraftVerdict.AboveExpected => new("Look at the top", "Wait for a lull and read again; check the probe's depth and the gas temperature."),
        DraftVerdict.AsExpected when level != FiringLevel.High =>
            new("Read at high fire", "A blockage shows first at high fire, where the velocity head is greatest."),
        _ => null,
    };

    private static List<EntryQuestion> Unusual(double readingPa, UnitSystem system)
    {
        // In a Pa field, 0.02 to 0.4 is what the other gauge shows for an ordinary draft.
        var other = Units.Of(Quantity.Draft, UnitSystem.Us);
        return system == UnitSystem.Metric && readingPa is >= 0.02 and <= 0.4
            ? [new("draftPa", $"{readingPa:0.###} Pa is almost nothing. Did you mean {other.Symbol}? That would be {other.ToSi(readingPa):0.0} Pa.", other.ToSi(readingPa))]
            : [];
    }
}
