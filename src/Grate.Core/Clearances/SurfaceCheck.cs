using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Clearances;

/// <summary>A spot read at a time, and once more later.</summary>
/// <param name="Label">What it is, 1 to 80 characters.</param>
/// <param name="ReadC">What the gauge showed, °C.</param>
/// <param name="ReadAt">Time of day it was read.</param>
/// <param name="LaterC">What it showed an hour later, °C; it counts.</param>
/// <param name="Emissivity">Of the surface; default 0.95.</param>
/// <param name="Kind">exposed or hidden; default exposed.</param>
/// <param name="Side">On which side of the stove it lies; default by its usual name, else in front.</param>
/// <param name="AwayMm">Distance from the stove, mm, 0..20 000; default as usual on that side.</param>
/// <param name="HeightMm">Height above the floor, mm, 0..6000; default as usual on that side.</param>
public sealed record ReadSpot(string? Label = null, double? ReadC = null, TimeOnly? ReadAt = null, double? LaterC = null, double? Emissivity = null, [property: Words(typeof(SpotKind))] string? Kind = null,
    [property: Words(typeof(StoveSide))] string? Side = null, double? AwayMm = null, double? HeightMm = null);

/// <summary>Surfaces near the stove as read.</summary>
/// <param name="RoomC">Room, °C; default that of the cold checks.</param>
/// <param name="GaugeEmissivity">What the gauge is set to; default 0.95.</param>
/// <param name="GasNowC">Gas at the collar, °C; default the newest reading of the hot test.</param>
/// <param name="Spots">The spots, at most 20.</param>
public sealed record SurfaceCheck(double? RoomC = null, double? GaugeEmissivity = null, double? GasNowC = null, IReadOnlyList<ReadSpot>? Spots = null);

/// <summary>Where a spot lies, for plan and elevation.</summary>
/// <param name="Side">On which side of the stove.</param>
/// <param name="AwayM">Distance from it, m.</param>
/// <param name="HeightM">Height above the floor, m.</param>
public sealed record SpotPlace(StoveSide Side, double AwayM, double HeightM);

/// <summary>The stove that the spots lie round.</summary>
/// <param name="WidthM">Width, m.</param>
/// <param name="DepthM">Depth, m.</param>
/// <param name="HeightM">Height, m.</param>
public sealed record StoveBody(double WidthM, double DepthM, double HeightM);

/// <summary>What follows for the surfaces (handbook 08).</summary>
/// <param name="Reckoned">Spot by spot; null while none was read.</param>
/// <param name="Places">Where each of the entered spots lies, in their order.</param>
/// <param name="Body">The stove between them.</param>
/// <param name="LookAgain">Label and time of the second look of each spot that still needs one.</param>
/// <param name="Parts">Their word.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record SurfaceCheckAnswer(SurfaceAnswer? Reckoned, IReadOnlyList<SpotPlace> Places, StoveBody Body, IReadOnlyList<SecondLook> LookAgain, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>Wood warms slowly: a second look after so long.</summary>
    public static readonly Limit SecondLookMin = Limit.Assumed(60, "min", "wood and wall warm slowly");

    private const int Most = 20;

    private static readonly EntryRange
        _away = new("Distance from the stove", Quantity.Bore, 0, 20_000, 0.001),
        _height = new("Height above the floor", Quantity.Bore, 0, 6000, 0.001);

    /// <summary>Answers readings.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="SurfaceCheck"/>.</returns>
    public static SurfaceCheckAnswer? To(SurfaceCheck check, VisitContext at, EntryErrors errors)
    {
        var spots = errors.Each("spots", check.Spots, Most, "spots");
        errors.Check("roomC", check.RoomC, EntryRange.Room);
        errors.Check("gaugeEmissivity", check.GaugeEmissivity, SurfaceAnswer.EmissivityRange);
        errors.Check("gasNowC", check.GasNowC, FlueRanges.CollarGas);
        foreach (var (spot, i) in spots)
        {
            errors.Check($"spots[{i}].readC", spot.ReadC, SurfaceAnswer.ReadRange);
            errors.Check($"spots[{i}].emissivity", spot.Emissivity, SurfaceAnswer.EmissivityRange);
            errors.CheckWord<SpotKind>($"spots[{i}].kind", spot.Kind, "What the spot lies on");
            errors.CheckText($"spots[{i}].label", spot.Label, "What the spot is", 80, needed: true);
            errors.Check($"spots[{i}].laterC", spot.LaterC, SurfaceAnswer.ReadRange);
            errors.CheckWord<StoveSide>($"spots[{i}].side", spot.Side, "Side of the stove");
            errors.Check($"spots[{i}].awayMm", spot.AwayMm, _away);
            errors.Check($"spots[{i}].heightMm", spot.HeightMm, _height);
        }
        if (errors.Any)
            return null;
        var assumed = new List<Assumed>();
        double? Stands(double? typed, string field, (double Value, string Source)? known)
        {
            if (typed is null && known is { } there)
                assumed.Add(new(field, there.Value, Mark.Assumption, there.Source));
            return typed ?? known?.Value;
        }
        var room = Stands(check.RoomC, "roomC", at.Known(FlueFacts.RoomC, "from your cold checks") is { } k ? (k.Value, k.Source) : (FlueLimits.Room.Value, "an ordinary heated room, until it is read"));
        var now = Stands(check.GasNowC, "gasNowC", GasNow(at));
        List<(ReadSpot Item, int At)> read = [.. spots.Where(s => (s.Item.LaterC ?? s.Item.ReadC) is not null)];
        SurfaceAnswer? reckoned = null;
        if (read.Count > 0)
        {
            var refused = new EntryErrors(at.Units);
            reckoned = SurfaceAnswer.To(new(room, check.GaugeEmissivity, now, at.Number(FlueFacts.GasC(FiringLevel.High)),
                [.. read.Select(s => new SurfaceSpot(s.Item.Label, s.Item.LaterC ?? s.Item.ReadC, s.Item.Emissivity, s.Item.Kind))]), refused);
            errors.TakeOver(refused, field => read.Select((s, i) => (From: $"spots[{i}].", To: $"spots[{s.At}].")).Where(p => field.StartsWith(p.From, StringComparison.Ordinal))
                .Select(p => p.To + field[p.From.Length..]).FirstOrDefault(field));
            if (reckoned is null)
                return null;
        }
        List<SecondLook> again = [.. spots.Where(s => s.Item is { ReadC: not null, LaterC: null, ReadAt: not null })
            .Select(s => new SecondLook(s.Item.Label!, s.Item.ReadAt!.Value.AddMinutes(SecondLookMin.Value)))];
        var body = Section.StoveSection.Usual(at.Stove);
        var answer = new SurfaceCheckAnswer(reckoned, [.. spots.Select(s => Place(s.Item))], new(body.WidthM!.Value, body.DepthM!.Value, body.HeightM!.Value), again, [], [], reckoned is null ? [] : [.. assumed, .. reckoned.Assumed]);
        return answer with { Parts = answer.Decide(), Sentences = answer.Words(now, at.Units) };
    }

    // Where mantel, floor, wall and ceiling usually are, until they are placed [A].
    private static SpotPlace Place(ReadSpot spot)
    {
        var side = Word.Find<StoveSide>(spot.Side) ?? spot.Label?.Trim() switch { "side wall" => StoveSide.Right, "mantel" or "ceiling by the pipe" => StoveSide.Above, "wall behind" => StoveSide.Back, _ => StoveSide.Front };
        var (away, height) = side switch { StoveSide.Front => (0.4, 0.0), StoveSide.Above => (0.3, spot.Label?.Trim() == "mantel" ? 1.4 : 2.4), _ => (0.3, 0.8) };
        return new(side, spot.AwayMm / 1000 ?? away, spot.HeightMm / 1000 ?? height);
    }

    private static (double, string)? GasNow(VisitContext at) => Enum.GetValues<FiringLevel>().Reverse()
        .Select(level => at.Known(FlueFacts.GasC(level), $"the probe at {Word.Of(level)} fire")).OfType<Known>().Select(k => ((double, string)?)(k.Value, k.Source)).FirstOrDefault();

    /// <summary>From so many times its limit on a surface that burns stops the stove.</summary>
    public static readonly Limit FarTooHot = Limit.Assumed(1.5, "", "97 K above the room, what a listing bears for minutes of a chimney fire, is no place for wood every evening");

    /// <summary>Spots that are far above what they may.</summary>
    internal IEnumerable<SpotAnswer> TooHot() => (Reckoned?.Spots ?? []).Where(s => s.Share >= FarTooHot.Value);

    private PartDecided[] Decide() => Reckoned is null ? []
        : TooHot().Any() ? [new("surfaces", "surfaces near the stove", Condition.Unsafe, SurfacesStation.TooHot, Say("Far too hot at high fire."))]
        : Reckoned.Verdict == SurfaceVerdict.Fail ? [new("surfaces", "surfaces near the stove", Condition.Spent, null, Say("Too warm at high fire: more distance, or a shield."))]
        : [new("surfaces", "surfaces near the stove", Condition.Sound, null, Say("Within what they may."))];

    private IReadOnlyList<Sentence> Words(double? gasNowC, UnitSystem system)
    {
        var said = new Said();
        if (Reckoned is not { } surfaces)
            return said.Add(Weight.Verdict, Say("Mantel, floor in front, side wall, ceiling by the pipe: read each with the infrared gauge while the stove burns.")).InOrder();
        var (rise, temperature) = (Units.Of(Quantity.TemperatureDifference, system), Units.Of(Quantity.Temperature, system));
        foreach (var spot in surfaces.Spots.Where(s => !s.Passes))
        {
            var far = spot.Share >= FarTooHot.Value;
            said.Add(far ? Weight.Stop : Weight.Verdict, Say($"{spot.Label}: ", Computed(rise.Format(spot.RiseHighK)), " above the room at high fire, more than the ", rise.Format(spot.LimitK),
                $" it may. More distance or a shield, and no {(far ? "" : "high ")}fire until then."));
        }
        if (surfaces.Verdict == SurfaceVerdict.Pass)
        {
            var closest = surfaces.Spots.First(s => s.Label == surfaces.Closest);
            said.Add(Weight.Verdict, Say("Every surface stays within what it may; the closest is ", surfaces.Closest, ": ", Computed(rise.Format(closest.RiseHighK)), " of ", rise.Format(closest.LimitK), gasNowC is null ? "." : " at high fire."));
        }
        if (gasNowC is null)
            said.Add(Weight.Hint, Say("As read: with the flue gas of now it is said what they come to at high fire."));
        foreach (var spot in surfaces.Spots.Where(s => s.TrueC > HotC))
            said.Add(Weight.Hint, Say($"{spot.Label}: ", Computed(temperature.Format(spot.TrueC)), " once its emissivity is counted."));
        foreach (var look in LookAgain)
            said.Add(Weight.Hint, Say($"{look.Label}: a second look at ", Computed($"{look.At:HH:mm}"), ", an hour after the first."));
        return said.InOrder();
    }

    // From here on a hand is drawn back: the corrected temperature is told.
    private const double HotC = 60;
}

/// <summary>A second look at a spot.</summary>
/// <param name="Label">The spot.</param>
/// <param name="At">Time of day.</param>
public sealed record SecondLook(string Label, TimeOnly At);

/// <summary>Surfaces near the stove, by infrared.</summary>
public sealed class SurfacesStation : Station<SurfaceCheck, SurfaceCheckAnswer>
{
    /// <summary>Stop by a surface that burns and gets far hotter than it may.</summary>
    public const string TooHot = "surface-hot";

    /// <inheritdoc/>
    public override string Code => "surfaces";

    /// <inheritdoc/>
    public override string Name => "Surfaces";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.HotTest];

    /// <inheritdoc/>
    public override bool AfterTheOthers => true;

    /// <inheritdoc/>
    public override JsonTypeInfo<SurfaceCheck> EntryJson => CoreJson.Default.SurfaceCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<SurfaceCheckAnswer> AnswerJson => CoreJson.Default.SurfaceCheckAnswer;

    /// <inheritdoc/>
    public override SurfaceCheckAnswer? Answer(SurfaceCheck entry, VisitContext at, EntryErrors errors) => SurfaceCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(SurfaceCheck entry, SurfaceCheckAnswer answer)
    {
        if (answer.TooHot().ToList() is { Count: > 0 } hot)
            yield return new(TooHot, $"Far hotter than it may get: {string.Join(", ", hot.Select(s => s.Label))}.", [.. hot.Select(s => s.Label)]);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(SurfaceCheck entry, SurfaceCheckAnswer answer)
    {
        if (answer.Reckoned?.Spots.Where(s => s.Passes).ToList() is { Count: > 0 } good)
            yield return new(TooHot, $"Read again, and below its limit: {string.Join(", ", good.Select(s => s.Label))}.", [.. good.Select(s => s.Label)]);
    }

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(SurfaceCheck entry, SurfaceCheckAnswer answer) => Fact.Number(ClearanceFacts.SurfaceShare, answer.Reckoned?.Spots.Max(s => s.Share));

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(SurfaceCheck entry, SurfaceCheckAnswer answer, UnitSystem system)
    {
        if (answer.Reckoned is not { } surfaces)
            yield break;
        var (temperature, rise) = (Units.Of(Quantity.Temperature, system), Units.Of(Quantity.TemperatureDifference, system));
        yield return new("Surfaces near the stove", ["Surface", "Temperature", "At high fire above the room", "May rise"],
        [
            .. surfaces.Spots.Select(s => (IReadOnlyList<Sentence>)[Say(s.Label), Say(Measured(temperature.Format(s.TrueC))), Say(Computed(rise.Format(s.RiseHighK))), Say(rise.Format(s.LimitK))]),
        ], "Limits from UL 1482 (from memory).");
    }
}
