using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Diagnosis;

/// <summary>What may be wrong, from the first call to the proof.</summary>
public sealed class DiagnosisPart : IPart
{
    /// <inheritdoc/>
    public string Code => "diagnosis";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new SuspectsStation()];
}

/// <summary>What was told and looked at.</summary>
/// <param name="Told">Finding to yes or no; what was not asked is left out.</param>
public sealed record Suspects(IReadOnlyDictionary<string, bool>? Told = null)
{
    /// <summary>What can be asked of a stove, by its word; what was told and is not among it is refused.</summary>
    public IReadOnlyDictionary<string, Finding> Offered(Stove stove, EntryErrors errors)
    {
        var (kind, catalytic, plus) = KindOf(stove);
        var offered = Troubles.OfferedTo(Troubles.FeaturesOf(kind, catalytic).Concat(plus)).ToDictionary(f => f.Code);
        foreach (var code in (Told ?? new Dictionary<string, bool>()).Keys.Where(c => !offered.ContainsKey(c)))
            errors.Add($"told.{code[..Math.Min(code.Length, 40)]}", "This is not asked of this stove.");
        return offered;
    }

    /// <summary>A stove as the table of troubles knows it.</summary>
    internal static (string Kind, bool Catalytic, string[] Plus) KindOf(Stove stove)
    {
        var kind = Troubles.Kinds.Contains(stove.Kind) ? stove.Kind : "steel";
        var catalytic = stove.Combustor && Troubles.CatalyticKinds.Contains(kind);
        return (kind, catalytic, stove.Combustor && !catalytic ? ["combustor", "bypass"] : []);
    }
}

/// <summary>A cause that is suspected.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Wrong">What would be wrong.</param>
/// <param name="Percent">How sure, 1..99 %.</param>
/// <param name="Prior">Share before a word was said.</param>
/// <param name="For">What speaks for it.</param>
/// <param name="Against">What speaks against it.</param>
public sealed record Suspect(string Cause, string Wrong, int Percent, double Prior, IReadOnlyList<string> For, IReadOnlyList<string> Against);

/// <summary>A question.</summary>
/// <param name="Finding">Its finding.</param>
/// <param name="Ask">In words.</param>
public sealed record SuspectQuestion(string Finding, string Ask);

/// <summary>Something known without asking.</summary>
/// <param name="Finding">Its finding.</param>
/// <param name="Ask">In words.</param>
/// <param name="Found">What it is.</param>
/// <param name="Source">Where it comes from.</param>
public sealed record SuspectKnown(string Finding, string Ask, string Found, string Source);

/// <summary>A test that settles something.</summary>
/// <param name="Looks">What is looked at.</param>
/// <param name="Minutes">Minutes it takes.</param>
/// <param name="Hot">Whether a fire is needed.</param>
/// <param name="Then">What it would be after each outcome.</param>
public sealed record SuspectTest(IReadOnlyList<SuspectQuestion> Looks, double Minutes, bool Hot, IReadOnlyList<string> Then);

/// <summary>What it may be.</summary>
/// <param name="Causes">Causes from 3 % on, the likeliest first.</param>
/// <param name="Others">How many others there are.</param>
/// <param name="None">None of these, 1..99 %.</param>
/// <param name="Known">What nobody has to be asked.</param>
/// <param name="Next">The best three questions.</param>
/// <param name="Questions">Every question that can be asked of this stove.</param>
/// <param name="Tests">The best three tests.</param>
/// <param name="Sentences">In words.</param>
public sealed record SuspectsAnswer(IReadOnlyList<Suspect> Causes, int Others, int None, IReadOnlyList<SuspectKnown> Known, IReadOnlyList<SuspectQuestion> Next, IReadOnlyList<SuspectQuestion> Questions,
    IReadOnlyList<SuspectTest> Tests, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Causes under this are counted, not named.</summary>
    public static readonly Limit Named = Limit.Assumed(0.03, "", "a list that is read to its end");

    /// <summary>A danger over this is not left to the telephone.</summary>
    public static readonly Limit Danger = Limit.Assumed(0.02, "", "one in fifty is looked at");

    /// <summary>A complaint of which more than this stays unexplained lies outside the list.</summary>
    public static readonly Limit Unexplainable = Limit.Assumed(0.5, "", "more likely something else than anything here");

    private const string CoAlarm = "co-alarm";

    // What somebody can be told on the telephone, and what nobody may be told there.
    private static readonly string[]
        _habits = ["flap-habit", "slow-fires", "lighting", "reload-habit", "logs", "small-load", "wrong-fuel", "wet-wood", "ash-deep", "curing"],
        _dangers = ["deposit-block", "cap-clogged", "flue-leak", "body-crack", "channel-short", "shutoff"];

    /// <summary>Answers what was told, with everything that is known.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="Suspects"/>.</returns>
    public static SuspectsAnswer? To(Suspects told, VisitContext at, EntryErrors errors)
    {
        var offered = told.Offered(at.Stove, errors);
        if (errors.Any)
            return null;
        // What somebody says outweighs what the drawing lets expect.
        var known = KnownFindings.Of(at).Where(k => offered.ContainsKey(k.Finding) && told.Told?.ContainsKey(k.Finding) != true).GroupBy(k => k.Finding).Select(g => g.Last())
            .Where(k => k.Told.Word is null || offered[k.Finding].When == FindingWhen.Cold).ToList();
        var findings = known.ToDictionary(k => k.Finding, k => k.Told);
        foreach (var (code, yes) in told.Told ?? new Dictionary<string, bool>())
            findings[code] = new(yes);
        var (kind, catalytic, plus) = Suspects.KindOf(at.Stove);
        if (DiagnosisAnswer.To(new DiagnosisEntry(kind, catalytic, plus, Findings: findings, FireAllowed: at.History.Stops.Count == 0), errors) is not { } answer)
            return null;
        var causes = Troubles.Causes.ToDictionary(c => c.Code);
        SuspectQuestion Ask(string finding) => new(finding, offered[finding].When == FindingWhen.Phone ? offered[finding].Ask : Capital(offered[finding].Spoken));
        // A no speaks, too, and says so.
        string Name(FindingWeight weight) => findings[weight.Finding].Says(offered[weight.Finding]) ? offered[weight.Finding].Spoken : $"not: {offered[weight.Finding].Spoken}";
        return new(
            [
                .. answer.Causes.Where(c => c.Probability >= Named.Value)
                    .Select(c => new Suspect(c.Cause, causes[c.Cause].Wrong, Percent(c.Probability), c.Prior, [.. c.For.Select(Name)], [.. c.Against.Select(Name)])),
            ],
            answer.Causes.Count(c => c.Probability < Named.Value), Percent(answer.None),
            [.. known.Select(k => new SuspectKnown(k.Finding, Capital(offered[k.Finding].Spoken), Found(k.Told), k.Source))],
            [.. answer.Questions.Select(q => Ask(q.Findings[0]))], [.. offered.Values.Where(f => f.When == FindingWhen.Phone).Select(f => new SuspectQuestion(f.Code, f.Ask))],
            [.. answer.Tests.Select(t => new SuspectTest([.. t.Findings.Select(Ask)], t.Minutes, offered[t.Findings[0]].When == FindingWhen.Hot, [.. Then(t, causes, offered)]))],
            Words(answer, told, causes, offered));
    }

    /// <summary>A probability as it is shown: between 1 and 99 %.</summary>
    public static int Percent(double probability) => (int)Math.Clamp(Math.Round(100 * probability), 1, 99);

    private static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];

    private static string Found(FindingTold told) => told.Yes is { } yes ? (yes ? "yes" : "no") : told.Word?.Replace('-', ' ') ?? $"{told.Number:0.##}";

    // After each outcome that is likely enough the cause that leads.
    private static IEnumerable<string> Then(ProposedTest test, Dictionary<string, Cause> causes, IReadOnlyDictionary<string, Finding> offered) =>
        from outcome in test.Outcomes
        where outcome.Top.Count > 0
        orderby outcome.Probability descending
        let so = outcome.Findings.Where(f => f.Value).Select(f => offered[f.Key].Spoken).ToList()
        select $"{(so.Count > 0 ? string.Join(" and ", so) : "nothing found")}: {causes[outcome.Top[0].Cause].Wrong} {Percent(outcome.Top[0].Probability)} %";

    private static IReadOnlyList<Sentence> Words(DiagnosisAnswer answer, Suspects told, Dictionary<string, Cause> causes, IReadOnlyDictionary<string, Finding> offered)
    {
        var said = new Said();
        var first = answer.Causes[0];
        if (told.Told?.GetValueOrDefault(CoAlarm) == true)
            said.Add(Weight.Stop, Say("A CO alarm sounded: fire out, windows open, everybody outside; headache or dizziness, the emergency number. No fire until its cause is found."));
        if (told.Told is not { Count: > 0 })
            return said.Add(Weight.Verdict, Say("Nothing was told yet: begin with the first question.")).InOrder();
        if (answer.Done == DiagnosisEnd.Settled)
            said.Add(Weight.Verdict, Say("It is ", Computed(causes[first.Cause].Wrong), $" ({Percent(first.Probability)} %): {causes[first.Cause].Remedy}."));
        else if (answer.Done == DiagnosisEnd.NothingWorth)
            said.Add(Weight.Verdict, Say("No question or test here is worth its minutes: what stands first is tried, or it lies outside this list."));
        else
            said.Add(Weight.Verdict, Say("Most likely ", Computed(causes[first.Cause].Wrong), $" ({Percent(first.Probability)} %), not settled yet."));
        foreach (var (finding, share) in answer.Unexplained.Where(u => u.Value > Unexplainable.Value))
            said.Add(Weight.RuledOut, Say($"“{Capital(offered[finding].Spoken)}” is explained by nothing here ({Percent(share)} %): look outside this list."));
        if (answer.DoesNotFit.Count > 0)
            said.Add(Weight.RuledOut, Say($"Does not fit the rest, ask or look again: {string.Join("; ", answer.DoesNotFit.Select(f => offered[f].Spoken))}."));
        if (told.Told?.GetValueOrDefault(CoAlarm) != true && _habits.Contains(first.Cause) && first.Probability >= DiagnosisAnswer.Sure.Value
            && !answer.Causes.Any(c => _dangers.Contains(c.Cause) && c.Probability > Danger.Value))
        {
            said.Add(Weight.Hint, Say($"This can be solved by telephone: {causes[first.Cause].Remedy}. Ask again in a week whether it helped."));
        }
        return said.InOrder();
    }
}

/// <summary>What may be wrong with the stove, from the call on; it takes in what the other stations find.</summary>
public sealed class SuspectsStation : Station<Suspects, SuspectsAnswer>
{
    /// <inheritdoc/>
    public override string Code => "suspects";

    /// <inheritdoc/>
    public override string Name => "Suspects";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Booking];

    /// <inheritdoc/>
    public override JsonTypeInfo<Suspects> EntryJson => CoreJson.Default.Suspects;

    /// <inheritdoc/>
    public override JsonTypeInfo<SuspectsAnswer> AnswerJson => CoreJson.Default.SuspectsAnswer;

    /// <inheritdoc/>
    public override SuspectsAnswer? Answer(Suspects entry, VisitContext at, EntryErrors errors) => SuspectsAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(Suspects entry, SuspectsAnswer answer, UnitSystem system)
    {
        if (entry.Told is not { Count: > 0 })
            yield break;
        yield return new("What was told, and what it might have been", ["Cause", "How sure", "What spoke for it"],
            [.. answer.Causes.Take(3).Select(c => (IReadOnlyList<Sentence>)[Say(c.Wrong), Say(Computed($"{c.Percent} %")), Say(string.Join("; ", c.For))])]);
    }
}
