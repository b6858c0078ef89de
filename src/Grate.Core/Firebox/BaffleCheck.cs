using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>A baffle as looked at; every field may still be missing.</summary>
/// <param name="Kind">What it is; default as an earlier visit found it.</param>
/// <param name="ThicknessMm">Thickness, mm, 1..300; default as an earlier visit measured it, else 25.</param>
/// <param name="SpanMm">Free span, mm, 50..2000; default as an earlier visit measured it.</param>
/// <param name="DeflectionMm">Deflection at mid-span by a straightedge, mm.</param>
/// <param name="Signs">What is seen; an empty list is "whole and seated".</param>
/// <param name="Turned">Whether it was turned over today.</param>
public sealed record BaffleCheck([property: Words(typeof(BaffleKind))] string? Kind = null, double? ThicknessMm = null, double? SpanMm = null, double? DeflectionMm = null,
    [property: Words(typeof(BaffleSign))] IReadOnlyList<string>? Signs = null, bool Turned = false);

/// <summary>What follows for a baffle (handbook 04 section 2).</summary>
/// <param name="Kind">What it is; null while nobody said.</param>
/// <param name="ThicknessMm">Thickness as taken, mm.</param>
/// <param name="SpanMm">Span as taken, mm; null where it is not known.</param>
/// <param name="Judged">The judgement; null while its kind is not known.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record BaffleCheckAnswer(BaffleKind? Kind, double ThicknessMm, double? SpanMm, BaffleAnswer? Judged, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed)
    : IReckoned
{
    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="BaffleCheck"/>.</returns>
    public static BaffleCheckAnswer? To(BaffleCheck check, VisitContext at, EntryErrors errors)
    {
        var kind = check.Kind ?? at.NewestText(FireboxFacts.BaffleKind);
        var (thickness, span) = (check.ThicknessMm ?? at.NewestNumber(FireboxFacts.BaffleThicknessMm), check.SpanMm ?? at.NewestNumber(FireboxFacts.BaffleSpanMm));
        // Without a kind nothing is judged, but what was typed is looked at all the same.
        var refused = new EntryErrors(at.Units);
        var judged = BaffleAnswer.To(new(kind ?? Word.Of(BaffleKind.Stone), thickness, span, check.DeflectionMm, check.Signs, at.Day), refused);
        errors.TakeOver(refused, field => field == "flags" ? "signs" : field);
        if (judged is null)
            return null;
        // A look that names nothing bad is a look: whole and seated.
        if (judged.Condition == Condition.NotSeen && check.Signs is { Count: 0 })
            judged = judged with { Condition = Condition.Sound, RecheckMonths = (int)BaffleAnswer.SoundMonths.Value, RecheckOn = at.Day.AddMonths((int)BaffleAnswer.SoundMonths.Value) };
        var known = Word.Find<BaffleKind>(kind);
        var answer = new BaffleCheckAnswer(known, thickness ?? BaffleAnswer.ThickEnough.Value, span, known is null ? null : judged, [], [], known is null ? [] : judged.Assumed);
        var why = answer.Why(at.Units);
        return answer with
        {
            Parts = known is null || judged.Condition == Condition.NotSeen ? [] : [new("baffle", "baffle", judged.Condition, judged.Condition == Condition.Unsafe ? FireboxPart.Baffle : null, why)],
            Sentences = answer.Words(check, why),
        };
    }

    private Sentence Why(UnitSystem units)
    {
        if (Judged is not { } judged)
            return Say("What the baffle is made of decides how it is judged.");
        var (share, bore) = (Units.Of(Quantity.Share, units), Units.Of(Quantity.Bore, units));
        var sag = judged.SagShare is { } s ? $"{share.Format(s)} of its span" : "";
        var signs = string.Join(", ", judged.Reasons.Where(r => r != BaffleAnswer.Sag).Select(r => Word.Said(Word.Find<BaffleSign>(r)!.Value).ToLowerInvariant()));
        var sags = judged.Reasons.Contains(BaffleAnswer.Sag);
        var reason = (sags, signs) switch { (true, "") => "", (true, _) => $"; {signs}", _ => signs };
        return judged.Condition switch
        {
            Condition.NotSeen => Say($"Lay a straightedge along the baffle{(SpanMm is { } span ? $" ({bore.Format(span / 1000)} free)" : "")}: its sag at mid-span over the free span judges it."),
            Condition.Sound => judged.SagShare is null ? Say("The baffle is whole and seated.") : Say("The baffle sags ", Computed(sag), ": sound."),
            Condition.Unsafe => Say($"The baffle: {(sags ? "it sags " : "")}", Computed(sags ? sag : ""), $"{reason}. Flame goes up the flue: no fire."),
            Condition.Spent => Say($"The baffle: {(sags ? "it sags " : "")}", Computed(sags ? sag : ""), $"{reason}: renew it."),
            _ => Say($"The baffle: {(sags ? "it sags " : "")}", Computed(sags ? sag : ""), $"{reason}: wearing."),
        };
    }

    private IReadOnlyList<Sentence> Words(BaffleCheck check, Sentence why)
    {
        var said = new Said();
        if (Judged is not { } judged)
            return said.Add(Weight.Verdict, why).InOrder();
        said.Add(judged.Condition == Condition.Unsafe ? Weight.Stop : Weight.Verdict, why);
        void Advise(BaffleAdvice advice, Weight weight, Sentence sentence)
        {
            if (judged.Advice.Contains(advice))
                said.Add(weight, sentence);
        }
        Advise(BaffleAdvice.ClearTop, Weight.Verdict, Say("Take off what lies on top: it smothers the draft, the classic call-back after a sweep."));
        Advise(BaffleAdvice.Reseat, Weight.Verdict, Say("Seat it anew, tight at sides and back: gas must not take the short way."));
        if (judged.Advice.Contains(BaffleAdvice.Renew) && judged.Condition != Condition.Spent)
            said.Add(Weight.Verdict, Say("A new one is needed."));
        if (judged.TurnOver)
        {
            said.Add(Weight.Verdict, check.Turned ? Say($"Turned over today; looked at again by {judged.RecheckOn:d MMMM yyyy}.")
                : Say($"A thick slab with a slight bow and no crack may be turned over; then look again by {judged.RecheckOn:d MMMM yyyy}."));
        }
        else if (judged.Condition == Condition.Wearing)
            said.Add(Weight.Hint, Say($"Look again by {judged.RecheckOn:d MMMM yyyy}."));
        if (Kind is BaffleKind.VermiculiteBoard or BaffleKind.FibreBoard)
            said.Add(Weight.Hint, Say("Board: never lean on it, never brush it hard; dust of old fibre board is not to be breathed."));
        if (check.Turned && !judged.TurnOver)
            said.Add(Weight.Verdict, Say("Turned over, though it is no thick dense slab with a slight bow and no crack: that is not held to be safe."));
        return said.InOrder();
    }
}

/// <summary>The baffle, when it is opened and when everything lies bare.</summary>
public sealed class BaffleStation : Station<BaffleCheck, BaffleCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "baffle";

    /// <inheritdoc/>
    public override string Name => "Baffle";

    /// <inheritdoc/>
    public override string? Feature => "baffle";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.OpenUp, VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<BaffleCheck> EntryJson => CoreJson.Default.BaffleCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<BaffleCheckAnswer> AnswerJson => CoreJson.Default.BaffleCheckAnswer;

    /// <inheritdoc/>
    public override BaffleCheckAnswer? Answer(BaffleCheck entry, VisitContext at, EntryErrors errors) => BaffleCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(BaffleCheck entry, BaffleCheckAnswer answer) =>
    [
        .. Fact.Of(FireboxFacts.BaffleKind, entry.Kind),
        .. Fact.Number(FireboxFacts.BaffleThicknessMm, entry.ThicknessMm),
        .. Fact.Number(FireboxFacts.BaffleSpanMm, entry.SpanMm),
        .. Fact.Number(FireboxFacts.BaffleSagShare, answer.Judged?.SagShare),
        .. Fact.Of(FireboxFacts.BaffleTurned, entry.Turned ? "yes" : null),
    ];

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(BaffleCheck entry, BaffleCheckAnswer answer)
    {
        if (answer.Parts is [{ Condition: Condition.Unsafe } unfit])
            yield return new(FireboxPart.Baffle, unfit.Why.ToString());
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(BaffleCheck entry, BaffleCheckAnswer answer)
    {
        if (entry.Signs is not null && answer.Parts is [{ Condition: not Condition.Unsafe } fit])
            yield return new(FireboxPart.Baffle, fit.Why.ToString());
    }
}

/// <summary>Names of what is known inside the stove.</summary>
public static class FireboxFacts
{
    /// <summary>What the baffle is.</summary>
    public const string BaffleKind = "baffle.kind";

    /// <summary>Its thickness, mm.</summary>
    public const string BaffleThicknessMm = "baffle.thickness-mm";

    /// <summary>Its free span, mm.</summary>
    public const string BaffleSpanMm = "baffle.span-mm";

    /// <summary>Its sag over its span.</summary>
    public const string BaffleSagShare = "baffle.sag-share";

    /// <summary>That it was turned over.</summary>
    public const string BaffleTurned = "baffle.turned";

    /// <summary>Share of the air tubes' holes that are blocked.</summary>
    public const string HolesBlockedShare = "tubes.blocked-share";

    /// <summary>Holes of an air tube.</summary>
    public const string HolesEach = "tubes.holes-each";

    /// <summary>Air tubes.</summary>
    public const string Tubes = "tubes.count";

    /// <summary>End at which the tubes carry their notch.</summary>
    public const string NotchEnd = "tubes.notch-end";

    /// <summary>State of the air wash.</summary>
    public const string AirWash = "tubes.air-wash";

    /// <summary>Heat that the lining holds when it is hot, kWh.</summary>
    public const string LiningKwh = "lining.stored-kwh";

    /// <summary>Days until the pan is full.</summary>
    public const string PanDays = "ash.pan-days";

    /// <summary>What the ash pan holds, L.</summary>
    public const string PanL = "ash.pan-l";

    /// <summary>Ash a year, kg.</summary>
    public const string AshKgYear = "ash.kg-per-year";
}
