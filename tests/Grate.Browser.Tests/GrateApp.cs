using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using Npgsql;

namespace Grate.Browser.Tests;

/// <summary>The published server as a process of its own, over a database of its own with demo data.</summary>
public sealed class GrateApp : IDisposable
{
    /// <summary>An ordinary Wednesday of a working week, half past nine in the valley: what is tested does not hang on the day it is tested.</summary>
    internal const string Wednesday = "2027-10-13T07:30:00Z";

    /// <summary>Where the sources lie.</summary>
    internal static readonly string Repository = FindRepository();

    private readonly string _connection, _serving, _moment;
    private readonly Process _instruments;
    private readonly int _instrumentPort = FreePort(), _stagePort = FreePort();
    private readonly (string Name, string Value)[] _settings;
    private Process? _server;

    public GrateApp()
        : this(Wednesday)
    {
    }

    /// <summary>Server and stand-ins at another moment (ISO 8601).</summary>
    /// <param name="moment">The moment.</param>
    /// <param name="beside">Whose database it shares; null for one of its own.</param>
    /// <param name="start">Whether it is started at once; if not, its database is left empty.</param>
    /// <param name="settings">Further settings.</param>
    internal GrateApp(string moment, GrateApp? beside = null, bool start = true, params (string Name, string Value)[] settings)
    {
        (_moment, _settings) = (moment, settings);
        var cluster = Needed("ConnectionStrings__GrateOwner");
        var database = beside is null ? "b_" + Guid.NewGuid().ToString("N") : new NpgsqlConnectionStringBuilder(beside._connection).Database!;
        if (beside is null)
            Admin($"create database {database} template {(start && moment == Wednesday ? _demo.Value : "template1")}");
        _connection = new NpgsqlConnectionStringBuilder(cluster) { Database = database }.ConnectionString;
        _serving = new NpgsqlConnectionStringBuilder(Needed("ConnectionStrings__Grate")) { Database = database }.ConnectionString;
        Port = FreePort();
        var standIn = Path.Combine(Path.GetDirectoryName(Needed("GRATE_APP"))!, "Grate.Instruments.dll");
        var instruments = new ProcessStartInfo("dotnet") { ArgumentList = { standIn, "--port", $"{_instrumentPort}", "--page", $"{_stagePort}" } };
        instruments.Environment["Clock__At"] = _moment;
        // One clock for server and stand-ins, however fast.
        foreach (var (name, value) in settings.Where(s => s.Name == "Clock__Speed"))
            instruments.Environment[name] = value;
        _instruments = Process.Start(instruments)!;
        if (start)
            Start();
    }

    /// <summary>The demo of that Wednesday is loaded once; what every server starts from is a copy.</summary>
    private static readonly Lazy<string> _demo = new(() =>
    {
        using var loading = new GrateApp(Wednesday, start: false);
        loading.Start();
        return new NpgsqlConnectionStringBuilder(loading.ConnectionString).Database!;
    });

    /// <summary>Runs a statement outside the tests' databases, as the owner of the cluster.</summary>
    internal static void Admin(string sql)
    {
        using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(Needed("ConnectionStrings__GrateOwner")) { Database = "postgres", Pooling = false }.ConnectionString);
        connection.Open();
        using var command = new NpgsqlCommand(sql, connection);
        command.ExecuteNonQuery();
    }

    private readonly string _outbox = Path.Combine(Path.GetTempPath(), "grate-outbox", Guid.NewGuid().ToString("N"));

    /// <summary>The message that left last, its soft line breaks (RFC 2045, quoted-printable) undone.</summary>
    internal string NewestMail() => File.ReadAllText(Directory.GetFiles(_outbox, "*.eml").Order(StringComparer.Ordinal).Last()).Replace("=\r\n", "", StringComparison.Ordinal).Replace("=\n", "", StringComparison.Ordinal);

    /// <summary>As the owner of the tables.</summary>
    internal string ConnectionString => _connection;

    /// <summary>As the role that serves.</summary>
    internal string Serving => _serving;

    private static string FindRepository()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Grate.slnx")))
            folder = folder.Parent!;
        return folder.FullName;
    }

    private static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    /// <summary>Sets what goes on at the stand-in's stove.</summary>
    public void Play(string scenario, bool window = false)
    {
        KeyValuePair<string, string>[] opened = window ? [new("window", "on")] : [];
        Stage([new("scenario", scenario), .. opened]);
    }

    /// <summary>Cuts every instrument's connection.</summary>
    public void CutInstruments() => Stage([new("cut", "1")]);

    private void Stage(IEnumerable<KeyValuePair<string, string>> fields)
    {
        using var client = new HttpClient();
        using var form = new FormUrlEncodedContent(fields);
        client.PostAsync(new Uri($"http://127.0.0.1:{_stagePort}/stage"), form).GetAwaiter().GetResult().EnsureSuccessStatusCode();
    }

    private readonly ConcurrentQueue<string> _printed = new();

    /// <summary>What the server printed where it was started.</summary>
    internal string Printed => string.Join('\n', _printed);

    /// <summary>What one test leaves for the next; it ends with the server.</summary>
    internal Stack<IDisposable> Kept { get; } = new();

    public int Port { get; }

    public string Address => $"http://127.0.0.1:{Port}";

    /// <summary>Starts the server and waits until it answers.</summary>
    public void Start()
    {
        var start = new ProcessStartInfo("dotnet") { ArgumentList = { Needed("GRATE_APP"), "--urls", Address }, RedirectStandardOutput = true };
        start.Environment["Outbox__Folder"] = _outbox;
        start.Environment["ConnectionStrings__Grate"] = _serving;
        start.Environment["Demo"] = "true";
        start.Environment["Clock__At"] = _moment;
        start.Environment["Instruments__Host"] = "127.0.0.1";
        start.Environment["Instruments__Port"] = $"{_instrumentPort}";
        start.Environment["Limits__SignInsPerMinute"] = "1000";
        // It does not live long enough for its code to be compiled twice.
        start.Environment["DOTNET_TC_CallCounting"] = "0";
        foreach (var (name, value) in _settings)
            start.Environment[name] = value;
        _server = Process.Start(start)!;
        _server.OutputDataReceived += (_, line) => _printed.Enqueue(line.Data ?? "");
        _server.BeginOutputReadLine();
        using var client = new HttpClient { BaseAddress = new Uri(Address) };
        for (var i = 0; i < 480; i++)
        {
            try
            {
                if (client.GetAsync(new Uri("/api/health", UriKind.Relative)).GetAwaiter().GetResult().IsSuccessStatusCode)
                    return;
            }
            catch (HttpRequestException)
            {
                // Not listening yet.
            }
            Thread.Sleep(250);
        }
        throw new InvalidOperationException("The server did not answer within two minutes.");
    }

    /// <summary>Ends the server as a crash would.</summary>
    public void Stop()
    {
        _server?.Kill();
        _server?.WaitForExit();
        _server?.Dispose();
        _server = null;
    }

    /// <summary>Asks the database; a null there is the type's own nothing.</summary>
    public T Scalar<T>(string sql)
    {
        using var connection = new NpgsqlConnection(_connection);
        connection.Open();
        using var command = new NpgsqlCommand(sql, connection);
        return command.ExecuteScalar() is { } found and not DBNull ? (T)found : default!;
    }

    public void Dispose()
    {
        while (Kept.TryPop(out var kept))
            kept.Dispose();
        Stop();
        _instruments.Kill();
        _instruments.WaitForExit();
        _instruments.Dispose();
    }

    private static string Needed(string name) => Environment.GetEnvironmentVariable(name)
        ?? throw new InvalidOperationException("These tests need what ./test browser prepares.");
}
