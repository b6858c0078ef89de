using System.Security.Cryptography;
using System.Text;
using Grate.Core;
using Grate.Server.Access;
using Grate.Store;

namespace Grate.Server.Features.Firms;

/// <summary>What a firm can begin from.</summary>
/// <param name="Stations">Places whose climate is known.</param>
/// <param name="Ways">An ordinary firm's ways, until it says otherwise.</param>
public sealed record SetUpAnswer(IReadOnlyList<ClimateStation> Stations, FirmWays Ways);

/// <summary>What a new installation is begun with.</summary>
/// <param name="Code">The code that was printed when the server started.</param>
/// <param name="Firm">The firm; its inspection months and hours a week are ordinary where they are not known yet.</param>
/// <param name="Name">The first owner's name.</param>
/// <param name="Email">Their address.</param>
/// <param name="Password">Their password, at least 12 characters.</param>
public sealed record SetUpEntry(string Code, FirmEntry Firm, string Name, string Email, string Password);

/// <summary>
/// The code by which an installation is begun: printed where the server was started, so that a stranger who reaches its port first
/// gets nowhere. A new one every time the server starts, worth nothing once a person exists.
/// </summary>
public sealed class SetUpCode
{
    // Without letters and digits that are taken for each other.
    private const string Letters = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

    /// <summary>The code: three groups of four.</summary>
    public string Code { get; } = string.Join('-', RandomNumberGenerator.GetString(Letters, 12).Chunk(4).Select(c => new string(c)));

    /// <summary>Whether it was typed, however it is written.</summary>
    public bool Fits(string typed) => CryptographicOperations.FixedTimeEquals(Plain(Code), Plain(typed));

    private static byte[] Plain(string code) => Encoding.UTF8.GetBytes(string.Concat(code.ToUpperInvariant().Where(char.IsAsciiLetterOrDigit)));
}

/// <summary>The first page of an empty installation.</summary>
public static class SetUpEndpoints
{
    /// <summary>Maps /api/set-up.</summary>
    public static void MapSetUp(this WebApplication app)
    {
        app.MapGet("/api/set-up", () => TypedResults.Ok(new SetUpAnswer(Climate.Stations, FirmWays.Ordinary))).AllowAnonymous();
        app.MapPost("/api/set-up", BeginAsync).AllowAnonymous().RequireRateLimiting(Policies.SignInRate).Produces(204).ProducesValidationProblem().ProducesProblem(409).ProducesProblem(429);
    }

    /// <summary>Prints the code where there is nobody yet.</summary>
    public static async Task TellSetUpCodeAsync(this IServiceProvider services, TextWriter where)
    {
        if (!await services.GetRequiredService<PersonStore>().AnyAsync())
            await where.WriteLineAsync($"This installation is empty. Begin at /begin with the code {services.GetRequiredService<SetUpCode>().Code}");
    }

    private static async Task<IResult> BeginAsync(SetUpEntry entry, SetUpCode code, FirmStore firms, PersonStore people, Staff staff, SessionTickets tickets)
    {
        if (await people.AnyAsync())
            return Begun();
        if (!code.Fits(entry.Code))
            return Faults.Refused("code", "That is not the code that was printed when Grate was started.");
        var errors = new EntryErrors();
        var firm = entry.Firm.Read(false);
        var owner = staff.New(entry.Name, entry.Email, "owner", errors);
        var inFirm = new EntryErrors();
        firm.Check(inFirm);
        errors.TakeOver(inFirm, field => $"firm.{field}");
        await staff.HashAsync(owner, entry.Password, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        if (!await firms.SetUpAsync(firm, owner))
            return Begun();
        await tickets.SignInAsync(owner);
        return TypedResults.NoContent();
    }

    private static IResult Begun() => TypedResults.Problem(statusCode: 409, title: "This installation was begun already: sign in, or let its owner invite you.");
}
