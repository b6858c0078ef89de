using System.Security.Claims;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Flue;
using Grate.Store;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A stop of today's round.</summary>
/// <param name="Stop">Where, when, which stove.</param>
/// <param name="FromTheVan">What it needs from the van.</param>
/// <param name="ExpectedDraft">What its flue should pull today at normal fire, in the shown unit.</param>
public sealed record TodayStop(RoundStop Stop, IReadOnlyList<string> FromTheVan, string ExpectedDraft);

/// <summary>Today's round.</summary>
/// <param name="Day">The day at the firm's place.</param>
/// <param name="TimeZone">Zone of its times.</param>
/// <param name="Stops">Stops by technician and time.</param>
public sealed record TodayAnswer(DateOnly Day, string TimeZone, IReadOnlyList<TodayStop> Stops);

/// <summary>GET /api/today: a technician's own round; the whole firm's for office and owner.</summary>
public static class TodayEndpoints
{
    /// <summary>Maps Today.</summary>
    public static void MapToday(this WebApplication app) =>
        app.MapGet("/api/today", TodayAsync).RequireAuthorization(Policies.SignedIn);

    private static async Task<Ok<TodayAnswer>> TodayAsync([FromQuery] string? units, ClaimsPrincipal user,
        FirmStore firms, VisitStore visits, StoveStore stoves, TimeProvider clock)
    {
        var system = Word.Find<UnitSystem>(units) ?? UnitSystem.Metric;
        var firm = await firms.GetAsync();
        var day = firm.Day(clock.GetUtcNow());
        var round = await visits.RoundAsync(firm.At(day, TimeOnly.MinValue), firm.At(day.AddDays(1), TimeOnly.MinValue),
            user.IsInRole("technician") ? user.PersonId() : null);
        var stops = new List<TodayStop>();
        foreach (var stop in round)
        {
            var stove = (await stoves.FindAsync(stop.ApplianceId))!;
            var flue = (await stoves.FlueAsync(stop.FlueVersionId))!;
            var errors = new EntryErrors(system);
            var answer = FlueRecords.PlaceOf(stove, flue).Answer(new HotReading("normal"), day.Month, errors, system);
            var chain = FlueReading.Read(flue.Flue, errors, new Assumptions());
            stops.Add(new TodayStop(stop,
                chain is null ? [] : VanList.For(chain, system),
                answer is null ? "" : Units.Of(Quantity.Draft, system).Range(answer.LowPa, answer.HighPa)));
        }
        return TypedResults.Ok(new TodayAnswer(day, firm.TimeZone, stops));
    }
}
