namespace Grate.Core.Service;

/// <summary>A stop to be made on a day; times are minutes since local midnight.</summary>
/// <param name="Id">Its id, 1 to 80 characters; needed.</param>
/// <param name="Lat">Latitude, °; needed.</param>
/// <param name="Lon">Longitude, °; needed.</param>
/// <param name="ServiceMin">How long it takes, 0..1 440 min; needed.</param>
/// <param name="Window">From and to when the customer wants it to begin; null for any time.</param>
/// <param name="Urgent">Whether it cannot wait; default no.</param>
/// <param name="ColdFromMin">When the stove is cold; null where it is.</param>
/// <param name="NeedsDaylight">Whether somebody goes on the roof; default no.</param>
public sealed record RoundStopEntry(string? Id = null, double? Lat = null, double? Lon = null, double? ServiceMin = null, IReadOnlyList<double>? Window = null, bool? Urgent = null, double? ColdFromMin = null,
    bool? NeedsDaylight = null);

/// <summary>A place.</summary>
/// <param name="Lat">Latitude, °; needed.</param>
/// <param name="Lon">Longitude, °; needed.</param>
public sealed record RoundPlaceEntry(double? Lat = null, double? Lon = null);

/// <summary>A pause.</summary>
/// <param name="Window">From and to when it may begin; needed.</param>
/// <param name="Minutes">How long, 1..300; needed.</param>
public sealed record RoundLunchEntry(IReadOnlyList<double>? Window = null, double? Minutes = null);

/// <summary>A van of a day.</summary>
/// <param name="Id">Its id, 1 to 80 characters; needed.</param>
/// <param name="Start">Where it starts; needed.</param>
/// <param name="End">Where it ends; null: where it starts.</param>
/// <param name="DayStartMin">When it may leave; default 480.</param>
/// <param name="DayEndMin">When it is to be at its end; default 1020.</param>
/// <param name="Lunch">Its pause; null for none.</param>
public sealed record RoundVanEntry(string? Id = null, RoundPlaceEntry? Start = null, RoundPlaceEntry? End = null, double? DayStartMin = null, double? DayEndMin = null, RoundLunchEntry? Lunch = null);

/// <summary>The question of POST /api/calculations/round.</summary>
/// <param name="Stops">Stops, at most 120.</param>
/// <param name="Vans">Vans, at most 12.</param>
/// <param name="Daylight">From and to; default 480 to 960, asked only where a stop needs it.</param>
/// <param name="SpeedKmh">Speed, 1..200 km/h; default 45.</param>
/// <param name="RoadFactor">Road over great circle, 1..5; default 1.3.</param>
/// <param name="HardLateMin">Most that anybody is kept waiting, 0..1 440 min; default 60.</param>
public sealed record RoundEntry(IReadOnlyList<RoundStopEntry>? Stops = null, IReadOnlyList<RoundVanEntry>? Vans = null, IReadOnlyList<double>? Daylight = null, double? SpeedKmh = null, double? RoadFactor = null,
    double? HardLateMin = null);

/// <summary>A stop as it is made.</summary>
/// <param name="Id">The stop.</param>
/// <param name="ArriveMin">When the van arrives.</param>
/// <param name="StartMin">When service begins.</param>
/// <param name="LeaveMin">When driving starts, after a lunch taken there.</param>
/// <param name="LateMin">How long after its window it begins.</param>
public sealed record RoundStopTimes(string Id, double ArriveMin, double StartMin, double LeaveMin, double LateMin);

/// <summary>A van's route.</summary>
/// <param name="Van">The van.</param>
/// <param name="DepartMin">When it leaves its start.</param>
/// <param name="Stops">Stops in order.</param>
/// <param name="LunchStartMin">When lunch begins; null where none is taken.</param>
/// <param name="EndMin">When it is at its end.</param>
/// <param name="DriveMin">Minutes driven.</param>
/// <param name="LateMin">Minutes late.</param>
public sealed record RoundRoute(string Van, double DepartMin, IReadOnlyList<RoundStopTimes> Stops, double? LunchStartMin, double EndMin, double DriveMin, double LateMin);

/// <summary>Why a stop has no place.</summary>
[JsonConverter(typeof(WordConverter<UnplacedReason>))]
public enum UnplacedReason
{
    /// <summary>Alone it could be made: the others fill the day.</summary>
    NoRoom,

    /// <summary>The stove is cold too late.</summary>
    Cold,

    /// <summary>Nobody is there in time for its window.</summary>
    Window,

    /// <summary>It would be dark before it is done.</summary>
    Daylight,

    /// <summary>The van would not be home in time.</summary>
    DayEnd,

    /// <summary>No van goes out.</summary>
    NoVan,
}

/// <summary>A stop without a place.</summary>
/// <param name="Id">The stop.</param>
/// <param name="Reason">Why.</param>
public sealed record UnplacedStop(string Id, UnplacedReason Reason);

/// <summary>What a plan comes to.</summary>
/// <param name="UnplacedUrgent">Urgent stops without a place.</param>
/// <param name="Unplaced">Stops without a place.</param>
/// <param name="DriveMin">Minutes driven.</param>
/// <param name="LateMin">Minutes late.</param>
/// <param name="Cost">driveMin + 3 · lateMin.</param>
public sealed record RoundObjective(int UnplacedUrgent, int Unplaced, double DriveMin, double LateMin, double Cost);

/// <summary>The answer of POST /api/calculations/round (handbook 10 section 6).</summary>
/// <param name="Routes">Routes of the vans that go out.</param>
/// <param name="Unplaced">Stops without a place, and why.</param>
/// <param name="Objective">What it comes to.</param>
/// <param name="ProvenOptimal">Whether it is proven that none is better.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record RoundAnswer(IReadOnlyList<RoundRoute> Routes, IReadOnlyList<UnplacedStop> Unplaced, RoundObjective Objective, bool ProvenOptimal, IReadOnlyList<Assumed> Assumed)
{
    private const int MostStops = 120, MostVans = 12, LongestId = 80;

    private static readonly TimeSpan _time = TimeSpan.FromSeconds(3.5);

    private static readonly Limit
        _dayStart = Limit.Assumed(480, "min", "eight o'clock"),
        _dayEnd = Limit.Assumed(1020, "min", "five o'clock"),
        _dusk = Limit.Assumed(960, "min", "dark from four o'clock on in winter");

    private static readonly EntryRange
        _service = new("Service time in min", Quantity.Ratio, 0, 1440),
        _clock = new("Time of day in min since midnight", Quantity.Ratio, 0, 2880),
        _pause = new("Pause in min", Quantity.Ratio, 1, 300),
        _speed = new("Speed in km/h", Quantity.Ratio, 1, 200),
        _winding = new("Road over great circle", Quantity.Ratio, 1, 5),
        _late = new("Most minutes late", Quantity.Ratio, 0, 1440);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static RoundAnswer? To(RoundEntry entry, EntryErrors errors, IRoundSolver solver)
    {
        var assumed = new Assumptions();
        var stops = errors.Each("stops", entry.Stops, MostStops, "stops");
        var vans = errors.Each("vans", entry.Vans, MostVans, "vans");
        var ids = new HashSet<string>();
        foreach (var (stop, i) in stops)
        {
            CheckId($"stops[{i}].id", stop.Id, "stop", ids, errors);
            CheckPlace($"stops[{i}]", stop.Lat, stop.Lon, errors);
            errors.Need($"stops[{i}].serviceMin", stop.ServiceMin, _service);
            CheckSpan($"stops[{i}].window", stop.Window, errors);
            errors.Check($"stops[{i}].coldFromMin", stop.ColdFromMin, _clock);
        }
        ids.Clear();
        foreach (var (van, i) in vans)
        {
            CheckId($"vans[{i}].id", van.Id, "van", ids, errors);
            if (van.Start is null)
                errors.Add($"vans[{i}].start", "Where the van starts is missing.");
            else
                CheckPlace($"vans[{i}].start", van.Start.Lat, van.Start.Lon, errors);
            if (van.End is not null)
                CheckPlace($"vans[{i}].end", van.End.Lat, van.End.Lon, errors);
            errors.Check($"vans[{i}].dayStartMin", van.DayStartMin, _clock);
            errors.Check($"vans[{i}].dayEndMin", van.DayEndMin, _clock);
            if (van.Lunch is not { } lunch)
                continue;
            if (lunch.Window is null)
                errors.Add($"vans[{i}].lunch.window", "From and to when lunch may begin is missing: two times.");
            CheckSpan($"vans[{i}].lunch.window", lunch.Window, errors);
            errors.Need($"vans[{i}].lunch.minutes", lunch.Minutes, _pause);
        }
        CheckSpan("daylight", entry.Daylight, errors);
        errors.Check("speedKmh", entry.SpeedKmh, _speed);
        errors.Check("roadFactor", entry.RoadFactor, _winding);
        errors.Check("hardLateMin", entry.HardLateMin, _late);
        if (errors.Any)
            return null;
        if (entry.Daylight is null && stops.Any(s => s.Item.NeedsDaylight == true))
        {
            assumed.Or(null, "daylight[0]", _dayStart);
            assumed.Or(null, "daylight[1]", _dusk);
        }
        var light = entry.Daylight is [var dawn, var dusk] ? new RoundProblem.DayLight(dawn, dusk) : new(_dayStart.Value, _dusk.Value);
        var minutesPerKm = assumed.Or(entry.RoadFactor, "roadFactor", Road.Winding) / assumed.Or(entry.SpeedKmh, "speedKmh", Road.SpeedKmH) * 60;
        var problem = new RoundProblem(
            [.. stops.Select(s => s.Item).Select(s => new RoundProblem.Job(s.Id!, s.Lat!.Value, s.Lon!.Value, s.ServiceMin!.Value, s.Window?[0] ?? 0, s.Window?[1] ?? double.PositiveInfinity, s.Urgent == true, s.ColdFromMin, s.NeedsDaylight == true))],
            [
                .. vans.Select(v => (v.Item, v.At)).Select(v => new RoundProblem.Van(v.Item.Id!, v.Item.Start!.Lat!.Value, v.Item.Start.Lon!.Value, (v.Item.End ?? v.Item.Start).Lat!.Value, (v.Item.End ?? v.Item.Start).Lon!.Value,
                    assumed.Or(v.Item.DayStartMin, $"vans[{v.At}].dayStartMin", _dayStart), assumed.Or(v.Item.DayEndMin, $"vans[{v.At}].dayEndMin", _dayEnd),
                    v.Item.Lunch is { } lunch ? new RoundProblem.Pause(lunch.Window![0], lunch.Window[1], lunch.Minutes!.Value) : null, light)),
            ], (lat1, lon1, lat2, lon2) => Climate.DistanceKm(lat1, lon1, lat2, lon2) * minutesPerKm, assumed.Or(entry.HardLateMin, "hardLateMin", RoundProblem.UsualHardLate));
        var plan = solver.Solve(problem, _time);
        var routes = plan.Orders.Select((order, v) => order.Count == 0 ? null : problem.Route(v, order)).OfType<RoundRoute>().ToList();
        var placed = plan.Orders.SelectMany(o => o).ToHashSet();
        var left = Enumerable.Range(0, problem.Stops.Count).Where(s => !placed.Contains(s)).ToList();
        var (drive, late) = (routes.Sum(r => r.DriveMin), routes.Sum(r => r.LateMin));
        return new(routes, [.. left.Select(s => new UnplacedStop(problem.Stops[s].Id, problem.WhyNot(s)))],
            new(problem.UnplacedUrgent(plan.Orders), left.Count, drive, late, drive + RoundProblem.LateCosts * late), plan.Proven, assumed.Used);
    }

    private static void CheckId(string field, string? id, string what, HashSet<string> ids, EntryErrors errors)
    {
        if (errors.CheckText(field, id, $"A {what}'s id", LongestId, needed: true) && !ids.Add(id!))
            errors.Add(field, $"“{id}” stands twice: every {what} once.");
    }

    private static void CheckPlace(string field, double? lat, double? lon, EntryErrors errors)
    {
        errors.Need($"{field}.lat", lat, Whereabouts.LatitudeRange);
        errors.Need($"{field}.lon", lon, Whereabouts.LongitudeRange);
    }

    private static void CheckSpan(string field, IReadOnlyList<double>? span, EntryErrors errors)
    {
        if (span is null)
            return;
        if (span.Count != 2)
            errors.Add(field, $"From and to: two times; {span.Count} were sent.");
        else if (errors.Check($"{field}[0]", span[0], _clock) & errors.Check($"{field}[1]", span[1], _clock) && span[0] > span[1])
            errors.Add(field, $"It ends at {span[1]:0.##} before it begins at {span[0]:0.##}.");
    }
}

/// <summary>How far a search for a round is.</summary>
/// <param name="Done">Share of its time, 0 to 1.</param>
/// <param name="DriveMin">Minutes driven in the best plan so far.</param>
/// <param name="Unplaced">Stops without a place in it.</param>
public sealed record RoundProgress(double Done, double DriveMin, int Unplaced);

/// <summary>Plans a round.</summary>
public interface IRoundSolver
{
    /// <summary>The best orders that were found.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="time">After so long the best plan so far is taken.</param>
    /// <param name="progress">Told now and then how far it is; a small day is found at once and tells nothing.</param>
    /// <param name="halt">Ends it sooner; the best plan so far is taken.</param>
    RoundPlan Solve(RoundProblem problem, TimeSpan time, Action<RoundProgress>? progress = null, CancellationToken halt = default);
}

/// <summary>A plan: which stops each van makes, in which order.</summary>
/// <param name="Orders">Places of the stops, van by van.</param>
/// <param name="Proven">Whether none is better.</param>
public sealed record RoundPlan(IReadOnlyList<IReadOnlyList<int>> Orders, bool Proven);
