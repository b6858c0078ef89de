using System.Net;
using System.Text;
using System.Text.Json;
using Grate.Server.Features.Firms;
using Grate.Store;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>A firm's records as one document: out, and back into an empty firm to the same answers.</summary>
public class ArchiveTests
{
    private static readonly JsonSerializerOptions _indented = new() { WriteIndented = true, Encoder = System.Text.Encodings.Web.JavaScriptEncoder.UnsafeRelaxedJsonEscaping };
    private static readonly string[] _pages = ["/api/season", "/api/season/due", "/api/week", "/api/today", "/api/stock", "/api/parts", "/api/prices", "/api/people"];

    private const string Password = "copper kettle on the lower shelf";

    private static async Task<HttpClient> BegunAsync(GrateServer server)
    {
        var client = server.CreateClient();
        var code = server.Services.GetRequiredService<SetUpCode>().Code;
        await client.SendAsync(HttpMethod.Post, "/api/set-up", new { code, firm = new { name = "Empty", place = "Lolo", timeZone = "America/Denver" }, name = "Tamsin Orrell", email = "tamsin@fellside.example", password = Password }, HttpStatusCode.NoContent);
        return client;
    }

    private static async Task<(HttpStatusCode Code, string Text)> SendAsync(HttpClient client, byte[] archive)
    {
        using var body = new ByteArrayContent(archive);
        body.Headers.ContentType = new("application/json");
        using var answer = await client.PostAsync(new Uri("/api/archive", UriKind.Relative), body);
        return (answer.StatusCode, await answer.Content.ReadAsStringAsync());
    }

    [Fact]
    public async Task Every_table_is_in_it_or_left_out_on_purpose()
    {
        await using var server = new GrateServer();
        await server.SignedInAsync("owner");
        var tables = (await server.ScalarAsync<string[]>("select array_agg(table_name::text) from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE'")).Order();
        Assert.Equal(tables, ArchiveStore.Tables.Concat(ArchiveStore.LeftOut).Order());
    }

    [Fact]
    public async Task The_published_schema_is_that_of_the_tables()
    {
        await using var server = new GrateServer();
        await server.SignedInAsync("owner");
        var archives = new ArchiveStore(NpgsqlDataSource.Create(server.ConnectionString));
        var schema = JsonSerializer.Serialize(JsonDocument.Parse(await archives.SchemaAsync()), _indented) + "\n";
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Grate.slnx")))
            folder = folder.Parent!;
        var published = Path.Combine(folder.FullName, "docs/schema/archive.schema.json");
        if (Environment.GetEnvironmentVariable("GRATE_PUBLISH") is not null)
        {
            Directory.CreateDirectory(Path.GetDirectoryName(published)!);
            await File.WriteAllTextAsync(published, schema);
        }
        Assert.Equal(await File.ReadAllTextAsync(published), schema);
    }

    [Fact]
    public async Task It_comes_back_into_an_empty_firm_to_the_same_answers()
    {
        await using var server = new GrateServer();
        var owner = await server.SignedInAsync("owner");
        var archive = await owner.GetByteArrayAsync(new Uri("/api/archive", UriKind.Relative));
        var text = Encoding.UTF8.GetString(archive);
        Assert.DoesNotContain("password", text, StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain("secret", text, StringComparison.OrdinalIgnoreCase);

        await using var empty = GrateServer.Empty();
        var began = await BegunAsync(empty);
        Assert.Equal((HttpStatusCode.NoContent, ""), await SendAsync(began, archive));
        // Who read it back is the owner of the archive, with the password that counted here.
        Assert.Equal(HttpStatusCode.Unauthorized, (await began.GetAsync(new Uri("/api/firm", UriKind.Relative))).StatusCode);
        var there = empty.CreateClient();
        await there.SendAsync(HttpMethod.Post, "/api/session", new { email = "owner@demo.example", password = Password });
        var stoves = (await owner.ReadAsync("/api/stoves")).GetProperty("stoves").EnumerateArray().Select(s => s.Text("line", "id")).ToList();
        var visits = await server.ScalarAsync<Guid[]>("select array(select id from visits order by md5(id::text) limit 8)");
        foreach (var address in _pages.Concat(stoves.Take(12).Select(s => $"/api/stoves/{s}")).Concat(visits.Select(v => $"/api/visits/{v}")).Concat(stoves.Take(2).Select(s => $"/api/stoves/{s}/unconfirmed")))
        {
            Assert.Equal((await owner.ReadAsync(address)).ToString(), Told(await there.ReadAsync(address)));
        }
        await using var log = new StringWriter();
        Assert.Equal(0, await Features.Visits.Verify.VerifyAsync(empty.Services, log));
        // It is written out again as it came in, but for the firm's own line and the people's.
        var again = JsonDocument.Parse(await there.GetByteArrayAsync(new Uri("/api/archive", UriKind.Relative))).RootElement.GetProperty("tables");
        foreach (var table in ArchiveStore.Tables.Except(["firm", "people"]))
            Assert.Equal(Rows(JsonDocument.Parse(archive).RootElement.GetProperty("tables"), table), Rows(again, table));
        // A second time it is refused: the firm has records now.
        Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(there, archive)).Code);

        // Whoever began the empty firm stands among the people, without access.
        string Told(JsonElement answer) => answer.ValueKind != JsonValueKind.Array || !answer.ToString().Contains("replaced.example", StringComparison.Ordinal) ? answer.ToString()
            : $"[{string.Join(',', answer.EnumerateArray().Where(p => !p.ToString().Contains("replaced.example", StringComparison.Ordinal)))}]";
        static IEnumerable<string> Rows(JsonElement tables, string table) => tables.GetProperty(table).EnumerateArray().Select(r => r.ToString()).Order(StringComparer.Ordinal);
    }

    [Fact]
    public async Task What_is_no_archive_changes_nothing()
    {
        await using var server = new GrateServer();
        var archive = Encoding.UTF8.GetString(await (await server.SignedInAsync("owner")).GetByteArrayAsync(new Uri("/api/archive", UriKind.Relative)));
        await using var empty = GrateServer.Empty();
        var owner = await BegunAsync(empty);
        async Task RefusedAsync(string sent, string said)
        {
            var (code, text) = await SendAsync(owner, Encoding.UTF8.GetBytes(sent));
            Assert.Equal(HttpStatusCode.BadRequest, code);
            Assert.Contains(said, text, StringComparison.Ordinal);
            Assert.Equal(0, await empty.ScalarAsync<long>("select count(*) from customers"));
        }
        await RefusedAsync("", "not JSON");
        await RefusedAsync(archive[..(archive.Length / 2)], "not JSON");
        await RefusedAsync("[]", "no archive of version");
        await RefusedAsync("""{"format": "grate-archive", "version": 20, "tables": {}}""", "no archive of version");
        await RefusedAsync("""{"format": "grate-archive", "version": 1e40, "tables": {}}""", "no archive of version");
        await RefusedAsync(archive.Replace("\"steel\"", "\"pellet\"", StringComparison.Ordinal), "Nothing was read back");
        await owner.ReadAsync("/api/firm");
    }
}
