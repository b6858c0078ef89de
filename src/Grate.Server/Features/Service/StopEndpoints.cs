using System.Security.Claims;
using Grate.Core;
using Grate.Server.Access;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>What clears a stop.</summary>
/// <param name="What">What was done, up to 2 000 characters.</param>
/// <param name="Retest">The re-test that passed, up to 2 000 characters.</param>
/// <param name="RetestPassed">Whether it passed; a stop is not cleared otherwise.</param>
/// <param name="Mistake">Why it was set by mistake, up to 500 characters: whoever marked it so takes it back the same day without a re-test.</param>
public sealed record StopClearing(string What = "", string Retest = "", bool RetestPassed = false, string Mistake = "");

/// <summary>Clearing stops.</summary>
public static class StopEndpoints
{
    /// <summary>Maps the stop endpoints.</summary>
    public static void MapStops(this WebApplication app) =>
        app.MapPost("/api/stops/{id:guid}/clear", ClearAsync).RequireAuthorization(Policies.Field)
            .Produces(204).ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404);

    private static async Task<IResult> ClearAsync(Guid id, StopClearing clearing, ClaimsPrincipal user, StopStore stops, FirmStore firms, DueKeeper due, TimeProvider clock)
    {
        var holders = await stops.HoldersAsync(id);
        if (holders.Count == 0)
            return Faults.Missing("open stop");
        if (!user.IsInRole("owner") && !holders.Contains(user.PersonId()))
            return TypedResults.Problem(statusCode: 403, title: "A stop is cleared by whoever holds a visit at the stove, or by the owner.");
        var errors = new EntryErrors();
        if (clearing.Mistake.Length > 0)
        {
            errors.CheckText("mistake", clearing.Mistake, "Why it was a mistake", 500, needed: true);
            var firm = await firms.GetAsync();
            if (!await stops.SetTodayByAsync(id, user.PersonId(), firm.Span(firm.Day(clock.GetUtcNow())).From))
                errors.Add("mistake", "A mark is taken back as a mistake by whoever set it, on the day it was set; any other stop wants its re-test.");
            if (errors.Any)
                return Faults.Refused(errors);
            clearing = new($"Set by mistake: {clearing.Mistake.Trim()}", "None: it was taken back the same day by whoever set it.", true);
        }
        errors.CheckText("what", clearing.What, "What was done", 2000, needed: true);
        errors.CheckText("retest", clearing.Retest, "The re-test that was made", 2000, needed: true);
        if (!clearing.RetestPassed)
            errors.Add("retestPassed", "A stop is cleared only by a re-test that passed.");
        if (errors.Any)
            return Faults.Refused(errors);
        if (await stops.ClearAsync(id, user.PersonId(), clock.GetUtcNow(), clearing.What.Trim(), clearing.Retest.Trim()) is not { } applianceId)
            return Faults.Missing("open stop");
        await due.StoveAsync(applianceId);
        return TypedResults.NoContent();
    }
}
