using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>What is seen on the air tubes.</summary>
[JsonConverter(typeof(WordConverter<TubeSign>))]
public enum TubeSign
{
    /// <summary>One sags.</summary>
    Sagging,

    /// <summary>Burnt through.</summary>
    [Said("Burnt through")]
    BurntThrough,

    /// <summary>A clip, screw or pin is missing.</summary>
    [Said("A clip or pin is missing")]
    ClipMissing,

    /// <summary>The manifold leaks at a seat.</summary>
    [Said("Loose in its seat")]
    Loose,
}

/// <summary>How free a way of air is.</summary>
[JsonConverter(typeof(WordConverter<AirWay>))]
public enum AirWay
{
    /// <summary>Along its whole width.</summary>
    Free,

    /// <summary>Ash or slag in a part of it.</summary>
    [Said("Partly blocked")]
    Partly,

    /// <summary>Nothing comes through.</summary>
    Blocked,
}

/// <summary>An end of a tube.</summary>
[JsonConverter(typeof(WordConverter<TubeEnd>))]
public enum TubeEnd
{
    /// <summary>Left, seen from the door.</summary>
    Left,

    /// <summary>Right, seen from the door.</summary>
    Right,
}

/// <summary>Air tubes and air wash as looked at; every field may still be missing.</summary>
/// <param name="Tubes">How many tubes, 1..8; default as found before, else 4.</param>
/// <param name="HolesEach">Holes of each, 1..80; default as found before, else 20.</param>
/// <param name="Blocked">Holes blocked, tube by tube from the front.</param>
/// <param name="Signs">What else is seen; an empty list is nothing.</param>
/// <param name="NotchEnd">Which end carries the notch.</param>
/// <param name="AirWash">The slot over the glass.</param>
/// <param name="FloorAir">The air inlet at the front floor.</param>
public sealed record TubesCheck(int? Tubes = null, int? HolesEach = null, IReadOnlyList<double?>? Blocked = null, [property: Words(typeof(TubeSign))] IReadOnlyList<string>? Signs = null,
    [property: Words(typeof(TubeEnd))] string? NotchEnd = null, [property: Words(typeof(AirWay))] string? AirWash = null, [property: Words(typeof(AirWay))] string? FloorAir = null);

/// <summary>What follows for air tubes and air wash (handbook 04 section 3; the words where it gives none [A]).</summary>
/// <param name="Tubes">How many tubes.</param>
/// <param name="HolesEach">Holes of each.</param>
/// <param name="Blocked">Holes blocked in each.</param>
/// <param name="BlockedShare">Share of all; null where none were counted.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record TubesCheckAnswer(int Tubes, int HolesEach, IReadOnlyList<int> Blocked, double? BlockedShare, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>Share of holes blocked up to which tubes are sound once they are cleared.</summary>
    public static readonly Limit FewBlocked = Limit.Assumed(0.1, "", "a hole or two, cleared by hand");

    private static readonly Limit _tubes = Limit.Assumed(4, "", "the usual number");
    private static readonly Limit _holes = Limit.Assumed(20, "", "until they are counted");
    private static readonly EntryRange _tubeRange = new("Air tubes", Quantity.Count, 1, 8);
    private static readonly EntryRange _holeRange = new("Holes of a tube", Quantity.Count, 1, 80);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="TubesCheck"/>.</returns>
    public static TubesCheckAnswer? To(TubesCheck check, VisitContext at, EntryErrors errors)
    {
        errors.Check("tubes", check.Tubes, _tubeRange);
        errors.Check("holesEach", check.HolesEach, _holeRange);
        var signs = errors.Words<TubeSign>("signs", check.Signs, "What is seen on the tubes");
        errors.CheckWord<TubeEnd>("notchEnd", check.NotchEnd, "End with the notch");
        var wash = check.AirWash is { } w ? errors.Need<AirWay>("airWash", w, "Air wash") : null;
        var floor = check.FloorAir is { } f ? errors.Need<AirWay>("floorAir", f, "Air at the floor") : null;
        if (errors.Any)
            return null;
        var assumed = new Assumptions();
        var tubes = (int)assumed.Or(check.Tubes ?? at.NewestNumber(FireboxFacts.Tubes), "tubes", _tubes);
        var holes = (int)assumed.Or(check.HolesEach ?? at.NewestNumber(FireboxFacts.HolesEach), "holesEach", _holes);
        var each = new EntryRange("Holes blocked in a tube", Quantity.Count, 0, holes);
        var blocked = new List<int>();
        foreach (var (count, i) in errors.Each("blocked", check.Blocked, tubes, "tubes"))
        {
            if (errors.Check($"blocked[{i}]", count, each))
                blocked.Add((int)Math.Round(count!.Value));
            else
                blocked.Add(0);
        }
        if (errors.Any)
            return null;
        double? share = check.Blocked is null ? null : blocked.Sum() / (double)(tubes * holes);
        var answer = new TubesCheckAnswer(tubes, holes, blocked, share, [], [], assumed.Used);
        var decided = share is null && check.Signs is null ? null : answer.Decide(signs, at.Units);
        return answer with { Parts = decided is null ? [] : [decided], Sentences = Words(decided, wash, floor) };
    }

    private PartDecided Decide(IReadOnlyList<TubeSign> signs, UnitSystem units)
    {
        var holes = BlockedShare > 0 ? $"{Blocked.Sum()} of {Tubes * HolesEach} holes blocked ({Units.Of(Quantity.Share, units).Format(BlockedShare.Value)})" : "";
        var seen = string.Join(", ", signs.Select(s => Word.Said(s).ToLowerInvariant()));
        var (condition, why) = signs.Contains(TubeSign.BurntThrough) ? (Condition.Spent, Say("An air tube is burnt through: renew it."))
            : signs.Contains(TubeSign.Sagging) ? (Condition.Spent, Say("An air tube sags: renew it, it lies on the baffle next."))
            : signs.Count > 0 ? (Condition.Wearing, Say($"On the air tubes: {seen}. Mend it today."))
            : BlockedShare > FewBlocked.Value ? (Condition.Wearing, Say("Air tubes: ", Computed(holes), ". The smoke over the fire is not burnt: clear them."))
            : (Condition.Sound, BlockedShare > 0 ? Say("Air tubes: ", Computed(holes), ". Clear them by hand; they are sound.") : Say("The air tubes are whole and free."));
        return new("tubes", "air tubes", condition, null, why);
    }

    private static IReadOnlyList<Sentence> Words(PartDecided? decided, AirWay? wash, AirWay? floor)
    {
        var said = new Said();
        if (decided is not null)
            said.Add(Weight.Verdict, decided.Why);
        if (wash is AirWay.Partly or AirWay.Blocked)
            said.Add(Weight.Verdict, Say($"The air wash over the glass is {(wash == AirWay.Blocked ? "blocked" : "blocked in places")}: that explains black glass. Clear it along its whole width."));
        if (floor is AirWay.Partly or AirWay.Blocked)
            said.Add(Weight.Verdict, Say("The air inlet at the front floor lies under ash or coals: flames slow down visibly. Clear it, and show the household."));
        if (wash == AirWay.Free && floor is null or AirWay.Free)
            said.Add(Weight.RuledOut, Say("The ways of the air are free."));
        if (decided is null && wash is null && floor is null)
            said.Add(Weight.Verdict, Say("Count the blocked holes, look at clips and pins, note which end carries the notch, and try the air wash along its whole width."));
        return said.InOrder();
    }
}

/// <summary>Air tubes and air wash.</summary>
public sealed class TubesStation : Station<TubesCheck, TubesCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "air-tubes";

    /// <inheritdoc/>
    public override string Name => "Air tubes";

    /// <inheritdoc/>
    public override string? Feature => "tubes";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<TubesCheck> EntryJson => CoreJson.Default.TubesCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<TubesCheckAnswer> AnswerJson => CoreJson.Default.TubesCheckAnswer;

    /// <inheritdoc/>
    public override TubesCheckAnswer? Answer(TubesCheck entry, VisitContext at, EntryErrors errors) => TubesCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(TubesCheck entry, TubesCheckAnswer answer) =>
    [
        .. Fact.Number(FireboxFacts.Tubes, entry.Tubes),
        .. Fact.Number(FireboxFacts.HolesEach, entry.HolesEach),
        .. Fact.Number(FireboxFacts.HolesBlockedShare, answer.BlockedShare),
        .. Fact.Of(FireboxFacts.NotchEnd, entry.NotchEnd),
        .. Fact.Of(FireboxFacts.AirWash, entry.AirWash),
    ];
}
