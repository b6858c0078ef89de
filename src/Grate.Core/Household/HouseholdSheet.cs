using Grate.Core.Air;
using Grate.Core.Burning;
using Grate.Core.Deposits;
using Grate.Core.Diagnosis;
using Grate.Core.Firebox;
using Grate.Core.Flue;
using Grate.Core.Fuel;

namespace Grate.Core.Household;

/// <summary>A line of the household's sheet: a text of the language file, with what belongs into it.</summary>
/// <param name="Key">Its key in the language file.</param>
/// <param name="Args">What stands for {0}, {1}: numbers with their units.</param>
/// <param name="Day">What stands for {day}.</param>
/// <param name="Part">Word of the part whose name stands for {part}.</param>
public sealed record SheetLine(string Key, IReadOnlyList<string> Args, DateOnly? Day = null, string? Part = null);

/// <summary>A section of the sheet.</summary>
/// <param name="Code">Its word; its heading in the language file is "head." and this.</param>
/// <param name="Lines">Its lines.</param>
/// <param name="Numbered">Whether they are done one after another.</param>
public sealed record SheetSection(string Code, IReadOnlyList<SheetLine> Lines, bool Numbered = false);

/// <summary>Whether a household may light its stove, as far as anybody knows.</summary>
[JsonConverter(typeof(WordConverter<MayLight>))]
public enum MayLight
{
    /// <summary>A stop stands.</summary>
    NoFire,

    /// <summary>No stop stands, and the last visit did not look at flue and door: nobody says that it is safe.</summary>
    NotChecked,

    /// <summary>No stop stands, and the last visit looked.</summary>
    Yes,
}

/// <summary>
/// What a household gets for its own stove (handbook 07 section 6): built from the stove's kind and from what the last signed visit
/// found. Texts are keys of a language file; nothing of the records but what the household may know stands in it.
/// </summary>
/// <param name="May">Whether a fire may be lit, as far as the last visit looked.</param>
/// <param name="NotLooked">Words of what of flue, door and draft the last visit did not look at.</param>
/// <param name="Visited">Day of the last signed visit; null where there was none.</param>
/// <param name="Sections">Its sections in order.</param>
public sealed record HouseholdSheet(MayLight May, IReadOnlyList<string> NotLooked, DateOnly? Visited, IReadOnlyList<SheetSection> Sections)
{
    /// <summary>Cards that stand apart: what to do when it goes wrong.</summary>
    public static IReadOnlyList<SheetSection> Cards { get; } =
    [
        .. Emergency.All.Select(e => Numbered(Word.Of(e.Kind), [.. e.Steps.Select((_, i) => $"card.{Word.Of(e.Kind)}.{i + 1}")])),
        Plain("call", "card.call.1", "card.call.2", "card.call.3", "card.call.4", "card.call.5"),
    ];

    /// <summary>The sheet of a stove.</summary>
    /// <param name="at">The stove as it is known today.</param>
    /// <param name="stops">Codes of the stops that stand.</param>
    /// <param name="next">When somebody comes again; null where nothing is due.</param>
    public static HouseholdSheet Of(VisitContext at, IReadOnlyCollection<string> stops, DateOnly? next)
    {
        var last = at.History.Earlier.Count > 0 ? at.History.Earlier[^1] : null;
        List<SheetSection> sections =
        [
            new("today", Today(last, stops, at)),
            new("differently", Differently(at)),
            new("again", next is { } day ? [new(day < at.Today ? "again.overdue" : "again.before", [], day)] : []),
            new("lighting", Lit(at), true),
            new("air", Settings(at)),
            new("reload", [.. Texts("reload.1", "reload.2", "reload.3"), .. at.Stove.Features.Contains("bypass") ? Texts("reload.bypass") : []], true),
            new("night", Night(at)),
            new("ash", Ash(at)),
            Plain("glass", "glass.1", "glass.2"),
            Plain("wood", "wood.1", "wood.2", "wood.3"),
            new("coal", at.Stove.Features.Contains("grate") ? Texts("coal.1", "coal.2", "coal.3", "coal.4") : []),
            new("monthly", [.. Texts("monthly.flue", "monthly.rope"), .. at.Stove.Features.Contains("combustor") ? Texts("monthly.combustor") : [], .. at.Stove.Features.Contains("bricks") ? Texts("monthly.bricks") : [], .. Texts("monthly.alarm")]),
        ];
        var looked = last is null ? new LookedAt(false, false, false) : LookedAt.Of(last);
        return new(stops.Count > 0 ? MayLight.NoFire : looked.Inspected ? MayLight.Yes : MayLight.NotChecked, looked.Not, last?.Day, [.. sections.Where(s => s.Lines.Count > 0)]);
    }

    /// <summary>Every key that a sheet may use, for whoever writes a language file.</summary>
    public static IReadOnlyList<string> Keys(Parts parts) =>
    [
        .. _keys, .. Cards.SelectMany(c => c.Lines.Select(l => l.Key).Append($"head.{c.Code}")),
        .. parts.Marks.Select(m => $"part.{m.Code}").Distinct(), .. parts.Stops.Select(s => $"stop.{s.Code}"),
        .. Enumerable.Range(1, 12).Select(m => $"month.{m}"), .. Troubles.Habits.Select(h => $"trouble.{h}"),
    ];

    private static readonly string[] _keys =
    [
        "title", "from", "may-light", "no-fire", "not-checked", "unlooked", "looked.flue", "looked.door", "looked.draft", "never-visited", "emergency", "visited", "lang.name", "rules", "large", "ordinary", "log.title", "log.night", "log.ash", "log.wood", "log.note", "log.glass", "log.kg", "log.hours", "log.days", "log.coals",
        "log.coals.none", "log.coals.some", "log.coals.plenty", "log.send", "log.thanks", "log.urgent", "log.about", "log.about.none", .. Word.All<EmergencyKind>().Select(k => $"words.{k}"), "log.refused", "withdrawn", "drawing",
        "head.today", "head.differently", "head.again", "head.lighting", "head.air", "head.reload", "head.night", "head.ash", "head.glass", "head.wood", "head.coal", "head.monthly",
        "today.swept", "today.sound", "today.wearing", "today.spent", "today.unsafe", "today.put-right", "today.pulls", "today.weak", "today.strong", "today.swept-unmeasured",
        "do.smaller-loads", "do.wood-wet", "do.wood-wet-until", "again.before", "again.overdue",
        "light.preheat", "light.lay", "light.lay-heater", "light.light", "light.shut", "light.shut-heater", "reload.1", "reload.2", "reload.3", "reload.bypass",
        .. Enum.GetValues<AirControlKind>().Select(k => $"part.control-{Word.Of(k)}"), .. Enum.GetValues<ControlPosition>().SelectMany(p => (string[])[$"air.wood.{Word.Of(p)}", $"air.coal.{Word.Of(p)}"]),
        "night.1", "night.bricks", "night.load", "night.heater", "ash.bed", "ash.days", "ash.pail", "glass.1", "glass.2", "wood.1", "wood.2", "wood.3", "coal.1", "coal.2", "coal.3", "coal.4",
        "visit.title", "visit.when", "visit.cancelled", "visit.over", "visit.cold", "visit.ask", "visit.ask.when", "visit.asked", "visit.cancel", "visit.cancel.sure", "visit.thanks", "visit.refused",
        "monthly.flue", "monthly.rope", "monthly.combustor", "monthly.bricks", "monthly.alarm",
    ];

    private static SheetLine[] Texts(params string[] keys) => [.. keys.Select(k => new SheetLine(k, []))];

    private static SheetSection Plain(string code, params string[] keys) => new(code, Texts(keys));

    private static SheetSection Numbered(string code, params string[] keys) => new(code, Texts(keys), true);

    private static List<SheetLine> Today(EarlierVisit? last, IReadOnlyCollection<string> stops, VisitContext at)
    {
        List<SheetLine> lines = [.. stops.Select(s => new SheetLine($"stop.{s}", []))];
        if (last is null)
            return lines;
        var found = last.Found.Words();
        // How the draft is wrong is said by the readings themselves.
        var pulls = FlueFacts.Pulls(last.Text, last.Number, at.Stove);
        lines.AddRange(found.Where(f => f.Condition is Condition.Wearing or Condition.Spent or Condition.Unsafe && !(f.Part == "draft" && f.Condition != Condition.Unsafe && pulls is (true, _) or (_, true)))
            .OrderByDescending(f => f.Condition).Select(f => new SheetLine($"today.{Said(f)}", [], f.LookAgain, f.Part)));
        if (last.Number(DepositFacts.LeftMm) is not null)
        {
            lines.Add(last.Number(DepositFacts.WorstMm) is { } came
                ? new("today.swept", [Units.Of(Quantity.Thickness, at.Units).Format(came / 1000)]) : new("today.swept-unmeasured", []));
        }
        if (pulls is var (weak, strong))
            lines.AddRange(Texts([.. weak ? ["today.weak"] : Array.Empty<string>(), .. strong ? ["today.strong"] : Array.Empty<string>(), .. weak || strong ? Array.Empty<string>() : ["today.pulls"]]));
        if (found.Count(f => f.Condition == Condition.Sound) is > 0 and var sound)
            lines.Add(new("today.sound", [$"{sound}"]));
        return lines;
    }

    // What does not wear is right or to be put right.
    private static string Said(PartFound found) => found.Condition != Condition.Unsafe && Parts.All.Mark(found.Part)?.Wears == false ? "put-right" : Word.Of(found.Condition);

    private static List<SheetLine> Differently(VisitContext at)
    {
        // What the last trouble was, where they can mend it themselves.
        var named = at.History.Earlier.LastOrDefault(v => v.Number(TroubleFacts.Closed) is not null);
        var lines = Troubles.Habits.Where(h => named?.Number(TroubleFacts.Cause + h) is not null).Select(h => new SheetLine($"trouble.{h}", [])).ToList();
        if (at.NewestText(FuelFacts.Habit) == Word.Of(Habit.Slow))
            lines.Add(new("do.smaller-loads", []));
        if (at.NewestNumber(FuelFacts.MoistureWet) is { } wet && Moisture.DryOfWet(wet) > Moisture.DryMean.Value)
        {
            var read = Units.Of(Quantity.Share, at.Units).Format(Moisture.DryOfWet(wet));
            lines.Add(DateOnly.TryParseExact(at.NewestText(FuelFacts.MeasureAgainOn), "yyyy-MM-dd", out var until) && until > at.Today
                ? new("do.wood-wet-until", [read], until) : new("do.wood-wet", [read]));
        }
        return lines;
    }

    private static List<SheetLine> Lit(VisitContext at)
    {
        var heater = at.Stove.Kind == StoveKind.MasonryHeater;
        return
        [
            .. Lighting.Of(at).Preheat is null ? [] : Texts("light.preheat"),
            .. Texts(heater ? "light.lay-heater" : "light.lay", "light.light", heater ? "light.shut-heater" : "light.shut"),
        ];
    }

    // As the technician set them at the last look; a stove whose controls nobody listed has no such section.
    private static SheetLine[] Settings(VisitContext at) =>
    [
        .. from fuel in new (string Code, Func<AirControlKind, string> Fact)[] { ("wood", AirFacts.WoodSetting), ("coal", AirFacts.CoalSetting) }
           from kind in Enum.GetValues<AirControlKind>()
           let place = at.NewestText(fuel.Fact(kind))
           where place is not null
           select new SheetLine($"air.{fuel.Code}.{place}", [], Part: $"control-{Word.Of(kind)}"),
    ];

    private static List<SheetLine> Night(VisitContext at) => at.Stove.Kind == StoveKind.MasonryHeater ? [.. Texts("night.heater")]
        : [.. Texts("night.1"), .. at.NewestNumber(FireboxFacts.LiningKwh) is { } heat ? [new SheetLine("night.bricks", [$"{heat:0.0} kWh"])] : Array.Empty<SheetLine>(), .. at.NewestNumber(FuelFacts.NightLoadKg) is { } load ? [new SheetLine("night.load", [Units.Of(Quantity.Mass, at.Units).Format(load)])] : Array.Empty<SheetLine>()];

    private static List<SheetLine> Ash(VisitContext at) =>
    [
        .. Texts("ash.bed"),
        .. at.NewestNumber(FireboxFacts.PanDays) is { } days ? [new SheetLine("ash.days", [$"{days:0}"])] : Array.Empty<SheetLine>(),
        .. Texts("ash.pail"),
    ];
}
