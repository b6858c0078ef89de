using System.Security.Claims;
using System.Text;
using Grate.Core;
using Grate.Core.Places;
using Grate.Core.Service;
using Grate.Server.Access;
using Grate.Server.Features.Household;
using Grate.Store;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Service;

/// <summary>A text that is sent.</summary>
/// <param name="Kind">What it is for.</param>
/// <param name="Language">Code of its language.</param>
/// <param name="LanguageName">Its name.</param>
/// <param name="Text">The text.</param>
/// <param name="Own">Whether the firm wrote it; otherwise it is the one that comes with the language.</param>
public sealed record TextAnswer(MessageKind Kind, string Language, string LanguageName, MessageText Text, bool Own);

/// <summary>A message to send.</summary>
/// <param name="Kind">What the household is told.</param>
/// <param name="Language">Code of its language; default the household's, else the first.</param>
/// <param name="At">When somebody comes instead, the same day; with late alone.</param>
public sealed record MessageEntry([property: Words(typeof(MessageKind))] string? Kind = null, string? Language = null, TimeOnly? At = null);

/// <summary>What households are told of their visits, and what they answer through the link in it.</summary>
public static class MessageEndpoints
{
    private const int LongestAsk = 300;

    /// <summary>Maps messages and the household's page of its date.</summary>
    public static void MapMessages(this WebApplication app)
    {
        app.MapGet("/api/messages/texts", async (MessageDesk desk) => TypedResults.Ok(await desk.TextsAsync())).RequireAuthorization(Policies.Desk);
        app.MapPut("/api/messages/texts/{kind}/{language}", KeepTextAsync).RequireAuthorization(Policies.Owner).Produces<IReadOnlyList<TextAnswer>>().ProducesValidationProblem().ProducesProblem(404);
        app.MapPost("/api/visits/{id:guid}/messages", SendAsync).RequireAuthorization(Policies.SignedIn).Produces(204).ProducesValidationProblem().ProducesProblem(403).ProducesProblem(404).ProducesProblem(409);
        app.MapGet("/v/{secret}", ReadAsync).AllowAnonymous().RequireRateLimiting(Policies.CalendarRate).Produces<string>(200, "text/html").Produces<string>(404, "text/html");
        app.MapPost("/v/{secret}", TellAsync).AllowAnonymous().RequireRateLimiting(Policies.CalendarRate).DisableAntiforgery().WithMetadata(new BodyLimit(8 * 1024, "What is told is at most 8 KB."));
    }

    private static async Task<IResult> KeepTextAsync(string kind, string language, MessageText text, ClaimsPrincipal user, MessageStore messages, MessageDesk desk, Languages languages, TimeProvider clock)
    {
        if (Word.Find<MessageKind>(kind) is not { } known || languages.All.All(l => l.Code != language))
            return Faults.Missing("text of that kind and language");
        var errors = new EntryErrors();
        text.Check(known, errors);
        if (errors.Any)
            return Faults.Refused(errors);
        await messages.KeepTextAsync(new(Word.Of(known), language, text.Subject.Trim(), text.Body.Trim()), user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(await desk.TextsAsync());
    }

    private static async Task<IResult> SendAsync(Guid id, MessageEntry entry, HttpContext context, ClaimsPrincipal user, MessageStore messages, MessageDesk desk, VisitStore visits, FirmStore firms, PublicAddress outside, TimeProvider clock)
    {
        // On the road they tell those who wait for them; dates are the desk's.
        if (user.IsInRole("technician") && (entry.Kind != Word.Of(MessageKind.Late) || (await visits.FindAsync(id))?.TechnicianId != user.PersonId()))
            return TypedResults.Problem(statusCode: 403, title: "You tell your own households that you are late; dates are told by the office.");
        var errors = new EntryErrors();
        if (errors.Need<MessageKind>("kind", entry.Kind, "What they are told") is not { } kind)
            return Faults.Refused(errors);
        if (await messages.VisitAsync(id) is not { } visit)
            return Faults.Missing("visit");
        var (now, firm) = (clock.GetUtcNow(), await firms.GetAsync());
        if ((kind == MessageKind.Late) != (entry.At is not null) || (entry.At is { } later && later <= firm.Time(visit.Start)))
            return Faults.Refused("at", $"Who is late says when they come, after {firm.Time(visit.Start):HH:mm}; nobody else does.");
        if (Outbox.Missing(firm) is { } none)
            return TypedResults.Problem(statusCode: 409, title: none);
        // What came from a list, or was noted before addresses were looked at, is looked at here.
        MailAddresses.Check("email", visit.Email, visit.Household, errors, MailAddresses.Most);
        if (visit.Email.Length == 0 || errors.Any)
            return TypedResults.Problem(statusCode: 409, title: $"{visit.Household} has no mail address in the books{(errors.Any ? " that could be written to" : "")}: call them, or note one.");
        if (visit.State == "signed" || (visit.State == "cancelled") != (kind == MessageKind.Cancelled) || (kind is MessageKind.Planned or MessageKind.Reminder && visit.Start < now) || (kind == MessageKind.Late && firm.Day(visit.Start) != firm.Day(now)))
            return TypedResults.Problem(statusCode: 409, title: kind == MessageKind.Cancelled ? "This visit is not cancelled." : "This visit is over or cancelled: there is no date to tell.");
        if (entry.At is { } at)
            visit = visit with { Start = firm.At(firm.Day(visit.Start), at), End = firm.At(firm.Day(visit.Start), at) + (visit.End - visit.Start) };
        await desk.SendAsync(visit, kind, entry.Language, firm, path => outside.Link(context.Request, path), user.PersonId());
        return TypedResults.NoContent();
    }

    private static async Task<IResult> ReadAsync(string secret, [FromQuery] string? lang, [FromQuery] string? told, HttpContext context, MessageStore messages, Languages languages, FirmStore firms, TimeProvider clock)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        context.Response.Headers["X-Robots-Tag"] = "noindex";
        var accepted = context.Request.Headers.AcceptLanguage.ToString();
        if (await FindAsync(secret, messages, clock) is not { } visit)
            return TypedResults.Content(HouseholdHtml.Withdrawn(languages.Of(lang, accepted)), "text/html", Encoding.UTF8, 404);
        var language = languages.Of(lang ?? visit.Language, accepted);
        return TypedResults.Content(VisitHtml.Page(visit, await firms.GetAsync(), language, languages.All, clock.GetUtcNow(), told is "thanks" or "refused" ? language[$"visit.{told}"] : null), "text/html", Encoding.UTF8);
    }

    private static async Task<IResult> TellAsync(string secret, HttpRequest request, MessageStore messages, PlanStore plans, Languages languages, TimeProvider clock)
    {
        if (await FindAsync(secret, messages, clock) is not { } visit)
            return TypedResults.Content(HouseholdHtml.Withdrawn(languages.Of(null, request.Headers.AcceptLanguage.ToString())), "text/html", Encoding.UTF8, 404);
        if (!request.HasFormContentType)
            return TypedResults.Problem(statusCode: 415, title: "A form is expected.");
        var form = await request.ReadFormAsync();
        var (now, language) = (clock.GetUtcNow(), languages.Of(form["lang"].ToString(), ""));
        var asked = form["asked"].ToString().Trim();
        var open = visit.State == "open" && visit.Start > now;
        var done = (form["kind"].ToString(), open) switch
        {
            ("ask", true) when asked.Length is > 0 and <= LongestAsk && !EntryErrors.HasOddCharacter(asked) => await AskAsync(),
            ("cancel", true) when form["sure"] == "yes" => await plans.CancelAsync(visit.VisitId, visit.Version, "by the household, through its link", visit.MadeBy!.Value, now, household: true) == PlanChange.Done,
            _ => false,
        };
        request.HttpContext.Response.Headers.Location = $"/v/{secret}?lang={language.Code}&told={(done ? "thanks" : "refused")}";
        return TypedResults.StatusCode(303);

        async Task<bool> AskAsync()
        {
            await messages.AskAsync(visit.VisitId, asked, visit.MadeBy!.Value, now);
            return true;
        }
    }

    private static async Task<ToldVisit?> FindAsync(string secret, MessageStore messages, TimeProvider clock) =>
        secret.Length > 100 ? null : await messages.OfLinkAsync(Secret.HashOf(secret), clock.GetUtcNow());
}

/// <summary>Sends households what they are told of their visits.</summary>
public sealed class MessageDesk(MessageStore messages, Languages languages, Outbox outbox, TimeProvider clock)
{
    private const int SecretBytes = 24;

    /// <summary>Every text, the firm's own or the one that comes with the language.</summary>
    public async Task<IReadOnlyList<TextAnswer>> TextsAsync()
    {
        var own = (await messages.TextsAsync()).ToDictionary(t => (t.Kind, t.Language));
        return [.. from kind in Enum.GetValues<MessageKind>()
                   from language in languages.All
                   let text = own.GetValueOrDefault((Word.Of(kind), language.Code))
                   select new TextAnswer(kind, language.Code, language["lang.name"], text is null ? Shipped(kind, language) : new(text.Subject, text.Body), text is not null)];
    }

    private static MessageText Shipped(MessageKind kind, Language language) => new(language[$"message.{Word.Of(kind)}.subject"], language[$"message.{Word.Of(kind)}.body"]);

    /// <summary>Puts a message out, with the link by which the household answers.</summary>
    /// <param name="visit">The visit; its household has a mail address.</param>
    /// <param name="kind">What is told.</param>
    /// <param name="language">Code of a language; null for the household's.</param>
    /// <param name="firm">Who tells it.</param>
    /// <param name="link">A path of this server as it is reached from outside.</param>
    /// <param name="by">Who sends it.</param>
    public async Task SendAsync(ToldVisit visit, MessageKind kind, string? language, Firm firm, Func<string, string> link, Guid by)
    {
        var now = clock.GetUtcNow();
        var spoken = languages.Of(language ?? visit.Language, "");
        var text = (await TextsAsync()).Single(t => t.Kind == kind && t.Language == spoken.Code).Text;
        var secret = kind == MessageKind.Cancelled ? null : Secret.Make(SecretBytes);
        var filled = text.With(new Dictionary<string, string>
        {
            ["household"] = visit.Household,
            ["day"] = spoken.Day(firm.Day(visit.Start)),
            ["from"] = $"{firm.Time(visit.Start):HH:mm}",
            ["to"] = $"{firm.Time(visit.End):HH:mm}",
            ["firm"] = firm.Name,
            ["technician"] = visit.Technician,
            ["address"] = $"{visit.Street}, {visit.Place}",
            ["link"] = secret is null ? "" : link($"/v/{secret}"),
            ["reached"] = string.Join("\n", new[] { firm.Reached.Address, firm.Reached.Phone, firm.Reached.Email }.Where(l => l.Length > 0)),
        });
        var letter = Outbox.Write(firm, visit.Household, visit.Email, filled.Subject, filled.Body, now, (kind == MessageKind.Cancelled ? "CANCEL" : "REQUEST", Calendar(visit, firm, kind, now)));
        await messages.SentAsync(visit.VisitId, kind, secret is null ? null : Secret.HashOf(secret), visit.End.AddDays(1), letter, by, now);
        await outbox.SendAsync();
    }

    // One event a visit: what is sent later changes it where it stands in the household's calendar.
    private static string Calendar(ToldVisit visit, Firm firm, MessageKind kind, DateTimeOffset now)
    {
        static CalDateTime At(DateTimeOffset at) => new(at.UtcDateTime, CalDateTime.UtcTzId);
        var calendar = new Calendar { ProductId = "-//Grate//Visit//EN", Method = kind == MessageKind.Cancelled ? "CANCEL" : "REQUEST" };
        calendar.Events.Add(new CalendarEvent
        {
            Uid = $"visit-{visit.VisitId}@grate",
            Sequence = visit.Version,
            DtStamp = At(now),
            Start = At(visit.Start),
            End = At(visit.End),
            Summary = firm.Name,
            Location = $"{visit.Street}, {visit.Place}",
            Organizer = new Organizer($"mailto:{firm.Reached.Email}") { CommonName = firm.Name },
            Attendees = [.. MailAddresses.Of(visit.Email).Select(a => new Attendee($"mailto:{a}") { CommonName = visit.Household })],
            Status = kind == MessageKind.Cancelled ? EventStatus.Cancelled : EventStatus.Confirmed,
        });
        return new CalendarSerializer().SerializeToString(calendar)!;
    }
}
