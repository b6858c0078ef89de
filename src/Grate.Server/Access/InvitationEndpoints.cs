using System.Security.Claims;
using Grate.Core;
using Grate.Store;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>Somebody to invite.</summary>
/// <param name="Email">Their address.</param>
/// <param name="Name">Their name.</param>
/// <param name="Role">technician, office or owner.</param>
public sealed record InvitationEntry(string Email, string Name, string Role);

/// <summary>An invitation as made: its link is shown this once.</summary>
/// <param name="Id">To withdraw it by.</param>
/// <param name="Path">Path on this server.</param>
/// <param name="EndsAt">Until when it works.</param>
/// <param name="Written">Whether they were written to; else the link is handed over.</param>
public sealed record InvitationAddress(Guid Id, string Path, DateTimeOffset EndsAt, bool Written);

/// <summary>What somebody who follows a link sees.</summary>
/// <param name="Firm">The firm that invites.</param>
/// <param name="Name">Their name.</param>
/// <param name="Email">Their address.</param>
public sealed record InvitationSeen(string Firm, string Name, string Email);

/// <summary>An invitation is taken.</summary>
/// <param name="Password">At least 12 characters.</param>
public sealed record Joining(string Password);

/// <summary>Invitations: the owner makes them, a link takes whoever is invited in, once within three days.</summary>
public static class InvitationEndpoints
{
    private const int SecretBytes = 32;
    private static readonly TimeSpan _works = TimeSpan.FromHours(72);

    /// <summary>Maps /api/invitations and /api/join.</summary>
    public static void MapInvitations(this WebApplication app)
    {
        var made = app.MapGroup("/api/invitations").RequireAuthorization(Policies.Owner);
        made.MapGet("", (InvitationStore invitations) => invitations.WaitingAsync()).Produces<IReadOnlyList<Invitation>>();
        made.MapPost("", InviteAsync).Produces<InvitationAddress>().ProducesValidationProblem();
        made.MapDelete("/{id:guid}", async (Guid id, InvitationStore invitations, TimeProvider clock) =>
            await invitations.WithdrawAsync(id, clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("invitation")).Produces(204).ProducesProblem(404);
        app.MapGet("/api/join/{secret}", SeeAsync).AllowAnonymous().RequireRateLimiting(Policies.SignInRate).Produces<InvitationSeen>().ProducesProblem(404).ProducesProblem(429);
        app.MapPost("/api/join/{secret}", JoinAsync).AllowAnonymous().RequireRateLimiting(Policies.SignInRate).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(429);
    }

    private static async Task<IResult> InviteAsync(InvitationEntry entry, HttpContext context, ClaimsPrincipal user, InvitationStore invitations, Staff staff, UserManager<Person> users, FirmStore firms, PublicAddress outside, Outbox outbox, TimeProvider clock)
    {
        var errors = new EntryErrors();
        var person = staff.New(entry.Name, entry.Email, entry.Role, errors);
        if (!errors.Any && await users.FindByEmailAsync(person.Email) is not null)
            errors.Add("email", $"{person.Email} belongs to somebody of the firm already.");
        if (errors.Any)
            return Faults.Refused(errors);
        var (secret, now) = (Secret.Make(SecretBytes), clock.GetUtcNow());
        var invitation = new Invitation(Guid.CreateVersion7(), person.Email, person.Name, person.Role, now, now + _works);
        var (path, firm) = ($"/join/{secret}", await firms.GetAsync());
        // A firm without an address of its own hands the link over itself.
        var letter = Outbox.Missing(firm) is not null ? null : Outbox.Write(firm, person.Name, person.Email, $"{firm.Name}: your place in Grate",
            $"{person.Name},\n\n{user.Name()} of {firm.Name} invites you as {person.Role}. Choose your password here, until {firm.Local(invitation.EndsAt):d MMMM yyyy, HH:mm}:\n\n"
            + $"{outside.Link(context.Request, path)}\n\nThe link works once.\n", now);
        await invitations.AddAsync(invitation, Secret.HashOf(secret), letter, user.PersonId());
        await outbox.SendAsync();
        return TypedResults.Ok(new InvitationAddress(invitation.Id, path, invitation.EndsAt, letter is not null));
    }

    private static async Task<IResult> SeeAsync(string secret, InvitationStore invitations, FirmStore firms, TimeProvider clock) =>
        await FindAsync(secret, invitations, clock) is { } found ? TypedResults.Ok(new InvitationSeen((await firms.GetAsync()).Name, found.Name, found.Email)) : Over();

    private static async Task<IResult> JoinAsync(string secret, Joining joining, InvitationStore invitations, Staff staff, SessionTickets tickets, TimeProvider clock)
    {
        if (await FindAsync(secret, invitations, clock) is not { } found)
            return Over();
        var errors = new EntryErrors();
        var person = staff.New(found.Name, found.Email, found.Role, errors);
        await staff.HashAsync(person, joining.Password, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        if (!await invitations.UseAsync(found.Id, person, clock.GetUtcNow()))
            return Over();
        await tickets.SignInAsync(person);
        return TypedResults.NoContent();
    }

    private static async Task<Invitation?> FindAsync(string secret, InvitationStore invitations, TimeProvider clock) =>
        secret.Length > 100 ? null : await invitations.FindAsync(Secret.HashOf(secret), clock.GetUtcNow());

    private static IResult Over() => TypedResults.Problem(statusCode: 404, title: "This invitation works no more: it was used, withdrawn, or is older than three days. Ask for another one.");
}
