using Grate.Core.Deposits;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Deposits;

/// <summary>The sweep of a visit.</summary>
public static class SweepEndpoints
{
    /// <summary>Maps the sweep endpoint.</summary>
    public static void MapSweep(this WebApplication app) =>
        app.MapPost("/api/visits/{id:guid}/sweep", SweepAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate)
            .Produces<SweepAnswer>().ProducesValidationProblem();

    private static Task<IResult> SweepAsync(Guid id, SweepRecord record, [FromQuery] string? units, VisitDocument documents, SweepRecords records) =>
        Stations.AnswerAsync(id, units, documents, async (at, errors, system) =>
            SweepAnswer.To(record, await records.PlaceAsync(at.Stove, at.Flue, at.Visit.PlannedStart), at.Day, at.Day, errors, system));
}
