namespace Grate.Core.Physics;

/// <summary>
/// Flue gas of one kilogram of dry, ash-free wood (C 0.50, H 0.06, O 0.44 by mass) burnt with a given
/// excess air. Handbook 01 section 2. Amounts in kmol per kg dry wood.
/// </summary>
public readonly record struct WoodGas
{
    private const double Carbon = 0.50 / 12.011;
    private const double Hydrogen = 0.06 / 2.016;
    private const double FuelOxygen = 0.44 / 31.998;
    private const double Oxygen = Carbon + Hydrogen / 2 - FuelOxygen;
    private const double AirPerOxygen = 100 / 20.946;
    private const double NitrogenPerOxygen = 79.054 / 20.946;
    private const double MolarCo2 = 44.009, MolarH2O = 18.015, MolarO2 = 31.998, MolarN2 = 28.161;

    /// <summary>Stoichiometric air, kg per kg dry wood: 5.913.</summary>
    public const double StoichiometricAirKgKg = Oxygen * (MolarO2 + NitrogenPerOxygen * MolarN2);

    /// <summary>Greatest possible dry CO2 share (λ = 1): 0.2051.</summary>
    public const double MaxDryCo2 = Carbon / (Carbon + Oxygen * NitrogenPerOxygen);

    /// <summary>Dry O2 share of air, the limit no flue gas reaches: 0.20946.</summary>
    public const double AirO2 = 0.20946;

    private readonly double _h2o, _o2, _n2, _kmol, _kg;

    /// <summary>Gas of wood at moisture u and excess-air ratio λ.</summary>
    /// <param name="moistureWet">Moisture u, kg water per kg wet wood, 0 ≤ u &lt; 1.</param>
    /// <param name="excessAir">Excess-air ratio λ at the collar, ≥ 1.</param>
    public WoodGas(double moistureWet, double excessAir)
    {
        _h2o = Hydrogen + moistureWet / (1 - moistureWet) / MolarH2O;
        _o2 = (excessAir - 1) * Oxygen;
        _n2 = excessAir * Oxygen * NitrogenPerOxygen;
        _kmol = Carbon + _h2o + _o2 + _n2;
        _kg = Carbon * MolarCo2 + _h2o * MolarH2O + _o2 * MolarO2 + _n2 * MolarN2;
    }

    /// <summary>Wet gas, kg per kg dry wood.</summary>
    public double KgPerKgDryWood => _kg;

    /// <summary>Dry CO2 share, 0..0.2051.</summary>
    public double DryCo2 => Carbon / (Carbon + _o2 + _n2);

    /// <summary>Mole fraction of water vapour in the wet gas, 0..1.</summary>
    public double WaterFraction => _h2o / _kmol;

    /// <summary>Specific gas constant R_g = 8314.46 / M, J/(kg K).</summary>
    public double GasConstant => 8314.46 * _kmol / _kg;

    /// <summary>Density ρ = p / (R_g T), kg/m³: 0.7058 for air at 101 325 Pa and 227 °C.</summary>
    /// <param name="pressurePa">Pressure, Pa.</param>
    /// <param name="gasC">Temperature, °C.</param>
    public double DensityKgM3(double pressurePa, double gasC) =>
        pressurePa / (GasConstant * (gasC + DryAir.ZeroCelsiusK));

    /// <summary>
    /// Specific heat of the mixture, J/(kg K), from Shomate polynomials (NIST Chemistry WebBook, from memory).
    /// Valid from 100 K to 1 200 K; CO2 and H2O are held at their 298 K value below that.
    /// </summary>
    public double HeatCapacityJKgK(double gasC)
    {
        var k = gasC + DryAir.ZeroCelsiusK;
        var t = k / 1000;
        var tCondensable = Math.Max(k, 298) / 1000;
        var n2 = k <= 500
            ? Shomate(t, 28.98641, 1.853978, -9.647459, 16.63537, 0.000117)
            : Shomate(t, 19.50583, 19.88705, -8.598535, 1.369784, 0.527601);
        var o2 = k <= 700
            ? Shomate(t, 31.32234, -20.23531, 57.86644, -36.50624, -0.007374)
            : Shomate(t, 30.03235, 8.772972, -3.988133, 0.788313, -0.741599);
        var co2 = Shomate(tCondensable, 24.99735, 55.18696, -33.69137, 7.948387, -0.136638);
        var h2o = Shomate(tCondensable, 30.09200, 6.832514, 6.793435, -2.534480, 0.082139);
        return 1000 * (Carbon * co2 + _h2o * h2o + _o2 * o2 + _n2 * n2) / _kg;
    }

    /// <summary>Excess air from a dry CO2 share: λ = (nC/x − nC + O)/(4.7742 O).</summary>
    /// <param name="dryCo2">Dry CO2 share x, 0 &lt; x ≤ 0.2051.</param>
    public static double ExcessAirFromCo2(double dryCo2) =>
        (Carbon / dryCo2 - Carbon + Oxygen) / (AirPerOxygen * Oxygen);

    /// <summary>Excess air from a dry O2 share: λ = (O + y (nC − O))/(O (1 − 4.7742 y)).</summary>
    /// <param name="dryO2">Dry O2 share y, 0 ≤ y &lt; 0.20946.</param>
    public static double ExcessAirFromO2(double dryO2) =>
        (Oxygen + dryO2 * (Carbon - Oxygen)) / (Oxygen * (1 - AirPerOxygen * dryO2));

    /// <summary>Thermal conductivity of flue gas, W/(m K): 0.0223 + 6.5e-5 t (EN 13384-1, from memory).</summary>
    public static double ConductivityWMK(double gasC) => 0.0223 + 6.5e-5 * gasC;

    /// <summary>Dynamic viscosity, Pa s: 15e-6 + 47e-9 t − 20e-12 t² (EN 13384-1, from memory).</summary>
    public static double ViscosityPaS(double gasC) => 15e-6 + 47e-9 * gasC - 20e-12 * gasC * gasC;

    // cp = A + B t + C t² + D t³ + E/t², J/(mol K), t = T/1000.
    private static double Shomate(double t, double a, double b, double c, double d, double e) =>
        a + t * (b + t * (c + t * d)) + e / (t * t);
}
