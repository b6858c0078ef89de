using System.Globalization;

namespace Grate.Core.Diagnosis;

/// <summary>A number of the table of troubles that a firm may set.</summary>
/// <param name="What">"prior:cause", "link:cause:finding", "leak:finding" or "minutes:test".</param>
/// <param name="Shipped">As shipped.</param>
/// <param name="Own">As the firm set it; null as shipped.</param>
/// <param name="From">Least that is taken.</param>
/// <param name="To">Most.</param>
public sealed record TableNumber(string What, double Shipped, double? Own, double From, double To)
{
    /// <summary>What is reckoned with.</summary>
    public double Now => Own ?? Shipped;
}

/// <summary>The table of troubles with a firm's own numbers in place of some shipped ones; the shipped table stays as it is.</summary>
public sealed class FirmTroubles
{
    /// <summary>The shipped table.</summary>
    public static readonly FirmTroubles Shipped = new(new Dictionary<string, double>());

    private readonly IReadOnlyDictionary<string, double> _own;

    /// <summary>The table of a firm.</summary>
    /// <param name="own">Its own numbers, by <see cref="TableNumber.What"/>.</param>
    public FirmTroubles(IReadOnlyDictionary<string, double> own)
    {
        _own = own;
        Causes = own.Count == 0 ? Troubles.Causes : [.. Troubles.Causes.Select(c => c with { Prior = PriorOf(c).Now, Links = c.Links.Keys.ToDictionary(f => f, f => LinkOf(c, f).Now) })];
        Findings = own.Count == 0 ? Troubles.Findings : [.. Troubles.Findings.Select(f => f with { Leak = LeakOf(f).Now, Minutes = MinutesOf(f)?.Now ?? f.Minutes })];
        Key = string.Join(' ', own.OrderBy(o => o.Key, StringComparer.Ordinal).Select(o => string.Create(CultureInfo.InvariantCulture, $"{o.Key}={o.Value:R}")));
    }

    /// <summary>Causes as the firm expects them.</summary>
    public IReadOnlyList<Cause> Causes { get; }

    /// <summary>Findings as the firm weighs them.</summary>
    public IReadOnlyList<Finding> Findings { get; }

    /// <summary>What tells this table from another; empty for the shipped one.</summary>
    internal string Key { get; }

    /// <summary>How often a cause is to be expected on a trouble call.</summary>
    public TableNumber PriorOf(Cause cause) => Number($"prior:{cause.Code}", Troubles.Causes.Single(c => c.Code == cause.Code).Prior, 0.001, 0.5);

    /// <summary>How strongly a cause shows by a finding; a negative number mutes it.</summary>
    public TableNumber LinkOf(Cause cause, string finding) => Number($"link:{cause.Code}:{finding}", Troubles.Causes.Single(c => c.Code == cause.Code).Links[finding], -0.99, 0.99);

    /// <summary>How often a finding is so without any cause.</summary>
    public TableNumber LeakOf(Finding finding) => Number($"leak:{finding.Code}", Troubles.Findings.Single(f => f.Code == finding.Code).Leak, 0.001, 0.9);

    /// <summary>Minutes of the test that brings a finding; null where it is computed.</summary>
    public TableNumber? MinutesOf(Finding finding) => finding.When == FindingWhen.Known ? null : Number($"minutes:{finding.Test}", Troubles.Findings.Single(f => f.Code == finding.Code).Minutes, 0.5, 240);

    /// <summary>A number of the table by its name; null where there is none.</summary>
    public TableNumber? Find(string what) => what.Split(':') switch
    {
        ["prior", var code] when Cause(code) is { } cause => PriorOf(cause),
        ["link", var code, var finding] when Cause(code) is { } cause && cause.Links.ContainsKey(finding) => LinkOf(cause, finding),
        ["leak", var code] when Troubles.Findings.FirstOrDefault(f => f.Code == code) is { } finding => LeakOf(finding),
        ["minutes", var test] when Troubles.Findings.FirstOrDefault(f => f.Test == test) is { } finding => MinutesOf(finding),
        _ => null,
    };

    /// <summary>What a number of the table is called: "prior:wind" is "wind blows down the outlet".</summary>
    public static string NameOf(string what) => what.Split(':') switch
    {
        ["prior", var code] when Cause(code) is { } cause => $"{cause.Wrong}, how often",
        ["link", var code, var finding] when Cause(code) is { } cause => $"{cause.Wrong}, shows by: {Spoken(f => f.Code == finding)}",
        ["leak", var code] => $"{Spoken(f => f.Code == code)}, without any cause",
        [_, var test] => $"{Spoken(f => f.Test == test)}, minutes",
        _ => what,
    };

    private static Cause? Cause(string code) => Troubles.Causes.FirstOrDefault(c => c.Code == code);

    private static string Spoken(Func<Finding, bool> of) => Troubles.Findings.First(of).Spoken;

    private TableNumber Number(string what, double shipped, double from, double to) => new(what, shipped, _own.TryGetValue(what, out var own) ? own : null, from, to);
}
