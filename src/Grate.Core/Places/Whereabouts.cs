namespace Grate.Core.Places;

/// <summary>Where a place lies: of the houses that the firm knows there, or of the firm itself.</summary>
/// <param name="Latitude">°.</param>
/// <param name="Longitude">°.</param>
/// <param name="AltitudeM">m.</param>
public sealed record Whereabouts(double Latitude, double Longitude, double AltitudeM)
{
    /// <summary>Latitude.</summary>
    internal static readonly EntryRange LatitudeRange = new("Latitude in °", Quantity.Ratio, -90, 90);

    /// <summary>Longitude.</summary>
    internal static readonly EntryRange LongitudeRange = new("Longitude in °", Quantity.Ratio, -180, 180);

    /// <summary>Altitude.</summary>
    internal static readonly EntryRange AltitudeRange = new("Altitude", Quantity.Altitude, -430, 5000);

    /// <summary>Refuses what is not on this earth.</summary>
    public void Check(string field, EntryErrors errors)
    {
        errors.Check($"{field}.latitude", Latitude, LatitudeRange);
        errors.Check($"{field}.longitude", Longitude, LongitudeRange);
        errors.Check($"{field}.altitudeM", AltitudeM, AltitudeRange);
    }
}
