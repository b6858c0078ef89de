using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>Thickness at the worst spot on a day.</summary>
/// <param name="Day">Day.</param>
/// <param name="Mm">Thickness, mm.</param>
/// <param name="Measured">Whether it was found or left then; otherwise it lies between two sweeps, by the wood burnt.</param>
public sealed record LifePoint(DateOnly Day, double Mm, bool Measured);

/// <summary>Wood burnt in a month.</summary>
/// <param name="Month">Its first day.</param>
/// <param name="Kg">Wood, kg as fired.</param>
public sealed record LifeMonth(DateOnly Month, double Kg);

/// <summary>The life of a flue's deposit from its first recorded sweep on.</summary>
/// <param name="Points">Thickness, from sweep to sweep: found, then left.</param>
/// <param name="Wood">Wood by month, up to the end of the forecast.</param>
public sealed record FlueLife(IReadOnlyList<LifePoint> Points, IReadOnlyList<LifeMonth> Wood)
{
    /// <summary>Builds it.</summary>
    /// <param name="sweeps">All recorded sweeps, oldest first; at least one.</param>
    /// <param name="year">How a year's wood falls on its days.</param>
    /// <param name="woodKgPerYear">Wood a year after each sweep, kg, in the same order.</param>
    /// <param name="until">Last day of the axis.</param>
    public static FlueLife Of(IReadOnlyList<EarlierSweep> sweeps, WoodYear year, IReadOnlyList<double> woodKgPerYear, DateOnly until)
    {
        var points = new List<LifePoint> { new(sweeps[0].Day, sweeps[0].FoundMm ?? sweeps[0].StayedMm ?? 0, true), Left(sweeps[0]) };
        foreach (var (from, to) in sweeps.Zip(sweeps.Skip(1)).Where(pair => pair.Second.Day > pair.First.Day))
        {
            var (left, found) = (from.StayedMm ?? 0, to.FoundMm ?? 0);
            var whole = year.ShareBetween(from.Day, to.Day);
            // A sweep at which nothing was looked at says nothing of the time before it.
            if (to.FoundMm is not null && whole > 0)
            {
                points.AddRange(Firsts(from.Day, to.Day).Select(day => new LifePoint(day, left + (found - left) * year.ShareBetween(from.Day, day) / whole, false)));
                points.Add(new LifePoint(to.Day, found, true));
            }
            points.Add(Left(to));
        }
        var wood = Firsts(sweeps[0].Day.AddMonths(-1), until).Select(month => new LifeMonth(month, year.ShareBetween(month, month.AddMonths(1))
            * woodKgPerYear[Math.Max(0, sweeps.Count(s => s.Day <= month) - 1)])).ToList();
        return new FlueLife(points, wood);
    }

    private static LifePoint Left(EarlierSweep sweep) => new(sweep.Day, sweep.StayedMm ?? 0, true);

    // Firsts of month after a day and before another.
    private static IEnumerable<DateOnly> Firsts(DateOnly after, DateOnly before)
    {
        for (var day = new DateOnly(after.Year, after.Month, 1).AddMonths(1); day < before; day = day.AddMonths(1))
            yield return day;
    }
}
