using Grate.Core.Fuel;
using MathNet.Numerics.Distributions;

namespace Grate.Core.Flue;

/// <summary>A month of the year curve, at low fire.</summary>
/// <param name="Month">1..12.</param>
/// <param name="OutdoorC">Its mean outdoor temperature, °C.</param>
/// <param name="ExpectedPa">Expected draft, Pa.</param>
/// <param name="LowPa">5 % end of the band, Pa.</param>
/// <param name="HighPa">95 % end, Pa.</param>
/// <param name="BelowShare">Share of its days on which the expected draft is below the need, 0..1.</param>
/// <param name="SeasonShare">Its share of the season, by heating degree days, 0..1.</param>
public sealed record YearMonth(int Month, double OutdoorC, double ExpectedPa, double LowPa, double HighPa, double BelowShare, double SeasonShare);

/// <summary>An end of what the flue has to bear.</summary>
/// <param name="OutdoorC">Outdoors, °C.</param>
/// <param name="Level">low or high fire.</param>
/// <param name="ExpectedPa">Expected draft, Pa.</param>
/// <param name="ExitGasC">Gas at the outlet, °C.</param>
public sealed record YearExtreme(double OutdoorC, FiringLevel Level, double ExpectedPa, double ExitGasC);

/// <summary>Draft over the year at low fire, by the site's climate, and its two extremes (all its own limits [A]).</summary>
/// <param name="Months">January first.</param>
/// <param name="BelowShare">Share of the season below the need, 0..1.</param>
/// <param name="WeakFromC">Outdoor temperature from which low fire stays below the need; null if it never or always does.</param>
/// <param name="Mild">A mild day at low fire.</param>
/// <param name="Cold">A cold day at high fire.</param>
public sealed record DraftYear(IReadOnlyList<YearMonth> Months, double BelowShare, double? WeakFromC, YearExtreme Mild, YearExtreme Cold)
{
    /// <summary>Days scatter about their month's mean.</summary>
    public static readonly Limit DayScatter = Limit.Assumed(4, "K", "one sigma of a day's temperature about its month's mean");

    /// <summary>A mild day of the season.</summary>
    public static readonly Limit MildDay = Limit.Assumed(15, "°C", "a mild day on which a fire is still wanted");

    /// <summary>A cold day lies this much below the coldest month's mean.</summary>
    public static readonly Limit ColdDayBelow = Limit.Assumed(10, "K", "a cold day, below the coldest month's mean");

    private const double ColdestC = -60, WarmestC = 50;

    /// <summary>Computes the year.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="air">Surroundings; their outdoor temperature is replaced month by month.</param>
    /// <param name="monthlyC">Monthly means, January first, twelve, °C.</param>
    /// <param name="need">What the stove needs.</param>
    /// <param name="fires">Burn rates of the recorded stove; null where none is known.</param>
    public static DraftYear Of(FlueSystem flue, Surroundings air, IReadOnlyList<double> monthlyC, DraftNeed need, StoveFires? fires = null)
    {
        var low = Fire.Ordinary(FiringLevel.Low, fires);
        double At(double outdoorC) => DraftModel.Expect(flue, low, air with { OutdoorC = outdoorC }).Pa;
        var weakFrom = WeakFrom(At, need.MinPa);
        var always = weakFrom is null && At(ColdestC) < need.MinPa;
        var season = new WoodYear(monthlyC).Shares;
        var months = monthlyC.Select((c, i) =>
        {
            var expected = At(c);
            var band = DraftBand.Around(expected, flue, low, air with { OutdoorC = c });
            var below = weakFrom is { } from ? 1 - Normal.CDF(c, DayScatter.Value, from) : always ? 1 : 0;
            return new YearMonth(i + 1, c, expected, band.LowPa, band.HighPa, below, season[i]);
        }).ToList();
        var coldC = Math.Max(ColdestC, monthlyC.Min() - ColdDayBelow.Value);
        return new DraftYear(months, months.Sum(m => m.BelowShare * m.SeasonShare), weakFrom,
            Extreme(flue, air, MildDay.Value, FiringLevel.Low, fires), Extreme(flue, air, coldC, FiringLevel.High, fires));
    }

    private static YearExtreme Extreme(FlueSystem flue, Surroundings air, double outdoorC, FiringLevel level, StoveFires? fires)
    {
        var expected = DraftModel.Expect(flue, Fire.Ordinary(level, fires), air with { OutdoorC = outdoorC });
        return new YearExtreme(outdoorC, level, expected.Pa, expected.March.ExitGasC);
    }

    // Warmer outdoors is never stronger: bisection.
    private static double? WeakFrom(Func<double, double> draftAt, double needPa)
    {
        var (cold, warm) = (ColdestC, WarmestC);
        if (draftAt(cold) < needPa || draftAt(warm) >= needPa)
            return null;
        while (warm - cold > 0.01)
        {
            var middle = (cold + warm) / 2;
            if (draftAt(middle) >= needPa)
                cold = middle;
            else
                warm = middle;
        }
        return (cold + warm) / 2;
    }
}
