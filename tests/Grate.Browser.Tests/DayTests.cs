using System.Globalization;
using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>A visit from the morning to its signature on the days that went wrong elsewhere: the end of a week, of a year, a day that is not every year, a clock change.</summary>
public class DayTests
{
    [Theory]
    [InlineData("2027-10-15T07:30:00Z", "15 October")]
    [InlineData("2027-10-17T07:30:00Z", "17 October")]
    [InlineData("2027-12-31T22:30:00Z", "31 December")]
    [InlineData("2028-02-29T08:30:00Z", "29 February")]
    [InlineData("2027-10-31T00:30:00Z", "31 October")]
    public void Visit_is_made_and_signed_on_its_day(string moment, string day)
    {
        using var app = new GrateApp(moment);
        using var browser = new Browser(app);
        browser.SignIn();
        browser.SeeText(day);
        var visit = browser.OpenVisit(0);
        foreach (var step in new[] { "booking", "load", "arrive", "cold-checks", "open-up", "sweep", "inside", "back-together", "air", "hot-test", "agree" })
        {
            browser.Step(step);
            // Flue and door are looked at: it is an inspection.
            if (step is "cold-checks" or "sweep")
                browser.Click(By.CssSelector($"[data-part={(step == "sweep" ? "flue" : "door-rope")}] button:nth-of-type(1)"));
            if (step == "hot-test")
            {
                browser.HotDraft();
                browser.Type("draftPa", "14");
                browser.SeeText("you read 14.0 Pa");
            }
            browser.Click(By.XPath("//button[.='Done, next step']"));
        }
        browser.Step("next");
        browser.SeeText("are not marked");
        browser.GiveReasons("the draft alone was ordered");
        browser.Click(By.XPath("//button[.='Sign and finish' and not(@disabled)]"));
        browser.Click(By.XPath("//button[.='Yes, sign it']"));
        browser.SeeText("It is never changed");
        // A year later by the calendar, the end of February where there is no 29th; and the season knows of it at once.
        var today = DateOnly.FromDateTime(DateTimeOffset.Parse(moment, CultureInfo.InvariantCulture).AddHours(1).DateTime);
        Assert.Equal(today.AddMonths(12), DateOnly.FromDateTime(app.Scalar<DateTime>($"select next_inspection::timestamp from visits where id = '{visit}'")));
        browser.Go("/stoves/" + app.Scalar<Guid>($"select appliance_id from visits where id = '{visit}'"));
        browser.SeeText(today.AddMonths(12).ToString("d MMM", CultureInfo.InvariantCulture));
        browser.Go("/season");
        browser.SeeText("Due and not planned");
        Assert.Empty(browser.Complaints());
    }
}
