namespace Grate.Core.Flue;

/// <summary>A finding that a reading leads to, in the words the part may have.</summary>
/// <param name="Condition">Its condition.</param>
/// <param name="Note">The numbers, in a sentence.</param>
/// <param name="StopCode">The stop, where unsafe.</param>
public sealed record DraftFinding(Condition Condition, string Note, string? StopCode);

/// <summary>A reading at a fire, answered.</summary>
/// <param name="Level">The fire.</param>
/// <param name="ReadingPa">What was read, Pa; null while it is only expected.</param>
/// <param name="Answer">The computation.</param>
/// <param name="Reckoning">In words, with what the whole test says.</param>
/// <param name="Finding">What it would be kept as; null without a reading.</param>
public sealed record HotDraft(FiringLevel Level, double? ReadingPa, DraftAnswer Answer, DraftReckoning Reckoning, DraftFinding? Finding);

/// <summary>What a hot test says.</summary>
/// <param name="Fires">Every fire that was asked about, low first.</param>
/// <param name="Sentences">The whole, in order of weight.</param>
public sealed record HotTestAnswer(IReadOnlyList<HotDraft> Fires, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Answers a hot test: every reading is judged once.</summary>
    /// <param name="test">As entered; a reading without a draft is a fire whose expectation is asked for.</param>
    /// <param name="at">The visit.</param>
    /// <param name="errors">Takes the refusals, by the fields of <see cref="HotTest"/> and <see cref="HotReading"/>.</param>
    public static HotTestAnswer? To(HotTest test, VisitContext at, EntryErrors errors)
    {
        test.Check(errors);
        if (errors.Any)
            return null;
        var place = HotPlace.Of(at);
        var answers = new SortedDictionary<FiringLevel, (HotReading Reading, DraftAnswer Answer)>();
        foreach (var reading in test.Readings)
        {
            if (errors.Need<FiringLevel>("level", reading.Level, "Level") is not { } level)
                continue;
            if ((place with { Past = FlueFacts.Sound(at.History, level) }).Answer(reading, at.Day.Month, errors, at.Units) is { } answer)
                answers[level] = (reading, answer);
        }
        if (errors.Any)
            return null;
        var evidence = HotEvidence.Of(test, answers.Where(a => a.Value.Reading.DraftPa is not null).ToDictionary(a => a.Key, a => a.Value.Answer),
            at.Number(FlueFacts.RoomOffPa), at.Number(FlueFacts.RoomOnPa), at.Text(FlueFacts.TopBad) is not null, at.ConditionOf, at.Units);
        var co = test.CoPpm is { } ppm ? RoomCo.Meaning(ppm) : null;
        var fires = answers.Select(a =>
        {
            var (level, (reading, answer)) = a;
            var reckoning = DraftReckoning.Of(answer, reading.DraftPa, level, FlueFacts.LastReading(at.History, level), evidence, at.Units);
            return new HotDraft(level, reading.DraftPa, answer,
                reckoning with { Sentences = new Said().Take(co is null ? [] : [co]).Take(reckoning.Sentences).InOrder() },
                reading.DraftPa is { } draftPa ? Finding(draftPa, level, answer, at.Units) : null);
        }).ToList();
        var said = new Said().Take(co is null ? [] : [co]);
        // A fire that was only asked about says nothing of the flue.
        foreach (var fire in fires.Any(f => f.ReadingPa is not null) ? fires.Where(f => f.ReadingPa is not null) : fires)
            said.Take(fire.Reckoning.Sentences);
        return new HotTestAnswer(fires, said.InOrder());
    }

    private static DraftFinding Finding(double draftPa, FiringLevel level, DraftAnswer answer, UnitSystem system)
    {
        var draft = Units.Of(Quantity.Draft, system);
        var note = $"At {Word.Of(level)} fire {draft.Format(draftPa)} where {draft.Range(answer.LowPa, answer.HighPa)} is expected.";
        return draftPa < FlueLimits.ReversedDraft.Value ? new(Condition.Unsafe, note, HotDraftStation.Spillage)
            : answer.Verdict switch
            {
                DraftVerdict.AsExpected => new(Condition.Sound, note, null),
                DraftVerdict.AsExpectedTooStrong or DraftVerdict.AboveExpected when draftPa > answer.Need.MaxPa => new(Condition.Spent, $"{note} It pulls too hard: this stove may have {draft.Format(answer.Need.MaxPa)} at most.", null),
                DraftVerdict.AboveExpected => new(Condition.Sound, $"{note} Within what this stove may have; read it again in a lull.", null),
                _ when draftPa < answer.Need.MinPa => new(Condition.Spent, $"{note} It pulls too weakly: this stove needs {draft.Format(answer.Need.MinPa)}.", null),
                _ => new(Condition.Spent, $"{note} It pulls less than it should.", null),
            };
    }
}
