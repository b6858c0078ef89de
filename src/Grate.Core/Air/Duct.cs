using Grate.Core.Physics;

namespace Grate.Core.Air;

/// <summary>What a duct is made of.</summary>
[JsonConverter(typeof(WordConverter<DuctKind>))]
public enum DuctKind
{
    /// <summary>Smooth metal.</summary>
    [Said("Smooth metal")]
    Smooth,

    /// <summary>Corrugated, flexible.</summary>
    [Said("Flexible, corrugated")]
    Flex,
}

/// <summary>What keeps animals out of its intake.</summary>
[JsonConverter(typeof(WordConverter<DuctScreen>))]
public enum DuctScreen
{
    /// <summary>No screen.</summary>
    [Said("No screen")]
    None,

    /// <summary>A clean one, 6 mm.</summary>
    [Said("Screen, clean")]
    Clean,

    /// <summary>Insect mesh, half dirty.</summary>
    [Said("Insect mesh, dirty")]
    InsectDirty,
}

/// <summary>A duct that brings outdoor air to a stove (handbook 06 sections 2 and 3).</summary>
/// <param name="Kind">What it is made of.</param>
/// <param name="LengthM">True length, m.</param>
/// <param name="Bends90">Bends of 90°.</param>
/// <param name="Bends45">Bends of 45°.</param>
/// <param name="Hood">Whether a hood, its flap removed, covers the intake.</param>
/// <param name="Screen">What screens it.</param>
/// <param name="Entry">Whether it enters the stove.</param>
/// <param name="ExtraZeta">Σζ of what else is in it.</param>
public sealed record Duct(DuctKind Kind, double LengthM, int Bends90, int Bends45, bool Hood, DuctScreen Screen, bool Entry, double ExtraZeta)
{
    /// <summary>The sizes that are sold, mm.</summary>
    public static readonly IReadOnlyList<double> SizesMm = [75, 100, 125, 150];

    /// <summary>Pressure that a duct may cost at high fire.</summary>
    public static readonly Limit LimitPa = Limit.Memory(4, "Pa", "EN 13384-1: usual allowance for the combustion air supply");

    /// <summary>Roughness of its wall.</summary>
    public static readonly Limit RoughnessMm = Limit.Assumed(0.09, "mm", "galvanised duct");

    /// <summary>Friction of a corrugated duct over that of a smooth one.</summary>
    public static readonly Limit FlexFriction = Limit.Assumed(2.5, "", "corrugated against smooth");

    /// <summary>Equivalent length up to which practice takes 75 mm.</summary>
    public static readonly Limit PracticeM = Limit.Practice(3.3, "m", "75 mm (3 in) up to 3.3 m (11 ft) of equivalent length, 100 mm (4 in) beyond");

    private const double HoodZeta = 1.0, EntryZeta = 1.0, SmoothBend = 0.5, FlexBend = 1.0, Bend90M = 1.5, Bend45M = 0.8;

    /// <summary>Σζ: hood 1.0, screen 0 or 0.5 or 2.0, bends 0.5 (flexible 1.0) or half of that, entry 1.0 (ASHRAE duct fittings, from memory).</summary>
    public double Zeta => (Hood ? HoodZeta : 0) + Screen switch { DuctScreen.None => 0, DuctScreen.Clean => 0.5, _ => 2.0 } + (Entry ? EntryZeta : 0)
        + (Bends90 + Bends45 / 2.0) * (Kind == DuctKind.Flex ? FlexBend : SmoothBend) + ExtraZeta;

    /// <summary>Length with 1.5 m for each 90° and 0.8 m for each 45°, m (common practice).</summary>
    public double EquivalentLengthM => LengthM + Bend90M * Bends90 + Bend45M * Bends45;

    /// <summary>The size that practice takes, mm.</summary>
    public double PracticeMm => EquivalentLengthM <= PracticeM.Value + Limit.Met ? 75 : 100;

    /// <summary>What it costs at a size: (ψ m L/D + Σζ) ρ v²/2. 30.55 kg/h at −10 °C through 3.3 m of 75 mm: 5.48 Pa.</summary>
    /// <param name="diameterMm">Inside diameter, mm.</param>
    /// <param name="airKgH">Air, kg/h.</param>
    /// <param name="airC">Its temperature in the duct, °C.</param>
    /// <param name="pressurePa">Station pressure, Pa.</param>
    public DuctLoss At(double diameterMm, double airKgH, double airC, double pressurePa)
    {
        var diameter = diameterMm / 1000;
        var density = DryAir.DensityKgM3(pressurePa, airC);
        var velocity = airKgH / 3600 / (density * Math.PI * diameter * diameter / 4);
        var reynolds = density * velocity * diameter / DryAir.ViscosityPaS(airC);
        var friction = reynolds < Friction.LowestReynolds ? 64 / reynolds : Friction.Colebrook(reynolds, RoughnessMm.Value / diameterMm);
        var length = friction * (Kind == DuctKind.Flex ? FlexFriction.Value : 1) * LengthM / diameter;
        return new(velocity, reynolds, (length + Zeta) * density * velocity * velocity / 2);
    }

    /// <summary>
    /// The thinnest insulation whose surface stays above the room's dew point, mm: outer radius r from
    /// r ln(r/r_duct) = (k/α)(T_dew − T_o)/(T_room − T_dew). A 100 mm duct, 21 °C at 50 %, −20 °C outdoors: 12.5 mm.
    /// </summary>
    /// <param name="diameterMm">Diameter of the duct, mm.</param>
    /// <param name="roomC">Room, °C.</param>
    /// <param name="dewPointC">Its dew point, °C, below the room.</param>
    /// <param name="outdoorC">Air in the duct, °C.</param>
    /// <param name="kWMK">Conductivity k of the insulation, W/(m K).</param>
    /// <param name="filmWM2K">Surface film α, W/(m² K).</param>
    public static double InsulationMm(double diameterMm, double roomC, double dewPointC, double outdoorC, double kWMK, double filmWM2K)
    {
        var radius = diameterMm / 2000;
        var wanted = kWMK / filmWM2K * (dewPointC - outdoorC) / (roomC - dewPointC) / radius;
        if (wanted <= 0)
            return 0;
        // x e^x = wanted, x = ln(r/r_duct), by Newton: ln(1 + wanted) lies above the root, so that every step comes down to it.
        var x = Math.Log(1 + wanted);
        for (var i = 0; i < 20; i++)
            x -= (x - wanted * Math.Exp(-x)) / (1 + x);
        return 1000 * radius * (Math.Exp(x) - 1);
    }

    /// <summary>Draft of a duct that rises outside, full of room air, against its flow: (ρ_out − ρ_room) g · rise, Pa, not below 0.</summary>
    /// <param name="riseM">How much higher the outer end is, m.</param>
    /// <param name="outdoorC">Outdoors, °C.</param>
    /// <param name="roomC">Room, °C.</param>
    /// <param name="pressurePa">Station pressure, Pa.</param>
    public static double ReverseDraftPa(double riseM, double outdoorC, double roomC, double pressurePa) =>
        Math.Max(0, (DryAir.DensityKgM3(pressurePa, outdoorC) - DryAir.DensityKgM3(pressurePa, roomC)) * DryAir.Gravity * riseM);
}

/// <summary>What the air in a duct comes to.</summary>
/// <param name="VelocityMS">Velocity, m/s.</param>
/// <param name="Reynolds">Reynolds number.</param>
/// <param name="LossPa">Pressure it costs, Pa.</param>
public sealed record DuctLoss(double VelocityMS, double Reynolds, double LossPa);
