using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Instruments;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A visit on the wall of a week.</summary>
/// <param name="Stop">The visit.</param>
/// <param name="Day">Its day at the firm's place.</param>
/// <param name="From">Its start there.</param>
/// <param name="To">Its end there.</param>
/// <param name="DriveMin">Drive from the visit before it, min; null for the first of a day.</param>
public sealed record WeekVisit(RoundStop Stop, DateOnly Day, TimeOnly From, TimeOnly To, double? DriveMin);

/// <summary>A week by technician and day.</summary>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Monday">Its first day.</param>
/// <param name="Ways">When the firm works.</param>
/// <param name="WorkDays">Days of it on which the firm works.</param>
/// <param name="Technicians">Who goes out.</param>
/// <param name="Visits">Visits in order of time.</param>
/// <param name="Calls">Calls that wait; for the desk alone.</param>
/// <param name="Away">Who is away in it.</param>
/// <param name="LookBacks">Calls that were solved by telephone, and are to be asked again whether it helped; for the desk alone.</param>
/// <param name="Roads">Where the minutes of the drives come from.</param>
public sealed record WeekAnswer(DateOnly Today, DateOnly Monday, FirmWays Ways, IReadOnlyList<DateOnly> WorkDays, IReadOnlyList<Technician> Technicians, IReadOnlyList<WeekVisit> Visits, IReadOnlyList<WaitingCall> Calls,
    IReadOnlyList<Absence> Away, IReadOnlyList<WaitingCall> LookBacks, string Roads);

/// <summary>A visit's plan as it is to be.</summary>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="Minutes">How long, 15 to 600.</param>
/// <param name="Despite">Whether what is asked back was answered.</param>
/// <param name="Helpers">Who goes with them, at most 5; null leaves those who do.</param>
public sealed record PlanMove(int BaseVersion, Guid TechnicianId, DateOnly Day, TimeOnly Time, int Minutes, bool Despite = false, IReadOnlyList<Guid>? Helpers = null);

/// <summary>A visit that is not to be.</summary>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="Why">1 to 500 characters.</param>
public sealed record PlanCancel(int BaseVersion, string Why);

/// <summary>The office's week: the wall, and visits moved and cancelled.</summary>
public static class WeekEndpoints
{
    /// <summary>Maps the week.</summary>
    public static void MapWeek(this WebApplication app)
    {
        app.MapGet("/api/week", WeekAsync).RequireAuthorization(Policies.SignedIn).Produces<WeekAnswer>().ProducesValidationProblem();
        app.MapGet("/api/visits/{id:guid}/plan", async (Guid id, PlanStore plans) => TypedResults.Ok(await plans.LogAsync(id))).RequireAuthorization(Policies.SignedIn);
        app.MapPut("/api/visits/{id:guid}/plan", MoveAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        app.MapPost("/api/visits/{id:guid}/cancel", CancelAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
    }

    private static async Task<IResult> WeekAsync([FromQuery] DateOnly? day, ClaimsPrincipal user, VisitStore visits, PlanStore plans, PersonStore people, AbsenceStore absences, FirmStore firms, IRoads roads, TimeProvider clock)
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var asked = day ?? today;
        if (asked < today.AddYears(-10) || asked > today.AddYears(2))
            return Faults.Refused("day", $"A week lies between {today.AddYears(-10):yyyy-MM-dd} and {today.AddYears(2):yyyy-MM-dd}.");
        var monday = Planning.MondayOf(asked);
        var round = await visits.RoundAsync(firm.Span(monday).From, firm.Span(monday.AddDays(6)).Before, user.IsInRole("technician") ? user.PersonId() : null);
        var ways = await roads.BetweenAsync(round.Select(s => new RoadPlace(s.Latitude, s.Longitude)), CancellationToken.None);
        return TypedResults.Ok(new WeekAnswer(today, monday, firm.Works, [.. Enumerable.Range(0, 7).Select(monday.AddDays).Where(firm.Works.WorksOn)], await people.TechniciansAsync(),
            [.. round.Select((s, i) => new WeekVisit(s, firm.Day(s.PlannedStart), firm.Time(s.PlannedStart), firm.Time(s.PlannedEnd), DriveTo(s, i > 0 ? round[i - 1] : null, firm, ways)))],
            user.IsInRole("technician") ? [] : await plans.WaitingAsync(), await absences.BetweenAsync(monday, monday.AddDays(6)),
            user.IsInRole("technician") ? [] : await plans.LookBacksAsync(today), ways.Said));
    }

    private static double? DriveTo(RoundStop stop, RoundStop? before, Firm firm, RoadTimes ways) =>
        before?.TechnicianId == stop.TechnicianId && firm.Day(before.PlannedStart) == firm.Day(stop.PlannedStart)
            ? Math.Round(ways.Between(before.Latitude, before.Longitude, stop.Latitude, stop.Longitude), 1) : null;

    private static async Task<IResult> MoveAsync(Guid id, PlanMove move, ClaimsPrincipal user, VisitStore visits, PlanStore plans, PersonStore people, FirmStore firms, PlanDesk desk, TimeProvider clock)
    {
        if (await visits.FindAsync(id) is not { } visit)
            return Faults.Missing("visit");
        var firm = await firms.GetAsync();
        var helpers = move.Helpers ?? [.. (visit.Helpers ?? []).Where(h => h != move.TechnicianId)];
        var wanted = new WantedTime(visit.ApplianceId, move.TechnicianId, helpers, move.Day, move.Time, move.Minutes);
        if (await desk.RefusedAsync(new EntryErrors(), wanted, move.Despite, firm.Day(visit.PlannedStart) == move.Day) is { } refused)
            return refused;
        var start = firm.At(move.Day, move.Time);
        var technicians = await people.TechniciansAsync();
        var who = string.Join(" with ", new[] { move.TechnicianId }.Concat(helpers).Select(id => technicians.First(t => t.Id == id).Name));
        var what = $"{(visit.State == "cancelled" ? "Planned again" : "Moved")}: {who}, {move.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)} {move.Time:HH:mm}, {move.Minutes} min; "
            + $"it was {visit.Technician}, {firm.Local(visit.PlannedStart).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture)}.";
        return Answer(await plans.MoveAsync(id, move.BaseVersion, move.TechnicianId, [.. helpers], start, start.AddMinutes(move.Minutes), what, user.PersonId(), clock.GetUtcNow()), who);
    }

    private static async Task<IResult> CancelAsync(Guid id, PlanCancel cancel, ClaimsPrincipal user, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("why", cancel.Why, "Why it is cancelled", 500, needed: true);
        return errors.Any ? Faults.Refused(errors) : Answer(await plans.CancelAsync(id, cancel.BaseVersion, cancel.Why.Trim(), user.PersonId(), clock.GetUtcNow()), "");
    }

    internal static IResult Answer(PlanChange change, string who) => change switch
    {
        PlanChange.Done => TypedResults.NoContent(),
        PlanChange.Missing => Faults.Missing("visit"),
        PlanChange.Signed => Saving.Signed(),
        PlanChange.Taken => TypedResults.Problem(statusCode: 409, title: $"{who} has another visit then."),
        PlanChange.Recorded => TypedResults.Problem(statusCode: 409, title: "Something is recorded in this visit: it is signed, not cancelled."),
        PlanChange.PlannedBefore => TypedResults.Problem(statusCode: 409, title: "This stove has an open visit already."),
        _ => TypedResults.Problem(statusCode: 409, title: "Somebody changed this plan in between: look at it again."),
    };
}
