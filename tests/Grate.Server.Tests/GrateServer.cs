using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>The server over a database of its own in the cluster that ./test started, with demo data.</summary>
public sealed class GrateServer : WebApplicationFactory<Program>
{
    private readonly string _database = "t_" + Guid.NewGuid().ToString("N");
    /// <summary>An ordinary Wednesday of a working week: what is tested does not hang on the day it is tested.</summary>
    internal const string Wednesday = "2027-10-13T07:30:00Z";

    private readonly Dictionary<string, string> _settings = new() { ["Limits:SignInsPerMinute"] = "1000", ["Clock:At"] = Wednesday };

    public GrateServer()
        : this(null, [])
    {
    }

    /// <summary>A second server over the database of another one, or one with settings of its own.</summary>
    internal GrateServer(GrateServer? other, params (string Key, string Value)[] settings)
    {
        foreach (var (key, value) in settings)
            _settings[key] = value;
        if (other is null)
            Admin($"create database {_database} template {_demo.Value}");
        else
            _database = other._database;
    }

    /// <summary>A server over a database in which nothing is.</summary>
    internal static GrateServer Empty() => new("e_" + Guid.NewGuid().ToString("N"), demo: false);

    // What the serving code, not a test's own, loads into an empty database.
    private GrateServer(string empty, bool demo = true)
    {
        _database = empty;
        _settings["Demo"] = demo ? "true" : "false";
        Admin($"create database {_database}");
    }

    /// <summary>The demo is loaded once; what every server starts from is a copy.</summary>
    private static readonly Lazy<string> _demo = new(() =>
    {
        using (var loading = new GrateServer("demo_" + Guid.NewGuid().ToString("N")))
        {
            loading.StartServer();
            NpgsqlConnection.ClearAllPools();
            return loading._database;
        }
    });

    /// <summary>As the owner of the tables.</summary>
    public string ConnectionString => new NpgsqlConnectionStringBuilder(Owner) { Database = _database }.ConnectionString;

    /// <summary>As the role that serves.</summary>
    public string Serving
    {
        get
        {
            var serving = new NpgsqlConnectionStringBuilder(Needed("ConnectionStrings__Grate")) { Database = _database };
            if (Pool is { } most)
                serving.MaxPoolSize = most;
            return serving.ConnectionString;
        }
    }

    /// <summary>Most connections of the server's pool; the usual hundred where nothing is said.</summary>
    internal int? Pool { get; init; }

    internal static string Owner => Needed("ConnectionStrings__GrateOwner");

    private static string Needed(string variable) => Environment.GetEnvironmentVariable(variable)
        ?? throw new InvalidOperationException("These tests need the cluster that ./test server starts.");

    /// <summary>Runs a statement outside the tests' database.</summary>
    public static void Admin(string sql)
    {
        using var connection = new NpgsqlConnection(new NpgsqlConnectionStringBuilder(Owner) { Database = "postgres", Pooling = false }.ConnectionString);
        connection.Open();
        using var command = new NpgsqlCommand(sql, connection);
        command.ExecuteNonQuery();
    }

    /// <summary>No connection gets in, and those that are in are thrown out, or all is well again.</summary>
    public void DatabaseDown(bool down)
    {
        Admin($"alter database {_database} with allow_connections {(down ? "false" : "true")}");
        if (down)
            Admin($"select pg_terminate_backend(pid) from pg_stat_activity where datname = '{_database}'");
    }

    public async Task<T> ScalarAsync<T>(string sql)
    {
        await using var connection = new NpgsqlConnection(ConnectionString);
        await connection.OpenAsync();
        await using var command = new NpgsqlCommand(sql, connection);
        return (T)(await command.ExecuteScalarAsync())!;
    }

    /// <summary>A client signed in with a demo account: technician, office or owner.</summary>
    public async Task<HttpClient> SignedInAsync(string role)
    {
        var client = CreateClient();
        var response = await client.PostAsJsonAsync("/api/session", new { email = $"{role}@demo.example", password = "draught-and-ember" });
        Assert.Equal(HttpStatusCode.OK, response.StatusCode);
        return client;
    }

    /// <summary>Services put in place of the server's own.</summary>
    internal Action<IServiceCollection>? Replace { get; init; }

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        if (Replace is not null)
            builder.ConfigureTestServices(Replace);
        builder.UseSetting("ConnectionStrings:Grate", Serving);
        builder.UseSetting("Demo", "true");
        builder.UseSetting("Outbox:Folder", Path.Combine(Path.GetTempPath(), "grate-outbox", _database));
        foreach (var (key, value) in _settings)
            builder.UseSetting(key, value);
    }
}

/// <summary>All tests of the server share one.</summary>
[CollectionDefinition(nameof(OneServer))]
public sealed class OneServer : ICollectionFixture<GrateServer>;
