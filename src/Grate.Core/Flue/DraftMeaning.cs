using MathNet.Numerics.RootFinding;

namespace Grate.Core.Flue;

/// <summary>What a reading means (handbook 01 section 6).</summary>
[JsonConverter(typeof(WordConverter<DraftVerdict>))]
public enum DraftVerdict
{
    /// <summary>Within the band, and what the stove needs.</summary>
    [Said("as expected")]
    AsExpected,

    /// <summary>Within the band, but below the need: design, not a fault of today.</summary>
    [Said("as expected for this flue, but too weak for this stove")]
    AsExpectedTooWeak,

    /// <summary>Within the band, but above the need.</summary>
    [Said("as expected for this flue, but stronger than this stove may have")]
    AsExpectedTooStrong,

    /// <summary>Something is wrong today.</summary>
    [Said("below what this flue should pull")]
    BelowExpected,

    /// <summary>Wind, a hotter fire than entered, or a misplaced probe.</summary>
    [Said("above what this flue should pull")]
    AboveExpected,
}

/// <summary>A residual restated three ways, each to be tested; null where it explains nothing.</summary>
/// <param name="BlockedShare">Share of the section blocked, at least; 0..1.</param>
/// <param name="LeakKgS">Cool room air drawn in at the collar, kg/s.</param>
/// <param name="HousePa">Depressurisation of the house, Pa, positive.</param>
public sealed record Restated(double? BlockedShare, double? LeakKgS, double? HousePa);

/// <summary>A reading held against the expectation.</summary>
/// <param name="Verdict">The finding.</param>
/// <param name="ResidualPa">Expected − measured, Pa.</param>
/// <param name="Restated">The residual restated.</param>
public sealed record DraftMeaning(DraftVerdict Verdict, double ResidualPa, Restated Restated)
{
    private const double MostLeakKgS = 10;

    /// <summary>Judges a reading by the plain expectation, or by the flue's own baseline from two visits on.</summary>
    /// <param name="readingPa">The reading, Pa.</param>
    /// <param name="expected">Plain expectation.</param>
    /// <param name="band">Its band.</param>
    /// <param name="baseline">The flue's own baseline, or null.</param>
    /// <param name="read">Flue, fire, surroundings and need.</param>
    public static DraftMeaning Of(double readingPa, ExpectedDraft expected, DraftBand band, DraftBaseline? baseline, DraftCase read)
    {
        var calibrated = baseline?.Visits >= DraftBaseline.VisitsToJudgeBy.Value;
        var (centre, sigma) = calibrated ? (baseline!.ExpectedPa, baseline.SigmaPa) : (expected.Pa, band.SigmaPa);
        var residual = centre - readingPa;
        var gauge = FlueLimits.GaugeSigmaPa(readingPa);
        var reach = DraftBand.Reach * Math.Sqrt(sigma * sigma + gauge * gauge);
        var verdict = residual > reach ? DraftVerdict.BelowExpected
            : residual < -reach ? DraftVerdict.AboveExpected
            : readingPa < read.Need.MinPa ? DraftVerdict.AsExpectedTooWeak
            : readingPa > read.Need.MaxPa ? DraftVerdict.AsExpectedTooStrong
            : DraftVerdict.AsExpected;
        var restated = residual > 0
            ? new Restated(BlockedShare(residual / expected.March.CollarHeadPa), RoomAirKgS(residual, expected, read), residual)
            : new Restated(null, null, null);
        return new DraftMeaning(verdict, residual, restated);
    }

    /// <summary>
    /// Share of the section closed by an opening of loss ζ = (1/(Cc σ) − 1)², Cc = 0.62 + 0.38 σ³ (Weisbach).
    /// Example: ζ 100 gives 0.855.
    /// </summary>
    /// <param name="zeta">Extra loss coefficient, above 0.</param>
    public static double BlockedShare(double zeta) => 1 - Root(open => BlockageZeta(1 - open) - zeta, 1e-6, 1);

    /// <summary>The same the other way round: ζ of a section closed by a share. Example: 0.90 gives 228.</summary>
    /// <param name="blockedShare">Share closed, 0..1 exclusive.</param>
    public static double BlockageZeta(double blockedShare)
    {
        var open = 1 - blockedShare;
        return Math.Pow(1 / ((0.62 + 0.38 * open * open * open) * open) - 1, 2);
    }

    /// <summary>
    /// Room air that brings the draft down, kg/s: mixed in at the collar it cools the gas and adds flow; cooling and losses run again until
    /// the model has come down so far. Null where none up to 10 kg/s does. The handbook's bisection finds the same single root; Brent's
    /// method needs a third of its marches.
    /// </summary>
    /// <param name="downPa">How far it comes down, Pa, above 0.</param>
    /// <param name="expected">The draft without it.</param>
    /// <param name="read">Flue, fire and surroundings.</param>
    internal static double? RoomAirKgS(double downPa, ExpectedDraft expected, DraftCase read)
    {
        double Excess(double leakKgS) =>
            FlueMarch.Run(read.Flue, expected.Stream.DrawingIn(leakKgS, read.Fire, read.Air.IndoorC), read.Air).DraftPa
            - (expected.March.DraftPa - downPa);

        return Brent.TryFindRoot(Excess, 0, MostLeakKgS, 1e-9, 200, out var leakKgS) ? leakKgS : null;
    }

    // Bisection on a falling function: positive at low, negative at high; 32 halvings leave 2e-10 of the interval.
    private static double Root(Func<double, double> falling, double low, double high)
    {
        for (var i = 0; i < 32; i++)
        {
            var middle = (low + high) / 2;
            if (falling(middle) > 0)
                low = middle;
            else
                high = middle;
        }
        return (low + high) / 2;
    }
}
