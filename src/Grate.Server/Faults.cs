using System.ComponentModel;
using System.Text.Json;
using System.Text.RegularExpressions;
using Grate.Core;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.WebUtilities;
using Npgsql;

namespace Grate.Server;

/// <summary>An address that takes more than the others.</summary>
/// <param name="bytes">Most bytes of a body.</param>
/// <param name="sentence">What is said of more.</param>
public sealed class BodyLimit(long bytes, string sentence) : IRequestSizeLimitMetadata
{
    /// <inheritdoc/>
    public long? MaxRequestBodySize => bytes;

    /// <summary>What is said of more.</summary>
    public string Sentence => sentence;
}

/// <summary>Turns exceptions into problem details that a technician understands.</summary>
public sealed partial class Faults(IProblemDetailsService problems, TimeProvider clock, ILogger<Faults> log) : IExceptionHandler
{
    private static readonly TimeSpan _quiet = TimeSpan.FromMinutes(1);

    // Faults told lately, with how often they came again.
    private readonly Dictionary<string, (DateTimeOffset Told, int Again)> _told = [];

    /// <inheritdoc/>
    public async ValueTask<bool> TryHandleAsync(HttpContext httpContext, Exception exception, CancellationToken cancellationToken)
    {
        var problem = exception switch
        {
            BadHttpRequestException { StatusCode: StatusCodes.Status413PayloadTooLarge or StatusCodes.Status415UnsupportedMediaType } unfit =>
                new ProblemDetails { Status = unfit.StatusCode },
            BadHttpRequestException bad when ParameterName().Match(bad.Message) is { Success: true } parameter =>
                InAddress(parameter.Groups[1].Value, missing: bad.Message.StartsWith("Required", StringComparison.Ordinal)),
            // A character set that nobody knows, or text that is none in the one that was named.
            BadHttpRequestException { InnerException: not (JsonException or null) } or InvalidOperationException { Source: "System.Net.Http" or "Microsoft.AspNetCore.Http.Extensions" } =>
                Unfit("body", "The body cannot be read: send JSON as UTF-8."),
            BadHttpRequestException { InnerException: OddCharacterException odd } => Unfit(PathOf(odd), EntryErrors.OddCharacter(PathOf(odd))),
            BadHttpRequestException bad => Unreadable(bad.InnerException as JsonException),
            NpgsqlException { SqlState: "23P01" } => Problem(409, "The technician has another visit at that time."),
            NpgsqlException { SqlState: Store.Database.SignedVisitState } => Problem(409, "This visit is signed and is never changed."),
            NpgsqlException { SqlState: Store.Database.CancelledVisitState } => Problem(409, "This visit was cancelled and takes nothing more; the office can plan it again."),
            // A value that no column takes: sent again it would be refused again.
            PostgresException { SqlState: ['2', '2' or '3', ..] } value => Unfit(ColumnOf(value), $"{ColumnOf(value)} cannot be kept as it was sent."),
            NpgsqlException { SqlState: Store.Database.DiskFullState } => Problem(507, "The disk of the database is full: nothing was saved. Tell whoever runs Grate; what you typed stays in this browser."),
            _ when Store.Database.Away(exception) => Problem(503, "The database does not answer; nothing was saved. It is tried again by itself."),
            _ => Problem(500, "Something went wrong in Grate; nothing was saved."),
        };
        if (problem.Status >= 500)
            Tell(httpContext, exception);
        httpContext.Response.StatusCode = problem.Status!.Value;
        return await problems.TryWriteAsync(new ProblemDetailsContext { HttpContext = httpContext, ProblemDetails = problem });
    }

    /// <summary>Names what the framework itself refuses, before any code of ours is reached.</summary>
    public static void Name(ProblemDetailsContext context)
    {
        var (status, title) = (context.ProblemDetails.Status ?? 0, context.ProblemDetails.Title);
        // Generated endpoints refuse an optional value of the address without a word.
        if (status == StatusCodes.Status400BadRequest && context.ProblemDetails is not HttpValidationProblemDetails && Unread(context.HttpContext) is { } name)
        {
            context.ProblemDetails = InAddress(name, missing: false);
            return;
        }
        // A sentence of ours stays; the framework's word for a status does not.
        var bare = title is null || title == ReasonPhrases.GetReasonPhrase(status);
        context.ProblemDetails.Title = status switch
        {
            StatusCodes.Status401Unauthorized when bare => "Sign in first.",
            StatusCodes.Status403Forbidden when bare => "That is not for your role in the firm.",
            StatusCodes.Status404NotFound when bare => "There is no such address.",
            StatusCodes.Status429TooManyRequests when bare => "Too much in a short time: wait a moment.",
            StatusCodes.Status405MethodNotAllowed => $"This address takes {context.HttpContext.Response.Headers.Allow}.",
            StatusCodes.Status413PayloadTooLarge => Asked(context.HttpContext)?.Metadata.GetMetadata<BodyLimit>()?.Sentence ?? "That is too much at once: at most 256 KB can be sent.",
            StatusCodes.Status415UnsupportedMediaType => "Send JSON: the content type must be application/json.",
            _ => title,
        };
    }

    /// <summary>400 with sentences by field.</summary>
    public static IResult Refused(EntryErrors errors) =>
        TypedResults.ValidationProblem(errors.ByField, title: "Some entries cannot be used.");

    /// <summary>400 with one sentence for one field.</summary>
    /// <param name="field">Field path.</param>
    /// <param name="sentence">The sentence.</param>
    /// <param name="more">What else whoever asked needs to put it right.</param>
    public static IResult Refused(string field, string sentence, Dictionary<string, object?>? more = null)
    {
        var errors = new EntryErrors();
        errors.Add(field, sentence);
        return TypedResults.ValidationProblem(errors.ByField, title: "Some entries cannot be used.", extensions: more);
    }

    /// <summary>404 in the trade's words.</summary>
    public static IResult Missing(string what) => TypedResults.Problem(statusCode: 404, title: $"There is no such {what}.");

    // The handler of exceptions has taken it off the request by then.
    private static Endpoint? Asked(HttpContext context) => context.Features.Get<IExceptionHandlerFeature>()?.Endpoint ?? context.GetEndpoint();

    // The first value of the address that is none of its parameter's kind.
    private static string? Unread(HttpContext context) => Asked(context)?.Metadata.GetOrderedMetadata<IParameterBindingMetadata>()
        .Where(p => p.HasTryParse && context.Request.Query[p.Name].ToString() is { Length: > 0 } value && !TypeDescriptor.GetConverter(p.ParameterInfo.ParameterType).IsValid(value)).Select(p => JsonNamingPolicy.CamelCase.ConvertName(p.Name)).FirstOrDefault();

    // By its pattern, never by its address: that may hold a secret. What comes again within a minute is counted, not told again.
    private void Tell(HttpContext context, Exception exception)
    {
        var where = $"{context.Request.Method} {(Asked(context) as RouteEndpoint)?.RoutePattern.RawText}";
        var (fault, now) = ($"{where} {exception.GetType().Name}", clock.GetUtcNow());
        int again;
        lock (_told)
        {
            if (_told.TryGetValue(fault, out var told) && now - told.Told < _quiet)
            {
                _told[fault] = (told.Told, told.Again + 1);
                return;
            }
            again = told.Again;
            _told[fault] = (now, 0);
        }
        log.LogError(exception, "{Where} failed{Again}", where, again > 0 ? $", and {again} times more since it was last told" : "");
    }

    private static ProblemDetails Problem(int status, string title) => new() { Status = status, Title = title };

    private static HttpValidationProblemDetails Unfit(string field, string sentence) =>
        new(new Dictionary<string, string[]> { [field] = [sentence] }) { Status = 400, Title = "Some entries cannot be used." };

    private static HttpValidationProblemDetails InAddress(string name, bool missing) => Unfit(name, $"{name} in the address cannot be read: {(missing ? "it is missing" : "a value of another kind is expected")}.");

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

    // 'Failed to bind parameter "DateOnly week" from "…".', 'Required parameter "DateOnly from" was not provided from query string.'
    [GeneratedRegex("""parameter "[^"]* (\w+)" (?:from "|was not provided from (?:query|route))""")]
    private static partial Regex ParameterName();

    [GeneratedRegex("(?<=including:.*)'([^']+)'")]
    private static partial Regex MissingNames();
}
