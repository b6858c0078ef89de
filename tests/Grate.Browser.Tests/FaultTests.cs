using System.Net.Http.Json;
using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>Servers that go away, and two people at one visit.</summary>
public class FaultTests(GrateApp app) : IClassFixture<GrateApp>
{
    private static readonly By _notes = By.CssSelector("section[aria-labelledby=step-name] textarea");

    [Fact]
    public void Server_restarted_in_mid_visit_loses_nothing()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.Step("arrive");
        browser.See(_notes).SendKeys("dog in the yard");
        browser.SeeText("Saved");
        try
        {
            app.Stop();
            browser.See(_notes).SendKeys(", key at the neighbour's");
            browser.SeeText("Not saved yet");
        }
        finally
        {
            app.Start();
        }
        browser.SeeText("Saved");
        Assert.Equal("dog in the yard, key at the neighbour's",
            app.Scalar<string>($"select note from visit_steps where visit_id = '{visit}' and step = 'arrive'"));
        Assert.Equal(2, app.Scalar<int>($"select version from visit_steps where visit_id = '{visit}' and step = 'arrive'"));
    }

    [Fact]
    public void Page_reloaded_while_the_server_is_away_keeps_what_was_typed()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.Step("load");
        try
        {
            app.Stop();
            browser.See(_notes).SendKeys("two brushes");
            browser.SeeText("Not saved yet");
        }
        finally
        {
            app.Start();
        }
        browser.Go($"/visits/{visit}");
        browser.See(By.Id("step-name"));
        browser.Until(() => app.Scalar<long>($"select count(*) from visit_steps where visit_id = '{visit}' and note = 'two brushes'") == 1 ? "saved" : null, "the note was not sent");
    }

    [Fact]
    public void Two_people_at_one_step_are_offered_to_merge()
    {
        using var technician = new Browser(app);
        using var owner = new Browser(app);
        technician.SignIn();
        var visit = technician.OpenVisit(3);
        technician.Step("agree");
        owner.SignIn("owner");
        owner.Go($"/visits/{visit}");
        owner.Step("agree");
        owner.See(_notes).SendKeys("price agreed by phone");
        owner.SeeText("Saved");

        technician.See(_notes).SendKeys("rope shown to them");
        technician.SeeText("Tobin Ashcombe saved another version of this in between");
        technician.SeeText("price agreed by phone");
        technician.Click(By.XPath("//button[.='This one, with both notes']"));
        technician.SeeText("Saved");
        Assert.Equal("price agreed by phone\nrope shown to them",
            app.Scalar<string>($"select note from visit_steps where visit_id = '{visit}' and step = 'agree'"));
    }

    [Fact]
    public void Session_that_ends_while_somebody_types_loses_nothing()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.OpenVisit(4);
        browser.HotDraft();
        browser.Type("draftPa", "16.5");
        browser.SeeText("you read 16.5 Pa");
        browser.SeeText("Saved");
        // Signed out from another page.
        browser.Script("return fetch('/api/session', { method: 'DELETE' })");
        browser.Type("draftPa", "17.5");
        browser.See(By.XPath("//button[contains(., 'technician@demo.example')]"));
        browser.Click(By.XPath("//button[contains(., 'technician@demo.example')]"));
        // Back where the session ended, with what was typed.
        browser.See(By.XPath("//h2[@id='step-name' and .='Hot test']"));
        browser.Until(() => browser.See(By.Id("draftPa")).GetAttribute("value") == "17.5" ? "kept" : null, "what was typed is gone");
        browser.SeeText("Saved");
    }

    // Its refusal comes after the next value was typed: that is another save, and is sent.
    [Fact]
    public void A_value_typed_while_a_slow_send_is_refused_is_sent()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(4);
        browser.HotDraft();
        browser.See(By.Id("draftPa"));
        browser.Script("""
            const real = window.fetch;
            window.puts = 0;
            window.fetch = async (...asked) => {
                const answer = await real(...asked);
                if (asked[1]?.method === 'PUT' && ++window.puts === 1) await new Promise((go) => (window.letGo = go));
                return answer;
            };
            """);
        browser.Type("draftPa", "999");
        browser.Until(() => browser.Script("return !!window.letGo") is true ? "held" : null, "nothing was sent");
        browser.Type("draftPa", "13.5");
        browser.Script("window.letGo()");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and value = 13.5") > 0 ? "sent" : null, "what was typed last was not sent");
        browser.SeeText("Saved");
        // A bad entry is sent once; what is written elsewhere says that it is saved, and sends nothing of it again.
        browser.Type("draftPa", "999");
        browser.SeeText("Draft at the collar must lie between");
        var puts = (long)browser.Script("return window.puts")!;
        browser.Step("agree");
        browser.See(_notes).SendKeys("told them");
        browser.SeeText("Everything else is saved");
        browser.SeeText("Not saved: Hot draft has an entry that cannot be used");
        Assert.Equal("told them", app.Scalar<string>($"select note from visit_steps where visit_id = '{visit}' and step = 'agree'"));
        Assert.InRange((long)browser.Script("return window.puts")! - puts, 1, 3);
    }

    [Fact]
    public void A_browser_that_keeps_nothing_says_so_and_sends_it_all_the_same()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(3);
        browser.HotDraft();
        browser.See(By.Id("draftPa"));
        browser.Script("""
            const full = () => { throw new DOMException('full', 'QuotaExceededError'); };
            Storage.prototype.setItem = full;
            IDBObjectStore.prototype.put = full;
            """);
        browser.Offline(true);
        browser.Type("draftPa", "12.5");
        browser.SeeText("this browser’s store is full: stay on this page until it is sent");
        browser.Offline(false);
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and value = 12.5") > 0 ? "sent" : null, "what was typed was not sent");
        browser.SeeText("Saved");
        browser.Step("open-up");
        browser.Tap(By.XPath("//button[.='top slab']"));
        browser.SeeText("Out, and not back: top slab");
        browser.SeeText("Saved");
        browser.Offline(true);
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("input[aria-label^='Photo of']")).FirstOrDefault(), "no camera").SendKeys(Path.Combine(GrateApp.Repository, "docs/screenshots/stove.png"));
        browser.SeeText("on its way; this browser could not keep it: stay on this page until it is sent");
        browser.Offline(false);
        browser.Until(() => app.Scalar<long>($"select count(*) from photos where visit_id = '{visit}'") == 1 ? "sent" : null, "no photo");
    }

    [Fact]
    public void Carbon_monoxide_typed_without_a_network_stops_the_fire_at_once()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.OpenVisit(5);
        browser.HotDraft();
        browser.Click(By.XPath("//button[starts-with(., 'Room, CO')]"));
        browser.See(By.Id("coPpm"));
        browser.Offline(true);
        browser.Type("coPpm", "120");
        browser.SeeText("No fire until cleared");
        browser.SeeText("Not saved yet");
        // A page that was open before is shown with what it had; one that was not says so and is no error page.
        browser.Click(By.CssSelector("nav a[href='/today']"));
        browser.SeeText("Your round");
        browser.Driver.Navigate().Back();
        browser.See(By.XPath("//h2[@id='step-name' and .='Hot test']"));
        browser.Offline(false);
        browser.SeeText("Saved");
        browser.SeeText("No fire until cleared");
        browser.Click(By.XPath("//button[starts-with(., 'Room, CO')]"));
        browser.Type("coPpm", "3");
        browser.SeeText("No stop on this stove");
    }

    [Fact]
    public void Refused_entry_is_named_from_every_step_until_it_is_mended()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.OpenVisit(4);
        browser.HotDraft();
        browser.Type("draftPa", "999");
        browser.SeeText("Draft at the collar must lie between");
        browser.Click(By.XPath("//button[.='Done, next step']"));
        browser.See(By.XPath("//h2[@id='step-name' and .='Say and agree']"));
        browser.SeeText("Not saved: Hot draft has an entry that cannot be used");
        browser.Click(By.PartialLinkText("has an entry that cannot be used"));
        browser.See(By.XPath("//h2[@id='step-name' and .='Hot test']"));
        Assert.Equal("999.0", browser.See(By.Id("draftPa")).GetAttribute("value"));
        browser.SeeText("Draft at the collar must lie between");
        browser.Type("draftPa", "14");
        browser.SeeText("Saved");
    }

    [Fact]
    public void Step_stands_in_the_address_over_back_and_reload_and_done_puts_the_focus_on_the_new_heading()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.OpenVisit(3);
        browser.Step("air");
        browser.Step("hot-test");
        browser.Driver.Navigate().Refresh();
        browser.See(By.XPath("//h2[@id='step-name' and .='Hot test']"));
        browser.Driver.Navigate().Back();
        browser.See(By.XPath("//h2[@id='step-name' and .='Air']"));
        browser.Click(By.XPath("//button[.='Done, next step']"));
        browser.Until(() => browser.Script("return document.activeElement?.id + ' ' + document.activeElement?.textContent") is "step-name Hot test" ? "there" : null, "the focus is elsewhere");
        Assert.True((double)Convert.ToDouble(browser.Script("return window.scrollY"), System.Globalization.CultureInfo.InvariantCulture) < 1);
    }

    [Fact]
    public async Task Served_pages_hold_no_inline_script_and_large_bodies_are_refused()
    {
        using var client = new HttpClient { BaseAddress = new Uri(app.Address) };
        var page = await client.GetStringAsync(new Uri("/stoves/anything", UriKind.Relative));
        Assert.DoesNotContain("<script>", page, StringComparison.Ordinal);
        Assert.Contains("<script src=\"/_app/immutable/bootstrap-", page, StringComparison.Ordinal);
        using var body = new StringContent("{\"email\":\"" + new string('x', 300_000) + "\"}", System.Text.Encoding.UTF8, "application/json");
        using var refused = await client.PostAsync(new Uri("/api/session", UriKind.Relative), body);
        Assert.Equal(System.Net.HttpStatusCode.RequestEntityTooLarge, refused.StatusCode);
        Assert.Contains("256 KB", await refused.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        // A picture may be larger, and says so.
        (await client.PostAsJsonAsync("/api/session", new { email = "technician@demo.example", password = "draught-and-ember" })).EnsureSuccessStatusCode();
        var visit = (await client.GetFromJsonAsync<System.Text.Json.JsonElement>("/api/today")).GetProperty("stops")[0].GetProperty("stop").GetProperty("visitId").GetString();
        using var put = new HttpRequestMessage(HttpMethod.Put, $"/api/visits/{visit}/photos/{Guid.CreateVersion7()}?step=open-up&station=strip-down&part=baffle")
        {
            Content = new ByteArrayContent(new byte[12 * 1024 * 1024 + 1]),
            Headers = { ExpectContinue = true },
        };
        using var large = await client.SendAsync(put);
        Assert.Contains("12 MB", await large.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
