using System.Text.Json;
using System.Text.RegularExpressions;
using Grate.Core;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Npgsql;

namespace Grate.Server;

/// <summary>Turns exceptions into problem details that a technician understands.</summary>
public sealed partial class Faults(IProblemDetailsService problems, ILogger<Faults> log) : IExceptionHandler
{
    /// <inheritdoc/>
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var problem = exception switch
        {
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge or StatusCodes.Status415UnsupportedMediaType } unfit =>
                new ProblemDetails { Status = unfit.StatusCode },
            BadHttpRequestException { InnerException: OddCharacterException odd } => Unfit(PathOf(odd), EntryErrors.OddCharacter(PathOf(odd))),
            BadHttpRequestException bad => Unreadable(bad.InnerException as JsonException),
            NpgsqlException { SqlState: "23P01" } => Problem(409, "The technician has another visit at that time."),
            NpgsqlException { SqlState: Store.Database.SignedVisitState } => Problem(409, "This visit is signed and is never changed."),
            // A value that no column takes: sent again it would be refused again.
            PostgresException { SqlState: ['2', '2' or '3', ..] } value => Unfit(ColumnOf(value), $"{ColumnOf(value)} cannot be kept as it was sent."),
            NpgsqlException or TimeoutException => Problem(503, "The database does not answer; nothing was saved. It is tried again by itself."),
            _ => Problem(500, "Something went wrong in Grate; nothing was saved."),
        };
        if (problem.Status >= 500)
            log.LogError(exception, "{Method} {Path} failed", httpContext.Request.Method, httpContext.Request.Path);
        httpContext.Response.StatusCode = problem.Status!.Value;
        return await problems.TryWriteAsync(new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = problem });
    }

    /// <summary>Names what the framework itself refuses, before any code of ours is reached.</summary>
    public static void Name(ProblemDetailsContext context)
    {
        context.ProblemDetails.Title = context.ProblemDetails.Status switch
        {
            StatusCodes.Status413PayloadTooLarge => "That is too much at once: at most 256 KB can be sent.",
            StatusCodes.Status415UnsupportedMediaType => "Send JSON: the content type must be application/json.",
            _ => context.ProblemDetails.Title,
        };
    }

    /// <summary>400 with sentences by field.</summary>
    public static IResult Refused(EntryErrors errors) =>
        TypedResults.ValidationProblem(errors.ByField, title: "Some entries cannot be used.");

    /// <summary>400 with one sentence for one field.</summary>
    public static IResult Refused(string field, string sentence)
    {
        var errors = new EntryErrors();
        errors.Add(field, sentence);
        return Refused(errors);
    }

    /// <summary>404 in the trade's words.</summary>
    public static IResult Missing(string what) => TypedResults.Problem(statusCode: 404, title: $"There is no such {what}.");

    private static ProblemDetails Problem(int status, string title) => new() { Status = status, Title = title };

    private static HttpValidationProblemDetails Unfit(string field, string sentence) =>
        new(new Dictionary<string, string[]> { [field] = [sentence] }) { Status = 400, Title = "Some entries cannot be used." };

    private static string PathOf(JsonException? fault) => fault?.Path is null or "$" ? "body" : fault.Path.TrimStart('$', '.');

    private static string ColumnOf(PostgresException refusal) =>
        refusal.ColumnName is { Length: > 0 } column ? string.Concat(column.Split('_').Select((word, i) => i == 0 ? word : char.ToUpperInvariant(word[0]) + word[1..])) : "entry";

    private static HttpValidationProblemDetails Unreadable(JsonException? fault)
    {
        var path = PathOf(fault);
        // The reader names missing fields in its message alone: "… was missing required properties including: 'email', 'password'."
        var missing = fault is null ? [] : MissingNames().Matches(fault.Message).Select(m => m.Groups[1].Value).ToList();
        return new HttpValidationProblemDetails(missing.Count > 0
            ? missing.ToDictionary(name => path == "body" ? name : $"{path}.{name}", name => new[] { $"{name} is missing." })
            : new Dictionary<string, string[]>
            {
                [path] = [$"{path} cannot be read: a value of another kind is expected here, as valid JSON (numbers without quotes, no NaN)."],
            })
        { Status = 400, Title = "The request cannot be read." };
    }

    [GeneratedRegex("(?<=including:.*)'([^']+)'")]
    private static partial Regex MissingNames();
}
