using Grate.Core.Flue;

namespace Grate.Core.Tests.Flue;

/// <summary>The flues of the handbook's worked cases (chapter 01), and a short way to build others.</summary>
internal static class Flues
{
    public static SegmentEntry Segment(string construction, string place, double length, double? rise = null,
        double diameter = 0.15, params string[] fittings) =>
        new(null, construction, new ShapeEntry("round", diameter, null, null), rise ?? length, length, place,
            null, null, [.. fittings.Select(f => new FittingEntry(f))], null);

    public static FlueEntry Chain(string cap, params SegmentEntry[] segments) => new(segments, cap, null);

    public static FlueEntry P01(params string[] fittings) => Chain("low-resistance",
        Segment("single-wall-steel", "indoor", 1.5, fittings: fittings),
        Segment("insulated-50", "outdoor", 5));

    public static readonly FlueEntry P04 = Chain("open",
        Segment("single-wall-steel", "indoor", 1.6, 1.0, fittings: "elbow-90"),
        Segment("clay-in-masonry", "outdoor", 7.5, diameter: 0.2));

    public static readonly FlueEntry P05 = Chain("low-resistance",
        Segment("double-wall-air", "indoor", 1.8),
        Segment("insulated-25", "indoor", 1.0),
        Segment("insulated-25", "attic", 2.0),
        Segment("insulated-25", "outdoor", 1.5));

    public static DraftEntry Question(FlueEntry flue, double burn, double excess, double collar, double outdoor,
        double? house = null, double? reading = null, bool profile = false) =>
        new(new SurroundingsEntry(outdoor, 20, 0, null, house, false, null), flue,
            new FireEntry(collar, null, burn, 0.18, excess, null, null, null),
            null, reading is null ? null : new ReadingEntry(reading), null, profile);

    public static DraftEntry P01Question(double? reading = null, bool profile = false) =>
        Question(P01(), 2.0, 2.0, 250, 5, reading: reading, profile: profile);

    public static DraftAnswer Answer(DraftEntry entry)
    {
        var errors = new EntryErrors();
        var answer = DraftAnswer.To(entry, errors);
        Assert.Empty(errors.ByField);
        return answer!;
    }

    public static Dictionary<string, string[]> Refusals(DraftEntry entry)
    {
        var errors = new EntryErrors();
        Assert.Null(DraftAnswer.To(entry, errors));
        return errors.ByField;
    }
}
