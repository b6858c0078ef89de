using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>Server and stand-ins on a clock that runs twenty times as fast: a minute takes three seconds.</summary>
public sealed class FastApp : IDisposable
{
    internal GrateApp App { get; } = new(GrateApp.Wednesday, settings: [("Clock__Speed", "20")]);

    /// <inheritdoc/>
    public void Dispose() => App.Dispose();
}

/// <summary>Air, hearth and fire on screen: a whole hot test by the stand-ins in fast time, the duct, the plan of the room, the household's page.</summary>
public class BurningTests(FastApp fast) : IClassFixture<FastApp>
{
    private GrateApp App => fast.App;

    private Guid Visit(string where) => App.Scalar<Guid>($"select v.id from visits v join appliances a on a.id = v.appliance_id where v.state = 'open' and {where} order by v.planned_start limit 1");

    [Fact]
    public void A_whole_hot_test_runs_on_one_clock_by_what_the_instruments_send()
    {
        using var browser = new Browser(App);
        browser.SignIn("owner");
        var visit = Visit("a.combustor");
        App.Play("hot-run");
        browser.Go($"/visits/{visit}/hot-test/hot-run");
        browser.Click(By.XPath("//button[.='Connect instruments']"));
        browser.SeeText("flue gas");
        string? Next() => browser.Driver.FindElements(By.CssSelector("[data-next]")).FirstOrDefault()?.GetAttribute("data-next");
        if (Next() == "preheat")
            browser.Click(By.XPath("//button[.='Done']"));
        browser.Click(By.XPath("//button[.='Lit now']"));
        // What is said to be next is done when its minute has come.
        foreach (var read in new[] { "read5", "read10", "read15", "close-bypass" })
        {
            browser.See(By.CssSelector($"[data-next={read}]"));
            browser.Until(() => browser.Driver.FindElement(By.XPath("//p[.='Now' or starts-with(., 'In ')]")).Text == "Now" ? "now" : null, $"{read} is never due");
            browser.Click(By.XPath("//button[.='Keep it' and not(ancestor::li)]"));
        }
        // In between, and over a reload, the run goes on.
        browser.Click(By.XPath("//button[.='Clear shimmer']"));
        browser.SeeText("Saved");
        browser.Driver.Navigate().Refresh();
        browser.See(By.CssSelector("[data-next=light-off]"));
        browser.Click(By.XPath("//button[.='Connect instruments']"));
        // The combustor climbs, and is judged by itself.
        browser.See(By.CssSelector("[data-next=normal-fire]"));
        browser.SeeText("it lights off");
        foreach (var fire in new[] { "normal-fire", "low-fire", "high-fire" })
        {
            browser.See(By.CssSelector($"[data-next={fire}]"));
            browser.Click(By.XPath("//button[.='Keep it' and not(ancestor::li)]"));
        }
        browser.See(By.CssSelector("[data-next=air-shut]"));
        browser.Click(By.XPath("//button[.='Done' and not(ancestor::li)]"));
        // The caution stands before the door is opened; the looks come after it.
        browser.SeeText("it can flash");
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[.='A puff']")));
        browser.Click(By.XPath("//button[.='So done: opened']"));
        browser.Click(By.XPath("//button[.='A puff']"));
        browser.SeeText("a puff, as an ordinary stove gives");
        browser.Click(By.XPath("//button[.='Done' and not(ancestor::li)]"));
        browser.Click(By.XPath("//button[.='End the run']"));
        browser.SeeText("It goes on after all");
        browser.SeeText("Saved");
        ScreenTests.AssertAccessible(browser, "hot run");
        browser.Click(By.XPath("//a[.='Show it to the household']"));
        browser.SeeText("Your stove with a fire in it");
        browser.SeeText("a puff, as an ordinary stove gives");
        ScreenTests.AssertAccessible(browser, "run for the household");
        // What was read stands at the other stations, too.
        Assert.Equal(3, App.Scalar<int>($"select jsonb_array_length(entry->'readings') from station_entries where visit_id = '{visit}' and station = 'hot-draft'"));
        Assert.InRange(App.Scalar<double>($"select value from station_facts where visit_id = '{visit}' and name = 'run.minutes'"), 19, 200);
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void A_duct_is_laid_a_room_is_measured_and_the_reckoning_follows()
    {
        using var browser = new Browser(App);
        browser.SignIn("owner");
        var visit = Visit("not a.combustor and a.kind = 'steel'");
        browser.Go($"/visits/{visit}/air/outside-air");
        browser.SeeText("Whether this stove needs its own air is not known yet");
        browser.Click(By.XPath("//button[.='+ to the back']"));
        browser.Click(By.XPath("//button[.='+ left']"));
        browser.Type("run-1", "2.3");
        browser.SeeText("will do");
        browser.See(By.CssSelector("[aria-label='Outside-air duct']"));
        browser.Click(By.XPath("//button[starts-with(., '75 mm')]"));
        browser.SeeText("more than the 4.0 Pa it may");
        browser.Type("run-1", "99");
        browser.SeeText("Length of the run must lie between");
        browser.Type("run-1", "2.3");
        // Its end is drawn out by keys in the elevation: five centimetres.
        browser.Script("document.querySelector(\"[role=slider][aria-label='Run 2 of the duct']\").dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))");
        browser.Until(() => App.Scalar<double?>($"select (entry->'runs'->1->>'lengthM')::float8 from station_entries where visit_id = '{visit}' and station = 'outside-air'") == 2.35 ? "longer" : null, "the run is as long as before");
        ScreenTests.AssertAccessible(browser, "outside air");
        browser.Go($"/visits/{visit}/air/dampers");
        browser.Type("damper-highFireDraftPa", "22");
        browser.Click(By.XPath("//label[contains(., 'A plate sits in the pipe')]/input"));
        browser.SeeText("Take the plate out");
        browser.Type("damper-highFireDraftPa", "34");
        browser.Type("damper-regulatorPa", "20");
        browser.SeeText("the regulator takes");
        browser.Go($"/visits/{visit}/arrive/room-plan");
        browser.Click(By.XPath("//button[.='+ back']"));
        browser.Type("thing-0-found", "420");
        browser.SeeText("494 mm are missing");
        // The wall moves by the keys, too: a centimetre.
        browser.Script("document.querySelector(\"[role=slider][aria-label^='wall behind']\").dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))");
        browser.SeeText("484 mm are missing");
        browser.Click(By.XPath("//label[contains(., 'Scorched')]/input"));
        browser.SeeText("scorched: no fire");
        ScreenTests.AssertAccessible(browser, "room plan");
        browser.Go($"/visits/{visit}/arrive/hearth");
        browser.Click(By.XPath("//button[.='+ ceramic tile']"));
        browser.Type("hearth-requiredRM2KW", "0.3");
        browser.SeeText("Thinnest and cheapest: 1 × Mineral board 20 mm");
        browser.Go($"/visits/{visit}/hot-test/surfaces");
        browser.Click(By.XPath("//button[.='+ mantel']"));
        browser.Type("spot-0-readC", "59.4");
        browser.Type("surface-gasNowC", "200");
        browser.SeeText("more than the 65 K it may");
        // It lies on the plan and on the elevation, and is moved there: higher by a centimetre.
        browser.Script("document.querySelector(\"[role=slider][aria-label='mantel, height above the floor']\").dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp', bubbles: true }))");
        browser.Until(() => App.Scalar<double?>($"select (entry->'spots'->0->>'heightMm')::float8 from station_entries where visit_id = '{visit}' and station = 'surfaces'") == 1410 ? "higher" : null, "it lies where it lay");
        ScreenTests.AssertAccessible(browser, "surfaces");
        browser.Go($"/visits/{visit}/cold-checks/air-controls");
        browser.Click(By.XPath("//button[.='+ primary']"));
        browser.SeeText("Saved");
        browser.Go($"/visits/{visit}/hot-test/air-controls");
        browser.Type("control-0-closed-calmS", "90");
        browser.SeeText("Primary shut: the flames follow within 90 s.");
        ScreenTests.AssertAccessible(browser, "controls with a fire");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void The_household_reads_its_page_without_a_script_on_a_narrow_telephone()
    {
        using var browser = new Browser(App, width: 320);
        browser.SignIn("owner");
        var visit = Visit("a.kind = 'insert'");
        browser.Go($"/visits/{visit}/next");
        browser.Click(By.XPath("//button[.='Make the page']"));
        var address = browser.See(By.XPath("//a[contains(@href, '/h/')]")).GetAttribute("href")!;
        browser.Command("Emulation.setScriptExecutionDisabled", ("value", true));
        browser.Driver.Navigate().GoToUrl($"{address}?lang=de");
        Assert.Contains("Anheizen, von oben", browser.Driver.PageSource, StringComparison.Ordinal);
        browser.Driver.FindElement(By.XPath("//form[.//input[@value='night']]//input[@name='kg']")).SendKeys("8,5");
        browser.Driver.FindElement(By.XPath("//form[.//input[@value='night']]//input[@name='hours']")).SendKeys("9");
        browser.Driver.FindElement(By.XPath("//form[.//input[@value='night']]//button")).Click();
        browser.Until(() => browser.Driver.PageSource.Contains("Das Büro sieht es", StringComparison.Ordinal) ? "told" : null, "nothing was told");
        browser.Driver.FindElement(By.CssSelector("input[name='glass']")).SendKeys(Path.Combine(GrateApp.Repository, "docs/screenshots/stove.png"));
        browser.Driver.FindElement(By.XPath("//form[.//input[@value='glass']]//button")).Click();
        browser.Until(() => App.Scalar<long>("select count(*) from household_notes where kind = 'glass'") == 1 ? "sent" : null, "no picture came");
        browser.Command("Emulation.setScriptExecutionDisabled", ("value", false));
        browser.Driver.Navigate().Refresh();
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 320);
        // The technician sees it before the visit.
        browser.Go($"/visits/{visit}/booking");
        browser.SeeText("a night of 9 h on 8.5 kg");
        browser.SeeText("a picture of the glass");
        browser.Go($"/visits/{visit}/next");
        browser.Click(By.XPath("//button[.='Withdraw it']"));
        browser.See(By.XPath("//button[.='Make the page']"));
        browser.Driver.Navigate().GoToUrl(address);
        Assert.Contains("no longer there", browser.Driver.PageSource, StringComparison.Ordinal);
    }
}
