using System.Text.Json.Serialization.Metadata;
using Grate.Core.Fuel;
using static Grate.Core.Sentence;

namespace Grate.Core.Firebox;

/// <summary>The ash as found; every field may still be missing.</summary>
/// <param name="Fuel">softwood, hardwood, bark or coal; default by the household's wood, else hardwood.</param>
/// <param name="DepthMm">Ash on the floor, mm, 0..500.</param>
/// <param name="PanL">What the pan holds, L, 0.1..100; default as found before.</param>
/// <param name="TouchesGrate">Whether the pan's ash reaches the underside of the grate.</param>
public sealed record AshCheck([property: Words(typeof(AshFuel))] string? Fuel = null, double? DepthMm = null, double? PanL = null, bool? TouchesGrate = null);

/// <summary>What follows for the ash (handbook 04 section 5).</summary>
/// <param name="Fuel">What makes it.</param>
/// <param name="PanL">What the pan holds, L; null where it is not known.</param>
/// <param name="Reckoned">Days to a full pan and ash of a year; null without a pan.</param>
/// <param name="AshKgYear">Ash of a year of this household, kg.</param>
/// <param name="Sentences">In words.</param>
/// <param name="Assumed">Defaults used.</param>
public sealed record AshCheckAnswer(AshFuel Fuel, double? PanL, AshAnswer? Reckoned, double AshKgYear, IReadOnlyList<Sentence> Sentences, IReadOnlyList<Assumed> Assumed) : IReckoned
{
    /// <summary>Bed of ash that wood likes.</summary>
    public static readonly Limit Bed = Limit.Practice(25, "mm", "wood likes a flat bed: leave an inch");

    private static readonly EntryRange _depth = new("Ash on the floor", Quantity.Bore, 0, 500, 0.001);

    /// <summary>Answers a look.</summary>
    /// <returns>The answer, or null with sentences in <paramref name="errors"/>, by the fields of <see cref="AshCheck"/>.</returns>
    public static AshCheckAnswer? To(AshCheck check, VisitContext at, EntryErrors errors)
    {
        errors.Check("depthMm", check.DepthMm, _depth);
        var wood = FuelFacts.Known(at);
        var fuel = check.Fuel is { } word ? errors.Need<AshFuel>("fuel", word, "Fuel") : OfWood(at.NewestText(FuelFacts.Wood));
        if (errors.Any || fuel is not { } of)
            return null;
        var pan = check.PanL ?? at.NewestNumber(FireboxFacts.PanL);
        // A pan of one litre tells the ash of a year where nobody knows the pan.
        var entry = new AshEntry(pan ?? 1, wood.KgPerYear / AshAnswer.Season.Value, Word.Of(of), MoistureWet: of == AshFuel.Coal ? null : wood.MoistureWet, BurnKgYear: wood.KgPerYear);
        if (AshAnswer.To(entry, errors) is not { } ash)
            return null;
        var reckoned = pan is null ? null : ash;
        var answer = new AshCheckAnswer(of, pan, reckoned, ash.AshKgYear, [], [.. wood.Assumed.Where(a => a.Field is "amount" or "toldMoistureWet"), .. reckoned?.Assumed ?? []]);
        return answer with { Sentences = answer.Words(check, at) };
    }

    private static AshFuel OfWood(string? wood) => wood == "softwood" ? AshFuel.Softwood : AshFuel.Hardwood;

    private IReadOnlyList<Sentence> Words(AshCheck check, VisitContext at)
    {
        var said = new Said();
        var (mass, bore) = (Units.Of(Quantity.Mass, at.Units), Units.Of(Quantity.Bore, at.Units));
        if (check.TouchesGrate == true)
            said.Add(Weight.Verdict, Say("The pan is full to the underside of the grate: grate bars burn out. Empty it before that."));
        if (Reckoned?.EmptyEveryDays is { } days)
            said.Add(Weight.Verdict, Say("With this household's wood the pan is full after ", Computed($"{days} {(days == 1 ? "day" : "days")}"), "; ", Computed(mass.Format(AshKgYear)), " of ash a year."));
        else
            said.Add(at.Stove.Features.Contains("grate") ? Weight.Hint : Weight.Verdict, Say("This household makes ", Computed(mass.Format(AshKgYear)), " of ash a year."));
        if (check.DepthMm is { } depth)
        {
            said.Add(Weight.Verdict, Fuel == AshFuel.Coal ? depth > 0 ? Say("Coal wants its air from below: riddle the grate clear, and empty the pan.") : Say("The grate is clear, as coal wants it.")
                : depth < Bed.Value ? Say("Ash lies ", Measured(bore.Format(depth / 1000)), $" deep. Wood likes a flat bed: leave {bore.Format(Bed.Value / 1000)}.")
                : Say("Ash lies ", Measured(bore.Format(depth / 1000)), $" deep: take it down to {bore.Format(Bed.Value / 1000)}, no further."));
        }
        said.Add(Weight.Hint, Say("Into a lidded metal pail, outdoors on stone, for days: coals live that long."));
        said.Add(Weight.Hint, Fuel == AshFuel.Coal ? Say("Coal ash never goes on the garden.") : Say("Wood ash alone may go on the garden, thinly; it is alkaline, not for plants that like it sour."));
        return said.InOrder();
    }
}

/// <summary>Ash and pan.</summary>
public sealed class AshStation : Station<AshCheck, AshCheckAnswer>
{
    /// <inheritdoc/>
    public override string Code => "ash";

    /// <inheritdoc/>
    public override string Name => "Ash";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Inside];

    /// <inheritdoc/>
    public override JsonTypeInfo<AshCheck> EntryJson => CoreJson.Default.AshCheck;

    /// <inheritdoc/>
    public override JsonTypeInfo<AshCheckAnswer> AnswerJson => CoreJson.Default.AshCheckAnswer;

    /// <inheritdoc/>
    public override AshCheckAnswer? Answer(AshCheck entry, VisitContext at, EntryErrors errors) => AshCheckAnswer.To(entry, at, errors);

    /// <inheritdoc/>
    public override IEnumerable<Fact> Facts(AshCheck entry, AshCheckAnswer answer) =>
        [.. Fact.Number(FireboxFacts.PanL, entry.PanL), .. Fact.Number(FireboxFacts.PanDays, answer.Reckoned?.EmptyEveryDays), .. Fact.Number(FireboxFacts.AshKgYear, entry == new AshCheck() ? null : answer.AshKgYear)];
}
