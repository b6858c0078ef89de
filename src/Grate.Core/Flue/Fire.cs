namespace Grate.Core.Flue;

/// <summary>How hot the fire is run.</summary>
[JsonConverter(typeof(WordConverter<FiringLevel>))]
public enum FiringLevel
{
    /// <summary>Low fire.</summary>
    [Said("Low fire")]
    Low,

    /// <summary>Normal fire.</summary>
    Normal,

    /// <summary>High fire.</summary>
    [Said("High fire")]
    High,
}

/// <summary>How well an input is known.</summary>
[JsonConverter(typeof(WordConverter<Origin>))]
public enum Origin
{
    /// <summary>Measured with an instrument.</summary>
    Measured,

    /// <summary>Converted from another measurement (pipe surface to gas).</summary>
    Converted,

    /// <summary>Entered by hand, estimated or weighed.</summary>
    Entered,

    /// <summary>A default of the handbook.</summary>
    Default,
}

/// <summary>A value together with how well it is known.</summary>
/// <param name="Value">The value.</param>
/// <param name="Origin">Where it comes from.</param>
public readonly record struct Given(double Value, Origin Origin);

/// <summary>The state of the fire.</summary>
/// <param name="CollarGasC">Gas at the collar, °C: measured by probe, converted from the pipe's surface, or default.</param>
/// <param name="BurnKgH">Burn rate as fired, kg/h: entered or default.</param>
/// <param name="MoistureWet">Moisture u, wet basis, 0..0.6.</param>
/// <param name="ExcessAir">λ at the collar: measured (from O2 or CO2), entered or default.</param>
public sealed record Fire(Given CollarGasC, Given BurnKgH, double MoistureWet, Given ExcessAir)
{
    /// <summary>A fire of a level with everything by default.</summary>
    /// <param name="level">Its level.</param>
    /// <param name="fires">Burn rates of the recorded stove; null where none is known.</param>
    public static Fire Ordinary(FiringLevel level, StoveFires? fires = null) => new(
        new Given(FlueLimits.CollarGas(level).Value, Origin.Default), new Given((fires?.Burn(level) ?? FlueLimits.Burn(level)).Value, Origin.Default),
        FlueLimits.Moisture.Value, new Given(FlueLimits.ExcessAir(level).Value, Origin.Default));

    /// <summary>Dry wood burnt, kg/s.</summary>
    public double DryBurnKgS => BurnKgH.Value * (1 - MoistureWet) / 3600;
}

/// <summary>Air outside and inside.</summary>
/// <param name="OutdoorC">Outdoor temperature, °C.</param>
/// <param name="IndoorC">Room temperature, °C.</param>
/// <param name="StationPressurePa">Station pressure, Pa.</param>
/// <param name="HousePressurePa">Room against outdoors at the collar, Pa, negative when the room is below.</param>
/// <param name="WindPa">Wind at the outlet, Pa, 0 unless it stands badly.</param>
public sealed record Surroundings(
    double OutdoorC, double IndoorC, double StationPressurePa, Given HousePressurePa, double WindPa)
{
    /// <summary>The temperature around a segment, °C; an attic is at the mean of indoor and outdoor, 5 °C between 20 and −10.</summary>
    public double AroundC(SegmentPlace place) => place switch
    {
        SegmentPlace.Indoor => IndoorC,
        SegmentPlace.Attic => (IndoorC + OutdoorC) / 2,
        _ => OutdoorC,
    };
}

/// <summary>The draft a stove needs at its collar, Pa.</summary>
/// <param name="MinPa">Least draft.</param>
/// <param name="MaxPa">Greatest draft.</param>
public sealed record DraftNeed(double MinPa, double MaxPa);
