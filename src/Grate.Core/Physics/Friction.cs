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
        // Newton on x = 1/√ψ, from Haaland's explicit formula: two or three steps.
        var x = -1.8 * Math.Log10(Math.Pow(relativeRoughness / 3.7, 1.11) + 6.9 / re);
        for (var i = 0; i < 20; i++)
        {
            var inner = 2.51 * x / re + relativeRoughness / 3.71;
            var step = (x + 2 * Math.Log10(inner)) / (1 + 2 * 2.51 / (re * inner * Math.Log(10)));
            x -= step;
            if (Math.Abs(step) < 1e-11)
                break;
        }
        return 1 / (x * x);
    }
}
