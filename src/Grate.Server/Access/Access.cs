using System.Globalization;
using System.Security.Claims;
using System.Threading.RateLimiting;
using Grate.Store;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.DataProtection.KeyManagement;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;
using Microsoft.Extensions.Options;

namespace Grate.Server.Access;

/// <summary>Who may do what.</summary>
public static class Policies
{
    /// <summary>Anybody of the firm.</summary>
    public const string SignedIn = "signed-in";

    /// <summary>Those who work on stoves: technicians and the owner.</summary>
    public const string Field = "field";

    /// <summary>The owner alone.</summary>
    public const string Owner = "owner";

    /// <summary>Those who plan for everybody: office and owner.</summary>
    public const string Desk = "desk";

    /// <summary>Limit on sign-in, by address.</summary>
    public const string SignInRate = "sign-in";

    /// <summary>Limit on calendars, by address: their secrets are not to be guessed.</summary>
    public const string CalendarRate = "calendar";

    /// <summary>Rate limit of pictures by the secret address that they come through.</summary>
    public const string LinkRate = "link";

    /// <summary>Limit on calculations, by person.</summary>
    public const string CalculationRate = "calculations";
}

/// <summary>Claims of a person: id, name, role.</summary>
public sealed class PersonClaims(UserManager<Person> people, IOptions<IdentityOptions> options) : UserClaimsPrincipalFactory<Person>(people, options)
{
    /// <inheritdoc/>
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Person user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new Claim(ClaimTypes.Role, user.Role));
        identity.AddClaim(new Claim(ClaimTypes.GivenName, user.Name));
        return identity;
    }
}

/// <summary>Sign-in, roles, limits, headers.</summary>
public static class AccessSetup
{
    /// <summary>How long a session lasts without a request.</summary>
    internal static readonly TimeSpan Lifetime = TimeSpan.FromHours(12);

    /// <summary>Adds identity, cookie, policies and limits.</summary>
    /// <param name="builder">The application being built.</param>
    /// <param name="keysInDatabase">Whether the cookies' keys live in PostgreSQL; not while there is no database.</param>
    public static void AddAccess(this WebApplicationBuilder builder, bool keysInDatabase)
    {
        var services = builder.Services;
        services.AddSingleton<SessionStore>().AddSingleton<PersonStore>().AddSingleton<IUserStore<Person>>(s => s.GetRequiredService<PersonStore>());
        services.AddIdentityCore<Person>(identity =>
        {
            identity.Password.RequiredLength = 12;
            identity.Password.RequireDigit = identity.Password.RequireUppercase = identity.Password.RequireNonAlphanumeric = false;
        }).AddSignInManager().AddClaimsPrincipalFactory<PersonClaims>().AddPasswordValidator<GoodPassword>();
        services.AddScoped<Staff>().AddScoped<SessionTickets>().AddScoped<ISecurityStampValidator>(s => s.GetRequiredService<SessionTickets>());
        services.Configure<SecurityStampValidatorOptions>(options =>
            options.ValidationInterval = TimeSpan.FromSeconds(builder.Configuration.GetValue("Sessions:CheckedEverySeconds", 60)));
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies();
        services.ConfigureApplicationCookie(cookie =>
        {
            cookie.Cookie.Name = "grate";
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.ExpireTimeSpan = Lifetime;
            cookie.Events.OnRedirectToLogin = context => Status(context.Response, StatusCodes.Status401Unauthorized);
            cookie.Events.OnRedirectToAccessDenied = context => Status(context.Response, StatusCodes.Status403Forbidden);
        });
        services.AddDataProtection().SetApplicationName("grate");
        services.AddSingleton<KeyStore>();
        if (keysInDatabase)
        {
            services.AddSingleton<IConfigureOptions<KeyManagementOptions>>(s =>
                new ConfigureOptions<KeyManagementOptions>(keys => keys.XmlRepository = s.GetRequiredService<KeyStore>()));
        }

        services.AddAuthorizationBuilder()
            .AddPolicy(Policies.SignedIn, policy => policy.RequireAuthenticatedUser())
            .AddPolicy(Policies.Owner, policy => policy.RequireRole("owner"))
            .AddPolicy(Policies.Desk, policy => policy.RequireRole("office", "owner"))
            .AddPolicy(Policies.Field, policy => policy.RequireRole("technician", "owner"))
            .SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAssertion(_ => false).Build());

        var signInsPerMinute = builder.Configuration.GetValue("Limits:SignInsPerMinute", 120);
        var picturesPerLinkAndHour = builder.Configuration.GetValue("Limits:PicturesPerLinkAndHour", 30);
        var calculationsPerSecond = builder.Configuration.GetValue("Limits:CalculationsPerSecond", 600);
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.OnRejected = (rejected, _) =>
            {
                var wait = rejected.Lease.TryGetMetadata(MetadataName.RetryAfter, out var after) ? after : TimeSpan.FromSeconds(1);
                rejected.HttpContext.Response.Headers.RetryAfter = Math.Max(1, Math.Ceiling(wait.TotalSeconds)).ToString(CultureInfo.InvariantCulture);
                return ValueTask.CompletedTask;
            };
            foreach (var policy in new[] { Policies.SignInRate, Policies.CalendarRate })
            {
                limits.AddPolicy(policy, context => RateLimitPartition.GetFixedWindowLimiter(
                    context.Connection.RemoteIpAddress?.ToString() ?? "", _ => new FixedWindowRateLimiterOptions
                    {
                        PermitLimit = signInsPerMinute,
                        Window = TimeSpan.FromMinutes(1),
                    }));
            }
            limits.AddPolicy(Policies.LinkRate, context => RateLimitPartition.GetFixedWindowLimiter(
                context.Request.RouteValues["secret"]?.ToString() ?? "", _ => new FixedWindowRateLimiterOptions { PermitLimit = picturesPerLinkAndHour, Window = TimeSpan.FromHours(1) }));
            limits.AddPolicy(Policies.CalculationRate, context => RateLimitPartition.GetTokenBucketLimiter(
                context.User.FindFirstValue(ClaimTypes.NameIdentifier) ?? "", _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = calculationsPerSecond,
                    TokensPerPeriod = calculationsPerSecond / 10,
                    ReplenishmentPeriod = TimeSpan.FromMilliseconds(100),
                    QueueLimit = 0,
                }));
        });
    }

    /// <summary>A strict content policy and its companions on every answer.</summary>
    public static void UseSecurityHeaders(this WebApplication app) => app.Use((context, next) =>
    {
        // As the answer starts: a fault clears what was set before it.
        context.Response.OnStarting(() =>
        {
            SetHeaders(context);
            return Task.CompletedTask;
        });
        return next(context);
    });

    private static void SetHeaders(HttpContext context)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = "default-src 'none'; script-src 'self'; style-src 'self'; style-src-attr 'unsafe-inline'; font-src 'self'; img-src 'self' data: blob:; "
            + "connect-src 'self'; manifest-src 'self'; base-uri 'self'; form-action 'self'; frame-ancestors 'none'";
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Permissions-Policy"] = "camera=(self), microphone=(), geolocation=(self)";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        if (context.Request.IsHttps)
            headers.StrictTransportSecurity = "max-age=31536000";
        // Nobody's records stay in a browser's or a proxy's store.
        if (context.Request.Path.StartsWithSegments("/api") && headers.CacheControl.Count == 0)
            headers.CacheControl = "no-store";
    }

    /// <summary>
    /// What no endpoint and no page answers is told before anybody is asked who they are: 404 for an address that is none, 405 and
    /// 415 where routing found the address alone.
    /// </summary>
    public static void UseUnknownAddresses(this WebApplication app) => app.Use((context, next) =>
    {
        if (context.GetEndpoint() is { } endpoint)
            return endpoint.Metadata.Count == 0 ? endpoint.RequestDelegate!(context) : next(context);
        context.Response.StatusCode = StatusCodes.Status404NotFound;
        return Task.CompletedTask;
    });

    /// <summary>
    /// A browser's write must come from this origin; the strict same-site cookie already keeps it out elsewhere.
    /// Programs send neither header and need only the cookie.
    /// </summary>
    public static void UseSameOriginWrites(this WebApplication app) => app.Use((context, next) =>
    {
        var request = context.Request;
        if (HttpMethods.IsGet(request.Method) || HttpMethods.IsHead(request.Method))
            return next(context);
        var site = request.Headers["Sec-Fetch-Site"].ToString();
        var origin = request.Headers.Origin.ToString();
        var foreign = site is not ("" or "same-origin" or "none")
            || (origin.Length > 0 && !(Uri.TryCreate(origin, UriKind.Absolute, out var from) && from.Authority == request.Host.Value));
        return foreign
            ? TypedResults.Problem(statusCode: 403, title: "This write comes from another site.").ExecuteAsync(context)
            : next(context);
    });

    /// <summary>The signed-in person's name.</summary>
    public static string Name(this ClaimsPrincipal user) => user.FindFirstValue(ClaimTypes.GivenName)!;

    /// <summary>The signed-in person's id.</summary>
    public static Guid PersonId(this ClaimsPrincipal user) => Guid.Parse(user.FindFirstValue(ClaimTypes.NameIdentifier)!);

    private static Task Status(HttpResponse response, int status)
    {
        response.StatusCode = status;
        return Task.CompletedTask;
    }
}
