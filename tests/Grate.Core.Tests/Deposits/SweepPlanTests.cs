using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Deposits;

/// <summary>Handbook 02, section 3: tools, time and the order that must not be broken.</summary>
public class SweepPlanTests
{
    private static FlueSystem Read(FlueEntry entry) => FlueReading.Read(entry, new EntryErrors(), new Assumptions())!;

    private static readonly FlueSystem _flue = Read(new FlueEntry(
    [
        new("connector", "single-wall-steel", new ShapeEntry("round", 0.15), 0.5, 1.2, "indoor", Fittings: [new("elbow-45"), new("elbow-45")]),
        new("liner", "clay-in-masonry", new ShapeEntry("rectangular", null, 0.13, 0.2), 5, 5, "outdoor", Fittings: [new("tee-turn")]),
    ], "open", false));

    private static SweepPlan Plan(FlueSystem flue, int[] stages, LearnedFact? learned = null, params string[] features) =>
        SweepPlan.For(flue, features, stages, learned, UnitSystem.Metric);

    [Fact]
    public void Tools_follow_the_chain()
    {
        var plan = Plan(_flue, [1, 1]);
        Assert.Equal(["poly brush 160 mm", "steel wire brush 130 × 200 mm"], plan.Brushes);
        // 6.2 m and one more.
        Assert.Equal((8, 2), (plan.Rods, plan.Bends));
        Assert.Equal(["clean-out tee"], plan.Openings);
        Assert.Equal("from below, through the tee", plan.From);
        Assert.StartsWith("from above", Plan(_flue with { Screen = true }, [1, 1]).From, StringComparison.Ordinal);
        Assert.Equal(["clean-out tee", "baffle out", "combustor out", "cookstove clean-outs", "masonry-heater channels"], Plan(_flue, [1, 1], null, "baffle", "combustor", "oven", "channels").Openings);
        Assert.Contains("smoke shelf", Plan(_flue with { Segments = [_flue.Segments[1]] }, [1], null, "blower").Openings);
    }

    // 30 min, 4 or 6 min per m, 5 min per bend and opening: worked by hand.
    [Theory]
    [InlineData(1, 1, 30 + 4 * 6.2 + 5 * 3)]
    [InlineData(1, 2, 30 + 4 * 1.2 + 6 * 5 + 5 * 3)]
    [InlineData(3, 1, null)]
    public void Time_by_the_rule(int connector, int liner, double? minutes) =>
        Assert.Equal(minutes ?? -1, Plan(_flue, [connector, liner]).Minutes ?? -1, 9);

    [Fact]
    public void Own_visits_teach_the_time()
    {
        Assert.Equal((84, 3), (Plan(_flue, [1, 1], new LearnedFact(DepositFacts.Minutes, 84, 3)).Minutes, Plan(_flue, [1, 1], new LearnedFact(DepositFacts.Minutes, 84, 3)).LearnedFrom));
        Assert.Equal(0, Plan(_flue, [1, 1], new LearnedFact(DepositFacts.Minutes, 84, 2)).LearnedFrom);
        // Glaze is quoted for, whatever powder took.
        Assert.Null(Plan(_flue, [3, 1], new LearnedFact(DepositFacts.Minutes, 84, 30)).Minutes);
    }

    [Fact]
    public void Order_has_only_what_the_stove_has_and_every_need_comes_before()
    {
        var plain = Plan(_flue, [1, 1]).Order.Select(t => t.Code).ToList();
        Assert.DoesNotContain("combustor-out", plain);
        var all = Plan(_flue, [1, 1], null, "probe", "baffle", "combustor", "oven", "channels").Order;
        Assert.Equal(SweepPlan.Tasks.Count, all.Count);
        for (var i = 0; i < all.Count; i++)
            Assert.Subset(all.Take(i).Select(t => t.Code).ToHashSet(), all[i].Needs.ToHashSet());
    }

    [Theory]
    [InlineData("probe-out", "“Flue probe out, or none fitted” waits for: Fire out, everything cold.")]
    [InlineData("cold probe-out sheeted swept", "“Swept” waits for: Baffle out or pushed aside.")]
    [InlineData("cold probe-out baffle-out sheeted swept refitted", "“Probe, baffle back” waits for: Tee and the baffle's top emptied.")]
    [InlineData("polish", "“polish” is no task of this sweep.")]
    [InlineData("cold probe-out baffle-out sheeted swept", null)]
    public void Gates_hold(string done, string? refusal)
    {
        var errors = new EntryErrors();
        WorkTask.RefuseOutOfOrder(Plan(_flue, [1, 1], null, "probe", "baffle").Order, done.Split(' '), "sweep", "done", errors);
        Assert.Equal(refusal, errors.ByField.GetValueOrDefault("done")?.Single());
    }

    // A masonry heater has openings of its own: nobody is asked for probe, combustor or baffle.
    [Fact]
    public void Masonry_heater_speaks_of_its_own_openings()
    {
        var order = Plan(_flue, [1, 1], null, [.. StoveKind.Find(StoveKind.MasonryHeater)!.FeaturesOf(false)]).Order;
        Assert.DoesNotContain(order, t => t.Name.Contains("robe", StringComparison.Ordinal) || t.Name.Contains("affle", StringComparison.Ordinal) || t.Name.Contains("ombustor", StringComparison.Ordinal));
        Assert.Equal("Lids of the openings back", order.Single(t => t.Code == SweepPlan.Refitted).Name);
        Assert.Contains(order, t => t.Code == "channels-cleaned");
    }

    [Fact]
    public void Parts_are_off_from_the_brush_until_they_are_back()
    {
        Assert.False(new SweepRecord().PartsOff);
        Assert.True(new SweepRecord(Done: ["swept"]).PartsOff);
        Assert.False(new SweepRecord(Done: ["swept", "refitted"]).PartsOff);
    }
}
