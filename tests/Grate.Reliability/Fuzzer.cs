using System.Globalization;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;

namespace Grate.Reliability;

/// <summary>Requests as the OpenAPI document describes them, with something wrong in each; the same seed asks the same.</summary>
internal sealed partial class Fuzzer(JsonElement document, IReadOnlyDictionary<string, string[]> ids, int seed)
{
    // What no field expects, written as it goes over the wire.
    private static readonly string[] _odd =
    [
        "null", "\"\"", "\" \"", "\"\\u0000\"", "\"a\\u0000b\"", "\"\\ud800\"", "\"\\u202e\"", "-1", "0", "1", "1e308", "-1e308", "1e-320", new string('9', 400), $"-{new string('9', 400)}.{new string('9', 400)}", "2147483648",
        "9223372036854775808", "0.1", "true", "[]", "{}", "[null]", "[[]]", "{\"\":null}", "{\"a\\u0000\":1}", "\"9999-12-31\"", "\"0001-01-01\"", "\"2027-02-30\"", "\"24:00:00\"", "\"2027-10-13T00:00:00+99:00\"",
        "\"NaN\"", "\"Infinity\"", "\"round\"", "\"unsafe\"", "\"'; drop table visits; --\"", "\"=1+1\"", "\"<script>\"", "\"%00\"", "\"../../etc/passwd\"", $"\"{new string('x', 6000)}\"",
        $"[{string.Join(",", Enumerable.Repeat("null", 3000))}]", $"{new string('[', 40)}{new string(']', 40)}", "\"00000000-0000-0000-0000-000000000000\"",
        // Mail addresses that are none, further lines of a head, and what lies just beyond every number.
        "\"a@b@c\"", "\"@\"", "\"Ann <a@b.example>, \"", "\"a@b.example\\r\\nBcc: c@d.example\"", "\"two\\nlines\"", "1e400", "-1e400", "1.7976931348623157e308",
    ];

    private static readonly string[] _oddWords = ["", "%00", "a%00b", "-1", "9999-12-31", "0001-01-01", "99999999999999999999", "NaN", "x", "%27", "%F0%9F%94%A5", "null", "true", new string('9', 400)];

    private readonly Random _random = new(seed);
    private readonly List<(string Path, string Method, JsonElement Operation)> _operations =
        [.. document.GetProperty("paths").EnumerateObject().SelectMany(p => p.Value.EnumerateObject().Select(m => (p.Name, m.Name.ToUpperInvariant(), m.Value)))];

    /// <summary>Operations of the document.</summary>
    public int Operations => _operations.Count;

    /// <summary>The next request.</summary>
    public HttpRequestMessage Next(int number)
    {
        var (path, method, operation) = _operations[number % _operations.Count];
        var query = operation.TryGetProperty("parameters", out var parameters)
            ? parameters.EnumerateArray().Where(p => p.Text("in") == "query" && _random.Next(3) > 0).Select(p => $"{p.Text("name")}={Pick(_oddWords)}") : [];
        var address = InBraces().Replace(path, match => _random.Next(12) == 0 ? Pick(["abc", "%00", "0", "..", Guid.NewGuid().ToString()]) : Pick(ids.GetValueOrDefault(PrefixOf(path), ids[""])));
        var request = new HttpRequestMessage(new HttpMethod(_random.Next(60) == 0 ? Pick(["PATCH", "OPTIONS", "PUT", "DELETE", "HEAD", "TRACE"]) : method), $"{address}?{string.Join("&", query)}");
        if (operation.TryGetProperty("requestBody", out var body))
        {
            var schema = body.GetProperty("content").EnumerateObject().First().Value.GetProperty("schema");
            request.Content = Content(Damaged(Sample(schema, 0)));
        }
        return request;
    }

    /// <summary>Every place of every body once without anything, and once with a list that has a hole.</summary>
    public IEnumerable<HttpRequestMessage> Holes()
    {
        foreach (var (path, method, operation) in _operations.Where(o => o.Operation.TryGetProperty("requestBody", out _)))
        {
            var schema = operation.GetProperty("requestBody").GetProperty("content").EnumerateObject().First().Value.GetProperty("schema");
            var count = Places(Sample(schema, 0)).Count;
            for (var place = 0; place < count; place++)
            {
                foreach (var hole in new[] { "null", "[null]", "{\"a\":null}" })
                {
                    var sample = Sample(schema, 0);
                    var places = Places(sample);
                    if (places.Count == 0)
                        continue;
                    places[place % places.Count](JsonNode.Parse(hole));
                    var address = InBraces().Replace(path, _ => Pick(ids.GetValueOrDefault(PrefixOf(path), ids[""])));
                    yield return new HttpRequestMessage(new HttpMethod(method), address) { Content = new StringContent(sample!.ToJsonString(), Encoding.UTF8, "application/json") };
                }
            }
        }
    }

    private static List<Action<JsonNode?>> Places(JsonNode? sample)
    {
        var places = new List<Action<JsonNode?>>();
        Collect(sample, places);
        return places;
    }

    private HttpContent Content(string text)
    {
        var content = new ByteArrayContent(Encoding.UTF8.GetBytes(text));
        var type = _random.Next(40) switch
        {
            0 => "text/plain",
            1 => "application/json; charset=klingon",
            2 => "application/json; charset=utf-16",
            3 => "multipart/form-data",
            4 => null,
            _ => "application/json",
        };
        if (type is not null)
            content.Headers.TryAddWithoutValidation("Content-Type", type);
        return content;
    }

    // A body as it should be, and then one or two places of it as they should not.
    private string Damaged(JsonNode? sample)
    {
        var places = Places(sample);
        for (var i = _random.Next(3); i >= 0 && places.Count > 0; i--)
            places[_random.Next(places.Count)](JsonValue.Create($"\u0001{_random.Next(_odd.Length)}"));
        var text = Placeholder().Replace(sample?.ToJsonString() ?? "null", match => _odd[int.Parse(match.Groups[1].Value, CultureInfo.InvariantCulture)]);
        return _random.Next(50) switch
        {
            0 => text[..(text.Length / 2)],
            1 => "",
            2 => "null",
            3 => $"[{text}]",
            4 => text + text,
            5 => text.Replace("}", ",\"version\":1,\"id\":1}", StringComparison.Ordinal),
            _ => text,
        };
    }

    private static void Collect(JsonNode? node, List<Action<JsonNode?>> places)
    {
        if (node is JsonObject map)
        {
            foreach (var name in map.Select(p => p.Key).ToList())
            {
                places.Add(value => map[name] = value?.DeepClone());
                places.Add(_ => map.Remove(name));
                Collect(map[name], places);
            }
        }
        else if (node is JsonArray list)
        {
            for (var i = 0; i < list.Count; i++)
            {
                var at = i;
                places.Add(value => list[at] = value?.DeepClone());
                Collect(list[i], places);
            }
            places.Add(value => list.Add(value?.DeepClone()));
        }
    }

    private JsonNode? Sample(JsonElement schema, int depth)
    {
        if (depth > 7)
            return null;
        if (schema.TryGetProperty("$ref", out var reference))
            return Sample(document.GetProperty("components").GetProperty("schemas").GetProperty(reference.GetString()!.Split('/')[^1]), depth + 1);
        foreach (var choice in new[] { "oneOf", "anyOf", "allOf" })
        {
            if (schema.TryGetProperty(choice, out var choices))
                return Sample(choices.EnumerateArray().Last(), depth + 1);
        }
        if (schema.TryGetProperty("enum", out var words))
            return Pick([.. words.EnumerateArray().Select(w => w.ToString())]);
        var types = schema.TryGetProperty("type", out var type) ? type.ValueKind == JsonValueKind.Array ? [.. type.EnumerateArray().Select(t => t.GetString()!)] : [type.GetString()!] : new[] { "object" };
        return types.First(t => t != "null") switch
        {
            "object" when schema.TryGetProperty("properties", out var properties) =>
                new JsonObject(properties.EnumerateObject().Where(p => depth == 0 || _random.Next(5) > 0).Select(p => KeyValuePair.Create(p.Name, Sample(p.Value, depth + 1)))),
            "object" when schema.TryGetProperty("additionalProperties", out var values) && values.ValueKind == JsonValueKind.Object =>
                new JsonObject([KeyValuePair.Create(Pick(["connector", "flue", "stack", "wood", "parts"]), Sample(values, depth + 1))]),
            "array" => new JsonArray([.. Enumerable.Range(0, _random.Next(1, 3)).Select(_ => schema.TryGetProperty("items", out var items) ? Sample(items, depth + 1) : null)]),
            "boolean" => _random.Next(2) == 0,
            "integer" => _random.Next(0, 5),
            "number" => Math.Round(_random.NextDouble() * Math.Pow(10, _random.Next(-2, 4)), 3),
            _ => schema.TryGetProperty("format", out var format) ? format.GetString() switch
            {
                "uuid" => _random.Next(2) == 0 ? Guid.CreateVersion7().ToString() : Pick(ids[""]),
                "date" => "2027-11-04",
                "time" => "09:30:00",
                "date-time" => "2027-11-04T09:30:00Z",
                _ => "word",
            } : Pick(["word", "normal", "single-wall-steel", "indoor", "round", "draft", "glass", "to-2005", "probe"]),
        };
    }

    private string Pick(IReadOnlyList<string> list) => list[_random.Next(list.Count)];

    private static string PrefixOf(string path) => string.Join('/', path.Split('/').Take(3));

    [GeneratedRegex(@"\{[a-zA-Z]+\}")]
    private static partial Regex InBraces();

    [GeneratedRegex("\"\\\\u0001([0-9]+)\"")]
    private static partial Regex Placeholder();
}
