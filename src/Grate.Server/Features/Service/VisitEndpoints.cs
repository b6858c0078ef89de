using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Flue;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>Visits: read, save steps and findings, sign, add.</summary>
public static class VisitEndpoints
{
    /// <summary>Maps the visit endpoints.</summary>
    public static void MapVisits(this WebApplication app)
    {
        app.MapGet("/api/visits/{id:guid}", ReadAsync).RequireAuthorization(Policies.SignedIn).Produces<VisitAnswer>().ProducesProblem(404);
        var writes = app.MapGroup("/api/visits/{id:guid}").RequireAuthorization(Policies.Field).AddEndpointFilter<MayWriteFilter>();
        writes.MapPut("/steps/{step}", SaveStepAsync).Produces<SavedStep>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapPut("/findings/{findingId:guid}", SaveFindingAsync).Produces<FindingRow>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapDelete("/findings/{part}", DropFindingAsync).Produces(204).ProducesProblem(409);
        writes.MapPost("/sign", SignAsync).Produces<VisitAnswer>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapPost("/additions", AddAsync).Produces(204).ProducesValidationProblem();
    }

    private static async Task<IResult> ReadAsync(Guid id, ClaimsPrincipal user, VisitDocument documents) =>
        await documents.ReadAsync(id, user) is { } answer ? TypedResults.Ok(answer) : Faults.Missing("visit");

    private static async Task<IResult> SaveStepAsync(Guid id, string step, StepSave save, [FromQuery] string? units, ClaimsPrincipal user,
        VisitDocument documents, VisitStore visits, DueKeeper due, TimeProvider clock)
    {
        var system = DraftEndpoints.SystemOf(units);
        var errors = new EntryErrors(system);
        VisitEntries.Check(step, save, errors);
        var at = (await documents.FindAsync(id))!;
        var readings = errors.Any || step != VisitEntries.HotTestStep ? null : await documents.ConcludeAsync(at, save.HotTest, errors, system);
        var concluded = errors.Any ? null : await documents.ConcludeAsync(at, save, errors, system);
        if (errors.Any)
            return Faults.Refused(errors);
        var row = new StepRow(step, save.Status, save.Reason.Trim(), save.Note, VisitEntries.Written(save),
            concluded is null ? null : JsonSerializer.Serialize(concluded, Json.Options), concluded is null ? null : Rules.Version,
            save.BaseVersion, save.SaveId, default, "");
        var now = clock.GetUtcNow().UtcDateTime;
        var outcome = await visits.SaveStepAsync(id, row, readings, user.PersonId(), now);
        if (outcome.State == SaveState.Saved && await VisitEntries.KeepComputedStopAsync(visits, id, step, save, user.PersonId(), now))
            await due.StoveAsync(at.Stove.Id);
        return Answer(outcome, VisitEntries.Saved);
    }

    private static async Task<IResult> SaveFindingAsync(Guid id, Guid findingId, FindingSave save, ClaimsPrincipal user,
        VisitStore visits, DueKeeper due, TimeProvider clock)
    {
        var errors = new EntryErrors();
        VisitEntries.Check(findingId, save, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        var row = new FindingRow(findingId, id, save.Part, save.Condition, save.Note.Trim(), save.LookAgain,
            save.Condition == Word.Of(Condition.Unsafe) ? save.StopCode : null, save.BaseVersion, save.SaveId, default, "");
        var outcome = await visits.SaveFindingAsync(row, user.PersonId(), clock.GetUtcNow().UtcDateTime);
        if (outcome.State == SaveState.Saved)
            await due.StoveAsync((await visits.FindAsync(id))!.ApplianceId);
        return Answer(outcome, f => f);
    }

    private static async Task<IResult> DropFindingAsync(Guid id, string part, VisitStore visits, DueKeeper due)
    {
        var errors = new EntryErrors();
        VisitEntries.CheckPart(part, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        if (await visits.DropFindingAsync(id, part) == SaveState.Signed)
            return Signed();
        await due.StoveAsync((await visits.FindAsync(id))!.ApplianceId);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> SignAsync(Guid id, ClaimsPrincipal user, VisitDocument documents, VisitStore visits, DueKeeper due, TimeProvider clock)
    {
        var before = (await documents.ReadAsync(id, user))!;
        var open = before.Steps.Where(s => s.Code != VisitEntries.LastStep && s.Saved is null or { Status: "open" }).Select(s => s.Name).ToList();
        if (open.Count > 0 && before.Visit.State == "open")
            return Faults.Refused("steps", $"Still open: {string.Join(", ", open)}. Do them, or skip them with a reason.");
        if (before.Visit.State == "open" && before.Steps.Any(s => s.Saved?.Sweep?.Record is { PartsOff: true }))
            return Faults.Refused("steps", "The brush was in the flue, and probe, combustor and baffle are not ticked as back: no visit is finished with a part off.");
        var now = clock.GetUtcNow().UtcDateTime;
        if (await visits.SignAsync(id, user.PersonId(), now, before.ProposedInspection) == SaveState.Signed)
            return Signed();
        await due.StoveAsync(before.Visit.ApplianceId);
        return TypedResults.Ok(await documents.ReadAsync(id, user));
    }

    private static async Task<IResult> AddAsync(Guid id, AdditionEntry entry, ClaimsPrincipal user, VisitStore visits, TimeProvider clock)
    {
        if (entry.Text.Trim().Length is 0 or > 5000)
            return Faults.Refused("text", "An addition has 1 to 5 000 characters.");
        if ((await visits.FindAsync(id))!.State != "signed")
            return Faults.Refused("text", "This visit is not signed yet: write into the step itself.");
        await visits.AddAsync(entry.Id, id, user.PersonId(), clock.GetUtcNow().UtcDateTime, entry.Text.Trim());
        return TypedResults.NoContent();
    }

    private static IResult Answer<TRow, TAnswer>(SaveOutcome<TRow> outcome, Func<TRow, TAnswer> answer)
        where TRow : class
        where TAnswer : class => outcome.State switch
        {
            SaveState.Saved => TypedResults.Ok(answer(outcome.Stored!)),
            SaveState.Signed => Signed(),
            _ => TypedResults.Problem(statusCode: 409, title: "Someone saved another version in between.",
                extensions: new Dictionary<string, object?> { ["stored"] = outcome.Stored is null ? null : answer(outcome.Stored) }),
        };

    private static IResult Signed() =>
        TypedResults.Problem(statusCode: 409, title: "This visit is signed and is never changed; corrections are added below it.");
}

/// <summary>Only the visit's technician and the owner write in a visit.</summary>
public sealed class MayWriteFilter(VisitStore visits) : IEndpointFilter
{
    /// <inheritdoc/>
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        var id = Guid.Parse((string)context.HttpContext.GetRouteValue("id")!);
        if (await visits.FindAsync(id) is not { } visit)
            return Faults.Missing("visit");
        return MayWrite(context.HttpContext.User, visit)
            ? await next(context)
            : TypedResults.Problem(statusCode: 403, title: $"This visit is {visit.Technician}'s; only they and the owner write in it.");
    }

    /// <summary>Whether a person may write in a visit.</summary>
    public static bool MayWrite(ClaimsPrincipal user, VisitRow visit) =>
        user.IsInRole("owner") || (user.IsInRole("technician") && visit.TechnicianId == user.PersonId());
}
