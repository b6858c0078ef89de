using Grate.Core.Air;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Diagnosis;

/// <summary>What nobody has to be asked: each number from its station, in the unit of the finding, and nothing that may be out of date.</summary>
public class KnownFindingsTests
{
    private static VisitContext At(params Fact[] facts) => Histories.At() with { Facts = [.. facts.Select(f => new VisitFact("inside", "any", f.Name, f.Value, f.Word, new(10, 0)))] };

    private static FindingTold? Of(VisitContext at, string finding) => KnownFindings.Of(at).LastOrDefault(k => k.Finding == finding)?.Told;

    [Theory]
    [InlineData(DepositFacts.WorstMm, 3.4, "deposit-thick", 3.4)]
    [InlineData(DoorFacts.CollapseS, 140, "air-close-fails", 140)]
    [InlineData(FireboxFacts.BaffleSagShare, 0.021, "baffle-bad", 2.1)]
    [InlineData(CombustorFacts.DarkShare, 0.3, "cells-blocked", 0.3)]
    [InlineData(CombustorFacts.BrokenShare, 0.4, "cells-dead", 0.4)]
    [InlineData(FlueFacts.RoomOnPa, -5.5, "house-negative", 5.5)]
    [InlineData(AirFacts.DuctLossPa, 4.2, "intake-blocked", 4.2)]
    [InlineData(FlueFacts.WindowGainPa, 3.5, "window-helps", 3.5)]
    [InlineData(FlueFacts.SwingShare, 0.42, "draft-unsteady", 0.42)]
    public void A_number_comes_in_the_findings_own_unit(string fact, double value, string finding, double expected)
    {
        Assert.NotEqual(expected, Of(At(), finding)?.Number);
        Assert.Equal(expected, Of(At(new Fact(fact, value)), finding)!.Number!.Value, 1e-9);
        // The finding takes a number at all.
        Assert.NotNull(Troubles.Findings.Single(f => f.Code == finding).Middle);
    }

    [Theory]
    [InlineData(AirFacts.Plate, "plate-present")]
    [InlineData(FlueFacts.TopBad, "top-exposed")]
    [InlineData(FlueFacts.AirFalls, "air-falls")]
    [InlineData(AirFacts.IntakeBlocked, "intake-blocked")]
    [InlineData(DoorFacts.GlassMoves, "glass-moves")]
    public void A_look_is_a_yes_or_a_no(string fact, string finding)
    {
        Assert.True(Of(At(new Fact(fact, null, "yes")), finding)!.Yes);
        Assert.False(Of(At(new Fact(fact, null, "no")), finding)!.Yes);
        Assert.Null(Of(At(), finding)?.Yes);
    }

    // A gauge is no surer of −20 Pa than of 20: 30 Pa below what was expected over a band of 10/3.29 Pa and 0.7 Pa of its own.
    [Fact]
    public void A_reversed_draft_is_doubted_like_any_other()
    {
        string Name(string what) => $"{FlueFacts.Verdict(FiringLevel.Normal)[..^"verdict".Length]}{what}";
        var at = At(new(Name("draft-pa"), -20), new(Name("expected-pa"), 10), new(Name("low-pa"), 5), new(Name("high-pa"), 15), new(FlueFacts.Verdict(FiringLevel.Normal), null, Word.Of(DraftVerdict.BelowExpected)));
        Assert.Equal(-30 / Math.Sqrt(Math.Pow(10 / 3.29, 2) + 0.7 * 0.7), Of(at, Troubles.DraftLow)!.Number!.Value, 1e-9);
    }

    [Fact]
    public void A_mark_counts_until_a_number_says_it_better()
    {
        var marked = At() with { Found = [new("inside", "baffle", Condition.Wearing)] };
        Assert.Equal("wearing", Of(marked, "baffle-bad")!.Word);
        Assert.Equal(2.5, Of(marked with { Facts = At(new Fact(FireboxFacts.BaffleSagShare, 0.025)).Facts }, "baffle-bad")!.Number!.Value, 1e-9);
        // Not seen is no finding: the weighing leaves it out.
        Assert.Equal("not-seen", Of(At() with { Found = [new("sweep", "cap", Condition.NotSeen)] }, "cap-bad")!.Word);
    }

    [Fact]
    public void What_was_found_counts_not_what_was_left_and_what_an_earlier_visit_left_counts_until_it_is_measured_again()
    {
        var strips = DoorFacts.StripShare();
        VisitFact Strip(string step, double share) => new(step, "door-strips", strips, share, null, new(10, 0));
        var renewed = At() with { Facts = [Strip("cold-checks", 0.5), Strip("back-together", 0)] };
        Assert.Equal(0.5, Of(renewed, "strip-fails")!.Number);
        // Marked spent, renewed, and marked sound: it was spent.
        Assert.Equal("spent", Of(At() with { Found = [new("open-up", "baffle", Condition.Spent), new("back-together", "baffle", Condition.Sound)] }, "baffle-bad")!.Word);
        var at = At();
        var before = at with { History = at.History with { Earlier = [new(Guid.CreateVersion7(), new(2026, 1, 5), true, null, [new(strips, 0.5), new(strips, 0.05), new(AirFacts.Plate, null, "yes")], [])] } };
        Assert.Equal(0.05, Of(before, "strip-fails")!.Number);
        Assert.Equal("visit of 5 January 2026", KnownFindings.Of(before).Single(k => k.Finding == "plate-present").Source);
        Assert.Equal(0.5, KnownFindings.Of(before with { Facts = renewed.Facts }).Last(k => k.Finding == "strip-fails").Told.Number);
    }

    [Fact]
    public void The_drawing_answers_for_bends_and_for_what_stands_outside()
    {
        var at = At();
        FindingTold Bends(FlueEntry flue) => Of(at with { History = at.History with { Flue = at.Flue with { Flue = flue } } }, "many-bends")!;
        FindingTold Outside(FlueEntry flue) => Of(at with { History = at.History with { Flue = at.Flue with { Flue = flue } } }, "outdoor-flue")!;
        SegmentEntry Piece(double rise, string place, params string[] fittings) => new(null, "insulated-50", new("round", 0.15), rise, rise, place, Fittings: [.. fittings.Select(f => new FittingEntry(f))]);
        Assert.False(Bends(new([Piece(3, "indoor"), Piece(2, "outdoor")])).Yes);
        // Under 4.5 m in all, or three elbows.
        Assert.True(Bends(new([Piece(3, "indoor"), Piece(1, "outdoor")])).Yes);
        Assert.True(Bends(new([Piece(3, "indoor", "elbow-90", "elbow-90"), Piece(3, "outdoor", "elbow-90")])).Yes);
        Assert.False(Bends(new([Piece(3, "indoor", "elbow-90", "elbow-90"), Piece(3, "outdoor", "elbow-45")])).Yes);
        Assert.False(Outside(new([Piece(3, "indoor"), Piece(2, "outdoor")])).Yes);
        Assert.True(Outside(new([Piece(1, "indoor"), Piece(4, "outdoor")])).Yes);
    }

    [Fact]
    public void What_is_expected_of_the_flue_is_the_model_s_own()
    {
        var at = At();
        var normal = Calculation.Answered(e => HotPlace.Of(at).Answer(new HotReading("normal"), at.Day.Month, e, at.Units));
        Assert.Equal(normal.Need.MinPa - normal.ExpectedPa, Of(at, "draft-weak")!.Number!.Value, 1e-9);
        Assert.Equal(normal.DewPointC - normal.ExitWallC, Of(at, "exit-below-dew")!.Number!.Value, 1e-9);
        // Hours on a combustor outlast the visit that reckoned them; what was measured there does not.
        var earlier = at with { History = at.History with { Earlier = [new(Guid.CreateVersion7(), new(2025, 1, 1), true, null, [new(CombustorFacts.Hours, 9000), new(DepositFacts.WorstMm, 5)], [])] } };
        Assert.Equal(9000, Of(earlier, "comb-hours")!.Number);
        Assert.Null(Of(earlier, "deposit-thick"));
        // Nobody tells the weather: nothing is said of a cold plug.
        Assert.Null(Of(at with { Weather = null }, "plug-expected"));
        Assert.True(Of(at with { Weather = new(new(8, 0), 22, 18) }, "plug-expected")!.Number < Of(at with { Weather = new(new(8, 0), -5, -8) }, "plug-expected")!.Number);
    }

    [Fact]
    public void Every_finding_and_test_has_a_name_for_a_sentence()
    {
        Assert.All(Troubles.Findings, f =>
        {
            Assert.DoesNotContain(f.Spoken, c => c is '?' or '(');
            Assert.False(f.Spoken.EndsWith(", Pa", StringComparison.Ordinal) || f.Spoken.EndsWith(", mm", StringComparison.Ordinal) || f.Spoken.EndsWith(" K", StringComparison.Ordinal), f.Spoken);
        });
        Assert.Equal(Troubles.Findings.Count, Troubles.Findings.Select(f => f.Spoken).Distinct().Count());
    }
}
