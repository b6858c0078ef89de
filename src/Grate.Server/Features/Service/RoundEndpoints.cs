using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Core.Places;
using Grate.Core.Service;
using Grate.Instruments;
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
public sealed record RoundAnswerOfDay(DateOnly Day, Whereabouts Home, double DawnMin, double DuskMin, IReadOnlyList<DayRoute> Routes, IReadOnlyList<RoundVisit> Visits, IReadOnlyList<string> Away, string Roads);

/// <summary>What a better plan is asked for.</summary>
/// <param name="Day">The day.</param>
/// <param name="KeepTold">Whether those who were told keep hour and technician; default yes.</param>
/// <param name="Without">Who is ill.</param>
public sealed record RoundWish(DateOnly Day, bool KeepTold = true, IReadOnlyList<Guid>? Without = null);

/// <summary>A visit's move that was accepted.</summary>
/// <param name="VisitId">The visit.</param>
/// <param name="BaseVersion">Version of the plan that was looked at.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="FromMin">When, minutes since local midnight, 300 to 1 320.</param>
public sealed record AcceptedMove(Guid VisitId, int BaseVersion, Guid TechnicianId, double FromMin);

/// <summary>Moves that were accepted, all or none.</summary>
/// <param name="Day">The day.</param>
/// <param name="Moves">At most 60.</param>
/// <param name="Loose">Visits without a place in it: they are cancelled, and wait for another day on the list of loose ones; at most 60.</param>
public sealed record AcceptedMoves(DateOnly Day, IReadOnlyList<AcceptedMove> Moves, IReadOnlyList<LooseVisit>? Loose = null);

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
    private const int MostMoves = 60, EarliestMin = 300, LatestMin = 1320, MostBusyMin = 480;

    // Long enough to find, short enough to wait for.
    private static readonly TimeSpan _search = TimeSpan.FromSeconds(2);

    /// <summary>Maps /api/rounds.</summary>
    public static void MapRounds(this WebApplication app)
    {
        app.MapGet("/api/rounds", DayAsync).RequireAuthorization(Policies.SignedIn).Produces<RoundAnswerOfDay>().ProducesValidationProblem();
        app.MapGet("/api/rounds.geojson", GeoAsync).RequireAuthorization(Policies.SignedIn).Produces(200, contentType: "application/geo+json").ProducesValidationProblem();
        app.MapGet("/api/rounds/late", LateAsync).RequireAuthorization(Policies.Field).Produces<LateRound>().ProducesValidationProblem();
        app.MapPost("/api/rounds/better", BetterAsync).RequireAuthorization(Policies.Desk).RequireRateLimiting(Policies.CalculationRate).Produces<DayPlan>().ProducesValidationProblem();
        app.MapPost("/api/rounds/accept", AcceptAsync).RequireAuthorization(Policies.Desk).Produces(204).ProducesValidationProblem().ProducesProblem(404).ProducesProblem(409);
        app.MapPost("/api/rounds/cost", CostAsync).RequireAuthorization(Policies.Desk).RequireRateLimiting(Policies.CalculationRate).Produces<MoveCost>().ProducesValidationProblem().ProducesProblem(404);
    }

    private static async Task<IResult> DayAsync([FromQuery] DateOnly? day, ClaimsPrincipal user, RoundDesk desk)
    {
        if (await desk.ReadAsync(day) is not { } read)
            return Faults.Refused("day", RoundDesk.Days);
        var own = user.IsInRole("technician") ? user.PersonId() : (Guid?)null;
        return TypedResults.Ok(new RoundAnswerOfDay(read.Day, read.Round.Home, read.Round.DawnMin, read.Round.DuskMin, [.. read.Round.AsPlanned().Where(r => own is null || r.TechnicianId == own)],
            [.. read.Visits.Where(v => own is null || v.Visit.TechnicianId == own)], [.. read.Round.Vans.Where(v => v.Away).Select(v => v.Name)], read.Roads));
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

    private static async Task<IResult> BetterAsync(RoundWish wish, RoundDesk desk, IRoundSolver solver)
    {
        var errors = new EntryErrors();
        if (wish.Without?.Count > 50)
            errors.Add("without", "At most 50 people are ill.");
        if (errors.Any)
            return Faults.Refused(errors);
        return await desk.ReadAsync(wish.Day) is { } read ? TypedResults.Ok(read.Round.Better(solver, wish.KeepTold, wish.Without ?? [], _search)) : Faults.Refused("day", RoundDesk.Days);
    }

    private static async Task<IResult> AcceptAsync(AcceptedMoves accepted, ClaimsPrincipal user, RoundStore rounds, PersonStore people, FirmStore firms, TimeProvider clock)
    {
        var (errors, firm) = (new EntryErrors(), await firms.GetAsync());
        var today = firm.Day(clock.GetUtcNow());
        var technicians = (await people.TechniciansAsync()).ToDictionary(t => t.Id, t => t.Name);
        if (accepted.Day < today || accepted.Day > today.AddYears(2))
            errors.Add("day", "Visits are moved between today and two years from now.");
        var moves = errors.Each("moves", accepted.Moves, MostMoves, "moves");
        foreach (var (move, i) in moves)
        {
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
        var visits = (await rounds.DayAsync(firm, accepted.Day)).ToDictionary(v => v.Visit.VisitId);
        if (!ids.TrueForAll(visits.ContainsKey))
            return Faults.Missing("visit on that day");
        var refused = await rounds.MoveAsync([.. moves.Select(m => m.Item).Select(m =>
        {
            var start = firm.At(accepted.Day, TimeOnly.MinValue.AddMinutes(m.FromMin));
            return new RoundMove(m.VisitId, m.BaseVersion, m.TechnicianId, start, start.AddMinutes(visits[m.VisitId].Visit.Minutes),
                $"Moved with the day's round: {technicians[m.TechnicianId]}, {DayRound.Clock(m.FromMin)}; it was {DayRound.Clock(visits[m.VisitId].Visit.FromMin)}.");
        })], loose, user.PersonId(), clock.GetUtcNow());
        return refused is null ? TypedResults.NoContent() : TypedResults.Problem(statusCode: 409, title: $"{visits[refused.Value.VisitId].Visit.Street}: {(refused.Value.Why switch
        {
            PlanChange.Signed => "the visit is signed.",
            PlanChange.Recorded => "the visit was begun.",
            PlanChange.Taken => "somebody is elsewhere then.",
            _ => "somebody changed this plan in between.",
        })} Nothing was moved: look at the day again.");
    }

    private static async Task<IResult> CostAsync(AcceptedMoves asked, RoundDesk desk)
    {
        if (asked.Moves is not [{ FromMin: >= 0 and <= 1440 } move])
            return Faults.Refused("moves", "One move, within the day.");
        if (await desk.ReadAsync(asked.Day) is not { } read)
            return Faults.Refused("day", RoundDesk.Days);
        return read.Round.CostOf(move.VisitId, move.TechnicianId, move.FromMin) is var (drive, late, sentence) ? TypedResults.Ok(new MoveCost(drive, late, sentence)) : Faults.Missing("visit on that day");
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

/// <summary>Reads a day's round together: visits, who goes out, daylight and roads.</summary>
public sealed class RoundDesk(FirmStore firms, PersonStore people, AbsenceStore absences, RoundStore rounds, IRoads roads, TimeProvider clock)
{
    /// <summary>Which days can be looked at.</summary>
    public const string Days = "A round lies between ten years ago and two years from now.";

    /// <summary>A day's round, read.</summary>
    /// <param name="Day">The day.</param>
    /// <param name="Round">The round.</param>
    /// <param name="Visits">Its visits.</param>
    /// <param name="Roads">Where minutes come from.</param>
    public sealed record Read(DateOnly Day, DayRound Round, IReadOnlyList<RoundVisit> Visits, string Roads);

    /// <summary>Reads a day, today's without one; null where it is too far away.</summary>
    public async Task<Read?> ReadAsync(DateOnly? asked)
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var day = asked ?? today;
        if (day < today.AddYears(-10) || day > today.AddYears(2))
            return null;
        var visits = await rounds.DayAsync(firm, day);
        var away = (await absences.BetweenAsync(day, day)).Select(a => a.PersonId).ToHashSet();
        var vans = (await people.SkillsAsync()).Select(p => new DayVan(p.Id, p.Name, p.Skills, away.Contains(p.Id))).ToList();
        // A firm that did not say where it is starts at its first house.
        var home = firm.Works.Home ?? (visits.Count > 0 ? new(visits[0].Visit.Latitude, visits[0].Visit.Longitude, 0) : new(0, 0, 0));
        var times = await roads.BetweenAsync(visits.Select(v => new RoadPlace(v.Visit.Latitude, v.Visit.Longitude)).Append(new(home.Latitude, home.Longitude)), CancellationToken.None);
        // Where the sun does not set, or does not rise, a roof waits for nobody's clock.
        var light = Daylight.Of(day, home.Latitude, home.Longitude);
        double Minute(DateTime utc) => (firm.Local(new DateTimeOffset(utc, TimeSpan.Zero)) - day.ToDateTime(TimeOnly.MinValue)).TotalMinutes;
        var round = new DayRound(firm.Works, home, light is null ? 0 : Minute(light.Rise), light is null ? 1440 : Minute(light.Set), [.. visits.Select(v => v.Visit)], vans, times.Between);
        return new(day, round, visits, times.ByRule ? "The road service does not answer: drives by the plain rule, 1.3 times the straight way at 45 km/h." : "Drives by the road service.");
    }
}
