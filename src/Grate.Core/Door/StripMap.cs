using Grate.Core.Flue;
using Grate.Core.Physics;

namespace Grate.Core.Door;

/// <summary>Where at a door a strip is pulled: four sides and four corners.</summary>
[JsonConverter(typeof(WordConverter<StripPlace>))]
public enum StripPlace
{
    /// <summary>Hinge side.</summary>
    [Said("Hinge side")]
    Hinge,

    /// <summary>Latch side.</summary>
    [Said("Latch side")]
    Latch,

    /// <summary>Top.</summary>
    Top,

    /// <summary>Bottom.</summary>
    Bottom,

    /// <summary>Corner of hinge side and top.</summary>
    [Said("Top corner, hinge side")]
    HingeTop,

    /// <summary>Corner of hinge side and bottom.</summary>
    [Said("Bottom corner, hinge side")]
    HingeBottom,

    /// <summary>Corner of latch side and top.</summary>
    [Said("Top corner, latch side")]
    LatchTop,

    /// <summary>Corner of latch side and bottom.</summary>
    [Said("Bottom corner, latch side")]
    LatchBottom,
}

/// <summary>State of a rope.</summary>
[JsonConverter(typeof(WordConverter<RopeState>))]
public enum RopeState
{
    /// <summary>Proud and springy.</summary>
    Springy,

    /// <summary>Flattened, shiny.</summary>
    [Said("Flat")]
    Flattened,

    /// <summary>Hard or brittle.</summary>
    Hard,
}

/// <summary>Verdict of a strip test.</summary>
[JsonConverter(typeof(WordConverter<StripVerdict>))]
public enum StripVerdict
{
    /// <summary>A strip fell out somewhere.</summary>
    Fail,

    /// <summary>A strip slid without grip somewhere.</summary>
    Doubtful,

    /// <summary>Every strip drags or holds.</summary>
    Pass,
}

/// <summary>What the map of a strip test says.</summary>
[JsonConverter(typeof(WordConverter<StripReading>))]
public enum StripReading
{
    /// <summary>New rope.</summary>
    RenewRope,

    /// <summary>Draw the latch in.</summary>
    DrawLatch,

    /// <summary>The hinge is worn or shimmed.</summary>
    Hinge,

    /// <summary>The latch does not pull its side in.</summary>
    LatchSide,

    /// <summary>Warped door or frame, or the rope's joint.</summary>
    Corner,
}

/// <summary>A strip that was pulled.</summary>
/// <param name="Place">Where.</param>
/// <param name="AtM">Way along the perimeter from any fixed mark, m.</param>
/// <param name="Grade">0 falls out, 1 slides without grip, 2 drags, 3 holds.</param>
public sealed record StripPoint(StripPlace Place, double AtM, int Grade)
{
    /// <summary>Whether the seal is weak here.</summary>
    [JsonIgnore]
    public bool Weak => Grade <= 1;
}

/// <summary>The map of a strip test (handbook 03 sections 1 and 2).</summary>
/// <param name="PerimeterM">Way round the door, m.</param>
/// <param name="Points">Strips pulled, at least one.</param>
public sealed record StripMap(double PerimeterM, IReadOnlyList<StripPoint> Points)
{
    /// <summary>Points wanted on every side.</summary>
    public const int WantedOnASide = 2;

    /// <summary>Gap that stands for grade 0.</summary>
    public static readonly Limit FallsOutGap = Limit.Assumed(0.0005, "m", "a gap of 0.5 mm where the strip falls out");

    /// <summary>Gap that stands for grade 1.</summary>
    public static readonly Limit SlidesGap = Limit.Assumed(0.00015, "m", "a gap of 0.15 mm where the strip slides");

    /// <summary>Discharge coefficient of a gap at a rope.</summary>
    public static readonly Limit Discharge = Limit.Assumed(0.6, "", "sharp-edged orifice");

    private static readonly StripPlace[]
        _sides = [StripPlace.Hinge, StripPlace.Latch, StripPlace.Top, StripPlace.Bottom],
        _corners = [StripPlace.HingeTop, StripPlace.HingeBottom, StripPlace.LatchTop, StripPlace.LatchBottom];

    /// <summary>Length at grade 0, m: each point owns half of the way to each neighbour, a single one owns all.</summary>
    public double L0M => OwnedM(0);

    /// <summary>Length at grade 1, m.</summary>
    public double L1M => OwnedM(1);

    /// <summary>(L0 + L1/2)/perimeter.</summary>
    public double LeakingShare => (L0M + L1M / 2) / PerimeterM;

    /// <summary>Equivalent leakage area A = 0.0005 L0 + 0.00015 L1, m²: 0.0001 for 0.20 m at grade 0.</summary>
    public double LeakAreaM2 => FallsOutGap.Value * L0M + SlidesGap.Value * L1M;

    /// <summary>Verdict by the worst grade.</summary>
    public StripVerdict Verdict => Points.Min(p => p.Grade) switch
    {
        0 => StripVerdict.Fail,
        1 => StripVerdict.Doubtful,
        _ => StripVerdict.Pass,
    };

    /// <summary>Sides with fewer than two points and corners without one.</summary>
    public IReadOnlyList<StripPlace> Missing =>
        [.. _sides.Where(s => Points.Count(p => p.Place == s) < WantedOnASide), .. _corners.Where(c => Points.All(p => p.Place != c))];

    /// <summary>Whether at least three sides were tested and every side that was is weak.</summary>
    public bool WeakAllRound => _sides.Where(s => Points.Any(p => p.Place == s)).ToList() is { Count: >= 3 } tested && tested.All(WeakSide);

    /// <summary>Air past the rope: ṁ = 0.6 A √(2 Δp ρ), kg/h; none without draft. 1.161 for 0.20 m at grade 0, 12 Pa and 20 °C.</summary>
    /// <param name="draftPa">Draft, Pa.</param>
    /// <param name="roomKgM3">Density of the room's air, kg/m³.</param>
    public double LeakKgH(double draftPa, double roomKgM3) =>
        Discharge.Value * LeakAreaM2 * Math.Sqrt(2 * Math.Max(0, draftPa) * roomKgM3) * 3600;

    /// <summary>What the map says; none where no point is weak, or where it only says: look at the rope and its joint there.</summary>
    /// <param name="rope">State of the rope.</param>
    /// <param name="latchAtEnd">Whether the latch cannot be drawn in further.</param>
    public IReadOnlyList<StripReading> Readings(RopeState rope, bool latchAtEnd)
    {
        if (!Points.Any(p => p.Weak))
            return [];
        var allRound = WeakAllRound;
        var renew = latchAtEnd || rope != RopeState.Springy && (allRound || Points.Any(p => p.Grade == 0));
        List<StripReading> readings = renew ? [StripReading.RenewRope] : [];
        if (allRound)
            return renew ? readings : [StripReading.DrawLatch];
        if (WeakSide(StripPlace.Hinge))
            readings.Add(StripReading.Hinge);
        if (WeakSide(StripPlace.Latch))
            readings.Add(StripReading.LatchSide);
        if (WeakSide(StripPlace.Top) || WeakSide(StripPlace.Bottom) || _corners.Any(c => Points.Any(p => p.Place == c && p.Weak) && !SidesOf(c).Any(WeakSide)))
            readings.Add(StripReading.Corner);
        return readings;
    }

    // More than half of its points.
    private bool WeakSide(StripPlace side) => Points.Where(p => p.Place == side).ToList() is { Count: > 0 } own && own.Count(p => p.Weak) * 2 > own.Count;

    private static StripPlace[] SidesOf(StripPlace corner) =>
    [
        corner is StripPlace.HingeTop or StripPlace.HingeBottom ? StripPlace.Hinge : StripPlace.Latch,
        corner is StripPlace.HingeTop or StripPlace.LatchTop ? StripPlace.Top : StripPlace.Bottom,
    ];

    private double OwnedM(int grade)
    {
        var round = Points.OrderBy(p => p.AtM).ToList();
        double WayTo(int i) => round[(i + 1) % round.Count].AtM - round[i].AtM + (i == round.Count - 1 ? PerimeterM : 0);
        return round.Select((p, i) => p.Grade == grade ? (WayTo((i + round.Count - 1) % round.Count) + WayTo(i)) / 2 : 0).Sum();
    }
}
