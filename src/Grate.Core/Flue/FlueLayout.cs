namespace Grate.Core.Flue;

/// <summary>A point of the drawing.</summary>
/// <param name="AcrossM">m from the house's left wall.</param>
/// <param name="HeightM">m above the floor of the lowest storey.</param>
public sealed record LaidPoint(double AcrossM, double HeightM);

/// <summary>A segment as it stands.</summary>
/// <param name="Path">Its axis, two or three points.</param>
/// <param name="BoreM">Inside width as drawn, m.</param>
/// <param name="OuterM">Outside width as drawn, m.</param>
/// <param name="Plate">Whether a plate damper sits in it.</param>
public sealed record LaidSegment(IReadOnlyList<LaidPoint> Path, double BoreM, double OuterM, bool Plate);

/// <summary>A flue laid out true to scale from its own data, and its top held against the roof.</summary>
/// <param name="Segments">In flow order.</param>
/// <param name="RoofM">Highest point where it passes the roof, m; null where it passes none.</param>
/// <param name="Top">The rules of handbook 01 section 9 for this top; null where it ends under the roof.</param>
public sealed record FlueLayout(IReadOnlyList<LaidSegment> Segments, double? RoofM, TerminationAnswer? Top)
{
    // Where the roof is, and how high the top, rest on these.
    private static readonly string[] _drawnFrom = ["roofPitchDeg", "widthM", "storeyNames", "collarHeightM", "flue"];

    /// <summary>Whether it is drawn as such houses usually are: nobody measured house, roof or flue.</summary>
    public bool AsUsual { get; init; }

    /// <summary>The outlet.</summary>
    public LaidPoint Outlet => Segments[^1].Path[^1];

    /// <summary>Lays a recorded flue out in its house.</summary>
    public static FlueLayout Of(StoveHistory history) =>
        Of(FlueReading.Stored(history.Flue), history.Stove.StandsAt(history.House, history.Flue.StoveXM), history.House.Outline()) with { AsUsual = history.Assumed.Any(_drawnFrom.Contains) };

    /// <summary>Lays a flue out.</summary>
    /// <param name="flue">The chain.</param>
    /// <param name="stove">Where it starts.</param>
    /// <param name="house">The house around it.</param>
    public static FlueLayout Of(FlueSystem flue, StovePlace stove, HouseOutline house)
    {
        var at = new LaidPoint(stove.AcrossM, stove.CollarM);
        var laid = new List<LaidSegment>();
        foreach (var segment in flue.Segments)
        {
            var path = Path(at, segment);
            at = path[^1];
            var bore = segment.Section is Rectangular r ? r.WidthM : segment.Section.NarrowestM;
            laid.Add(new LaidSegment(path, bore, bore + 2 * segment.Construction.DrawnWallM, segment.HasPlate));
        }
        var roof = RoofPassed(laid, house);
        return new FlueLayout(laid, roof, roof is { } passed && at.HeightM > passed ? Judge(flue, stove, house, at, passed) : null);
    }

    /// <summary>How far a segment goes aside, m: a square turn rises first and then runs level, anything else leans: 0.6 m for 1 m that rises 0.8 m.</summary>
    public static double AsideM(Segment segment) => segment.TurnsSquare
        ? segment.LengthM - Math.Abs(segment.RiseM)
        : Math.Sqrt(Math.Max(0, segment.LengthM * segment.LengthM - segment.RiseM * segment.RiseM));

    private static LaidPoint[] Path(LaidPoint from, Segment segment)
    {
        var aside = AsideM(segment) * (segment.Toward == Side.Left ? -1 : 1);
        var to = new LaidPoint(from.AcrossM + aside, from.HeightM + segment.RiseM);
        return segment.TurnsSquare && Math.Abs(aside) > 0.01 && segment.RiseM > 0.01 ? [from, new LaidPoint(from.AcrossM, to.HeightM), to] : [from, to];
    }

    // The outer wall on the uphill side passes highest.
    private static double? RoofPassed(List<LaidSegment> laid, HouseOutline house)
    {
        double? passed = null;
        foreach (var segment in laid)
        {
            foreach (var (a, b) in segment.Path.Zip(segment.Path.Skip(1)))
            {
                if (house.Covers(a.AcrossM) && a.HeightM <= house.RoofAtM(a.AcrossM) && (!house.Covers(b.AcrossM) || b.HeightM > house.RoofAtM(b.AcrossM)))
                    passed = new[] { -0.5, 0, 0.5 }.Max(edge => house.RoofAtM(b.AcrossM + edge * segment.OuterM));
            }
        }
        return passed;
    }

    private static TerminationAnswer? Judge(FlueSystem flue, StovePlace stove, HouseOutline house, LaidPoint outlet, double roofM)
    {
        var collar = flue.Segments[0].Section;
        var chimney = flue.Segments[^1].Section;
        // A chimney that leaves the house below the eaves has walls outdoors; one that only shows its head above the roof has not.
        var height = stove.CollarM;
        var outside = false;
        foreach (var segment in flue.Segments)
        {
            outside |= segment.Place == SegmentPlace.Outdoor && height < house.EavesM - 0.5;
            height += segment.RiseM;
        }
        return TerminationAnswer.To(new TerminationEntry(house.RoofPitchDeg, Math.Abs(outlet.AcrossM - house.WidthM / 2),
            Math.Max(0, house.RidgeM - roofM), outlet.HeightM - roofM,
            [.. house.Obstacles.Select(o => (DistanceM: Math.Max(0, Math.Abs(o.AcrossM - outlet.AcrossM) - o.WidthM / 2), o.TopM))
                .Where(o => o.DistanceM <= TerminationAnswer.Near.Value).Select(o => new ObstacleEntry(o.DistanceM, o.TopM - roofM))],
            collar is Round round ? round.DiameterM : Math.Sqrt(4 * collar.AreaM2 / Math.PI), chimney.AreaM2, outside, outlet.HeightM - stove.CollarM), new EntryErrors());
    }
}
