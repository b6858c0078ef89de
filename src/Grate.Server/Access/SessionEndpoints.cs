using System.Security.Claims;
using Grate.Store;
using Grate.Store.Demo;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;

namespace Grate.Server.Access;

/// <summary>Address and password.</summary>
/// <param name="Email">Sign-in address.</param>
/// <param name="Password">Password.</param>
public sealed record SignInEntry(string Email, string Password);

/// <summary>Who is signed in.</summary>
/// <param name="Id">Their id.</param>
/// <param name="Name">Name.</param>
/// <param name="Role">technician, office or owner.</param>
public sealed record SignedInPerson(Guid Id, string Name, string Role);

/// <summary>The state of the session.</summary>
/// <param name="Person">Who is signed in, or null.</param>
/// <param name="Firm">The firm's name.</param>
/// <param name="TimeZone">Zone of the firm's days.</param>
/// <param name="DemoAccounts">Accounts to try; empty without demo data.</param>
public sealed record SessionState(SignedInPerson? Person, string Firm, string TimeZone, IReadOnlyList<DemoAccount> DemoAccounts);

/// <summary>Sign in, sign out, who am I.</summary>
public static class SessionEndpoints
{
    /// <summary>Maps /api/session.</summary>
    public static void MapSession(this WebApplication app)
    {
        app.MapPost("/api/session", SignInAsync).AllowAnonymous().RequireRateLimiting(Policies.SignInRate);
        app.MapDelete("/api/session", SignOutAsync).RequireAuthorization(Policies.SignedIn);
        app.MapGet("/api/session", StateAsync).AllowAnonymous();
    }

    private static async Task<Results<Ok<SignedInPerson>, ProblemHttpResult>> SignInAsync(SignInEntry entry, SignInManager<Person> signIn)
    {
        var person = entry.Email.Length is > 0 and <= 254 && entry.Password.Length is > 0 and <= 200
            ? await signIn.UserManager.FindByEmailAsync(entry.Email.Trim()) : null;
        if (person is not null)
        {
            var result = await signIn.PasswordSignInAsync(person, entry.Password, isPersistent: true, lockoutOnFailure: true);
            if (result.Succeeded)
                return TypedResults.Ok(new SignedInPerson(person.Id, person.Name, person.Role));
            if (result.IsLockedOut)
                return TypedResults.Problem(statusCode: 423, title: "Too many wrong passwords: this account is locked for 15 minutes.");
        }
        return TypedResults.Problem(statusCode: 401, title: "Address or password is wrong.");
    }

    private static async Task<NoContent> SignOutAsync(SignInManager<Person> signIn)
    {
        await signIn.SignOutAsync();
        return TypedResults.NoContent();
    }

    private static async Task<Ok<SessionState>> StateAsync(ClaimsPrincipal user, FirmStore firms)
    {
        var firm = await firms.FindAsync();
        var person = user.Identity?.IsAuthenticated == true
            ? new SignedInPerson(user.PersonId(), user.FindFirstValue(ClaimTypes.GivenName)!, user.FindFirstValue(ClaimTypes.Role)!) : null;
        return TypedResults.Ok(new SessionState(person, firm?.Name ?? "", firm?.TimeZone ?? "UTC", firm?.Demo == true ? DemoData.Accounts() : []));
    }
}
