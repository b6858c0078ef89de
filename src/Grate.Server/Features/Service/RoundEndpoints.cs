using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Core.Places;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A day's round as it is planned.</summary>
/// <param name="Day">The day at the firm's place.</param>
/// <param name="Home">Where vans start.</param>
/// <param name="DawnMin">Sunrise, minutes since local midnight.</param>
/// <param name="DuskMin">Sunset.</param>
/// <param name="Routes">Rounds as planned.</param>
/// <param name="Visits">What the sheet tells of each visit.</param>
/// <param name="Away">Who is away.</param>
/// <param name="Roads">Where the minutes of the drives come from.</param>
/// <param name="ToCome">Whether it is not over, so that a better one can be looked for.</param>
public sealed record RoundAnswerOfDay(DateOnly Day, Whereabouts Home, double DawnMin, double DuskMin, IReadOnlyList<DayRoute> Routes, IReadOnlyList<RoundVisit> Visits, IReadOnlyList<string> Away, string Roads, bool ToCome);

/// <summary>What a better plan is asked for.</summary>
/// <param name="Day">The day, from today on.</param>
/// <param name="WholeWeek">Whether all of its week is planned together, from today on, so that visits change their day too; default no.</param>
/// <param name="KeepTold">Whether those who were told keep hour and technician; default yes.</param>
/// <param name="Without">Who is ill.</param>
public sealed record RoundWish(DateOnly Day, bool WholeWeek = false, bool KeepTold = true, IReadOnlyList<Guid>? Without = null);

/// <summary>A search for a better plan: one at a time for each person.</summary>
/// <param name="Wish">What was asked for; null where nothing was.</param>
/// <param name="Running">How far it is; null once it is done.</param>
/// <param name="Found">What it found; null until it is done.</param>
/// <param name="Failed">Why it found nothing; null where it did.</param>
public sealed record RoundSearchAnswer(RoundWish? Wish, RoundProgress? Running, BetterRounds? Found, string? Failed);

/// <summary>A visit's move that was accepted.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">On which day.</param>
/// <param name="FromMin">When, minutes since local midnight, 300 to 1 320.</param>
public sealed record AcceptedMove(Guid VisitId, int BaseVersion, Guid TechnicianId, DateOnly Day, double FromMin);

/// <summary>Moves that were accepted, all or none.</summary>
/// <param name="Moves">At most 200.</param>
/// <param name="Loose">Visits without a place in it: they are cancelled, and wait for another day on the list of loose ones; at most 200.</param>
public sealed record AcceptedMoves(IReadOnlyList<AcceptedMove> Moves, IReadOnlyList<LooseVisit>? Loose = null);

/// <summary>A place that a visit of a day might get on it.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="TechnicianId">Who would go.</param>
/// <param name="Day">Its day.</param>
/// <param name="FromMin">When, minutes since local midnight, 0 to 1 440.</param>
public sealed record WantedPlace(Guid VisitId, Guid TechnicianId, DateOnly Day, double FromMin);

/// <summary>The rest of a round that runs late.</summary>
/// <param name="Route">What is left of it, shifted as far as it must.</param>
/// <param name="Tell">Visits whose households wait so long that they are told.</param>
/// <param name="Sentence">In words.</param>
public sealed record LateRound(DayRoute Route, IReadOnlyList<Guid> Tell, string Sentence);

/// <summary>What a change of a visit's place costs.</summary>
/// <param name="DriveMin">Minutes of driving more, or less, that day.</param>
/// <param name="LateMin">Minutes more, or less, that anybody is kept waiting.</param>
/// <param name="Sentence">In words.</param>
public sealed record MoveCost(double DriveMin, double LateMin, string Sentence);

/// <summary>Days' rounds: the drawn valley, better plans, what a drag costs, GeoJSON.</summary>
public static class RoundEndpoints
{
    private const int MostMoves = 200, MostIll = 50, EarliestMin = 300, LatestMin = 1320, MostBusyMin = 480;

    /// <summary>Maps /api/rounds.</summary>
    public static void MapRounds(this WebApplication app)
    {
        app.MapGet("/api/rounds", DayAsync).RequireAuthorization(Policies.SignedIn).Produces<RoundAnswerOfDay>().ProducesValidationProblem();
        app.MapGet("/api/rounds.geojson", GeoAsync).RequireAuthorization(Policies.SignedIn).Produces(200, contentType: "application/geo+json").ProducesValidationProblem();
        app.MapGet("/api/rounds/late", LateAsync).RequireAuthorization(Policies.Field).Produces<LateRound>().ProducesValidationProblem();
        app.MapPost("/api/rounds/better", BetterAsync).RequireAuthorization(Policies.Desk).RequireRateLimiting(Policies.CalculationRate).Produces<RoundSearchAnswer>().ProducesValidationProblem();
        app.MapGet("/api/rounds/better", (ClaimsPrincipal user, RoundSearches searches) => TypedResults.Ok(searches.Answer(user.PersonId()))).RequireAuthorization(Policies.Desk);
        app.MapPost("/api/rounds/better/halt", async (ClaimsPrincipal user, RoundSearches searches) => TypedResults.Ok(await searches.HaltAsync(user.PersonId()))).RequireAuthorization(Policies.Desk);
        app.MapDelete("/api/rounds/better", (ClaimsPrincipal user, RoundSearches searches) =>
        {
            searches.Forget(user.PersonId());
            return TypedResults.NoContent();
        }).RequireAuthorization(Policies.Desk);
        app.MapPost("/api/rounds/accept", AcceptAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        app.MapPost("/api/rounds/cost", CostAsync).RequireAuthorization(Policies.Desk).RequireRateLimiting(Policies.CalculationRate).Produces<MoveCost>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> DayAsync([FromQuery] DateOnly? day, ClaimsPrincipal user, RoundDesk desk)
    {
        if (await desk.ReadAsync(day) is not { } read)
            return Faults.Refused("day", RoundDesk.Days);
        var own = user.IsInRole("technician") ? user.PersonId() : (Guid?)null;
        return TypedResults.Ok(new RoundAnswerOfDay(read.Day, read.Round.Home, read.Round.DawnMin, read.Round.DuskMin, [.. read.Round.AsPlanned().Where(r => own is null || r.TechnicianId == own)],
            [.. read.Visits.Where(v => own is null || v.Visit.TechnicianId == own)], [.. read.Round.Vans.Where(v => v.Away).Select(v => v.Name)], read.Roads, read.ToCome));
    }

    private static async Task<IResult> LateAsync([FromQuery] int busyMin, ClaimsPrincipal user, RoundDesk desk, FirmStore firms, TimeProvider clock)
    {
        if (busyMin is < 0 or > MostBusyMin)
            return Faults.Refused("busyMin", $"How much longer it takes here: 0 to {MostBusyMin} min; {busyMin} was sent.");
        var now = (await firms.GetAsync()).Time(clock.GetUtcNow()).ToTimeSpan().TotalMinutes;
        if ((await desk.ReadAsync(null))!.Round.Late(user.PersonId(), now, busyMin) is not { } route)
            return Faults.Refused("busyMin", "You do not go out: there is no round of yours.");
        List<DayStop> wait = [.. route.Stops.Where(s => s.LateMin > DayRound.Promise.Value)];
        return TypedResults.Ok(new LateRound(route, [.. wait.Select(s => s.VisitId)], route.Stops.Count == 0 ? "Nothing is left of today's round." : wait.Count == 0 ? "Everybody keeps their hour; nothing is pulled forward."
            : $"{string.Join(", ", wait.Select(s => $"{s.Street} at {DayRound.Clock(s.FromMin)}, {s.LateMin:0} min later"))}: tell them."));
    }

    private static async Task<IResult> BetterAsync(RoundWish wish, ClaimsPrincipal user, RoundDesk desk, RoundSearches searches)
    {
        if (wish.Without?.Count > MostIll)
            return Faults.Refused("without", $"At most {MostIll} people are ill.");
        return await desk.ToComeAsync(wish.Day, wish.WholeWeek) is { } days ? TypedResults.Ok(await searches.StartAsync(user.PersonId(), wish, days)) : Faults.Refused("day", "A better round lies between today and two years from now.");
    }

    private static async Task<IResult> AcceptAsync(AcceptedMoves accepted, ClaimsPrincipal user, RoundStore rounds, RoundSearches searches, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var (errors, firm) = (new EntryErrors(), await firms.GetAsync());
        var today = firm.Day(clock.GetUtcNow());
        var technicians = (await people.TechniciansAsync()).ToDictionary(t => t.Id, t => t.Name);
        var moves = errors.Each("moves", accepted.Moves, MostMoves, "moves");
        foreach (var (move, i) in moves)
        {
            if (move.Day < today || move.Day > today.AddYears(2))
                errors.Add($"moves[{i}].day", "Visits are moved between today and two years from now.");
            if (move.FromMin is not (>= EarliestMin and <= LatestMin))
                errors.Add($"moves[{i}].fromMin", "A visit starts between 05:00 (300 min) and 22:00 (1320 min).");
            if (!technicians.ContainsKey(move.TechnicianId))
                errors.Add($"moves[{i}].technicianId", "There is no such technician.");
        }
        List<LooseVisit> loose = [.. errors.Each("loose", accepted.Loose, MostMoves, "visits").Select(l => l.Item)];
        List<Guid> ids = [.. moves.Select(m => m.Item.VisitId), .. loose.Select(l => l.VisitId)];
        if (ids.Count == 0 || ids.Distinct().Count() != ids.Count)
            errors.Add("moves", "Visits that move, and visits without a place, each once.");
        if (errors.Any)
            return Faults.Refused(errors);
        var visits = (await rounds.OfAsync(firm, ids)).ToDictionary(v => v.Visit.VisitId);
        if (!ids.TrueForAll(visits.ContainsKey))
            return Faults.Missing("visit");
        var refused = await rounds.MoveAsync([.. moves.Select(m => m.Item).Select(m =>
        {
            var (start, was) = (firm.At(m.Day, TimeOnly.MinValue.AddMinutes(m.FromMin)), visits[m.VisitId]);
            return new RoundMove(m.VisitId, m.BaseVersion, m.TechnicianId, start, start.AddMinutes(was.Visit.Minutes),
                $"Moved with the round: {technicians[m.TechnicianId]}, {m.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)} {DayRound.Clock(m.FromMin)}; it was {was.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)} {DayRound.Clock(was.Visit.FromMin)}.");
        })], loose, user.PersonId(), clock.GetUtcNow());
        if (refused is null)
        {
            searches.Forget(user.PersonId());
            return TypedResults.NoContent();
        }
        return TypedResults.Problem(statusCode: 409, title: $"{visits[refused.Value.VisitId].Visit.Street}: {(refused.Value.Why switch
        {
            PlanChange.Signed => "the visit is signed.",
            PlanChange.Recorded => "the visit was begun.",
            PlanChange.Taken => "somebody is elsewhere then.",
            _ => "somebody changed this plan in between.",
        })} Nothing was moved: look at the day again.");
    }

    private static async Task<IResult> CostAsync(WantedPlace asked, RoundDesk desk)
    {
        if (asked.FromMin is not (>= 0 and <= 1440))
            return Faults.Refused("fromMin", $"Minutes since midnight: 0 to 1440; {asked.FromMin:0.##} was sent.");
        if (await desk.ReadAsync(asked.Day) is not { } read)
            return Faults.Refused("day", RoundDesk.Days);
        return read.Round.CostOf(asked.VisitId, asked.TechnicianId, asked.FromMin) is var (drive, late, sentence) ? TypedResults.Ok(new MoveCost(drive, late, sentence)) : Faults.Missing("visit on that day");
    }

    private static async Task<IResult> GeoAsync([FromQuery] DateOnly? day, ClaimsPrincipal user, RoundDesk desk)
    {
        if (await desk.ReadAsync(day) is not { } read)
            return Faults.Refused("day", RoundDesk.Days);
        var own = user.IsInRole("technician") ? user.PersonId() : (Guid?)null;
        double[] home = [read.Round.Home.Longitude, read.Round.Home.Latitude];
        // RFC 7946: longitude first.
        var features = read.Round.AsPlanned().Where(r => r.Stops.Count > 0 && (own is null || r.TechnicianId == own)).SelectMany(r => (IEnumerable<object>)
        [
            new { type = "Feature", geometry = new { type = "LineString", coordinates = (double[][])[home, .. r.Stops.Select(s => new[] { s.Longitude, s.Latitude }), home] }, properties = (object)new { technician = r.Name, driveMin = Math.Round(r.DriveMin, 1) } },
            .. r.Stops.Select((s, i) => new { type = "Feature", geometry = new { type = "Point", coordinates = new[] { s.Longitude, s.Latitude } }, properties = (object)new { technician = r.Name, number = i + 1, street = s.Street, place = s.Place, from = DayRound.Clock(s.FromMin), to = DayRound.Clock(s.ToMin), driveMin = Math.Round(s.DriveMin, 1) } }),
        ]);
        return TypedResults.Json(new { type = "FeatureCollection", features }, contentType: "application/geo+json");
    }
}
