namespace Grate.Core.Places;

/// <summary>A house: where it stands, its climate and its outline. Heights are above the floor of the lowest storey.</summary>
/// <param name="Id">UUIDv7.</param>
/// <param name="Street">Street and number, 1 to 200 characters.</param>
/// <param name="Place">Place, 1 to 200 characters.</param>
/// <param name="Latitude">°, −90..90.</param>
/// <param name="Longitude">°, −180..180.</param>
/// <param name="AltitudeM">Altitude, m, −430..5000.</param>
/// <param name="VolumeM3">Volume, m³, 20..20 000; null if not known.</param>
/// <param name="Ach50">Blower-door result, 1/h, 0.1..60; null if none.</param>
/// <param name="BuiltEra">Word of the era where there is no blower-door result.</param>
/// <param name="MonthlyC">Monthly means, January first, twelve, °C, −60..50.</param>
/// <param name="StoreyNames">Storeys from the lowest, 1 to 6.</param>
/// <param name="StoreyHeightsM">Their heights, m, 1.8..8.</param>
/// <param name="WidthM">Width, m, 3..60.</param>
/// <param name="RoofPitchDeg">Roof pitch, 0..70°.</param>
/// <param name="GroundM">Ground outside, m, 0..12: above 0 where the lowest storey is a cellar.</param>
/// <param name="Obstacles">What stands around, at most 20.</param>
public sealed record House(
    Guid Id, string Street, string Place, double Latitude, double Longitude, double AltitudeM, double? VolumeM3, double? Ach50,
    string? BuiltEra, IReadOnlyList<double> MonthlyC, IReadOnlyList<string> StoreyNames, IReadOnlyList<double> StoreyHeightsM,
    double WidthM, double RoofPitchDeg, double GroundM, IReadOnlyList<Obstacle> Obstacles)
{
    private const int MostStoreys = 6;

    /// <summary>When a house was built, where no blower-door test tells how tight it is.</summary>
    public static IReadOnlyList<Named> Eras { get; } =
        [new("before-1980", "before 1980"), new("to-2005", "1980 to 2005"), new("later", "after 2005"), new("low-energy", "low-energy house")];

    private static readonly EntryRange
        _month = new("Monthly mean", Quantity.Temperature, -60, 50),
        _volume = new("House volume", Quantity.Volume, 20, 20_000),
        _ach50 = new("ACH50 in 1/h", Quantity.Ratio, 0.1, 60),
        _storey = new("Height of a storey", Quantity.Length, 1.8, 8),
        _width = new("Width of the house", Quantity.Length, 3, 60),
        _pitch = new("Roof pitch in °", Quantity.Ratio, 0, 70),
        _ground = new("Height of the ground", Quantity.Length, 0, 12);

    /// <summary>Refuses monthly means that are not twelve, or none of this earth.</summary>
    /// <param name="field">Their field.</param>
    /// <param name="monthlyC">The means; null where an ordinary site stands in.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static void CheckMonths(string field, IReadOnlyList<double>? monthlyC, EntryErrors errors)
    {
        if (monthlyC is null)
            return;
        if (monthlyC.Count != 12)
            errors.Add(field, $"Monthly means are twelve, January first; {monthlyC.Count} were sent.");
        foreach (var (c, i) in monthlyC.Take(12).Select((c, i) => (c, i)))
            errors.Check($"{field}[{i}]", c, _month);
    }

    /// <summary>Height of the eaves, m.</summary>
    [JsonIgnore]
    public double EavesM => StoreyHeightsM.Sum();

    /// <summary>The house as it is drawn.</summary>
    public HouseOutline Outline() => new(WidthM, EavesM, RoofPitchDeg, GroundM, Obstacles);

    /// <summary>Refuses what cannot be.</summary>
    public void Check(EntryErrors errors)
    {
        errors.CheckText("street", Street, "Street", 200, needed: true);
        errors.CheckText("place", Place, "Place", 200, needed: true);
        errors.Check("latitude", Latitude, Whereabouts.LatitudeRange);
        errors.Check("longitude", Longitude, Whereabouts.LongitudeRange);
        errors.Check("altitudeM", AltitudeM, Whereabouts.AltitudeRange);
        errors.Check("volumeM3", VolumeM3, _volume);
        errors.Check("ach50", Ach50, _ach50);
        if (Ach50 is null && !Eras.Any(e => e.Code == BuiltEra))
            errors.Add("builtEra", Word.OneOf("Era, where no ACH50 is known,", BuiltEra, Eras.Select(e => e.Code)));
        CheckMonths("monthlyC", MonthlyC, errors);
        if (StoreyNames.Count is < 1 or > MostStoreys || StoreyHeightsM.Count != StoreyNames.Count)
            errors.Add("storeyNames", $"A house has 1 to {MostStoreys} storeys, each with its name and height.");
        foreach (var (name, i) in errors.Each("storeyNames", StoreyNames, MostStoreys, "storeys"))
            errors.CheckText($"storeyNames[{i}]", name, "A storey's name", 60, needed: true);
        for (var i = 0; i < StoreyHeightsM.Count; i++)
            errors.Check($"storeyHeightsM[{i}]", StoreyHeightsM[i], _storey);
        errors.Check("widthM", WidthM, _width);
        errors.Check("roofPitchDeg", RoofPitchDeg, _pitch);
        errors.Check("groundM", GroundM, _ground);
        Obstacle.Check(Obstacles, errors);
    }
}
