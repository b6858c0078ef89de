namespace Grate.Core;

/// <summary>How a field is called and shown where a default of it is listed.</summary>
/// <param name="Name">In a technician's words.</param>
/// <param name="Quantity">Its quantity.</param>
/// <param name="Si">SI units in one of the field's.</param>
public sealed record FieldName(string Name, Quantity Quantity, double Si = 1);

/// <summary>Names of the fields for which defaults stand in, by the last word of their path.</summary>
public static class FieldNames
{
    /// <summary>All of them.</summary>
    public static IReadOnlyDictionary<string, FieldName> All { get; } = new Dictionary<string, FieldName>
    {
        ["outdoorC"] = new("Outdoors", Quantity.Temperature),
        ["outdoorColdC"] = new("Lowest of the night", Quantity.Temperature),
        ["indoorC"] = new("Room", Quantity.Temperature),
        ["altitudeM"] = new("Altitude", Quantity.Altitude),
        ["housePressurePa"] = new("Room against outdoors", Quantity.Draft),
        ["windPa"] = new("Wind at the outlet", Quantity.Draft),
        ["collarGasC"] = new("Flue gas at the collar", Quantity.Temperature),
        ["burnKgH"] = new("Wood burnt", Quantity.BurnRate),
        ["moistureWet"] = new("Moisture of the wood, of its whole weight", Quantity.Share),
        ["excessAir"] = new("Air over what the fire needs", Quantity.Ratio),
        ["level"] = new("Fire", Quantity.Count),
        ["minPa"] = new("Draft this stove needs", Quantity.Draft),
        ["maxPa"] = new("Draft this stove may have", Quantity.Draft),
        ["cap"] = new("Top", Quantity.Count),
        ["screen"] = new("Screen on top", Quantity.Count),
        ["resistanceM2KW"] = new("Thermal resistance of the wall", Quantity.Resistance),
        ["roughnessMm"] = new("Roughness of the wall", Quantity.Thickness, 0.001),
        ["depositMm"] = new("Deposit on the wall", Quantity.Thickness, 0.001),
        ["source"] = new("Warmed with", Quantity.Count),
        ["ach50"] = new("Air changes an hour at 50 Pa", Quantity.Ratio),
        ["supplyLS"] = new("Supply air", Quantity.AirFlow, 0.001),
        ["stoveAirLS"] = new("Air of the stove", Quantity.AirFlow, 0.001),
        ["heatedHeightM"] = new("Heated height", Quantity.Length),
        ["neutralPlaneM"] = new("Neutral plane", Quantity.Length),
        ["stoveHeightM"] = new("Height of the collar", Quantity.Length),
        ["limitPa"] = new("Depressurisation borne", Quantity.Draft),
        ["today"] = new("Today", Quantity.Count),
        ["monthlyMeanC"] = new("Monthly means", Quantity.Temperature),
        ["seasonStart"] = new("Start of the heating season", Quantity.Count),
        ["thresholdMm"] = new("Deposit from which to sweep", Quantity.Thickness, 0.001),
        ["stopMm"] = new("Deposit from which there is no fire", Quantity.Thickness, 0.001),
        ["leftMm"] = new("Left behind", Quantity.Thickness, 0.001),
        ["measure"] = new("How the wood is counted", Quantity.Count),
        ["habit"] = new("How it is burnt", Quantity.Count),
        ["wood"] = new("Kind of wood", Quantity.Count),
        ["toldMoistureWet"] = new("Moisture of the wood, of its whole weight", Quantity.Share),
        ["amount"] = new("Wood a year", Quantity.Wood),
        ["bagKg"] = new("Weight of a bag", Quantity.Mass),
        ["woodC"] = new("Temperature of the wood", Quantity.Temperature),
        ["speciesOffset"] = new("Species offset of the meter", Quantity.Share),
        ["widthM"] = new("Width of the door", Quantity.Bore),
        ["heightM"] = new("Height of the door", Quantity.Bore),
        ["draftPa"] = new("Draft", Quantity.Draft),
        ["roomC"] = new("Room", Quantity.Temperature),
        ["closesFully"] = new("Air closes fully", Quantity.Count),
        ["humidity"] = new("Humidity of the room", Quantity.Share),
        ["outdoorDesignC"] = new("A cold day", Quantity.Temperature),
        ["kind"] = new("Duct", Quantity.Count),
        ["bends90"] = new("Bends of 90°", Quantity.Count),
        ["bends45"] = new("Bends of 45°", Quantity.Count),
        ["hood"] = new("Hood over the intake", Quantity.Count),
        ["insulationKWMK"] = new("Conductivity of the insulation, W/(m K)", Quantity.Ratio),
        ["filmWM2K"] = new("Film at its surface, W/(m² K)", Quantity.Ratio),
        ["codeAsks"] = new("Code asks for outside air", Quantity.Count),
        ["airCollar"] = new("Collar for outside air", Quantity.Count),
        ["houseLimitPa"] = new("Depressurisation borne", Quantity.Draft),
        ["labelMaxPa"] = new("Draft this stove may have", Quantity.Draft),
        ["diameterM"] = new("Collar", Quantity.Bore),
        ["gaugeEmissivity"] = new("Emissivity that the gauge is set to", Quantity.Ratio),
        ["emissivity"] = new("Emissivity of the surface", Quantity.Ratio),
        ["gasNowC"] = new("Flue gas now", Quantity.Temperature),
        ["gasHighC"] = new("Flue gas at high fire", Quantity.Temperature),
        ["wantedHours"] = new("Hours of the night", Quantity.Ratio),
        ["wantedInC"] = new("Room that is wanted", Quantity.Temperature),
        ["wantedOutC"] = new("Outdoors in the night", Quantity.Temperature),
        ["rounds"] = new("Unsplit", Quantity.Count),
        ["covered"] = new("Under cover", Quantity.Count),
        ["solidShare"] = new("Solid wood in the stack", Quantity.Share),
        ["dryKgM3"] = new("Dry density, kg/m³", Quantity.Ratio),
        ["targetWet"] = new("Moisture wanted, of its whole weight", Quantity.Share),
        ["slopeDeg"] = new("Slope", Quantity.Ratio),
    };

    /// <summary>The name of a field by its path; null where nobody named it.</summary>
    public static FieldName? Find(string path) => All.GetValueOrDefault(path[(path.LastIndexOf('.') + 1)..]);
}
