using Grate.Core.Diagnosis;
using Grate.Core.Door;
using Grate.Core.Places;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>What it was: named, proved, and learned from.</summary>
public class CauseTests
{
    private static readonly CauseStation _station = new();

    private static VisitFact Told(string finding, bool yes = true) => new("booking", "suspects", $"told.{finding}", null, yes ? "yes" : "no", new(8, 0));

    private static VisitFact Found(string step, string name, double value) => new(step, "any", name, value, null, new(10, 0));

    private static VisitContext At(params VisitFact[] facts) => Histories.At(facts: facts);

    private static string Words(CauseFound found, VisitContext at) => Histories.Words(_station.Ask(found, at).Sentences);

    [Fact]
    public void Nothing_told_names_nothing()
    {
        Assert.Equal("No trouble was told: nothing is to be named.", Words(new(), At()));
        Assert.Empty(_station.Facts(new(), _station.Ask(new(), At())));
        // Every cause of this stove is offered, the likeliest first.
        var offered = _station.Ask(new(), At()).Offered;
        Assert.Equal(offered.OrderByDescending(o => o.Percent).Select(o => o.Percent), offered.Select(o => o.Percent));
        Assert.DoesNotContain(offered, o => o.Cause is "comb-worn" or "channels");
    }

    [Fact]
    public void A_cause_is_proved_by_its_own_test_as_it_was_found()
    {
        // Strips failed before; a new rope holds afterwards: what was found is what counts.
        var at = At(Told("wont-turn-down"), Found("cold-checks", DoorFacts.StripShare(), 0.4), Found("back-together", DoorFacts.StripShare(), 0));
        var answer = _station.Ask(new(["door-rope"], Minutes: 18), at);
        Assert.True(answer.Named.Single().Proved);
        Assert.Contains("It was door rope worn: proved, strips slip at the door. New rope.", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Contains("It was suspected first", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        var facts = _station.Facts(new(["door-rope"], Minutes: 18), answer).ToDictionary(f => f.Name);
        Assert.Equal((1.0, "door-rope", 18.0), (facts["trouble.closed"].Value, facts["trouble.first"].Word, facts["trouble.minutes"].Value));
        Assert.Equal(answer.First!.Percent, facts["trouble.first-percent"].Value);
        Assert.True(facts.ContainsKey("trouble.cause.door-rope"));
    }

    [Fact]
    public void What_speaks_against_it_and_what_it_leaves_open_is_said()
    {
        var against = At(Told("wont-turn-down"), Told("drips"), Found("cold-checks", DoorFacts.StripShare(), 0));
        Assert.False(_station.Ask(new(["door-rope"]), against).Named.Single().Proved);
        Assert.Contains("speaks against it (strips slip at the door): look again", Words(new(["door-rope"]), against), StringComparison.Ordinal);
        Assert.Contains("It does not explain: tar, brown water or tar smell. Look on, or outside the list.", Words(new(["door-rope"]), against), StringComparison.Ordinal);
        Assert.Contains("nothing proves it yet", Words(new(["door-rope"]), At(Told("wont-turn-down"))), StringComparison.Ordinal);
        // A habit whose trouble is gone in one's own hands is proved by that.
        var lit = At(Told("smoke-lighting"), Told("asked-lighting"), Told("start-fails", false));
        Assert.True(_station.Ask(new(["lighting"]), lit).Named.Single().Proved);
        Assert.Contains("gone in your own hands", Words(new(["lighting"]), lit), StringComparison.Ordinal);
        Assert.Contains("outside the list", Words(new(Outside: true), lit), StringComparison.Ordinal);
        Assert.Equal(0, _station.Facts(new(Outside: true), _station.Ask(new(Outside: true), lit)).Single(f => f.Name == "trouble.closed").Value);
    }

    [Fact]
    public void What_cannot_be_is_refused_by_field()
    {
        string[] Refused(CauseFound found)
        {
            var errors = new EntryErrors();
            Assert.Null(_station.Answer(found, At(Told("sluggish")), errors));
            return [.. errors.ByField.Keys.Order()];
        }
        Assert.Equal(["causes[0]"], Refused(new(["gremlins"])));
        Assert.Equal(["causes[0]"], Refused(new(["comb-worn"])));
        Assert.Equal(["causes"], Refused(new(["door-rope", "baffle", "wind", "fans"])));
        Assert.Equal(["outside"], Refused(new(["door-rope"], true)));
        Assert.Equal(["minutes"], Refused(new(["door-rope"], Minutes: 900)));
    }

    [Fact]
    public void Places_of_causes_and_findings_are_those_that_there_are()
    {
        Assert.Equal([], TroublePlaces.OfCause.Keys.Except(Troubles.Causes.Select(c => c.Code)));
        Assert.Equal([], TroublePlaces.OfCause.Values.Select(p => p.Part).Where(p => p.Length > 0 && Parts.All.Mark(p) is null).Distinct());
        Assert.Equal([], TroublePlaces.OfFinding.Keys.Except(Troubles.Findings.Select(f => f.Code)));
        Assert.Equal([], TroublePlaces.OfFinding.Values.Where(p => !Parts.All.List.SelectMany(x => x.Stations).Any(s => s.Code == p.Station && s.Steps.Contains(p.Step))).Select(p => p.Station));
        Assert.Equal([], TroubleFacts.Complaints.Except(Troubles.Findings.Where(f => f.When == FindingWhen.Phone).Select(f => f.Code)));
    }

    [Fact]
    public void The_van_takes_what_saves_a_second_drive()
    {
        static string[] Van(VisitContext at) => [.. new DiagnosisPart().Van(at).Select(i => $"{i.What}: {i.Why}")];
        Assert.Empty(Van(At()));
        var rope = Assert.Single(Van(At(Told("wont-turn-down"), Told("rope-flat"), Told("worsening"))), i => i.StartsWith("door rope and cement", StringComparison.Ordinal));
        Assert.EndsWith("it would save a second drive of 30 min", rope, StringComparison.Ordinal);
        // Next door nothing is carried for a chance.
        var home = At(Told("wont-turn-down"), Told("rope-flat"));
        Assert.Empty(Van(home with { History = home.History with { Ways = FirmWays.Ordinary with { Home = new(Histories.House.Latitude, Histories.House.Longitude, 600) } } }));
    }

    [Fact]
    public void Closed_troubles_and_the_firms_own_word_move_what_is_expected()
    {
        var told = new Suspects(new Dictionary<string, bool> { ["wont-turn-down"] = true });
        int Percent(StoveHistory history, string cause) => Calculation.Answered(e => SuspectsAnswer.To(told, Histories.At(history), e)).Causes.FirstOrDefault(c => c.Cause == cause)?.Percent ?? 0;
        var shipped = Percent(Histories.Of(), "air-control");
        var learned = Histories.Of() with { Closed = [new("steel", false, 40, new Dictionary<string, int> { ["air-control"] = 20 })] };
        Assert.True(Percent(learned, "air-control") > shipped + 10);
        Assert.True(Percent(Histories.Of() with { Tuned = new Dictionary<string, double> { ["prior:air-control"] = 0.3 } }, "air-control") > shipped + 10);
    }

    [Fact]
    public void A_record_says_how_good_the_first_suspects_were()
    {
        static ClosedTrouble Case(int i, string cause, string? first, double? percent) => new(Guid.CreateVersion7(), new(2026, 3, 1 + i % 28), "steel", false, [cause], first, percent, i % 5 == 0 ? 10 + i : null, i % 10 == 0 ? 20 : null);
        Assert.Contains("No trouble was closed yet", TroubleRecord.Of([], FirmTroubles.Shipped).Sentences.Single().ToString(), StringComparison.Ordinal);
        // Said 70 %, right in 14 of 20; said 95 %, right in 10 of 20: that is more than chance.
        List<ClosedTrouble> closed = [.. Enumerable.Range(0, 20).Select(i => Case(i, i < 14 ? "door-rope" : "baffle", "door-rope", 70)), .. Enumerable.Range(0, 20).Select(i => Case(i, i < 10 ? "fans" : "wind", "fans", 95))];
        var record = TroubleRecord.Of(closed, new(new Dictionary<string, double> { ["prior:wind"] = 0.2 }));
        Assert.Equal((40, 40, 24), (record.Closed, record.Judged, record.Right));
        Assert.Equal((14 * 0.09 + 6 * 0.49 + 10 * 0.0025 + 10 * 0.9025) / 40, record.Brier!.Value, 1e-12);
        Assert.Equal([(60, 20, 70.0), (80, 20, 50.0)], record.Calibration.Select(b => (b.From, b.Cases, Math.Round(b.Right, 6))));
        // Two standard deviations of twenty tosses at 0.7.
        Assert.Equal(200 * Math.Sqrt(0.7 * 0.3 / 20), record.Calibration[0].Off, 1e-9);
        var said = Histories.Words(record.Sentences);
        Assert.Contains("Said 95 %, right 50 % of 20 times: more than chance. It is too sure.", said, StringComparison.Ordinal);
        Assert.DoesNotContain("Said 70 %", said, StringComparison.Ordinal);
        // Of the forty those of i = 0 and 10, twice, have both numbers: 10 and 20 min where 20 were expected.
        Assert.Equal((15, 20), (record.Minutes, record.Expected));
        Assert.Contains("Known after 15 min in the mean, where 20 min were to be expected", said, StringComparison.Ordinal);
        var rope = record.Causes.Single(c => c.Cause == "door-rope");
        // Handbook 09 section 1: (50 p + confirmed)/(50 + applied).
        Assert.Equal((14, 40, (50 * 0.10 + 14) / 90), (rope.Times, rope.Applied, rope.Now));
        Assert.Equal((0.2, (50 * 0.2 + 10) / 90), (record.Causes.Single(c => c.Cause == "wind").Prior.Own!.Value, record.Causes.Single(c => c.Cause == "wind").Now));
        Assert.Equal(0, record.Causes.Single(c => c.Cause == "channels").Applied);
    }
}
