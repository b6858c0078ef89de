using System.Text.Json;
using Grate.Core.Service;
using Grate.Solvers;

namespace Grate.Core.Tests.Service;

/// <summary>Rounds: handbook 10 section 6, small days against a program that tries everything, large ones against every rule one by one.</summary>
public class RoundTests
{
    private static readonly JsonSerializerOptions _json = new(JsonSerializerDefaults.Web);

    private static RoundAnswer Of(RoundEntry entry) => Calculation.Answered(e => RoundAnswer.To(entry, e, new RoundSolver()));

    private static RoundStopEntry Stop(string id, double lat, double lon, double service = 60) => new(id, lat, lon, service);

    private static RoundVanEntry Van(string id = "v1", double lat = 47.1, double lon = 10.2, RoundLunchEntry? lunch = null, double? to = null) => new(id, new(lat, lon), Lunch: lunch, DayEndMin: to);

    [Fact]
    public void There_and_back_as_worked_in_the_handbook()
    {
        var answer = Of(new([Stop("s1", 47.25, 10.45)], [Van()]));
        Assert.Equal(87.376, answer.Objective.Cost, 0.001);
        var stop = answer.Routes.Single().Stops.Single();
        Assert.Equal(480 + 43.688, stop.ArriveMin, 0.001);
        Assert.Equal(stop.ArriveMin + 60, stop.LeaveMin, 1e-9);
        Assert.True(answer.ProvenOptimal);
        Assert.Equal(["hardLateMin", "roadFactor", "speedKmh", "vans[0].dayEndMin", "vans[0].dayStartMin"], answer.Assumed.Select(a => a.Field).Order(StringComparer.Ordinal));
    }

    // round.py tries every share-out, order and lunch, apart from this code.
    [Fact]
    public void Small_days_are_as_good_as_trying_everything()
    {
        var cases = JsonDocument.Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Outside/round.json"))).RootElement.EnumerateArray().ToList();
        Assert.Equal(8, cases.Count);
        foreach (var @case in cases)
        {
            var entry = @case.GetProperty("question").Deserialize<RoundEntry>(_json)!;
            var answer = Of(entry);
            Assert.True(answer.ProvenOptimal);
            var best = @case.GetProperty("best");
            Assert.Equal((best.GetProperty("unplacedUrgent").GetInt32(), best.GetProperty("unplaced").GetInt32()), (answer.Objective.UnplacedUrgent, answer.Objective.Unplaced));
            Assert.Equal(best.GetProperty("cost").GetDouble(), answer.Objective.Cost, 1e-6);
            AssertKept(entry, answer);
        }
    }

    private static RoundEntry Busy(int stops, int vans, int seed)
    {
        var chance = new Random(seed);
        double Lat() => 47 + 0.25 * chance.NextDouble();
        double Lon() => 10 + 0.35 * chance.NextDouble();
        return new(
            [
                .. Enumerable.Range(0, stops).Select(i =>
                {
                    var from = 480 + 60 * chance.Next(6);
                    return new RoundStopEntry($"s{i}", Lat(), Lon(), 15 + 15 * chance.Next(3), chance.Next(2) == 0 ? [from, from + 120] : null, chance.Next(6) == 0, chance.Next(8) == 0 ? 660 : null, chance.Next(5) == 0);
                }),
            ],
            [.. Enumerable.Range(0, vans).Select(v => new RoundVanEntry($"v{v}", new(Lat(), Lon()), DayStartMin: 450, DayEndMin: 1080, Lunch: new([690, 780], 30)))]);
    }

    [Fact]
    public void Large_days_keep_every_rule_and_beat_a_simple_hand()
    {
        var entry = Busy(60, 4, 5);
        var answer = Of(entry);
        Assert.False(answer.ProvenOptimal);
        AssertKept(entry, answer);
        var hand = ByHand(entry);
        Assert.True((answer.Objective.UnplacedUrgent, answer.Objective.Unplaced).CompareTo((hand.UnplacedUrgent, hand.Unplaced)) <= 0);
        Assert.True(answer.Objective.Unplaced < hand.Unplaced || answer.Objective.Cost < hand.Cost, $"{answer.Objective} against {hand} by hand");
    }

    // Of a day that both can do, the large way comes within 2 % of what the small one proves.
    [Fact]
    public void The_large_way_comes_near_the_proven_best()
    {
        foreach (var seed in new[] { 1, 2, 3 })
        {
            var entry = Busy(11, 2, seed);
            var proven = Of(entry);
            Assert.True(proven.ProvenOptimal);
            // A stop that nobody can make takes the day beyond what is proven, and changes nothing else.
            var large = Of(entry with { Stops = [.. entry.Stops!, new("never", 47.1, 10.2, 1000)] });
            Assert.False(large.ProvenOptimal);
            Assert.Equal(UnplacedReason.DayEnd, large.Unplaced.Single(u => u.Id == "never").Reason);
            Assert.Equal((proven.Objective.UnplacedUrgent, proven.Objective.Unplaced + 1), (large.Objective.UnplacedUrgent, large.Objective.Unplaced));
            Assert.InRange(large.Objective.Cost, proven.Objective.Cost - 1e-6, proven.Objective.Cost * 1.02);
        }
    }

    // Each van in turn goes to whichever stop it can begin soonest, as somebody without a computer would.
    private static RoundObjective ByHand(RoundEntry entry)
    {
        var left = entry.Stops!.ToList();
        var (drive, late) = (0.0, 0.0);
        foreach (var van in entry.Vans!)
        {
            var (time, ate, lat, lon) = (van.DayStartMin!.Value, false, van.Start!.Lat!.Value, van.Start.Lon!.Value);
            while (true)
            {
                if (!ate && time >= van.Lunch!.Window![0])
                    (ate, time) = (true, time + 30);
                var next = left.Select(s =>
                {
                    var way = Road.Minutes(lat, lon, s.Lat!.Value, s.Lon!.Value);
                    return (Stop: s, Way: way, Begin: new[] { time + way, s.Window?[0] ?? 0, s.ColdFromMin ?? 0, s.NeedsDaylight == true ? 480 : 0 }.Max());
                }).Where(n => n.Begin <= (n.Stop.Window?[1] ?? 9999) && (n.Stop.NeedsDaylight != true || n.Begin + n.Stop.ServiceMin <= 960)
                    && n.Begin + n.Stop.ServiceMin + (ate ? 0 : 30) + Road.Minutes(n.Stop.Lat!.Value, n.Stop.Lon!.Value, van.Start.Lat.Value, van.Start.Lon.Value) <= 1080).OrderBy(n => n.Begin).FirstOrDefault();
                if (next.Stop is null)
                    break;
                (time, drive, lat, lon) = (next.Begin + next.Stop.ServiceMin!.Value, drive + next.Way, next.Stop.Lat!.Value, next.Stop.Lon!.Value);
                left.Remove(next.Stop);
            }
            drive += Road.Minutes(lat, lon, van.Start.Lat.Value, van.Start.Lon.Value);
        }
        return new(left.Count(s => s.Urgent == true), left.Count, drive, late, drive + 3 * late);
    }

    // Every rule of the contract, read off the answer's own clock.
    private static void AssertKept(RoundEntry entry, RoundAnswer answer)
    {
        var stops = entry.Stops!.ToDictionary(s => s.Id!);
        Assert.Equal(stops.Keys.Order(), answer.Routes.SelectMany(r => r.Stops.Select(s => s.Id)).Concat(answer.Unplaced.Select(u => u.Id)).Order());
        Assert.Equal(answer.Routes.Sum(r => r.DriveMin) + 3 * answer.Routes.Sum(r => r.LateMin), answer.Objective.Cost, 1e-6);
        foreach (var route in answer.Routes)
        {
            var van = entry.Vans!.Single(v => v.Id == route.Van);
            var (start, end) = (van.DayStartMin ?? 480, van.DayEndMin ?? 1020);
            var (time, lat, lon, drive, late) = (route.DepartMin, van.Start!.Lat!.Value, van.Start.Lon!.Value, 0.0, 0.0);
            Assert.True(route.DepartMin >= start - 1e-6);
            // While the van stands: before it leaves, at a door, or after a service.
            var stands = new List<(double From, double To)> { (start, route.DepartMin) };
            foreach (var made in route.Stops)
            {
                var stop = stops[made.Id];
                var way = Road.Minutes(lat, lon, stop.Lat!.Value, stop.Lon!.Value);
                Assert.Equal(time + way, made.ArriveMin, 1e-6);
                Assert.True(made.StartMin >= Math.Max(made.ArriveMin, Math.Max(stop.Window?[0] ?? 0, stop.ColdFromMin ?? 0)) - 1e-6);
                var over = Math.Max(0, made.StartMin - (stop.Window?[1] ?? 9999));
                Assert.Equal(over, made.LateMin, 1e-6);
                Assert.True(over <= 60 + 1e-6);
                var done = made.StartMin + stop.ServiceMin!.Value;
                if (stop.NeedsDaylight == true)
                    Assert.True(made.StartMin >= 480 - 1e-6 && done <= 960 + 1e-6);
                Assert.True(made.LeaveMin >= done - 1e-6);
                stands.AddRange([(made.ArriveMin, made.StartMin), (done, made.LeaveMin)]);
                (time, lat, lon, drive, late) = (made.LeaveMin, stop.Lat.Value, stop.Lon.Value, drive + way, late + over);
            }
            var home = Road.Minutes(lat, lon, (van.End ?? van.Start).Lat!.Value, (van.End ?? van.Start).Lon!.Value);
            Assert.Equal(drive + home, route.DriveMin, 1e-6);
            Assert.Equal(late, route.LateMin, 1e-6);
            Assert.Equal(time + home, route.EndMin, 1e-6);
            Assert.True(route.EndMin <= end + 1e-6);
            if (van.Lunch is not { } lunch)
                continue;
            if (route.LunchStartMin is { } begins)
            {
                Assert.InRange(begins, lunch.Window![0] - 1e-6, lunch.Window[1] + 1e-6);
                Assert.Contains(stands, s => s.From <= begins + 1e-6 && begins + lunch.Minutes <= s.To + 1e-6);
            }
            else
                Assert.True(route.EndMin <= lunch.Window![1] + 1e-6 || start > lunch.Window[1]);
        }
    }

    [Fact]
    public void Why_a_stop_has_no_place()
    {
        UnplacedReason Why(RoundStopEntry stop, params RoundVanEntry[] vans) => Of(new([stop], vans)).Unplaced.Single().Reason;
        var far = Stop("s", 47.25, 10.45);
        Assert.Equal(UnplacedReason.NoVan, Why(far));
        Assert.Equal(UnplacedReason.Window, Why(far with { Window = [400, 430] }, Van()));
        Assert.Equal(UnplacedReason.Daylight, Why(far with { ServiceMin = 500, NeedsDaylight = true }, Van(to: 1400)));
        Assert.Equal(UnplacedReason.DayEnd, Why(far with { ServiceMin = 500 }, Van()));
        Assert.Equal(UnplacedReason.Cold, Why(far with { ColdFromMin = 1000 }, Van()));
        // Cold too late, and too far away even without that: it is the distance.
        Assert.Equal(UnplacedReason.DayEnd, Why(far with { ColdFromMin = 1000, ServiceMin = 500 }, Van()));
        // No pause can begin in time: home is too late for lunch there.
        Assert.Equal(UnplacedReason.DayEnd, Why(far with { ServiceMin = 200 }, Van(lunch: new([481, 482], 300), to: 900)));
        // One van fails at the window, the other gets as far as the day's end.
        Assert.Equal(UnplacedReason.DayEnd, Why(far with { Window = [500, 520], ServiceMin = 520 }, Van("v1", 48.5, 12), Van("v2", 47.25, 10.45, to: 900)));
        // Two that each fill the day: one has no room, and the urgent one is not that.
        var day = Of(new([Stop("a", 47.1, 10.2, 400), Stop("b", 47.1, 10.2, 400) with { Urgent = true }], [Van()]));
        Assert.Equal(("a", UnplacedReason.NoRoom), (day.Unplaced.Single().Id, day.Unplaced.Single().Reason));
    }

    [Fact]
    public void Lunch_is_had_while_the_van_stands()
    {
        var lunch = new RoundLunchEntry([690, 780], 30);
        // Waiting at the door may be lunch: it costs nothing.
        var waits = Of(new([Stop("s", 47.1, 10.2) with { Window = [760, 800] }], [Van(lunch: lunch)])).Routes.Single();
        Assert.Equal(690, waits.LunchStartMin);
        Assert.Equal(760, waits.Stops.Single().StartMin);
        // Home by the window's end: no lunch is owed.
        Assert.Null(Of(new([Stop("s", 47.1, 10.2, 120)], [Van(lunch: lunch)])).Routes.Single().LunchStartMin);
        // A day that begins after it owes none.
        Assert.Null(Of(new([Stop("s", 47.1, 10.2, 60)], [Van(lunch: lunch) with { DayStartMin = 800 }])).Routes.Single().LunchStartMin);
    }

    [Fact]
    public void Nothing_to_do_and_bad_entries()
    {
        var idle = Of(new([], [Van()]));
        Assert.Empty(idle.Routes);
        Assert.Equal(0, idle.Objective.Cost);
        Assert.Empty(Of(new()).Unplaced);
        var refused = Calculation.Refusals(e => RoundAnswer.To(new([new("a", 97, 10, -1, [700, 600]), new("a", null, 10, 5, [1]), null!], [new("v", null, Lunch: new(null, 0)), new("v", new(47, 10), DayStartMin: -1)], [1, 2, 3], 0, 0.5, -5), e, new RoundSolver()));
        Assert.Equal(
            ["daylight", "hardLateMin", "roadFactor", "speedKmh", "stops[0].lat", "stops[0].serviceMin", "stops[0].window", "stops[1].id", "stops[1].lat", "stops[1].window", "stops[2]",
                "vans[0].lunch.minutes", "vans[0].lunch.window", "vans[0].start", "vans[1].dayStartMin", "vans[1].id"],
            refused.Keys.Order(StringComparer.Ordinal));
    }
}
