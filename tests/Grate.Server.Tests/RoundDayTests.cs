using System.Net;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>A day's round over HTTP: as planned, better, somebody ill, all moves or none, what a drag costs, GeoJSON.</summary>
public class RoundDayTests
{
    private const string Day = "2027-10-14";

    private static readonly TimeSpan _summer = TimeSpan.FromHours(2);

    // A day on which the towns are driven to and fro in turn, by two who could share them out.
    private static async Task<(Guid[] Visits, Guid Ida, Guid Jorun)> CrossedAsync(GrateServer server)
    {
        await server.ScalarAsync<int>("with c as (update visits set state = 'cancelled' where state = 'open' returning 1) select count(*)::int from c");
        var (ida, jorun) = (await server.ScalarAsync<Guid>("select id from people where name = 'Ida Varnholt'"), await server.ScalarAsync<Guid>("select id from people where name = 'Jorun Pellow'"));
        await server.ScalarAsync<int>("with c as (update people set skills = '{}' returning 1) select count(*)::int from c");
        await server.ScalarAsync<int>("with c as (update customers set wish = '{\"when\":\"any\",\"notOn\":[]}' returning 1) select count(*)::int from c");
        var visits = new List<Guid>();
        foreach (var (place, who, hour) in new[] { ("Sallowby", ida, 9), ("Millhollow", ida, 11), ("Sallowby", jorun, 9), ("Millhollow", jorun, 11) })
        {
            var id = Guid.CreateVersion7();
            visits.Add(await server.ScalarAsync<Guid>($"""
                insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose, complaint, inspects)
                select '{id}', a.id, f.id, '{who}', '{Day} {hour}:00+02', '{Day} {hour + 1}:00+02', 'Sweep', '', false
                from appliances a join sites s on s.id = a.site_id join lateral (select id from flue_versions where appliance_id = a.id order by number desc limit 1) f on true
                where s.place = '{place}' and a.out_at is null and not exists (select from visits v where v.appliance_id = a.id and v.state = 'open') order by a.id limit 1
                returning id
                """));
        }
        return ([.. visits], ida, jorun);
    }

    private static object Accept(JsonElement plan, int extraVersion = 0) => new
    {
        moves = plan.GetProperty("moves").EnumerateArray().Select(m => new { visitId = m.Text("visitId"), baseVersion = m.GetProperty("planVersion").GetInt32() + extraVersion, technicianId = m.Text("technicianId"), day = m.Text("toDay"), fromMin = m.Number("toMin") }).ToList(),
    };

    private static object Move(Guid visit, Guid who, double from, int version = 1, string day = Day) => new { visitId = visit, baseVersion = version, technicianId = who, day, fromMin = from };

    // A small day is found at once.
    private static async Task<JsonElement> FoundAsync(HttpClient desk, object wish)
    {
        var search = await desk.SendAsync(HttpMethod.Post, "/api/rounds/better", wish);
        for (var tries = 0; search.GetProperty("running").ValueKind != JsonValueKind.Null && tries < 200; tries++)
        {
            await Task.Delay(200);
            search = await desk.ReadAsync("/api/rounds/better");
        }
        return search.GetProperty("found");
    }

    private static IEnumerable<JsonElement> Routes(JsonElement found) => found.GetProperty("days").EnumerateArray().SelectMany(d => d.GetProperty("routes").EnumerateArray());

    [Fact]
    public async Task Towns_are_shared_out_and_all_move_at_once()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (visits, _, _) = await CrossedAsync(server);
        var day = await desk.ReadAsync($"/api/rounds?day={Day}");
        // Sunset at the firm's place by the NOAA equations: 18:34 that day, summer time.
        Assert.InRange(day.Number("duskMin"), 1111, 1116);
        Assert.Contains("plain rule", day.Text("roads"), StringComparison.Ordinal);
        Assert.Equal(4, day.GetProperty("visits").GetArrayLength());
        var plan = await FoundAsync(desk, new { day = Day });
        Assert.True(plan.GetProperty("proven").GetBoolean());
        double Drive(JsonElement of) => of.GetProperty("routes").EnumerateArray().Sum(r => r.Number("driveMin"));
        var found = Routes(plan).Sum(r => r.Number("driveMin"));
        Assert.True(found < Drive(day) - 10);
        Assert.Empty(plan.GetProperty("left").EnumerateArray());
        // One that was changed in between, and nothing moves.
        var stale = await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", Accept(plan, 1), HttpStatusCode.Conflict);
        Assert.Contains("Nothing was moved", stale.Text("title"), StringComparison.Ordinal);
        Assert.Equal(Drive(day), Drive(await desk.ReadAsync($"/api/rounds?day={Day}")), 1e-9);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", Accept(plan), HttpStatusCode.NoContent);
        var after = await desk.ReadAsync($"/api/rounds?day={Day}");
        Assert.Equal(found, Drive(after), 0.01);
        // Each of them is in one place, and its log says what happened.
        Assert.Equal(4L, await server.ScalarAsync<long>($"select count(*) from visit_times where visit_id = any(array['{string.Join("','", visits)}']::uuid[])"));
        var moved = plan.GetProperty("moves")[0].Text("visitId");
        Assert.Contains((await desk.ReadAsync($"/api/visits/{moved}/plan")).EnumerateArray(), l => l.Text("what").StartsWith("Moved with the round:", StringComparison.Ordinal));
        // A second look finds nothing.
        Assert.Empty((await FoundAsync(desk, new { day = Day })).GetProperty("moves").EnumerateArray());
    }

    [Fact]
    public async Task Two_swap_their_hours_in_one_go_and_a_taken_hour_refuses_all()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (visits, ida, jorun) = await CrossedAsync(server);
        async Task<int> VersionAsync(Guid visit) => await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'");
        Assert.Equal(1, await VersionAsync(visits[0]));
        // Into an hour that somebody keeps: neither moves.
        var taken = await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(visits[1], jorun, 720), Move(visits[0], ida, 660), Move(visits[2], ida, 690)] }, HttpStatusCode.Conflict);
        Assert.Contains("somebody is elsewhere then", taken.Text("title"), StringComparison.Ordinal);
        Assert.Equal(1, await VersionAsync(visits[1]));
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(visits[0], ida, 660), Move(visits[1], ida, 540)] }, HttpStatusCode.NoContent);
        Assert.Equal(TimeSpan.FromHours(11), (await server.ScalarAsync<DateTime>($"select planned_start from visits where id = '{visits[0]}'")).TimeOfDay + _summer);
        // Ten at once: one comes first, the others see that, and nobody is in two places.
        var version = await VersionAsync(visits[0]);
        var answers = await Task.WhenAll(Enumerable.Range(0, 10).Select(async i =>
        {
            using var request = new HttpRequestMessage(HttpMethod.Post, "/api/rounds/accept")
            {
                Content = System.Net.Http.Json.JsonContent.Create(new { moves = (object[])[Move(visits[i % 2], ida, 540, version), Move(visits[1 - i % 2], ida, 660 + i, version)] }),
            };
            return (await desk.SendAsync(request)).StatusCode;
        }));
        Assert.Single(answers, HttpStatusCode.NoContent);
        Assert.Equal(9, answers.Count(a => a == HttpStatusCode.Conflict));
    }

    [Fact]
    public async Task What_has_no_place_leaves_its_hour_to_another_and_waits_for_a_day()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (visits, ida, jorun) = await CrossedAsync(server);
        await server.ScalarAsync<int>($"with c as (update visits set complaint = 'Smokes at the door' where id = '{visits[0]}' returning 1) select count(*)::int from c");
        object Accept(int version) => new { moves = (object[])[Move(visits[2], ida, 540)], loose = (object[])[new { visitId = visits[0], baseVersion = version }] };
        Assert.Contains("Nothing was moved", (await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", Accept(7), HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", Accept(1), HttpStatusCode.NoContent);
        Assert.Equal("cancelled", await server.ScalarAsync<string>($"select state from visits where id = '{visits[0]}'"));
        Assert.Equal(ida, await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visits[2]}'"));
        var waiting = (await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray().Single(c => c.Text("words") == "Smokes at the door");
        Assert.Equal(60, waiting.GetProperty("minutes").GetInt32());
        Assert.Equal(3, (await desk.ReadAsync($"/api/rounds?day={Day}")).GetProperty("visits").GetArrayLength());
        // The same visit cannot move and wait.
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(visits[1], jorun, 700)], loose = (object[])[new { visitId = visits[1], baseVersion = 1 }] }, HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Somebody_is_ill_and_what_was_begun_or_signed_is_nobodys_to_move()
    {
        await using var server = new GrateServer();
        var (desk, owner) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        var (visits, ida, jorun) = await CrossedAsync(server);
        var ill = await FoundAsync(desk, new { day = Day, without = (Guid[])[ida] });
        Assert.Equal(2, ill.GetProperty("moves").EnumerateArray().Count(m => m.Text("from") == "Ida Varnholt"));
        Assert.DoesNotContain(Routes(ill), r => r.Text("technicianId") == ida.ToString());
        // An absence that was written down counts without being said.
        await desk.SendAsync(HttpMethod.Post, "/api/absences", new { id = Guid.CreateVersion7(), personId = jorun, firstDay = Day, lastDay = Day, why = "" }, HttpStatusCode.NoContent);
        var away = await owner.ReadAsync($"/api/rounds?day={Day}");
        Assert.Equal("Jorun Pellow", away.GetProperty("away")[0].GetString());
        Assert.DoesNotContain((await FoundAsync(desk, new { day = Day })).GetProperty("moves").EnumerateArray(), m => m.Text("to") == "Jorun Pellow");
        await server.ScalarAsync<int>($"with c as (insert into visit_steps (visit_id, step, status, reason, version, save_id, saved_at, saved_by) values ('{visits[0]}', 'booking', 'done', '', 1, '{Guid.CreateVersion7()}', now(), '{ida}') on conflict (visit_id, step) do update set status = 'done' returning 1) select count(*)::int from c");
        var begun = await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(visits[0], jorun, 600)] }, HttpStatusCode.Conflict);
        Assert.Contains("the visit was begun", begun.Text("title"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_a_drag_costs_is_told_and_bad_questions_get_sentences()
    {
        await using var server = new GrateServer();
        var (desk, hers) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var (visits, ida, jorun) = await CrossedAsync(server);
        object One(Guid visit, Guid who, double from) => new { visitId = visit, technicianId = who, day = Day, fromMin = from };
        var cost = await desk.SendAsync(HttpMethod.Post, "/api/rounds/cost", One(visits[1], jorun, 780));
        Assert.StartsWith("Jorun Pellow at 13:00: ", cost.Text("sentence"), StringComparison.Ordinal);
        Assert.True(cost.Number("driveMin") < 0);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/cost", One(Guid.NewGuid(), jorun, 780), HttpStatusCode.NotFound);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/cost", One(visits[1], jorun, 9000), HttpStatusCode.BadRequest);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/cost", new { visitId = visits[1], technicianId = jorun, day = "1900-01-01", fromMin = 780 }, HttpStatusCode.BadRequest);
        // A visit of another day is not found on this one.
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/cost", new { visitId = visits[1], technicianId = jorun, day = "2027-10-31", fromMin = 780 }, HttpStatusCode.NotFound);
        // What is over is not looked for, nor is what is too far away.
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/better", new { day = "2027-10-12" }, HttpStatusCode.BadRequest);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/better", new { day = "2031-10-12", wholeWeek = true }, HttpStatusCode.BadRequest);
        await desk.ReadAsync("/api/rounds?day=1900-01-01", HttpStatusCode.BadRequest);
        var refused = await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(visits[0], Guid.NewGuid(), 100, day: "2027-10-01")] }, HttpStatusCode.BadRequest);
        Assert.Equal(["moves[0].day", "moves[0].fromMin", "moves[0].technicianId"], refused.GetProperty("errors").EnumerateObject().Select(e => e.Name).Order(StringComparer.Ordinal));
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[] }, HttpStatusCode.BadRequest);
        // A day with none; a visit that there is not.
        Assert.Empty((await desk.ReadAsync("/api/rounds?day=2027-10-31")).GetProperty("visits").EnumerateArray());
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", new { moves = (object[])[Move(Guid.NewGuid(), ida, 600)] }, HttpStatusCode.NotFound);
        // A technician sees the own round alone, on the map, too.
        Assert.All((await hers.ReadAsync($"/api/rounds?day={Day}")).GetProperty("visits").EnumerateArray(), v => Assert.Equal(ida.ToString(), v.Text("visit", "technicianId")));
        var map = await hers.ReadAsync($"/api/rounds.geojson?day={Day}");
        Assert.Equal("FeatureCollection", map.Text("type"));
        var features = map.GetProperty("features").EnumerateArray().ToList();
        Assert.Equal(["LineString", "Point", "Point"], features.Select(f => f.Text("geometry", "type")));
        // RFC 7946: longitude before latitude; the way ends where it began.
        Assert.Equal([10.20, 47.10], features[0].GetProperty("geometry").GetProperty("coordinates")[0].EnumerateArray().Select(c => c.GetDouble()));
        Assert.Equal(features[0].GetProperty("geometry").GetProperty("coordinates")[0].ToString(), features[0].GetProperty("geometry").GetProperty("coordinates")[3].ToString());
        Assert.Equal("1", features[1].Text("properties", "number"));
    }

    [Fact]
    public async Task A_week_is_laid_anew_and_a_visit_moves_to_another_day()
    {
        await using var server = new GrateServer();
        var (desk, other) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        var (visits, ida, _) = await CrossedAsync(server);
        // All four are Ida's, on Thursday and on Friday to and fro; Jorun is away.
        await desk.SendAsync(HttpMethod.Post, "/api/absences", new { id = Guid.CreateVersion7(), personId = await server.ScalarAsync<Guid>("select id from people where name = 'Jorun Pellow'"), firstDay = Day, lastDay = "2027-10-17", why = "" }, HttpStatusCode.NoContent);
        await server.ScalarAsync<int>($"with c as (update visits set technician_id = '{ida}', planned_start = planned_start + interval '1 day', planned_end = planned_end + interval '1 day' where id = any(array['{visits[2]}', '{visits[3]}']::uuid[]) returning 1) select count(*)::int from c");
        await server.ScalarAsync<int>($"with c as (update people set skills = '{{roof}}' where id not in ('{ida}') returning 1) select count(*)::int from c");
        var day = await FoundAsync(desk, new { day = Day });
        Assert.Equal(Day, Assert.Single(day.GetProperty("days").EnumerateArray()).Text("day"));
        var week = await FoundAsync(desk, new { day = Day, wholeWeek = true });
        // From today, a Wednesday, on.
        Assert.Equal("2027-10-13", week.GetProperty("days")[0].Text("day"));
        var moves = week.GetProperty("moves").EnumerateArray().ToList();
        Assert.Contains(moves, m => m.Text("fromDay") != m.Text("toDay"));
        Assert.True(Routes(week).Sum(r => r.Number("driveMin")) < (await desk.ReadAsync($"/api/rounds?day={Day}")).GetProperty("routes").EnumerateArray().Sum(r => r.Number("driveMin")) * 2);
        // It is still there for whoever comes back, and nobody else's; taken it is gone.
        Assert.True((await desk.ReadAsync("/api/rounds/better")).GetProperty("wish").GetProperty("wholeWeek").GetBoolean());
        Assert.Equal(JsonValueKind.Null, (await other.ReadAsync("/api/rounds/better")).GetProperty("wish").ValueKind);
        await desk.SendAsync(HttpMethod.Post, "/api/rounds/accept", Accept(week), HttpStatusCode.NoContent);
        Assert.Equal(JsonValueKind.Null, (await desk.ReadAsync("/api/rounds/better")).GetProperty("wish").ValueKind);
        foreach (var move in moves)
            Assert.Equal(move.Text("toDay"), await server.ScalarAsync<string>($"select (planned_start at time zone 'Europe/Vienna')::date::text from visits where id = '{move.Text("visitId")}'"));
        // Nothing to halt, and nothing to drop: nothing happens.
        Assert.Equal(JsonValueKind.Null, (await desk.SendAsync(HttpMethod.Post, "/api/rounds/better/halt", new { })).GetProperty("found").ValueKind);
        await desk.SendAsync(HttpMethod.Delete, "/api/rounds/better", new { }, HttpStatusCode.NoContent);
    }
}
