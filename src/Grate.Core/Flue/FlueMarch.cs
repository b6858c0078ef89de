using Grate.Core.Physics;

namespace Grate.Core.Flue;

/// <summary>Gas on its way up from the collar.</summary>
/// <param name="Gas">Its composition.</param>
/// <param name="FlowKgS">Mass flow ṁ, kg/s, above 0.</param>
/// <param name="CollarC">Its temperature at the collar, °C.</param>
public readonly record struct CollarGas(WoodGas Gas, double FlowKgS, double CollarC)
{
    /// <summary>The gas of a fire.</summary>
    public static CollarGas Of(Fire fire)
    {
        var gas = new WoodGas(fire.MoistureWet, fire.ExcessAir.Value);
        return new CollarGas(gas, fire.DryBurnKgS * gas.KgPerKgDryWood, fire.CollarGasC.Value);
    }

    /// <summary>
    /// The same gas after cool room air was drawn in at the collar (handbook 01 section 6.2):
    /// T_mix = (ṁ cp_g T_c + m cp_a T_room)/(ṁ cp_g + m cp_a), λ' = λ + m/(dry burn · 5.913).
    /// </summary>
    /// <param name="leakKgS">Room air m, kg/s, 0..10.</param>
    /// <param name="fire">The fire behind the gas.</param>
    /// <param name="roomC">Room temperature, °C.</param>
    public CollarGas DrawingIn(double leakKgS, Fire fire, double roomC)
    {
        var gasHeat = FlowKgS * Gas.HeatCapacityJKgK((CollarC + roomC) / 2);
        var airHeat = leakKgS * DryAir.HeatCapacityJKgK;
        var mixedC = (gasHeat * CollarC + airHeat * roomC) / (gasHeat + airHeat);
        var excess = fire.ExcessAir.Value + leakKgS / (fire.DryBurnKgS * WoodGas.StoichiometricAirKgKg);
        return Of(fire with
        {
            ExcessAir = fire.ExcessAir with { Value = excess },
            CollarGasC = fire.CollarGasC with { Value = mixedC },
        });
    }
}

/// <summary>State along the flue.</summary>
/// <param name="HeightM">Above the collar, m.</param>
/// <param name="LengthM">Along the flue from the collar, m.</param>
/// <param name="GasC">Gas, °C.</param>
/// <param name="WallC">Inner wall, °C.</param>
/// <param name="DraftPa">Outdoor pressure at that height minus the pressure inside the flue, Pa.</param>
public sealed record ProfilePoint(double HeightM, double LengthM, double GasC, double WallC, double DraftPa);

/// <summary>What one march through the flue gives.</summary>
/// <param name="BuoyancyPa">Σ (ρ_out − ρ_g) g Δz.</param>
/// <param name="LossesPa">Friction, fittings and velocity change.</param>
/// <param name="MeanGasC">Length-weighted mean gas temperature, °C.</param>
/// <param name="ExitGasC">Gas at the outlet, °C.</param>
/// <param name="ExitWallC">Inner wall at the outlet, °C.</param>
/// <param name="CollarVelocityMS">Velocity in the first segment at its mean gas temperature, m/s.</param>
/// <param name="CollarHeadPa">Velocity head there, ρ w²/2, Pa.</param>
/// <param name="SegmentWallC">Inner wall of each segment at its pieces' mean gas temperatures, length-weighted, °C.</param>
/// <param name="Profile">Points from the collar to the top; empty unless asked for.</param>
public sealed record MarchResult(
    double BuoyancyPa, double LossesPa, double MeanGasC, double ExitGasC, double ExitWallC,
    double CollarVelocityMS, double CollarHeadPa, IReadOnlyList<double> SegmentWallC, IReadOnlyList<ProfilePoint> Profile)
{
    /// <summary>Draft without house and wind, Pa.</summary>
    public double DraftPa => BuoyancyPa - LossesPa;
}

/// <summary>
/// Cooling and losses, segment by segment, at thermal equilibrium (handbook 01 section 4; EN 13384-1, from memory).
/// </summary>
public static class FlueMarch
{
    /// <summary>Length of a piece, m; halving it moves no total by 0.5 %.</summary>
    public const double PieceM = 0.5;

    private const double Settled = 0.01;

    /// <summary>Marches from the collar to the top.</summary>
    /// <param name="flue">The flue.</param>
    /// <param name="stream">Gas at the collar.</param>
    /// <param name="air">Surroundings.</param>
    /// <param name="heatScale">Multiplies U, for its uncertainty.</param>
    /// <param name="pieceM">Greatest length of a piece, m.</param>
    /// <param name="withProfile">Whether to keep the points along the flue.</param>
    public static MarchResult Run(FlueSystem flue, CollarGas stream, Surroundings air,
        double heatScale = 1, double pieceM = PieceM, bool withProfile = false)
    {
        var totalLength = flue.LengthM;
        var outdoorDensity = DryAir.DensityKgM3(air.StationPressurePa, air.OutdoorC);
        var firstHead = Head(stream, flue.Segments[0].Free, air, stream.CollarC);
        var nodes = new List<Node>();
        var walls = new double[flue.Segments.Count];
        double buoyancy = 0, losses = 0, meanTimesLength = 0, height = 0, length = 0, wallShare = 0;
        double collarVelocity = 0, collarHead = 0;
        var gasC = stream.CollarC;

        for (var index = 0; index < flue.Segments.Count; index++)
        {
            var segment = flue.Segments[index];
            var section = segment.Free;
            var pieces = Math.Max(1, (int)Math.Ceiling(segment.LengthM / pieceM));
            var (dl, dz) = (segment.LengthM / pieces, segment.RiseM / pieces);
            var aroundC = air.AroundC(segment.Place);
            var segmentStart = nodes.Count;
            var wall = new WallFriction(segment.RoughnessMm / 1000 / section.HydraulicDiameterM);
            double segmentMean = 0;

            for (var i = 0; i < pieces; i++)
            {
                var piece = Cool(stream, segment, section, wall, aroundC, gasC, dl, totalLength, heatScale);
                var density = stream.Gas.DensityKgM3(air.StationPressurePa, piece.MeanC);
                var lift = (outdoorDensity - density) * DryAir.Gravity * dz;
                var friction = piece.FrictionFactor * dl / section.HydraulicDiameterM * HeadAt(stream, section, density);
                if (withProfile)
                {
                    nodes.Add(new Node(height, length, gasC, Wall(piece.FilmShare, gasC, aroundC),
                        lift - friction, Head(stream, section, air, gasC)));
                }
                buoyancy += lift;
                losses += friction;
                segmentMean += piece.MeanC / pieces;
                walls[index] += Wall(piece.FilmShare, piece.MeanC, aroundC) / pieces;
                gasC = piece.ExitC;
                height += dz;
                length += dl;
                wallShare = piece.FilmShare;
            }

            var head = Head(stream, section, air, segmentMean);
            var fittings = flue.Zeta(index) * head;
            losses += fittings;
            if (withProfile)
                nodes[segmentStart] = nodes[segmentStart] with { GainPa = nodes[segmentStart].GainPa - fittings };
            meanTimesLength += segmentMean * segment.LengthM;
            if (index == 0)
            {
                collarHead = head;
                collarVelocity = stream.FlowKgS / (stream.Gas.DensityKgM3(air.StationPressurePa, segmentMean) * section.AreaM2);
            }
        }

        var last = flue.Segments[^1];
        var exitHead = Head(stream, last.Free, air, gasC);
        var exitWall = Wall(wallShare, gasC, air.AroundC(last.Place));
        losses += exitHead - firstHead;
        return new MarchResult(buoyancy, losses, meanTimesLength / totalLength, gasC, exitWall, collarVelocity, collarHead, walls,
            withProfile ? Profile(nodes, new Node(height, length, gasC, exitWall, 0, exitHead)) : []);
    }

    // ψ and ψ0 of a wall. At low fires every piece sits at the least Reynolds number: computed once, then remembered.
    private sealed class WallFriction(double relativeRoughness)
    {
        private double _reynolds = double.NaN;
        private (double Rough, double Smooth) _factors;

        public (double Rough, double Smooth) At(double reynolds)
        {
            var used = Math.Max(reynolds, Friction.LowestReynolds);
            if (used != _reynolds)
                (_reynolds, _factors) = (used, (Friction.Colebrook(used, relativeRoughness), Friction.Colebrook(used, 0)));
            return _factors;
        }
    }

    private readonly record struct Node(double HeightM, double LengthM, double GasC, double WallC, double GainPa, double HeadPa);

    private readonly record struct Piece(double MeanC, double ExitC, double FrictionFactor, double FilmShare);

    // Properties at the piece's own mean, found by repetition (4.7); FilmShare is U/α_i of 4.6.
    private static Piece Cool(CollarGas stream, Segment segment, CrossSection section, WallFriction wall, double aroundC, double inletC,
        double lengthM, double totalLengthM, double heatScale)
    {
        var diameter = section.HydraulicDiameterM;
        var outerFilm = FlueLimits.OuterFilm(segment).Value;
        var meanC = inletC;
        for (var i = 0; ; i++)
        {
            var cp = stream.Gas.HeatCapacityJKgK(meanC);
            var viscosity = WoodGas.ViscosityPaS(meanC);
            var conductivity = WoodGas.ConductivityWMK(meanC);
            var reynolds = stream.FlowKgS * diameter / (section.AreaM2 * viscosity);
            var (friction, smooth) = wall.At(reynolds);
            var nusselt = HeatTransfer.Nusselt(reynolds, viscosity * cp / conductivity, friction / smooth, diameter / totalLengthM);
            var innerFilm = Math.Max(nusselt * conductivity / diameter, FlueLimits.LeastInnerFilm.Value);
            var u = heatScale / (1 / innerFilm + segment.ResistanceM2KW + 1 / outerFilm);
            var k = u * section.PerimeterM * lengthM / (stream.FlowKgS * cp);
            var fraction = k < 1e-9 ? 1 : -Expm1(-k) / k;
            var next = aroundC + (inletC - aroundC) * fraction;
            if (Math.Abs(next - meanC) < Settled || i == 100)
                return new Piece(next, aroundC + (inletC - aroundC) * Math.Exp(-k), friction, u / innerFilm);
            meanC = next;
        }
    }

    // The draft at a point is what the flue above it still gains, less the change of velocity head up to the outlet.
    private static List<ProfilePoint> Profile(List<Node> nodes, Node top)
    {
        var points = new List<ProfilePoint>(nodes.Count + 1) { new(top.HeightM, top.LengthM, top.GasC, top.WallC, 0) };
        double gain = 0;
        for (var i = nodes.Count - 1; i >= 0; i--)
        {
            var node = nodes[i];
            gain += node.GainPa;
            points.Add(new ProfilePoint(node.HeightM, node.LengthM, node.GasC, node.WallC, gain - (top.HeadPa - node.HeadPa)));
        }
        points.Reverse();
        return points;
    }

    private static double Wall(double filmShare, double gasC, double aroundC) => gasC - filmShare * (gasC - aroundC);

    private static double Head(CollarGas stream, CrossSection section, Surroundings air, double gasC) =>
        HeadAt(stream, section, stream.Gas.DensityKgM3(air.StationPressurePa, gasC));

    private static double HeadAt(CollarGas stream, CrossSection section, double density)
    {
        var velocity = stream.FlowKgS / (density * section.AreaM2);
        return density * velocity * velocity / 2;
    }

    // e^x − 1 without loss of digits near 0 (Kahan).
    private static double Expm1(double x)
    {
        var u = Math.Exp(x);
        if (u == 1)
            return x;
        return u - 1 == -1 ? -1 : (u - 1) * x / Math.Log(u);
    }
}
