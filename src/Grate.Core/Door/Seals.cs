using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Door;

/// <summary>Where a stove has a seal of its own.</summary>
[JsonConverter(typeof(WordConverter<SealPlace>))]
public enum SealPlace
{
    /// <summary>The door.</summary>
    Door,

    /// <summary>The glass, in the door's frame.</summary>
    Glass,

    /// <summary>The ash door.</summary>
    [Said("Ash door")]
    AshDoor,

    /// <summary>The loading lid.</summary>
    [Said("Loading lid")]
    Lid,

    /// <summary>The bypass plate.</summary>
    [Said("Bypass plate")]
    Bypass,

    /// <summary>The combustor's seat.</summary>
    [Said("Combustor seat")]
    Combustor,

    /// <summary>The cooktop's plates.</summary>
    [Said("Cooktop plates")]
    Plates,
}

/// <summary>What a seal is made of.</summary>
[JsonConverter(typeof(WordConverter<SealKind>))]
public enum SealKind
{
    /// <summary>Round rope.</summary>
    Rope,

    /// <summary>Flat tape.</summary>
    Tape,
}

/// <summary>A seal as measured and renewed; every field may still be missing.</summary>
/// <param name="WidthMm">Width of its channel, mm, 2..40.</param>
/// <param name="DepthMm">Depth of its channel, mm, 0..40.</param>
/// <param name="OldMm">Diameter of the old rope, mm, 3..30: what it is chosen by where no common size suits the channel.</param>
/// <param name="ManualMm">Size by the manual, mm, 3..30.</param>
/// <param name="ManualCement">Cement by the manual.</param>
/// <param name="LineM">Centre line, m, 0.05..12, by the wheel; default where strips were pulled: round the seal.</param>
/// <param name="Done">Tasks of the work that are done.</param>
/// <param name="CementedAt">When the cement was laid, time of day at the firm's place.</param>
/// <param name="CureH">How long it cures, h, 0.1..48, as on the tube.</param>
/// <param name="Kind">rope or tape; default as the last visit found it, else tape for the glass and rope elsewhere.</param>
public sealed record SealRecord(double? WidthMm = null, double? DepthMm = null, double? OldMm = null, double? ManualMm = null, bool? ManualCement = null,
    double? LineM = null, IReadOnlyList<string>? Done = null, TimeOnly? CementedAt = null, double? CureH = null,
    [property: Words(typeof(SealKind))] string? Kind = null)
{
    /// <summary>Whether it is out and not back.</summary>
    [JsonIgnore]
    public bool Open => Done?.Contains(SealWork.Off) == true && !Done.Contains(SealWork.Refitted);

    /// <summary>Whether it was renewed and is back.</summary>
    [JsonIgnore]
    public bool Renewed => Done?.Contains(SealWork.Laid) == true && Done.Contains(SealWork.Refitted);
}

/// <summary>The seals of a stove, by the words of their places.</summary>
/// <param name="Seals">Those that were measured or renewed.</param>
public sealed record SealsRecord(IReadOnlyDictionary<string, SealRecord?>? Seals = null);

/// <summary>What earlier visits know of a seal.</summary>
/// <param name="Fitted">Day its rope was fitted.</param>
/// <param name="Rope">Its size, as it is asked for; null where it was not kept.</param>
/// <param name="LengthM">What was cut for it, m.</param>
/// <param name="EndFrom">First day of its usual end.</param>
/// <param name="EndBy">Last day of it.</param>
public sealed record SealFitted(DateOnly Fitted, string? Rope, double? LengthM, DateOnly EndFrom, DateOnly EndBy);

/// <summary>A seal, reckoned.</summary>
/// <param name="Place">Where.</param>
/// <param name="Name">Its name.</param>
/// <param name="Kind">Rope or tape.</param>
/// <param name="SizeMm">Rope to lay, mm; null where it is not known.</param>
/// <param name="Rope">The same as it is asked for: "12 mm", "1/2 in".</param>
/// <param name="ProudMm">How far it stands proud, mm.</param>
/// <param name="LineM">Centre line, m; null where it is not known.</param>
/// <param name="NeedM">Length to cut, m.</param>
/// <param name="Cement">Cement under it.</param>
/// <param name="CuredAt">When its cement is cured, time of day.</param>
/// <param name="Fitted">What earlier visits know.</param>
/// <param name="Order">The work in order.</param>
/// <param name="CuredInDays">How many days after the visit's the cement is cured; null where none was laid.</param>
public sealed record StoveSeal(SealPlace Place, string Name, SealKind Kind, double? SizeMm, string? Rope, double? ProudMm, double? LineM, double? NeedM, RopeCement? Cement, TimeOnly? CuredAt,
    SealFitted? Fitted, IReadOnlyList<WorkTask> Order, int? CuredInDays = null);

/// <summary>What follows for the seals of a stove (handbook 03 sections 3 and 5).</summary>
/// <param name="Seals">Every seal this stove has.</param>
/// <param name="Sentences">In words.</param>
public sealed record SealsAnswer(IReadOnlyList<StoveSeal> Seals, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>From when on a rope may end, and by when: by what the firm's own lasted where enough of them ended, else by the usual life.</summary>
    /// <param name="history">What the records know.</param>
    /// <param name="fitted">Day it was fitted.</param>
    public static (DateOnly From, DateOnly By) EndOf(StoveHistory history, DateOnly fitted) =>
        history.Lives.GetValueOrDefault(Word.Of(LivingPart.Seal))?.EndOf(fitted) ?? (fitted.AddYears((int)LifeFrom.Value), fitted.AddYears((int)LifeTo.Value));

    /// <summary>The life that this rests on, in words: "usual life 3 to 5 seasons".</summary>
    public static string LifeOf(StoveHistory history) => history.Lives.GetValueOrDefault(Word.Of(LivingPart.Seal)) is { } own ? $"half of the firm's own last {own.HalfYears:0.0} years" : "usual life 3 to 5 seasons";

    /// <summary>Usual life of a rope, the short end.</summary>
    public static readonly Limit LifeFrom = Limit.Practice(3, "years", "usual life 3 to 5 seasons");

    /// <summary>The long end.</summary>
    public static readonly Limit LifeTo = Limit.Practice(5, "years", "usual life 3 to 5 seasons");

    /// <summary>Stoves made before this year may have asbestos in rope and cement.</summary>
    public static readonly Limit AsbestosBefore = Limit.Memory(1990, "", "handbook 11 section 2: rope, board and cement before the 1990s");

    private static readonly EntryRange _cure = new("Hours of curing", Quantity.Ratio, 0.1, 48);

    /// <summary>The seals a stove has.</summary>
    public static IEnumerable<SealPlace> Of(Stove stove)
    {
        bool Has(string feature) => stove.Features.Contains(feature);
        yield return SealPlace.Door;
        if (Has("glass"))
            yield return SealPlace.Glass;
        if (Has("grate"))
            yield return SealPlace.AshDoor;
        if (Has("lid"))
            yield return SealPlace.Lid;
        if (Has("bypass"))
            yield return SealPlace.Bypass;
        if (Has("combustor"))
            yield return SealPlace.Combustor;
        if (Has("oven"))
            yield return SealPlace.Plates;
    }

    /// <summary>Answers a record.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by fields such as seals.door.widthMm.</returns>
    public static SealsAnswer? To(SealsRecord record, VisitContext at, EntryErrors errors)
    {
        var entered = record.Seals ?? new Dictionary<string, SealRecord?>();
        var places = Of(at.Stove).ToList();
        foreach (var code in entered.Keys.Where(k => places.All(p => Word.Of(p) != k)).Take(5))
            errors.Add($"seals.{code}", Word.OneOf("Seal", code, places.Select(Word.Of)));
        List<StoveSeal> seals = [];
        foreach (var place in places)
        {
            var (field, seal) = ($"seals.{Word.Of(place)}", entered.GetValueOrDefault(Word.Of(place)) ?? new());
            errors.Check($"{field}.widthMm", seal.WidthMm, DoorRanges.ChannelWidth);
            errors.Check($"{field}.depthMm", seal.DepthMm, DoorRanges.ChannelDepth);
            errors.Check($"{field}.oldMm", seal.OldMm, DoorRanges.RopeSize);
            errors.Check($"{field}.manualMm", seal.ManualMm, DoorRanges.RopeSize);
            errors.Check($"{field}.lineM", seal.LineM, DoorRanges.CentreLine);
            errors.Check($"{field}.cureH", seal.CureH, _cure);
            errors.CheckWord<SealKind>($"{field}.kind", seal.Kind, "Kind of the seal");
            var answer = One(place, seal, at);
            WorkTask.RefuseOutOfOrder(answer.Order, seal.Done ?? [], $"seal ({answer.Name.ToLowerInvariant()})", $"{field}.done", errors);
            seals.Add(answer);
        }
        if (errors.Any)
            return null;
        return new(seals, Words(seals, entered, at));
    }

    // A channel stays as it is: what an earlier visit measured stands until it is measured again.
    private static StoveSeal One(SealPlace place, SealRecord seal, VisitContext at)
    {
        string? Asked(double? sizeMm) => sizeMm is { } size ? Door.Rope.Named(size, at.Units) : null;
        var kind = Word.Find<SealKind>(seal.Kind ?? at.NewestText(SealFacts.Kind(place))) ?? (place == SealPlace.Glass ? SealKind.Tape : SealKind.Rope);
        var depth = seal.DepthMm ?? at.NewestNumber(SealFacts.DepthMm(place));
        var (manual, old) = (seal.ManualMm ?? at.NewestNumber(SealFacts.ManualMm(place)), seal.OldMm ?? at.NewestNumber(SealFacts.OldMm(place)));
        // No channel chooses a tape: the manual does, or the old one.
        var rope = kind == SealKind.Tape ? new Rope(manual ?? old, null, null) : Door.Rope.For(seal.WidthMm ?? at.NewestNumber(SealFacts.WidthMm(place)), depth, manual);
        if (rope.SizeMm is null && old is not null)
            rope = rope with { SizeMm = old, ProudMm = old - depth };
        var line = seal.LineM ?? at.NewestNumber(SealFacts.LineM(place))
            ?? (at.NewestNumber(DoorFacts.WidthM(place)) is { } width && at.NewestNumber(DoorFacts.HeightM(place)) is { } height ? 2 * (width + height) : null);
        var cement = rope.Cement(kind == SealKind.Tape ? null : depth, seal.ManualCement);
        var days = 0;
        TimeOnly? cured = seal.CementedAt is { } laid && seal.CureH is { } hours ? laid.AddHours(hours, out days) : null;
        var fitted = at.History.Earlier.LastOrDefault(v => v.Text(SealFacts.Fitted(place)) is not null) is { } then && EndOf(at.History, then.Day) is var (from, by)
            ? new SealFitted(then.Day, Asked(then.Number(SealFacts.SizeMm(place))), then.Number(SealFacts.LengthM(place)), from, by) : null;
        return new(place, Word.Said(place), kind, rope.SizeMm, Asked(rope.SizeMm), rope.ProudMm, line, line is { } known ? Door.Rope.NeedM(known) : null, cement, cured, fitted, SealWork.Order(place, cement), cured is null ? null : days);
    }

    private static IReadOnlyList<Sentence> Words(IReadOnlyList<StoveSeal> seals, IReadOnlyDictionary<string, SealRecord?> entered, VisitContext at)
    {
        var said = new Said();
        var (bore, length) = (Units.Of(Quantity.Bore, at.Units), Units.Of(Quantity.Length, at.Units));
        foreach (var seal in seals)
        {
            var record = entered.GetValueOrDefault(Word.Of(seal.Place)) ?? new();
            if (record.Open)
                said.Add(Weight.Stop, Say($"{seal.Name}: it is out, and not back. No fire until it is."));
            var touched = record != new SealRecord();
            if (touched && seal.Rope is { } size)
            {
                said.Add(Weight.Verdict, Say($"{seal.Name}: {Word.Of(seal.Kind)} of ", Computed(size),
                    seal.NeedM is { } need ? ", " : "; its length is still to be measured", Computed(seal.NeedM is { } cut ? length.Format(cut) : ""), seal.NeedM is null ? "." : " to cut.",
                    seal.ProudMm is { } proud ? proud >= 0 ? $" It stands {bore.Format(proud / 1000)} proud." : " It lies below the channel's edge: too thin." : "",
                    seal.Cement switch
                    {
                        RopeCement.Needed => " Cement: the channel alone does not hold it.",
                        RopeCement.ThinBead => " A thin bead of cement, as the manual asks.",
                        RopeCement.None when seal.Kind == SealKind.Rope => " No cement: the channel holds it.",
                        _ => "",
                    }));
            }
            else if (touched)
            {
                said.Add(Weight.Verdict, Say(seal.Kind == SealKind.Tape ? $"{seal.Name}: the manual or the old tape says its width."
                    : record.WidthMm is not null && record.DepthMm is not null ? $"{seal.Name}: no common size suits this channel; measure the old rope."
                    : $"{seal.Name}: width and depth of the channel choose the rope; else the manual, or the old rope."));
            }
            if (record.CementedAt is { } laid)
            {
                said.Add(Weight.Verdict, seal.CuredAt is { } cured
                    ? Say($"{seal.Name}: the cement of {laid:HH:mm} is cured at ", Computed($"{cured:HH:mm}"), seal.CuredInDays switch { > 1 and var days => $" in {days} days", 1 => " tomorrow", _ => "" }, ". Until then shut gently on waxed paper; the first fire small.")
                    : Say($"{seal.Name}: cement laid at {laid:HH:mm}; it cures as long as the tube says. Shut gently on waxed paper; the first fire small."));
            }
            if (record.Renewed && seal.Place == SealPlace.Door)
                said.Add(Weight.Hint, Say("New rope may want the latch let out a turn. It settles within days: pull the strips now, and again at the next visit."));
            if (seal.Fitted is { } fitted && !record.Renewed)
            {
                said.Add(at.Today > fitted.EndBy ? Weight.Verdict : Weight.Hint, Say($"{seal.Name}: fitted on {fitted.Fitted:d MMMM yyyy}",
                    at.Today > fitted.EndBy ? ", past its life" : at.Today >= fitted.EndFrom ? ", in the years of its end" : $", good until {fitted.EndFrom.Year} to {fitted.EndBy.Year}", $" ({LifeOf(at.History)})."));
            }
        }
        bool Renewed(SealPlace place) => entered.GetValueOrDefault(Word.Of(place))?.Renewed == true;
        if (Renewed(SealPlace.Glass) && !Renewed(SealPlace.Door))
            said.Add(Weight.Hint, Say("Where the frame of the glass sits under the door's rope, new tape there means new rope, too."));
        if (at.Stove.Year < AsbestosBefore.Value && entered.Values.Any(s => s?.Done is { Count: > 0 }))
            said.Add(Weight.Verdict, Say($"This stove is of {at.Stove.Year}: old rope and cement may hold asbestos. Mask P3, wet, into a bag; no dry brush."));
        if (entered.Values.All(s => s is null || s == new SealRecord()))
            said.Add(Weight.Verdict, Say("Width and depth of a channel choose its rope, the centre line its length."));
        return said.InOrder();
    }
}

/// <summary>Names of what is known of a seal.</summary>
public static class SealFacts
{
    private static string Name(SealPlace place, string what) => $"seal.{Word.Of(place)}.{what}";

    /// <summary>Width of its channel, mm.</summary>
    public static string WidthMm(SealPlace place) => Name(place, "width-mm");

    /// <summary>Depth of its channel, mm.</summary>
    public static string DepthMm(SealPlace place) => Name(place, "depth-mm");

    /// <summary>Size by the manual, mm.</summary>
    public static string ManualMm(SealPlace place) => Name(place, "manual-mm");

    /// <summary>Size of the old rope or tape, mm.</summary>
    public static string OldMm(SealPlace place) => Name(place, "old-mm");

    /// <summary>Rope or tape.</summary>
    public static string Kind(SealPlace place) => Name(place, "kind");

    /// <summary>That the old one is out of its channel.</summary>
    public static string Bare(SealPlace place) => Name(place, "bare");

    /// <summary>Its centre line, m.</summary>
    public static string LineM(SealPlace place) => Name(place, "line-m");

    /// <summary>That a new one was fitted.</summary>
    public static string Fitted(SealPlace place) => Name(place, "fitted");

    /// <summary>Size of the rope that was fitted, mm.</summary>
    public static string SizeMm(SealPlace place) => Name(place, "size-mm");

    /// <summary>Length that was cut for it, m.</summary>
    public static string LengthM(SealPlace place) => Name(place, "length-m");
}

/// <summary>Rope and tape: choice, length, and renewing it in order.</summary>
public sealed class SealsStation : Station<SealsRecord, SealsAnswer>
{
    /// <inheritdoc/>
    public override string Code => "seals";

    /// <inheritdoc/>
    public override string Name => "Seals";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.BackTogether];

    /// <inheritdoc/>
    public override JsonTypeInfo<SealsRecord> EntryJson => CoreJson.Default.SealsRecord;

    /// <inheritdoc/>
    public override JsonTypeInfo<SealsAnswer> AnswerJson => CoreJson.Default.SealsAnswer;

    /// <inheritdoc/>
    public override SealsAnswer? Answer(SealsRecord entry, VisitContext at, EntryErrors errors) => SealsAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(SealsRecord entry, SealsAnswer answer) => answer.Seals.SelectMany(seal =>
    {
        var record = Entered(entry, seal.Place);
        return (IEnumerable<Fact>)
        [
            .. Fact.Number(SealFacts.WidthMm(seal.Place), record?.WidthMm),
            .. Fact.Number(SealFacts.DepthMm(seal.Place), record?.DepthMm),
            .. Fact.Number(SealFacts.ManualMm(seal.Place), record?.ManualMm),
            .. Fact.Number(SealFacts.OldMm(seal.Place), record?.OldMm),
            .. Fact.Of(SealFacts.Kind(seal.Place), record?.Kind),
            .. Fact.Of(SealFacts.Bare(seal.Place), record?.Done?.Contains(SealWork.Bare) == true ? "yes" : null),
            .. Fact.Number(SealFacts.LineM(seal.Place), record?.LineM),
            .. Fact.Of(SealFacts.Fitted(seal.Place), record?.Renewed == true ? "yes" : null),
            .. Fact.Number(SealFacts.SizeMm(seal.Place), record?.Renewed == true ? seal.SizeMm : null),
            .. Fact.Number(SealFacts.LengthM(seal.Place), record?.Renewed == true ? seal.NeedM : null),
        ];
    });

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(SealsRecord entry, SealsAnswer answer)
    {
        var open = answer.Seals.Where(s => Entered(entry, s.Place)?.Open == true).ToList();
        if (open.Count > 0)
            yield return new("seal-out", $"Out, and not back: {string.Join(", ", open.Select(s => s.Name.ToLowerInvariant()))}.", [.. open.Select(s => Word.Of(s.Place))]);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(SealsRecord entry, SealsAnswer answer)
    {
        var back = answer.Seals.Where(s => Entered(entry, s.Place)?.Done?.Contains(SealWork.Refitted) == true).ToList();
        if (back.Count > 0)
            yield return new("seal-out", $"Back in place: {string.Join(", ", back.Select(s => s.Name.ToLowerInvariant()))}.", [.. back.Select(s => Word.Of(s.Place))]);
    }

    /// <inheritdoc/>
    public override string? BlocksSigning(SealsRecord entry) =>
        entry.Seals?.Where(s => s.Value?.Open == true).Select(s => Word.Find<SealPlace>(s.Key)).OfType<SealPlace>().Select(p => Word.Said(p).ToLowerInvariant()).ToList() is { Count: > 0 } open
            ? $"Out, and not ticked as back: {string.Join(", ", open)}. No visit is finished with a part off." : null;

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(SealsRecord entry, SealsAnswer answer, UnitSystem system)
    {
        var length = Units.Of(Quantity.Length, system);
        static Sentence Cell(string? text) => Say(text is null ? "–" : Computed(text));
        var rows = answer.Seals.Where(s => Entered(entry, s.Place) is { } record && record != new SealRecord())
            .Select(s => (IReadOnlyList<Sentence>)[Say(s.Name), Cell(s.Rope), Cell(s.NeedM is { } need ? length.Format(need) : null),
                Say(Entered(entry, s.Place)!.Renewed ? "renewed today" : s.Fitted is { } then ? $"fitted {then.Fitted:d MMM yyyy}" : "age unknown")]).ToList();
        if (rows.Count > 0)
            yield return new ReportBlock("Seals", ["Seal", "Rope", "Length", "Age"], rows);
    }

    private static SealRecord? Entered(SealsRecord entry, SealPlace place) => entry.Seals?.GetValueOrDefault(Word.Of(place));
}
