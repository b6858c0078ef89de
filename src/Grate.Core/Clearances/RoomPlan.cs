using System.Text.Json.Serialization.Metadata;
using Grate.Core.Section;
using static Grate.Core.Sentence;

namespace Grate.Core.Clearances;

/// <summary>On which side of the stove something stands.</summary>
[JsonConverter(typeof(WordConverter<StoveSide>))]
public enum StoveSide
{
    /// <summary>Behind it.</summary>
    Back,

    /// <summary>To its left, seen from in front.</summary>
    Left,

    /// <summary>To its right.</summary>
    Right,

    /// <summary>In front of it.</summary>
    Front,

    /// <summary>Above it.</summary>
    Above,
}

/// <summary>Something that burns, near the stove.</summary>
/// <param name="Name">What it is, 1 to 60 characters.</param>
/// <param name="Side">On which side.</param>
/// <param name="Of">To what it is measured: stove, single-wall-connector or double-wall-connector; default stove.</param>
/// <param name="FoundMm">Distance, mm, 0..20 000.</param>
/// <param name="LabelMm">What the label asks for, mm; by the books' label where nothing is entered.</param>
/// <param name="LabelMinimumMm">Below which the label lets no shield bring it, mm.</param>
/// <param name="Shield">What protects it; default none.</param>
/// <param name="Scorched">Whether it is scorched.</param>
public sealed record NearThing(string? Name = null, [property: Words(typeof(StoveSide))] string? Side = null, [property: Words(typeof(ClearanceOf))] string? Of = null,
    double? FoundMm = null, double? LabelMm = null, double? LabelMinimumMm = null, [property: Words(typeof(Shield))] string? Shield = null, bool? Scorched = null);

/// <summary>The room round the stove as measured.</summary>
/// <param name="Things">What burns near it, at most 20.</param>
public sealed record RoomPlan(IReadOnlyList<NearThing>? Things = null);

/// <summary>A thing of the plan, judged.</summary>
/// <param name="Name">What it is.</param>
/// <param name="Side">Its side.</param>
/// <param name="Clearance">What it has to be.</param>
/// <param name="Cures">Shields that would make its distance do.</param>
public sealed record NearThingAnswer(string Name, StoveSide Side, Clearance Clearance, IReadOnlyList<Shield> Cures);

/// <summary>What follows for the distances (handbook 08).</summary>
/// <param name="Things">Each in its turn.</param>
/// <param name="StoveWidthM">Width of the stove as drawn, m.</param>
/// <param name="StoveDepthM">Depth, m.</param>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record RoomPlanAnswer(IReadOnlyList<NearThingAnswer> Things, double StoveWidthM, double StoveDepthM, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    private const int Most = 20;

    /// <summary>Answers a plan.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="RoomPlan"/>.</returns>
    public static RoomPlanAnswer? To(RoomPlan plan, VisitContext at, EntryErrors errors)
    {
        plan = plan with { Things = plan.Things?.Select(t => t is null ? t! : t with { LabelMm = t.LabelMm ?? BookedMm(t, at.Stove.Label) }).ToList() };
        var things = errors.Each("things", plan.Things, Most, "things");
        var sides = new List<StoveSide?>();
        foreach (var (thing, i) in things)
        {
            errors.CheckText($"things[{i}].name", thing.Name, "What stands there", 60, needed: true);
            sides.Add(errors.Need<StoveSide>($"things[{i}].side", thing.Side, "Side of the stove"));
        }
        if (errors.Any)
            return null;
        string What(NearThing thing) => thing.Of ?? Word.Of(ClearanceOf.Stove);
        ClearanceEntry Question(NearThing thing, string? shield) => new(What(thing), Word.Of(thing.Side == Word.Of(StoveSide.Above) ? ClearanceSurface.Ceiling : ClearanceSurface.Wall),
            thing.LabelMm, thing.LabelMinimumMm, shield, thing.FoundMm);
        var read = Clearance.Read("things", [.. things.Select(t => Question(t.Item, t.Item.Shield))], Most, errors);
        if (errors.Any)
            return null;
        List<Shield> Cures(NearThing thing, Clearance now) => now.Ok != false ? []
            : [.. Enum.GetValues<Shield>().Where(s => Clearance.Read("things", [Question(thing, Word.Of(s))], 1, errors) is [{ Ok: true }])];
        List<NearThingAnswer> answers = [.. things.Select((t, i) => new NearThingAnswer(t.Item.Name!.Trim(), sides[i]!.Value, read[i], Cures(t.Item, read[i])))];
        var body = StoveSection.Usual(at.Stove);
        var answer = new RoomPlanAnswer(answers, body.WidthM!.Value, body.DepthM!.Value, [], []);
        return answer with { Parts = answer.Decide(plan), Sentences = answer.Words(plan, at.Units) };
    }

    // The label in the books tells distances of the stove, not of its pipe.
    private static double? BookedMm(NearThing thing, StoveLabel? label) => (thing.Of ?? Word.Of(ClearanceOf.Stove)) != Word.Of(ClearanceOf.Stove) ? null : 1000 * (Word.Find<StoveSide>(thing.Side) switch
    {
        StoveSide.Back => label?.BackM,
        StoveSide.Front => label?.FrontM,
        StoveSide.Above => label?.AboveM,
        StoveSide.Left or StoveSide.Right => label?.SideM,
        _ => null,
    });

    /// <summary>Things that are too near and scorched.</summary>
    internal IEnumerable<NearThingAnswer> Scorched(RoomPlan plan) => Things.Where((t, i) => plan.Things![i].Scorched == true && t.Clearance.Ok == false);

    private PartDecided[] Decide(RoomPlan plan)
    {
        if (!Things.Any(t => t.Clearance.Ok is not null))
            return [];
        var (condition, stop, why) = Scorched(plan).Any() ? (Condition.Unsafe, RoomPlanStation.Scorching, Say("Too near, and scorched."))
            : Things.Any(t => t.Clearance.Ok == false) ? (Condition.Spent, (string?)null, Say("A distance is shorter than it may be: more distance, or a shield."))
            : (Condition.Sound, null, Say("Far enough, as measured."));
        return [new("clearances", "clearances", condition, stop, why)];
    }

    private IReadOnlyList<Sentence> Words(RoomPlan plan, UnitSystem system)
    {
        var said = new Said();
        var bore = Units.Of(Quantity.Bore, system);
        string Show(double? mm) => bore.Format((mm ?? 0) / 1000);
        if (Things.Count == 0)
            return said.Add(Weight.Verdict, Say("Walls, beams, ceiling, furniture: each with its distance and what the label asks for.")).InOrder();
        foreach (var (thing, entered) in Things.Zip(plan.Things!))
        {
            var (name, clearance) = (char.ToUpperInvariant(thing.Name[0]) + thing.Name[1..], thing.Clearance);
            if (clearance.WithShieldMm is not { } needed)
                said.Add(Weight.Hint, Say($"{name}: the connector's label alone tells its distance; read it there."));
            else if (clearance.Ok is null)
                said.Add(Weight.Hint, Say($"{name}: ", Computed(Show(needed)), " are asked for; measure it."));
            else if (clearance.Ok == false)
            {
                var scorched = entered.Scorched == true;
                said.Add(scorched ? Weight.Stop : Weight.Verdict, Say([$"{name}: ", Measured(Show(entered.FoundMm)), " where ", Computed(Show(needed)), $" are asked for{(entered.LabelMm is null ? " without a label" : " by the label")}{(clearance.ShieldCounts ? ", shield counted" : "")}; ",
                    Computed(Show(clearance.MissingMm)), " are missing", .. (Span[])(scorched ? [", and it is scorched: no fire."] : ["."]), .. Cure(thing)]));
            }
            else if (entered.Scorched == true)
                said.Add(Weight.Verdict, Say($"{name}: far enough, and scorched all the same. Measure its surface at high fire, and find what struck it."));
            if (clearance.RequiredMm is not null && !clearance.ShieldCounts && entered.Shield is { } shield && shield != Word.Of(Shield.None))
                said.Add(Weight.Hint, Say($"{name}: its shield does not count here{(entered.LabelMm is not null && entered.LabelMinimumMm is null ? "; the label names no distance with one" : "")}."));
        }
        if (Things.All(t => t.Clearance.Ok == true))
            said.Add(Weight.Verdict, Say("Every distance that was measured is enough."));
        return said.InOrder();
    }

    private static Span[] Cure(NearThingAnswer thing)
    {
        var ventilated = thing.Cures.Where(c => c is not Shield.BrickSolid).Select(c => c switch { Shield.SheetMetal => "sheet metal", Shield.CementBoard => "cement board", _ => "brick" }).ToList();
        return ventilated.Count == 0 ? [" No shield makes it do: more distance."]
            : [$" It would do behind {string.Join(" or ", ventilated)} with 25 mm of ventilated air{(thing.Cures.Contains(Shield.BrickSolid) ? ", or behind brick on the wall itself" : "")}."];
    }
}

/// <summary>Distances to what burns, on a plan of the room.</summary>
public sealed class RoomPlanStation : Station<RoomPlan, RoomPlanAnswer>
{
    /// <summary>Stop by a clearance below its limit, with scorching.</summary>
    public const string Scorching = "scorching";

    /// <inheritdoc/>
    public override string Code => "room-plan";

    /// <inheritdoc/>
    public override string Name => "Distances";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Arrive];

    /// <inheritdoc/>
    public override JsonTypeInfo<RoomPlan> EntryJson => CoreJson.Default.RoomPlan;

    /// <inheritdoc/>
    public override JsonTypeInfo<RoomPlanAnswer> AnswerJson => CoreJson.Default.RoomPlanAnswer;

    /// <inheritdoc/>
    public override RoomPlanAnswer? Answer(RoomPlan entry, VisitContext at, EntryErrors errors) => RoomPlanAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(RoomPlan entry, RoomPlanAnswer answer) => Fact.Number(ClearanceFacts.ShortMm, answer.Things.Max(t => t.Clearance.MissingMm));

    /// <inheritdoc/>
    public override IEnumerable<ComputedStop> Stops(RoomPlan entry, RoomPlanAnswer answer)
    {
        if (answer.Scorched(entry).ToList() is { Count: > 0 } scorched)
            yield return new(Scorching, $"Too near, and scorched: {string.Join(", ", scorched.Select(t => t.Name))}.", [.. scorched.Select(t => t.Name)]);
    }

    /// <inheritdoc/>
    public override IEnumerable<PassedRetest> Passed(RoomPlan entry, RoomPlanAnswer answer)
    {
        if (answer.Things.Where(t => t.Clearance.Ok == true).ToList() is { Count: > 0 } good)
            yield return new(Scorching, $"Measured again, and far enough: {string.Join(", ", good.Select(t => t.Name))}.", [.. good.Select(t => t.Name)]);
    }
}
