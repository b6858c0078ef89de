using System.Text.Json.Serialization.Metadata;
using Grate.Core.Flue;
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
        var words = at.Found.Words();
        foreach (var found in words.Where(f => f.Condition is not (Condition.Sound or Condition.NotSeen)))
            said.Add(WeightOf(found.Condition), Say(Meaning(found, at)));
        if (LookedAt.Of(at).Sentence is { } not)
            said.Add(Weight.Verdict, Say($"{not} Of that nothing is said here, and no fire is called safe by this visit."));
        if (words.Where(f => f.Condition == Condition.NotSeen).ToList() is { Count: > 0 } unseen)
            said.Add(Weight.Hint, Say($"Not seen this time: {string.Join(", ", unseen.Select(f => Parts.All.NameOf(f.Part)))}."));
        var sound = words.Count(f => f.Condition == Condition.Sound);
        if (sound > 0)
            said.Add(Weight.Hint, Say($"{sound} {(sound == 1 ? "part was" : "parts were")} found sound."));
        if (entry.NobodyAtHome == true)
            said.Add(Weight.Hint, Say("Nobody was at home to be told: the report goes to the household."));
        else if (strokes.Count > 0)
            said.Add(Weight.Hint, Say($"Told to and signed by {(string.IsNullOrWhiteSpace(entry.Name) ? "the household" : entry.Name.Trim())}."));
        return new AgreementAnswer(said.InOrder());
    }

    // Handbook 10 section 2: one scale, and what each word asks for. What does not wear does not "hold for now".
    private static string Meaning(PartFound found, VisitContext at)
    {
        var name = char.ToUpperInvariant(Parts.All.NameOf(found.Part)[0]) + Parts.All.NameOf(found.Part)[1..];
        var wears = Parts.All.Mark(found.Part)?.Wears != false;
        var again = found.LookAgain is { } day ? $"is looked at again by {day:d MMMM yyyy}" : "is looked at again at the next visit";
        return found.Condition switch
        {
            Condition.Unsafe => $"{name}: unsafe. No fire is lit until this is put right and tested.",
            Condition.Spent when wears => $"{name}: spent. It has done its time and is to be renewed.",
            Condition.Spent => $"{name}: not as it has to be{(found.Part == "draft" ? Pull(at) : "")}. It is to be put right.",
            _ when wears => $"{name}: wearing. It holds for now; it {again}.",
            _ => $"{name}: not quite as it should be; it {again}.",
        };
    }

    private static string Pull(VisitContext at) => FlueFacts.Pulls(at.Text, at.Number, at.Stove) switch
    {
        (true, true) => ": it pulls too weakly at one fire and too hard at another",
        (true, _) => ": it pulls too weakly",
        (_, true) => ": it pulls too hard",
        _ => "",
    };

    private static Weight WeightOf(Condition condition) => condition switch
    {
        Condition.Unsafe => Weight.Stop,
        Condition.Spent => Weight.Verdict,
        _ => Weight.RuledOut,
    };
}
