namespace Grate.Core.Physics;

/// <summary>Heat transfer from gas to the inner wall of a duct.</summary>
public static class HeatTransfer
{
    /// <summary>
    /// Nu = (ψ/ψ0)^0.67 · 0.0214 (Re^0.8 − 100) Pr^0.4 (1 + (D_h/L_tot)^0.67), EN 13384-1 (from memory).
    /// </summary>
    /// <param name="reynolds">Reynolds number; 2300 is used below 2300.</param>
    /// <param name="prandtl">Prandtl number, about 0.7 for flue gas.</param>
    /// <param name="roughToSmooth">ψ/ψ0, friction factor of the wall over that of a smooth one, ≥ 1.</param>
    /// <param name="diameterToLength">D_h / L_tot.</param>
    public static double Nusselt(double reynolds, double prandtl, double roughToSmooth, double diameterToLength)
    {
        var re = Math.Max(reynolds, Friction.LowestReynolds);
        return Math.Pow(roughToSmooth, 0.67) * 0.0214 * (Math.Pow(re, 0.8) - 100)
            * Math.Pow(prandtl, 0.4) * (1 + Math.Pow(diameterToLength, 0.67));
    }
}
