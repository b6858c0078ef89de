using System.Security.Claims;
using System.Text.Json;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Features.Firms;

/// <summary>A firm's records as one document, out and in: docs/schema/archive.schema.json.</summary>
public static class ArchiveEndpoints
{
    private const long MostBytes = 512L * 1024 * 1024;
    private static readonly BodyLimit _limit = new(MostBytes, "An archive is at most 512 MB.");

    /// <summary>Maps /api/archive.</summary>
    public static void MapArchive(this WebApplication app)
    {
        app.MapGet("/api/archive", (ArchiveStore archives, TimeProvider clock) => TypedResults.Stream(stream => archives.WriteAsync(stream, clock.GetUtcNow()), "application/json", $"grate-{clock.GetUtcNow():yyyy-MM-dd}.json"))
            .RequireAuthorization(Policies.Owner).RequireRateLimiting(Policies.CalculationRate).Produces<string>(200, "application/json");
        app.MapPost("/api/archive", ReadAsync).RequireAuthorization(Policies.Owner).RequireRateLimiting(Policies.SignInRate).WithMetadata(_limit).TakesFile("application/json")
            .Produces(204).ProducesValidationProblem().ProducesProblem(409).ProducesProblem(413);
    }

    private static async Task<IResult> ReadAsync(HttpRequest request, ClaimsPrincipal user, ArchiveStore archives, NightlyRun night, SessionTickets tickets, TimeProvider clock)
    {
        JsonDocument archive;
        try
        {
            archive = await JsonDocument.ParseAsync(request.Body, default, request.HttpContext.RequestAborted);
        }
        catch (JsonException)
        {
            return Faults.Refused("archive", "This is no archive: it is not JSON, or only a part of it.");
        }
        using (archive)
        {
            try
            {
                switch (await archives.ReadAsync(archive, user.PersonId(), clock.GetUtcNow()))
                {
                    case ArchiveState.Foreign:
                        return Faults.Refused("archive", $"This is no archive of version {ArchiveStore.Version}: one is written by Grate under Firm, and read back by a Grate of the same version.");
                    case ArchiveState.NotEmpty:
                        return TypedResults.Problem(statusCode: 409, title: "This firm has records already: an archive is read back into an empty one.");
                    default:
                        // What is due is computed from what came in, not read back.
                        await night.RunAsync(CancellationToken.None);
                        // Who read it back is somebody of the archive from now on.
                        await tickets.SignOutAsync(user);
                        return TypedResults.NoContent();
                }
            }
            catch (PostgresException fault) when (!Database.Away(fault))
            {
                return Faults.Refused("archive", $"Nothing was read back: {fault.TableName ?? "a table"} holds what cannot be ({fault.MessageText}).");
            }
        }
    }
}
