using CsCheck;
using Grate.Core.Deposits;
using Grate.Core.Service;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Service;

/// <summary>What is due, from all rules, and how it becomes visits (handbook 10, sections 3 and 5).</summary>
public class DueTests
{
    private static readonly DateOnly _today = new(2026, 11, 25);
    private static readonly Due _due = new(Parts.All);

    private static DateOnly Day(string text) => DateOnly.Parse(text);

    private static SweepDates Sweep(string next, string? stop = null, SweepBound bound = SweepBound.Yearly) =>
        new(null, null, stop is null ? null : Day(stop), Day(next), bound);

    private static (string, string, string) Window(DueTask task) => ($"{task.Earliest:yyyy-MM-dd}", $"{task.By:yyyy-MM-dd}", $"{task.Latest:yyyy-MM-dd}");

    private static EarlierVisit Saw(string day, string next, params PartFound[] found) => Histories.Visit(Day(day)) with { NextInspection = Day(next), Found = found };

    private static IReadOnlyList<DueTask> Tasks(StoveHistory history) => _due.Tasks(history, 12, _today);

    [Fact]
    public void Stove_never_visited_is_inspected_now_however_old_its_drawing()
    {
        // The flue is drawn since 1 March 2020.
        var task = Assert.Single(Tasks(Histories.Of()));
        Assert.Equal((DueKind.Inspection, Day("2026-11-25")), (task.Kind, task.By));
    }

    [Fact]
    public void Another_stove_on_a_flue_asks_for_a_look_through_it_until_it_was_seen()
    {
        var replaced = Histories.Of() with { Stove = Histories.Stove with { FlueLook = new(Day("2026-11-01"), "another stove on it") } };
        var look = Assert.Single(Tasks(replaced), t => t.Kind == DueKind.LookAgain);
        Assert.Equal(("flue", Day("2026-11-01")), (look.Part, look.By));
        Assert.Contains("camera: another stove on it on 1 Nov 2026", look.Reason, StringComparison.Ordinal);
        StoveHistory Seen(string day) => replaced with { Earlier = [Saw(day, "2027-03-01", new PartFound("sweep", "flue", Condition.Sound))] };
        Assert.Contains(Tasks(Seen("2026-10-30")), t => t.Kind == DueKind.LookAgain);
        Assert.DoesNotContain(Tasks(Seen("2026-11-20")), t => t.Kind == DueKind.LookAgain);
    }

    [Fact]
    public void The_firms_month_of_heating_is_before_which_it_sweeps()
    {
        var swept = Histories.Of(Histories.Swept(Day("2026-01-10"), 2, 0));
        DueTask Sweep(StoveHistory history) => Assert.Single(Tasks(history), t => t.Kind == DueKind.Sweep);
        Assert.Contains("before the heating season", Sweep(swept with { Ways = FirmWays.Ordinary with { SeasonMonth = 12 } }).Reason, StringComparison.Ordinal);
        Assert.Equal(Day("2026-12-01"), Sweep(swept with { Ways = FirmWays.Ordinary with { SeasonMonth = 12 } }).By);
        Assert.Contains("once per quarter of use", Sweep(swept with { Ways = FirmWays.Ordinary with { Sweeping = "quarterly" } }).Reason, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("9999-12-31", "9999-09-30", "9999-12-31")]
    [InlineData("0001-01-15", "0001-01-01", "0001-02-15")]
    public void A_day_at_an_end_of_the_calendar_has_a_window_that_ends_with_it(string by, string earliest, string latest) =>
        Assert.Equal((earliest, by, latest), Window(DueTask.Around(DueKind.Inspection, null, Day(by), Limit.Practice(3, "months", "early"), Limit.Practice(1, "month", "late"), "as told")));

    [Fact]
    public void Inspection_a_quarter_early_to_a_month_late()
    {
        // Handbook 10, worked case: inspected 2028-02-29, due 2029-02-28.
        var task = Assert.Single(Tasks(Histories.Of(Saw("2028-02-29", "2029-02-28"))));
        Assert.Equal(("2028-11-28", "2029-02-28", "2029-03-28"), Window(task));
        Assert.Equal(DueKind.Inspection, task.Kind);
    }

    [Fact]
    public void Visit_for_less_leaves_the_inspection_where_it_was()
    {
        var at = Histories.At(Histories.Of(Saw("2026-03-01", "2027-03-01")));
        var looked = at with { Found = [new("sweep", "flue", Condition.Sound), new("cold-checks", "latch", Condition.Sound)] };
        Assert.Equal((Day("2027-03-01"), Day("2027-05-20")), (Due.InspectionAfter(looked, false, 6), Due.InspectionAfter(looked, true, 6)));
        // Nothing was looked at: it is no inspection, whatever it was planned as.
        Assert.Equal(Day("2027-03-01"), Due.InspectionAfter(at with { Found = [new("sweep", "flue", Condition.NotSeen)] }, true, 6));
        Assert.Null(Due.InspectionAfter(Histories.At(), true, 12));
    }

    [Fact]
    public void What_nobody_knows_is_due_now_and_said_so()
    {
        var (history, today) = (Histories.Of(), Day("2026-11-20"));
        DueTask Inspection(StoveHistory of) => new Due(Parts.All).Tasks(of, 12, today).Single(t => t.Kind == DueKind.Inspection);
        Assert.Equal(today, Inspection(history).By);
        Assert.Contains("nobody knows", Inspection(history).Reason, StringComparison.Ordinal);
        // A drawing that is corrected moves nothing.
        Assert.Equal(today, Inspection(history with { Flue = history.Flue with { ValidFrom = Day("2026-11-01") } }).By);
        // A sweep that a list told of makes a sweep due, and the inspection goes with it.
        var told = history with { SweptTold = Day("2026-05-10") };
        Assert.Equal(Day("2027-05-10"), new Due(Parts.All).Tasks(told, 12, today).Single(t => t.Kind == DueKind.Sweep).By);
        Assert.Equal(Day("2027-05-10"), Inspection(told).By);
        Assert.DoesNotContain(new Due(Parts.All).Tasks(history, 12, today), t => t.Kind == DueKind.Sweep);
    }

    [Theory]
    [InlineData("2027-05-20", null, "2027-02-20", "2027-08-20")]
    [InlineData("2027-05-20", "2027-06-30", "2027-02-20", "2027-06-30")]
    // The stop comes before the date that the year sets: no grace at all.
    [InlineData("2027-05-20", "2027-05-01", "2027-02-20", "2027-05-20")]
    // Six weeks from sweep to sweep: not on the day after the last one's eve.
    [InlineData("2026-12-31", null, "2026-11-21", "2027-03-31")]
    [InlineData("2026-11-20", null, "2026-11-20", "2027-02-20")]
    public void Sweep_waits_no_longer_than_the_stop(string next, string? stop, string earliest, string latest)
    {
        var task = SweepDue.Of(Day("2026-11-20"), Sweep(next, stop, SweepBound.Deposit), 60);
        Assert.Equal((earliest, next, latest), Window(task));
        Assert.Contains("in a bad year the limit is reached then", task.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void Sweep_is_due_by_what_the_sweeps_left_and_glaze_takes_its_own_time()
    {
        var history = Histories.Of(Histories.Swept(Day("2025-05-20"), 2, 0.2), Histories.Swept(Day("2026-05-20"), 2.4, 0.2));
        var task = Tasks(history).Single(t => t.Kind == DueKind.Sweep);
        Assert.Equal(SweepAnswer.DatesOf(SweepPlace.Of(history), _today)!.Next, task.By);
        var glazed = history with { Earlier = [.. history.Earlier, Histories.Visit(Day("2026-06-01"), new Fact(DepositFacts.LeftMm, 1), new Fact(DepositFacts.GlazeLeft, null, "yes"), new Fact("deposits.stage.segment 1", 3))] };
        Assert.Equal((180, true), (Tasks(glazed).Single(t => t.Kind == DueKind.Sweep).Minutes, task.Minutes is > 30 and < 180));
        Assert.DoesNotContain(Tasks(Histories.Of(Saw("2026-03-01", "2027-03-01"))), t => t.Kind == DueKind.Sweep);
    }

    [Fact]
    public void Parts_come_by_their_own_date_only_when_the_inspection_is_later()
    {
        var bricks = new PartFound("inside", "bricks", Condition.Sound);
        var due = Tasks(Histories.Of(Saw("2020-01-10", "2021-01-10", new PartFound("arrive", "connector", Condition.Sound)), Saw("2026-01-10", "2027-01-10", bricks),
            Saw("2026-03-01", "2027-03-01", new PartFound("cold-checks", "door-rope", Condition.Wearing, Day("2026-12-01")))));
        Assert.Equal([DueKind.LookAgain, DueKind.Part, DueKind.Inspection], due.Select(t => t.Kind));
        Assert.Equal(("2026-11-01", "2026-12-01", "2027-01-01"), Window(due[0]));
        Assert.Equal("Look again at the door rope: wearing on 1 Mar 2026.", due[0].Reason);
        Assert.Equal("2027-01-10", Window(due[1]).Item2);
        Assert.DoesNotContain(Tasks(Histories.Of(Saw("2026-01-10", "2027-01-10", bricks))), t => t.Kind == DueKind.Part);
    }

    // Worn before, renewed and sound after: the later step counts, and nothing is to be looked at again.
    [Fact]
    public void After_counts_over_before_in_one_visit()
    {
        var renewed = Saw("2026-03-01", "2027-03-01", new PartFound("back-together", "door-rope", Condition.Sound), new PartFound("cold-checks", "door-rope", Condition.Wearing, Day("2026-12-01")));
        Assert.DoesNotContain(Tasks(Histories.Of(renewed)), t => t.Kind == DueKind.LookAgain);
    }

    [Fact]
    public void Stop_is_urgent_comes_first_and_takes_with_it_what_makes_sense_now()
    {
        DueTask[] tasks =
        [
            new(DueKind.Stop, "glaze", Day("2026-11-01"), Day("2026-11-01"), Day("2026-11-01"), ""),
            new(DueKind.Inspection, null, Day("2026-07-10"), Day("2026-10-10"), Day("2026-11-10"), ""),
            new(DueKind.Sweep, null, Day("2027-07-01"), Day("2027-10-01"), Day("2028-01-01"), "", 60),
        ];
        var visits = Due.Visits(tasks, _today);
        Assert.Equal(2, visits.Count);
        Assert.Equal([DueKind.Stop, DueKind.Inspection], visits[0].Tasks.Select(t => t.Kind));
        // 45 min of inspection, 20 for the stop; a sweep of 60 alone.
        Assert.Equal((true, 65, Day("2026-10-10")), (visits[0].Urgent, visits[0].Minutes, visits[0].By));
        Assert.Equal((false, 60), (visits[1].Urgent, visits[1].Minutes));
        Assert.Equal("clear the stop, yearly service", _due.PurposeOf(visits[0].Tasks));
        var standing = Histories.Of(Saw("2026-01-10", "2026-02-10")) with { Stops = [new StandingStop("glaze", Day("2026-11-01"))] };
        Assert.Equal([DueKind.Stop, DueKind.Inspection], Tasks(standing).Select(t => t.Kind));
        Assert.Equal("Glaze in the flue: no fire until treated and looked at again.", Tasks(standing)[0].Reason);
    }

    [Fact]
    public void Steps_are_all_for_an_inspection_and_few_for_a_part()
    {
        IReadOnlyCollection<string> Steps(DueKind kind, string? part) => _due.StepsFor([new DueTask(kind, part, _today, _today, _today, "")]);
        Assert.Equal(12, Steps(DueKind.Inspection, null).Count);
        Assert.Equal(12, _due.StepsFor([]).Count);
        Assert.Equal(["booking", "load", "arrive", "agree", "next", "cold-checks", "back-together"], Steps(DueKind.LookAgain, "door-rope"));
        var sweep = _due.StepsFor([SweepDue.Of(_today, Sweep("2027-05-20"), 60)]);
        Assert.Contains("sweep", sweep);
        Assert.DoesNotContain("inside", sweep);
        // A stop is re-tested hot.
        Assert.Subset(Steps(DueKind.Stop, "baffle").ToHashSet(), new HashSet<string> { "hot-test", "inside", "open-up" });
    }

    private static readonly Gen<DueTask> _task =
        from kind in Gen.Enum<DueKind>()
        from wanted in Gen.Int[-400, 400]
        from early in Gen.Int[0, 120]
        from late in Gen.Int[0, 120]
        select new DueTask(kind, "door-rope", _today.AddDays(wanted - early), _today.AddDays(wanted), _today.AddDays(wanted + late), "");

    [Fact]
    public void Every_task_is_in_one_visit_whose_window_holds_its_day() => _task.List[0, 12].Sample(tasks =>
    {
        var visits = Due.Visits(tasks, _today);
        Assert.Equal(tasks.Count, visits.Sum(v => v.Tasks.Count));
        Assert.All(visits, v =>
        {
            Assert.True(v.Earliest <= v.By && v.By <= v.Latest);
            Assert.Equal(v.Tasks.Min(t => t.By), v.By);
            Assert.InRange(v.Minutes, 30, 24 * 60);
        });
        Assert.Equal(visits.OrderBy(v => v.By).Select(v => v.By), visits.Select(v => v.By));
    });

    // Two stops of one reason, a part that is due twice over, things that two parts of the trade want from the van: a list with two equal
    // keys opened no page any more.
    [Fact]
    public void No_list_holds_a_thing_twice()
    {
        var stops = new StandingStop[] { new("glass", Day("2026-11-01")), new("glass", Day("2026-11-03")), new("latch", Day("2026-11-02")) };
        foreach (var kind in StoveKind.All)
        {
            var history = Histories.Of(new EarlierVisit(Guid.CreateVersion7(), Day("2025-11-20"), true, Day("2026-11-20"), [new("seals.door.fitted", null, "yes"), new("seals.ash-door.fitted", null, "yes"), new("deposits.left-mm", 0)],
                [new("cold-checks", "door-rope", Condition.Wearing, Day("2026-11-20")), new("cold-checks", "ash-door", Condition.Spent), new("inside", "seals", Condition.Spent), new("open-up", "combustor", Condition.Spent)]))
                with
            { Stove = Histories.Stove with { Kind = kind.Code, Combustor = true }, Stops = stops, Ways = FirmWays.Ordinary };
            var tasks = new Due(Parts.All).Tasks(history, 12, Day("2026-11-20"));
            Assert.Equal(tasks.Count, tasks.DistinctBy(t => (t.Kind, t.Part)).Count());
            Assert.Equal(2, tasks.Count(t => t.Kind == DueKind.Stop));
            var van = Parts.All.Van(Histories.At(history));
            Assert.Equal(van.Count, van.DistinctBy(i => i.What).Count());
        }
    }
}
