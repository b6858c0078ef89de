using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Instruments;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A visit of the season's plan.</summary>
/// <param name="Line">Where and when.</param>
/// <param name="Purpose">What for.</param>
/// <param name="Why">What its week means to it.</param>
public sealed record BrickAnswer(BrickLine Line, string Purpose, string Why);

/// <summary>The season's plan.</summary>
/// <param name="Percent">How much of a new one is made; null while none is.</param>
/// <param name="Failed">Why the last one was not made; null where it was.</param>
/// <param name="Kept">The plan that is kept; null where none was made yet.</param>
/// <param name="Weeks">Its weeks.</param>
public sealed record SeasonPlanAnswer(int? Percent, string? Failed, KeptSeason? Kept, IReadOnlyList<SeasonPlanWeek> Weeks);

/// <summary>One visit of a week.</summary>
/// <param name="ApplianceId">Its stove.</param>
/// <param name="Number">Which of the stove's due visits.</param>
public sealed record BrickKey(Guid ApplianceId, int Number);

/// <summary>A week, or some of it, that is accepted.</summary>
/// <param name="Monday">The week.</param>
/// <param name="Only">Which visits; null for all of it, up to 200.</param>
/// <param name="Write">Whether the households are written to.</param>
public sealed record AcceptedWeek(DateOnly Monday, IReadOnlyList<BrickKey>? Only = null, bool Write = false);

/// <summary>What became of a visit of the plan.</summary>
/// <param name="ApplianceId">Its stove.</param>
/// <param name="Street">Its street.</param>
/// <param name="VisitId">The visit that is planned now; null where it is not.</param>
/// <param name="Sentence">When and who, or why not.</param>
public sealed record PlacedBrick(Guid ApplianceId, string Street, Guid? VisitId, string Sentence);

/// <summary>The season's plan: made in the background, accepted by the week or by the visit.</summary>
public static class SeasonPlanEndpoints
{
    /// <summary>Maps /api/season/plan.</summary>
    public static void MapSeasonPlan(this WebApplication app)
    {
        var plan = app.MapGroup("/api/season/plan").RequireAuthorization(Policies.Desk);
        plan.MapGet("", async (SeasonPlanDesk desk) => TypedResults.Ok(await desk.AnswerAsync()));
        plan.MapPost("", (ClaimsPrincipal user, SeasonPlanDesk desk) => desk.Start(user.PersonId()) ? TypedResults.Accepted((string?)null)
            : (IResult)TypedResults.Problem(statusCode: 409, title: "A plan is being made: wait until it is done, or stop it.")).RequireRateLimiting(Policies.CalculationRate).Produces(202).ProducesProblem(409);
        plan.MapDelete("", (SeasonPlanDesk desk) => desk.Stop() ? TypedResults.NoContent() : Faults.Missing("plan that is being made")).Produces(204).ProducesProblem(404);
        plan.MapGet("/{monday}", WeekAsync).Produces<IReadOnlyList<BrickAnswer>>().ProducesValidationProblem();
        plan.MapPost("/accept", AcceptAsync).Produces<IReadOnlyList<PlacedBrick>>().ProducesValidationProblem();
    }

    private static async Task<IResult> WeekAsync(DateOnly monday, SeasonPlanStore seasons, Due rules) => !IsWeek(monday) ? NoWeek()
        : TypedResults.Ok((IReadOnlyList<BrickAnswer>)[.. (await seasons.BricksAsync(monday)).Select(b => new BrickAnswer(b, rules.PurposeOf(DueKeeper.TasksOf(b.Tasks)), new SeasonBrick(b.ApplianceId, b.Number, b.Monday, b.WeeksOff, b.PriceMin, b.AskMonday).Say(b.ByDay)))]);

    private static bool IsWeek(DateOnly monday) => monday is { DayOfWeek: DayOfWeek.Monday, Year: >= 2000 and <= 2200 };

    private static IResult NoWeek() => Faults.Refused("monday", "A week is told by its Monday, between the years 2000 and 2200.");

    private static async Task<IResult> AcceptAsync(AcceptedWeek accepted, HttpContext context, ClaimsPrincipal user, SeasonPlanDesk desk, FirmStore firms, PublicAddress outside)
    {
        if (!IsWeek(accepted.Monday))
            return NoWeek();
        if (accepted.Only is { Count: 0 or > SeasonPlanStore.MostBricks })
            return Faults.Refused("only", $"Between 1 and {SeasonPlanStore.MostBricks} visits are accepted at once.");
        if (accepted.Write && Outbox.Missing(await firms.GetAsync()) is { } none)
            return Faults.Refused("write", none);
        return TypedResults.Ok(await desk.AcceptAsync(accepted, path => outside.Link(context.Request, path), user.PersonId()));
    }
}

/// <summary>Makes the season's plan in the background, one at a time, and turns its weeks into visits.</summary>
public sealed class SeasonPlanDesk(SeasonPlanStore seasons, FirmStore firms, PersonStore people, AbsenceStore absences, VisitStore visits, MessageStore messages, MessageDesk letters, Stock.PartsDesk parts,
    Due rules, ISeasonSolver solver, IRoads roads, TimeProvider clock, IHostApplicationLifetime life, ILogger<SeasonPlanDesk> log)
{
    private const int WeeksPlanned = 52;

    private readonly Lock _gate = new();
    private CancellationTokenSource? _run;
    private volatile int _percent;
    private volatile string? _failed;

    /// <summary>The plan, and how far a new one is.</summary>
    public async Task<SeasonPlanAnswer> AnswerAsync()
    {
        int? percent;
        lock (_gate)
            percent = _run is null ? null : _percent;
        return new(percent, _failed, await seasons.FindAsync(), await seasons.WeeksAsync());
    }

    /// <summary>Begins a plan; false where one is being made.</summary>
    public bool Start(Guid by)
    {
        CancellationTokenSource run;
        lock (_gate)
        {
            if (_run is not null)
                return false;
            _run = run = CancellationTokenSource.CreateLinkedTokenSource(life.ApplicationStopping);
            (_percent, _failed) = (0, null);
        }
        _ = Task.Run(() => RunAsync(run, by), CancellationToken.None);
        return true;
    }

    /// <summary>Ends the one that is being made; the plan before stays.</summary>
    public bool Stop()
    {
        lock (_gate)
        {
            _run?.Cancel();
            return _run is not null;
        }
    }

    private async Task RunAsync(CancellationTokenSource run, Guid by)
    {
        try
        {
            var problem = await ProblemAsync();
            _percent = 10;
            var plan = SeasonPlan.Make(problem, solver, done => _percent = 10 + (int)(80 * done), run.Token);
            await seasons.KeepAsync(problem.Monday, plan, by, clock.GetUtcNow());
        }
        catch (OperationCanceledException)
        {
            _failed = "It was stopped: the plan before stays.";
        }
        catch (Exception fault)
        {
            log.LogError(fault, "The season's plan was not made");
            _failed = Database.Away(fault) ? "The database did not answer: the plan before stays." : "The plan could not be made: the one before stays.";
        }
        lock (_gate)
        {
            _run = null;
            run.Dispose();
        }
    }

    private async Task<SeasonProblem> ProblemAsync()
    {
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var monday = Planning.MondayOf(today);
        var (end, weeks) = (monday.AddDays(7 * WeeksPlanned), Enumerable.Range(0, WeeksPlanned).Select(w => monday.AddDays(7 * w)).ToList());
        var due = await seasons.DueAsync(end);
        var away = (await absences.BetweenAsync(monday, end)).ToLookup(a => a.PersonId);
        var planned = await seasons.PlannedAsync(firm, today.AddDays(1), end);
        // Of the week that runs only what is left of it.
        int Minutes(Guid person, DateOnly week) => Math.Max(0, firm.MinutesOf(week, d => d > today && !away[person].Any(a => a.On(d))) - planned.GetValueOrDefault((person, week)));
        var hands = (await people.SkillsAsync()).Select(p => new SeasonHand(p.Skills, [.. weeks.Select(w => Minutes(p.Id, w))])).ToList();
        return new(monday, due, hands, [.. weeks.Select(w => LightShare(firm, w))], firm.Works.Home);
    }

    // How much of a working day in the middle of a week is light; where nobody knows from where, all of it.
    private static double LightShare(Firm firm, DateOnly monday)
    {
        var day = monday.AddDays(3);
        var (from, to) = (day.ToDateTime(firm.Works.From), day.ToDateTime(firm.Works.To));
        if (Light(firm, day) is not var (rise, set))
            return 1;
        return Math.Clamp(((set < to ? set : to) - (rise > from ? rise : from)) / (to - from), 0, 1);
    }

    /// <summary>Sunrise and sunset of a day at the firm's place; null where nobody knows from where, or there is none.</summary>
    internal static (DateTime Rise, DateTime Set)? Light(Firm firm, DateOnly day) => firm.Works.Home is { } home && Daylight.Of(day, home.Latitude, home.Longitude) is { } light
        ? (firm.Local(new DateTimeOffset(light.Rise, TimeSpan.Zero)), firm.Local(new DateTimeOffset(light.Set, TimeSpan.Zero))) : null;

    /// <summary>Plans a week's visits, each where it costs the least driving, and writes to their households.</summary>
    public async Task<IReadOnlyList<PlacedBrick>> AcceptAsync(AcceptedWeek accepted, Func<string, string> link, Guid by)
    {
        var (firm, now) = (await firms.GetAsync(), clock.GetUtcNow());
        var today = firm.Day(now);
        var only = accepted.Only?.ToHashSet();
        var bricks = (await seasons.BricksAsync(accepted.Monday)).Where(b => only is null || only.Contains(new(b.ApplianceId, b.Number))).ToList();
        var days = Enumerable.Range(0, 7).Select(accepted.Monday.AddDays).Where(d => d > today).ToList();
        var (taken, away, skilled) = (await seasons.TakenAsync(firm, accepted.Monday), await absences.BetweenAsync(accepted.Monday, accepted.Monday.AddDays(6)), await people.SkillsAsync());
        var ways = await roads.BetweenAsync(bricks.Select(b => new RoadPlace(b.Latitude, b.Longitude)).Concat(taken.Select(t => new RoadPlace(t.Latitude, t.Longitude))).Concat(firm.Works.Home is { } home ? [new(home.Latitude, home.Longitude)] : []), CancellationToken.None);
        var vans = days.ToDictionary(d => d, d => (IReadOnlyList<DayVan>)[.. skilled.Select(p => new DayVan(p.Id, p.Name, p.Skills, away.Any(a => a.PersonId == p.Id && a.On(d))))]);
        var slots = new WeekSlots(firm.Works, days, d => vans[d], d => Light(firm, d), ways.Between);
        foreach (var time in taken)
            slots.Take(time);
        var wanting = await parts.WantingAsync();
        var names = skilled.ToDictionary(p => p.Id, p => p.Name);
        var placed = new List<PlacedBrick>();
        foreach (var brick in bricks)
            placed.Add(await PlaceAsync(brick));
        return placed;

        async Task<PlacedBrick> PlaceAsync(BrickLine brick)
        {
            PlacedBrick Not(string why) => new(brick.ApplianceId, brick.Street, null, why);
            if (brick.Number > 1)
                return Not("It comes after the stove's visit before it: that one is taken first, this one when it is done.");
            if (slots.Find(new(brick.Latitude, brick.Longitude, brick.Minutes, brick.Needs, brick.Wishes)) is not { } time)
                return Not(days.Count == 0 ? "The week is over." : "No time is left in this week that suits the household, the stove and the light.");
            var (day, at) = (DateOnly.FromDateTime(time.Start), TimeOnly.FromDateTime(time.Start));
            if (wanting.Contains(brick.ApplianceId) && await parts.MissingAsync(brick.ApplianceId, day) is { } missing)
                return Not(missing);
            var visit = Planning.ForDue(Guid.CreateVersion7(), brick.ApplianceId, time.TechnicianId, firm.At(day, at), brick.Minutes, DueKeeper.TasksOf(brick.Tasks), rules);
            var state = await visits.PlanAsync(visit, by, now);
            if (state != PlanState.Planned)
                return Not(state switch
                {
                    PlanState.PlannedBefore => "This stove has an open visit already.",
                    PlanState.Taken => "Somebody took that time in between: accept it again.",
                    _ => "There is no such stove any more.",
                });
            var said = $"{day:ddd d MMM}, {at:HH:mm}, {names[time.TechnicianId]}";
            if (accepted.Write && await messages.VisitAsync(visit.Id) is { } told)
            {
                if (told.Email.Length == 0)
                    return new(brick.ApplianceId, brick.Street, visit.Id, $"{said}; no mail address: call them.");
                var errors = new EntryErrors();
                MailAddresses.Check("email", told.Email, told.Household, errors, MailAddresses.Most);
                if (errors.Any)
                    return new(brick.ApplianceId, brick.Street, visit.Id, $"{said}; {told.Email} is no mail address: call them.");
                await letters.SendAsync(told, MessageKind.Planned, null, firm, link, by);
                said += "; written to";
            }
            return new(brick.ApplianceId, brick.Street, visit.Id, $"{said}.");
        }
    }
}
