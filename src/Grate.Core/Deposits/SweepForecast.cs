using Grate.Core.Fuel;
using MathNet.Numerics.Distributions;

namespace Grate.Core.Deposits;

/// <summary>What grew between two visits.</summary>
/// <param name="GrowthMm">Worst thickness now less what was left behind there, mm; may be zero or negative.</param>
/// <param name="WoodKg">Wood burnt between them, kg as fired, above 0.</param>
public sealed record GrowthObservation(double GrowthMm, double WoodKg);

/// <summary>A quantity at three quantiles.</summary>
/// <param name="P10">10 %.</param>
/// <param name="P50">50 %.</param>
/// <param name="P90">90 %.</param>
public sealed record Quantiles(double P10, double P50, double P90);

/// <summary>
/// What is known of a flue's growth rate: ln ρ ~ Normal, from the rate model and every pair of visits
/// (handbook 02 section 5, variances [A]).
/// </summary>
/// <param name="MeanLog">Mean m of ln ρ.</param>
/// <param name="Precision">Precision w of the mean.</param>
public sealed record GrowthRate(double MeanLog, double Precision)
{
    /// <summary>One sigma of ln ρ about the model's rate.</summary>
    public static readonly Limit PriorSigma = Limit.Assumed(0.8, "", "the rate model is good within a factor of two or so");

    /// <summary>One sigma of an observation, of which <see cref="SeasonSigma"/> is the season itself.</summary>
    public static readonly Limit ObservationSigma = Limit.Assumed(0.35, "", "an eye, a mirror, and one season");

    /// <summary>One sigma from season to season.</summary>
    public static readonly Limit SeasonSigma = Limit.Assumed(0.20, "", "no season is like another");

    /// <summary>Least growth that counts, mm: what an eye can tell.</summary>
    public static readonly Limit LeastGrowth = Limit.Assumed(0.3, "mm", "what an eye can tell, zero and shrinking included");

    /// <summary>Learns from observations.</summary>
    /// <param name="modelMmPer100Kg">The rate model's worst segment, above 0.</param>
    /// <param name="observations">Pairs of visits.</param>
    public static GrowthRate Of(double modelMmPer100Kg, IReadOnlyList<GrowthObservation> observations)
    {
        double Weight(Limit sigma) => 1 / (sigma.Value * sigma.Value);
        var (prior, each) = (Weight(PriorSigma), Weight(ObservationSigma));
        var precision = prior + observations.Count * each;
        var logs = observations.Sum(o => Math.Log(Math.Max(o.GrowthMm, LeastGrowth.Value) / (o.WoodKg / 100)));
        return new GrowthRate((Math.Log(modelMmPer100Kg) * prior + logs * each) / precision, precision);
    }

    /// <summary>Rates of the coming season at 10, 50 and 90 %: ρ_q = exp(m + z √(1/w + 0.20²)), mm per 100 kg.</summary>
    public Quantiles MmPer100Kg()
    {
        var sigma = Math.Sqrt(1 / Precision + SeasonSigma.Value * SeasonSigma.Value);
        double At(double share) => Math.Exp(MeanLog + Normal.InvCDF(0, 1, share) * sigma);
        return new Quantiles(At(0.10), At(0.50), At(0.90));
    }
}

/// <summary>Which rule sets the next sweep.</summary>
[JsonConverter(typeof(WordConverter<SweepBound>))]
public enum SweepBound
{
    /// <summary>The deposit, in a bad year.</summary>
    Deposit,

    /// <summary>Once a year.</summary>
    Yearly,

    /// <summary>Before the heating season.</summary>
    Season,

    /// <summary>Once per quarter of use.</summary>
    Quarter,
}

/// <summary>A point of the forecast.</summary>
/// <param name="Date">Day.</param>
/// <param name="P10Mm">Thickness at 10 %, mm.</param>
/// <param name="P50Mm">At 50 %.</param>
/// <param name="P90Mm">At 90 %.</param>
public sealed record ForecastPoint(DateOnly Date, double P10Mm, double P50Mm, double P90Mm);

/// <summary>The dates of a forecast.</summary>
/// <param name="P50">Threshold reached in an ordinary season; null if not within ten years.</param>
/// <param name="P90">In a bad season.</param>
/// <param name="Stop">Stop reached in a bad season.</param>
/// <param name="Next">When to sweep next; one in the past is overdue.</param>
/// <param name="Bound">Which rule set it.</param>
public sealed record SweepDates(DateOnly? P50, DateOnly? P90, DateOnly? Stop, DateOnly Next, SweepBound Bound);

/// <summary>When to come back (handbook 02 section 5).</summary>
/// <param name="lastSweep">Day of the last sweep.</param>
/// <param name="leftMm">Left behind then, mm.</param>
/// <param name="rate">Rates of the coming season, mm per 100 kg.</param>
/// <param name="woodKgPerYear">Wood a year, kg as fired.</param>
/// <param name="year">How it falls on the days.</param>
public sealed class SweepForecast(DateOnly lastSweep, double leftMm, Quantiles rate, double woodKgPerYear, WoodYear year)
{
    /// <summary>Nothing is looked for beyond this many days.</summary>
    public const int Horizon = 3653;

    private const int MonthsShown = 24;

    /// <summary>Months after which a sweep is due at the latest.</summary>
    public static readonly Limit Yearly = Limit.Memory(12, "months", "NFPA 211: a flue in use is looked at once a year");

    /// <summary>Heating days after which the school of quarters sweeps.</summary>
    public static readonly Limit Quarter = Limit.Practice(91, "days of use", "once per quarter of use, as some countries' rules ask");

    /// <summary>All its dates, by the limits of handbook 02 section 2, the firm's school and its season or the site's own.</summary>
    /// <param name="today">A start of the season before this is past.</param>
    /// <param name="place">School and season.</param>
    public SweepDates Dates(DateOnly today, SweepPlace place) => Dates(Deposit.SweepFrom.Value, Deposit.StopFrom.Value, today, place.SeasonStart, place.School);

    /// <summary>All its dates.</summary>
    /// <param name="thresholdMm">Sweep from this on, mm.</param>
    /// <param name="stopMm">No fire from this on, mm.</param>
    /// <param name="today">A start of the season before this is past.</param>
    /// <param name="seasonStart">First day of the season, month and day; null where there is none.</param>
    /// <param name="school">The firm's school of sweeping.</param>
    public SweepDates Dates(double thresholdMm, double stopMm, DateOnly today, (int Month, int Day)? seasonStart, SweepSchool school = SweepSchool.Forecast)
    {
        var badYear = Reaches(rate.P90, thresholdMm);
        var (next, bound) = Next(badYear, today, seasonStart);
        if (school == SweepSchool.Quarterly && QuarterOfUse() is var quarter && quarter < next)
            (next, bound) = (quarter, SweepBound.Quarter);
        return new SweepDates(Reaches(rate.P50, thresholdMm), badYear, Reaches(rate.P90, stopMm), next, bound);
    }

    /// <summary>First day on which the thickness reaches a limit at a rate; null beyond the horizon.</summary>
    /// <param name="mmPer100Kg">The rate.</param>
    /// <param name="limitMm">The limit, mm.</param>
    public DateOnly? Reaches(double mmPer100Kg, double limitMm)
    {
        var (thickness, day, end) = (leftMm, lastSweep, lastSweep.AddDays(Horizon));
        while (day <= end)
        {
            if (thickness >= limitMm)
                return day;
            // Every day of a month adds the same.
            var daily = mmPer100Kg * woodKgPerYear * year.ShareOf(day) / 100;
            var days = WoodYear.LeftOfMonth(day);
            if (daily > 0)
                days = (int)Math.Clamp(Math.Ceiling((limitMm - thickness) / daily), 1, days);
            thickness += days * daily;
            day = day.AddDays(days);
        }
        return null;
    }

    /// <summary>The last sweep's date and the firsts of the 24 months after it.</summary>
    public IReadOnlyList<ForecastPoint> Curve()
    {
        var dates = Enumerable.Range(1, MonthsShown).Select(i => new DateOnly(lastSweep.Year, lastSweep.Month, 1).AddMonths(i)).Prepend(lastSweep);
        var (points, wood, from) = (new List<ForecastPoint>(), 0.0, lastSweep);
        foreach (var date in dates)
        {
            wood += woodKgPerYear * year.ShareBetween(from, date);
            from = date;
            double At(double mmPer100Kg) => leftMm + mmPer100Kg * wood / 100;
            points.Add(new ForecastPoint(date, At(rate.P10), At(rate.P50), At(rate.P90)));
        }
        return points;
    }

    /// <summary>The next sweep: the deposit in a bad year, once a year at the latest, moved to before the season where that is near.</summary>
    /// <param name="reached">Day on which the limit is reached in a bad year; null if not within the horizon.</param>
    /// <param name="today">A start of the season before this is past.</param>
    /// <param name="seasonStart">First day of the season, month and day; null where there is none.</param>
    private (DateOnly Date, SweepBound Bound) Next(DateOnly? reached, DateOnly today, (int Month, int Day)? seasonStart)
    {
        var yearly = lastSweep.AddMonths((int)Yearly.Value);
        var (date, bound) = reached is { } day && day <= yearly ? (day, SweepBound.Deposit) : (yearly, SweepBound.Yearly);
        if (seasonStart is not { } start)
            return (date, bound);
        var season = StartIn(date.Year, start) < date ? StartIn(date.Year, start) : StartIn(date.Year - 1, start);
        var until = year.ShareBetween(lastSweep, date);
        return season > lastSweep && season >= today && until * woodKgPerYear > 0 && year.ShareBetween(lastSweep, season) >= until / 2
            ? (season, SweepBound.Season) : (date, bound);
    }

    // A month is one of use where anything is burnt in it. From a sweep on 1 July in an ordinary climate: 91 days of use from 1 September on end on 1 December.
    private DateOnly QuarterOfUse()
    {
        var (day, left) = (lastSweep, (int)Quarter.Value);
        for (var months = 0; left > 0 && months < 24; months++)
        {
            var days = WoodYear.LeftOfMonth(day);
            var used = year.ShareOf(day) > 0 ? Math.Min(left, days) : 0;
            left -= used;
            day = day.AddDays(left > 0 ? days : used);
        }
        return day;
    }

    // A start on 29 February is one on the 28th where there is none.
    private static DateOnly StartIn(int of, (int Month, int Day) start) =>
        new(of, start.Month, Math.Min(start.Day, DateTime.DaysInMonth(of, start.Month)));
}
