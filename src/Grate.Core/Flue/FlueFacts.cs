namespace Grate.Core.Flue;

/// <summary>A reading of an earlier visit, with what was expected then.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="Day">Its day.</param>
/// <param name="Level">Its fire.</param>
/// <param name="DraftPa">Read, Pa.</param>
/// <param name="ExpectedPa">Expected then, Pa.</param>
/// <param name="LowPa">5 % end then, Pa.</param>
/// <param name="HighPa">95 % end then, Pa.</param>
/// <param name="Verdict">What it meant.</param>
/// <param name="VisitSigmaPa">s_visit of its band, Pa.</param>
public sealed record PastReading(
    Guid VisitId, DateOnly Day, FiringLevel Level, double DraftPa, double ExpectedPa, double LowPa, double HighPa, DraftVerdict Verdict, double VisitSigmaPa);

/// <summary>Names of what the flue's stations find out, and what history makes of them.</summary>
public static class FlueFacts
{
    /// <summary>Outdoors at the cold checks, °C.</summary>
    public const string OutdoorC = "cold.outdoor-c";

    /// <summary>Room at the cold checks, °C.</summary>
    public const string RoomC = "cold.room-c";

    /// <summary>Room against outdoors, all fans off, Pa.</summary>
    public const string RoomOffPa = "cold.room-off-pa";

    /// <summary>The same, all fans on, Pa.</summary>
    public const string RoomOnPa = "cold.room-on-pa";

    /// <summary>What the fans of the house take together, m³/s.</summary>
    public const string ExhaustM3S = "cold.exhaust-m3s";

    /// <summary>Supply air of the house, m³/s.</summary>
    public const string SupplyM3S = "cold.supply-m3s";

    /// <summary>What a combustor costs more at high fire than a clean one, Pa: the draft needed rises by it.</summary>
    public const string ExtraNeedPa = "combustor.extra-need-pa";

    /// <summary>Whether cold air was seen to fall at the collar.</summary>
    public const string AirFalls = "cold.air-falls";

    /// <summary>What an open window gave the draft, Pa.</summary>
    public const string WindowGainPa = "hot.window-gain-pa";

    /// <summary>Swing of the unsteadiest run of readings within a minute, as a share of its mean.</summary>
    public const string SwingShare = "hot.swing-share";

    /// <summary>Whether the top is suspect: too low, badly placed or clogged.</summary>
    public const string TopBad = "top.bad";

    // Where something worse was found on the gas's way, a reading says nothing of the flue as it is meant to be.
    private static readonly string[] _onTheGasesWay = ["flue", "cap", "connector", "clean-out", "damper", "baffle", "intake", "draft", "spill"];

    private static string Name(FiringLevel level, string what) => $"hot.{Word.Of(level)}.{what}";

    /// <summary>Draft read at a fire, Pa.</summary>
    /// <param name="level">The fire.</param>
    public static string DraftPa(FiringLevel level) => Name(level, "draft-pa");

    /// <summary>What the reading at a fire means.</summary>
    /// <param name="level">The fire.</param>
    public static string Verdict(FiringLevel level) => Name(level, "verdict");

    /// <summary>What is wrong with a flue's draft by the readings of a visit.</summary>
    /// <param name="text">A word of the visit.</param>
    /// <param name="number">A number of the visit.</param>
    /// <param name="stove">The stove: what its label allows.</param>
    /// <returns>Too weak, too strong at some fire; null where nothing was read.</returns>
    public static (bool Weak, bool Strong)? Pulls(Func<string, string?> text, Func<string, double?> number, Stove stove)
    {
        var read = Enum.GetValues<FiringLevel>().Select(l => (Verdict: Word.Find<DraftVerdict>(text(Verdict(l))), Pa: number(DraftPa(l)))).Where(r => r.Verdict is not null).ToList();
        return read.Count == 0 ? null : (read.Exists(r => r.Verdict is DraftVerdict.AsExpectedTooWeak or DraftVerdict.BelowExpected),
            read.Exists(r => r.Verdict == DraftVerdict.AsExpectedTooStrong || r.Verdict == DraftVerdict.AboveExpected && r.Pa > (stove.LabelMaxPa ?? FlueLimits.GreatestDraft.Value)));
    }

    /// <summary>Flue gas at a fire as read by probe, °C.</summary>
    /// <param name="level">The fire.</param>
    public static string GasC(FiringLevel level) => Name(level, "gas-c");

    /// <summary>The facts of an answered reading.</summary>
    public static IEnumerable<Fact> Of(FiringLevel level, double draftPa, DraftAnswer answer) =>
    [
        new(DraftPa(level), draftPa),
        new(Name(level, "expected-pa"), answer.ExpectedPa),
        new(Name(level, "low-pa"), answer.LowPa),
        new(Name(level, "high-pa"), answer.HighPa),
        new(Name(level, "visit-sigma-pa"), DraftBaseline.VisitSigmaPa(answer.Contributions)),
        new(Verdict(level), null, Word.Of(answer.Verdict!.Value)),
    ];

    /// <summary>Readings of earlier visits, oldest first, the low fire before the high.</summary>
    public static IReadOnlyList<PastReading> Readings(StoveHistory history) => [.. history.Earlier.SelectMany(Readings)];

    /// <summary>Readings of a visit, the low fire first.</summary>
    public static IEnumerable<PastReading> Readings(EarlierVisit visit)
    {
        foreach (var level in Enum.GetValues<FiringLevel>())
        {
            double? Number(string what) => visit.Number(Name(level, what));
            if (Number("draft-pa") is { } draft && Number("expected-pa") is { } expected && Number("low-pa") is { } low && Number("high-pa") is { } high
                && Word.Find<DraftVerdict>(visit.Text(Verdict(level))) is { } verdict)
            {
                yield return new PastReading(visit.Id, visit.Day, level, draft, expected, low, high, verdict, Number("visit-sigma-pa") ?? 0);
            }
        }
    }

    /// <summary>
    /// Readings that teach this flue's own baseline: of earlier visits on the flue as it stands, at which it pulled as
    /// expected and nothing was found wrong on the gas's way. One a visit: at the fire asked for, else the one nearest to it.
    /// </summary>
    public static IReadOnlyList<HistoryEntry> Sound(StoveHistory history, FiringLevel level) =>
    [
        .. history.Earlier.Where(v => v.ThisFlue && !v.Found.Any(f => f.Condition is Condition.Spent or Condition.Unsafe && _onTheGasesWay.Contains(f.Part)))
            .Select(v => Readings(v).Where(r => AsExpected(r.Verdict)).MinBy(r => Math.Abs((int)r.Level - (int)level)))
            .OfType<PastReading>().Select(r => new HistoryEntry(r.DraftPa, r.ExpectedPa, r.VisitSigmaPa)),
    ];

    /// <summary>The last reading of an earlier visit to compare with, at the same fire if there is one.</summary>
    public static EarlierReading? LastReading(StoveHistory history, FiringLevel level) => Readings(history)
        .OrderBy(r => r.Level == level).ThenBy(r => r.Day).Select(r => new EarlierReading(r.Day, r.DraftPa, r.LowPa, r.HighPa, r.Verdict)).LastOrDefault();

    private static bool AsExpected(DraftVerdict verdict) => verdict is DraftVerdict.AsExpected or DraftVerdict.AsExpectedTooWeak or DraftVerdict.AsExpectedTooStrong;
}
