using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>Servers that go away, and two people at one visit.</summary>
[Collection(nameof(OneApp))]
public class FaultTests(GrateApp app)
{
    private static readonly By _notes = By.CssSelector("section[aria-labelledby=station] textarea");

    [Fact]
    public void Server_restarted_in_mid_visit_loses_nothing()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.Click(By.CssSelector("[data-step=arrive]"));
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
        browser.Click(By.CssSelector("[data-step=load]"));
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
        browser.See(By.Id("station"));
        browser.Until(() => app.Scalar<long>($"select count(*) from visit_steps where visit_id = '{visit}' and note = 'two brushes'") == 1 ? "saved" : null, "the note was not sent");
    }

    [Fact]
    public void Two_people_at_one_step_are_offered_to_merge()
    {
        using var technician = new Browser(app);
        using var owner = new Browser(app);
        technician.SignIn();
        var visit = technician.OpenVisit(3);
        technician.Click(By.CssSelector("[data-step=agree]"));
        owner.SignIn("owner");
        owner.Go($"/visits/{visit}");
        owner.Click(By.CssSelector("[data-step=agree]"));
        owner.See(_notes).SendKeys("price agreed by phone");
        owner.SeeText("Saved");

        technician.See(_notes).SendKeys("rope shown to them");
        technician.SeeText("Tobin Ashcombe saved another version of this step in between");
        technician.SeeText("price agreed by phone");
        technician.Click(By.XPath("//button[.='Mine with both notes']"));
        technician.SeeText("Saved");
        Assert.Equal("price agreed by phone\nrope shown to them",
            app.Scalar<string>($"select note from visit_steps where visit_id = '{visit}' and step = 'agree'"));
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
    }
}
