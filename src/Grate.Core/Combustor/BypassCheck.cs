using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Combustor;

/// <summary>What is seen on a bypass.</summary>
[JsonConverter(typeof(WordConverter<BypassSign>))]
public enum BypassSign
{
    /// <summary>It does not travel all the way.</summary>
    [Said("Not its full travel")]
    ShortTravel,

    /// <summary>It will not lock.</summary>
    [Said("Will not lock")]
    WillNotLock,

    /// <summary>A retainer clip is missing.</summary>
    [Said("A clip is missing")]
    ClipMissing,

    /// <summary>The plate sits out of a hinge channel.</summary>
    [Said("Out of its channel")]
    OutOfChannel,

    /// <summary>Creosote in its seat.</summary>
    [Said("Build-up in the seat")]
    BuildUp,

    /// <summary>The tension bolt is loose.</summary>
    [Said("Bolt loose")]
    BoltLoose,

    /// <summary>Its gasket is flat or gone.</summary>
    [Said("Gasket flat")]
    GasketFlat,
}

/// <summary>A bypass as looked at.</summary>
/// <param name="Signs">What is seen; an empty list is "travels, locks and sits".</param>
public sealed record BypassCheck([property: Words(typeof(BypassSign))] IReadOnlyList<string>? Signs = null);

/// <summary>What follows for a bypass (handbook 05 section 2; its words [A]).</summary>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record BypassCheckAnswer(IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static BypassCheckAnswer? To(BypassCheck check, VisitContext at, EntryErrors errors)
    {
        var signs = errors.Words<BypassSign>("signs", check.Signs, "What is seen on the bypass");
        if (errors.Any)
            return null;
        var said = new Said();
        if (check.Signs is null)
            return new([], said.Add(Weight.Verdict, Say("Move the bypass through its full travel, lock it, and look at seat, clips and gasket.")).InOrder());
        var seen = string.Join(", ", signs.Select(s => Word.Said(s).ToLowerInvariant()));
        var (condition, why) = signs.Contains(BypassSign.OutOfChannel) || signs.Contains(BypassSign.WillNotLock) ? (Condition.Spent, Say($"The bypass: {seen}. Smoke goes past the combustor."))
            : signs.Count > 0 ? (Condition.Wearing, Say($"The bypass: {seen}. Mend it today."))
            : (Condition.Sound, Say("The bypass travels, locks and sits."));
        said.Add(Weight.Verdict, why);
        if (signs.Contains(BypassSign.WillNotLock))
            said.Add(Weight.Verdict, Say("Will not lock: look at the clips, then build-up in the seat, then the bolt and its lock nut, in that order."));
        // Its signature in the readings: the flue hot, the probe low.
        if (at.NewestText(CombustorFacts.LightOff) == Word.Of(LightOffVerdict.Fail) && condition == Condition.Sound)
            said.Add(Weight.Hint, Say("It did not light off, and the bypass looks sound: look at cells and seal."));
        return new([new("bypass", "bypass", condition, null, why)], said.InOrder());
    }
}

/// <summary>The bypass plate.</summary>
public sealed class BypassStation : Station<BypassCheck, BypassCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "bypass";

    /// <inheritdoc/>
    public override string Name => "Bypass";

    /// <inheritdoc/>
    public override string? Feature => "bypass";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<BypassCheck> EntryJson => CoreJson.Default.BypassCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<BypassCheckAnswer> AnswerJson => CoreJson.Default.BypassCheckAnswer;

    /// <inheritdoc/>
    public override BypassCheckAnswer? Answer(BypassCheck entry, VisitContext at, EntryErrors errors) => BypassCheckAnswer.To(entry, at, errors);
}
