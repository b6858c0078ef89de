using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Fuel;

/// <summary>The stack as found; every field may still be missing.</summary>
/// <param name="StackedM3">What is stacked for this stove, m³, 0..10 000.</param>
/// <param name="Class">softwood, hardwood or dense-hardwood; default by the wood.</param>
/// <param name="Rounds">Whether it lies unsplit; default false.</param>
/// <param name="Covered">Whether it is under cover; default true.</param>
public sealed record WoodPileCheck(double? StackedM3 = null, [property: Words(typeof(SeasoningClass))] string? Class = null, bool? Rounds = null, bool? Covered = null);

/// <summary>A point of the drying curve.</summary>
/// <param name="Month">Months from the visit.</param>
/// <param name="MeterShare">What a dry-basis meter will show, a share.</param>
public sealed record DryingPoint(int Month, double MeterShare);

/// <summary>What follows for the stack (handbook 07 section 1; the winter's end an assumption of ours).</summary>
/// <param name="MoistureWet">Moisture it starts from.</param>
/// <param name="Drying">Its drying to 20 % on the meter.</param>
/// <param name="Curve">Two years of it, month by month.</param>
/// <param name="Pile">What the stack holds; null where nobody measured it.</param>
/// <param name="NeedKg">What the household burns until the warmest month, kg as fired.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record WoodPileAnswer(double MoistureWet, SeasoningAnswer Drying, IReadOnlyList<DryingPoint> Curve, WoodPile? Pile, double NeedKg,
    IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>What a meter of the dry basis should show: 20 %, which is 16.7 % of the whole weight.</summary>
    public static readonly Limit TargetOnMeter = Moisture.DryMean;

    /// <summary>The same, for the curve's line.</summary>
    public double DryShare { get; } = TargetOnMeter.Value;

    private const int CurveMonths = 24;

    /// <summary>Answers a look at the stack.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="WoodPileCheck"/>.</returns>
    public static WoodPileAnswer? To(WoodPileCheck check, VisitContext at, EntryErrors errors)
    {
        var wood = FuelFacts.Known(at);
        var species = FuelFacts.Species(at);
        var lies = new SeasoningEntry(check.Class, check.Rounds, check.Covered, wood.MoistureWet, Moisture.WetOfDry(TargetOnMeter.Value), at.Day);
        var refused = new EntryErrors(at.Units);
        var fuel = FuelAnswer.To(new(species, MoistureWet: wood.MoistureWet, Volume: check.StackedM3 is null ? null : new(check.StackedM3), Seasoning: lies), refused);
        errors.TakeOver(refused, field => field[(field.LastIndexOf('.') + 1)..]);
        if (fuel is not { Seasoning: { } drying })
            return null;
        var seasoning = FuelAnswer.Drying(lies, species, new Assumptions());
        var winterEnds = WinterEnds(at);
        // Wood that is drier than it can get in the open is not reckoned to grow wet again.
        List<DryingPoint> curve = [.. Enumerable.Range(0, CurveMonths + 1).Select(m => new DryingPoint(m, Moisture.DryOfWet(Math.Min(wood.MoistureWet, seasoning.WetAfter(wood.MoistureWet, m)))))];
        var need = wood.KgPerYear * new WoodYear(at.House.MonthlyC).ShareBetween(at.Day, winterEnds);
        var answer = new WoodPileAnswer(wood.MoistureWet, drying, curve, fuel.Pile, need, [],
            [.. wood.Assumed.Where(a => a.Field is "amount" or "toldMoistureWet" or "wood"), .. fuel.Assumed.Where(a => a.Field is not ("seasoning.class" or "qDryMjKg"))]);
        return answer with { Sentences = answer.Words(at, winterEnds, wood.Assumed.Any(a => a.Field == "toldMoistureWet")) };
    }

    // A winter is over on the first of the warmest month.
    private static DateOnly WinterEnds(VisitContext at)
    {
        var warmest = at.House.MonthlyC.ToList().IndexOf(at.House.MonthlyC.Max()) + 1;
        var ends = new DateOnly(at.Day.Year, warmest, 1);
        return ends > at.Day ? ends : ends.AddYears(1);
    }

    private IReadOnlyList<Sentence> Words(VisitContext at, DateOnly winterEnds, bool assumedMoisture)
    {
        var said = new Said();
        var (share, mass, stacked, energy) = (Units.Of(Quantity.Share, at.Units), Units.Of(Quantity.Wood, at.Units), Units.Of(Quantity.StackedVolume, at.Units), Units.Of(Quantity.Energy, at.Units));
        var target = share.Format(TargetOnMeter.Value);
        if (assumedMoisture)
            said.Add(Weight.Hint, Say("Its moisture was not found out: measure it, or ask."));
        said.Add(Weight.Verdict, Drying switch
        {
            { Months: 0 } => Say($"Dry as it is: under {target} on the meter."),
            { Months: { } months, MeasureAgainOn: { } on } => Say("From ", Computed(share.Format(Moisture.DryOfWet(MoistureWet))), $" on the meter it takes about ", Computed(MonthsOf(months)), $" to {target}: measure again on ", Computed($"{on:d MMM yyyy}"), "."),
            _ => Say($"So it never comes to {target}: under cover, split."),
        });
        if (Pile is { } pile)
        {
            var left = pile.MassKg - NeedKg;
            said.Add(Weight.Verdict, Say("The stack holds ", Computed(mass.Format(pile.MassKg)), " with ", Computed(energy.Format(pile.EnergyKwh * 3.6e6)), $" in it; until {winterEnds:MMMM} this household burns ", Computed(mass.Format(NeedKg)), ": ",
                left >= 0 ? "enough." : "", left < 0 ? Computed(stacked.Format(-left / pile.MassKg * pile.StackedM3)) : "", left < 0 ? " more are needed, and dry." : ""));
        }
        else
            said.Add(Weight.Hint, Say($"Until {winterEnds:MMMM} this household burns ", Computed(mass.Format(NeedKg)), ": measure the stack, and it is said whether that is there."));
        return said.InOrder();
    }

    private static string MonthsOf(double months) => Math.Ceiling(months - Limit.Met) is var whole && whole == 1 ? "1 month" : $"{whole:0} months";
}

/// <summary>The stack: is it dry, when will it be, and is it enough.</summary>
public sealed class WoodPileStation : Station<WoodPileCheck, WoodPileAnswer>
{
    /// <inheritdoc/>
    public override string Code => "wood-pile";

    /// <inheritdoc/>
    public override string Name => "The stack";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Arrive];

    /// <inheritdoc/>
    public override JsonTypeInfo<WoodPileCheck> EntryJson => CoreJson.Default.WoodPileCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<WoodPileAnswer> AnswerJson => CoreJson.Default.WoodPileAnswer;

    /// <inheritdoc/>
    public override WoodPileAnswer? Answer(WoodPileCheck entry, VisitContext at, EntryErrors errors) => WoodPileAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(WoodPileCheck entry, WoodPileAnswer answer) =>
    [
        .. Fact.Number(FuelFacts.PileKg, answer.Pile?.MassKg),
        .. Fact.Of(FuelFacts.MeasureAgainOn, answer.Drying is { Months: > 0, MeasureAgainOn: { } on } ? $"{on:yyyy-MM-dd}" : null),
    ];
}
