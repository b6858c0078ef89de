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
}
