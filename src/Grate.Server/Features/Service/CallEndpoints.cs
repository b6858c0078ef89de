using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Diagnosis;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A call as taken.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="Words">What is wrong, in their words, 1 to 1 000 characters.</param>
/// <param name="Urgent">Whether it cannot wait: unsafe, or smoke in the room.</param>
/// <param name="Wish">When they can, up to 200 characters.</param>
/// <param name="Minutes">How long it will take, 15 to 600; an hour where nothing is said.</param>
/// <param name="Told">What was asked: finding to yes or no.</param>
/// <param name="Emergency">The emergency that was pressed, or null: it cannot wait then.</param>
/// <param name="Solved">Whether it was solved by telephone; only where the suspects say that it can be.</param>
public sealed record CallEntry(Guid Id, Guid ApplianceId, string Words, bool Urgent, string Wish = "", int? Minutes = null, IReadOnlyDictionary<string, bool>? Told = null, bool Solved = false,
    [property: Words(typeof(EmergencyKind))] string? Emergency = null);

/// <summary>A call becomes a visit.</summary>
/// <param name="Id">UUIDv7 made by the client, of the visit.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="Minutes">How long.</param>
/// <param name="Despite">Whether what is asked back was answered.</param>
/// <param name="Bring">An open visit of the stove that is brought to this time, and which the call joins; null plans a visit of its own.</param>
public sealed record CallPlan(Guid Id, Guid TechnicianId, DateOnly Day, TimeOnly Time, int Minutes, bool Despite = false, Guid? Bring = null);

/// <summary>A call that joins a visit as it is planned.</summary>
/// <param name="VisitId">The stove's open visit.</param>
public sealed record CallJoining(Guid VisitId);

/// <summary>Why a call needs no visit.</summary>
/// <param name="Why">1 to 500 characters.</param>
public sealed record CallClosing(string Why);

/// <summary>What a look back at a call said.</summary>
/// <param name="Helped">Whether it helped; else it waits for a day again.</param>
public sealed record LookingBack(bool Helped);

/// <summary>Calls: what may be wrong, and the list of those that wait for a day.</summary>
public static class CallEndpoints
{
    private const int UsualMinutes = 60, LookBackDays = 7;

    /// <summary>Maps the calls.</summary>
    public static void MapCalls(this WebApplication app)
    {
        app.MapPost("/api/stoves/{id:guid}/suspects", SuspectsAsync).RequireAuthorization(Policies.SignedIn).Produces<SuspectsAnswer>().ProducesValidationProblem().ProducesProblem(404);
        var calls = app.MapGroup("/api/calls").RequireAuthorization(Policies.Desk);
        calls.MapPost("", TakeAsync).Produces(204).ProducesValidationProblem().ProducesProblem(409);
        calls.MapPost("/{id:guid}/plan", PlanCallAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        calls.MapPost("/{id:guid}/join", async (Guid id, CallJoining joining, ClaimsPrincipal user, PlanStore plans, CallDesk desk) =>
            await plans.BecameAsync(id, joining.VisitId) || await desk.JoinAsync(id, joining.VisitId, user) ? TypedResults.NoContent() : Faults.Missing("call that waits, or open visit of its stove")).Produces(204).ProducesProblem(404);
        calls.MapPost("/{id:guid}/look-back", async (Guid id, LookingBack looking, PlanStore plans, TimeProvider clock) =>
            await plans.LookedBackAsync(id, looking.Helped, clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("call to look back at")).Produces(204).ProducesProblem(404);
        calls.MapPost("/{id:guid}/close", CloseAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> SuspectsAsync(Guid id, Suspects told, [FromQuery] string? units, HistoryStore histories, TimeProvider clock)
    {
        if (await histories.StoveAsync(id) is not { } known)
            return Faults.Missing("stove");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        return SuspectsAnswer.To(told, known.History.On(known.Firm.Day(clock.GetUtcNow()), system), errors) is { } answer ? TypedResults.Ok(answer) : Faults.Refused(errors);
    }

    private static async Task<IResult> TakeAsync(CallEntry call, ClaimsPrincipal user, HistoryStore histories, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", call.Id, "A call");
        errors.CheckText("words", call.Words, "What is wrong", 1000, needed: true);
        errors.CheckText("wish", call.Wish, "When they can", 200);
        errors.CheckWord<EmergencyKind>("emergency", call.Emergency, "The emergency");
        if (call.Solved && call.Emergency is not null)
            errors.Add("solved", "An emergency is not solved by telephone.");
        Planning.CheckMinutes(call.Minutes ?? UsualMinutes, errors);
        var (now, today, told) = (clock.GetUtcNow(), default(DateOnly), new Suspects(call.Told));
        SuspectsAnswer? suspects = null;
        if (!errors.Any && (call.Told is { Count: > 0 } || call.Solved) && await histories.StoveAsync(call.ApplianceId) is { } known)
        {
            today = known.Firm.Day(now);
            told.Offered(known.History.Stove, errors);
            if (call.Solved && !errors.Any)
                suspects = SuspectsAnswer.To(told, known.History.On(today, UnitSystem.Metric), errors);
        }
        if (call.Solved && !errors.Any && suspects?.ByTelephone is null)
            errors.Add("solved", "This is not solved by telephone: no habit is sure, or something dangerous is not ruled out.");
        if (errors.Any)
            return Faults.Refused(errors);
        var taken = await plans.TakeCallAsync(new(call.Id, call.ApplianceId, call.Words.Trim(), call.Urgent || call.Emergency is not null, call.Wish.Trim(), call.Minutes ?? UsualMinutes,
            JsonSerializer.Serialize(call.Told ?? new Dictionary<string, bool>()), call.Emergency), user.PersonId(), now);
        if (!taken)
            return Faults.Refused("applianceId", "There is no such stove, or this call's id was used before for another one.");
        if (call.Solved)
            await plans.SolveAsync(call.Id, $"Solved by telephone: {suspects!.ByTelephone}.", today.AddDays(LookBackDays), now);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> PlanCallAsync(Guid id, CallPlan plan, ClaimsPrincipal user, VisitStore visits, PlanStore plans, FirmStore firms, PlanDesk desk, CallDesk calls, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", plan.Id, "A visit");
        if (await plans.CallAsync(id) is not { } call)
            return await plans.BecameAsync(id, plan.Bring ?? plan.Id) ? TypedResults.NoContent() : Faults.Missing("call that waits");
        var firm = await firms.GetAsync();
        if (await desk.RefusedAsync(errors, new(call.ApplianceId, plan.TechnicianId, [], plan.Day, plan.Time, plan.Minutes), plan.Despite) is { } refused)
            return refused;
        var (start, now) = (firm.At(plan.Day, plan.Time), clock.GetUtcNow());
        if (plan.Bring is { } bring)
        {
            if (await visits.FindAsync(bring) is not { State: "open" } open || open.ApplianceId != call.ApplianceId)
                return Faults.Missing("open visit of this stove");
            var moved = await plans.MoveAsync(bring, await plans.VersionAsync(bring), plan.TechnicianId, [.. (open.Helpers ?? []).Where(h => h != plan.TechnicianId)], start, start.AddMinutes(plan.Minutes),
                $"Brought to {firm.Local(start):yyyy-MM-dd HH:mm} for a call; it was {open.Technician}, {firm.Local(open.PlannedStart):yyyy-MM-dd HH:mm}.", user.PersonId(), now);
            return moved == PlanChange.Done && await calls.JoinAsync(id, bring, user) ? TypedResults.NoContent() : WeekEndpoints.Answer(moved, open.Technician);
        }
        var state = await visits.PlanAsync(new VisitPlan(plan.Id, call.ApplianceId, plan.TechnicianId, start, start.AddMinutes(plan.Minutes), "trouble call", false, [], "", call.Words), user.PersonId(), now);
        if (state == PlanState.Planned && await plans.SettleAsync(id, plan.Id, "", now))
            await calls.KeepToldAsync(plan.Id, call, user);
        return await Planning.AnswerAsync(state, call.ApplianceId, visits, firm);
    }

    private static async Task<IResult> CloseAsync(Guid id, CallClosing closing, PlanStore plans, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("why", closing.Why, "Why it needs no visit", 500, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        return await plans.SettleAsync(id, null, closing.Why.Trim(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("call that waits");
    }
}

/// <summary>Calls and the visits that they become.</summary>
public sealed class CallDesk(PlanStore plans, VisitRecords records, StationStore stations, TimeProvider clock)
{
    /// <summary>A call joins a stove's open visit, with what was asked on the telephone.</summary>
    /// <returns>False if it waits no more, or the visit is not open.</returns>
    public async Task<bool> JoinAsync(Guid id, Guid visitId, ClaimsPrincipal user)
    {
        if (await plans.CallAsync(id) is not { } call || !await plans.JoinAsync(id, visitId, user.PersonId(), clock.GetUtcNow()))
            return false;
        await KeepToldAsync(visitId, call, user);
        return true;
    }

    /// <summary>What was asked on the telephone stands in the visit from its first minute; what stands there already is not written over.</summary>
    public async Task KeepToldAsync(Guid visitId, WaitingCall call, ClaimsPrincipal user)
    {
        if (JsonSerializer.Deserialize<Dictionary<string, bool>>(call.Told) is not { Count: > 0 } told)
            return;
        var (station, now) = (new SuspectsStation(), clock.GetUtcNow());
        if (await records.FindAsync(visitId, UnitSystem.Metric) is { } record && station.Reckon(new Suspects(told), record.Context, new EntryErrors()) is { } kept)
            await stations.SaveAsync(StationRow.Of(visitId, VisitSteps.Booking, station, kept, 0, Guid.CreateVersion7(), now, user.Name()), kept, user.PersonId(), now);
    }
}
