using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Bodies of saves, and the ways to send them.</summary>
internal static class Saves
{
    public static object Step(int version = 0, string status = "done", string note = "", string reason = "", Guid? id = null) =>
        new { saveId = id ?? Guid.CreateVersion7(), baseVersion = version, status, reason, note };

    public static object Finding(string part, string condition, int version = 0, string note = "", string? stop = null, Guid? id = null, string? step = null, string? lookAgain = null, string? covers = null) => new
    {
        saveId = id ?? Guid.CreateVersion7(),
        baseVersion = version,
        step = step ?? Core.Parts.All.Mark(part)?.Steps[0] ?? "hot-test",
        part,
        condition,
        note,
        lookAgain,
        stopCode = stop,
        covers,
    };

    /// <summary>Looks at flue and door, so that the visit is an inspection.</summary>
    public static async Task LookAsync(this HttpClient client, string visit)
    {
        foreach (var part in new[] { "flue", "latch" })
            await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Finding(part, "sound"));
    }

    public static object HotTest(double? draftPa, string level = "normal", double? coPpm = null) => new
    {
        readings = new[] { new { level, draftPa, gasC = 230, gasBy = "probe", outdoorC = -5, roomC = 21, housePa = -2.0, houseMeasured = true } },
        coPpm,
    };

    /// <summary>Reckons a station: what is said while somebody types.</summary>
    public static Task<JsonElement> ReckonAsync(this HttpClient client, string visit, string station, object entry, HttpStatusCode expected = HttpStatusCode.OK, string units = "metric") =>
        client.SendAsync(HttpMethod.Post, $"{Address(visit, station)}/answer?units={units}", entry, expected);

    /// <summary>Saves a station.</summary>
    public static Task<JsonElement> KeepAsync(this HttpClient client, string visit, string station, object entry, int version = 0, HttpStatusCode expected = HttpStatusCode.OK, Guid? id = null) =>
        client.SendAsync(HttpMethod.Put, Address(visit, station), new { saveId = id ?? Guid.CreateVersion7(), baseVersion = version, entry }, expected);

    /// <summary>A station of a visit as it is stored; of no kind where it is not.</summary>
    public static async Task<JsonElement> KeptAsync(this HttpClient client, string visit, string station) =>
        (await client.ReadAsync($"/api/visits/{visit}")).Station(station);

    /// <summary>A station as stored, out of a visit's document.</summary>
    public static JsonElement Station(this JsonElement document, string station) => document.GetProperty("steps").EnumerateArray()
        .SelectMany(s => s.GetProperty("stations").EnumerateArray()).First(s => s.Text("code") == station).GetProperty("saved");

    /// <summary>Does every step and signs, with a reason for whatever is missing.</summary>
    public static async Task<JsonElement> SignAsync(this HttpClient client, string visit)
    {
        foreach (var step in (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("steps").EnumerateArray()
            .Where(s => s.Text("code") != "next" && s.GetProperty("saved").ValueKind == JsonValueKind.Null).Select(s => s.Text("code")))
        {
            await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/{step}", Step());
        }
        return await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/sign", await client.SignatureAsync(visit));
    }

    /// <summary>A confirmed signature with a reason for whatever is missing.</summary>
    public static async Task<object> SignatureAsync(this HttpClient client, string visit) => new
    {
        confirmed = true,
        reasons = (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("signing").GetProperty("missing").EnumerateArray().ToDictionary(m => m.Text("code"), _ => "not today"),
    };

    /// <summary>What sentences say.</summary>
    public static string Words(this JsonElement sentences) => string.Join(" ", sentences.EnumerateArray().Select(s => string.Concat(s.GetProperty("spans").EnumerateArray().Select(p => p.Text("text")))));

    private static string Address(string visit, string station)
    {
        var found = Core.Parts.All.Stations.FirstOrDefault(s => s.Code == station);
        return $"/api/visits/{visit}/steps/{found?.Steps[0] ?? "inside"}/stations/{station}";
    }
}
