namespace Grate.Core.Visits;

/// <summary>A step to save.</summary>
/// <param name="SaveId">UUIDv7 of this save, made by the client: the same save sent twice is one.</param>
/// <param name="BaseVersion">Version it started from, 0 for none.</param>
/// <param name="Status">open, done or skipped.</param>
/// <param name="Reason">Why it is skipped, up to 500 characters.</param>
/// <param name="Note">Notes, up to 5 000 characters.</param>
public sealed record StepSave(Guid SaveId, int BaseVersion, [property: Words(typeof(StepStatus))] string Status, string Reason, string Note)
{
    /// <summary>Refuses what cannot be saved.</summary>
    /// <param name="step">The step.</param>
    /// <param name="errors">Takes the refusals.</param>
    public void Check(string step, EntryErrors errors)
    {
        if (VisitSteps.Find(step) is null)
            errors.Add("step", $"“{step[..Math.Min(step.Length, 40)]}” is none of the twelve steps.");
        if (errors.Need<StepStatus>("status", Status, "How far a step is") == StepStatus.Skipped && string.IsNullOrWhiteSpace(Reason))
            errors.Add("reason", "Say why this step is skipped.");
        errors.CheckText("reason", Reason, "A reason", 500);
        errors.CheckText("note", Note, "A note", 5000);
        Save.Check(SaveId, BaseVersion, errors);
    }
}

/// <summary>A finding to save.</summary>
/// <param name="SaveId">UUIDv7 of this save.</param>
/// <param name="BaseVersion">Version it started from, 0 for none.</param>
/// <param name="Step">Step: before and after are two findings.</param>
/// <param name="Part">Part.</param>
/// <param name="Condition">sound, wearing, spent, unsafe or not-seen.</param>
/// <param name="Note">Notes, up to 2 000 characters; the reason where not seen.</param>
/// <param name="LookAgain">Day to look again, for a wearing part.</param>
/// <param name="StopCode">Reason of the stop, where unsafe.</param>
/// <param name="Covers">Condition that another step of the visit gave the part, where this one knowingly takes its place.</param>
public sealed record FindingSave(Guid SaveId, int BaseVersion, string Step, string Part, [property: Words(typeof(Condition))] string Condition, string Note,
    DateOnly? LookAgain = null, string? StopCode = null, [property: Words(typeof(Condition))] string? Covers = null)
{
    /// <summary>Furthest day to look again.</summary>
    public static readonly Limit LookAgainWithin = Limit.Assumed(5, "years", "a part nobody looks at for longer is not wearing");

    /// <summary>Refuses what cannot be saved.</summary>
    /// <param name="id">The finding's id.</param>
    /// <param name="parts">Marks by their codes.</param>
    /// <param name="knowsStop">Whether a stop's code is known.</param>
    /// <param name="day">The visit's day.</param>
    /// <param name="errors">Takes the refusals.</param>
    public void Check(Guid id, Func<string, PartMark?> parts, Func<string?, bool> knowsStop, DateOnly day, EntryErrors errors)
    {
        errors.CheckId("id", id, "A finding");
        var mark = parts(Part);
        if (mark is null)
            errors.Add("part", $"“{Part[..Math.Min(Part.Length, 40)]}” is not a part of any step.");
        else if (!mark.Steps.Contains(Step))
            errors.Add("step", Word.OneOf($"The step in which the {mark.Name} is marked,", Step, mark.Steps));
        if (errors.Need<Condition>("condition", Condition, "A condition") is { } condition)
        {
            if (mark is not null && !mark.Words.Contains(condition))
                errors.Add("condition", $"“{Word.Said(condition)}” does not fit {mark.Name}: one of {string.Join(", ", mark.Words.Select(Word.Said))}.");
            if (condition == Core.Condition.NotSeen && string.IsNullOrWhiteSpace(Note))
                errors.Add("note", "Say why it was not seen.");
            if (condition == Core.Condition.Unsafe && !knowsStop(StopCode))
                errors.Add("stopCode", "Say what makes it unsafe.");
        }
        errors.CheckWord<Condition>("covers", Covers, "The condition that is covered");
        errors.CheckText("note", Note, "A note", 2000);
        if (LookAgain is { } again && (again < day || again > day.AddYears((int)LookAgainWithin.Value)))
            errors.Add("lookAgain", $"A day to look again lies between the visit and {day.AddYears((int)LookAgainWithin.Value):d MMMM yyyy}; {again:d MMMM yyyy} was entered.");
        Save.Check(SaveId, BaseVersion, errors);
    }
}

/// <summary>What every save carries.</summary>
public static class Save
{
    /// <summary>Refuses a save that cannot be told from another.</summary>
    public static void Check(Guid saveId, int baseVersion, EntryErrors errors)
    {
        errors.CheckId("saveId", saveId, "A save");
        if (baseVersion < 0)
            errors.Add("baseVersion", "The version a save starts from is 0 or more.");
    }
}
