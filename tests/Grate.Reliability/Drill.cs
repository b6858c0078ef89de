using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json;

namespace Grate.Reliability;

/// <summary>What all drills need: clients, time, figures, and what must hold in the records afterwards.</summary>
internal static class Drill
{
    /// <summary>How much longer than in the whole suite: ./test reliability --times N.</summary>
    private static readonly int _times = int.Parse(Environment.GetEnvironmentVariable("GRATE_DRILL_TIMES") ?? "1", System.Globalization.CultureInfo.InvariantCulture);

    public static TimeSpan Seconds(int seconds) => TimeSpan.FromSeconds(seconds * _times);

    public static int Times(int count) => count * _times;

    public static string Root { get; } = FindRoot();

    /// <summary>One line of figures, told at the end of ./test reliability.</summary>
    public static void Figures(string line)
    {
        if (Environment.GetEnvironmentVariable("GRATE_FIGURES") is { Length: > 0 } file)
            File.AppendAllText(file, line + "\n");
    }

    /// <summary>A client signed in; its cookie outlives the server it came from.</summary>
    public static async Task<HttpClient> ClientAsync(GrateApp app, string role = "owner")
    {
        var client = new HttpClient { BaseAddress = new Uri(app.Address), Timeout = TimeSpan.FromSeconds(30) };
        (await client.PostAsJsonAsync("/api/session", new { email = $"{role}@demo.example", password = "draught-and-ember" })).EnsureSuccessStatusCode();
        return client;
    }

    /// <summary>Open visits of today, everybody's.</summary>
    public static async Task<List<string>> VisitsAsync(HttpClient client) =>
        [.. (await client.ReadAsync("/api/today")).GetProperty("stops").EnumerateArray().Where(s => s.Text("stop", "state") == "open").Select(s => s.Text("stop", "visitId"))];

    /// <summary>Sends a save; null where the server did not answer.</summary>
    public static async Task<(HttpStatusCode Status, JsonElement Body)?> TrySendAsync(HttpClient client, HttpMethod method, string address, object body)
    {
        try
        {
            using var request = new HttpRequestMessage(method, address) { Content = JsonContent.Create(body) };
            using var response = await client.SendAsync(request);
            var text = await response.Content.ReadAsStringAsync();
            return (response.StatusCode, text.Length == 0 ? default : JsonDocument.Parse(text).RootElement);
        }
        catch (Exception fault) when (fault is HttpRequestException or IOException or TaskCanceledException or JsonException)
        {
            return null;
        }
    }

    /// <summary>
    /// What must hold in the records, whatever happened: whoever stored a CO from 35 ppm on or an unsafe part has its stop, a signed visit has
    /// no open step, every signed visit is as it was signed.
    /// </summary>
    public static async Task SoundAsync(GrateApp app)
    {
        Assert.Equal(0, app.Scalar<long>("""
            select count(*) from station_entries e
            where e.station = 'hot-draft' and (e.entry->>'coPpm')::float8 >= 35
              and not exists (select from safety_stops t where t.visit_id = e.visit_id and t.station = e.station and t.code = 'room-co')
            """));
        Assert.Equal(0, app.Scalar<long>("""
            select count(*) from findings f where f.stop_code is not null
              and not exists (select from safety_stops t where t.visit_id = f.visit_id and t.step = f.step and t.part = f.part and t.code = f.stop_code)
            """));
        Assert.Equal(0, app.Scalar<long>("select count(*) from visit_steps s join visits v on v.id = s.visit_id where v.state = 'signed' and s.status = 'open' and s.step <> 'next'"));
        var (code, words) = await RunAsync("dotnet", [Environment.GetEnvironmentVariable("GRATE_APP")!, "verify"], ("ConnectionStrings__Grate", app.ConnectionString));
        Assert.True(code == 0, words);
    }

    /// <summary>Runs a program to its end.</summary>
    public static async Task<(int Code, string Words)> RunAsync(string program, string[] arguments, params (string Name, string Value)[] environment)
    {
        using var process = Start(program, arguments, environment);
        var words = await Task.WhenAll(process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        return (process.ExitCode, string.Concat(words));
    }

    /// <summary>Starts a program whose words are kept.</summary>
    public static Process Start(string program, string[] arguments, params (string Name, string Value)[] environment)
    {
        var start = new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true, WorkingDirectory = Root };
        foreach (var (name, value) in environment)
            start.Environment[name] = value;
        return Process.Start(start)!;
    }

    private static string FindRoot()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Grate.slnx")))
            folder = folder.Parent!;
        return folder.FullName;
    }
}
