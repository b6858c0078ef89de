using System.Security.Claims;
using System.Text;
using Grate.Core;
using Grate.Server.Access;
using Grate.Store;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Grate.Server.Features.Service;

/// <summary>A calendar's address as it is made.</summary>
/// <param name="TechnicianId">Whose round; null for the whole firm. A technician's own only, unless office or owner ask.</param>
public sealed record CalendarEntry(Guid? TechnicianId = null);

/// <summary>A new address: the secret in it is shown this once.</summary>
/// <param name="Id">To revoke it by.</param>
/// <param name="Path">Path on this server.</param>
public sealed record CalendarAddress(Guid Id, string Path);

/// <summary>Calendars (RFC 5545) of planned visits and due dates under secret addresses.</summary>
public static class CalendarEndpoints
{
    private const int SecretBytes = 32, MostEvents = 1000, DueWeeks = 8;

    /// <summary>Maps the calendars.</summary>
    public static void MapCalendars(this WebApplication app)
    {
        var feeds = app.MapGroup("/api/calendars").RequireAuthorization(Policies.SignedIn);
        feeds.MapGet("", ListAsync);
        feeds.MapPost("", MakeAsync).Produces<CalendarAddress>().ProducesValidationProblem().ProducesProblem(403);
        feeds.MapDelete("/{id:guid}", RevokeAsync).Produces(204).ProducesProblem(404);
        // The secret stands in for a sign-in: calendar programs have none.
        app.MapGet("/calendar/{secret}.ics", ReadAsync).AllowAnonymous().RequireRateLimiting(Policies.CalendarRate)
            .Produces<string>(200, "text/calendar").ProducesProblem(404);
    }

    private static async Task<Ok<IReadOnlyList<CalendarFeed>>> ListAsync(ClaimsPrincipal user, CalendarStore calendars) =>
        TypedResults.Ok(await calendars.ListAsync(OwnOnly(user)));

    private static async Task<IResult> MakeAsync(CalendarEntry entry, ClaimsPrincipal user, CalendarStore calendars, PersonStore people, TimeProvider clock)
    {
        if (user.IsInRole("technician") && entry.TechnicianId != user.PersonId())
            return TypedResults.Problem(statusCode: 403, title: "Others' calendars are for the office and the owner; make your own.");
        if (entry.TechnicianId is { } technician && !await people.IsTechnicianAsync(technician))
            return Faults.Refused("technicianId", "There is no such technician.");
        var secret = Secret.Make(SecretBytes);
        var id = Guid.CreateVersion7();
        await calendars.AddAsync(id, entry.TechnicianId, Secret.HashOf(secret), user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(new CalendarAddress(id, $"/calendar/{secret}.ics"));
    }

    private static async Task<IResult> RevokeAsync(Guid id, ClaimsPrincipal user, CalendarStore calendars, TimeProvider clock) =>
        await calendars.RevokeAsync(id, OwnOnly(user), clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("calendar address");

    private static async Task<IResult> ReadAsync(string secret, HttpContext context, CalendarStore calendars, SeasonStore seasons, FirmStore firms, Core.Service.Due rules, TimeProvider clock)
    {
        if (secret.Length > 100 || await calendars.FindAsync(Secret.HashOf(secret)) is not { } feed)
            return Faults.Missing("calendar");
        var firm = await firms.GetAsync();
        var now = clock.GetUtcNow();
        var today = firm.Day(now);
        var calendar = new Calendar { ProductId = "-//Grate//Service calendar//EN" };
        calendar.AddProperty("X-WR-CALNAME", feed.Person is { } person ? $"{firm.Name}: {person}" : firm.Name);
        foreach (var visit in await seasons.PlannedAsync(firm.At(today.AddDays(-7), TimeOnly.MinValue), feed.PersonId, MostEvents))
            calendar.Events.Add(Planned(visit, now, withName: feed.PersonId is null));
        await foreach (var due in seasons.AllAsync(today.AddDays(7 * DueWeeks), new DueFilter(TechnicianId: feed.PersonId)))
        {
            if (calendar.Events.Count == 2 * MostEvents)
                break;
            calendar.Events.Add(DueOn(due, rules, now));
        }
        context.Response.Headers.CacheControl = "private, no-store";
        return TypedResults.Text(new CalendarSerializer().SerializeToString(calendar)!, "text/calendar", Encoding.UTF8);
    }

    private static CalendarEvent Planned(PlannedLine visit, DateTimeOffset now, bool withName) => new()
    {
        Uid = $"visit-{visit.VisitId}@grate",
        Sequence = visit.PlanVersion,
        DtStamp = At(now),
        Start = At(visit.PlannedStart),
        End = At(visit.PlannedEnd),
        Summary = $"{visit.Purpose}: {visit.Customer}{(withName ? $" ({visit.Technician})" : "")}",
        Location = $"{visit.Street}, {visit.Place}",
        GeographicLocation = new GeographicLocation(visit.Latitude, visit.Longitude),
        Description = string.Join("\n", new[] { visit.Complaint, visit.Phone }.Where(t => t.Length > 0)),
    };

    private static CalendarEvent DueOn(DueLine due, Core.Service.Due rules, DateTimeOffset now)
    {
        var tasks = DueKeeper.TasksOf(due.Tasks);
        return new CalendarEvent
        {
            Uid = $"due-{due.ApplianceId}-{due.Number}@grate",
            DtStamp = At(now),
            Start = new CalDateTime(due.ByDay),
            End = new CalDateTime(due.ByDay.AddDays(1)),
            Summary = $"Due: {rules.PurposeOf(tasks)}, {due.Customer}",
            Location = $"{due.Street}, {due.Place}",
            Description = string.Join("\n", tasks.Select(t => t.Reason)),
            // A date to remember, not an hour that is taken.
            Transparency = TransparencyType.Transparent,
        };
    }

    private static CalDateTime At(DateTimeOffset at) => new(at.UtcDateTime, CalDateTime.UtcTzId);

    private static Guid? OwnOnly(ClaimsPrincipal user) => user.IsInRole("technician") ? user.PersonId() : null;
}
