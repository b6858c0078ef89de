using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Handbook 01 section 7.</summary>
public class ColdStartTests
{
    private static ColdStartAnswer Ask(FlueEntry flue, double outdoor, double? low = null, double? house = null, string? source = "dryer")
    {
        var errors = new EntryErrors();
        var answer = ColdStartAnswer.To(new ColdStartEntry(new ColdSurroundingsEntry(outdoor, 20, 0, HousePressurePa: house, OutdoorColdC: low), flue, source), errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    // Worked case: P06 before the fire, overnight low 5 °C.
    [Fact]
    public void Worked_case_P06()
    {
        var answer = Ask(Flues.P01(), 12, 5, -1.5);
        Assert.Equal(-2.5, answer.ColdDraftPa, 1);
        Assert.Equal(25.2, answer.TargetGasC!.Value, 1);
        Assert.Equal(105, answer.EnergyKj, 0);
        Assert.Equal(117, answer.PreheatS!.Value, 0);
        Assert.True(answer.Plug);
        Assert.Equal(ColdState.Plug, answer.State);
    }

    [Fact]
    public void Indoor_flue_in_winter_pulls_by_itself()
    {
        var answer = Ask(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 6)), -10);
        Assert.Equal(ColdState.Pulls, answer.State);
        Assert.Equal(0, answer.PreheatS);
        Assert.Equal(0, answer.EnergyKj);
    }

    [Fact]
    public void Newspaper_comes_in_whole_charges_that_just_suffice()
    {
        var answer = Ask(Flues.P01(), 12, 5, -1.5, "newspaper");
        Assert.Equal(60, answer.PreheatS);
        Assert.Contains("1 charge of", answer.Advice, StringComparison.Ordinal);
        var clay = Ask(Flues.P04, 12, 5, -1.5, "newspaper");
        var charges = clay.PreheatS!.Value / 60;
        Assert.Equal(charges, Math.Round(charges));
        Assert.True(375 * charges >= clay.EnergyKj);
    }

    // Clay warms as deep as √(a t): the time solves t = E(t)/(0.6 · 1500 W), and is not its false root 0.
    [Fact]
    public void Clay_takes_heat_as_deep_as_it_has_reached()
    {
        var answer = Ask(Flues.Chain("open", Flues.Segment("clay-in-masonry", "outdoor", 3, diameter: 0.2)), 10, 9, 1.5);
        Assert.True(answer.PreheatS > 0);
        Assert.Equal(answer.EnergyKj * 1000 / 900, answer.PreheatS!.Value, 1);
        var depth = Math.Sqrt(5e-7 * answer.PreheatS.Value);
        var byHand = Math.PI * 0.2 * depth * 1900 * 900 * 3 * (answer.TargetGasC!.Value - 9) / 1000;
        Assert.Equal(byHand, answer.EnergyKj, 1);
        Assert.Contains("upper bound", answer.Advice, StringComparison.Ordinal);
    }

    [Fact]
    public void Over_ten_minutes_no_time_is_shown()
    {
        var answer = Ask(Flues.Chain("open", Flues.Segment("brick-unlined", "outdoor", 8, diameter: 0.3)), 10, 0, -6);
        Assert.Null(answer.PreheatS);
        Assert.Contains("Over 10 minutes", answer.Advice, StringComparison.Ordinal);
    }

    [Fact]
    public void No_target_where_the_house_pulls_too_hard()
    {
        var answer = Ask(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1)), 10, house: -40);
        Assert.Null(answer.TargetGasC);
        Assert.Null(answer.PreheatS);
    }

    [Theory]
    [InlineData(-0.5, ColdState.Plug)]
    [InlineData(-0.49, ColdState.Standing)]
    [InlineData(0.49, ColdState.Standing)]
    [InlineData(0.5, ColdState.Pulls)]
    public void States_turn_at_half_a_pascal(double house, ColdState state) =>
        Assert.Equal(state, Ask(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 5)), 20, 20, house).State);

    [Fact]
    public void Bad_entries_are_told()
    {
        var errors = new EntryErrors();
        Assert.Null(ColdStartAnswer.To(new ColdStartEntry(new ColdSurroundingsEntry(10, OutdoorColdC: 99), Flues.P01(), "petrol"), errors));
        Assert.Equal(["source", "surroundings.outdoorColdC"], errors.ByField.Keys.Order());
    }

    private static readonly FlueEntry _inside = Flues.Chain("low-resistance", Flues.Segment("single-wall-steel", "indoor", 1.2),
        Flues.Segment("insulated-50", "indoor", 3), Flues.Segment("insulated-50", "attic", 2), Flues.Segment("insulated-50", "outdoor", 1));

    private static readonly FlueEntry _clayOutside = Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1), Flues.Segment("clay-in-masonry", "outdoor", 7.5, diameter: 0.2));

    // Common practice: 30 to 45 s by habit on an ordinary start.
    [Fact]
    public void Ordinary_start_takes_what_habit_gives_it() => Assert.InRange(Ask(_inside, 12, 8, -1, "torch").PreheatS!.Value, 30, 45);

    // Common practice: about a minute when a little cold air is felt.
    [Fact]
    public void A_little_cold_air_takes_about_a_minute()
    {
        Assert.InRange(Ask(_inside, 12, 5, -1.5, "torch").PreheatS!.Value, 45, 90);
        Assert.InRange(Ask(Flues.P01(), 10, 8, -1, "torch").PreheatS!.Value, 45, 90);
    }

    // Common practice: five to six minutes when the fall is strong: between steel, which warms in no time, and clay, whose
    // computed time is an upper bound.
    [Fact]
    public void Strong_fall_takes_minutes()
    {
        var steel = Ask(Flues.P01(), 15, 5, -2, "torch");
        Assert.True(steel.ColdDraftPa < -3);
        Assert.InRange(steel.PreheatS!.Value, 120, 360);
        Assert.Null(Ask(_clayOutside, 15, 5, -2, "torch").PreheatS);
        Assert.InRange(Ask(_clayOutside, 12, 5, -1.5, "newspaper").PreheatS!.Value, 300, 360);
    }

    // A clay flue whose connector needs no heat: no charge at all would "suffice" for a wall that has had no time to take any.
    [Fact]
    public void Clay_under_a_plug_takes_one_charge_at_least()
    {
        var answer = Ask(_clayOutside, 5, 3, -1, "newspaper");
        Assert.True(answer.Plug);
        Assert.True(answer.PreheatS is null or >= 60);
        Assert.DoesNotContain("by itself", answer.Advice, StringComparison.Ordinal);
    }
}
