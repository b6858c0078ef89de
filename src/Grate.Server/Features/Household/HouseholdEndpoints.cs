using System.Globalization;
using System.Security.Claims;
using System.Text;
using Grate.Core;
using Grate.Core.Fuel;
using Grate.Core.Household;
using Grate.Core.Section;
using Grate.Core.Service;
using Grate.Core.Visits;
using Grate.Server.Access;
using Grate.Server.Features.Service;
using Grate.Server.Features.Visits;
using Grate.Store;
using Microsoft.AspNetCore.Mvc;

namespace Grate.Server.Features.Household;

/// <summary>A household's page as it is made: the secret in it is shown this once.</summary>
/// <param name="Path">Path on this server.</param>
public sealed record HouseholdAddress(string Path);

/// <summary>A stove's page for its household, and what came back.</summary>
/// <param name="Link">The page that works; null where there is none.</param>
/// <param name="Notes">What the household told, newest first.</param>
public sealed record HouseholdState(HouseholdLink? Link, IReadOnlyList<HouseholdNote> Notes);

/// <summary>Pages of households under secret addresses: read by whoever has the address, without a sign-in and without a script.</summary>
public static class HouseholdEndpoints
{
    private const int SecretBytes = 24, LongestText = 500;
    // What a form puts round its file.
    private const int FormBytes = 4096;
    private static readonly string[] _fields = ["log.kg", "log.hours", "log.coals", "log.days", "log.note", "log.glass", "log.title"];
    private const double MostKg = 100_000, MostHours = 100, MostDays = 400;

    /// <summary>Maps the pages.</summary>
    public static void MapHouseholds(this WebApplication app)
    {
        var links = app.MapGroup("/api/stoves/{id:guid}/household").RequireAuthorization(Policies.SignedIn);
        links.MapGet("", StateAsync).Produces<HouseholdState>().ProducesProblem(404);
        links.MapPost("", MakeAsync).Produces<HouseholdAddress>().ProducesProblem(404);
        links.MapDelete("", WithdrawAsync).Produces(204).ProducesProblem(404);
        links.MapGet("/pictures/{noteId:guid}", PictureAsync).Produces(200, contentType: "image/jpeg").ProducesProblem(404);
        app.MapGet("/h/{secret}", ReadAsync).AllowAnonymous().RequireRateLimiting(Policies.CalendarRate).Produces<string>(200, "text/html").Produces<string>(404, "text/html");
        app.MapPost("/h/{secret}", TellAsync).AllowAnonymous().RequireRateLimiting(Policies.CalendarRate).DisableAntiforgery().WithMetadata(new BodyLimit(8 * 1024, "What is told is at most 8 KB."));
        app.MapPost("/h/{secret}/glass", ShowGlassAsync).AllowAnonymous().RequireRateLimiting(Policies.LinkRate).DisableAntiforgery().WithMetadata(new BodyLimit(Picture.MostBytes + FormBytes, Picture.TooLarge)).ProducesProblem(413);
    }

    private static async Task<IResult> StateAsync(Guid id, StoveStore stoves, HouseholdStore households) => await stoves.ExistsAsync(id)
        ? TypedResults.Ok(new HouseholdState(await households.LinkAsync(id), await households.NotesAsync(id))) : Faults.Missing("stove");

    private static async Task<IResult> MakeAsync(Guid id, ClaimsPrincipal user, StoveStore stoves, HouseholdStore households, TimeProvider clock)
    {
        if (!await stoves.ExistsAsync(id))
            return Faults.Missing("stove");
        var secret = Secret.Make(SecretBytes);
        await households.MakeAsync(Guid.CreateVersion7(), id, Secret.HashOf(secret), user.PersonId(), clock.GetUtcNow());
        return TypedResults.Ok(new HouseholdAddress($"/h/{secret}"));
    }

    private static async Task<IResult> WithdrawAsync(Guid id, HouseholdStore households, TimeProvider clock) =>
        await households.WithdrawAsync(id, clock.GetUtcNow()) ? TypedResults.NoContent() : Faults.Missing("page of this household");

    private static async Task<IResult> ReadAsync(string secret, [FromQuery] string? lang, [FromQuery] string? size, [FromQuery] string? told, HttpContext context,
        HouseholdStore households, HistoryStore histories, StopStore stops, DueKeeper due, Languages languages, TimeProvider clock)
    {
        context.Response.Headers.CacheControl = "private, no-store";
        // The address is a secret: no other page is told where somebody came from.
        context.Response.Headers["X-Robots-Tag"] = "noindex";
        var accepted = context.Request.Headers.AcceptLanguage.ToString();
        if (secret.Length > 100 || await households.StoveOfAsync(Secret.HashOf(secret)) is not { } stove || await histories.StoveAsync(stove) is not { } record)
            return TypedResults.Content(HouseholdHtml.Withdrawn(languages.Of(lang, accepted)), "text/html", Encoding.UTF8, 404);
        var language = languages.Of(lang ?? record.Customer.Language, accepted);
        var at = record.History.On(record.Firm.Day(clock.GetUtcNow()), UnitSystem.Metric);
        var standing = (await stops.OfStoveAsync(stove)).Where(s => s.ClearedAt is null).Select(s => s.Code).Distinct().ToList();
        var next = (await due.TasksAsync(stove)).Where(t => t.Kind != DueKind.Stop).Select(t => (DateOnly?)t.By).Min();
        var sheet = HouseholdSheet.Of(at, standing, next);
        var notice = told switch { "kept" => language["log.thanks"], null => null, _ when Word.Find<EmergencyKind>(told) is { } danger => language.Emergency(danger), _ => _fields.Contains(told) ? language["log.refused"].Replace("{0}", language[told], StringComparison.Ordinal) : null };
        return TypedResults.Content(HouseholdHtml.Page(sheet, StoveSection.Of(at), record.Firm, language, languages.All, size == "large", secret, notice), "text/html", Encoding.UTF8);
    }

    private static Task<IResult> TellAsync(string secret, HttpRequest request, HouseholdStore households, Languages languages, TimeProvider clock) =>
        ToldAsync(secret, request, households, languages, async (stove, form) =>
        {
            var refused = Note(form, clock.GetUtcNow(), out var note);
            InboxKind? inbox = note is { Kind: "note" } ? InboxWords.KindOf(form["about"], note.Text, languages.EmergencyWords) : null;
            return refused ?? (await households.TellAsync(stove, note!, inbox: inbox) ? inbox?.Urgent() == true ? Word.Of(inbox.Value) : null : "log.title");
        });

    private static Task<IResult> ShowGlassAsync(string secret, HttpRequest request, HouseholdStore households, Languages languages, TimeProvider clock) =>
        ToldAsync(secret, request, households, languages, async (stove, form) =>
        {
            using var file = new MemoryStream();
            if (form.Files.GetFile("glass") is { } sent)
                await sent.CopyToAsync(file);
            return await Picture.ReadAsync(file.ToArray(), new EntryErrors()) is not { } picture ? "log.glass"
                : await households.TellAsync(stove, new(Guid.CreateVersion7(), "glass", null, null, null, null, "", clock.GetUtcNow()), picture.Jpeg, InboxKind.Glass) ? null : "log.title";
        });

    // Keeps what a form tells; the key of what was refused goes back to the page.
    private static async Task<IResult> ToldAsync(string secret, HttpRequest request, HouseholdStore households, Languages languages, Func<Guid, IFormCollection, Task<string?>> keep)
    {
        if (secret.Length > 100 || await households.StoveOfAsync(Secret.HashOf(secret)) is not { } stove)
            return TypedResults.Content(HouseholdHtml.Withdrawn(languages.Of(null, request.Headers.AcceptLanguage.ToString())), "text/html", Encoding.UTF8, 404);
        if (!request.HasFormContentType)
            return TypedResults.Problem(statusCode: 415, title: "A form is expected.");
        var form = await request.ReadFormAsync();
        var language = languages.Of(form["lang"].ToString(), "");
        var refused = await keep(stove, form);
        // See other: going back and loading again sends nothing twice.
        request.HttpContext.Response.Headers.Location = $"/h/{secret}?lang={language.Code}{(form["size"] == "large" ? "&size=large" : "")}&told={refused ?? "kept"}";
        return TypedResults.StatusCode(303);
    }

    private static async Task<IResult> PictureAsync(Guid id, Guid noteId, HttpResponse response, HouseholdStore households)
    {
        if (await households.PictureAsync(id, noteId) is not { } jpeg)
            return Faults.Missing("picture of this household");
        response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.File(jpeg, "image/jpeg");
    }

    // The key of the field that cannot be; null where all is well.
    private static string? Note(IFormCollection form, DateTimeOffset at, out HouseholdNote? note)
    {
        note = null;
        string Sent(string name) => form[name].ToString().Trim();
        double? Number(string name, double most) => double.TryParse(Sent(name).Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var value) && value > 0 && value <= most ? value : null;
        switch (Sent("kind"))
        {
            case "night":
                if (Number("kg", MostKg) is not { } load)
                    return "log.kg";
                if (Number("hours", MostHours) is not { } hours)
                    return "log.hours";
                if (Word.Find<Coals>(Sent("coals")) is null)
                    return "log.coals";
                note = new(Guid.CreateVersion7(), "night", load, hours, Sent("coals"), null, "", at);
                return null;
            case "ash":
                if (Number("days", MostDays) is not { } days)
                    return "log.days";
                note = new(Guid.CreateVersion7(), "ash", null, null, null, days, "", at);
                return null;
            case "wood":
                if (Number("kg", MostKg) is not { } bought)
                    return "log.kg";
                note = new(Guid.CreateVersion7(), "wood", bought, null, null, null, "", at);
                return null;
            case "note":
                if (Sent("text") is not { Length: > 0 and <= LongestText } text || EntryErrors.HasOddCharacter(text))
                    return "log.note";
                note = new(Guid.CreateVersion7(), "note", null, null, null, null, text, at);
                return null;
            default:
                return "log.title";
        }
    }
}
