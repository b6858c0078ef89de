using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
using static Grate.Core.Sentence;

namespace Grate.Core.Air;

/// <summary>A way by which a stove takes its air.</summary>
[JsonConverter(typeof(WordConverter<AirControlKind>))]
public enum AirControlKind
{
    /// <summary>Primary air.</summary>
    [Said("Primary")]
    Primary,

    /// <summary>Secondary air, into the flames.</summary>
    [Said("Secondary")]
    Secondary,

    /// <summary>Down along the glass.</summary>
    [Said("Air wash")]
    AirWash,

    /// <summary>From below, through grate or ash door.</summary>
    [Said("Grate or ash door")]
    Grate,

    /// <summary>For lighting only.</summary>
    [Said("Start-up air")]
    StartUp,

    /// <summary>By a bimetal.</summary>
    Thermostat,
}

/// <summary>How a control moves.</summary>
[JsonConverter(typeof(WordConverter<ControlMoves>))]
public enum ControlMoves
{
    /// <summary>Freely.</summary>
    Free,

    /// <summary>With force.</summary>
    Stiff,

    /// <summary>Not at all.</summary>
    Stuck,
}

/// <summary>What a fire does with a control at a position, every other control as the household has it.</summary>
/// <param name="DraftPa">Draft then, Pa.</param>
/// <param name="CalmS">Seconds until the flames have followed, 0..3600: gone or slow where it was shut, up where it was opened.</param>
public sealed record FireAtPosition(double? DraftPa = null, double? CalmS = null);

/// <summary>A control as tried.</summary>
/// <param name="Kind">What it feeds.</param>
/// <param name="Label">What stands at its positions, up to 40 characters.</param>
/// <param name="TravelMm">Travel, mm, 0..500.</param>
/// <param name="Moves">free, stiff or stuck; null: not tried.</param>
/// <param name="Closes">Whether it closes fully.</param>
/// <param name="Wood">Its place for wood once it burns; default by its kind.</param>
/// <param name="Coal">Its place for coal; default by its kind.</param>
/// <param name="Readings">Draft and flames at each position of <see cref="ControlPosition"/>, taken in the hot test.</param>
public sealed record AirControl([property: Words(typeof(AirControlKind))] string? Kind = null, string? Label = null, double? TravelMm = null,
    [property: Words(typeof(ControlMoves))] string? Moves = null, bool? Closes = null, [property: Words(typeof(ControlPosition))] string? Wood = null, [property: Words(typeof(ControlPosition))] string? Coal = null,
    IReadOnlyDictionary<string, FireAtPosition?>? Readings = null);

/// <summary>The controls of a stove.</summary>
/// <param name="Controls">Its controls, at most 8; null: not looked at.</param>
public sealed record AirControls(IReadOnlyList<AirControl>? Controls = null);

/// <summary>Where a control stands for a fuel.</summary>
/// <param name="Kind">The control.</param>
/// <param name="Name">Its name, with its label.</param>
/// <param name="Wood">For wood.</param>
/// <param name="Coal">For coal; null where the stove burns none.</param>
public sealed record ControlSetting(AirControlKind Kind, string Name, ControlPosition Wood, ControlPosition? Coal);

/// <summary>What follows for the controls (handbook 06 section 5; the settings are an assumption of ours).</summary>
/// <param name="Settings">Settings to hand to the household.</param>
/// <param name="Parts">Their word.</param>
/// <param name="Sentences">In words.</param>
public sealed record AirControlsAnswer(IReadOnlyList<ControlSetting> Settings, IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    private const int MostControls = 8;
    /// <summary>Flames that follow within this time are held by the air.</summary>
    public static readonly Limit Calm = Limit.Practice(120, "s", "nearly gone within one to two minutes");

    private static readonly EntryRange _calm = new("Seconds until the flames follow", Quantity.Ratio, 0, 3600);
    private static readonly EntryRange _travel = new("Travel", Quantity.Bore, 0, 500, 0.001);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="AirControls"/>.</returns>
    public static AirControlsAnswer? To(AirControls look, VisitContext at, EntryErrors errors)
    {
        var coal = at.Stove.Features.Contains("grate");
        var settings = new List<ControlSetting>();
        var controls = errors.Each("controls", look.Controls, MostControls, "controls");
        foreach (var (control, i) in controls)
        {
            errors.CheckText($"controls[{i}].label", control.Label, "Label", 40);
            errors.Check($"controls[{i}].travelMm", control.TravelMm, _travel);
            errors.CheckWord<ControlMoves>($"controls[{i}].moves", control.Moves, "How it moves");
            foreach (var (position, reading) in control.Readings ?? new Dictionary<string, FireAtPosition?>())
            {
                var field = $"controls[{i}].readings.{position}";
                if (errors.Need<ControlPosition>(field, position, "Position") is null)
                    continue;
                errors.Check($"{field}.draftPa", reading?.DraftPa, FlueRanges.Reading);
                errors.Check($"{field}.calmS", reading?.CalmS, _calm);
            }
            ControlPosition Place(string? word, string field, ControlPosition usual) => word is null ? usual : errors.Need<ControlPosition>($"controls[{i}].{field}", word, "Position") ?? usual;
            if (errors.Need<AirControlKind>($"controls[{i}].kind", control.Kind, "Control") is { } kind)
            {
                var (wood, forCoal) = Usual(kind);
                settings.Add(new(kind, string.IsNullOrWhiteSpace(control.Label) ? Word.Said(kind) : $"{Word.Said(kind)} ({control.Label.Trim()})", Place(control.Wood, "wood", wood),
                    coal ? Place(control.Coal, "coal", forCoal) : null));
            }
        }
        if (errors.Any)
            return null;
        return new(settings, Decide(look), Words([.. controls.Select(c => c.Item)], settings, coal, at.Units));
    }

    // Wood takes its air from above, coal from below.
    private static (ControlPosition Wood, ControlPosition Coal) Usual(AirControlKind kind) => kind switch
    {
        AirControlKind.Secondary => (ControlPosition.Open, ControlPosition.Closed),
        AirControlKind.AirWash => (ControlPosition.Open, ControlPosition.Half),
        AirControlKind.Grate => (ControlPosition.Closed, ControlPosition.Open),
        AirControlKind.StartUp => (ControlPosition.Closed, ControlPosition.Closed),
        _ => (ControlPosition.Half, ControlPosition.Half),
    };

    private static PartDecided[] Decide(AirControls look)
    {
        var tried = (look.Controls ?? []).Where(c => c.Moves is not null || c.Closes is not null).ToList();
        if (tried.Count == 0)
            return [];
        bool Any(ControlMoves moves) => tried.Exists(c => c.Moves == Word.Of(moves));
        var (condition, why) = Any(ControlMoves.Stuck) ? (Condition.Spent, Say("A control is stuck."))
            : Any(ControlMoves.Stiff) ? (Condition.Wearing, Say("A control is stiff: clean its slide, graphite, no oil."))
            : tried.Exists(c => c.Closes == false) ? (Condition.Wearing, Say("A control does not close fully."))
            : (Condition.Sound, Say("Free, and they close."));
        return [new("controls", "air controls", condition, null, why)];
    }

    private static IReadOnlyList<Sentence> Words(IReadOnlyList<AirControl> controls, IReadOnlyList<ControlSetting> settings, bool coal, UnitSystem units)
    {
        var said = new Said();
        if (controls.Count == 0)
            return said.Add(Weight.Verdict, Say("List this stove's controls, and try each from stop to stop.")).InOrder();
        foreach (var (control, setting) in controls.Zip(settings))
        {
            if (control.Moves == Word.Of(ControlMoves.Stuck))
                said.Add(Weight.Verdict, Say($"{setting.Name} is stuck: nobody can turn this fire down by it."));
            else if (control.Moves == Word.Of(ControlMoves.Stiff))
                said.Add(Weight.Verdict, Say($"{setting.Name} is stiff: clean its slide, graphite and no oil."));
            if (control.Closes == false)
                said.Add(Weight.Verdict, Say($"{setting.Name} does not close fully: the closed-air test is read by slow blue flames."));
        }
        foreach (var (control, setting) in controls.Zip(settings))
            AddReadings(said, control, setting.Name, units);
        if (controls.All(c => c.Moves == Word.Of(ControlMoves.Free) && c.Closes == true))
            said.Add(Weight.Verdict, Say("Every control moves free and closes."));
        said.Add(Weight.Hint, Say("Wood, once it burns: ", List(settings.Select(s => (s.Name, s.Wood))), ". Wood takes its air from above."));
        if (coal)
            said.Add(Weight.Hint, Say("Coal, once it burns: ", List(settings.Select(s => (s.Name, s.Coal!.Value))), ". Coal takes its air from below, and a little above for the glass."));
        said.Add(Weight.Hint, Say("Keep the openings free of ash, pet hair and dust."));
        return said.InOrder();
    }

    // Less than a gauge tells apart is no difference.
    private const double NothingPa = 0.5;

    private static void AddReadings(Said said, AirControl control, string name, UnitSystem units)
    {
        FireAtPosition? At(ControlPosition position) => control.Readings?.GetValueOrDefault(Word.Of(position));
        var (open, shut) = (At(ControlPosition.Open), At(ControlPosition.Closed));
        var draft = Units.Of(Quantity.Draft, units);
        if (shut?.CalmS is { } calm)
        {
            said.Add(Weight.Verdict, calm <= Calm.Value + Limit.Met ? Say($"{name} shut: the flames follow within ", Measured($"{calm:0} s"), ".")
                : Say($"{name} shut: the flames take ", Measured($"{calm:0} s"), $", longer than the {Calm.Value:0} s they should: air comes in elsewhere, the door and its seals first."));
        }
        if (open?.DraftPa is { } wide && shut?.DraftPa is { } closed)
        {
            said.Add(Weight.Hint, Math.Abs(closed - wide) < NothingPa ? Say($"{name} changes the draft by less than ", draft.Format(NothingPa), ": its slide does nothing, or another way brings the air.")
                : Say($"{name}: ", Measured(draft.Format(wide)), " open, ", Measured(draft.Format(closed)), " shut."));
        }
    }

    private static string List(IEnumerable<(string Name, ControlPosition Place)> places) => string.Join(", ", places.Select(p => $"{p.Name} {Word.Of(p.Place)}"));
}

/// <summary>The controls, tried from stop to stop.</summary>
public sealed class AirControlsStation : Station<AirControls, AirControlsAnswer>
{
    /// <inheritdoc/>
    public override string Code => "air-controls";

    /// <inheritdoc/>
    public override string Name => "Air controls";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.ColdChecks];

    /// <inheritdoc/>
    public override string AgainIn => VisitSteps.HotTest;

    /// <inheritdoc/>
    public override JsonTypeInfo<AirControls> EntryJson => CoreJson.Default.AirControls;

    /// <inheritdoc/>
    public override JsonTypeInfo<AirControlsAnswer> AnswerJson => CoreJson.Default.AirControlsAnswer;

    /// <inheritdoc/>
    public override AirControlsAnswer? Answer(AirControls entry, VisitContext at, EntryErrors errors) => AirControlsAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(AirControls entry, AirControlsAnswer answer) =>
    [
        .. Fact.Of(AirFacts.ClosesFully, entry.Controls is not { Count: > 0 } controls ? null : controls.Any(c => c.Closes == false) ? "no" : controls.All(c => c.Closes == true) ? "yes" : null),
        // Of two controls of one kind the first stands for both.
        .. answer.Settings.DistinctBy(s => s.Kind).SelectMany(s => (Fact[])[.. Fact.Of(AirFacts.WoodSetting(s.Kind), Word.Of(s.Wood)), .. Fact.Of(AirFacts.CoalSetting(s.Kind), s.Coal is { } coal ? Word.Of(coal) : null)]),
    ];

    /// <inheritdoc/>
    protected override IEnumerable<ReportBlock> Report(AirControls entry, AirControlsAnswer answer, UnitSystem system)
    {
        if (answer.Settings.Count == 0)
            yield break;
        var coal = answer.Settings.Any(s => s.Coal is not null);
        yield return new("Air settings", coal ? ["Control", "Wood, once it burns", "Coal, once it burns"] : ["Control", "Wood, once it burns"],
        [
            .. answer.Settings.Select(s => (IReadOnlyList<Sentence>)[Say(s.Name), Say(Word.Said(s.Wood)), .. (Sentence[])(coal ? [Say(s.Coal is { } place ? Word.Said(place) : "")] : [])]),
        ]);
    }
}
