using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Combustor;

/// <summary>A light-off test as made; every field may still be missing.</summary>
/// <param name="Series">Samples of the probe by minutes from the closing of the bypass, up to 200.</param>
/// <param name="GoodFire">Whether a good fire burns on a bed of coals; default true.</param>
/// <param name="TopClear">Whether the top of the chimney cleared; null while nobody looked.</param>
public sealed record LightOffTest(IReadOnlyList<ProbeSampleEntry>? Series = null, bool? GoodFire = null, bool? TopClear = null);

/// <summary>What follows from a light-off test (handbook 05 section 1).</summary>
/// <param name="Result">The judgement; null before the first sample.</param>
/// <param name="GoalC">Probe that it must reach within ten minutes, °C.</param>
/// <param name="Over">Whether it has ended: it is judged, or its ten minutes are over.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record LightOffTestAnswer(LightOff? Result, double? GoalC, bool Over, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    private const int MostSamples = 200;

    /// <summary>Answers a test.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="LightOffTest"/>.</returns>
    public static LightOffTestAnswer? To(LightOffTest test, VisitContext at, EntryErrors errors)
    {
        var samples = new List<(double Minute, double ProbeC)>();
        foreach (var (sample, i) in errors.Each("series", test.Series, MostSamples, "samples"))
        {
            if (errors.Need($"series[{i}].minute", sample.Minute, CombustorRanges.Minute) & errors.Check($"series[{i}].probeC", sample.ProbeC, CombustorRanges.Probe))
                samples.Add((sample.Minute!.Value, sample.ProbeC!.Value));
        }
        if (errors.Any)
            return null;
        var temperature = Units.Of(Quantity.Temperature, at.Units);
        if (samples.Count == 0)
        {
            return new(null, null, false, [Say($"Bypass open until the probe shows {temperature.Format(CombustorLimits.Start.Value)} and a bed of coals is there; then close it, and read the probe every minute.")], []);
        }
        var assumed = new Assumptions();
        var goodFire = assumed.Or(test.GoodFire, "goodFire", true, "nothing was said against it");
        var result = LightOff.Of(samples, assumed.Or(null, "startC", CombustorLimits.Start), goodFire, test.TopClear);
        return new(result, result.ClosedAtC + CombustorLimits.Climb.Value, result.Verdict != LightOffVerdict.NotJudged || samples.Max(s => s.Minute) >= CombustorLimits.Window.Value, Words(result, test, at), assumed.Used);
    }

    private static IReadOnlyList<Sentence> Words(LightOff result, LightOffTest test, VisitContext at)
    {
        var said = new Said();
        var (temperature, rise) = (Units.Of(Quantity.Temperature, at.Units), Units.Of(Quantity.TemperatureDifference, at.Units));
        var climb = rise.Format(CombustorLimits.Climb.Value);
        said.Add(Weight.Verdict, result.Verdict switch
        {
            LightOffVerdict.Pass => Say("It lights off: ", Computed(climb), " more after ", Computed($"{result.MinutesTo50K:0.#} min"), test.TopClear is null ? ". Look at the top of the chimney: it should have cleared." : ", and the top of the chimney cleared."),
            LightOffVerdict.Doubtful => Say("The probe climbed ", Computed(climb), " in ", Computed($"{result.MinutesTo50K:0.#} min"), ", but the top of the chimney smokes on: doubtful."),
            LightOffVerdict.ClosedTooEarly => Say("The bypass was closed at ", Measured(temperature.Format(result.ClosedAtC)), $", below the {temperature.Format(CombustorLimits.Start.Value)} from which it starts: repeat, it is free."),
            LightOffVerdict.Fail => Say($"It does not light off: in ten minutes the probe should climb {climb}; it climbed ", Computed(rise.Format(result.RiseAt10K ?? 0)), "."),
            // Long enough, and yet not judged.
            _ => result.RiseAt10K is not null ? Say("Without a good fire on coals nothing is judged.") : Say("Closed at ", Measured(temperature.Format(result.ClosedAtC)), ": within ten minutes the probe should climb to ", Computed(temperature.Format(result.ClosedAtC + CombustorLimits.Climb.Value)), "."),
        });
        if (result.LookAt is [not LightOffLook.ClosedTooEarly, ..])
            said.Add(Weight.Verdict, Say($"Look, the cheapest first: {string.Join(", ", result.LookAt.Select(l => Word.Said(l).ToLowerInvariant()))}."));
        if (result.PeakZone is CombustorZone.AgesFast or CombustorZone.Destroys)
            said.Add(Weight.Verdict, Say("The probe stood at ", Measured(temperature.Format(result.PeakC)), result.PeakZone == CombustorZone.Destroys ? ": that destroys a combustor. Less air." : ": it ages fast there. Less air."));
        return said.InOrder();
    }
}

/// <summary>Whether the combustor lights off.</summary>
public sealed class LightOffStation : Station<LightOffTest, LightOffTestAnswer>
{
    /// <inheritdoc/>
    public override string Code => "light-off";

    /// <inheritdoc/>
    public override string Name => "Light-off";

    /// <inheritdoc/>
    public override string? Feature => "combustor";

    /// <inheritdoc/>
    public override bool AfterTheOthers => true;

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.HotTest];

    /// <inheritdoc/>
    public override JsonTypeInfo<LightOffTest> EntryJson => CoreJson.Default.LightOffTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<LightOffTestAnswer> AnswerJson => CoreJson.Default.LightOffTestAnswer;

    /// <inheritdoc/>
    public override LightOffTestAnswer? Answer(LightOffTest entry, VisitContext at, EntryErrors errors) => LightOffTestAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(LightOffTest entry, LightOffTestAnswer answer) =>
    [
        .. Fact.Number(CombustorFacts.LightOffMin, answer.Result?.MinutesTo50K),
        .. Fact.Of(CombustorFacts.LightOff, answer is { Result: { } result, Over: true } ? Word.Of(result.Verdict) : null),
    ];
}
