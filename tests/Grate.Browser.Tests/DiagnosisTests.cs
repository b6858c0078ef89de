using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>From the first telephone call to what it was, only by what the screens offer.</summary>
public class DiagnosisTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Fact]
    public void A_stove_that_will_not_turn_down_is_told_suspected_tested_and_named()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(3);
        browser.Step("booking");
        browser.SeeText("Nothing was told yet");
        browser.Click(By.XPath("//summary[contains(., 'questions')]"));
        void Say(string question, string to) => browser.Tap(By.XPath($"//div[@role='radiogroup' and @aria-label='{question}']/button[.='{to}']"));
        Say("Burns on with the air shut?", "yes");
        browser.SeeText("Most likely door rope worn");
        Say("Slowly worse over weeks or seasons?", "yes");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name like 'told.%'") == 2 ? "kept" : null, "what was told is not kept");
        // It stands under the drawing at every step; tapped it tells why, and lights up.
        browser.Step("cold-checks");
        var suspect = By.XPath("//section[@aria-labelledby='suspected']//button[contains(., 'door rope worn')]");
        browser.Click(suspect);
        browser.SeeText("+ burns on with the air shut");
        browser.SeeText("What cures it: new rope");
        browser.See(By.CssSelector("[aria-label^='door rope:'] rect.stroke-primary"));
        ScreenTests.AssertAccessible(browser, "suspects in a visit");
        // The next test leads to its station; what is entered there is weighed at once.
        browser.Click(By.XPath("//section[@aria-labelledby='suspected']//a[contains(., 'Strips slip at the door')]"));
        browser.Until(() => browser.Driver.Url.EndsWith("/cold-checks/door-look", StringComparison.Ordinal) ? "there" : null, "the test did not lead to its station");
        var before = browser.See(By.CssSelector("section[aria-labelledby=suspected] button .computed")).Text;
        browser.Step("inside");
        browser.Tap(By.CssSelector("[data-part=baffle] button:nth-of-type(1)"));
        browser.Until(() => app.Scalar<long>($"select count(*) from findings where visit_id = '{visit}' and part = 'baffle'") == 1 ? "kept" : null, "the mark is not kept");
        // Named at the end, with its proof still open.
        browser.Step("agree");
        browser.Tap(By.XPath("//label[contains(normalize-space(.), 'door rope worn')]/input"));
        browser.SeeText("Held to be door rope worn");
        browser.SeeText("nothing proves it yet");
        ScreenTests.AssertAccessible(browser, "what it was");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name = 'trouble.cause.door-rope'") == 1 ? "kept" : null, "the cause is not kept");
        Assert.Matches("^[0-9]+ %$", before);
        browser.Go("/troubles");
        browser.SeeText("troubles were closed");
        ScreenTests.AssertAccessible(browser, "troubles");
        // Only the owner sets numbers of the table.
        Assert.Empty(browser.Driver.FindElements(By.CssSelector("table input")));
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Burns_on_and_goes_through_wood_from_the_call_by_keys_to_the_new_rope_and_the_air_that_closes()
    {
        using var browser = new Browser(app);
        browser.SignIn("owner");
        var who = app.Scalar<string>("select c.name || '|' || s.street from appliances a join sites s on s.id = a.site_id join customers c on c.id = s.customer_id where a.kind = 'multi-fuel' and not exists (select from visits v where v.appliance_id = a.id and v.state = 'open') and not exists (select from safety_stops t where t.appliance_id = a.id and t.cleared_at is null) order by c.name limit 1").Split('|');
        browser.Driver.FindElement(By.TagName("body")).Click();
        browser.Press("c");
        browser.See(By.CssSelector("input[type=search]")).SendKeys(string.Join(' ', who));
        browser.Click(By.XPath($"//li/button[contains(., '{who[1]}')]"));
        browser.SeeText("Nothing was told yet");
        // The question in focus is answered by y, n or ?; what nobody knows is not asked again.
        string Next() => browser.See(By.XPath("//h4[.='Ask next']/following-sibling::ul/li[1]/span")).Text;
        string[] yes = ["Burns on with the air shut?", "Goes through wood, no coals by morning?"];
        var (asked, told) = (new HashSet<string>(), 0);
        while (told < 2 && asked.Count < 30)
        {
            var question = Next();
            Assert.True(asked.Add(question), $"{question} is asked again");
            told += yes.Contains(question) ? 1 : 0;
            browser.Press(yes.Contains(question) ? "y" : "?");
            browser.Until(() => Next() == question ? null : "next", $"{question} stays in focus");
        }
        Assert.Equal(2, told);
        browser.SeeText("door rope worn");
        browser.SeeText("min of questions and tests are to be expected");
        browser.Type("words", "Closing the air changes nothing");
        browser.Click(By.XPath("//button[.='Onto the list of loose ones']"));
        browser.Click(By.XPath("//section[@aria-labelledby='loose']//button[contains(., 'Closing the air')]"));
        browser.Until(() => browser.Driver.FindElement(By.CssSelector("input[type=time]")).GetAttribute("value") is { Length: 5 } ? "proposed" : null, "no free time");
        browser.Click(By.XPath("//button[.='Plan it']"));
        // What the stove wants may not be there yet: that is asked back once.
        if (browser.Until(() => browser.Text.Contains("Plan it all the same?", StringComparison.Ordinal) ? "asked" : browser.Text.Contains(": planned.", StringComparison.Ordinal) ? "planned" : null, "it is not planned") == "asked")
            browser.Click(By.XPath("//button[.='Yes, plan it']"));
        browser.SeeText(": planned.");
        var visit = app.Scalar<Guid>("select visit_id from calls where words = 'Closing the air changes nothing'");
        // The van takes what the suspects would need, and why.
        browser.Go($"/visits/{visit}/load");
        browser.SeeText("it would save a second drive");
        // What settles it: strips round the door, all slipping, the rope flat.
        browser.Go($"/visits/{visit}/cold-checks/door-strips");
        browser.SeeText("Point 1 of 13");
        browser.Script("document.querySelector(\"[aria-label='Grade of this point'] button\").focus()");
        browser.Press("3300000000033");
        browser.SeeText("of the round leaks");
        browser.Until(() => app.Scalar<double?>($"select value from station_facts where visit_id = '{visit}' and name like 'door.%share%'") > 0.3 ? "kept" : null, "the strips are not kept");
        // A new rope, strips again, and a fire that the closed air puts out.
        browser.Go($"/visits/{visit}/back-together/seals");
        browser.SeeText("choose its rope");
        browser.Type("door-widthMm", "10");
        browser.Type("door-depthMm", "6");
        browser.Type("door-lineM", "1.72");
        foreach (var task in new[] { "off", "bare", "dry-laid", "laid", "trimmed", "refitted" })
            browser.Script($"const box = document.querySelector('[data-task={task}]'); box.scrollIntoView({{ block: 'center' }}); box.click()");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name = 'seal.door.fitted'") == 1 ? "fitted" : null, "the new rope is not kept");
        Assert.Equal(0, app.Scalar<long>($"select count(*) from safety_stops where visit_id = '{visit}' and code = 'seal-out' and cleared_at is null"));
        browser.Go($"/visits/{visit}/hot-test/closed-air");
        browser.Click(By.XPath("//button[.='Closes fully']"));
        browser.Type("collapseS", "60");
        browser.Type("reviveS", "5");
        browser.SeeText("this fire can be turned down");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name = 'door.collapse-s' and value = 60") == 1 ? "saved" : null, "not saved");
        // What was found before the new rope is its proof.
        browser.Step("agree");
        browser.Tap(By.XPath("//label[contains(normalize-space(.), 'door rope worn')]/input"));
        browser.Type("cause-minutes", "14");
        browser.SeeText("It was door rope worn: proved, strips slip at the door.");
        browser.SeeText("It took 14 min;");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void A_tight_house_is_found_by_the_window_and_the_live_gauge()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(4);
        browser.Step("booking");
        browser.Click(By.XPath("//summary[contains(., 'questions')]"));
        foreach (var question in (string[])["Cold air along the floor to the stove?", "Smoke in the room while lighting?", "New windows, insulation or hood since?"])
            browser.Tap(By.XPath($"//div[@role='radiogroup' and @aria-label='{question}']/button[.='yes']"));
        browser.SeeText("Most likely tight or stack-driven house");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name like 'told.%'") == 3 ? "kept" : null, "what was told is not kept");
        var before = app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name = 'hot.window-gain-pa'");
        browser.HotDraft();
        app.Play("fan-on");
        browser.Click(By.XPath("//button[.='Connect instruments']"));
        browser.SeeText("in the last");
        FlueTests.SettleRoom(browser);
        browser.Click(By.XPath("//button[.='Hold']"));
        browser.Until(() => browser.See(By.Id("draftPa")).GetAttribute("value") is { Length: > 0 } value ? value : null, "nothing held");
        browser.Click(By.XPath("//button[starts-with(., 'Window test')]"));
        app.Play("fan-on", window: true);
        FlueTests.SettleRoom(browser);
        browser.Type("windowPa", FlueTests.Live(browser).ToString("F1", System.Globalization.CultureInfo.InvariantCulture));
        browser.SeeText("It is the house: with the window open");
        Assert.Equal(0, before);
        browser.Until(() => app.Scalar<double?>($"select value from station_facts where visit_id = '{visit}' and name = 'hot.window-gain-pa'") > 2 ? "gained" : null, "the window's gain is not kept");
        app.Play("steady");
        // The suspects take it in by themselves; named at the end it is proved by that window.
        browser.Step("agree");
        browser.Tap(By.XPath("//label[contains(normalize-space(.), 'tight or stack-driven house')]/input"));
        browser.SeeText("proved, an open window helps");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void An_alarm_is_told_what_to_do_before_any_question_and_never_solved_by_telephone()
    {
        using var browser = new Browser(app, width: 390, height: 844);
        browser.SignIn("office");
        browser.Go("/call");
        browser.See(By.CssSelector("input[type=search]")).SendKeys("Anwick");
        browser.Click(By.XPath("//li/button[contains(., 'Anwick')]"));
        browser.Click(By.XPath("//button[contains(., 'CO alarm, headache, dizzy')]"));
        browser.SeeText("Everybody out, at once.");
        browser.SeeText("A CO alarm sounded. Everybody out, at once.");
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[starts-with(., 'Solved')]")));
        ScreenTests.AssertAccessible(browser, "an alarm");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        browser.Type("words", "The alarm in the hall sounds");
        // A look elsewhere in the middle of the call, and a reload: what was said is there, and is sent once.
        browser.Go("/week");
        browser.SeeText("A brick is a visit");
        browser.Go("/call");
        browser.SeeText("Typed before and not kept yet.");
        Assert.Equal("The alarm in the hall sounds", browser.See(By.Id("words")).GetAttribute("value"));
        browser.SeeText("A CO alarm sounded. Everybody out, at once.");
        browser.Tap(By.XPath("//button[.='Onto the list of loose ones']"));
        browser.SeeText("Cannot wait.");
        Assert.True(app.Scalar<bool>("select urgent and told->>'co-alarm' = 'true' from calls where words = 'The alarm in the hall sounds'"));
        browser.Go("/call");
        browser.See(By.CssSelector("input[type=search]"));
        Assert.DoesNotContain("Typed before", browser.Text, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints());
    }
}
