using System.Text.Json.Serialization.Metadata;
using Grate.Core.Fuel;

namespace Grate.Core.Deposits;

/// <summary>What hangs in the flue, and the sweep.</summary>
public sealed class DepositsPart : IPart
{
    /// <inheritdoc/>
    public string Code => "deposits";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new DepositsStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } =
        [new("clean-out", "clean-out", VisitSteps.Sweep) { Again = Limit.Practice(12, "months", "what clogs is seen once a year") }];

    /// <inheritdoc/>
    public IReadOnlyList<StopReason> Stops { get; } =
    [
        new("glaze", "Glaze in the flue: no fire until treated and looked at again.", "flue", "connector") { Retest = "Looked through from end to end: no glaze on any wall." },
        new("deposit", "Deposit of 6 mm or more: no fire until swept.", "flue", "connector", "cap") { Retest = "Swept, and less than 6 mm left at the worst spot." },
    ];

    /// <inheritdoc/>
    public IEnumerable<DueTask> Due(StoveHistory history, DateOnly today) => SweepDue.Of(history, today) is { } task ? [task] : [];

    /// <inheritdoc/>
    public IReadOnlyList<string> DueReads { get; } = ["deposits.", "wood."];

    /// <inheritdoc/>
    public IEnumerable<VanItem> Van(VisitContext at)
    {
        var flue = Flue.FlueReading.Stored(at.Flue);
        return [.. SweepPlan.BrushesFor(flue, at.Units).Select(b => new VanItem(b, "the sweep")), new VanItem($"{SweepPlan.RodsFor(flue)} rods", "the sweep")];
    }
}

/// <summary>Deposits found, the sweep, and what it left.</summary>
public sealed class DepositsStation : Station<SweepRecord, SweepAnswer>
{
    /// <inheritdoc/>
    public override string Code => "deposits";

    /// <inheritdoc/>
    public override string Name => "Deposits and sweep";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Sweep];

    /// <inheritdoc/>
    public override string MissedAs => "No sweep was recorded.";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Learns { get; } = [DepositFacts.Minutes];

    /// <inheritdoc/>
    public override JsonTypeInfo<SweepRecord> EntryJson => CoreJson.Default.SweepRecord;

    /// <inheritdoc/>
    public override JsonTypeInfo<SweepAnswer> AnswerJson => CoreJson.Default.SweepAnswer;

    /// <inheritdoc/>
    public override SweepAnswer? Answer(SweepRecord entry, VisitContext at, EntryErrors errors) =>
        SweepAnswer.To(entry, SweepPlace.Of(at), at.Day, at.Day, errors, at.Units);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(SweepRecord entry, SweepAnswer answer) => DepositFacts.Of(entry);

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(SweepRecord entry, SweepAnswer answer) => entry.StopCodes()
        .Select(code => new ComputedStop(code, answer.Sentences.First(s => s.Weight == Weight.Stop).ToString()));

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(SweepRecord entry, SweepAnswer answer)
    {
        if (entry.LeftMm < Deposit.StopFrom.Value)
            yield return new("deposit", $"{entry.LeftMm:0.##} mm left at the worst spot.");
        if (entry.GlazeLeft == false)
            yield return new("glaze", "No glaze left on any wall.");
    }

    /// <inheritdoc/>
    public override string? BlocksSigning(SweepRecord entry) => entry.PartsOff
        ? "The brush was in the flue, and what was taken out for it is not ticked as back: no visit is finished with a part off." : null;
}

/// <summary>Names of what a sweep finds out.</summary>
public static class DepositFacts
{
    /// <summary>Thickness found at the worst spot of the flue, mm; missing where nobody looked.</summary>
    public const string WorstMm = "deposits.worst-mm";

    /// <summary>Left behind at the worst spot, mm; there once the flue was swept.</summary>
    public const string LeftMm = "deposits.left-mm";

    /// <summary>Whether glaze stayed on a wall.</summary>
    public const string GlazeLeft = "deposits.glaze-left";

    /// <summary>How long the sweep took, min.</summary>
    public const string Minutes = "deposits.minutes";

    private const string Stage = "deposits.stage.";

    /// <summary>The facts of a record.</summary>
    public static IEnumerable<Fact> Of(SweepRecord record)
    {
        IEnumerable<Fact> facts =
        [
            .. Fact.Number(WorstMm, record.Found is { Count: > 0 } ? record.WorstInFlueMm() : null),
            .. Fact.Number(LeftMm, record.WasSwept ? record.LeftMm ?? 0 : null),
            .. Fact.Of(GlazeLeft, record.GlazeLeft == true ? "yes" : null),
            .. Fact.Number(Minutes, record.Minutes),
        ];
        return facts.Concat((record.Found ?? new Dictionary<string, DepositEntry?>()).Where(f => f.Value?.Stage is not null).Select(f => new Fact(Stage + f.Key, f.Value!.Stage)));
    }

    /// <summary>A sweep of an earlier visit; null where nobody looked or swept.</summary>
    public static EarlierSweep? Sweep(EarlierVisit visit) => visit.Number(WorstMm) is null && visit.Number(LeftMm) is null ? null
        : new EarlierSweep(visit.Day, visit.Number(WorstMm), visit.Number(LeftMm), FuelFacts.Record(visit), visit.ThisFlue, visit.Text(GlazeLeft) is not null,
            visit.Facts.Where(f => f.Name.StartsWith(Stage, StringComparison.Ordinal)).ToDictionary(f => f.Name[Stage.Length..], f => (int)f.Value!.Value));

    /// <summary>Every sweep of earlier visits, oldest first.</summary>
    public static IReadOnlyList<EarlierSweep> Sweeps(StoveHistory history) => [.. history.Earlier.Select(Sweep).OfType<EarlierSweep>()];
}
