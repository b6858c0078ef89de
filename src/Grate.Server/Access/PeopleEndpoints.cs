using System.Security.Claims;
using Grate.Core;
using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>Another password of one's own.</summary>
/// <param name="Current">The one that counts now.</param>
/// <param name="Password">The one to come, at least 12 characters.</param>
public sealed record PasswordChange(string Current, string Password);

/// <summary>A password that the owner gives.</summary>
/// <param name="Password">At least 12 characters.</param>
public sealed record PasswordGift(string Password);

/// <summary>What somebody can do that not everybody can.</summary>
/// <param name="Skills">Words of skills.</param>
public sealed record SkillsEntry(IReadOnlyList<string>? Skills = null);

/// <summary>Another name of one's own.</summary>
/// <param name="Name">1 to 200 characters.</param>
public sealed record NameEntry(string Name);

/// <summary>A person who leaves.</summary>
/// <param name="VisitsTo">Who takes their open visits; none where there are none.</param>
public sealed record Leaving(Guid? VisitsTo = null);

/// <summary>People of the firm, and one's own account.</summary>
public static class PeopleEndpoints
{
    /// <summary>Maps /api/people and /api/account.</summary>
    public static void MapPeople(this WebApplication app)
    {
        app.MapPut("/api/account/password", ChangeAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.SignInRate)
            .Produces(204).ProducesValidationProblem().ProducesProblem(429);
        app.MapPut("/api/account/name", RenameAsync).RequireAuthorization(Policies.SignedIn).Produces(204).ProducesValidationProblem();
        var people = app.MapGroup("/api/people").RequireAuthorization(Policies.Owner);
        people.MapGet("", (PersonStore store) => store.ListAsync()).Produces<IReadOnlyList<PersonLine>>();
        people.MapPut("/{id:guid}/password", GiveAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404);
        people.MapPut("/{id:guid}/skills", SkillsAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404);
        people.MapPost("/{id:guid}/remove", RemoveAsync).Produces(204).ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> ChangeAsync(PasswordChange change, HttpContext context, ClaimsPrincipal user, UserManager<Person> people, Staff staff, SessionTickets tickets)
    {
        var person = (await people.GetUserAsync(user))!;
        var (known, wait) = await staff.KnowAsync(SessionEndpoints.AddressOf(context), person.Email, Shortened(change.Current));
        if (wait > TimeSpan.Zero)
            return SessionEndpoints.Wait(context, wait);
        if (known is null)
            return Faults.Refused("current", "That is not the password that counts now.");
        if (await RefusedAsync(staff, person, change.Password) is { } refused)
            return refused;
        // This session goes on; all others end.
        await tickets.SignInAsync(person, user);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> RenameAsync(NameEntry entry, ClaimsPrincipal user, PersonStore store, UserManager<Person> people, SessionTickets tickets)
    {
        var errors = new EntryErrors();
        errors.CheckText("name", entry.Name, "Name", 200, needed: true);
        if (errors.Any)
            return Faults.Refused(errors);
        await store.RenameAsync(user.PersonId(), entry.Name.Trim());
        // The session tells the name: it is written anew.
        await tickets.SignInAsync((await people.GetUserAsync(user))!, user);
        return TypedResults.NoContent();
    }

    private static async Task<IResult> SkillsAsync(Guid id, SkillsEntry entry, PersonStore store)
    {
        var errors = new EntryErrors();
        var skills = errors.Words<Core.Places.Skill>("skills", entry.Skills, "Skill");
        if (errors.Any)
            return Faults.Refused(errors);
        return await store.SetSkillsAsync(id, [.. skills.Select(Word.Of)]) ? TypedResults.NoContent() : Faults.Missing("person");
    }

    private static async Task<IResult> GiveAsync(Guid id, PasswordGift gift, UserManager<Person> people, Staff staff) =>
        await people.FindByIdAsync(id.ToString()) is not { } person ? Faults.Missing("person")
            : await RefusedAsync(staff, person, gift.Password) ?? TypedResults.NoContent();

    private static async Task<IResult> RemoveAsync(Guid id, Leaving leaving, ClaimsPrincipal user, UserManager<Person> people, Staff staff)
    {
        if (await people.FindByIdAsync(id.ToString()) is not { DisabledAt: null } person)
            return Faults.Missing("person");
        if (id == user.PersonId())
            return Faults.Refused("person", "Nobody ends their own access: another owner does.");
        var errors = new EntryErrors();
        await staff.RemoveAsync(person, leaving.VisitsTo, user.PersonId(), errors);
        return errors.Any ? Faults.Refused(errors) : TypedResults.NoContent();
    }

    private static async Task<IResult?> RefusedAsync(Staff staff, Person person, string password)
    {
        var errors = new EntryErrors();
        await staff.SetPasswordAsync(person, password, errors);
        return errors.Any ? Faults.Refused(errors) : null;
    }

    private static string Shortened(string password) => password[..Math.Min(password.Length, SessionEndpoints.LongestPassword)];
}
