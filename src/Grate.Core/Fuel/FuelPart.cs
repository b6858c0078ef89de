using System.Text.Json.Serialization.Metadata;

namespace Grate.Core.Fuel;

/// <summary>The household's wood.</summary>
public sealed class FuelPart : IPart
{
    /// <inheritdoc/>
    public string Code => "fuel";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new WoodStation(), new WoodPileStation(), new NightsStation()];

    /// <inheritdoc/>
    public IReadOnlyList<PartMark> Marks { get; } = [new("fuel", "fuel and moisture", VisitSteps.Arrive) { Wears = false }];
}

/// <summary>The wood, found on arrival.</summary>
public sealed class WoodStation : Station<WoodRecord, WoodAnswer>
{
    /// <inheritdoc/>
    public override string Code => "wood";

    /// <inheritdoc/>
    public override string Name => "The wood";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Arrive];

    /// <inheritdoc/>
    public override string MissedAs => "The wood is unknown: no moisture, no amount.";

    /// <inheritdoc/>
    public override JsonTypeInfo<WoodRecord> EntryJson => CoreJson.Default.WoodRecord;

    /// <inheritdoc/>
    public override JsonTypeInfo<WoodAnswer> AnswerJson => CoreJson.Default.WoodAnswer;

    /// <inheritdoc/>
    public override WoodAnswer? Answer(WoodRecord entry, VisitContext at, EntryErrors errors) => WoodAnswer.To(entry, errors, at.Units);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(WoodRecord entry, WoodAnswer answer) =>
    [
        .. Fact.Number(FuelFacts.KgPerYear, entry.Amount is null ? null : answer.KgPerYear),
        .. Fact.Number(FuelFacts.MoistureWet, answer.MeanOnMeter is null && entry.ToldMoistureWet is null ? null : answer.MoistureWet),
        .. Fact.Of(FuelFacts.Habit, entry.Habit),
        .. Fact.Of(FuelFacts.Wood, entry.Wood),
    ];
}

/// <summary>Names of what is known of a household's wood.</summary>
public static class FuelFacts
{
    /// <summary>Wood a year, kg as fired.</summary>
    public const string KgPerYear = "wood.kg-per-year";

    /// <summary>Moisture, share of the whole weight.</summary>
    public const string MoistureWet = "wood.moisture-wet";

    /// <summary>How it is burnt.</summary>
    public const string Habit = "wood.habit";

    /// <summary>Class of wood.</summary>
    public const string Wood = "wood.class";

    /// <summary>What the stack holds, kg as fired.</summary>
    public const string PileKg = "pile.kg";

    /// <summary>Day to measure it again.</summary>
    public const string MeasureAgainOn = "pile.measure-again-on";

    /// <summary>Heat loss of the house by its nights, W/K.</summary>
    public const string HouseUaWK = "night.house-ua-wk";

    /// <summary>Load for the night that was wanted, kg.</summary>
    public const string NightLoadKg = "night.load-kg";

    /// <summary>The wood as the newest facts tell it; what nobody found out stays open.</summary>
    /// <param name="number">Newest number of a name.</param>
    /// <param name="text">Newest word of a name.</param>
    public static WoodRecord Record(Func<string, double?> number, Func<string, string?> text) =>
        new(ToldMoistureWet: number(MoistureWet), Amount: number(KgPerYear), Habit: text(Habit), Wood: text(Wood));

    /// <summary>The wood of an earlier visit; null where nothing of it was found out then.</summary>
    public static WoodRecord? Record(EarlierVisit visit) => visit.Facts.Any(f => f.Name.StartsWith("wood.", StringComparison.Ordinal)) ? Record(visit.Number, visit.Text) : null;

    /// <summary>The newest word on a stove's wood, from signed visits.</summary>
    public static WoodRecord Newest(StoveHistory history) => Record(history.NewestNumber, history.NewestText);

    /// <summary>The newest word on the wood, this visit's first.</summary>
    public static WoodRecord Newest(VisitContext at) => Record(at.NewestNumber, at.NewestText);

    /// <summary>What the newest word on the wood comes to.</summary>
    internal static WoodAnswer Known(VisitContext at) => WoodAnswer.To(Newest(at), new EntryErrors(at.Units), at.Units)!;

    /// <summary>Word of its species; unknown where nobody told.</summary>
    internal static string Species(VisitContext at) => Word.Of(Word.Find<WoodSpecies>(at.NewestText(Wood)) ?? WoodSpecies.Unknown);
}
