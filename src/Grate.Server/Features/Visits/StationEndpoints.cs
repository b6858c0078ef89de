using System.Security.Claims;
using System.Text.Json;
using Grate.Core;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Visits;

/// <summary>Every station of every part: reckon while typing, and save.</summary>
public static class StationEndpoints
{
    /// <summary>Maps what the parts list: adding a part maps its stations.</summary>
    public static void MapStations(this WebApplication app)
    {
        var reckon = app.MapGroup("/api/visits/{id:guid}").RequireAuthorization(Policies.SignedIn).RequireRateLimiting(Policies.CalculationRate);
        var save = app.MapGroup("/api/visits/{id:guid}").RequireAuthorization(Policies.Field);
        var mapper = new Mapper(reckon, save);
        foreach (var station in app.Services.GetRequiredService<Parts>().Stations)
            station.Accept(mapper);
    }

    private sealed class Mapper(RouteGroupBuilder reckon, RouteGroupBuilder save) : IStationVisitor
    {
        public void Meet<TEntry, TAnswer>(Station<TEntry, TAnswer> station)
            where TEntry : class
            where TAnswer : class, IReckoned
        {
            foreach (var step in station.Steps)
            {
                var address = $"/steps/{step}/stations/{station.Code}";
                reckon.MapPost($"{address}/answer", (Guid id, TEntry entry, [FromQuery] string? units, VisitRecords records) => AnswerAsync(station, step, id, entry, units, records))
                    .Produces<TAnswer>().ProducesValidationProblem().ProducesProblem(404).WithTags(station.Code);
                save.MapPut(address, (Guid id, StationSave<TEntry> body, [FromQuery] string? units, ClaimsPrincipal user, VisitRecords records, StationStore stations, DueKeeper due, TimeProvider clock) =>
                        SaveAsync(station, step, id, body, units, user, records, stations, due, clock))
                    .Produces<SavedStation<TEntry, TAnswer>>().ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404).ProducesProblem(409).WithTags(station.Code);
            }
        }
    }

    private static async Task<IResult> AnswerAsync<TEntry, TAnswer>(Station<TEntry, TAnswer> station, string step, Guid id, TEntry entry, string? units, VisitRecords records)
        where TEntry : class
        where TAnswer : class, IReckoned
    {
        var system = Asked.UnitsOf(units);
        if (await records.FindAsync(id, system) is not { } record)
            return Faults.Missing("visit");
        var errors = new EntryErrors(system);
        var answer = station.Answer(entry, record.Context.Without(step, station.Code), errors);
        return answer is null || errors.Any ? Faults.Refused(errors) : TypedResults.Ok(answer);
    }

    private static async Task<IResult> SaveAsync<TEntry, TAnswer>(Station<TEntry, TAnswer> station, string step, Guid id, StationSave<TEntry> body, string? units,
        ClaimsPrincipal user, VisitRecords records, StationStore stations, DueKeeper due, TimeProvider clock)
        where TEntry : class
        where TAnswer : class, IReckoned
    {
        // The reader cannot tell of a type that is named elsewhere whether it may be missing.
        if (body.Entry is null)
            return Faults.Refused("entry", "The entry is missing: send an object, empty where nothing is known yet.");
        var system = Asked.UnitsOf(units);
        if (await records.FindAsync(id, system) is not { } record)
            return Faults.Missing("visit");
        if (!MayWriteFilter.MayWrite(user, record.Visit))
            return MayWriteFilter.Refused(record.Visit);
        var errors = new EntryErrors(system);
        Core.Visits.Save.Check(body.SaveId, body.BaseVersion, errors);
        if (station.Reckon(body.Entry, record.Context.Without(step, station.Code), errors) is not { } kept || errors.Any)
            return Faults.Refused(errors);
        var now = clock.GetUtcNow();
        var outcome = await stations.SaveAsync(StationRow.Of(id, step, station, kept, body.BaseVersion, body.SaveId, now, user.Name()), kept, user.PersonId(), now);
        if (outcome.StopsChanged)
            await due.StoveAsync(record.Context.Stove.Id);
        return Saving.Answer(outcome, row => new SavedStation<TEntry, TAnswer>(station.Read(row.Entry, row.Schema),
            row.Schema == station.Schema && row.Answer is not null ? JsonSerializer.Deserialize(row.Answer, station.AnswerJson) : null,
            row.Version, row.SaveId, row.SavedAt, row.SavedBy));
    }
}

/// <summary>How a save is answered.</summary>
internal static class Saving
{
    /// <summary>The stored version; 409 with it where someone else saved in between, or where the visit is signed.</summary>
    public static IResult Answer<TRow, TAnswer>(SaveOutcome<TRow> outcome, Func<TRow, TAnswer> answer)
        where TRow : class
        where TAnswer : class => outcome.State switch
        {
            SaveState.Saved => TypedResults.Ok(answer(outcome.Stored!)),
            SaveState.Signed => Signed(),
            SaveState.Reused => Reused(),
            _ => TypedResults.Problem(statusCode: 409, title: "Someone saved another version in between.",
                extensions: new Dictionary<string, object?> { ["stored"] = outcome.Stored is null ? null : answer(outcome.Stored) }),
        };

    /// <summary>409: the id was used before.</summary>
    public static IResult Reused() => TypedResults.Problem(statusCode: 409, title: "This id was used before for something else; nothing was saved.");

    /// <summary>409: it is signed.</summary>
    public static IResult Signed() =>
        TypedResults.Problem(statusCode: 409, title: "This visit is signed and is never changed; corrections are added below it.");
}
