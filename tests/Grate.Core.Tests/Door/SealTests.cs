using Grate.Core.Door;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Door;

/// <summary>The look at the door, and its seals: handbook 03 sections 1, 3 and 5.</summary>
public class SealTests
{
    private static readonly SealsStation _seals = new();
    private static readonly DoorLookStation _look = new();
    private static readonly string[] _all = ["off", "bare", "dry-laid", "laid", "trimmed", "refitted"];

    private static SealsRecord Record(SealRecord seal, string place = "door") => new(new Dictionary<string, SealRecord?> { [place] = seal });

    private static VisitContext At(Stove stove, params EarlierVisit[] earlier) => Histories.At(Histories.Of(earlier) with { Stove = stove });

    private static Dictionary<string, string[]> Refused(SealsRecord record, VisitContext? at = null)
    {
        var errors = new EntryErrors();
        Assert.Null(_seals.Answer(record, at ?? Histories.At(), errors));
        return errors.ByField;
    }

    // Handbook 03 section 6: channel 10 × 6 takes 12 mm, 12 × 10 takes 14, 6 × 3 takes 6; a line of 1.72 m needs 1.779 m.
    [Theory]
    [InlineData(10, 6, 12, 6)]
    [InlineData(12, 10, 14, 4)]
    [InlineData(6, 3, 6, 3)]
    public void Channel_chooses_the_rope_and_the_line_its_length(double widthMm, double depthMm, double sizeMm, double proudMm)
    {
        var door = _seals.Ask(Record(new(widthMm, depthMm, LineM: 1.72))).Seals.Single(s => s.Place == SealPlace.Door);
        Assert.Equal((sizeMm, proudMm, 1.779), (door.SizeMm, door.ProudMm, Math.Round(door.NeedM!.Value, 3)));
    }

    [Theory]
    [InlineData("steel", false, "Door Glass")]
    [InlineData("top-loader", true, "Door Glass Lid Bypass Combustor")]
    [InlineData("multi-fuel", false, "Door Glass AshDoor")]
    [InlineData("cookstove", false, "Door AshDoor Plates")]
    [InlineData("masonry-heater", false, "Door Glass")]
    public void Stove_has_the_seals_of_its_kind(string kind, bool combustor, string places) =>
        Assert.Equal(places, string.Join(" ", SealsAnswer.Of(Histories.Stove with { Kind = kind, Combustor = combustor })));

    [Fact]
    public void What_an_earlier_visit_measured_and_fitted_stands_until_it_is_measured_again()
    {
        var entry = Record(new(10, 6, LineM: 1.72, Done: _all));
        var facts = _seals.Facts(entry, _seals.Ask(entry)).ToArray();
        var at = Histories.At(Histories.Of(Histories.Visit(new(2023, 10, 12), facts)));
        var door = _seals.Ask(new(), at).Seals[0];
        Assert.Equal((12.0, 1.72), (door.SizeMm, door.LineM));
        Assert.Equal(new SealFitted(new(2023, 10, 12), "12 mm", Rope.NeedM(1.72), new(2026, 10, 12), new(2028, 10, 12)), door.Fitted);
        Assert.Contains("in the years of its end (usual life 3 to 5 seasons).", Histories.Words(_seals.Ask(new(), at).Sentences), StringComparison.Ordinal);
        Assert.Equal(14, _seals.Ask(Record(new(12, 10)), at).Seals[0].SizeMm);
        // Without a wheel the way round the door's seal is its line.
        Assert.Equal(1.72, _seals.Ask(new(), Histories.At(facts: [new("cold-checks", "door-strips", DoorFacts.WidthM(), 0.5, null, new(9, 0)), new("cold-checks", "door-strips", DoorFacts.HeightM(), 0.36, null, new(9, 0))])).Seals[0].LineM!.Value, 9);
    }

    [Fact]
    public void Rope_is_due_by_its_age_and_goes_into_the_van_when_it_is_worn()
    {
        var part = new DoorPart();
        var entry = Record(new(10, 6, LineM: 1.72, Done: _all));
        var history = Histories.Of(Histories.Visit(new(2023, 10, 12), [.. _seals.Facts(entry, _seals.Ask(entry))]));
        Assert.Empty(part.Due(history, new(2026, 10, 11)));
        var task = Assert.Single(part.Due(history, new(2026, 10, 12)));
        Assert.Equal(("door-rope", new DateOnly(2028, 10, 12)), (task.Part, task.By));
        // Once enough of the firm's own came to their end, their lives say when: a quarter gone after two years, half after three and a half.
        var learned = history with { Lives = new Dictionary<string, LearnedLife> { ["seal"] = new(2, 3.5) } };
        task = Assert.Single(part.Due(learned, new(2025, 10, 12)));
        Assert.Equal((new DateOnly(2025, 10, 11), new DateOnly(2027, 4, 12)), (task.Earliest, task.By));
        Assert.Equal("Door: its rope is of 12 Oct 2023, half of the firm's own last 3.5 years.", task.Reason);
        Assert.Contains("fitted on 12 October 2023, past its life (half of the firm's own last 3.5 years).", Histories.Words(_seals.Ask(new(), Histories.At(learned) with { Today = new(2027, 4, 13) }).Sentences), StringComparison.Ordinal);
        Assert.All(history.Earlier[0].Facts, f => Assert.Contains(part.DueReads, r => f.Name.StartsWith(r, StringComparison.Ordinal)));

        Assert.Empty(part.Van(Histories.At(history)));
        Assert.Equal("rope 12 mm, 1.78 m", part.Van(Histories.At(history, found: [new("cold-checks", "door-rope", Condition.Spent)])).First().What);
        Assert.Contains("not measured", part.Van(Histories.At(found: [new("cold-checks", "door-rope", Condition.Spent)])).First().What, StringComparison.Ordinal);
    }

    [Fact]
    public void Seal_that_is_out_is_a_stop_until_it_is_back_and_keeps_the_visit_from_signing()
    {
        var record = new SealsRecord(new Dictionary<string, SealRecord?> { ["door"] = new(10, 6, Done: ["off"]), ["glass"] = new(Done: ["off", "refitted"]) });
        var answer = _seals.Ask(record);
        var stop = Assert.Single(_seals.Stops(record, answer));
        Assert.Equal(("seal-out", "door"), (stop.Code, string.Join(" ", stop.Where!)));
        Assert.NotNull(Parts.All.Stop(stop.Code));
        Assert.Equal("glass", string.Join(" ", Assert.Single(_seals.Passed(record, answer)).Where!));
        Assert.Equal("Out, and not ticked as back: door. No visit is finished with a part off.", _seals.BlocksSigning(record));
        var back = Record(new(10, 6, Done: _all));
        Assert.Empty(_seals.Stops(back, _seals.Ask(back)));
        Assert.Null(_seals.BlocksSigning(back));
    }

    [Fact]
    public void Work_goes_in_its_order_and_cement_is_a_gate_where_the_channel_needs_it()
    {
        Assert.Contains("waits for: Off its hinges", Refused(Record(new(10, 6, Done: ["bare"])))["seals.door.done"][0], StringComparison.Ordinal);
        // 20 mm of rope in a channel 5 deep: less than half of it lies in.
        Assert.Contains("waits for: Cement in the channel", Refused(Record(new(DepthMm: 5, ManualMm: 20, Done: ["off", "bare", "dry-laid", "laid"])))["seals.door.done"][0], StringComparison.Ordinal);
        Assert.DoesNotContain(_seals.Ask(Record(new(10, 6))).Seals[0].Order, t => t.Code == "cemented");
        // The handbook's default: a thin bead where the manual asks for one in a channel that holds.
        Assert.Contains(_seals.Ask(Record(new(10, 6, ManualCement: true))).Seals[0].Order, t => t.Name == "A thin bead of cement");
        // 48 h, as on the tube.
        Assert.Contains("23:10 in 2 days", Histories.Words(_seals.Ask(Record(new(10, 6, ManualCement: true, CementedAt: new(23, 10), CureH: 48))).Sentences), StringComparison.Ordinal);
        Assert.Equal(new TimeOnly(1, 10), _seals.Ask(Record(new(10, 6, ManualCement: true, CementedAt: new(23, 10), CureH: 2))).Seals[0].CuredAt);
        Assert.Contains("01:10 tomorrow", Histories.Words(_seals.Ask(Record(new(10, 6, ManualCement: true, CementedAt: new(23, 10), CureH: 2))).Sentences), StringComparison.Ordinal);
    }

    // Handbook 03 section 3: 6, 8, 10, 12, 14, 16, 20, 22 mm (1/4, 5/16, 3/8, 1/2, 9/16, 5/8, 3/4, 7/8 in).
    [Fact]
    public void Rope_is_asked_for_by_the_name_it_is_sold_under()
    {
        Assert.Equal("1/4 5/16 3/8 1/2 9/16 5/8 3/4 7/8", string.Join(" ", Rope.Sizes.Select(s => Rope.Named(s, UnitSystem.Us).Replace(" in", "", StringComparison.Ordinal))));
        Assert.Equal(("12 mm", "11 mm"), (Rope.Named(12, UnitSystem.Metric), Rope.Named(11, UnitSystem.Metric)));
        Assert.DoesNotContain("/", Rope.Named(11, UnitSystem.Us), StringComparison.Ordinal);
        Assert.Contains("rope of 1/2 in", Histories.Words(_seals.Ask(Record(new(10, 6)), Histories.At() with { Units = UnitSystem.Us }).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Bad_input_is_named()
    {
        Assert.Contains("between 3 and 30 mm", Refused(Record(new(ManualMm: 80)))["seals.door.manualMm"][0], StringComparison.Ordinal);
        Assert.Contains("between 0.05 and 12", Refused(Record(new(LineM: 0)))["seals.door.lineM"][0], StringComparison.Ordinal);
        Assert.Contains("“lid” is not known", Refused(Record(new(), "lid"))["seals.lid"][0], StringComparison.Ordinal);
        Assert.Contains("is no task", Refused(Record(new(Done: ["fly"])))["seals.door.done"][0], StringComparison.Ordinal);
        var errors = new EntryErrors();
        Assert.Null(_look.Answer(new("soft", ["frayed"], Glass: []), At(Histories.Stove with { Kind = "cookstove" }), errors));
        Assert.Equal(["glass", "rope", "ropeSigns"], errors.ByField.Keys.Order());
    }

    [Theory]
    [InlineData("springy", "left", "none", "", "Sound Sound Sound")]
    [InlineData("flattened", "left", "none", "black-corner", "Wearing Sound Sound")]
    [InlineData("flattened", "at-end", "slight", "fogged", "Spent Wearing Wearing")]
    [InlineData("hard", "left", "sags", "moves", "Spent Spent Spent")]
    [InlineData("springy", "will-not-latch", "none", "cracked", "Sound Unsafe Unsafe")]
    public void What_is_seen_decides_the_words(string rope, string latch, string hinge, string glass, string words)
    {
        var look = new DoorLook(rope, [], latch, hinge, glass.Length == 0 ? [] : [glass]);
        var answer = _look.Ask(look);
        Assert.Equal(words, string.Join(" ", answer.Parts.Select(p => p.Condition)));
        Assert.Equal(answer.Parts.Where(p => p.Condition == Condition.Unsafe).Select(p => p.Part), _look.Stops(look, answer).Select(s => s.Code));
        // A stop is over once the same was looked at and is good; never by what nobody looked at.
        Assert.Equal(answer.Parts.Where(p => p.Part != "door-rope" && p.StopCode is null).Select(p => p.Part).Order(), _look.Passed(look, answer).Select(p => p.Code).Order());
        Assert.Empty(_look.Passed(new(), _look.Ask(new())));
    }

    [Fact]
    public void Strips_take_the_rope_as_it_was_seen_until_new_rope_is_in()
    {
        VisitFact seen = new("cold-checks", "door-look", DoorFacts.Rope(), null, "hard", new(9, 0)), end = seen with { Name = DoorFacts.LatchAtEnd(), Word = "yes" };
        var strips = new StripStation(SealPlace.Door);
        var test = new StripTest(Grades: new Dictionary<string, double?> { ["latch-2"] = 0 });
        var before = strips.Ask(test, Histories.At(facts: [seen, end]));
        Assert.Equal((RopeState.Hard, true), (before.Rope, before.LatchAtEnd));
        Assert.Equal(RopeState.Springy, strips.Ask(test, Histories.At(facts: [seen, new("back-together", "seals", SealFacts.Fitted(SealPlace.Door), null, "yes", new(11, 0))])).Rope);
        Assert.Equal(RopeState.Flattened, strips.Ask(test with { Rope = "flattened" }, Histories.At(facts: [seen])).Rope);
    }
}
