using Grate.Core.Clearances;
using Grate.Core.Flue;
using Grate.Core.Tests.Visits;

namespace Grate.Core.Tests.Clearances;

/// <summary>Stations of distances, hearth and surfaces: handbook 08 on a visit.</summary>
public class ClearanceStationTests
{
    private static readonly RoomPlanStation _plan = new();
    private static readonly HearthStation _hearth = new();
    private static readonly SurfacesStation _surfaces = new();

    private static NearThing Wall(double? found, double? label = null, string shield = "none", bool scorched = false, double? minimum = null, string side = "back", string of = "stove") =>
        new("wall behind", side, of, found, label, minimum, shield, scorched);

    private static string Words(RoomPlan plan) => Histories.Words(_plan.Ask(plan).Sentences);

    [Fact]
    public void A_wall_too_near_is_told_with_what_would_make_it_do()
    {
        var near = _plan.Ask(new([Wall(420)]));
        // Without a label 914 mm, behind sheet metal 305, behind brick on the wall 609.
        Assert.Equal((494.0, Condition.Spent), (near.Things[0].Clearance.MissingMm, near.Parts.Single().Condition));
        Assert.Equal([Shield.SheetMetal, Shield.CementBoard, Shield.BrickVentilated], near.Things[0].Cures);
        Assert.Contains("Wall behind: 420 mm where 914 mm are asked for without a label; 494 mm are missing. It would do behind sheet metal or cement board or brick with 25 mm of ventilated air.", Histories.Words(near.Sentences), StringComparison.Ordinal);
        Assert.Contains("or behind brick on the wall itself", Words(new([Wall(650)])), StringComparison.Ordinal);
        Assert.Contains("No shield makes it do", Words(new([Wall(200)])), StringComparison.Ordinal);
        Assert.Contains("Every distance that was measured is enough", Words(new([Wall(420, shield: "sheet-metal"), Wall(950)])), StringComparison.Ordinal);
        // The label gives a clearance and no least one: its shield does not count.
        Assert.Contains("its shield does not count here; the label names no distance with one", Words(new([Wall(300, 400, "sheet-metal")])), StringComparison.Ordinal);
        Assert.Contains("label alone tells", Words(new([Wall(100, of: "double-wall-connector")])), StringComparison.Ordinal);
        Assert.Empty(_plan.Ask(new([Wall(null)])).Parts);
    }

    [Fact]
    public void The_label_in_the_books_counts_where_nothing_else_is_read_on_site()
    {
        var at = Histories.At(Histories.Of() with { Stove = Histories.Stove with { Label = new(BackM: 0.4, SideM: 0.6, HearthRM2KW: 0.2) } });
        Assert.Contains("Every distance that was measured is enough", Histories.Words(_plan.Ask(new([Wall(420)]), at).Sentences), StringComparison.Ordinal);
        // To the side it asks for more, the pipe it says nothing of, and what is read on site wins.
        Assert.Equal(180, _plan.Ask(new([Wall(420, side: "left")]), at).Things[0].Clearance.MissingMm);
        Assert.Equal(37, _plan.Ask(new([Wall(420, of: "single-wall-connector")]), at).Things[0].Clearance.MissingMm);
        Assert.Equal(80, _plan.Ask(new([Wall(420, 500)]), at).Things[0].Clearance.MissingMm);
        Assert.Equal(0.2, _hearth.Ask(new([new("brick", 100)]), at).Reckoned.Resistance!.RequiredM2KW);
    }

    [Fact]
    public void Scorched_and_too_near_is_a_stop_until_it_is_measured_far_enough()
    {
        var bad = new RoomPlan([Wall(420, scorched: true)]);
        var stop = Assert.Single(_plan.Stops(bad, _plan.Ask(bad)));
        Assert.Equal("scorching", stop.Code);
        Assert.NotNull(Parts.All.Stop(stop.Code));
        Assert.Contains("scorched: no fire", Words(bad), StringComparison.Ordinal);
        Assert.Empty(_plan.Passed(bad, _plan.Ask(bad)));
        var cured = new RoomPlan([Wall(420, shield: "cement-board", scorched: true)]);
        Assert.Empty(_plan.Stops(cured, _plan.Ask(cured)));
        Assert.Equal(stop.Where, Assert.Single(_plan.Passed(cured, _plan.Ask(cured))).Where);
        // Far enough and scorched all the same: no stop, but said.
        Assert.Contains("scorched all the same", Words(cured), StringComparison.Ordinal);
        // Taken away, the thing passes nothing.
        Assert.Empty(_plan.Passed(new(), _plan.Ask(new())));
        Assert.Equal(494, _plan.Facts(bad, _plan.Ask(bad)).Single().Value);
        Assert.Contains(new ClearancesPart().Van(Histories.At(Histories.Of(Histories.Visit(new(2026, 1, 1), [.. _plan.Facts(bad, _plan.Ask(bad))])))), i => i.What.Contains("shield", StringComparison.Ordinal));
    }

    [Fact]
    public void A_hearth_is_told_the_layers_that_make_it()
    {
        HearthOffer[] offers = [new("cement board", "cement-board", 12.7, 14), new("mineral board", "mineral-board", 20, 31)];
        var thin = _hearth.Ask(new([new("ceramic-tile", 9)], 0.18, Offers: offers));
        // 0.009 are there; a mineral board of 20 mm gives 0.333, four cement boards 0.203 for 56.
        Assert.Contains("Thinnest and cheapest: 1 × mineral board, 20 mm thick, 31.00 a m².", Histories.Words(thin.Sentences), StringComparison.Ordinal);
        Assert.Equal(Condition.Spent, thin.Parts.Single().Condition);
        Assert.Contains("Nothing of what is offered makes it", Histories.Words(_hearth.Ask(new([new("ceramic-tile", 9)], 5, Offers: [offers[0]])).Sentences), StringComparison.Ordinal);
        var short1 = _hearth.Ask(new(Found: new(400, 457, 457)));
        Assert.Contains("The hearth lacks 57 mm in front.", Histories.Words(short1.Sentences), StringComparison.Ordinal);
        Assert.Equal(Condition.Spent, short1.Parts.Single().Condition);
        Assert.Equal(Condition.Sound, _hearth.Ask(new([new("mineral-board", 20)], 0.3, Found: new(460))).Parts.Single().Condition);
        Assert.Empty(_hearth.Ask(new()).Parts);
        // Built in: by its opening, which is taken as large until it is measured.
        var insert = Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = "insert" } });
        Assert.Equal((508.0, 406.0), (_hearth.Ask(new(), insert).Reckoned.Extent!.FrontMm, _hearth.Ask(new(OpeningM2: 0.4), insert).Reckoned.Extent!.FrontMm));
        Assert.Contains("taken as a large one", Histories.Words(_hearth.Ask(new(), insert).Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void Surfaces_are_judged_at_high_fire_by_the_gas_that_was_read()
    {
        VisitFact Fact(string step, string station, string name, double value) => new(step, station, name, value, null, new(10, 0));
        var at = Histories.At(facts: [Fact("cold-checks", "cold-flue", FlueFacts.RoomC, 23.9), Fact("hot-test", "hot-draft", FlueFacts.GasC(FiringLevel.Normal), 200)]);
        // Handbook 08: 35.5 K now, 61.7 K at high fire.
        var mantel = _surfaces.Ask(new(Spots: [new("mantel", 59.4, new(10, 42))]), at);
        Assert.Equal(61.7, Math.Round(mantel.Reckoned!.Spots[0].RiseHighK, 1));
        Assert.Equal(new SecondLook("mantel", new(11, 42)), mantel.LookAgain.Single());
        Assert.Equal(["roomC", "gasNowC"], mantel.Assumed.Take(2).Select(a => a.Field));
        // The second look counts, and asks for no third.
        var later = _surfaces.Ask(new(Spots: [new("mantel", 59.4, new(10, 42), 64)]), at);
        Assert.Equal((SurfaceVerdict.Fail, Condition.Spent, 0), (later.Reckoned!.Verdict, later.Parts.Single().Condition, later.LookAgain.Count));
        Assert.Contains("no high fire until then", Histories.Words(later.Sentences), StringComparison.Ordinal);
        // Without gas as read, and so it is said; a spot that is not read yet waits.
        Assert.Contains("As read", Histories.Words(_surfaces.Ask(new(Spots: [new("mantel", 59.4), new("floor")])).Sentences), StringComparison.Ordinal);
        Assert.Contains("read each with the infrared gauge", Histories.Words(_surfaces.Ask(new()).Sentences), StringComparison.Ordinal);
        var refused = new EntryErrors();
        Assert.Null(_surfaces.Answer(new(Spots: [new("a"), new("b", 900)]), at, refused));
        Assert.Equal("spots[1].readC", refused.ByField.Keys.Single());
    }

    // A mantel at 136 K of 65 was called "wearing, it holds for now".
    [Fact]
    public void Half_above_its_limit_stops_the_stove_until_it_is_read_again_and_good()
    {
        SurfaceCheck Mantel(double c) => new(20, GasNowC: 330, Spots: [new("mantel", c)]);
        var hot = _surfaces.Ask(Mantel(156));
        Assert.Equal((136, 65), (Math.Round(hot.Reckoned!.Spots[0].RiseHighK), hot.Reckoned.Spots[0].LimitK));
        Assert.Equal((Condition.Unsafe, "surface-hot"), (hot.Parts.Single().Condition, hot.Parts.Single().StopCode));
        var stop = Assert.Single(_surfaces.Stops(Mantel(156), hot));
        Assert.NotNull(Parts.All.Stop(stop.Code));
        // 96 K are too much, and no stop; at 97.5 it is one.
        Assert.Equal(Condition.Spent, _surfaces.Ask(Mantel(116)).Parts.Single().Condition);
        Assert.Equal(Condition.Unsafe, _surfaces.Ask(Mantel(117.6)).Parts.Single().Condition);
        Assert.Empty(_surfaces.Passed(Mantel(116), _surfaces.Ask(Mantel(116))));
        Assert.Equal(stop.Where, Assert.Single(_surfaces.Passed(Mantel(60), _surfaces.Ask(Mantel(60)))).Where);
    }

    [Fact]
    public void Spots_lie_where_they_usually_do_until_they_are_placed()
    {
        var answer = _surfaces.Ask(new(Spots: [new("mantel"), new("floor in front"), new("side wall"), new("crib", Side: "left", AwayMm: 900, HeightMm: 600)]));
        Assert.Equal([new(StoveSide.Above, 0.3, 1.4), new(StoveSide.Front, 0.4, 0), new(StoveSide.Right, 0.3, 0.8), new(StoveSide.Left, 0.9, 0.6)], answer.Places);
        Assert.Equal(Grate.Core.Section.StoveSection.Usual(Histories.Stove).HeightM, answer.Body.HeightM);
        var refused = new EntryErrors();
        Assert.Null(_surfaces.Answer(new(Spots: [new("a", Side: "inside", AwayMm: -1, HeightMm: 7000)]), Histories.At(), refused));
        Assert.Equal(["spots[0].awayMm", "spots[0].heightMm", "spots[0].side"], refused.ByField.Keys.Order());
    }
}
