namespace Grate.Core.Diagnosis;

/// <summary>What a finding says of a cause.</summary>
/// <param name="Finding">The finding.</param>
/// <param name="Weight">Change of log10 of the cause's odds by it, all else kept.</param>
public sealed record FindingWeight(string Finding, double Weight);

/// <summary>A cause as it stands.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Probability">Probability, 0..1.</param>
/// <param name="Prior">And before anything was found.</param>
/// <param name="For">Findings that speak for it, the weightiest three.</param>
/// <param name="Against">And against it.</param>
public sealed record CauseStanding(string Cause, double Probability, double Prior, IReadOnlyList<FindingWeight> For, IReadOnlyList<FindingWeight> Against);

/// <summary>A cause after an outcome.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Probability">Probability then.</param>
public sealed record CauseThen(string Cause, double Probability);

/// <summary>An outcome of a test.</summary>
/// <param name="Findings">What would be found.</param>
/// <param name="Probability">How likely that is.</param>
/// <param name="Top">The three likeliest causes then.</param>
public sealed record TestOutcome(IReadOnlyDictionary<string, bool> Findings, double Probability, IReadOnlyList<CauseThen> Top);

/// <summary>A question or test worth asking.</summary>
/// <param name="Test">Its word.</param>
/// <param name="Findings">Findings that it brings.</param>
/// <param name="Minutes">Minutes it takes now.</param>
/// <param name="GainBits">What it is expected to tell, bit.</param>
/// <param name="BitsPerMin">And a minute.</param>
/// <param name="Outcomes">Its outcomes.</param>
public sealed record ProposedTest(string Test, IReadOnlyList<string> Findings, double Minutes, double GainBits, double BitsPerMin, IReadOnlyList<TestOutcome> Outcomes);

/// <summary>Whether there is anything left to ask.</summary>
[JsonConverter(typeof(WordConverter<DiagnosisEnd>))]
public enum DiagnosisEnd
{
    /// <summary>One cause stands, and no other is in doubt.</summary>
    Settled,

    /// <summary>No test is worth its minutes.</summary>
    NothingWorth,
}

/// <summary>The answer of POST /api/calculations/diagnosis (handbook 09).</summary>
/// <param name="Causes">Causes that this stove can have, most probable first.</param>
/// <param name="None">None of these: the empty set.</param>
/// <param name="Unexplained">Of each complaint, how likely no cause at work is linked to it.</param>
/// <param name="DoesNotFit">Findings that the best set gives less than 0.1: repeat them.</param>
/// <param name="Best">The best set.</param>
/// <param name="Questions">The best three questions.</param>
/// <param name="Tests">The best three tests.</param>
/// <param name="Done">Whether it is settled, or nothing is worth testing; null while it goes on.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record DiagnosisAnswer(IReadOnlyList<CauseStanding> Causes, double None, IReadOnlyDictionary<string, double> Unexplained, IReadOnlyList<string> DoesNotFit, IReadOnlyList<string> Best,
    IReadOnlyList<ProposedTest> Questions, IReadOnlyList<ProposedTest> Tests, DiagnosisEnd? Done, IReadOnlyList<Assumed> Assumed)
{
    /// <summary>A cause this sure is settled.</summary>
    public static readonly Limit Sure = Limit.Assumed(0.9, "", "one in ten is worth no further test");

    /// <summary>A cause between these is in doubt.</summary>
    public static readonly (double From, double To) Doubt = (0.2, 0.8);

    /// <summary>A test that tells less a minute is not worth it.</summary>
    public static readonly Limit Worth = Limit.Assumed(0.005, "bit/min", "an hour for a third of a bit");

    /// <summary>A finding that the best set gives less does not fit.</summary>
    public static readonly Limit Fits = Limit.Assumed(0.1, "", "once in ten");

    /// <summary>What a conclusion takes, by the doubt that is left: the less is clear, the dearer the tests that clear it.</summary>
    public static readonly Limit MinutesPerDoubt = Limit.Assumed(2, "min/bit²", "fitted to simulated stoves");

    private const double LeastWeight = 0.1;
    private const int Shown = 3;

    /// <summary>Answers a question.</summary>
    /// <param name="entry">The question.</param>
    /// <param name="errors">Takes the refusals.</param>
    /// <param name="table">The firm's table; null for the shipped one.</param>
    /// <param name="passed">Findings that nobody could answer, and that are not asked again.</param>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static DiagnosisAnswer? To(DiagnosisEntry entry, EntryErrors errors, FirmTroubles? table = null, IReadOnlyCollection<string>? passed = null)
    {
        if (entry.Space(errors, table ?? FirmTroubles.Shipped) is not { } space)
            return null;
        var (known, priors) = (entry.Read(space, errors), entry.Priors(space, errors));
        if (errors.Any)
            return null;
        var before = new Weighing(space, priors);
        var now = new Weighing(space, priors, known);
        var (prior, posterior) = (before.Marginals(), now.Marginals());
        var weights = known.Keys.Select(f => (Finding: space.Findings[f].Code, Change: now.ChangeBy(f, posterior))).ToList();
        var best = now.Best();
        var causes = space.Causes.Select((c, i) =>
        {
            var own = weights.Select(w => new FindingWeight(w.Finding, w.Change[i])).ToList();
            return new CauseStanding(c.Code, posterior[i], prior[i], [.. own.Where(w => w.Weight >= LeastWeight).OrderByDescending(w => w.Weight).Take(Shown)],
                [.. own.Where(w => w.Weight <= -LeastWeight).OrderBy(w => w.Weight).Take(Shown)]);
        }).OrderByDescending(c => c.Probability).ToList();
        var proposed = entry.Proposals == false ? [] : Proposals.Of(now, prior, posterior, entry.Burning == true, entry.FireAllowed != false, passed ?? []);
        return new(causes, now.None, now.Unexplained(), now.DoesNotFit(best, Fits.Value), [.. space.Of(best).Select(c => space.Causes[c].Code)],
            [.. proposed.Where(p => p.When == FindingWhen.Phone).Take(Shown).Select(p => p.Test())], [.. proposed.Where(p => p.When != FindingWhen.Phone).Take(Shown).Select(p => p.Test())],
            DoneBy(prior, posterior) ? DiagnosisEnd.Settled : entry.Proposals != false && !proposed.Any(p => p.BitsPerMin >= Worth.Value) ? DiagnosisEnd.NothingWorth : null, []);
    }

    /// <summary>
    /// Minutes of questions and tests that are to be expected until it is settled or nothing is worth its minutes: 2 min/bit² times the
    /// square of the doubt Σ g h in what findings raised. A single cause at one half, from next to nothing: 1 bit, 2 min.
    /// </summary>
    public double MinutesLeft()
    {
        if (Done is not null)
            return 0;
        var bits = Proposals.Doubt([.. Causes.Select(c => Proposals.Raised(c.Prior, c.Probability))], [.. Causes.Select(c => c.Probability)], 1);
        return MinutesPerDoubt.Value * bits * bits;
    }

    private static bool DoneBy(double[] prior, double[] posterior)
    {
        var first = Array.IndexOf(posterior, posterior.Max());
        return posterior[first] >= Sure.Value && !posterior.Where((m, c) => c != first && m > prior[c] && m >= Doubt.From && m <= Doubt.To).Any();
    }
}
