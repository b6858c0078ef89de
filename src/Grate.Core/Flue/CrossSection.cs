namespace Grate.Core.Flue;

/// <summary>The inside of a flue, round or rectangular; lengths in m.</summary>
public abstract record CrossSection
{
    /// <summary>True area A, m².</summary>
    public abstract double AreaM2 { get; }

    /// <summary>True inner perimeter P, m.</summary>
    public abstract double PerimeterM { get; }

    /// <summary>Hydraulic diameter D_h = 4A/P, m.</summary>
    public double HydraulicDiameterM => 4 * AreaM2 / PerimeterM;

    /// <summary>The narrowest way through, m.</summary>
    public abstract double NarrowestM { get; }

    /// <summary>The same with every side or diameter multiplied.</summary>
    public abstract CrossSection Scaled(double factor);

    /// <summary>The same behind a deposit of t on every wall: D − 2t, each side − 2t.</summary>
    public abstract CrossSection Narrowed(double depositM);
}

/// <summary>A round flue.</summary>
/// <param name="DiameterM">Inside diameter, m.</param>
public sealed record Round(double DiameterM) : CrossSection
{
    /// <inheritdoc/>
    public override double AreaM2 => Math.PI * DiameterM * DiameterM / 4;

    /// <inheritdoc/>
    public override double PerimeterM => Math.PI * DiameterM;

    /// <inheritdoc/>
    public override double NarrowestM => DiameterM;

    /// <inheritdoc/>
    public override CrossSection Scaled(double factor) => new Round(DiameterM * factor);

    /// <inheritdoc/>
    public override CrossSection Narrowed(double depositM) => new Round(DiameterM - 2 * depositM);
}

/// <summary>A rectangular flue.</summary>
/// <param name="WidthM">Inside width, m.</param>
/// <param name="DepthM">Inside depth, m.</param>
public sealed record Rectangular(double WidthM, double DepthM) : CrossSection
{
    /// <inheritdoc/>
    public override double AreaM2 => WidthM * DepthM;

    /// <inheritdoc/>
    public override double PerimeterM => 2 * (WidthM + DepthM);

    /// <inheritdoc/>
    public override double NarrowestM => Math.Min(WidthM, DepthM);

    /// <inheritdoc/>
    public override CrossSection Scaled(double factor) => new Rectangular(WidthM * factor, DepthM * factor);

    /// <inheritdoc/>
    public override CrossSection Narrowed(double depositM) => new Rectangular(WidthM - 2 * depositM, DepthM - 2 * depositM);
}
