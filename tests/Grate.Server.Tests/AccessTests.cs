using System.Net;
using System.Net.Http.Json;
using Grate.Server.Access;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Grate.Server.Tests;

[Collection(nameof(OneServer))]
public class AccessTests(GrateServer server)
{
    [Fact]
    public void Every_endpoint_has_an_explicit_policy()
    {
        var endpoints = server.Services.GetRequiredService<EndpointDataSource>().Endpoints;
        Assert.True(endpoints.Count > 15);
        Assert.All(endpoints, e => Assert.True(
            e.Metadata.GetMetadata<IAllowAnonymous>() is not null || e.Metadata.GetOrderedMetadata<IAuthorizeData>().Any(a => a.Policy is not null),
            $"{e.DisplayName} has no policy"));
    }

    [Fact]
    public async Task Only_session_health_and_pages_answer_without_a_session()
    {
        var client = server.CreateClient();
        foreach (var address in new[] { "/api/today", "/api/stoves", "/api/tables", "/api/season", "/api/season/due", "/api/season/due.csv", "/api/calendars", $"/api/visits/{Guid.CreateVersion7()}", "/openapi/v1.json" })
            Assert.Equal(HttpStatusCode.Unauthorized, (await client.GetAsync(new Uri(address, UriKind.Relative))).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await client.PostAsJsonAsync("/api/calculations/draft", new { })).StatusCode);
        Assert.Equal("ready", (await client.ReadAsync("/api/health")).ToString());
    }

    [Fact]
    public async Task Session_tells_who_is_signed_in_and_ends()
    {
        var client = server.CreateClient();
        var before = await client.ReadAsync("/api/session");
        Assert.Equal(System.Text.Json.JsonValueKind.Null, before.GetProperty("person").ValueKind);
        Assert.Equal(3, before.GetProperty("demoAccounts").GetArrayLength());
        await client.SendAsync(HttpMethod.Post, "/api/session", new { email = "OWNER@demo.example ", password = "draught-and-ember" });
        Assert.Equal("owner", (await client.ReadAsync("/api/session")).Text("person", "role"));
        await client.SendAsync(HttpMethod.Delete, "/api/session", new { }, HttpStatusCode.NoContent);
        Assert.Equal(System.Text.Json.JsonValueKind.Null, (await client.ReadAsync("/api/session")).GetProperty("person").ValueKind);
    }

    [Fact]
    public async Task Cookie_is_out_of_reach_of_scripts_and_other_sites()
    {
        var response = await server.CreateClient().PostAsJsonAsync("/api/session", new { email = "office@demo.example", password = "draught-and-ember" });
        var cookie = Assert.Single(response.Headers.GetValues("Set-Cookie"));
        Assert.Contains("httponly", cookie, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("samesite=strict", cookie, StringComparison.OrdinalIgnoreCase);
    }

    [Fact]
    public async Task Sign_in_and_calculations_are_limited_and_two_servers_share_a_session()
    {
        await using var limited = new GrateServer(server, ("Limits:SignInsPerMinute", "1"), ("Limits:CalculationsPerSecond", "10"));
        var client = await limited.SignedInAsync("technician");
        var late = await client.PostAsJsonAsync("/api/session", new { email = "x@demo.example", password = "y" });
        Assert.Equal((HttpStatusCode.TooManyRequests, "Too much in a short time: wait a moment."), (late.StatusCode, (await late.JsonAsync()).Text("title")));
        Assert.InRange(late.Headers.RetryAfter!.Delta!.Value.TotalSeconds, 1, 60);
        var answers = await Task.WhenAll(Enumerable.Range(0, 60).Select(_ => client.PostAsJsonAsync("/api/calculations/draft", new { })));
        Assert.Contains(answers, a => a.StatusCode == HttpStatusCode.TooManyRequests);

        // The same cookie at the other server: the keys are in the database.
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/session")
        { Content = JsonContent.Create(new { email = "technician@demo.example", password = "draught-and-ember" }) };
        var cookie = (await server.CreateClient().SendAsync(request)).Headers.GetValues("Set-Cookie").Single().Split(';')[0];
        using var elsewhere = new HttpRequestMessage(HttpMethod.Get, "/api/tables");
        elsewhere.Headers.Add("Cookie", cookie);
        Assert.Equal(HttpStatusCode.OK, (await limited.CreateClient().SendAsync(elsewhere)).StatusCode);
    }

    [Theory]
    [InlineData("Origin", "https://elsewhere.example")]
    [InlineData("Origin", "null")]
    [InlineData("Sec-Fetch-Site", "cross-site")]
    [InlineData("Sec-Fetch-Site", "same-site")]
    public async Task Writes_from_another_site_are_refused(string header, string value)
    {
        var client = await server.SignedInAsync("technician");
        using var request = new HttpRequestMessage(HttpMethod.Delete, "/api/session");
        request.Headers.Add(header, value);
        Assert.Equal(HttpStatusCode.Forbidden, (await client.SendAsync(request)).StatusCode);
        Assert.Equal("technician", (await client.ReadAsync("/api/session")).Text("person", "role"));
    }

    [Fact]
    public async Task Headers_forbid_inline_scripts_and_foreign_content()
    {
        var response = await server.CreateClient().GetAsync(new Uri("/api/health", UriKind.Relative));
        var policy = Assert.Single(response.Headers.GetValues("Content-Security-Policy"));
        Assert.Contains("default-src 'none'", policy, StringComparison.Ordinal);
        Assert.Contains("script-src 'self';", policy, StringComparison.Ordinal);
        Assert.Contains("frame-ancestors 'none'", policy, StringComparison.Ordinal);
        Assert.Equal("nosniff", Assert.Single(response.Headers.GetValues("X-Content-Type-Options")));
    }

    [Fact]
    public async Task Files_go_out_as_compressed_as_the_browser_takes_them()
    {
        var folder = Directory.CreateTempSubdirectory("grate-web-");
        try
        {
            foreach (var (name, text) in new[] { ("app.js", "plain"), ("app.js.br", "brotli"), ("app.js.gz", "gzip"), ("icon.svg", "picture"), ("index.html", "page") })
                await File.WriteAllTextAsync(Path.Combine(folder.FullName, name), text);
            await using var own = new GrateServer(server, ("Web:Root", folder.FullName));
            foreach (var (accepts, path, text, coding) in new[] { ("gzip, br", "/app.js", "brotli", "br"), ("gzip", "/app.js", "gzip", "gzip"), ("br;q=0, gzip", "/app.js", "gzip", "gzip"), ("identity", "/app.js", "plain", ""), ("br", "/icon.svg", "picture", ""), ("br", "/anything", "page", ""), ("br", "/", "page", ""), ("br", "/apiary", "page", "") })
            {
                using var request = new HttpRequestMessage(HttpMethod.Get, path);
                request.Headers.TryAddWithoutValidation("Accept-Encoding", accepts);
                using var response = await own.CreateClient().SendAsync(request);
                Assert.Equal(text, await response.Content.ReadAsStringAsync());
                Assert.Equal(coding, string.Concat(response.Content.Headers.ContentEncoding));
                if (path == "/app.js")
                    Assert.Equal("text/javascript", response.Content.Headers.ContentType?.MediaType);
            }
        }
        finally
        {
            folder.Delete(recursive: true);
        }
    }

    [Fact]
    public async Task Office_reads_but_does_not_write_visits()
    {
        var office = await server.SignedInAsync("office");
        var visit = await office.VisitAsync(0);
        Assert.Equal("False", (await office.ReadAsync($"/api/visits/{visit}")).Text("mayWrite"));
        await office.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/arrive", Saves.Step(), HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task Technician_does_not_write_in_anothers_visit_but_the_owner_does()
    {
        var owner = await server.SignedInAsync("owner");
        var technician = await server.SignedInAsync("technician");
        var others = (await owner.ReadAsync("/api/today")).GetProperty("stops").EnumerateArray()
            .First(s => s.Text("stop", "technician") != "Ida Varnholt").Text("stop", "visitId");
        var refused = await technician.SendAsync(HttpMethod.Put, $"/api/visits/{others}/steps/arrive", Saves.Step(), HttpStatusCode.Forbidden);
        Assert.EndsWith("only they and the owner write in it.", refused.Text("title"), StringComparison.Ordinal);
        await owner.SendAsync(HttpMethod.Put, $"/api/visits/{others}/steps/arrive", Saves.Step());
        foreach (var station in new[] { "wood", "cold-flue", "deposits", "top", "hot-draft", "agreement" })
            await technician.KeepAsync(others, station, station == "hot-draft" ? Saves.HotTest(14) : new { }, expected: HttpStatusCode.Forbidden);
        await owner.KeepAsync(others, "hot-draft", Saves.HotTest(14));
        await technician.SendAsync(HttpMethod.Put, $"/api/visits/{Guid.CreateVersion7()}/steps/arrive", Saves.Step(), HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task First_people_are_added_from_the_command_line()
    {
        await using var own = new GrateServer(server);
        using var answer = new StringWriter();
        Environment.SetEnvironmentVariable("GRATE_PASSWORD", "short");
        Assert.Equal(1, await own.Services.DoForPeopleAsync(["add-person", "owner", "new@firm.example", "New Owner"], answer));
        Environment.SetEnvironmentVariable("GRATE_PASSWORD", "a long passphrase");
        Assert.Equal(1, await own.Services.DoForPeopleAsync(["add-person", "king", "new@firm.example", "New Owner"], answer));
        Assert.Equal(0, await own.Services.DoForPeopleAsync(["add-person", "owner", "new@firm.example", "New Owner"], answer));
        Assert.Equal(1, await own.Services.DoForPeopleAsync(["add-person", "owner", "NEW@firm.example", "New Owner"], answer));
        var signedIn = await own.CreateClient().SendAsync(HttpMethod.Post, "/api/session", new { email = "new@firm.example", password = "a long passphrase" });
        Assert.Equal("owner", signedIn.Text("role"));
        // Another password by the command; it is looked at like any other.
        Assert.Equal(1, await own.Services.DoForPeopleAsync(["set-password", "nobody@firm.example"], answer));
        Environment.SetEnvironmentVariable("GRATE_PASSWORD", "copper kettle upstairs");
        Assert.Equal(0, await own.Services.DoForPeopleAsync(["set-password", "new@firm.example"], answer));
        Environment.SetEnvironmentVariable("GRATE_PASSWORD", "password of the firm");
        Assert.Equal(1, await own.Services.DoForPeopleAsync(["set-password", "new@firm.example"], answer));
        await own.CreateClient().SendAsync(HttpMethod.Post, "/api/session", new { email = "new@firm.example", password = "copper kettle upstairs" });
    }
}
