namespace Grate.Core.Service;

/// <summary>Stops and vans of a day, or of several, and what an order of stops comes to on the clock (handbook 10 section 6). Minutes since local midnight.</summary>
public sealed class RoundProblem
{
    /// <summary>A minute late costs as many minutes of driving.</summary>
    public const double LateCosts = 3;

    /// <summary>Most minutes late, where nobody says otherwise.</summary>
    public static readonly Limit UsualHardLate = Limit.Assumed(60, "min", "an hour late is no visit");

    // Sums of minutes in another order come out a little apart.
    private const double Slack = 1e-7;

    private readonly double[,] _between, _from, _to;
    private readonly Func<double, double, double, double, double> _minutes;

    /// <summary>A stop; Earliest and Latest are its window, Latest without end where it has none; Only names the vans that may make it, null for any.</summary>
    public sealed record Job(string Id, double Lat, double Lon, double ServiceMin, double Earliest, double Latest, bool Urgent, double? ColdFrom, bool NeedsDaylight, IReadOnlyCollection<string>? Only = null);

    /// <summary>A pause: when it may begin, and how long it is.</summary>
    public sealed record Pause(double From, double To, double Minutes);

    /// <summary>Sunrise and sunset.</summary>
    public readonly record struct DayLight(double Dawn, double Dusk);

    /// <summary>A van on a day, which may be another one than that of the other vans.</summary>
    public sealed record Van(string Id, double StartLat, double StartLon, double EndLat, double EndLon, double DayStart, double DayEnd, Pause? Lunch, DayLight Light)
    {
        /// <summary>Whether being home then leaves lunch to home, or the day begins after it.</summary>
        public bool OwesNoLunch(double home) => Lunch is null || DayStart > Lunch.To || home <= Lunch.To;
    }

    /// <summary>What an order comes to.</summary>
    /// <param name="Drive">Minutes driven.</param>
    /// <param name="Late">Minutes late.</param>
    /// <param name="End">When the van is home.</param>
    /// <param name="Lunch">Where lunch is taken: −1 nowhere; 2k before driving to the stop in place k; 2k + 1 there, before its service.</param>
    public readonly record struct Times(double Drive, double Late, double End, int Lunch)
    {
        /// <summary>driveMin + 3 · lateMin.</summary>
        public double Cost => Drive + LateCosts * Late;
    }

    /// <summary>A problem.</summary>
    /// <param name="stops">Stops.</param>
    /// <param name="vans">Vans.</param>
    /// <param name="minutes">Minutes of a drive, from latitude and longitude to latitude and longitude.</param>
    /// <param name="hardLate">Most minutes late.</param>
    public RoundProblem(IReadOnlyList<Job> stops, IReadOnlyList<Van> vans, Func<double, double, double, double, double> minutes, double hardLate)
    {
        (Stops, Vans, HardLate, _minutes) = (stops, vans, hardLate, minutes);
        (_between, _from, _to) = (new double[stops.Count, stops.Count], new double[vans.Count, stops.Count], new double[vans.Count, stops.Count]);
        for (var s = 0; s < stops.Count; s++)
        {
            for (var t = 0; t < stops.Count; t++)
                _between[s, t] = minutes(stops[s].Lat, stops[s].Lon, stops[t].Lat, stops[t].Lon);
            for (var v = 0; v < vans.Count; v++)
                (_from[v, s], _to[v, s]) = (minutes(vans[v].StartLat, vans[v].StartLon, stops[s].Lat, stops[s].Lon), minutes(stops[s].Lat, stops[s].Lon, vans[v].EndLat, vans[v].EndLon));
        }
    }

    /// <summary>Stops.</summary>
    public IReadOnlyList<Job> Stops { get; }

    /// <summary>Vans.</summary>
    public IReadOnlyList<Van> Vans { get; }

    /// <summary>Most minutes late.</summary>
    public double HardLate { get; }

    /// <summary>A plan to begin from, van by van; null where there is none.</summary>
    public IReadOnlyList<IReadOnlyList<int>>? Start { get; init; }

    /// <summary>Drive of a van from one stop to another; −1 is its start or its end.</summary>
    public double Drive(int van, int from, int to) => from < 0 ? _from[van, to] : to < 0 ? _to[van, from] : _between[from, to];

    /// <summary>Whether a van may make a stop at all.</summary>
    public bool Takes(int van, int stop) => Stops[stop].Only?.Contains(Vans[van].Id) ?? true;

    /// <summary>When service begins for a van that stands at the door; not a number where it cannot.</summary>
    public double Begin(int van, int stop, double atDoor)
    {
        var start = Soonest(van, stop, atDoor);
        return TooLate(stop, start) || TooDark(van, stop, start) ? double.NaN : start;
    }

    private double Soonest(int van, int stop, double atDoor) => Math.Max(Math.Max(atDoor, Stops[stop].Earliest), Math.Max(Stops[stop].ColdFrom ?? 0, Stops[stop].NeedsDaylight ? Vans[van].Light.Dawn : 0));

    private bool TooLate(int stop, double start) => start - Stops[stop].Latest > HardLate + Slack;

    private bool TooDark(int van, int stop, double start) => Stops[stop].NeedsDaylight && start + Stops[stop].ServiceMin > Vans[van].Light.Dusk + Slack;

    /// <summary>How late a beginning is.</summary>
    public double LateOf(int stop, double start) => Math.Max(0, start - Stops[stop].Latest);

    /// <summary>When a van that may go at a time goes after lunch; not a number where lunch cannot begin then.</summary>
    public static double AfterLunch(Pause lunch, double at) => at > lunch.To + Slack ? double.NaN : Math.Max(at, lunch.From) + lunch.Minutes;

    /// <summary>Whether a van is home in time, its lunch had or not owed.</summary>
    public bool MayEnd(int van, double home, bool hadLunch) => home <= Vans[van].DayEnd + Slack && (hadLunch || Vans[van].OwesNoLunch(home));

    /// <summary>The best that an order of stops comes to: least late, then home soonest; null where it cannot be driven.</summary>
    /// <param name="van">The van.</param>
    /// <param name="order">Places of the stops.</param>
    public Times? Best(int van, IReadOnlyList<int> order)
    {
        // First without lunch: when it may go on from each place where lunch could be, and how late it is by then.
        var places = 2 * order.Count + 1;
        Span<double> goes = stackalloc double[places], late = stackalloc double[order.Count + 1];
        var (time, drive) = (Vans[van].DayStart, 0.0);
        late[0] = 0;
        for (var k = 0; k < order.Count; k++)
        {
            if (!Takes(van, order[k]))
                return null;
            goes[2 * k] = time;
            var way = Drive(van, k > 0 ? order[k - 1] : -1, order[k]);
            (time, drive) = (time + way, drive + way);
            goes[2 * k + 1] = time;
            var begin = Begin(van, order[k], time);
            // Lunch only delays: what is too late without it is too late.
            if (double.IsNaN(begin))
                return null;
            (late[k + 1], time) = (late[k] + LateOf(order[k], begin), begin + Stops[order[k]].ServiceMin);
        }
        goes[^1] = time;
        var back = order.Count == 0 ? 0 : Drive(van, order[^1], -1);
        Times? best = MayEnd(van, time + back, false) ? new(drive + back, late[^1], time + back, -1) : null;
        if (best is { Late: 0 } || Vans[van].Lunch is not { } lunch)
            return best;
        for (var place = 0; place < places && goes[place] <= lunch.To + Slack; place++)
        {
            // Who waits for lunch here and could wait at the next place has that much done.
            if (place + 1 < places && goes[place + 1] <= lunch.From)
                continue;
            var soFar = late[place / 2];
            if (AfterPause(van, order, place, AfterLunch(lunch, goes[place]), ref soFar) is { } home && MayEnd(van, home, true)
                && (best is not { } other || soFar < other.Late - Slack || (soFar <= other.Late + Slack && home < other.End - Slack)))
            {
                best = new(drive + back, soFar, home, place);
            }
        }
        return best;
    }

    // Goes on from a place after lunch there: when the van is home, or null where a stop becomes too late.
    private double? AfterPause(int van, IReadOnlyList<int> order, int place, double time, ref double late)
    {
        for (var k = place / 2; k < order.Count; k++)
        {
            if (place != 2 * k + 1)
                time += Drive(van, k > 0 ? order[k - 1] : -1, order[k]);
            var begin = Begin(van, order[k], time);
            if (double.IsNaN(begin))
                return null;
            (late, time) = (late + LateOf(order[k], begin), begin + Stops[order[k]].ServiceMin);
        }
        return time + (order.Count == 0 ? 0 : Drive(van, order[^1], -1));
    }

    /// <summary>The route of an order that can be driven, on the clock.</summary>
    public RoundRoute Route(int van, IReadOnlyList<int> order)
    {
        var best = Best(van, order)!.Value;
        var (time, lunchAt, stops) = (Vans[van].DayStart, (double?)null, new List<RoundStopTimes>());
        // After lunch, where it is taken in this place.
        void Eat(int place)
        {
            if (place != best.Lunch)
                return;
            time = AfterLunch(Vans[van].Lunch!, time);
            lunchAt = time - Vans[van].Lunch!.Minutes;
        }
        Eat(0);
        var depart = time;
        for (var k = 0; k < order.Count; k++)
        {
            var arrive = time + Drive(van, k > 0 ? order[k - 1] : -1, order[k]);
            time = arrive;
            Eat(2 * k + 1);
            var begin = Begin(van, order[k], time);
            time = begin + Stops[order[k]].ServiceMin;
            Eat(2 * k + 2);
            stops.Add(new(Stops[order[k]].Id, arrive, begin, time, LateOf(order[k], begin)));
        }
        return new(Vans[van].Id, depart, stops, lunchAt, best.End, best.Drive, best.Late);
    }

    /// <summary>Minutes that are driven in a plan.</summary>
    public double DriveOf(IReadOnlyList<IReadOnlyList<int>> orders) => orders.Select((order, van) => order.Count == 0 ? 0 : order.Select((stop, k) => Drive(van, k > 0 ? order[k - 1] : -1, stop)).Sum() + Drive(van, order[^1], -1)).Sum();

    /// <summary>How many stops have no place in a plan.</summary>
    public int Unplaced(IReadOnlyList<IReadOnlyList<int>> orders) => Stops.Count - orders.Sum(o => o.Count);

    /// <summary>How many of them are urgent.</summary>
    public int UnplacedUrgent(IReadOnlyList<IReadOnlyList<int>> orders) => Stops.Count(s => s.Urgent) - orders.Sum(o => o.Count(s => Stops[s].Urgent));

    /// <summary>Why a stop has no place, alone on an empty day.</summary>
    public UnplacedReason WhyNot(int stop)
    {
        if (Vans.Count == 0)
            return UnplacedReason.NoVan;
        int[] alone = [stop];
        if (Enumerable.Range(0, Vans.Count).Any(v => Best(v, alone) is not null))
            return UnplacedReason.NoRoom;
        if (Stops[stop].ColdFrom is not null && new RoundProblem([Stops[stop] with { ColdFrom = null }], Vans, _minutes, HardLate) is var cold
            && Enumerable.Range(0, Vans.Count).Any(v => cold.Best(v, [0]) is not null))
        {
            return UnplacedReason.Cold;
        }
        // Each van's first check that fails; over the vans the one that got furthest.
        return Enumerable.Range(0, Vans.Count).Select(v =>
        {
            var start = Soonest(v, stop, Vans[v].DayStart + _from[v, stop]);
            return TooLate(stop, start) ? UnplacedReason.Window : TooDark(v, stop, start) ? UnplacedReason.Daylight : UnplacedReason.DayEnd;
        }).Max();
    }
}
