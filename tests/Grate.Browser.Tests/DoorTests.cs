using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>The commonest complaint of the trade: it burns on with the air shut.</summary>
public class DoorTests(GrateApp app) : IClassFixture<GrateApp>
{
    // Round the door from the foot of the hinge side: weak beside and below the latch.
    private const string Found = "3333333200333";
    private static readonly By _grades = By.CssSelector("[aria-label='Grade of this point'] button");

    private static void Open(Browser browser, string visit, string step, string station, string said)
    {
        browser.Go($"/visits/{visit}/{step}/{station}");
        browser.SeeText(said);
    }

    private static int Graded(Browser browser) => browser.Driver.FindElements(By.CssSelector("[data-spot]")).Count(s => !s.GetAttribute("aria-label")!.Contains("not pulled", StringComparison.Ordinal));

    [Fact]
    public void Burns_on_strips_latch_new_rope_and_the_fire_can_be_turned_down_by_thumb()
    {
        using var browser = new Browser(app, width: 390, height: 844);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        Open(browser, visit, "hot-test", "closed-air", "shut every air control");
        browser.Click(By.XPath("//button[.='Closes fully']"));
        // The watch goes on over a reload, as behind a locked screen.
        browser.Click(By.XPath("//button[.='Air shut']"));
        browser.Until(() => browser.See(By.CssSelector("[data-watch]")).Text.StartsWith("1 s", StringComparison.Ordinal) ? "runs" : null, "the watch does not run");
        browser.Driver.Navigate().Refresh();
        browser.Click(By.XPath("//button[.='Flames gone']"));
        browser.SeeText("this fire can be turned down");
        ScreenTests.AssertAccessible(browser, "air shut");
        browser.Type("collapseS", "400");
        browser.SeeText("it burns on");

        // What is seen decides the words, and the strips take the rope as it was seen.
        Open(browser, visit, "cold-checks", "door-look", "what is seen decides");
        foreach (var seen in new[] { "Flat", "Nothing else", "Has travel left", "None", "Whole, sits firm" })
            browser.Click(By.XPath($"//button[.='{seen}']"));
        browser.SeeText("flat, shiny spots");
        browser.Click(By.XPath("//button[.='All of it']"));
        ScreenTests.AssertAccessible(browser, "look at the door");
        browser.Click(By.XPath("//button[starts-with(., 'Mark door rope')]"));
        browser.Until(() => app.Scalar<string>($"select coalesce(string_agg(part || ' ' || condition, ', ' order by part), '') from findings where visit_id = '{visit}' and part in ('door-rope', 'latch', 'glass')") == "door-rope wearing, glass sound, latch sound" ? "marked" : null, "not marked");

        Open(browser, visit, "cold-checks", "door-strips", "Point 1 of 13");
        PullAll(browser, Found);
        browser.Click(By.XPath("//button[.='All of it']"));
        browser.SeeText("new rope, the latch alone will not cure it");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and name = 'door.grade.latch-3' and value = 0") == 1 ? "saved" : null, "not saved");

        // New rope, in its order; the stove is stopped while its door is off.
        Open(browser, visit, "back-together", "seals", "choose its rope");
        browser.Type("door-widthMm", "10");
        browser.Type("door-depthMm", "6");
        browser.Type("door-lineM", "1.72");
        browser.SeeText("Door: rope of 12 mm, 1.78 m to cut");
        ScreenTests.AssertAccessible(browser, "seals");
        foreach (var task in new[] { "off", "bare", "dry-laid", "laid", "trimmed", "refitted" })
        {
            browser.Script($"const box = document.querySelector('[data-task={task}]'); box.scrollIntoView({{ block: 'center' }}); box.click()");
            if (task == "off")
                browser.Until(() => app.Scalar<long>($"select count(*) from safety_stops where visit_id = '{visit}' and code = 'seal-out' and cleared_at is null") == 1 ? "stopped" : null, "no stop");
        }
        browser.Until(() => app.Scalar<long>($"select count(*) from safety_stops where visit_id = '{visit}' and code = 'seal-out' and cleared_at is not null") == 1 ? "over" : null, "the stop stands");

        // Afterwards: the map before stands behind the new one.
        Open(browser, visit, "back-together", "door-strips", "Point 1 of 13");
        Assert.Equal(0, Graded(browser));
        Assert.Contains("before the work 0", browser.See(By.CssSelector("[data-spot=latch-2]")).GetAttribute("aria-label"), StringComparison.Ordinal);
        PullAll(browser, new string('3', 13));
        browser.SeeText("the door is tight all round");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        Open(browser, visit, "hot-test", "closed-air", "it burns on");
        browser.Type("collapseS", "60");
        browser.Type("reviveS", "5");
        browser.SeeText("this fire can be turned down");
        browser.Until(() => app.Scalar<long>($"select count(*) from station_facts where visit_id = '{visit}' and (name, value) in (('door.collapse-s', 60), ('door.revive-s', 5))") == 2 ? "saved" : null, "not saved");
        browser.Go($"/report/{visit}");
        browser.SeeText("Strips round the door");
        browser.SeeText("latch side, beside the latch");
        browser.SeeText("renewed today");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Strips_go_by_digits_and_bad_sizes_lose_nothing()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(3);
        Open(browser, visit, "cold-checks", "door-strips", "Point 1 of 13");
        browser.Script("document.querySelector(\"[aria-label='Grade of this point'] button\").focus()");
        browser.Press(Found);
        browser.Until(() => Graded(browser) == 13 ? "all" : null, "not every point is graded");
        browser.SeeText("Shut, at");
        ScreenTests.AssertAccessible(browser, "strips");
        // Back to one by the arrows, and another grade.
        browser.Press(Keys.ArrowLeft);
        browser.Press("1");
        browser.Click(By.XPath("//button[.='Add a point after this one']"));
        browser.SeeText("of 14");
        browser.Type("widthM", "9000");
        browser.SeeText("Width and height of the door must lie between 50 and 2000 mm");
        Assert.Equal(14, browser.Driver.FindElements(By.CssSelector("[data-spot]")).Count);
        browser.Type("widthM", "600");
        browser.SeeText("tight or not pulled");
        // The page above it still moves as the answer arrives.
        browser.Tap(By.XPath("//button[.='Pull all strips again']"));
        browser.Until(() => Graded(browser) == 0 ? "none" : null, "grades stayed");
        Assert.Empty(browser.Complaints());
    }

    // One strip after the other; the next point comes by itself.
    private static void PullAll(Browser browser, string grades)
    {
        for (var i = 0; i < grades.Length; i++)
        {
            browser.Until(() => browser.See(By.CssSelector("[data-point]")).Text.Contains($"Point {i + 1} of", StringComparison.Ordinal) ? "next" : null, $"point {i + 1} is not next");
            // Under the reckoning at the foot: a thumb would scroll.
            browser.Script("arguments[0].scrollIntoView({ block: 'center' }); arguments[0].click()", browser.Driver.FindElements(_grades)[grades[i] - '0']);
        }
    }
}
