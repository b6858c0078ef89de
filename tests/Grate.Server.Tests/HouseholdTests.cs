using System.Net;
using System.Text.RegularExpressions;
using Grate.Core;
using Grate.Core.Household;
using Grate.Server.Features.Household;

namespace Grate.Server.Tests;

/// <summary>The household's page: read without a sign-in, withdrawn, told through.</summary>
public partial class HouseholdTests(GrateServer server) : IClassFixture<GrateServer>
{
    [GeneratedRegex("<script|javascript:|\\son[a-z]+=|<style", RegexOptions.IgnoreCase)]
    private static partial Regex Active();

    private static Languages Shipped() => new(Path.Combine(AppContext.BaseDirectory, "Languages"));

    private async Task<(Guid Stove, string Path, HttpClient Technician)> MadeAsync(int skip = 0)
    {
        var technician = await server.SignedInAsync("technician");
        var stove = await server.ScalarAsync<Guid>($"select id from appliances order by id offset {skip} limit 1");
        var made = await technician.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/household", new { });
        return (stove, made.GetProperty("path").GetString()!, technician);
    }

    [Fact]
    public void Every_language_has_every_text()
    {
        var keys = HouseholdSheet.Keys(Parts.All).Concat(Core.Service.MessageText.Keys).ToList();
        Assert.Equal(["de", "en"], Shipped().All.Select(l => l.Code));
        foreach (var language in Shipped().All)
            Assert.Equal(("", ""), (string.Join(", ", keys.Except(language.Keys)), string.Join(", ", language.Keys.Except(keys))));
        // What is missing in a file is taken from the first; what nobody has is its key.
        var half = new Language("xx", new Dictionary<string, string> { ["title"] = "Ofn" }, Shipped().Of("en", ""));
        Assert.Equal(("Ofn", "You may light it.", "no.such"), (half["title"], half["may-light"], half["no.such"]));
        Assert.Equal("14 September 2027", half.Day(new(2027, 9, 14)));
        Assert.Equal("de", Shipped().Of(null, "fr-CH, de;q=0.8, en;q=0.5").Code);
        Assert.Equal("en", Shipped().Of("tlh", "").Code);
    }

    [Fact]
    public async Task It_is_read_without_a_sign_in_a_script_or_a_cookie()
    {
        var (_, path, _) = await MadeAsync();
        using var household = server.CreateClient();
        using var answer = await household.GetAsync(new Uri($"{path}?lang=de", UriKind.Relative));
        var page = await answer.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.False(answer.Headers.Contains("Set-Cookie"));
        Assert.DoesNotMatch(Active(), page);
        Assert.Contains("Anheizen, von oben", page, StringComparison.Ordinal);
        Assert.Contains("<svg", page, StringComparison.Ordinal);
        Assert.True(page.Length < 100 * 1024);
        Assert.Contains("no-store", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        // Nothing of the records but what is theirs to know: no telephone, no name, no address.
        var customer = await server.ScalarAsync<string>("select c.name from customers c join sites s on s.customer_id = c.id join appliances a on a.site_id = s.id order by a.id limit 1");
        Assert.DoesNotContain(customer, page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_new_address_ends_the_old_one_and_a_withdrawn_one_is_gone()
    {
        var (stove, first, technician) = await MadeAsync(1);
        var second = (await technician.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/household", new { })).GetProperty("path").GetString()!;
        using var household = server.CreateClient();
        async Task<HttpStatusCode> Ask(string path)
        {
            using var answer = await household.GetAsync(new Uri(path, UriKind.Relative));
            return answer.StatusCode;
        }
        Assert.Equal((HttpStatusCode.NotFound, HttpStatusCode.OK), (await Ask(first), await Ask(second)));
        await technician.SendAsync(HttpMethod.Delete, $"/api/stoves/{stove}/household", new { }, HttpStatusCode.NoContent);
        Assert.Equal(HttpStatusCode.NotFound, await Ask(second));
        await technician.SendAsync(HttpMethod.Delete, $"/api/stoves/{stove}/household", new { }, HttpStatusCode.NotFound);
        Assert.Equal(HttpStatusCode.NotFound, await Ask("/h/guessed"));
        await technician.SendAsync(HttpMethod.Post, $"/api/stoves/{Guid.CreateVersion7()}/household", new { }, HttpStatusCode.NotFound);
        // The secret itself is kept nowhere.
        Assert.Equal(32, await server.ScalarAsync<int>($"select length(secret_hash) from household_links where appliance_id = '{stove}' limit 1"));
    }

    [Fact]
    public async Task What_the_household_tells_is_seen_and_nonsense_is_refused()
    {
        var (stove, path, technician) = await MadeAsync(2);
        using var household = server.CreateClient(new() { AllowAutoRedirect = false });
        async Task<string> Tell(params (string Name, string Value)[] fields)
        {
            using var form = new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value)));
            using var answer = await household.PostAsync(new Uri(path, UriKind.Relative), form);
            Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
            return answer.Headers.Location!.ToString();
        }
        Assert.EndsWith("told=kept", await Tell(("kind", "night"), ("kg", "8,5"), ("hours", "9"), ("coals", "some")), StringComparison.Ordinal);
        Assert.EndsWith("told=kept", await Tell(("kind", "note"), ("text", "the <b>glass</b> blackens")), StringComparison.Ordinal);
        Assert.EndsWith("told=log.kg", await Tell(("kind", "night"), ("kg", "-1"), ("hours", "9"), ("coals", "some")), StringComparison.Ordinal);
        Assert.EndsWith("told=log.coals", await Tell(("kind", "night"), ("kg", "5"), ("hours", "9"), ("coals", "few")), StringComparison.Ordinal);
        Assert.EndsWith("told=log.days", await Tell(("kind", "ash"), ("days", "NaN")), StringComparison.Ordinal);
        Assert.EndsWith("told=log.note", await Tell(("kind", "note"), ("text", new string('x', 501))), StringComparison.Ordinal);
        Assert.EndsWith("told=log.title", await Tell(("kind", "letter")), StringComparison.Ordinal);
        var notes = (await technician.ReadAsync($"/api/stoves/{stove}/household")).GetProperty("notes");
        Assert.Equal(["note", "night"], notes.EnumerateArray().Select(n => n.GetProperty("kind").GetString()));
        Assert.Equal(8.5, notes[1].GetProperty("kg").GetDouble());
        // What somebody puts into the address is not shown.
        using var shown = await household.GetAsync(new Uri($"{path}?told=<script>alert(1)</script>", UriKind.Relative));
        Assert.DoesNotContain("alert", await shown.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        using var json = await household.PostAsync(new Uri(path, UriKind.Relative), new StringContent("{}", null, "application/json"));
        Assert.Equal(HttpStatusCode.UnsupportedMediaType, json.StatusCode);
    }

    [Fact]
    public async Task A_picture_of_the_glass_comes_through_the_page_and_is_seen_by_the_firm_alone()
    {
        var (stove, path, technician) = await MadeAsync(3);
        using var household = server.CreateClient(new() { AllowAutoRedirect = false });
        async Task<string> Send(byte[] file)
        {
            using var form = new MultipartFormDataContent { { new StringContent("de"), "lang" }, { new ByteArrayContent(file), "glass", "IMG_1.jpg" } };
            using var answer = await household.PostAsync(new Uri($"{path}/glass", UriKind.Relative), form);
            Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
            return answer.Headers.Location!.ToString();
        }
        Assert.EndsWith("lang=de&told=kept", await Send(PhotoTests.Drawn(3000, 1500)), StringComparison.Ordinal);
        Assert.EndsWith("told=log.glass", await Send("no picture"u8.ToArray()), StringComparison.Ordinal);
        Assert.EndsWith("told=log.glass", await Send([]), StringComparison.Ordinal);
        using var told = await household.GetAsync(new Uri($"{path}?lang=en&told=log.glass", UriKind.Relative));
        Assert.Contains("A picture of the glass", await told.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var note = (await technician.ReadAsync($"/api/stoves/{stove}/household")).GetProperty("notes").EnumerateArray().Single();
        Assert.Equal("glass", note.GetProperty("kind").GetString());
        var address = $"/api/stoves/{stove}/household/pictures/{note.GetProperty("id").GetString()}";
        using var seen = await technician.GetAsync(new Uri(address, UriKind.Relative));
        Assert.Equal("image/jpeg", seen.Content.Headers.ContentType!.MediaType);
        using var picture = SkiaSharp.SKBitmap.Decode(await seen.Content.ReadAsByteArrayAsync());
        Assert.True(picture.Width is > 1000 and <= 2000);
        using var stranger = await household.GetAsync(new Uri(address, UriKind.Relative));
        Assert.Equal(HttpStatusCode.Unauthorized, stranger.StatusCode);
        // Not by another stove's address, and no more of them than anybody looks at.
        using var other = await technician.GetAsync(new Uri($"/api/stoves/{Guid.CreateVersion7()}/household/pictures/{note.GetProperty("id").GetString()}", UriKind.Relative));
        Assert.Equal(HttpStatusCode.NotFound, other.StatusCode);
        Assert.Equal(19, await server.ScalarAsync<int>($"with more as (insert into household_notes (id, appliance_id, kind, at, jpeg) select gen_random_uuid(), '{stove}', 'glass', now(), '\\x00' from generate_series(1, 19) returning 1) select count(*)::int from more"));
        Assert.EndsWith("told=log.title", await Send(PhotoTests.Drawn(60, 40)), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Prices_are_set_at_the_desk_and_read_by_everybody()
    {
        var (technician, office) = (await server.SignedInAsync("technician"), await server.SignedInAsync("office"));
        double? Brick(System.Text.Json.JsonElement prices) => prices.EnumerateArray().Single(p => p.GetProperty("thing").GetString() == "standard-brick").GetProperty("price") is { ValueKind: System.Text.Json.JsonValueKind.Number } price ? price.GetDouble() : null;
        Assert.Equal(3.2, Brick(await technician.ReadAsync("/api/prices")));
        Assert.Equal(4.1, Brick(await office.SendAsync(HttpMethod.Put, "/api/prices/standard-brick", new { price = 4.1 })));
        Assert.Equal(4.1, Brick(await technician.ReadAsync("/api/prices")));
        await technician.SendAsync(HttpMethod.Put, "/api/prices/standard-brick", new { price = 1 }, HttpStatusCode.Forbidden);
        await office.SendAsync(HttpMethod.Put, "/api/prices/standard-brick", new { price = -1 }, HttpStatusCode.BadRequest);
        await office.SendAsync(HttpMethod.Put, "/api/prices/gold", new { price = 1 }, HttpStatusCode.NotFound);
        Assert.Null(Brick(await office.SendAsync(HttpMethod.Put, "/api/prices/standard-brick", new { price = (double?)null })));
        Assert.Equal(3, await server.ScalarAsync<long>("select count(*) from price_log where thing = 'standard-brick'"));
    }

    [Fact]
    public async Task No_page_says_that_a_fire_is_safe_after_a_visit_that_looked_at_nothing()
    {
        await using var own = new GrateServer();
        var technician = await own.SignedInAsync("technician");
        var visit = await technician.VisitAsync(0);
        var stove = (await technician.ReadAsync($"/api/visits/{visit}")).Text("stove", "id");
        async Task<string> PageAsync()
        {
            var path = (await technician.SendAsync(HttpMethod.Post, $"/api/stoves/{stove}/household", new { })).Text("path");
            using var household = own.CreateClient();
            return await household.GetStringAsync(new Uri(path, UriKind.Relative));
        }
        Assert.Contains("You may light it.", await PageAsync(), StringComparison.Ordinal);
        await technician.SignAsync(visit);
        var page = await PageAsync();
        Assert.DoesNotContain("You may light it.", page, StringComparison.Ordinal);
        Assert.Contains("Not checked at our last visit: the flue, the door, the draft.", page, StringComparison.Ordinal);
        // In danger the number comes first, before the heading's stove.
        Assert.True(page.IndexOf("In danger, call first: 112", StringComparison.Ordinal) is > 0 and var at && at < page.IndexOf("<svg", StringComparison.Ordinal));
    }

    [Theory]
    [InlineData("", "smoke came in, call back", "smoke")]
    [InlineData("", "Der CO-Melder hat gepiept", "co")]
    [InlineData("", "Es brauste im Rohr, und Rauch kam", "chimney-fire")]
    [InlineData("smoke", "please call", "smoke")]
    [InlineData("", "Der Rauchfang ist gekehrt, danke", "note")]
    public async Task What_a_household_writes_stands_on_the_offices_today_at_once(string about, string text, string kind)
    {
        var (stove, path, technician) = await MadeAsync(7);
        using var household = server.CreateClient(new() { AllowAutoRedirect = false });
        using var answer = await household.PostAsync(new Uri(path, UriKind.Relative), new FormUrlEncodedContent(new Dictionary<string, string> { ["kind"] = "note", ["about"] = about, ["text"] = text, ["lang"] = "en" }));
        Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
        if (kind != "note")
        {
            // Who writes of danger is told what to do, not thanked.
            var told = await household.GetStringAsync(answer.Headers.Location!);
            Assert.Contains(WebUtility.HtmlEncode(string.Join(' ', Core.Visits.Emergency.All.Single(e => Word.Of(e.Kind) == kind).Steps)), told, StringComparison.Ordinal);
        }
        var office = await server.SignedInAsync("office");
        var line = (await office.ReadAsync("/api/today")).GetProperty("inbox").EnumerateArray().Single(l => l.Text("text") == text);
        Assert.Equal((kind, $"{stove}", ""), (line.Text("kind"), line.Text("applianceId"), line.Text("seenBy")));
        Assert.Empty((await technician.ReadAsync("/api/today")).GetProperty("inbox").EnumerateArray());
        // Who has seen it is told; seen twice, the first stands.
        await office.SendAsync(HttpMethod.Post, $"/api/inbox/{line.Text("id")}/seen", new { }, HttpStatusCode.NoContent);
        await (await server.SignedInAsync("owner")).SendAsync(HttpMethod.Post, $"/api/inbox/{line.Text("id")}/seen", new { }, HttpStatusCode.NoContent);
        Assert.Equal("Sela Thornby", (await office.ReadAsync("/api/today")).GetProperty("inbox").EnumerateArray().Single(l => l.Text("text") == text).Text("seenBy"));
        await server.ScalarAsync<long>("with n as (delete from inbox returning 1) select count(*) from n");
    }

    // The same words on the call page and in the suspects (from the core), and on the household's page (from its language's file).
    [Fact]
    public void Emergencies_have_one_wording()
    {
        var english = Shipped().Of("en", "");
        foreach (var emergency in Core.Visits.Emergency.All)
        {
            Assert.Equal(emergency.Name, english[$"head.{Word.Of(emergency.Kind)}"]);
            Assert.Equal(emergency.Steps, emergency.Steps.Select((_, i) => english[$"card.{Word.Of(emergency.Kind)}.{i + 1}"]));
        }
    }
}
