using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;

namespace Grate.Browser.Tests;

/// <summary>Headless Chromium with a profile of its own.</summary>
internal sealed class Chromium : IDisposable
{
    private readonly string _profile = Directory.CreateTempSubdirectory("grate-chromium-").FullName;

    public Chromium()
    {
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments("--headless=new", "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run",
            "--disable-background-networking", "--disable-component-update", "--disable-sync", $"--user-data-dir={_profile}", "--window-size=1280,800");
        options.SetLoggingPreference(LogType.Browser, LogLevel.Severe);
        Driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), options);
    }

    public ChromeDriver Driver { get; }

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }
}

/// <summary>A page of Grate, as somebody sees it who was never here before.</summary>
internal sealed class Browser : IDisposable
{
    private static readonly TimeSpan _patience = TimeSpan.FromSeconds(60);

    private readonly GrateApp _app;
    private readonly Chromium _chromium;

    public Browser(GrateApp app, bool us = false, bool dark = false, int width = 1280, int height = 800, string? zone = null)
    {
        _app = app;
        // Chromium takes longer to start than many a test: one that a test is done with serves the next.
        _chromium = app.Kept.TryPop(out var kept) ? (Chromium)kept : new Chromium();
        Command("Emulation.setDeviceMetricsOverride", ("width", width), ("height", height), ("deviceScaleFactor", 1), ("mobile", width < 600));
        if (zone is not null)
            Command("Emulation.setTimezoneOverride", ("timezoneId", zone));
        Go("/sign-in");
        Script($"localStorage.setItem('grate.units', '{(us ? "us" : "metric")}'); localStorage.setItem('grate.theme', '{(dark ? "cellar" : "enamel")}')");
    }

    public ChromeDriver Driver => _chromium.Driver;

    /// <summary>A command of the browser's own protocol.</summary>
    public void Command(string name, params (string Name, object Value)[] parameters) => Driver.ExecuteCdpCommand(name, parameters.ToDictionary(p => p.Name, p => (object?)p.Value));

    public void Go(string path) => Driver.Navigate().GoToUrl(_app.Address + path);

    public object? Script(string script, params object[] arguments) => Driver.ExecuteScript(script, arguments);

    /// <summary>Taps something wherever it lies, also under a bar that stays in sight.</summary>
    public void Tap(By by) => Script("arguments[0].scrollIntoView({ block: 'center' }); arguments[0].click()", See(by));

    /// <summary>Signs in with a demo account's button and waits for Today.</summary>
    public void SignIn(string role = "technician")
    {
        Go("/sign-in");
        Click(By.XPath($"//button[contains(., '{role}@demo.example')]"));
        See(By.XPath("//h2[.='Your round' or starts-with(., 'Ida')]"));
    }

    /// <summary>Opens the nth stop of the round.</summary>
    public string OpenVisit(int index)
    {
        Go("/today");
        var link = See(By.XPath($"(//ol//a[starts-with(@href, '/visits/')])[{index + 1}]"));
        var id = link.GetAttribute("href")!.Split("/visits/")[1].Split('/')[0];
        link.Click();
        See(By.Id("step-name"));
        return id;
    }

    /// <summary>Opens a step of the visit that is open.</summary>
    public void Step(string code)
    {
        Click(By.CssSelector($"[data-step={code}]"));
        See(By.CssSelector($"[data-step={code}][aria-current=step]"));
        Until(() => new Uri(Driver.Url).AbsolutePath.Split('/') is [_, _, _, { } step, ..] && step == code ? step : null, $"{code} is not in the address");
    }

    /// <summary>The server's clock, by which a visit goes, ms.</summary>
    public long ServerNow() => (long)Script("const ask = new XMLHttpRequest(); ask.open('GET', '/api/session', false); ask.send(); return Date.parse(JSON.parse(ask.responseText).now)")!;

    /// <summary>Opens the draft of the hot test, which stands beside its run.</summary>
    public void HotDraft()
    {
        Step("hot-test");
        Click(By.XPath("//nav[@aria-label='Stations of this step']//a[contains(., 'Hot draft')]"));
    }

    /// <summary>Clears the stop that is shown: refused until its re-test is said to have passed.</summary>
    public void ClearStop(string what, string retest)
    {
        Click(By.XPath("//summary[.='Clear this stop']"));
        var fields = Until(() => Driver.FindElements(By.CssSelector("details form input.input")) is { Count: 2 } both && both[0].Displayed ? both : null, "no form");
        fields[0].SendKeys(what);
        fields[1].SendKeys(retest);
        Click(By.XPath("//button[.='Clear the stop']"));
        SeeText("A stop is cleared only by a re-test that passed.");
        Click(By.CssSelector("details form input[type=checkbox]"));
        Click(By.XPath("//button[.='Clear the stop']"));
    }

    /// <summary>Marks what is left of the step as sound, with one tap.</summary>
    public void RestSound() => Click(By.XPath("//button[.='All sound' or .='Rest sound']"));

    /// <summary>Gives one reason for all that is missing before a visit is signed.</summary>
    public void GiveReasons(string reason)
    {
        See(By.XPath("//h3[.='Before it is signed']"));
        // What is missing is told anew as the last saves arrive.
        Until(() =>
        {
            foreach (var field in Driver.FindElements(By.CssSelector("[id^=reason-]")).Where(f => f.GetAttribute("value") is not { Length: > 0 }))
                field.SendKeys(reason);
            return Driver.FindElement(By.XPath("//button[.='Sign and finish']")).Enabled ? "ready" : null;
        }, "it cannot be signed");
    }

    /// <summary>Picks one of a few words that stand side by side.</summary>
    public void Pick(string word) => Click(By.XPath($"//button[@role='radio' and .='{word}']"));

    /// <summary>Waits for an element and returns it.</summary>
    public IWebElement See(By by) => Until(() => Driver.FindElements(by).FirstOrDefault(e => e.Displayed), $"{by} is not there");

    /// <summary>Waits for words anywhere in the page.</summary>
    public void SeeText(string text) =>
        Until(() => Text.Contains(text, StringComparison.Ordinal) ? text : null, $"“{text}” is not there");

    public void Click(By by) => Until(() =>
    {
        try
        {
            See(by).Click();
            return "clicked";
        }
        catch (StaleElementReferenceException)
        {
            return null;
        }
        catch (ElementClickInterceptedException)
        {
            // Under the bar at the foot: a hand would scroll.
            Script("arguments[0].scrollIntoView({ block: 'center' })", See(by));
            return null;
        }
    }, $"{by} could not be clicked");

    /// <summary>Replaces what stands in a field.</summary>
    public void Type(string id, string text) => Until(() =>
    {
        var field = See(By.Id(id));
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
        return "typed";
    }, $"{id} could not be typed into");

    /// <summary>Cuts this browser's network, or gives it back.</summary>
    public void Offline(bool cut) => Driver.NetworkConditions = new OpenQA.Selenium.Chromium.ChromiumNetworkConditions
    {
        IsOffline = cut,
        Latency = TimeSpan.Zero,
        DownloadThroughput = 10_000_000,
        UploadThroughput = 10_000_000,
    };

    public void Press(string keys) => new Actions(Driver).SendKeys(keys).Perform();

    // The driver's own way of reading a page takes twenty times as long.
    public string Text => (string)Script("return document.body.innerText")!;

    /// <summary>Severe messages of the console: script faults, refused content.</summary>
    public IReadOnlyList<string> Complaints() =>
        [.. Driver.Manage().Logs.GetLog(LogType.Browser).Select(l => l.Message).Where(m => !m.Contains("Failed to load resource", StringComparison.Ordinal))];

    public T Until<T>(Func<T?> look, string otherwise)
        where T : class
    {
        var end = DateTime.UtcNow + _patience;
        while (true)
        {
            try
            {
                if (look() is { } seen)
                    return seen;
            }
            catch (StaleElementReferenceException)
            {
                // The page was redrawn between finding and looking.
            }
            if (DateTime.UtcNow > end)
                throw new TimeoutException($"{otherwise}. The page says: {Text}");
            Thread.Sleep(50);
        }
    }

    public void Dispose()
    {
        // A new window, and nothing left of the old one.
        Offline(false);
        Complaints();
        var old = Driver.CurrentWindowHandle;
        var fresh = Driver.SwitchTo().NewWindow(WindowType.Tab).CurrentWindowHandle;
        Driver.SwitchTo().Window(old).Close();
        Driver.SwitchTo().Window(fresh);
        Command("Network.clearBrowserCookies");
        Command("Storage.clearDataForOrigin", ("origin", _app.Address), ("storageTypes", "all"));
        _app.Kept.Push(_chromium);
    }
}
