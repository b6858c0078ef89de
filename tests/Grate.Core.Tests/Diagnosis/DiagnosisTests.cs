using System.Text.Json;
using Grate.Core.Diagnosis;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>The stories and numbers of handbook 09, and an enumeration in another language.</summary>
public class DiagnosisTests
{
    private static Dictionary<string, FindingTold> Told(string findings) => findings.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToDictionary(
        f => f.TrimStart('-').Split('=')[0],
        f => f.Contains('=', StringComparison.Ordinal) ? new FindingTold(Number: double.Parse(f.Split('=')[1])) : new FindingTold(f[0] != '-'));

    private static DiagnosisAnswer Of(string kind, string findings, bool proposals = true) => Calculation.Answered(e => DiagnosisAnswer.To(
        new DiagnosisEntry(kind.Split('+')[0], kind.EndsWith("+catalytic", StringComparison.Ordinal), Findings: Told(findings), Proposals: proposals), e));

    private static double P(DiagnosisAnswer answer, string cause) => answer.Causes.Single(c => c.Cause == cause).Probability;

    [Theory]
    [InlineData("multi-fuel", "wont-turn-down short-burn", "strip-fails", "door-rope .45 ash-door .25")]
    [InlineData("steel", "smoke-lighting -smoke-reload outdoor-flue mild-weather air-falls", "air-falls", "cold-plug .85 cold-flue .20")]
    [InlineData("steel", "smoke-gusts with-wind -smoke-lighting", "top-exposed", "wind .95 wet-wood .10")]
    [InlineData("cookstove", "flap-helps many-bends smoke-reload", "path-soot", "flue-design .75 oven-path .30")]
    [InlineData("steel", "plate-present stage-jump deposit-glaze deposit-thick", "plate-present", "plate-damper .99 slow-fires .20")]
    [InlineData("steel", "room-draughts smoke-lighting tightened", "window-helps", "tight-house .90 cold-plug .10")]
    [InlineData("steel+catalytic", "probe-low flue-hot", "bypass-loose", "bypass-leak .75 baffle .10")]
    [InlineData("steel+catalytic", "probe-low smoke-cap -flue-hot -wood-wet", "cells-dead", "comb-worn .70 slow-fires .10")]
    [InlineData("steel", "sluggish after-sweep", "debris-above", "debris .75 wet-wood .10")]
    [InlineData("steel", "glass-black sluggish smoke-cap deposit-thick wood-wet=21.9", "wood-wet", "wet-wood .99 slow-fires .10")]
    [InlineData("insert", "sluggish with-fan window-helps", "house-negative window-helps", "fans .95 wet-wood .10")]
    [InlineData("steel", "sluggish asked-logs intake-blocked", "intake-blocked", "air-intake .80 logs .35")]
    public void Stories_come_out_as_told(string kind, string findings, string settles, string rank)
    {
        var answer = Of(kind, findings);
        var ranked = rank.Split(' ').Chunk(2).Select(r => (Cause: r[0], P: double.Parse(r[1]))).ToList();
        Assert.Equal(ranked[0].Cause, answer.Causes[0].Cause);
        // .99 is what is shown of anything above.
        Assert.All(ranked, r => Assert.InRange(Math.Min(0.99, P(answer, r.Cause)), r.P - 0.03, r.P + 0.03));
        // What settles it stands among the best three tests while the stove is cold and nothing of it is known; of two one.
        var known = settles.Split(' ');
        var before = Of(kind, string.Join(' ', findings.Split(' ').Where(f => !known.Contains(f.TrimStart('-').Split('=')[0]))));
        Assert.Contains(before.Tests, t => t.Findings.Any(known.Contains));
    }

    [Theory]
    [InlineData("", "wet-wood .10", .19)]
    [InlineData("glass-black", "wet-wood .30 slow-fires .25 air-wash .10", null)]
    [InlineData("glass-black wood-wet=21.9", "wet-wood .86 slow-fires .11 air-wash .04", null)]
    [InlineData("glass-black wood-wet=14 -asked-slow", "wet-wood .02 slow-fires .04 air-wash .16", null)]
    [InlineData("sluggish draft-over=-20 draft-low=-3", "cap-clogged .35 deposit-block .24 air-intake .06", null)]
    [InlineData("sluggish draft-over=-20 draft-low=-1.5", "cap-clogged .07 deposit-block .08 air-intake .11", null)]
    [InlineData("sluggish draft-over=-20 draft-low=0", "cap-clogged .02 deposit-block .05 air-intake .12", null)]
    [InlineData("wont-turn-down strip-fails=0.2 latch-slack", "door-latch .94 door-rope .15", null)]
    [InlineData("wont-turn-down strip-fails=0.03 draft-low=0 draft-over=-5 -rope-flat -latch-slack -control-stiff -body-light -glass-moves", "", .22)]
    public void Numbers_of_a_steel_stove(string findings, string causes, double? none)
    {
        var answer = Of("steel", findings, proposals: false);
        foreach (var pair in causes.Split(' ', StringSplitOptions.RemoveEmptyEntries).Chunk(2))
            Assert.Equal(double.Parse(pair[1]), P(answer, pair[0]), 0.01);
        if (none is { } expected)
            Assert.Equal(expected, answer.None, 0.01);
        Assert.Empty(answer.Tests);
    }

    [Fact]
    public void Weights_say_what_speaks_for_and_what_does_not_fit()
    {
        var latch = Of("steel", "wont-turn-down strip-fails=0.2 latch-slack").Causes.Single(c => c.Cause == "door-latch");
        Assert.Equal(["latch-slack", "strip-fails"], latch.For.Take(2).Select(f => f.Finding));
        Assert.Equal(1.69, latch.For[0].Weight, 0.01);
        Assert.Equal(0.30, latch.For[1].Weight, 0.01);
        // Everything looked at is in order, and still it will not turn down: not explained, and it does not fit.
        var odd = Of("steel", "wont-turn-down strip-fails=0.03 draft-low=0 draft-over=-5 -rope-flat -latch-slack -control-stiff -body-light -glass-moves");
        Assert.Equal(0.81, odd.Unexplained["wont-turn-down"], 0.01);
        Assert.Contains("wont-turn-down", odd.DoesNotFit);
        Assert.Empty(odd.Best);
    }

    [Theory]
    [InlineData("steel")]
    [InlineData("steel+catalytic")]
    [InlineData("masonry-heater")]
    [InlineData("cookstove")]
    public void Everything_at_once_is_still_a_distribution(string kind)
    {
        var features = Troubles.FeaturesOf(kind.Split('+')[0], kind.Contains('+', StringComparison.Ordinal));
        var offered = Troubles.OfferedTo(features).Select(f => f.Code).ToList();
        var all = Of(kind, string.Join(' ', offered));
        Assert.All(all.Causes, c => Assert.InRange(c.Probability, 0, 1 + 1e-9));
        Assert.InRange(all.Causes.Sum(c => c.Probability), 0.9, 3 + 1e-9);
        Assert.All(all.Causes.SelectMany(c => c.For.Concat(c.Against)), w => Assert.True(double.IsFinite(w.Weight)));
        Assert.Empty(all.Tests);
        Assert.Empty(all.Questions);
        Assert.InRange(Of(kind, string.Join(' ', offered.Select(f => $"-{f}"))).None, 0.985, 1);
    }

    [Fact]
    public void All_no_leaves_nothing() =>
        Assert.Equal(.995, Of("steel", string.Join(' ', Troubles.OfferedTo(Troubles.FeaturesOf("steel", false)).Select(f => $"-{f.Code}"))).None, 0.003);

    // diagnosis.py enumerates the same table in Python, apart from this code.
    [Fact]
    public void Another_program_comes_to_the_same()
    {
        var cases = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Outside/diagnosis.json"))).RootElement.EnumerateArray().ToList();
        Assert.Equal(6, cases.Count);
        foreach (var @case in cases)
        {
            var (kind, catalytic) = (@case.GetProperty("kind").GetString()!, @case.GetProperty("catalytic").GetBoolean());
            var told = @case.GetProperty("told").Deserialize<Dictionary<string, FindingTold>>()!;
            var answer = Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry(kind, catalytic, Findings: told), e));
            Assert.Equal(@case.GetProperty("none").GetDouble(), answer.None, 1e-9);
            foreach (var cause in @case.GetProperty("causes").EnumerateObject())
                Assert.Equal(cause.Value.GetDouble(), P(answer, cause.Name), 1e-9);
            // Sets under 1e-9 are passed over: gains agree to a millionth of a bit.
            foreach (var test in answer.Questions.Concat(answer.Tests))
                Assert.Equal(@case.GetProperty("gains").GetProperty(test.Test).GetDouble(), test.GainBits, 2e-6);
            Assert.All(answer.Tests, t => Assert.Equal(1, t.Outcomes.Sum(o => o.Probability), 1e-6));
        }
    }

    [Fact]
    public void Fire_decides_what_can_be_tested()
    {
        DiagnosisAnswer Asked(bool burning, bool allowed) => Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Findings: Told("sluggish smoke-cap"), Burning: burning, FireAllowed: allowed), e));
        FindingWhen When(ProposedTest test) => Troubles.Findings.First(f => f.Test == test.Test).When;
        Assert.All(Asked(true, true).Tests, t => Assert.Equal(FindingWhen.Hot, When(t)));
        Assert.All(Asked(false, false).Tests, t => Assert.Equal(FindingWhen.Cold, When(t)));
        Assert.Empty(Asked(true, false).Tests);
        Assert.Equal(3, Asked(true, false).Questions.Count);
        // A hot test takes the lighting, too, where none burns.
        var draft = Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Findings: Told("draft-weak many-bends smoke-reload"), Burning: true), e)).Tests.FirstOrDefault(t => t.Test == "draft");
        Assert.True(draft is null || (draft.Minutes == 5 && draft.Outcomes.Count == 3));
        Assert.All(Asked(false, true).Tests.Where(t => When(t) == FindingWhen.Hot), t => Assert.True(t.Minutes >= 16));
    }

    [Fact]
    public void Done_says_when_to_stop()
    {
        Assert.Equal(DiagnosisEnd.Settled, Of("steel", "glass-black sluggish smoke-cap deposit-thick wood-wet=21.9").Done);
        Assert.Null(Of("steel", "glass-black").Done);
        var nothing = Of("steel", string.Join(' ', Troubles.OfferedTo(Troubles.FeaturesOf("steel", false)).Select(f => $"-{f.Code}")));
        Assert.Equal(DiagnosisEnd.NothingWorth, nothing.Done);
    }

    [Fact]
    public void Closed_visits_move_the_priors()
    {
        Assert.Equal((50 * .10 + 4) / 81, DiagnosisEntry.Learned(.10, 4, 31), 1e-12);
        DiagnosisAnswer With(int confirmed, int applied) => Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", ClosedVisits: new Dictionary<string, ClosedVisits?> { ["door-rope"] = new(confirmed, applied) }), e));
        Assert.True(P(With(30, 31), "door-rope") > 3 * P(With(0, 31), "door-rope"));
    }

    [Theory]
    [InlineData("steel", "bricks-bad", "spent", true)]
    [InlineData("steel", "bricks-bad", "not-seen", true)]
    [InlineData("steel", "bricks-bad", "rotten", false)]
    [InlineData("steel", "glass-black", "spent", false)]
    [InlineData("steel", "draft-low", "spent", false)]
    [InlineData("steel", "cells-blocked", "spent", false)]
    [InlineData("pellet", "bricks-bad", "spent", false)]
    public void Words_stand_for_a_part_that_was_looked_at(string kind, string finding, string word, bool taken)
    {
        var errors = new EntryErrors();
        var answer = DiagnosisAnswer.To(new DiagnosisEntry(kind, Findings: new Dictionary<string, FindingTold> { [finding] = new(Word: word) }), errors);
        Assert.Equal(taken, answer is not null);
        if (!taken)
            Assert.Contains(kind == "steel" ? $"findings.{finding}" : "kind", errors.ByField.Keys);
        // Not seen is unknown.
        if (word == "not-seen")
            Assert.Equal(P(Of("steel", ""), "bricks"), P(answer!, "bricks"));
    }

    [Fact]
    public void What_cannot_be_is_named()
    {
        var told = new Dictionary<string, FindingTold> { ["smoke-lighting"] = new(Number: 3), ["no-such"] = new(true), ["oven-slow"] = new(true), ["drips"] = new() };
        var refused = Calculation.Refusals(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Findings: told, ClosedVisits: new Dictionary<string, ClosedVisits?> { ["door-rope"] = new(5, 3), ["gremlins"] = new(1, 1), ["fans"] = null }), e));
        Assert.Equal(["closedVisits.door-rope", "closedVisits.fans", "closedVisits.gremlins", "findings.drips", "findings.no-such", "findings.oven-slow", "findings.smoke-lighting"], refused.Keys.Order(StringComparer.Ordinal));
        Assert.Equal(["minus[0]", "plus[0]"], Calculation.Refusals(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Plus: ["wings"], Minus: [null!, "pipe"]), e)).Keys.Order(StringComparer.Ordinal));
        Assert.Contains("catalytic", Calculation.Refusals(e => DiagnosisAnswer.To(new DiagnosisEntry("cookstove", true), e)).Keys);
        // A steel stove with an ash door has what one without it cannot have.
        Assert.Contains(Calculation.Answered(e => DiagnosisAnswer.To(new DiagnosisEntry("steel", Plus: ["grate"]), e)).Causes, c => c.Cause == "ash-door");
    }

    [Fact]
    public void The_table_is_whole()
    {
        var findings = Troubles.Findings.Select(f => f.Code).ToHashSet();
        Assert.Equal(Troubles.Findings.Count, findings.Count);
        Assert.All(Troubles.Causes, c => Assert.All(c.Links.Keys.Concat(c.SettledBy), f => Assert.Contains(f, findings)));
        Assert.All(findings, f => Assert.Contains(Troubles.Causes, c => c.Links.ContainsKey(f)));
        // A finding that no cause of a stove is linked to is not asked there.
        Assert.DoesNotContain(Troubles.OfferedTo(Troubles.FeaturesOf("steel", false)), f => f.Code is "oven-slow" or "cells-dead" or "path-soot" or "ashdoor-fails");
    }
}
