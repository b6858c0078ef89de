using System.Text.Json.Nodes;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Grate.Core;
using Grate.Core.Visits;

namespace Grate.Server.Tests;

/// <summary>What is entered at the invented station.</summary>
/// <param name="KettleC">Water in the kettle, °C; up to schema 1 it was called waterC.</param>
/// <param name="Lid">Whether its lid is back.</param>
public sealed record Kettle(double? KettleC = null, bool? Lid = null);

/// <summary>What follows.</summary>
/// <param name="ToBoilK">Missing to the boil, K.</param>
/// <param name="Sentences">In words.</param>
public sealed record KettleAnswer(double ToBoilK, IReadOnlyList<Sentence> Sentences) : IReckoned;

[JsonSourceGenerationOptions(System.Text.Json.JsonSerializerDefaults.Web)]
[JsonSerializable(typeof(Kettle))]
[JsonSerializable(typeof(KettleAnswer))]
internal sealed partial class KettleJson : JsonSerializerContext;

/// <summary>A part that exists only in these tests: all it takes to add one.</summary>
public sealed class KettlePart(int schema = 1) : IPart
{
    public string Code => "kettle";

    public IReadOnlyList<IStation> Stations { get; } = [new KettleStation(schema)];

    public IReadOnlyList<PartMark> Marks { get; } = [new("kettle-spout", "kettle's spout", VisitSteps.Inside)];

    public IReadOnlyList<StopReason> Stops { get; } = [new("kettle-dry", "The kettle boils dry: no fire.", "kettle-spout") { Retest = "Water in it, and no steam." }];

    public IEnumerable<DueTask> Due(StoveHistory history, DateOnly today) => history.Earlier.LastOrDefault(v => v.Number("kettle.water-c") is not null) is { } last
        ? [new DueTask(DueKind.Part, "kettle-spout", last.Day.AddDays(20), last.Day.AddDays(30), last.Day.AddDays(40), $"The kettle stood at {last.Number("kettle.water-c")} °C.", 25)] : [];

    public IEnumerable<VanItem> Van(VisitContext at) => [new("descaler", "the kettle")];
}

internal sealed class KettleStation(int schema) : Station<Kettle, KettleAnswer>
{
    private static readonly EntryRange _water = new("Water", Quantity.Temperature, 0, 120);

    public override string Code => "kettle";

    public override string Name => "Kettle";

    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside, VisitSteps.BackTogether];

    public override string MissedAs => "Nobody looked at the kettle.";

    public override int Schema => schema;

    public override JsonTypeInfo<Kettle> EntryJson => KettleJson.Default.Kettle;

    public override JsonTypeInfo<KettleAnswer> AnswerJson => KettleJson.Default.KettleAnswer;

    public override KettleAnswer? Answer(Kettle entry, VisitContext at, EntryErrors errors)
    {
        if (!errors.Need("kettleC", entry.KettleC, _water))
            return null;
        var missing = 100 - entry.KettleC!.Value;
        var temperature = Units.Of(Quantity.TemperatureDifference, at.Units);
        return new KettleAnswer(missing, new Said().Add(missing < 0 ? Weight.Stop : Weight.Verdict, Sentence.Say("To the boil ", Sentence.Computed(temperature.Format(missing)), " are missing.")).InOrder());
    }

    public override IEnumerable<Fact> Facts(Kettle entry, KettleAnswer answer) => [new("kettle.water-c", entry.KettleC)];

    public override IEnumerable<PassedRetest> Passed(Kettle entry, KettleAnswer answer) => answer.ToBoilK >= 0 ? [new("kettle-dry", $"{entry.KettleC} °C in the kettle.")] : [];

    public override IEnumerable<ComputedStop> Stops(Kettle entry, KettleAnswer answer) => answer.ToBoilK < 0 ? [new("kettle-dry", $"{entry.KettleC} °C in the kettle.")] : [];

    public override string? BlocksSigning(Kettle entry) => entry.Lid == false ? "The kettle's lid is off." : null;

    protected override IEnumerable<ReportBlock> Report(Kettle entry, KettleAnswer answer, UnitSystem system) =>
        [new("Kettle", ["Water"], [[Sentence.Say(Sentence.Measured(Units.Of(Quantity.Temperature, system).Format(entry.KettleC!.Value)))]])];

    protected override JsonNode Upgrade(JsonNode stored, int from)
    {
        stored["lid"] ??= true;
        return stored;
    }
}
