using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>The season's plan: made, looked at, taken by the visit and by the week.</summary>
public class SeasonTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Fact]
    public void Season_is_planned_and_a_week_is_taken_with_letters()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/season");
        browser.Click(By.XPath("//a[contains(., 'season')][contains(@href, '/season/plan')]"));
        browser.SeeText("Nothing is planned until you take a week");
        browser.Click(By.XPath("//button[.='Plan the season']"));
        browser.SeeText("visits have their week");
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[.='Plan it anew']")).Count > 0 ? "made" : null, "it is not made");
        ScreenTests.AssertAccessible(browser, "season's plan");
        // The first week with two visits or more: one is taken alone, then the rest.
        var week = browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-plan-week]")).FirstOrDefault(w => w.Text.Contains("visits", StringComparison.Ordinal)), "no week holds two visits").GetAttribute("data-plan-week")!;
        browser.Click(By.CssSelector($"[data-plan-week='{week}'] > button"));
        var open = app.Scalar<long>("select count(*) from visits where state = 'open'");
        browser.Click(By.XPath($"//*[@data-plan-week='{week}']//button[.='Take it']"));
        browser.See(By.XPath("//section[@aria-label='What was planned']/p"));
        browser.Click(By.XPath("//button[.='Take the week']"));
        browser.Until(() => browser.Driver.FindElements(By.CssSelector($"[data-plan-week='{week}']")).Count == 0 || browser.Driver.FindElements(By.XPath("//section[@aria-label='What was planned']/p[contains(@class, 'text-error')]")).Count > 0 ? "taken" : null, "the week is not taken");
        Assert.True(app.Scalar<long>("select count(*) from visits where state = 'open'") > open);
        Assert.True(app.Scalar<long>("select count(*) from visit_links") > 0);
        Assert.Empty(browser.Complaints());
        // What was planned is in the week; a technician finds no plan to make.
        using var phone = new Browser(app, width: 390, height: 844, dark: true);
        phone.SignIn("office");
        phone.Go("/season/plan");
        phone.SeeText("Write to the households");
        Assert.True((long)phone.Script("return document.documentElement.scrollWidth")! <= 390);
        Assert.Empty(phone.Complaints());
    }
}
