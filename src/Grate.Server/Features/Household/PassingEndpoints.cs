using System.Security.Claims;
using System.Text;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Household;

/// <summary>Another record of the same household.</summary>
/// <param name="OtherId">Its id: its houses pass to this one.</param>
public sealed record JoinEntry(Guid OtherId);

/// <summary>A household moves out of a house.</summary>
/// <param name="Next">Who lives there now; its id is a UUIDv7 made by the client.</param>
/// <param name="Sold">Whether the house was sold.</param>
public sealed record MovingOut(Customer Next, bool Sold);

/// <summary>Another stove on the same flue.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="Stove">What was told of it.</param>
public sealed record Replacement(Guid Id, NewStove Stove);

/// <summary>A household is forgotten: it cannot be taken back.</summary>
/// <param name="Sure">Whether it was asked once more.</param>
public sealed record Forgetting(bool Sure = false);

/// <summary>Households that pass: joined, moved out, forgotten; their stoves replaced; what is kept of them handed out.</summary>
public static class PassingEndpoints
{
    private static readonly BodyLimit _cardLimit = new(64 * 1024, "A vCard is at most 64 KB.");

    /// <summary>Maps them.</summary>
    public static void MapPassings(this WebApplication app)
    {
        var household = app.MapGroup("/api/households/{id:guid}").RequireAuthorization(Policies.Desk);
        household.MapPost("/join", JoinAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404);
        household.MapPost("/houses/{houseId:guid}/moved-out", MoveOutAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapPost("/stoves/{stoveId:guid}/replace", ReplaceAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapGet("/everything.json", async (Guid id, PassingStore passings) => await passings.EverythingAsync(id) is { } document
            ? TypedResults.File(Encoding.UTF8.GetBytes(document), "application/json", $"household-{id}.json") : Faults.Missing("household")).Produces<string>(200, "application/json").ProducesProblem(404);
        household.MapGet("/everything", EverythingAsync).Produces<string>(200, "text/html").ProducesProblem(404);
        household.MapGet("/card.vcf", async (Guid id, BookStore books) => await books.FindAsync(id) is { } found
            ? TypedResults.File(Encoding.UTF8.GetBytes(VCard.Of(found.Customer, found.Houses is [var first, ..] ? first.House : null)), VCard.Type, $"household-{id}.vcf") : Faults.Missing("household")).Produces<string>(200, "text/vcard").ProducesProblem(404);
        app.MapPost("/api/households/card", ReadCardAsync).RequireAuthorization(Policies.Desk).WithMetadata(_cardLimit).TakesFile("text/vcard").Produces<NewHousehold>().ProducesValidationProblem().ProducesProblem(413);
        app.MapPost("/api/households/{id:guid}/forget", ForgetAsync).RequireAuthorization(Policies.Owner).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> JoinAsync(Guid id, JoinEntry entry, ClaimsPrincipal user, BookStore books, PassingStore passings, TimeProvider clock) => entry.OtherId == id
        ? Faults.Refused("otherId", "A household is joined with another record, not with itself.")
        : await BookEndpoints.AnswerAsync(books, id, await passings.JoinAsync(id, entry.OtherId, user.PersonId(), clock.GetUtcNow()));

    private static async Task<IResult> MoveOutAsync(Guid id, Guid houseId, MovingOut moving, ClaimsPrincipal user, BookStore books, PassingStore passings, FirmStore firms, DueKeeper due, Languages languages, TimeProvider clock)
    {
        var errors = new EntryErrors();
        languages.Check("next.language", moving.Next.Language, errors);
        errors.CheckId("next.id", moving.Next.Id, "A household");
        var next = new EntryErrors();
        moving.Next.Check(next);
        errors.TakeOver(next, field => $"next.{field}");
        if (errors.Any)
            return Faults.Refused(errors);
        var now = clock.GetUtcNow();
        var state = await passings.MoveOutAsync(id, houseId, moving.Next.Tidy(), moving.Sold, (await firms.GetAsync()).Day(now), user.PersonId(), now);
        if (state == BookState.Written && await books.FindAsync(moving.Next.Id) is { } there)
        {
            foreach (var stove in there.Houses.SelectMany(h => h.Stoves).Where(s => s.OutAt is null))
                await due.StoveAsync(stove.Stove.Id);
        }
        return state == BookState.Visited ? TypedResults.Problem(statusCode: 409, title: "A stove of this house has an open visit: sign or cancel it first.") : await BookEndpoints.AnswerAsync(books, moving.Next.Id, state);
    }

    private static async Task<IResult> ReplaceAsync(Guid id, Guid stoveId, Replacement replacement, [FromQuery] string? units, ClaimsPrincipal user, BookStore books, PassingStore passings, StoveStore stoves, FirmStore firms, DueKeeper due, TimeProvider clock)
    {
        if (await books.FindAsync(id) is not { } household || household.Houses.FirstOrDefault(h => h.Stoves.Any(s => s.Stove.Id == stoveId)) is not { } at || await stoves.NewestFlueAsync(stoveId) is not { } flue)
            return Faults.Missing("stove of this household");
        var errors = new EntryErrors(Asked.UnitsOf(units));
        errors.CheckId("id", replacement.Id, "A stove");
        var now = clock.GetUtcNow();
        var today = (await firms.GetAsync()).Day(now);
        // Where the one before it stood, unless another storey is told.
        var told = replacement.Stove with { Storey = replacement.Stove.Storey ?? at.Stoves.Single(s => s.Stove.Id == stoveId).Stove.Storey };
        if (told.On(replacement.Id, at.House, today, errors) is not var (stove, assumed) || errors.Any)
            return Faults.Refused(errors);
        var state = await passings.ReplaceAsync(stoveId, stove, told.Serial?.Trim() ?? "", assumed, flue with { Id = Guid.CreateVersion7(), Number = 1, ValidFrom = today }, today, user.PersonId(), now);
        if (state == BookState.Written)
            await due.StoveAsync(replacement.Id);
        return await BookEndpoints.AnswerAsync(books, id, state);
    }

    private static async Task<IResult> ForgetAsync(Guid id, Forgetting forgetting, BookStore books, PassingStore passings, TimeProvider clock)
    {
        if (!forgetting.Sure)
            return Faults.Refused("sure", "A household that is forgotten cannot be brought back: confirm it once more.");
        return await passings.ForgetAsync(id, clock.GetUtcNow()) ? TypedResults.Ok(await books.FindAsync(id)) : Faults.Missing("household");
    }

    private static async Task<IResult> EverythingAsync(Guid id, HttpContext context, PassingStore passings, FirmStore firms)
    {
        if (await passings.EverythingAsync(id) is not { } document)
            return Faults.Missing("household");
        context.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.Content(EverythingHtml.Page(document, await firms.GetAsync()), "text/html", Encoding.UTF8);
    }

    private static async Task<IResult> ReadCardAsync(HttpRequest request)
    {
        using var reader = new StreamReader(request.Body, Encoding.UTF8);
        var errors = new EntryErrors();
        return VCard.Read(await reader.ReadToEndAsync(), errors) is { } household ? TypedResults.Ok(household) : Faults.Refused(errors);
    }
}
