using Grate.Core.Service;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Service;

/// <summary>What is missing before a visit is signed: signing is final.</summary>
public class SigningTests
{
    private static readonly StationState[] _all = [.. Parts.All.Stations.Select(s => new StationState(s.Steps[0], s.Code, null))];

    private static IReadOnlyList<StepState> Steps(StepStatus status) => [.. VisitSteps.All.Select(s => new StepState(s.Code, status))];

    private static IReadOnlyList<PartFound> Marked(VisitContext at) =>
        [.. VisitSteps.All.SelectMany(s => Parts.All.MarksOf(s.Code, at.Stove.Features).Select(m => new PartFound(s.Code, m.Code, Condition.Sound)))];

    private static IReadOnlyDictionary<string, string[]> Refused(Signing signing, bool confirmed = true, Dictionary<string, string>? reasons = null)
    {
        var errors = new EntryErrors();
        signing.Refuse(confirmed, reasons, errors);
        return new Dictionary<string, string[]>(errors.ByField);
    }

    [Fact]
    public void Whole_visit_is_signed_once_it_is_confirmed()
    {
        var at = Histories.At();
        var signing = Signing.Of(Parts.All, at with { Found = Marked(at) }, Steps(StepStatus.Done), _all);
        Assert.Empty(signing.Refusals);
        Assert.Empty(signing.Missing);
        Assert.Empty(Refused(signing));
        Assert.Equal(["confirmed"], Refused(signing, confirmed: false).Keys);
    }

    [Fact]
    public void Twelve_taps_do_not_sign_an_empty_visit()
    {
        var signing = Signing.Of(Parts.All, Histories.At(), Steps(StepStatus.Done), []);
        Assert.Empty(signing.Refusals);
        // No reading, no sweep, wood unknown, nobody told, and every part unmarked.
        Assert.Equal(["wood", "deposits", "hot-draft", "agreement", "parts"], signing.Missing.Select(m => m.Code));
        Assert.Contains("parts are not marked", signing.Missing[^1].Sentence, StringComparison.Ordinal);
        Assert.Equal(signing.Missing.Select(m => $"reasons.{m.Code}").Order(), Refused(signing).Keys.Order());
        var reasons = signing.Missing.ToDictionary(m => m.Code, _ => "the household wanted the rope alone");
        Assert.Empty(Refused(signing, reasons: reasons));
        reasons["wood"] = " ";
        Assert.Equal(["reasons.wood"], Refused(signing, reasons: reasons).Keys);
        reasons["wood"] = new string('x', Signing.LongestReason + 1);
        Assert.Equal(["reasons.wood"], Refused(signing, reasons: reasons).Keys);
    }

    [Fact]
    public void Skipped_step_is_reasoned_already() =>
        Assert.Empty(Signing.Of(Parts.All, Histories.At(), Steps(StepStatus.Skipped), []).Missing);

    [Fact]
    public void Open_steps_are_named_and_the_last_is_not_one_of_them()
    {
        var refusal = Assert.Single(Signing.Of(Parts.All, Histories.At(), [.. Steps(StepStatus.Done).Where(s => s.Code is not ("air" or "next"))], _all).Refusals);
        Assert.Equal("Still open: Air. Do them, or skip them with a reason.", refusal.Sentence);
        Assert.Equal("air", refusal.Step);
    }

    [Fact]
    public void Visit_of_tomorrow_is_not_signed_and_one_of_today_is()
    {
        var at = Histories.At();
        Assert.Contains("has not begun", Signing.Of(Parts.All, at with { Today = at.Day.AddDays(-1) }, Steps(StepStatus.Skipped), []).Refusals.Single().Sentence, StringComparison.Ordinal);
        Assert.Empty(Signing.Of(Parts.All, at with { Today = at.Day.AddDays(400) }, Steps(StepStatus.Skipped), []).Refusals);
    }

    [Fact]
    public void Station_that_blocks_says_why()
    {
        Assert.Equal([new Refusal("The baffle is out.", "sweep", "deposits")], Signing.Of(Parts.All, Histories.At(), Steps(StepStatus.Skipped), [new("sweep", "deposits", "The baffle is out."), new("open-up", "other", "The baffle is out.")]).Refusals);
        // Where the parts are listed one by one, that list alone says what is out.
        var listed = Histories.At(facts: [new VisitFact("open-up", "strip-down", "apart.00.part", null, "baffle", new(9, 0))]);
        Assert.Empty(Signing.Of(Parts.All, listed, Steps(StepStatus.Skipped), [new("sweep", "deposits", "The brush was in the flue."), new("open-up", "strip-down", null)]).Refusals);
        Assert.Single(Signing.Of(Parts.All, listed, Steps(StepStatus.Skipped), [new("sweep", "deposits", "The brush was in the flue."), new("open-up", "strip-down", "Out, and not back: baffle.")]).Refusals);
    }
}
