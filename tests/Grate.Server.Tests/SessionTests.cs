using System.Diagnostics;
using System.Net;
using System.Net.Http.Json;
using Grate.Server.Access;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Grate.Server.Tests;

/// <summary>Sessions end when they should, guesses slow the guesser, passwords are not the first that are guessed.</summary>
public class SessionTests
{
    private const string Good = "copper kettle on the lower shelf";

    private static async Task<HttpResponseMessage> SignInAsync(GrateServer server, string email, string password) =>
        await server.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false }).PostAsJsonAsync("/api/session", new { email, password });

    private static async Task<string> CookieAsync(GrateServer server, string role) =>
        (await SignInAsync(server, $"{role}@demo.example", "draught-and-ember")).Headers.GetValues("Set-Cookie").Single().Split(';')[0];

    private static async Task<HttpStatusCode> WithAsync(GrateServer server, string cookie, string address = "/api/tables", HttpMethod? method = null)
    {
        using var request = new HttpRequestMessage(method ?? HttpMethod.Get, address);
        request.Headers.Add("Cookie", cookie);
        return (await server.CreateClient(new WebApplicationFactoryClientOptions { HandleCookies = false }).SendAsync(request)).StatusCode;
    }

    [Fact]
    public async Task Signed_out_cookie_is_worth_nothing_here_at_once_and_elsewhere_within_the_minute()
    {
        await using var server = new GrateServer();
        var (cookie, phone) = (await CookieAsync(server, "technician"), await CookieAsync(server, "technician"));
        await using var other = new GrateServer(server, ("Sessions:CheckedEverySeconds", "0"));
        Assert.Equal(HttpStatusCode.OK, await WithAsync(other, cookie));
        Assert.Equal(HttpStatusCode.NoContent, await WithAsync(server, cookie, "/api/session", HttpMethod.Delete));
        Assert.Equal(HttpStatusCode.Unauthorized, await WithAsync(server, cookie));
        Assert.Equal(HttpStatusCode.Unauthorized, await WithAsync(other, cookie));
        // The session on the phone goes on.
        Assert.Equal(HttpStatusCode.OK, await WithAsync(other, phone));
    }

    [Fact]
    public async Task Another_password_ends_every_other_session()
    {
        await using var server = new GrateServer(null, ("Sessions:CheckedEverySeconds", "0"));
        var elsewhere = await CookieAsync(server, "technician");
        var client = await server.SignedInAsync("technician");
        async Task<string> RefusedAsync(string current, string password) => (await client.SendAsync(HttpMethod.Put, "/api/account/password", new { current, password }, HttpStatusCode.BadRequest))
            .GetProperty("errors").EnumerateObject().Single().ToString();
        Assert.Contains("not the password that counts", await RefusedAsync("wrong", Good), StringComparison.Ordinal);
        Assert.Contains("at least 12", await RefusedAsync("draught-and-ember", "short"), StringComparison.Ordinal);
        Assert.Contains("“Varnholt”", await RefusedAsync("draught-and-ember", "the varnholt of the valley"), StringComparison.Ordinal);
        Assert.Contains("“password”", await RefusedAsync("draught-and-ember", "my-Password-for-this"), StringComparison.Ordinal);
        await client.SendAsync(HttpMethod.Put, "/api/account/password", new { current = "draught-and-ember", password = Good }, HttpStatusCode.NoContent);
        Assert.Equal("technician", (await client.ReadAsync("/api/session")).Text("person", "role"));
        Assert.Equal(HttpStatusCode.Unauthorized, await WithAsync(server, elsewhere));
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignInAsync(server, "technician@demo.example", "draught-and-ember")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await SignInAsync(server, "technician@demo.example", Good)).StatusCode);
    }

    [Fact]
    public async Task Who_leaves_is_out_and_their_visits_pass_on()
    {
        await using var server = new GrateServer(null, ("Sessions:CheckedEverySeconds", "0"));
        var owner = await server.SignedInAsync("owner");
        var cookie = await CookieAsync(server, "technician");
        var people = (await owner.ReadAsync("/api/people")).EnumerateArray().ToDictionary(p => p.Text("name"), p => p);
        var (ida, self) = (people["Ida Varnholt"].Text("id"), (await owner.ReadAsync("/api/session")).Text("person", "id"));
        var other = people.Values.First(p => p.Text("role") == "technician" && p.Text("id") != ida).Text("id");
        Task<System.Text.Json.JsonElement> LeaveAsync(string id, object leaving, HttpStatusCode expected) => owner.SendAsync(HttpMethod.Post, $"/api/people/{id}/remove", leaving, expected);
        Assert.Contains("say who takes them", (await LeaveAsync(ida, new { }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        // All of the demo's technicians go out at the same hours: a visit at which something is recorded cannot wait for another time.
        var begun = await server.ScalarAsync<Guid>($"select v.visit_id from visit_times v join visit_times o on o.during && v.during and o.person_id = '{other}' where v.person_id = '{ida}' limit 1");
        await owner.SendAsync(HttpMethod.Put, $"/api/visits/{begun}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"));
        Assert.Contains("Something is recorded in one of the visits", (await LeaveAsync(ida, new { visitsTo = other }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("another owner", (await LeaveAsync(self, new { }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.OK, await WithAsync(server, cookie));
        await server.ScalarAsync<int>($"update visits set planned_start = planned_start + interval '9 hours', planned_end = planned_end + interval '9 hours' where technician_id = '{ida}' and state = 'open' returning 1");
        await LeaveAsync(ida, new { visitsTo = other }, HttpStatusCode.NoContent);
        Assert.Equal(HttpStatusCode.Unauthorized, await WithAsync(server, cookie));
        Assert.Equal(HttpStatusCode.Unauthorized, (await SignInAsync(server, "technician@demo.example", "draught-and-ember")).StatusCode);
        Assert.DoesNotContain("Ida Varnholt", (await owner.ReadAsync("/api/season")).GetProperty("technicians").ToString(), StringComparison.Ordinal);
        await LeaveAsync(ida, new { }, HttpStatusCode.NotFound);
        // By the command, too; the last owner stays.
        var words = new StringWriter();
        Assert.Equal(0, await server.Services.DoForPeopleAsync(["remove-person", "office@demo.example"], words));
        Assert.Equal(1, await server.Services.DoForPeopleAsync(["remove-person", "owner@demo.example"], words));
        Assert.Contains("last owner", words.ToString(), StringComparison.Ordinal);
        Assert.Equal(1, await server.Services.DoForPeopleAsync(["remove-person", "nobody@demo.example"], words));
        Assert.Equal(1, await server.Services.DoForPeopleAsync(["add-person"], words));
    }

    [Fact]
    public async Task Eighty_guesses_at_once_are_counted_before_one_is_looked_at()
    {
        await using var server = new GrateServer();
        var answers = await Task.WhenAll(Enumerable.Range(0, 80).Select(_ => SignInAsync(server, "office@demo.example", "a wrong one")));
        Assert.Equal(5, answers.Count(a => a.StatusCode == HttpStatusCode.Unauthorized));
        var waiting = answers.Where(a => a.StatusCode == HttpStatusCode.TooManyRequests).ToList();
        Assert.Equal(75, waiting.Count);
        Assert.InRange(waiting[0].Headers.RetryAfter!.Delta!.Value.TotalSeconds, 800, 900);
        Assert.Contains("try again in 15 min", (await waiting[0].JsonAsync()).Text("title"), StringComparison.Ordinal);
        // The right one does not help the guesser; other accounts, and the owner of this one elsewhere, are not slowed.
        Assert.Equal(HttpStatusCode.TooManyRequests, (await SignInAsync(server, "OFFICE@demo.example", "draught-and-ember")).StatusCode);
        Assert.Equal(HttpStatusCode.OK, (await SignInAsync(server, "owner@demo.example", "draught-and-ember")).StatusCode);
        await server.ScalarAsync<int>("update sign_in_tries set address = '198.51.100.7' returning 1");
        Assert.Equal(HttpStatusCode.OK, (await SignInAsync(server, "office@demo.example", "draught-and-ember")).StatusCode);
        // After a quarter of an hour tries are free again.
        await server.ScalarAsync<int>("update sign_in_tries set address = '', since = since - interval '16 minutes' returning 1");
        Assert.Equal(HttpStatusCode.OK, (await SignInAsync(server, "office@demo.example", "draught-and-ember")).StatusCode);
    }

    [Fact]
    public async Task Unknown_address_takes_as_long_and_answers_the_same()
    {
        await using var server = new GrateServer();
        async Task<(double Ms, string Answer)> TryAsync(string email)
        {
            var watch = Stopwatch.StartNew();
            var response = await SignInAsync(server, email, "a wrong one");
            return (watch.Elapsed.TotalMilliseconds, $"{response.StatusCode} {(await response.JsonAsync()).Text("title")}");
        }
        await TryAsync("nobody@demo.example");
        await TryAsync("technician@demo.example");
        var known = new[] { await TryAsync("owner@demo.example"), await TryAsync("office@demo.example"), await TryAsync("owner@demo.example") };
        var unknown = new[] { await TryAsync("a@demo.example"), await TryAsync("b@demo.example"), await TryAsync("c@demo.example") };
        Assert.Equal(known[0].Answer, unknown[0].Answer);
        Assert.InRange(unknown.Select(u => u.Ms).Order().ElementAt(1) / known.Select(k => k.Ms).Order().ElementAt(1), 0.33, 3);
    }
}
