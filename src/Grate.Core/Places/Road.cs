namespace Grate.Core.Places;

/// <summary>Drives by the plain rule, where no routing service answers (handbook 10 section 6).</summary>
public static class Road
{
    /// <summary>How much longer the road is than the great circle.</summary>
    public static readonly Limit Winding = Limit.Assumed(1.3, "", "country roads against the great circle");

    /// <summary>How fast one drives.</summary>
    public static readonly Limit SpeedKmH = Limit.Assumed(45, "km/h", "country roads");

    private const double MinutesInHour = 60;

    /// <summary>Kilometres by road. 47.10 N 10.20 E to 47.25 N 10.45 E: 32.77 km.</summary>
    public static double Km(double latitude1, double longitude1, double latitude2, double longitude2) => Climate.DistanceKm(latitude1, longitude1, latitude2, longitude2) * Winding.Value;

    /// <summary>Minutes by road. The same: 43.7 min.</summary>
    public static double Minutes(double latitude1, double longitude1, double latitude2, double longitude2) => Km(latitude1, longitude1, latitude2, longitude2) / SpeedKmH.Value * MinutesInHour;
}
