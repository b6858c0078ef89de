using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>Every screen: accessible in both themes, usable on a phone, by keys, and without foreign content.</summary>
public class ScreenTests(GrateApp app) : IClassFixture<GrateApp>
{
    private static readonly string _axe = File.ReadAllText(Path.Combine(GrateApp.Repository, "web/node_modules/axe-core/axe.min.js"));

    private static readonly (string Path, string Sign)[] _screens =
    [
        ("/today", "Your round"), ("/stoves", "Inspection by"), ("/visits/{visit}", "Findings"), ("/stoves/{stove}", "What it should pull"),
        ("/stoves/{stove}/flue", "What it would do"), ("/season", "Due and not planned"), ("/week", "A brick is a visit"), ("/firm", "The owner changes this"), ("/report/{visit}", "Cautions"),
    ];

    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public void No_screen_has_a_serious_barrier(bool dark)
    {
        using var browser = new Browser(app, dark: dark);
        browser.Go("/sign-in");
        browser.SeeText("draught-and-ember");
        AssertAccessible(browser, "/sign-in");
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.HotDraft();
        browser.SeeText("This flue should pull");
        AssertAccessible(browser, "hot test");
        browser.Pick("Heat");
        browser.Click(By.XPath("//button[starts-with(., 'Fans test')]"));
        AssertAccessible(browser, "hot test, fans, layer Heat");
        foreach (var (step, said) in new[] { ("arrive", "A year burns"), ("cold-checks", "Cold, this flue should stand at"), ("sweep", "The sweep, in its order") })
        {
            browser.Step(step);
            browser.SeeText(said);
            AssertAccessible(browser, step);
        }
        foreach (var (path, sign) in _screens)
        {
            Open(browser, visit, path, sign);
            AssertAccessible(browser, path);
        }
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Report_of_the_dark_theme_prints_dark_on_white()
    {
        using var browser = new Browser(app, dark: true);
        browser.SignIn();
        Open(browser, browser.OpenVisit(2), "/report/{visit}", "Cautions");
        browser.Command("Emulation.setEmulatedMedia", ("media", "print"));
        Assert.Equal("rgb(255, 255, 255)", browser.Script("return getComputedStyle(document.body).backgroundColor"));
        var dark = (IReadOnlyCollection<object>)browser.Script("""
            return [...document.body.querySelectorAll('*')].filter((e) => e.getClientRects().length)
                .map((e) => getComputedStyle(e).backgroundColor).filter((c) => !/, 0\)$/.test(c) && c.match(/[\d.]+/g).slice(0, 3).some((v) => v < 180))
            """)!;
        Assert.Empty(dark);
        AssertAccessible(browser, "printed report");
    }

    [Fact]
    public void Every_screen_fits_a_phone()
    {
        using var browser = new Browser(app, width: 390, height: 844);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        foreach (var step in new[] { "arrive", "cold-checks", "hot-test", "sweep" })
        {
            browser.Go($"/visits/{visit}");
            browser.Step(step);
            if (step == "hot-test")
                browser.HotDraft();
            browser.SeeText(step == "hot-test" ? "This flue should pull" : step == "sweep" ? "The sweep, in its order" : step == "arrive" ? "A year burns" : "Cold, this flue");
            AssertFits(browser, step);
        }
        foreach (var (path, sign) in _screens.Where(s => !s.Path.StartsWith("/report", StringComparison.Ordinal)))
        {
            Open(browser, visit, path, sign);
            AssertFits(browser, path);
        }
        // Every place is reached from a phone, too.
        browser.Go("/today");
        browser.SeeText("Your round");
        Assert.Equal(["Today", "Households", "Week", "Season", "Stock", "Firm", "Account"], browser.Driver.FindElements(By.CssSelector("nav[aria-label=Main] a")).Where(a => a.Displayed && a.Location.X + a.Size.Width <= 390).Select(a => a.Text));
    }

    // As wide as the phone, and no number is cut: 455 that reads 45 is another measure.
    private static void AssertFits(Browser browser, string what)
    {
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390, $"{what} is wider than a phone");
        Assert.Equal("", browser.Script("return [...document.querySelectorAll('input')].filter((e) => e.clientWidth > 0 && e.value && e.scrollWidth > e.clientWidth + 1).map((e) => `${e.id}: ${e.value}`).join('; ')"));
    }

    [Fact]
    public void Everything_goes_by_keys()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.Press("h");
        browser.See(By.XPath("//h1[.='Stoves']"));
        browser.Press("f");
        browser.Until(() => browser.Driver.SwitchTo().ActiveElement().GetAttribute("type") == "search" ? "search" : null, "the search has no focus");
        browser.Press("cookstove" + Keys.Enter);
        browser.SeeText("Kitchen range");
        browser.Script("document.activeElement.blur()");
        browser.Press("s");
        browser.See(By.XPath("//h1[.='Season']"));
        browser.SeeText("Due and not planned");
        browser.Press(Keys.ArrowRight);
        var first = browser.See(By.XPath("//h2[starts-with(., 'Due in the week of')]")).Text;
        browser.Press(Keys.ArrowRight);
        browser.Until(() => browser.See(By.Id("due")).Text is var now && now != first ? now : null, "no next week");
        browser.Press(Keys.ArrowLeft);
        browser.Until(() => browser.See(By.Id("due")).Text == first ? first : null, "no week before");
        browser.Press("a");
        browser.SeeText("Due and not planned");
        browser.Press("t");
        browser.SeeText("Your round");
        browser.Press("u");
        browser.SeeText("in w.c.");
        browser.Press("k");
        browser.SeeText("this list");
        browser.Press(Keys.Escape);

        browser.OpenVisit(2);
        browser.Press(Keys.PageDown);
        browser.See(By.XPath("//h2[@id='step-name' and .='Load']"));
        browser.Press(Keys.PageDown);
        browser.See(By.XPath("//h2[@id='step-name' and .='Arrive']"));
        browser.Press(Keys.PageUp);
        browser.See(By.XPath("//h2[@id='step-name' and .='Load']"));
        browser.Press("d");
        Assert.Equal("true", browser.See(By.XPath("//button[@role='radio' and .='Pull']")).GetAttribute("aria-checked"));
        browser.Step("inside");
        browser.Script("document.querySelector('[data-part=bricks] button').focus()");
        browser.Press("2");
        browser.See(By.XPath("//*[@data-part='bricks']//button[@aria-checked='true' and contains(., 'Wearing')]"));
        browser.Press(Keys.ArrowLeft);
        browser.See(By.XPath("//*[@data-part='bricks']//button[@aria-checked='true' and contains(., 'Sound')]"));
    }

    // Days and times are the firm's, wherever the browser thinks it is: ten hours west of UTC, fourteen east.
    [Fact]
    public void Every_screen_says_the_same_in_every_time_zone()
    {
        List<string> Said(string zone)
        {
            using var browser = new Browser(app, zone: zone);
            browser.SignIn();
            Assert.Equal(zone, browser.Script("return Intl.DateTimeFormat().resolvedOptions().timeZone"));
            var visit = browser.OpenVisit(2);
            var said = new List<string>();
            foreach (var (path, sign) in _screens)
            {
                Open(browser, visit, path, sign);
                browser.Until(() => browser.Driver.FindElements(By.CssSelector("[aria-busy=true]")).Count == 0 ? "all" : null, $"{path} is still reading");
                said.Add(browser.Text);
            }
            return said;
        }
        var atHome = Said("Europe/Vienna");
        Assert.Contains("13 October", atHome[0], StringComparison.Ordinal);
        Assert.Equal(atHome, Said("Pacific/Honolulu"));
        Assert.Equal(atHome, Said("Pacific/Kiritimati"));
    }

    [Fact]
    public void Search_and_empty_result_are_told()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/stoves");
        browser.See(By.CssSelector("input[type=search]")).SendKeys("no such stove");
        browser.SeeText("No stove has all of these words");
        browser.Go("/nowhere");
        browser.SeeText("There is no such page");
    }

    private void Open(Browser browser, string visit, string path, string sign)
    {
        browser.Go(path.Replace("{visit}", visit, StringComparison.Ordinal)
            .Replace("{stove}", app.Scalar<Guid>($"select appliance_id from visits where id = '{visit}'").ToString(), StringComparison.Ordinal));
        browser.SeeText(sign);
    }

    // axe-core (npm): no violation of impact serious or critical.
    internal static void AssertAccessible(Browser browser, string screen)
    {
        browser.Script(_axe);
        var found = (string)browser.Driver.ExecuteAsyncScript("""
            const done = arguments[arguments.length - 1];
            axe.run({ resultTypes: ['violations'] }).then((r) => done(r.violations
              .filter((v) => v.impact === 'serious' || v.impact === 'critical')
              .map((v) => v.id + ': ' + v.nodes.map((n) => n.html.slice(0, 160) + ' ' + n.failureSummary).slice(0, 3).join(' | ')).join('\n')));
            """)!;
        Assert.True(found.Length == 0, $"{screen}: {found}");
    }
}
