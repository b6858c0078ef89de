using System.Net;
using System.Text.Json;
using Grate.Server.Features.Service;
using Microsoft.Extensions.DependencyInjection;

namespace Grate.Server.Tests;

/// <summary>Parts on stoves over HTTP: noted once, taken out, called back by their batch, from the delivery to the stove.</summary>
public class FittedTests
{
    [Fact]
    public async Task A_batch_that_is_called_back_is_found_on_stoves_and_in_vans()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var stove = await server.ScalarAsync<Guid>("select id from appliances where not combustor and out_at is null and id not in (select appliance_id from fitted_parts) order by id limit 1");
        Assert.Empty((await desk.ReadAsync($"/api/stoves/{stove}/parts")).GetProperty("noted").EnumerateArray());
        var part = new { id = Guid.CreateVersion7(), kind = "baffle", name = "vermiculite baffle", batch = "B-77", fittedOn = "2027-10-01", warrantyUntil = "2029-10-01" };
        // A technician on the road notes it, twice: it is one.
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part);
        var fitted = await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part);
        var line = Assert.Single(fitted.GetProperty("noted").EnumerateArray());
        Assert.Equal("2027-10-01", line.Text("bar", "fittedOn"));
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part with { name = "another" }, HttpStatusCode.BadRequest);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts", part with { id = Guid.CreateVersion7(), fittedOn = "2028-10-01" }, HttpStatusCode.BadRequest);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{Guid.CreateVersion7()}/parts", part, HttpStatusCode.NotFound);
        // One more lies in the store.
        await desk.SendAsync(HttpMethod.Post, "/api/stock", new { id = Guid.CreateVersion7(), kind = "baffle", amount = 1, batch = "b-77", bestBefore = "2030-01-01" });

        var recall = await desk.ReadAsync("/api/parts/recall?batch=B-77");
        Assert.Equal("On 1 stove; 1 piece lies in vans and store.", recall.Text("sentence"));
        Assert.Equal($"{stove}", Assert.Single(recall.GetProperty("stoves").EnumerateArray()).Text("applianceId"));
        Assert.Equal("On no stove; no piece lies in vans and store.", (await desk.ReadAsync("/api/parts/recall?batch=X")).Text("sentence"));
        // Taken out, it is called back no more, and its line stays.
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts/{part.id}/gone", new { });
        Assert.Empty((await desk.ReadAsync("/api/parts/recall?batch=b-77")).GetProperty("stoves").EnumerateArray());
        Assert.Equal(JsonValueKind.Null, Assert.Single((await desk.ReadAsync($"/api/stoves/{stove}/parts")).GetProperty("noted").EnumerateArray()).GetProperty("bar").ValueKind);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/parts/{Guid.CreateVersion7()}/gone", new { }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_comes_bears_its_batch_and_the_day_it_keeps_to()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var box = (await desk.ReadAsync("/api/stock")).GetProperty("offers").EnumerateArray().Single(o => o.Text("name") == "cement, box of 6 tubes");
        Assert.Equal((6.0, 24.0), (box.Number("minimum"), box.Number("shelfMonths")));
        await desk.SendAsync(HttpMethod.Post, "/api/parts/orders", new { saveId = Guid.CreateVersion7(), lines = (object[])[new { offerId = box.Text("id"), packs = 2 }] });
        var coming = (await desk.ReadAsync("/api/parts")).GetProperty("coming").EnumerateArray().Single(c => c.Text("name") == "cement, box of 6 tubes");
        await desk.SendAsync(HttpMethod.Post, $"/api/parts/orders/{coming.Text("id")}/received", new { saveId = Guid.CreateVersion7(), packs = 1, batch = "K-9" });
        var piece = (await desk.ReadAsync("/api/parts/recall?batch=k-9")).GetProperty("pieces").EnumerateArray().Single().GetProperty("piece");
        // The tests' day is 13 October 2027; cement keeps two years.
        Assert.Equal(("K-9", "2029-10-13", 6.0), (piece.Text("batch"), piece.Text("bestBefore"), piece.Number("amount")));
    }

    [Fact]
    public async Task What_the_firms_own_ropes_lasted_sets_their_dates_once_enough_of_them_ended()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        async Task<string> TellAsync(Guid stove) => (await desk.ReadAsync($"/api/stoves/{stove}/parts")).GetProperty("fromVisits").EnumerateArray().Select(b => b.GetProperty("sentence").ToString()).First(b => b.Contains("door seal", StringComparison.Ordinal));
        async Task LearnAsync()
        {
            await server.ScalarAsync<int>("with c as (update due_runs set finished_at = null returning 1) select count(*)::int from c");
            await server.Services.GetRequiredService<NightlyRun>().RunAsync(CancellationToken.None);
        }
        // The door's rope of some stoves, fitted in spring 2020 and renewed after 700, 720, 740 … days.
        Task<int> RenewAsync(int first, int last) => server.ScalarAsync<int>($$"""
            with stoves as (select a.id, (select id from flue_versions where appliance_id = a.id order by number desc limit 1) as flue, row_number() over (order by a.id) as n from appliances a where a.out_at is null),
            fitted as (select gen_random_uuid() as visit, s.id, s.flue, timestamptz '2020-03-01 09:00Z' + s.n * interval '1 hour' + x.later * (700 + 20 * s.n) * interval '1 day' as at from stoves s cross join (values (0), (1)) x(later) where s.n between {{first}} and {{last}}),
            visits as (insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose) select f.visit, f.id, f.flue, (select id from people where name = 'Ida Varnholt'), f.at, f.at + interval '30 min', 'rope' from fitted f returning id),
            entries as (insert into station_entries (visit_id, step, station, schema, entry, rules_version, version, save_id, saved_at, saved_by) select f.visit, 'inside', 'seals', 1, '{}', '1', 1, gen_random_uuid(), f.at, (select id from people where name = 'Ida Varnholt') from fitted f returning visit_id),
            facts as (insert into station_facts (visit_id, step, station, name, word) select f.visit, 'inside', 'seals', 'seal.door.fitted', 'yes' from fitted f returning visit_id)
            select count(*)::int from facts
            """);
        async Task SignAsync() => await server.ScalarAsync<int>("with c as (update visits set state = 'signed', signed_at = planned_end, signed_by = technician_id, next_inspection = planned_start::date + 365 where purpose = 'rope' and state = 'open' returning 1) select count(*)::int from c");
        Assert.Equal(38, await RenewAsync(1, 19));
        await SignAsync();
        await LearnAsync();
        var stove = await server.ScalarAsync<Guid>("select id from appliances where out_at is null order by id limit 1");
        Assert.Contains("a usual life", await TellAsync(stove), StringComparison.Ordinal);
        // The twentieth end.
        Assert.Equal(4, await RenewAsync(20, 21));
        await SignAsync();
        await LearnAsync();
        var life = (await desk.ReadAsync("/api/parts/lives")).EnumerateArray().Single(l => l.Text("part") == "seal");
        Assert.True(life.GetProperty("ends").GetInt32() >= 20);
        // Of 42 and what the demo fitted half are gone with the last one, 1 120 days.
        Assert.Equal(1120 / 365.25, life.Number("medianYears"), 0.01);
        Assert.Equal(life.Number("medianYears"), await server.ScalarAsync<double>("select half_years from part_lives where part = 'seal'"), 1e-9);
        Assert.Contains("past what half of the firm's last", await TellAsync(stove), StringComparison.Ordinal);
        // And what is due says so: fitted in 2022, half gone in 2025.
        Assert.Contains("half of the firm's own last 3.1 years", await server.ScalarAsync<string>($"select string_agg(tasks::text, ' ') from due_visits where appliance_id = '{stove}'"), StringComparison.Ordinal);
    }
}
