using Grate.Core.Flue;

namespace Grate.Core.Burning;

/// <summary>A way to light a fire (handbook 07 section 2).</summary>
[JsonConverter(typeof(WordConverter<LightingSchool>))]
public enum LightingSchool
{
    /// <summary>Logs below, kindling and lighter on top.</summary>
    [Said("From the top")]
    TopDown,

    /// <summary>Kindling below.</summary>
    [Said("From below")]
    Traditional,

    /// <summary>Between the logs, in pockets.</summary>
    [Said("From the middle")]
    MiddleBurn,

    /// <summary>Two logs with paper in the trench between.</summary>
    [Said("Between two logs")]
    TwoLogTrench,
}

/// <summary>A way to light, with what speaks for and against it (common practice).</summary>
/// <param name="School">The way.</param>
/// <param name="Recommended">Whether it is recommended for this stove and flue.</param>
/// <param name="How">How it is laid.</param>
/// <param name="Smoke">Smoke at the start.</param>
/// <param name="ColdFlue">What it does for a cold flue.</param>
/// <param name="Attention">What it asks of who lights.</param>
public sealed record LightingCase(LightingSchool School, bool Recommended, string How, string Smoke, string ColdFlue, string Attention);

/// <summary>How this stove is lit.</summary>
/// <param name="School">The way that is recommended.</param>
/// <param name="Why">Why.</param>
/// <param name="Preheat">Whether the flue is warmed first, and why; null where it is not.</param>
/// <param name="Cases">Every way.</param>
public sealed record Lighting(LightingSchool School, string Why, string? Preheat, IReadOnlyList<LightingCase> Cases)
{
    // A flue that stands outdoors over so much of its length is cold in the morning [A].
    private const double ColdShare = 0.6;

    /// <summary>The way for a stove and its flue: from the top, because the first heat goes into the flue.</summary>
    public static Lighting Of(VisitContext at)
    {
        var (school, why) = at.Stove.Kind == StoveKind.MasonryHeater
            ? (LightingSchool.TopDown, "From the top, with plenty of kindling: a heater's load burns in one go.")
            : at.Stove.Features.Contains("grate") ? (LightingSchool.TopDown, "From the top; for coal a wood fire first, the coal laid round it when it burns.")
            : (LightingSchool.TopDown, "From the top: the first heat goes into the flue.");
        var segments = at.Flue.Flue.Segments ?? [];
        var outdoors = segments.Where(s => s.Surroundings == Word.Of(SegmentPlace.Outdoor)).Sum(s => s.LengthM ?? 0);
        var preheat = ColdPlug.Warning(at) is not null ? "The flue is colder than the room: warm it first, until the air rises."
            : outdoors > ColdShare * segments.Sum(s => s.LengthM ?? 0) ? "Most of the flue stands outdoors: warm it first on a cold or a mild morning." : null;
        return new(school, why, preheat, [.. _cases.Select(c => c with { Recommended = c.School == school })]);
    }

    private static readonly LightingCase[] _cases =
    [
        new(LightingSchool.TopDown, false, "Logs below with gaps, kindling crosswise on top, the lighter on it.", "little", "warms it first", "none until it needs wood"),
        new(LightingSchool.Traditional, false, "Lighter and kindling below, logs added as they catch.", "much, until it burns through", "late: the smoke comes before the heat", "wood is added again and again"),
        new(LightingSchool.MiddleBurn, false, "Logs with pockets of kindling between them, lit there.", "some", "soon", "the pockets must stay open"),
        new(LightingSchool.TwoLogTrench, false, "Two logs side by side, paper and kindling in the trench, a third across.", "some", "soon", "the third log falls in: watch the glass"),
    ];
}
