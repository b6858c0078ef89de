namespace Grate.Core.Physics;

/// <summary>Dry air: station pressure and density.</summary>
public static class DryAir
{
    /// <summary>Specific gas constant of air, J/(kg K) (handbook 01 section 1).</summary>
    public const double GasConstant = 287.05;

    /// <summary>Specific heat of air, J/(kg K) (handbook 01 section 6).</summary>
    public const double HeatCapacityJKgK = 1006;

    /// <summary>Standard gravity, m/s².</summary>
    public const double Gravity = 9.80665;

    /// <summary>Zero of the Celsius scale, K.</summary>
    public const double ZeroCelsiusK = 273.15;

    /// <summary>
    /// Station pressure at an altitude: p = 101325 (1 − 2.25577e-5 h)^5.25588, Pa.
    /// Source: ICAO / US Standard Atmosphere 1976. Valid for h from −500 to 11 000 m.
    /// Example: 1 000 m gives 89 875 Pa.
    /// </summary>
    /// <param name="altitudeM">Altitude above sea level, m.</param>
    public static double StationPressurePa(double altitudeM) =>
        101325 * Math.Pow(1 - 2.25577e-5 * altitudeM, 5.25588);

    /// <summary>
    /// Density of air: ρ = p / (R T), kg/m³. Example: 101 325 Pa and 20 °C give 1.2041 kg/m³.
    /// </summary>
    /// <param name="pressurePa">Station pressure, Pa.</param>
    /// <param name="airC">Air temperature, °C, above −273.15.</param>
    public static double DensityKgM3(double pressurePa, double airC) =>
        pressurePa / (GasConstant * (airC + ZeroCelsiusK));

    /// <summary>Dynamic viscosity 1.458e-6 T^1.5/(T + 110.4), Pa s (US Standard Atmosphere 1976): 1.789e-5 at 15 °C.</summary>
    /// <param name="airC">Air temperature, °C, above −273.15.</param>
    public static double ViscosityPaS(double airC)
    {
        var kelvin = airC + ZeroCelsiusK;
        return 1.458e-6 * Math.Pow(kelvin, 1.5) / (kelvin + 110.4);
    }
}
