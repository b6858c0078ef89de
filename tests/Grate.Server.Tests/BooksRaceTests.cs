using System.Net;
using System.Net.Http.Json;

namespace Grate.Server.Tests;

/// <summary>Several people at the books and the plan at the same moment: nothing is written twice, nothing is lost.</summary>
[Collection(nameof(OneServer))]
public class BooksRaceTests(GrateServer server)
{
    private static async Task<HttpStatusCode[]> AtOnceAsync(int times, Func<int, Task<HttpResponseMessage>> send) =>
        [.. (await Task.WhenAll(Enumerable.Range(0, times).Select(send))).Select(r => r.StatusCode)];

    [Fact]
    public async Task The_same_household_sent_eight_times_is_one()
    {
        var desk = await server.SignedInAsync("office");
        var body = new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = new { name = "Race household", street = "1 Race Lane", place = "Oxlow", stove = new { kind = "steel" } } };
        Assert.All(await AtOnceAsync(8, _ => desk.PostAsJsonAsync("/api/households", body)), s => Assert.Equal(HttpStatusCode.NoContent, s));
        Assert.Equal(1, await server.ScalarAsync<long>($"select count(*) from appliances a join sites s on s.id = a.site_id where s.customer_id = '{body.id}'"));
        Assert.Equal(1, await server.ScalarAsync<long>($"select count(*) from book_log where customer_id = '{body.id}'"));
    }

    [Fact]
    public async Task Of_eight_corrections_from_one_look_one_counts()
    {
        var desk = await server.SignedInAsync("office");
        var id = Guid.CreateVersion7();
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id, stoveId = Guid.CreateVersion7(), household = new { name = "Eight household", street = "8 Race Lane", place = "Oxlow", stove = new { kind = "steel" } } }, HttpStatusCode.NoContent);
        var states = await AtOnceAsync(8, i => desk.PutAsJsonAsync($"/api/households/{id}", new { baseVersion = 1, customer = new { id, name = "Eight household", phone = $"0555 02{i:00}" } }));
        Assert.Equal(1, states.Count(s => s == HttpStatusCode.OK));
        Assert.Equal(7, states.Count(s => s == HttpStatusCode.Conflict));
        Assert.Equal(2, await server.ScalarAsync<int>($"select version from customers where id = '{id}'"));
    }

    [Fact]
    public async Task A_call_that_two_plan_at_once_becomes_one_visit()
    {
        var desk = await server.SignedInAsync("office");
        var (stove, call) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = stove, household = new { name = "Call household", street = "9 Race Lane", place = "Oxlow", stove = new { kind = "steel" } } }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, "/api/calls", new { id = call, applianceId = stove, words = "It smokes", urgent = false }, HttpStatusCode.NoContent);
        var technician = await server.ScalarAsync<Guid>("select id from people where name = 'Marit Oakensen'");
        var states = await AtOnceAsync(6, i => desk.PostAsJsonAsync($"/api/calls/{call}/plan", new { id = Guid.CreateVersion7(), technicianId = technician, day = "2028-02-07", time = $"{8 + i:00}:00:00", minutes = 30 }));
        Assert.Equal(1, states.Count(s => s == HttpStatusCode.NoContent));
        Assert.All(states, s => Assert.Contains(s, new[] { HttpStatusCode.NoContent, HttpStatusCode.Conflict, HttpStatusCode.NotFound }));
        Assert.Equal(1, await server.ScalarAsync<long>($"select count(*) from visits where appliance_id = '{stove}'"));
    }

    [Fact]
    public async Task Cancelled_and_moved_at_once_is_one_of_both_and_never_half()
    {
        var desk = await server.SignedInAsync("office");
        var (stove, visit) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = stove, household = new { name = "Both household", street = "10 Race Lane", place = "Oxlow", stove = new { kind = "steel" } } }, HttpStatusCode.NoContent);
        var technician = await server.ScalarAsync<Guid>("select id from people where name = 'Marit Oakensen'");
        await desk.SendAsync(HttpMethod.Post, "/api/season/visits", new { id = visit, applianceId = stove, technicianId = technician, day = "2028-02-08", time = "09:00:00", minutes = 60 }, HttpStatusCode.NoContent);
        var states = await AtOnceAsync(8, i => i % 2 == 0
            ? desk.PostAsJsonAsync($"/api/visits/{visit}/cancel", new { baseVersion = 1, why = "they are away" })
            : desk.PutAsJsonAsync($"/api/visits/{visit}/plan", new { baseVersion = 1, technicianId = technician, day = "2028-02-09", time = "10:00:00", minutes = 60 }));
        Assert.All(states, s => Assert.Contains(s, new[] { HttpStatusCode.NoContent, HttpStatusCode.Conflict }));
        // Whichever came first stands; who says the same again is told that it is done, the other that it changed.
        Assert.Equal(4, states.Count(s => s == HttpStatusCode.NoContent));
        Assert.Equal(2, await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'"));
        Assert.Equal(2, await server.ScalarAsync<long>($"select count(*) from visit_log where visit_id = '{visit}'"));
    }
}
