using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Diagnosis;

/// <summary>What it was, once it is known.</summary>
/// <param name="Causes">Words of causes, at most three.</param>
/// <param name="Outside">Whether it lies outside the list.</param>
/// <param name="Minutes">Minutes until it was known, 0..600.</param>
public sealed record CauseFound(IReadOnlyList<string>? Causes = null, bool? Outside = null, double? Minutes = null);

/// <summary>A cause that was named.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Wrong">What was wrong.</param>
/// <param name="Percent">How sure it is by all that was found, 1..99 %.</param>
/// <param name="Proved">Whether what settles it was found; false where that speaks against it, null where nobody looked.</param>
/// <param name="Remedy">What cures it.</param>
public sealed record NamedCause(string Cause, string Wrong, int Percent, bool? Proved, string Remedy);

/// <summary>A cause that can be named.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Wrong">What would be wrong.</param>
/// <param name="Percent">How sure it is, 1..99 %.</param>
public sealed record CauseOffered(string Cause, string Wrong, int Percent);

/// <summary>What it was, with its evidence.</summary>
/// <param name="Named">What was named.</param>
/// <param name="Offered">What can be named, the likeliest first.</param>
/// <param name="First">Who was suspected first, by what was told and found; null where nothing was told.</param>
/// <param name="ExpectedMin">Minutes that were to be expected when the call ended, by what was told and the drawing alone; null where nothing was told.</param>
/// <param name="Sentences">In words.</param>
public sealed record CauseAnswer(IReadOnlyList<NamedCause> Named, IReadOnlyList<CauseOffered> Offered, CauseOffered? First, double? ExpectedMin, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    private static readonly EntryRange _minutes = new("Minutes until it was known", Quantity.Count, 0, 600);

    /// <summary>Answers what was named.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="CauseFound"/>.</returns>
    public static CauseAnswer? To(CauseFound found, VisitContext at, EntryErrors errors)
    {
        var told = new Suspects(TroubleFacts.Told(at));
        var offered = told.Offered(at.Stove, new EntryErrors());
        errors.Check("minutes", found.Minutes, _minutes);
        var named = errors.Each("causes", found.Causes, TroubleSpace.MostTogether, "causes");
        if (SuspectsAnswer.Weigh(told, at, offered, false, new EntryErrors()) is not var (answer, _, findings))
            return null;
        foreach (var (cause, i) in named.Where(c => answer.Causes.All(s => s.Cause != c.Item)))
            errors.Add($"causes[{i}]", Troubles.Causes.Any(c => c.Code == cause) ? "This stove cannot have that." : "There is no such cause.");
        if (named.Count > 0 && found.Outside == true)
            errors.Add("outside", "It was one of the list, or it lay outside: one of the two.");
        if (errors.Any)
            return null;
        var table = Troubles.Causes.ToDictionary(c => c.Code);
        CauseOffered Offer(CauseStanding standing) => new(standing.Cause, table[standing.Cause].Wrong, SuspectsAnswer.Percent(standing.Probability));
        List<NamedCause> causes = [.. named.Select(c => c.Item).Distinct().Select(code => new NamedCause(code, table[code].Wrong, SuspectsAnswer.Percent(answer.Causes.Single(s => s.Cause == code).Probability), Proved(table[code], findings, offered), table[code].Remedy))];
        var result = new CauseAnswer(causes, [.. answer.Causes.Select(Offer)], told.Told is { Count: > 0 } ? Offer(answer.Causes[0]) : null, Expected(told, at, offered), []);
        return result with { Sentences = result.Words(found, told, table, offered) };
    }

    // What was ticked at the stove was not known yet when the call ended.
    private static double? Expected(Suspects told, VisitContext at, IReadOnlyDictionary<string, Finding> offered)
    {
        var call = (told.Told ?? new Dictionary<string, bool>()).Where(t => offered[t.Key].When == FindingWhen.Phone).ToDictionary();
        return call.Count > 0 && SuspectsAnswer.Weigh(new(call), at with { Facts = [], Found = [] }, offered, true, new EntryErrors()) is var (answer, _, _) ? Math.Round(answer.MinutesLeft()) : null;
    }

    // Every finding that settles it was looked for and is so.
    private static bool? Proved(Cause cause, IReadOnlyDictionary<string, FindingTold> findings, IReadOnlyDictionary<string, Finding> offered)
    {
        var says = cause.SettledBy.Where(offered.ContainsKey).Select(f => findings.TryGetValue(f, out var told) && told.Word != Word.Of(Condition.NotSeen) ? told.Says(offered[f]) != InOwnHands(f) : (bool?)null).ToList();
        return says.Contains(false) ? false : says.Count > 0 && says.All(s => s == true) ? true : null;
    }

    // A try in the technician's own hands: a habit's trouble is gone in them, and then the try says no.
    private static bool InOwnHands(string finding) => finding is "start-fails" or "reload-fails" or "bright-fails";

    private IReadOnlyList<Sentence> Words(CauseFound found, Suspects told, Dictionary<string, Cause> table, IReadOnlyDictionary<string, Finding> offered)
    {
        var said = new Said();
        if (found.Outside == true)
            said.Add(Weight.Verdict, Say("It lay outside the list: say in a note what it was."));
        else if (Named.Count == 0)
        {
            return said.Add(Weight.Verdict, First is not { } first ? Say("No trouble was told: nothing is to be named.")
                : Say("What was it? First suspected: ", Computed(first.Wrong), $" ({first.Percent} %).")).InOrder();
        }
        foreach (var cause in Named)
        {
            var by = string.Join(" and ", table[cause.Cause].SettledBy.Where(offered.ContainsKey).Select(f => InOwnHands(f) ? "gone in your own hands" : offered[f].Spoken));
            said.Add(Weight.Verdict, cause.Proved switch
            {
                true => Say("It was ", Computed(cause.Wrong), $": proved, {by}. {SuspectsAnswer.Capital(cause.Remedy)}."),
                false => Say("Named: ", Computed(cause.Wrong), $" ({cause.Percent} %). What settles it speaks against it ({by}): look again. {SuspectsAnswer.Capital(cause.Remedy)}."),
                _ => Say("Held to be ", Computed(cause.Wrong), $" ({cause.Percent} %); nothing proves it yet{(by.Length > 0 ? $": {by}" : "")}. {SuspectsAnswer.Capital(cause.Remedy)}."),
            });
        }
        if (First is { } suspected && Named.Count > 0)
            said.Add(Weight.Hint, Named.Any(n => n.Cause == suspected.Cause) ? Say($"It was suspected first, {suspected.Percent} %.") : Say($"First suspected was {suspected.Wrong}, {suspected.Percent} %."));
        if (found.Minutes is { } minutes && ExpectedMin is { } expected && Named.Count > 0)
            said.Add(Weight.Hint, Say($"It took {minutes:0} min; {expected:0} were to be expected when the call ended."));
        var explained = Named.SelectMany(n => table[n.Cause].Links.Where(l => l.Value > 0).Select(l => l.Key)).ToHashSet();
        var left = (told.Told ?? new Dictionary<string, bool>()).Where(t => t.Value && TroubleFacts.Complaints.Contains(t.Key) && !explained.Contains(t.Key)).Select(t => offered[t.Key].Spoken).ToList();
        if (Named.Count > 0 && left.Count > 0)
            said.Add(Weight.RuledOut, Say($"It does not explain: {string.Join("; ", left)}. Look on, or outside the list."));
        return said.InOrder();
    }
}

/// <summary>What it was: named with the household, proved by its own test, and learned from once the visit is signed.</summary>
public sealed class CauseStation : Station<CauseFound, CauseAnswer>
{
    /// <inheritdoc/>
    public override string Code => "cause";

    /// <inheritdoc/>
    public override string Name => "What it was";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Agree];

    /// <inheritdoc/>
    public override JsonTypeInfo<CauseFound> EntryJson => CoreJson.Default.CauseFound;

    /// <inheritdoc/>
    public override JsonTypeInfo<CauseAnswer> AnswerJson => CoreJson.Default.CauseAnswer;

    /// <inheritdoc/>
    public override CauseAnswer? Answer(CauseFound entry, VisitContext at, EntryErrors errors) => CauseAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(CauseFound entry, CauseAnswer answer) => TroubleFacts.Of(entry, answer);

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(CauseFound entry, CauseAnswer answer, UnitSystem system)
    {
        if (answer.Named.Count > 0)
        {
            yield return new("What it was", ["Cause", "Proved", "What cures it"],
                [.. answer.Named.Select(c => (IReadOnlyList<Sentence>)[Say(c.Wrong), Say(c.Proved == true ? "yes" : c.Proved == false ? "no" : "not yet"), Say(c.Remedy)])]);
        }
    }
}

/// <summary>Names of what a trouble leaves behind.</summary>
public static class TroubleFacts
{
    /// <summary>How they all begin.</summary>
    public const string Begins = "trouble.";

    /// <summary>How a cause's begins; its value is how sure it was, 0..1.</summary>
    public const string Cause = "trouble.cause.";

    /// <summary>A visit that closed a trouble: 1 where it was of the list, 0 where it lay outside.</summary>
    public const string Closed = "trouble.closed";

    /// <summary>Who was suspected first.</summary>
    public const string First = "trouble.first";

    /// <summary>How sure that was, %.</summary>
    public const string FirstPercent = "trouble.first-percent";

    /// <summary>Minutes until it was known.</summary>
    public const string Minutes = "trouble.minutes";

    /// <summary>Minutes that were to be expected when the call ended.</summary>
    public const string Expected = "trouble.expected-minutes";

    private const string ToldBegins = "told.";

    /// <summary>Findings that a household complains of, rather than answers.</summary>
    public static IReadOnlyCollection<string> Complaints { get; } =
    [
        "smoke-lighting", "smoke-reload", "smoke-gusts", "smoke-seams", "sluggish", "wont-turn-down", "too-hot", "short-burn", "low-heat", "glass-black", "glass-black-side", "smoke-cap", "drips", "odour-idle",
        "co-alarm", "backpuff", "room-draughts", "oven-slow", "never-warm",
    ];

    /// <summary>What was told, for other stations.</summary>
    public static IEnumerable<Fact> Of(Suspects entry) => (entry.Told ?? new Dictionary<string, bool>()).Select(t => new Fact(ToldBegins + t.Key, null, t.Value ? "yes" : "no"));

    /// <summary>What it was.</summary>
    public static IEnumerable<Fact> Of(CauseFound entry, CauseAnswer answer) => answer.Named.Count == 0 && entry.Outside != true ? [] :
    [
        .. answer.Named.Select(n => new Fact(Cause + n.Cause, n.Percent / 100.0)), new Fact(Closed, answer.Named.Count > 0 ? 1 : 0),
        .. Fact.Of(First, answer.First?.Cause), .. Fact.Number(FirstPercent, answer.First?.Percent), .. Fact.Number(Minutes, entry.Minutes),
        .. Fact.Number(Expected, answer.ExpectedMin),
    ];

    /// <summary>What was told in a visit so far.</summary>
    internal static Dictionary<string, bool> Told(VisitContext at) => at.Facts.Where(f => f.Name.StartsWith(ToldBegins, StringComparison.Ordinal)).DistinctBy(f => f.Name).ToDictionary(f => f.Name[ToldBegins.Length..], f => f.Word == "yes");
}
