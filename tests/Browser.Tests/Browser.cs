using System.Diagnostics;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Interactions;
using OpenQA.Selenium.Support.UI;

namespace PreciseBeacon.BrowserTests;

/// <summary>Headless Chromium, spoken to as a person would: by role, label and text.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(90);
    private static readonly TimeSpan AskAllAfter = TimeSpan.FromSeconds(3);

    private readonly string _profile = Directory.CreateTempSubdirectory("beacon-chromium-").FullName;
    private readonly ChromeDriver _driver;
    private readonly WebDriverWait _wait;

    private bool _inFrame;

    public Browser()
    {
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--force-prefers-reduced-motion",
            "--window-size=1280,939",
            $"--user-data-dir={_profile}",
            "--user-agent=Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1"
        ); // headless ones call themselves a crawler
        options.SetLoggingPreference(LogType.Browser, LogLevel.Warning);
        var service = ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver");
        service.SuppressInitialDiagnosticInformation = true;
        _driver = new ChromeDriver(service, options, TimeSpan.FromSeconds(120));
        _wait = new WebDriverWait(_driver, Longest) { PollingInterval = TimeSpan.FromMilliseconds(100) };
        _wait.IgnoreExceptionTypes(typeof(StaleElementReferenceException), typeof(ElementNotInteractableException));
    }

    public string Url => _driver.Url;

    /// <summary>What a person did: each click, each field typed into, each key, and both clicks of a choice.</summary>
    public int Actions { get; private set; }

    /// <summary>What the console warned of: a policy that was broken, a script that failed.</summary>
    public IReadOnlyList<string> Complaints => [.. _driver.Manage().Logs.GetLog(LogType.Browser).Select(l => l.Message)];

    public void Open(string url) => _driver.Navigate().GoToUrl(url);

    /// <summary>Waits for something with a role and an accessible name that holds a text.</summary>
    public IWebElement Find(string role, string name)
    {
        // Each question about one element goes to the browser and back, so those that can't be meant are left out there. Names
        // can be put together in ways that this does not foresee; then all are asked after a while.
        long began = Stopwatch.GetTimestamp();
        return Until(
            () =>
                (Stopwatch.GetElapsedTime(began) < AskAllAfter ? Candidates(role, name) : Candidates(role)).FirstOrDefault(e =>
                    e.Displayed && NameOf(e).Contains(name, StringComparison.Ordinal)
                ),
            $"{role} “{name}”"
        );
    }

    public IReadOnlyList<IWebElement> All(string role) => Candidates(role, "");

    public void Click(string role, string name)
    {
        Actions++;
        Retry(() =>
        {
            // Nobody presses what is greyed out for a moment; it is waited for.
            var what = Find(role, name);
            (what.Enabled ? what : throw new ElementNotInteractableException($"{role} “{name}” is disabled")).Click();
        });
    }

    /// <summary>Types into a field of a label and presses a key where one is given.</summary>
    public void Type(string role, string label, string text, string? thenKey = null)
    {
        Actions += thenKey is null ? 1 : 2;
        Retry(() =>
        {
            var field = Find(role, label);
            field.SendKeys(Keys.Control + "a");
            field.SendKeys(text + thenKey);
        });
    }

    /// <summary>Chooses an option of a list by its text, or by what it begins with.</summary>
    public void Choose(string list, string option, bool begins = false)
    {
        Click("combobox", list);
        Actions++;
        Retry(() =>
            Until(
                    () =>
                        All("option").FirstOrDefault(o => begins ? o.Text.StartsWith(option, StringComparison.Ordinal) : o.Text == option),
                    $"the option “{option}” of {list}"
                )
                .Click()
        );
    }

    /// <summary>Gives a file to the input of a label, which may be out of sight behind its button.</summary>
    public void Upload(string label, string file) =>
        Retry(() => _driver.FindElement(By.CssSelector($"input[type=file][aria-label='{label}']")).SendKeys(file));

    /// <summary>Presses keys wherever the focus is.</summary>
    public void Press(params string[] keys)
    {
        Actions++;
        var actions = new Actions(_driver);
        foreach (string key in keys[..^1])
        {
            actions.KeyDown(key);
        }

        actions.SendKeys(keys[^1]);
        foreach (string key in keys[..^1])
        {
            actions.KeyUp(key);
        }

        actions.Perform();
    }

    /// <summary>Presses Tab until something of a name has the focus.</summary>
    public void TabTo(string name)
    {
        for (int i = 0; i < 80; i++)
        {
            Press(Keys.Tab);
            if (NameOf(_driver.SwitchTo().ActiveElement()).Contains(name, StringComparison.Ordinal))
            {
                return;
            }
        }

        throw new InvalidOperationException($"Tab never came to “{name}”. The page says:\n{Text()}");
    }

    /// <summary>Cuts the browser off from the network, or lets it back.</summary>
    public void Offline(bool offline)
    {
        _driver.ExecuteCdpCommand("Network.enable", []);
        _driver.ExecuteCdpCommand(
            "Network.emulateNetworkConditions",
            new Dictionary<string, object?>
            {
                ["offline"] = offline,
                ["latency"] = 0,
                ["downloadThroughput"] = -1,
                ["uploadThroughput"] = -1,
            }
        );
    }

    /// <summary>Shows pages as a small phone does.</summary>
    public void OnPhone(bool dark, int width = 390)
    {
        _driver.ExecuteCdpCommand(
            "Emulation.setDeviceMetricsOverride",
            new Dictionary<string, object?>
            {
                ["width"] = width,
                ["height"] = 844,
                ["deviceScaleFactor"] = 2,
                ["mobile"] = true,
            }
        );
        _driver.ExecuteCdpCommand(
            "Emulation.setEmulatedMedia",
            new Dictionary<string, object?>
            {
                ["features"] = new object[]
                {
                    new Dictionary<string, object?> { ["name"] = "prefers-color-scheme", ["value"] = dark ? "dark" : "light" },
                },
            }
        );
    }

    /// <summary>Name of what has the focus.</summary>
    public string Focused => NameOf(_driver.SwitchTo().ActiveElement());

    /// <summary>Opens another tab of the same browser and goes on there.</summary>
    public string NewTab(string url)
    {
        _driver.SwitchTo().NewWindow(WindowType.Tab);
        Open(url);
        return _driver.CurrentWindowHandle;
    }

    public string Tab => _driver.CurrentWindowHandle;

    public void GoToTab(string tab) => _driver.SwitchTo().Window(tab);

    /// <summary>Puts a text on the clipboard and pastes it into a field, or into the page where there is no label.</summary>
    public void Paste(string text, string? label = null) =>
        Script<object>(
            """
            const data = new DataTransfer();
            data.setData('text', arguments[1]);
            (arguments[0] ?? document.body).dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            return true;
            """,
            label is null ? null! : Find("textbox", label),
            text
        );

    /// <summary>Puts a text on the clipboard and pastes it where the focus is.</summary>
    public void PasteHere(string text) =>
        Script<object>(
            """
            const data = new DataTransfer();
            data.setData('text/plain', arguments[0]);
            document.activeElement.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
            return true;
            """,
            text
        );

    /// <summary>Drags one thing onto another with the mouse.</summary>
    public void Drag(IWebElement what, IWebElement onto) =>
        new Actions(_driver).MoveToElement(what).ClickAndHold().MoveToElement(onto).Release().Perform();

    /// <summary>Fetches a file behind a link of the page, as a click on it would.</summary>
    public byte[] Download(string link)
    {
        string content = ScriptAsync<string>(
            """
            const done = arguments[arguments.length - 1];
            fetch(arguments[0]).then((r) => r.blob()).then((b) => { const reader = new FileReader(); reader.onload = () => done(reader.result.split(',')[1]); reader.readAsDataURL(b); });
            """,
            Find("link", link).GetAttribute("href")!
        );
        return Convert.FromBase64String(content);
    }

    /// <summary>The file that comes when something is done, as the browser lays it down.</summary>
    public string Downloaded(Action begin)
    {
        string folder = Directory.CreateDirectory(Path.Combine(_profile, "downloads", Guid.NewGuid().ToString("N"))).FullName;
        _driver.ExecuteCdpCommand(
            "Browser.setDownloadBehavior",
            new Dictionary<string, object?> { ["behavior"] = "allow", ["downloadPath"] = folder }
        );
        begin();
        return Until(
            () =>
                Directory
                    .GetFiles(folder)
                    .FirstOrDefault(f => !f.EndsWith(".crdownload", StringComparison.Ordinal) && new FileInfo(f).Length > 0),
            "the file"
        );
    }

    /// <summary>Clicks at a place in something, given as parts of its width and height.</summary>
    public void ClickAt(IWebElement what, double across, double down) =>
        Script<object>(
            """
            const box = arguments[0].getBoundingClientRect();
            arguments[0].dispatchEvent(new MouseEvent('click', { bubbles: true, clientX: box.left + box.width * arguments[1], clientY: box.top + box.height * arguments[2] }));
            return true;
            """,
            what,
            across,
            down
        );

    /// <summary>Goes into the frame of a title.</summary>
    public void IntoFrame(string title)
    {
        _driver
            .SwitchTo()
            .Frame(Until(() => _driver.FindElements(By.CssSelector($"iframe[title='{title}']")).FirstOrDefault(), $"the frame “{title}”"));
        _inFrame = true;
    }

    public void OutOfFrame()
    {
        _driver.SwitchTo().DefaultContent();
        _inFrame = false;
    }

    /// <summary>Waits until the page shows a text.</summary>
    public void See(string text, TimeSpan? patience = null)
    {
        // The browser's own idea of a page's text costs a fraction of ChromeDriver's, which goes from element to element. The two
        // part words in different ways here and there; then the other one is asked after a while.
        long began = Stopwatch.GetTimestamp();
        Until(
            () =>
                InnerText().Contains(text, StringComparison.Ordinal)
                || (
                    (text.Contains('\n', StringComparison.Ordinal) || Stopwatch.GetElapsedTime(began) >= AskAllAfter)
                    && Text().Contains(text, StringComparison.Ordinal)
                )
                    ? text
                    : null,
            $"the text “{text}”",
            patience
        );
    }

    public string Text() => _driver.FindElement(By.TagName("body")).Text;

    private string InnerText() => Script<string>("return document.body.innerText.replace(/[\\s\\u00a0]+/g, ' ')");

    public T Script<T>(string script, params object[] arguments) => (T)_driver.ExecuteScript(script, arguments)!;

    public T ScriptAsync<T>(string script, params object[] arguments) => (T)_driver.ExecuteAsyncScript(script, arguments)!;

    /// <summary>Runs a script until it calls its last argument, and gives the machine time the page's thread took meanwhile, in milliseconds.</summary>
    /// <param name="script">The script.</param>
    /// <param name="afterwards">Puts things back; what that takes does not count.</param>
    public double WorkOf(string script, Action afterwards)
    {
        _driver.ExecuteCdpCommand("Performance.enable", new Dictionary<string, object?> { ["timeDomain"] = "threadTicks" });
        double before = TaskSeconds();
        _driver.ExecuteAsyncScript(script);
        double seconds = TaskSeconds() - before;
        _driver.ExecuteCdpCommand("Performance.disable", []);
        afterwards();
        return 1000 * seconds;

        double TaskSeconds()
        {
            var answer = (Dictionary<string, object>)_driver.ExecuteCdpCommand("Performance.getMetrics", [])!;
            return ((IEnumerable<object>)answer["metrics"])
                .Cast<Dictionary<string, object>>()
                .Where(m => (string)m["name"] == "TaskDuration")
                .Select(m => Convert.ToDouble(m["value"], System.Globalization.CultureInfo.InvariantCulture))
                .Single();
        }
    }

    public T Until<T>(Func<T?> condition, string awaited, TimeSpan? patience = null)
        where T : class
    {
        try
        {
            _wait.Timeout = patience ?? Longest;
            return _wait.Until(_ => condition())!;
        }
        catch (WebDriverTimeoutException)
        {
            throw new InvalidOperationException(
                $"This never came: {awaited}. At {_driver.Url} the page says:\n{Text()}\n{string.Join('\n', Complaints)}"
            );
        }
    }

    public void Dispose()
    {
        _driver.Quit();
        _driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }

    /// <summary>A page that draws itself anew may take an element away between finding and using it.</summary>
    private void Retry(Action action)
    {
        string last = "";
        try
        {
            _wait.Until(_ =>
            {
                try
                {
                    action();
                    return true;
                }
                catch (Exception gone)
                    when (gone is StaleElementReferenceException or ElementNotInteractableException or ElementClickInterceptedException)
                {
                    last = gone.Message;
                    return false;
                }
            });
        }
        catch (WebDriverTimeoutException)
        {
            throw new InvalidOperationException($"The page never held still: {last}");
        }
    }

    /// <summary>The accessible name; in a frame of another origin ChromeDriver does not compute one, so there it is what is read.</summary>
    private string NameOf(IWebElement element) =>
        _inFrame ? element.Text
        : ((WebElement)element).ComputedAccessibleLabel is { Length: > 0 } label ? label
        : element.Text;

    /// <summary>Those that are shown and say something of the kind anywhere: in their text, their attributes, or their labels.</summary>
    private System.Collections.ObjectModel.ReadOnlyCollection<IWebElement> Candidates(string role, string name) =>
        Script<object>(
            """
            const bare = (text) => text.replace(/\s+/g, '');
            const wanted = bare(arguments[1]);
            const said = (e) => [e, ...e.querySelectorAll('*')].map((x) => ['aria-label', 'title', 'placeholder', 'alt', 'value'].map((a) => x.getAttribute(a) ?? '').join('')).join('')
                + e.textContent + (e.value ?? '') + [...(e.labels ?? [])].map((l) => l.textContent).join('')
                + (e.getAttribute('aria-labelledby') ?? '').split(' ').map((id) => document.getElementById(id)?.textContent ?? '').join('');
            return [...document.querySelectorAll(arguments[0])].filter((e) =>
                e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && e.getClientRects().length > 0 && (!wanted || bare(said(e)).includes(wanted)));
            """,
            SelectorOf(role),
            name
        )
            is System.Collections.ObjectModel.ReadOnlyCollection<IWebElement> found
            ? found
            : new([]);

    private System.Collections.ObjectModel.ReadOnlyCollection<IWebElement> Candidates(string role) =>
        _driver.FindElements(By.CssSelector(SelectorOf(role)));

    private static string SelectorOf(string role) =>
        role switch
        {
            "button" => "button, [role=button]",
            "link" => "a[href]",
            "textbox" => "input, textarea",
            "combobox" => "[role=combobox]",
            "table" => "table, [role=table]",
            "row" => "tr, [role=row]",
            "columnheader" => "th, [role=columnheader]",
            "checkbox" => "input[type=checkbox], [role=checkbox]",
            "heading" => "h1, h2, h3",
            "img" => "img, [role=img]",
            "complementary" => "aside",
            "strong" => "strong",
            "status" => "output, [role=status]",
            _ => $"[role={role}]",
        };
}
