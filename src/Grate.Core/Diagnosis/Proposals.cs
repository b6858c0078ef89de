namespace Grate.Core.Diagnosis;

/// <summary>What each question and test would tell, in bits and a minute.</summary>
internal static class Proposals
{
    private const double LightingMin = 15, LeastWeight = 1e-9;

    /// <summary>A test with what it is worth.</summary>
    /// <param name="When">When it is made.</param>
    /// <param name="BitsPerMin">Worth a minute.</param>
    /// <param name="Minutes">Minutes it takes now.</param>
    /// <param name="Test">The whole of it.</param>
    public sealed record Proposed(FindingWhen When, double BitsPerMin, double Minutes, Func<ProposedTest> Test);

    /// <summary>Every question and test that can be made now, the worthiest first; of two alike the cheaper.</summary>
    /// <param name="now">What is known.</param>
    /// <param name="prior">Each cause before anything was found.</param>
    /// <param name="posterior">And now.</param>
    /// <param name="burning">Whether a fire burns: then no cold tests.</param>
    /// <param name="fireAllowed">Whether one may be lit.</param>
    /// <param name="passed">Findings that nobody could answer.</param>
    public static IReadOnlyList<Proposed> Of(Weighing now, double[] prior, double[] posterior, bool burning, bool fireAllowed, IReadOnlyCollection<string> passed)
    {
        var space = now.Space;
        // Only suspicion that findings raised counts; else cheap looks at unrelated parts always win.
        var raised = posterior.Select((m, c) => Raised(prior[c], m)).ToArray();
        if (raised.All(g => g == 0))
            Array.Fill(raised, 1);
        int[] sets = [.. Enumerable.Range(0, space.Count).Where(s => now.Weights[s] >= LeastWeight)];
        var doubtNow = Doubt(raised, posterior, 1);
        return [.. space.Findings.Select((f, i) => (Finding: f, At: i)).GroupBy(f => f.Finding.Test)
            .Select(g => (First: g.First().Finding, All: g.Select(f => f.At).ToArray(), Open: g.Select(f => f.At).Where(f => !now.Knows(f)).ToArray()))
            .Where(t => t.Open.Any(f => !passed.Contains(space.Findings[f].Code)) && MayBeMade(t.First.When, burning, fireAllowed)
                // One of the draft's two is a reading that was taken.
                && (!t.All.Contains(space.Low) || t.Open.Length == t.All.Length))
            .Select(t =>
            {
                var minutes = t.First.Minutes + (t.First.When == FindingWhen.Hot && !burning ? LightingMin : 0);
                var outcomes = new Outcomes(now, sets, t.Open, posterior);
                var gain = Math.Max(0, doubtNow - outcomes.All.Sum(o => Doubt(raised, o.Marginals, o.Weight)));
                return new Proposed(t.First.When, gain / minutes, minutes, () => new ProposedTest(t.First.Test, [.. t.Open.Select(f => space.Findings[f].Code)], minutes, gain, gain / minutes, outcomes.Told(space)));
            }).OrderByDescending(p => p.BitsPerMin).ThenBy(p => p.Minutes)];
    }

    private static bool MayBeMade(FindingWhen when, bool burning, bool fireAllowed) => when switch
    {
        FindingWhen.Phone => true,
        FindingWhen.Cold => !burning,
        FindingWhen.Hot => fireAllowed,
        _ => false,
    };

    /// <summary>How much of a cause's probability findings raised: g = 1 − prior/m, at least 0. From 0.25 to 0.5: 0.5.</summary>
    public static double Raised(double prior, double posterior) => posterior > prior ? 1 - prior / posterior : 0;

    /// <summary>Σ g h(m), h the binary entropy in bits; the marginals are of a whole that weighs so much.</summary>
    public static double Doubt(double[] raised, double[] marginals, double weight)
    {
        var doubt = 0.0;
        for (var c = 0; c < raised.Length && weight > 0; c++)
        {
            if (raised[c] > 0 && marginals[c] / weight is > 0 and < 1 and var m)
                doubt -= raised[c] * (m * Math.Log2(m) + (1 - m) * Math.Log2(1 - m));
        }
        return weight * doubt;
    }

    /// <summary>The outcomes of a test: one pass over the sets each, the last by what is left.</summary>
    private sealed class Outcomes
    {
        private readonly bool _draft;
        private readonly int[] _findings;

        public Outcomes(Weighing now, int[] sets, int[] findings, double[] posterior)
        {
            (_findings, _draft) = (findings, findings.Contains(now.Space.Low));
            var count = _draft ? 3 : 1 << findings.Length;
            var all = new (double Weight, double[] Marginals)[count];
            var (leftWeight, left) = (1.0, (double[])posterior.Clone());
            // What each outcome multiplies a set's weight with: a finding's yes or no, or the draft's state.
            var (draft, weights, members) = (_draft ? now.Draft() : default, now.Weights, now.Space.Members);
            var yes = findings.Select(now.Space.Yes).ToArray();
            for (var o = 0; o < count - 1; o++)
            {
                var (weight, marginals) = (0.0, new double[posterior.Length + 1]);
                var state = o == 0 ? draft.Low : draft.Band;
                foreach (var s in sets)
                {
                    var v = weights[s];
                    if (_draft)
                        v *= state[s];
                    else
                    {
                        for (var f = 0; f < yes.Length; f++)
                            v *= (o >> f & 1) == 0 ? yes[f][s] : 1 - yes[f][s];
                    }
                    weight += v;
                    var i = s * TroubleSpace.MostTogether;
                    marginals[members[i]] += v;
                    marginals[members[i + 1]] += v;
                    marginals[members[i + 2]] += v;
                }
                all[o] = (weight, marginals[..^1]);
                leftWeight -= weight;
                for (var c = 0; c < left.Length; c++)
                    left[c] -= marginals[c];
            }
            // What skipped sets leave over is nothing.
            leftWeight = Math.Max(0, leftWeight);
            all[^1] = (leftWeight, [.. left.Select(m => Math.Clamp(m, 0, leftWeight))]);
            All = all;
        }

        /// <summary>Weight and marginals of each outcome; a finding is so where its bit is 0; of the draft low, in its band, over.</summary>
        public IReadOnlyList<(double Weight, double[] Marginals)> All { get; }

        public IReadOnlyList<TestOutcome> Told(TroubleSpace space) => [.. All.Select((outcome, o) => new TestOutcome(
            _draft ? new Dictionary<string, bool> { [Troubles.DraftLow] = o == 0, [Troubles.DraftOver] = o == 2 } : _findings.Select((f, bit) => (space.Findings[f].Code, Yes: (o >> bit & 1) == 0)).ToDictionary(f => f.Code, f => f.Yes),
            outcome.Weight, outcome.Weight > 0
                ? [.. outcome.Marginals.Select((m, c) => new CauseThen(space.Causes[c].Code, m / outcome.Weight)).OrderByDescending(c => c.Probability).Take(3)] : []))];
    }
}
