using System.Security.Claims;
using Grate.Core;
using Grate.Core.Flue;
using Grate.Core.Service;
using Grate.Instruments;
using Grate.Server.Access;
using Grate.Server.Features.Flue;
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
public sealed record TodayAnswer(DateOnly Day, string TimeZone, IReadOnlyList<TodayStop> Stops, IReadOnlyList<TodayStop> Tomorrow);

/// <summary>GET /api/today: a technician's own round; the whole firm's for office and owner.</summary>
public static class TodayEndpoints
{
    /// <summary>Maps Today.</summary>
    public static void MapToday(this WebApplication app) =>
        app.MapGet("/api/today", TodayAsync).RequireAuthorization(Policies.SignedIn);

    private static async Task<Ok<TodayAnswer>> TodayAsync([FromQuery] string? units, ClaimsPrincipal user,
        FirmStore firms, VisitStore visits, StoveStore stoves, IWeather weather, TimeProvider clock)
    {
        var system = DraftEndpoints.SystemOf(units);
        var firm = await firms.GetAsync();
        var day = firm.Day(clock.GetUtcNow());
        async Task<IReadOnlyList<TodayStop>> RoundAsync(DateOnly of)
        {
            var stops = new List<TodayStop>();
            foreach (var stop in await visits.RoundAsync(firm.At(of, TimeOnly.MinValue), firm.At(of.AddDays(1), TimeOnly.MinValue),
                user.IsInRole("technician") ? user.PersonId() : null))
            {
                var stove = (await stoves.FindAsync(stop.ApplianceId))!;
                var flue = (await stoves.FlueAsync(stop.FlueVersionId))!;
                stops.Add(Stop(stop, stove, flue, weather.OfDay(of, stove.Latitude, stove.Longitude, stove.MonthlyC), firm.Hour(stop.PlannedStart), system));
            }
            return stops;
        }
        return TypedResults.Ok(new TodayAnswer(day, firm.TimeZone, await RoundAsync(day), await RoundAsync(day.AddDays(1))));
    }

    private static TodayStop Stop(RoundStop stop, Stove stove, FlueVersion flue, DayWeather weather, double hour, UnitSystem system)
    {
        var temperature = Units.Of(Quantity.Temperature, system);
        var outdoorC = weather.AtHour(hour);
        var errors = new EntryErrors(system);
        var month = stop.PlannedStart.Month;
        var answer = FlueRecords.PlaceOf(stove, flue).Answer(new HotReading("normal", OutdoorC: outdoorC), month, errors, system);
        var cold = ColdStartAnswer.To(new ColdStartEntry(
            new ColdSurroundingsEntry(outdoorC, null, stove.AltitudeM, OutdoorColdC: weather.OvernightLowC), flue.Flue, "torch"), errors);
        return new TodayStop(stop, VanList.For(FlueRecords.ReadStored(flue), system),
            answer is null ? "" : Units.Of(Quantity.Draft, system).Range(answer.LowPa, answer.HighPa),
            $"{temperature.Format(outdoorC)}, night {temperature.Format(weather.OvernightLowC)}",
            cold?.Plug == true ? PlugWarning(cold) : null);
    }

    // Five to six minutes when the fall is strong, by common practice; longer where the wall takes more.
    private static string PlugWarning(ColdStartAnswer cold) => cold.PreheatS is { } seconds
        ? $"Cold plug likely: bring the torch, allow {Math.Max(PracticeMinutes, Math.Ceiling(seconds / 60)):0} minutes."
        : "Cold plug likely, and a torch alone will not turn it: bring torch and dryer, allow a quarter of an hour.";

    private const double PracticeMinutes = 5;
}
