using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Air;

/// <summary>What is seen along the connector.</summary>
[JsonConverter(typeof(WordConverter<ConnectorSign>))]
public enum ConnectorSign
{
    /// <summary>Fewer than three screws in a joint.</summary>
    [Said("Under three screws a joint")]
    FewScrews,

    /// <summary>Crimps point away from the stove.</summary>
    [Said("Crimps up")]
    CrimpsUp,

    /// <summary>Seams lie below.</summary>
    [Said("Seams down")]
    SeamsDown,

    /// <summary>The clean-out cannot be reached.</summary>
    [Said("Clean-out out of reach")]
    CleanOut,

    /// <summary>The thimble is not sealed.</summary>
    [Said("Thimble not sealed")]
    Thimble,
}

/// <summary>Dampers and bends of the smoke path as found; every field may still be missing.</summary>
/// <param name="Plate">Whether a plate sits in the pipe; default by the drawing.</param>
/// <param name="MakerAsks">Whether the maker asks for one.</param>
/// <param name="HighFireDraftPa">Draft at high fire, Pa; default the newest reading.</param>
/// <param name="Elbows90">Elbows of 90° behind the oven; default by the drawing.</param>
/// <param name="FlapStiff">Whether the oven's or heat exchanger's flap is stiff.</param>
/// <param name="LevelRiseMmPerM">Rise of the level run towards the chimney, mm per m, −200..1000.</param>
/// <param name="Signs">What is seen along the connector; an empty list is nothing.</param>
/// <param name="RegulatorPa">What a barometric regulator in the pipe is set to, Pa, 1..100; null: there is none.</param>
/// <param name="RegulatorStiff">Whether its flap does not swing freely.</param>
public sealed record DamperCheck(bool? Plate = null, bool? MakerAsks = null, double? HighFireDraftPa = null, int? Elbows90 = null, bool? FlapStiff = null,
    double? LevelRiseMmPerM = null, [property: Words(typeof(ConnectorSign))] IReadOnlyList<string>? Signs = null, double? RegulatorPa = null, bool? RegulatorStiff = null);

/// <summary>Bends and level runs of a flue, by its drawing.</summary>
/// <param name="Bends90">Bends of 90°, turning tees counted.</param>
/// <param name="Bends45">Bends of 45° and less.</param>
/// <param name="LevelM">How far it goes aside, m.</param>
/// <param name="RiseM">How far it rises, m.</param>
public sealed record FlueBends(int Bends90, int Bends45, double LevelM, double RiseM)
{
    /// <summary>A level run rises at least so much towards the chimney.</summary>
    public static readonly Limit LeastRise = Limit.Memory(20, "mm/m", "NFPA 211: ¼ in to the foot");

    /// <summary>A level run is no longer than this share of the vertical height.</summary>
    public static readonly Limit MostLevel = Limit.Memory(0.75, "", "NFPA 211: three quarters of the vertical height");

    /// <summary>Bends of 90° of which no more are wanted.</summary>
    public static readonly Limit Most90 = Limit.Practice(2, "", "two 45° bends are usually fine, no more than two of 90°");

    /// <summary>Those of a flue.</summary>
    public static FlueBends Of(FlueSystem flue)
    {
        var turns = flue.Segments.SelectMany(s => s.Fittings).Select(f => f.TurnDeg).Where(t => t > 0).ToList();
        return new(turns.Count(t => t >= 90), turns.Count(t => t < 90), flue.Segments.Sum(FlueLayout.AsideM), flue.Segments.Sum(s => s.RiseM));
    }

    /// <summary>Whether the level run is short enough for its height.</summary>
    [JsonIgnore]
    public bool ShortEnough => LevelM <= MostLevel.Value * RiseM + Limit.Met;
}

/// <summary>What follows for the smoke path (handbook 06 sections 4 and 6).</summary>
/// <param name="Plate">Whether a plate is there.</param>
/// <param name="HighFireDraftPa">The draft it is judged by, Pa; null where none was read.</param>
/// <param name="Reckoned">Plate and oven.</param>
/// <param name="PlateCostPa">What the plate, open, costs at high fire by the model, Pa; null where the drawing has none.</param>
/// <param name="Regulator">The regulator; null where there is none, or it cannot be reckoned.</param>
/// <param name="Bends">Bends and runs.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record DamperCheckAnswer(bool Plate, double? HighFireDraftPa, DamperAnswer Reckoned, double? PlateCostPa, Regulator? Regulator, FlueBends Bends, IReadOnlyList<PartDecided> Parts,
    IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    private static readonly EntryRange _rise = new("Rise of the level run in mm per m", Quantity.Ratio, -200, 1000);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="DamperCheck"/>.</returns>
    public static DamperCheckAnswer? To(DamperCheck check, VisitContext at, EntryErrors errors)
    {
        var signs = errors.Words<ConnectorSign>("signs", check.Signs, "What is seen along the connector");
        errors.Check("levelRiseMmPerM", check.LevelRiseMmPerM, _rise);
        errors.Check("regulatorPa", check.RegulatorPa, Regulator.Range);
        errors.Check("elbows90", check.Elbows90, DamperAnswer.Elbows);
        var flue = FlueReading.Stored(at.Flue);
        var bends = FlueBends.Of(flue);
        var plate = check.Plate ?? flue.Segments.Any(s => s.HasPlate);
        var oven = at.Stove.Features.Contains("oven");
        var draft = check.HighFireDraftPa ?? at.NewestNumber(FlueFacts.DraftPa(FiringLevel.High));
        var refused = new EntryErrors(at.Units);
        var reckoned = DamperAnswer.To(new(draft, at.Stove.LabelMaxPa, check.MakerAsks,
            oven ? new OvenEntry(DiameterM: flue.Segments[0].Section.NarrowestM, OutdoorC: at.NewestNumber(FlueFacts.OutdoorC) ?? at.MonthC, AltitudeM: at.House.AltitudeM,
                Elbows90: check.Elbows90 ?? bends.Bends90) : null), refused);
        errors.TakeOver(refused, field => field.StartsWith("oven.", StringComparison.Ordinal) ? field[5..] : field);
        if (reckoned is null || errors.Any)
            return null;
        var answer = new DamperCheckAnswer(plate, draft, reckoned, PlateCost(at), check.RegulatorPa is { } set ? Air.Regulator.Of(set, draft, at) : null, bends, [], [], reckoned.Assumed);
        return answer with { Parts = answer.Decide(check), Sentences = answer.Words(check, signs, at) };
    }

    // The flue as drawn against itself without the plate, both at high fire.
    private static double? PlateCost(VisitContext at)
    {
        if (FlueChange.For(at.Flue.Flue, UnitSystem.Metric).FirstOrDefault(c => c.Code == "plate-out") is not { } without)
            return null;
        double? Pull(FlueEntry flue) => (HotPlace.Of(at) with { Flue = flue }).Answer(new HotReading(Word.Of(FiringLevel.High)), at.Day.Month, new EntryErrors(), UnitSystem.Metric)?.ExpectedPa;
        return Pull(without.Flue) - Pull(at.Flue.Flue);
    }

    private PartDecided[] Decide(DamperCheck check)
    {
        if (check.Plate is null && check.FlapStiff is null && check.RegulatorStiff is null)
            return [];
        var (condition, why) = check.RegulatorStiff == true ? (Condition.Spent, Say("The regulator does not swing: free or renew it."))
            : check.FlapStiff == true ? (Condition.Wearing, Say("The flap is stiff: free it."))
            : !Plate ? (Condition.Sound, Say("No plate in the pipe."))
            : Reckoned.Plate?.Advice switch
            {
                null => (Condition.NotSeen, Say("A plate sits in the pipe; the draft at high fire decides about it.")),
                PlateAdvice.Keep => (Condition.Sound, Say("The maker asks for the plate.")),
                PlateAdvice.Control => (Condition.Wearing, Say("The flue pulls more than this stove may have.")),
                _ => (Condition.Spent, Say("A plate that has nothing to damp: out with it.")),
            };
        return [new("damper", "plate damper", condition, null, why)];
    }

    private IReadOnlyList<Sentence> Words(DamperCheck check, IReadOnlyList<ConnectorSign> signs, VisitContext at)
    {
        var said = new Said();
        var (draft, length) = (Units.Of(Quantity.Draft, at.Units), Units.Of(Quantity.Length, at.Units));
        AddPlate(said, draft, at.Stove.LabelMaxPa ?? FlueLimits.GreatestDraft.Value);
        if (Reckoned.Oven is { } oven)
        {
            said.Add(Weight.Verdict, Say("With the flap shut the long way past the oven costs ", Computed(draft.Format(oven.CostPa)), " at normal fire; by practice ", oven.Verdict switch
            {
                OvenVerdict.Works => "it works with so few elbows.",
                OvenVerdict.Usually => "it usually works with two elbows.",
                _ => "three elbows and more make it smoke: open for lighting, shut only when the flue is hot, and take an elbow out.",
            }));
            said.Add(Weight.Hint, Say("By the model the elbows cost ", Computed(draft.Format(oven.ElbowsPa ?? 0)), ": their count is a rule of practice."));
        }
        if (check.RegulatorPa is { } setPa)
            AddRegulator(said, setPa, check, at);
        if (check.FlapStiff == true)
            said.Add(Weight.Verdict, Say("The flap is stiff: free it, mark open and shut, and show both."));
        if (Bends.LevelM > 0.05)
        {
            said.Add(Bends.ShortEnough ? Weight.Hint : Weight.Verdict, Say("It goes ", Computed(length.Format(Bends.LevelM)), " aside for ", Computed(length.Format(Bends.RiseM)), " of height: ",
                Bends.ShortEnough ? "within three quarters of it." : "more than three quarters of it; the draft is lost on the way."));
            said.Add(check.LevelRiseMmPerM < FlueBends.LeastRise.Value ? Weight.Verdict : Weight.Hint, check.LevelRiseMmPerM is { } rise
                ? Say("Its level run rises ", Measured($"{rise:0} mm per m"), rise >= FlueBends.LeastRise.Value ? ", as it should." : $", less than the {FlueBends.LeastRise.Value:0} mm per m it needs: smoke and soot lie down there.")
                : Say($"Measure the rise of its level run: at least {FlueBends.LeastRise.Value:0} mm per m towards the chimney."));
        }
        if (Bends.Bends90 > FlueBends.Most90.Value)
            said.Add(Weight.Verdict, Say("It turns ", Computed($"{Bends.Bends90}"), " times by 90°; no more than two are wanted. Two of 45° do what one of 90° does."));
        foreach (var sign in signs)
            said.Add(Weight.Verdict, Of(sign));
        return said.InOrder();
    }

    private void AddRegulator(Said said, double setPa, DamperCheck check, VisitContext at)
    {
        var (draft, flow, temperature, coal) = (Units.Of(Quantity.Draft, at.Units), Units.Of(Quantity.LeakFlow, at.Units), Units.Of(Quantity.Temperature, at.Units), at.Stove.Features.Contains("grate"));
        if (check.RegulatorStiff == true)
            said.Add(Weight.Verdict, Say("The regulator's flap does not swing: free it, level it, and set it by the gauge."));
        if (setPa < (at.Stove.LabelMinPa ?? FlueLimits.LeastDraft.Value))
            said.Add(Weight.Verdict, Say("It is set to ", Measured(draft.Format(setPa)), $", less than the {draft.Format(at.Stove.LabelMinPa ?? FlueLimits.LeastDraft.Value)} this stove needs."));
        if (Regulator is not { } regulator)
            said.Add(Weight.Hint, Say("No air brings this flue down to what the regulator is set to: it stands open all the time."));
        else if (regulator.AirKgS <= 0)
            said.Add(Weight.Hint, Say("At high fire the flue pulls no more than the ", Measured(draft.Format(setPa)), " it is set to: it stays shut."));
        else
        {
            said.Add(Weight.Verdict, Say("To hold ", Measured(draft.Format(setPa)), " at high fire the regulator takes ", Computed(flow.Format(regulator.AirKgS)), " of room air, ", Computed($"{regulator.HeatW:0} W"), " of the house's heat; the gas goes up at ",
                Computed(temperature.Format(regulator.GasAfterC)), " where it was ", Computed(temperature.Format(regulator.GasBeforeC)), "."));
            if (regulator.GasAfterC < FlueLimits.TooCool.Value && !coal)
                said.Add(Weight.Verdict, Say($"Below {temperature.Format(FlueLimits.TooCool.Value)} creosote forms: with wood this regulator makes tar."));
        }
        if (!coal)
            said.Add(Weight.Hint, Say("For wood a regulator is seldom the way: in a chimney fire it feeds the flue with air."));
    }

    private void AddPlate(Said said, Unit draft, double maxPa)
    {
        if (HighFireDraftPa is not { } read || Reckoned.Plate is not { } plate)
        {
            said.Add(Weight.Verdict, Say(Plate ? "A plate sits in the pipe: the draft at high fire decides whether it stays. Read it in the hot test." : "No plate in the pipe."));
            return;
        }
        var pulls = Measured(draft.Format(read));
        var tooHard = plate.AboveMaxPa > 0;
        said.Add(Weight.Verdict, !Plate
            ? tooHard ? Say("At high fire the flue pulls ", pulls, $", more than the {draft.Format(maxPa)} this stove may have: control at the stove first, then shorten or regulate as its manual allows.")
                : Say("No plate in the pipe, and none is missed: ", pulls, " at high fire.")
            : plate.Advice switch
            {
                PlateAdvice.Keep => Say("The maker asks for the plate: it stays."),
                PlateAdvice.Control => Say("At high fire the flue pulls ", pulls, $", more than the {draft.Format(maxPa)} this stove may have: control at the stove first; the plate stays until that is done."),
                PlateAdvice.Remove => Say("Take the plate out: with ", pulls, " at high fire there is nothing left to damp. It stirs and cools the smoke even when open, and glaze begins right above it."),
                _ => Say("Take the plate out, and measure again at high fire: ", pulls, " leaves little to damp."),
            });
        if (Plate && plate.Advice is PlateAdvice.Keep && tooHard)
            said.Add(Weight.Verdict, Say("Even so the flue pulls ", pulls, $", more than the {draft.Format(maxPa)} it may: set the plate by the gauge."));
        if (tooHard && Regulator is null)
            said.Add(Weight.Hint, Say("A barometric regulator is the way for coal, seldom for wood; some makers ask for a plate in a tall flue that pulls over 30 Pa."));
        if (PlateCostPa is { } cost)
            said.Add(Weight.Hint, Say("By the model the plate, open, costs ", Computed(draft.Format(cost)), " at high fire."));
        if (Plate)
            said.Add(Weight.Hint, Say("A slow fire is not the damper's job: smaller loads, dry wood."));
    }

    private static Sentence Of(ConnectorSign sign) => sign switch
    {
        ConnectorSign.FewScrews => Say("Three screws in every joint of the connector: a chimney fire shakes it apart."),
        ConnectorSign.CrimpsUp => Say("Crimps point down, towards the stove: what runs must run into it, not out of the joint."),
        ConnectorSign.SeamsDown => Say("Seams lie on top: turn the pieces."),
        ConnectorSign.CleanOut => Say("The clean-out must be reached: a tee gathers flakes, and is emptied at each visit."),
        _ => Say("Seal the thimble: the flue draws room air there."),
    };
}

/// <summary>Plate, oven flap, bends.</summary>
public sealed class DamperStation : Station<DamperCheck, DamperCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "dampers";

    /// <inheritdoc/>
    public override string Name => "Dampers and bends";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Air];

    /// <inheritdoc/>
    public override JsonTypeInfo<DamperCheck> EntryJson => CoreJson.Default.DamperCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<DamperCheckAnswer> AnswerJson => CoreJson.Default.DamperCheckAnswer;

    /// <inheritdoc/>
    public override DamperCheckAnswer? Answer(DamperCheck entry, VisitContext at, EntryErrors errors) => DamperCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(DamperCheck entry, DamperCheckAnswer answer) => Fact.Of(AirFacts.Plate, entry.Plate is null ? null : answer.Plate ? "yes" : "no");
}
