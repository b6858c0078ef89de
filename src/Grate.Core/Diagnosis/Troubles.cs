using System.Collections.Concurrent;
using System.Globalization;

namespace Grate.Core.Diagnosis;

/// <summary>When a finding is asked or looked for.</summary>
[JsonConverter(typeof(WordConverter<FindingWhen>))]
public enum FindingWhen
{
    /// <summary>On the telephone.</summary>
    Phone,

    /// <summary>Computed, never asked.</summary>
    Known,

    /// <summary>At a cold stove.</summary>
    Cold,

    /// <summary>While a fire burns.</summary>
    Hot,
}

/// <summary>What may be wrong with a stove.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Wrong">What is wrong.</param>
/// <param name="Prior">How often on a trouble call, 0..1.</param>
/// <param name="Needs">Which stoves can have it: "all", "a/b" for any of these features, "no x" for its absence.</param>
/// <param name="Links">How strongly it shows: finding to strength, 0..1; a negative one mutes.</param>
/// <param name="SettledBy">Findings that settle it, all of them.</param>
/// <param name="Remedy">What cures it.</param>
public sealed record Cause(string Code, string Wrong, double Prior, string Needs, IReadOnlyDictionary<string, double> Links, IReadOnlyList<string> SettledBy, string Remedy);

/// <summary>Something to ask or to look for.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Ask">The question or look.</param>
/// <param name="When">When it is asked.</param>
/// <param name="Needs">Which stoves it is asked of, as for a cause.</param>
/// <param name="Test">The test it belongs to: one of its own, or one that it shares.</param>
/// <param name="Minutes">Minutes of that test.</param>
/// <param name="Leak">How often it is so without any cause, 0..1.</param>
/// <param name="Middle">Where a number is half a yes, in the finding's own unit; null where it takes none.</param>
/// <param name="Width">How soon it turns into one; negative where small values say yes.</param>
public sealed record Finding(string Code, string Ask, FindingWhen When, string Needs, string Test, double Minutes, double Leak, double? Middle, double Width)
{
    // Where the question names a quantity or a chapter, the finding is called otherwise.
    private static readonly Dictionary<string, string> _spoken = new()
    {
        ["smoke-reload"] = "smoke on opening or reloading",
        ["many-bends"] = "many bends, or a short flue",
        ["draft-weak"] = "expected draft below what it needs",
        ["draft-strong"] = "expected draft very strong",
        ["plug-expected"] = "cold air expected in the flue",
        ["exit-below-dew"] = "outlet expected below the dew point",
        ["comb-hours"] = "many hours on the combustor",
        ["strip-fails"] = "strips slip at the door",
        ["ashdoor-fails"] = "strips slip at the ash door",
        ["top-exposed"] = "outlet low, in the lee, or by tree or hill",
        ["intake-blocked"] = "intake or duct covered or tight",
        ["baffle-bad"] = "baffle off its seat, holed or sagging",
        ["bricks-bad"] = "bricks cracked or missing",
        ["cells-blocked"] = "cells blocked",
        ["cells-dead"] = "cells white, peeling or broken",
        ["wood-wet"] = "wood wet",
        ["cap-bad"] = "cap or screen clogged",
        ["bore-lost"] = "bore narrowed",
        ["deposit-thick"] = "thick deposit",
        ["deposit-glaze"] = "glaze",
        ["house-negative"] = "house draws at worst case",
        ["draft-low"] = "draft too low",
        ["draft-over"] = "draft above its maximum",
        ["draft-unsteady"] = "draft unsteady",
        ["start-fails"] = "smokes though you lit it from the top",
        ["window-helps"] = "an open window helps",
        ["air-close-fails"] = "flames go on with the air shut",
        ["flue-hot"] = "flue gas very hot",
        ["probe-low"] = "probe stays low after closing",
        ["air-falls"] = "cold air falls at the collar",
        ["ash-full"] = "ash too deep, or the pan full",
        ["co-alarm"] = "the CO alarm sounded",
    };

    /// <summary>What it is called in a sentence, without question mark, quantity or chapter.</summary>
    public string Spoken => _spoken.GetValueOrDefault(Code) ?? char.ToLowerInvariant(Ask[0]) + Ask[1..].TrimEnd('?');

    /// <summary>How much of a yes a number is: 1 / (1 + exp(−(x − m)/w)). Strips at 0.12 of the door's perimeter: 0.5.</summary>
    public double DegreeOf(double number) => 1 / (1 + Math.Exp(-(number - Middle!.Value) / Width));
}

/// <summary>Causes and findings of all stoves (handbook 09, sections 2 and 3).</summary>
public static class Troubles
{
    /// <summary>Draft too low, as z of the reading.</summary>
    public const string DraftLow = "draft-low";

    /// <summary>Draft too high, Pa above the label's maximum.</summary>
    public const string DraftOver = "draft-over";

    private const int MostSpaces = 16;

    private static readonly ConcurrentDictionary<string, TroubleSpace> _spaces = new();

    /// <summary>Every cause.</summary>
    public static IReadOnlyList<Cause> Causes { get; } = [.. TroubleTable.Causes.Select(c => new Cause(c.Cause, c.Wrong, c.Prior, c.Needs,
        c.Links.Split(' ').Select(l => l.Split(':')).ToDictionary(l => l[0], l => Number(l[1])), c.SettledBy.Split(' '), c.Remedy))];

    /// <summary>Causes that a household can mend itself, once it is told: its ways, and its wood.</summary>
    public static IReadOnlyList<string> Habits { get; } = ["flap-habit", "slow-fires", "lighting", "reload-habit", "logs", "small-load", "wrong-fuel", "wet-wood", "ash-deep", "curing"];

    /// <summary>Every finding.</summary>
    public static IReadOnlyList<Finding> Findings { get; } = [.. TroubleTable.Findings.Select(Read)];

    /// <summary>Kinds of stoves that are diagnosed.</summary>
    public static IReadOnlyList<string> Kinds { get; } = [.. TroubleTable.Kinds[..^1].Select(k => k.Kind)];

    /// <summary>Kinds that may have a combustor.</summary>
    public static IReadOnlyList<string> CatalyticKinds { get; } = [.. Kinds.Take(3)];

    /// <summary>Every feature that decides something.</summary>
    public static IReadOnlyList<string> Features { get; } = [.. TroubleTable.Kinds.SelectMany(k => k.Features.Split(' ')).Select(f => f.TrimStart('-')).Distinct().Order(StringComparer.Ordinal)];

    /// <summary>What a stove of a kind has.</summary>
    /// <param name="kind">Word of the kind.</param>
    /// <param name="catalytic">Whether it has a combustor.</param>
    public static IReadOnlyCollection<string> FeaturesOf(string kind, bool catalytic)
    {
        var own = TroubleTable.Kinds.Single(k => k.Kind == kind).Features.Split(' ').ToHashSet();
        foreach (var feature in catalytic ? TroubleTable.Kinds[^1].Features.Split(' ') : [])
            _ = feature[0] == '-' ? own.Remove(feature[1..]) : own.Add(feature);
        return own;
    }

    /// <summary>What can be asked and looked for at a stove with these features.</summary>
    public static IReadOnlyList<Finding> OfferedTo(IEnumerable<string> features) => Of(features, FirmTroubles.Shipped).Findings;

    /// <summary>Everything that can be wrong with a stove that has these features. A few are kept: building one takes longer than weighing.</summary>
    internal static TroubleSpace Of(IEnumerable<string> features, FirmTroubles table)
    {
        var sorted = features.Order(StringComparer.Ordinal).ToList();
        if (_spaces.Count >= MostSpaces)
            _spaces.Clear();
        return _spaces.GetOrAdd($"{string.Join(' ', sorted)}; {table.Key}", _ => new TroubleSpace(sorted, table));
    }

    /// <summary>Whether a stove with these features can have a cause or be asked a finding.</summary>
    internal static bool Applies(string needs, IReadOnlyCollection<string> features) => needs switch
    {
        "" or "all" => true,
        ['n', 'o', ' ', .. var absent] => !features.Contains(absent),
        _ => needs.Split('/').Any(features.Contains),
    };

    private static Finding Read((string Finding, string Ask, string When, string Minutes, double Leak, string Graded) row)
    {
        var (when, minutes) = (row.When.Split(' ', 2), row.Minutes.Split(' '));
        var graded = row.Graded.Length == 0 ? null : row.Graded.Split('/');
        return new Finding(row.Finding, row.Ask, Word.Find<FindingWhen>(when[0])!.Value, when.ElementAtOrDefault(1) ?? "", minutes.ElementAtOrDefault(1) ?? row.Finding, Number(minutes[0]), row.Leak,
            graded is null ? null : Number(graded[0]), graded is null ? 1 : Number(graded[1]));
    }

    private static double Number(string text) => double.Parse(text, CultureInfo.InvariantCulture);
}
