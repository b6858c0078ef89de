using Grate.Core;
using Grate.Core.Deposits;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Deposits;
using Grate.Server.Features.Flue;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A page of a search.</summary>
/// <param name="Stoves">Rows.</param>
/// <param name="More">Whether more follow.</param>
public sealed record StovesAnswer(IReadOnlyList<StoveLine> Stoves, bool More);

/// <summary>A stop with its sentence.</summary>
/// <param name="Stop">As stored.</param>
/// <param name="Sentence">What is said on every page.</param>
public sealed record StopNotice(StopRow Stop, string Sentence)
{
    /// <summary>Stops with their sentences.</summary>
    public static IReadOnlyList<StopNotice> Of(IEnumerable<StopRow> stops) =>
        [.. stops.Select(s => new StopNotice(s, SafetyStops.Find(s.Code)?.Sentence ?? "Unsafe: no fire until cleared."))];
}

/// <summary>The last sweep of a stove; of a flue that was changed since, only when it was and what was left.</summary>
/// <param name="Day">When.</param>
/// <param name="Record">What was found and left.</param>
/// <param name="Answer">What it said, by today's rules.</param>
/// <param name="SegmentsMm">Thickness in every segment at each point of the forecast's curve, mm.</param>
/// <param name="Life">All sweeps and the wood between them.</param>
public sealed record LastSweep(DateOnly Day, SweepRecord Record, SweepAnswer Answer, IReadOnlyList<IReadOnlyList<double>> SegmentsMm, FlueLife Life);

/// <summary>A stove's page.</summary>
/// <param name="Stove">Facts.</param>
/// <param name="Features">Parts and ways it has.</param>
/// <param name="Outline">Its house.</param>
/// <param name="Flue">Its flue now.</param>
/// <param name="Layout">How it stands in the house.</param>
/// <param name="Remarks">What to know about it.</param>
/// <param name="Year">Draft over the year at low fire.</param>
/// <param name="Sweep">The last sweep recorded on this flue, and when to come back; null if none was.</param>
/// <param name="Visits">Visits, newest first.</param>
/// <param name="Readings">Draft history, oldest first.</param>
/// <param name="Findings">The latest word on every part.</param>
/// <param name="Stops">Stops, the open ones first.</param>
/// <param name="NextInspection">When it is due.</param>
/// <param name="Due">Everything that is due, by the day it is wanted.</param>
public sealed record StoveAnswer(
    Stove Stove, IReadOnlyList<string> Features, HouseOutline Outline, FlueVersion Flue, FlueLayout Layout, IReadOnlyList<FlueRemark> Remarks,
    DraftYear Year, LastSweep? Sweep, IReadOnlyList<VisitRow> Visits, IReadOnlyList<PastReading> Readings,
    IReadOnlyList<FindingRow> Findings, IReadOnlyList<StopNotice> Stops, DateOnly? NextInspection, IReadOnlyList<DueTask> Due);

/// <summary>Stoves: search and page.</summary>
public static class StoveEndpoints
{
    private const int LongestSearch = 100;

    /// <summary>Maps the stove endpoints.</summary>
    public static void MapStoves(this WebApplication app)
    {
        app.MapGet("/api/stoves", SearchAsync).RequireAuthorization(Policies.SignedIn).Produces<StovesAnswer>().ProducesValidationProblem();
        app.MapGet("/api/stoves/{id:guid}", StoveAsync).RequireAuthorization(Policies.SignedIn).Produces<StoveAnswer>().ProducesProblem(404);
    }

    private static async Task<IResult> SearchAsync([FromQuery] string? q, [FromQuery] int? offset, StoveStore stoves)
    {
        if (q?.Length > LongestSearch)
            return Faults.Refused("q", $"A search has at most {LongestSearch} characters.");
        if (offset is < 0 or > 100_000)
            return Faults.Refused("offset", "Offset must lie between 0 and 100 000.");
        var words = (q ?? "").ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var found = await stoves.SearchAsync(words, offset ?? 0);
        return TypedResults.Ok(new StovesAnswer(found, found.Count == StoveStore.PageSize));
    }

    private static async Task<IResult> StoveAsync(Guid id, [FromQuery] string? units, SweepRecords sweeps, FirmStore firms, TimeProvider clock, StoveStore stoves, VisitStore visits, StopStore stops, DueKeeper due)
    {
        if (await stoves.FindAsync(id) is not { } stove || await stoves.NewestFlueAsync(id) is not { } flue)
            return Faults.Missing("stove");
        var now = clock.GetUtcNow();
        var history = await visits.OfStoveAsync(id);
        var system = DraftEndpoints.SystemOf(units);
        var chain = FlueRecords.ReadStored(flue);
        var outline = stove.Outline();
        var layout = FlueLayout.Of(chain, stove.StandsAt(flue.StoveXM), outline);
        // The year needs no reading: any outdoor temperature reads the rest of the place.
        var ordinary = DraftCase.Read(FlueRecords.PlaceOf(stove, flue).Question(new HotReading("low"), 1), new EntryErrors(), new Assumptions())!;
        return TypedResults.Ok(new StoveAnswer(
            stove, StoveKind.Find(stove.Kind)!.FeaturesOf(stove.Combustor), outline, flue, layout, FlueBuild.Remarks(chain, layout, outline, system),
            DraftYear.Of(chain, ordinary.Air, stove.MonthlyC, ordinary.Need),
            LastSweepOf(await sweeps.PlaceAsync(stove, flue, now.UtcDateTime), (await firms.GetAsync()).Day(now), system), history, await stoves.ReadingsAsync(id),
            await visits.LatestFindingsAsync(id), StopNotice.Of(await stops.OfStoveAsync(id)),
            history.FirstOrDefault(v => v.NextInspection is not null)?.NextInspection,
            await due.TasksAsync(id)));
    }

    private static LastSweep? LastSweepOf(SweepPlace place, DateOnly today, UnitSystem system)
    {
        if (place.Last() is not var (last, before) || SweepAnswer.To(last.RecordHere, before, last.Day, today, new EntryErrors(), system) is not { } answer)
            return null;
        return new LastSweep(last.Day, last.Record, answer, answer.SegmentsMm(last.Record.LeftMm ?? 0), SweepAnswer.LifeOf(place, answer.Forecast.Curve[^1].Date));
    }
}
