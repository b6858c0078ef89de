using System.Net;
using System.Text.RegularExpressions;
using Grate.Server.Tests.Outside;
using Ical.Net;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace Grate.Server.Tests;

/// <summary>What a household is told of its visit, and what it answers.</summary>
public sealed partial class MessageTests : IDisposable
{
    private readonly DirectoryInfo _outbox = Directory.CreateTempSubdirectory("grate-outbox");

    public void Dispose() => _outbox.Delete(true);

    [GeneratedRegex("/v/[A-Za-z0-9_-]+")]
    private static partial Regex Link();

    private async Task<MimeMessage> NewestAsync() => await MimeMessage.LoadAsync(_outbox.GetFiles("*.eml").OrderBy(f => f.Name, StringComparer.Ordinal).Last().FullName);

    private static async Task<string> ReadAsync(HttpClient client, string path, HttpStatusCode expected = HttpStatusCode.OK)
    {
        using var answer = await client.GetAsync(new Uri(path, UriKind.Relative));
        Assert.Equal(expected, answer.StatusCode);
        return await answer.Content.ReadAsStringAsync();
    }

    private static async Task<string> TellAsync(HttpClient client, string path, params (string Name, string Value)[] fields)
    {
        using var form = new FormUrlEncodedContent(fields.Select(f => KeyValuePair.Create(f.Name, f.Value)));
        using var answer = await client.PostAsync(new Uri(path, UriKind.Relative), form);
        Assert.Equal(HttpStatusCode.SeeOther, answer.StatusCode);
        return answer.Headers.Location!.ToString();
    }

    [Fact]
    public async Task On_the_road_whoever_goes_tells_those_who_wait_and_nobody_else()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName));
        var (ida, desk) = (await server.SignedInAsync("technician"), await server.SignedInAsync("office"));
        await server.ScalarAsync<int>("with c as (update customers set email = 'home@valley.example' returning 1) select count(*)::int from c");
        // It is half past nine of that Wednesday; still busy for three hours, the rest shifts.
        var late = await ida.ReadAsync("/api/rounds/late?busyMin=180");
        var stops = late.GetProperty("route").GetProperty("stops").EnumerateArray().ToList();
        Assert.NotEmpty(stops);
        Assert.All(stops, s => Assert.True(s.Number("fromMin") >= 9 * 60 + 30 + 180));
        var tell = late.GetProperty("tell").EnumerateArray().Select(t => t.GetGuid()).ToList();
        Assert.Equal(stops.Where(s => s.Number("lateMin") > 15).Select(s => s.GetProperty("visitId").GetGuid()), tell);
        Assert.EndsWith("tell them.", late.Text("sentence"), StringComparison.Ordinal);
        var at = TimeOnly.MinValue.AddMinutes(stops[0].Number("fromMin"));
        Task SendAsync(HttpClient who, Guid visit, object message, HttpStatusCode expected) => who.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", message, expected);
        await SendAsync(ida, tell[0], new { kind = "late", at = $"{at:HH:mm}:00" }, HttpStatusCode.NoContent);
        var mail = await NewestAsync();
        Assert.Contains($"about {at:HH:mm}", mail.Subject, StringComparison.Ordinal);
        Assert.Contains("keep you waiting", mail.TextBody, StringComparison.Ordinal);
        // The plan stays; its log tells that they were told.
        Assert.Contains((await desk.ReadAsync($"/api/visits/{tell[0]}/plan")).EnumerateArray(), l => l.Text("what") == "Told the household: that it will be later.");
        // Dates are the office's to tell; others' households are others'; late means later.
        await SendAsync(ida, tell[0], new { kind = "planned" }, HttpStatusCode.Forbidden);
        var others = await server.ScalarAsync<Guid>("select v.id from visits v join people p on p.id = v.technician_id where v.state = 'open' and p.name <> 'Ida Varnholt' order by v.planned_start limit 1");
        await SendAsync(ida, others, new { kind = "late", at = "20:00:00" }, HttpStatusCode.Forbidden);
        await SendAsync(desk, tell[0], new { kind = "late" }, HttpStatusCode.BadRequest);
        await SendAsync(desk, tell[0], new { kind = "late", at = "06:00:00" }, HttpStatusCode.BadRequest);
        await SendAsync(desk, tell[0], new { kind = "planned", at = "20:00:00" }, HttpStatusCode.BadRequest);
        var tomorrow = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc, id limit 1");
        await SendAsync(desk, tomorrow, new { kind = "late", at = "21:30:00" }, HttpStatusCode.Conflict);
        // Nothing is late, and nonsense is refused.
        Assert.Contains("nothing is pulled forward", (await ida.ReadAsync("/api/rounds/late?busyMin=0")).Text("sentence"), StringComparison.Ordinal);
        await ida.ReadAsync("/api/rounds/late?busyMin=9000", HttpStatusCode.BadRequest);
        await desk.ReadAsync("/api/rounds/late?busyMin=10", HttpStatusCode.Forbidden);
    }

    // RFC 5546: an invitation names who invites and who is invited, and a later one of the same visit has a higher sequence.
    [Fact]
    public async Task A_calendar_entry_names_firm_and_household_and_follows_a_move()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName));
        var desk = await server.SignedInAsync("office");
        await server.ScalarAsync<int>("with c as (update customers set email = 'home@valley.example' returning 1) select count(*)::int from c");
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc, id limit 1");
        async Task<string[]> InvitedAsync()
        {
            await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);
            var text = (await NewestAsync()).BodyParts.OfType<TextPart>().Single(p => p.ContentType.MimeType == "text/calendar").Text;
            return text.ReplaceLineEndings("\n").Replace("\n ", "", StringComparison.Ordinal).Split('\n');
        }
        static int Sequence(string[] lines) => int.Parse(lines.Single(l => l.StartsWith("SEQUENCE:", StringComparison.Ordinal))[9..], System.Globalization.CultureInfo.InvariantCulture);
        var first = await InvitedAsync();
        var from = await server.ScalarAsync<string>("select contact->>'email' from firm");
        Assert.Contains(first, l => l.StartsWith("ORGANIZER", StringComparison.Ordinal) && l.EndsWith($":mailto:{from}", StringComparison.Ordinal));
        Assert.Contains(first, l => l.StartsWith("ATTENDEE", StringComparison.Ordinal) && l.EndsWith(":mailto:home@valley.example", StringComparison.Ordinal));
        var version = await server.ScalarAsync<int>($"select plan_version from visits where id = '{visit}'");
        var technician = await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", new { baseVersion = version, technicianId = technician, day = "2027-12-07", time = "10:00:00", minutes = 60, despite = true }, HttpStatusCode.NoContent);
        Assert.True(Sequence(await InvitedAsync()) > Sequence(first));
    }

    [Fact]
    public async Task Household_gets_its_date_with_a_calendar_entry_asks_for_another_and_cancels()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName));
        var desk = await server.SignedInAsync("office");
        // The last open visit lies tomorrow.
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc, id limit 1");
        Task<System.Text.Json.JsonElement> SendAsync(string kind, HttpStatusCode expected = HttpStatusCode.NoContent, string language = "en") => desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind, language }, expected);
        await server.ScalarAsync<int>("with c as (update customers set email = '' returning 1) select count(*)::int from c");
        Assert.Contains("has no mail address", (await SendAsync("planned", HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        await server.ScalarAsync<int>($"with c as (update customers set email = 'varga@valley.example', name = '<b>Varga</b>' where id = (select s.customer_id from visits v join appliances a on a.id = v.appliance_id join sites s on s.id = a.site_id where v.id = '{visit}') returning 1) select count(*)::int from c");
        await SendAsync("cancelled", HttpStatusCode.Conflict);
        await SendAsync("greeting", HttpStatusCode.BadRequest);
        // In the household's own language, where none is asked for.
        await server.ScalarAsync<int>("with c as (update customers set language = 'de' returning 1) select count(*)::int from c");
        await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);

        var mail = await NewestAsync();
        Assert.Equal("varga@valley.example", mail.To.Mailboxes.Single().Address);
        Assert.Contains("wir kommen am", mail.Subject, StringComparison.Ordinal);
        var path = Link().Match(mail.TextBody ?? "").Value;
        var part = mail.BodyParts.OfType<TextPart>().Single(p => p.ContentType.MediaSubtype == "calendar");
        Assert.Equal("REQUEST", part.ContentType.Parameters["method"]);
        var date = Calendar.Load(part.Text)!.Events.Single();
        var planned = await server.ScalarAsync<DateTime>($"select planned_start from visits where id = '{visit}'");
        Assert.Equal(planned, date.Start!.AsUtc);
        // python3-vobject, which wrote none of it, reads the same.
        Assert.Equal($"{planned:yyyy-MM-dd HH:mm:ss}+00:00", (await Vobject.ReadAsync(part.Text)).GetProperty("dtstart")[0][1].GetString());

        // By the link, without a sign-in, a script or a cookie: its date, and nothing of anybody's name.
        using var household = server.CreateClient(new() { AllowAutoRedirect = false });
        var page = await ReadAsync(household, $"{path}?lang=en");
        Assert.Contains(" comes on ", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Varga", page, StringComparison.Ordinal);
        Assert.DoesNotContain("<script", page, StringComparison.Ordinal);
        await ReadAsync(household, "/v/guessed", HttpStatusCode.NotFound);
        Assert.EndsWith("told=refused", await TellAsync(household, path, ("kind", "ask"), ("asked", "")), StringComparison.Ordinal);
        Assert.EndsWith("told=refused", await TellAsync(household, path, ("kind", "ask"), ("asked", new string('x', 301))), StringComparison.Ordinal);
        Assert.EndsWith("told=thanks", await TellAsync(household, path, ("kind", "ask"), ("asked", "<i>Thursday</i>, after four")), StringComparison.Ordinal);
        Assert.Contains("You asked for: &lt;i&gt;Thursday&lt;/i&gt;, after four", await ReadAsync(household, $"{path}?lang=en"), StringComparison.Ordinal);
        var day = await server.ScalarAsync<DateTime>($"select planned_start from visits where id = '{visit}'");
        var stop = (await desk.ReadAsync($"/api/week?day={day:yyyy-MM-dd}")).GetProperty("visits").EnumerateArray().Select(v => v.GetProperty("stop")).Single(s => s.Text("visitId") == visit.ToString());
        Assert.Equal("<i>Thursday</i>, after four", stop.Text("asked"));

        // Another plan answers it; the same entry of the calendar is changed.
        var technician = await server.ScalarAsync<Guid>($"select technician_id from visits where id = '{visit}'");
        await desk.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/plan", new { baseVersion = stop.GetProperty("planVersion").GetInt32(), technicianId = technician, day = "2027-10-21", time = "16:00:00", minutes = 60, despite = true }, HttpStatusCode.NoContent);
        Assert.Equal("", await server.ScalarAsync<string>($"select asked from visits where id = '{visit}'"));
        await SendAsync("reminder");
        var changed = Calendar.Load((await NewestAsync()).BodyParts.OfType<TextPart>().Single(p => p.ContentType.MediaSubtype == "calendar").Text)!.Events.Single();
        Assert.Equal((date.Uid, true), (changed.Uid, changed.Sequence > date.Sequence));

        // It cancels only when it says so twice; both links then tell it.
        Assert.EndsWith("told=refused", await TellAsync(household, path, ("kind", "cancel")), StringComparison.Ordinal);
        Assert.EndsWith("told=thanks", await TellAsync(household, path, ("kind", "cancel"), ("sure", "yes")), StringComparison.Ordinal);
        Assert.Contains("This visit is cancelled", await ReadAsync(household, $"{path}?lang=en"), StringComparison.Ordinal);
        Assert.EndsWith("told=refused", await TellAsync(household, path, ("kind", "ask"), ("asked", "Friday")), StringComparison.Ordinal);
        await SendAsync("planned", HttpStatusCode.Conflict);
        await SendAsync("cancelled");
        Assert.Equal("CANCEL", (await NewestAsync()).BodyParts.OfType<TextPart>().Single(p => p.ContentType.MediaSubtype == "calendar").ContentType.Parameters["method"]);
        var log = (await desk.ReadAsync($"/api/visits/{visit}/plan")).EnumerateArray().Select(l => l.Text("what")).ToList();
        foreach (var line in new[] { "Told the household: the date.", "The household asks through its link: <i>Thursday</i>, after four", "Cancelled: by the household, through its link" })
            Assert.Contains(line, log);
        // A day after the visit its links work no more; of the secret only a hash is kept.
        await server.ScalarAsync<int>("with l as (update visit_links set ends_at = '2027-01-01' returning 1) select count(*)::int from l");
        await ReadAsync(household, path, HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task Texts_are_the_language_s_until_the_firm_writes_its_own()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName));
        var (office, owner) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        Assert.Equal(8, (await office.ReadAsync("/api/messages/texts")).GetArrayLength());
        await owner.SendAsync(HttpMethod.Put, "/api/messages/texts/planned/en", new { subject = "{weather}", body = "no link" }, HttpStatusCode.BadRequest);
        await owner.SendAsync(HttpMethod.Put, "/api/messages/texts/planned/xx", new { subject = "a", body = "{link}" }, HttpStatusCode.NotFound);
        await owner.SendAsync(HttpMethod.Put, "/api/messages/texts/greeting/en", new { subject = "a", body = "{link}" }, HttpStatusCode.NotFound);
        var texts = await owner.SendAsync(HttpMethod.Put, "/api/messages/texts/planned/en", new { subject = "See you {day}", body = "Dog in, please. {link}" });
        Assert.Equal(1, texts.EnumerateArray().Count(t => t.GetProperty("own").GetBoolean()));
        await server.ScalarAsync<int>("with c as (update customers set email = 'all@valley.example' returning 1) select count(*)::int from c");
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc, id limit 1");
        await office.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);
        var mail = await NewestAsync();
        Assert.StartsWith("See you 1", mail.Subject, StringComparison.Ordinal);
        Assert.StartsWith("Dog in, please. http", mail.TextBody, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_is_no_address_is_refused_where_it_is_typed_and_reaches_no_letter()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName));
        var (desk, owner) = (await server.SignedInAsync("office"), await server.SignedInAsync("owner"));
        // Everything that is accepted, a mail library reads; what it cannot read is refused.
        foreach (var typed in new[] { "a b@c.example", "a@", "@b.example", "a@b", "a@@b.example", "<a@b.example>", "a@b.example\r\nBcc: c@d.example", "a@b..example", ".a@b.example", "a;b@c.example", "(a)@b.example", "ä ö@b.example", "a@[127.0.0.1]" })
        {
            var errors = new Core.EntryErrors();
            Core.Places.MailAddresses.Check("email", typed, "Mail address", errors, 3);
            Assert.True(errors.Any, typed);
            await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { name = "Neu", email = typed, role = "office" }, HttpStatusCode.BadRequest);
        }
        foreach (var typed in new[] { "a@b.example", "o'neil+stove@sub.valley.example", "größe@ofen-häuser.example", "x_y.z@v-1.example" })
        {
            var errors = new Core.EntryErrors();
            Core.Places.MailAddresses.Check("email", typed, "Mail address", errors);
            Assert.False(errors.Any, typed);
            Assert.Equal(typed, new MailboxAddress("Somebody", typed).Address);
        }
        const string signs = "ab.@-_+'()<>,;: \"[]\\ö";
        var chosen = new Random(2);
        for (var n = 0; n < 2000; n++)
        {
            var typed = new string([.. Enumerable.Range(0, 3 + chosen.Next(12)).Select(_ => signs[chosen.Next(signs.Length)])]) + ".example";
            var errors = new Core.EntryErrors();
            Core.Places.MailAddresses.Check("email", typed, "Mail address", errors, 3);
            if (!errors.Any)
                Assert.All(Core.Places.MailAddresses.Of(typed), a => Assert.Equal(a, new MailboxAddress("Somebody", a).Address));
        }
        // What came into the books before addresses were looked at: nothing is told, nothing is stored, and it is said.
        var (visit, household) = (await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc limit 1"), "c.id = s.customer_id and s.id = a.site_id and a.id = v.appliance_id");
        await server.ScalarAsync<int>($"with c as (update customers c set email = 'nobody at home' from sites s, appliances a, visits v where {household} and v.id = '{visit}' returning 1) select count(*)::int from c");
        var refused = await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.Conflict);
        Assert.Contains("no mail address in the books that could be written to", refused.Text("title"), StringComparison.Ordinal);
        Assert.Equal((0, 0), (await server.ScalarAsync<int>("select count(*)::int from outgoing_messages"), await server.ScalarAsync<int>($"select count(*)::int from visit_links where visit_id = '{visit}'")));
        // Two addresses of one household are one letter to both, from the firm's own address.
        await server.ScalarAsync<int>($"with c as (update customers c set email = 'one@valley.example; two@valley.example' from sites s, appliances a, visits v where {household} and v.id = '{visit}' returning 1) select count(*)::int from c");
        await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);
        var mail = await NewestAsync();
        Assert.Equal(["one@valley.example", "two@valley.example"], mail.To.Mailboxes.Select(m => m.Address));
        Assert.Equal("service@tarnwick-stoves.example", mail.From.Mailboxes.Single().Address);
        Assert.Contains("0555 0142", mail.TextBody, StringComparison.Ordinal);
        // A firm without an address writes to nobody, and says so before anything is kept.
        await server.ScalarAsync<int>("update firm set contact = '{}' returning 1");
        Assert.Contains("The firm has no mail address", (await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "reminder" }, HttpStatusCode.Conflict)).Text("title"), StringComparison.Ordinal);
        Assert.False((await owner.SendAsync(HttpMethod.Post, "/api/invitations", new { name = "Neu", email = "neu@valley.example", role = "office" })).GetProperty("written").GetBoolean());
    }

    [Fact]
    public async Task A_letter_that_could_not_be_written_waits_and_goes_out_once()
    {
        // Where the folder should be lies a file.
        var blocked = Path.Combine(_outbox.FullName, "blocked");
        await File.WriteAllTextAsync(blocked, "");
        await using var server = new GrateServer(null, ("Outbox:Folder", blocked));
        var desk = await server.SignedInAsync("office");
        await server.ScalarAsync<int>("with c as (update customers set email = 'home@valley.example' returning 1) select count(*)::int from c");
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc limit 1");
        await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);
        Assert.Equal(1, await server.ScalarAsync<int>("select count(*)::int from outgoing_messages where sent_at is null and fault <> ''"));
        File.Delete(blocked);
        var outbox = server.Services.GetRequiredService<Outbox>();
        await Task.WhenAll(outbox.SendAsync(), outbox.SendAsync());
        Assert.Equal(0, await server.ScalarAsync<int>("select count(*)::int from outgoing_messages where sent_at is null"));
        Assert.Single(Directory.GetFiles(blocked));
    }

    [Fact]
    public async Task Links_lead_to_the_installations_own_address_whatever_host_is_named()
    {
        await using var server = new GrateServer(null, ("Outbox:Folder", _outbox.FullName), ("Public:Address", "https://grate.tarnwick.example"));
        var desk = await server.SignedInAsync("office");
        await server.ScalarAsync<int>("with c as (update customers set email = 'home@valley.example' returning 1) select count(*)::int from c");
        var visit = await server.ScalarAsync<Guid>("select id from visits where state = 'open' order by planned_start desc limit 1");
        await desk.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/messages", new { kind = "planned" }, HttpStatusCode.NoContent);
        Assert.Contains("https://grate.tarnwick.example/v/", (await NewestAsync()).TextBody, StringComparison.Ordinal);
        using var foreign = new HttpRequestMessage(HttpMethod.Get, "/api/health") { Headers = { Host = "evil.example" } };
        Assert.Equal(HttpStatusCode.BadRequest, (await server.CreateClient().SendAsync(foreign)).StatusCode);
        using var own = new HttpRequestMessage(HttpMethod.Get, "/api/health") { Headers = { Host = "grate.tarnwick.example" } };
        Assert.Equal(HttpStatusCode.OK, (await server.CreateClient().SendAsync(own)).StatusCode);
    }
}
