using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Core.Tests.Flue;

namespace Grate.Core.Tests.Service;

public class ServiceTests
{
    // Handbook 10 section 8.
    [Fact]
    public void Inspection_on_a_leap_day_is_due_on_the_28th() =>
        Assert.Equal(new DateOnly(2029, 2, 28), Intervals.NextInspection(new DateOnly(2028, 2, 29), 12));

    // Handbook 11 section 5.
    [Theory]
    [InlineData(9, RoomCo.Ordinary)]
    [InlineData(34, RoomCo.FindOutWhy)]
    [InlineData(35, RoomCo.StopAndAir)]
    [InlineData(100, RoomCo.EverybodyOut)]
    public void Carbon_monoxide_in_the_room(double ppm, RoomCo meaning) => Assert.Equal(meaning, SafetyStops.Judge(ppm));

    [Fact]
    public void Visit_has_the_twelve_steps_of_the_trade_in_order()
    {
        Assert.Equal(Enumerable.Range(1, 12), VisitSteps.All.Select(s => s.Number));
        Assert.Equal("hot-test", VisitSteps.All[9].Code);
        Assert.Null(VisitSteps.Find("tea"));
    }

    [Fact]
    public void Parts_follow_what_the_stove_has()
    {
        string[] Parts(string kind, bool combustor, string step) =>
            [.. VisitSteps.PartsFor(VisitSteps.Find(step)!, StoveKind.Find(kind)!.FeaturesOf(combustor)).Select(p => p.Code)];
        Assert.DoesNotContain("combustor", Parts("steel", false, "inside"));
        Assert.Contains("combustor", Parts("steel", true, "inside"));
        Assert.DoesNotContain("tubes", Parts("steel", true, "inside"));
        Assert.Contains("channels", Parts("masonry-heater", false, "inside"));
        Assert.DoesNotContain("bricks", Parts("masonry-heater", false, "inside"));
        Assert.Contains("oven-path", Parts("cookstove", false, "inside"));
    }

    [Fact]
    public void Every_stop_names_parts_that_some_step_marks() =>
        Assert.All(SafetyStops.All.SelectMany(s => s.Parts), part => Assert.NotNull(VisitSteps.PartName(part)));

    // Handbook 02 section 3: rods one a metre, rounded up, plus one; poly 12 mm over on steel; steel wire for clay.
    [Fact]
    public void Van_list_of_a_clay_chimney_with_a_steel_connector()
    {
        var flue = FlueReading.Read(Flues.P04, new EntryErrors(), new Assumptions())!;
        Assert.Equal(["poly brush 162 mm", "steel wire brush 200 mm", "11 rods"], VanList.For(flue, UnitSystem.Metric));
        Assert.Equal("poly brush 6.4 in", VanList.For(flue, UnitSystem.Us)[0]);
    }

    [Theory]
    [InlineData(Condition.NotSeen, "not-seen")]
    [InlineData(Condition.Sound, "sound")]
    public void Words_of_enums_go_both_ways(Condition condition, string word)
    {
        Assert.Equal(word, Word.Of(condition));
        Assert.Equal(condition, Word.Find<Condition>(word));
        Assert.Null(Word.Find<Condition>("NotSeen"));
    }

    [Theory]
    [InlineData(-0.04, "0.0 Pa")]
    [InlineData(-3.26, "−3.3 Pa")]
    public void Negative_numbers_have_a_true_minus_and_zero_has_none(double si, string shown) =>
        Assert.Equal(shown, Units.Of(Quantity.Draft, UnitSystem.Metric).Format(si));

    // The core is rules alone: it references nothing but the framework.
    [Fact]
    public void Core_references_nothing_but_the_framework_and_its_mathematics() =>
        Assert.All(typeof(DraftModel).Assembly.GetReferencedAssemblies().Where(a => a.Name != "MathNet.Numerics"),
            a => Assert.StartsWith("System.", a.Name, StringComparison.Ordinal));
}
