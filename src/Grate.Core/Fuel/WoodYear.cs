namespace Grate.Core.Fuel;

/// <summary>How a year's wood falls on its days: by heating degree days (handbook 02 section 5).</summary>
public sealed class WoodYear
{
    /// <summary>Heating degree days count below this.</summary>
    public static readonly Limit HeatingBase = Limit.Assumed(18, "°C", "base of the heating degree days");

    /// <summary>A month heats in earnest from this many degree days on: the season starts with the first after the warmest.</summary>
    public static readonly Limit SeasonDegreeDays = Limit.Assumed(150, "K d", "the first month after the warmest with so many opens the season");

    /// <summary>Monthly means where a site has none, °C [A].</summary>
    public static IReadOnlyList<double> OrdinaryC { get; } = [-1, 0, 4, 8, 13, 16, 18, 18, 14, 9, 4, 0];

    private static readonly int[] _days = [31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31];

    private readonly IReadOnlyList<double> _monthlyC;
    private readonly double[] _degreeDays;

    /// <summary>The year of a site.</summary>
    /// <param name="monthlyC">Monthly means, January first, twelve, °C.</param>
    public WoodYear(IReadOnlyList<double> monthlyC)
    {
        _monthlyC = monthlyC;
        _degreeDays = [.. monthlyC.Select((c, i) => Math.Max(0, HeatingBase.Value - c) * _days[i])];
        var sum = _degreeDays.Sum();
        Shares = [.. _degreeDays.Select((d, i) => sum > 0 ? d / sum : _days[i] / 365.0)];
    }

    /// <summary>Share of the year's wood in each month, January first: HDD_m / Σ HDD, or by days where nobody heats.</summary>
    public IReadOnlyList<double> Shares { get; }

    /// <summary>Outdoor temperature weighted by the wood, °C.</summary>
    public double OutdoorC => _monthlyC.Zip(Shares, (c, share) => c * share).Sum();

    /// <summary>Share of a year's wood burnt on a day: evenly over the month's real days, so 1/29 of February's on a leap day.</summary>
    public double ShareOf(DateOnly day) => Shares[day.Month - 1] / DateTime.DaysInMonth(day.Year, day.Month);

    /// <summary>Share of a year's wood from a day up to, and without, another: 0.438 from 20 May to the end of an ordinary year.</summary>
    public double ShareBetween(DateOnly from, DateOnly before)
    {
        double share = 0;
        for (var day = from; day < before;)
        {
            var days = Math.Min(LeftOfMonth(day), before.DayNumber - day.DayNumber);
            share += days * ShareOf(day);
            day = day.AddDays(days);
        }
        return share;
    }

    /// <summary>Days of a month from a day on, itself counted: 12 on 20 May.</summary>
    public static int LeftOfMonth(DateOnly day) => DateTime.DaysInMonth(day.Year, day.Month) - day.Day + 1;

    /// <summary>First day of the heating season, month and day; null where no month heats in earnest.</summary>
    public (int Month, int Day)? SeasonStart()
    {
        var warmest = _monthlyC.ToList().IndexOf(_monthlyC.Max());
        var first = Enumerable.Range(1, 12).Select(i => (warmest + i) % 12).FirstOrDefault(m => _degreeDays[m] >= SeasonDegreeDays.Value, -1);
        return first < 0 ? null : (first + 1, 1);
    }
}
