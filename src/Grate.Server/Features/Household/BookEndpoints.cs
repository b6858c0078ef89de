using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Household;

/// <summary>A household to write down.</summary>
/// <param name="Id">UUIDv7 made by the client, of the customer.</param>
/// <param name="StoveId">UUIDv7 made by the client, of the stove.</param>
/// <param name="Household">What was told.</param>
/// <param name="Despite">Whether it is another one than those with the same number or address.</param>
public sealed record HouseholdEntry(Guid Id, Guid StoveId, NewHousehold Household, bool Despite = false);

/// <summary>Another stove of a house.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="Stove">What was told.</param>
public sealed record StoveEntry(Guid Id, NewStove Stove);

/// <summary>A customer as corrected.</summary>
/// <param name="BaseVersion">Version that was looked at.</param>
/// <param name="Customer">As it is to be.</param>
public sealed record CustomerChange(int BaseVersion, Customer Customer);

/// <summary>A house as corrected; what stands around it is changed with the flue.</summary>
/// <param name="BaseVersion">Version that was looked at.</param>
/// <param name="House">As it is to be.</param>
public sealed record HouseChange(int BaseVersion, House House);

/// <summary>A stove as corrected; its measures are taken at a visit.</summary>
/// <param name="BaseVersion">Version that was looked at.</param>
/// <param name="Stove">As it is to be.</param>
/// <param name="Serial">Its serial number.</param>
public sealed record StoveChange(int BaseVersion, Stove Stove, string Serial);

/// <summary>Why a stove is taken out.</summary>
/// <param name="Why">1 to 200 characters.</param>
public sealed record TakingOut(string Why);

/// <summary>What was looked at on site.</summary>
/// <param name="Fields">Fields that are as they stand in the books.</param>
public sealed record Confirming(IReadOnlyList<string> Fields);

/// <summary>Something that was taken as usual.</summary>
/// <param name="Field">The field.</param>
/// <param name="Say">What was taken.</param>
public sealed record ToConfirm(string Field, string Say);

/// <summary>The firm's books: households, houses and stoves, written and corrected at the desk.</summary>
public static class BookEndpoints
{
    /// <summary>Maps the books.</summary>
    public static void MapBooks(this WebApplication app)
    {
        app.MapGet("/api/households/{id:guid}", async (Guid id, BookStore books) => await books.FindAsync(id) is { } found ? TypedResults.Ok(found) : Faults.Missing("household"))
            .RequireAuthorization(Policies.SignedIn).Produces<BookedHousehold>().ProducesProblem(404);
        app.MapPost("/api/households", AddAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(409);
        var household = app.MapGroup("/api/households/{id:guid}").RequireAuthorization(Policies.Desk);
        household.MapPut("", ChangeCustomerAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapPut("/houses/{houseId:guid}", ChangeHouseAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapPost("/houses/{houseId:guid}/stoves", AddStoveAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapPut("/stoves/{stoveId:guid}", ChangeStoveAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        household.MapPost("/stoves/{stoveId:guid}/out", TakeOutAsync).Produces<BookedHousehold>().ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        app.MapGet("/api/stoves/{id:guid}/unconfirmed", async (Guid id, BookStore books) => TypedResults.Ok((await books.UnconfirmedAsync(id)).Select(f => new ToConfirm(f, Unconfirmed.Say(f))).ToList()))
            .RequireAuthorization(Policies.SignedIn);
        app.MapPost("/api/stoves/{id:guid}/confirm", ConfirmAsync).RequireAuthorization(Policies.SignedIn).Produces(204).ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> AddAsync(HouseholdEntry entry, [FromQuery] string? units, ClaimsPrincipal user, BookStore books, FirmStore firms, DueKeeper due, Languages languages, TimeProvider clock)
    {
        var errors = new EntryErrors(Asked.UnitsOf(units));
        errors.CheckId("id", entry.Id, "A household");
        languages.Check("language", entry.Household.Language, errors);
        errors.CheckId("stoveId", entry.StoveId, "A stove");
        var (firm, told, now) = (await firms.GetAsync(), entry.Household, clock.GetUtcNow());
        var customer = told.Customer(entry.Id, errors);
        var known = await books.WhereaboutsAsync(told.Place?.Trim() ?? "") ?? firm.Works.Home;
        if (told.House(Guid.CreateVersion7(), known, errors) is not var (house, houseAssumed) || (told.Stove ?? new NewStove()).In(entry.StoveId, house, firm.Day(now), errors) is not var (stove, flue, stoveAssumed) || errors.Any)
            return Faults.Refused(errors);
        // A household that is in the books already is asked about once; the same send again is not.
        if (!entry.Despite && (await books.TwinsAsync(customer.Phone, house.Street, house.Place)).Where(t => t.Id != entry.Id).ToList() is { Count: > 0 } twins)
        {
            return TypedResults.Problem(statusCode: 409, title: $"{twins[0].Name}, {twins[0].Street}, {twins[0].Place}, has the same number or address. Is it another household?",
                extensions: new Dictionary<string, object?> { ["twins"] = twins });
        }
        if (await books.AddAsync(customer, house, houseAssumed, stove, told.Stove?.Serial?.Trim() ?? "", flue, stoveAssumed, user.PersonId(), now) == BookState.Reused)
            return Saving.Reused();
        await due.StoveAsync(entry.StoveId);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> AddStoveAsync(Guid id, Guid houseId, StoveEntry entry, [FromQuery] string? units, ClaimsPrincipal user, BookStore books, FirmStore firms, DueKeeper due, TimeProvider clock)
    {
        if (await books.FindAsync(id) is not { } household || household.Houses.FirstOrDefault(h => h.House.Id == houseId) is not { } at)
            return Faults.Missing("house of this household");
        var errors = new EntryErrors(Asked.UnitsOf(units));
        errors.CheckId("id", entry.Id, "A stove");
        var now = clock.GetUtcNow();
        if (entry.Stove.In(entry.Id, at.House, (await firms.GetAsync()).Day(now), errors) is not var (stove, flue, assumed) || errors.Any)
            return Faults.Refused(errors);
        var state = await books.AddStoveAsync(houseId, stove, entry.Stove.Serial?.Trim() ?? "", flue, assumed, user.PersonId(), now);
        if (state == BookState.Written)
            await due.StoveAsync(entry.Id);
        return await AnswerAsync(books, id, state);
    }

    private static async Task<IResult> ChangeCustomerAsync(Guid id, CustomerChange change, ClaimsPrincipal user, BookStore books, Languages languages, TimeProvider clock)
    {
        var errors = new EntryErrors();
        languages.Check("language", change.Customer.Language, errors);
        change.Customer.Check(errors);
        return errors.Any ? Faults.Refused(errors) : await AnswerAsync(books, id, await books.ChangeAsync((change.Customer with { Id = id }).Tidy(), change.BaseVersion, user.PersonId(), clock.GetUtcNow()));
    }

    private static async Task<IResult> ChangeHouseAsync(Guid id, Guid houseId, HouseChange change, [FromQuery] string? units, ClaimsPrincipal user, BookStore books, OpenVisits visits, DueKeeper due, TimeProvider clock)
    {
        if (await books.FindAsync(id) is not { } household || household.Houses.FirstOrDefault(h => h.House.Id == houseId) is not { } stored)
            return Faults.Missing("house of this household");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        var house = change.House with { Id = houseId, Obstacles = stored.House.Obstacles };
        house.Check(errors);
        foreach (var stove in stored.Stoves.Where(s => s.OutAt is null))
        {
            if (stove.Stove.Storey >= house.StoreyNames.Count)
                errors.Add("storeyNames", $"{stove.Stove.Model} stands on storey {stove.Stove.Storey}: the house keeps at least {stove.Stove.Storey + 1} storeys.");
        }
        if (errors.Any)
            return Faults.Refused(errors);
        var state = await books.ChangeAsync(id, house, change.BaseVersion, user.PersonId(), clock.GetUtcNow());
        if (state == BookState.Written)
        {
            foreach (var stove in stored.Stoves.Where(s => s.OutAt is null))
                await FollowAsync(stove.Stove.Id, visits, due, system, user);
        }
        return await AnswerAsync(books, id, state);
    }

    private static async Task<IResult> ChangeStoveAsync(Guid id, Guid stoveId, StoveChange change, [FromQuery] string? units, ClaimsPrincipal user, BookStore books, OpenVisits visits, DueKeeper due, TimeProvider clock)
    {
        if (await books.FindAsync(id) is not { } household || household.Houses.FirstOrDefault(h => h.Stoves.Any(s => s.Stove.Id == stoveId)) is not { } at)
            return Faults.Missing("stove of this household");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        var stove = change.Stove with { Id = stoveId, Label = change.Stove.Label ?? new() };
        stove.Check(at.House, errors);
        errors.CheckText("serial", change.Serial, "Serial number", 100);
        if (errors.Any)
            return Faults.Refused(errors);
        var state = await books.ChangeAsync(id, stove, change.Serial.Trim(), change.BaseVersion, user.PersonId(), clock.GetUtcNow());
        if (state == BookState.Written)
            await FollowAsync(stoveId, visits, due, system, user);
        return await AnswerAsync(books, id, state);
    }

    private static async Task<IResult> TakeOutAsync(Guid id, Guid stoveId, TakingOut taking, ClaimsPrincipal user, BookStore books, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckText("why", taking.Why, "Why it is taken out", 200, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        if (await books.FindAsync(id) is not { } household || !household.Houses.Any(h => h.Stoves.Any(s => s.Stove.Id == stoveId)))
            return Faults.Missing("stove of this household");
        return await AnswerAsync(books, id, await books.TakeOutAsync(stoveId, taking.Why.Trim(), user.PersonId(), clock.GetUtcNow()));
    }

    private static async Task<IResult> ConfirmAsync(Guid id, Confirming confirming, ClaimsPrincipal user, BookStore books, TimeProvider clock)
    {
        var errors = new EntryErrors();
        foreach (var (field, i) in errors.Each("fields", confirming.Fields, Unconfirmed.Fields.Count, "fields"))
        {
            if (!Unconfirmed.Fields.Contains(field))
                errors.Add($"fields[{i}]", "There is nothing of that name to confirm.");
        }
        if (errors.Any)
            return Faults.Refused(errors);
        return await books.ConfirmAsync(id, [.. confirming.Fields], user.PersonId(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("stove");
    }

    // What rests on a house or a stove is concluded again.
    private static async Task FollowAsync(Guid stoveId, OpenVisits visits, DueKeeper due, UnitSystem system, ClaimsPrincipal user)
    {
        await visits.ConcludeAgainAsync(stoveId, system, user.PersonId());
        await due.StoveAsync(stoveId);
    }

    internal static async Task<IResult> AnswerAsync(BookStore books, Guid id, BookState state) => state switch
    {
        BookState.Written => TypedResults.Ok(await books.FindAsync(id)),
        BookState.Missing => Faults.Missing("household"),
        BookState.Reused => Saving.Reused(),
        BookState.Visited => TypedResults.Problem(statusCode: 409, title: "This stove has an open visit: sign or cancel it first."),
        _ => TypedResults.Problem(statusCode: 409, title: "Somebody corrected this in between: look at what stands there now.", extensions: new Dictionary<string, object?> { ["stored"] = await books.FindAsync(id) }),
    };
}
