using System.Globalization;
using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>How a part is held.</summary>
[JsonConverter(typeof(WordConverter<Fixing>))]
public enum Fixing
{
    /// <summary>It lifts out.</summary>
    [Said("Lifts out")]
    Lifts,

    /// <summary>Clips.</summary>
    Clips,

    /// <summary>Screws.</summary>
    Screws,

    /// <summary>Pins.</summary>
    Pins,

    /// <summary>Wedged by its neighbours.</summary>
    Wedged,
}

/// <summary>A part that came out.</summary>
/// <param name="Part">What it is, 1 to 60 characters.</param>
/// <param name="Fixing">How it is held.</param>
/// <param name="Count">Clips, screws or pins that came out with it, 0..60.</param>
/// <param name="Tool">Tool, up to 60 characters.</param>
/// <param name="Caution">What to beware of, up to 120 characters.</param>
/// <param name="Label">Where it sat, up to 60 characters: "left, mark up".</param>
/// <param name="GoesBack">Which it is on the way back, where that is not simply the list backwards, 1..40.</param>
/// <param name="Back">Whether it is back.</param>
/// <param name="CountIn">Clips, screws or pins that went back in, 0..60.</param>
/// <param name="Ordered">Whether it is not put back because a new one is ordered: the stove stays out of use.</param>
public sealed record ApartItem(string? Part = null, [property: Words(typeof(Fixing))] string? Fixing = null, int? Count = null, string? Tool = null, string? Caution = null, string? Label = null,
    int? GoesBack = null, bool Back = false, int? CountIn = null, bool Ordered = false);

/// <summary>The parts of a stove in the order they came out.</summary>
/// <param name="Items">The parts, at most 40.</param>
/// <param name="Follows">Code of the list that is followed; null follows the newest.</param>
/// <param name="ForModel">Whether this order becomes the list of every stove of this model once the visit is signed.</param>
public sealed record StripDown(IReadOnlyList<ApartItem>? Items = null, string? Follows = null, bool ForModel = false);

/// <summary>A list of parts in the order they come out: a pattern of the kind of stove, or what an earlier visit recorded.</summary>
/// <param name="Code">Its word: "pattern", or the id of that visit.</param>
/// <param name="Name">Its name on screen: "list of this model, 3 May 2026, N. Dell".</param>
/// <param name="From">Day of that visit; null for the pattern.</param>
/// <param name="Items">The parts.</param>
public sealed record StripList(string Code, string Name, DateOnly? From, IReadOnlyList<ApartItem> Items)
{
    /// <summary>Word of the list that goes by the kind of stove.</summary>
    public const string Pattern = "pattern";
}

/// <summary>What follows from taking apart (handbook 04 section 4).</summary>
/// <param name="List">The list that is followed; it is proposed part by part.</param>
/// <param name="Lists">Every list there is for this stove, newest first, the pattern last.</param>
/// <param name="WayBack">Places of the items in the order in which they go back, from 0.</param>
/// <param name="Sentences">In words.</param>
public sealed record StripDownAnswer(StripList List, IReadOnlyList<StripList> Lists, IReadOnlyList<int> WayBack, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Most parts of a list.</summary>
    public const int MostItems = 40;

    private static readonly EntryRange _count = new("Clips, screws or pins", Quantity.Count, 0, 60);
    private static readonly EntryRange _back = new("Place on the way back", Quantity.Count, 1, MostItems);

    /// <summary>Answers a record.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by fields such as items[0].part.</returns>
    public static StripDownAnswer? To(StripDown record, VisitContext at, EntryErrors errors)
    {
        var items = errors.Each("items", record.Items, MostItems, "parts");
        foreach (var (item, i) in items)
        {
            errors.CheckText($"items[{i}].part", item.Part, "Part", 60, needed: true);
            errors.CheckText($"items[{i}].tool", item.Tool, "Tool", 60);
            errors.CheckText($"items[{i}].caution", item.Caution, "Caution", 120);
            errors.CheckText($"items[{i}].label", item.Label, "Label", 60);
            errors.Check($"items[{i}].count", item.Count, _count);
            errors.Check($"items[{i}].countIn", item.CountIn, _count);
            errors.Check($"items[{i}].goesBack", item.GoesBack, _back);
            if (item.Fixing is { } fixing)
                errors.Need<Fixing>($"items[{i}].fixing", fixing, "Fixing");
        }
        var lists = StripFacts.Lists(at);
        var followed = record.Follows is { } code ? lists.FirstOrDefault(l => l.Code == code) : lists[0];
        if (followed is null)
            errors.Add("follows", Word.OneOf("List", record.Follows, lists.Select(l => l.Code)));
        if (record.ForModel && items.Count == 0)
            errors.Add("forModel", "A list of this model has at least one part.");
        if (errors.Any)
            return null;
        // The list backwards, but for parts that say otherwise.
        var way = items.OrderBy(i => i.Item.GoesBack ?? items.Count - i.At).ThenBy(i => i.Item.GoesBack is null).ThenByDescending(i => i.At).Select(i => i.At).ToList();
        return new(followed!, lists, way, Words([.. items.Select(i => i.Item)], record.ForModel ? at.Stove.Model.Trim() : null));
    }

    private static IReadOnlyList<Sentence> Words(IReadOnlyList<ApartItem> items, string? forModel)
    {
        var said = new Said();
        if (forModel is not null)
            said.Add(Weight.Hint, Say($"Signed, this order is the list of every “{forModel}”; the lists before it are kept."));
        var (open, ordered) = (items.Where(i => i is { Back: false, Ordered: false }).ToList(), items.Where(i => i is { Back: false, Ordered: true }).ToList());
        if (items.Count == 0)
            return said.Add(Weight.Verdict, Say("Tap the parts in the order they come out; the list is played backwards when they go back.")).InOrder();
        if (open.Count > 0)
            said.Add(Weight.Stop, Say($"Out, and not back: {Named(open)}. No fire until {(open.Count == 1 ? "it is" : "they are")}."));
        if (ordered.Count > 0)
            said.Add(Weight.Stop, Say($"Out until the new one comes: {Named(ordered)}. The stove is not to be fired."));
        var (taken, returned) = (items.Sum(i => i.Count ?? 0), items.Where(i => i.Back).Sum(i => i.CountIn ?? i.Count ?? 0));
        if (open.Count + ordered.Count == 0)
        {
            said.Add(Weight.Verdict, taken == returned ? Say("Everything is back", taken > 0 ? ", and " : "", Measured(taken > 0 ? $"{taken}" : ""), taken > 0 ? " clips, screws and pins as well." : ".")
                : Say("Everything is back, but ", Measured($"{taken}"), " clips, screws and pins came out and ", Measured($"{returned}"), $" went in: {(taken > returned ? "find what is missing" : "one too many belongs somewhere else")}."));
        }
        else if (taken > 0)
            said.Add(Weight.Hint, Say("Clips, screws and pins out: ", Measured($"{taken}"), "."));
        return said.InOrder();
    }

    /// <summary>Parts in a sentence.</summary>
    internal static string Named(IEnumerable<ApartItem> items) => string.Join(", ", items.Select(i => i.Part!.Trim()));
}

/// <summary>How stoves of a kind usually come apart (generic names, none of a maker; common practice).</summary>
public static class StripPattern
{
    private static readonly ApartItem
        _probe = new("flue probe", "lifts", Caution: "out first: it breaks under the baffle"),
        _combustor = new("combustor", "lifts", Caution: "a hand under it; no knocking"),
        _baffle = new("baffle", "lifts", Caution: "never lean on board; heavy slabs want two hands"),
        _tubes = new("air tubes", "clips", 4, "pliers", Label: "note the notch end"),
        _sides = new("side bricks", "wedged"),
        _back = new("back bricks", "wedged"),
        _floor = new("floor bricks", "lifts");

    /// <summary>The pattern of a stove: what comes out, in order.</summary>
    public static IReadOnlyList<ApartItem> Of(Stove stove)
    {
        IEnumerable<ApartItem> parts = stove.Kind switch
        {
            "multi-fuel" => [_baffle, new("grate", "lifts", Label: "which way up"), new("ash pan", "lifts"), _sides, _back],
            StoveKind.MasonryHeater => [new("clean-out covers", "screws", 8, "screwdriver", "seals of the covers are renewed"), new("grate", "lifts")],
            "cookstove" => [new("cooktop plates", "lifts"), new("oven path cover", "screws", 2, "screwdriver"), new("grate", "lifts"), new("ash pan", "lifts"), _sides],
            // Its stones clamp each other: the top comes out last and goes back first.
            "zero-clearance" => [_tubes, new("front stones", "wedged", Label: "numbered"), new("side stones", "wedged", Label: "numbered"), new("top slab", "lifts", Caution: "two hands, look out for fingers", GoesBack: 1), new("back stones", "wedged", Label: "numbered")],
            _ => stove.Features.Contains("tubes") ? [_tubes, _baffle, _sides, _back, _floor] : [_baffle, _sides, _back, _floor],
        };
        IEnumerable<ApartItem> before = stove.Features.Contains("probe") ? [_probe] : [];
        return [.. before, .. stove.Combustor ? [_combustor] : Array.Empty<ApartItem>(), .. parts];
    }
}

/// <summary>Lists of taking apart among what visits found out: none is ever overwritten, the newest is proposed.</summary>
public static class StripFacts
{
    /// <summary>How the names of these facts begin.</summary>
    public const string Begins = "apart.";

    /// <summary>That a list is meant for every stove of its model.</summary>
    public const string ForModel = $"{Begins}for-model";

    private static string Name(int item, string what) => string.Create(CultureInfo.InvariantCulture, $"{Begins}{item:00}.{what}");

    /// <summary>The facts of a list.</summary>
    public static IEnumerable<Fact> Of(StripDown record) => (record.Items ?? []).SelectMany((item, i) => (IEnumerable<Fact>)
    [
        .. Fact.Of(Name(i, "part"), item.Part!.Trim()), .. Fact.Of(Name(i, "fixing"), item.Fixing), .. Fact.Number(Name(i, "count"), item.Count),
        .. Fact.Of(Name(i, "tool"), Kept(item.Tool)), .. Fact.Of(Name(i, "caution"), Kept(item.Caution)), .. Fact.Of(Name(i, "label"), Kept(item.Label)), .. Fact.Number(Name(i, "goes-back"), item.GoesBack),
        .. Fact.Of(Name(i, "ordered"), item is { Back: false, Ordered: true } ? "yes" : null),
    ]).Concat(Fact.Of(ForModel, record.ForModel ? "yes" : null));

    /// <summary>Every list there is for a stove: its own and its model's, newest first, then the pattern of its kind.</summary>
    public static IReadOnlyList<StripList> Lists(VisitContext at)
    {
        var own = at.History.Earlier.Select(v => (v.Id, v.Day, Name: $"this stove, {v.Day:d MMMM yyyy}", v.Facts));
        var model = at.History.ModelLists.Where(m => at.History.Earlier.All(v => v.Id != m.Id)).Select(m => (m.Id, m.Day, Name: $"list of this model, {m.Day:d MMMM yyyy}, {m.By}", m.Facts));
        return
        [
            .. own.Concat(model).Select(v => (v.Id, v.Day, v.Name, Items: Read(v.Facts))).Where(v => v.Items.Count > 0).OrderByDescending(v => v.Day)
                .Select(v => new StripList($"{v.Id}", v.Name, v.Day, v.Items)),
            new(StripList.Pattern, "as stoves of this kind usually come apart", null, StripPattern.Of(at.Stove)),
        ];
    }

    /// <summary>Parts that the newest visit which took something apart left out until new ones come.</summary>
    public static IReadOnlyList<string> Ordered(StoveHistory history)
    {
        var newest = history.Earlier.LastOrDefault(v => v.Text(Name(0, "part")) is not null);
        return newest is null ? [] : [.. Enumerable.Range(0, StripDownAnswer.MostItems).Where(i => newest.Text(Name(i, "ordered")) is not null).Select(i => newest.Text(Name(i, "part"))!)];
    }

    private static List<ApartItem> Read(IReadOnlyList<Fact> facts)
    {
        var known = facts.Where(f => f.Name.StartsWith(Begins, StringComparison.Ordinal)).GroupBy(f => f.Name).ToDictionary(f => f.Key, f => f.Last());
        string? Text(int i, string what) => known.GetValueOrDefault(Name(i, what))?.Word;
        int? Number(int i, string what) => (int?)known.GetValueOrDefault(Name(i, what))?.Value;
        return [.. Enumerable.Range(0, StripDownAnswer.MostItems).TakeWhile(i => Text(i, "part") is not null)
            .Select(i => new ApartItem(Text(i, "part"), Text(i, "fixing"), Number(i, "count"), Text(i, "tool"), Text(i, "caution"), Text(i, "label"), Number(i, "goes-back")))];
    }

    private static string? Kept(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}

/// <summary>Taking apart, recorded while it is done, and played backwards when it goes together again.</summary>
public sealed class StripDownStation : Station<StripDown, StripDownAnswer>
{
    private const string PartOff = "part-off";

    /// <inheritdoc/>
    public override string Code => "strip-down";

    /// <inheritdoc/>
    public override string Name => "Parts out and back";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.OpenUp];

    /// <inheritdoc/>
    public override string AgainIn => VisitSteps.BackTogether;

    /// <inheritdoc/>
    public override JsonTypeInfo<StripDown> EntryJson => CoreJson.Default.StripDown;

    /// <inheritdoc/>
    public override JsonTypeInfo<StripDownAnswer> AnswerJson => CoreJson.Default.StripDownAnswer;

    /// <inheritdoc/>
    public override StripDownAnswer? Answer(StripDown entry, VisitContext at, EntryErrors errors) => StripDownAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(StripDown entry, StripDownAnswer answer) => StripFacts.Of(entry);

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(StripDown entry, StripDownAnswer answer)
    {
        var off = (entry.Items ?? []).Where(i => !i.Back).ToList();
        if (off.Count > 0)
            yield return new(PartOff, $"Out, and not back: {StripDownAnswer.Named(off)}.", [.. off.Select(i => i.Part!.Trim())]);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(StripDown entry, StripDownAnswer answer)
    {
        var back = (entry.Items ?? []).Where(i => i.Back).ToList();
        if (back.Count > 0)
            yield return new(PartOff, $"Back in place: {StripDownAnswer.Named(back)}.", [.. back.Select(i => i.Part!.Trim())]);
    }

    /// <inheritdoc/>
    public override string? BlocksSigning(StripDown entry) => (entry.Items ?? []).Where(i => i is { Back: false, Ordered: false }).ToList() is { Count: > 0 } off
        ? $"Out, and not ticked as back or as ordered: {StripDownAnswer.Named(off)}. No visit is finished with a part off." : null;

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(StripDown entry, StripDownAnswer answer, UnitSystem system)
    {
        if (entry.Items is { Count: > 0 } items)
        {
            yield return new ReportBlock(Name, ["Part", "Held by", "Clips and screws"], [.. items.Select(i => (IReadOnlyList<Sentence>)[Say(i.Part!.Trim()),
                Say(Word.Find<Fixing>(i.Fixing) is { } fixing ? Word.Said(fixing).ToLowerInvariant() : "–"), Say(i.Count is { } count ? Measured($"{count}") : "–")])]);
        }
    }
}
