using Grate.Core.Service;
using Grate.Core.Tests.Visits;
using Grate.Solvers;

namespace Grate.Core.Tests.Service;

/// <summary>A day's round: as planned, better, without somebody, and what a change costs.</summary>
public class DayRoundTests
{
    private static readonly Guid _ida = Guid.CreateVersion7(), _jorun = Guid.CreateVersion7();
    private static readonly DateOnly _day = new(2027, 10, 13);
    private static readonly Whereabouts _home = new(47.1, 10.2, 600);

    // A minute a hundredth of a degree north: drives that a head can add.
    private static double Drive(double lat1, double lon1, double lat2, double lon2) => Math.Round(100 * (Math.Abs(lat1 - lat2) + Math.Abs(lon1 - lon2)), 6);

    private static DayVisit Visit(string street, double north, Guid who, double from, double minutes = 60, bool told = false, bool stands = false, bool urgent = false, Skill[]? needs = null, VisitWish? wish = null) =>
        new(Guid.CreateVersion7(), 1, street, "Tarnwick", _home.Latitude + north / 100, _home.Longitude, who, from, minutes, told, stands, urgent, needs ?? [], wish ?? VisitWish.Any);

    private static DayRound Round(params DayVisit[] visits) => new(_day, FirmWays.Ordinary, _home, 450, 1000, visits, [new(_ida, "Ida", [], false), new(_jorun, "Jorun", [], false)], Drive);

    private static BetterRounds Better(DayRound round, bool keepTold = true, params Guid[] without) => new RoundSearch([round], keepTold, without).Find(new RoundSolver(), TimeSpan.FromSeconds(0.3));

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
        Assert.Equal(62 + 62, plan.Days[0].Routes.Sum(r => r.DriveMin), 1e-6);
        Assert.Empty(plan.Left);
        Assert.All(plan.Days[0].Routes.SelectMany(r => r.Stops), s => Assert.Equal(0, s.FromMin % 5));
        Assert.Contains("124 min of driving instead of 244", Histories.Words(plan.Sentences), StringComparison.Ordinal);
        Assert.All(plan.Moves, m => Assert.Contains(m.To, (string[])["Ida", "Jorun"]));
    }

    [Fact]
    public void Who_was_told_keeps_the_hour_unless_it_is_given_up()
    {
        var round = Round(Visit("North 1", 30, _ida, 540, told: true), Visit("South 1", -30, _ida, 660, told: true), Visit("North 2", 31, _jorun, 540, told: true), Visit("South 2", -31, _jorun, 660, told: true));
        var kept = Better(round);
        Assert.Empty(kept.Moves);
        Assert.Equal("The day is as good as it gets: nothing moves. That nobody who was told is moved costs 120 min of driving.", Histories.Words(kept.Sentences));
        var free = Better(round, keepTold: false);
        Assert.True(free.Days[0].Routes.Sum(r => r.DriveMin) < kept.Days[0].Routes.Sum(r => r.DriveMin) / 1.5);
        Assert.Contains($"{free.Moves.Count} of them told already", Histories.Words(free.Sentences), StringComparison.Ordinal);
    }

    [Fact]
    public void When_somebody_is_ill_the_others_take_over_what_they_can()
    {
        var begun = Visit("Begun", 5, _ida, 480, 30, stands: true);
        var round = Round(begun, Visit("Morning", 6, _ida, 540, wish: new("mornings", [])), Visit("Noon", 7, _ida, 720), Visit("Hers", 8, _jorun, 600, told: true));
        var plan = Better(round, true, _ida);
        Assert.Equal(["Jorun"], plan.Days[0].Routes.Where(r => r.Stops.Count > 0).Select(r => r.Name));
        // What was begun is not hers to make, and her own promise stands.
        Assert.DoesNotContain(plan.Days[0].Routes.SelectMany(r => r.Stops), s => s.VisitId == begun.VisitId);
        Assert.DoesNotContain(plan.Moves, m => m.Street == "Hers");
        Assert.Equal(["Morning", "Noon"], plan.Moves.Select(m => m.Street).Order(StringComparer.Ordinal));
        Assert.All(plan.Moves, m => Assert.Equal(("Ida", "Jorun"), (m.From, m.To)));
        Assert.InRange(plan.Days[0].Routes[0].Stops.Single(s => s.Street == "Morning").FromMin, 480, 720);
        // What goes on before the day begins stands, though the plan has no place for it; a promise that is given up is told.
        var early = Better(Round(Visit("Early", 30, _ida, 300, 600, stands: true), Visit("Full", 1, _ida, 600, 500, told: true)) with { Vans = [new(_ida, "Ida", [], false)] });
        Assert.DoesNotContain(early.Left, l => l.Street == "Early");
        Assert.DoesNotContain(early.Moves, m => m.Street == "Early");
        Assert.EndsWith("The household was told.", early.Left.Single(l => l.Street == "Full").Why.ToString(), StringComparison.Ordinal);
        // What cannot wait comes before what somebody has already.
        var pressing = Better(Round(Visit("Urgent", 5, _ida, 540, 300, urgent: true), Visit("Long", 6, _jorun, 540, 300)), true, _ida);
        Assert.Equal(("Long", "Urgent"), (Assert.Single(pressing.Left).Street, Assert.Single(pressing.Moves).Street));
        // Nobody is left: nothing has a place, and it is said.
        var none = Better(round, true, _ida, _jorun);
        Assert.Equal(3, none.Left.Count);
        Assert.All(none.Left, l => Assert.Contains("nobody goes out. It needs another day.", l.Why.ToString(), StringComparison.Ordinal));
    }

    [Fact]
    public void Skills_decide_who_goes_and_where_nobody_is_down_for_it_that_is_said()
    {
        DayRound With(string[] ida, string[] jorun, Skill need) => Round(Visit("Heater", 10, _ida, 540, needs: [need])) with { Vans = [new(_ida, "Ida", ida, false), new(_jorun, "Jorun", jorun, false)] };
        Assert.Equal("Jorun", Better(With(["roof"], ["masonry-heater"], Skill.MasonryHeater)).Days[0].Routes.Single(r => r.Stops.Count > 0).Name);
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
    public void What_is_as_good_keeps_its_technician_and_its_hour()
    {
        // Each has a side of the valley; every hour of it could be another one for the same drive.
        var round = Round(Visit("South", -30, _ida, 600), Visit("South 2", -31, _ida, 700), Visit("North", 30, _jorun, 660), Visit("North 2", 31, _jorun, 800));
        Assert.Empty(Better(round).Moves.Select(m => (m.Street, m.FromMin, m.To, m.ToMin)));
        Assert.Equal("The day is as good as it gets: nothing moves.", Histories.Words(Better(round).Sentences));
        // One that must change hands moves alone: the others keep technician and hour.
        var crossed = Round(Visit("South", -30, _ida, 515, 150), Visit("South 2", -31, _jorun, 515, 150), Visit("North", 30, _jorun, 730, 150));
        var move = Assert.Single(Better(crossed).Moves);
        Assert.Equal(("South 2", "Ida"), (move.Street, move.To));
    }

    [Fact]
    public void What_promises_cost_is_said_beside_what_they_keep()
    {
        var round = Round(Visit("North 1", 30, _ida, 540, told: true), Visit("South 1", -30, _ida, 660), Visit("North 2", 31, _jorun, 540), Visit("South 2", -31, _jorun, 660));
        // Ida is bound to the north at nine; that costs nothing.
        Assert.DoesNotContain("costs", Histories.Words(Better(round).Sentences), StringComparison.Ordinal);
        // Both ends at both hours are promised: 244 min of driving, and 124 without.
        var bound = Round([.. round.Visits.Select(v => v with { Told = true })]);
        Assert.Contains("That nobody who was told is moved costs 120 min of driving.", Histories.Words(Better(bound).Sentences), StringComparison.Ordinal);
        // Or a place: two are promised the same hour of the one who goes out.
        var twice = Round(Visit("Here", 1, _ida, 540, told: true), Visit("There", 90, _ida, 600, told: true)) with { Vans = [new(_ida, "Ida", [], false)] };
        var kept = Better(twice);
        Assert.Single(kept.Left);
        Assert.Contains("That nobody who was told is moved costs 1 visit a place.", Histories.Words(kept.Sentences), StringComparison.Ordinal);
    }

    private static DayRound On(int day, params DayVisit[] visits) => Round(visits) with { Day = _day.AddDays(day), Vans = [new(_ida, "Ida", [], false)] };

    private static BetterRounds Week(bool keepTold, params DayRound[] days) => new RoundSearch(days, keepTold, []).Find(new RoundSolver(), TimeSpan.FromSeconds(0.3));

    [Fact]
    public void In_a_week_towns_share_a_day_and_only_what_may_leaves_its_own()
    {
        DayRound[] Days(Func<DayVisit, DayVisit> south) => [On(0, Visit("North 1", 30, _ida, 540, 150), Visit("South 1", -30, _ida, 760, 150)), On(1, Visit("North 2", 31, _ida, 540, 150), south(Visit("South 2", -31, _ida, 760, 150)))];
        // North and south each day: 2 × (30 + 60 + 30) + 4; a day for each: 62 each.
        var week = Week(true, Days(v => v));
        Assert.True(week.Proven);
        Assert.Equal(124, week.Days.Sum(d => d.Routes.Sum(r => r.DriveMin)), 1e-6);
        Assert.Equal(2, week.Moves.Count);
        Assert.All(week.Moves, m => Assert.NotEqual(m.FromDay, m.ToDay));
        Assert.Contains("124 min of driving instead of 244; 2 visits move, 2 of them to another day.", Histories.Words(week.Sentences), StringComparison.Ordinal);
        // Whoever was told, is begun, takes two, or waits for parts does not come to an earlier day; Thursday is no day for some.
        foreach (var stays in (Func<DayVisit, DayVisit>[])[v => v with { Told = true }, v => v with { Stands = true }, v => v with { Helpers = [_jorun] }, v => v with { WantsParts = true }, v => v with { Wish = new("any", ["wednesday"]) }])
        {
            var kept = Week(true, Days(stays));
            Assert.DoesNotContain(kept.Moves, m => m.Street == "South 2" && m.ToDay != m.FromDay);
            Assert.Empty(kept.Left);
            // The others go round it: all south on its day.
            Assert.Equal(["South 1", "South 2"], kept.Days[1].Routes.Single().Stops.Select(s => s.Street).Order(StringComparer.Ordinal));
        }
        // Nobody goes out on a Sunday but for what was planned there.
        var sunday = Week(true, On(3, Visit("North 1", 30, _ida, 540), Visit("South 1", -30, _ida, 700)), On(4, Visit("South 2", -31, _ida, 700)));
        Assert.DoesNotContain(sunday.Moves, m => m.ToDay == _day.AddDays(4));
    }

    [Fact]
    public void A_roof_goes_to_the_day_that_is_light_enough()
    {
        DayVisit roof = Visit("Roof", 5, _ida, 540, 120, needs: [Skill.Roof], wish: new("afternoons", []));
        var week = Week(true, On(0, roof) with { DuskMin = 800 }, On(1) with { DuskMin = 1000 });
        Assert.Equal(_day.AddDays(1), Assert.Single(week.Moves).ToDay);
        Assert.Contains("it would be dark before the roof is done. At another hour than asked for, Ida could go.", Assert.Single(Week(true, On(0, roof) with { DuskMin = 800 }, On(1) with { DuskMin = 810 }).Left).Why.ToString(), StringComparison.Ordinal);
        // Full days say what they lack.
        DayVisit[] full = [.. Enumerable.Range(0, 4).Select(i => Visit($"Long {i}", 1, _ida, 480 + 120 * i, 120, told: true))];
        Assert.Contains("the others fill the days. It needs another week.", Assert.Single(Week(true, On(0, [.. full, Visit("Big", 1, _ida, 500, 300)]), On(1, [.. full.Select(v => v with { VisitId = Guid.NewGuid() })])).Left).Why.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public void In_the_middle_of_a_day_only_the_rest_of_it_is_laid_anew()
    {
        // At noon one is done, one goes on until half past, one was not begun in time, one is to come.
        var round = Round(Visit("Done", 10, _ida, 540, stands: true), Visit("Now", 20, _ida, 690, stands: true), Visit("Missed", 21, _jorun, 600), Visit("Later", 22, _jorun, 900));
        var rest = round.Rest(720);
        Assert.Equal(["Missed", "Later"], rest.Visits.Select(v => v.Street));
        Assert.Equal([(20.0, 750.0), (0.0, 720.0)], rest.Vans.Select(v => (Math.Round(100 * (v.From!.Latitude - _home.Latitude), 6), v.From.Min)));
        var plan = Better(rest);
        Assert.Empty(plan.Left);
        Assert.All(plan.Days[0].Routes.SelectMany(r => r.Stops), s => Assert.True(s.FromMin >= 720));
        // After the last hour nothing has a place any more.
        Assert.Equal(2, Better(round.Rest(1010)).Left.Count);
    }

    [Fact]
    public void What_takes_several_is_driven_by_each_and_planned_by_hand_when_one_falls_out()
    {
        var both = Visit("Heavy", 20, _ida, 540) with { Helpers = [_jorun] };
        var round = Round(both, Visit("Near it", 21, _jorun, 700));
        Assert.Equal([40.0, 42.0], round.AsPlanned().Select(r => r.DriveMin));
        Assert.Equal("The day is as good as it gets: nothing moves.", Histories.Words(Better(round).Sentences));
        // Jorun is there while Ida is: she cannot be elsewhere.
        Assert.All(Better(round).Days[0].Routes, r => Assert.Contains(r.Stops, s => s.Street == "Heavy" && s.FromMin == 540));
        var ill = Better(round, true, _jorun);
        Assert.Contains("Heavy takes several, and one of them does not go out: plan it by hand.", Histories.Words(ill.Sentences), StringComparison.Ordinal);
        Assert.Equal("Near it", Assert.Single(ill.Moves).Street);
        Assert.Empty(ill.Left);
    }

    [Fact]
    public void A_search_tells_how_far_it_is_and_halted_keeps_what_it_has()
    {
        DayVisit[] many = [.. Enumerable.Range(0, 14).Select(i => Visit($"Stop {i}", (i % 2 == 0 ? 20 : -20) + i, i % 3 == 0 ? _ida : _jorun, 480 + 30 * i, 30))];
        var told = new List<RoundProgress>();
        using var halt = new CancellationTokenSource();
        var clock = System.Diagnostics.Stopwatch.StartNew();
        var plan = new RoundSearch([Round(many)], true, []).Find(new RoundSolver(), TimeSpan.FromMinutes(5), at =>
        {
            told.Add(at);
            if (told.Count == 3)
                halt.Cancel();
        }, halt.Token);
        Assert.Equal(3, told.Count);
        Assert.True(clock.Elapsed < TimeSpan.FromMinutes(1));
        Assert.All(told, t => Assert.InRange(t.Done, 0, 1));
        Assert.True(told[2].DriveMin <= told[0].DriveMin);
        Assert.Equal(14, plan.Days[0].Routes.Sum(r => r.Stops.Count));
        Assert.Contains("not proven", Histories.Words(plan.Sentences), StringComparison.Ordinal);
        // Never worse than what is planned, however short the search.
        Assert.True(plan.Days[0].Routes.Sum(r => r.DriveMin) < Round(many).AsPlanned().Sum(r => r.DriveMin));
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
