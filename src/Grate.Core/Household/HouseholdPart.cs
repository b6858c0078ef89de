using System.Text.Json.Serialization.Metadata;
using static Grate.Core.Sentence;

namespace Grate.Core.Household;

/// <summary>What is told to the household, and that it was told.</summary>
public sealed class HouseholdPart : IPart
{
    /// <inheritdoc/>
    public string Code => "household";

    /// <inheritdoc/>
    public IReadOnlyList<IStation> Stations { get; } = [new AgreeStation()];
}

/// <summary>Who was told, as signed; every field may still be missing.</summary>
/// <param name="Name">Who signed, up to 200 characters.</param>
/// <param name="Strokes">The signature: strokes of points, across and down in turn, each 0..1 of the pad.</param>
/// <param name="NobodyAtHome">Whether nobody was there to be told.</param>
public sealed record Agreement(string? Name = null, IReadOnlyList<IReadOnlyList<double>>? Strokes = null, bool? NobodyAtHome = null);

/// <summary>What there is to tell.</summary>
/// <param name="Sentences">Findings by weight with what each means, then who was told.</param>
public sealed record AgreementAnswer(IReadOnlyList<Sentence> Sentences) : IReckoned;

/// <summary>Findings said to the household, and its signature.</summary>
public sealed class AgreeStation : Station<Agreement, AgreementAnswer>
{
    private const int MostStrokes = 200, MostPoints = 4000;

    private static readonly EntryRange _place = new("A point of the signature", Quantity.Ratio, 0, 1);

    /// <inheritdoc/>
    public override string Code => "agreement";

    /// <inheritdoc/>
    public override string Name => "Told and signed";

    /// <inheritdoc/>
    public override IReadOnlyList<string> Steps { get; } = [VisitSteps.Agree];

    /// <inheritdoc/>
    public override string MissedAs => "Nobody of the household signed, and it is not said that nobody was at home.";

    /// <inheritdoc/>
    public override JsonTypeInfo<Agreement> EntryJson => CoreJson.Default.Agreement;

    /// <inheritdoc/>
    public override JsonTypeInfo<AgreementAnswer> AnswerJson => CoreJson.Default.AgreementAnswer;

    /// <inheritdoc/>
    public override AgreementAnswer? Answer(Agreement entry, VisitContext at, EntryErrors errors)
    {
        errors.CheckText("name", entry.Name, "The name", 200);
        var strokes = entry.Strokes ?? [];
        if (strokes.Count > MostStrokes || strokes.Sum(s => s?.Count ?? 0) > 2 * MostPoints)
            errors.Add("strokes", $"A signature has at most {MostStrokes} strokes and {MostPoints} points: clear it and sign again.");
        else if (strokes.Any(s => s is null || s.Count % 2 != 0))
            errors.Add("strokes", "Each stroke is a list of places, across and down in turn.");
        else if (strokes.SelectMany(s => s).Where(p => !_place.Holds(p)).Select(p => (double?)p).FirstOrDefault() is { } outside)
            errors.Check("strokes", outside, _place);
        if (entry.NobodyAtHome == true && strokes.Count > 0)
            errors.Add("nobodyAtHome", "Somebody signed: then somebody was at home.");
        if (errors.Any)
            return null;
        var said = new Said();
        foreach (var found in at.Found.GroupBy(f => f.Part).Select(g => g.MaxBy(f => VisitSteps.NumberOf(f.Step))!).Where(f => f.Condition != Condition.Sound))
            said.Add(WeightOf(found.Condition), Say(Meaning(found)));
        var sound = at.Found.GroupBy(f => f.Part).Count(g => g.MaxBy(f => VisitSteps.NumberOf(f.Step))!.Condition == Condition.Sound);
        if (sound > 0)
            said.Add(Weight.Hint, Say($"{sound} {(sound == 1 ? "part was" : "parts were")} found sound."));
        if (entry.NobodyAtHome == true)
            said.Add(Weight.Hint, Say("Nobody was at home to be told: the report goes to the household."));
        else if (strokes.Count > 0)
            said.Add(Weight.Hint, Say($"Told to and signed by {(string.IsNullOrWhiteSpace(entry.Name) ? "the household" : entry.Name.Trim())}."));
        return new AgreementAnswer(said.InOrder());
    }

    // Handbook 10 section 2: one scale, and what each word asks for.
    private static string Meaning(PartFound found)
    {
        var part = found.Part.Replace('-', ' ');
        var name = char.ToUpperInvariant(part[0]) + part[1..];
        return found.Condition switch
        {
            Condition.Unsafe => $"{name}: unsafe. No fire is lit until this is put right and tested.",
            Condition.Spent => $"{name}: spent. It has done its time and is to be renewed.",
            Condition.Wearing => found.LookAgain is { } again ? $"{name}: wearing. It holds for now; it is looked at again by {again:d MMMM yyyy}." : $"{name}: wearing. It holds for now; it is looked at again at the next visit.",
            _ => $"{name}: not seen this time.",
        };
    }

    private static Weight WeightOf(Condition condition) => condition switch
    {
        Condition.Unsafe => Weight.Stop,
        Condition.Spent => Weight.Verdict,
        Condition.Wearing => Weight.RuledOut,
        _ => Weight.Hint,
    };
}
