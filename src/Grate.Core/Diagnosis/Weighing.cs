using System.Numerics.Tensors;

namespace Grate.Core.Diagnosis;

/// <summary>The weight of every set of causes, once some findings are known.</summary>
internal sealed class Weighing
{
    private readonly SortedDictionary<int, double> _known;

    // How likely what was observed is, set by set; the draft's two findings are one observation.
    private readonly Dictionary<int, double[]> _likelihoods;

    /// <summary>Before anything is found: ∝ Π p/(1 − p) over the members.</summary>
    public Weighing(TroubleSpace space, double[] priors)
        : this(space, priors, [])
    {
    }

    /// <summary>With what is known.</summary>
    /// <param name="space">What the stove can have.</param>
    /// <param name="priors">How often each cause is to be expected.</param>
    /// <param name="known">How much of a yes each known finding is, by its place.</param>
    public Weighing(TroubleSpace space, double[] priors, SortedDictionary<int, double> known)
    {
        (Space, _known) = (space, known);
        _likelihoods = known.Keys.ToDictionary(f => f, LikelihoodOf);
        double[] odds = [.. priors.Select(p => p / (1 - p)), 1];
        Weights = new double[space.Count];
        var (members, weights) = (space.Members, Weights);
        for (var (s, i) = (0, 0); s < weights.Length; s++, i += TroubleSpace.MostTogether)
            weights[s] = odds[members[i]] * odds[members[i + 1]] * odds[members[i + 2]];
        foreach (var finding in known.Keys.Where(f => f != space.Over || !known.ContainsKey(space.Low)))
            TensorPrimitives.Multiply(weights, _likelihoods[finding], weights);
        Scale(weights);
    }

    /// <summary>What the stove can have.</summary>
    public TroubleSpace Space { get; }

    /// <summary>Weights of the sets; they sum to 1.</summary>
    public double[] Weights { get; }

    /// <summary>None of these.</summary>
    public double None => Weights[0];

    /// <summary>Whether a finding is known.</summary>
    public bool Knows(int finding) => _known.ContainsKey(finding);

    /// <summary>Probability of each cause: the sum over the sets that hold it.</summary>
    public double[] Marginals() => Space.Marginals(Weights);

    /// <summary>The heaviest set.</summary>
    public int Best() => TensorPrimitives.IndexOfMax<double>(Weights);

    /// <summary>Change of log10 of each cause's odds by a finding, all else kept.</summary>
    public double[] ChangeBy(int finding, double[] posterior)
    {
        // The draft has one likelihood: without one of its two findings the other's stands.
        var other = finding == Space.Low ? Space.Over : finding == Space.Over ? Space.Low : -1;
        var (likelihood, left) = (_likelihoods[finding], other >= 0 && _known.TryGetValue(other, out var degree) ? Alone(other, degree) : null);
        var without = new double[Weights.Length];
        TensorPrimitives.Divide(Weights, likelihood, without);
        if (left is not null)
            TensorPrimitives.Multiply(without, left, without);
        Scale(without);
        return [.. Space.Marginals(without).Select((m, c) => Log10Odds(posterior[c]) - Log10Odds(m))];
    }

    /// <summary>Of each complaint told, how likely no cause at work is linked to it.</summary>
    public SortedDictionary<string, double> Unexplained()
    {
        var unexplained = new SortedDictionary<string, double>(StringComparer.Ordinal);
        foreach (var finding in _known.Where(k => k.Value == 1 && Space.Findings[k.Key].When == FindingWhen.Phone).Select(k => Space.Findings[k.Key].Code))
        {
            bool[] linked = [.. Space.Causes.Select(c => c.Links.GetValueOrDefault(finding) > 0), false];
            var (members, sum) = (Space.Members, 0.0);
            for (var (s, i) = (0, 0); s < Weights.Length; s++, i += TroubleSpace.MostTogether)
                sum += linked[members[i]] || linked[members[i + 1]] || linked[members[i + 2]] ? 0 : Weights[s];
            unexplained[finding] = sum;
        }
        return unexplained;
    }

    /// <summary>Findings whose observed value a set gives less than a share.</summary>
    public IReadOnlyList<string> DoesNotFit(int set, double share) => [.. _known.Keys.Where(f => _likelihoods[f][set] < share).Select(f => Space.Findings[f].Code)];

    /// <summary>How likely each outcome of the draft is, set by set: low, in its band, over. Opposite faults cancel.</summary>
    public (double[] Low, double[] Band, double[] Over) Draft()
    {
        var (yesLow, yesOver) = (Space.Yes(Space.Low), Space.Yes(Space.Over));
        var (low, band, over) = (new double[Space.Count], new double[Space.Count], new double[Space.Count]);
        for (var s = 0; s < low.Length; s++)
        {
            var (a, b) = (yesLow[s], yesOver[s]);
            (low[s], band[s], over[s]) = (a * (1 - b), 1 - a - b + 2 * a * b, b * (1 - a));
        }
        return (low, band, over);
    }

    private double[] LikelihoodOf(int finding)
    {
        if ((finding != Space.Low && finding != Space.Over) || !_known.TryGetValue(Space.Low, out var low) || !_known.TryGetValue(Space.Over, out var over))
            return Alone(finding, _known[finding]);
        var draft = Draft();
        for (var s = 0; s < draft.Low.Length; s++)
            draft.Over[s] = over * draft.Over[s] + (1 - over) * low * draft.Low[s] + (1 - over) * (1 - low) * draft.Band[s];
        return draft.Over;
    }

    private double[] Alone(int finding, double degree)
    {
        var yes = finding == Space.Low ? Draft().Low : finding == Space.Over ? Draft().Over : Space.Yes(finding);
        // degree × yes + (1 − degree) × (1 − yes), with one product a set.
        var likelihood = new double[yes.Length];
        TensorPrimitives.Multiply(yes, 2 * degree - 1, likelihood);
        TensorPrimitives.Add(likelihood, 1 - degree, likelihood);
        return likelihood;
    }

    private static void Scale(double[] weights) => TensorPrimitives.Divide(weights, TensorPrimitives.Sum(weights), weights);

    // Sure beyond what a double tells is shown as sure as that.
    private static double Log10Odds(double probability) => Math.Clamp(probability, 1e-15, 1 - 1e-15) is var p ? Math.Log10(p / (1 - p)) : 0;
}
