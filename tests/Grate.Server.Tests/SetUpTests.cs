using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Grate.Server.Features.Firms;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace Grate.Server.Tests;

/// <summary>From an empty database to a firm with people in it.</summary>
public class SetUpTests
{
    private const string Password = "copper kettle on the lower shelf";

    private static readonly object _firm = new { name = "Fellside Stoves", place = "Missoula", timeZone = "America/Denver", ways = new { currency = "$", units = "us", paper = "letter", workDays = new[] { "monday", "saturday" }, from = "07:00:00", to = "15:00:00", home = new { latitude = 46.87, longitude = -113.99, altitudeM = 975 } } };

    private static object Entry(string code, object? firm = null, string password = Password) => new { code, firm = firm ?? _firm, name = "Tamsin Orrell", email = "tamsin@fellside.example", password };

    [Fact]
    public async Task It_begins_once_and_only_with_the_code_that_was_printed()
    {
        await using var server = GrateServer.Empty();
        var client = server.CreateClient();
        Assert.True((await client.ReadAsync("/api/session")).GetProperty("empty").GetBoolean());
        var code = server.Services.GetRequiredService<SetUpCode>().Code;
        Task<JsonElement> BeginAsync(object entry, HttpStatusCode expected) => client.SendAsync(HttpMethod.Post, "/api/set-up", entry, expected);
        Assert.Contains("not the code", (await BeginAsync(Entry("AAAA-BBBB-CCCC"), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("not the code", (await BeginAsync(Entry(""), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("firm.timeZone", (await BeginAsync(Entry(code, new { name = "F", place = "P", timeZone = "Mars/Base" }), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("at least 12", (await BeginAsync(Entry(code, password: "short"), HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        // However it is typed; whoever presses twice has begun once.
        using var one = new HttpRequestMessage(HttpMethod.Post, "/api/set-up") { Content = JsonContent.Create(Entry(code.ToLowerInvariant().Replace('-', ' '))) };
        using var two = new HttpRequestMessage(HttpMethod.Post, "/api/set-up") { Content = JsonContent.Create(Entry(code)) };
        var states = (await Task.WhenAll(client.SendAsync(one), server.CreateClient().SendAsync(two))).Select(r => r.StatusCode).Order().ToList();
        Assert.Equal([HttpStatusCode.NoContent, HttpStatusCode.Conflict], states);
        await BeginAsync(Entry(code), HttpStatusCode.Conflict);
        Assert.Equal(1, await server.ScalarAsync<long>("select count(*) from people"));
        var owner = server.CreateClient();
        await owner.SendAsync(HttpMethod.Post, "/api/session", new { email = "tamsin@fellside.example", password = Password });
        var state = await owner.ReadAsync("/api/session");
        Assert.Equal(("us", "owner"), (state.Text("units"), state.Text("person", "role")));
        // Nothing is there yet, and every page says so.
        foreach (var address in new[] { "/api/today", "/api/stoves", "/api/season", "/api/week", "/api/stock", "/api/people", "/api/firm" })
            await owner.ReadAsync(address);
        // The first household lies where the firm does, by whose climate it is.
        var (id, stoveId) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await owner.SendAsync(HttpMethod.Post, "/api/households", new { id, stoveId, household = new { name = "First", street = "1 Creek Road", place = "Lolo", stove = new { kind = "steel" } } }, HttpStatusCode.NoContent);
        Assert.Equal(-4, (await owner.ReadAsync($"/api/households/{id}")).GetProperty("houses")[0].GetProperty("house").GetProperty("monthlyC")[0].GetDouble());
        // Working days and hours are the firm's: Thursday is none, Saturday at seven is.
        var technician = await InvitedAsync(server, owner, "technician", "Wren Halloway", "wren@fellside.example");
        var slot = await owner.ReadAsync($"/api/season/slot?technicianId={technician}&from=2027-10-14&minutes=60");
        Assert.Equal(("2027-10-16", "07:00:00"), (slot.Text("day"), slot.Text("time")));
    }

    private static async Task<string> InvitedAsync(GrateServer server, HttpClient owner, string role, string name, string email)
    {
        var path = (await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { email, name, role })).Text("path");
        var client = server.CreateClient();
        await client.SendAsync(HttpMethod.Post, $"/api{path}", new { password = "seven grey herons at the weir" }, HttpStatusCode.NoContent);
        return (await client.ReadAsync("/api/session")).Text("person", "id");
    }

    [Fact]
    public async Task Somebody_invited_comes_in_once_within_three_days()
    {
        var outbox = Directory.CreateTempSubdirectory("grate-outbox");
        await using var server = new GrateServer(null, ("Outbox:Folder", outbox.FullName), ("Sessions:CheckedEverySeconds", "0"));
        var owner = await server.SignedInAsync("owner");
        async Task<string> InviteAsync(string email, string role = "technician", string name = "Wren Halloway") => (await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { email, name, role })).Text("path");
        Task<JsonElement> JoinAsync(string path, HttpStatusCode expected) => server.CreateClient().SendAsync(HttpMethod.Post, $"/api{path}", new { password = Password }, expected);
        await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { email = "office@demo.example", name = "Again", role = "office" }, HttpStatusCode.BadRequest);
        await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { email = "no address", name = "", role = "king" }, HttpStatusCode.BadRequest);
        var first = await InviteAsync("wren@demo.example");
        // The message can be read by an ordinary mail program, and holds the link.
        var message = await MimeMessage.LoadAsync(outbox.EnumerateFiles("*.eml").Single().FullName);
        Assert.Equal("wren@demo.example", Assert.IsType<MailboxAddress>(message.To.Single()).Address);
        Assert.Contains(first, message.TextBody, StringComparison.Ordinal);
        // A second invitation takes the place of the first.
        var second = await InviteAsync("Wren@demo.example");
        await JoinAsync(first, HttpStatusCode.NotFound);
        Assert.Equal("Wren Halloway", (await server.CreateClient().ReadAsync($"/api{second}")).Text("name"));
        await server.CreateClient().SendAsync(HttpMethod.Post, $"/api{second}", new { password = "wren halloway 2027" }, HttpStatusCode.BadRequest);
        await JoinAsync(second, HttpStatusCode.NoContent);
        await JoinAsync(second, HttpStatusCode.NotFound);
        // Withdrawn, or too old, it works no more; a made-up one never did.
        var withdrawn = await InviteAsync("late@demo.example");
        var id = (await owner.ReadAsync("/api/invitations"))[0].Text("id");
        await owner.SendAsync(HttpMethod.Delete, $"/api/invitations/{id}", new { }, HttpStatusCode.NoContent);
        await JoinAsync(withdrawn, HttpStatusCode.NotFound);
        var old = await InviteAsync("old@demo.example");
        await server.ScalarAsync<int>("update invitations set ends_at = ends_at - interval '73 hours' where email = 'old@demo.example' returning 1");
        await JoinAsync(old, HttpStatusCode.NotFound);
        await JoinAsync("/join/" + new string('x', 43), HttpStatusCode.NotFound);
        outbox.Delete(true);
    }

    [Fact]
    public async Task The_owner_changes_the_firm_and_nobody_overwrites_another()
    {
        await using var server = new GrateServer();
        var (owner, ida) = (await server.SignedInAsync("owner"), await server.SignedInAsync("technician"));
        var kept = await ida.ReadAsync("/api/firm");
        Task<JsonElement> ChangeAsync(int version, object firm, HttpStatusCode expected) => owner.SendAsync(HttpMethod.Put, "/api/firm", new { baseVersion = version, firm }, expected);
        var ways = new { currency = "CHF", units = "metric", paper = "a4", workDays = new[] { "tuesday" }, from = "09:00:00", to = "12:00:00" };
        var changed = await ChangeAsync(kept.GetProperty("version").GetInt32(), new { name = "Tarnwick Stoves", place = "Tarnwick", timeZone = "Europe/Vienna", inspectionMonths = 6, serviceHoursWeek = 12, ways }, HttpStatusCode.OK);
        Assert.Equal(("Tarnwick Stoves", "CHF"), (changed.Text("firm", "name"), changed.Text("ways", "currency")));
        var stale = await ChangeAsync(1, new { name = "Other", place = "Tarnwick", timeZone = "Europe/Vienna" }, HttpStatusCode.Conflict);
        Assert.Equal("Tarnwick Stoves", stale.Text("stored", "firm", "name"));
        var refused = (await ChangeAsync(2, new { name = "", place = "P", timeZone = "Vienna", inspectionMonths = 0, ways = ways with { workDays = [], to = "09:30:00", currency = "far too long" } }, HttpStatusCode.BadRequest)).GetProperty("errors");
        foreach (var field in new[] { "name", "timeZone", "inspectionMonths", "ways.workDays", "ways.to", "ways.currency" })
            Assert.True(refused.TryGetProperty(field, out _), field);
        // Days are the firm's: one that is not worked on is asked back.
        var technician = await server.ScalarAsync<Guid>("select id from people where name = 'Ida Varnholt'");
        var slot = await owner.ReadAsync($"/api/season/slot?technicianId={technician}&from=2027-10-20&minutes=60");
        Assert.Equal(("2027-10-26", "09:00:00"), (slot.Text("day"), slot.Text("time")));
    }
}
