using System.Net;
using System.Text.Json;
using Grate.Store;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>The office's week: calls, moves, cancellations, and who may not.</summary>
public class WeekTests
{
    private static async Task<(Guid Visit, Guid Technician, int Version)> OpenAsync(GrateServer server, int nth = 0)
    {
        var visit = await server.ScalarAsync<Guid>($"select id from visits where state = 'open' order by planned_start, id offset {nth} limit 1");
        return (visit, await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'"), await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'"));
    }

    private static object At(Guid technician, int version, string day, string time, int minutes = 60, bool despite = false) =>
        new { baseVersion = version, technicianId = technician, day, time = $"{time}:00", minutes, despite };

    [Fact]
    public async Task A_visit_is_moved_and_what_is_unusual_is_asked_back_once()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (visit, technician, version) = await OpenAsync(server);
        Task<JsonElement> MoveAsync(object plan, HttpStatusCode expected) => desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", plan, expected);
        // 17 October 2027 is a Sunday.
        var asked = await MoveAsync(At(technician, version, "2027-10-17", "09:00"), HttpStatusCode.Conflict);
        Assert.True(asked.GetProperty("ask").GetBoolean());
        Assert.Contains("does not work on a Sunday", asked.Text("title"), StringComparison.Ordinal);
        Assert.Contains("ends at 17:00", (await MoveAsync(At(technician, version, "2027-10-18", "16:30"), HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        await MoveAsync(At(technician, version, "2027-10-17", "09:00", despite: true), HttpStatusCode.NoContent);
        // Sent again it is the same move; from the plan before it is another one.
        await MoveAsync(At(technician, version, "2027-10-17", "09:00", despite: true), HttpStatusCode.NoContent);
        Assert.Contains("in between", (await MoveAsync(At(technician, version, "2027-10-18", "09:00"), HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        foreach (var bad in new[] { At(technician, 2, "2027-10-12", "09:00"), At(technician, 2, "2031-10-12", "09:00"), At(technician, 2, "2027-10-18", "04:00"), At(technician, 2, "2027-10-18", "09:00", 5), At(Guid.NewGuid(), 2, "2027-10-18", "09:00") })
            await MoveAsync(bad, HttpStatusCode.BadRequest);
        var log = (await desk.ReadAsync($"/api/visits/{visit}/plan")).EnumerateArray().Select(l => l.Text("what")).ToList();
        Assert.Single(log);
        Assert.Contains("2027-10-17 09:00, 60 min; it was", log[0], StringComparison.Ordinal);
        // It stands on its week's wall, with the drive from the visit before it where there is one.
        var week = await desk.ReadAsync("/api/week?day=2027-10-17");
        Assert.Equal("2027-10-11", week.Text("monday"));
        Assert.Contains(week.GetProperty("visits").EnumerateArray(), v => v.Text("stop", "visitId") == visit.ToString() && v.Text("day") == "2027-10-17" && v.Text("from") == "09:00:00");
        Assert.Contains(week.GetProperty("visits").EnumerateArray(), v => v.GetProperty("driveMin").ValueKind == JsonValueKind.Number);
    }

    [Fact]
    public async Task Nobody_is_in_two_places()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (first, technician, version) = await OpenAsync(server);
        var other = await server.ScalarAsync<DateTime>($"select planned_start from visits where state = 'open' and technician_id = '{technician}' and id <> '{first}' order by planned_start limit 1");
        var local = new DateTimeOffset(other, TimeSpan.Zero).ToOffset(TimeSpan.FromHours(2));
        var taken = await desk.SendAsync(HttpMethod.Put, $"/api/visits/{first}/plan", At(technician, version, $"{local:yyyy-MM-dd}", $"{local:HH:mm}", 30), HttpStatusCode.Conflict);
        Assert.Contains("has another visit then", taken.Text("title"), StringComparison.Ordinal);
        // Ten who move it at once: one comes first, the others see that.
        var moves = await Task.WhenAll(Enumerable.Range(0, 10).Select(async i =>
        {
            using var request = new HttpRequestMessage(HttpMethod.Put, $"/api/visits/{first}/plan") { Content = System.Net.Http.Json.JsonContent.Create(At(technician, version, "2027-11-02", $"{8 + i % 8:00}:15", 30)) };
            return (await desk.SendAsync(request)).StatusCode;
        }));
        // Two of the ten ask for the same hour: whoever repeats the one that won is told that it is done.
        Assert.InRange(moves.Count(m => m == HttpStatusCode.NoContent), 1, 2);
        Assert.All(moves, m => Assert.Contains(m, new[] { HttpStatusCode.NoContent, HttpStatusCode.Conflict }));
        Assert.Equal(version + 1, await server.ScalarAsync<int>($"select plan_version from visits where id = '{first}'"));
    }

    [Fact]
    public async Task Several_go_to_one_visit_and_none_of_them_is_elsewhere()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var own = await server.ScalarAsync<Guid>("select id from people where name = 'Ida Varnholt'");
        var visit = await server.ScalarAsync<Guid>($"select id from visits where state = 'open' and technician_id <> '{own}' order by planned_start desc, id limit 1");
        var holder = await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        object Plan(int version, string time, params Guid[] helpers) => new { baseVersion = version, technicianId = holder, day = "2027-11-09", time = $"{time}:00", minutes = 60, despite = true, helpers };
        Task<JsonElement> MoveAsync(object plan, HttpStatusCode expected = HttpStatusCode.NoContent) => desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", plan, expected);
        await MoveAsync(Plan(1, "09:00", own));
        await MoveAsync(Plan(1, "09:00", own));
        // It stands in both their weeks, and whoever helps reads it.
        var seen = (await ida.ReadAsync("/api/week?day=2027-11-09")).GetProperty("visits").EnumerateArray().Single(v => v.Text("stop", "visitId") == visit.ToString());
        Assert.Equal("Ida Varnholt", Assert.Single(seen.GetProperty("stop").GetProperty("helperNames").EnumerateArray()).GetString());
        Assert.Contains("with Ida Varnholt", (await desk.ReadAsync($"/api/visits/{visit}/plan"))[0].Text("what"), StringComparison.Ordinal);
        // Nobody helps and is elsewhere: neither by another visit then, nor by this one moved onto hers.
        var hers = await server.ScalarAsync<Guid>($"select id from visits where state = 'open' and technician_id = '{own}' order by planned_start desc, id limit 1");
        Assert.Contains("another visit then", (await desk.SendAsync(HttpMethod.Put, $"/api/visits/{hers}/plan", new { baseVersion = 1, technicianId = own, day = "2027-11-09", time = "09:30:00", minutes = 60, despite = true }, HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{hers}/plan", new { baseVersion = 1, technicianId = own, day = "2027-11-09", time = "11:00:00", minutes = 60, despite = true }, HttpStatusCode.NoContent);
        await MoveAsync(Plan(2, "10:30", own), HttpStatusCode.Conflict);
        // Her free times leave it out, and lunch; without her it fits.
        Assert.Equal("12:30:00", (await desk.ReadAsync($"/api/season/slot?technicianId={own}&from=2027-11-09&minutes=200")).Text("time"));
        await MoveAsync(Plan(2, "10:30"));
        foreach (var bad in new[] { Plan(3, "10:30", holder), Plan(3, "10:30", own, own), Plan(3, "10:30", Guid.NewGuid()) })
            await MoveAsync(bad, HttpStatusCode.BadRequest);
        // Left alone, who helps stays.
        await MoveAsync(Plan(3, "13:00", own));
        await MoveAsync(new { baseVersion = 4, technicianId = holder, day = "2027-11-09", time = "14:00:00", minutes = 60, despite = true });
        Assert.Equal([own], await server.ScalarAsync<Guid[]>($"select helpers from visits where id = '{visit}'"));
    }

    [Fact]
    public async Task Away_unskilled_and_unwished_is_asked_back_once()
    {
        await using var server = new GrateServer();
        var (desk, owner) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        var (visit, technician, _) = await OpenAsync(server, 1);
        var stove = await server.ScalarAsync<Guid>($"select appliance_id from visits where id = '{visit}'");
        await server.ScalarAsync<int>($"with a as (update appliances set combustor = true, kind = 'steel' where id = '{stove}' returning 1) select count(*)::int from a");
        var household = await server.ScalarAsync<Guid>($"select s.customer_id from sites s join appliances a on a.site_id = s.id where a.id = '{stove}'");
        var customer = new { id = household, name = "Marlow", wish = new { when = "mornings", notOn = new[] { "tuesday" }, coldFrom = "10:00:00" } };
        await desk.SendAsync(HttpMethod.Put, $"/api/households/{household}", new { baseVersion = 1, customer });
        await owner.SendAsync(HttpMethod.Put, $"/api/people/{technician}/skills", new { skills = (string[])["roof", "liner", "masonry-heater"] }, HttpStatusCode.NoContent);
        await owner.SendAsync(HttpMethod.Put, $"/api/people/{technician}/skills", new { skills = (string[])["juggling"] }, HttpStatusCode.BadRequest);
        var away = new { id = Guid.CreateVersion7(), personId = technician, firstDay = "2027-11-15", lastDay = "2027-11-16", why = "a course" };
        await desk.SendAsync(HttpMethod.Post, "/api/absences", away, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, "/api/absences", away, HttpStatusCode.NoContent);
        foreach (var bad in new[] { away with { id = Guid.NewGuid() }, away with { lastDay = "2027-11-01" }, away with { personId = Guid.NewGuid() }, away with { firstDay = "2010-01-01" } })
            await desk.SendAsync(HttpMethod.Post, "/api/absences", bad, HttpStatusCode.BadRequest);
        // 16 November 2027 is a Tuesday.
        async Task<string> AskedAsync(string day, string time) =>
            (await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", At(technician, 1, day, time), HttpStatusCode.Conflict)).Text("title");
        var all = await AskedAsync("2027-11-16", "09:00");
        Assert.Contains("is away until 16 November (a course). ", all, StringComparison.Ordinal);
        Assert.Contains(" is not down for catalytic combustors. They cannot on a Tuesday. Their stove is not cold before 10:00. Plan it all the same?", all, StringComparison.Ordinal);
        Assert.Contains("They asked for mornings.", await AskedAsync("2027-11-17", "13:00"), StringComparison.Ordinal);
        Assert.DoesNotContain("away", await AskedAsync("2027-11-17", "13:00"), StringComparison.Ordinal);
        // The wall and the free times know it; the season has so much less.
        Assert.Equal("a course", (await desk.ReadAsync("/api/week?day=2027-11-16")).GetProperty("away")[0].Text("why"));
        Assert.Equal("2027-11-17", (await desk.ReadAsync($"/api/season/slot?technicianId={technician}&from=2027-11-15&minutes=60")).Text("day"));
        async Task<int> CapacityAsync(string monday) => (await desk.ReadAsync("/api/season")).GetProperty("weeks").EnumerateArray().Single(w => w.Text("monday") == monday).GetProperty("capacityMinutes").GetInt32();
        var (less, full) = (await CapacityAsync("2027-11-15"), await CapacityAsync("2027-11-22"));
        Assert.Equal(full * 13 / 15, less);
        await desk.SendAsync(HttpMethod.Delete, $"/api/absences/{away.id}", new { }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Delete, $"/api/absences/{away.id}", new { }, HttpStatusCode.NotFound);
        Assert.Equal(full, await CapacityAsync("2027-11-15"));
        // Somebody who knows combustors goes along: nothing is said of it.
        var other = await server.ScalarAsync<Guid>($"select id from people where role = 'technician' and id <> '{technician}' and 'combustor' = any(skills) limit 1");
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", new { baseVersion = 1, technicianId = technician, day = "2027-11-17", time = "10:30:00", minutes = 60, helpers = new[] { other } }, HttpStatusCode.NoContent);
    }

    [Fact]
    public async Task A_cancelled_visit_takes_nothing_and_can_be_planned_again()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var visit = Guid.Parse(await ida.VisitAsync(1));
        Task<JsonElement> CancelAsync(string why, HttpStatusCode expected, int version = 1) => desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/cancel", new { baseVersion = version, why }, expected);
        await CancelAsync("  ", HttpStatusCode.BadRequest);
        await CancelAsync("they are away", HttpStatusCode.NoContent);
        await CancelAsync("they are away", HttpStatusCode.NoContent);
        Assert.DoesNotContain(visit.ToString(), (await ida.ReadAsync("/api/today")).ToString(), StringComparison.Ordinal);
        // The tablet that was open at it is told, and loses nothing.
        var late = await ida.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/arrive", new { saveId = Guid.CreateVersion7(), baseVersion = 0, status = "done", reason = "", note = "dog" }, HttpStatusCode.Conflict);
        Assert.Contains("was cancelled", late.Text("title"), StringComparison.Ordinal);
        var technician = await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", At(technician, 2, "2027-11-03", "10:00"), HttpStatusCode.NoContent);
        await ida.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/arrive", new { saveId = Guid.CreateVersion7(), baseVersion = 0, status = "done", reason = "", note = "dog" });
        Assert.Contains("is recorded", (await CancelAsync("too late", HttpStatusCode.Conflict, 3)).Text("title"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_call_waits_until_it_has_a_day()
    {
        await using var server = new GrateServer();
        var (desk, ida) = (await server.SignedInAsync("office"), await server.SignedInAsync("technician"));
        var stove = await server.ScalarAsync<Guid>("select id from appliances a where not exists (select from visits v where v.appliance_id = a.id and v.state = 'open') limit 1");
        var (id, technician) = (Guid.CreateVersion7(), await server.ScalarAsync<Guid>("select id from people where name = 'Ida Varnholt'"));
        var told = new Dictionary<string, bool> { ["smoke-lighting"] = true, ["smoke-reload"] = false };
        var call = new { id, applianceId = stove, words = "Smoke comes into the room", urgent = true, wish = "mornings", told };
        await desk.SendAsync(HttpMethod.Post, "/api/calls", call with { words = "" }, HttpStatusCode.BadRequest);
        await desk.SendAsync(HttpMethod.Post, "/api/calls", call with { applianceId = Guid.NewGuid() }, HttpStatusCode.BadRequest);
        Assert.Contains("told.no-such", (await desk.SendAsync(HttpMethod.Post, "/api/calls", call with { told = new() { ["no-such"] = true } }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        var suspects = await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/suspects", new { told });
        Assert.NotEmpty(suspects.GetProperty("causes").EnumerateArray());
        await desk.SendAsync(HttpMethod.Post, "/api/calls", call, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, "/api/calls", call, HttpStatusCode.NoContent);
        var waiting = (await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray().ToList();
        Assert.Equal(("Smoke comes into the room", 60), (Assert.Single(waiting, w => w.Text("id") == id.ToString()).Text("words"), waiting.Single(w => w.Text("id") == id.ToString()).GetProperty("minutes").GetInt32()));
        // Telephone numbers are for the desk.
        Assert.Empty((await ida.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray());
        var plan = new { id = Guid.CreateVersion7(), technicianId = technician, day = "2027-11-04", time = "09:00:00", minutes = 75 };
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{id}/plan", plan, HttpStatusCode.NoContent);
        // Its answer was lost, and it is sent again: the same plan is the same.
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{id}/plan", plan, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{id}/plan", plan with { id = Guid.CreateVersion7() }, HttpStatusCode.NotFound);
        Assert.DoesNotContain((await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray(), w => w.Text("id") == id.ToString());
        var visit = await ida.ReadAsync($"/api/visits/{plan.id}");
        Assert.Equal("Smoke comes into the room", visit.Text("visit", "row", "complaint"));
        // What was asked on the telephone stands in the visit from its first minute.
        var booking = visit.GetProperty("steps")[0].GetProperty("stations").EnumerateArray().Single(s => s.Text("code") == "suspects");
        Assert.True(booking.GetProperty("saved").GetProperty("entry").GetProperty("told").GetProperty("smoke-lighting").GetBoolean());
        Assert.NotEmpty(booking.GetProperty("saved").GetProperty("sentences").EnumerateArray());
        // One that needs no visit says why.
        var other = Guid.CreateVersion7();
        await desk.SendAsync(HttpMethod.Post, "/api/calls", call with { id = other }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{other}/close", new { why = "they opened the flap: it pulls" }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{other}/close", new { why = "again" }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_call_at_a_stove_with_an_open_visit_names_it_and_brings_it_or_joins_it()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var technician = await server.ScalarAsync<Guid>("select id from people where name = 'Jorun Pellow'");
        var (stove, visit) = await server.ScalarAsync<string>("select appliance_id || ' ' || id from visits where state = 'open' order by planned_start desc limit 1") is var row ? (row.Split(' ')[0], row.Split(' ')[1]) : default;
        async Task<Guid> CallAsync(string words, string? emergency)
        {
            var id = Guid.CreateVersion7();
            await desk.SendAsync(HttpMethod.Post, "/api/calls", new { id, applianceId = stove, words, urgent = false, emergency, told = new Dictionary<string, bool> { ["co-alarm"] = emergency == "co" } }, HttpStatusCode.NoContent);
            return id;
        }
        var smoke = await CallAsync("Smoke at the door", "smoke");
        var alarm = await CallAsync("The alarm sounds", "co");
        // Danger orders the list, and what was pressed is on the card.
        var waiting = (await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray().Take(2).ToList();
        Assert.Equal([("The alarm sounds", "co", true), ("Smoke at the door", "smoke", true)], waiting.Select(c => (c.Text("words"), c.Text("emergency"), c.GetProperty("urgent").GetBoolean())));
        var plan = new { id = Guid.CreateVersion7(), technicianId = technician, day = "2027-12-06", time = "09:00:00", minutes = 60, despite = true, bring = (string?)null };
        var refused = await desk.SendAsync(HttpMethod.Post, $"/api/calls/{alarm}/plan", plan, HttpStatusCode.Conflict);
        Assert.Equal(visit, refused.Text("openVisit"));
        Assert.Contains("has an open visit already: ", refused.Text("title"), StringComparison.Ordinal);
        // Brought to the time that was asked for, in one go; sent again it is the same.
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{alarm}/plan", plan with { bring = visit }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{alarm}/plan", plan with { bring = visit }, HttpStatusCode.NoContent);
        var brought = await desk.ReadAsync($"/api/visits/{visit}");
        Assert.Equal(("2027-12-06", "Jorun Pellow"), (brought.Text("visit", "day"), brought.Text("visit", "row", "technician")));
        Assert.Contains("The alarm sounds", brought.Text("visit", "row", "complaint"), StringComparison.Ordinal);
        // Or it joins as it is planned.
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{smoke}/join", new { visitId = visit }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{smoke}/join", new { visitId = visit }, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, $"/api/calls/{smoke}/join", new { visitId = Guid.CreateVersion7() }, HttpStatusCode.NotFound);
        Assert.EndsWith("/ Smoke at the door", (await desk.ReadAsync($"/api/visits/{visit}")).Text("visit", "row", "complaint"), StringComparison.Ordinal);
        Assert.DoesNotContain((await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray(), c => c.Text("id") == $"{smoke}" || c.Text("id") == $"{alarm}");
    }

    [Fact]
    public async Task Visits_of_who_leaves_pass_on_with_their_log_and_overlapping_ones_wait()
    {
        await using var server = new GrateServer();
        var (owner, desk) = (await server.SignedInAsync("owner"), await server.SignedInAsync("office"));
        Guid Person(string name) => server.ScalarAsync<Guid>($"select id from people where name = '{name}'").Result;
        var (jorun, marit) = (Person("Jorun Pellow"), Person("Marit Oakensen"));
        // Two of Marit's lie where Jorun's do, the others far from them.
        await server.ScalarAsync<long>($"with v as (update visits set planned_start = planned_start + interval '200 days', planned_end = planned_end + interval '200 days' where state = 'open' and technician_id = '{marit}' returning 1) select count(*) from v");
        await server.ScalarAsync<long>($"with v as (update visits m set planned_start = j.planned_start, planned_end = j.planned_end from (select planned_start, planned_end, row_number() over (order by planned_start) as n from visits where state = 'open' and technician_id = '{jorun}') j, (select id, row_number() over (order by planned_start) as n from visits where state = 'open' and technician_id = '{marit}') k where k.id = m.id and k.n = j.n and j.n <= 2 returning 1) select count(*) from v");
        var open = await server.ScalarAsync<long>($"select count(*) from visits where technician_id = '{marit}' and state = 'open'");
        var versions = await server.ScalarAsync<long>("select sum(plan_version) from visits");
        async Task<int> CardsAsync() => (await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray().Count(c => c.Text("takenBy") == "Tobin Ashcombe");
        var before = await CardsAsync();
        await owner.SendAsync(HttpMethod.Post, $"/api/people/{marit}/remove", new { visitsTo = jorun }, HttpStatusCode.NoContent);
        var handed = await server.ScalarAsync<long>("select count(distinct visit_id) from visit_log where what = 'Handed over from Marit Oakensen to Jorun Pellow.'");
        var cards = await CardsAsync() - before;
        Assert.True(handed > 0 && cards > 0, $"{handed} handed over, {cards} wait");
        Assert.Equal((open, 0L), (handed + cards, await server.ScalarAsync<long>($"select count(*) from visits where technician_id = '{marit}' and state = 'open'")));
        // Whoever looks at an old plan is told: every one of them has another version.
        Assert.True(await server.ScalarAsync<long>("select sum(plan_version) from visits") >= versions + open);
        // A card ends with its stove's next visit.
        var card = await server.ScalarAsync<Guid>("select id from calls where of_visit is not null limit 1");
        var visit = await server.ScalarAsync<Guid>($"select of_visit from calls where id = '{card}'");
        var version = await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'");
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", new { baseVersion = version, technicianId = jorun, day = "2027-12-07", time = "10:00:00", minutes = 60, despite = true }, HttpStatusCode.NoContent);
        Assert.DoesNotContain((await desk.ReadAsync("/api/week")).GetProperty("calls").EnumerateArray(), c => c.Text("id") == $"{card}");
    }

    // One meaning of "begun": what is recorded keeps a visit where it is, whatever asks.
    [Fact]
    public async Task A_visit_at_which_something_was_recorded_is_moved_by_no_round()
    {
        await using var server = new GrateServer();
        var ida = await server.SignedInAsync("technician");
        var visit = await ida.VisitAsync(2);
        var rounds = new RoundStore(NpgsqlDataSource.Create(server.ConnectionString));
        async Task<PlanChange?> LooseAsync() => (await rounds.MoveAsync([], [new(Guid.Parse(visit), await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'"))], await server.ScalarAsync<Guid>("select id from people limit 1"), DateTimeOffset.UtcNow))?.Why;
        // No step is done: a mark alone.
        await ida.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "sound"));
        Assert.Equal(PlanChange.Recorded, await LooseAsync());
        Assert.Equal("open", await server.ScalarAsync<string>($"select state from visits where id = '{visit}'"));
    }
}
