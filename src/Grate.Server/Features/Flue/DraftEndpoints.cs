using Grate.Core;
using Grate.Core.Flue;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Flue;

/// <summary>A computed draft of a stove as it stands, and what follows from it.</summary>
/// <param name="Answer">The computation.</param>
/// <param name="Reckoning">In words.</param>
/// <param name="WhatIfs">Changes that could be made to its flue.</param>
public sealed record StoveDraftAnswer(DraftAnswer Answer, DraftReckoning Reckoning, IReadOnlyList<WhatIf> WhatIfs);

/// <summary>Draft of stored flues, with the reckoning in words.</summary>
public static class DraftEndpoints
{
    /// <summary>Maps the draft of a stove.</summary>
    public static void MapDraft(this WebApplication app) => app.MapPost("/api/stoves/{id:guid}/draft", OfStoveAsync).RequireAuthorization(Policies.SignedIn)
        .RequireRateLimiting(Policies.CalculationRate).Produces<StoveDraftAnswer>().ProducesValidationProblem();

    private static async Task<IResult> OfStoveAsync(Guid id, HotReading reading, [FromQuery] string? units, HistoryStore histories, TimeProvider clock)
    {
        if (await histories.StoveAsync(id) is not { } record)
            return Faults.Missing("stove");
        var system = Asked.UnitsOf(units);
        var errors = new EntryErrors(system);
        var month = record.Firm.Day(clock.GetUtcNow()).Month;
        if (errors.Need<FiringLevel>("level", reading.Level, "Level") is not { } level)
            return Faults.Refused(errors);
        var place = HotPlace.Of(record.History) with { Past = FlueFacts.Sound(record.History, level) };
        if (place.Answer(reading, month, errors, system) is not { } answer)
            return Faults.Refused(errors);
        return TypedResults.Ok(new StoveDraftAnswer(answer, DraftReckoning.Of(answer, reading.DraftPa, level, null, null, system),
            WhatIf.For(place.Question(reading, month), answer, system)));
    }
}
