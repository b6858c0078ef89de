using System.Net;
using System.Text;
using System.Text.Json;
using Grate.Server.Tests.Outside;

namespace Grate.Server.Tests;

/// <summary>Households that pass: joined, moved out, stoves replaced, forgotten, handed out; cards out and in.</summary>
public class PassingTests
{
    private static async Task<(Guid Id, Guid Stove)> WrittenAsync(HttpClient desk, string name, string street, object? more = null)
    {
        var (id, stoveId) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id, stoveId, household = more ?? new { name, street, place = "Oxlow", stove = new { kind = "steel" } } }, HttpStatusCode.NoContent);
        return (id, stoveId);
    }

    // A household of the demo with a signed visit and no open one.
    private static async Task<(Guid Household, Guid House, Guid Stove, string Name)> VisitedAsync(GrateServer server)
    {
        var stove = await server.ScalarAsync<Guid>("""
            select a.id from appliances a where not exists (select from visits v join appliances n on n.id = v.appliance_id where n.site_id = a.site_id and v.state = 'open')
                and exists (select from visits v where v.appliance_id = a.id and v.state = 'signed') order by a.id limit 1
            """);
        var house = await server.ScalarAsync<Guid>($"select site_id from appliances where id = '{stove}'");
        var household = await server.ScalarAsync<Guid>($"select customer_id from sites where id = '{house}'");
        return (household, house, stove, await server.ScalarAsync<string>($"select name from customers where id = '{household}'"));
    }

    [Fact]
    public async Task Two_records_of_a_household_become_one()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (kept, _) = await WrittenAsync(desk, "", "", new { name = "Ashgill", phone = "0555 0191 01", email = "a@valley.example", street = "1 Mill Yard", place = "Oxlow", stove = new { kind = "steel" } });
        var (other, otherStove) = await WrittenAsync(desk, "", "", new { name = "Ashgill, R.", phone = "0555 0191 02", note = "Key at the mill", street = "9 Mill Yard", place = "Oxlow", stove = new { kind = "insert" } });
        var joined = await desk.SendAsync(HttpMethod.Post, $"/api/households/{kept}/join", new { otherId = other });
        Assert.Equal(2, joined.GetProperty("houses").GetArrayLength());
        Assert.Equal(("Ashgill", "Key at the mill"), (joined.Text("customer", "name"), joined.Text("customer", "note")));
        Assert.Equal(("Ashgill, R.", "0555 0191 02"), (joined.GetProperty("customer").GetProperty("contacts")[0].Text("whose"), joined.GetProperty("customer").GetProperty("contacts")[0].Text("phone")));
        // Once more is the same; the other way round, with itself, or into one that is gone cannot be.
        Assert.Equal(joined.Text("version"), (await desk.SendAsync(HttpMethod.Post, $"/api/households/{kept}/join", new { otherId = other })).Text("version"));
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{other}/join", new { otherId = kept }, HttpStatusCode.NotFound);
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{kept}/join", new { otherId = kept }, HttpStatusCode.BadRequest);
        Assert.Equal(kept.ToString(), (await desk.ReadAsync($"/api/households/{other}")).Text("joinedInto"));
        // Both numbers find both stoves.
        Assert.Contains(otherStove.ToString(), (await desk.ReadAsync("/api/stoves?q=0555-0191-01")).ToString(), StringComparison.Ordinal);
        Assert.Contains(otherStove.ToString(), (await desk.ReadAsync("/api/stoves?q=0555019102")).ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_moves_out_takes_their_pages_along_and_leaves_the_flue()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (household, house, stove, name) = await VisitedAsync(server);
        var page = (await desk.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/household", new { })).Text("path");
        var next = new { id = Guid.CreateVersion7(), name = "Ravenglass", phone = "0555 0144 01" };
        var there = await desk.SendAsync(HttpMethod.Post, $"/api/households/{household}/houses/{house}/moved-out", new { next, sold = true });
        Assert.Equal(("Ravenglass", name), (there.Text("customer", "name"), there.GetProperty("before")[0].Text("name")));
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{household}/houses/{house}/moved-out", new { next, sold = true });
        // The page of those who left shows nothing of those who came.
        Assert.Equal(HttpStatusCode.NotFound, (await server.CreateClient().GetAsync(new Uri(page, UriKind.Relative))).StatusCode);
        // The stove keeps its visits; its flue is to be looked through; it is found by the new name.
        var known = await desk.ReadAsync($"/api/stoves/{stove}");
        Assert.NotEmpty(known.GetProperty("visits").EnumerateArray());
        Assert.Contains("camera: the house was sold", known.GetProperty("due").ToString(), StringComparison.Ordinal);
        Assert.Contains(stove.ToString(), (await desk.ReadAsync("/api/stoves?q=ravenglass")).ToString(), StringComparison.Ordinal);
        Assert.Empty((await desk.ReadAsync($"/api/households/{household}")).GetProperty("houses").EnumerateArray());
        // What is handed out to either of them is of their own time.
        Assert.Contains("findings", (await desk.ReadAsync($"/api/households/{household}/everything.json")).GetProperty("houses").ToString(), StringComparison.Ordinal);
        Assert.DoesNotContain("plannedStart", (await desk.ReadAsync($"/api/households/{next.id}/everything.json")).ToString(), StringComparison.Ordinal);
        var visited = await server.ScalarAsync<Guid>("select s.id from sites s join appliances a on a.site_id = s.id join visits v on v.appliance_id = a.id where v.state = 'open' limit 1");
        var theirs = await server.ScalarAsync<Guid>($"select customer_id from sites where id = '{visited}'");
        Assert.Contains("open visit", (await desk.SendAsync(HttpMethod.Post, $"/api/households/{theirs}/houses/{visited}/moved-out", new { next = next with { id = Guid.CreateVersion7() }, sold = false }, HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        Assert.Contains("next.name", (await desk.SendAsync(HttpMethod.Post, $"/api/households/{theirs}/houses/{visited}/moved-out", new { next = next with { id = Guid.CreateVersion7(), name = "" }, sold = false }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_stove_is_replaced_and_the_flue_keeps_what_was_found_in_it()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (household, _, stove, _) = await VisitedAsync(server);
        var before = await desk.ReadAsync($"/api/stoves/{stove}");
        var swept = before.Text("today", "swept");
        var body = new { id = Guid.CreateVersion7(), stove = new { kind = "steel", model = "Linden 5", year = 2026 } };
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{household}/stoves/{stove}/replace", body);
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{household}/stoves/{stove}/replace", body);
        var after = await desk.ReadAsync($"/api/stoves/{body.id}");
        Assert.Equal(("Linden 5", swept), (after.Text("stove", "model"), after.Text("today", "swept")));
        Assert.Equal(before.GetProperty("flue").GetProperty("flue").ToString(), after.GetProperty("flue").GetProperty("flue").ToString());
        Assert.Contains("camera: another stove on it", after.GetProperty("due").ToString(), StringComparison.Ordinal);
        // Its own visits and what was found of the stove before stay with that.
        Assert.Empty(after.GetProperty("visits").EnumerateArray());
        Assert.DoesNotContain(stove.ToString(), (await desk.ReadAsync("/api/season/due")).ToString(), StringComparison.Ordinal);
        // The night reckons the same as the save did.
        var due = await desk.ReadAsync($"/api/stoves/{body.id}");
        await server.ScalarAsync<int>("with r as (update due_runs set finished_at = null returning 1) select count(*)::int from r");
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{household}/stoves/{stove}/replace", body with { id = Guid.CreateVersion7() }, HttpStatusCode.NotFound);
        await using var second = new GrateServer(server);
        var waited = await second.SignedInAsync("office");
        Assert.Equal(due.GetProperty("due").ToString(), (await waited.ReadAsync($"/api/stoves/{body.id}")).GetProperty("due").ToString());
    }

    [Fact]
    public async Task A_forgotten_household_leaves_its_readings_and_its_seals_hold()
    {
        await using var server = new GrateServer();
        var (owner, ida) = (await server.SignedInAsync("owner"), await server.SignedInAsync("technician"));
        var visit = await ida.VisitAsync(1);
        var document = await ida.ReadAsync($"/api/visits/{visit}");
        var (stove, household) = (document.Text("stove", "id"), document.Text("customer", "id"));
        await owner.SendAsync(HttpMethod.Put, $"/api/households/{household}", new { baseVersion = 1, customer = new { id = household, name = "Quillfeather", phone = "0555 0166 01", email = "q@valley.example", note = "ask for Quillfeather", contacts = new[] { new { whose = "Quillfeather's son", phone = "0555 0166 02" } } } });
        await server.ScalarAsync<int>($"with v as (update visits set complaint = 'Quillfeather says it smokes' where id = '{visit}' returning 1) select count(*)::int from v");
        await ida.KeepAsync(visit, "hot-draft", Saves.HotTest(14));
        await ida.KeepAsync(visit, "agreement", new { name = "R. Quillfeather", strokes = (double[][])[[0.1, 0.2, 0.3, 0.4]] });
        await ida.SignAsync(visit);
        Assert.Contains("Quillfeather", await AllTextAsync(server), StringComparison.Ordinal);
        await owner.SendAsync(HttpMethod.Post, $"/api/households/{household}/forget", new { sure = false }, HttpStatusCode.BadRequest);
        var gone = await owner.SendAsync(HttpMethod.Post, $"/api/households/{household}/forget", new { sure = true });
        Assert.Equal("Forgotten household", gone.Text("customer", "name"));
        Assert.DoesNotContain("Quillfeather", await AllTextAsync(server), StringComparison.OrdinalIgnoreCase);
        Assert.DoesNotContain("0555 0166", await AllTextAsync(server), StringComparison.Ordinal);
        Assert.DoesNotContain("05550166", await AllTextAsync(server), StringComparison.Ordinal);
        // What was measured stays, and every seal holds: of this visit and of all before and after it.
        var kept = await ida.ReadAsync($"/api/visits/{visit}");
        Assert.Equal("Forgotten household", kept.Text("customer", "name"));
        Assert.Equal(14, kept.Station("hot-draft").GetProperty("entry").GetProperty("readings")[0].Number("draftPa"));
        Assert.Contains("signed by the household", kept.Station("agreement").ToString(), StringComparison.Ordinal);
        await using var log = new StringWriter();
        Assert.Equal(0, await Features.Visits.Verify.VerifyAsync(server.Services, log));
        await ida.ReadAsync($"/api/stoves/{stove}");
        // Nothing else was opened by it: what is signed still refuses whoever writes past the endpoints.
        await Assert.ThrowsAsync<Npgsql.PostgresException>(() => server.ScalarAsync<int>($"with v as (update visits set complaint = 'x' where id = '{visit}' returning 1) select count(*)::int from v"));
    }

    // Everything that the tables hold, as text.
    private static async Task<string> AllTextAsync(GrateServer server)
    {
        var archives = new Store.ArchiveStore(Npgsql.NpgsqlDataSource.Create(server.ConnectionString));
        using var stream = new MemoryStream();
        await archives.WriteAsync(stream, DateTimeOffset.UtcNow);
        return Encoding.UTF8.GetString(stream.ToArray()) + await server.ScalarAsync<string>("select string_agg(words, ' ') from stove_search");
    }

    [Fact]
    public async Task Everything_kept_of_a_household_can_be_read()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (household, _, _, name) = await VisitedAsync(server);
        await server.ScalarAsync<int>($"with c as (update customers set note = '<b>ring twice</b>' where id = '{household}' returning 1) select count(*)::int from c");
        var answer = await desk.GetAsync(new Uri($"/api/households/{household}/everything", UriKind.Relative));
        var html = await answer.Content.ReadAsStringAsync();
        Assert.Equal("text/html", answer.Content.Headers.ContentType!.MediaType);
        Assert.Contains(WebUtility.HtmlEncode(name), html, StringComparison.Ordinal);
        Assert.Contains("&lt;b&gt;ring twice", html, StringComparison.Ordinal);
        Assert.DoesNotContain("<b>", html, StringComparison.Ordinal);
        Assert.Contains("<dt>planned start</dt>", html, StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await desk.GetAsync(new Uri($"/api/households/{Guid.NewGuid()}/everything", UriKind.Relative))).StatusCode);
    }

    [Fact]
    public async Task A_card_goes_out_is_read_by_others_and_comes_back()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var told = new
        {
            name = "Järvinen; Söhne, \\ and a name that is long enough to be folded over more than one line of a card",
            phone = "+43 555 0199 01",
            email = "j@valley.example",
            note = "Dog in the yard;\nring twice",
            language = "de",
            contacts = new[] { new { whose = "neighbour, with the key", phone = "0555 0199 02", email = "" } },
            street = "1 Quarry Gate; behind",
            place = "Oxlow",
            stove = new { kind = "steel" },
        };
        var (id, _) = await WrittenAsync(desk, "", "", told);
        var card = await (await desk.GetAsync(new Uri($"/api/households/{id}/card.vcf", UriKind.Relative))).Content.ReadAsStringAsync();
        Assert.All(card.Split("\r\n"), line => Assert.InRange(Encoding.UTF8.GetByteCount(line), 0, 75));
        var read = await Vobject.ReadAsync(card);
        Assert.Equal(told.name, read.GetProperty("fn")[0][1].GetString());
        Assert.Equal(["", "c1"], read.GetProperty("tel").EnumerateArray().Select(t => t[0].GetString()));
        Assert.Equal("neighbour, with the key", read.GetProperty("note").EnumerateArray().Single(n => n[0].GetString() == "c1")[1].GetString());
        Assert.Contains("1 Quarry Gate; behind", read.GetProperty("adr")[0][1].GetString(), StringComparison.Ordinal);
        var back = await ReadCardAsync(desk, card);
        Assert.Equal((told.name, told.phone, told.email, told.note, told.street, told.place, told.language),
            (back.Text("name"), back.Text("phone"), back.Text("email"), back.Text("note"), back.Text("street"), back.Text("place"), back.Text("language")));
        Assert.Equal(("neighbour, with the key", "0555 0199 02"), (back.GetProperty("contacts")[0].Text("whose"), back.GetProperty("contacts")[0].Text("phone")));
        // Another program's, version 3.0, folded otherwise, with a second number of nobody named.
        var other = await ReadCardAsync(desk, "BEGIN:VCARD\nVERSION:3.0\nN:Orrell;Tamsin;;;\nFN:Tamsin Orrell\nTEL;TYPE=\"home,voice\":0555 01\nTEL;TYPE=cell:0555 02\nADR;TYPE=home:;;7 Weir\n  Bank;Tarnwick;;6000;Austria\nEND:VCARD\n");
        Assert.Equal(("Tamsin Orrell", "0555 01", "7 Weir Bank", "Tarnwick"), (other.Text("name"), other.Text("phone"), other.Text("street"), other.Text("place")));
        Assert.Equal("0555 02", other.GetProperty("contacts")[0].Text("phone"));
        Assert.Contains("no vCard", (await ReadCardAsync(desk, "a,b,c", HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
    }

    private static async Task<JsonElement> ReadCardAsync(HttpClient desk, string card, HttpStatusCode expected = HttpStatusCode.OK)
    {
        using var body = new StringContent(card, Encoding.UTF8, "text/vcard");
        using var answer = await desk.PostAsync(new Uri("/api/households/card", UriKind.Relative), body);
        Assert.Equal(expected, answer.StatusCode);
        return await answer.JsonAsync();
    }

    [Fact]
    public async Task A_typing_error_finds_what_comes_near()
    {
        await using var server = new GrateServer();
        var desk = await server.SignedInAsync("office");
        var (_, stove) = await WrittenAsync(desk, "Hollingworth", "12 Saltpan Steps");
        foreach (var typed in new[] { "Hollingwort", "Holingworth", "Hollingwroth", "saltpen step", "holingworth oxlow" })
        {
            var found = await desk.ReadAsync($"/api/stoves?q={Uri.EscapeDataString(typed)}");
            Assert.Equal(stove.ToString(), found.GetProperty("stoves")[0].Text("line", "id"));
            Assert.Equal(typed != "Hollingwort", found.GetProperty("near").GetBoolean());
        }
        foreach (var nothing in new[] { "zzzzqqqq", "xq" })
            Assert.Empty((await desk.ReadAsync($"/api/stoves?q={nothing}")).GetProperty("stoves").EnumerateArray());
    }
}
