using Grate.Core.Air;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;
using Grate.Core.Household;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Household;

/// <summary>What a household gets: handbook 07 section 6.</summary>
public class HouseholdSheetTests
{
    private static readonly DateOnly _next = new(2027, 9, 14);

    private static HouseholdSheet Of(Stove stove, params Fact[] facts) => HouseholdSheet.Of(Histories.At(Histories.Of(new EarlierVisit(Guid.CreateVersion7(), new(2026, 11, 3), true, null, facts,
        [new("cold-checks", "door-rope", Condition.Wearing, new(2027, 3, 1)), new("back-together", "door-rope", Condition.Sound), new("sweep", "cap", Condition.Spent), new("arrive", "alarms", Condition.Sound)])) with
    { Stove = stove }), [], _next);

    private static string[] Keys(HouseholdSheet sheet) => [.. sheet.Sections.SelectMany(s => s.Lines.Select(l => l.Key))];

    private static Stove Kind(string kind, bool combustor = false) => Histories.Stove with { Kind = kind, Combustor = combustor };

    // Nobody comes before a day that is over.
    [Fact]
    public void What_was_due_is_not_promised()
    {
        var at = Histories.At(Histories.Of(new EarlierVisit(Guid.CreateVersion7(), new(2026, 11, 3), true, null, [], [])));
        Assert.Contains("again.before", Keys(HouseholdSheet.Of(at, [], at.Today)));
        var keys = Keys(HouseholdSheet.Of(at, [], at.Today.AddDays(-1)));
        Assert.Contains("again.overdue", keys);
        Assert.DoesNotContain("again.before", keys);
    }

    [Fact]
    public void What_the_last_trouble_was_tells_what_to_do_differently()
    {
        var keys = Keys(Of(Kind("steel"), new Fact("trouble.closed", 1), new Fact("trouble.cause.reload-habit", 0.92), new Fact("trouble.cause.door-rope", 0.5)));
        Assert.Contains("trouble.reload-habit", keys);
        // A rope is the technician's business.
        Assert.DoesNotContain("trouble.door-rope", keys);
        Assert.DoesNotContain(Keys(Of(Kind("steel"))), k => k.StartsWith("trouble.", StringComparison.Ordinal));
    }

    [Fact]
    public void It_is_of_their_stove_and_of_no_other()
    {
        var steel = Keys(Of(Kind("steel")));
        Assert.DoesNotContain(steel, k => k.StartsWith("coal.", StringComparison.Ordinal) || k is "reload.bypass" or "monthly.combustor" or "light.lay-heater");
        Assert.Contains("reload.bypass", Keys(Of(Kind("top-loader", true))));
        Assert.Contains("coal.4", Keys(Of(Kind("multi-fuel"))));
        var heater = Keys(Of(Kind("masonry-heater")));
        Assert.Contains("night.heater", heater);
        Assert.DoesNotContain("light.lay", heater);
        // Every key of it is one that a language file has to have.
        var known = HouseholdSheet.Keys(Parts.All).ToHashSet();
        foreach (var kind in StoveKind.All)
            Assert.All(Keys(Of(Kind(kind.Code, kind.Code is "steel" or "insert"))), k => Assert.Contains(k, known));
    }

    [Fact]
    public void It_tells_what_was_found_and_what_to_do_differently()
    {
        var sheet = Of(Kind("steel"), new Fact(FuelFacts.Habit, null, "slow"), new Fact(FuelFacts.MoistureWet, 0.2), new Fact(FuelFacts.MeasureAgainOn, null, "2027-04-20"), new Fact(FuelFacts.NightLoadKg, 7.2),
            new Fact(FireboxFacts.PanDays, 12), new Fact(FireboxFacts.LiningKwh, 2.26), new Fact(DepositFacts.WorstMm, 2.4), new Fact(DepositFacts.LeftMm, 0.2), new Fact(FlueFacts.Verdict(FiringLevel.Normal), null, "as-expected"));
        SheetLine Line(string key) => sheet.Sections.SelectMany(s => s.Lines).Single(l => l.Key == key);
        // The later word on a part stands: the rope was put right.
        Assert.Equal(["cap"], sheet.Sections[0].Lines.Where(l => l.Part is not null).Select(l => l.Part!));
        Assert.Equal("2", Line("today.sound").Args[0]);
        Assert.Equal("2.4 mm", Line("today.swept").Args[0]);
        Assert.Contains("today.pulls", Keys(sheet));
        Assert.Contains("do.smaller-loads", Keys(sheet));
        // 20 % wet reads 25 on the meter.
        Assert.Equal(("25 %", new DateOnly(2027, 4, 20)), (Line("do.wood-wet-until").Args[0], Line("do.wood-wet-until").Day!.Value));
        Assert.Equal("7.2 kg", Line("night.load").Args[0]);
        Assert.Equal("12", Line("ash.days").Args[0]);
        Assert.Equal("2.3 kWh", Line("night.bricks").Args[0]);
        Assert.Equal(_next, Line("again.before").Day);
        Assert.Equal(MayLight.Yes, sheet.May);
    }

    [Fact]
    public void A_fire_is_called_safe_only_after_a_visit_that_looked()
    {
        HouseholdSheet After(Fact[] facts, params PartFound[] found) => HouseholdSheet.Of(Histories.At(Histories.Of(new EarlierVisit(Guid.CreateVersion7(), new(2026, 11, 3), true, null, facts, found))), [], _next);
        // Nobody ever came; and somebody came and looked at nothing.
        Assert.Equal(MayLight.NotChecked, HouseholdSheet.Of(Histories.At(), [], null).May);
        var nothing = After([], new PartFound("sweep", "flue", Condition.NotSeen), new PartFound("cold-checks", "latch", Condition.NotSeen));
        Assert.Equal((MayLight.NotChecked, "flue, door, draft"), (nothing.May, string.Join(", ", nothing.NotLooked)));
        // A rope that was changed is a door that was looked at, and no flue.
        Assert.Equal(["flue", "draft"], After([], new PartFound("back-together", "door-rope", Condition.Sound)).NotLooked);
        var looked = After([new Fact(DepositFacts.WorstMm, 1)], new PartFound("cold-checks", "latch", Condition.Sound));
        Assert.Equal((MayLight.Yes, "draft"), (looked.May, Assert.Single(looked.NotLooked)));
    }

    [Fact]
    public void A_draft_says_which_way_it_is_wrong()
    {
        string[] Drafts(string verdict, double pa) => [.. Keys(Of(Kind("steel"), new Fact(FlueFacts.Verdict(FiringLevel.High), null, verdict), new Fact(FlueFacts.DraftPa(FiringLevel.High), pa))).Where(k => k is "today.weak" or "today.strong" or "today.pulls")];
        Assert.Equal(["today.strong"], Drafts("as-expected-too-strong", 41));
        Assert.Equal(["today.weak"], Drafts("below-expected", 8));
        Assert.Equal(["today.pulls"], Drafts("as-expected", 18));
        // More than the drawing promised, and still within what the stove may have.
        Assert.Equal(["today.pulls"], Drafts("above-expected", 22));
        Assert.Equal(["today.strong"], Drafts("above-expected", 60));
    }

    [Fact]
    public void A_distance_does_not_wear()
    {
        var sheet = HouseholdSheet.Of(Histories.At(Histories.Of(new EarlierVisit(Guid.CreateVersion7(), new(2026, 11, 3), true, null, [],
            [new("arrive", "clearances", Condition.Spent), new("arrive", "hearth", Condition.Spent), new("cold-checks", "door-rope", Condition.Wearing)]))), [], null);
        Assert.Equal(["today.put-right", "today.put-right", "today.wearing"], Keys(sheet).Where(k => k.StartsWith("today.", StringComparison.Ordinal)));
    }

    [Fact]
    public void What_was_swept_and_not_measured_has_no_thickness() =>
        Assert.Contains("today.swept-unmeasured", Keys(Of(Kind("steel"), new Fact(DepositFacts.LeftMm, 0))));

    [Fact]
    public void Carbon_monoxide_has_one_wording()
    {
        var tell = Emergency.Of(EmergencyKind.Co).Tell;
        Assert.StartsWith("Everybody out", tell, StringComparison.Ordinal);
        Assert.Contains("Nobody goes back in", tell, StringComparison.Ordinal);
        Assert.DoesNotContain("indow", tell, StringComparison.Ordinal);
        Assert.Contains(tell, RoomCo.Meaning(120).ToString(), StringComparison.Ordinal);
        var asked = SuspectsAnswer.To(new(new Dictionary<string, bool> { ["co-alarm"] = true }), Histories.At(), new EntryErrors())!;
        Assert.Contains(tell, asked.Sentences[0].ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void The_air_is_handed_over_as_it_was_set()
    {
        Assert.DoesNotContain(Of(Kind("multi-fuel")).Sections, s => s.Code == "air");
        var set = new AirControls([new("primary", Wood: "half", Coal: "closed"), new("grate", Wood: "closed", Coal: "open")]);
        var station = new AirControlsStation();
        var facts = station.Facts(set, station.Answer(set, Histories.At() with { History = Histories.At().History with { Stove = Kind("multi-fuel") } }, new EntryErrors())!).ToArray();
        var air = Of(Kind("multi-fuel"), facts).Sections.Single(s => s.Code == "air");
        Assert.Equal([("air.wood.half", "control-primary"), ("air.wood.closed", "control-grate"), ("air.coal.closed", "control-primary"), ("air.coal.open", "control-grate")], air.Lines.Select(l => (l.Key, l.Part!)));
        Assert.All(air.Lines.SelectMany(l => new[] { l.Key, $"part.{l.Part}" }), k => Assert.Contains(k, HouseholdSheet.Keys(Parts.All)));
    }

    [Fact]
    public void A_stop_stands_first_and_forbids_the_fire()
    {
        var sheet = HouseholdSheet.Of(Histories.At(), ["glaze"], null);
        Assert.Equal(MayLight.NoFire, sheet.May);
        Assert.Equal("stop.glaze", sheet.Sections[0].Lines[0].Key);
        Assert.Null(sheet.Visited);
        Assert.DoesNotContain(sheet.Sections, s => s.Code is "again" or "differently");
    }
}
