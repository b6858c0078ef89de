using System.Globalization;
using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Diagnosis;
using Grate.Core.Service;
using Grate.Core.Visits;
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
/// <param name="DriveMin">Drive from the visit before it, min by the plain rule; null for the first of a day.</param>
public sealed record WeekVisit(RoundStop Stop, DateOnly Day, TimeOnly From, TimeOnly To, double? DriveMin);

/// <summary>A week by technician and day.</summary>
/// <param name="Today">Today at the firm's place.</param>
/// <param name="Monday">Its first day.</param>
/// <param name="Ways">When the firm works.</param>
/// <param name="Technicians">Who goes out.</param>
/// <param name="Visits">Visits in order of time.</param>
/// <param name="Calls">Calls that wait; for the desk alone.</param>
public sealed record WeekAnswer(DateOnly Today, DateOnly Monday, FirmWays Ways, IReadOnlyList<Technician> Technicians, IReadOnlyList<WeekVisit> Visits, IReadOnlyList<WaitingCall> Calls);

/// <summary>A visit's plan as it is to be.</summary>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="Minutes">How long, 15 to 600.</param>
/// <param name="Despite">Whether what is asked back was answered.</param>
public sealed record PlanMove(int BaseVersion, Guid TechnicianId, DateOnly Day, TimeOnly Time, int Minutes, bool Despite = false);

/// <summary>A visit that is not to be.</summary>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="Why">1 to 500 characters.</param>
public sealed record PlanCancel(int BaseVersion, string Why);

/// <summary>A call as taken.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Words">What is wrong, in their words, 1 to 1 000 characters.</param>
/// <param name="Urgent">Whether it cannot wait: unsafe, or smoke in the room.</param>
/// <param name="Wish">When they can, up to 200 characters.</param>
/// <param name="Minutes">How long it will take, 15 to 600; an hour where nothing is said.</param>
/// <param name="Told">What was asked: finding to yes or no.</param>
public sealed record CallEntry(Guid Id, Guid ApplianceId, string Words, bool Urgent, string Wish = "", int? Minutes = null, IReadOnlyDictionary<string, bool>? Told = null);

/// <summary>A call becomes a visit.</summary>
/// <param name="Id">UUIDv7 made by the client, of the visit.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="Minutes">How long.</param>
/// <param name="Despite">Whether what is asked back was answered.</param>
public sealed record CallPlan(Guid Id, Guid TechnicianId, DateOnly Day, TimeOnly Time, int Minutes, bool Despite = false);

/// <summary>Why a call needs no visit.</summary>
/// <param name="Why">1 to 500 characters.</param>
public sealed record CallClosing(string Why);

/// <summary>The office's week: the wall, calls, and visits moved and cancelled.</summary>
public static class WeekEndpoints
{
    private const int UsualMinutes = 60;

    /// <summary>Maps the week.</summary>
    public static void MapWeek(this WebApplication app)
    {
        app.MapGet("/api/week", WeekAsync).RequireAuthorization(Policies.SignedIn).Produces<WeekAnswer>().ProducesValidationProblem();
        app.MapGet("/api/visits/{id:guid}/plan", async (Guid id, PlanStore plans) => TypedResults.Ok(await plans.LogAsync(id))).RequireAuthorization(Policies.SignedIn);
        app.MapPut("/api/visits/{id:guid}/plan", MoveAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        app.MapPost("/api/visits/{id:guid}/cancel", CancelAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        var calls = app.MapGroup("/api/calls").RequireAuthorization(Policies.Desk);
        app.MapPost("/api/stoves/{id:guid}/suspects", SuspectsAsync).RequireAuthorization(Policies.SignedIn).Produces<SuspectsAnswer>().ProducesValidationProblem().ProducesProblem(404);
        calls.MapPost("", TakeAsync).Produces(204).ProducesValidationProblem().ProducesProblem(409);
        calls.MapPost("/{id:guid}/plan", PlanCallAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        calls.MapPost("/{id:guid}/close", CloseAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> WeekAsync([FromQuery] DateOnly? day, ClaimsPrincipal user, VisitStore visits, PlanStore plans, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var asked = day ?? today;
        if (asked < today.AddYears(-10) || asked > today.AddYears(2))
            return Faults.Refused("day", $"A week lies between {today.AddYears(-10):yyyy-MM-dd} and {today.AddYears(2):yyyy-MM-dd}.");
        var monday = SeasonEndpoints.MondayOf(asked);
        var round = await visits.RoundAsync(firm.Span(monday).From, firm.Span(monday.AddDays(6)).Before, user.IsInRole("technician") ? user.PersonId() : null);
        return TypedResults.Ok(new WeekAnswer(today, monday, firm.Works, await people.TechniciansAsync(),
            [.. round.Select((s, i) => new WeekVisit(s, firm.Day(s.PlannedStart), firm.Time(s.PlannedStart), firm.Time(s.PlannedEnd), DriveTo(s, i > 0 ? round[i - 1] : null, firm)))],
            user.IsInRole("technician") ? [] : await plans.WaitingAsync()));
    }

    private static double? DriveTo(RoundStop stop, RoundStop? before, Firm firm) =>
        before?.TechnicianId == stop.TechnicianId && firm.Day(before.PlannedStart) == firm.Day(stop.PlannedStart)
            ? Math.Round(Road.Minutes(before.Latitude, before.Longitude, stop.Latitude, stop.Longitude), 1) : null;

    private static async Task<IResult> MoveAsync(Guid id, PlanMove move, ClaimsPrincipal user, VisitStore visits, PlanStore plans, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        if (await visits.FindAsync(id) is not { } visit)
            return Faults.Missing("visit");
        var firm = await firms.GetAsync();
        if (await SeasonEndpoints.RefusedAsync(new EntryErrors(), move.TechnicianId, move.Day, move.Time, move.Minutes, move.Despite, firm, people, clock) is { } refused)
            return refused;
        var start = firm.At(move.Day, move.Time);
        var who = (await people.TechniciansAsync()).First(t => t.Id == move.TechnicianId).Name;
        var what = $"{(visit.State == "cancelled" ? "Planned again" : "Moved")}: {who}, {move.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)} {move.Time:HH:mm}, {move.Minutes} min; "
            + $"it was {visit.Technician}, {firm.Local(visit.PlannedStart).ToString("yyyy-MM-dd HH:mm", CultureInfo.InvariantCulture)}.";
        return Answer(await plans.MoveAsync(id, move.BaseVersion, move.TechnicianId, start, start.AddMinutes(move.Minutes), what, user.PersonId(), clock.GetUtcNow()), who);
    }

    private static async Task<IResult> CancelAsync(Guid id, PlanCancel cancel, ClaimsPrincipal user, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("why", cancel.Why, "Why it is cancelled", 500, needed: true);
        return errors.Any ? Faults.Refused(errors) : Answer(await plans.CancelAsync(id, cancel.BaseVersion, cancel.Why.Trim(), user.PersonId(), clock.GetUtcNow()), "");
    }

    private static async Task<IResult> SuspectsAsync(Guid id, Suspects told, [FromQuery] string? units, HistoryStore histories, TimeProvider clock)
    {
        if (await histories.StoveAsync(id) is not { } known)
            return Faults.Missing("stove");
        var errors = new EntryErrors(Asked.UnitsOf(units));
        return SuspectsAnswer.To(told, Before(known, clock, Asked.UnitsOf(units)), errors) is { } answer ? TypedResults.Ok(answer) : Faults.Refused(errors);
    }

    private static async Task<IResult> TakeAsync(CallEntry call, ClaimsPrincipal user, HistoryStore histories, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", call.Id, "A call");
        errors.CheckText("words", call.Words, "What is wrong", 1000, needed: true);
        errors.CheckText("wish", call.Wish, "When they can", 200);
        SeasonEndpoints.CheckMinutes(call.Minutes ?? UsualMinutes, errors);
        if (!errors.Any && call.Told is { Count: > 0 } && await histories.StoveAsync(call.ApplianceId) is { } known)
            SuspectsAnswer.To(new Suspects(call.Told), Before(known, clock, UnitSystem.Metric), errors);
        if (errors.Any)
            return Faults.Refused(errors);
        return await plans.TakeCallAsync(call.Id, call.ApplianceId, call.Words.Trim(), call.Urgent, call.Wish.Trim(), call.Minutes ?? UsualMinutes, JsonSerializer.Serialize(call.Told ?? new Dictionary<string, bool>()), user.PersonId(), clock.GetUtcNow())
            ? TypedResults.NoContent() : Faults.Refused("applianceId", "There is no such stove, or this call's id was used before for another one.");
    }

    private static async Task<IResult> PlanCallAsync(Guid id, CallPlan plan, ClaimsPrincipal user, VisitStore visits, VisitRecords records, StationStore stations, PlanStore plans, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", plan.Id, "A visit");
        if (await plans.CallAsync(id) is not { } call)
            return Faults.Missing("call that waits");
        var firm = await firms.GetAsync();
        if (await SeasonEndpoints.RefusedAsync(errors, plan.TechnicianId, plan.Day, plan.Time, plan.Minutes, plan.Despite, firm, people, clock) is { } refused)
            return refused;
        var start = firm.At(plan.Day, plan.Time);
        var state = await visits.PlanAsync(new VisitPlan(plan.Id, call.ApplianceId, plan.TechnicianId, start, start.AddMinutes(plan.Minutes), "trouble call", false, [], "", call.Words), user.PersonId(), clock.GetUtcNow());
        if (state == PlanState.Planned && await plans.SettleAsync(id, plan.Id, "", clock.GetUtcNow()) && JsonSerializer.Deserialize<Dictionary<string, bool>>(call.Told) is { Count: > 0 } told)
            await KeepToldAsync(plan.Id, new Suspects(told), user, records, stations, clock);
        return SeasonEndpoints.Answer(state);
    }

    // What was asked on the telephone stands in the visit from its first minute.
    private static async Task KeepToldAsync(Guid visitId, Suspects told, ClaimsPrincipal user, VisitRecords records, StationStore stations, TimeProvider clock)
    {
        var (station, now) = (new SuspectsStation(), clock.GetUtcNow());
        if (await records.FindAsync(visitId, UnitSystem.Metric) is { } record && station.Reckon(told, record.Context, new EntryErrors()) is { } kept)
            await stations.SaveAsync(StationRow.Of(visitId, VisitSteps.Booking, station, kept, 0, Guid.CreateVersion7(), now, user.Name()), kept, user.PersonId(), now);
    }

    private static VisitContext Before(StoveRecord known, TimeProvider clock, UnitSystem units)
    {
        var today = known.Firm.Day(clock.GetUtcNow());
        return new VisitContext(known.History, today, today, units, [], []);
    }

    private static async Task<IResult> CloseAsync(Guid id, CallClosing closing, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("why", closing.Why, "Why it needs no visit", 500, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        return await plans.SettleAsync(id, null, closing.Why.Trim(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("call that waits");
    }

    private static IResult Answer(PlanChange change, string who) => change switch
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
