using static Grate.Core.Sentence;

namespace Grate.Core.Diagnosis;

/// <summary>A trouble that was closed by a signed visit.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="Kind">Word of the stove's kind.</param>
/// <param name="Combustor">Whether it has a combustor.</param>
/// <param name="Causes">Words of what it was; none where it lay outside the list.</param>
/// <param name="First">Who was suspected first; null where nobody was.</param>
/// <param name="FirstPercent">How sure that was, %.</param>
/// <param name="Minutes">Minutes until it was known; null where nobody noted them.</param>
/// <param name="Expected">Minutes that were to be expected when the call ended; null where nothing was told.</param>
public sealed record ClosedTrouble(Guid VisitId, DateOnly Day, string Kind, bool Combustor, IReadOnlyList<string> Causes, string? First, double? FirstPercent, double? Minutes, double? Expected);

/// <summary>A cause in a firm's record.</summary>
/// <param name="Cause">Its word.</param>
/// <param name="Wrong">What is wrong.</param>
/// <param name="Times">How often it was it.</param>
/// <param name="Applied">Closed troubles at stoves that can have it.</param>
/// <param name="Prior">How often the table expects it, 0..1.</param>
/// <param name="Now">How often it is expected now, by table and record.</param>
/// <param name="Links">How strongly it shows by each finding.</param>
public sealed record CauseRecord(string Cause, string Wrong, int Times, int Applied, TableNumber Prior, double Now, IReadOnlyList<FindingLink> Links);

/// <summary>How strongly a cause shows by a finding.</summary>
/// <param name="Finding">What the finding is called.</param>
/// <param name="Strength">How strongly.</param>
public sealed record FindingLink(string Finding, TableNumber Strength);

/// <summary>A finding as the table weighs it.</summary>
/// <param name="Finding">What it is called.</param>
/// <param name="Leak">How often it is so without any cause.</param>
/// <param name="Minutes">Minutes of its test; null where it is computed, or stands at an earlier finding of the same test.</param>
public sealed record FindingInTable(string Finding, TableNumber Leak, TableNumber? Minutes);

/// <summary>First suspects that were about as sure.</summary>
/// <param name="From">From so many per cent.</param>
/// <param name="To">Up to, and without, so many; the last with.</param>
/// <param name="Cases">How many.</param>
/// <param name="Said">How sure they were in the mean, %.</param>
/// <param name="Right">How many were right, %.</param>
/// <param name="Off">By how much that may differ by chance alone, %: two standard deviations of so many cases.</param>
public sealed record SaidAndRight(int From, int To, int Cases, double Said, double Right, double Off);

/// <summary>What a firm's troubles really were, and how good the first suspects (handbook 09 section 1).</summary>
/// <param name="Closed">Troubles that were closed.</param>
/// <param name="Judged">Of them those with a first suspect.</param>
/// <param name="Right">How many of these were right.</param>
/// <param name="Brier">Mean square of said against right, 0 the best, 0.25 by tossing; null where none is judged.</param>
/// <param name="Minutes">Mean of the minutes until it was known, of those with both numbers; null where there is none.</param>
/// <param name="Expected">And of those that were to be expected.</param>
/// <param name="Calibration">First suspects by how sure they were.</param>
/// <param name="Causes">Every cause, the most frequent first.</param>
/// <param name="Findings">Every finding.</param>
/// <param name="Newest">The newest twenty.</param>
/// <param name="Sentences">In words.</param>
public sealed record TroubleRecord(int Closed, int Judged, int Right, double? Brier, double? Minutes, double? Expected, IReadOnlyList<SaidAndRight> Calibration, IReadOnlyList<CauseRecord> Causes, IReadOnlyList<FindingInTable> Findings, IReadOnlyList<ClosedTrouble> Newest, IReadOnlyList<Sentence> Sentences)
{
    private const int Bin = 20, Shown = 20;

    // Too few cases say nothing of how sure one may be.
    private static readonly Limit _few = Limit.Assumed(10, "cases", "a share of fewer is chance");

    /// <summary>The record of closed troubles.</summary>
    /// <param name="closed">All of them.</param>
    /// <param name="table">The firm's table.</param>
    public static TroubleRecord Of(IReadOnlyList<ClosedTrouble> closed, FirmTroubles table)
    {
        var judged = closed.Where(c => c is { First: not null, FirstPercent: not null }).Select(c => (Said: c.FirstPercent!.Value / 100, Right: c.Causes.Contains(c.First!))).ToList();
        var timed = closed.Where(c => c is { Minutes: not null, Expected: not null }).ToList();
        var learned = LearnedAt([.. closed.GroupBy(c => (c.Kind, c.Combustor)).Select(g => new ClosedTroubles(g.Key.Kind, g.Key.Combustor, g.Count(), g.SelectMany(c => c.Causes).GroupBy(c => c).ToDictionary(c => c.Key, c => c.Count())))]);
        var bins = judged.GroupBy(j => Math.Min((int)(100 * j.Said) / Bin, 100 / Bin - 1)).OrderBy(g => g.Key).Select(g =>
        {
            var said = g.Average(j => j.Said);
            return new SaidAndRight(g.Key * Bin, (g.Key + 1) * Bin, g.Count(), 100 * said, 100 * g.Average(j => j.Right ? 1.0 : 0), 200 * Math.Sqrt(said * (1 - said) / g.Count()));
        }).ToList();
        var spoken = Troubles.Findings.ToDictionary(f => f.Code, f => f.Spoken);
        var causes = table.Causes.Select(c =>
        {
            var (times, applied) = learned.GetValueOrDefault(c.Code) is { } l ? (l.Confirmed!.Value, l.Applied!.Value) : (0, 0);
            return new CauseRecord(c.Code, c.Wrong, times, applied, table.PriorOf(c), DiagnosisEntry.Learned(c.Prior, times, applied), [.. c.Links.Keys.Select(f => new FindingLink(spoken[f], table.LinkOf(c, f)))]);
        }).OrderByDescending(c => c.Times).ThenByDescending(c => c.Now).ToList();
        double? brier = judged.Count > 0 ? judged.Average(j => Math.Pow((j.Right ? 1 : 0) - j.Said, 2)) : null;
        var record = new TroubleRecord(closed.Count, judged.Count, judged.Count(j => j.Right), brier, timed.Count > 0 ? timed.Average(c => c.Minutes) : null, timed.Count > 0 ? timed.Average(c => c.Expected) : null, bins, causes,
            [.. table.Findings.Select((f, i) => new FindingInTable(f.Spoken, table.LeakOf(f), table.Findings.Take(i).Any(b => b.Test == f.Test) ? null : table.MinutesOf(f)))], [.. closed.OrderByDescending(c => c.Day).Take(Shown)], []);
        return record with { Sentences = record.Words() };
    }

    /// <summary>How often each cause was confirmed, of the closed troubles at stoves that can have it.</summary>
    internal static Dictionary<string, ClosedVisits?> LearnedAt(IReadOnlyList<ClosedTroubles> closed)
    {
        var learned = new Dictionary<string, ClosedVisits?>();
        foreach (var kind in closed)
        {
            var features = Suspects.FeaturesOf(kind.Kind, kind.Combustor);
            foreach (var cause in Troubles.Causes.Where(c => Troubles.Applies(c.Needs, features)))
            {
                var before = learned.GetValueOrDefault(cause.Code) ?? new ClosedVisits(0, 0);
                learned[cause.Code] = new(before.Confirmed + Math.Min(kind.Visits, kind.Causes.GetValueOrDefault(cause.Code)), before.Applied + kind.Visits);
            }
        }
        return learned;
    }

    private IReadOnlyList<Sentence> Words()
    {
        var said = new Said();
        if (Closed == 0)
            return said.Add(Weight.Verdict, Say("No trouble was closed yet: at the end of a trouble call the visit says what it was.")).InOrder();
        said.Add(Weight.Verdict, Say(Computed($"{Closed}"), Closed == 1 ? " trouble was closed" : " troubles were closed", Judged == 0 ? "; nobody was suspected before." : $"; the first suspect was right in {Right} of {Judged}."));
        if (Minutes is { } minutes && Expected is { } expected)
            said.Add(Weight.Hint, Say("Known after ", Computed($"{minutes:0} min"), $" in the mean, where {expected:0} min were to be expected by the call."));
        if (Judged >= _few.Value && Brier is { } brier)
            said.Add(Weight.Hint, Say("Brier score ", Computed($"{brier:0.000}"), brier < 0.25 ? ": better than tossing a coin, 0.25." : ": no better than tossing a coin, 0.25."));
        foreach (var bin in Calibration.Where(b => b.Cases >= _few.Value && Math.Abs(b.Right - b.Said) > b.Off))
            said.Add(Weight.RuledOut, Say($"Said {bin.Said:0} %, right {bin.Right:0} % of {bin.Cases} times: more than chance. {(bin.Right < bin.Said ? "It is too sure." : "It could be surer.")}"));
        return said.InOrder();
    }
}
