using System.Globalization;
using System.Net;
using System.Text;
using System.Text.Json;
using Grate.Core;

namespace Grate.Server.Features.Household;

/// <summary>Everything that is kept of a household, to be read and printed: the document of <see cref="Store.PassingStore.EverythingAsync"/> with its own names.</summary>
internal static class EverythingHtml
{
    private const string Style = "/household.css";

    /// <summary>The page.</summary>
    /// <param name="document">The document, JSON.</param>
    /// <param name="firm">Whose records they are.</param>
    public static string Page(string document, Firm firm)
    {
        using var json = JsonDocument.Parse(document);
        var name = json.RootElement.GetProperty("household").GetProperty("name").GetString()!;
        var html = new StringBuilder($"<!doctype html><html lang=\"en\"><head><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\"><meta name=\"robots\" content=\"noindex\"><title>{Text(name)}</title>"
            + $"<link rel=\"stylesheet\" href=\"{Style}\"></head><body><main><p class=\"quiet\">{Text(firm.Name)}, {Text(firm.Place)}</p><h1>{Text(name)}</h1><p>Everything that is kept of this household.</p>");
        Value(html, json.RootElement, firm, 2);
        return html.Append("</main></body></html>").ToString();
    }

    private static void Value(StringBuilder html, JsonElement value, Firm firm, int level)
    {
        switch (value.ValueKind)
        {
            case JsonValueKind.Object when IsSentence(value):
                html.Append($"<p>{Text(Sentence(value))}</p>");
                break;
            case JsonValueKind.Object:
                var plain = value.EnumerateObject().Where(p => IsPlain(p.Value) && !p.Name.EndsWith("id", StringComparison.OrdinalIgnoreCase)).ToList();
                if (plain.Count > 0)
                    html.Append($"<dl>{string.Concat(plain.Select(p => $"<dt>{Text(Named(p.Name))}</dt><dd>{Text(Said(p.Value, firm))}</dd>"))}</dl>");
                foreach (var part in value.EnumerateObject().Where(p => IsNested(p.Value)))
                {
                    html.Append($"<section><h{Math.Min(level, 6)}>{Text(Named(part.Name))}</h{Math.Min(level, 6)}>");
                    Value(html, part.Value, firm, level + 1);
                    html.Append("</section>");
                }
                break;
            case JsonValueKind.Array when value.EnumerateArray().All(IsPlain):
                html.Append($"<p>{Text(string.Join(", ", value.EnumerateArray().Select(v => Said(v, firm))))}</p>");
                break;
            case JsonValueKind.Array:
                html.Append("<ol>");
                foreach (var item in value.EnumerateArray())
                {
                    html.Append("<li>");
                    Value(html, item, firm, level);
                    html.Append("</li>");
                }
                html.Append("</ol>");
                break;
            default:
                html.Append($"<p>{Text(Said(value, firm))}</p>");
                break;
        }
    }

    // A sentence as it was concluded: its spans of words and numbers.
    private static bool IsSentence(JsonElement value) => value.TryGetProperty("spans", out var spans) && spans.ValueKind == JsonValueKind.Array;

    private static string Sentence(JsonElement value) => string.Concat(value.GetProperty("spans").EnumerateArray().Select(s => s.GetProperty("text").GetString()));

    private static bool IsPlain(JsonElement value) => value.ValueKind is JsonValueKind.Number or JsonValueKind.True or JsonValueKind.False || (value.ValueKind == JsonValueKind.String && value.GetString()!.Length > 0);

    private static bool IsNested(JsonElement value) => value.ValueKind == JsonValueKind.Object ? value.EnumerateObject().Any() : value.ValueKind == JsonValueKind.Array && value.GetArrayLength() > 0;

    // An instant is said as it was at the firm's place.
    private static string Said(JsonElement value, Firm firm) => value.ValueKind switch
    {
        JsonValueKind.True => "yes",
        JsonValueKind.False => "no",
        JsonValueKind.String when value.GetString()!.Contains('T') && value.TryGetDateTimeOffset(out var at) => firm.Local(at).ToString("d MMMM yyyy, HH:mm", CultureInfo.InvariantCulture),
        _ => value.ToString(),
    };

    // plannedStart is said "planned start".
    private static string Named(string name) => Word.Of(name).Replace('-', ' ');

    private static string Text(string text) => WebUtility.HtmlEncode(text);
}
