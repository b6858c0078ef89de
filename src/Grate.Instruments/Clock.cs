using System.Globalization;

namespace Grate.Instruments;

/// <summary>A clock that was set to a moment and runs on from there, faster if wanted: what happens on a day, or in an hour, can be tried on any other.</summary>
/// <param name="at">The moment, now.</param>
/// <param name="speed">Seconds of this clock in one of the system's.</param>
public sealed class Clock(DateTimeOffset at, double speed = 1) : TimeProvider
{
    private readonly DateTimeOffset _started = System.GetUtcNow();

    /// <summary>Seconds of this clock in one of the system's.</summary>
    public double Speed => speed;

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => at + (System.GetUtcNow() - _started) * speed;

    /// <summary>The speed of a clock; 1 for the system's.</summary>
    public static double SpeedOf(TimeProvider clock) => clock is Clock set ? set.Speed : 1;

    /// <summary>
    /// The system's clock, or one set to a moment: Clock__At (ISO 8601) tells server and stand-ins alike; Clock__Speed makes it run faster.
    /// </summary>
    /// <param name="moment">The moment; null or empty for the system's clock.</param>
    /// <param name="speed">The speed; null or empty for 1.</param>
    /// <exception cref="FormatException">It is no moment, or no speed.</exception>
    public static TimeProvider At(string? moment, string? speed = null) => string.IsNullOrEmpty(moment) && string.IsNullOrEmpty(speed) ? System
        : new Clock(string.IsNullOrEmpty(moment) ? System.GetUtcNow() : DateTimeOffset.Parse(moment, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal),
            string.IsNullOrEmpty(speed) ? 1 : double.Parse(speed, CultureInfo.InvariantCulture));
}
