using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Core.Tests.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Service;

public class ServiceTests
{
    // Handbook 10 section 8.
    [Fact]
    public void Inspection_on_a_leap_day_is_due_on_the_28th() =>
        Assert.Equal(new DateOnly(2029, 2, 28), Due.NextInspection(new DateOnly(2028, 2, 29), 12));

    // Handbook 11 section 5.
    [Theory]
    [InlineData(9, "ordinary", Weight.Hint)]
    [InlineData(34, "find out why", Weight.Verdict)]
    [InlineData(35, "stop the test and air", Weight.Stop)]
    [InlineData(100, "Everybody out", Weight.Stop)]
    public void Carbon_monoxide_in_the_room(double ppm, string said, Weight weight)
    {
        Assert.Contains(said, RoomCo.Meaning(ppm).ToString(), StringComparison.Ordinal);
        Assert.Equal(weight, RoomCo.Meaning(ppm).Weight);
    }

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
            [.. Core.Parts.All.MarksOf(step, StoveKind.Find(kind)!.FeaturesOf(combustor)).Select(p => p.Code)];
        Assert.DoesNotContain("combustor", Parts("steel", false, "inside"));
        Assert.Contains("combustor", Parts("steel", true, "inside"));
        Assert.DoesNotContain("tubes", Parts("steel", true, "inside"));
        Assert.Contains("channels", Parts("masonry-heater", false, "inside"));
        Assert.DoesNotContain("bricks", Parts("masonry-heater", false, "inside"));
        Assert.Contains("oven-path", Parts("cookstove", false, "inside"));
    }

    [Fact]
    public void Every_stop_names_parts_that_some_step_marks() =>
        Assert.All(Parts.All.Stops.SelectMany(s => s.Parts), part => Assert.NotNull(Parts.All.Mark(part)));

    // Handbook 02 section 3: rods one a metre, rounded up, plus one; poly 12 mm over on steel; steel wire for clay. Stock sizes.
    [Fact]
    public void Van_list_of_a_clay_chimney_with_a_steel_connector()
    {
        var history = Histories.Of() with { Flue = Histories.Of().Flue with { Flue = Flues.P04 } };
        string[] Van(UnitSystem units) => [.. new DepositsPart().Van(Histories.At(history) with { Units = units }).Select(i => i.What)];
        Assert.Equal(["poly brush 160 mm", "steel wire brush 200 mm", "11 rods"], Van(UnitSystem.Metric));
        Assert.Equal(["poly brush 6 in", "steel wire brush 8 in", "11 rods"], Van(UnitSystem.Us));
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
