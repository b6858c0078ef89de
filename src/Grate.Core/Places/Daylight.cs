namespace Grate.Core.Places;

/// <summary>When it is light, for work on roofs.</summary>
/// <param name="Rise">Sunrise, UTC.</param>
/// <param name="Set">Sunset, UTC.</param>
public sealed record Daylight(DateTime Rise, DateTime Set)
{
    // The sun's upper edge, lifted by the air, stands at the horizon.
    private const double ZenithDeg = 90.833;

    private const double MinutesADay = 1440, DegreesAMinute = 4;

    /// <summary>
    /// Sunrise and sunset at sea level by the equations of the NOAA Solar Calculator (Meeus, Astronomical Algorithms), to about a minute
    /// up to 72°; null where the sun does not rise or does not set that day. 47.1 N 10.2 E, 13 October 2027: 05:34 and 16:36 UTC.
    /// </summary>
    /// <param name="day">Day at the place.</param>
    /// <param name="latitude">Degrees north.</param>
    /// <param name="longitude">Degrees east.</param>
    public static Daylight? Of(DateOnly day, double latitude, double longitude)
    {
        DateTime? At(int side)
        {
            // The sun moves on in the course of a day: what it is at noon is taken first, then what it is then.
            var minute = MinutesADay / 2 - DegreesAMinute * longitude;
            for (var turn = 0; turn < 3; turn++)
            {
                var (declination, equation) = Sun(day, minute);
                var cosine = (Math.Cos(Radians(ZenithDeg)) - Math.Sin(Radians(latitude)) * Math.Sin(declination)) / (Math.Cos(Radians(latitude)) * Math.Cos(declination));
                if (cosine is < -1 or > 1)
                    return null;
                minute = MinutesADay / 2 - DegreesAMinute * (longitude + side * Degrees(Math.Acos(cosine))) - equation;
            }
            return day.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc).AddMinutes(minute);
        }
        return At(1) is { } rise && At(-1) is { } set ? new(rise, set) : null;
    }

    // Declination in radians, and the equation of time in minutes.
    private static (double Declination, double EquationMin) Sun(DateOnly day, double minute)
    {
        const double julianDayOfTheFirst = 1721425.5, julianDayOf2000 = 2451545, daysOfACentury = 36525;
        var t = (day.DayNumber + julianDayOfTheFirst + minute / MinutesADay - julianDayOf2000) / daysOfACentury;
        var mean = Radians(280.46646 + t * (36000.76983 + 0.0003032 * t));
        var anomaly = Radians(357.52911 + t * (35999.05029 - 0.0001537 * t));
        var eccentricity = 0.016708634 - t * (0.000042037 + 0.0000001267 * t);
        var centre = Radians(Math.Sin(anomaly) * (1.914602 - t * (0.004817 + 0.000014 * t)) + Math.Sin(2 * anomaly) * (0.019993 - 0.000101 * t) + Math.Sin(3 * anomaly) * 0.000289);
        var node = Radians(125.04 - 1934.136 * t);
        var longitude = mean + centre - Radians(0.00569 + 0.00478 * Math.Sin(node));
        var obliquity = Radians(23 + (26 + (21.448 - t * (46.815 + t * (0.00059 - t * 0.001813))) / 60) / 60 + 0.00256 * Math.Cos(node));
        var y = Math.Pow(Math.Tan(obliquity / 2), 2);
        var equation = y * Math.Sin(2 * mean) - 2 * eccentricity * Math.Sin(anomaly) + 4 * eccentricity * y * Math.Sin(anomaly) * Math.Cos(2 * mean) - y * y / 2 * Math.Sin(4 * mean) - 1.25 * eccentricity * eccentricity * Math.Sin(2 * anomaly);
        return (Math.Asin(Math.Sin(obliquity) * Math.Sin(longitude)), DegreesAMinute * Degrees(equation));
    }

    private static double Radians(double degrees) => degrees * Math.PI / 180;

    private static double Degrees(double radians) => radians * 180 / Math.PI;
}
