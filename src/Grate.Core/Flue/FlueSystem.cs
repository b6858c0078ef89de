namespace Grate.Core.Flue;

/// <summary>Which way a bend or an offset goes, seen from the front; for the drawing alone.</summary>
[JsonConverter(typeof(WordConverter<Side>))]
public enum Side
{
    /// <summary>To the left.</summary>
    Left,

    /// <summary>To the right; the default.</summary>
    Right,
}

/// <summary>One piece of the chain from the collar to the cap (handbook 01 section 3).</summary>
/// <param name="Label">What the technician calls it.</param>
/// <param name="Construction">What it is made of.</param>
/// <param name="Section">Inside when clean.</param>
/// <param name="RiseM">Rise Δz, m, 0..LengthM.</param>
/// <param name="LengthM">Length L, m.</param>
/// <param name="Place">Its surroundings.</param>
/// <param name="ResistanceM2KW">Wall resistance 1/Λ, m² K/W.</param>
/// <param name="RoughnessMm">Wall roughness, mm.</param>
/// <param name="Fittings">Fittings in it.</param>
/// <param name="DepositMm">Deposit on every wall, mm.</param>
/// <param name="Toward">Which way it goes where it goes aside.</param>
public sealed record Segment(
    string Label, Construction Construction, CrossSection Section, double RiseM, double LengthM, SegmentPlace Place,
    double ResistanceM2KW, double RoughnessMm, IReadOnlyList<Fitting> Fittings, double DepositMm, Side Toward = Side.Right)
{
    /// <summary>What keeps it the same piece when it is moved or called otherwise; its label unless one was given.</summary>
    public string Id { get; init; } = Label;

    /// <summary>Whether a square bend or a turning tee sits in it: it rises first and then runs level.</summary>
    public bool TurnsSquare => Fittings.Any(f => f.TurnDeg >= 90);

    /// <summary>Whether a plate damper sits in it.</summary>
    public bool HasPlate => Fittings.Any(f => Fitting.IsPlate(f.Code));

    /// <summary>What the deposit leaves free.</summary>
    public CrossSection Free => DepositMm == 0 ? Section : Section.Narrowed(DepositMm / 1000);
}

/// <summary>A whole flue: segments in flow order, and what stands on top.</summary>
/// <param name="Segments">From the collar to the cap, at least one.</param>
/// <param name="Cap">The top.</param>
/// <param name="Screen">Whether a spark or bird screen sits there.</param>
public sealed record FlueSystem(IReadOnlyList<Segment> Segments, Cap Cap, bool Screen)
{
    /// <summary>Sum of all lengths, connector included, m.</summary>
    public double LengthM => Segments.Sum(s => s.LengthM);

    /// <summary>Sum of all rises, m.</summary>
    public double RiseM => Segments.Sum(s => s.RiseM);

    /// <summary>The same with every length and rise multiplied.</summary>
    public FlueSystem WithLengths(double factor) =>
        this with { Segments = [.. Segments.Select(s => s with { LengthM = s.LengthM * factor, RiseM = s.RiseM * factor })] };

    /// <summary>The same with every diameter and side multiplied.</summary>
    public FlueSystem WithDiameters(double factor) =>
        this with { Segments = [.. Segments.Select(s => s with { Section = s.Section.Scaled(factor) })] };

    /// <summary>
    /// Σζ of a segment: its fittings, the changes of section that fall to it as the smaller neighbour
    /// (narrowing, tapered, 0.05; widening (1 − A1/A2)² [A]), and on the last one cap and screen.
    /// </summary>
    public double Zeta(int index)
    {
        var zeta = Segments[index].Fittings.Sum(f => f.Zeta);
        var area = Segments[index].Free.AreaM2;
        if (index > 0 && Segments[index - 1].Free.AreaM2 > area)
            zeta += NarrowingZeta;
        if (index == Segments.Count - 1)
            return zeta + Cap.Zeta + (Screen ? Cap.ScreenZeta : 0);
        var next = Segments[index + 1].Free.AreaM2;
        return next > area ? zeta + Math.Pow(1 - area / next, 2) : zeta;
    }

    private const double NarrowingZeta = 0.05;
}
