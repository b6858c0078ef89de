using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace Grate.Browser.Tests;

/// <summary>A day's round, laid anew when somebody falls out.</summary>
public class RoundTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Fact]
    public void A_day_falls_out_is_laid_anew_and_printed()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/week");
        // While it is dragged it says what it would cost; carried back it stays.
        var brick = browser.See(By.XPath("(//ul[@data-lane and @aria-label='Ida Varnholt']//button)[3]"));
        var hour = browser.See(By.CssSelector("ul[data-lane]")).Size.Width / 9;
        new Actions(browser.Driver).ClickAndHold(brick).MoveByOffset(hour, 0).MoveByOffset(hour / 4, 0).Perform();
        browser.Until(() => browser.Driver.FindElement(By.CssSelector("[data-cost]")).Text is { Length: > 0 } cost && cost.Contains("Ida Varnholt at", StringComparison.Ordinal) ? cost : null, "no cost is told");
        new Actions(browser.Driver).MoveByOffset(-hour - hour / 4, 0).Release().Perform();
        browser.Click(By.XPath("//a[contains(., 'The day')]"));
        browser.SeeText("Round of 13 Oct 2027");
        browser.SeeText("Light from");
        browser.See(By.XPath("//*[name()='svg' and starts-with(@aria-label, 'The valley:')]"));
        ScreenTests.AssertAccessible(browser, "day round");
        // Jorun is ill: her stops go to the others, or it is said why not.
        var hers = app.Scalar<long>("select count(*) from visits v join people p on p.id = v.technician_id where p.name = 'Jorun Pellow' and v.state = 'open' and v.planned_start::date = '2027-10-13'");
        browser.Tap(By.XPath("//label[contains(., 'Jorun Pellow is ill')]/input"));
        browser.Click(By.XPath("//button[.='Look for it']"));
        browser.SeeText("of driving instead of");
        var moves = browser.Driver.FindElements(By.XPath("//section[@aria-labelledby='better']//li")).Select(m => m.Text).ToList();
        Assert.InRange(moves.Count(m => m.Contains("Jorun Pellow", StringComparison.Ordinal)), 1, (int)hers);
        Assert.DoesNotContain(moves, m => m.Contains("→ Jorun Pellow", StringComparison.Ordinal));
        browser.Click(By.XPath("//button[.='Move them']"));
        browser.SeeText("Tell the households from the week.");
        Assert.True(app.Scalar<long>("select count(*) from visit_log where what like 'Moved with the round:%'") > 0);
        // The sheet holds what the day needs; on a phone nothing stands over the edge.
        browser.SeeText("Leaves at");
        Assert.Contains("geojson", browser.See(By.XPath("//a[.='GeoJSON']")).GetAttribute("href"), StringComparison.Ordinal);
        browser.Script("window.print = () => { window.printed = true }");
        browser.Click(By.XPath("//button[.='Print the sheet']"));
        Assert.True((bool)browser.Script("return window.printed === true")!);
        Assert.Empty(browser.Complaints());
        // On the road: what is left shifts, and on a phone nothing stands over the edge.
        using var phone = new Browser(app, width: 390, height: 844);
        phone.SignIn();
        phone.Tap(By.XPath("//button[.='Shift the rest']"));
        phone.Until(() => phone.Text.Contains("tell them", StringComparison.Ordinal) || phone.Text.Contains("nothing is pulled forward", StringComparison.Ordinal) || phone.Text.Contains("Nothing is left of today", StringComparison.Ordinal) ? "said" : null, "nothing is said of the rest");
        ScreenTests.AssertAccessible(phone, "running late");
        phone.Go("/week/round");
        phone.SeeText("Leaves at");
        Assert.True((long)phone.Script("return document.documentElement.scrollWidth")! <= 390);
        Assert.Empty(phone.Complaints());
    }

    [Fact]
    public void A_week_is_looked_through_halted_looked_at_day_by_day_and_taken()
    {
        // Twenty visits to and fro, on two days of next week.
        app.Scalar<long>("""
            with stoves as (select a.id, (select id from flue_versions where appliance_id = a.id order by number desc limit 1) as flue, row_number() over (order by md5(a.id::text)) - 1 as n
                from appliances a where a.out_at is null and not exists (select from visits v where v.appliance_id = a.id and v.state = 'open') limit 20),
            goers as (select id, row_number() over (order by name) - 1 as n from people where role = 'technician'),
            laid as (insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose)
                select gen_random_uuid(), s.id, s.flue, g.id, timestamptz '2027-10-18 06:00Z' + (s.n / 12) * interval '1 day' + (s.n % 4) * interval '2 hours', timestamptz '2027-10-18 07:00Z' + (s.n / 12) * interval '1 day' + (s.n % 4) * interval '2 hours', 'sweep'
                from stoves s join goers g on g.n = (s.n / 4) % 3 returning 1)
            select count(*) from laid
            """);
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/week/round?day=2027-10-18");
        browser.Tap(By.XPath("//label[contains(., 'within the week')]/input"));
        browser.Click(By.XPath("//button[.='Look for it']"));
        browser.SeeText("of driving so far");
        // Left and come back to, it goes on; halted it has what was found by then.
        browser.Go("/week?day=2027-10-18");
        browser.Go("/week/round?day=2027-10-18");
        browser.Click(By.XPath("//button[contains(., 'Stop, and take the best so far')]"));
        browser.SeeText("to another day");
        ScreenTests.AssertAccessible(browser, "week's round");
        browser.Click(By.XPath("//div[@aria-label='Days']//button[contains(., 'Tue 19 Oct')]"));
        browser.See(By.XPath("//div[@aria-label='Days']//button[@aria-pressed='true' and contains(., 'Tue 19 Oct')]"));
        browser.Click(By.XPath("//button[.='Move them']"));
        browser.SeeText("Tell the households from the week.");
        Assert.True(app.Scalar<long>("select count(*) from visit_log where what like 'Moved with the round:%2027-10-1_ __:__; it was 2027-10-1%'") > 0);
        // What was taken is not offered again; another wish drops what was found.
        browser.See(By.XPath("//button[.='Look for it']"));
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[.='Move them']")));
        Assert.Empty(browser.Complaints());
    }
}
