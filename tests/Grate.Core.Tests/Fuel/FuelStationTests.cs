using Grate.Core.Fuel;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Fuel;

/// <summary>The stack and the nights on a visit: handbook 07 sections 1 and 4.</summary>
public class FuelStationTests
{
    private static readonly WoodPileStation _pile = new();
    private static readonly NightsStation _nights = new();

    private static VisitContext With(params VisitFact[] facts) => Histories.At(facts: facts);

    private static VisitFact Wood(string name, double? value, string? word = null) => new("arrive", "wood", name, value, word, new(9, 0));

    [Fact]
    public void Wet_wood_is_given_a_day_and_a_curve()
    {
        var at = With(Wood(FuelFacts.MoistureWet, 0.25), Wood(FuelFacts.Wood, null, "hardwood"));
        var answer = _pile.Ask(new(), at);
        // τ 7 months, from 25 to 16.7 % wet towards 14: 7 ln(0.11/0.02667) = 9.9 months, rounded up from 20 November.
        Assert.Equal((9.9, new DateOnly(2027, 9, 20)), (Math.Round(answer.Drying.Months!.Value, 1), answer.Drying.MeasureAgainOn!.Value));
        Assert.Contains("From 33 % on the meter it takes about 10 months to 20 %: measure again on 20 Sep 2027.", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Equal(answer.Curve.Select(p => p.MeterShare).OrderDescending(), answer.Curve.Select(p => p.MeterShare));
        Assert.True(answer.Curve[9].MeterShare > 0.20 && answer.Curve[10].MeterShare < 0.20);
        Assert.Equal("2027-09-20", _pile.Facts(new(), answer).Single().Word);
        // Rounds take half as long again; dry wood is told so, and stays dry on the curve.
        Assert.Equal(new DateOnly(2028, 2, 20), _pile.Ask(new(Rounds: true), at).Drying.MeasureAgainOn);
        var dry = _pile.Ask(new(), With(Wood(FuelFacts.MoistureWet, 0.12)));
        Assert.Contains("Dry as it is", Histories.Words(dry.Sentences), StringComparison.Ordinal);
        Assert.Equal(dry.Curve[0].MeterShare, dry.Curve[^1].MeterShare, 9);
    }

    [Fact]
    public void The_stack_is_held_against_the_rest_of_the_winter()
    {
        var at = With(Wood(FuelFacts.KgPerYear, 3000), Wood(FuelFacts.MoistureWet, 0.18), Wood(FuelFacts.Wood, null, "hardwood"));
        var need = _pile.Ask(new(), at).NeedKg;
        // From 20 November to 1 July an ordinary site burns most of its year.
        Assert.InRange(need, 2300, 2700);
        var enough = _pile.Ask(new(6), at);
        Assert.True(enough.Pile!.MassKg > need);
        Assert.Contains("until July this household burns", Histories.Words(enough.Sentences), StringComparison.Ordinal);
        Assert.EndsWith("enough.", enough.Sentences.First(s => s.ToString().StartsWith("The stack", StringComparison.Ordinal)).ToString(), StringComparison.Ordinal);
        var half = _pile.Ask(new(enough.Pile.StackedM3 * need / enough.Pile.MassKg / 2), at);
        Assert.Contains($"{half.Pile!.StackedM3:0.0} m³ more are needed", Histories.Words(half.Sentences), StringComparison.Ordinal);
        var refused = new EntryErrors();
        Assert.Null(_pile.Answer(new(-1, "oak"), at, refused));
        Assert.Equal(["class", "stackedM3"], refused.ByField.Keys.Order());
    }

    [Fact]
    public void Nights_tell_the_house_and_the_load_for_the_next()
    {
        var at = With(Wood(FuelFacts.MoistureWet, 0.18), Wood(FuelFacts.Wood, null, "hardwood"));
        ToldNight[] told = [new(8.5, 8.5, "some", 21.7, 18.9, -1, -3), new(14, 8.5, "some", 20, 20.5, -4, -8)];
        // The two nights of the public case: 174 W/K, 10.9 MJ/K, 17.4 kg for nine hours at −12 °C.
        var answer = _nights.Ask(new(told, 9, 20, -12), at);
        Assert.Equal((174, 10.9, 17.4), (Math.Round(answer.Reckoned.House!.UaWK!.Value), Math.Round(answer.Reckoned.House.CapacityMjK!.Value, 1), Math.Round(answer.Reckoned.Wanted!.LoadKg!.Value, 1)));
        Assert.Contains("For a night at −12 °C it takes 5.6 kW: 17.4 kg", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        // The next visit knows the house; its nights may stay untold.
        var facts = _nights.Facts(new(told), answer).ToArray();
        var later = _nights.Ask(new(WantedOutC: -12), Histories.At(Histories.Of(Histories.Visit(new(2026, 1, 1), [.. facts, new Fact(FuelFacts.Wood, null, "hardwood")]))));
        Assert.Equal(answer.Reckoned.Wanted.LoadKg!.Value, later.Reckoned.Wanted!.LoadKg!.Value, 6);
        Assert.Contains("more than this stove's 8 kW", Histories.Words(_nights.Ask(new(told, WantedOutC: -40), at).Sentences), StringComparison.Ordinal);
        Assert.Contains("too alike", Histories.Words(_nights.Ask(new([told[0], told[0]]), at).Sentences), StringComparison.Ordinal);
        Assert.Contains("Ask for a night", Histories.Words(_nights.Ask(new()).Sentences), StringComparison.Ordinal);
        var refused = new EntryErrors();
        Assert.Null(_nights.Answer(new([new(0, 99)], WantedHours: 0), at, refused));
        Assert.Equal(["told[0].hours", "told[0].loadKg", "wantedHours"], refused.ByField.Keys.Order());
    }
}
