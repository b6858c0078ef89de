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
/// <param name="Solved">Whether it was solved by telephone; only where the suspects say that it can be.</param>
public sealed record CallEntry(Guid Id, Guid ApplianceId, string Words, bool Urgent, string Wish = "", int? Minutes = null, IReadOnlyDictionary<string, bool>? Told = null, bool Solved = false);

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
        var taken = await plans.TakeCallAsync(call.Id, call.ApplianceId, call.Words.Trim(), call.Urgent, call.Wish.Trim(), call.Minutes ?? UsualMinutes, JsonSerializer.Serialize(call.Told ?? new Dictionary<string, bool>()), user.PersonId(), now);
        if (!taken)
            return Faults.Refused("applianceId", "There is no such stove, or this call's id was used before for another one.");
        if (call.Solved)
            await plans.SolveAsync(call.Id, $"Solved by telephone: {suspects!.ByTelephone}.", today.AddDays(LookBackDays), now);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> PlanCallAsync(Guid id, CallPlan plan, ClaimsPrincipal user, VisitStore visits, VisitRecords records, StationStore stations, PlanStore plans, FirmStore firms, PlanDesk desk, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", plan.Id, "A visit");
        if (await plans.CallAsync(id) is not { } call)
            return Faults.Missing("call that waits");
        var firm = await firms.GetAsync();
        if (await desk.RefusedAsync(errors, new(call.ApplianceId, plan.TechnicianId, [], plan.Day, plan.Time, plan.Minutes), plan.Despite) is { } refused)
            return refused;
        var start = firm.At(plan.Day, plan.Time);
        var state = await visits.PlanAsync(new VisitPlan(plan.Id, call.ApplianceId, plan.TechnicianId, start, start.AddMinutes(plan.Minutes), "trouble call", false, [], "", call.Words), user.PersonId(), clock.GetUtcNow());
        if (state == PlanState.Planned && await plans.SettleAsync(id, plan.Id, "", clock.GetUtcNow()) && JsonSerializer.Deserialize<Dictionary<string, bool>>(call.Told) is { Count: > 0 } told)
            await KeepToldAsync(plan.Id, new Suspects(told), user, records, stations, clock);
        return Planning.Answer(state);
    }

    // What was asked on the telephone stands in the visit from its first minute.
    private static async Task KeepToldAsync(Guid visitId, Suspects told, ClaimsPrincipal user, VisitRecords records, StationStore stations, TimeProvider clock)
    {
        var (station, now) = (new SuspectsStation(), clock.GetUtcNow());
        if (await records.FindAsync(visitId, UnitSystem.Metric) is { } record && station.Reckon(told, record.Context, new EntryErrors()) is { } kept)
            await stations.SaveAsync(StationRow.Of(visitId, VisitSteps.Booking, station, kept, 0, Guid.CreateVersion7(), now, user.Name()), kept, user.PersonId(), now);
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
