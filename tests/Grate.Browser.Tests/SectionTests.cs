using OpenQA.Selenium;

namespace Grate.Browser.Tests;

/// <summary>The second great drawing: the stove cut open.</summary>
public class SectionTests(GrateApp app) : IClassFixture<GrateApp>
{
    [Fact]
    public void Stove_is_turned_by_a_key_measured_on_the_drawing_and_opens_its_stations()
    {
        using var browser = new Browser(app);
        browser.SignIn();
        var visit = browser.OpenVisit(2);
        browser.Go($"/visits/{visit}/cold-checks/door-look");
        browser.SeeText("what is seen decides");
        browser.Press("v");
        browser.SeeText("In usual proportion");
        ScreenTests.AssertAccessible(browser, "section, condition");
        // A part opens where it is marked.
        browser.Click(By.CssSelector("svg [role=button][aria-label^='glass:']"));
        browser.See(By.CssSelector("[data-part=glass]"));
        foreach (var layer in new[] { "Air", "Seals" })
        {
            browser.Press("d");
            browser.See(By.XPath($"//button[@role='radio' and @aria-checked='true' and .='{layer}']"));
            ScreenTests.AssertAccessible(browser, $"section, {layer}");
        }
        // Typed on the drawing: refused in a sentence, kept, and drawn.
        browser.Click(By.CssSelector("svg [role=button][aria-label^='Depth:']"));
        browser.Type("measure-depthM", "9");
        browser.SeeText("Depth of the body must lie between 0.20 and 2.00 m");
        browser.Type("measure-depthM", "0.61");
        browser.See(By.CssSelector("svg [aria-label='Depth: 0.61 m']"));
        browser.Go($"/visits/{visit}");
        browser.Until(() => app.Scalar<string>($"select measures->>'depthM' from appliances a join visits v on v.appliance_id = a.id where v.id = '{visit}'") == "0.61" ? "kept" : null, "not kept");
        // A seal opens its station.
        browser.See(By.XPath("//button[@role='radio' and .='House']"));
        browser.Press("v");
        browser.Click(By.XPath("//button[@role='radio' and .='Seals']"));
        browser.Click(By.CssSelector("svg [role=button][aria-label^='Door ']"));
        browser.SeeText("choose its rope");
        Assert.Empty(browser.Complaints());
    }

    [Fact]
    public void Stove_of_every_kind_is_drawn_on_a_phone()
    {
        using var browser = new Browser(app, width: 390, height: 844, dark: true);
        browser.SignIn();
        foreach (var kind in new[] { "steel", "top-loader", "insert", "zero-clearance", "multi-fuel", "masonry-heater", "cookstove" })
        {
            browser.Go($"/stoves/{app.Scalar<Guid>($"select id from appliances where kind = '{kind}' limit 1")}");
            browser.Click(By.XPath("//button[@role='radio' and .='Stove']"));
            browser.SeeText("In usual proportion");
            browser.Click(By.XPath("//button[@role='radio' and .='Air']"));
            browser.SeeText("Gas");
            Assert.True((long)browser.Script("return document.documentElement.scrollWidth")! <= 390, kind);
        }
        Assert.Empty(browser.Complaints());
    }
}
