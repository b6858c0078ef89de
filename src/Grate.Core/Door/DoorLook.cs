using static Grate.Core.Sentence;

namespace Grate.Core.Door;

/// <summary>What is to be seen on a rope beside its spring.</summary>
[JsonConverter(typeof(WordConverter<RopeSign>))]
public enum RopeSign
{
    /// <summary>A gap where its ends meet.</summary>
    [Said("Gap at the joint")]
    Gap,

    /// <summary>Pulled thin when it was laid.</summary>
    [Said("Pulled thin")]
    Thin,

    /// <summary>An end hangs out.</summary>
    [Said("Loose end")]
    LooseEnd,

    /// <summary>Cement is missing.</summary>
    [Said("Cement missing")]
    NoCement,
}

/// <summary>How far the latch can still be drawn in.</summary>
[JsonConverter(typeof(WordConverter<LatchTravel>))]
public enum LatchTravel
{
    /// <summary>It has travel left.</summary>
    [Said("Has travel left")]
    Left,

    /// <summary>At its end.</summary>
    [Said("At its end")]
    AtEnd,

    /// <summary>It does not hold the door.</summary>
    [Said("Will not latch")]
    WillNotLatch,
}

/// <summary>How much the door moves in its hinges when it is lifted.</summary>
[JsonConverter(typeof(WordConverter<HingePlay>))]
public enum HingePlay
{
    /// <summary>None.</summary>
    None,

    /// <summary>It can be felt.</summary>
    Slight,

    /// <summary>The door sags or knocks.</summary>
    [Said("Door sags")]
    Sags,
}

/// <summary>What is to be seen on the pane, and felt when it is pinched and wiggled.</summary>
[JsonConverter(typeof(WordConverter<GlassSign>))]
public enum GlassSign
{
    /// <summary>It moves between finger and thumb.</summary>
    [Said("Moves when pinched")]
    Moves,

    /// <summary>Cracked through.</summary>
    Cracked,

    /// <summary>A chip at a clip.</summary>
    [Said("Chip at a clip")]
    Chipped,

    /// <summary>White crazing.</summary>
    [Said("White crazing")]
    Crazed,

    /// <summary>A fog that does not wipe off.</summary>
    [Said("Fog that stays")]
    Fogged,

    /// <summary>One corner black.</summary>
    [Said("Black corner")]
    BlackCorner,

    /// <summary>One whole side black.</summary>
    [Said("Black side")]
    BlackSide,
}

/// <summary>A look at the door; every field may still be missing. An empty list says that it was looked at, and nothing was seen.</summary>
/// <param name="Rope">springy, flattened or hard.</param>
/// <param name="RopeSigns">What else is to be seen on the rope.</param>
/// <param name="Latch">How far the latch can be drawn in.</param>
/// <param name="Hinge">Play of the hinges.</param>
/// <param name="Glass">What is to be seen on the pane.</param>
public sealed record DoorLook(
    [property: Words(typeof(RopeState))] string? Rope = null, [property: Words(typeof(RopeSign))] IReadOnlyList<string>? RopeSigns = null,
    [property: Words(typeof(LatchTravel))] string? Latch = null, [property: Words(typeof(HingePlay))] string? Hinge = null,
    [property: Words(typeof(GlassSign))] IReadOnlyList<string>? Glass = null);

/// <summary>What follows from a look at the door (handbook 03 sections 1 to 3; where it gives no word, [A]).</summary>
/// <param name="Parts">Rope, latch and glass with their words; none of what was not looked at.</param>
/// <param name="Sentences">In words.</param>
public sealed record DoorLookAnswer(IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="DoorLook"/>.</returns>
    public static DoorLookAnswer? To(DoorLook look, VisitContext at, EntryErrors errors)
    {
        var rope = look.Rope is { } state ? errors.Need<RopeState>("rope", state, "Rope") : null;
        var signs = errors.Words<RopeSign>("ropeSigns", look.RopeSigns, "Rope");
        var latch = look.Latch is { } travel ? errors.Need<LatchTravel>("latch", travel, "Latch") : null;
        var hinge = look.Hinge is { } play ? errors.Need<HingePlay>("hinge", play, "Hinges") : null;
        var glass = errors.Words<GlassSign>("glass", look.Glass, "Glass");
        if (look.Glass is not null && !at.Stove.Features.Contains("glass"))
            errors.Add("glass", "This stove has no glass.");
        if (errors.Any)
            return null;
        List<PartDecided> parts = [];
        if (rope is not null || look.RopeSigns is not null)
            parts.Add(OfRope(rope, signs, latch));
        if (latch is not null || hinge is not null)
            parts.Add(OfLatch(latch, hinge));
        if (look.Glass is not null)
            parts.Add(OfGlass(glass));
        var said = new Said();
        foreach (var part in parts)
            said.Add(part.Condition == Condition.Unsafe ? Weight.Stop : Weight.Verdict, part.Why);
        if (glass.Contains(GlassSign.BlackSide))
            said.Add(Weight.Hint, Say("One whole side of the glass is black: the seal leaks there, or the air wash is upset; pull strips along that side."));
        if (parts.Count == 0)
            said.Add(Weight.Verdict, Say("Look at rope, latch, hinges and glass: what is seen decides their words."));
        return new(parts, said.InOrder());
    }

    private static string Listed<T>(IEnumerable<T> signs) where T : struct, Enum => string.Join(", ", signs.Select(s => Word.Table<T>().First(n => n.Code == Word.Of(s)).Name.ToLowerInvariant()));

    // Dead or thin rope does not come back; a place is tended to.
    private static PartDecided OfRope(RopeState? rope, IReadOnlyList<RopeSign> signs, LatchTravel? latch)
    {
        var (condition, why) = rope == RopeState.Hard ? (Condition.Spent, "The rope is hard: it springs no more, renew it.")
            : signs.Contains(RopeSign.Thin) ? (Condition.Spent, "The rope was pulled thin: it never sealed as it should, renew it.")
            : rope == RopeState.Flattened && latch == LatchTravel.AtEnd ? (Condition.Spent, "The rope is flat and the latch at its end: renew the rope.")
            : rope == RopeState.Flattened ? (Condition.Wearing, "The rope has flat, shiny spots: the strips tell whether it still seals.")
            : signs.Count > 0 ? (Condition.Wearing, $"On the rope: {Listed(signs)}. Mend it today.")
            : (Condition.Sound, rope is null ? "Nothing is wrong with the rope's lie." : "The rope is proud and springy.");
        return new("door-rope", "door rope", condition, null, Say(why));
    }

    private static PartDecided OfLatch(LatchTravel? latch, HingePlay? hinge) => latch == LatchTravel.WillNotLatch
        ? new("latch", "latch and hinges", Condition.Unsafe, "latch", Say("The door will not latch: no fire."))
        : new("latch", "latch and hinges", hinge == HingePlay.Sags ? Condition.Spent : latch == LatchTravel.AtEnd || hinge == HingePlay.Slight ? Condition.Wearing : Condition.Sound, null,
            Say(string.Join(" ", new[]
            {
                latch switch { LatchTravel.AtEnd => "The latch is at the end of its travel: only new rope gives it some back.", LatchTravel.Left => "The latch has travel left.", _ => null },
                hinge switch { HingePlay.Sags => "The door sags in its hinges: shim or renew them.", HingePlay.Slight => "The hinges have slight play.", HingePlay.None => "The hinges have no play.", _ => null },
            }.OfType<string>())));

    private static PartDecided OfGlass(IReadOnlyList<GlassSign> signs)
    {
        GlassSign[] renew = [GlassSign.Crazed, GlassSign.Chipped];
        return signs.Contains(GlassSign.Cracked) ? new("glass", "glass", Condition.Unsafe, "glass", Say("The glass is cracked: no fire."))
            : signs.Intersect(renew).Any() ? new("glass", "glass", Condition.Spent, null, Say($"On the glass: {Listed(signs.Intersect(renew))}. Renew it."))
            : signs.Contains(GlassSign.Moves) ? new("glass", "glass", Condition.Spent, null, Say("The glass moves when it is pinched: its tape is due."))
            : signs.Contains(GlassSign.Fogged) ? new("glass", "glass", Condition.Wearing, null, Say("The glass has a fog that does not wipe off: etched, it will not clear again."))
            : new("glass", "glass", Condition.Sound, null, Say(signs.Contains(GlassSign.BlackCorner) ? "The glass is sound; a black corner is normal." : "The glass is whole and sits firm."));
    }
}

/// <summary>The look at rope, latch, hinges and glass.</summary>
public sealed class DoorLookStation : Station<DoorLook, DoorLookAnswer>
{
    /// <inheritdoc/>
    public override string Code => "door-look";

    /// <inheritdoc/>
    public override string Name => "Look at the door";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.ColdChecks];

    /// <inheritdoc/>
    public override System.Text.Json.Serialization.Metadata.JsonTypeInfo<DoorLook> EntryJson => CoreJson.Default.DoorLook;

    /// <inheritdoc/>
    public override System.Text.Json.Serialization.Metadata.JsonTypeInfo<DoorLookAnswer> AnswerJson => CoreJson.Default.DoorLookAnswer;

    /// <inheritdoc/>
    public override DoorLookAnswer? Answer(DoorLook entry, VisitContext at, EntryErrors errors) => DoorLookAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(DoorLook entry, DoorLookAnswer answer) =>
    [
        .. Fact.Of(DoorFacts.Rope(), entry.Rope),
        .. Fact.Of(DoorFacts.LatchAtEnd(), entry.Latch is { } latch ? latch == Word.Of(LatchTravel.AtEnd) ? "yes" : "no" : null),
        .. Fact.Of(DoorFacts.HingePlay, entry.Hinge),
        .. Fact.Of(DoorFacts.GlassMoves, entry.Glass is { } glass ? glass.Contains(Word.Of(GlassSign.Moves)) ? "yes" : "no" : null),
        .. Fact.Of(DoorFacts.GlassBlackSide, entry.Glass is { } pane ? pane.Contains(Word.Of(GlassSign.BlackSide)) ? "yes" : "no" : null),
    ];

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(DoorLook entry, DoorLookAnswer answer) =>
        answer.Parts.Where(p => p.StopCode is not null).Select(p => new ComputedStop(p.StopCode!, p.Why.ToString()));

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(DoorLook entry, DoorLookAnswer answer)
    {
        if (entry.Glass is not null && answer.Parts.All(p => p.Part != "glass" || p.StopCode is null))
            yield return new("glass", "Looked at again: no crack.");
        if (entry.Latch is not null && answer.Parts.All(p => p.Part != "latch" || p.StopCode is null))
            yield return new("latch", "Tried again: the door latches.");
    }
}
