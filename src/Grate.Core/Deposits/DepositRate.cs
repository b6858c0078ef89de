using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>What burns the wood (handbook 02 section 4).</summary>
[JsonConverter(typeof(WordConverter<Technology>))]
public enum Technology
{
    /// <summary>Conventional stove.</summary>
    Conventional,

    /// <summary>Certified, without combustor.</summary>
    Certified,

    /// <summary>With a working combustor.</summary>
    Catalytic,

    /// <summary>Combustor failed or bypassed.</summary>
    CatalyticFailed,

    /// <summary>Masonry heater.</summary>
    MasonryHeater,

    /// <summary>Open fireplace.</summary>
    OpenFireplace,
}

/// <summary>How fast a segment's deposit grows.</summary>
/// <param name="WallC">Inner wall, length-weighted, °C.</param>
/// <param name="Stickiness">φ, 0.05..1.</param>
/// <param name="MmPer100Kg">Growth per 100 kg of wood as fired, mm.</param>
/// <param name="LikelyStage">1, 2 or 3; where 3 is likely the rate stays that of flakes.</param>
public sealed record SegmentRate(double WallC, double Stickiness, double MmPer100Kg, int LikelyStage);

/// <summary>The rate model, a prior that measurements soon overrule (handbook 02 section 4, [A]).</summary>
public static class DepositRate
{
    private const double StickLengthM = 150;
    private const double WetC = 60, DryC = 150, LeastStickiness = 0.05;
    private const double PowderTo = 0.35, FlakesTo = 0.8, WetWood = 0.22;

    /// <summary>Particulate per kg of dry wood, g.</summary>
    public static Limit SmokeGKg(Technology technology) => Limit.Memory(technology switch
    {
        Technology.Certified => 7.3,
        Technology.Catalytic => 8.1,
        Technology.MasonryHeater => 2.8,
        Technology.OpenFireplace => 17.3,
        _ => 15.3,
    }, "g/kg", $"EPA AP-42 ch. 1.10: {Word.Of(technology)}");

    /// <summary>Factor of a habit.</summary>
    public static Limit HabitFactor(Habit habit) => Limit.Assumed(habit switch
    {
        Habit.Hot => 0.6,
        Habit.Mixed => 1.0,
        _ => 2.2,
    }, "", $"{Word.Of(habit)} fires against mixed ones");

    /// <summary>The fire a habit stands for.</summary>
    public static FiringLevel LevelOf(Habit habit) => habit switch
    {
        Habit.Hot => FiringLevel.High,
        Habit.Mixed => FiringLevel.Normal,
        _ => FiringLevel.Low,
    };

    /// <summary>
    /// Grams that go up the flue per 100 kg of wood as fired: 100 (1 − u) · smoke · h · f,
    /// f = 1 + 0.08 max(0, 100u − 20) + 0.03 max(0, 12 − 100u).
    /// </summary>
    public static double SmokePer100Kg(Technology technology, Habit habit, double moistureWet)
    {
        var percent = 100 * moistureWet;
        var moisture = 1 + 0.08 * Math.Max(0, percent - 20) + 0.03 * Math.Max(0, 12 - percent);
        return 100 * (1 - moistureWet) * SmokeGKg(technology).Value * HabitFactor(habit).Value * moisture;
    }

    /// <summary>φ of a wall: 1 up to 60 °C, 0.05 from 150 °C on, linear between.</summary>
    public static double Stickiness(double wallC) =>
        1 - (1 - LeastStickiness) * Math.Clamp((wallC - WetC) / (DryC - WetC), 0, 1);

    /// <summary>Rates of every segment in flow order; what sticks in one leaves the stream before the next.</summary>
    /// <param name="segments">Length, m, inner perimeter, m, and wall, °C, of each.</param>
    /// <param name="technology">What burns.</param>
    /// <param name="habit">How.</param>
    /// <param name="moistureWet">Moisture u, wet basis, 0..0.6.</param>
    public static IReadOnlyList<SegmentRate> Of(IEnumerable<(double LengthM, double PerimeterM, double WallC)> segments,
        Technology technology, Habit habit, double moistureWet)
    {
        var stream = SmokePer100Kg(technology, habit, moistureWet);
        var rates = new List<SegmentRate>();
        foreach (var (length, perimeter, wall) in segments)
        {
            var sticky = Stickiness(wall);
            var stuck = stream * (1 - Math.Exp(-sticky * length / StickLengthM));
            stream -= stuck;
            var density = Math.Clamp(150 + 625 * (sticky - 0.2), 150, 400);
            var stage = sticky < PowderTo ? 1 : sticky < FlakesTo ? 2 : habit == Habit.Slow || moistureWet > WetWood ? 3 : 2;
            // g over kg/m³ and m² is mm.
            rates.Add(new SegmentRate(wall, sticky, stuck / (density * perimeter * length), stage));
        }
        return rates;
    }
}
