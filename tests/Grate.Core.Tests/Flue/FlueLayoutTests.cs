using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>Flues laid out in a house, held against drawn cases; what can stand and what cannot.</summary>
public class FlueLayoutTests
{
    // A gable of 8 m, eaves at 5 m, 45°: the ridge stands at 9 m.
    private static readonly HouseOutline _house = new(8, 5, 45, 0, []);

    private static FlueSystem Read(FlueEntry entry)
    {
        var errors = new EntryErrors();
        var flue = FlueReading.Read(entry, errors, new Assumptions());
        Assert.Empty(errors.ByField);
        return flue!;
    }

    private static FlueLayout Lay(FlueEntry entry, double across = 2, HouseOutline? house = null) =>
        FlueLayout.Of(Read(entry), new StovePlace(across, 0.8), house ?? _house);

    private static FlueEntry Straight(double outdoor = 1.2) => Flues.Chain("open",
        Flues.Segment("single-wall-steel", "indoor", 1.2), Flues.Segment("insulated-50", "indoor", 3),
        Flues.Segment("insulated-50", "attic", 2), Flues.Segment("insulated-50", "outdoor", outdoor));

    [Fact]
    public void Roof_is_drawn_as_it_stands()
    {
        Assert.Equal(9, _house.RidgeM, 9);
        Assert.Equal(7, _house.RoofAtM(2), 9);
        Assert.Equal(7, _house.RoofAtM(6), 9);
        Assert.Equal(4.5, _house.RoofAtM(9), 9);
    }

    [Fact]
    public void Straight_flue_passes_the_roof_on_its_uphill_edge()
    {
        var layout = Lay(Straight());
        // Roof at 2 m is at 7 m; the outer wall reaches (0.15 + 2 · 0.05)/2 = 0.125 m uphill.
        Assert.Equal(7.125, layout.RoofM!.Value, 9);
        Assert.Equal(8.2, layout.Outlet.HeightM, 9);
        // 3 m uphill of the flue lies beyond the ridge at 2 m: the ridge rules, 9 + 0.6 − 7.125.
        Assert.Equal(2.475, layout.Top!.RequiredAbovePenetrationM, 9);
        Assert.Equal(2.475 - 1.075, layout.Top.MissingM, 9);
    }

    [Fact]
    public void Far_from_the_ridge_the_slope_within_three_metres_rules()
    {
        var wide = new HouseOutline(16, 5, 30, 0, []);
        var layout = Lay(Straight(2), 2, wide);
        Assert.Equal(3 * Math.Tan(Math.PI / 6) + 0.6, layout.Top!.RequiredAbovePenetrationM, 9);
    }

    [Fact]
    public void Tree_within_three_metres_of_the_outlet_counts()
    {
        var far = Lay(Straight(3), 2, _house with { Obstacles = [new Obstacle("lime", -3, 2, 12)] });
        var near = Lay(Straight(3), 2, _house with { Obstacles = [new Obstacle("lime", -1.5, 2, 12)] });
        Assert.Equal(0, far.Top!.MissingM, 9);
        Assert.Equal(12 + 0.6 - 7.125, near.Top!.RequiredAbovePenetrationM, 9);
    }

    [Fact]
    public void Square_bends_rise_first_and_offsets_lean_to_their_side()
    {
        var square = Lay(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1.6, 1.0, fittings: "elbow-90"),
            Flues.Segment("insulated-50", "indoor", 9)));
        Assert.Equal([new LaidPoint(2, 0.8), new LaidPoint(2, 1.8), new LaidPoint(2.6, 1.8)], square.Segments[0].Path.Select(Rounded));
        var leaning = Flues.Segment("insulated-50", "indoor", 1.0, 0.8, fittings: ["elbow-45", "elbow-45"]) with { Toward = "left" };
        Assert.Equal(new LaidPoint(1.4, 1.6), Rounded(Lay(Flues.Chain("open", leaning, Flues.Segment("insulated-50", "indoor", 9))).Segments[0].Path[^1]));

        static LaidPoint Rounded(LaidPoint p) => new(Math.Round(p.AcrossM, 9), Math.Round(p.HeightM, 9));
    }

    [Fact]
    public void Flue_that_ends_under_the_roof_has_no_top()
    {
        var layout = Lay(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 3)));
        Assert.Null(layout.RoofM);
        Assert.Null(layout.Top);
        Assert.Contains(FlueBuild.Remarks(Read(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 3))), layout, _house, UnitSystem.Metric),
            r => r.Sentence.Contains("below the roof", StringComparison.Ordinal));
    }

    [Fact]
    public void Chimney_outside_the_wall_has_walls_outdoors()
    {
        var outside = Lay(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1.8, 1.0, fittings: "elbow-90"),
            Flues.Segment("insulated-50", "outdoor", 6)), 7.5);
        Assert.Contains(outside.Top!.Rules, r => r.Rule.Contains("outdoors", StringComparison.Ordinal));
        Assert.DoesNotContain(Lay(Straight()).Top!.Rules, r => r.Rule.Contains("outdoors", StringComparison.Ordinal));
    }

    // What is refused, by its field; and what is recorded and judged, by its piece.
    private static Dictionary<string, string[]> Refused(params SegmentEntry[] segments)
    {
        var errors = new EntryErrors();
        var flue = FlueReading.Read(Flues.Chain("open", segments), errors, new Assumptions());
        if (flue is not null)
        {
            foreach (var remark in FlueBuild.Remarks(flue, FlueLayout.Of(flue, new StovePlace(2, 0.8), new HouseOutline(8, 5, 45, 0, [])), new HouseOutline(8, 5, 45, 0, []), UnitSystem.Metric)
                .Where(r => r.Sentence.Contains("three quarters", StringComparison.Ordinal) || r.Sentence.Contains("does not", StringComparison.Ordinal) || r.Sentence.Contains("join only", StringComparison.Ordinal)))
            {
                errors.Add(remark.Segment is { } at ? $"flue.segments[{at}].shape" : "flue.segments", remark.Sentence);
            }
        }
        return errors.ByField;
    }

    [Fact]
    public void Impossible_geometry_is_refused_with_its_reason()
    {
        Assert.Contains("cannot be more than the length", Refused(Flues.Segment("single-wall-steel", "indoor", 1, 2))["flue.segments[0].riseM"][0], StringComparison.Ordinal);
        Assert.Contains("three quarters of the height, 1.50 m", Refused(Flues.Segment("single-wall-steel", "indoor", 3.6, 2, fittings: "elbow-90"))["flue.segments"][0], StringComparison.Ordinal);
        Assert.Contains("in one step", Refused(Flues.Segment("single-wall-steel", "indoor", 1), Flues.Segment("insulated-50", "indoor", 4, diameter: 0.25))["flue.segments[1].shape"][0], StringComparison.Ordinal);
        Assert.Contains("does not go into", Refused(Flues.Segment("single-wall-steel", "indoor", 1), Flues.Segment("clay-in-masonry", "indoor", 4, diameter: 0.13))["flue.segments[1].shape"][0], StringComparison.Ordinal);
        var square = Flues.Segment("insulated-50", "indoor", 4) with { Shape = new ShapeEntry("rectangular", null, 0.15, 0.15) };
        Assert.Contains("transition piece", Refused(Flues.Segment("single-wall-steel", "indoor", 1), square)["flue.segments[1].shape"][0], StringComparison.Ordinal);
        Assert.Empty(Refused(Flues.Segment("single-wall-steel", "indoor", 1), square with { Construction = "brick-unlined" }));
        Assert.Empty(Refused(Flues.Segment("single-wall-steel", "indoor", 1), Flues.Segment("insulated-50", "indoor", 4, diameter: 0.20)));
    }

    [Fact]
    public void A_collar_of_another_bore_than_the_flue_begins_with_is_said()
    {
        var (flue, layout) = (Read(Straight()), Lay(Straight()));
        bool Says(double? collarM) => FlueBuild.Remarks(flue, layout, _house, UnitSystem.Metric, collarM: collarM).Any(r => r.Sentence.Contains("by its label", StringComparison.Ordinal));
        var bore = flue.Segments[0].Section.NarrowestM;
        Assert.True(Says(bore - 0.02));
        Assert.False(Says(bore + 0.004));
        Assert.False(Says(null));
    }

    [Fact]
    public void Remarks_name_clearance_bends_and_bare_pipe_out_of_place()
    {
        var flue = Read(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1.2, fittings: ["elbow-90", "elbow-90", "elbow-90"]),
            Flues.Segment("single-wall-steel", "attic", 5), Flues.Segment("insulated-50", "outdoor", 4)));
        var said = FlueBuild.Remarks(flue, FlueLayout.Of(flue, new StovePlace(0.4, 0.8), _house), _house, UnitSystem.Metric).Select(r => r.Sentence).ToList();
        // 0.4 m less the pipe's half, 0.085 m.
        Assert.Contains(said, s => s.Contains("0.32 m from the wall", StringComparison.Ordinal) && s.Contains("0.46 m", StringComparison.Ordinal));
        Assert.Contains("3 square bends: no more than two.", said);
        Assert.Contains(said, s => s.Contains("belongs in the room alone", StringComparison.Ordinal));
    }

    [Fact]
    public void Piece_entered_as_indoors_that_stands_in_the_open_is_told()
    {
        var flue = Read(Flues.Chain("open", Flues.Segment("single-wall-steel", "indoor", 1.2), Flues.Segment("insulated-50", "attic", 5.5), Flues.Segment("insulated-50", "attic", 2)));
        var said = FlueBuild.Remarks(flue, FlueLayout.Of(flue, new StovePlace(2, 0.8), _house), _house, UnitSystem.Metric);
        Assert.Equal(2, Assert.Single(said, r => r.Sentence.Contains("in the attic but stands in the open", StringComparison.Ordinal)).Segment);
    }

    [Theory]
    [InlineData(8, 5.2, 40)]
    [InlineData(6, 2.6, 45)]
    [InlineData(7, 7.8, 30)]
    public void Every_usual_system_can_be_built_and_has_a_top(double width, double eaves, double pitch)
    {
        var house = new HouseOutline(width, eaves, pitch, 0, []);
        foreach (var typical in TypicalFlue.For(house, 0.85, 0.15))
        {
            var errors = new EntryErrors();
            var flue = FlueReading.Read(typical.Flue, errors, new Assumptions());
            Assert.Empty(errors.ByField);
            var layout = FlueLayout.Of(flue!, new StovePlace(typical.StoveXM, 0.85), house);
            Assert.DoesNotContain(FlueBuild.Remarks(flue!, layout, house, UnitSystem.Metric), r => r.Sentence.Contains("three quarters", StringComparison.Ordinal) || r.Sentence.Contains("does not", StringComparison.Ordinal));
            Assert.NotNull(FlueLayout.Of(flue!, new StovePlace(typical.StoveXM, 0.85), house).Top);
        }
    }
}
