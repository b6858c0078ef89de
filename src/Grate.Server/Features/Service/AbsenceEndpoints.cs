using System.Security.Claims;
using Grate.Core;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;

namespace Grate.Server.Features.Service;

/// <summary>When people are away: a plan into those days is asked back, free times leave them out, the season has so many hours less.</summary>
public static class AbsenceEndpoints
{
    private const int MostDays = 400;

    /// <summary>Maps /api/absences.</summary>
    public static void MapAbsences(this WebApplication app)
    {
        var absences = app.MapGroup("/api/absences").RequireAuthorization(Policies.Desk);
        absences.MapPost("", AddAsync).Produces(204).ProducesValidationProblem().ProducesProblem(409);
        absences.MapDelete("/{id:guid}", async (Guid id, AbsenceStore store) => await store.EndAsync(id) ? TypedResults.NoContent() : Faults.Missing("absence")).Produces(204).ProducesProblem(404);
    }

    private static async Task<IResult> AddAsync(Absence absence, ClaimsPrincipal user, AbsenceStore store, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        errors.CheckId("id", absence.Id, "An absence");
        errors.CheckText("why", absence.Why, "Why", 200);
        var today = (await firms.GetAsync()).Day(clock.GetUtcNow());
        if (absence.FirstDay < today.AddYears(-1) || absence.FirstDay > today.AddYears(2))
            errors.Add("firstDay", $"The first day lies between {today.AddYears(-1):yyyy-MM-dd} and {today.AddYears(2):yyyy-MM-dd}; {absence.FirstDay:yyyy-MM-dd} was entered.");
        if (absence.LastDay < absence.FirstDay || absence.LastDay.DayNumber - absence.FirstDay.DayNumber > MostDays)
            errors.Add("lastDay", $"The last day is the first or one after it, at most {MostDays} days on; {absence.LastDay:yyyy-MM-dd} was entered.");
        if (!await people.IsTechnicianAsync(absence.PersonId))
            errors.Add("personId", "There is no such technician.");
        if (errors.Any)
            return Faults.Refused(errors);
        return await store.AddAsync(absence with { Why = absence.Why.Trim() }, user.PersonId(), clock.GetUtcNow()) ? TypedResults.NoContent() : Saving.Reused();
    }
}
