namespace Grate.Core.Places;

/// <summary>A place whose climate is known.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name.</param>
/// <param name="Latitude">°, north positive.</param>
/// <param name="Longitude">°, east positive.</param>
/// <param name="AltitudeM">Altitude, m.</param>
/// <param name="TimeZone">IANA time zone.</param>
/// <param name="MonthlyC">Monthly means, January first, °C.</param>
public sealed record ClimateStation(string Code, string Name, double Latitude, double Longitude, double AltitudeM, string TimeZone, IReadOnlyList<double> MonthlyC);

/// <summary>Monthly means where nobody measured them: of the nearest place that is known, by altitude.</summary>
public static class Climate
{
    /// <summary>How much colder it is a metre higher.</summary>
    public static readonly Limit Lapse = Limit.Memory(0.0065, "K/m", "International Standard Atmosphere, ISO 2533");

    private const double EarthKm = 6371;

    /// <summary>Places that are known; climate normals 1991–2020 of national weather services, rounded to 0.5 K, from memory.</summary>
    public static IReadOnlyList<ClimateStation> Stations { get; } =
    [
        new("innsbruck", "Innsbruck", 47.26, 11.39, 580, "Europe/Vienna", [-2, 0.5, 5, 9.5, 14, 17, 19, 18.5, 14.5, 9.5, 3.5, -1]),
        new("vienna", "Vienna", 48.20, 16.37, 200, "Europe/Vienna", [0.5, 2, 6, 11.5, 16, 19.5, 21.5, 21, 16, 11, 5.5, 1.5]),
        new("zurich", "Zurich", 47.38, 8.57, 550, "Europe/Zurich", [0.5, 1.5, 5.5, 9.5, 14, 17.5, 19.5, 19, 14.5, 10, 4.5, 1.5]),
        new("munich", "Munich", 48.14, 11.58, 520, "Europe/Berlin", [0, 1, 5, 9.5, 14, 17.5, 19.5, 19, 14.5, 9.5, 4, 1]),
        new("berlin", "Berlin", 52.52, 13.40, 50, "Europe/Berlin", [1, 2, 5, 10, 14.5, 18, 20, 19.5, 15, 10, 5.5, 2]),
        new("warsaw", "Warsaw", 52.23, 21.01, 100, "Europe/Warsaw", [-1.5, -0.5, 3, 9, 14.5, 17.5, 19.5, 19, 14, 9, 4, 0]),
        new("paris", "Paris", 48.85, 2.35, 75, "Europe/Paris", [5, 5.5, 9, 12, 15.5, 19, 21, 21, 17, 13, 8.5, 5.5]),
        new("madrid", "Madrid", 40.42, -3.70, 650, "Europe/Madrid", [6.5, 8, 11.5, 13.5, 17.5, 23, 26, 25.5, 21, 15.5, 10, 7]),
        new("london", "London", 51.51, -0.13, 25, "Europe/London", [5.5, 6, 8, 10.5, 14, 17, 19, 18.5, 16, 12.5, 8.5, 6]),
        new("glasgow", "Glasgow", 55.86, -4.25, 40, "Europe/London", [4, 4.5, 6, 8.5, 11.5, 14, 15.5, 15, 13, 10, 6.5, 4.5]),
        new("oslo", "Oslo", 59.91, 10.75, 95, "Europe/Oslo", [-4, -3.5, 0.5, 6, 11.5, 15.5, 17.5, 16.5, 12, 6.5, 1, -3]),
        new("stockholm", "Stockholm", 59.33, 18.06, 30, "Europe/Stockholm", [-1.5, -2, 1.5, 6, 11.5, 16, 18.5, 17.5, 13, 8, 3.5, 0.5]),
        new("helsinki", "Helsinki", 60.17, 24.94, 20, "Europe/Helsinki", [-4, -4.5, -1, 4.5, 10.5, 15, 18, 17, 12, 7, 2, -1.5]),
        new("boston", "Boston", 42.36, -71.06, 10, "America/New_York", [-1.5, -0.5, 3.5, 9, 14.5, 20, 23, 22.5, 18.5, 12.5, 7, 1.5]),
        new("burlington", "Burlington, Vermont", 44.48, -73.21, 100, "America/New_York", [-7, -6, -0.5, 7, 14, 19, 21.5, 20.5, 16, 9.5, 3.5, -3]),
        new("toronto", "Toronto", 43.65, -79.38, 100, "America/Toronto", [-4, -3.5, 1, 7.5, 14, 19.5, 22.5, 21.5, 17.5, 11, 5, -0.5]),
        new("minneapolis", "Minneapolis", 44.98, -93.27, 250, "America/Chicago", [-9, -6.5, 0.5, 8.5, 15, 20.5, 23.5, 22, 17, 9.5, 1.5, -6]),
        new("denver", "Denver", 39.74, -104.99, 1600, "America/Denver", [0, 1, 5, 9, 14, 20, 24, 22.5, 18, 11, 4.5, 0]),
        new("missoula", "Missoula, Montana", 46.87, -113.99, 975, "America/Denver", [-4, -1.5, 3.5, 8, 12.5, 16.5, 21, 20.5, 15, 8, 1, -4]),
        new("seattle", "Seattle", 47.61, -122.33, 50, "America/Los_Angeles", [5.5, 6, 8, 10.5, 14, 16.5, 19.5, 19.5, 16.5, 11.5, 7.5, 5]),
        new("anchorage", "Anchorage", 61.22, -149.90, 40, "America/Anchorage", [-8.5, -6.5, -3.5, 2.5, 9, 13.5, 15.5, 14, 9.5, 2, -5, -7.5]),
        new("santiago", "Santiago", -33.45, -70.66, 550, "America/Santiago", [21.5, 20.5, 18.5, 15, 11.5, 9, 8.5, 10, 12, 14.5, 17.5, 20]),
        new("sapporo", "Sapporo", 43.06, 141.35, 20, "Asia/Tokyo", [-3.5, -3, 1, 7.5, 13, 17, 21, 22.5, 18.5, 12, 5.5, -1]),
        new("auckland", "Auckland", -36.85, 174.76, 50, "Pacific/Auckland", [20, 20.5, 18.5, 16, 13.5, 11.5, 10.5, 11, 12.5, 14, 16, 18.5]),
        new("christchurch", "Christchurch", -43.53, 172.63, 20, "Pacific/Auckland", [17.5, 17, 15, 12, 9, 6.5, 6, 7.5, 10, 12, 14, 16]),
        new("hobart", "Hobart", -42.88, 147.33, 50, "Australia/Hobart", [17.5, 17.5, 15.5, 13.5, 11, 8.5, 8.5, 9.5, 11, 13, 14.5, 16]),
    ];

    /// <summary>The nearest place that is known. 47.10 N 10.20 E: Innsbruck.</summary>
    public static ClimateStation Nearest(double latitude, double longitude) =>
        Stations.MinBy(s => DistanceKm(s.Latitude, s.Longitude, latitude, longitude))!;

    /// <summary>Monthly means at a place: the nearest station's, colder by <see cref="Lapse"/> where it lies higher. 47.10 N 10.20 E at 1 580 m: −8.5 °C in January.</summary>
    public static IReadOnlyList<double> MonthlyC(double latitude, double longitude, double altitudeM)
    {
        var station = Nearest(latitude, longitude);
        return [.. station.MonthlyC.Select(c => Math.Round(c - (altitudeM - station.AltitudeM) * Lapse.Value, 1))];
    }

    /// <summary>Great circle by the haversine, km (handbook 10 section 6). 47.10 N 10.20 E to 47.25 N 10.45 E: 25.20 km.</summary>
    public static double DistanceKm(double latitude1, double longitude1, double latitude2, double longitude2)
    {
        var (a, b) = (double.DegreesToRadians(latitude1), double.DegreesToRadians(latitude2));
        var h = Half(b - a) + Math.Cos(a) * Math.Cos(b) * Half(double.DegreesToRadians(longitude2 - longitude1));
        return 2 * EarthKm * Math.Asin(Math.Min(1, Math.Sqrt(h)));

        static double Half(double angle) => Math.Pow(Math.Sin(angle / 2), 2);
    }
}
