using System.Net;
using System.Net.Http.Json;
using System.Text.RegularExpressions;

namespace Grate.Server.Tests;

/// <summary>The table of docs/access.md, line by line, role by role.</summary>
public partial class AccessTableTests
{
    private sealed record Line(string What, string Method, string Path, Dictionary<string, string> Roles);

    private static readonly string[] _roles = ["technician", "office", "owner", "nobody"];

    private static List<Line> Table()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (!File.Exists(Path.Combine(folder.FullName, "Grate.slnx")))
            folder = folder.Parent!;
        return [.. File.ReadLines(Path.Combine(folder.FullName, "docs/access.md")).Where(l => l.StartsWith("| ", StringComparison.Ordinal) && l.Contains(" /", StringComparison.Ordinal))
            .Select(l => l.Split('|', StringSplitOptions.TrimEntries)[1..^1])
            .Select(c => new Line(c[0], c[1].Split(' ')[0], c[1].Split(' ')[1], _roles.Zip(c[2..]).ToDictionary(r => r.First, r => r.Second)))];
    }

    // Every station is a line of one kind, and so is every calculation.
    private static string Kind(string path) => Calculation().Replace(Station().Replace(path, "/steps/{step}/stations/{station}"), "/api/calculations/*");

    [Fact]
    public async Task Every_request_that_the_server_knows_has_its_line()
    {
        await using var server = new GrateServer();
        var document = await (await server.SignedInAsync("owner")).ReadAsync("/openapi/v1.json");
        var known = document.GetProperty("paths").EnumerateObject().SelectMany(p => p.Value.EnumerateObject().Select(m => $"{m.Name.ToUpperInvariant()} {Kind(p.Name)}")).ToHashSet();
        Assert.Equal(known.Order(), Table().Select(l => $"{l.Method} {l.Path}").Order());
    }

    [Fact]
    public async Task Each_line_holds_in_each_role()
    {
        await using var server = new GrateServer(null, ("Limits:StreamsPerPerson", "100"));
        var clients = new Dictionary<string, HttpClient> { ["nobody"] = server.CreateClient() };
        foreach (var role in _roles[..3])
            clients[role] = await server.SignedInAsync(role);
        var (mine, others) = (await HoldingsAsync(server, "="), await HoldingsAsync(server, "<>"));
        foreach (var line in Table().OrderBy(l => l.Method == "DELETE" && l.Path == "/api/session"))
        {
            foreach (var (role, word) in line.Roles)
            {
                var answers = new[] { await AskAsync(clients[role], line, mine), await AskAsync(clients[role], line, others) };
                var allowed = answers.Select(a => a is not (HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden)).ToArray();
                Assert.True(word switch
                {
                    // A wrong password is told as 401 too, and who signed out is out.
                    "yes" => allowed is [true, true] || (line.Path == "/api/session" && (line.Method == "POST" || allowed[0])),
                    "own" => allowed[0] && answers[1] == HttpStatusCode.Forbidden,
                    _ => answers.All(a => a == (role == "nobody" ? HttpStatusCode.Unauthorized : HttpStatusCode.Forbidden)),
                }, $"{line.What}: {line.Method} {line.Path} is “{word}” for {role}; answered {answers[0]} where it is theirs, {answers[1]} where it is not");
            }
        }
    }

    /// <summary>What somebody holds: an open visit, its stove, a stop that it set, the person, a piece in their van.</summary>
    private sealed record Holdings(Guid Visit, Guid Stove, Guid Stop, Guid Person, Guid Piece);

    private static async Task<Holdings> HoldingsAsync(GrateServer server, string isIda)
    {
        var visit = await server.ScalarAsync<Guid>($"""
            select v.id from visits v join people p on p.id = v.technician_id where v.state = 'open' and p.name {isIda} 'Ida Varnholt' order by v.planned_start limit 1
            """);
        var stop = await server.ScalarAsync<Guid>($"""
            insert into safety_stops (id, appliance_id, visit_id, step, part, code, set_at, set_by)
            select gen_random_uuid(), appliance_id, id, 'cold-checks', 'glass', 'glass', now(), technician_id from visits where id = '{visit}' returning id
            """);
        var person = await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        return new Holdings(visit, await server.ScalarAsync<Guid>($"select appliance_id from visits where id = '{visit}'"), stop, person,
            await server.ScalarAsync<Guid>($"insert into stock_pieces (id, van_id, kind, amount, version) values (gen_random_uuid(), '{person}', 'cement', 5, 1) returning id"));
    }

    private static async Task<HttpStatusCode> AskAsync(HttpClient client, Line line, Holdings of)
    {
        var path = line.Path.Replace("{step}/stations/{station}", "hot-test/stations/hot-draft", StringComparison.Ordinal).Replace("{step}", "arrive", StringComparison.Ordinal).Replace("*", "draft", StringComparison.Ordinal)
            .Replace("{id}", (line.Path.StartsWith("/api/visits", StringComparison.Ordinal) ? of.Visit : line.Path.StartsWith("/api/stoves", StringComparison.Ordinal) ? of.Stove
                : line.Path.StartsWith("/api/stops", StringComparison.Ordinal) ? of.Stop : line.Path.StartsWith("/api/stock", StringComparison.Ordinal) ? of.Piece : Guid.CreateVersion7()).ToString(), StringComparison.Ordinal);
        using var request = new HttpRequestMessage(new HttpMethod(line.Method), AnyId().Replace(path, Guid.CreateVersion7().ToString()));
        if (line.Method is "POST" or "PUT")
            request.Content = JsonContent.Create(Body(line, of));
        using var response = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        return response.StatusCode;
    }

    // As good as it has to be to reach the question whose it is; what is wrong with it otherwise is told later.
    private static object Body(Line line, Holdings of) => line.Path switch
    {
        "/api/session" => new { email = "nobody@demo.example", password = "none" },
        "/api/calendars" => new { technicianId = of.Person },
        "/api/season/visits" => new { id = Guid.CreateVersion7(), applianceId = of.Stove, technicianId = of.Person, day = "2027-12-01", time = "09:00:00", minutes = 60 },
        "/api/stops/{id}/clear" => new { what = "", retest = "", retestPassed = false },
        "/api/stoves/{id}/flue/{versionId}" => new { baseNumber = 1, stoveXM = 2, flue = new { }, obstacles = Array.Empty<object>() },
        "/api/visits/{id}/steps/{step}" => new { saveId = Guid.CreateVersion7(), baseVersion = 9, status = "done", reason = "", note = "" },
        "/api/visits/{id}/findings/{findingId}" => Saves.Finding("glass", "sound", 9),
        "/api/visits/{id}/steps/{step}/stations/{station}" => new { saveId = Guid.CreateVersion7(), baseVersion = 9, entry = Saves.HotTest(12) },
        "/api/visits/{id}/steps/{step}/stations/{station}/answer" => Saves.HotTest(12),
        "/api/visits/{id}/additions" => new { id = Guid.CreateVersion7(), text = "" },
        "/api/stock" => new { id = Guid.CreateVersion7(), vanId = of.Person },
        "/api/stock/cuts" => new { saveId = Guid.CreateVersion7(), vanId = of.Person, seals = Array.Empty<object>() },
        "/api/stock/cuts/spoilt" => new { saveId = Guid.CreateVersion7(), visitId = of.Visit, place = "door" },
        "/api/messages/texts/{kind}/{language}" => new { subject = "", body = "" },
        "/api/parts/orders" => new { saveId = Guid.CreateVersion7() },
        "/api/parts/orders/{id}/received" => new { saveId = Guid.CreateVersion7(), packs = 1, vanId = of.Person },
        "/api/stock/{id}/moves" => new { saveId = Guid.CreateVersion7(), baseVersion = 1 },
        "/api/account/password" => new { current = "wrong", password = "" },
        "/api/people/{id}/password" => new { password = "" },
        "/api/invitations" => new { email = "", name = "", role = "" },
        "/api/join/{secret}" => new { password = "" },
        "/api/set-up" => new { code = "", firm = new { name = "", place = "", timeZone = "" }, name = "", email = "", password = "" },
        "/api/firm" => new { baseVersion = 9, firm = new { name = "", place = "", timeZone = "" } },
        "/api/stoves/{id}/confirm" => new { fields = Array.Empty<string>() },
        "/api/households" => new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = new { } },
        "/api/households/{id}" => new { baseVersion = 9, customer = new { id = Guid.CreateVersion7(), name = "" } },
        "/api/households/{id}/houses/{houseId}/stoves" => new { id = Guid.CreateVersion7(), stove = new { } },
        "/api/households/{id}/stoves/{stoveId}/out" => new { why = "" },
        "/api/households/{id}/houses/{houseId}/moved-out" => new { next = new { id = Guid.CreateVersion7(), name = "" }, sold = false },
        "/api/households/{id}/stoves/{stoveId}/replace" => new { id = Guid.CreateVersion7(), stove = new { } },
        "/api/rounds/better" => new { day = "2027-10-13" },
        "/api/rounds/accept" => new { moves = (object[])[new { visitId = of.Visit, baseVersion = 99, technicianId = of.Person, day = "2027-10-13", fromMin = 600 }] },
        "/api/rounds/cost" => new { visitId = of.Visit, technicianId = of.Person, day = "2027-10-13", fromMin = 600 },
        "/api/absences" => new { id = Guid.CreateVersion7(), personId = of.Person, firstDay = "2027-12-01", lastDay = "2027-11-01" },
        "/api/account/name" => new { name = "" },
        "/api/visits/{id}/plan" => new { baseVersion = 9, technicianId = of.Person, day = "2027-12-01", time = "09:00:00", minutes = 60 },
        "/api/visits/{id}/cancel" => new { baseVersion = 9, why = "" },
        "/api/calls" => new { id = Guid.CreateVersion7(), applianceId = of.Stove, words = "", urgent = false },
        "/api/calls/{id}/plan" => new { id = Guid.CreateVersion7(), technicianId = of.Person, day = "2027-12-01", time = "09:00:00", minutes = 60 },
        "/api/calls/{id}/close" => new { why = "" },
        "/api/calls/{id}/join" => new { visitId = Guid.CreateVersion7() },
        _ => new { },
    };

    [GeneratedRegex("/steps/[a-z-]+/stations/[a-z-]+")]
    private static partial Regex Station();

    [GeneratedRegex("/api/calculations/[a-z-]+")]
    private static partial Regex Calculation();

    [GeneratedRegex(@"\{[a-zA-Z]+\}")]
    private static partial Regex AnyId();
}
