using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Diagnosis;

/// <summary>What may be wrong, from the first call to the proof.</summary>
public sealed class DiagnosisPart : IPart
{
    /// <inheritdoc/>
    public string Code => "diagnosis";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new SuspectsStation(), new CauseStation()];

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at) => SuspectsAnswer.Van(at);
}

/// <summary>What was told and looked at.</summary>
/// <param name="Told">Finding to yes or no; what was not asked is left out.</param>
/// <param name="Passed">Findings that nobody could answer: they are not asked again.</param>
public sealed record Suspects(IReadOnlyDictionary<string, bool>? Told = null, IReadOnlyList<string>? Passed = null)
{
    private const int MostPassed = 120;

    /// <summary>What can be asked of a stove, by its word; what was told and is not among it is refused.</summary>
    public IReadOnlyDictionary<string, Finding> Offered(Stove stove, EntryErrors errors)
    {
        var offered = Troubles.OfferedTo(FeaturesOf(stove.Kind, stove.Combustor)).ToDictionary(f => f.Code);
        foreach (var code in (Told ?? new Dictionary<string, bool>()).Keys.Where(c => !offered.ContainsKey(c)))
            errors.Add($"told.{code[..Math.Min(code.Length, 40)]}", "This is not asked of this stove.");
        foreach (var (code, i) in errors.Each("passed", Passed, MostPassed, "questions").Where(p => !offered.ContainsKey(p.Item)))
            errors.Add($"passed[{i}]", "This is not asked of this stove.");
        return offered;
    }

    /// <summary>Features of a stove as the table of troubles knows it.</summary>
    internal static IReadOnlyCollection<string> FeaturesOf(string kind, bool combustor)
    {
        var (known, catalytic, plus) = KindOf(kind, combustor);
        return [.. Troubles.FeaturesOf(known, catalytic), .. plus];
    }

    /// <summary>A stove as the table of troubles knows it.</summary>
    internal static (string Kind, bool Catalytic, string[] Plus) KindOf(string stove, bool combustor)
    {
        var kind = Troubles.Kinds.Contains(stove) ? stove : "steel";
        var catalytic = combustor && Troubles.CatalyticKinds.Contains(kind);
        return (kind, catalytic, combustor && !catalytic ? ["combustor", "bypass"] : []);
    }
}

/// <summary>A cause that is suspected.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Wrong">What would be wrong.</param>
/// <param name="Percent">How sure, 1..99 %.</param>
/// <param name="Prior">Share before a word was said.</param>
/// <param name="For">What speaks for it.</param>
/// <param name="Against">What speaks against it.</param>
/// <param name="Raised">Whether what was found raised it well above what was to be expected.</param>
/// <param name="Part">Part of the drawings where it sits; empty where there is none.</param>
/// <param name="Remedy">What cures it.</param>
public sealed record Suspect(string Cause, string Wrong, int Percent, double Prior, IReadOnlyList<string> For, IReadOnlyList<string> Against, bool Raised, string Part, string Remedy);

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
/// <param name="Step">Step in which it is measured; null where it is a look that is ticked here.</param>
/// <param name="Station">And the station.</param>
public sealed record SuspectTest(IReadOnlyList<SuspectQuestion> Looks, double Minutes, bool Hot, IReadOnlyList<string> Then, string? Step, string? Station);

/// <summary>What it may be.</summary>
/// <param name="Causes">Causes from 3 % on, the likeliest first.</param>
/// <param name="Others">How many others there are.</param>
/// <param name="None">None of these, 1..99 %.</param>
/// <param name="Known">What nobody has to be asked.</param>
/// <param name="Next">The best three questions.</param>
/// <param name="Questions">Every question that can be asked of this stove.</param>
/// <param name="Tests">The best three tests.</param>
/// <param name="Sentences">In words.</param>
/// <param name="MinutesLeft">Minutes of questions and tests to be expected until it is known; null where nothing was told.</param>
/// <param name="ByTelephone">What to tell them where it can be solved by telephone; null where it cannot.</param>
public sealed record SuspectsAnswer(IReadOnlyList<Suspect> Causes, int Others, int None, IReadOnlyList<SuspectKnown> Known, IReadOnlyList<SuspectQuestion> Next, IReadOnlyList<SuspectQuestion> Questions,
    IReadOnlyList<SuspectTest> Tests, IReadOnlyList<Sentence> Sentences, double? MinutesLeft, string? ByTelephone) : IReckoned
{
    /// <summary>Causes under this are counted, not named.</summary>
    public static readonly Limit Named = Limit.Assumed(0.03, "", "a list that is read to its end");

    /// <summary>A danger over this is not left to the telephone.</summary>
    public static readonly Limit Danger = Limit.Assumed(0.02, "", "one in fifty is looked at");

    /// <summary>A complaint of which more than this stays unexplained lies outside the list.</summary>
    public static readonly Limit Unexplainable = Limit.Assumed(0.5, "", "more likely something else than anything here");

    /// <summary>A cause that is so many times as likely as before anything was found is raised.</summary>
    public static readonly Limit WellRaised = Limit.Assumed(1.5, "times", "half as likely again is worth a look");

    /// <summary>What is carried saves so many minutes of a second drive at least, in the mean.</summary>
    public static readonly Limit WorthCarrying = Limit.Assumed(2, "min", "a part that is loaded, carried in and brought back");

    private const string CoAlarm = "co-alarm";

    // What nobody may be told about on the telephone.
    private static readonly string[]
        _dangers = ["deposit-block", "cap-clogged", "flue-leak", "body-crack", "channel-short", "shutoff"];

    /// <summary>Answers what was told, with everything that is known.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="Suspects"/>.</returns>
    public static SuspectsAnswer? To(Suspects told, VisitContext at, EntryErrors errors)
    {
        var offered = told.Offered(at.Stove, errors);
        if (errors.Any)
            return null;
        return Weigh(told, at, offered, true, errors) is not var (answer, known, findings) ? null : Of(told, answer, known, findings, offered);
    }

    /// <summary>One weighing of a stove: by what was told, and by everything that is known.</summary>
    internal static (DiagnosisAnswer Answer, IReadOnlyList<KnownFinding> Known, IReadOnlyDictionary<string, FindingTold> Findings)? Weigh(
        Suspects told, VisitContext at, IReadOnlyDictionary<string, Finding> offered, bool proposals, EntryErrors errors)
    {
        // What somebody says outweighs what the drawing lets expect.
        var known = KnownFindings.Of(at).Where(k => offered.ContainsKey(k.Finding) && told.Told?.ContainsKey(k.Finding) != true).GroupBy(k => k.Finding).Select(g => g.Last())
            .Where(k => k.Told.Word is null || offered[k.Finding].When == FindingWhen.Cold).ToList();
        var findings = known.ToDictionary(k => k.Finding, k => k.Told);
        foreach (var (code, yes) in told.Told ?? new Dictionary<string, bool>())
            findings[code] = new(yes);
        var (kind, catalytic, plus) = Suspects.KindOf(at.Stove.Kind, at.Stove.Combustor);
        var entry = new DiagnosisEntry(kind, catalytic, plus, Findings: findings, FireAllowed: at.History.Stops.Count == 0 && told.Told?.GetValueOrDefault(CoAlarm) != true, ClosedVisits: TroubleRecord.LearnedAt(at.History.Closed), Proposals: proposals);
        return DiagnosisAnswer.To(entry, errors, new(at.History.Tuned), told.Passed) is { } answer ? (answer, known, findings) : null;
    }

    private static SuspectsAnswer Of(Suspects told, DiagnosisAnswer answer, IReadOnlyList<KnownFinding> known, IReadOnlyDictionary<string, FindingTold> findings, IReadOnlyDictionary<string, Finding> offered)
    {
        var causes = Troubles.Causes.ToDictionary(c => c.Code);
        SuspectQuestion Ask(string finding) => new(finding, offered[finding].When == FindingWhen.Phone ? offered[finding].Ask : Capital(offered[finding].Spoken));
        // A no speaks, too, and says so.
        string Name(FindingWeight weight) => findings[weight.Finding].Says(offered[weight.Finding]) ? offered[weight.Finding].Spoken : $"not: {offered[weight.Finding].Spoken}";
        return new(
            [
                .. answer.Causes.Where(c => c.Probability >= Named.Value)
                    .Select(c => new Suspect(c.Cause, causes[c.Cause].Wrong, Percent(c.Probability), c.Prior, [.. c.For.Select(Name)], [.. c.Against.Select(Name)],
                        c.Probability >= WellRaised.Value * c.Prior, PartOf(c.Cause), causes[c.Cause].Remedy)),
            ],
            answer.Causes.Count(c => c.Probability < Named.Value), Percent(answer.None),
            [.. known.Select(k => new SuspectKnown(k.Finding, Capital(offered[k.Finding].Spoken), Found(k.Told), k.Source))],
            [.. answer.Questions.Select(q => Ask(q.Findings[0]))], [.. offered.Values.Where(f => f.When == FindingWhen.Phone).Select(f => new SuspectQuestion(f.Code, f.Ask))],
            [.. answer.Tests.Select(t => new SuspectTest([.. t.Findings.Select(Ask)], t.Minutes, offered[t.Findings[0]].When == FindingWhen.Hot, [.. Then(t, causes, offered)],
                PlaceOf(t)?.Step, PlaceOf(t)?.Station))],
            Words(answer, told, causes, offered), told.Told is { Count: > 0 } ? Math.Round(answer.MinutesLeft()) : null, Telephone(answer, told) ? causes[answer.Causes[0].Cause].Remedy : null);
    }

    /// <summary>What a stove's suspects would take from the van: each is carried where its chance times the drive that it saves is worth it.</summary>
    internal static IEnumerable<VanItem> Van(VisitContext at)
    {
        var (told, errors) = (new Suspects(TroubleFacts.Told(at)), new EntryErrors());
        if (told.Told is not { Count: > 0 } || Weigh(told, at, told.Offered(at.Stove, errors), false, errors) is not var (answer, _, _))
            yield break;
        // There and back; where nobody knows the way, the plain rule's half an hour.
        const double usual = 30;
        var drive = at.History.Ways.Home is { } home ? 2 * Road.Minutes(home.Latitude, home.Longitude, at.House.Latitude, at.House.Longitude) : usual;
        var causes = Troubles.Causes.ToDictionary(c => c.Code);
        foreach (var cause in answer.Causes.Where(c => c.Probability >= WellRaised.Value * c.Prior && c.Probability * drive >= WorthCarrying.Value))
        {
            if (TroublePlaces.OfCause.TryGetValue(cause.Cause, out var place) && place.Takes.Length > 0)
                yield return new VanItem(place.Takes, $"{causes[cause.Cause].Wrong}, {Percent(cause.Probability)} %: it would save a second drive of {drive:0} min");
        }
    }

    private static string PartOf(string cause) => TroublePlaces.OfCause.TryGetValue(cause, out var place) ? place.Part : "";

    private static (string Step, string Station)? PlaceOf(ProposedTest test) => test.Findings.Where(TroublePlaces.OfFinding.ContainsKey).Select(f => ((string, string)?)TroublePlaces.OfFinding[f]).FirstOrDefault();

    // A habit or the wood is sure, no alarm sounded, and nothing dangerous is left.
    private static bool Telephone(DiagnosisAnswer answer, Suspects told) => told.Told?.GetValueOrDefault(CoAlarm) != true && Troubles.Habits.Contains(answer.Causes[0].Cause) && answer.Causes[0].Probability >= DiagnosisAnswer.Sure.Value
        && !answer.Causes.Any(c => _dangers.Contains(c.Cause) && c.Probability > Danger.Value);

    /// <summary>A probability as it is shown: between 1 and 99 %.</summary>
    public static int Percent(double probability) => (int)Math.Clamp(Math.Round(100 * probability), 1, 99);

    internal static string Capital(string words) => char.ToUpperInvariant(words[0]) + words[1..];

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
            said.Add(Weight.Stop, Say($"A CO alarm sounded. {Emergency.Of(EmergencyKind.Co).Tell}"));
        if (told.Told is not { Count: > 0 })
            return said.Add(Weight.Verdict, Say("Nothing was told yet: begin with the first question.")).InOrder();
        if (answer.Done == DiagnosisEnd.Settled)
            said.Add(Weight.Verdict, Say("It is ", Computed(causes[first.Cause].Wrong), $" ({Percent(first.Probability)} %): {causes[first.Cause].Remedy}."));
        else if (answer.Done == DiagnosisEnd.NothingWorth)
            said.Add(Weight.Verdict, Say("No question or test here is worth its minutes: what stands first is tried, or it lies outside this list."));
        else
            said.Add(Weight.Verdict, Say("Most likely ", Computed(causes[first.Cause].Wrong), $" ({Percent(first.Probability)} %), not settled yet: about {answer.MinutesLeft():0} min of questions and tests are to be expected."));
        foreach (var (finding, share) in answer.Unexplained.Where(u => u.Value > Unexplainable.Value))
            said.Add(Weight.RuledOut, Say($"“{Capital(offered[finding].Spoken)}” is explained by nothing here ({Percent(share)} %): look outside this list."));
        if (answer.DoesNotFit.Count > 0)
            said.Add(Weight.RuledOut, Say($"Does not fit the rest, ask or look again: {string.Join("; ", answer.DoesNotFit.Select(f => offered[f].Spoken))}."));
        if (Telephone(answer, told))
            said.Add(Weight.Hint, Say($"This can be solved by telephone: {causes[first.Cause].Remedy}. Ask again in a week whether it helped."));
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
    public override IEnumerable<Fact> Facts(Suspects entry, SuspectsAnswer answer) => TroubleFacts.Of(entry);

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(Suspects entry, SuspectsAnswer answer, UnitSystem system)
    {
        if (entry.Told is not { Count: > 0 })
            yield break;
        yield return new("What was told, and what it might have been", ["Cause", "How sure", "What spoke for it"],
            [.. answer.Causes.Take(3).Select(c => (IReadOnlyList<Sentence>)[Say(c.Wrong), Say(Computed($"{c.Percent} %")), Say(string.Join("; ", c.For))])]);
    }
}
