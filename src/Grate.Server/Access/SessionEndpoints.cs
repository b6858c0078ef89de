using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Instruments;
using Grate.Store;
using Grate.Store.Demo;
using Microsoft.AspNetCore.Http.HttpResults;

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
/// <param name="Now">The server's clock: visits go by it, whatever a tablet's says.</param>
/// <param name="Empty">Whether this installation waits to be begun.</param>
/// <param name="Units">Units that a new browser shows.</param>
/// <param name="Currency">Sign of the firm's money.</param>
/// <param name="Paper">The firm's paper: a4 or letter.</param>
/// <param name="ClockSpeed">Seconds of it in one of the world's: 1, except where a test is in a hurry.</param>
public sealed record SessionState(SignedInPerson? Person, string Firm, string TimeZone, IReadOnlyList<DemoAccount> DemoAccounts, DateTimeOffset Now, bool Empty, UnitSystem Units, string Currency, string Paper, double ClockSpeed);

/// <summary>Sign in, sign out, who am I.</summary>
public static class SessionEndpoints
{
    /// <summary>Longest password, characters.</summary>
    internal const int LongestPassword = 200;

    private const int LongestAddress = 254;

    /// <summary>Maps /api/session.</summary>
    public static void MapSession(this WebApplication app)
    {
        app.MapPost("/api/session", SignInAsync).AllowAnonymous().RequireRateLimiting(Policies.SignInRate)
            .Produces<SignedInPerson>().ProducesProblem(401).ProducesProblem(429);
        app.MapDelete("/api/session", SignOutAsync).RequireAuthorization(Policies.SignedIn);
        app.MapGet("/api/session", StateAsync).AllowAnonymous();
    }

    private static async Task<IResult> SignInAsync(SignInEntry entry, HttpContext context, Staff staff, SessionTickets tickets)
    {
        if (entry.Email.Length is 0 or > LongestAddress || entry.Password.Length is 0 or > LongestPassword)
            return Wrong();
        var (person, wait) = await staff.KnowAsync(AddressOf(context), entry.Email, entry.Password);
        if (wait > TimeSpan.Zero)
            return Wait(context, wait);
        if (person is null)
            return Wrong();
        await tickets.SignInAsync(person);
        return TypedResults.Ok(new SignedInPerson(person.Id, person.Name, person.Role));
    }

    private static async Task<NoContent> SignOutAsync(ClaimsPrincipal user, SessionTickets tickets)
    {
        await tickets.SignOutAsync(user);
        return TypedResults.NoContent();
    }

    /// <summary>Where a request comes from.</summary>
    internal static string AddressOf(HttpContext context) => context.Connection.RemoteIpAddress?.ToString() ?? "";

    /// <summary>429: too many tries from here at this account.</summary>
    internal static IResult Wait(HttpContext context, TimeSpan wait)
    {
        context.Response.Headers.RetryAfter = Math.Ceiling(wait.TotalSeconds).ToString(CultureInfo.InvariantCulture);
        return TypedResults.Problem(statusCode: 429, title: $"Too many wrong passwords from here: try again in {Math.Ceiling(wait.TotalMinutes):0} min.");
    }

    private static ProblemHttpResult Wrong() => TypedResults.Problem(statusCode: 401, title: "Address or password is wrong.");

    private static async Task<Ok<SessionState>> StateAsync(ClaimsPrincipal user, FirmStore firms, TimeProvider clock)
    {
        var firm = await firms.FindAsync();
        var ways = firm?.Works ?? FirmWays.Ordinary;
        var person = user.Identity?.IsAuthenticated == true
            ? new SignedInPerson(user.PersonId(), user.FindFirstValue(ClaimTypes.GivenName)!, user.FindFirstValue(ClaimTypes.Role)!) : null;
        return TypedResults.Ok(new SessionState(person, firm?.Name ?? "", firm?.TimeZone ?? "UTC", firm?.Demo == true ? DemoData.Accounts() : [], clock.GetUtcNow(), firm is null, Word.Find<UnitSystem>(ways.Units)!.Value, ways.Currency, ways.Paper, Clock.SpeedOf(clock)));
    }
}
