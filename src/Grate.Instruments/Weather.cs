namespace Grate.Instruments;

/// <summary>The weather of a day at a place.</summary>
/// <param name="OvernightLowC">Lowest of the night before, °C.</param>
/// <param name="MorningC">At eight in the morning, °C.</param>
/// <param name="AfternoonC">At three in the afternoon, °C.</param>
public sealed record DayWeather(double OvernightLowC, double MorningC, double AfternoonC)
{
    /// <summary>Temperature at an hour, °C: between morning and afternoon along a line, held outside.</summary>
    public double AtHour(double hour) => MorningC + (AfternoonC - MorningC) * Math.Clamp((hour - 8) / 7, 0, 1);
}

/// <summary>The port to a weather service.</summary>
public interface IWeather
{
    /// <summary>The weather of a day.</summary>
    /// <param name="day">The day.</param>
    /// <param name="latitude">Of the place, degrees.</param>
    /// <param name="longitude">Of the place, degrees.</param>
    /// <param name="monthlyC">The place's monthly means, January first, °C.</param>
    DayWeather OfDay(DateOnly day, double latitude, double longitude, IReadOnlyList<double> monthlyC);
}

/// <summary>Stands in for a weather service: the climate's mean, clear and cloudy spells of some days, the same for a valley.</summary>
public sealed class StandInWeather : IWeather
{
    /// <inheritdoc/>
    public DayWeather OfDay(DateOnly day, double latitude, double longitude, IReadOnlyList<double> monthlyC)
    {
        // Spells last about five days; one degree of latitude shares them.
        var random = new Random(HashCode(day.DayNumber / 5, (int)Math.Floor(latitude)));
        var mean = monthlyC[day.Month - 1] + 5 * (random.NextDouble() - 0.5);
        // A clear sky: a cold night, a mild day.
        var swing = 5 + 11 * random.NextDouble();
        var low = mean - 0.55 * swing;
        return new DayWeather(Math.Round(low, 1), Math.Round(low + 0.45 * swing, 1), Math.Round(mean + 0.45 * swing, 1));
    }

    // System.HashCode differs from process to process.
    private static int HashCode(int spell, int degree) => unchecked((spell * 397) ^ (degree * 7919));
}
