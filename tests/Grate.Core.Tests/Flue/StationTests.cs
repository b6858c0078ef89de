using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Flue;

/// <summary>Cold checks, top of the chimney, worst case, and what all tests say together.</summary>
public class StationTests
{
    private static readonly double[] _valley = [-2, 0, 4, 8, 13, 16, 18, 17, 14, 9, 3, -1];
    private static readonly HouseAir _house = new(300, 4, null, 0, 5, 1.0);
    private static readonly HotPlace _place = new(Flues.P01(), 0, _valley, 12, 25, _house);

    private static ColdChecksAnswer Cold(ColdChecks checks, HotPlace? place = null, UnitSystem system = UnitSystem.Metric)
    {
        var errors = new EntryErrors();
        var answer = ColdChecksAnswer.To(checks, place ?? _place, 4, errors, system);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    private static string Words(IEnumerable<Sentence> sentences) => string.Join(" ", sentences.Select(s => s.ToString()));

    // Handbook 01, section 8's worked house, fan by fan: hood 120 L/s alone −10.4 − 1.3 Pa.
    [Fact]
    public void Fans_go_on_one_by_one()
    {
        var answer = Cold(new ColdChecks(OutdoorC: 0, Fans: [new("hood", 0.120), new("bath", null)]));
        Assert.Equal(-11.7, answer.FansOneByOne[0].RoomPa, 1);
        Assert.Equal(0.025, answer.FansOneByOne[1].FlowM3S);
        Assert.True(answer.FansOneByOne[1].RoomPa < answer.FansOneByOne[0].RoomPa);
        Assert.Equal(answer.House!.TotalPa, answer.FansOneByOne[1].RoomPa, 12);
        Assert.Contains("With all 2 fans on", Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Contains("makeup air", Words(answer.Sentences), StringComparison.Ordinal);
        Assert.Contains("cfm", Words(Cold(new ColdChecks(OutdoorC: 0, Fans: [new("hood", 0.120)]), system: UnitSystem.Us).Sentences), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData(9, 4)]
    [InlineData(6, 2)]
    [InlineData(3, 0)]
    public void Limit_is_four_pascal_or_what_low_fire_leaves(double lowFire, double limit) => Assert.Equal(limit, HouseAir.LimitPa(lowFire));

    [Fact]
    public void House_without_a_volume_is_measured_only()
    {
        var answer = Cold(new ColdChecks(OutdoorC: 5, RoomOffPa: -1, RoomOnPa: -7), _place with { House = _house with { VolumeM3 = null } });
        Assert.Null(answer.House);
        Assert.Contains("the room falls by 6.0 Pa", Words(answer.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void What_is_seen_is_held_against_what_was_to_be_expected()
    {
        var plug = new ColdChecks(OutdoorC: 12, OvernightLowC: 5, RoomOffPa: -1.5, AirFall: "rises");
        Assert.Equal(-2.5, Cold(plug).Start.ColdDraftPa, 1);
        Assert.Contains("The air rises although a plug", Words(Cold(plug).Sentences), StringComparison.Ordinal);
        Assert.Contains("the house, a fan or another chimney pulls on it", Words(Cold(new ColdChecks(OutdoorC: -10, AirFall: "falls")).Sentences), StringComparison.Ordinal);
        Assert.Contains("well below that", Words(Cold(new ColdChecks(OutdoorC: 5, ColdDraftPa: -6)).Sentences), StringComparison.Ordinal);
        Assert.Contains("the plug is there, as computed", Words(Cold(plug with { ColdDraftPa = -2 }).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Bad_cold_entries_carry_the_fields_of_the_screen()
    {
        var errors = new EntryErrors();
        Assert.Null(ColdChecksAnswer.To(new ColdChecks(99, 80, 70, "sinks", 999, "petrol", [new("kettle"), new("hood", 9)], 7, 99, 99), _place, 4, errors, UnitSystem.Metric));
        Assert.Equal(["airFall", "coldDraftPa", "fans[0].kind", "fans[1].flowM3S", "outdoorC", "overnightLowC", "roomOffPa", "roomOnPa", "source", "supplyM3S"],
            errors.ByField.Keys.Where(k => k is not ("roomC" or "housePa")).Order());
    }

    [Theory]
    [InlineData(-1.0, -4.9, 20.0, 17.0, 3.9, false, false)]
    [InlineData(-1.0, -5.0, 20.0, 17.0, 4.0, true, false)]
    [InlineData(null, null, 20.0, 15.0, 5.0, true, false)]
    [InlineData(-1.0, -3.0, 4.0, -0.5, 4.5, true, true)]
    public void Worst_case_of_four_values(double? roomOff, double? roomOn, double? draftOff, double? draftOn, double drop, bool trouble, bool reversed)
    {
        var worst = new WorstCase(roomOff, roomOn, draftOff, draftOn);
        Assert.Equal(drop, worst.DropPa!.Value, 9);
        Assert.Equal((trouble, reversed), (worst.Trouble, worst.Reversed));
        Assert.Equal(reversed, Words(worst.Words(UnitSystem.Metric)).Contains("No fire", StringComparison.Ordinal));
    }

    [Fact]
    public void Top_is_judged_by_what_was_measured_and_seen()
    {
        var read = FlueReading.Read(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1.2), Flues.Segment("insulated-50", "outdoor", 6.2)),
            new EntryErrors(), new Assumptions())!;
        var layout = FlueLayout.Of(read, new StovePlace(2, 0.8), new HouseOutline(8, 5, 45, 0, []));
        TopCheckAnswer Ask(TopCheck check) => TopCheckAnswer.To(check, layout, new EntryErrors(), UnitSystem.Metric)!;
        Assert.Contains("1.40 m too low", Words(Ask(new TopCheck()).Sentences), StringComparison.Ordinal);
        Assert.True(Ask(new TopCheck()).Bad);
        var tall = Ask(new TopCheck(AboveRoofM: 2.5));
        Assert.Equal(0, tall.Rules!.MissingM);
        Assert.All(tall.Rules.Rules.Where(r => r.Rule.StartsWith("above", StringComparison.Ordinal)), r => Assert.True(r.Ok));
        Assert.False(tall.Bad);
        Assert.True(Ask(new TopCheck(2.5, ScreenCloggedShare: 0.25)).Bad);
        Assert.False(Ask(new TopCheck(2.5, ScreenCloggedShare: 0.24)).Bad);
        Assert.Contains("25.0 Pa off the draft", Words(Ask(new TopCheck(2.5, Exposed: true)).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void A_roof_that_was_never_measured_condemns_no_top()
    {
        var history = Histories.Of() with { House = Histories.House with { StoreyNames = ["living room"], StoreyHeightsM = [2.2], RoofPitchDeg = 20 } };
        var (drawn, usual) = (FlueLayout.Of(history), FlueLayout.Of(history with { Assumed = ["roofPitchDeg", "year"] }));
        Assert.Equal((false, true, false), (drawn.AsUsual, usual.AsUsual, FlueLayout.Of(history with { Assumed = ["year", "nominalKw"] }).AsUsual));
        var low = usual with { Top = usual.Top!.At(0.2) };
        TopCheckAnswer Ask(TopCheck check) => TopCheckAnswer.To(check, low, new EntryErrors(), UnitSystem.Metric)!;
        Assert.Contains("as usually built, not measured", Words(Ask(new()).Sentences), StringComparison.Ordinal);
        Assert.False(Ask(new()).Bad);
        // Measured, it counts; the roof that it is held against is named for what it is.
        Assert.True(Ask(new(0.2)).Bad);
        Assert.Contains("the roof as usually built", Words(Ask(new(0.2)).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void A_gain_with_nothing_missing_names_and_clears_nobody()
    {
        // P01 expects 26.6 Pa: 27 are there.
        var sound = Weigh(new([At(27)], Window: new("normal", 29.5)));
        Assert.Equal((SuspectState.Open, SuspectState.Open, SuspectState.Open), (sound.House.State, sound.Blockage.State, sound.Leak.State));
    }

    private static HotEvidence Weigh(HotTest test, Func<string, Condition?>? conditionOf = null, double? roomOff = null, double? roomOn = null, bool topBad = false)
    {
        var answers = test.Readings.Where(r => r.DraftPa is not null).ToDictionary(r => Word.Find<FiringLevel>(r.Level)!.Value, r => _place.Answer(r, 4, new EntryErrors(), UnitSystem.Metric)!);
        return HotEvidence.Of(test, answers, roomOff, roomOn, topBad, conditionOf ?? (_ => null), UnitSystem.Metric);
    }

    // P01 expects 26.6 Pa at 5 °C outdoors: 14 Pa are missing at 12.6.
    private static HotReading At(double draft, string level = "normal", double? house = null) =>
        new(level, draft, level == "high" ? 350 : 250, OutdoorC: 5, RoomC: 20, HousePa: house, HouseMeasured: house is null ? null : true, BurnKgH: level == "high" ? 3.5 : 2.0);

    [Fact]
    public void Window_that_brings_the_draft_back_names_the_house_and_clears_the_rest()
    {
        var evidence = Weigh(new HotTest([At(12.6)], Window: new WindowTest("normal", 25)));
        Assert.Equal(SuspectState.Named, evidence.House.State);
        Assert.Equal((SuspectState.RuledOut, SuspectState.RuledOut), (evidence.Blockage.State, evidence.Leak.State));
        Assert.Contains("It is the house", Words(evidence.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Window_that_changes_nothing_clears_the_house()
    {
        var evidence = Weigh(new HotTest([At(12.6)], Window: new WindowTest("normal", 13)));
        Assert.Equal(SuspectState.RuledOut, evidence.House.State);
        Assert.Contains("That leaves a blockage or a leak", Words(evidence.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Window_that_brings_half_back_leaves_the_house_a_part()
    {
        var evidence = Weigh(new HotTest([At(12.6)], Window: new WindowTest("normal", 19.6)));
        Assert.Equal(SuspectState.Open, evidence.House.State);
        Assert.Contains("a part of it", evidence.House.Why, StringComparison.Ordinal);
    }

    // The room was measured: the reading is as expected for it, and the window still shows that the house takes the draft.
    [Fact]
    public void Measured_house_is_named_by_the_window_though_the_reading_is_as_expected()
    {
        var evidence = Weigh(new HotTest([At(16, house: -10)], Window: new WindowTest("normal", 26)));
        Assert.Equal(SuspectState.Named, evidence.House.State);
    }

    [Fact]
    public void Fans_test_names_the_house()
    {
        Assert.Equal(SuspectState.Named, Weigh(new HotTest([At(12.6)], Fans: new WorstCase(-1, -10, 25, 13))).House.State);
        Assert.Equal(SuspectState.Named, Weigh(new HotTest([At(12.6)]), roomOff: -1, roomOn: -13).House.State);
        // 9 of the 14 that are missing are a part, not all.
        Assert.Equal(SuspectState.Open, Weigh(new HotTest([At(12.6)]), roomOff: -1, roomOn: -10).House.State);
        Assert.Equal(SuspectState.Open, Weigh(new HotTest([At(12.6)], Fans: new WorstCase(-1, -2, 22, 21.5))).House.State);
    }

    [Fact]
    public void Missing_draft_that_grows_with_the_fire_is_a_blockage_and_one_that_does_not_is_none()
    {
        // What a section closed by 91 % takes, by the model's own heads.
        var zeta = DraftMeaning.BlockageZeta(0.91);
        double Clean(HotReading r) => _place.Answer(r, 4, new EntryErrors(), UnitSystem.Metric)!.ExpectedPa;
        double Taken(HotReading r)
        {
            var read = DraftCase.Read(_place.Question(r, 4), new EntryErrors(), new Assumptions())!;
            return zeta * DraftModel.Expect(read.Flue, read.Fire, read.Air).March.CollarHeadPa;
        }
        HotReading Blocked(HotReading r) => r with { DraftPa = Clean(r) - Taken(r) };
        Assert.Equal(SuspectState.Named, Weigh(new HotTest([Blocked(At(0)), Blocked(At(0, "high"))])).Blockage.State);
        Assert.Equal(SuspectState.RuledOut, Weigh(new HotTest([At(Clean(At(0)) - 12), At(Clean(At(0, "high")) - 12, "high")])).Blockage.State);
        Assert.Contains("as it should", Weigh(new HotTest([At(Clean(At(0, "high")), "high")])).Blockage.Why, StringComparison.Ordinal);
    }

    [Fact]
    public void Parts_found_bad_today_are_named()
    {
        var evidence = Weigh(new HotTest([At(12.6)]), part => part == "cap" ? Condition.Spent : part == "clean-out" ? Condition.Unsafe : null);
        Assert.Equal((SuspectState.Named, SuspectState.Named), (evidence.Blockage.State, evidence.Leak.State));
        Assert.Contains("Cap was found spent.", Words(evidence.Sentences), StringComparison.Ordinal);
        Assert.Contains("Clean out was found unsafe.", Words(evidence.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Unsteady_run_points_at_the_top()
    {
        var gusty = new Steadiness(14, 8, 20, 3, 6, 0.43, 240, 60, true);
        Assert.Contains("unsteady: it swings by ±43 %", Words(Weigh(new HotTest([At(14) with { Run = gusty }])).Sentences), StringComparison.Ordinal);
        Assert.Contains("the top stands badly", Words(Weigh(new HotTest([At(14) with { Run = gusty }]), topBad: true).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Explanations_carry_what_the_tests_said()
    {
        var test = new HotTest([At(12.6)], Window: new WindowTest("normal", 25));
        var reckoning = DraftReckoning.Of(_place.Answer(At(12.6), 4, new EntryErrors(), UnitSystem.Metric)!, 12.6, FiringLevel.Normal, null, Weigh(test), UnitSystem.Metric);
        Assert.Equal([SuspectState.RuledOut, SuspectState.RuledOut, SuspectState.Named], reckoning.Explanations.Select(e => e.State));
        Assert.Null(reckoning.NextTest);
        Assert.Contains("It is the house", reckoning.Explanations[2].Test, StringComparison.Ordinal);
    }

    [Fact]
    public void Any_draft_below_nothing_is_a_stop()
    {
        static string[] Where(HotTest test) => [.. new HotDraftStation().Stops(test, null!).Where(s => s.Code == HotDraftStation.Spillage).SelectMany(s => s.Where!)];
        Assert.Equal(["with the window open"], Where(new HotTest([], Window: new WindowTest("low", -0.1))));
        Assert.Equal(["with the fans on"], Where(new HotTest([], Fans: new WorstCase(DraftOnPa: -0.1))));
        Assert.Equal(["at normal fire", "with the air closed"], Where(new HotTest([At(-2)], Controls: [new ControlReading("closed", -0.1)])));
        var good = new HotTest([At(0)], CoPpm: 34, Fans: new WorstCase(-5, -9, 1, 0));
        Assert.Empty(Where(good));
        // The same numbers have passed the re-tests; a missing one has passed none.
        Assert.Equal(["room-co", "spillage: at normal fire, before the fans, with the fans on"],
            new HotDraftStation().Passed(good, null!).Select(p => p.Code + (p.Where is null ? "" : $": {string.Join(", ", p.Where)}")));
        Assert.Empty(new HotDraftStation().Passed(new HotTest([]), null!));
    }

    [Fact]
    public void Hot_test_refuses_doubles_and_unknown_words()
    {
        var errors = new EntryErrors();
        new HotTest([At(1), At(2)], 9999, new WindowTest("warm", 999), new WorstCase(DraftOnPa: 999), [new("ajar"), new("open", 999), new("open")]).Check(errors);
        Assert.Equal(["coPpm", "controls", "controls.open", "fans.draftOnPa", "readings", "window.draftPa", "window.level"], errors.ByField.Keys.Order());
    }
}
