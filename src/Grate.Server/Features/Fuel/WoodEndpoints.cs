using Grate.Core.Fuel;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Fuel;

/// <summary>The household's wood.</summary>
public static class WoodEndpoints
{
    /// <summary>Maps the wood endpoint.</summary>
    public static void MapWood(this WebApplication app) =>
        app.MapPost("/api/visits/{id:guid}/wood", WoodAsync).RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate)
            .Produces<WoodAnswer>().ProducesValidationProblem();

    private static Task<IResult> WoodAsync(Guid id, WoodRecord record, [FromQuery] string? units, VisitDocument documents) =>
        Stations.AnswerAsync(id, units, documents, (_, errors, system) => Task.FromResult(WoodAnswer.To(record, errors, system)));
}
