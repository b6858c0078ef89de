using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Combustor;

/// <summary>What is seen on a thermostat.</summary>
[JsonConverter(typeof(WordConverter<ThermostatSign>))]
public enum ThermostatSign
{
    /// <summary>The flap does not close fully.</summary>
    [Said("Flap does not close")]
    NotClosing,

    /// <summary>The flap does not open fully.</summary>
    [Said("Flap does not open")]
    NotOpening,

    /// <summary>The knob slips on its shaft.</summary>
    [Said("Knob slips")]
    KnobSlips,

    /// <summary>The stop is not where the maker put it.</summary>
    [Said("Stop moved")]
    StopMoved,

    /// <summary>The setting does not hold.</summary>
    [Said("Setting does not hold")]
    NotHolding,
}

/// <summary>A bimetal air control as tried.</summary>
/// <param name="Signs">What is seen; an empty list is nothing.</param>
/// <param name="ClosesS">Seconds until it closed in warm air, 0..600; what did not happen: seconds waited.</param>
/// <param name="OpensS">Seconds until it opened as it cooled, 0..600.</param>
/// <param name="OpenedBy">Who opened a cover that is marked for trained service, up to 80 characters.</param>
public sealed record ThermostatCheck([property: Words(typeof(ThermostatSign))] IReadOnlyList<string>? Signs = null, double? ClosesS = null, double? OpensS = null, string? OpenedBy = null);

/// <summary>What follows for a thermostat (handbook 05 section 3; its words and seconds [A]).</summary>
/// <param name="Parts">Its word.</param>
/// <param name="Sentences">In words.</param>
public sealed record ThermostatCheckAnswer(IReadOnlyList<PartDecided> Parts, IReadOnlyList<Sentence> Sentences) : IReckoned
{
    /// <summary>Seconds in warm air within which a coil answers.</summary>
    public static readonly Limit Answers = Limit.Assumed(120, "s", "a warm air gun moves a free coil within seconds");

    private static readonly EntryRange _closes = new("Seconds until it closed", Quantity.Count, 0, 600);
    private static readonly EntryRange _opens = new("Seconds until it opened", Quantity.Count, 0, 600);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>.</returns>
    public static ThermostatCheckAnswer? To(ThermostatCheck check, EntryErrors errors)
    {
        var signs = errors.Words<ThermostatSign>("signs", check.Signs, "What is seen on the thermostat");
        errors.Check("closesS", check.ClosesS, _closes);
        errors.Check("opensS", check.OpensS, _opens);
        errors.CheckText("openedBy", check.OpenedBy, "Who opened it", 80);
        if (errors.Any)
            return null;
        var said = new Said();
        if (check.Signs is null && check.ClosesS is null && check.OpensS is null)
            return new([], said.Add(Weight.Verdict, Say("Warm air on the coil: it should close, and open again as it cools; then knob, stop and screw.")).InOrder());
        bool Late(double? seconds) => seconds > Answers.Value;
        var (condition, why) = signs.Contains(ThermostatSign.NotClosing) || signs.Contains(ThermostatSign.NotOpening) || Late(check.ClosesS) || Late(check.OpensS)
                ? (Condition.Spent, Say("The thermostat does not answer to warmth as it should: the coil is not repaired, the whole unit is replaced."))
            : signs.Count > 0 ? (Condition.Wearing, Say($"The thermostat: {string.Join(", ", signs.Select(s => Word.Said(s).ToLowerInvariant()))}. Set it right today."))
            : (Condition.Sound, Say("The thermostat moves free", check.ClosesS is null ? "" : ", closed in ", Measured(check.ClosesS is { } c ? $"{c:0} s" : ""), check.OpensS is null ? "" : ", open again in ", Measured(check.OpensS is { } o ? $"{o:0} s" : ""), "."));
        said.Add(Weight.Verdict, why);
        if (!string.IsNullOrWhiteSpace(check.OpenedBy))
            said.Add(Weight.Hint, Say($"Its cover was opened by {check.OpenedBy.Trim()}."));
        return new([new("thermostat", "thermostat", condition, null, why)], said.InOrder());
    }
}

/// <summary>The bimetal air control.</summary>
public sealed class ThermostatStation : Station<ThermostatCheck, ThermostatCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "thermostat";

    /// <inheritdoc/>
    public override string Name => "Thermostat";

    /// <inheritdoc/>
    public override string? Feature => "thermostat";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<ThermostatCheck> EntryJson => CoreJson.Default.ThermostatCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<ThermostatCheckAnswer> AnswerJson => CoreJson.Default.ThermostatCheckAnswer;

    /// <inheritdoc/>
    public override ThermostatCheckAnswer? Answer(ThermostatCheck entry, VisitContext at, EntryErrors errors) => ThermostatCheckAnswer.To(entry, errors);
}
