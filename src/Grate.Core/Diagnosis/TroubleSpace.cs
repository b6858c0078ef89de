namespace Grate.Core.Diagnosis;

/// <summary>
/// Every set of up to three causes that a stove with some features can have, and how likely each finding is in each: exact
/// enumeration, built once per feature set (handbook 09 section 1).
/// </summary>
internal sealed class TroubleSpace
{
    /// <summary>Most causes at once.</summary>
    public const int MostTogether = 3;

    private readonly Lazy<double[]>[] _yes;

    /// <summary>The space of a stove.</summary>
    public TroubleSpace(IReadOnlyCollection<string> features, FirmTroubles table)
    {
        Causes = [.. table.Causes.Where(c => Troubles.Applies(c.Needs, features))];
        Findings = [.. table.Findings.Where(f => Troubles.Applies(f.Needs, features) && Causes.Any(c => c.Links.ContainsKey(f.Code)))];
        var members = new List<byte>();
        void Add(int a, int b, int c) => members.AddRange([(byte)a, (byte)b, (byte)c]);
        var nobody = Causes.Count;
        Add(nobody, nobody, nobody);
        for (var a = 0; a < Causes.Count; a++)
        {
            Add(a, nobody, nobody);
            for (var b = a + 1; b < Causes.Count; b++)
            {
                Add(a, b, nobody);
                for (var c = b + 1; c < Causes.Count; c++)
                    Add(a, b, c);
            }
        }
        Members = [.. members];
        _yes = [.. Findings.Select(f => new Lazy<double[]>(() => YesOf(f)))];
        (Low, Over) = (IndexOf(Troubles.DraftLow), IndexOf(Troubles.DraftOver));
    }

    /// <summary>Causes that it can have.</summary>
    public IReadOnlyList<Cause> Causes { get; }

    /// <summary>Findings that are offered.</summary>
    public IReadOnlyList<Finding> Findings { get; }

    /// <summary>
    /// Members of the sets, three places each; the first set is the empty one. Where there is no member stands one more than the causes
    /// have: whoever goes through the sets gives it a place that changes nothing, and asks no question on the way.
    /// </summary>
    public byte[] Members { get; }

    /// <summary>
    /// Sum of each cause's sets. The sets stand in order: those with the same first two members lie side by side, and are added to
    /// these at once.
    /// </summary>
    public double[] Marginals(ReadOnlySpan<double> weights)
    {
        var marginals = new double[Causes.Count];
        var at = 1;
        for (var a = 0; a < marginals.Length; a++)
        {
            var ofFirst = weights[at++];
            for (var b = a + 1; b < marginals.Length; b++)
            {
                // Rows are short: a plain loop is quicker than a vector's calls.
                var ofBoth = weights[at++];
                for (var c = b + 1; c < marginals.Length; c++, at++)
                {
                    ofBoth += weights[at];
                    marginals[c] += weights[at];
                }
                marginals[b] += ofBoth;
                ofFirst += ofBoth;
            }
            marginals[a] += ofFirst;
        }
        return marginals;
    }

    /// <summary>How many sets there are.</summary>
    public int Count => Members.Length / MostTogether;

    /// <summary>Place of the low draft among the findings.</summary>
    public int Low { get; }

    /// <summary>Place of the high draft.</summary>
    public int Over { get; }

    /// <summary>Place of a finding, or −1 where it is not offered.</summary>
    public int IndexOf(string finding)
    {
        for (var i = 0; i < Findings.Count; i++)
        {
            if (Findings[i].Code == finding)
                return i;
        }
        return -1;
    }

    /// <summary>How likely a finding is a yes, set by set: noisy-or with a leak, then muted.</summary>
    public double[] Yes(int finding) => _yes[finding].Value;

    /// <summary>Members of a set.</summary>
    public IEnumerable<int> Of(int set) => Enumerable.Range(set * MostTogether, MostTogether).Select(i => (int)Members[i]).Where(c => c < Causes.Count);

    private double[] YesOf(Finding finding)
    {
        double[] links = [.. Causes.Select(c => c.Links.GetValueOrDefault(finding.Code)), 0];
        double[] keeps = [.. links.Select(l => 1 - Math.Max(0, l))], mutes = [.. links.Select(l => 1 - Math.Max(0, -l))];
        var yes = new double[Count];
        for (var (s, i) = (0, 0); s < yes.Length; s++, i += MostTogether)
        {
            var (a, b, c) = (Members[i], Members[i + 1], Members[i + 2]);
            yes[s] = (1 - (1 - finding.Leak) * keeps[a] * keeps[b] * keeps[c]) * mutes[a] * mutes[b] * mutes[c];
        }
        return yes;
    }
}
