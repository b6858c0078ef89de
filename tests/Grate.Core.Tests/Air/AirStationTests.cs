using Grate.Core.Air;
using Grate.Core.Door;
using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Air;

/// <summary>Stations of the stove's air: handbook 06 on a visit.</summary>
public class AirStationTests
{
    private static readonly OutsideAirStation _outside = new();
    private static readonly DamperStation _dampers = new();
    private static readonly AirControlsStation _controls = new();

    private static VisitFact Cold(string name, double value) => new("cold-checks", "cold-flue", name, value, null, new(9, 0));

    private static string Words<TEntry, TAnswer>(Station<TEntry, TAnswer> station, TEntry entry, VisitContext? at = null)
        where TEntry : class
        where TAnswer : class, IReckoned => Histories.Words(station.Ask(entry, at).Sentences);

    private static VisitContext With(string kind, params VisitFact[] facts) => Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = kind } }, facts);

    [Fact]
    public void A_duct_is_laid_run_by_run()
    {
        var answer = _outside.Ask(new([new("back", 0.6, "wall"), new("down", 0.3, "outdoors"), new("left", 2.4, "outdoors")]));
        // Two bends of 90° between three ways; hood, screen and entry beside them.
        Assert.Equal((3.5, 1, 3.3), (answer.Reckoned.Duct!.Zeta, answer.Reckoned.Duct.Sizes.Count / 4, answer.Reckoned.Duct.EquivalentLengthM - 3.0));
        Assert.Equal(4, answer.Path.Count);
        Assert.Equal(answer.Path[0].AcrossM + 0.354 * 0.6 - 2.4, answer.Path[^1].AcrossM, 9);
        // Pressure grows with the fire.
        Assert.Equal(answer.Fires.Select(f => f.LossPa).Order(), answer.Fires.Select(f => f.LossPa));
        Assert.Equal(answer.Reckoned.Duct.Chosen!.LossPa, answer.Fires[^1].LossPa!.Value, 6);
        Assert.Equal("intake", answer.Parts.Single().Part);
    }

    [Fact]
    public void A_rising_duct_and_one_that_ends_underground_are_told()
    {
        Assert.Contains("the wrong way", Words(_outside, new([new("back", 0.5, "wall"), new("up", 2, "outdoors")])), StringComparison.Ordinal);
        Assert.Contains("under the ground", Words(_outside, new([new("down", 3, "floor")])), StringComparison.Ordinal);
        Assert.Contains("crawl space", Words(_outside, new([new("down", 0.2, "crawl-space")])), StringComparison.Ordinal);
        var refused = new EntryErrors();
        Assert.Null(_outside.Answer(new([new("left", 1), new("right", 1)]), Histories.At(), refused));
        var far = new EntryErrors();
        Assert.Null(_outside.Answer(new([.. Enumerable.Repeat(new DuctRun("left", 18), 4)]), Histories.At(), far));
        Assert.Contains("Length of the duct must lie between", far.ByField["runs"][0], StringComparison.Ordinal);
        Assert.Contains("straight back into itself", refused.ByField["runs[1].toward"][0], StringComparison.Ordinal);
    }

    [Fact]
    public void The_worst_case_of_the_cold_checks_decides_the_school()
    {
        Assert.Contains("not known yet", Words(_outside, new()), StringComparison.Ordinal);
        // 135 L/s of a hood in 300 m³ at ACH50 4: far beyond 4 Pa.
        var hood = With("steel", Cold(FlueFacts.ExhaustM3S, 0.135));
        Assert.Contains("A duct to the stove: with the fans on", Words(_outside, new(), hood), StringComparison.Ordinal);
        Assert.Contains("A vent that ends near the stove", Words(_outside, new(AirCollar: false), hood), StringComparison.Ordinal);
        // Nothing runs: the stove alone.
        Assert.Contains("From the room: ", Words(_outside, new(), With("steel", Cold(FlueFacts.ExhaustM3S, 0))), StringComparison.Ordinal);
        // A measured drop wins, and the stove's own air comes on top of it.
        var measured = _outside.Ask(new(), With("steel", Cold(FlueFacts.ExhaustM3S, 0.135), Cold(FlueFacts.RoomOffPa, -1), Cold(FlueFacts.RoomOnPa, -3))).Reckoned.WorstCase!;
        Assert.InRange(measured.FanPa, -3.5, -2.0);
        Assert.Contains("code asks for it", Words(_outside, new(CodeAsks: true)), StringComparison.Ordinal);
    }

    [Fact]
    public void Signs_decide_the_intake()
    {
        Assert.Equal(Condition.Sound, _outside.Ask(new(Signs: [])).Parts.Single().Condition);
        Assert.Equal(Condition.Wearing, _outside.Ask(new(Signs: ["lee"])).Parts.Single().Condition);
        Assert.Equal(Condition.Spent, _outside.Ask(new(Signs: ["lee", "blocked"])).Parts.Single().Condition);
        Assert.Empty(_outside.Ask(new()).Parts);
        Assert.Equal("yes", _outside.Facts(new(Signs: ["blocked"]), _outside.Ask(new(Signs: ["blocked"]))).Single(f => f.Name == AirFacts.IntakeBlocked).Word);
        // What is too small is brought along the next time.
        var small = new OutsideAir([new("back", 8, "wall")], "flex", 75);
        var facts = _outside.Facts(small, _outside.Ask(small)).ToArray();
        Assert.Contains(new AirPart().Van(Histories.At(Histories.Of(Histories.Visit(new(2026, 1, 1), facts)))), item => item.What.StartsWith("duct of 1", StringComparison.Ordinal));
        Assert.Empty(new AirPart().Van(Histories.At()));
    }

    [Fact]
    public void A_plate_goes_by_the_draft_at_high_fire()
    {
        Assert.Contains("the draft at high fire decides", Words(_dampers, new(Plate: true)), StringComparison.Ordinal);
        Assert.Equal(Condition.NotSeen, _dampers.Ask(new(Plate: true)).Parts.Single().Condition);
        var read = With("steel", new VisitFact("hot-test", "hot-draft", FlueFacts.DraftPa(FiringLevel.High), 22, null, new(10, 0)));
        Assert.Contains("Take the plate out", Words(_dampers, new(Plate: true), read), StringComparison.Ordinal);
        Assert.Equal(Condition.Spent, _dampers.Ask(new(Plate: true), read).Parts.Single().Condition);
        // The label of this stove ends at 28 Pa.
        Assert.Contains("control at the stove first", Words(_dampers, new(Plate: true, HighFireDraftPa: 33)), StringComparison.Ordinal);
        Assert.Contains("none is missed", Words(_dampers, new(Plate: false, HighFireDraftPa: 20)), StringComparison.Ordinal);
        Assert.Equal(Condition.Sound, _dampers.Ask(new(Plate: false)).Parts.Single().Condition);
        var kept = Words(_dampers, new(Plate: true, MakerAsks: true, HighFireDraftPa: 33));
        Assert.Contains("it stays", kept, StringComparison.Ordinal);
        Assert.DoesNotContain("Take the plate out", kept, StringComparison.Ordinal);
        Assert.Contains("set the plate by the gauge", kept, StringComparison.Ordinal);
    }

    [Fact]
    public void A_regulator_takes_room_air_until_the_draft_stands_where_it_is_set()
    {
        var at = With("steel");
        var none = _dampers.Ask(new(HighFireDraftPa: 18, RegulatorPa: 20), at);
        Assert.Equal(0, none.Regulator!.AirKgS);
        Assert.Contains("it stays shut", Histories.Words(none.Sentences), StringComparison.Ordinal);
        var held = _dampers.Ask(new(HighFireDraftPa: 34, RegulatorPa: 20), at);
        var (air, cooler) = (held.Regulator!.AirKgS, held.Regulator.GasAfterC);
        Assert.True(air > 0 && cooler < held.Regulator.GasBeforeC);
        // What it takes brings the model down by 14 Pa: put back into the flue's own reckoning as a leak it is the same air.
        var place = HotPlace.Of(at);
        var question = place.Question(new HotReading("high"), at.Day.Month);
        var expected = DraftAnswer.To(question, new EntryErrors())!.ExpectedPa;
        var restated = DraftAnswer.To(question with { Reading = new ReadingEntry(expected - 14) }, new EntryErrors())!;
        Assert.Equal(air, restated.Restated!.LeakKgS!.Value, 6);
        // Heat of that air: m cp ΔT, handbook 06 section 1.
        Assert.Equal(air * 1006 * (20 - Histories.House.MonthlyC[10]), held.Regulator.HeatW, 0);
        // More air for a lower mark, and then too cool for wood; coal is spared that sentence.
        Assert.True(_dampers.Ask(new(HighFireDraftPa: 34, RegulatorPa: 14), at).Regulator!.AirKgS > air);
        Assert.Contains("with wood this regulator makes tar", Words(_dampers, new(HighFireDraftPa: 40, RegulatorPa: 12), at), StringComparison.Ordinal);
        Assert.DoesNotContain("makes tar", Words(_dampers, new(HighFireDraftPa: 40, RegulatorPa: 12), With("multi-fuel")), StringComparison.Ordinal);
        Assert.Contains("less than the 12.0 Pa this stove needs", Words(_dampers, new(RegulatorPa: 8), at), StringComparison.Ordinal);
        Assert.Equal(Condition.Spent, _dampers.Ask(new(RegulatorPa: 20, RegulatorStiff: true), at).Parts.Single().Condition);
        var refused = new EntryErrors();
        Assert.Null(_dampers.Answer(new(RegulatorPa: 0), at, refused));
        Assert.Contains("between 1.0 and 100.0 Pa", refused.ByField["regulatorPa"][0], StringComparison.Ordinal);
    }

    [Fact]
    public void An_open_plate_costs_what_the_flue_gains_without_it()
    {
        var flue = Histories.Of().Flue;
        var first = flue.Flue.Segments![0];
        var withPlate = Histories.Of() with { Flue = flue with { Flue = flue.Flue with { Segments = [first with { Fittings = [.. first.Fittings ?? [], new("butterfly-open")] }, .. flue.Flue.Segments.Skip(1)] } } };
        Assert.InRange(_dampers.Ask(new(), Histories.At(withPlate)).PlateCostPa!.Value, 0.01, 1);
        Assert.Null(_dampers.Ask(new()).PlateCostPa);
    }

    [Fact]
    public void A_colder_place_wants_more_insulation()
    {
        double Insulation(double? designC) => _outside.Ask(new([new("back", 0.6, "wall"), new("left", 2.4, "outdoors")], DesignC: designC)).Reckoned.Insulation!.ThicknessMm;
        Assert.Equal(Insulation(-10), Insulation(null));
        Assert.True(Insulation(-25) > Insulation(-10));
        var refused = new EntryErrors();
        Assert.Null(_outside.Answer(new([new("back", 0.6)], DesignC: -400), Histories.At(), refused));
        Assert.Equal("designC", refused.ByField.Keys.Single());
    }

    [Fact]
    public void Controls_are_read_with_a_fire_at_each_position()
    {
        AirControls Read(double? open, double? shut, double? calm) => new([new("primary", Moves: "free", Closes: true, Readings: new Dictionary<string, FireAtPosition?> { ["open"] = new(open), ["closed"] = new(shut, calm) })]);
        var good = Words(_controls, Read(14, 17.5, 90));
        Assert.Contains("Primary shut: the flames follow within 90 s.", good, StringComparison.Ordinal);
        Assert.Contains("Primary: 14.0 Pa open, 17.5 Pa shut.", good, StringComparison.Ordinal);
        Assert.Contains("Primary shut: the flames take 121 s, longer than the 120 s they should", Words(_controls, Read(null, null, 121)), StringComparison.Ordinal);
        Assert.Contains("its slide does nothing", Words(_controls, Read(14, 14.4, null)), StringComparison.Ordinal);
        var refused = new EntryErrors();
        Assert.Null(_controls.Answer(new([new("primary", Readings: new Dictionary<string, FireAtPosition?> { ["ajar"] = new(), ["open"] = new(9000, -1) })]), Histories.At(), refused));
        Assert.Equal(["controls[0].readings.ajar", "controls[0].readings.open.calmS", "controls[0].readings.open.draftPa"], refused.ByField.Keys.Order());
        Assert.Equal("hot-test", _controls.AgainIn);
    }

    [Fact]
    public void Three_elbows_behind_an_oven_smoke_and_bends_are_counted_by_the_drawing()
    {
        Assert.Contains("three elbows and more make it smoke", Words(_dampers, new(Elbows90: 3), With("cookstove")), StringComparison.Ordinal);
        Assert.Null(_dampers.Ask(new()).Reckoned.Oven);
        Assert.True(new FlueBends(0, 0, 3, 4).ShortEnough);
        Assert.False(new FlueBends(0, 0, 3.1, 4).ShortEnough);
        Assert.Contains("Crimps point down", Words(_dampers, new(Signs: ["crimps-up"])), StringComparison.Ordinal);
        // P04: a 90° elbow, 0.6 m aside.
        var p04 = FlueBends.Of(FlueReading.Read(Grate.Core.Tests.Flue.Flues.P04, new EntryErrors(), new Assumptions())!);
        Assert.Equal((1, 0, 0.6), (p04.Bends90, p04.Bends45, Math.Round(p04.LevelM, 6)));
    }

    [Fact]
    public void Wood_takes_its_air_from_above_and_coal_from_below()
    {
        var look = new AirControls([new("primary", Moves: "free", Closes: true), new("grate", "riddling rod", Moves: "stiff", Closes: false)]);
        var both = _controls.Ask(look, With("multi-fuel"));
        Assert.Equal([(ControlPosition.Half, ControlPosition.Half), (ControlPosition.Closed, ControlPosition.Open)], both.Settings.Select(s => (s.Wood, s.Coal!.Value)));
        Assert.Equal(Condition.Wearing, both.Parts.Single().Condition);
        Assert.Contains("Grate or ash door (riddling rod) is stiff", Histories.Words(both.Sentences), StringComparison.Ordinal);
        Assert.Null(_controls.Ask(look).Settings[0].Coal);
        // The household's own setting stands over the usual one.
        Assert.Equal(ControlPosition.Open, _controls.Ask(new([new("primary", Wood: "open")])).Settings[0].Wood);
        Assert.Equal(Condition.Spent, _controls.Ask(new([new("primary", Moves: "stuck")])).Parts.Single().Condition);
        Assert.Empty(_controls.Ask(new([new("primary")])).Parts);
        // The closed-air test is judged by what was tried.
        Assert.Equal("no", _controls.Facts(look, both).Single(f => f.Name == AirFacts.ClosesFully).Word);
        var shut = new ClosedAirStation().Ask(new ClosedAirTest(CollapseS: 200), With("multi-fuel", new VisitFact("cold-checks", "air-controls", AirFacts.ClosesFully, null, "no", new(9, 0))));
        Assert.False(shut.ClosesFully);
        var refused = new EntryErrors();
        Assert.Null(_controls.Answer(new([new("choke", TravelMm: 900, Moves: "jumps")]), Histories.At(), refused));
        Assert.Equal(["controls[0].kind", "controls[0].moves", "controls[0].travelMm"], refused.ByField.Keys.Order());
    }

    // −1 Pa of this visit less −3 Pa of another is no drop of this house.
    [Fact]
    public void Room_pressures_of_two_visits_are_not_subtracted()
    {
        EarlierVisit Before(params Fact[] facts) => Histories.Visit(new(2025, 10, 1), facts);
        VisitContext At(params EarlierVisit[] earlier) => Histories.At(Histories.Of(earlier) with { House = Histories.House with { VolumeM3 = null } }, [new("cold-checks", "cold-flue", FlueFacts.RoomOffPa, -1, null, new(9, 0))]);
        Assert.Null(_outside.Ask(new(), At(Before(new Fact(FlueFacts.RoomOnPa, -3)))).Reckoned.WorstCase);
        Assert.Equal(-4, _outside.Ask(new(), At(Before(new(FlueFacts.RoomOffPa, -2), new(FlueFacts.RoomOnPa, -6)))).Reckoned.WorstCase!.FanPa);
    }
}
