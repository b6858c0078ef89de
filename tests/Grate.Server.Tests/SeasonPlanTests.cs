using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>The season's plan over HTTP: made in the background, taken by the week or by the visit, letters with links.</summary>
public class SeasonPlanTests
{
    private static async Task<JsonElement> MadeAsync(HttpClient desk)
    {
        await desk.SendAsync(HttpMethod.Post, "/api/season/plan", new { }, HttpStatusCode.Accepted);
        for (var tries = 0; tries < 200; tries++)
        {
            var plan = await desk.ReadAsync("/api/season/plan");
            if (plan.GetProperty("percent").ValueKind == JsonValueKind.Null)
                return plan;
            await Task.Delay(100);
        }
        throw new TimeoutException("The season's plan is not made.");
    }

    private static List<JsonElement> Weeks(JsonElement plan) => [.. plan.GetProperty("weeks").EnumerateArray()];

    [Fact]
    public async Task A_season_is_planned_and_taken_week_by_week()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        Assert.Equal(JsonValueKind.Null, (await desk.ReadAsync("/api/season/plan")).GetProperty("kept").ValueKind);
        var plan = await MadeAsync(desk);
        Assert.Equal(JsonValueKind.Null, plan.GetProperty("failed").ValueKind);
        // Everything that the season knows as due has its week, or is said to have none.
        var due = await server.ScalarAsync<int>("""
            select count(*)::int from due_visits d where d.by_day < date '2027-10-11' + 364 and (d.number > 1 or d.appliance_id not in (select appliance_id from visits where state = 'open'))
            """);
        var placed = Weeks(plan).Sum(w => w.GetProperty("visits").GetInt32());
        Assert.StartsWith($"{placed} of {due} visits have their week", Words(plan), StringComparison.Ordinal);
        Assert.True(placed > due / 2, $"{placed} of {due}");

        // The first full week from next Monday on, without anybody's wish against it.
        await server.ScalarAsync<int>("with c as (update customers set wish = '{\"when\":\"any\",\"notOn\":[]}', email = case when email = '' then 'household@home.example' else email end returning 1) select count(*)::int from c");
        await server.ScalarAsync<int>("with c as (update people set skills = '{}' returning 1) select count(*)::int from c");
        await server.ScalarAsync<int>("with c as (update due_stoves set wants = '[]' returning 1) select count(*)::int from c");
        var week = Weeks(plan).First(w => string.CompareOrdinal(w.Text("monday"), "2027-10-18") >= 0 && w.GetProperty("visits").GetInt32() >= 2);
        var monday = week.Text("monday");
        var bricks = (await desk.ReadAsync($"/api/season/plan/{monday}")).EnumerateArray().ToList();
        Assert.Equal(week.GetProperty("visits").GetInt32(), bricks.Count);
        Assert.All(bricks, b => Assert.NotEmpty(b.Text("why")));
        object Key(JsonElement brick) => new { applianceId = brick.Text("line", "applianceId"), number = brick.GetProperty("line").GetProperty("number").GetInt32() };

        // One of them, with a letter.
        var first = bricks.First(b => b.GetProperty("line").GetProperty("number").GetInt32() == 1);
        var one = (await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday, only = (object[])[Key(first)], write = true })).EnumerateArray().Single();
        Assert.EndsWith("; written to.", one.Text("sentence"), StringComparison.Ordinal);
        Assert.Equal(1, await server.ScalarAsync<int>($"select count(*)::int from visit_links where visit_id = '{one.Text("visitId")}'"));
        Assert.True(await server.ScalarAsync<bool>($"select planned_start >= timestamptz '{monday} 00:00+02' and planned_start < timestamptz '{monday} 00:00+02' + interval '7 days' from visits where id = '{one.Text("visitId")}'"));
        // It is planned, and in the plan no more; asked for again nothing happens.
        Assert.Equal(bricks.Count - 1, (await desk.ReadAsync($"/api/season/plan/{monday}")).GetArrayLength());
        Assert.Empty((await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday, only = (object[])[Key(first)] })).EnumerateArray());

        // The rest, without letters: nobody is in two places, and what has no time says why.
        var rest = (await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday })).EnumerateArray().ToList();
        Assert.Equal(bricks.Count - 1, rest.Count);
        Assert.All(rest, r => Assert.NotEmpty(r.Text("sentence")));
        var taken = rest.Count(r => r.GetProperty("visitId").ValueKind != JsonValueKind.Null);
        Assert.True(taken > 0);
        Assert.Equal(rest.Count - taken, (await desk.ReadAsync($"/api/season/plan/{monday}")).GetArrayLength());
        Assert.Equal(1, await server.ScalarAsync<int>("select count(*)::int from visit_links"));
    }

    [Fact]
    public async Task Odd_requests_are_refused_in_words()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        Assert.Contains("Monday", (await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday = "2027-10-19" }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        Assert.Contains("between 1 and 200", (await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday = "2027-10-18", only = Array.Empty<object>() }, HttpStatusCode.BadRequest)).ToString(), StringComparison.OrdinalIgnoreCase);
        await desk.SendAsync(HttpMethod.Delete, "/api/season/plan", new { }, HttpStatusCode.NotFound);
        // A week that is over has no time.
        await MadeAsync(desk);
        await server.ScalarAsync<int>("with c as (update season_bricks set monday = '2027-10-04' returning 1) select count(*)::int from c");
        Assert.All((await desk.SendAsync(HttpMethod.Post, "/api/season/plan/accept", new { monday = "2027-10-04" })).EnumerateArray(), b => Assert.Equal("The week is over.", b.Text("sentence")));
    }

    private static string Words(JsonElement plan) => string.Join(" ", plan.GetProperty("kept").GetProperty("sentences").EnumerateArray().Select(s => string.Concat(s.GetProperty("spans").EnumerateArray().Select(p => p.Text("text")))));
}
