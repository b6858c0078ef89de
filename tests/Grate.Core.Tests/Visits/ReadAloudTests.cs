using Grate.Core.Air;
using Grate.Core.Burning;
using Grate.Core.Clearances;
using Grate.Core.Combustor;
using Grate.Core.Deposits;
using Grate.Core.Door;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Household;

namespace Grate.Core.Tests.Visits;

/// <summary>Whole reckonings read aloud: no sentence contradicts its neighbour, whatever is wrong at once.</summary>
public class ReadAloudTests
{
    private static readonly ColdStation _cold = new();
    private static readonly HotDraftStation _hot = new();
    private static readonly DepositsStation _deposits = new();
    private static readonly WoodStation _wood = new();

    private static HotReading At(double? draft, double? house = null) =>
        new("normal", draft, 250, OutdoorC: 5, RoomC: 20, HousePa: house, HouseMeasured: house is null ? null : true);

    private static IReadOnlyList<Sentence> Glaze(StoveHistory? history = null) =>
        _deposits.Ask(new SweepRecord(Found: new Dictionary<string, DepositEntry?> { ["segment 2"] = new(3, 4, 7) }), Histories.At(history)).Sentences;

    private static readonly string[] _round = ["hinge-bottom", "hinge-1", "hinge-2", "hinge-top", "top-1", "top-2", "latch-top", "latch-1", "latch-2", "latch-3", "latch-bottom", "bottom-1", "bottom-2"];

    // One grade a point, from the foot of the hinge side up and round.
    private static StripTestAnswer Strips(string grades, string? rope = null, bool? latchAtEnd = null, IReadOnlyList<VisitFact>? facts = null) =>
        new StripStation(SealPlace.Door).Ask(new StripTest(Grades: grades.Select((g, i) => (_round[i], g)).ToDictionary(g => g.Item1, g => (double?)(g.g - '0')), Rope: rope, LatchAtEnd: latchAtEnd), Histories.At(facts: facts));

    private static ClosedAirTestAnswer Shut(ClosedAirTest test, double? stripShare) => new ClosedAirStation().Ask(test, Histories.At(facts:
        stripShare is null ? null : [new VisitFact("cold-checks", "door-strips", DoorFacts.StripShare(), stripShare, null, new(9, 0))]));

    private static DoorLookAnswer Look(DoorLook look) => new DoorLookStation().Ask(look);

    private static SealsRecord Sealed(SealRecord door) => new(new Dictionary<string, SealRecord?> { ["door"] = door });

    private static SealsAnswer Seals(SealsRecord record) => new SealsStation().Ask(record);

    // What is entered; a sentence that must be said; sentences that would contradict it.
    private static readonly Dictionary<string, (Func<IReadOnlyList<Sentence>> Said, string Wanted, string[] Unwanted)> _cases = new()
    {
        ["air falls in a flue that should pull"] = (() => _cold.Ask(new ColdChecks(OutdoorC: -10, AirFall: "falls")).Sentences, "The air falls", ["It pulls by itself", "light from the top"]),
        ["plug, measured"] = (() => _cold.Ask(new ColdChecks(OutdoorC: 12, OvernightLowC: 5, RoomOffPa: -1.5, ColdDraftPa: -2)).Sentences, "the plug is there", ["as it should"]),
        ["no pressure entered"] = (() => _cold.Ask(new ColdChecks(OutdoorC: 5, RoomOnPa: -6)).Sentences, "Cold, this flue should stand at", ["the pressure entered"]),
        ["window without effect, fans with one"] = (() => _hot.Ask(new HotTest([At(9)], Window: new WindowTest("normal", 9.2), Fans: new WorstCase(-1, -8, 9, 4))).Sentences,
            "it is not the house", ["The house is the trouble", "It is the house"]),
        ["fans turn the draft although the window did nothing"] = (() => _hot.Ask(new HotTest([At(9)], Window: new WindowTest("normal", 9.2), Fans: new WorstCase(-1, -12, 4, -3))).Sentences,
            "With the fans on the draft turned", ["not today's trouble"]),
        ["reversed, with carbon monoxide"] = (() => _hot.Ask(new HotTest([At(-3)], CoPpm: 152)).Sentences, "smoke and carbon monoxide come into the room", ["more than it should", "misplaced probe"]),
        ["nothing measured"] = (() => _hot.Ask(new HotTest([At(null)])).Sentences, "This flue should pull", ["you read", "missing", "as it should"]),
        ["everything wrong at once"] = (() => _hot.Ask(new HotTest([At(-3, -15)], CoPpm: 500, Window: new WindowTest("normal", -3), Fans: new WorstCase(-1, -12, 4, -3),
            Controls: [new ControlReading("open", 2, "out of the door")])).Sentences, "Everybody out", ["more than it should", "It is the house", "not today's trouble", "The draft goes with it"]),
        ["glaze"] = (() => Glaze(), "no fire until it is treated", ["Sweep again by", "is due by"]),
        ["glaze after a sweep in time"] = (() => Glaze(Histories.Of(Histories.Swept(new DateOnly(2025, 11, 1), 2, 0))), "no fire until it is treated", ["Sweep again by", "is due by"]),
        ["doubtful on the dry basis"] = (() => _wood.Ask(new WoodRecord(Pieces: [[0.25]], MeterBasis: "dry")).Sentences, "On the dry basis that the meter shows the mean is 25 %", ["too wet"]),
        ["wet on the wet basis"] = (() => _wood.Ask(new WoodRecord(Pieces: [[0.30]], MeterBasis: "wet")).Sentences, "On the wet basis that the meter shows the mean is 30 %", ["doubtful", "20 %"]),
        ["door tight"] = (() => Strips("3333333333333").Sentences, "the door is tight all round", ["weak", "leaks", "slides", "No strip"]),
        ["nothing taken out"] = (() => new StripDownStation().Ask(new()).Sentences, "Tap the parts", ["Everything is back", "No fire"]),
        ["parts out, ordered and back at once"] = (() => new StripDownStation().Ask(new([new("baffle", Count: 4), new("combustor", Ordered: true), new("probe", Back: true)])).Sentences,
            "Out, and not back: baffle. No fire until it is.", ["Everything is back", "they are"]),
        ["a clip too few"] = (() => new StripDownStation().Ask(new([new("air tubes", "clips", 4, Back: true, CountIn: 3)])).Sentences, "find what is missing", ["as well", "No fire"]),
        ["no brick looked at"] = (() => new LiningStation().Ask(new()).Sentences, "Tap a brick", ["sound", "no fire", "renew them"]),
        ["bricks missing, thin and sound at once"] = (() => new LiningStation().Ask(new(Bricks: new Dictionary<string, BrickMark?> { ["floor-1"] = new("missing"), ["back-1"] = new("worn", LostMm: 20), ["left-1"] = new("sound") })).Sentences,
            "missing, or steel is visible", ["Every brick is sound", "are sound", "they stay"]),
        ["baffle of no kind"] = (() => new BaffleStation().Ask(new(DeflectionMm: 5, SpanMm: 400)).Sentences, "What the baffle is made of decides", ["sag", "sound", "renew"]),
        ["baffle missing, sagging and turned over"] = (() => new BaffleStation().Ask(new("dense-slab", 30, 400, 12, ["missing", "debris-on-top"], true)).Sentences, "no fire", ["sound", "Look again", "may be turned over"]),
        ["baffle sound with debris"] = (() => new BaffleStation().Ask(new("cast", Signs: ["debris-on-top"])).Sentences, "Take off what lies on top", ["renew", "no fire"]),
        ["everything wrong at the air tubes"] = (() => new TubesStation().Ask(new(Blocked: [20, 20, 20, 20], Signs: ["burnt-through", "sagging", "clip-missing"], AirWash: "blocked", FloorAir: "blocked")).Sentences, "burnt through: renew it", ["ways of the air are free", "whole and free"]),
        ["nothing looked at inside"] = (() => new TubesStation().Ask(new()).Sentences, "Count the blocked holes", ["whole and free", "are free"]),
        ["combustor not held to a lamp"] = (() => new CombustorStation().Ask(new()).Sentences, "Hold it to a lamp", ["lets light through", "It costs", "are left"]),
        ["combustor by its photograph alone"] = (() => new CombustorStation().Ask(new(Light: new(DarkShare: 0.4, LowShare: 0.38, HighShare: 0.43))).Sentences, "By the photograph 40 % of the cells are dark: 38 % to 43 % with the doubtful ones.", ["do not agree", "Hold it to a lamp"]),
        ["brush against photograph"] = (() => new CombustorStation().Ask(new(Dark: [], Light: new(DarkShare: 0.4, LowShare: 0.38, HighShare: 0.43))).Sentences, "Painted are 0 %: brush and photograph do not agree", ["It costs 5"]),
        ["everything wrong at the combustor"] = (() => new CombustorStation().Ask(new(Dark: [.. Enumerable.Range(0, 72)], Broken: [.. Enumerable.Range(0, 72)], Colour: "black", Signs: ["piece-missing", "crack-through"])).Sentences, "A piece of the combustor is missing", ["lets light through", "clean it cold", "∞", "NaN"]),
        ["light-off not begun"] = (() => new LightOffStation().Ask(new()).Sentences, "Bypass open until", ["lights off:", "does not light off"]),
        ["closed too early and never climbing"] = (() => new LightOffStation().Ask(new([new(0, 200), new(12, 190)])).Sentences, "repeat, it is free", ["cells blocked", "does not light off"]),
        ["no good fire"] = (() => new LightOffStation().Ask(new([new(0, 300), new(12, 290)], false)).Sentences, "nothing is judged", ["cells blocked", "It lights off"]),
        ["bypass that will not lock"] = (() => new BypassStation().Ask(new(["will-not-lock", "build-up"])).Sentences, "in that order", ["travels, locks and sits"]),
        ["thermostat that never answers"] = (() => new ThermostatStation().Ask(new([], 600, 600)).Sentences, "the whole unit is replaced", ["moves free"]),
        ["nothing pulled"] = (() => Strips("", latchAtEnd: true).Sentences, "13 points round this door", ["tight", "draw the latch"]),
        ["tight so far"] = (() => Strips("33").Sentences, "Every strip so far drags or holds", ["tight all round"]),
        ["weak all round, springy"] = (() => Strips("1111111111111").Sentences, "draw the latch in half a turn", ["new rope", "hinge is worn"]),
        ["everything wrong at the door"] = (() => Strips("0000000000000", "hard", true).Sentences, "The latch is at the end of its travel: new rope", ["draw the latch", "springy", "alone: look"]),
        ["latch side weak, rope flat"] = (() => Strips("3333333000333", "flattened").Sentences, "The rope is flat where it is weak: new rope", ["half a turn"]),
        ["one point, no side"] = (() => Strips("3133333333333").Sentences, "look at the rope and its joint there", ["new rope", "warped"]),
        ["leak without a draft"] = (() => Strips("0333333333333", facts: [new("hot-test", "hot-draft", "hot.low.draft-pa", -2, null, new(11, 0))]).Sentences, "With no draft nothing is drawn", ["still feeds"]),
        ["burns on, door tight"] = (() => Shut(new(true, 400, 5), 0).Sentences, "it burns on", ["can be turned down", "of the door's round leaking"]),
        ["burns on and does not come back"] = (() => Shut(new(true, 400, 60), 0.3).Sentences, "it burns on", ["can be turned down", "this door tight"]),
        ["shut in time, slow to come back"] = (() => Shut(new(true, 60, 60), null).Sentences, "look at the intake", ["doubtful", "burns on"]),
        ["slow blue flames"] = (() => Shut(new(null, 200, 5), null).Sentences, "down to slow blue ones", ["doubtful"]),
        ["nothing watched"] = (() => Shut(new(), null).Sentences, "shut every air control", ["can be turned down", "burns on"]),
        ["door not looked at"] = (() => Look(new()).Sentences, "what is seen decides", ["sound", "renew", "no fire"]),
        ["door looked at, nothing seen"] = (() => Look(new("springy", [], "left", "none", [])).Sentences, "sits firm", ["renew", "mend", "no fire"]),
        ["everything to be seen at the door"] = (() => Look(new("hard", ["gap", "thin", "loose-end", "no-cement"], "will-not-latch", "sags", ["moves", "cracked", "chipped", "crazed", "fogged", "black-corner", "black-side"])).Sentences,
            "The glass is cracked: no fire", ["sound", "is normal", "springy", "travel left"]),
        ["no seal measured"] = (() => Seals(new()).Sentences, "Width and depth of a channel choose its rope", ["cement", "no common size", "is out"]),
        ["channel that no common size suits"] = (() => Seals(Sealed(new(WidthMm: 2, DepthMm: 40))).Sentences, "no common size suits this channel; measure the old rope", ["to cut", "cement"]),
        ["the same, with the old rope"] = (() => Seals(Sealed(new(WidthMm: 2, DepthMm: 9, OldMm: 12, LineM: 1.72))).Sentences, "Door: rope of 12 mm, 1.78 m to cut. It stands 3 mm proud", ["no common size", "still to be measured"]),
        ["door out, in the midst of the work"] = (() => Seals(Sealed(new(10, 6, LineM: 1.72, Done: ["off", "bare"]))).Sentences, "it is out, and not back", ["let out a turn", "is cured"]),
        ["door back with new rope"] = (() => Seals(Sealed(new(10, 6, LineM: 1.72, Done: ["off", "bare", "dry-laid", "laid", "trimmed", "refitted"]))).Sentences, "let out a turn", ["not back", "No fire"]),
        ["no duct, nothing known of the house"] = (() => new OutsideAirStation().Ask(new()).Sentences, "not known yet", ["within the", "A duct of", "is recommended"]),
        ["everything wrong with the duct"] = (() => new OutsideAirStation().Ask(new([new("back", 0.5, "wall"), new("up", 3, "outdoors")], "flex", 75, 100, false, Hood: true, Screen: "insect-dirty", InsulationMm: 0, CodeAsks: true,
            Signs: ["blocked", "leaves", "snow", "lee", "exhaust", "fire-chamber", "light-hose", "valve-out-of-reach"])).Sentences, "The intake is covered", ["and no code asks", "within the 4.0 Pa", "∞", "NaN"]),
        ["no size will do"] = (() => new OutsideAirStation().Ask(new([new("back", 20, "wall"), new("left", 20, "outdoors"), new("back", 9)], "flex", Bends45: 20, Screen: "insect-dirty"), Histories.At(Histories.Of() with { Stove = Histories.Stove with { NominalKw = 25 } })).Sentences, "No size up to 150 mm", ["within the 4.0 Pa it may", "is the smallest"]),
        ["plate, reversed draft"] = (() => new DamperStation().Ask(new(Plate: true, HighFireDraftPa: -4)).Sentences, "Take the plate out", ["control at the stove", "it stays", "none is missed"]),
        ["plate that the maker asks for, and far too much draft"] = (() => new DamperStation().Ask(new(true, true, 60, Signs: ["few-screws", "crimps-up", "seams-down", "clean-out", "thimble"])).Sentences, "set the plate by the gauge", ["Take the plate out", "nothing left to damp"]),
        ["controls not tried"] = (() => new AirControlsStation().Ask(new([new("primary"), new("secondary")])).Sentences, "Wood, once it burns", ["moves free", "is stuck", "Coal"]),
        ["every control stuck and open"] = (() => new AirControlsStation().Ask(new([new("primary", Moves: "stuck", Closes: false), new("grate", Moves: "stuck", Closes: false)])).Sentences, "nobody can turn this fire down", ["moves free and closes", "is stiff"]),
        ["nothing measured round the stove"] = (() => new RoomPlanStation().Ask(new()).Sentences, "each with its distance", ["enough", "missing", "no fire"]),
        ["too near, scorched, and another far enough"] = (() => new RoomPlanStation().Ask(new([new("wall", "back", FoundMm: 100, Scorched: true), new("shelf", "above", FoundMm: 2000)])).Sentences, "scorched: no fire", ["Every distance", "It would do behind"]),
        ["no hearth listed"] = (() => new HearthStation().Ask(new()).Sentences, "List its layers from below", ["lacks", "are missing", "and does"]),
        ["hearth of nothing, far too short"] = (() => new HearthStation().Ask(new([], 0.3, Found: new(0, 0, 0))).Sentences, "are missing", ["and does", "asked for are there"]),
        ["surfaces not read"] = (() => new SurfacesStation().Ask(new()).Sentences, "read each with the infrared gauge", ["stays within", "As read"]),
        ["one surface far too hot, one cold"] = (() => new SurfacesStation().Ask(new(20, GasNowC: 150, Spots: [new("mantel", 90), new("floor", 21)])).Sentences, "no fire until then", ["Every surface stays within", "no high fire"]),
        ["a hearth that is short does not hold for now"] = (() => new AgreeStation().Ask(new Agreement(NobodyAtHome: true), Histories.At(found:
            [new("arrive", "clearances", Condition.Spent), new("arrive", "hearth", Condition.Spent), new("hot-test", "surfaces", Condition.Unsafe)])).Sentences, "It is to be put right", ["holds for now", "wearing", "has done its time"]),
        ["draft above the label"] = (() => new AgreeStation().Ask(new Agreement(NobodyAtHome: true), Histories.At(facts: [new VisitFact("hot-test", "hot-draft", FlueFacts.Verdict(FiringLevel.High), null, "as-expected-too-strong", new(9, 0))],
            found: [new("hot-test", "draft", Condition.Spent)])).Sentences, "it pulls too hard", ["holds for now", "too weakly"]),
        ["nothing was looked at"] = (() => new AgreeStation().Ask(new Agreement(NobodyAtHome: true), Histories.At(found:
            [new("sweep", "flue", Condition.NotSeen), new("cold-checks", "latch", Condition.NotSeen)])).Sentences, "Not checked: flue, door, draft.", ["found sound"]),
        ["worn at the cold checks, not seen when put back"] = (() => new AgreeStation().Ask(new Agreement(NobodyAtHome: true), Histories.At(found:
            [new("cold-checks", "door-rope", Condition.Wearing), new("back-together", "door-rope", Condition.NotSeen)])).Sentences, "Door rope: wearing", ["Not seen this time", "found sound"]),
        ["by hand it falls, by gauge it pulls"] = (() => _cold.Ask(new ColdChecks(OutdoorC: 5, AirFall: "falls", ColdDraftPa: 5)).Sentences, "one of the two is wrong", ["lit now, it smokes", "It pulls by itself", "ight from the top"]),
        ["a tenth of a pascal is no falling air"] = (() => _cold.Ask(new ColdChecks(OutdoorC: 5, ColdDraftPa: -0.1)).Sentences, "Cold, this flue should stand at", ["lit now, it smokes", "The air falls"]),
        ["a window that helps a sound flue"] = (() => _hot.Ask(new HotTest([At(27)], Window: new WindowTest("normal", 29.5))).Sentences, "it names nobody", ["It is the house", "nothing else is needed", "a part of it"]),
        ["swinging round nothing"] = (() => [new Steadiness(0.4, -3.6, 4.4, 3, 4, null, 60, 70, true).Say(false, UnitSystem.Metric)], "The draft is unsteady", ["is steady"]),
        ["wood of unknown moisture"] = (() => new WoodPileStation().Ask(new()).Sentences, "was not found out", ["enough.", "more are needed"]),
        ["no night told"] = (() => new NightsStation().Ask(new()).Sentences, "Ask for a night", ["this house loses", "too alike", "it takes"]),
        ["run not begun"] = (() => new HotRunStation().Ask(new()).Sentences, "From the top", ["questions are still open", "Every question"]),
        ["everything wrong in the run"] = (() => new HotRunStation().Ask(new(DateTimeOffset.UnixEpoch, Marks: [new("open-slowly", 50, 700, -4, 500, "more"), new("cap-smoke", 30, Saw: "smoke")])).Sentences, "A chimney fire is suspected", ["Every question is answered", "as it should", "is ordinary"]),
        ["worn before, sound after"] = (() => new AgreeStation().Ask(new Agreement(NobodyAtHome: true), Histories.At(found:
            [new("cold-checks", "door-rope", Condition.Wearing), new("back-together", "door-rope", Condition.Sound)])).Sentences, "1 part was found sound", ["rope: wearing", "signed by"]),
    };

    public static TheoryData<string> Cases => [.. _cases.Keys];

    [Theory]
    [MemberData(nameof(Cases))]
    public void No_sentence_contradicts_its_neighbour(string name)
    {
        var (said, wanted, unwanted) = _cases[name];
        var sentences = said();
        var words = Histories.Words(sentences);
        Assert.Contains(wanted, words, StringComparison.Ordinal);
        foreach (var other in unwanted)
            Assert.DoesNotContain(other, words, StringComparison.OrdinalIgnoreCase);
        Assert.Equal(sentences.Select(s => s.Weight).Order(), sentences.Select(s => s.Weight));
        Assert.Equal(sentences.Count, sentences.Select(s => s.ToString()).Distinct().Count());
    }

    [Fact]
    public void House_is_named_only_when_it_explains_what_is_missing()
    {
        // 6 of the 18 Pa that are missing: a part of it, not the cause.
        var partly = _hot.Ask(new HotTest([At(9)], Window: new WindowTest("normal", 15)));
        Assert.DoesNotContain(partly.Fires.Single().Reckoning.Explanations, e => e.State == SuspectState.Named);
        Assert.Contains("the house is a part of it, not all", Histories.Words(partly.Sentences), StringComparison.Ordinal);
        var whole = _hot.Ask(new HotTest([At(9)], Window: new WindowTest("normal", 25)));
        Assert.Equal("House", Assert.Single(whole.Fires.Single().Reckoning.Explanations, e => e.State == SuspectState.Named).Name);
    }

    [Fact]
    public void Us_sentences_end_with_one_full_stop()
    {
        var us = Histories.At() with { Units = UnitSystem.Us };
        foreach (var test in new[] { new HotTest([At(9)], Window: new WindowTest("normal", 25), Fans: new WorstCase(-1, -8, 9, 4)), new HotTest([At(26)]), new HotTest([At(-3)], CoPpm: 40), new HotTest([At(null)]) })
        {
            var kept = _hot.Reckon(test, us, new EntryErrors())!;
            var words = Histories.Words(kept.Sentences) + string.Join(" ", _hot.Blocks(kept.Entry, kept.Answer, _hot.Schema, UnitSystem.Us).Select(b => b.Note));
            Assert.Contains("in w.c.", words, StringComparison.Ordinal);
            Assert.DoesNotContain("..", words, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void Earlier_reading_below_what_the_stove_needs_was_not_sound()
    {
        var earlier = Histories.Visit(new DateOnly(2025, 10, 5),
            new Fact("hot.normal.draft-pa", 9), new Fact("hot.normal.expected-pa", 12), new Fact("hot.normal.low-pa", 8), new Fact("hot.normal.high-pa", 16),
            new Fact("hot.normal.verdict", null, Word.Of(DraftVerdict.AsExpectedTooWeak)));
        var words = Histories.Words(_hot.Ask(new HotTest([At(9)]), Histories.At(Histories.Of(earlier))).Sentences);
        Assert.DoesNotContain("sound then", words, StringComparison.Ordinal);
        Assert.Contains("too weak for this stove by the need of that day", words, StringComparison.Ordinal);
    }

    [Fact]
    public void Heavier_sentence_about_the_same_thing_silences_the_lighter()
    {
        var said = new Said().Add(Weight.Hint, Sentence.Say("Sweep by October."), "sweep").Add(Weight.Stop, Sentence.Say("No fire until swept."), "sweep")
            .Add(Weight.Hint, Sentence.Say("The screen is new.")).Add(Weight.Verdict, Sentence.Say("It holds 4 mm."));
        Assert.Equal(["No fire until swept.", "It holds 4 mm.", "The screen is new."], said.InOrder().Select(s => s.ToString()));
    }
}
