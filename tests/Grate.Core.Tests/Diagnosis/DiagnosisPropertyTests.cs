using CsCheck;
using Grate.Core.Diagnosis;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>What must hold whatever is told of a stove.</summary>
public class DiagnosisPropertyTests
{
    private static readonly IReadOnlyList<Finding> _offered = Troubles.OfferedTo(Troubles.FeaturesOf("multi-fuel", false));

    private static readonly Gen<List<(string Code, bool Yes)>> _told = Gen.Select(Gen.Int[0, _offered.Count - 1], Gen.Bool).List[0, 10].Select(l => l.DistinctBy(f => f.Item1).Select(f => (_offered[f.Item1].Code, f.Item2)).ToList());

    private static DiagnosisAnswer Of(IEnumerable<(string Code, bool Yes)> told, FirmTroubles? table = null, IReadOnlyDictionary<string, FindingTold>? also = null) => Calculation.Answered(e =>
        DiagnosisAnswer.To(new DiagnosisEntry("multi-fuel", Findings: told.ToDictionary(t => t.Code, t => new FindingTold(t.Yes)).Concat(also ?? new Dictionary<string, FindingTold>()).ToDictionary(), Proposals: false), e, table));

    private static double[] By(DiagnosisAnswer answer) => [answer.None, .. answer.Causes.OrderBy(c => c.Cause, StringComparer.Ordinal).Select(c => c.Probability)];

    private static void Same(DiagnosisAnswer one, DiagnosisAnswer other) => Assert.All(By(one).Zip(By(other)), p => Assert.Equal(p.First, p.Second, 1e-12));

    [Fact]
    public void The_order_in_which_it_is_told_says_nothing() => _told.Sample(told => Same(Of(told), Of(told.AsEnumerable().Reverse())), iter: 60);

    [Fact]
    public void What_nobody_saw_changes_nothing() => _told.Sample(told =>
    {
        var unseen = _offered.Where(f => f.When == FindingWhen.Cold && told.All(t => t.Code != f.Code)).ToDictionary(f => f.Code, _ => new FindingTold(Word: "not-seen"));
        Same(Of(told), Of(told, also: unseen));
    }, iter: 30);

    [Fact]
    public void Sets_share_out_one() => _told.Sample(told =>
    {
        var answer = Of(told);
        Assert.All(By(answer), p => Assert.InRange(p, 0, 1 + 1e-12));
        // Three causes at most: their shares are at most three times what is not "none of these".
        Assert.InRange(answer.Causes.Sum(c => c.Probability), 1 - answer.None - 1e-9, 3 * (1 - answer.None) + 1e-9);
    }, iter: 60);

    [Fact]
    public void A_finding_that_no_cause_links_to_changes_nothing()
    {
        // Every link to the lazy fire is taken out: then it is as likely whatever is wrong.
        var silent = new FirmTroubles(Troubles.Causes.Where(c => c.Links.ContainsKey("sluggish")).ToDictionary(c => $"link:{c.Code}:sluggish", _ => 0.0));
        _told.Sample(told =>
        {
            var without = told.Where(t => t.Code != "sluggish").ToList();
            Same(Of(without, silent), Of([.. without, ("sluggish", true)], silent));
        }, iter: 30);
    }

    [Fact]
    public void More_doubt_takes_more_minutes()
    {
        // One cause at one half, from nearly nothing, is one bit: two minutes; settled, or nothing raised, none.
        DiagnosisAnswer At(params (double Probability, double Prior)[] causes) => new([.. causes.Select((c, i) => new CauseStanding($"{i}", c.Probability, c.Prior, [], []))], 0.1, new Dictionary<string, double>(), [], [], [], [], null, []);
        Assert.Equal(2, At((0.5, 1e-12)).MinutesLeft(), 1e-9);
        Assert.Equal(8, At((0.5, 1e-12), (0.5, 1e-12)).MinutesLeft(), 1e-9);
        Assert.Equal(0.5, At((0.5, 0.25)).MinutesLeft(), 1e-9);
        Assert.Equal(0, At((0.1, 0.1), (0.05, 0.1)).MinutesLeft());
        Assert.Equal(0, (At((0.95, 0.1)) with { Done = DiagnosisEnd.Settled }).MinutesLeft());
    }
}
