using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Visits;

/// <summary>Visits: read, save steps and findings, sign, add. Stations have endpoints of their own.</summary>
public static class VisitEndpoints
{
    /// <summary>Maps the visit endpoints.</summary>
    public static void MapVisits(this WebApplication app)
    {
        app.MapGet("/api/visits/{id:guid}", ReadAsync).RequireAuthorization(Policies.SignedIn).Produces<VisitAnswer>().ProducesProblem(404);
        var writes = app.MapGroup("/api/visits/{id:guid}").RequireAuthorization(Policies.Field).AddEndpointFilter<MayWriteFilter>();
        writes.MapPut("/steps/{step}", SaveStepAsync).Produces<StepRow>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapPut("/findings/{findingId:guid}", SaveFindingAsync).Produces<FindingRow>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapDelete("/findings/{findingId:guid}", DropFindingAsync).Produces(204).ProducesValidationProblem().ProducesProblem(409);
        writes.MapPost("/sign", SignAsync).Produces<VisitAnswer>().ProducesValidationProblem().ProducesProblem(409);
        writes.MapPost("/additions", AddAsync).Produces(204).ProducesValidationProblem().ProducesProblem(409);
    }

    private static async Task<IResult> ReadAsync(Guid id, [FromQuery] string? units, ClaimsPrincipal user, VisitDocument documents) =>
        await documents.ReadAsync(id, Asked.UnitsOf(units), user) is { } answer ? TypedResults.Ok(answer) : Faults.Missing("visit");

    private static async Task<IResult> SaveStepAsync(Guid id, string step, StepSave save, ClaimsPrincipal user, VisitStore visits, TimeProvider clock)
    {
        var errors = new EntryErrors();
        save.Check(step, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        var now = clock.GetUtcNow();
        return Saving.Answer(await visits.SaveStepAsync(new StepRow(id, step, save.Status, save.Reason.Trim(), save.Note, save.BaseVersion, save.SaveId, now, user.Name()),
            user.PersonId(), now), row => row);
    }

    private static async Task<IResult> SaveFindingAsync(Guid id, Guid findingId, FindingSave save, HttpContext context, ClaimsPrincipal user,
        VisitStore visits, FirmStore firms, Parts parts, DueKeeper due, TimeProvider clock)
    {
        var errors = new EntryErrors();
        var visit = MayWriteFilter.VisitOf(context);
        save.Check(findingId, parts.Mark, code => parts.Stop(code) is not null, (await firms.GetAsync()).Day(visit.PlannedStart), errors);
        if (errors.Any)
            return Faults.Refused(errors);
        var now = clock.GetUtcNow();
        var row = new FindingRow(findingId, id, save.Step, save.Part, save.Condition, save.Note.Trim(), save.LookAgain,
            save.Condition == Word.Of(Condition.Unsafe) ? save.StopCode : null, save.BaseVersion, save.SaveId, now, user.Name());
        var (outcome, covered) = await visits.SaveFindingAsync(row, save.Covers, user.PersonId(), now);
        if (covered is not null)
        {
            var sentence = $"{VisitSteps.Find(covered.Step)!.Name} says that the {parts.NameOf(save.Part)} is {Word.Said(covered.Condition).ToLowerInvariant()}. One word counts: is it {Word.Said(Word.Find<Condition>(save.Condition)!.Value).ToLowerInvariant()} now?";
            return Faults.Refused("covers", sentence, new() { ["covered"] = Word.Of(covered.Condition) });
        }
        if (outcome.StopsChanged)
            await due.StoveAsync(visit.ApplianceId);
        return Saving.Answer(outcome, f => f);
    }

    private static async Task<IResult> DropFindingAsync(Guid id, Guid findingId, [FromQuery] int? baseVersion, VisitStore visits)
    {
        if (baseVersion is not { } version)
            return Faults.Refused("baseVersion", "Say which version of the finding is taken back.");
        var outcome = await visits.DropFindingAsync(id, findingId, version);
        return outcome.State == SaveState.Saved ? TypedResults.NoContent() : Saving.Answer(outcome, f => f);
    }

    private static async Task<IResult> SignAsync(Guid id, SignEntry entry, [FromQuery] string? units, HttpContext context, ClaimsPrincipal user, VisitDocument documents, VisitStore visits, DueKeeper due, TimeProvider clock)
    {
        var errors = new EntryErrors();
        var state = await visits.SignAsync(id, user.PersonId(), clock.GetUtcNow(), connection => documents.SignedAsAsync(connection, id, entry, errors));
        if (state != SaveState.Saved)
            return state == SaveState.Signed ? Saving.Signed() : Faults.Refused(errors);
        await due.StoveAsync(MayWriteFilter.VisitOf(context).ApplianceId);
        return TypedResults.Ok(await documents.ReadAsync(id, Asked.UnitsOf(units), user));
    }

    private static async Task<IResult> AddAsync(Guid id, AdditionEntry entry, HttpContext context, ClaimsPrincipal user, VisitStore visits, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", entry.Id, "An addition");
        errors.CheckText("text", entry.Text, "An addition", 5000, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        if (MayWriteFilter.VisitOf(context).State != "signed")
            return Faults.Refused("text", "This visit is not signed yet: write into the step itself.");
        return await visits.AddAsync(entry.Id, id, user.PersonId(), clock.GetUtcNow(), entry.Text.Trim()) == SaveState.Saved
            ? TypedResults.NoContent() : Saving.Reused();
    }
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
        context.HttpContext.Items[typeof(VisitRow)] = visit;
        return MayWrite(context.HttpContext.User, visit) ? await next(context) : Refused(visit);
    }

    /// <summary>The visit that the filter looked at: it is not read again.</summary>
    public static VisitRow VisitOf(HttpContext context) => (VisitRow)context.Items[typeof(VisitRow)]!;

    /// <summary>403: it is someone else's.</summary>
    public static IResult Refused(VisitRow visit) =>
        TypedResults.Problem(statusCode: 403, title: $"This visit is {visit.Technician}'s; only they and the owner write in it.");

    /// <summary>Whether a person may write in a visit.</summary>
    public static bool MayWrite(ClaimsPrincipal user, VisitRow visit) =>
        user.IsInRole("owner") || (user.IsInRole("technician") && visit.TechnicianId == user.PersonId());
}
