using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Clearances;

/// <summary>The hearth as found.</summary>
/// <param name="Layers">What lies there, from below.</param>
/// <param name="RequiredRM2KW">Resistance that the label asks for, m² K/W; by the books' label where nothing is entered.</param>
/// <param name="Label">How far it has to reach by the label.</param>
/// <param name="Found">How far it reaches.</param>
/// <param name="OpeningM2">Opening of a fireplace, m².</param>
/// <param name="Offers">What could be laid, with the firm's prices.</param>
public sealed record HearthCheck(IReadOnlyList<HearthLayer>? Layers = null, double? RequiredRM2KW = null, HearthSides? Label = null, HearthSides? Found = null,
    double? OpeningM2 = null, IReadOnlyList<HearthOffer>? Offers = null);

/// <summary>What follows for the hearth (handbook 08).</summary>
/// <param name="Kind">What stands on it.</param>
/// <param name="Reckoned">Resistance, stacks, extent.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record HearthCheckAnswer(HearthKind Kind, HearthAnswer Reckoned, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="HearthCheck"/>.</returns>
    public static HearthCheckAnswer? To(HearthCheck check, VisitContext at, EntryErrors errors)
    {
        var kind = at.Stove.Kind is "insert" or "zero-clearance" ? HearthKind.Fireplace : HearthKind.Stove;
        // A fireplace whose opening nobody measured is asked about as a large one: its hearth reaches further.
        var opening = kind == HearthKind.Fireplace ? check.OpeningM2 ?? 1 : check.OpeningM2;
        var refused = new EntryErrors(at.Units);
        var required = check.RequiredRM2KW ?? at.Stove.Label?.HearthRM2KW;
        var reckoned = HearthAnswer.To(new(check.Layers, required is null ? null : new(required), null, check.Offers,
            new(Word.Of(kind), opening, check.Label, check.Found)), refused);
        errors.TakeOver(refused, field => field == "required.rM2KW" ? "requiredRM2KW" : field.StartsWith("extent.", StringComparison.Ordinal) ? field[7..] : field);
        if (reckoned is null)
            return null;
        var answer = new HearthCheckAnswer(kind, reckoned, [], []);
        return answer with { Parts = answer.Decide(), Sentences = answer.Words(check, at.Units) };
    }

    private PartDecided[] Decide() => (Reckoned.Resistance?.Ok, Reckoned.Extent?.Ok) switch
    {
        (null, null) => [],
        (false, _) => [new("hearth", "hearth", Condition.Spent, null, Say("It lets too much heat through to the floor."))],
        (_, false) => [new("hearth", "hearth", Condition.Spent, null, Say("It does not reach far enough: it is to be made larger."))],
        _ => [new("hearth", "hearth", Condition.Sound, null, Say("It reaches, and keeps the heat from the floor."))],
    };

    private IReadOnlyList<Sentence> Words(HearthCheck check, UnitSystem system)
    {
        var said = new Said();
        var (bore, resistance) = (Units.Of(Quantity.Bore, system), Units.Of(Quantity.Resistance, system));
        if (Reckoned.Resistance is { } has)
        {
            said.Add(Weight.Verdict, has switch
            {
                { RequiredM2KW: null } => Say("Its layers resist ", Computed(resistance.Format(has.RM2KW)), "; the label says what the stove asks for."),
                { Ok: true } => Say("Its layers resist ", Computed(resistance.Format(has.RM2KW)), ", the ", Measured(resistance.Format(has.RequiredM2KW!.Value)), " asked for are there."),
                _ => Say("Its layers resist ", Computed(resistance.Format(has.RM2KW)), "; the label asks for ", Measured(resistance.Format(has.RequiredM2KW!.Value)), ": ", Computed(resistance.Format(has.MissingM2KW!.Value)), " are missing."),
            });
            if (has.Ok == false)
                AddStacks(said, check, bore);
        }
        else
            said.Add(Weight.Verdict, Say("List its layers from below, and what the label asks for."));
        if (Reckoned.Extent is { } extent)
        {
            (string Side, double? Missing)[] missing = [("in front", extent.Missing.FrontMm), ("at the side", extent.Missing.SideMm), ("behind", extent.Missing.BackMm)];
            var lacking = missing.Where(m => m.Missing > Limit.Met).ToList();
            said.Add(lacking.Count > 0 ? Weight.Verdict : Weight.Hint, lacking.Count > 0
                ? Say([.. lacking.SelectMany((m, i) => (Span[])[i == 0 ? "The hearth lacks " : ", ", Computed(bore.Format(m.Missing!.Value / 1000)), $" {m.Side}"]), "."])
                : Say(["It has to reach ", Computed(bore.Format(extent.FrontMm / 1000)), " in front and ", Computed(bore.Format(extent.SideMm / 1000)), " at each side",
                    .. (Span[])(extent.BackMm is { } back ? [", ", Computed(bore.Format(back / 1000)), " behind"] : []), extent.Ok == true ? ", and does." : "."]));
            if (Kind == HearthKind.Fireplace && check is { OpeningM2: null, Label: null or { FrontMm: null } or { SideMm: null } })
                said.Add(Weight.Hint, Say("The opening was not measured: it is taken as a large one."));
        }
        return said.InOrder();
    }

    private void AddStacks(Said said, HearthCheck check, Unit bore)
    {
        if (Reckoned.Stacks is not { } stacks)
            return;
        if (stacks.Thinnest is null || stacks.Cheapest is null)
        {
            said.Add(Weight.Verdict, Say("Nothing of what is offered makes it in eight layers: a thicker board, or a gap of air under one."));
            return;
        }
        string Stack(HearthLaid laid) => string.Join(", ", laid.Layers.Select(l => $"{l.Count} × {l.Id}"));
        said.Add(Weight.Verdict, stacks.Thinnest == stacks.Cheapest || Stack(stacks.Thinnest) == Stack(stacks.Cheapest)
            ? Say("Thinnest and cheapest: ", Computed(Stack(stacks.Thinnest)), ", ", Computed(bore.Format(stacks.Thinnest.ThicknessMm / 1000)), $" thick, {stacks.Thinnest.PricePerM2:0.00} a m².")
            : Say("Thinnest: ", Computed(Stack(stacks.Thinnest)), ", ", Computed(bore.Format(stacks.Thinnest.ThicknessMm / 1000)), $" thick, {stacks.Thinnest.PricePerM2:0.00} a m². Cheapest: ",
                Computed(Stack(stacks.Cheapest)), ", ", Computed(bore.Format(stacks.Cheapest.ThicknessMm / 1000)), $", {stacks.Cheapest.PricePerM2:0.00}."));
    }
}

/// <summary>The hearth: layers and extent.</summary>
public sealed class HearthStation : Station<HearthCheck, HearthCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "hearth";

    /// <inheritdoc/>
    public override string Name => "Hearth";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Arrive];

    /// <inheritdoc/>
    public override JsonTypeInfo<HearthCheck> EntryJson => CoreJson.Default.HearthCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<HearthCheckAnswer> AnswerJson => CoreJson.Default.HearthCheckAnswer;

    /// <inheritdoc/>
    public override HearthCheckAnswer? Answer(HearthCheck entry, VisitContext at, EntryErrors errors) => HearthCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(HearthCheck entry, HearthCheckAnswer answer) => Fact.Number(ClearanceFacts.MissingR, answer.Reckoned.Resistance?.MissingM2KW);
}
