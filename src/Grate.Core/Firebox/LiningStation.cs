using System.Globalization;
using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>Names of what is known of a lining.</summary>
public static class LiningFacts
{
    private static string Name(PanelPlace place, string what) => $"lining.{Word.Of(place)}.{what}";

    /// <summary>That a panel is there which not every firebox has.</summary>
    public static string Present(PanelPlace place) => Name(place, "present");

    /// <summary>Width of a panel, mm.</summary>
    public static string WidthMm(PanelPlace place) => Name(place, "width-mm");

    /// <summary>Height of a panel, mm.</summary>
    public static string HeightMm(PanelPlace place) => Name(place, "height-mm");

    /// <summary>Thickness of its bricks, mm.</summary>
    public static string ThicknessMm(PanelPlace place) => Name(place, "thickness-mm");

    /// <summary>Bricks in each of its courses: "2 2 3".</summary>
    public static string Courses(PanelPlace place) => Name(place, "courses");

    /// <summary>State of a brick.</summary>
    public static string State(string brick) => $"brick.{brick}.state";

    /// <summary>That a brick was renewed.</summary>
    public static string Renewed(string brick) => $"brick.{brick}.renewed";

    /// <summary>How many bricks are to be renewed.</summary>
    public const string Renew = "lining.renew";

    /// <summary>Bricks in the order they came out: "back-2 back-1 floor-3".</summary>
    public const string Order = "lining.order";

    /// <summary>An order as it is written.</summary>
    public static IReadOnlyList<string> OrderOf(string? text) => text?.Split(' ', StringSplitOptions.RemoveEmptyEntries) ?? [];

    /// <summary>Courses as they are written.</summary>
    public static IReadOnlyList<int>? CoursesOf(string? text) => text is null ? null : [.. text.Split(' ').Select(n => int.Parse(n, CultureInfo.InvariantCulture))];
}

/// <summary>The firebox unfolded, brick by brick.</summary>
public sealed class LiningStation : Station<LiningCheck, LiningCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "lining";

    /// <inheritdoc/>
    public override string Name => "Bricks";

    /// <inheritdoc/>
    public override string? Feature => "bricks";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<LiningCheck> EntryJson => CoreJson.Default.LiningCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<LiningCheckAnswer> AnswerJson => CoreJson.Default.LiningCheckAnswer;

    /// <inheritdoc/>
    public override LiningCheckAnswer? Answer(LiningCheck entry, VisitContext at, EntryErrors errors) => LiningCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(LiningCheck entry, LiningCheckAnswer answer) =>
    [
        // Nothing looked at leaves what was found before.
        .. Fact.Number(LiningFacts.Renew, answer.Parts.Count > 0 ? answer.Renew.Count : null),
        .. Fact.Number(FireboxFacts.LiningKwh, entry.Panels is { Count: > 0 } ? answer.StoredKwh : null),
        .. answer.Panels.SelectMany(panel => entry.Panels?.GetValueOrDefault(Word.Of(panel.Place)) is not { } typed ? [] : (IEnumerable<Fact>)
        [
            .. Fact.Of(LiningFacts.Present(panel.Place), panel.Place < PanelPlace.Lip ? null : "yes"),
            .. Fact.Number(LiningFacts.WidthMm(panel.Place), typed.WidthMm),
            .. Fact.Number(LiningFacts.HeightMm(panel.Place), typed.HeightMm),
            .. Fact.Number(LiningFacts.ThicknessMm(panel.Place), typed.ThicknessMm),
            .. Fact.Of(LiningFacts.Courses(panel.Place), typed.Courses is { } courses ? string.Join(' ', courses) : null),
        ]),
        .. answer.Panels.SelectMany(p => p.Bricks).SelectMany(b => Fact.Of(LiningFacts.State(b.Code), b.State is { } state ? Word.Of(state) : null)),
        .. Fact.Of(LiningFacts.Order, entry.Order is { Count: > 0 } order ? string.Join(' ', order) : null),
        .. (entry.Bricks ?? new Dictionary<string, BrickMark?>()).Where(b => b.Value?.Renewed == true).SelectMany(b => Fact.Of(LiningFacts.Renewed(b.Key), "yes")),
    ];

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(LiningCheck entry, LiningCheckAnswer answer)
    {
        List<string> missing = [.. answer.Renew.Where(b => b.Condition == Condition.Unsafe).Select(b => b.Code)];
        if (missing.Count > 0)
            yield return new(FireboxPart.BrickMissing, answer.Parts[0].Why.ToString(), missing);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(LiningCheck entry, LiningCheckAnswer answer)
    {
        List<string> whole = [.. answer.Panels.SelectMany(p => p.Bricks).Where(b => b.Condition is not (Condition.NotSeen or Condition.Unsafe)).Select(b => b.Code)];
        if (whole.Count > 0)
            yield return new(FireboxPart.BrickMissing, $"In place: {string.Join(", ", answer.Panels.SelectMany(p => p.Bricks).Where(b => whole.Contains(b.Code)).Select(b => $"brick {b.Number}"))}.", whole);
    }

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(LiningCheck entry, LiningCheckAnswer answer, UnitSystem system)
    {
        var rows = answer.Panels.SelectMany(p => p.Bricks.Where(b => b.State is not (null or BrickState.Sound) || entry.Bricks?.GetValueOrDefault(b.Code)?.Renewed == true)
            .Select(b => (IReadOnlyList<Sentence>)[Say($"{b.Number}"), Say(p.Name), Say(entry.Bricks?.GetValueOrDefault(b.Code)?.Renewed == true ? "renewed today" : Word.Said(b.State!.Value).ToLowerInvariant())])).ToList();
        if (rows.Count > 0)
            yield return new ReportBlock(Name, ["Brick", "Panel", "State"], rows);
    }
}
