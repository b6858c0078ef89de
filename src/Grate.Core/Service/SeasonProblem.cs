namespace Grate.Core.Service;

/// <summary>A due visit as the season's plan sees it.</summary>
/// <param name="ApplianceId">Its stove.</param>
/// <param name="Number">Which of the stove's due visits.</param>
/// <param name="Place">Town.</param>
/// <param name="Latitude">Degrees.</param>
/// <param name="Longitude">Degrees.</param>
/// <param name="Earliest">First sensible day.</param>
/// <param name="By">Wanted by.</param>
/// <param name="Latest">Must be done by.</param>
/// <param name="Urgent">Whether a stop stands.</param>
/// <param name="Minutes">Time it takes, min.</param>
/// <param name="WoodKg">Wood that the stove burns a year, kg.</param>
/// <param name="Needs">Skills that it asks for; the roof asks for daylight.</param>
public sealed record SeasonVisit(Guid ApplianceId, int Number, string Place, double Latitude, double Longitude, DateOnly Earliest, DateOnly By, DateOnly Latest, bool Urgent, int Minutes, double WoodKg, IReadOnlyList<Skill> Needs);

/// <summary>Somebody who goes out.</summary>
/// <param name="Skills">Words of skills; none where nobody noted any.</param>
/// <param name="Minutes">Time for due visits, week by week, min.</param>
public sealed record SeasonHand(IReadOnlyList<string> Skills, IReadOnlyList<int> Minutes)
{
    /// <summary>Whether they can do what a visit needs; who has no skill noted is taken to have them all.</summary>
    public bool Can(IReadOnlyList<Skill> needs) => Skills.Count == 0 || needs.All(n => Skills.Contains(Word.Of(n)));
}

/// <summary>Finds weeks for visits.</summary>
public interface ISeasonSolver
{
    /// <summary>The week of each visit, null where none has room; and a cost that no plan undercuts.</summary>
    /// <param name="problem">The visits.</param>
    /// <param name="progress">Told how much of the work is done, 0..1.</param>
    /// <param name="cancel">Ends it: an <see cref="OperationCanceledException"/>.</param>
    (IReadOnlyList<int?> Weeks, double Bound) Solve(SeasonProblem problem, Action<double> progress, CancellationToken cancel);
}

/// <summary>
/// Visits against the hours of weeks (handbook 10 section 5). What a week costs a visit is told in minutes of work: a visit that is
/// made early wastes that share of a year, one that is late endangers, and a town that is driven to for a single visit costs its way.
/// </summary>
/// <param name="Monday">First day of the first week.</param>
/// <param name="Visits">What is due.</param>
/// <param name="Hands">Who goes out.</param>
/// <param name="Light">Share of the working day that is light, week by week, 0..1.</param>
/// <param name="Home">Where vans start; null where the firm did not say.</param>
public sealed record SeasonProblem(DateOnly Monday, IReadOnlyList<SeasonVisit> Visits, IReadOnlyList<SeasonHand> Hands, IReadOnlyList<double> Light, Whereabouts? Home)
{
    /// <summary>A week after the wanted day costs so much, for a stove that burns as much as others.</summary>
    public static readonly Limit LateWeek = Limit.Assumed(30, "min", "a week late weighs like half an hour of work");

    /// <summary>After the latest day each week costs so many times as much.</summary>
    public static readonly Limit PastLatest = Limit.Assumed(4, "times", "what must be done by a day is");

    /// <summary>A stop costs so many times as much.</summary>
    public static readonly Limit UrgentTimes = Limit.Assumed(20, "times", "no fire, or an unsafe one: first of all");

    /// <summary>Weeks after the latest day that are still looked at.</summary>
    public static readonly Limit Reach = Limit.Assumed(12, "weeks", "a quarter of a year late is no plan");

    /// <summary>Visits that one drive to a town serves.</summary>
    public static readonly Limit OneDrive = Limit.Assumed(4, "visits", "a day's work in one town");

    private const int WeeksOfYear = 52, DaysOfWeek = 7;
    private const double LeastUse = 0.25, MostUse = 3, LeftOver = 1000;

    private readonly double _usualKg = Visits.Count > 0 ? Math.Max(1, Visits.Average(v => v.WoodKg)) : 1;

    private readonly Dictionary<string, double> _roundTrips = Visits.GroupBy(v => v.Place).ToDictionary(g => g.Key,
        g => Home is null ? 0 : 2 * Road.Minutes(Home.Latitude, Home.Longitude, g.Average(v => v.Latitude), g.Average(v => v.Longitude)));

    /// <summary>How many weeks are planned.</summary>
    public int Weeks => Light.Count;

    /// <summary>Week of a day, counted from the first; before it below 0.</summary>
    public int WeekOf(DateOnly day) => (int)Math.Floor((day.DayNumber - Monday.DayNumber) / (double)DaysOfWeek);

    /// <summary>Weeks in which a visit may lie: from its earliest day to a quarter of a year after its latest.</summary>
    public (int First, int Last) Span(SeasonVisit visit) => (Math.Max(0, WeekOf(visit.Earliest)), Math.Min(Weeks - 1, Math.Max(0, WeekOf(visit.Latest)) + (int)Reach.Value));

    /// <summary>The week in which a visit is wanted; what is overdue is wanted now.</summary>
    public int Wanted(SeasonVisit visit) => Math.Max(0, WeekOf(visit.By));

    /// <summary>
    /// What a week costs a visit, in minutes of work. 60 min of a stove of usual use, 13 weeks early: 60 × 13/52 = 15; two weeks late: 60.
    /// What is overdue for a year already counts twice.
    /// </summary>
    public double Price(SeasonVisit visit, int week)
    {
        var (use, from) = (Math.Clamp(visit.WoodKg / _usualKg, LeastUse, MostUse), week - Wanted(visit));
        if (from <= 0)
            return (double)-from / WeeksOfYear * visit.Minutes * use;
        var (past, overdue) = (Math.Max(0, week - Math.Max(0, WeekOf(visit.Latest))), Math.Max(0, -WeekOf(visit.By)));
        return LateWeek.Value * use * (visit.Urgent ? UrgentTimes.Value : 1) * (1 + (double)overdue / WeeksOfYear) * (from + (PastLatest.Value - 1) * past);
    }

    /// <summary>What it costs to have no week for a visit: more than any week.</summary>
    public double PriceLeft(SeasonVisit visit) => LeftOver + 2 * Price(visit, Span(visit).Last + 1);

    /// <summary>A drive to a town and back, min; 0 where nobody knows from where.</summary>
    public double RoundTrip(string place) => _roundTrips[place];

    /// <summary>Minutes of a hand's week in daylight.</summary>
    public int InLight(SeasonHand hand, int week) => (int)(hand.Minutes[week] * Light[week]);

    /// <summary>What a plan costs: every visit's week, and every town's drives.</summary>
    public double Cost(IReadOnlyList<int?> weeks) => Visits.Select((v, i) => weeks[i] is { } week ? Price(v, week) : PriceLeft(v)).Sum() + DriveMin(weeks);

    /// <summary>Minutes driven to towns and back.</summary>
    public double DriveMin(IReadOnlyList<int?> weeks) => Visits.Select((v, i) => (v.Place, Week: weeks[i])).Where(v => v.Week is not null).GroupBy(v => v)
        .Sum(g => RoundTrip(g.Key.Place) * Math.Ceiling(g.Count() / OneDrive.Value));

    /// <summary>Weeks without a plan: each visit when it is wanted, or as soon after as there are hours, stops first. Nothing is pulled forward.</summary>
    public IReadOnlyList<int?> AsItComes()
    {
        var weeks = new int?[Visits.Count];
        var wanted = Enumerable.Range(0, Visits.Count).ToLookup(i => Wanted(Visits[i]));
        var waiting = new PriorityQueue<int, (bool, DateOnly)>();
        for (var week = 0; week < Weeks; week++)
        {
            foreach (var i in wanted[week])
                waiting.Enqueue(i, (!Visits[i].Urgent, Visits[i].By));
            for (var free = Hands.Sum(h => h.Minutes[week]); waiting.TryPeek(out var next, out _) && Visits[next].Minutes <= free; free -= Visits[next].Minutes)
                weeks[waiting.Dequeue()] = week;
        }
        return weeks;
    }
}
