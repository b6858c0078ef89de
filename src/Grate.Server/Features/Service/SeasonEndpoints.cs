using System.Globalization;
using System.Security.Claims;
using Grate.Core;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>The season by weeks.</summary>
/// <param name="Today">The day at the firm's place.</param>
/// <param name="Weeks">52 weeks, this one first.</param>
/// <param name="Overdue">Visits that are overdue; they count in this week.</param>
/// <param name="Sentences">Where the load passes the capacity, and what to do.</param>
/// <param name="Technicians">Who goes out.</param>
/// <param name="Places">Where the stoves are.</param>
public sealed record SeasonAnswer(DateOnly Today, IReadOnlyList<SeasonWeek> Weeks, WeekRow Overdue, IReadOnlyList<Sentence> Sentences,
    IReadOnlyList<Technician> Technicians, IReadOnlyList<string> Places);

/// <summary>A due visit with what is to be done.</summary>
/// <param name="Line">Where and when; without the telephone number for a technician, who finds it on each stove's page and takes no list of them away.</param>
/// <param name="Tasks">What, and why.</param>
public sealed record DueAnswerLine(DueLine Line, IReadOnlyList<DueTask> Tasks);

/// <summary>A page of what is due.</summary>
/// <param name="Lines">Rows.</param>
/// <param name="More">Whether more follow.</param>
public sealed record DueAnswer(IReadOnlyList<DueAnswerLine> Lines, bool More);

/// <summary>Which due visits are asked for.</summary>
public sealed record DueQuery
{
    /// <summary>Place.</summary>
    public string? Place { get; init; }

    /// <summary>Kind of stove.</summary>
    public string? Kind { get; init; }

    /// <summary>stop, look-again, sweep, inspection or part.</summary>
    public string? Task { get; init; }

    /// <summary>Who was there last.</summary>
    public Guid? Technician { get; init; }

    /// <summary>The filter, or null with sentences in <paramref name="errors"/>.</summary>
    public DueFilter? Read(EntryErrors errors)
    {
        errors.CheckText("place", Place, "A place", 200);
        if (Kind is not null && StoveKind.Find(Kind) is null)
            errors.Add("kind", "There is no such kind of stove.");
        if (Task is not null && Word.Find<DueKind>(Task) is null)
            errors.Add("task", $"A task is one of {string.Join(", ", Word.All<DueKind>())}.");
        return errors.Any ? null : new DueFilter(Place, Kind, Task, Technician);
    }
}

/// <summary>A free time.</summary>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day.</param>
/// <param name="TechnicianId">Who has it free.</param>
public sealed record SlotAnswer(DateOnly Day, TimeOnly Time, Guid TechnicianId);

/// <summary>A visit to plan.</summary>
/// <param name="Id">UUIDv7 made by the client.</param>
/// <param name="ApplianceId">The stove.</param>
/// <param name="TechnicianId">Who goes.</param>
/// <param name="Day">Day at the firm's place.</param>
/// <param name="Time">Time of day, 05:00 to 22:00.</param>
/// <param name="Minutes">How long, 15 to 600.</param>
/// <param name="Despite">Whether what is asked back was answered.</param>
public sealed record PlanEntry(Guid Id, Guid ApplianceId, Guid TechnicianId, DateOnly Day, TimeOnly Time, int Minutes, bool Despite = false);

/// <summary>Season: what is due by weeks, the list behind it, and planning a visit from it.</summary>
public static class SeasonEndpoints
{
    private const int WeeksShown = 52;

    private static readonly string[] _columns =
        ["by", "earliest", "latest", "urgent", "customer", "phone", "street", "place", "stove", "tasks", "why", "minutes", "wood_kg", "last_technician", "stove_id"];

    /// <summary>Maps the season's endpoints.</summary>
    public static void MapSeason(this WebApplication app)
    {
        var season = app.MapGroup("/api/season").RequireAuthorization(Policies.SignedIn);
        season.MapGet("", SeasonAsync).Produces<SeasonAnswer>().ProducesValidationProblem();
        season.MapGet("/due", DueAsync).Produces<DueAnswer>().ProducesValidationProblem();
        season.MapGet("/due.csv", CsvAsync).RequireAuthorization(Policies.Desk).Produces<string>(200, "text/csv").ProducesValidationProblem();
        season.MapGet("/slot", SlotAsync).Produces<SlotAnswer>().ProducesValidationProblem().ProducesProblem(404);
        season.MapPost("/visits", PlanAsync).Produces(204).ProducesValidationProblem().ProducesProblem(403).ProducesProblem(409);
    }

    private static async Task<IResult> SeasonAsync([AsParameters] DueQuery query, SeasonStore seasons, PersonStore people, AbsenceStore absences, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        if (query.Read(errors) is not { } filter)
            return Faults.Refused(errors);
        var firm = await firms.GetAsync();
        var today = firm.Day(clock.GetUtcNow());
        var monday = Planning.MondayOf(today);
        var end = monday.AddDays(7 * WeeksShown);
        var technicians = await people.TechniciansAsync();
        var due = (await seasons.DueWeeksAsync(today, end, filter)).ToDictionary(w => w.Monday);
        // Of the week that runs only what is left of it counts, as in the season's plan.
        var planned = (await seasons.PlannedWeeksAsync(today.AddDays(1), end, firm.TimeZone, filter.TechnicianId)).ToDictionary(w => w.Monday);
        var away = (await absences.BetweenAsync(monday, end)).ToLookup(a => a.PersonId);
        int Capacity(DateOnly week) => technicians.Where(t => filter.TechnicianId is null || t.Id == filter.TechnicianId).Sum(t => firm.MinutesOf(week, d => d > today && !away[t.Id].Any(a => a.On(d))));
        var weeks = Enumerable.Range(0, WeeksShown).Select(i => monday.AddDays(7 * i)).Select(m => new SeasonWeek(m,
            planned.GetValueOrDefault(m)?.Minutes ?? 0, due.GetValueOrDefault(m)?.Visits ?? 0, due.GetValueOrDefault(m)?.Minutes ?? 0, Capacity(m))).ToList();
        return TypedResults.Ok(new SeasonAnswer(today, weeks, await seasons.OverdueAsync(today, filter), SeasonLoad.Say(weeks), technicians, await seasons.PlacesAsync()));
    }

    private static async Task<IResult> DueAsync([AsParameters] DueQuery query, [FromQuery] DateOnly? week, [FromQuery] bool? lowUseFirst, [FromQuery] int? offset,
        ClaimsPrincipal user, SeasonStore seasons, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        if (offset is < 0 or > 100_000)
            errors.Add("offset", "Offset must lie between 0 and 100 000.");
        var today = (await firms.GetAsync()).Day(clock.GetUtcNow());
        if (week < today.AddYears(-2) || week > today.AddYears(2))
            errors.Add("week", $"A week lies between {Day(today.AddYears(-2))} and {Day(today.AddYears(2))}; {Day(week.Value)} was asked for.");
        if (query.Read(errors) is not { } filter || errors.Any)
            return Faults.Refused(errors);
        var thisWeek = Planning.MondayOf(today);
        // What is overdue is in this week, whatever week it was wanted in.
        var monday = week is { } day ? Planning.MondayOf(day) : (DateOnly?)null;
        var lines = await seasons.PageAsync(monday > thisWeek ? monday : null, (monday ?? thisWeek.AddDays(7 * (WeeksShown - 1))).AddDays(7), filter, lowUseFirst == true, offset ?? 0);
        return TypedResults.Ok(new DueAnswer([.. lines.Select(l => new DueAnswerLine(user.IsInRole("technician") ? l with { Phone = "" } : l, DueKeeper.TasksOf(l.Tasks)))], lines.Count == SeasonStore.PageSize));
    }

    private static async Task<IResult> CsvAsync([AsParameters] DueQuery query, SeasonStore seasons, FirmStore firms, Due rules, TimeProvider clock)
    {
        var errors = new EntryErrors();
        if (query.Read(errors) is not { } filter)
            return Faults.Refused(errors);
        var today = (await firms.GetAsync()).Day(clock.GetUtcNow());
        return TypedResults.Stream(async stream =>
        {
            await using var csv = Csv.To(stream);
            await csv.WriteRecordAsync(_columns);
            await foreach (var line in seasons.AllAsync(Planning.MondayOf(today).AddDays(7 * WeeksShown), filter))
            {
                var tasks = DueKeeper.TasksOf(line.Tasks);
                await csv.WriteRecordAsync(
                [
                    Day(line.ByDay), Day(line.Earliest), Day(line.Latest), line.Urgent ? "yes" : "no", line.Customer, line.Phone, line.Street, line.Place, line.Model,
                    rules.PurposeOf(tasks), string.Join(" ", tasks.Select(t => t.Reason)), line.Minutes.ToString(CultureInfo.InvariantCulture),
                    line.WoodKg.ToString("0", CultureInfo.InvariantCulture), line.LastTechnician ?? "", line.ApplianceId.ToString(),
                ]);
            }
        }, Csv.Type, $"due-{Day(today)}.csv");
    }

    private static async Task<IResult> SlotAsync([FromQuery] Guid? technicianId, [FromQuery] DateOnly from, [FromQuery] int minutes, [FromQuery] Guid? stoveId, PersonStore people, FreeTimes times, FirmStore firms, TimeProvider clock)
    {
        var errors = new EntryErrors();
        Planning.CheckTime(from, minutes, (await firms.GetAsync()).Day(clock.GetUtcNow()), errors);
        if (technicianId is { } asked && !await people.IsTechnicianAsync(asked))
            errors.Add("technicianId", "There is no such technician.");
        if (errors.Any)
            return Faults.Refused(errors);
        return await times.FirstAsync(stoveId, technicianId, from, minutes) is { } free ? TypedResults.Ok(free) : Faults.Missing("free time within two months");
    }

    private static async Task<IResult> PlanAsync(PlanEntry entry, ClaimsPrincipal user, DueKeeper due, VisitStore visits,
        FirmStore firms, Due rules, PlanDesk desk, TimeProvider clock)
    {
        var errors = new EntryErrors();
        var firm = await firms.GetAsync();
        errors.CheckId("id", entry.Id, "A visit");
        if (await desk.RefusedAsync(errors, new(entry.ApplianceId, entry.TechnicianId, [], entry.Day, entry.Time, entry.Minutes), entry.Despite) is { } refused)
            return refused;
        if (user.IsInRole("technician") && entry.TechnicianId != user.PersonId())
            return TypedResults.Problem(statusCode: 403, title: "You plan your own visits; the office and the owner plan everybody's.");
        var tasks = await due.VisitsAsync(entry.ApplianceId) is [var first, ..] ? first : [];
        var state = await visits.PlanAsync(Planning.ForDue(entry.Id, entry.ApplianceId, entry.TechnicianId, firm.At(entry.Day, entry.Time), entry.Minutes, tasks, rules), user.PersonId(), clock.GetUtcNow());
        return await Planning.AnswerAsync(state, entry.ApplianceId, visits, firm);
    }

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
