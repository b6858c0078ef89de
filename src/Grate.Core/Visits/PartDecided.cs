namespace Grate.Core.Visits;

/// <summary>The word that a look gives a part.</summary>
/// <param name="Part">Word of the part.</param>
/// <param name="Name">Its name.</param>
/// <param name="Condition">The word.</param>
/// <param name="StopCode">Reason of the stop where it is unsafe.</param>
/// <param name="Why">Why, in words.</param>
public sealed record PartDecided(string Part, string Name, Condition Condition, string? StopCode, Sentence Why);
