namespace Grate.Core.Visits;

/// <summary>One thing a station found out, by name: what history, due dates and other stations read.</summary>
/// <param name="Name">Its name, with the unit where it has one: "hot.normal.draft-pa".</param>
/// <param name="Value">Its value, SI; null where it is a word.</param>
/// <param name="Word">Its word; null where it is a number.</param>
public sealed record Fact(string Name, double? Value = null, string? Word = null)
{
    /// <summary>A number, or no fact where it was not measured.</summary>
    public static IEnumerable<Fact> Number(string name, double? value) => value is { } known ? [new Fact(name, known)] : [];

    /// <summary>A word, or no fact where none was picked.</summary>
    public static IEnumerable<Fact> Of(string name, string? word) => word is { Length: > 0 } ? [new Fact(name, null, word)] : [];
}

/// <summary>A fact of the visit that is going on, with where and when it was found.</summary>
/// <param name="Step">Step.</param>
/// <param name="Station">Station.</param>
/// <param name="Name">Its name.</param>
/// <param name="Value">Value, SI.</param>
/// <param name="Word">Word.</param>
/// <param name="At">Time of day at the firm's place.</param>
public sealed record VisitFact(string Step, string Station, string Name, double? Value, string? Word, TimeOnly At);

/// <summary>A number that was typed elsewhere in the visit and stands in for a missing one.</summary>
/// <param name="Value">SI.</param>
/// <param name="Source">Where it comes from: "your cold checks, 10:12".</param>
public sealed record Known(double Value, string Source);

/// <summary>The word on a part in a step.</summary>
/// <param name="Step">Step.</param>
/// <param name="Part">Part.</param>
/// <param name="Condition">Its condition.</param>
/// <param name="LookAgain">Day to look again, or null.</param>
public sealed record PartFound(string Step, string Part, Condition Condition, DateOnly? LookAgain = null);

/// <summary>What this firm's visits at a kind of stove say of a number: its median over the newest of them.</summary>
/// <param name="Name">Name of the fact.</param>
/// <param name="Median">Median, SI.</param>
/// <param name="Visits">Visits it rests on.</param>
public sealed record LearnedFact(string Name, double Median, int Visits);
