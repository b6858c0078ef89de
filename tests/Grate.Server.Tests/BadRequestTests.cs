using System.Net;
using System.Text;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Grate.Server.Tests;

/// <summary>What cannot be read is told by its field and a sentence; what is not there is told as that, and never as a page.</summary>
[Collection(nameof(OneServer))]
public class BadRequestTests(GrateServer server)
{
    private static readonly string _digits = new('9', 400);

    private async Task<HttpResponseMessage> SendAsync(string method, string path, string body, string type = "application/json")
    {
        var client = await server.SignedInAsync("technician");
        using var request = new HttpRequestMessage(new HttpMethod(method), path.Replace("{visit}", await client.VisitAsync(0), StringComparison.Ordinal));
        if (body.Length > 0)
        {
            request.Content = new ByteArrayContent(Encoding.UTF8.GetBytes(body));
            request.Content.Headers.TryAddWithoutValidation("Content-Type", type);
        }
        return await client.SendAsync(request);
    }

    public static TheoryData<string, string, string, string> Unreadable() => new()
    {
        { "POST", "/api/session", """{"email":"a\u0000b","password":"x"}""", "email" },
        { "GET", "/api/stoves?q=a%00b", "", "q" },
        { "GET", "/api/season/due?place=%00", "", "place" },
        { "GET", "/api/season/due?week=9999-12-31", "", "week" },
        { "GET", "/api/season/due?week=soon", "", "week" },
        { "GET", "/api/season/due?offset=1e3", "", "offset" },
        { "GET", "/api/season/due?technician=x", "", "technician" },
        { "GET", "/api/week?day=2027-02-30", "", "day" },
        { "GET", "/api/season/slot?technicianId=x&from=2027-11-01&minutes=60", "", "technicianId" },
        { "POST", "/api/calculations/steadiness", """{"samples":[null,{"atS":1,"draftPa":9}]}""", "samples" },
        { "POST", "/api/calculations/steadiness", $$"""{"samples":[{"atS":0,"draftPa":{{_digits}}},{"atS":1,"draftPa":9}]}""", "samples[0].draftPa" },
        { "POST", "/api/calculations/draft", """{"flue":{"segments":[{"construction":"insulated-50","shape":{"kind":"round","diameterM":0.15,"widthM":0.2},"riseM":5,"lengthM":5,"surroundings":"indoor"}]},"surroundings":{"outdoorC":0}}""", "flue.segments[0].shape.widthM" },
        { "POST", "/api/visits/{visit}/steps/hot-test/stations/hot-draft/answer", """{"readings":[null]}""", "readings" },
        { "POST", "/api/visits/{visit}/steps/hot-test/stations/hot-draft/answer", """{"readings":[],"controls":[null]}""", "readings" },
        { "PUT", "/api/visits/{visit}/steps/hot-test/stations/hot-draft", """{"saveId":"01a21c4b-f9f5-7e0a-8591-d148e1ce31e4","baseVersion":0,"entry":null}""", "entry" },
        { "POST", "/api/visits/{visit}/steps/sweep/stations/deposits/answer", """{"done":[null]}""", "done" },
        { "POST", "/api/visits/{visit}/steps/sweep/stations/deposits/answer", """{"fell":[null]}""", "fell" },
        { "POST", "/api/visits/{visit}/steps/sweep/stations/deposits/answer", """{"found":{"connector":null,"x\u0000":{"stage":1}}}""", "found" },
    };

    [Theory]
    [MemberData(nameof(Unreadable))]
    public async Task Field_and_sentence_are_named(string method, string path, string body, string field)
    {
        using var response = await SendAsync(method, path, body);
        var problem = await response.JsonAsync();
        Assert.True(response.StatusCode == HttpStatusCode.BadRequest, $"{(int)response.StatusCode} {problem}");
        var error = problem.GetProperty("errors").EnumerateObject().First();
        Assert.Equal(field, error.Name);
        Assert.Matches("[.!:]", error.Value[0].GetString());
    }

    [Theory]
    [InlineData("PATCH", "/api/today", 405, "This address takes GET.")]
    [InlineData("GET", "/api/calculations/draft", 405, "This address takes POST.")]
    [InlineData("DELETE", "/api/visits/{visit}/sign", 405, "This address takes POST.")]
    [InlineData("GET", "/api/visits/not-an-id", 404, "There is no such address.")]
    [InlineData("GET", "/api", 404, "There is no such address.")]
    [InlineData("POST", "/api/season/due.csv", 405, "This address takes GET.")]
    [InlineData("GET", "/api/people", 403, "That is not for your role in the firm.")]
    public async Task Address_and_method_are_told_with_all_headers(string method, string path, int status, string sentence)
    {
        using var response = await SendAsync(method, path, "");
        Assert.Equal((status, "application/problem+json"), ((int)response.StatusCode, response.Content.Headers.ContentType?.MediaType));
        Assert.Equal(sentence, (await response.JsonAsync()).Text("title"));
        Assert.Equal("no-store", response.Headers.CacheControl?.ToString());
        Assert.Equal("nosniff", Assert.Single(response.Headers.GetValues("X-Content-Type-Options")));
        Assert.Contains("default-src 'none'", Assert.Single(response.Headers.GetValues("Content-Security-Policy")), StringComparison.Ordinal);
        Assert.False(response.Headers.Contains("Server"));
    }

    [Theory]
    [InlineData("text/plain", 415, "Send JSON: the content type must be application/json.")]
    [InlineData("multipart/form-data", 415, "Send JSON: the content type must be application/json.")]
    [InlineData("application/json; charset=klingon", 400, "Some entries cannot be used.")]
    public async Task Kind_of_content_is_told(string type, int status, string title)
    {
        using var response = await SendAsync("POST", "/api/calculations/draft", "{}", type);
        Assert.Equal((status, title), ((int)response.StatusCode, (await response.JsonAsync()).Text("title")));
    }

    [Fact]
    public async Task Without_a_session_the_sentence_says_so()
    {
        var problem = await server.CreateClient().ReadAsync("/api/today", HttpStatusCode.Unauthorized);
        Assert.Equal("Sign in first.", problem.Text("title"));
    }

    [Fact]
    public async Task Data_is_kept_in_no_store_and_tls_is_kept()
    {
        var client = server.CreateClient(new() { BaseAddress = new Uri("https://localhost") });
        using var response = await client.GetAsync(new Uri("/api/health", UriKind.Relative));
        Assert.Equal("no-store", response.Headers.CacheControl?.ToString());
        Assert.Equal("max-age=31536000", Assert.Single(response.Headers.GetValues("Strict-Transport-Security")));
    }

    private sealed class Diary : ILogger<Faults>
    {
        public List<string> Lines { get; } = [];

        public IDisposable? BeginScope<TState>(TState state)
            where TState : notnull => null;

        public bool IsEnabled(LogLevel logLevel) => true;

        public void Log<TState>(LogLevel logLevel, EventId eventId, TState state, Exception? exception, Func<TState, Exception?, string> formatter) => Lines.Add(formatter(state, exception));
    }

    private sealed class Hand : TimeProvider
    {
        public DateTimeOffset Now { get; set; } = DateTimeOffset.UnixEpoch;

        public override DateTimeOffset GetUtcNow() => Now;
    }

    [Fact]
    public async Task Faults_are_told_without_secrets_and_counted_when_they_come_again()
    {
        var (log, clock) = (new Diary(), new Hand());
        var faults = new Faults(server.Services.GetRequiredService<IProblemDetailsService>(), clock, log);
        async Task FailAsync()
        {
            var context = new DefaultHttpContext { RequestServices = server.Services };
            using var body = new MemoryStream();
            context.Response.Body = body;
            (context.Request.Method, context.Request.Path) = ("GET", "/calendar/a-secret-that-nobody-reads.ics");
            context.SetEndpoint(new RouteEndpoint(_ => Task.CompletedTask, RoutePatternFactory.Parse("/calendar/{secret}.ics"), 0, null, null));
            Assert.True(await faults.TryHandleAsync(context, new TimeoutException("no database"), CancellationToken.None));
        }
        for (var i = 0; i < 400; i++)
            await FailAsync();
        Assert.Equal("GET /calendar/{secret}.ics failed", Assert.Single(log.Lines));
        clock.Now += TimeSpan.FromMinutes(1);
        await FailAsync();
        Assert.Equal("GET /calendar/{secret}.ics failed, and 399 times more since it was last told", log.Lines[1]);
        Assert.Equal(2, log.Lines.Count);
    }

    [Fact]
    public async Task One_person_holds_a_few_live_streams()
    {
        // A bridge that nobody answers at: the stream goes on trying.
        await using var own = new GrateServer(null, ("Instruments:Host", "127.0.0.1"), ("Instruments:Port", "9"));
        var client = await own.SignedInAsync("technician");
        var address = new Uri($"/api/visits/{await client.VisitAsync(0)}/instruments", UriKind.Relative);
        var open = new List<HttpResponseMessage>();
        for (var i = 0; i < 4; i++)
            open.Add(await client.GetAsync(address, HttpCompletionOption.ResponseHeadersRead));
        Assert.All(open, r => Assert.Equal(HttpStatusCode.OK, r.StatusCode));
        using (var fifth = await client.GetAsync(address, HttpCompletionOption.ResponseHeadersRead))
            Assert.Equal((HttpStatusCode.TooManyRequests, "You have 4 instruments connected already: close another page that shows them."), (fifth.StatusCode, (await fifth.JsonAsync()).Text("title")));
        open.ForEach(r => r.Dispose());
    }
}
