using Grate.Core;
using Grate.Core.Flue;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Flue;

/// <summary>A computed draft and what follows from it.</summary>
/// <param name="Answer">The computation.</param>
/// <param name="Reckoning">In words.</param>
public sealed record HotDraftAnswer(DraftAnswer Answer, DraftReckoning Reckoning);

/// <summary>The same for a stove as it stands.</summary>
/// <param name="Answer">The computation.</param>
/// <param name="Reckoning">In words.</param>
/// <param name="WhatIfs">Changes that could be made to its flue.</param>
public sealed record StoveDraftAnswer(DraftAnswer Answer, DraftReckoning Reckoning, IReadOnlyList<WhatIf> WhatIfs);

/// <summary>A hot test as it stands, and the fire that is on screen.</summary>
/// <param name="Level">low, normal or high.</param>
/// <param name="HotTest">Everything entered so far.</param>
public sealed record HotDraftQuestion(string Level, HotTest HotTest);

/// <summary>Draft of stored flues, with the reckoning in words.</summary>
public static class DraftEndpoints
{
    /// <summary>Maps the draft endpoints.</summary>
    public static void MapDraft(this WebApplication app)
    {
        app.MapPost("/api/stoves/{id:guid}/draft", OfStoveAsync).RequireAuthorization(Policies.SignedIn)
            .RequireRateLimiting(Policies.CalculationRate).Produces<StoveDraftAnswer>().ProducesValidationProblem();
        var visit = app.MapGroup("/api/visits/{id:guid}").RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate);
        visit.MapPost("/draft", OfVisitAsync).Produces<HotDraftAnswer>().ProducesValidationProblem();
        visit.MapPost("/cold-checks", ColdChecksAsync).Produces<ColdChecksAnswer>().ProducesValidationProblem();
        visit.MapPost("/top", TopAsync).Produces<TopCheckAnswer>().ProducesValidationProblem();
    }

    /// <summary>The last reading of an earlier signed visit, at the same fire if there is one.</summary>
    public static EarlierReading? EarlierOf(IEnumerable<PastReading> past, string level, DateTime before) =>
        past.Where(r => r.At < before)
            .OrderBy(r => r.Level == level).ThenBy(r => r.At)
            .Select(r => new EarlierReading(DateOnly.FromDateTime(r.At), r.DraftPa, r.LowPa, r.HighPa))
            .LastOrDefault();

    private static async Task<IResult> OfStoveAsync(Guid id, HotReading reading, [FromQuery] string? units,
        StoveStore stoves, FlueRecords records, FirmStore firms, TimeProvider clock)
    {
        if (await stoves.FindAsync(id) is not { } stove || await stoves.NewestFlueAsync(id) is not { } flue)
            return Faults.Missing("stove");
        var system = SystemOf(units);
        var errors = new EntryErrors(system);
        var now = clock.GetUtcNow();
        var month = (await firms.GetAsync()).Day(now).Month;
        var place = (await records.PlacesAsync(stove, flue, now.UtcDateTime))(reading.Level);
        if (place.Answer(reading, month, errors, system) is not { } answer)
            return Faults.Refused(errors);
        var level = Word.Find<FiringLevel>(reading.Level)!.Value;
        return TypedResults.Ok(new StoveDraftAnswer(answer, DraftReckoning.Of(answer, reading.DraftPa, level, null, null, system),
            WhatIf.For(place.Question(reading, month), answer, system)));
    }

    private static async Task<IResult> OfVisitAsync(Guid id, HotDraftQuestion question, [FromQuery] string? units,
        VisitDocument documents, StoveStore stoves)
    {
        if (await documents.FindAsync(id) is not { } at)
            return Faults.Missing("visit");
        var system = SystemOf(units);
        var errors = new EntryErrors(system);
        question.HotTest.Check(errors);
        var reading = question.HotTest.Readings.FirstOrDefault(r => r.Level == question.Level) ?? new HotReading(question.Level);
        var places = await documents.PlacesAsync(at);
        var answer = places(reading.Level).Answer(reading, at.Month, errors, system);
        if (answer is null || errors.Any)
            return Faults.Refused(errors);
        var earlier = EarlierOf(await stoves.ReadingsAsync(at.Visit.ApplianceId), reading.Level, at.Visit.PlannedStart);
        var evidence = await documents.EvidenceAsync(at, places, question.HotTest, system);
        return TypedResults.Ok(new HotDraftAnswer(answer,
            DraftReckoning.Of(answer, reading.DraftPa, Word.Find<FiringLevel>(reading.Level)!.Value, earlier, evidence, system)));
    }

    private static Task<IResult> ColdChecksAsync(Guid id, ColdChecks checks, [FromQuery] string? units, VisitDocument documents) =>
        Stations.AnswerAsync(id, units, documents, (at, errors, system) =>
            Task.FromResult(ColdChecksAnswer.To(checks, FlueRecords.PlaceOf(at.Stove, at.Flue), at.Month, errors, system)));

    private static Task<IResult> TopAsync(Guid id, TopCheck check, [FromQuery] string? units, VisitDocument documents) =>
        Stations.AnswerAsync(id, units, documents, (at, errors, system) =>
            Task.FromResult(TopCheckAnswer.To(check, FlueRecords.LayoutOf(at.Stove, at.Flue), errors, system)));

    /// <summary>The unit system of a query, metric by default.</summary>
    public static UnitSystem SystemOf(string? units) => Word.Find<UnitSystem>(units) ?? UnitSystem.Metric;
}
