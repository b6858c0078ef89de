using CsCheck;
using Grate.Core.Deposits;
using Grate.Core.Service;

namespace Grate.Core.Tests.Service;

/// <summary>What is due, from all rules, and how it becomes visits (handbook 10, sections 3 and 5).</summary>
public class DueTests
{
    private static readonly DateOnly _today = new(2026, 11, 25);
    private static readonly DueRecords _nothing = new(null, null, null, [], []);

    private static DateOnly Day(string text) => DateOnly.Parse(text);

    private static SweepDates Sweep(string next, string? stop = null, SweepBound bound = SweepBound.Yearly) =>
        new(null, null, stop is null ? null : Day(stop), Day(next), bound);

    private static (string, string, string) Window(DueTask task) => ($"{task.Earliest:yyyy-MM-dd}", $"{task.By:yyyy-MM-dd}", $"{task.Latest:yyyy-MM-dd}");

    [Fact]
    public void Nothing_recorded_is_nothing_due() => Assert.Empty(Due.Tasks(_nothing));

    [Fact]
    public void Inspection_a_quarter_early_to_a_month_late()
    {
        // Handbook 10, worked case: inspected 2028-02-29, due 2029-02-28.
        var task = Assert.Single(Due.Tasks(_nothing with { NextInspection = Intervals.NextInspection(Day("2028-02-29"), 12) }));
        Assert.Equal(("2028-11-28", "2029-02-28", "2029-03-28"), Window(task));
        Assert.Equal(DueKind.Inspection, task.Kind);
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
        var task = Assert.Single(Due.Tasks(_nothing with { LastSweep = Day("2026-11-20"), Sweep = Sweep(next, stop, SweepBound.Deposit) }));
        Assert.Equal((earliest, next, latest), Window(task));
        Assert.Contains("in a bad year the limit is reached then", task.Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void Parts_come_by_their_own_date_only_when_the_inspection_is_later()
    {
        var rope = new PartSeen("door-rope", "wearing", Day("2026-03-01"), Day("2026-12-01"));
        var bricks = new PartSeen("bricks", "sound", Day("2026-01-10"), null);
        var connector = new PartSeen("connector", "sound", Day("2020-01-10"), null);
        var due = Due.Tasks(_nothing with { NextInspection = Day("2027-03-01"), Parts = [rope, bricks, connector] });
        Assert.Equal([DueKind.LookAgain, DueKind.Part, DueKind.Inspection], due.Select(t => t.Kind));
        Assert.Equal(("2026-11-01", "2026-12-01", "2027-01-01"), Window(due[0]));
        Assert.Equal("Look again at the door rope: wearing on 1 Mar 2026.", due[0].Reason);
        Assert.Equal("2027-01-10", Window(due[1]).Item2);
        Assert.DoesNotContain(Due.Tasks(_nothing with { NextInspection = Day("2027-01-10"), Parts = [bricks] }), t => t.Kind == DueKind.Part);
    }

    [Fact]
    public void Stop_is_urgent_and_takes_with_it_what_makes_sense_now()
    {
        var tasks = Due.Tasks(_nothing with { NextInspection = Day("2027-01-10"), LastSweep = Day("2026-10-01"), Sweep = Sweep("2027-10-01"), Stops = [("glaze", Day("2026-11-01"))] });
        var visits = Due.Visits(tasks, 60, _today);
        Assert.Equal(2, visits.Count);
        Assert.Equal([DueKind.Stop, DueKind.Inspection], visits[0].Tasks.Select(t => t.Kind));
        // 45 min of inspection, 20 for the stop; a sweep of 60 alone.
        Assert.Equal((true, 65, Day("2026-11-01")), (visits[0].Urgent, visits[0].Minutes, visits[0].By));
        Assert.Equal((false, 60), (visits[1].Urgent, visits[1].Minutes));
        Assert.Equal(180, Due.Visits([.. tasks.Where(t => t.Kind == DueKind.Sweep)], null, _today)[0].Minutes);
        Assert.Equal("clear the stop, yearly service", Due.PurposeOf(visits[0].Tasks));
    }

    [Fact]
    public void Steps_are_all_for_an_inspection_and_few_for_a_part()
    {
        IReadOnlyCollection<string> Steps(DueKind kind, string? part) => Due.StepsFor([new DueTask(kind, part, _today, _today, _today, "")]);
        Assert.Equal(12, Steps(DueKind.Inspection, null).Count);
        Assert.Equal(12, Due.StepsFor([]).Count);
        Assert.Equal(["booking", "load", "arrive", "agree", "next", "cold-checks", "back-together"], Steps(DueKind.LookAgain, "door-rope"));
        Assert.Contains("sweep", Steps(DueKind.Sweep, null));
        Assert.DoesNotContain("inside", Steps(DueKind.Sweep, null));
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
    public void Every_task_is_in_one_visit_whose_window_holds_its_day() => _task.List[0, 12].Sample(unsorted =>
    {
        var tasks = unsorted.OrderBy(t => t.By).ToList();
        var visits = Due.Visits(tasks, 60, _today);
        Assert.Equal(tasks.Count, visits.Sum(v => v.Tasks.Count));
        Assert.All(visits, v =>
        {
            Assert.True(v.Earliest <= v.By && v.By <= v.Latest);
            Assert.Equal(v.Tasks.Min(t => t.By), v.By);
            Assert.InRange(v.Minutes, 30, 24 * 60);
        });
        Assert.Equal(visits.OrderBy(v => v.By).Select(v => v.By), visits.Select(v => v.By));
    });
}
