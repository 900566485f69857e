using OpenQA.Selenium;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>Every view looked over by axe-core; a class for each theme, so that both go side by side with others.</summary>
public abstract class AccessibilityTests(RunningDemo demo)
{
    protected void Walk(string theme)
    {
        using var browser = new Browser();
        browser.Open($"{demo.Address}/sign-in");
        browser.Script<object>("localStorage.setItem('beacon-theme', arguments[0]); return true", theme);
        browser.Open($"{demo.Address}/sign-in");
        browser.Find("button", "Orla Fenwick");
        Check("sign-in");
        demo.SignIn(browser, "Orla Fenwick");
        Check("empty Compose");
        browser.Open($"{demo.Address}/conventions?at=1");
        browser.See("Test a value");
        Check("Conventions, a field");
        browser.Open($"{demo.Address}/conventions?at=channels");
        browser.Click("button", "Search ads");
        Check("Conventions, channels");
        foreach (var (at, says) in new[] { ("choices", "leaves only those"), ("rules", "A stop keeps a link"), ("carrying", "Systems that read your links"), ("versions", "Version 1") })
        {
            browser.Open($"{demo.Address}/conventions?at={at}");
            browser.See(says);
            Check($"Conventions, {at}");
        }

        browser.Open($"{demo.Address}/conventions?at=0");
        browser.Type("textbox", "Words to add", "Fern Blog\nnattervnie");
        browser.See("very near nattervine");
        Check("Conventions, pasted words");
        browser.Open($"{demo.Address}/conventions?at=2");
        browser.Find("combobox", "Value comes from").FindElements(By.TagName("option")).First(o => o.Text == "composed from parts").Click();
        browser.See("Test a name");
        Check("Conventions, a name pattern");
        string page = Uri.EscapeDataString($"http://{demo.GardenHost}/visit?utm_source=old");
        browser.Open($"{demo.Address}/compose?page={page}&page=javascript%3A1&say=Big+Poster");
        browser.Click("row", "No placement");
        browser.Find("complementary", "Link");
        Check("Compose");
        browser.Paste($"http://{demo.GardenHost}/visit?utm_source=natter+vine\nhttp://{demo.GardenHost}/shop?utm_soruce=herald");
        browser.See("2 links read back");
        Check("links read back");
        browser.Open($"{demo.Address}/compose?placement=x");
        browser.See("Parameters only");
        Check("parameters");
        browser.Open($"{demo.Address}/account");
        browser.See("this browser");
        Check("the account");
        browser.Open($"{demo.Address}/workspace?part=sites");
        browser.See("Measuring key");
        Check("sites");
        browser.Open($"{demo.Address}/plan");
        browser.Click("button", "New campaign");
        browser.Find("complementary", "New campaign");
        Check("Plan");
        browser.Click("button", "Attributes");
        browser.See("Add attribute");
        Check("attributes");
        browser.Click("row", "Lantern Nights");
        browser.See("Results so far");
        browser.Click("button", "Change");
        browser.Find("textbox", "Name");
        Check("a campaign");
        string campaign = browser.Url[(browser.Url.IndexOf("campaign=", StringComparison.Ordinal) + 9)..];
        browser.Open($"{demo.Address}/compose?view=texts&campaign={campaign}");
        browser.See("Hello everyone!");
        Check("share texts");
        foreach (var (part, says) in new[] { ("placements&placement=new", "Default values"), ("pages", "Plan your visit"), ("handed-over", "Vale Visitor Board") })
        {
            browser.Open($"{demo.Address}/plan?view={part}");
            browser.See(says);
            Check($"Plan, {part}");
        }

        browser.Open($"{demo.Address}/batches");
        browser.See("Drop a CSV");
        Check("Batches");
        browser.Upload("Sheet", Path.Combine(DatabaseCluster.Root, "samples/community-groups.csv"));
        browser.Click("button", "Preview run");
        browser.See("Make 28 links");
        Check("a batch, counted");
        browser.Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("comunity", StringComparison.Ordinal)), "the faulty row").FindElements(By.CssSelector("[role=gridcell]"))[1].Click();
        browser.See("This row only");
        Check("a batch, one row");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.Upload("Mail", Path.Combine(DatabaseCluster.Root, "samples/newsletter.html"));
        browser.See("Tagged (preview)");
        Check("a mail");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.See("newsletter.html");
        Check("mails");
        browser.Open($"{demo.Address}/batches?view=audits");
        browser.Upload("Links in use", Path.Combine(DatabaseCluster.Root, "samples/old-links.csv"));
        browser.See("71 links");
        Check("an audit");
        browser.Open($"{demo.Address}/batches?view=audits");
        browser.See("old-links.csv");
        Check("audits");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("row", "Gate poster");
        browser.Find("complementary", "Gate poster");
        browser.Click("button", "Change destination");
        browser.See("empty for never");
        Check("Ledger");
        browser.Open($"{demo.Address}/arrivals");
        browser.See("Visits");
        Check("Arrivals");

        void Check(string view) => Accessibility.Check(browser, $"{view}, {theme}");
    }
}

public sealed class LightAccessibilityTests(RunningDemo demo) : AccessibilityTests(demo), IClassFixture<RunningDemo>
{
    [Fact]
    public void Nothing_stands_in_anybodys_way() => Walk("light");
}

public sealed class DarkAccessibilityTests(RunningDemo demo) : AccessibilityTests(demo), IClassFixture<RunningDemo>
{
    [Fact]
    public void Nothing_stands_in_anybodys_way() => Walk("dark");
}
