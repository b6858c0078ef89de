using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Text;
using System.Text.Json;

namespace Grate.Server.Tests;

/// <summary>Lists of households in and out.</summary>
public sealed class ImportTests(GrateServer server) : IClassFixture<GrateServer>
{
    private static async Task<(HttpStatusCode Status, JsonElement Answer)> SendAsync(HttpClient client, string path, byte[] list)
    {
        using var content = new ByteArrayContent(list) { Headers = { ContentType = new MediaTypeHeaderValue("text/csv") } };
        using var answer = await client.PostAsync(new Uri(path, UriKind.Relative), content);
        var text = await answer.Content.ReadAsStringAsync();
        return (answer.StatusCode, JsonDocument.Parse(text.Length == 0 ? "{}" : text).RootElement);
    }

    private static async Task<JsonElement> PreviewAsync(HttpClient client, byte[] list, string query = "")
    {
        var (status, answer) = await SendAsync(client, $"/api/imports/preview{query}", list);
        Assert.True(status == HttpStatusCode.OK, answer.ToString());
        return answer;
    }

    private static async Task<JsonElement> DoneAsync(HttpClient client, string doing = "done")
    {
        for (var waited = 0; waited < 600; waited++)
        {
            var running = (await client.ReadAsync("/api/imports")).GetProperty("running");
            if (running.Text("doing") is not ("writing" or "reckoning"))
            {
                Assert.Equal(doing, running.Text("doing"));
                return running;
            }
            await Task.Delay(100);
        }
        throw new TimeoutException("The import goes on and on.");
    }

    private static string Map(JsonElement preview) => string.Join(',', preview.GetProperty("columns").EnumerateArray().Select(c => c.GetProperty("field").GetString()));

    // 200 rows as a spreadsheet in Austria writes them: semicolons, Windows-1252, German names; seven are faulty, each in its way.
    private static byte[] TwoHundred()
    {
        var list = new StringBuilder("Kunde;Adresse;Ort;Telefon;Ofenart;Baujahr;Leistung;gekehrt am\r\n");
        for (var i = 1; i <= 200; i++)
        {
            list.Append(CultureInfo.InvariantCulture, $"{i switch
            {
                11 => ";1 Kiln Row;Tarnwick;;steel;2001;7;",
                33 => "Müßig;2 Kiln Row;Tarnwick;;rocket;2001;7;",
                55 => "Ober;3 Kiln Row;Tarnwick;;steel;about 1990;7;",
                77 => "Unter;4 Kiln Row;Tarnwick;;steel;1066;7;",
                99 => "Mitter;5 Kiln Row;Tarnwick;;steel;2001;700;",
                121 => "Hinter;6 Kiln Row;Tarnwick;;steel;2001;7;31.02.2026",
                143 => $"{new string('x', 201)};7 Kiln Row;Tarnwick;;steel;2001;7;",
                _ => $"Haushalt Größ {i};{i} Weiß Lane;Tarnwick;05559 {i:000000};{(i % 2 == 0 ? "Insert" : "steel")};{1980 + i % 40};{5 + i % 6},5;{1 + i % 28}.{1 + i % 12}.2026",
            }}\r\n");
        }
        return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetBytes(list.ToString());
    }

    [Fact]
    public async Task Two_hundred_rows_come_in_but_for_seven_that_are_told_and_go_out_again()
    {
        var office = await server.SignedInAsync("office");
        var list = TwoHundred();
        var preview = await PreviewAsync(office, list);
        Assert.Equal("name,street,place,phone,kind,year,nominal-kw,last-sweep", Map(preview));
        Assert.Equal((200, 20, 7), (preview.GetProperty("rows").GetInt32(), preview.GetProperty("first").GetArrayLength(), preview.GetProperty("refusedRows").GetInt32()));
        Assert.Equal("Haushalt Größ 1", preview.GetProperty("first")[0].Text("name"));
        var refused = preview.GetProperty("refused").EnumerateArray().ToDictionary(r => r.GetProperty("line").GetInt32(), r => r.Text("refused"));
        Assert.Equal([12, 34, 56, 78, 100, 122, 144], refused.Keys);
        foreach (var (line, sentence) in new[] { (12, "Name is missing"), (34, "Kind"), (56, "“about 1990” is no number"), (78, "between 1800 and 2200"), (100, "between 0.50 and 100.00"), (122, "is no day such as"), (144, "200 characters") })
            Assert.Contains(sentence, refused[line], StringComparison.Ordinal);

        // All or nothing, unless those are left out; sent twice it is one list.
        var id = Guid.CreateVersion7();
        var path = $"/api/imports/{id}?map={Map(preview)}&name=Kunden.csv";
        var before = await server.ScalarAsync<long>("select count(*) from customers");
        var (status, told) = await SendAsync(office, path, list);
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("7 rows cannot be brought in", told.ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.Accepted, (await SendAsync(office, $"{path}&leaveOut=true", list)).Status);
        await DoneAsync(office);
        await SendAsync(office, $"{path}&leaveOut=true&doubles=add", list);
        await DoneAsync(office);
        Assert.Equal(193, await server.ScalarAsync<long>("select count(*) from customers") - before);
        Assert.Equal(193, await server.ScalarAsync<long>($"select count(*) from customers c join sites s on s.customer_id = c.id join appliances a on a.site_id = s.id join due_visits d on d.appliance_id = a.id and d.number = 1 where c.import_id = '{id}'"));
        Assert.NotEmpty((await office.ReadAsync("/api/stoves?q=Größ%20100")).GetProperty("stoves").EnumerateArray());

        // The same list again: everybody is known. What goes out is read as it went out.
        Assert.Equal(193, (await PreviewAsync(office, list)).GetProperty("doubles").GetInt32());
        var sent = await office.GetByteArrayAsync(new Uri("/api/households.csv", UriKind.Relative));
        var again = await PreviewAsync(office, sent);
        Assert.Equal((0, 18), (again.GetProperty("refusedRows").GetInt32(), Map(again).Split(',').Count(f => f.Length > 0)));
        Assert.Contains("Haushalt Größ 7,05559 000007,,,7 Weiß Lane,Tarnwick,", Encoding.UTF8.GetString(sent), StringComparison.Ordinal);

        // Taken back it is found no more, and another time is the same; once something rests on a list, it stays.
        await office.SendAsync(HttpMethod.Post, $"/api/imports/{id}/undo", new { }, HttpStatusCode.NoContent);
        await office.SendAsync(HttpMethod.Post, $"/api/imports/{id}/undo", new { }, HttpStatusCode.NoContent);
        Assert.Empty((await office.ReadAsync("/api/stoves?q=Größ%20100")).GetProperty("stoves").EnumerateArray());
        Assert.Equal(0, (await PreviewAsync(office, list)).GetProperty("doubles").GetInt32());
        await office.SendAsync(HttpMethod.Post, $"/api/imports/{Guid.CreateVersion7()}/undo", new { }, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task What_a_list_does_not_tell_is_not_known_and_is_not_made_up_on_the_way_out()
    {
        var office = await server.SignedInAsync("office");
        var list = "name,street,place,kind,last sweep\nKnown,1 Told Lane,Tarnwick,steel,2027-06-01\nUnknown,2 Told Lane,Tarnwick,steel,\n"u8.ToArray();
        var preview = await PreviewAsync(office, list);
        await SendAsync(office, $"/api/imports/{Guid.CreateVersion7()}?map={Map(preview)}&name=told.csv", list);
        await DoneAsync(office);
        Task<string> DueAsync(string street) => server.ScalarAsync<string>($"""
            select string_agg((t ->> 'kind') || ' ' || (t ->> 'by'), ', ' order by t ->> 'kind') from sites s join appliances a on a.site_id = s.id
            join due_visits d on d.appliance_id = a.id cross join jsonb_array_elements(d.tasks) t where s.street = '{street}'
            """);
        Assert.Equal("inspection 2028-06-01, sweep 2028-06-01", await DueAsync("1 Told Lane"));
        Assert.Equal("inspection 2027-10-13", await DueAsync("2 Told Lane"));
        // Its drawing is corrected: that is no inspection.
        var stove = await server.ScalarAsync<Guid>("select a.id from appliances a join sites s on s.id = a.site_id where s.street = '2 Told Lane'");
        var owner = await server.SignedInAsync("owner");
        var drawn = (await owner.ReadAsync($"/api/stoves/{stove}/flue")).GetProperty("flue");
        await owner.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", new { baseNumber = 1, stoveXM = drawn.Number("stoveXM"), flue = drawn.GetProperty("flue"), obstacles = Array.Empty<object>() });
        Assert.Equal("inspection 2027-10-13", await DueAsync("2 Told Lane"));

        // Of every stove the day that its newest sweep was recorded or told, and nothing else.
        var rows = Encoding.UTF8.GetString(await office.GetByteArrayAsync(new Uri("/api/households.csv", UriKind.Relative))).TrimStart('\ufeff').Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.EndsWith(",Last sweep", rows[0], StringComparison.Ordinal);
        string LastSweep(string street) => rows.Single(r => r.Contains(street, StringComparison.Ordinal)).Split(',')[^1];
        Assert.Equal(("2027-06-01", ""), (LastSweep("1 Told Lane"), LastSweep("2 Told Lane")));
        Assert.Equal(await server.ScalarAsync<long>("""
            select count(*) from appliances a where a.out_at is null and (a.swept_told is not null or exists (select from visits v join station_facts x on x.visit_id = v.id
                where v.appliance_id = a.id and v.state = 'signed' and x.name = 'deposits.left-mm'))
            """), rows.Skip(1).Count(r => System.Text.RegularExpressions.Regex.IsMatch(r, @",20\d\d-\d\d-\d\d$")));
    }

    [Fact]
    public async Task Rows_of_one_household_are_its_stoves_and_what_a_spreadsheet_would_run_goes_out_harmless()
    {
        var office = await server.SignedInAsync("office");
        // The mark that a spreadsheet puts before UTF-8, commas, a line break in a cell.
        var list = Encoding.UTF8.GetPreamble().Concat(Encoding.UTF8.GetBytes("name,street,place,note,kind\nHollis,1 Gap,Tarnwick,\"dog,\nblack\",steel\nHollis,1 Gap,Tarnwick,,insert\n=2+2,2 Gap,Tarnwick,,steel\n")).ToArray();
        var preview = await PreviewAsync(office, list);
        Assert.Equal([2, 4, 5], preview.GetProperty("first").EnumerateArray().Select(r => r.GetProperty("line").GetInt32()));
        var id = Guid.CreateVersion7();
        Assert.Equal(HttpStatusCode.Accepted, (await SendAsync(office, $"/api/imports/{id}?map={Map(preview)}&name=two.csv", list)).Status);
        await DoneAsync(office);
        Assert.Equal(2, await server.ScalarAsync<long>($"select count(*) from customers where import_id = '{id}'"));
        Assert.Equal(2, await server.ScalarAsync<long>($"select count(*) from customers c join sites s on s.customer_id = c.id join appliances a on a.site_id = s.id where c.import_id = '{id}' and c.name = 'Hollis'"));
        Assert.Equal("dog,\nblack", await server.ScalarAsync<string>($"select note from customers where import_id = '{id}' and name = 'Hollis'"));
        var sent = await office.GetStringAsync(new Uri("/api/households.csv", UriKind.Relative));
        Assert.DoesNotContain("\n=2+2", sent, StringComparison.Ordinal);
        Assert.Contains("=2+2", sent, StringComparison.Ordinal);
        // A correction rests on it: the list stays.
        var customer = await server.ScalarAsync<Guid>($"select id from customers where import_id = '{id}' and name = 'Hollis'");
        await office.SendAsync(HttpMethod.Put, $"/api/households/{customer}", new { baseVersion = 1, customer = new { id = customer, name = "Hollis", phone = "0555 1" } });
        Assert.Contains("rests on this list", (await office.SendAsync(HttpMethod.Post, $"/api/imports/{id}/undo", new { }, HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("", "", "The list is empty.")]
    [InlineData("name,street\n", "", "nothing below it")]
    [InlineData("name,street\nVarga,1 Gap\n", "?map=name", "The list has 2 columns; 1 were told.")]
    [InlineData("name,street\nVarga,1 Gap\n", "?map=name,shoes", "one of name, phone")]
    [InlineData("name,street\nVarga,1 Gap\n", "?map=name,name", "stands for two columns")]
    [InlineData("name,street\nVarga,1 Gap\n", "?map=,street", "One column holds the name.")]
    [InlineData("name,street\nVarga,1 Gap\n", "?kind=rocket", "Kind")]
    [InlineData("name,street\nVarga,\"1 Gap\n", "", "This is no list of cells")]
    public async Task What_is_no_list_is_told(string list, string query, string sentence)
    {
        var (status, answer) = await SendAsync(await server.SignedInAsync("office"), $"/api/imports/preview{query}", Encoding.UTF8.GetBytes(list));
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains(sentence, answer.GetProperty("errors").ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task One_list_at_a_time_and_a_stopped_one_leaves_nothing()
    {
        await using var own = new GrateServer();
        var office = await own.SignedInAsync("office");
        var before = await own.ScalarAsync<long>("select count(*) from customers");
        var list = Encoding.UTF8.GetBytes($"name,street,place\n{string.Join('\n', Enumerable.Range(1, 3000).Select(i => $"Row {i},{i} Long Lane,Tarnwick"))}\n");
        var id = Guid.CreateVersion7();
        Assert.Equal(HttpStatusCode.Accepted, (await SendAsync(office, $"/api/imports/{id}?map=name,street,place&name=long.csv", list)).Status);
        Assert.Equal(HttpStatusCode.Conflict, (await SendAsync(office, $"/api/imports/{Guid.CreateVersion7()}?map=name,street,place&name=other.csv", list)).Status);
        await office.SendAsync(HttpMethod.Post, $"/api/imports/{id}/stop", new { }, HttpStatusCode.NoContent);
        Assert.Contains("nothing of the list is kept", (await DoneAsync(office, "stopped")).Text("sentence"), StringComparison.Ordinal);
        Assert.Equal(before, await own.ScalarAsync<long>("select count(*) from customers"));
        await office.SendAsync(HttpMethod.Post, $"/api/imports/{id}/stop", new { }, HttpStatusCode.NotFound);
    }
}
