namespace Grate.Core.Firebox;

/// <summary>What a baffle is.</summary>
[JsonConverter(typeof(WordConverter<BaffleKind>))]
public enum BaffleKind
{
    /// <summary>Dense refractory.</summary>
    [Said("Dense slab")]
    DenseSlab,

    /// <summary>Stone.</summary>
    Stone,

    /// <summary>Cast iron.</summary>
    [Said("Cast iron")]
    Cast,

    /// <summary>Steel.</summary>
    [Said("Steel plate")]
    SteelPlate,

    /// <summary>Vermiculite board.</summary>
    [Said("Vermiculite board")]
    VermiculiteBoard,

    /// <summary>Ceramic-fibre board, with a blanket.</summary>
    [Said("Fibre board")]
    FibreBoard,
}

/// <summary>What is seen on a baffle.</summary>
[JsonConverter(typeof(WordConverter<BaffleSign>))]
public enum BaffleSign
{
    /// <summary>It is not there.</summary>
    Missing,

    /// <summary>It is out of its place.</summary>
    [Said("Out of place")]
    Displaced,

    /// <summary>Burnt through.</summary>
    [Said("Burnt through")]
    BurntThrough,

    /// <summary>A hole.</summary>
    [Said("A hole")]
    Hole,

    /// <summary>A crack through.</summary>
    [Said("Cracked through")]
    CrackThrough,

    /// <summary>It touches a tube.</summary>
    [Said("Touches a tube")]
    TouchesTube,

    /// <summary>An edge crumbles.</summary>
    [Said("Crumbling edge")]
    CrumblingEdge,

    /// <summary>A gap a finger wide.</summary>
    [Said("Finger-wide gap")]
    FingerGap,

    /// <summary>A hairline.</summary>
    [Said("A hairline")]
    Hairline,

    /// <summary>Debris lies on it.</summary>
    [Said("Debris on top")]
    DebrisOnTop,
}

/// <summary>What to do about a baffle.</summary>
[JsonConverter(typeof(WordConverter<BaffleAdvice>))]
public enum BaffleAdvice
{
    /// <summary>Take off what lies on it.</summary>
    ClearTop,

    /// <summary>Seat it anew.</summary>
    Reseat,

    /// <summary>Turn it over.</summary>
    TurnOver,

    /// <summary>Renew it.</summary>
    Renew,

    /// <summary>No fire.</summary>
    NoFire,
}

/// <summary>The question of POST /api/calculations/baffle, and what a technician enters.</summary>
/// <param name="Kind">What it is.</param>
/// <param name="ThicknessMm">Thickness, mm, 1..300; default 25.</param>
/// <param name="SpanMm">Free span, mm, 50..2000; needed with a deflection.</param>
/// <param name="DeflectionMm">Deflection at mid-span by a straightedge, mm, −500..500.</param>
/// <param name="Flags">What is seen.</param>
/// <param name="SeenOn">Day it was looked at.</param>
public sealed record BaffleEntry([property: Words(typeof(BaffleKind))] string? Kind = null, double? ThicknessMm = null, double? SpanMm = null, double? DeflectionMm = null,
    [property: Words(typeof(BaffleSign))] IReadOnlyList<string>? Flags = null, DateOnly? SeenOn = null);

/// <summary>The answer of POST /api/calculations/baffle (handbook 04 section 2).</summary>
/// <param name="SagShare">Deflection over span; null where it was not measured.</param>
/// <param name="Condition">The word.</param>
/// <param name="Reasons">What decides it: words of flags, or sag.</param>
/// <param name="Advice">What to do.</param>
/// <param name="TurnOver">Whether it may be turned over.</param>
/// <param name="RecheckMonths">Months until it is looked at again; null where it is not left as it is.</param>
/// <param name="RecheckOn">Day of that.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record BaffleAnswer(double? SagShare, Condition Condition, IReadOnlyList<string> Reasons, IReadOnlyList<BaffleAdvice> Advice, bool TurnOver, int? RecheckMonths, DateOnly? RecheckOn,
    IReadOnlyList<Assumed> Assumed)
{
    /// <summary>Word of a sag among the reasons.</summary>
    public const string Sag = "sag";

    /// <summary>Sag from which a baffle is wearing.</summary>
    public static readonly Limit WearingSag = Limit.Assumed(0.01, "", "under 1 % of the span is sound");

    /// <summary>Sag beyond which it is spent.</summary>
    public static readonly Limit SpentSag = Limit.Assumed(0.02, "", "over 2 % of the span: replace");

    /// <summary>A dense slab may be turned over from this thickness on.</summary>
    public static readonly Limit ThickEnough = Limit.Practice(25, "mm", "a thick dense slab with a slight bow and no crack");

    /// <summary>Months until a sound one is looked at again.</summary>
    public static readonly Limit SoundMonths = Limit.Practice(12, "months", "handbook 10 section 3");

    /// <summary>Months until a wearing one is looked at again.</summary>
    public static readonly Limit WearingMonths = Limit.Practice(6, "months", "handbook 10 section 3");

    private static readonly Limit _thickness = Limit.Assumed(25, "mm", "the common slab");
    private static readonly EntryRange _span = new("Free span of the baffle", Quantity.Bore, 50, 2000, 0.001);
    private static readonly EntryRange _deflection = new("Deflection of the baffle", Quantity.Thickness, -500, 500, 0.001);

    /// <summary>Answers a question.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static BaffleAnswer? To(BaffleEntry entry, EntryErrors errors)
    {
        var kind = errors.Need<BaffleKind>("kind", entry.Kind, "Kind of the baffle");
        errors.Check("thicknessMm", entry.ThicknessMm, FireboxRanges.Thickness);
        errors.Check("deflectionMm", entry.DeflectionMm, _deflection);
        if (entry.DeflectionMm is not null)
            errors.Need("spanMm", entry.SpanMm, _span);
        else
            errors.Check("spanMm", entry.SpanMm, _span);
        var flags = errors.Words<BaffleSign>("flags", entry.Flags, "What is seen on the baffle");
        if (errors.Any)
            return null;

        var assumed = new Assumptions();
        var sag = entry is { DeflectionMm: { } deflection, SpanMm: { } span } ? Math.Abs(deflection) / span : (double?)null;
        var sagLevel = sag is null || sag < WearingSag.Value - Limit.Met ? Condition.Sound : sag <= SpentSag.Value + Limit.Met ? Condition.Wearing : Condition.Spent;
        Condition Level(BaffleSign flag) => flag switch
        {
            BaffleSign.Missing or BaffleSign.Displaced or BaffleSign.BurntThrough => Condition.Unsafe,
            BaffleSign.Hole => kind is BaffleKind.VermiculiteBoard or BaffleKind.FibreBoard ? Condition.Spent : Condition.Unsafe,
            BaffleSign.CrackThrough or BaffleSign.TouchesTube or BaffleSign.CrumblingEdge => Condition.Spent,
            BaffleSign.FingerGap => Condition.Wearing,
            _ => Condition.Sound,
        };
        var levels = flags.Select(f => (Word: Word.Of(f), Level: Level(f))).Append((Word: Sag, Level: sagLevel)).ToList();
        var condition = sag is null && flags.Count == 0 ? Condition.NotSeen : levels.Max(l => l.Level);
        var bows = condition == Condition.Wearing && sagLevel == Condition.Wearing && kind == BaffleKind.DenseSlab && !flags.Contains(BaffleSign.Hairline);
        var turnOver = bows && assumed.Or(entry.ThicknessMm, "thicknessMm", _thickness) >= ThickEnough.Value - Limit.Met;
        var advice = new List<BaffleAdvice>();
        void Advise(BaffleAdvice what, bool when)
        {
            if (when)
                advice.Add(what);
        }
        Advise(BaffleAdvice.ClearTop, flags.Contains(BaffleSign.DebrisOnTop));
        Advise(BaffleAdvice.Reseat, flags.Contains(BaffleSign.FingerGap) || flags.Contains(BaffleSign.Displaced));
        Advise(BaffleAdvice.TurnOver, turnOver);
        Advise(BaffleAdvice.Renew, levels.Any(l => l.Level == Condition.Spent) || flags.Any(f => f is BaffleSign.Missing or BaffleSign.BurntThrough or BaffleSign.Hole));
        Advise(BaffleAdvice.NoFire, condition == Condition.Unsafe);
        int? months = condition switch { Condition.Sound => (int)SoundMonths.Value, Condition.Wearing => (int)WearingMonths.Value, _ => null };
        return new(sag, condition, condition is Condition.Sound or Condition.NotSeen ? [] : [.. levels.Where(l => l.Level == condition).Select(l => l.Word)], advice, turnOver,
            months, months is { } after ? entry.SeenOn?.AddMonths(after) : null, assumed.Used);
    }
}
