using Grate.Core;
using Grate.Core.Flue;
using Grate.Server.Access;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Flue;

/// <summary>A computed draft and what follows from it.</summary>
/// <param name="Answer">The computation.</param>
/// <param name="Reckoning">In words.</param>
public sealed record HotDraftAnswer(DraftAnswer Answer, DraftReckoning Reckoning);

/// <summary>Draft of stored flues, with the reckoning in words.</summary>
public static class DraftEndpoints
{
    /// <summary>Maps the draft endpoints.</summary>
    public static void MapDraft(this WebApplication app)
    {
        app.MapPost("/api/stoves/{id:guid}/draft", OfStoveAsync).RequireAuthorization(Policies.SignedIn)
            .RequireRateLimiting(Policies.CalculationRate).Produces<HotDraftAnswer>().ProducesValidationProblem();
        app.MapPost("/api/visits/{id:guid}/draft", OfVisitAsync).RequireAuthorization(Policies.SignedIn)
            .RequireRateLimiting(Policies.CalculationRate).Produces<HotDraftAnswer>().ProducesValidationProblem();
    }

    /// <summary>What the records know of the place where a reading is taken.</summary>
    public static HotPlace PlaceOf(Stove stove, FlueVersion flue) =>
        new(flue.Flue, stove.AltitudeM, stove.MonthlyC, stove.LabelMinPa, stove.LabelMaxPa);

    /// <summary>The last reading of an earlier signed visit, at the same fire if there is one.</summary>
    public static EarlierReading? EarlierOf(IEnumerable<PastReading> past, string level, DateTime before) =>
        past.Where(r => r.At < before)
            .OrderBy(r => r.Level == level).ThenBy(r => r.At)
            .Select(r => new EarlierReading(DateOnly.FromDateTime(r.At), r.DraftPa, r.LowPa, r.HighPa))
            .LastOrDefault();

    private static async Task<IResult> OfStoveAsync(Guid id, HotReading reading, [FromQuery] string? units,
        StoveStore stoves, FirmStore firms, TimeProvider clock)
    {
        if (await stoves.FindAsync(id) is not { } stove || await stoves.NewestFlueAsync(id) is not { } flue)
            return Faults.Missing("stove");
        var firm = await firms.GetAsync();
        return Reckon(reading, stove, flue, firm.Day(clock.GetUtcNow()).Month, null, units);
    }

    private static async Task<IResult> OfVisitAsync(Guid id, HotReading reading, [FromQuery] string? units,
        VisitStore visits, StoveStore stoves)
    {
        if (await visits.FindAsync(id) is not { } visit)
            return Faults.Missing("visit");
        var stove = (await stoves.FindAsync(visit.ApplianceId))!;
        var flue = (await stoves.FlueAsync(visit.FlueVersionId))!;
        var earlier = EarlierOf(await stoves.ReadingsAsync(visit.ApplianceId), reading.Level, visit.PlannedStart);
        return Reckon(reading, stove, flue, visit.PlannedStart.Month, earlier, units);
    }

    private static IResult Reckon(HotReading reading, Stove stove, FlueVersion flue, int month, EarlierReading? earlier, string? units)
    {
        var system = Word.Find<UnitSystem>(units) ?? UnitSystem.Metric;
        var errors = new EntryErrors(system);
        if (PlaceOf(stove, flue).Answer(reading, month, errors, system) is not { } answer)
            return Faults.Refused(errors);
        var level = Word.Find<FiringLevel>(reading.Level)!.Value;
        return TypedResults.Ok(new HotDraftAnswer(answer, DraftReckoning.Of(answer, reading.DraftPa, level, earlier, system)));
    }
}
