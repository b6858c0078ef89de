namespace Grate.Core.Flue;

/// <summary>Surroundings as entered; a missing field takes the handbook's default.</summary>
/// <param name="OutdoorC">Outdoor temperature, °C, −60..50; needed.</param>
/// <param name="IndoorC">Room temperature, °C, −20..45; default 20.</param>
/// <param name="AltitudeM">Altitude, m, −430..5000; default 0.</param>
/// <param name="StationPressurePa">Barometer (station pressure), Pa, 50 000..110 000; replaces the altitude.</param>
/// <param name="HousePressurePa">Room against outdoors, Pa, −60..60; default 0.</param>
/// <param name="HousePressureMeasured">Whether that was measured; default false.</param>
/// <param name="WindPa">Wind at the outlet, Pa, −100..100; default 0.</param>
public sealed record SurroundingsEntry(
    double? OutdoorC = null, double? IndoorC = null, double? AltitudeM = null, double? StationPressurePa = null,
    double? HousePressurePa = null, bool? HousePressureMeasured = null, double? WindPa = null);

/// <summary>A fire as entered. O2 wins over CO2, both over λ; burn rate over level; probe over surface.</summary>
/// <param name="CollarGasC">Gas at the collar by probe, °C.</param>
/// <param name="Level">low, normal or high; default normal.</param>
/// <param name="BurnKgH">Burn rate as fired, kg/h.</param>
/// <param name="MoistureWet">Moisture, wet basis, 0..0.6.</param>
/// <param name="ExcessAir">λ at the collar, 1..40.</param>
/// <param name="Co2DryPct">Dry CO2, %.</param>
/// <param name="O2DryPct">Dry O2, %.</param>
/// <param name="PipeSurfaceC">Surface of bare pipe within 0.5 m of the collar, °C.</param>
public sealed record FireEntry(
    double? CollarGasC = null, string? Level = null, double? BurnKgH = null, double? MoistureWet = null,
    double? ExcessAir = null, double? Co2DryPct = null, double? O2DryPct = null, double? PipeSurfaceC = null)
{
    /// <summary>Burn rates of the recorded stove, where one is asked about; a program that knows no stove keeps the handbook's.</summary>
    [JsonIgnore]
    public StoveFires? Fires { get; init; }
}

/// <summary>Draft needed, as entered.</summary>
/// <param name="MinPa">Least, Pa; default 12.</param>
/// <param name="MaxPa">Greatest, Pa; default 30.</param>
public sealed record NeedEntry(double? MinPa = null, double? MaxPa = null);

/// <summary>A draft reading, as entered.</summary>
/// <param name="DraftPa">Draft at the collar, Pa, −60..150, positive when the flue pulls.</param>
public sealed record ReadingEntry(double? DraftPa = null);

/// <summary>An earlier reading on the same flue where nothing was found wrong.</summary>
/// <param name="MeasuredPa">Measured, Pa.</param>
/// <param name="ExpectedPa">Expected then, Pa.</param>
/// <param name="VisitSigmaPa">s_visit of that visit, Pa.</param>
public sealed record HistoryEntry(double? MeasuredPa = null, double? ExpectedPa = null, double? VisitSigmaPa = null);

/// <summary>The question of POST /api/calculations/draft.</summary>
/// <param name="Surroundings">Air outside and inside.</param>
/// <param name="Flue">The chain.</param>
/// <param name="Fire">The fire; default a normal one.</param>
/// <param name="Need">What the label asks.</param>
/// <param name="Reading">A reading to judge.</param>
/// <param name="History">Earlier sound readings.</param>
/// <param name="Profile">Whether the profile along the flue is wanted.</param>
public sealed record DraftEntry(
    SurroundingsEntry? Surroundings = null, FlueEntry? Flue = null, FireEntry? Fire = null, NeedEntry? Need = null,
    ReadingEntry? Reading = null, IReadOnlyList<HistoryEntry>? History = null, bool? Profile = null);
