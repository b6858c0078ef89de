using Grate.Core;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Server.Features.Stock;
using Grate.Server.Features.Visits;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>Who goes when, and for how long.</summary>
/// <param name="StoveId">The stove.</param>
/// <param name="TechnicianId">Who goes, and holds the visit.</param>
/// <param name="Helpers">Who goes with them.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="Minutes">How long.</param>
public sealed record WantedTime(Guid StoveId, Guid TechnicianId, IReadOnlyList<Guid> Helpers, DateOnly Day, TimeOnly Time, int Minutes);

/// <summary>What every plan of a visit is held against, wherever it is made.</summary>
public sealed class PlanDesk(FirmStore firms, PersonStore people, PlanStore plans, PartsDesk parts, FreeTimes times, TimeProvider clock)
{
    private const int MostHelpers = 5;

    /// <summary>Why a time cannot be planned; what is unusual about it is asked back once (409 with "ask"). Null where it can be planned.</summary>
    /// <param name="errors">What was refused already.</param>
    /// <param name="wanted">The plan.</param>
    /// <param name="despite">Whether what is asked back was answered.</param>
    /// <param name="sameDay">Whether it stays on its day, where the same parts are there.</param>
    internal async Task<IResult?> RefusedAsync(EntryErrors errors, WantedTime wanted, bool despite, bool sameDay = false)
    {
        var firm = await firms.GetAsync();
        Planning.CheckTime(wanted.Day, wanted.Minutes, firm.Day(clock.GetUtcNow()), errors);
        if (wanted.Time < new TimeOnly(5, 0) || wanted.Time > new TimeOnly(22, 0))
            errors.Add("time", "A visit starts between 05:00 and 22:00.");
        if (!await people.IsTechnicianAsync(wanted.TechnicianId))
            errors.Add("technicianId", "There is no such technician.");
        if (wanted.Helpers.Count > MostHelpers || wanted.Helpers.Contains(wanted.TechnicianId) || wanted.Helpers.Distinct().Count() != wanted.Helpers.Count)
            errors.Add("helpers", $"At most {MostHelpers} others go with the one who holds the visit, each once.");
        foreach (var helper in wanted.Helpers.Take(MostHelpers))
        {
            if (!await people.IsTechnicianAsync(helper))
                errors.Add("helpers", "There is no such technician.");
        }
        if (errors.Any)
            return Faults.Refused(errors);
        if (despite)
            return null;
        var start = wanted.Day.ToDateTime(wanted.Time);
        var situation = await plans.SituationAsync(wanted.StoveId, [wanted.TechnicianId, .. wanted.Helpers], wanted.Day);
        string[] asks = [.. new[] { firm.Works.Against(start, wanted.Minutes), sameDay ? null : await parts.MissingAsync(wanted.StoveId, wanted.Day) }.OfType<string>(), .. situation?.Against(start, wanted.Minutes) ?? [],
            .. situation is null ? [] : new[] { await times.DriveAgainstAsync(wanted, situation.Latitude, situation.Longitude) }.OfType<string>()];
        return asks.Length > 0
            ? TypedResults.Problem(statusCode: 409, title: $"{string.Join(" ", asks)} Plan it all the same?", extensions: new Dictionary<string, object?> { ["ask"] = true }) : null;
    }
}

/// <summary>Rules of every plan.</summary>
internal static class Planning
{
    /// <summary>What became of a plan; an open visit that stands in its way is named, and can be led to.</summary>
    public static async Task<IResult> AnswerAsync(PlanState state, Guid stoveId, VisitStore visits, Firm firm) => state switch
    {
        PlanState.Planned => TypedResults.NoContent(),
        PlanState.Reused => Saving.Reused(),
        PlanState.NoStove => Faults.Missing("stove with a flue"),
        PlanState.PlannedBefore when (await visits.OfStoveAsync(stoveId)).FirstOrDefault(v => v.State == "open") is { } open => TypedResults.Problem(statusCode: 409,
            title: $"This stove has an open visit already: {open.Technician}, {firm.Local(open.PlannedStart):d MMMM yyyy, HH:mm}.", extensions: new Dictionary<string, object?> { ["openVisit"] = open.Id }),
        _ => TypedResults.Problem(statusCode: 409, title: "The technician has another visit then. Take the next free time."),
    };

    /// <summary>A visit for what is due: all steps for an inspection or where nothing is, else those that its tasks need.</summary>
    /// <param name="id">UUIDv7.</param>
    /// <param name="stoveId">The stove.</param>
    /// <param name="technicianId">Who goes.</param>
    /// <param name="start">UTC.</param>
    /// <param name="minutes">How long.</param>
    /// <param name="tasks">What is due.</param>
    /// <param name="rules">The rules of what is due.</param>
    public static VisitPlan ForDue(Guid id, Guid stoveId, Guid technicianId, DateTimeOffset start, int minutes, IReadOnlyList<DueTask> tasks, Due rules) =>
        new(id, stoveId, technicianId, start, start.AddMinutes(minutes), rules.PurposeOf(tasks), tasks.Count == 0 || tasks.Any(t => t.Kind == DueKind.Inspection),
            [.. VisitSteps.All.Select(s => s.Code).Except(rules.StepsFor(tasks))], "not due at this visit");

    /// <summary>Refuses a day that is over or too far away, and a visit that is too short or too long.</summary>
    public static void CheckTime(DateOnly day, int minutes, DateOnly today, EntryErrors errors)
    {
        if (day < today || day > today.AddYears(2))
            errors.Add("day", $"A visit is planned between today and {today.AddYears(2):yyyy-MM-dd}; {day:yyyy-MM-dd} was entered.");
        CheckMinutes(minutes, errors);
    }

    /// <summary>Refuses a visit that is too short or too long.</summary>
    public static void CheckMinutes(int minutes, EntryErrors errors)
    {
        if (minutes is < 15 or > 600)
            errors.Add("minutes", $"A visit takes between 15 and 600 min; {minutes} min was entered.");
    }

    /// <summary>The first day of a day's week.</summary>
    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % 7));
}
