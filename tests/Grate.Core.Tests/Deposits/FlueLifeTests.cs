using Grate.Core.Deposits;
using Grate.Core.Fuel;

namespace Grate.Core.Tests.Deposits;

/// <summary>The time axis of a flue's deposit.</summary>
public class FlueLifeTests
{
    private static readonly WoodYear _year = new(WoodYear.OrdinaryC);

    private static EarlierSweep Swept(string day, double found, double left) =>
        new(DateOnly.Parse(day), found > 0 ? found : null, left);

    [Fact]
    public void Deposit_grows_with_the_wood_from_what_was_left_to_what_was_found()
    {
        var life = FlueLife.Of([Swept("2025-05-20", 2, 0.2), Swept("2026-05-20", 2.6, 0)], _year, [3000, 2000], new DateOnly(2026, 12, 1));
        Assert.Equal([2, 0.2, 2.6, 0], life.Points.Where(p => p.Measured).Select(p => p.Mm));
        Assert.All(life.Points.Skip(1).Zip(life.Points.Skip(2)).SkipLast(1), pair => Assert.True(pair.First.Mm <= pair.Second.Mm));
        // Handbook 02 section 6: 1 313.5 of 3 000 kg fall between 20 May and New Year.
        Assert.Equal(0.2 + 2.4 * 1313.5 / 3000, life.Points.Single(p => p.Day == new DateOnly(2026, 1, 1)).Mm, 3);
        Assert.Equal(3000, life.Wood.Where(w => w.Month >= new DateOnly(2025, 6, 1) && w.Month < new DateOnly(2026, 6, 1)).Sum(w => w.Kg), 6);
        Assert.Equal(2.0 / 3, life.Wood.Single(w => w.Month == new DateOnly(2026, 10, 1)).Kg / life.Wood.Single(w => w.Month == new DateOnly(2025, 10, 1)).Kg, 9);
        Assert.Equal((new DateOnly(2025, 5, 1), new DateOnly(2026, 11, 1)), (life.Wood[0].Month, life.Wood[^1].Month));
    }

    [Fact]
    public void Sweeps_out_of_order_or_without_a_look_leave_a_gap()
    {
        var life = FlueLife.Of([Swept("2025-05-20", 2, 0.2), Swept("2026-05-20", 0, 0.1), Swept("2026-05-20", 1, 0.3)], _year, [3000, 3000, 3000], new DateOnly(2026, 7, 1));
        Assert.DoesNotContain(life.Points, p => !p.Measured);
        Assert.Equal([2, 0.2, 0.1], life.Points.Select(p => p.Mm));
    }
}
