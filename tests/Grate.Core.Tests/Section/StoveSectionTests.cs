using Grate.Core.Door;
using Grate.Core.Section;
using Grate.Core.Tests.Visits;
using Grate.Core.Visits;

namespace Grate.Core.Tests.Section;

/// <summary>The stove cut open: of every kind, from its own measures.</summary>
public class StoveSectionTests
{
    public static TheoryData<string, bool> Kinds
    {
        get
        {
            var kinds = new TheoryData<string, bool>();
            foreach (var kind in StoveKind.All)
            {
                kinds.Add(kind.Code, false);
                kinds.Add(kind.Code, true);
            }
            return kinds;
        }
    }

    private static StoveSection Of(string kind, bool combustor = false, StoveMeasures? measures = null, params VisitFact[] facts) =>
        StoveSection.Of(Histories.At(Histories.Of() with { Stove = Histories.Stove with { Kind = kind, Combustor = combustor, Measures = measures } }, facts));

    private static SectionPiece Piece(StoveSection section, string code) => section.Pieces.Single(p => p.Code == code);

    // Every part that a technician marks in or at the stove's body, by the feature it needs.
    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_part_and_seal_of_the_kind_is_drawn_inside_the_drawing(string kind, bool combustor)
    {
        var stove = Histories.Stove with { Kind = kind, Combustor = combustor };
        var section = Of(kind, combustor);
        var drawn = section.Pieces.Select(p => p.Part).ToHashSet();
        foreach (var part in new[] { "door-rope", "latch", "glass", "ash-door", "bricks", "baffle", "tubes", "combustor", "grate", "channels", "oven-path", "probe", "duct" })
        {
            var mark = Parts.All.Mark(part)!;
            Assert.Equal(mark.Feature is null || stove.Features.Contains(mark.Feature), drawn.Contains(part));
        }
        Assert.Equal(SealsAnswer.Of(stove).Order(), section.Pieces.Select(p => p.Seal).OfType<SealPlace>().Distinct().Order());
        Assert.Equal(section.Pieces.Count, section.Pieces.Select(p => p.Code).Distinct().Count());
        Assert.Equal(section.Ways.Count, section.Ways.Select(w => w.Name).Distinct().Count());
        Assert.All(section.Pieces.SelectMany(p => p.Corners).Concat(section.Ways.SelectMany(w => w.Way)), p =>
        {
            Assert.InRange(p.X, -0.26, section.WidthM + 0.31);
            Assert.InRange(p.Y, -0.05, section.HeightM);
        });
        // Gas leaves by the collar, with the bypass open and shut.
        foreach (var open in new[] { true, false })
            Assert.Single(section.Ways, w => w.Flow == SectionFlow.Gas && (w.BypassOpen is null || w.BypassOpen == open));
    }

    [Fact]
    public void Body_follows_its_measures_and_is_dashed_until_it_has_them()
    {
        var usual = Of("steel");
        Assert.False(usual.Known);
        Assert.All(usual.Measures, m => Assert.False(m.Measured));
        // Until it is measured the collar's height is the body's.
        Assert.Equal(Histories.Stove.CollarHeightM, Piece(usual, "body").Corners.Max(p => p.Y));
        var own = Of("steel", measures: new(DepthM: 0.61, HeightM: 0.72, LegM: 0.2));
        Assert.True(own.Known);
        var body = Piece(own, "body").Corners;
        Assert.Equal((0.61, 0.2, 0.72), (body.Max(p => p.X), body.Min(p => p.Y), body.Max(p => p.Y)));
        Assert.Equal(["depthM", "heightM", "legM"], own.Measures.Where(m => m.Measured).Select(m => m.Field));
        // A door measured where the body was not still lies in it.
        Assert.InRange(Piece(Of("steel", measures: new(SillM: 1.4, DoorM: 1.5)), "door").Corners.Max(p => p.Y), 0, Histories.Stove.CollarHeightM);
    }

    // Whatever may be kept of a stove is drawn: no page of it may fail by a measure.
    [Theory]
    [MemberData(nameof(Kinds))]
    public void Every_measure_that_is_accepted_is_drawn(string kind, bool combustor)
    {
        double?[] legs = [null, 0, 0.6], heights = [null, 0.3, 3], sills = [null, 0.02, 1.5], doors = [null, 0.05, 2], collars = [0.05, 4];
        var drawn = 0;
        foreach (var measures in from leg in legs from height in heights from sill in sills from door in doors select new StoveMeasures(0.2, 2, height, leg, sill, door))
        {
            var errors = new EntryErrors();
            measures.Check(errors);
            if (errors.Any)
                continue;
            foreach (var collar in collars)
            {
                var stove = Histories.Stove with { Kind = kind, Combustor = combustor, Measures = measures, CollarHeightM = collar!.Value };
                var section = StoveSection.Of(Histories.At(Histories.Of() with { Stove = stove }));
                Assert.True(section.HeightM > (measures.LegM ?? 0));
                Assert.All(section.Pieces.SelectMany(p => p.Corners), p => Assert.True(double.IsFinite(p.X) && double.IsFinite(p.Y)));
                drawn++;
            }
        }
        Assert.InRange(drawn, 40, 162);
    }

    [Fact]
    public void Air_past_the_rope_is_an_arrow_with_its_reckoned_amount()
    {
        Assert.DoesNotContain(Of("steel").Ways, w => w.Flow == SectionFlow.Leak);
        var strips = new StripStation(SealPlace.Door);
        var test = new StripTest(0.5, 0.36, new Dictionary<string, double?> { ["latch-1"] = 3, ["latch-2"] = 0, ["latch-3"] = 3 });
        var answer = strips.Ask(test);
        var leak = Of("steel", facts: [.. strips.Facts(test, answer).Select(f => new VisitFact("cold-checks", "door-strips", f.Name, f.Value, f.Word, new(9, 0)))]).Ways.Single(w => w.Flow == SectionFlow.Leak);
        Assert.Equal(answer.Strip!.LeakKgH, leak.KgH);
    }

    [Theory]
    [InlineData("widthM", 5.0, "between 0.20 and 3.00 m")]
    [InlineData("legM", 0.6, "must lie below its top")]
    [InlineData("sillM", 0.1, "must not lie below the body")]
    [InlineData("doorM", 0.5, "must end below the body's top")]
    public void Measures_that_cannot_be_are_named(string field, double m, string said)
    {
        var errors = new EntryErrors();
        new StoveMeasures(HeightM: 0.6, LegM: 0.15, SillM: 0.25).Set(field, m).Check(errors);
        Assert.Contains(said, string.Join(" ", errors.ByField.SelectMany(e => e.Value)), StringComparison.Ordinal);
        Assert.Equal(StoveMeasures.Fields.Count, typeof(StoveMeasures).GetProperties().Count(p => p.PropertyType == typeof(double?)));
    }
}
