using System.Collections.Concurrent;
using System.Security.Claims;
using Grate.Store;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;

namespace Grate.Server.Access;

/// <summary>
/// Cookies of sessions: each names its session, and once a minute it is asked whether that goes on and whether password, role
/// and access are still the same. Where this server ended a session itself, its cookie ends at once.
/// </summary>
public sealed class SessionTickets(SignInManager<Person> signIn, SessionStore sessions, IOptions<SecurityStampValidatorOptions> options, TimeProvider clock, ILoggerFactory log)
    : SecurityStampValidator<Person>(options, signIn, log)
{
    private const string SessionClaim = "session";

    // Sessions that ended here; a cookie lives for twelve hours, and so does its place.
    private static readonly ConcurrentDictionary<Guid, DateTimeOffset> _ended = new();

    /// <summary>Gives a cookie: of a new session, or of the one that goes on.</summary>
    /// <param name="person">Who.</param>
    /// <param name="goesOn">Whose session goes on; null for a new one.</param>
    public async Task SignInAsync(Person person, ClaimsPrincipal? goesOn = null)
    {
        var session = goesOn is not null && SessionOf(goesOn) is { } open ? open : await sessions.StartAsync(person.Id, clock.GetUtcNow());
        await SignInManager.SignInWithClaimsAsync(person, isPersistent: true, [new Claim(SessionClaim, session.ToString())]);
    }

    /// <summary>Ends the session of a cookie, and takes it back.</summary>
    public async Task SignOutAsync(ClaimsPrincipal user)
    {
        if (SessionOf(user) is { } session)
        {
            var now = clock.GetUtcNow();
            await sessions.EndAsync(session, now);
            foreach (var old in _ended.Where(e => e.Value < now - AccessSetup.Lifetime))
                _ended.TryRemove(old);
            _ended[session] = now;
        }
        await SignInManager.SignOutAsync();
    }

    /// <inheritdoc/>
    public override async Task ValidateAsync(CookieValidatePrincipalContext context)
    {
        if (context.Principal is null || SessionOf(context.Principal) is not { } session || _ended.ContainsKey(session))
        {
            context.RejectPrincipal();
            return;
        }
        await base.ValidateAsync(context);
    }

    /// <inheritdoc/>
    protected override async Task<Person?> VerifySecurityStamp(ClaimsPrincipal? principal) =>
        principal is not null && SessionOf(principal) is { } session && await sessions.GoesOnAsync(session) && await base.VerifySecurityStamp(principal) is { DisabledAt: null } person
            ? person : null;

    /// <inheritdoc/>
    protected override async Task SecurityStampVerified(Person user, CookieValidatePrincipalContext context)
    {
        var session = context.Principal!.FindFirst(SessionClaim)!;
        await base.SecurityStampVerified(user, context);
        ((ClaimsIdentity)context.Principal!.Identity!).AddClaim(session.Clone());
    }

    private static Guid? SessionOf(ClaimsPrincipal user) => Guid.TryParse(user.FindFirstValue(SessionClaim), out var id) ? id : null;
}
