using System.Globalization;

namespace Grate.Instruments;

/// <summary>A clock that was set to a moment and runs on from there: what happens on a day can be tried on any other.</summary>
/// <param name="at">The moment, now.</param>
public sealed class Clock(DateTimeOffset at) : TimeProvider
{
    private readonly TimeSpan _ahead = at - System.GetUtcNow();

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => System.GetUtcNow() + _ahead;

    /// <summary>The system's clock, or one set to a moment: Clock__At (ISO 8601) tells server and stand-ins alike.</summary>
    /// <param name="moment">The moment; null or empty for the system's clock.</param>
    /// <exception cref="FormatException">It is no moment.</exception>
    public static TimeProvider At(string? moment) => string.IsNullOrEmpty(moment) ? System
        : new Clock(DateTimeOffset.Parse(moment, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal));
}
