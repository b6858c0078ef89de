namespace Grate.Core.Visits;

/// <summary>A task of some work, in an order that must not be broken.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Name">Its name on screen.</param>
/// <param name="Needs">Tasks that must be done before it.</param>
/// <param name="Why">Why it is a gate; null where it is none.</param>
/// <param name="Feature">A feature of the stove it needs, or none.</param>
public sealed record WorkTask(string Code, string Name, IReadOnlyList<string> Needs, string? Why = null, string? Feature = null)
{
    /// <summary>Refuses tasks ticked before what they need.</summary>
    /// <param name="order">The tasks of the work.</param>
    /// <param name="done">Codes that are done.</param>
    /// <param name="work">The work: "sweep".</param>
    /// <param name="field">Field of the entry.</param>
    /// <param name="errors">Takes the refusals.</param>
    public static void RefuseOutOfOrder(IReadOnlyList<WorkTask> order, IReadOnlyList<string> done, string work, string field, EntryErrors errors)
    {
        string NameOf(string code) => order.FirstOrDefault(t => t.Code == code)?.Name ?? code;
        foreach (var code in done)
        {
            if (code is null)
                errors.Add(field, "A task is missing where the list has a place for it.");
            else if (order.FirstOrDefault(t => t.Code == code) is not { } task)
                errors.Add(field, $"“{code[..Math.Min(code.Length, 40)]}” is no task of this {work}.");
            else if (task.Needs.Except(done).ToList() is { Count: > 0 } missing)
                errors.Add(field, $"“{task.Name}” waits for: {string.Join("; ", missing.Select(NameOf))}.");
        }
    }
}
