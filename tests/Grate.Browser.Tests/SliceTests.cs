using System.Text.RegularExpressions;
using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>The whole slice against the real server and database.</summary>
public class SliceTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Theory]
    [InlineData(false, 0, "9.0", "230", "-5", "-2", "Pa")]
    [InlineData(true, 1, "0.036", "446", "23", "-0.008", "in w.c.")]
    public void From_sign_in_to_printed_report(bool us, int stop, string draft, string gas, string outdoors, string house, string unit)
    {
        using var browser = new Browser(app, us);
        browser.SignIn();
        browser.SeeText("Next door to knock on");
        var visit = browser.OpenVisit(stop);

        // Steps before the hot test; one is skipped with a reason.
        foreach (var step in new[] { "Booking", "Load", "Arrive", "Cold checks", "Open up", "Sweep", "Inside", "Back together" })
        {
            browser.See(By.XPath($"//h2[@id='step-name' and .='{step}']"));
            if (step == "Cold checks")
                browser.Click(By.CssSelector("[data-part=door-rope] button:nth-of-type(1)"));
            if (step == "Sweep")
            {
                browser.Click(By.CssSelector("[data-part=flue] button:nth-of-type(1)"));
                browser.Click(By.CssSelector("[data-part=cap] button:nth-of-type(3)"));
                browser.See(By.CssSelector("[aria-label='Note on cap and screen']")).SendKeys("screen closed by flakes");
                // The mark is in the drawing and in the tray; the sweep opens with the layer Deposits.
                browser.Pick("Condition");
                browser.See(By.CssSelector("[aria-label='cap and screen: spent']"));
            }
            browser.Click(By.XPath("//button[.='Done, next step']"));
        }
        browser.See(By.XPath("//h2[@id='step-name' and .='Air']"));
        browser.Click(By.XPath("//button[.='Skip with a reason']"));
        browser.See(By.CssSelector("[aria-label='Reason for skipping']")).SendKeys("no duct here" + Keys.Enter);

        // The reading is reckoned while it is typed.
        browser.See(By.XPath("//h2[@id='step-name' and .='Hot test']"));
        browser.HotDraft();
        browser.SeeText("This flue should pull");
        browser.Type("gasC", gas);
        browser.Type("outdoorC", outdoors);
        browser.Type("housePa", house);
        browser.Type("draftPa", draft);
        browser.SeeText("At normal fire this flue should pull");
        browser.SeeText($"you read {draft} {unit}");
        browser.SeeText("Something is wrong today");
        foreach (var way in new[] { "Blocked", "Leaking", "House", "Window test" })
            browser.SeeText(way);
        browser.Click(By.XPath("//button[.='Keep as finding']"));
        browser.SeeText($"{draft} {unit}");
        browser.Click(By.XPath("//button[.='Done, next step']"));
        browser.Click(By.XPath("//button[.='Done, next step']"));

        // Finish: what is missing is said, reasoned and asked once more; signed, dated, final.
        browser.See(By.XPath("//tr[td[1][.='Inspection']]"));
        browser.SeeText("parts are not marked");
        Assert.False(browser.See(By.XPath("//button[.='Sign and finish']")).Enabled);
        browser.GiveReasons("the household wanted the draft alone");
        browser.Click(By.XPath("//button[.='Sign and finish' and not(@disabled)]"));
        browser.Click(By.XPath("//button[.='Not yet']"));
        browser.Click(By.XPath("//button[.='Sign and finish' and not(@disabled)]"));
        browser.Click(By.XPath("//button[.='Yes, sign it']"));
        browser.SeeText("It is never changed");
        Assert.Equal("signed", app.Scalar<string>($"select state from visits where id = '{visit}'"));
        Assert.Equal(9.0, app.Scalar<double>($"select value from station_facts where visit_id = '{visit}' and name = 'hot.normal.draft-pa'"), us ? 0.05 : 1e-9);
        Assert.True(app.Scalar<bool>($"select next_inspection = (planned_start at time zone 'Europe/Vienna')::date + interval '12 months' from visits where id = '{visit}'"));

        // The report, on screen and on paper.
        browser.Click(By.XPath("//a[.='Report']"));
        browser.SeeText("Service report");
        browser.SeeText($"{draft} {unit}");
        browser.SeeText("screen closed by flakes");
        browser.SeeText("Air skipped: no duct here.");
        browser.SeeText("Cautions");
        foreach (var (width, height) in new[] { (21.0, 29.7), (21.59, 27.94) })
            Assert.InRange(Pages(browser, width, height), 1, 2);
        Assert.Empty(browser.Complaints());

        // The stove's page shows the reading in its history.
        browser.Go("/stoves/" + app.Scalar<Guid>($"select appliance_id from visits where id = '{visit}'"));
        browser.SeeText("Draft, measured against expected");
        Assert.Equal(us, browser.Text.Contains("in w.c.", StringComparison.Ordinal));
    }

    [Fact]
    public void Unsafe_part_shows_the_stop_everywhere()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.Step("cold-checks");
        // A slip of the thumb stops nothing, and is taken back.
        browser.Click(By.CssSelector("[data-part=latch] button:nth-of-type(4)"));
        browser.SeeText("Not saved: say why");
        browser.Click(By.XPath("//button[.='Take it back']"));
        browser.SeeText("Nothing marked yet");
        Assert.Equal(0L, app.Scalar<long>($"select count(*) from safety_stops s join visits v on v.appliance_id = s.appliance_id where v.id = '{visit}' and s.part = 'latch' and s.cleared_at is null"));
        browser.Click(By.CssSelector("[data-part=latch] button:nth-of-type(4)"));
        browser.Click(By.XPath("//*[@data-part='latch']//select/option[.='The door will not latch: no fire.']"));
        browser.SeeText("No fire until cleared");
        browser.SeeText("The door will not latch: no fire.");
        browser.Go("/today");
        browser.SeeText("no fire");
        browser.Go("/stoves/" + app.Scalar<Guid>($"select appliance_id from visits where id = '{visit}'"));
        browser.SeeText("The door will not latch: no fire.");
        browser.Go("/report/" + visit);
        browser.SeeText("No fire until cleared");
        // The finding taken back, the stop stands; a re-test that passed ends it where it is shown.
        browser.Go("/visits/" + visit);
        browser.Click(By.CssSelector("[aria-label='Take back latch and hinges']"));
        browser.SeeText("Nothing marked yet");
        browser.SeeText("The door will not latch: no fire.");
        browser.ClearStop("keeper bent back", "strips held at the latch");
        browser.SeeText("No stop on this stove");
    }

    [Fact]
    public void Numbers_of_another_unit_are_asked_back_and_impossible_ones_refused()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        browser.OpenVisit(3);
        browser.HotDraft();
        browser.Type("draftPa", "0.06");
        browser.SeeText("Did you mean in w.c.? That would be 14.9 Pa.");
        browser.Click(By.XPath("//button[.='Yes, take it']"));
        browser.SeeText("you read 14.9 Pa");

        browser.Type("outdoorC", "140");
        browser.SeeText("Outdoor temperature must lie between −60 and 50 °C; 140 °C was entered.");
        browser.SeeText("Not saved: Hot draft has an entry that cannot be used");
        Assert.Equal("140", browser.See(By.Id("outdoorC")).GetAttribute("value"));
        Assert.Equal("14.9", browser.See(By.Id("draftPa")).GetAttribute("value"));
        browser.Type("outdoorC", "4");
        browser.SeeText("Saved");
    }

    [Fact]
    public void Stop_is_cleared_on_the_stoves_page_by_a_passed_retest()
    {
        using var browser = new Browser(app);
        browser.SignIn("owner");
        var stove = app.Scalar<Guid>("select appliance_id from safety_stops where cleared_at is null and code = 'baffle' limit 1");
        browser.Go($"/stoves/{stove}");
        browser.SeeText("No fire until cleared");
        browser.ClearStop("new board fitted", "hot test, draft as expected");
        browser.SeeText("Cleared by Tobin Ashcombe");
        Assert.DoesNotContain("No fire until cleared", browser.Text, StringComparison.Ordinal);
    }

    [Fact]
    public void Signed_visit_takes_additions_only()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = app.Scalar<Guid>("select v.id from visits v join people p on p.id = v.technician_id where p.email = 'technician@demo.example' and state = 'signed' order by planned_start limit 1");
        browser.Go($"/visits/{visit}");
        browser.SeeText("It is never changed");
        browser.Step("sweep");
        Assert.False(browser.See(By.CssSelector("[data-part=flue] button")).Enabled);
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[.='Done, next step']")));
        browser.Step("next");
        browser.See(By.Id("addition")).SendKeys("rope was 12 mm");
        browser.Click(By.XPath("//button[.='Add']"));
        browser.SeeText("rope was 12 mm Ida Varnholt");
    }

    private static int Pages(Browser browser, double widthCm, double heightCm)
    {
        var pdf = ((ISupportsPrint)browser.Driver).Print(new PrintOptions { PageDimensions = new PrintOptions.PageSize { Width = widthCm, Height = heightCm } }).AsByteArray;
        return Regex.Count(System.Text.Encoding.Latin1.GetString(pdf), @"/Type\s*/Page[^s]");
    }
}
