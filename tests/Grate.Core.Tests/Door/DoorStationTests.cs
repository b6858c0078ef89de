using Grate.Core.Door;
using Grate.Core.Flue;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Door;

/// <summary>The stations of the door: what they take from elsewhere, what they leave for others.</summary>
public class DoorStationTests
{
    private static readonly StripStation _strips = new(SealPlace.Door);

    private static StripTest Test(params (string Point, double Grade)[] grades) => new(0.5, 0.36, grades.ToDictionary(g => g.Point, g => (double?)g.Grade));

    private static Dictionary<string, string[]> Refused(StripTest test)
    {
        var errors = new EntryErrors();
        Assert.Null(_strips.Answer(test, Histories.At(), errors));
        return errors.ByField;
    }

    [Fact]
    public void Points_stand_round_the_door_and_move_with_its_size()
    {
        var spots = _strips.Ask(Test(("latch-2", 0))).Spots;
        Assert.Equal(13, spots.Count);
        Assert.Equal(spots.Select(s => s.AtM).Order(), spots.Select(s => s.AtM));
        Assert.All(spots, s => Assert.True(s.AcrossM is 0 || s.UpM is 0 || Math.Abs(s.AcrossM - 0.5) < 1e-9 || Math.Abs(s.UpM - 0.36) < 1e-9, s.Code));
        var latch = spots.Single(s => s.Code == "latch-2");
        Assert.Equal((0.5, 0.18), (latch.AcrossM, Math.Round(latch.UpM, 9)));
        Assert.Equal(0.40, _strips.Ask(Test(("latch-2", 0)) with { HeightM = 0.8 }).Spots.Single(s => s.Code == "latch-2").UpM, 9);
        // One added beside the latch shortens what that point owns.
        var more = Test(("latch-1", 3), ("latch-2", 0), ("latch-3", 3)) with { More = [new("latch", 1.085, 3)] };
        Assert.True(_strips.Ask(more).Strip!.L0M < _strips.Ask(more with { More = null }).Strip!.L0M);
    }

    // What is drawn is what is reckoned: the ways owned are as long as the lengths at their grades.
    [Theory]
    [InlineData("latch-2:0")]
    [InlineData("latch-2:0 top-1:3")]
    [InlineData("hinge-bottom:0 latch-1:0 latch-2:1 latch-3:3 bottom-1:0")]
    public void Drawn_way_of_a_point_is_the_length_it_counts_for(string pulled)
    {
        var answer = _strips.Ask(Test([.. pulled.Split(' ').Select(p => (p.Split(':')[0], double.Parse(p.Split(':')[1], System.Globalization.CultureInfo.InvariantCulture)))]));
        static double Length(StripSpot spot) => spot.Owned.Zip(spot.Owned.Skip(1), (a, b) => Math.Abs(a.AcrossM - b.AcrossM) + Math.Abs(a.UpM - b.UpM)).Sum();
        Assert.Equal(answer.Strip!.L0M, answer.Spots.Where(s => s.Grade == 0).Sum(Length), 9);
        Assert.Equal(answer.Strip.L1M, answer.Spots.Where(s => s.Grade == 1).Sum(Length), 9);
        Assert.Equal(answer.PerimeterM, answer.Spots.Sum(Length), 9);
    }

    [Fact]
    public void Leak_is_reckoned_at_the_draft_that_was_read()
    {
        var test = Test(("latch-1", 3), ("latch-2", 0), ("latch-3", 3));
        Assert.Equal(12, _strips.Ask(test).DraftPa);
        var read = Histories.At(Histories.Of(Histories.Visit(new(2025, 10, 1), new Fact("hot.normal.draft-pa", 21))), [new("hot-test", "hot-draft", FlueFacts.DraftPa(FiringLevel.High), 30, null, new(11, 0))]);
        Assert.Equal(30, _strips.Ask(test, read).DraftPa);
        Assert.Equal(21, _strips.Ask(test, read with { Facts = [] }).DraftPa);
        // √(21/12) times as much air.
        Assert.Equal(Math.Sqrt(21.0 / 12), _strips.Ask(test, read with { Facts = [] }).Strip!.LeakKgH / _strips.Ask(test).Strip!.LeakKgH, 9);
    }

    // Air past the rope against what this stove's own low fire takes, not against 1 kg/h of wood on every stove.
    [Fact]
    public void A_leak_is_set_against_the_stoves_own_low_fire()
    {
        var test = Test(("latch-1", 3), ("latch-2", 0), ("latch-3", 3));
        double Share(double kw) => _strips.Ask(test, Histories.At(Histories.Of() with { Stove = Histories.Stove with { NominalKw = kw } })).Strip!.ShareOfNeed;
        Assert.Equal(2, Share(6) / Share(12), 9);
    }

    [Fact]
    public void Map_of_the_last_visit_stands_behind_and_this_visits_other_map_before_it()
    {
        var before = Test(("latch-2", 0), ("latch-1", 2));
        var facts = _strips.Facts(before, _strips.Ask(before)).ToArray();
        Assert.Contains(facts, f => f.Name == DoorFacts.Grade("latch-2") && f.Value == 0);
        var history = Histories.Of(Histories.Visit(new(2025, 10, 12), facts));
        var after = _strips.Ask(new StripTest(Grades: new Dictionary<string, double?> { ["latch-2"] = 3 }), Histories.At(history));
        Assert.Equal("On 12 October 2025", after.Other!.When);
        // Its size is the last visit's, until it is measured again.
        Assert.Equal((0.5, 0.36, 0), (after.WidthM, after.HeightM, after.Spots.Single(s => s.Code == "latch-2").Other));
        var both = Histories.At(history, [.. facts.Select(f => new VisitFact("cold-checks", "door-strips", f.Name, f.Value, f.Word, new(9, 0)))]);
        Assert.Equal("Before the work", _strips.Ask(before, both).Other!.When);
        Assert.Equal("After the work", _strips.Ask(before, both with { Facts = [.. both.Facts.Select(f => f with { Step = "back-together" })] }).Other!.When);
    }

    [Fact]
    public void Ash_door_and_lid_are_pulled_likewise_and_keep_their_own_map()
    {
        var ash = new StripStation(SealPlace.AshDoor);
        var test = new StripTest(Grades: new Dictionary<string, double?> { ["latch-2"] = 0, ["latch-1"] = 3, ["latch-3"] = 3 });
        var answer = ash.Ask(test);
        Assert.Equal((0.30, 0.12), (answer.WidthM, answer.HeightM));
        Assert.Contains("this ash door still feeds", Histories.Words(answer.Sentences), StringComparison.Ordinal);
        var facts = ash.Facts(test, answer).ToArray();
        Assert.Contains(facts, f => f.Name == "ash-door.grade.latch-2" && f.Value == 0);
        // What was found there is no word on the door.
        var at = Histories.At(facts: [.. facts.Select(f => new VisitFact("cold-checks", ash.Code, f.Name, f.Value, f.Word, new(9, 0)))]);
        Assert.Null(_strips.Ask(test, at).Other);
        Assert.Equal("Before the work", ash.Ask(test, at).Other!.When);
        Assert.Equal(["door-strips"], Parts.All.StationsOf("cold-checks", Histories.Stove.Features).Select(s => s.Code).Where(c => c.EndsWith("-strips", StringComparison.Ordinal)));
        Assert.Equal(["door-strips", "lid-strips"], Parts.All.StationsOf("cold-checks", (Histories.Stove with { Kind = "top-loader" }).Features).Select(s => s.Code).Where(c => c.EndsWith("-strips", StringComparison.Ordinal)));
    }

    [Fact]
    public void Bad_input_is_named_and_the_point_said()
    {
        Assert.Equal("Grade must lie between 0 and 3; 7 was entered.", Refused(Test(("latch-2", 7)))["grades.latch-2"][0]);
        Assert.Contains("“middle” is not known", Refused(Test(("middle", 1)))["grades.middle"][0], StringComparison.Ordinal);
        Assert.Contains("must lie between 50 and 2000 mm", Refused(Test() with { WidthM = 3 })["widthM"][0], StringComparison.Ordinal);
        Assert.Contains("1.72 m", Refused(Test() with { More = [new("latch", 2, 1)] })["more[0].atM"][0], StringComparison.Ordinal);
        Assert.Contains("At most 40", Refused(Test() with { More = [.. Enumerable.Repeat(new StripPointEntry("latch", 1), 41)] })["more"][0], StringComparison.Ordinal);
    }

    [Fact]
    public void Air_that_does_not_close_fully_is_judged_by_the_kind_of_stove()
    {
        var station = new ClosedAirStation();
        Assert.False(station.Ask(new ClosedAirTest(CollapseS: 200)).ClosesFully);
        Assert.Equal(ClosedAirVerdict.Pass, station.Ask(new ClosedAirTest(CollapseS: 200)).Result.Verdict);
        Assert.Equal(ClosedAirVerdict.Doubtful, station.Ask(new ClosedAirTest(true, 200)).Result.Verdict);
        Assert.Equal([new Fact(DoorFacts.CollapseS, 200.0), new Fact(DoorFacts.ClosedAir, null, "doubtful")], station.Facts(new(true, 200), station.Ask(new ClosedAirTest(true, 200))));
    }
}
