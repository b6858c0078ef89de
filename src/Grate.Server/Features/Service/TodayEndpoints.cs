using System.Security.Claims;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A stop of a round.</summary>
/// <param name="Stop">Where, when, which stove.</param>
/// <param name="FromTheVan">What it needs from the van.</param>
/// <param name="ExpectedDraft">What its flue should pull then at normal fire, in the shown unit.</param>
/// <param name="Weather">The weather then.</param>
/// <param name="Warning">What the weather does to its cold flue; null where nothing is to be feared.</param>
public sealed record TodayStop(RoundStop Stop, IReadOnlyList<string> FromTheVan, string ExpectedDraft, string Weather, string? Warning);

/// <summary>The round of a day.</summary>
/// <param name="Day">The day at the firm's place.</param>
/// <param name="TimeZone">Zone of its times.</param>
/// <param name="Stops">Stops by technician and time.</param>
/// <param name="Tomorrow">The stops of the day after.</param>
/// <param name="Inbox">What households said from outside: what nobody has seen, and for a day who has; for office and owner.</param>
/// <param name="EmergencyNumber">What is called where life is in danger; empty where the firm entered none.</param>
/// <param name="Faults">Stoves for which nothing could be computed; told to the owner alone.</param>
public sealed record TodayAnswer(DateOnly Day, string TimeZone, IReadOnlyList<TodayStop> Stops, IReadOnlyList<TodayStop> Tomorrow, IReadOnlyList<InboxLine> Inbox, string EmergencyNumber, IReadOnlyList<DueFault> Faults);

/// <summary>GET /api/today: a technician's own round; the whole firm's for office and owner.</summary>
public static class TodayEndpoints
{
    /// <summary>Maps Today.</summary>
    public static void MapToday(this WebApplication app)
    {
        app.MapGet("/api/today", TodayAsync).RequireAuthorization(Policies.SignedIn);
        app.MapPost("/api/inbox/{id:guid}/seen", async (Guid id, ClaimsPrincipal user, InboxStore inbox, TimeProvider clock) =>
            await inbox.SeenAsync(id, user.PersonId(), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("message")).RequireAuthorization(Policies.Desk).Produces(204).ProducesProblem(404);
    }

    private static async Task<Ok<TodayAnswer>> TodayAsync([FromQuery] string? units, ClaimsPrincipal user,
        FirmStore firms, VisitStore visits, VisitRecords records, DueStore due, InboxStore inbox, Parts parts, TimeProvider clock)
    {
        var system = Asked.UnitsOf(units);
        var firm = await firms.GetAsync();
        var day = firm.Day(clock.GetUtcNow());
        var round = await visits.RoundAsync(firm.Span(day).From, firm.Span(day.AddDays(1)).Before, user.IsInRole("technician") ? user.PersonId() : null);
        var known = (await records.ManyAsync([.. round.Select(s => s.VisitId)], system)).ToDictionary(r => r.Visit.Id);
        IReadOnlyList<TodayStop> On(DateOnly of) => [.. round.Where(s => firm.Day(s.PlannedStart) == of).Select(s => Stop(s, known[s.VisitId], parts))];
        return TypedResults.Ok(new TodayAnswer(day, firm.TimeZone, On(day), On(day.AddDays(1)),
            user.IsInRole("technician") ? [] : await inbox.ListAsync(clock.GetUtcNow().AddDays(-1)), firm.Reached.Emergency, user.IsInRole("owner") ? await due.FaultsAsync() : []));
    }

    private static TodayStop Stop(RoundStop stop, VisitRecord record, Parts parts)
    {
        var at = record.Context;
        var (temperature, weather) = (Units.Of(Quantity.Temperature, at.Units), at.Weather!);
        var answer = HotPlace.Of(at).Answer(new HotReading("normal"), at.Day.Month, new EntryErrors(at.Units), at.Units);
        return new TodayStop(stop, [.. parts.Van(at).Select(i => i.What)],
            answer is null ? "" : Units.Of(Quantity.Draft, at.Units).Range(answer.LowPa, answer.HighPa),
            $"{temperature.Format(weather.OutdoorC)}, night {temperature.Format(weather.OvernightLowC)}", ColdPlug.Warning(at));
    }
}
