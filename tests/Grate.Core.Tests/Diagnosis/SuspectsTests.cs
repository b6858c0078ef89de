using Grate.Core.Diagnosis;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Places;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>The suspects of a stove: what is known without asking, what is said, and what never contradicts itself.</summary>
public class SuspectsTests
{
    private static VisitContext At(string kind = "steel", bool combustor = false, params Fact[] facts)
    {
        var at = Histories.At();
        return at with { History = at.History with { Stove = at.Stove with { Kind = kind, Combustor = combustor } }, Facts = [.. facts.Select(f => new VisitFact("hot-test", "any", f.Name, f.Value, f.Word, new(10, 0)))] };
    }

    private static SuspectsAnswer Of(VisitContext at, string told = "") => Calculation.Answered(e => SuspectsAnswer.To(
        new Suspects(told.Split(' ', StringSplitOptions.RemoveEmptyEntries).ToDictionary(t => t.TrimStart('-'), t => t[0] != '-')), at, e));

    private static string Said(SuspectsAnswer answer) => string.Join("\n", answer.Sentences.Select(s => string.Concat(s.Spans.Select(p => p.Text))));

    [Fact]
    public void Nothing_told_begins_with_the_best_question()
    {
        var answer = Of(At());
        Assert.Equal("Nothing was told yet: begin with the first question.", Said(answer));
        Assert.Equal(3, answer.Next.Count);
        Assert.Contains(answer.Known, k => k.Finding == "draft-weak" && k.Source.StartsWith("expected draft", StringComparison.Ordinal));
        Assert.All(answer.Causes, c => Assert.InRange(c.Percent, 1, 99));
    }

    [Fact]
    public void What_nobody_could_answer_is_not_asked_again()
    {
        SuspectsAnswer Asked(params string[] passed) => Calculation.Answered(e => SuspectsAnswer.To(new Suspects(new Dictionary<string, bool> { ["sluggish"] = true }, passed), At(), e));
        var (before, asked) = (Asked(), new List<string>());
        // One after the other, until nothing is left to ask; what it may be stays as it was.
        while (Asked([.. asked]) is { Next: [var next, ..] } answer && asked.Count < 60)
        {
            Assert.DoesNotContain(next.Finding, asked);
            Assert.Equal(before.Causes.Select(c => c.Percent), answer.Causes.Select(c => c.Percent));
            asked.Add(next.Finding);
        }
        Assert.InRange(asked.Count, 20, 59);
        Assert.Equal(["passed[1]"], Calculation.Refusals(e => SuspectsAnswer.To(new Suspects(Passed: ["sluggish", "oven-slow"]), At(), e)).Keys);
    }

    [Fact]
    public void What_is_to_be_expected_shrinks_as_it_is_found()
    {
        Assert.Null(Of(At()).MinutesLeft);
        var told = Of(At(), "wont-turn-down short-burn");
        Assert.InRange(told.MinutesLeft!.Value, 5, 90);
        Assert.Contains($"about {told.MinutesLeft} min of questions and tests", Said(told), StringComparison.Ordinal);
        Assert.Equal(0, Of(At(), "wont-turn-down worsening rope-flat strip-fails -latch-slack -control-stiff").MinutesLeft);
    }

    [Fact]
    public void What_the_stations_found_speaks_without_being_asked()
    {
        var dry = Of(At(facts: new Fact(FuelFacts.MoistureWet, 0.14)), "glass-black sluggish");
        var wet = Of(At(facts: new Fact(FuelFacts.MoistureWet, 0.22)), "glass-black sluggish");
        Assert.Equal("wet wood", wet.Causes[0].Wrong);
        Assert.Contains("wood wet", wet.Causes[0].For);
        // A no that speaks for something says that it is one.
        Assert.Contains("not: wood wet", Of(At(facts: new Fact(FuelFacts.MoistureWet, 0.14)), "glass-black sluggish").Causes.SelectMany(c => c.For.Concat(c.Against)));
        Assert.DoesNotContain(dry.Causes.Take(2), c => c.Cause == "wet-wood");
        Assert.Equal(("22", "your meter, in this visit"), wet.Known.Where(k => k.Finding == "wood-wet").Select(k => (k.Found, k.Source)).Single());
        // A mark of this visit counts by its word; one of an earlier visit may have been put right since.
        var at = At();
        Assert.Contains(Of(at with { Found = [new("inside", "bricks", Condition.Spent)] }, "too-hot").Known, k => k is { Finding: "bricks-bad", Found: "spent" });
        Assert.DoesNotContain(Of(at with { History = at.History with { Earlier = [new(Guid.CreateVersion7(), new(2026, 1, 1), true, null, [], [new("inside", "bricks", Condition.Spent)])] } }, "too-hot").Known, k => k.Finding == "bricks-bad");
    }

    [Fact]
    public void The_reading_is_held_against_the_band_that_was_expected()
    {
        Fact[] Read(double draft) => [new("hot.normal.draft-pa", draft), new("hot.normal.expected-pa", 20), new("hot.normal.low-pa", 16.71), new("hot.normal.high-pa", 23.29), new("hot.normal.verdict", null, "too-weak-for-its-flue"), new("hot.normal.visit-sigma-pa", 1)];
        var verdict = Word.All<DraftVerdict>().First();
        var low = KnownFindings.Of(At(facts: [.. Read(10).Select(f => f.Word is null ? f : f with { Word = verdict })])).Single(k => k.Finding == "draft-low");
        // (10 − 20)/√(2² + 0.6²).
        Assert.Equal(-10 / Math.Sqrt(4 + 0.36), low.Told.Number!.Value, 1e-9);
        Assert.Equal(10 - 28, KnownFindings.Of(At(facts: [.. Read(10).Select(f => f.Word is null ? f : f with { Word = verdict })]) with { History = At().History with { Stove = At().Stove with { LabelMaxPa = 28 } } })
            .Single(k => k.Finding == "draft-over").Told.Number!.Value, 1e-9);
    }

    [Fact]
    public void Danger_stands_first_and_is_never_solved_by_telephone()
    {
        var alarm = Of(At(), "co-alarm smoke-lighting");
        Assert.StartsWith("A CO alarm sounded. Everybody out", Said(alarm), StringComparison.Ordinal);
        Assert.DoesNotContain("by telephone", Said(alarm), StringComparison.Ordinal);
        // A habit that explains all of it, everything else asked and denied: that is told, and looked back at.
        var at = At();
        SuspectsAnswer Only(params string[] yes) => Of(at, string.Join(' ', Of(at).Questions.Select(q => yes.Contains(q.Finding) ? q.Finding : $"-{q.Finding}")));
        var reload = Only("smoke-reload", "asked-reload", "backpuff");
        Assert.Equal("reload-habit", reload.Causes[0].Cause);
        Assert.InRange(reload.Causes[0].Percent, 90, 99);
        Assert.Contains("This can be solved by telephone: crack, wait, open.", Said(reload), StringComparison.Ordinal);
        // As sure, and a danger beside it: somebody goes.
        var fumes = Only("asked-slow", "glass-black", "smoke-cap", "backpuff", "drips", "smoke-seams");
        Assert.Equal("slow-fires", fumes.Causes[0].Cause);
        Assert.InRange(fumes.Causes[0].Percent, 90, 99);
        Assert.DoesNotContain("by telephone", Said(fumes), StringComparison.Ordinal);
    }

    [Fact]
    public void Everything_wrong_at_once_is_said_without_contradiction()
    {
        foreach (var kind in StoveKind.All)
        {
            foreach (var combustor in new[] { false, true })
            {
                var at = At(kind.Code, combustor);
                var all = Of(at, string.Join(' ', Of(at).Questions.Select(q => q.Finding)));
                var said = Said(all);
                Assert.StartsWith("A CO alarm sounded", said, StringComparison.Ordinal);
                Assert.False(said.Contains("It is ", StringComparison.Ordinal) && said.Contains("not settled yet", StringComparison.Ordinal), said);
                Assert.False(said.Contains("by telephone", StringComparison.Ordinal), said);
                Assert.Empty(all.Next);
                var none = Of(at, string.Join(' ', Of(at).Questions.Select(q => $"-{q.Finding}")));
                Assert.DoesNotContain("by telephone", Said(none), StringComparison.Ordinal);
            }
        }
    }

    [Fact]
    public void What_is_not_asked_of_a_stove_is_refused()
    {
        Assert.Contains("told.oven-slow", Calculation.Refusals(e => SuspectsAnswer.To(new Suspects(new Dictionary<string, bool> { ["oven-slow"] = true, ["drips"] = true }), At(), e)).Keys);
        Assert.Contains(Of(At("cookstove")).Questions, q => q.Finding == "oven-slow");
        Assert.Contains(Of(At("steel", true)).Questions, q => q.Finding == "asked-probe");
    }

    [Fact]
    public void A_stop_leaves_no_test_with_a_fire()
    {
        var at = At();
        var stopped = at with { History = at.History with { Stops = [new("glaze", new(2026, 1, 1))] } };
        Assert.DoesNotContain(Of(stopped, "smoke-reload sluggish").Tests, t => t.Hot);
    }
}
