using System.Globalization;
using System.Text.RegularExpressions;
using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>Wood, sweep, forecast, due list and season in one household, a year after the last visit.</summary>
public class SweepTests(GrateApp app) : IClassFixture<GrateApp>
{
    private static readonly DateTime _today = new(2027, 10, 13);

    // A round of another technician than the one the other tests work with.
    private (string Visit, string Stove) OpenElsewhere(int nth) => (
        app.Scalar<Guid>($"select v.id from visits v join people p on p.id = v.technician_id where v.state = 'open' and p.email like 'jorun%' order by v.planned_start offset {nth} limit 1").ToString(),
        app.Scalar<Guid>($"select v.appliance_id from visits v join people p on p.id = v.technician_id where v.state = 'open' and p.email like 'jorun%' order by v.planned_start offset {nth} limit 1").ToString());

    private static string SweepDue(Browser browser, string stove)
    {
        browser.Go($"/stoves/{stove}");
        return Regex.Match(browser.See(By.XPath("//li[contains(., 'Sweep: last swept')]")).Text, @"\d+ \w+ \d{4}").Value;
    }

    private static DateTime Read(string day) => DateTime.Parse(day.Replace("Sept", "Sep", StringComparison.Ordinal), CultureInfo.InvariantCulture);

    private static string Forecast(Browser browser) => Regex.Match(browser.Text, "The sweep is due by [^.]+\\.[^.]+\\.").Value;

    [Fact]
    public void Two_visits_a_year_apart_teach_the_forecast_and_the_due_list_follows()
    {
        using var browser = new Browser(app);
        browser.SignIn("owner");
        var (visit, stove) = OpenElsewhere(0);
        var before = SweepDue(browser, stove);
        Assert.Contains("learned from 3 pairs of visits", Forecast(browser), StringComparison.Ordinal);

        // Wood on arrival: three pieces by number, slow nights, more of it.
        browser.Go($"/visits/{visit}");
        browser.Step("arrive");
        for (var piece = 0; piece < 3; piece++)
        {
            for (var reading = 0; reading < 3; reading++)
                browser.Type($"piece{piece}-{reading}", "28");
        }
        browser.SeeText("too wet to be burnt");
        browser.Pick("Cords");
        browser.Type("amount", "3");
        browser.SeeText("A year burns");
        browser.SeeText("Saved");

        // The sweep: much more than in the years before, in its order.
        browser.Step("sweep");
        browser.SeeText("median of your last");
        var brush = By.CssSelector("[data-task=swept]");
        Assert.False(browser.See(brush).Enabled);
        browser.SeeText("waits for: fire out, everything cold");
        foreach (var task in browser.Driver.FindElements(By.CssSelector("[data-task]")).Select(t => t.GetAttribute("data-task")!).ToList())
        {
            browser.Until(() => browser.See(By.CssSelector($"[data-task={task}]")).Enabled ? "open" : null, $"{task} still waits");
            browser.Click(By.CssSelector($"[data-task={task}]"));
        }
        // What needs the probe out is taken back with it.
        browser.Click(By.CssSelector("[data-task=probe-out]"));
        browser.Until(() => browser.See(brush).Selected ? null : "taken back", "the brush was in with the probe");
        browser.Click(By.CssSelector("[data-task=probe-out]"));
        browser.Click(brush);
        browser.Pick("2 flakes");
        var gauges = browser.Driver.FindElements(By.CssSelector("input[id$='-mm']")).Select(e => e.GetAttribute("id")!).ToList();
        browser.Type(gauges[0], "4");
        browser.Type(gauges[1], "5.5");
        browser.SeeText("Worst spot 5.5 mm before the sweep");
        browser.Type("sweptL", "6");
        browser.Type("leftMm", "0.2");
        browser.Pick("Daylight");
        browser.SeeText("Looked through by daylight");
        browser.Pick("After");
        browser.SeeText("learned from 4 pairs of visits");
        browser.SeeText("What would move the date");
        browser.SeeText("hot bright fires");
        // No visit is finished with a part off.
        foreach (var step in new[] { "booking", "load", "arrive", "cold-checks", "open-up", "sweep", "inside", "back-together", "air", "hot-test", "agree" })
        {
            browser.Step(step);
            browser.Click(By.XPath("//button[.='Done, next step']"));
        }
        browser.Step("next");
        browser.SeeText("no visit is finished with a part off");
        Assert.False(browser.See(By.XPath("//button[.='Sign and finish']")).Enabled);
        browser.Step("sweep");
        foreach (var task in new[] { "tee-emptied", "refitted" })
        {
            browser.Until(() => browser.See(By.CssSelector($"[data-task={task}]")).Enabled ? "open" : null, $"{task} still waits");
            browser.Click(By.CssSelector($"[data-task={task}]"));
        }
        browser.SeeText("Saved");
        browser.Step("next");
        browser.Until(() => browser.Text.Contains("no visit is finished with a part off", StringComparison.Ordinal) ? null : "mended", "the refusal stayed");
        browser.GiveReasons("the sweep alone was ordered");
        browser.Click(By.XPath("//button[.='Sign and finish' and not(@disabled)]"));
        browser.Click(By.XPath("//button[.='Yes, sign it']"));
        browser.SeeText("It is never changed");

        var after = SweepDue(browser, stove);
        Assert.Contains("learned from 4 pairs of visits", Forecast(browser), StringComparison.Ordinal);
        // Swept a year later, but it grew fast: sooner than a year.
        Assert.True(Read(after) > Read(before) && Read(after) < _today.AddMonths(12), $"{before}, then {after}");
        browser.Go("/season");
        var row = browser.See(By.XPath($"//li[@data-due='{stove}' and contains(., 'Sweep: last swept {_today.ToString("d MMM yyyy", CultureInfo.InvariantCulture)}')]"));
        Assert.Contains(after, row.Text, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public async Task Overload_is_seen_a_visit_is_planned_and_a_calendar_made_and_revoked()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Press("s");
        browser.SeeText("are to be done against");
        var row = browser.See(By.CssSelector("[data-due]"));
        var stove = row.GetAttribute("data-due")!;
        browser.See(By.XPath("(//*[@data-due])[1]//button[.='Plan a visit']")).Click();
        browser.Until(() => browser.See(By.CssSelector("input[type=time]")).GetAttribute("value") is { Length: > 0 } time ? time : null, "no free time was proposed");
        browser.Click(By.XPath("//button[.='Plan it']"));
        // Its part comes later: planned all the same, knowingly.
        browser.SeeText("Parts would be missing: flue probe, which comes");
        browser.Click(By.XPath("//button[.='Yes, plan it']"));
        browser.SeeText("is planned for");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector($"[data-due='{stove}']")).Count == 0 ? "gone" : null, "the planned visit stayed in the list");
        Assert.Equal(1, app.Scalar<long>($"select count(*) from visits where appliance_id = '{stove}' and state = 'open'"));

        browser.Click(By.XPath("//summary[.='Calendar for another program']"));
        browser.Click(By.XPath("//button[.='Make an address']"));
        var address = browser.See(By.CssSelector("[data-address]")).Text;
        using var client = new HttpClient();
        Assert.Contains("BEGIN:VEVENT", await client.GetStringAsync(new Uri(address)), StringComparison.Ordinal);
        browser.Click(By.XPath("//li[contains(., 'The whole firm')]//button[.='Revoke']"));
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-address]")).Count == 0 ? "gone" : null, "the address is still shown");
        Assert.Equal(System.Net.HttpStatusCode.NotFound, (await client.GetAsync(new Uri(address))).StatusCode);
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Moisture_meter_fills_the_pieces()
    {
        using var browser = new Browser(app);
        browser.SignIn("owner");
        browser.Go($"/visits/{OpenElsewhere(1).Visit}");
        app.Play("steady");
        browser.Step("arrive");
        browser.Click(By.XPath("//button[.='Connect the meter']"));
        browser.Click(By.XPath("//button[.='Take it']"));
        browser.Until(() => browser.See(By.Id("piece0-0")).GetAttribute("value") is { Length: > 0 } value ? value : null, "nothing was taken");
        browser.Click(By.XPath("//button[.='Take it']"));
        browser.Until(() => browser.See(By.Id("piece0-1")).GetAttribute("value") is { Length: > 0 } value ? value : null, "nothing more was taken");
        browser.SeeText("0 of 3 pieces have 3 readings");
    }

    [Fact]
    public void Wood_is_entered_in_us_units_and_frozen_wood_refused()
    {
        using var browser = new Browser(app, us: true, dark: true);
        browser.SignIn("owner");
        browser.Go($"/visits/{OpenElsewhere(2).Visit}");
        browser.Step("arrive");
        browser.Type("amount", "6600");
        browser.SeeText("A year burns 6600 lb as fired");
        browser.SeeText("MMBtu");
        browser.Pick("Bags");
        browser.Type("amount", "200");
        browser.Type("bagKg", "40");
        browser.SeeText("A year burns 8000 lb as fired");
        browser.Type("piece0-0", "22");
        browser.Type("woodC", "14");
        browser.SeeText("Frozen wood gives no reading");
        browser.Type("woodC", "32");
        browser.SeeText("On the dry basis that the meter shows the mean is 25 %");
        browser.SeeText("Saved");
        browser.Driver.Navigate().Refresh();
        browser.Step("arrive");
        browser.SeeText("A year burns 8000 lb as fired");
        Assert.Equal("32", browser.See(By.Id("woodC")).GetAttribute("value"));
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Season_is_filtered_and_sorted()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/season");
        browser.See(By.CssSelector("[data-due]"));
        void Pick(string label, string value)
        {
            browser.See(By.CssSelector($"select[aria-label='{label}'] option[value='{value}']")).Click();
            browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-due]")).All(r => r.Displayed) ? "drawn" : null, "the list is not drawn");
        }
        var all = browser.Driver.FindElements(By.CssSelector("[data-due]")).Count;
        Pick("Kind of stove", "cookstove");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-due]")).Count < all ? "fewer" : null, "the filter took nothing away");
        browser.Until(() => browser.Driver.FindElements(By.CssSelector("[data-due]")).All(r => r.Text.Contains("cookstove", StringComparison.Ordinal)) ? "cookstoves" : null, "other stoves stayed");
        Pick("Kind of stove", "");
        browser.Click(By.XPath("//label[contains(., 'low use first')]/input"));
        browser.Until(() =>
        {
            var kg = browser.Driver.FindElements(By.CssSelector("[data-due]")).Select(r => int.Parse(Regex.Match(r.Text, @"(\d+) kg a year").Groups[1].Value, CultureInfo.InvariantCulture)).ToList();
            return kg.Count == all && kg.SequenceEqual(kg.Order()) ? "sorted" : null;
        }, "low use does not come first");
        // A week is picked by its bar, and given back.
        browser.Script("[...document.querySelectorAll('[data-week]')].find(w => w.getAttribute('aria-label').includes('overloaded')).dispatchEvent(new MouseEvent('click', { bubbles: true }))");
        browser.SeeText("Due in the week of");
        browser.Click(By.XPath("//button[.='All weeks']"));
        browser.SeeText("Due and not planned");
        Assert.Empty(browser.Complaints());
    }
}
