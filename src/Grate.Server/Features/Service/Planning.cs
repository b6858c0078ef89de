using Grate.Core;
using Grate.Server.Features.Stock;
using Grate.Server.Features.Visits;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>What every plan of a visit is held against, wherever it is made.</summary>
internal static class Planning
{
    /// <summary>What became of a plan.</summary>
    public static IResult Answer(PlanState state) => state switch
    {
        PlanState.Planned => TypedResults.NoContent(),
        PlanState.Reused => Saving.Reused(),
        PlanState.NoStove => Faults.Missing("stove with a flue"),
        PlanState.PlannedBefore => TypedResults.Problem(statusCode: 409, title: "This stove has an open visit already."),
        _ => TypedResults.Problem(statusCode: 409, title: "The technician has another visit then. Take the next free time."),
    };

    /// <summary>Why a time cannot be planned; what is unusual about it is asked back once (409 with "ask"). Null where it can be planned.</summary>
    public static async Task<IResult?> RefusedAsync(EntryErrors errors, Guid technicianId, DateOnly day, TimeOnly time, int minutes, bool despite, Guid? stoveId, Firm firm, PersonStore people, PartsDesk parts, TimeProvider clock)
    {
        CheckTime(day, minutes, firm.Day(clock.GetUtcNow()), errors);
        if (time < new TimeOnly(5, 0) || time > new TimeOnly(22, 0))
            errors.Add("time", "A visit starts between 05:00 and 22:00.");
        if (!await people.IsTechnicianAsync(technicianId))
            errors.Add("technicianId", "There is no such technician.");
        if (errors.Any)
            return Faults.Refused(errors);
        if (despite)
            return null;
        var asks = new[] { firm.Works.Against(day.ToDateTime(time), minutes), stoveId is { } stove ? await parts.MissingAsync(stove, day) : null }.OfType<string>().ToList();
        return asks.Count > 0
            ? TypedResults.Problem(statusCode: 409, title: $"{string.Join(" ", asks)} Plan it all the same?", extensions: new Dictionary<string, object?> { ["ask"] = true }) : null;
    }

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
