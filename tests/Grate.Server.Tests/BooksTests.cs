using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace Grate.Server.Tests;

/// <summary>A firm's own books: households written down and corrected, two clerks at once, what waits to be confirmed.</summary>
[Collection(nameof(OneServer))]
public class BooksTests(GrateServer server)
{
    private static object Told(string name, string phone = "", string street = "9 Long Meadow", string place = "Oxlow", object? stove = null) =>
        new { name, phone, street, place, stove = stove ?? new { kind = "steel" } };

    private static async Task<(Guid Id, Guid Stove)> WrittenAsync(HttpClient desk, string name, string street)
    {
        var (id, stove) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id, stoveId = stove, household = Told(name, street: street) }, HttpStatusCode.NoContent);
        return (id, stove);
    }

    [Fact]
    public async Task A_household_is_written_down_with_what_is_usual_and_can_be_worked_with_at_once()
    {
        var desk = await server.SignedInAsync("office");
        var (id, stoveId) = (Guid.CreateVersion7(), Guid.CreateVersion7());
        var body = new { id, stoveId, household = Told("Ashgill household", "+43 555 0199 01", "1 Quarry Gate", "Oxlow", new { kind = "insert", model = "Hearth box 7", serial = "HB-7741" }) };
        await desk.SendAsync(HttpMethod.Post, "/api/households", body, HttpStatusCode.NoContent);
        // The same send again is the same household; its id with another one is refused.
        await desk.SendAsync(HttpMethod.Post, "/api/households", body, HttpStatusCode.NoContent);
        await desk.SendAsync(HttpMethod.Post, "/api/households", body with { household = Told("Somebody else", street: "2 Quarry Gate") }, HttpStatusCode.Conflict);
        // Where Oxlow lies is known from the firm's other houses; its climate follows from that.
        var house = (await desk.ReadAsync($"/api/households/{id}")).GetProperty("houses")[0];
        Assert.InRange(house.Number("house", "latitude"), 47.07, 47.11);
        Assert.Equal(12, house.GetProperty("house").GetProperty("monthlyC").GetArrayLength());
        // Its flue is a usual one, and pulls.
        var stove = await desk.ReadAsync($"/api/stoves/{stoveId}");
        Assert.Equal("Hearth box 7", stove.Text("stove", "model"));
        Assert.NotEmpty(stove.GetProperty("due").EnumerateArray());
        Assert.True((await desk.SendAsync(HttpMethod.Post, $"/api/stoves/{stoveId}/draft", new { level = "normal" })).ToString().Contains("expectedPa", StringComparison.Ordinal));
        // Found by parts of the number, however it is written, and by the serial.
        foreach (var word in new[] { "0555-0199", "5550199", "+435550199", "0043555019901", "(0)555/0199", "hb-7741", "quarry" })
            Assert.Contains(stoveId.ToString(), (await desk.ReadAsync($"/api/stoves?q={word}")).ToString(), StringComparison.Ordinal);
        // Nobody has seen it yet: whoever stands before it confirms.
        var ida = await server.SignedInAsync("technician");
        var open = (await ida.ReadAsync($"/api/stoves/{stoveId}/unconfirmed")).EnumerateArray().Select(o => o.Text("field")).ToList();
        Assert.Contains("flue", open);
        Assert.Contains("latitude", open);
        Assert.DoesNotContain("model", open);
        await ida.SendAsync(HttpMethod.Post, $"/api/stoves/{stoveId}/confirm", new { fields = (string[])["flue", "latitude"] }, HttpStatusCode.NoContent);
        Assert.Equal(open.Except(["flue", "latitude"]).Order(), (await ida.ReadAsync($"/api/stoves/{stoveId}/unconfirmed")).EnumerateArray().Select(o => o.Text("field")).Order());
        Assert.Contains("Confirmed on site: flue, latitude", (await desk.ReadAsync($"/api/households/{id}")).GetProperty("log").ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_household_that_is_there_already_is_asked_back_once()
    {
        var desk = await server.SignedInAsync("office");
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = Told("First household", "0555 0188 77", "3 Fell End") }, HttpStatusCode.NoContent);
        var twin = new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = Told("Second household", "+43 (0)555/018877"[4..], "4 Fell End") };
        var asked = await desk.SendAsync(HttpMethod.Post, "/api/households", twin, HttpStatusCode.Conflict);
        Assert.Contains("First household", asked.Text("title"), StringComparison.Ordinal);
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { twin.id, twin.stoveId, twin.household, despite = true }, HttpStatusCode.NoContent);
        // Upper and lower case make no other address.
        await desk.SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = Told("Third household", "", "3 fell end") }, HttpStatusCode.Conflict);
    }

    [Fact]
    public async Task What_cannot_be_is_told_by_field()
    {
        var desk = await server.SignedInAsync("office");
        async Task<string> RefusedAsync(object household) => (await desk.SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household }, HttpStatusCode.BadRequest)).GetProperty("errors").ToString();
        Assert.Contains("Name is missing", await RefusedAsync(Told("")), StringComparison.Ordinal);
        // Of a place that nobody knows lies where the firm does; where that is not known either, it has to be told.
        await using (var nowhere = new GrateServer())
        {
            await nowhere.ScalarAsync<int>("with f as (update firm set ways = null returning 1) select count(*)::int from f");
            var refused = await (await nowhere.SignedInAsync("office")).SendAsync(HttpMethod.Post, "/api/households", new { id = Guid.CreateVersion7(), stoveId = Guid.CreateVersion7(), household = Told("A household", place: "Nowhere at all") }, HttpStatusCode.BadRequest);
            Assert.Contains("latitude", refused.GetProperty("errors").ToString(), StringComparison.Ordinal);
        }
        Assert.Contains("“pellet” is not known", await RefusedAsync(Told("A household", stove: new { kind = "pellet" })), StringComparison.Ordinal);
        Assert.Contains("Kind is missing", await RefusedAsync(Told("A household", stove: new { })), StringComparison.Ordinal);
        Assert.Contains("1800", await RefusedAsync(Told("A household", stove: new { kind = "steel", year = 12 })), StringComparison.Ordinal);
        Assert.Contains("storeys", await RefusedAsync(new { name = "A household", street = "1 A", place = "Oxlow", storeys = 9, stove = new { kind = "steel" } }), StringComparison.Ordinal);
        Assert.Contains("storey", await RefusedAsync(new { name = "A household", street = "1 A", place = "Oxlow", storeys = 1, stove = new { kind = "steel", storey = 3 } }), StringComparison.Ordinal);
        // Every kind and every usual flue fits an ordinary house.
        foreach (var kind in (await desk.ReadAsync("/api/tables")).GetProperty("kinds").EnumerateArray())
        {
            foreach (var flue in (await desk.ReadAsync("/api/tables")).GetProperty("words").GetProperty("usualFlue").EnumerateArray())
            {
                await desk.SendAsync(HttpMethod.Post, "/api/households", new
                {
                    id = Guid.CreateVersion7(),
                    stoveId = Guid.CreateVersion7(),
                    household = Told("A household", street: $"{kind.Text("code")} {flue.Text("code")}", stove: new { kind = kind.Text("code"), flue = flue.Text("code") }),
                }, HttpStatusCode.NoContent);
            }
        }
    }

    [Fact]
    public async Task Two_clerks_on_one_household_lose_nothing_of_each_other()
    {
        var (one, two) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        var (id, _) = await WrittenAsync(one, "Corrie household", "5 Beck Side");
        var seen = await one.ReadAsync($"/api/households/{id}");
        Task<JsonElement> CorrectAsync(HttpClient by, int version, string phone, HttpStatusCode expected) =>
            by.SendAsync(HttpMethod.Put, $"/api/households/{id}", new { baseVersion = version, customer = new { id, name = "Corrie household", phone } }, expected);
        var after = await CorrectAsync(one, 1, "0555 0102", HttpStatusCode.OK);
        Assert.Equal(2, after.GetProperty("version").GetInt32());
        // The answer was lost and it is sent again: the same correction is no conflict.
        await CorrectAsync(one, 1, "0555 0102", HttpStatusCode.OK);
        var stale = await CorrectAsync(two, 1, "0555 0103", HttpStatusCode.Conflict);
        Assert.Equal("0555 0102", stale.Text("stored", "customer", "phone"));
        await CorrectAsync(two, 2, "0555 0103", HttpStatusCode.OK);
        Assert.Contains("0555 0102", await server.ScalarAsync<string>($"select before::text from book_log where customer_id = '{id}' and what = 'Household corrected.' order by at desc limit 1"), StringComparison.Ordinal);
        Assert.Equal("Corrie household", seen.Text("customer", "name"));
    }

    [Fact]
    public async Task A_house_and_a_stove_are_corrected_and_what_rests_on_them_follows()
    {
        var desk = await server.SignedInAsync("office");
        var (id, stoveId) = await WrittenAsync(desk, "Dacre household", "6 Beck Side");
        var booked = JsonNode.Parse((await desk.ReadAsync($"/api/households/{id}")).ToString())!["houses"]![0]!;
        var house = booked["house"]!.AsObject();
        var houseId = house["id"]!.GetValue<Guid>();
        double Expected(JsonElement draft) => draft.Number("answer", "expectedPa");
        async Task<double> DraftAsync() => Expected(await desk.SendAsync(HttpMethod.Post, $"/api/stoves/{stoveId}/draft", new { level = "normal", outdoorC = 0 }));
        var before = await DraftAsync();
        house["altitudeM"] = 2400;
        var changed = await desk.SendAsync(HttpMethod.Put, $"/api/households/{id}/houses/{houseId}", new { baseVersion = 1, house });
        Assert.Equal(2, changed.GetProperty("houses")[0].GetProperty("version").GetInt32());
        // Thinner air pulls less: by the ratio of the pressures, about a fifth from 600 to 2400 m (ISO 2533, from memory).
        Assert.InRange(await DraftAsync() / before, 0.75, 0.88);
        house["storeyNames"] = new JsonArray();
        house["storeyHeightsM"] = new JsonArray();
        Assert.Contains("storeys", (await desk.SendAsync(HttpMethod.Put, $"/api/households/{id}/houses/{houseId}", new { baseVersion = 2, house }, HttpStatusCode.BadRequest)).ToString(), StringComparison.Ordinal);
        var stove = booked["stoves"]![0]!["stove"]!.AsObject();
        stove["combustor"] = true;
        await desk.SendAsync(HttpMethod.Put, $"/api/households/{id}/stoves/{stoveId}", new { baseVersion = 1, stove, serial = "S-1" });
        Assert.Contains("combustor", (await desk.ReadAsync($"/api/stoves/{stoveId}")).GetProperty("features").ToString(), StringComparison.Ordinal);
        // Another household's stove is not reached from here.
        var (other, _) = await WrittenAsync(desk, "Eamont household", "7 Beck Side");
        await desk.SendAsync(HttpMethod.Put, $"/api/households/{other}/stoves/{stoveId}", new { baseVersion = 2, stove, serial = "S-2" }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_stove_that_is_taken_out_keeps_its_record_and_is_due_no_more()
    {
        var desk = await server.SignedInAsync("office");
        var (id, stoveId) = await WrittenAsync(desk, "Gable household", "8 Beck Side");
        Task<long> DueAsync() => server.ScalarAsync<long>($"select count(*) from due_visits where appliance_id = '{stoveId}'");
        Assert.NotEqual(0, await DueAsync());
        var houseId = (await desk.ReadAsync($"/api/households/{id}")).GetProperty("houses")[0].Text("house", "id");
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{id}/houses/{houseId}/stoves", new { id = Guid.CreateVersion7(), stove = new { kind = "cookstove" } });
        await desk.SendAsync(HttpMethod.Post, $"/api/households/{id}/stoves/{stoveId}/out", new { why = "" }, HttpStatusCode.BadRequest);
        var after = await desk.SendAsync(HttpMethod.Post, $"/api/households/{id}/stoves/{stoveId}/out", new { why = "replaced by a cookstove" });
        Assert.Equal(2, after.GetProperty("houses")[0].GetProperty("stoves").GetArrayLength());
        Assert.Equal(0, await DueAsync());
        await desk.ReadAsync($"/api/stoves/{stoveId}");
        var plan = new { id = Guid.CreateVersion7(), applianceId = stoveId, technicianId = await server.ScalarAsync<Guid>("select id from people where name = 'Ida Varnholt'"), day = "2027-12-01", time = "09:00:00", minutes = 60 };
        await desk.SendAsync(HttpMethod.Post, "/api/season/visits", plan, HttpStatusCode.NotFound);
        // One with an open visit stays until that is signed or cancelled.
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' limit 1");
        var (busy, customer) = (await server.ScalarAsync<Guid>($"select appliance_id from visits where id = '{visit}'"), await server.ScalarAsync<Guid>($"select s.customer_id from sites s join appliances a on a.site_id = s.id join visits v on v.appliance_id = a.id where v.id = '{visit}'"));
        Assert.Contains("open visit", (await desk.SendAsync(HttpMethod.Post, $"/api/households/{customer}/stoves/{busy}/out", new { why = "sold" }, HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
    }
}
