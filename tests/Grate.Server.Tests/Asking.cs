using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Short ways to ask and look.</summary>
internal static class Asking
{
    public static async Task<JsonElement> JsonAsync(this HttpResponseMessage response) =>
        (await response.Content.ReadFromJsonAsync<JsonElement>())!;

    public static async Task<JsonElement> ReadAsync(this HttpClient client, string address, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var response = await client.GetAsync(new Uri(address, UriKind.Relative));
        Assert.Equal(expected, response.StatusCode);
        return await response.JsonAsync();
    }

    public static async Task<JsonElement> SendAsync(this HttpClient client, HttpMethod method, string address, object body, HttpStatusCode expected = HttpStatusCode.OK)
    {
        using var request = new HttpRequestMessage(method, address) { Content = JsonContent.Create(body) };
        var response = await client.SendAsync(request);
        var text = await response.Content.ReadAsStringAsync();
        Assert.True(response.StatusCode == expected, $"{method} {address}: {(int)response.StatusCode} {text}");
        return text.Length == 0 ? default : JsonDocument.Parse(text).RootElement;
    }

    public static string Text(this JsonElement element, params string[] path) =>
        path.Aggregate(element, (at, name) => at.GetProperty(name)).ToString();

    public static double Number(this JsonElement element, params string[] path) =>
        path.Aggregate(element, (at, name) => at.GetProperty(name)).GetDouble();

    /// <summary>The nth open visit of the technician's round today.</summary>
    public static async Task<string> VisitAsync(this HttpClient client, int index) =>
        (await client.ReadAsync("/api/today")).GetProperty("stops")[index].Text("stop", "visitId");
}
