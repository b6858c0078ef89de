namespace Grate.Core.Flue;

/// <summary>An earlier hot reading on the same flue, from a visit where nothing was found wrong.</summary>
/// <param name="MeasuredPa">Measured, Pa.</param>
/// <param name="ExpectedPa">Expected then, Pa.</param>
/// <param name="VisitSigmaPa">s_visit of that visit: what is not systematic in its band, Pa.</param>
public sealed record SoundReading(double MeasuredPa, double ExpectedPa, double VisitSigmaPa);

/// <summary>
/// This flue's own baseline (handbook 01 section 5): bias b ~ Normal(0, s_sys²), each earlier reading gives
/// measured − expected ~ Normal(b, s_visit² + gauge²), weighed by precision.
/// </summary>
/// <param name="BiasPa">Posterior mean b̂, Pa.</param>
/// <param name="SigmaPa">One sigma of the calibrated expectation, √(var_b + s_visit²), Pa.</param>
/// <param name="Visits">Visits it rests on.</param>
/// <param name="ExpectedPa">Calibrated expectation, Pa.</param>
/// <param name="LowPa">5 % end, Pa.</param>
/// <param name="HighPa">95 % end, Pa.</param>
public sealed record DraftBaseline(double BiasPa, double SigmaPa, int Visits, double ExpectedPa, double LowPa, double HighPa)
{
    /// <summary>From this many visits on the verdict uses the calibrated expectation.</summary>
    public static readonly Limit VisitsToJudgeBy = Limit.Assumed(2, "visits", "one reading alone may be chance");

    /// <summary>Inputs that stay the same from visit to visit.</summary>
    private static readonly DraftInput[] _systematic = [DraftInput.HeatTransfer, DraftInput.Lengths, DraftInput.Diameters];

    /// <summary>What is not systematic in a band: s_visit, Pa.</summary>
    public static double VisitSigmaPa(IEnumerable<Contribution> contributions) =>
        Math.Sqrt(contributions.Where(c => !_systematic.Contains(c.Input)).Sum(c => c.SigmaPa * c.SigmaPa));

    /// <summary>The baseline, or null without earlier readings.</summary>
    public static DraftBaseline? Of(DraftBand band, IReadOnlyList<SoundReading> history)
    {
        if (history.Count == 0)
            return null;
        var systematic = band.Contributions.Where(c => _systematic.Contains(c.Input)).Sum(c => c.SigmaPa * c.SigmaPa);
        // No uncertainty, no bias to learn: the limit of ever smaller s_sys.
        double precision = systematic > 0 ? 1 / systematic : double.PositiveInfinity, weighted = 0;
        foreach (var reading in history)
        {
            var gauge = FlueLimits.GaugeSigmaPa(reading.MeasuredPa);
            var weight = 1 / (reading.VisitSigmaPa * reading.VisitSigmaPa + gauge * gauge);
            precision += weight;
            weighted += weight * (reading.MeasuredPa - reading.ExpectedPa);
        }
        var bias = weighted / precision;
        var visit = VisitSigmaPa(band.Contributions);
        var sigma = Math.Sqrt(1 / precision + visit * visit);
        var expected = band.ExpectedPa + bias;
        return new DraftBaseline(bias, sigma, history.Count, expected, expected - DraftBand.Reach * sigma, expected + DraftBand.Reach * sigma);
    }
}
