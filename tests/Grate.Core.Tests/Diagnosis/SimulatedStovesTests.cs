using System.Globalization;
using Grate.Core.Diagnosis;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>
/// Stoves with hidden causes, and findings as uncertain as the table says: how often the first suspect is a true one, how long it takes
/// to know, and whether what is said to be so sure is so often right. GRATE_SIMULATED=2000 takes more of them, and GRATE_AHEAD=1 looks
/// two tests ahead.
/// </summary>
public class SimulatedStovesTests
{
    private const double LongestMin = 120;

    private static readonly (string Kind, bool Catalytic)[] _kinds = [("steel", false), ("insert", false), ("multi-fuel", false), ("steel", true), ("cookstove", false)];

    private static readonly bool _ahead = Environment.GetEnvironmentVariable("GRATE_AHEAD") is not null;

    /// <summary>A stove: what is wrong, and what each question and look would say.</summary>
    private sealed record Stove(string Kind, bool Catalytic, IReadOnlyList<Cause> Hidden, IReadOnlyDictionary<string, bool> Says);

    // Each cause by its own prior, three at most or so many as asked for, and every finding by the noisy-or of the handbook.
    private static Stove Draw(Random chance, string kind, bool catalytic, IReadOnlyList<Finding> findings, IReadOnlyList<Cause> causes, int? wrong = null)
    {
        List<Cause> hidden;
        do
            hidden = [.. causes.Where(c => chance.NextDouble() < c.Prior)];
        while (hidden.Count > 3 || hidden.Count != (wrong ?? hidden.Count));
        return new(kind, catalytic, hidden, findings.ToDictionary(f => f.Code, f =>
        {
            var links = hidden.Select(c => c.Links.GetValueOrDefault(f.Code)).ToList();
            var yes = (1 - (1 - f.Leak) * links.Aggregate(1.0, (p, l) => p * (1 - Math.Max(0, l)))) * links.Aggregate(1.0, (p, l) => p * (1 - Math.Max(0, -l)));
            return chance.NextDouble() < yes;
        }));
    }

    private static List<Stove> Draw(int count, int seed, Func<Stove, bool> counts) => Draw(count, seed, counts, _kinds, null);

    private static List<Stove> Draw(int count, int seed, Func<Stove, bool> counts, (string Kind, bool Catalytic)[] of, int? mostWrong)
    {
        var chance = new Random(seed);
        var kinds = of.Select(k => (k.Kind, k.Catalytic, Findings: Troubles.OfferedTo(Troubles.FeaturesOf(k.Kind, k.Catalytic)),
            Causes: (IReadOnlyList<Cause>)[.. Ask(k.Kind, k.Catalytic, [], false).Causes.Select(c => Troubles.Causes.Single(t => t.Code == c.Cause))])).ToList();
        IEnumerable<Stove> All()
        {
            for (var i = 0; ; i++)
            {
                var (kind, catalytic, findings, causes) = kinds[i % kinds.Count];
                yield return Draw(chance, kind, catalytic, findings, causes, mostWrong is { } most ? 1 + i % most : null);
            }
        }
        return [.. All().Where(counts).Take(count)];
    }

    private static DiagnosisAnswer Ask(string kind, bool catalytic, Dictionary<string, bool> known, bool proposals, bool burning = false) => Calculation.Answered(e => DiagnosisAnswer.To(
        new DiagnosisEntry(kind, catalytic, Findings: known.ToDictionary(k => k.Key, k => new FindingTold(k.Value)), Burning: burning, Proposals: proposals), e));

    // What is proposed is done, the worthiest first, until it is settled or nothing is worth its minutes.
    private static (DiagnosisAnswer End, double Minutes) AsProposed(Stove stove, Dictionary<string, bool> told)
    {
        var (known, minutes, burning) = (new Dictionary<string, bool>(told), 0.0, false);
        while (true)
        {
            var answer = Ask(stove.Kind, stove.Catalytic, known, true, burning);
            var next = answer.Questions.Concat(answer.Tests).MaxBy(t => _ahead ? OfTwo(stove, known, burning, t) : t.BitsPerMin);
            if (answer.Done is not null || next is null || minutes > LongestMin)
                return (answer, minutes);
            minutes += next.Minutes;
            burning |= IsHot(next);
            foreach (var finding in next.Findings)
                known[finding] = stove.Says[finding];
        }
    }

    // Bits a minute of a test and of the best that follows on each of its outcomes.
    private static double OfTwo(Stove stove, Dictionary<string, bool> known, bool burning, ProposedTest first)
    {
        var (bits, minutes) = (first.GainBits, first.Minutes);
        foreach (var outcome in first.Outcomes.Where(o => o.Probability > 0.01))
        {
            var then = Ask(stove.Kind, stove.Catalytic, known.Concat(outcome.Findings).ToDictionary(), true, burning || IsHot(first));
            if (then.Done is null && then.Questions.Concat(then.Tests).MaxBy(t => t.BitsPerMin) is { } next)
                (bits, minutes) = (bits + outcome.Probability * next.GainBits, minutes + outcome.Probability * next.Minutes);
        }
        return bits / minutes;
    }

    private static bool IsHot(ProposedTest test) => Troubles.Findings.First(f => f.Code == test.Findings[0]).When == FindingWhen.Hot;

    // The looks of the table, one after the other, whatever was told.
    private static (DiagnosisAnswer End, double Minutes) InFixedOrder(Stove stove, Dictionary<string, bool> told)
    {
        var (known, minutes) = (new Dictionary<string, bool>(told), 0.0);
        foreach (var test in Troubles.OfferedTo(Troubles.FeaturesOf(stove.Kind, stove.Catalytic)).Where(f => f.When == FindingWhen.Cold).GroupBy(f => f.Test))
        {
            if (Ask(stove.Kind, stove.Catalytic, known, false).Done is not null)
                break;
            minutes += test.First().Minutes;
            foreach (var finding in test)
                known[finding.Code] = stove.Says[finding.Code];
        }
        return (Ask(stove.Kind, stove.Catalytic, known, false), minutes);
    }

    // Whoever calls tells everything that bothers them.
    private static Dictionary<string, bool> Told(Stove stove) =>
        Troubles.Findings.Where(f => f.When == FindingWhen.Phone && stove.Says.GetValueOrDefault(f.Code)).ToDictionary(f => f.Code, _ => true);

    // Whoever is asked says of each complaint whether it is so.
    private static Dictionary<string, bool> Answered(Stove stove) => TroubleFacts.Complaints.Where(stove.Says.ContainsKey).ToDictionary(f => f, f => stove.Says[f]);

    private static bool Among(Stove stove, DiagnosisAnswer end, int first) => end.Causes.Take(first).Any(c => stove.Hidden.Any(h => h.Code == c.Cause));

    private static int Count => int.Parse(Environment.GetEnvironmentVariable("GRATE_SIMULATED") ?? "60", CultureInfo.InvariantCulture);

    [Fact]
    public void Steel_stoves_of_one_to_three_causes_are_known_as_soon_as_by_the_reference()
    {
        // The reference's figures of 2 000 stoves; how it drew them is not told. Steel stoves with one, two or three causes, whose people
        // say of each complaint whether it is so, take its fixed order's minutes as nearly as so many tell.
        const double first = 0.938, three = 0.973, minutes = 17.6, inOrder = 60.8;
        var stoves = Draw(Count, 2028, s => TroubleFacts.Complaints.Any(s.Says.GetValueOrDefault), [("steel", false)], 3);
        var ends = stoves.AsParallel().Select(s => (Stove: s, Ours: AsProposed(s, Answered(s)), Fixed: InFixedOrder(s, Answered(s)).Minutes)).ToList();
        double Share(int among) => (double)ends.Count(e => Among(e.Stove, e.Ours.End, among)) / ends.Count;
        double Error(double share) => Math.Sqrt(share * (1 - share) / ends.Count);
        var (taken, ordered) = (ends.Average(e => e.Ours.Minutes), ends.Average(e => e.Fixed));
        var error = Math.Sqrt(ends.Average(e => Math.Pow(e.Ours.Minutes - taken, 2)) / ends.Count);
        var said = $"of {Count} steel stoves the first suspect was a true one in {Share(1):P1}, one of three in {Share(3):P1}; {taken:0.0} min (standard error {error:0.0}) as proposed, {ordered:0.0} min in a fixed order";
        if (Environment.GetEnvironmentVariable("GRATE_SIMULATED") is not null)
            Console.WriteLine(said);
        // Three standard errors of the reference's figure.
        Assert.True(Share(1) >= first - 3 * Error(first) && Share(3) >= three - 3 * Error(three), said);
        Assert.True(taken <= minutes + 3 * error && taken / ordered <= minutes / inOrder + 3 * error / ordered, said);
    }

    [Fact]
    public void The_first_suspect_is_mostly_a_true_one_and_found_in_less_than_half_the_time()
    {
        var count = Count;
        // Whoever calls has a trouble, and something bothers them.
        var stoves = Draw(count, 2027, s => s.Hidden.Count > 0 && TroubleFacts.Complaints.Any(s.Says.GetValueOrDefault));
        var ends = stoves.AsParallel().Select(s => (Stove: s, Ours: AsProposed(s, Told(s)), Fixed: InFixedOrder(s, Told(s)), Expected: Ask(s.Kind, s.Catalytic, Told(s), true).MinutesLeft())).ToList();
        double Share(int among) => (double)ends.Count(e => Among(e.Stove, e.Ours.End, among)) / ends.Count;
        var (first, three, ours, inOrder, expected) = (Share(1), Share(3), ends.Average(e => e.Ours.Minutes), ends.Average(e => e.Fixed.Minutes), ends.Average(e => e.Expected));
        var said = $"of {count} stoves the first suspect was a true one in {first:P1}, one of three in {three:P1}; {ours:0.0} min as proposed, {expected:0.0} min expected, {inOrder:0.0} min in a fixed order";
        Assert.True(first >= 0.85 && three >= 0.92 && ours < inOrder / 2, said);
        // A settled answer is as sure as it says: one in ten may be another.
        var settled = ends.Where(e => e.Ours.End.Done == DiagnosisEnd.Settled).ToList();
        Assert.True((double)settled.Count(e => Among(e.Stove, e.Ours.End, 1)) / settled.Count >= 0.88, said);
        // What was to be expected is what it took, as far as so many stoves tell: three standard errors of the mean difference.
        var off = ends.Select(e => e.Ours.Minutes - e.Expected).ToList();
        var error = Math.Sqrt(off.Average(o => Math.Pow(o - off.Average(), 2)) / off.Count);
        Assert.True(Math.Abs(off.Average()) <= 3 * error, $"{said}; standard error {error:0.0} min");
        if (Environment.GetEnvironmentVariable("GRATE_SIMULATED") is not null)
            Console.WriteLine(said);
    }

    [Fact]
    public void Said_so_sure_it_is_right_so_often()
    {
        // Which findings are known has nothing to do with what they say, and the draft's two, one reading, are left out: then a
        // probability is a share. One cause a stove, so that cases are independent.
        var stoves = Draw(1200, 412, _ => true);
        var chance = new Random(7);
        var asked = stoves.Select(s => (Stove: s, Known: s.Says.Where(f => f.Key is not (Troubles.DraftLow or Troubles.DraftOver) && chance.NextDouble() < 0.35).ToDictionary(f => f.Key, f => f.Value), Place: chance.Next(3))).ToList();
        var cases = asked.AsParallel().AsOrdered().Select(a =>
        {
            var cause = Ask(a.Stove.Kind, a.Stove.Catalytic, a.Known, false).Causes[a.Place];
            return (Said: cause.Probability, Right: a.Stove.Hidden.Any(h => h.Code == cause.Cause));
        }).ToList();
        var bins = cases.GroupBy(c => Math.Min((int)(10 * c.Said), 9)).OrderBy(g => g.Key).Select(g =>
            (From: g.Key / 10.0, Cases: g.Count(), Said: g.Average(c => c.Said), Right: g.Average(c => c.Right ? 1.0 : 0), Deviation: Math.Sqrt(g.Sum(c => c.Said * (1 - c.Said))) / g.Count())).ToList();
        Assert.True(bins.Count >= 9);
        // Of ten bins one lies outside three and a half standard deviations once in two hundred seeds; this seed is fixed.
        Assert.All(bins, b => Assert.True(Math.Abs(b.Right - b.Said) <= 3.5 * b.Deviation + 1e-9, $"from {b.From}: said {b.Said:P1}, right {b.Right:P1} of {b.Cases}, deviation {b.Deviation:P1}"));
        // Brier score: what a calibrated teller has is the mean of p(1 − p), and its spread is known, too.
        var (brier, due) = (cases.Average(c => Math.Pow((c.Right ? 1 : 0) - c.Said, 2)), cases.Average(c => c.Said * (1 - c.Said)));
        var spread = Math.Sqrt(cases.Sum(c => c.Said * (1 - c.Said) * Math.Pow(1 - 2 * c.Said, 2))) / cases.Count;
        Assert.Equal(due, brier, 3.5 * spread);
    }
}
