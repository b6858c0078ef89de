using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Fuel;

/// <summary>A night as the household tells it.</summary>
/// <param name="LoadKg">Wood put on, kg as fired; needed.</param>
/// <param name="Hours">Until somebody looked again, h; needed.</param>
/// <param name="Coals">none, some or plenty then; default some.</param>
/// <param name="InStartC">Room in the evening, °C.</param>
/// <param name="InEndC">Room in the morning, °C.</param>
/// <param name="OutStartC">Outdoors in the evening, °C.</param>
/// <param name="OutEndC">Outdoors in the morning, °C.</param>
public sealed record ToldNight(double? LoadKg = null, double? Hours = null, [property: Words(typeof(Coals))] string? Coals = null,
    double? InStartC = null, double? InEndC = null, double? OutStartC = null, double? OutEndC = null);

/// <summary>Nights, and the one that is wanted.</summary>
/// <param name="Told">Nights, at most 12.</param>
/// <param name="WantedHours">How long the next one is to last, h; default 9.</param>
/// <param name="WantedInC">Room that is wanted, °C; default 20.</param>
/// <param name="WantedOutC">Outdoors then, °C; default the forecast's lowest, else the month's mean.</param>
/// <param name="WantedCoals">What is wanted in the morning; default some.</param>
public sealed record Nights(IReadOnlyList<ToldNight>? Told = null, double? WantedHours = null, double? WantedInC = null, double? WantedOutC = null, [property: Words(typeof(Coals))] string? WantedCoals = null);

/// <summary>What follows for the nights (handbook 07 section 4).</summary>
/// <param name="Reckoned">Night by night, the house, the load.</param>
/// <param name="WantedOutC">Outdoors that the load is for, °C.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record NightsAnswer(OvernightAnswer Reckoned, double WantedOutC, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    private const int Most = 12;
    /// <summary>How long a night is where nobody says, h.</summary>
    public double UsualHours { get; } = _hours.Value;

    /// <summary>The room that is wanted where nobody says, °C.</summary>
    public double UsualRoomC { get; } = _room.Value;

    private static readonly Limit
        _hours = Limit.Assumed(9, "h", "from bedtime to breakfast"),
        _room = Limit.Assumed(20, "°C", "an ordinary heated room");

    /// <summary>Answers for the nights.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="Nights"/>.</returns>
    public static NightsAnswer? To(Nights nights, VisitContext at, EntryErrors errors)
    {
        var wood = FuelFacts.Known(at);
        var species = FuelFacts.Species(at);
        var assumed = new Assumptions();
        var outC = nights.WantedOutC ?? assumed.Or(null, "wantedOutC", at.Weather is { } weather ? Limit.Assumed(weather.OvernightLowC, "°C", "lowest of the night as forecast")
            : Limit.Assumed(at.MonthC, "°C", "the month's mean at this place"));
        var ua = at.History.NewestNumber(FuelFacts.HouseUaWK);
        var told = errors.Each("told", nights.Told, Most, "nights");
        if (errors.Any)
            return null;
        var refused = new EntryErrors(at.Units);
        var question = new OvernightEntry(
            [.. told.Select(n => new NightEntry(n.Item.LoadKg, wood.MoistureWet, species, WoodClass.Efficiency.Value, n.Item.Hours, n.Item.Coals, n.Item.InStartC, n.Item.InEndC, n.Item.OutStartC, n.Item.OutEndC))],
            new(nights.WantedHours ?? assumed.Or(null, "wantedHours", _hours), nights.WantedInC ?? assumed.Or(null, "wantedInC", _room), outC, wood.MoistureWet, species, WoodClass.Efficiency.Value,
                nights.WantedCoals ?? Word.Of(Coals.Some)));
        var reckoned = OvernightAnswer.To(question, refused);
        // What earlier visits told of the house stands until tonight's nights tell it.
        if (reckoned is { Wanted.LoadKg: null } && ua is not null)
            reckoned = OvernightAnswer.To(question with { Wanted = question.Wanted! with { UaWK = ua } }, refused);
        errors.TakeOver(refused, field => field.StartsWith("nights[", StringComparison.Ordinal) ? $"told[{field[7..]}"
            : field.StartsWith("wanted.", StringComparison.Ordinal) ? $"wanted{char.ToUpperInvariant(field[7])}{field[8..]}" : field);
        if (reckoned is null)
            return null;
        var answer = new NightsAnswer(reckoned, outC, [], reckoned.Wanted?.LoadKg is null ? [] : assumed.Used);
        return answer with { Sentences = answer.Words(nights, at) };
    }

    private IReadOnlyList<Sentence> Words(Nights nights, VisitContext at)
    {
        var said = new Said();
        var (mass, temperature) = (Units.Of(Quantity.Mass, at.Units), Units.Of(Quantity.Temperature, at.Units));
        foreach (var (night, told) in Reckoned.Nights.Zip(nights.Told ?? []))
        {
            said.Add(Weight.Verdict, Say(Measured(mass.Format(told.LoadKg!.Value)), " gave ", Computed($"{night.OutputKw:0.0} kW"), " on the mean of ", Measured($"{told.Hours:0.#} h"), "; embers after ", Computed($"{night.HoursToEmbers:0.0} h"), "."));
        }
        if (Reckoned.House is { TooAlike: false, UaWK: { } loss, CapacityMjK: { } capacity })
            said.Add(Weight.Verdict, Say("By two nights this house loses ", Computed($"{loss:0} W"), " for every kelvin, and holds ", Computed($"{capacity:0.0} MJ"), " in one."));
        else if (Reckoned.House is { TooAlike: true })
            said.Add(Weight.Hint, Say("The last two nights are too alike to tell the house: one that was colder, or a load that was another."));
        else if (Reckoned.Nights.Count > 0)
            said.Add(Weight.Hint, Say("Two nights with the four temperatures tell what the house loses."));
        else
            said.Add(Weight.Verdict, Say("Ask for a night: how much wood, how long, what was left, how warm in and out."));
        if (Reckoned.Wanted is { LoadKg: { } load, OutputKw: { } output })
        {
            said.Add(Weight.Verdict, Say("For a night at ", Measured(temperature.Format(WantedOutC)), " it takes ", Computed($"{output:0.0} kW"), ": ", Computed(mass.Format(load)), " of this wood."));
            if (output > at.Stove.NominalKw)
                said.Add(Weight.Verdict, Say($"That is more than this stove's {at.Stove.NominalKw:0.#} kW: it will be cooler in the morning, and no hotter fire makes up for it."));
        }
        said.Add(Weight.Hint, Say("A small fire is less wood, not less air."));
        return said.InOrder();
    }
}

/// <summary>Nights as told, and the load for the next.</summary>
public sealed class NightsStation : Station<Nights, NightsAnswer>
{
    /// <inheritdoc/>
    public override string Code => "nights";

    /// <inheritdoc/>
    public override string Name => "The night";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Agree];

    /// <inheritdoc/>
    public override bool AfterTheOthers => true;

    /// <inheritdoc/>
    public override JsonTypeInfo<Nights> EntryJson => CoreJson.Default.Nights;

    /// <inheritdoc/>
    public override JsonTypeInfo<NightsAnswer> AnswerJson => CoreJson.Default.NightsAnswer;

    /// <inheritdoc/>
    public override NightsAnswer? Answer(Nights entry, VisitContext at, EntryErrors errors) => NightsAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(Nights entry, NightsAnswer answer) =>
    [
        .. Fact.Number(FuelFacts.HouseUaWK, answer.Reckoned.House?.UaWK),
        .. Fact.Number(FuelFacts.NightLoadKg, answer.Reckoned.Wanted?.LoadKg),
    ];
}
