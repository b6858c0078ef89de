using System.Net;
using System.Text;
using System.Text.Json;
using Grate.Server.Features.Service;
using Grate.Store;
using Ical.Net;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.VisualBasic.FileIO;

namespace Grate.Server.Tests;

/// <summary>What is due, the season's list, planning from it, the nightly run, and the open formats. A server and database of its own.</summary>
public sealed class SeasonTests : IAsyncLifetime, IDisposable
{
    private readonly GrateServer _server = new();
    private HttpClient _owner = null!;

    public async Task InitializeAsync() => _owner = await _server.SignedInAsync("owner");

    public Task DisposeAsync() => Task.CompletedTask;

    public void Dispose() => _server.Dispose();

    private async Task<JsonElement[]> DueAsync(string query = "") => [.. (await _owner.ReadAsync($"/api/season/due{query}")).GetProperty("lines").EnumerateArray()];

    // Whatever is unusual about the hour was answered.
    private static object Plan(string stove, string technician, string day, string time = "06:00:00", int minutes = 60) =>
        new { id = Guid.CreateVersion7(), applianceId = stove, technicianId = technician, day, time, minutes, despite = true };

    // The sum over the weeks is the list; a stop comes first.
    [Fact]
    public async Task Weeks_and_list_agree_and_filters_hold()
    {
        var season = await _owner.ReadAsync("/api/season");
        var weeks = season.GetProperty("weeks").EnumerateArray().ToList();
        Assert.Equal(52, weeks.Count);
        var lines = await DueAsync();
        Assert.Equal(lines.Length, weeks.Sum(w => w.GetProperty("dueVisits").GetInt32()));
        Assert.Equal(lines.Sum(l => l.Number("line", "minutes")), weeks.Sum(w => w.Number("dueMinutes")));
        Assert.True(weeks[0].Number("plannedMinutes") > 0);
        Assert.Equal("stop", lines[0].GetProperty("tasks")[0].Text("kind"));
        Assert.Contains(season.GetProperty("sentences").EnumerateArray(), s => s.ToString().Contains("are to be done against", StringComparison.Ordinal));

        var place = lines[^1].Text("line", "place");
        Assert.All(await DueAsync($"?place={place}"), l => Assert.Equal(place, l.Text("line", "place")));
        Assert.All(await DueAsync("?kind=insert"), l => Assert.Equal("insert", l.Text("line", "kind")));
        Assert.All(await DueAsync("?task=stop"), l => Assert.True(l.GetProperty("line").GetProperty("urgent").GetBoolean()));
        var technician = lines[^1].Text("line", "lastTechnicianId");
        var theirs = await DueAsync($"?technician={technician}");
        Assert.Equal(theirs.Length, (await _owner.ReadAsync($"/api/season?technician={technician}")).GetProperty("weeks").EnumerateArray().Sum(w => w.GetProperty("dueVisits").GetInt32()));
        Assert.InRange(theirs.Length, 1, lines.Length - 1);
        var low = (await DueAsync("?lowUseFirst=true")).Select(l => l.Number("line", "woodKg")).ToList();
        Assert.Equal(low.Order(), low);
        var week = weeks.Last(w => w.GetProperty("dueVisits").GetInt32() > 0);
        Assert.Equal(week.GetProperty("dueVisits").GetInt32(), (await DueAsync($"?week={week.Text("monday")}")).Length);
        foreach (var wrong in new[] { "?kind=rocket", "?task=all", "?offset=-1" })
            await _owner.ReadAsync($"/api/season/due{wrong}", HttpStatusCode.BadRequest);
    }

    [Fact]
    public async Task Visit_is_planned_with_the_right_steps_once_and_leaves_the_list()
    {
        var stopped = (await DueAsync("?task=stop"))[0];
        var stove = stopped.Text("line", "applianceId");
        // Only a part is to be looked at: few steps, and no inspection.
        var lookAgain = await _server.ScalarAsync<Guid>("""
            update due_visits set kinds = '{look-again}', urgent = false,
                tasks = '[{"kind":"look-again","part":"door-rope","earliest":"2027-01-01","by":"2027-01-01","latest":"2027-01-01","reason":"rope","minutes":0,"steps":null}]'
            where appliance_id = (select appliance_id from due_visits d where not urgent and number = 1 and not exists (select 1 from visits v where v.appliance_id = d.appliance_id and v.state = 'open') limit 1)
              and number = 1 returning appliance_id
            """);
        var technician = stopped.Text("line", "lastTechnicianId");
        var from = new DateOnly(2027, 11, 12).ToString("yyyy-MM-dd");
        var slot = await _owner.ReadAsync($"/api/season/slot?technicianId={technician}&from={from}&minutes=60");
        var plan = Plan(stove, technician, slot.Text("day"), slot.Text("time"));
        await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", plan, HttpStatusCode.NoContent);
        await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", plan, HttpStatusCode.NoContent);
        Assert.DoesNotContain(await DueAsync(), l => l.Text("line", "applianceId") == stove && l.Number("line", "number") == 1);
        Assert.NotEqual(slot.ToString(), (await _owner.ReadAsync($"/api/season/slot?technicianId={technician}&from={from}&minutes=60")).ToString());

        var again = await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(stove, technician, slot.Text("day"), "20:00:00"), HttpStatusCode.Conflict);
        Assert.Contains("open visit already", again.Text("title"), StringComparison.Ordinal);
        var taken = await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(lookAgain.ToString(), technician, slot.Text("day"), slot.Text("time")), HttpStatusCode.Conflict);
        Assert.Contains("another visit then", taken.Text("title"), StringComparison.Ordinal);
        var few = Plan(lookAgain.ToString(), technician, slot.Text("day"), "18:00:00");
        await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", few, HttpStatusCode.NoContent);
        var planned = (await _owner.ReadAsync($"/api/stoves/{lookAgain}")).GetProperty("visits")[0].GetProperty("row");
        Assert.Equal("look at the door rope", planned.Text("purpose"));
        var visit = await _owner.ReadAsync($"/api/visits/{planned.Text("id")}");
        Assert.Equal(["agree", "arrive", "back-together", "booking", "cold-checks", "load", "next"],
            visit.GetProperty("steps").EnumerateArray().Where(s => s.GetProperty("saved").ValueKind == JsonValueKind.Null).Select(s => s.Text("code")).Order());
        // It is no inspection: that date stays where it was.
        Assert.Equal((await _owner.ReadAsync($"/api/stoves/{lookAgain}")).Text("nextInspection"), visit.Text("proposedInspection"));

        var refused = await _owner.SendAsync(HttpMethod.Post, "/api/season/visits",
            new { id = Guid.NewGuid(), applianceId = stove, technicianId = Guid.NewGuid(), day = "2020-01-01", time = "02:00:00", minutes = 3 }, HttpStatusCode.BadRequest);
        Assert.Equal(["day", "id", "minutes", "technicianId", "time"], refused.GetProperty("errors").EnumerateObject().Select(e => e.Name).Order());
        await _owner.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(Guid.NewGuid().ToString(), technician, slot.Text("day")), HttpStatusCode.NotFound);
        var own = await _server.SignedInAsync("technician");
        var other = (await _owner.ReadAsync("/api/season")).GetProperty("technicians").EnumerateArray().First(t => t.Text("name") != "Ida Varnholt").Text("id");
        await own.SendAsync(HttpMethod.Post, "/api/season/visits", Plan(stove, other, slot.Text("day")), HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task Due_follows_stops_and_signed_visits()
    {
        var visit = await _owner.VisitAsync(0);
        var stove = (await _owner.ReadAsync($"/api/visits/{visit}")).Text("stove", "id");
        async Task<List<JsonElement>> Tasks() => [.. (await _owner.ReadAsync($"/api/stoves/{stove}")).GetProperty("due").EnumerateArray()];
        var inspection = (await Tasks()).Single(t => t.Text("kind") == "inspection").Text("by");
        var finding = $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}";
        await _owner.SendAsync(HttpMethod.Put, finding, Saves.Finding("latch", "unsafe", stop: "latch"));
        Assert.Contains(await Tasks(), t => t.Text("kind") == "stop" && t.Text("part") == "latch");
        // Taken back, its stop stands on, and is due.
        await _owner.SendAsync(HttpMethod.Delete, $"{finding}?baseVersion=1", new { }, HttpStatusCode.NoContent);
        Assert.Contains(await Tasks(), t => t.Text("kind") == "stop" && t.Text("part") == "latch");
        var stop = (await _owner.ReadAsync($"/api/visits/{visit}")).GetProperty("stops")[0].Text("stop", "id");
        await _owner.SendAsync(HttpMethod.Post, $"/api/stops/{stop}/clear", new { what = "adjusted", retest = "strip held", retestPassed = true }, HttpStatusCode.NoContent);
        Assert.DoesNotContain(await Tasks(), t => t.Text("kind") == "stop");

        // A changed flue is still swept when it was: the date stays, what was learned goes.
        var flue = (await _owner.ReadAsync($"/api/stoves/{stove}/flue")).GetProperty("flue");
        async Task<string> ForecastAsync() => (await _owner.ReadAsync($"/api/stoves/{stove}")).GetProperty("today").GetProperty("answer").GetProperty("sentences").ToString();
        Assert.Contains("learned from 3 pairs", await ForecastAsync(), StringComparison.Ordinal);
        await _owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", new
        {
            baseNumber = 1,
            stoveXM = flue.Number("stoveXM"),
            flue = new { segments = flue.GetProperty("flue").GetProperty("segments").EnumerateArray().Take(1), cap = "open" },
            obstacles = Array.Empty<object>(),
        });
        Assert.Contains("by the model alone", await ForecastAsync(), StringComparison.Ordinal);
        Assert.Contains(await Tasks(), t => t.Text("kind") == "sweep");

        await _owner.LookAsync(visit);
        await _owner.SignAsync(visit);
        Assert.True(string.CompareOrdinal((await Tasks()).Single(t => t.Text("kind") == "inspection").Text("by"), inspection) > 0);
    }

    [Fact]
    public async Task Night_is_worked_through_once_by_whichever_of_two_servers_looks_first()
    {
        await using var second = new GrateServer(_server);
        var clients = await Task.WhenAll(second.SignedInAsync("office"), second.SignedInAsync("technician"));
        Assert.Equal(2, clients.Length);
        var day = await _server.ScalarAsync<DateOnly>("select day from due_runs");
        Assert.Equal(36, await _server.ScalarAsync<int>("select stoves from due_runs where finished_at is not null"));
        // What was computed wrongly or lost comes back with the next run, and only with one that is due.
        await _server.ScalarAsync<long>("with gone as (delete from due_visits returning 1) select count(*) from gone");
        async Task RunBoth() => await Task.WhenAll(new[] { _server, second }.Select(s => s.Services.GetRequiredService<NightlyRun>().RunAsync(CancellationToken.None)));
        await RunBoth();
        Assert.Equal(0, await _server.ScalarAsync<long>("select count(*) from due_visits"));
        // A run that broke off is made again, once.
        await _server.ScalarAsync<int>("update due_runs set finished_at = null, stoves = null returning 1");
        await RunBoth();
        Assert.Equal(36, await _server.ScalarAsync<long>("select count(distinct appliance_id) from due_visits"));
        Assert.Equal(36, await _server.ScalarAsync<int>("select stoves from due_runs"));

        var due = _server.Services.GetRequiredService<DueStore>();
        var (started, running) = (new TaskCompletionSource(), new TaskCompletionSource());
        var tomorrow = due.OnceADayAsync(day.AddDays(1), async () =>
        {
            started.SetResult();
            await running.Task;
            return 1;
        });
        await started.Task;
        Assert.Null(await second.Services.GetRequiredService<DueStore>().OnceADayAsync(day.AddDays(1), () => throw new InvalidOperationException("two at once")));
        running.SetResult();
        Assert.Equal(1, await tomorrow);
        Assert.Null(await due.OnceADayAsync(day.AddDays(1), () => throw new InvalidOperationException("twice")));
    }

    [Fact]
    public async Task Night_reads_only_what_due_rules_read_and_says_the_same_as_a_look_at_each_stove()
    {
        var keeper = _server.Services.GetRequiredService<DueKeeper>();
        const string Kept = "select string_agg(to_jsonb(d)::text, '\n' order by appliance_id, number) from due_visits d";
        await keeper.AllAsync(new DateOnly(2027, 10, 13), CancellationToken.None);
        var night = await _server.ScalarAsync<string>(Kept);
        Assert.Contains("\"sweep\"", night, StringComparison.Ordinal);
        foreach (var id in await _server.Services.GetRequiredService<DueStore>().NextAsync(Guid.Empty, 100))
            await keeper.StoveAsync(id);
        Assert.Equal(night, await _server.ScalarAsync<string>(Kept));
    }

    [Fact]
    public async Task Stove_whose_records_cannot_be_read_keeps_no_other_from_its_dates()
    {
        // A distance that is none: no screen can make one.
        var broken = await _server.ScalarAsync<Guid>("""
            update appliances set label = '{"backM": "far"}' where id = (select appliance_id from visits where state = 'signed' order by planned_start desc limit 1) returning id
            """);
        await _server.ScalarAsync<long>("with gone as (delete from due_visits returning 1) select count(*) from gone");
        Assert.Equal(36, await _server.Services.GetRequiredService<DueKeeper>().AllAsync(new DateOnly(2027, 10, 13), CancellationToken.None));
        Assert.Equal(35, await _server.ScalarAsync<long>("select count(distinct appliance_id) from due_visits"));
        Assert.Equal(0, await _server.ScalarAsync<long>($"select count(*) from due_visits where appliance_id = '{broken}'"));

        // The owner is told, with the stove's name, until it is mended; nobody else is.
        var fault = Assert.Single((await _owner.ReadAsync("/api/today")).GetProperty("faults").EnumerateArray());
        Assert.Equal(broken.ToString(), fault.Text("applianceId"));
        Assert.Equal(await _server.ScalarAsync<string>($"select street from sites s join appliances a on a.site_id = s.id where a.id = '{broken}'"), fault.Text("street"));
        Assert.Empty((await (await _server.SignedInAsync("technician")).ReadAsync("/api/today")).GetProperty("faults").EnumerateArray());
        await _server.ScalarAsync<int>("update appliances set label = '{}' where label ? 'backM' and label ->> 'backM' = 'far' returning 1");
        await _server.Services.GetRequiredService<DueKeeper>().AllAsync(new DateOnly(2027, 10, 13), CancellationToken.None);
        Assert.Empty((await _owner.ReadAsync("/api/today")).GetProperty("faults").EnumerateArray());
        Assert.Equal(36, await _server.ScalarAsync<long>("select count(distinct appliance_id) from due_visits"));
    }

    [Fact]
    public async Task Stove_that_nobody_inspected_yet_is_due_now_however_old_its_drawing()
    {
        await _server.ScalarAsync<long>("""
            with stove as (insert into appliances (id, site_id, kind, combustor, model, year, room, nominal_kw, collar_height_m)
                select gen_random_uuid(), id, 'steel', false, 'Small stove', 2026, 'hall', 5, 0.8 from sites limit 1 returning id),
            flue as (insert into flue_versions (id, appliance_id, number, valid_from, cap, screen, stove_x_m) select gen_random_uuid(), id, 1, '2026-02-03', 'open', false, 1 from stove returning id),
            pipe as (insert into flue_segments (version_id, position, label, construction, diameter_m, rise_m, length_m, surroundings)
                select id, 0, 'pipe', 'insulated-50', 0.15, 6, 6, 'indoor' from flue returning 1)
            select count(*) from pipe
            """);
        Assert.Equal(37, await _server.Services.GetRequiredService<DueKeeper>().AllAsync(new DateOnly(2026, 11, 25), CancellationToken.None));
        Assert.Equal("2026-11-25 {inspection}", await _server.ScalarAsync<string>("""
            select d.by_day || ' ' || d.kinds::text from due_visits d join appliances a on a.id = d.appliance_id where a.model = 'Small stove'
            """));
    }

    [Fact]
    public async Task Older_look_at_the_records_never_overwrites_a_newer_one()
    {
        var due = _server.Services.GetRequiredService<DueStore>();
        var stove = await _server.ScalarAsync<Guid>("select appliance_id from due_stoves limit 1");
        var readAt = await _server.ScalarAsync<DateTime>("select clock_timestamp()");
        await due.KeepAsync(readAt, [new DueStoveRow(stove, 111, "[]", [])], "test");
        await due.KeepAsync(readAt.AddSeconds(-5), [new DueStoveRow(stove, 222, "[]", [])], "test");
        Assert.Equal(111, await _server.ScalarAsync<double>($"select wood_kg from due_stoves where appliance_id = '{stove}'"));
    }

    [Theory]
    [InlineData("0001-01-01")]
    [InlineData("9999-12-31")]
    public async Task Week_beyond_any_season_is_refused_with_its_range(string week) => Assert.Contains("between 2025-10-13 and 2029-10-13",
        (await _owner.ReadAsync($"/api/season/due?week={week}", HttpStatusCode.BadRequest)).GetProperty("errors").GetProperty("week")[0].GetString(), StringComparison.Ordinal);

    [Fact]
    public async Task Many_looks_at_once_leave_the_newest()
    {
        var due = _server.Services.GetRequiredService<DueStore>();
        var stove = await _server.ScalarAsync<Guid>("select appliance_id from due_stoves limit 1");
        var readAt = await _server.ScalarAsync<DateTime>("select clock_timestamp()");
        var day = new DateOnly(2027, 11, 1);
        await Task.WhenAll(Enumerable.Range(1, 16).Select(i => due.KeepAsync(readAt.AddSeconds(i),
            [new DueStoveRow(stove, i, "[]", [new DueVisitRow(stove, 1, day, day, day, false, i, ["sweep"], "[]")])], "test")));
        Assert.Equal(16, await _server.ScalarAsync<double>($"select wood_kg from due_stoves where appliance_id = '{stove}'"));
        Assert.Equal(16, await _server.ScalarAsync<int>($"select minutes from due_visits where appliance_id = '{stove}'"));
    }

    [Fact]
    public async Task List_leaves_as_csv_that_is_no_formula()
    {
        await _server.ScalarAsync<long>("with c as (update customers set name = '=HYPERLINK(1)' where name like 'Nethering%' returning 1) select count(*) from c");
        var response = await _owner.GetAsync(new Uri("/api/season/due.csv", UriKind.Relative));
        Assert.Equal("text/csv", response.Content.Headers.ContentType!.MediaType);
        var text = await response.Content.ReadAsStringAsync();
        var rows = new List<string[]>();
        // Read by another library than the one that wrote it.
        using (var csv = new TextFieldParser(new StringReader(text)) { Delimiters = [","], HasFieldsEnclosedInQuotes = true })
        {
            while (!csv.EndOfData)
                rows.Add(csv.ReadFields()!);
        }
        var lines = await DueAsync();
        Assert.Equal(lines.Length, rows.Count(r => Guid.TryParse(r[^1], out _)));
        Assert.All(rows, r => Assert.Equal(15, r.Length));
        Assert.Contains("'=HYPERLINK(1)", text, StringComparison.Ordinal);
        Assert.Contains(lines[0].Text("line", "byDay"), text, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Unauthorized, (await _server.CreateClient().GetAsync(new Uri("/api/season/due.csv", UriKind.Relative))).StatusCode);
    }

    private static async Task<(string Id, string Path)> AddressAsync(HttpClient client, string? technicianId = null)
    {
        var made = await client.SendAsync(HttpMethod.Post, "/api/calendars", new { technicianId });
        return (made.Text("id"), made.Text("path"));
    }

    [Fact]
    public async Task Calendar_holds_visits_and_due_dates_and_keeps_to_rfc_5545()
    {
        var (_, path) = await AddressAsync(_owner);
        var response = await _server.CreateClient().GetAsync(new Uri(path, UriKind.Relative));
        Assert.Equal("text/calendar", response.Content.Headers.ContentType!.MediaType);
        var text = await response.Content.ReadAsStringAsync();
        // RFC 5545 3.1: lines end with CRLF and hold at most 75 octets; 3.6: PRODID and VERSION; 3.6.1: UID and DTSTAMP.
        Assert.EndsWith("END:VCALENDAR\r\n", text, StringComparison.Ordinal);
        var raw = text.Split("\r\n");
        Assert.All(raw, l => Assert.True(!l.Contains('\n', StringComparison.Ordinal) && Encoding.UTF8.GetByteCount(l) <= 75, l));
        Assert.Equal(["BEGIN:VCALENDAR", "PRODID:-//Grate//Service calendar//EN", "VERSION:2.0"], raw.Where(l => l.StartsWith("BEGIN:VCAL", StringComparison.Ordinal) || l.StartsWith("PRODID", StringComparison.Ordinal) || l.StartsWith("VERSION", StringComparison.Ordinal)).Take(3));

        var calendar = Calendar.Load(text)!;
        Assert.All(calendar.Events, e => Assert.NotNull(e.DtStamp));
        Assert.Equal(calendar.Events.Count, calendar.Events.Select(e => e.Uid).Distinct().Count());
        var planned = calendar.Events.Where(e => e.Uid!.StartsWith("visit-", StringComparison.Ordinal)).ToList();
        Assert.Equal(await _server.ScalarAsync<long>("select count(*) from visits where state = 'open'"), planned.Count);
        var first = (await _owner.ReadAsync("/api/today")).GetProperty("stops")[0].GetProperty("stop");
        var same = planned.Single(e => e.Uid == $"visit-{first.Text("visitId")}@grate");
        Assert.Equal(first.GetProperty("plannedStart").GetDateTime().ToUniversalTime(), same.Start!.AsUtc);
        Assert.Equal($"{first.Text("street")}, {first.Text("place")}", same.Location);
        Assert.All(calendar.Events.Except(planned), e => Assert.False(e.Start!.HasTime));
        Assert.True(calendar.Events.Count > planned.Count);
    }

    [Fact]
    public async Task Calendar_of_a_technician_is_their_own_and_goes_when_revoked()
    {
        var technician = await _server.SignedInAsync("technician");
        var me = (await technician.ReadAsync("/api/session")).Text("person", "id");
        await technician.SendAsync(HttpMethod.Post, "/api/calendars", new { technicianId = (string?)null }, HttpStatusCode.Forbidden);
        await _owner.SendAsync(HttpMethod.Post, "/api/calendars", new { technicianId = Guid.NewGuid() }, HttpStatusCode.BadRequest);
        var (byOwner, _) = await AddressAsync(_owner, me);
        var (id, path) = await AddressAsync(technician, me);
        var anonymous = _server.CreateClient();
        var calendar = Calendar.Load(await anonymous.GetStringAsync(new Uri(path, UriKind.Relative)))!;
        Assert.Equal((await technician.ReadAsync("/api/today")) is var today ? today.GetProperty("stops").GetArrayLength() + today.GetProperty("tomorrow").GetArrayLength() : 0,
            calendar.Events.Count(e => e.Uid!.StartsWith("visit-", StringComparison.Ordinal)));
        // The database holds no secret, and what it holds opens nothing.
        var hash = await _server.ScalarAsync<string>($"select encode(secret_hash, 'hex') from calendar_feeds where id = '{id}'");
        Assert.Equal(HttpStatusCode.NotFound, (await anonymous.GetAsync(new Uri($"/calendar/{hash}.ics", UriKind.Relative))).StatusCode);
        var (firms, _) = await AddressAsync(_owner);
        await technician.SendAsync(HttpMethod.Delete, $"/api/calendars/{firms}", new { }, HttpStatusCode.NotFound);
        Assert.Equal([byOwner, id], (await technician.ReadAsync("/api/calendars")).EnumerateArray().Select(f => f.Text("id")));
        await technician.SendAsync(HttpMethod.Delete, $"/api/calendars/{id}", new { }, HttpStatusCode.NoContent);
        Assert.Equal(HttpStatusCode.NotFound, (await anonymous.GetAsync(new Uri(path, UriKind.Relative))).StatusCode);
    }
}
