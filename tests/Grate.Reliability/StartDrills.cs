using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace Grate.Reliability;

/// <summary>./start in every order, backup and restore, and the commands of docs/running.md as they are written.</summary>
public class StartDrills
{
    /// <summary>./start on a data folder of its own.</summary>
    private sealed class Started : IDisposable
    {
        private readonly Process _process;
        private readonly Task<string> _words;

        public Started(string data, int port)
        {
            Port = port;
            _process = Drill.Start(Path.Combine(Drill.Root, "start"), ["--port", port.ToString(CultureInfo.InvariantCulture)], ("GRATE_DATA", data), ("GRATE_DATABASE_PORT", "55300"), ("ConnectionStrings__Grate", ""), ("ConnectionStrings__GrateOwner", ""));
            var errors = _process.StandardError.ReadToEndAsync();
            _ = _process.StandardOutput.ReadToEndAsync();
            _words = errors;
        }

        public int Port { get; }

        public Uri Health => new($"http://127.0.0.1:{Port}/api/health");

        /// <summary>Waits until it answers or has ended.</summary>
        /// <returns>Whether it answers.</returns>
        public async Task<bool> AnswersAsync()
        {
            using var client = new HttpClient { Timeout = TimeSpan.FromSeconds(5) };
            for (var watch = Stopwatch.StartNew(); watch.Elapsed < TimeSpan.FromMinutes(2) && !_process.HasExited; await Task.Delay(200))
            {
                try
                {
                    if ((await client.GetAsync(Health)).IsSuccessStatusCode)
                        return true;
                }
                catch (Exception fault) when (fault is HttpRequestException or TaskCanceledException)
                {
                    // Not yet.
                }
            }
            return false;
        }

        /// <summary>What it said before it ended.</summary>
        public async Task<(int Code, string Words)> EndAsync()
        {
            using var patience = new CancellationTokenSource(TimeSpan.FromSeconds(30));
            await _process.WaitForExitAsync(patience.Token);
            return (_process.ExitCode, await _words);
        }

        public void Interrupt() => Process.Start("kill", ["-INT", _process.Id.ToString(CultureInfo.InvariantCulture)]).WaitForExit();

        public void Dispose()
        {
            if (!_process.HasExited)
            {
                Interrupt();
                _process.WaitForExit(20_000);
            }
            _process.Dispose();
        }
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static string Folder()
    {
        var folder = Directory.CreateTempSubdirectory("grate-drill-").FullName;
        // The database's own user has to get in.
        File.SetUnixFileMode(folder, (UnixFileMode)0b111_101_101);
        return folder;
    }

    [Fact]
    public async Task Two_starts_at_once_on_an_empty_folder_are_one_and_a_database_that_dies_is_started_again()
    {
        var folder = Folder();
        using var one = new Started(folder, FreePort());
        using var two = new Started(folder, FreePort());
        var answering = await Task.WhenAll(one.AnswersAsync(), two.AnswersAsync());
        Assert.Single(answering, a => a);
        var (winner, loser) = answering[0] ? (one, two) : (two, one);
        var (code, words) = await loser.EndAsync();
        Assert.NotEqual(0, code);
        Assert.Contains("already: nothing was touched", words, StringComparison.Ordinal);

        // A third, later, says the same, and the first goes on.
        using var late = new Started(folder, FreePort());
        Assert.False(await late.AnswersAsync());
        Assert.True(await winner.AnswersAsync());

        var postmaster = (await File.ReadAllLinesAsync(Path.Combine(folder, "cluster/postmaster.pid")))[0];
        using (var kill = Process.Start("kill", ["-KILL", postmaster]))
            await kill.WaitForExitAsync();
        await Task.Delay(1000);
        Assert.True(await winner.AnswersAsync());
        Assert.NotEqual(postmaster, (await File.ReadAllLinesAsync(Path.Combine(folder, "cluster/postmaster.pid")))[0]);

        // Open streams keep nothing waiting.
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{winner.Port}") };
        await client.SendAsync(HttpMethod.Post, "/api/session", new { email = "technician@demo.example", password = "draught-and-ember" });
        var visit = (await client.ReadAsync("/api/today")).GetProperty("stops")[0].Text("stop", "visitId");
        using var stream = await client.GetAsync(new Uri($"/api/visits/{visit}/instruments", UriKind.Relative), HttpCompletionOption.ResponseHeadersRead);
        Assert.True(stream.IsSuccessStatusCode);
        var watch = Stopwatch.StartNew();
        winner.Interrupt();
        await winner.EndAsync();
        var ended = watch.Elapsed.TotalSeconds;
        Assert.InRange(ended, 0, 5);
        Assert.False(File.Exists(Path.Combine(folder, "cluster/postmaster.pid")));
        // Begun again at once, it is not told that it runs already.
        using (var again = new Started(folder, FreePort()))
            Assert.True(await again.AnswersAsync());
        Drill.Figures($"starts: two at once are one, a third is told, a killed database comes back, an interrupt with a stream open ends all in {ended:0.0} s, and it starts again at once");
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Restored_backup_answers_every_visit_byte_by_byte()
    {
        using var app = new GrateApp();
        using var client = await Drill.ClientAsync(app);
        var visits = await Drill.VisitsAsync(client);
        await client.KeepAsync(visits[0], "hot-draft", Saves.HotTest(14, coPpm: 60));
        await client.SignAsync(visits[1]);
        var before = await AnswersAsync(app, client);

        var folder = Folder();
        (string, string) Database(string connection) => ("ConnectionStrings__GrateOwner", connection);
        var (code, words) = await Drill.RunAsync(Script("backup"), [folder, "--keep", "2"], Database(app.ConnectionString));
        Assert.True(code == 0, words);
        var file = words.Trim().Split('\n')[^1];
        Assert.Equal(0, (await Drill.RunAsync(Script("backup"), ["--check", file])).Code);
        var half = file.Replace(".dump", "-half.dump", StringComparison.Ordinal);
        await File.WriteAllBytesAsync(half, (await File.ReadAllBytesAsync(file))[..^4000]);
        Assert.NotEqual(0, (await Drill.RunAsync(Script("backup"), ["--check", half])).Code);
        // The oldest goes when there are more than are kept.
        File.Delete(half);
        for (var i = 0; i < 2; i++)
        {
            await Task.Delay(1100);
            Assert.Equal(0, (await Drill.RunAsync(Script("backup"), [folder, "--keep", "2"], Database(app.ConnectionString))).Code);
        }
        Assert.Equal(2, Directory.GetFiles(folder, "*.dump").Length);
        var newest = Directory.GetFiles(folder, "*.dump").Order().Last();

        // Not over a firm; into an empty database.
        Assert.NotEqual(0, (await Drill.RunAsync(Script("restore"), [newest], Database(app.ConnectionString))).Code);
        using var restored = new GrateApp(GrateApp.Wednesday, start: false);
        (code, words) = await Drill.RunAsync(Script("restore"), [newest], Database(restored.ConnectionString));
        Assert.True(code == 0, words);
        restored.Start();
        using var other = await Drill.ClientAsync(restored);
        var after = await AnswersAsync(restored, other);
        Assert.Equal(before.Count, after.Count);
        Assert.All(before, b => Assert.Equal(b.Value, after[b.Key]));
        await Drill.SoundAsync(restored);
        Drill.Figures($"backup: {new FileInfo(newest).Length / 1024} kB, {before.Count} visits answer the same bytes after the restore");
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public async Task Commands_of_the_running_document_work_as_they_are_written()
    {
        var (code, words) = await Drill.RunAsync("bash", [Path.Combine(Drill.Root, "tests/Grate.Reliability/running.sh")]);
        Assert.True(code == 0, words[^Math.Min(words.Length, 4000)..]);
        Drill.Figures(words.Split('\n').Single(l => l.StartsWith("docs/running.md:", StringComparison.Ordinal)));
    }

    private static string Script(string name) => Path.Combine(Drill.Root, "scripts", name);

    private static async Task<Dictionary<string, string>> AnswersAsync(GrateApp app, HttpClient client)
    {
        await using var database = NpgsqlDataSource.Create(app.ConnectionString);
        await using var reader = await database.CreateCommand("select id::text from visits order by 1").ExecuteReaderAsync();
        var answers = new Dictionary<string, string>();
        while (await reader.ReadAsync())
            answers[reader.GetString(0)] = await client.GetStringAsync(new Uri($"/api/visits/{reader.GetString(0)}", UriKind.Relative));
        return answers;
    }
}
