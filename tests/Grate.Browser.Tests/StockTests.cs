using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>From the channel to the cut rope and the off-cut in the van.</summary>
public class StockTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Fact]
    public void Rope_is_cut_by_one_tap_and_its_off_cut_goes_back_to_the_van()
    {
        using var browser = new Browser(app, width: 390, height: 844, dark: true);
        browser.SignIn();
        var visit = browser.OpenVisit(1);
        browser.Go($"/visits/{visit}/back-together/seals");
        browser.SeeText("No seal is due here");
        browser.Type("door-widthMm", "10");
        browser.Type("door-depthMm", "6");
        browser.Type("door-lineM", "1.72");
        foreach (var task in new[] { "off", "bare" })
            browser.Script($"const box = document.querySelector('[data-task={task}]'); box.scrollIntoView({{ block: 'center' }}); box.click()");
        browser.SeeText("From 12 mm rope, 2.50 m, in the van: Door 1.78 m; 0.72 m left.");
        ScreenTests.AssertAccessible(browser, "cutting plan");
        Tap(browser, "Cut");
        browser.SeeText("Every seal that is due here is cut.");
        Assert.Equal(0.721, app.Scalar<double>("select min(amount) from stock_pieces p join people t on t.id = p.van_id where t.name = 'Ida Varnholt' and kind = 'rope' and size_mm = 12"), 3);
        // It went wrong: another piece, and now only the store's roll or a kit is long enough.
        Tap(browser, "Spoilt, cut again");
        browser.SeeText("To buy: 1 × rope kit 12 mm, 1.8 m with cement");

        browser.Go("/stock");
        browser.SeeText("In the van of Ida Varnholt");
        browser.SeeText("0.72 m");
        ScreenTests.AssertAccessible(browser, "stock");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        // Too much is refused and stays typed; put right it counts.
        browser.Click(By.XPath("//li[contains(., '0.72 m')]//button[.='Use']"));
        var field = browser.See(By.CssSelector("[id^='amount-']")).GetAttribute("id")!;
        browser.Type(field, "2");
        browser.Click(By.XPath("//button[.='Keep it']"));
        browser.SeeText("are left of it");
        Assert.StartsWith("2", browser.See(By.Id(field)).GetAttribute("value"), StringComparison.Ordinal);
        browser.Type(field, "0.5");
        browser.Click(By.XPath("//button[.='Keep it']"));
        browser.SeeText("0.72 m → 0.22 m");
        // Another's van is only looked at.
        browser.Click(By.XPath("//button[@role='radio' and .='Jorun Pellow']"));
        browser.SeeText("In the van of Jorun Pellow");
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[.='Use' or .='Add']")));
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Purchase_list_is_ordered_and_what_comes_is_booked_in()
    {
        using var browser = new Browser(app, width: 390, height: 844, dark: true);
        browser.SignIn("office");
        browser.Go("/parts");
        browser.SeeText("vermiculite baffle, cut to size");
        ScreenTests.AssertAccessible(browser, "parts");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        browser.Tap(By.XPath("//div[@data-list and contains(., 'vermiculite baffle')]//button[.='Order it']"));
        browser.SeeText("× vermiculite baffle, cut to size");
        browser.SeeText("Lower Lehn Brickworks, expected");
        browser.Tap(By.XPath("//li[contains(., 'vermiculite baffle')]//button[.='It came']"));
        browser.Until(() => app.Scalar<double>("select coalesce(sum(amount), 0) from stock_pieces where kind = 'baffle'") >= 1 ? "in" : null, "nothing came in");
        browser.Until(() => browser.Driver.FindElements(By.XPath("//button[.='It came']")).Count == 0 ? "gone" : null, "it is still to come");
        browser.Click(By.XPath("//a[.='Stock and catalogue']"));
        browser.SeeText("came: vermiculite baffle, cut to size");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Desk_keeps_the_list_of_what_can_be_bought_by_keys()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Press("b");
        browser.SeeText("Catalogue: what can be bought");
        browser.Click(By.XPath("//button[.='Add an offer']"));
        browser.Click(By.XPath("//form[@aria-label='An offer']//button[.='Keep it']"));
        browser.SeeText("Name is missing: 1 to 80 characters.");
        browser.SeeText("Price is missing");
        browser.Type("offer-name", "rope kit 16 mm, 3 m");
        foreach (var (field, value) in new[] { ("size", "16"), ("amount", "3"), ("price", "24") })
            browser.Type($"offer-{field}", value);
        browser.Press(Keys.Enter);
        browser.See(By.XPath("//li[contains(., 'rope kit 16 mm, 3 m') and contains(., '24.00')]"));
        Assert.Equal("rope 16 3 24", app.Scalar<string>("select kind || ' ' || size_mm || ' ' || amount || ' ' || price from stock_offers where name = 'rope kit 16 mm, 3 m'"));
        browser.Click(By.XPath("//li[contains(., 'rope kit 16 mm')]//button[.='Take off the list']"));
        browser.Until(() => app.Scalar<long>("select count(*) from stock_offers where size_mm = 16") == 0 ? "gone" : null, "still there");
        browser.Click(By.XPath("//button[@role='radio' and .='Store']"));
        browser.Type("add-size", "14");
        browser.Type("add-amount", "0");
        browser.Press(Keys.Enter);
        browser.SeeText("more than nothing is added");
        browser.Type("add-amount", "12");
        browser.Press(Keys.Enter);
        browser.SeeText("Rope added.");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Purchase_that_comes_in_part_rescues_the_earlier_of_two_visits()
    {
        // Two stoves alone want a flue probe, none lies there, and both are planned for Saturday: a probe takes four days.
        app.Scalar<long>("with c as (update stock_pieces set amount = 0 where kind = 'probe' returning 1) select count(*) from c");
        app.Scalar<long>("""
            with kept as (select d.appliance_id from due_stoves d where d.wants::text like '%probe%' and not exists (select from visits v where v.appliance_id = d.appliance_id and v.state = 'open')
                    order by d.wants::text not like '%baffle%', d.appliance_id limit 2),
                others as (update due_stoves set wants = '[]' where wants::text like '%probe%' and appliance_id not in (select appliance_id from kept) returning 1),
                planned as (insert into visits (id, appliance_id, flue_version_id, technician_id, planned_start, planned_end, purpose, complaint, inspects)
                    select gen_random_uuid(), k.appliance_id, f.id, p.id, '2027-10-16 07:00+02'::timestamptz + k.n * interval '2 hours', '2027-10-16 08:00+02'::timestamptz + k.n * interval '2 hours', 'Probe', '', false
                    from (select appliance_id, row_number() over (order by appliance_id) as n from kept) k join people p on p.name = 'Ida Varnholt'
                    join lateral (select id from flue_versions where appliance_id = k.appliance_id order by number desc limit 1) f on true returning 1)
            select count(*) from planned
            """);
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Go("/parts");
        browser.SeeText("2 visits are without their parts");
        browser.Tap(By.XPath("//div[@data-list and contains(., 'flue probe')]//button[.='Order it']"));
        browser.SeeText("2 × flue probe");
        // One of the two packs is in the parcel.
        var packs = browser.See(By.XPath("//li[contains(., 'flue probe')]//input[@type='number']"));
        packs.SendKeys(Keys.Control + "a");
        packs.SendKeys("1");
        browser.Tap(By.XPath("//li[contains(., 'flue probe')]//button[.='It came']"));
        browser.SeeText("1 × flue probe, 1 came");
        browser.SeeText("A visit is without its parts");
        Guid Visit(string order) => app.Scalar<Guid>($"select id from visits where purpose = 'Probe' order by planned_start {order} limit 1");
        browser.Go($"/visits/{Visit("desc")}/load");
        browser.SeeText("Parts would be missing");
        browser.Go($"/visits/{Visit("asc")}/load");
        browser.SeeText("For this visit");
        Assert.DoesNotContain("probe, which comes", browser.Text, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Part_is_noted_on_its_stove_and_called_back_by_its_batch()
    {
        using var browser = new Browser(app, width: 390, height: 844);
        browser.SignIn();
        var stove = app.Scalar<Guid>("select id from appliances where not combustor and out_at is null and id not in (select appliance_id from fitted_parts) order by id limit 1");
        browser.Go($"/stoves/{stove}");
        browser.SeeText("Parts and their lives");
        browser.Tap(By.XPath("//button[.='Note a part']"));
        browser.Tap(By.XPath("//button[.='Note it']"));
        browser.SeeText("Name is missing");
        browser.Type("fit-name", "door rope 12 mm");
        browser.Type("fit-batch", "R-900");
        browser.Tap(By.XPath("//button[.='Note it']"));
        browser.SeeText("0.0 years old, of a usual life, to 13 Oct 2031");
        browser.See(By.XPath("//*[name()='svg' and @aria-label='0 % of its life']"));
        ScreenTests.AssertAccessible(browser, "fitted parts");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        browser.Go("/parts");
        browser.See(By.XPath("//section[@aria-labelledby='recall']//input")).SendKeys("r-900" + Keys.Enter);
        browser.SeeText("On 1 stove; no piece lies in vans and store.");
        browser.Tap(By.XPath("//section[@aria-labelledby='recall']//li//a"));
        browser.SeeText("R-900");
        browser.Tap(By.XPath("//button[.='It is out']"));
        browser.SeeText("out since 13 Oct 2027");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Van_is_loaded_by_ticks_that_stay()
    {
        using var browser = new Browser(app, width: 390, height: 844, dark: true);
        browser.SignIn();
        browser.Tap(By.XPath("//summary[contains(., 'From the van today')]"));
        var boxes = browser.Driver.FindElements(By.CssSelector("details input[type=checkbox]")).Count;
        browser.SeeText($"{boxes} of {boxes} to load");
        browser.Tap(By.CssSelector("details input[type=checkbox]"));
        browser.SeeText($"{boxes - 1} of {boxes} to load");
        browser.Driver.Navigate().Refresh();
        browser.SeeText($"{boxes - 1} of {boxes} to load");
        ScreenTests.AssertAccessible(browser, "loading");
        Assert.Empty(browser.Complaints());
    }

    private static void Tap(Browser browser, string button) => browser.Tap(By.XPath($"//button[.='{button}']"));
}
