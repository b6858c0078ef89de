using System.Numerics.Tensors;

namespace Grate.Core.Diagnosis;

/// <summary>What each question and test would tell, in bits and a minute.</summary>
internal static class Proposals
{
    private const double LightingMin = 15;

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
        double[][] rows = [.. Enumerable.Range(0, space.Findings.CountBy(f => f.Test).Max(t => t.Value)).Select(_ => new double[space.Count])];
        var doubtNow = Doubt(raised, posterior, 1);
        return [.. space.Findings.Select((f, i) => (Finding: f, At: i)).GroupBy(f => f.Finding.Test)
            .Select(g => (First: g.First().Finding, All: g.Select(f => f.At).ToArray(), Open: g.Select(f => f.At).Where(f => !now.Knows(f)).ToArray()))
            .Where(t => t.Open.Any(f => !passed.Contains(space.Findings[f].Code)) && MayBeMade(t.First.When, burning, fireAllowed)
                // One of the draft's two is a reading that was taken.
                && (!t.All.Contains(space.Low) || t.Open.Length == t.All.Length))
            .Select(t =>
            {
                var minutes = t.First.Minutes + (t.First.When == FindingWhen.Hot && !burning ? LightingMin : 0);
                var outcomes = new Outcomes(now, t.Open, posterior, rows);
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

    /// <summary>The outcomes of a test.</summary>
    private sealed class Outcomes
    {
        private readonly bool _draft;
        private readonly int[] _findings;

        // The rows are written over: each takes what one finding leaves of every set's weight.
        public Outcomes(Weighing now, int[] findings, double[] posterior, double[][] rows)
        {
            (_findings, _draft) = (findings, findings.Contains(now.Space.Low));
            All = new (double, double[])[_draft ? 3 : 1 << findings.Length];
            if (_draft)
            {
                var draft = now.Draft();
                All[0] = Told(now.Space, now.Weights, draft.Low, rows[0]);
                All[1] = Told(now.Space, now.Weights, draft.Band, rows[0]);
                All[2] = Less(Less((1, posterior), All[0]), All[1]);
            }
            else
                Split(now.Space, now.Weights, (1, posterior), rows, 0, 0);
        }

        /// <summary>Weight and marginals of each outcome; a finding is so where its bit is 0; of the draft low, in its band, over.</summary>
        public (double Weight, double[] Marginals)[] All { get; }

        // A finding's no is what its yes leaves over.
        private void Split(TroubleSpace space, double[] weights, (double, double[]) whole, double[][] rows, int finding, int outcome)
        {
            if (finding == _findings.Length)
            {
                All[outcome] = whole;
                return;
            }
            var row = rows[finding];
            var yes = Told(space, weights, space.Yes(_findings[finding]), row);
            Split(space, row, yes, rows, finding + 1, outcome);
            TensorPrimitives.Subtract(weights, row, row);
            Split(space, row, Less(whole, yes), rows, finding + 1, outcome | 1 << finding);
        }

        private static (double Weight, double[] Marginals) Told(TroubleSpace space, double[] weights, double[] share, double[] row)
        {
            TensorPrimitives.Multiply(weights, share, row);
            return (TensorPrimitives.Sum(row), space.Marginals(row));
        }

        private static (double, double[]) Less((double Weight, double[] Marginals) whole, (double Weight, double[] Marginals) part)
        {
            var left = Math.Max(0, whole.Weight - part.Weight);
            return (left, [.. whole.Marginals.Zip(part.Marginals, (w, p) => Math.Clamp(w - p, 0, left))]);
        }

        public IReadOnlyList<TestOutcome> Told(TroubleSpace space) => [.. All.Select((outcome, o) => new TestOutcome(
            _draft ? new Dictionary<string, bool> { [Troubles.DraftLow] = o == 0, [Troubles.DraftOver] = o == 2 } : _findings.Select((f, bit) => (space.Findings[f].Code, Yes: (o >> bit & 1) == 0)).ToDictionary(f => f.Code, f => f.Yes),
            outcome.Weight, outcome.Weight > 0
                ? [.. outcome.Marginals.Select((m, c) => new CauseThen(space.Causes[c].Code, m / outcome.Weight)).OrderByDescending(c => c.Probability).Take(3)] : []))];
    }
}
