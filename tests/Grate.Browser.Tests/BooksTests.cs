using System.Text.RegularExpressions;
using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;

namespace Grate.Browser.Tests;

/// <summary>A firm's own books, only by what the screens offer: from an empty installation to an open visit, and a week's plan by mouse and by keys.</summary>
public partial class BooksTests(GrateApp app) : IClassFixture<GrateApp>
{
    private const string Password = "copper kettle on the lower shelf";

    [GeneratedRegex("with the code ([A-Z0-9-]{14})")]
    private static partial Regex Code();

    [Fact]
    public void An_empty_installation_becomes_a_firm_with_a_visit()
    {
        using var empty = new GrateApp(GrateApp.Wednesday, null, false, ("Demo", "false"));
        empty.Start();
        using var browser = new Browser(empty);
        // Wherever somebody wants to go, it is begun first, and only with the printed code.
        browser.Go("/today");
        browser.SeeText("Begin with your firm");
        browser.Click(By.XPath("//button[.='Begin']"));
        browser.SeeText("That is not the code that was printed");
        browser.Type("code", Code().Match(empty.Printed).Groups[1].Value);
        browser.Type("firm-name", "Fellside Stoves");
        browser.Type("firm-place", "Imst");
        browser.Click(By.XPath("//button[.='Begin']"));
        // What is missing is told beside its field; what was typed stays.
        browser.SeeText("is no time zone");
        Assert.Equal("Fellside Stoves", browser.See(By.Id("firm-name")).GetAttribute("value"));
        browser.Click(By.XPath("//select[@aria-label='Nearest known place']/option[.='Innsbruck']"));
        Assert.Equal("Europe/Vienna", browser.See(By.Id("firm-zone")).GetAttribute("value"));
        browser.Type("owner-name", "Tamsin Orrell");
        browser.Type("owner-email", "tamsin@fellside.example");
        browser.See(By.Name("password")).SendKeys(Password);
        ScreenTests.AssertAccessible(browser, "begin");
        browser.Click(By.XPath("//button[.='Begin']"));
        browser.SeeText("Invite somebody");
        Assert.EndsWith("/firm", browser.Driver.Url, StringComparison.Ordinal);
        ScreenTests.AssertAccessible(browser, "firm");

        // The owner invites a technician, who follows the link once.
        browser.Type("invite-name", "Wren Halloway");
        browser.Type("invite-email", "wren@fellside.example");
        browser.Click(By.XPath("//button[.='Invite']"));
        var link = browser.See(By.XPath("//p[@role='status']/code")).Text;
        using (var theirs = new Browser(empty))
        {
            theirs.Go(new Uri(link).AbsolutePath);
            theirs.SeeText("Wren Halloway, choose the password");
            theirs.See(By.CssSelector("input[type=password]")).SendKeys("seven grey herons at the weir");
            theirs.Click(By.XPath("//button[.='Set the password']"));
            theirs.SeeText("No stops today");
        }

        // A call from somebody who is not in the books yet.
        browser.Driver.FindElement(By.TagName("body")).Click();
        browser.Press("c");
        browser.Click(By.XPath("//a[.='A new household']"));
        browser.Type("name", "Gilsland household");
        browser.Type("phone", "+43 555 0177");
        browser.Type("street", "2 Larch Steps");
        browser.Type("place", "Imst");
        ScreenTests.AssertAccessible(browser, "new household");
        browser.Click(By.XPath("//button[.='Write it down']"));
        browser.SeeText("What is wrong, in their words");
        browser.SeeText("Gilsland household");
        // What it may be follows every answer; y and n answer the question in focus.
        browser.SeeText("Nothing was told yet");
        var first = browser.See(By.XPath("//h4[.='Ask next']/following-sibling::ul/li[1]/span")).Text;
        browser.Press("y");
        browser.SeeText("not settled yet");
        Assert.Equal("true", browser.See(By.XPath($"//div[@role='radiogroup' and @aria-label=\"{first}\"]/button[.='yes']")).GetAttribute("aria-checked"));
        ScreenTests.AssertAccessible(browser, "call with suspects");
        browser.Type("words", "Smoke comes into the room");
        browser.Click(By.XPath("//button[.='Onto the list of loose ones']"));
        browser.Click(By.XPath("//section[@aria-labelledby='loose']//button[contains(., 'Smoke comes')]"));
        // The first free time is proposed; it becomes a brick in the wall.
        browser.Until(() => browser.Driver.FindElement(By.CssSelector("input[type=time]")).GetAttribute("value") is { Length: > 0 } time ? time : null, "no free time");
        browser.Click(By.XPath("//button[.='Plan it']"));
        browser.SeeText("2 Larch Steps: planned.");
        browser.SeeText("Nothing is loose.");
        browser.Click(By.XPath("//ul[@data-lane]//button[contains(., '2 Larch Steps')]"));
        browser.Click(By.XPath("//a[.='Open the visit']"));
        browser.SeeText("Smoke comes into the room");
        browser.Step("booking");
        browser.SeeText("What it may be");
        // Nobody has seen the house: the visit asks for what was taken as usual.
        browser.Step("arrive");
        browser.SeeText("Taken as usual: is it so?");
        browser.Click(By.XPath("//button[@aria-label='It is so: the flue: a usual system, not measured']"));
        browser.Until(() => browser.Text.Contains("a usual system, not measured", StringComparison.Ordinal) ? null : "gone", "it is still asked");
        // The first visit is made and signed: every step done, what was left out with its reason.
        foreach (var step in (string[])["booking", "load", "arrive", "cold-checks", "open-up", "sweep", "inside", "back-together", "air", "hot-test", "agree"])
        {
            browser.Step(step);
            browser.Tap(By.XPath("//button[.='Done, next step']"));
        }
        browser.Step("next");
        browser.GiveReasons("first look only");
        browser.Click(By.XPath("//button[.='Sign and finish']"));
        browser.Click(By.XPath("//button[.='Yes, sign it']"));
        browser.SeeText("It is never changed");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void A_weeks_plan_is_changed_by_mouse_and_by_keys()
    {
        using var browser = new Browser(app);
        browser.SignIn("office");
        browser.Press("w");
        browser.SeeText("Week of 11 Oct 2027");
        ScreenTests.AssertAccessible(browser, "week");
        // Dragged two hours to the left it would meet the visit before: told, and it stays where it was.
        IWebElement Brick(int nth) => browser.See(By.XPath($"(//ul[@data-lane and @aria-label='Ida Varnholt']//button)[{nth}]"));
        var hour = browser.See(By.CssSelector("ul[data-lane]")).Size.Width / 9;
        new Actions(browser.Driver).DragAndDropToOffset(Brick(3), -3 * hour, 0).Perform();
        browser.SeeText("Ida Varnholt has another visit then.");
        Assert.Contains("13:00", Brick(3).Text, StringComparison.Ordinal);
        // Half an hour to the left there is room.
        new Actions(browser.Driver).DragAndDropToOffset(Brick(3), -hour / 2, 0).Perform();
        browser.SeeText("12:30, planned.");
        browser.Until(() => Brick(3).Text.Contains("12:30", StringComparison.Ordinal) ? "moved" : null, "the brick stands where it stood");
        // By keys: picked, later, moved; on a Sunday it is asked back once.
        Brick(3).SendKeys(Keys.Enter);
        browser.Click(By.XPath("//button[.='Later']"));
        browser.See(By.XPath("//button[.='Move it there']")).SendKeys(Keys.Enter);
        browser.SeeText("12:45, planned.");
        Brick(4).SendKeys(Keys.Enter);
        browser.Script("const d = document.querySelector('section[aria-label] input[type=date]'); d.value = '2027-10-17'; d.dispatchEvent(new Event('change', { bubbles: true }))");
        browser.See(By.XPath("//button[.='Move it there']")).SendKeys(Keys.Enter);
        browser.SeeText("The firm does not work on a Sunday. Plan it all the same?");
        browser.See(By.XPath("//button[.='Yes, move it there']")).SendKeys(Keys.Enter);
        browser.SeeText("planned.");
        browser.See(By.XPath("//nav[@aria-label='Days']//strong[contains(., 'Sun')]"));
        // The household is told, asks for another date through its link, and the wall says so.
        Brick(3).SendKeys(Keys.Enter);
        browser.Tap(By.XPath("//button[.='The date']"));
        browser.SeeText("The date is in the outbox.");
        browser.SeeText("Told the household: the date.");
        var path = System.Text.RegularExpressions.Regex.Match(app.NewestMail(), "/v/[A-Za-z0-9_-]+").Value;
        browser.Driver.Navigate().GoToUrl($"{app.Address}{path}?lang=en");
        browser.See(By.TagName("textarea")).SendKeys("Thursday after four");
        browser.Click(By.XPath("//form[.//textarea]//button"));
        browser.Until(() => browser.Driver.PageSource.Contains("You asked for: Thursday after four", StringComparison.Ordinal) ? "asked" : null, "nothing was asked");
        browser.Go("/week");
        browser.SeeText("asks for another date");
        Brick(3).SendKeys(Keys.Enter);
        browser.SeeText("Thursday after four");
        ScreenTests.AssertAccessible(browser, "week with an asking household");
        // Cancelled it leaves the wall, with its reason in its log.
        var before = browser.Driver.FindElements(By.XPath("//ul[@data-lane]//button")).Count;
        Brick(1).SendKeys(Keys.Enter);
        browser.Click(By.XPath("//button[.='Cancel it']"));
        browser.Type("why", "they are away");
        browser.Click(By.XPath("//button[.='Cancel the visit']"));
        browser.SeeText(": cancelled.");
        Assert.Equal(before - 1, browser.Until(() => browser.Driver.FindElements(By.XPath("//ul[@data-lane]//button")) is var left && left.Count < before ? left : null, "it stands in the wall").Count);
        Assert.Equal("Cancelled: they are away", app.Scalar<string>("select what from visit_log order by at desc limit 1"));
        // It has no brick any more, and its household is told all the same.
        browser.Click(By.XPath("//*[@aria-label='Tell the household']//button"));
        browser.SeeText("is in the outbox.");
        Assert.Equal("CANCEL", app.Scalar<string>("select calendar_method from outgoing_messages order by at desc limit 1"));
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void A_household_is_corrected_on_a_phone_and_a_technician_only_reads()
    {
        using var browser = new Browser(app, width: 390, height: 844, dark: true);
        browser.SignIn("office");
        var id = app.Scalar<Guid>("select id from customers order by name limit 1");
        browser.Go($"/households/{id}");
        browser.Type("customer-phone", "0555 0100 99");
        // Left before it was kept: it is there again, over what somebody else wrote in between; and is gone once it is kept.
        browser.Go("/today");
        browser.See(By.XPath("//h2[starts-with(., 'Ida')]"));
        app.Scalar<long>($"with c as (update customers set note = 'Ring twice', version = version + 1 where id = '{id}' returning 1) select count(*) from c");
        browser.Go($"/households/{id}");
        browser.SeeText("Typed before and not kept yet.");
        Assert.Equal(("0555 0100 99", "Ring twice"), (browser.See(By.Id("customer-phone")).GetAttribute("value"), browser.See(By.Id("customer-note")).GetAttribute("value")));
        browser.Click(By.XPath("//button[.='Keep it']"));
        browser.SeeText("Kept.");
        browser.SeeText("Household corrected.");
        Assert.DoesNotContain("Typed before", browser.Text, StringComparison.Ordinal);
        Assert.Equal("Ring twice", app.Scalar<string>($"select note from customers where id = '{id}'"));
        ScreenTests.AssertAccessible(browser, "household");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        Assert.Equal("0555 0100 99", app.Scalar<string>($"select phone from customers where id = '{id}'"));
        // Another number and a wish are kept; a moved visit is held against it.
        browser.Tap(By.XPath("//button[.='Another number']"));
        browser.Script("document.querySelectorAll('fieldset input')[0].focus()");
        browser.Press("neighbour with the key");
        browser.Press(Keys.Tab + "0555 0100 98");
        browser.Pick("Mornings");
        browser.Click(By.XPath("//button[.='Keep it']"));
        browser.Until(() => app.Scalar<string>($"select coalesce(contacts->0->>'phone', '') || (wish->>'when') from customers where id = '{id}'") == "0555 0100 98mornings" ? "kept" : null, "the number was not kept");
        // The house passes to somebody else, who is told of on a page of their own.
        app.Scalar<long>($"with v as (update visits set state = 'cancelled' where state = 'open' and appliance_id in (select a.id from appliances a join sites s on s.id = a.site_id where s.customer_id = '{id}') returning 1) select count(*) from v");
        browser.Tap(By.XPath("//summary[contains(., 'Joined, moved out')]"));
        browser.See(By.CssSelector("[id^=next-name]")).SendKeys("Ravenglass household");
        ScreenTests.AssertAccessible(browser, "household that passes");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        browser.Tap(By.XPath("//button[.='Moved out']"));
        browser.See(By.XPath("//h1[.='Ravenglass household']"));
        browser.SeeText("lived here");
        Assert.Equal(1, app.Scalar<long>($"select count(*) from house_passages where from_customer = '{id}'"));
        browser.Go("/call");
        ScreenTests.AssertAccessible(browser, "call");
        browser.SignIn();
        browser.Go($"/households/{id}");
        browser.See(By.Id("customer-phone"));
        Assert.Empty(browser.Driver.FindElements(By.XPath("//button[.='Keep it' or .='Taken out']")));
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void List_is_shown_before_it_comes_in_and_is_taken_back()
    {
        using var browser = new Browser(app, width: 390, height: 844);
        browser.SignIn("office");
        browser.Go("/households/import");
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid():N}.csv");
        File.WriteAllText(file, "Kunde;Adresse;Wohnort;Spalte 4\nEderich;1 Kiln Row;Tarnwick;steel\nNobody;2 Kiln Row;Tarnwick;rocket\n");
        browser.See(By.CssSelector("input[type=file]")).SendKeys(file);
        browser.SeeText("Ederich");
        browser.SeeText("is left out");
        // The fourth column is told, and a row that cannot be is left out.
        browser.Script("const field = document.querySelectorAll('#columns ~ div select')[3]; field.value = 'kind'; field.dispatchEvent(new Event('change', { bubbles: true }))");
        browser.SeeText("One row cannot be");
        ScreenTests.AssertAccessible(browser, "list");
        Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390);
        browser.Tap(By.XPath("//label[contains(normalize-space(.), 'Leave it out')]/input"));
        browser.Tap(By.XPath("//button[.='Bring in 1 stove']"));
        browser.SeeText("The list is in the books");
        Assert.Equal(1, app.Scalar<long>("select count(*) from customers where name = 'Ederich'"));
        browser.Tap(By.XPath("//li[contains(., '.csv')]//button[.='Take it back']"));
        browser.SeeText("taken back");
        Assert.Empty(browser.Complaints());
        File.Delete(file);
    }
}
