namespace Grate.Core.Physics;

/// <summary>Pipe friction.</summary>
public static class Friction
{
    /// <summary>Below this Reynolds number the model keeps 2300 (handbook 01 section 4.2).</summary>
    public const double LowestReynolds = 2300;

    /// <summary>
    /// Darcy friction factor by Colebrook: 1/√ψ = −2 log10(2.51/(Re √ψ) + r/(3.71 D_h)).
    /// Example: Re 1e5, r/D 1e-4 gives 0.018514 (python3-fluids, Colebrook).
    /// </summary>
    /// <param name="reynolds">Reynolds number; 2300 is used below 2300.</param>
    /// <param name="relativeRoughness">r / D_h, 0..0.2.</param>
    public static double Colebrook(double reynolds, double relativeRoughness)
    {
        var re = Math.Max(reynolds, LowestReynolds);
        var inverseRoot = 6.0;
        for (var i = 0; i < 50; i++)
        {
            var next = -2 * Math.Log10(2.51 * inverseRoot / re + relativeRoughness / 3.71);
            if (Math.Abs(next - inverseRoot) < 1e-10)
                break;
            inverseRoot = next;
        }
        return 1 / (inverseRoot * inverseRoot);
    }
}
