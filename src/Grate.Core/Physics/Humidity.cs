namespace Grate.Core.Physics;

/// <summary>Water vapour.</summary>
public static class Humidity
{
    /// <summary>
    /// Dew point, °C, of a vapour pressure: Magnus e_s = 610.94 exp(17.625 t/(t + 243.04)) inverted
    /// (Alduchov and Eskridge 1996). Valid −40..100 °C within 0.4 %. Example: 2 333 Pa gives 19.97 °C.
    /// </summary>
    /// <param name="vapourPa">Partial pressure of water vapour, Pa, above 0.</param>
    public static double DewPointC(double vapourPa)
    {
        var a = Math.Log(vapourPa / 610.94);
        return 243.04 * a / (17.625 - a);
    }

    /// <summary>Saturation pressure of water vapour, Pa, by the same formula: 2 333 Pa at 19.97 °C.</summary>
    /// <param name="airC">Air temperature, °C.</param>
    public static double SaturationPa(double airC) => 610.94 * Math.Exp(17.625 * airC / (airC + 243.04));

    /// <summary>Dew point of air, °C: 10.2 °C for 21 °C at 50 %.</summary>
    /// <param name="airC">Air temperature, °C.</param>
    /// <param name="relative">Relative humidity, above 0, up to 1.</param>
    public static double DewPointC(double airC, double relative) => DewPointC(relative * SaturationPa(airC));
}
