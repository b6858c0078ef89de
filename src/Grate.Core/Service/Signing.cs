namespace Grate.Core.Service;

/// <summary>A step of a visit as it stands.</summary>
/// <param name="Code">Its word.</param>
/// <param name="Status">How far it is.</param>
public sealed record StepState(string Code, StepStatus Status);

/// <summary>A station of a visit as it was kept.</summary>
/// <param name="Step">Step.</param>
/// <param name="Station">Station.</param>
/// <param name="BlocksSigning">Why the visit cannot be signed while it stands so, or none.</param>
public sealed record StationState(string Step, string Station, string? BlocksSigning);

/// <summary>Why a visit cannot be signed, and where that is put right.</summary>
/// <param name="Sentence">Why.</param>
/// <param name="Step">The step to go to; null where it is none's.</param>
/// <param name="Station">The station there; null where it is the step itself.</param>
public sealed record Refusal(string Sentence, string? Step = null, string? Station = null);

/// <summary>Something that is missing and may be left out with a reason.</summary>
/// <param name="Code">What: a station, or "parts".</param>
/// <param name="Sentence">What is missing.</param>
public sealed record Missing(string Code, string Sentence);

/// <summary>Whether a visit can be signed: signing is final.</summary>
/// <param name="Refusals">Why it cannot be signed at all; none when it can.</param>
/// <param name="Missing">What is missing, each with a reason to be given.</param>
public sealed record Signing(IReadOnlyList<Refusal> Refusals, IReadOnlyList<Missing> Missing)
{
    /// <summary>Code under which unmarked parts are left out.</summary>
    public const string UnmarkedParts = "parts";

    // The list of what is out, and the sweep, whose ticks stand in for it where there is none.
    private const string OutList = "strip-down", Sweep = "deposits";

    /// <summary>Longest reason, characters.</summary>
    public const int LongestReason = 500;

    /// <summary>Looks through a visit.</summary>
    /// <param name="parts">The parts of the trade.</param>
    /// <param name="at">The visit.</param>
    /// <param name="steps">Its steps; one that was never saved is open.</param>
    /// <param name="stations">Its stations as kept.</param>
    public static Signing Of(Parts parts, VisitContext at, IReadOnlyList<StepState> steps, IReadOnlyList<StationState> stations)
    {
        StepStatus Status(string step) => steps.FirstOrDefault(s => s.Code == step)?.Status ?? StepStatus.Open;
        var refusals = new List<Refusal>();
        if (at.Day > at.Today)
            refusals.Add(new($"This visit is planned for {at.Day:d MMMM yyyy}: nobody signs a visit that has not begun."));
        var open = VisitSteps.All.Where(s => s.Code != VisitSteps.Next && Status(s.Code) == StepStatus.Open).ToList();
        if (open.Count > 0)
            refusals.Add(new($"Still open: {string.Join(", ", open.Select(s => s.Name))}. Do them, or skip them with a reason.", open[0].Code));
        // What is out has one list: where the parts were noted one by one, that list says what is back, and no tick of the sweep.
        var listed = at.Facts.Any(f => f.Station == OutList);
        refusals.AddRange(stations.Where(s => s.BlocksSigning is not null && !(listed && s.Station == Sweep)).Select(s => new Refusal(s.BlocksSigning!, s.Step, s.Station)));

        var done = VisitSteps.All.Where(s => Status(s.Code) == StepStatus.Done).Select(s => s.Code).ToList();
        var missing = done.SelectMany(step => parts.StationsOf(step, at.Stove.Features).Where(s => s.MissedAs is not null && !stations.Any(k => k.Step == step && k.Station == s.Code)))
            .DistinctBy(s => s.Code).Select(s => new Missing(s.Code, s.MissedAs!)).ToList();
        var unmarked = done.SelectMany(step => parts.MarksOf(step, at.Stove.Features).Where(m => !at.Found.Any(f => f.Step == step && f.Part == m.Code)).Select(m => m.Name)).Distinct().ToList();
        if (unmarked.Count > 0)
            missing.Add(new Missing(UnmarkedParts, $"{unmarked.Count} {(unmarked.Count == 1 ? "part is" : "parts are")} not marked: {string.Join(", ", unmarked)}."));
        return new Signing([.. refusals.DistinctBy(r => r.Sentence)], missing);
    }

    /// <summary>Refuses a signature that is not confirmed, or that leaves out something without saying why.</summary>
    /// <param name="confirmed">Whether it was asked once more.</param>
    /// <param name="reasons">Why what is missing is left out, by its code.</param>
    /// <param name="errors">Takes the refusals, under steps, confirmed and reasons.CODE.</param>
    public void Refuse(bool confirmed, IReadOnlyDictionary<string, string>? reasons, EntryErrors errors)
    {
        foreach (var refusal in Refusals)
            errors.Add("steps", refusal.Sentence);
        foreach (var gap in Missing)
        {
            if (reasons?.GetValueOrDefault(gap.Code) is not { } reason || string.IsNullOrWhiteSpace(reason))
                errors.Add($"reasons.{gap.Code}", $"{gap.Sentence} Say why, or go back and do it.");
            else
                errors.CheckText($"reasons.{gap.Code}", reason, "A reason", LongestReason);
        }
        if (!confirmed && !errors.Any)
            errors.Add("confirmed", "Signing is final: confirm it once more.");
    }
}
