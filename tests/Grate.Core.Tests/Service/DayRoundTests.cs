using Grate.Core.Service;
using Grate.Core.Tests.Visits;
using Grate.Solvers;

namespace Grate.Core.Tests.Service;

/// <summary>A day's round: as planned, better, without somebody, and what a change costs.</summary>
public class DayRoundTests
{
    private static readonly Guid _ida = Guid.CreateVersion7(), _jorun = Guid.CreateVersion7();
    private static readonly Whereabouts _home = new(47.1, 10.2, 600);

    // A minute a hundredth of a degree north: drives that a head can add.
    private static double Drive(double lat1, double lon1, double lat2, double lon2) => Math.Round(100 * (Math.Abs(lat1 - lat2) + Math.Abs(lon1 - lon2)), 6);

    private static DayVisit Visit(string street, double north, Guid who, double from, double minutes = 60, bool told = false, bool stands = false, bool urgent = false, Skill[]? needs = null, VisitWish? wish = null) =>
        new(Guid.CreateVersion7(), street, "Tarnwick", _home.Latitude + north / 100, _home.Longitude, who, from, minutes, told, stands, urgent, needs ?? [], wish ?? VisitWish.Any);

    private static DayRound Round(params DayVisit[] visits) => new(FirmWays.Ordinary, _home, 450, 1000, visits, [new(_ida, "Ida", [], false), new(_jorun, "Jorun", [], false)], Drive);

    private static DayPlan Better(DayRound round, bool keepTold = true, params Guid[] without) => round.Better(new RoundSolver(), keepTold, without, TimeSpan.FromSeconds(0.3));

    [Fact]
    public void As_planned_it_leaves_in_time_and_says_who_is_kept_waiting()
    {
        // 20 min there, begins at nine; 30 min on, and half an hour too soon planned.
        var route = Round(Visit("Far End", 20, _ida, 540), Visit("Mill", -10, _ida, 600)).AsPlanned()[0];
        Assert.Equal((520, 2), (route.LeaveMin, route.Stops.Count));
        Assert.Equal((20, 540, 540, 600, 0), (route.Stops[0].DriveMin, route.Stops[0].ArriveMin, route.Stops[0].FromMin, route.Stops[0].ToMin, route.Stops[0].LateMin));
        Assert.Equal((30, 630, 630, 690, 30), (route.Stops[1].DriveMin, route.Stops[1].ArriveMin, route.Stops[1].FromMin, route.Stops[1].ToMin, route.Stops[1].LateMin));
        Assert.Equal((60, 30, 700), (route.DriveMin, route.LateMin, route.HomeMin));
        // Who has nothing that day drives nowhere.
        var idle = Round().AsPlanned()[1];
        Assert.Equal(("Jorun", 0, 0.0, (double?)null), (idle.Name, idle.Stops.Count, idle.DriveMin, idle.HomeMin));
    }

    [Fact]
    public void Towns_that_lie_together_are_driven_together()
    {
        // North and south taken in turn: 4 × 60 min on the road; each side at once: far less, and every minute is on the clock.
        var round = Round(Visit("North 1", 30, _ida, 540), Visit("South 1", -30, _ida, 660), Visit("North 2", 31, _jorun, 540), Visit("South 2", -31, _jorun, 660));
        Assert.Equal(2 * (30 + 60 + 30) + 4, round.AsPlanned().Sum(r => r.DriveMin));
        var plan = Better(round);
        Assert.True(plan.Proven);
        Assert.Equal(62 + 62, plan.Routes.Sum(r => r.DriveMin), 1e-6);
        Assert.Empty(plan.Left);
        Assert.All(plan.Routes.SelectMany(r => r.Stops), s => Assert.Equal(0, s.FromMin % 5));
        Assert.Contains("124 min of driving instead of 244", Histories.Words(plan.Sentences), StringComparison.Ordinal);
        Assert.All(plan.Moves, m => Assert.Contains(m.To, (string[])["Ida", "Jorun"]));
    }

    [Fact]
    public void Who_was_told_keeps_the_hour_unless_it_is_given_up()
    {
        var round = Round(Visit("North 1", 30, _ida, 540, told: true), Visit("South 1", -30, _ida, 660, told: true), Visit("North 2", 31, _jorun, 540, told: true), Visit("South 2", -31, _jorun, 660, told: true));
        var kept = Better(round);
        Assert.Empty(kept.Moves);
        Assert.Equal("The day is as good as it gets: nothing moves.", Histories.Words(kept.Sentences));
        var free = Better(round, keepTold: false);
        Assert.True(free.Routes.Sum(r => r.DriveMin) < kept.Routes.Sum(r => r.DriveMin) / 1.5);
        Assert.Contains($"{free.Moves.Count} of them told already", Histories.Words(free.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void When_somebody_is_ill_the_others_take_over_what_they_can()
    {
        var begun = Visit("Begun", 5, _ida, 480, 30, stands: true);
        var round = Round(begun, Visit("Morning", 6, _ida, 540, wish: new("mornings", [])), Visit("Noon", 7, _ida, 720), Visit("Hers", 8, _jorun, 600, told: true));
        var plan = Better(round, true, _ida);
        Assert.Equal(["Jorun"], plan.Routes.Where(r => r.Stops.Count > 0).Select(r => r.Name));
        // What was begun is not hers to make, and her own promise stands.
        Assert.DoesNotContain(plan.Routes.SelectMany(r => r.Stops), s => s.VisitId == begun.VisitId);
        Assert.DoesNotContain(plan.Moves, m => m.Street == "Hers");
        Assert.Equal(["Morning", "Noon"], plan.Moves.Select(m => m.Street).Order(StringComparer.Ordinal));
        Assert.All(plan.Moves, m => Assert.Equal(("Ida", "Jorun"), (m.From, m.To)));
        Assert.InRange(plan.Routes[0].Stops.Single(s => s.Street == "Morning").FromMin, 480, 720);
        // What goes on before the day begins stands, though the plan has no place for it; a promise that is given up is told.
        var early = Better(Round(Visit("Early", 30, _ida, 300, 600, stands: true), Visit("Full", 1, _ida, 600, 500, told: true)) with { Vans = [new(_ida, "Ida", [], false)] });
        Assert.DoesNotContain(early.Left, l => l.Street == "Early");
        Assert.DoesNotContain(early.Moves, m => m.Street == "Early");
        Assert.EndsWith("The household was told.", early.Left.Single(l => l.Street == "Full").Why.ToString(), StringComparison.Ordinal);
        // Nobody is left: nothing has a place, and it is said.
        var none = Better(round, true, _ida, _jorun);
        Assert.Equal(3, none.Left.Count);
        Assert.All(none.Left, l => Assert.Contains("nobody goes out. It needs another day.", l.Why.ToString(), StringComparison.Ordinal));
    }

    [Fact]
    public void Skills_decide_who_goes_and_where_nobody_is_down_for_it_that_is_said()
    {
        DayRound With(string[] ida, string[] jorun, Skill need) => Round(Visit("Heater", 10, _ida, 540, needs: [need])) with { Vans = [new(_ida, "Ida", ida, false), new(_jorun, "Jorun", jorun, false)] };
        Assert.Equal("Jorun", Better(With(["roof"], ["masonry-heater"], Skill.MasonryHeater)).Routes.Single(r => r.Stops.Count > 0).Name);
        // Where nobody noted anything, anybody goes.
        Assert.Empty(Better(With([], [], Skill.MasonryHeater)).Left);
        Assert.Contains("nobody who goes out is down for its stove", Better(With(["roof"], ["liner"], Skill.MasonryHeater)).Left.Single().Why.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void What_has_no_place_says_what_would_place_it()
    {
        // A day that is full: nine hours, and a pause.
        DayVisit[] full = [.. Enumerable.Range(0, 4).Select(i => Visit($"Long {i}", 1, _ida, 480 + 120 * i, 120, urgent: true))];
        var round = Round([.. full, Visit("One more", 1, _ida, 900, 60)]) with { Vans = [new(_ida, "Ida", [], false)] };
        Assert.Contains("One more: the others fill the day. One more hour for Ida would place it.", Better(round).Left.Single().Why.ToString(), StringComparison.Ordinal);
        // A roof after dark: at no hour of the wish.
        var dusk = Round(Visit("Roof", 5, _ida, 540, 90, needs: [Skill.Roof], wish: new("afternoons", []))) with { DuskMin = 780 };
        var why = Better(dusk).Left.Single().Why.ToString();
        Assert.Contains("it would be dark before the roof is done. At another hour than asked for, Ida could go.", why, StringComparison.Ordinal);
        // Nothing helps but another day.
        Assert.Contains("It needs another day.", Better(dusk with { DuskMin = 500 }).Left.Single().Why.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void A_change_says_what_it_costs_before_it_is_made()
    {
        var (north, south) = (Visit("North", 30, _ida, 540), Visit("South", -30, _ida, 700));
        var round = Round(north, south, Visit("North too", 31, _jorun, 540));
        var (drive, late, sentence) = round.CostOf(south.VisitId, _jorun, 800)!.Value;
        // It was 30 + 60 + 30 and 62; then 60, and 31 + 61 + 30.
        Assert.Equal((0, 0), (drive, late));
        Assert.Equal("Jorun at 13:20: no more driving.", sentence);
        Assert.Contains("min less driving", round.CostOf(north.VisitId, _jorun, 660)!.Value.Sentence, StringComparison.Ordinal);
        // Too soon after the one before: somebody waits.
        Assert.Equal("Ida at 10:00: no more driving, 60 min kept waiting.", round.CostOf(south.VisitId, _ida, 600)!.Value.Sentence);
        Assert.Null(round.CostOf(Guid.NewGuid(), _ida, 600));
        Assert.Null(round.CostOf(south.VisitId, Guid.NewGuid(), 600));
        var roof = Visit("Roof", 5, _ida, 540, 60, needs: [Skill.Roof]);
        Assert.EndsWith("the roof is not light then (07:30 to 16:40).", Round(roof).CostOf(roof.VisitId, _ida, 960)!.Value.Sentence, StringComparison.Ordinal);
    }

    [Fact]
    public void Running_late_shifts_the_rest_and_pulls_nothing_forward()
    {
        var round = Round(Visit("Now", 10, _ida, 540), Visit("Next", 12, _ida, 620), Visit("Last", 14, _ida, 900));
        // At ten still busy for an hour: eleven, two minutes' drive; the last has time enough.
        var late = round.Late(_ida, 600, 60)!;
        Assert.Equal([("Next", 662.0, 42.0), ("Last", 900.0, 0.0)], late.Stops.Select(s => (s.Street, s.FromMin, s.LateMin)));
        Assert.Equal(2, late.Stops[0].DriveMin);
        // Done early: everybody keeps their hour.
        Assert.All(round.Late(_ida, 560, 0)!.Stops, s => Assert.Equal(0, s.LateMin));
        Assert.Empty(round.Late(_ida, 1000, 30)!.Stops);
        Assert.Null(round.Late(Guid.NewGuid(), 600, 0));
    }

    [Fact]
    public void A_day_without_visits_is_as_good_as_it_gets()
    {
        Assert.Equal("No visit is planned.", Histories.Words(Better(Round()).Sentences));
        Assert.Empty(Better(Round()).Moves);
    }

    [Theory]
    [InlineData("any", 90, 0, double.PositiveInfinity)]
    [InlineData("mornings", 90, 0, 690)]
    [InlineData("afternoons", 90, 720, double.PositiveInfinity)]
    public void A_wish_is_a_window(string when, double minutes, double earliest, double latest)
    {
        var wish = new VisitWish(when, []);
        Assert.Equal((earliest, latest), wish.Window(minutes));
        // At both ends of it nothing stands against the time.
        foreach (var at in new[] { Math.Max(earliest, 480), Math.Min(latest, 900) })
            Assert.Null(wish.Against(new DateTime(2027, 10, 13).AddMinutes(at), (int)minutes));
    }
}
