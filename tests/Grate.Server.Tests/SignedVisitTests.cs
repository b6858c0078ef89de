using System.Text.Json;
using Grate.Server.Features.Visits;
using Npgsql;

namespace Grate.Server.Tests;

/// <summary>Signed is signed: what a visit showed stays, whoever writes whatever past the endpoints.</summary>
public class SignedVisitTests
{
    private static async Task<(GrateServer Server, HttpClient Client, string Visit)> SignedAsync()
    {
        var server = new GrateServer();
        var client = await server.SignedInAsync("technician");
        var visit = await client.VisitAsync(3);
        await client.KeepAsync(visit, "hot-draft", Saves.HotTest(14, coPpm: 60));
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/findings/{Guid.CreateVersion7()}", Saves.Finding("glass", "unsafe", stop: "glass"));
        await client.SignAsync(visit);
        return (server, client, visit);
    }

    private static readonly string[] _face = ["visit", "customer", "house", "stove", "outline", "flue", "layout", "steps", "findings", "stops", "dates", "van", "seal"];

    // What a person sees of it: everything but additions, and what is told of the stove as it is now.
    private static async Task<string> FaceAsync(HttpClient client, string visit)
    {
        var document = await client.ReadAsync($"/api/visits/{visit}");
        return string.Join("\n", _face.Select(name => $"{name} {document.GetProperty(name)}"));
    }

    [Fact]
    public async Task Signed_visit_keeps_its_face_when_the_world_around_it_changes()
    {
        var (server, client, visit) = await SignedAsync();
        await using var _ = server;
        var before = await FaceAsync(client, visit);
        var document = await client.ReadAsync($"/api/visits/{visit}");
        Assert.Equal(2, document.GetProperty("stops").GetArrayLength());
        var (stove, flue) = (document.Text("stove", "id"), document.GetProperty("flue"));

        // A neighbour builds, the household moves out, the technician marries, the flue is changed, a stop is cleared.
        await client.SendAsync(HttpMethod.Put, $"/api/stoves/{stove}/flue/{Guid.CreateVersion7()}", new
        {
            baseNumber = (int)flue.Number("number"),
            stoveXM = flue.Number("stoveXM"),
            flue = flue.GetProperty("flue"),
            obstacles = new[] { new { name = "new house", acrossM = 9.0, widthM = 8.0, topM = 14.0 } },
        });
        await server.ScalarAsync<int>("update people set name = 'Ida Varnholt-Sorn' where name = 'Ida Varnholt' returning 1");
        await server.ScalarAsync<int>($"update customers set name = 'New household', phone = '1' where id = '{document.Text("customer", "id")}' returning 1");
        await server.ScalarAsync<int>($"update sites set altitude_m = 1900, roof_pitch_deg = 12 where id = '{document.Text("house", "id")}' returning 1");
        await server.ScalarAsync<int>($"update appliances set model = 'Other', nominal_kw = 20 where id = '{stove}' returning 1");
        await client.SendAsync(HttpMethod.Post, $"/api/stops/{document.GetProperty("stops")[0].Text("stop", "id")}/clear", new { what = "aired", retest = "CO 2 ppm", retestPassed = true }, System.Net.HttpStatusCode.NoContent);

        Assert.Equal(before, await FaceAsync(client, visit));
        Assert.Equal("Re-test: CO 2 ppm", "Re-test: " + (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("clearedSince")[0].Text("stop", "clearedRetest"));
        // The stove's page speaks of today.
        Assert.Equal("New household", (await client.ReadAsync($"/api/stoves/{stove}")).Text("customer", "name"));
        var words = new StringWriter();
        Assert.Equal(0, await server.Services.VerifyAsync(words));
        Assert.Matches("^[0-9]+ signed visits, all as they were signed", words.ToString());
    }

    [Fact]
    public async Task Nobody_below_the_owner_of_the_tables_changes_a_signed_visit()
    {
        var (server, client, visit) = await SignedAsync();
        await using var _ = server;
        var open = await client.VisitAsync(1);
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{open}/steps/air", Saves.Step());
        await client.SendAsync(HttpMethod.Put, $"/api/visits/{open}/findings/{Guid.CreateVersion7()}", Saves.Finding("bricks", "wearing"));
        await client.SendAsync(HttpMethod.Post, $"/api/visits/{visit}/additions", new { id = Guid.CreateVersion7(), text = "seen later" }, System.Net.HttpStatusCode.NoContent);
        var before = await FaceAsync(client, visit);
        Assert.All(await SignedVisitWrites.TryAsync(server.Serving, visit, open), o => Assert.Contains(o.Said, (string[])["GR001", "42501"]));
        // Nobody restores into a firm that has something, and nothing without beginning.
        Assert.False(await server.ScalarAsync<bool>("select begin_restoration()"));
        Assert.Equal("GR001", await SignedVisitWrites.WriteAsync(server.Serving, $"select restore_rows('findings', jsonb_build_array(jsonb_build_object('id', gen_random_uuid(), 'visit_id', '{visit}')))"));
        Assert.Equal("42501", await SignedVisitWrites.WriteAsync(server.Serving, "insert into restorations values (txid_current())"));
        Assert.Equal(before, await FaceAsync(client, visit));
        Assert.Equal("seen later", Assert.Single((await client.ReadAsync($"/api/visits/{visit}")).GetProperty("additions").EnumerateArray()).Text("text"));
    }

    [Theory]
    [InlineData("alter table findings disable trigger all; update findings set note = 'x' where visit_id = '{0}'", "is not in the tables as it was shown")]
    [InlineData("alter table visits disable trigger all; update visits set signed_at = signed_at - interval '1 day' where id = '{0}'", "was planned or signed at another time")]
    [InlineData("alter table visits disable trigger all; update visits set state = 'open', signed_at = null, signed_by = null, next_inspection = null where id = '{0}'", "has a seal and is signed no more")]
    [InlineData("alter table visits disable trigger all; update visits set next_inspection = next_inspection + 365 where id = '{0}'", "was signed otherwise: by whom, for what, or until when")]
    [InlineData("alter table visits disable trigger all; update visits set signed_by = (select id from people where id <> signed_by limit 1) where id = '{0}'", "was signed otherwise: by whom, for what, or until when")]
    [InlineData("alter table visits disable trigger all; update visits set planned_start = planned_start - interval '1 day' where id = '{0}'", "was planned or signed at another time")]
    [InlineData("alter table station_facts disable trigger all; update station_facts set value = 99 where visit_id = '{0}' and value is not null", "is not in the tables as it was shown")]
    [InlineData("alter table signed_visits disable trigger all; delete from signed_visits where visit_id = '{0}'", "has no seal")]
    [InlineData("alter table signed_visits disable trigger all; update signed_visits set shown = '{}', hash = sha256(convert_to(encode(previous, 'hex') || '{}', 'UTF8')) where (appliance_id, number) = (select appliance_id, number - 1 from signed_visits where visit_id = '{0}')", "does not follow the visit before in the chain")]
    public async Task What_the_owner_of_the_tables_changes_past_everything_is_found(string sql, string told)
    {
        var (server, _, visit) = await SignedAsync();
        await using var closing = server;
        Assert.Matches("^[1-9][0-9]* rows", await SignedVisitWrites.WriteAsync(server.ConnectionString, sql.Replace("{0}", visit, StringComparison.Ordinal)));
        var words = new StringWriter();
        Assert.Equal(1, await server.Services.VerifyAsync(words));
        Assert.Contains(words.ToString().Split('\n'), line => line.EndsWith($"visit {visit} {told}.", StringComparison.Ordinal));
    }

    // Eight who sign at once each hold one connection of a pool of ten: nobody waits for one that another keeps.
    [Fact]
    public async Task Signing_takes_one_connection_and_seals_what_stands_in_the_lock()
    {
        await using var server = new GrateServer { Pool = 10 };
        var client = await server.SignedInAsync("owner");
        var visits = await server.ScalarAsync<Guid[]>("select array_agg(id) from (select id from visits where state = 'open' and planned_start < now() + interval '100 years' order by planned_start limit 8) v");
        await server.ScalarAsync<long>($"with v as (update visits set planned_start = planned_start - interval '400 days', planned_end = planned_end - interval '400 days' where state = 'open' returning 1) select count(*) from v");
        foreach (var visit in visits)
        {
            await client.LookAsync($"{visit}");
            foreach (var step in (await client.ReadAsync($"/api/visits/{visit}")).GetProperty("steps").EnumerateArray().Where(s => s.Text("code") != "next" && s.GetProperty("saved").ValueKind == JsonValueKind.Null).Select(s => s.Text("code")).ToList())
                await client.SendAsync(HttpMethod.Put, $"/api/visits/{visit}/steps/{step}", Saves.Step());
        }
        var signatures = await Task.WhenAll(visits.Select(v => client.SignatureAsync($"{v}")));
        var signed = await Task.WhenAll(visits.Zip(signatures).Select(p => client.SendAsync(HttpMethod.Post, $"/api/visits/{p.First}/sign", p.Second)));
        Assert.All(signed, s => Assert.Equal("signed", s.Text("visit", "row", "state")));
        // What is sealed as due is what follows from the date that was sealed.
        Assert.All(signed, s => Assert.Contains(s.GetProperty("dates").EnumerateArray(), d => d.Text("kind") == "inspection" && d.Text("by") == s.Text("visit", "row", "nextInspection")));
    }
}
