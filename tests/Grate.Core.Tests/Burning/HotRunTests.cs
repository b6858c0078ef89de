using Grate.Core.Burning;
using Grate.Core.Combustor;
using Grate.Core.Door;
using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Burning;

/// <summary>The hot test as one run: handbook 07 sections 2 and 3.</summary>
public class HotRunTests
{
    private static readonly HotRunStation _run = new();
    private static readonly DateTimeOffset _lit = new(2026, 11, 20, 9, 12, 0, TimeSpan.Zero);

    private static VisitContext With(string kind = "steel", bool combustor = false, params VisitFact[] facts) =>
        Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = kind, Combustor = combustor } }, facts);

    private static string Words(HotRun run, VisitContext? at = null) => Histories.Words(_run.Ask(run, at).Sentences);

    private static RunMark Mark(string step, double minute, double? gas = null, string? saw = null, double? co = null) => new(step, minute, gas, null, co, saw);

    [Fact]
    public void It_knows_what_each_stove_needs()
    {
        string Steps(VisitContext at) => string.Join(' ', _run.Ask(new(), at).Steps.Where(s => s.AtMinute is not null).Select(s => Word.Of(s.Step)));
        Assert.Contains("close-bypass light-off normal-fire", Steps(With(combustor: true)), StringComparison.Ordinal);
        Assert.DoesNotContain("light-off", Steps(With()), StringComparison.Ordinal);
        Assert.Contains("low-fire high-fire air-shut open-slowly", Steps(With()), StringComparison.Ordinal);
        // A heater burns at one rate.
        Assert.DoesNotContain("low-fire", Steps(With("masonry-heater")), StringComparison.Ordinal);
        // In the order of its minutes.
        var minutes = _run.Ask(new(), With(combustor: true)).Steps.Select(s => s.AtMinute).OfType<double>().ToList();
        Assert.Equal(minutes.Order(), minutes);
    }

    [Fact]
    public void The_caution_comes_before_the_door_is_opened() =>
        Assert.StartsWith("Starved and smoking it can flash", _run.Ask(new()).Steps.Single(s => s.Step == RunStepKind.OpenSlowly).Caution, StringComparison.Ordinal);

    [Fact]
    public void Next_is_the_first_that_is_open_and_looks_wait_beside_it()
    {
        Assert.Equal(RunStepKind.Preheat, _run.Ask(new()).Next);
        Assert.Equal(RunStepKind.Read5, _run.Ask(new(_lit, Marks: [Mark("preheat", 0), Mark("light", 0)])).Next);
        // A look that is done leaves the next step as it is.
        Assert.Equal(RunStepKind.Read5, _run.Ask(new(_lit, Marks: [Mark("preheat", 0), Mark("light", 0), Mark("cap-smoke", 3, saw: "clear")])).Next);
        var all = _run.Ask(new()).Steps.Select((s, i) => Mark(Word.Of(s.Step), i)).ToList();
        Assert.Null(_run.Ask(new(_lit, Marks: all)).Next);
    }

    [Fact]
    public void A_reading_that_swung_is_told_as_what_it_is()
    {
        Assert.Contains("Read while the draft still swung, and worth less for it: normal fire, high fire.",
            Words(new(_lit, Marks: [Mark("light", 0), Mark("normal-fire", 20, 240) with { Swings = true }, Mark("low-fire", 26, 200), Mark("high-fire", 34, 300) with { Swings = true }])), StringComparison.Ordinal);
        Assert.DoesNotContain("swung", Words(new(_lit, Marks: [Mark("light", 0), Mark("normal-fire", 20, 240)])), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(150, false, "creosote forms")]
    [InlineData(200, true, "as it should")]
    [InlineData(480, true, "as it should")]
    [InlineData(520, false, "too hot")]
    [InlineData(640, false, "chimney fire is suspected")]
    public void The_flue_has_its_zones(double gasC, bool ok, string said)
    {
        var question = _run.Ask(new(_lit, Samples: [new(10, gasC, 20)])).Questions.Single(q => q.Question == "Is the flue warm enough?");
        Assert.Equal(ok, question.Ok);
        Assert.Contains(said, question.Answer.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void Smoke_carbon_monoxide_and_a_chimney_fire_stop_it()
    {
        string[] Stops(HotRun run) => [.. _run.Stops(run, _run.Ask(run)).Select(s => s.Code)];
        var bad = new HotRun(_lit, Marks: [Mark("open-slowly", 50, saw: "more"), Mark("room-co", 51, co: 40)], Samples: [new(20, 700, 30)]);
        Assert.Equal(["spillage", "room-co", "chimney-fire"], Stops(bad));
        Assert.All(Stops(bad), code => Assert.NotNull(Parts.All.Stop(code)));
        Assert.Equal(Condition.Unsafe, _run.Ask(bad).Parts.Single().Condition);
        Assert.Contains("call the fire service", Words(bad), StringComparison.Ordinal);
        var good = new HotRun(_lit, Marks: [Mark("open-slowly", 50, saw: "puff"), Mark("room-co", 51, co: 3)]);
        Assert.Empty(Stops(good));
        Assert.Equal(["spillage", "room-co"], _run.Passed(good, _run.Ask(good)).Select(p => p.Code));
        // Nothing looked at passes nothing.
        Assert.Empty(_run.Passed(new(_lit), _run.Ask(new(_lit))));
    }

    [Fact]
    public void One_verdict_to_each_question_from_wherever_it_was_found_out()
    {
        VisitFact Fact(string station, string name, string word) => new("hot-test", station, name, null, word, new(10, 0));
        var at = With(combustor: true, facts: [Fact("hot-draft", FlueFacts.Verdict(FiringLevel.Normal), "as-expected"), Fact("light-off", CombustorFacts.LightOff, "pass"), Fact("closed-air", DoorFacts.ClosedAir, "fail")]);
        var answer = _run.Ask(new(_lit, Marks: [Mark("open-slowly", 55, saw: "none"), Mark("cap-smoke", 30, saw: "clear"), Mark("room-co", 40, 300, co: 2)]), at);
        Assert.Equal([true, true, false, true, true, true, true, null], answer.Questions.Select(q => q.Ok));
        Assert.Contains("Can it be turned down? it burns on with the air shut.", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Contains("1 of 8 questions are still open", Histories.Words(answer.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Its_length_is_learned_and_pauses_do_not_count()
    {
        // Paused for longer than it ran.
        var refused = new EntryErrors();
        Assert.Null(new HotRunStation().Answer(new HotRun(_lit, PausedS: 4000, EndedAt: _lit.AddMinutes(65)), Histories.At(), refused));
        Assert.Contains("at most 3900 s", refused.ByField["pausedS"].Single(), StringComparison.Ordinal);
        var ended = new HotRun(_lit, PausedS: 300, EndedAt: _lit.AddMinutes(65));
        Assert.Equal(60, _run.Facts(ended, _run.Ask(ended)).Single(f => f.Name == BurningFacts.RunMin).Value);
        Assert.DoesNotContain(_run.Facts(new(_lit), _run.Ask(new(_lit))), f => f.Name == BurningFacts.RunMin);
        var learned = Histories.At(Histories.Of() with { Learned = [new(BurningFacts.RunMin, 47, 5)] });
        Assert.Equal((47, 5), (_run.Ask(new(), learned).TypicalMin, _run.Ask(new(), learned).Learned));
        Assert.Contains("Such a run took 47 min on the middle of 5 visits", Words(new(), learned), StringComparison.Ordinal);
        Assert.Contains(BurningFacts.RunMin, Parts.All.Learns);
    }

    [Fact]
    public void The_expected_band_follows_the_gas()
    {
        var band = _run.Ask(new(_lit, Samples: [.. Enumerable.Range(0, 120).Select(i => new RunReading(i / 2.0, 20 + 5 * i / 2.0, 10))])).Band;
        Assert.InRange(band.Count, 8, 12);
        Assert.True(band[^1].LowPa > band[0].LowPa);
        Assert.Equal(59.5, band[^1].Minute);
        // Cold gas draws nothing that could be expected of a fire.
        Assert.Empty(_run.Ask(new(_lit, Samples: [new(0, 22, 1)])).Band);
    }

    [Fact]
    public void From_the_top_unless_something_speaks_against_it_and_a_cold_flue_is_warmed_first()
    {
        var lighting = Lighting.Of(Histories.At());
        Assert.Equal(LightingSchool.TopDown, lighting.Cases.Single(c => c.Recommended).School);
        // P01 stands outdoors for 5 of its 6.5 m.
        Assert.Contains("outdoors", lighting.Preheat, StringComparison.Ordinal);
        Assert.Contains("one go", Lighting.Of(With("masonry-heater")).Why, StringComparison.Ordinal);
        Assert.Contains("coal", Lighting.Of(With("multi-fuel")).Why, StringComparison.Ordinal);
    }

    [Fact]
    public void Bad_input_is_named()
    {
        var errors = new EntryErrors();
        Assert.Null(_run.Answer(new(_lit, PausedS: -1, EndedAt: _lit.AddHours(-1), School: "sideways", Marks: [Mark("light", 0), Mark("light", 1), Mark("jump", 900, 9000, "stars")],
            Samples: [new(Minute: null), null!]), Histories.At(), errors));
        Assert.Equal(["endedAt", "marks[1].step", "marks[2].gasC", "marks[2].minute", "marks[2].saw", "marks[2].step", "pausedS", "samples[0].minute", "samples[1]", "school"], errors.ByField.Keys.Order(StringComparer.Ordinal));
    }
}
