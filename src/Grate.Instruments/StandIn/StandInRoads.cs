using Grate.Core.Places;

namespace Grate.Instruments.StandIn;

/// <summary>Stands in for a road service: the plain rule, slower within a town and over the demo valley's pass.</summary>
public static class StandInRoads
{
    // Within so many kilometres one does not leave the town; over the pass it winds.
    private const double TownKm = 3, TownKmH = 25, PassLatitude = 47.145, PassMin = 9;

    /// <summary>Minutes from each place to each. Sallowby to High Fernby, 6.5 km by road: 8.7 min by the rule, 17.7 over the pass.</summary>
    public static RoadMatrix Of(RoadQuestion question) => new([.. question.Places.Select(a => (IReadOnlyList<double>)[.. question.Places.Select(b => Minutes(a, b))])]);

    private static double Minutes(RoadPlace from, RoadPlace to)
    {
        var km = Road.Km(from.Lat, from.Lon, to.Lat, to.Lon);
        return km / (km < TownKm ? TownKmH : Road.SpeedKmH.Value) * 60 + ((from.Lat > PassLatitude) != (to.Lat > PassLatitude) ? PassMin : 0);
    }
}
