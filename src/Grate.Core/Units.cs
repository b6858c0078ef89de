using System.Globalization;

namespace Grate.Core;

/// <summary>What a screen shows: metric or US customary.</summary>
[JsonConverter(typeof(WordConverter<UnitSystem>))]
public enum UnitSystem
{
    /// <summary>Pa, mm, m, °C, kg.</summary>
    Metric,

    /// <summary>in w.c., in, ft, °F, lb.</summary>
    Us,
}

/// <summary>A kind of quantity that is entered or shown.</summary>
[JsonConverter(typeof(WordConverter<Quantity>))]
public enum Quantity
{
    /// <summary>Draft and pressure differences: Pa, in w.c.</summary>
    Draft,

    /// <summary>Temperature: °C, °F.</summary>
    Temperature,

    /// <summary>Temperature difference: K, °F.</summary>
    TemperatureDifference,

    /// <summary>Length: m, ft.</summary>
    Length,

    /// <summary>Bores and thicknesses: SI m, shown mm or in.</summary>
    Bore,

    /// <summary>Deposits and gaps: SI m, shown mm or in, finely.</summary>
    Thickness,

    /// <summary>Mass of a deposit: kg, lb.</summary>
    Mass,

    /// <summary>Wood of a year: kg, lb.</summary>
    Wood,

    /// <summary>Energy: SI J, shown kWh or million Btu.</summary>
    Energy,

    /// <summary>What a sweep brings down: SI m³, shown L or gal.</summary>
    SmallVolume,

    /// <summary>Burn rate: kg/h, lb/h.</summary>
    BurnRate,

    /// <summary>Small mass flow: SI kg/s, shown g/s or lb/h.</summary>
    LeakFlow,

    /// <summary>Air of fans and supplies: SI m³/s, shown L/s or cfm.</summary>
    AirFlow,

    /// <summary>Altitude: m, ft.</summary>
    Altitude,

    /// <summary>Velocity: m/s, ft/s.</summary>
    Velocity,

    /// <summary>Station pressure: SI Pa, shown hPa or in Hg.</summary>
    StationPressure,

    /// <summary>Volume of a house: m³, ft³.</summary>
    Volume,

    /// <summary>Stacked wood: m³, ft³, finely.</summary>
    StackedVolume,

    /// <summary>A whole count, minutes among them.</summary>
    Count,

    /// <summary>Share: SI 0..1, shown %.</summary>
    Share,

    /// <summary>Concentration of carbon monoxide: ppm in both systems.</summary>
    Concentration,

    /// <summary>Area: m², ft².</summary>
    Area,

    /// <summary>Thermal resistance of a wall: SI m² K/W, shown ft² h °F/Btu.</summary>
    Resistance,

    /// <summary>A plain ratio.</summary>
    Ratio,
}

/// <summary>How one quantity is shown in one system: shown = SI · Factor + Offset.</summary>
/// <param name="Symbol">Unit as shown.</param>
/// <param name="Factor">Multiplies the SI value.</param>
/// <param name="Offset">Added after the factor.</param>
/// <param name="Decimals">Decimal places shown.</param>
/// <param name="Step">Step of the ± buttons, in the shown unit.</param>
public sealed record Unit(string Symbol, double Factor, double Offset, int Decimals, double Step)
{
    /// <summary>The shown value of an SI value.</summary>
    public double FromSi(double si) => si * Factor + Offset;

    /// <summary>The SI value of a shown value.</summary>
    public double ToSi(double shown) => (shown - Offset) / Factor;

    /// <summary>The shown number alone, with a true minus sign.</summary>
    public string Number(double si) => Text(FromSi(si), Decimals);

    /// <summary>Number and unit.</summary>
    public string Format(double si) => Symbol.Length == 0 ? Number(si) : $"{Number(si)} {Symbol}";

    /// <summary>Two numbers and the unit: "17.0–22.1 Pa", and "−1.2 to 3.4 Pa" where a dash would mislead.</summary>
    public string Range(double lowSi, double highSi) =>
        $"{Number(lowSi)}{(FromSi(lowSi) < 0 ? " to " : "–")}{Format(highSi)}";

    private static string Text(double value, int decimals)
    {
        var text = value.ToString("F" + decimals.ToString(CultureInfo.InvariantCulture), CultureInfo.InvariantCulture);
        // −0.0 is a zero; a true minus sign cannot be mistaken for a dash of a range.
        return text.Trim('-', '0', '.').Length == 0 ? text.TrimStart('-') : text.Replace('-', '−');
    }
}

/// <summary>
/// The one table of conversions; it is also served to the web.
/// Sources: NIST SP 811 (inch of water at 4 °C 249.089 Pa, inch of mercury 3386.39 Pa, ft 0.3048 m, lb 0.45359237 kg,
/// Btu 1 055.05585 J).
/// </summary>
public static class Units
{
    private const double Inch = 0.0254, Foot = 0.3048, Pound = 0.45359237;

    private static readonly Dictionary<Quantity, (Unit Metric, Unit Us)> _table = new()
    {
        [Quantity.Draft] = (new("Pa", 1, 0, 1, 0.5), new("in w.c.", 1 / 249.089, 0, 3, 0.002)),
        [Quantity.Temperature] = (new("°C", 1, 0, 0, 1), new("°F", 1.8, 32, 0, 1)),
        [Quantity.TemperatureDifference] = (new("K", 1, 0, 0, 1), new("°F", 1.8, 0, 0, 1)),
        [Quantity.Length] = (new("m", 1, 0, 2, 0.1), new("ft", 1 / Foot, 0, 1, 0.5)),
        [Quantity.Bore] = (new("mm", 1000, 0, 0, 5), new("in", 1 / Inch, 0, 1, 0.5)),
        [Quantity.Thickness] = (new("mm", 1000, 0, 1, 0.5), new("in", 1 / Inch, 0, 2, 0.02)),
        [Quantity.Mass] = (new("kg", 1, 0, 1, 0.1), new("lb", 1 / Pound, 0, 1, 0.2)),
        [Quantity.Wood] = (new("kg", 1, 0, 0, 100), new("lb", 1 / Pound, 0, 0, 200)),
        [Quantity.Energy] = (new("kWh", 1 / 3.6e6, 0, 0, 100), new("MMBtu", 1 / 1.05505585e9, 0, 1, 1)),
        [Quantity.SmallVolume] = (new("L", 1000, 0, 1, 0.5), new("gal", 1 / 0.003785411784, 0, 2, 0.1)),
        [Quantity.BurnRate] = (new("kg/h", 1, 0, 1, 0.1), new("lb/h", 1 / Pound, 0, 1, 0.2)),
        [Quantity.LeakFlow] = (new("g/s", 1000, 0, 1, 0.1), new("lb/h", 3600 / Pound, 0, 0, 1)),
        [Quantity.AirFlow] = (new("L/s", 1000, 0, 0, 5), new("cfm", 60 / (Foot * Foot * Foot), 0, 0, 10)),
        [Quantity.Altitude] = (new("m", 1, 0, 0, 10), new("ft", 1 / Foot, 0, 0, 50)),
        [Quantity.Velocity] = (new("m/s", 1, 0, 2, 0.1), new("ft/s", 1 / Foot, 0, 1, 0.5)),
        [Quantity.StationPressure] = (new("hPa", 0.01, 0, 0, 1), new("in Hg", 1 / 3386.39, 0, 2, 0.05)),
        [Quantity.Volume] = (new("m³", 1, 0, 0, 10), new("ft³", 1 / (Foot * Foot * Foot), 0, 0, 500)),
        [Quantity.StackedVolume] = (new("m³", 1, 0, 1, 0.5), new("ft³", 1 / (Foot * Foot * Foot), 0, 0, 10)),
        [Quantity.Count] = (new("", 1, 0, 0, 1), new("", 1, 0, 0, 1)),
        [Quantity.Share] = (new("%", 100, 0, 0, 1), new("%", 100, 0, 0, 1)),
        [Quantity.Concentration] = (new("ppm", 1, 0, 0, 1), new("ppm", 1, 0, 0, 1)),
        [Quantity.Area] = (new("m²", 1, 0, 3, 0.01), new("ft²", 1 / (Foot * Foot), 0, 2, 0.1)),
        [Quantity.Resistance] = (new("m² K/W", 1, 0, 2, 0.05), new("ft² h °F/Btu", 1.8 * 1055.05585 / (3600 * Foot * Foot), 0, 1, 0.5)),
        [Quantity.Ratio] = (new("", 1, 0, 2, 0.1), new("", 1, 0, 2, 0.1)),
    };

    /// <summary>How a quantity is shown in a system.</summary>
    public static Unit Of(Quantity quantity, UnitSystem system) =>
        system == UnitSystem.Us ? _table[quantity].Us : _table[quantity].Metric;
}
