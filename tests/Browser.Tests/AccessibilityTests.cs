using OpenQA.Selenium;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>Every view where links are prepared, looked over by axe-core.</summary>
public sealed class PreparingAccessibilityTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void Nothing_stands_in_anybodys_way()
    {
        using var browser = new Browser();
        browser.Open($"{demo.Address}/sign-in");
        browser.Find("button", "Orla Fenwick");
        Accessibility.Check(browser, "sign-in");
        demo.SignIn(browser, "Orla Fenwick");
        Accessibility.Check(browser, "empty Compose");
        browser.Open($"{demo.Address}/conventions?at=1");
        browser.See("Test a value");
        Accessibility.Check(browser, "Conventions, a field");
        browser.Open($"{demo.Address}/conventions?at=channels");
        browser.Click("button", "Search ads");
        Accessibility.Check(browser, "Conventions, channels");
        foreach (
            var (at, says) in new[]
            {
                ("choices", "offers only the words on the right"),
                ("rules", "An error prevents saving"),
                ("carrying", "Systems that read your links"),
                ("versions", "Version 1"),
            }
        )
        {
            browser.Open($"{demo.Address}/conventions?at={at}");
            browser.See(says);
            Accessibility.Check(browser, $"Conventions, {at}");
        }

        browser.Open($"{demo.Address}/conventions?at=0");
        browser.Type("textbox", "Words to add", "Fern Blog\nnattervnie");
        browser.See("very similar to nattervine");
        Accessibility.Check(browser, "Conventions, pasted words");
        browser.Open($"{demo.Address}/conventions?at=2");
        browser.Choose("Value comes from", "composed from parts");
        browser.See("Test a name");
        Accessibility.Check(browser, "Conventions, a name pattern");
        string page = Uri.EscapeDataString($"http://{demo.GardenHost}/visit?utm_source=old");
        browser.Open($"{demo.Address}/compose?page={page}&page=javascript%3A1&say=Big+Poster");
        browser.Click("row", "No placement");
        browser.Find("complementary", "Link");
        Accessibility.Check(browser, "Compose");
        browser.Paste($"http://{demo.GardenHost}/visit?utm_source=natter+vine\nhttp://{demo.GardenHost}/shop?utm_soruce=herald");
        browser.See("2 links read back");
        Accessibility.Check(browser, "links read back");
        browser.Open($"{demo.Address}/compose?placement=x");
        browser.See("Parameters only");
        Accessibility.Check(browser, "parameters");
        browser.Open($"{demo.Address}/plan");
        browser.Click("button", "New campaign");
        browser.Find("complementary", "New campaign");
        Accessibility.Check(browser, "Plan");
        browser.Click("button", "Attributes");
        browser.See("Add attribute");
        Accessibility.Check(browser, "attributes");
        browser.Click("row", "Lantern Nights");
        browser.See("Results so far");
        browser.Click("button", "Change");
        browser.Find("textbox", "Name");
        Accessibility.Check(browser, "a campaign");
        string campaign = browser.Url[(browser.Url.IndexOf("campaign=", StringComparison.Ordinal) + 9)..];
        browser.Open($"{demo.Address}/compose?view=texts&campaign={campaign}");
        browser.See("Hello everyone!");
        Accessibility.Check(browser, "share texts");
        foreach (
            var (part, says) in new[]
            {
                ("placements&placement=new", "Default values"),
                ("pages", "Plan your visit"),
                ("handed-over", "Vale Visitor Board"),
            }
        )
        {
            browser.Open($"{demo.Address}/plan?view={part}");
            browser.See(says);
            Accessibility.Check(browser, $"Plan, {part}");
        }
    }
}

/// <summary>Every view of bulk work, of what came of links, and of the workspace, looked over by axe-core.</summary>
public sealed class ResultAccessibilityTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void Nothing_stands_in_anybodys_way()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/account");
        browser.See("this browser");
        Accessibility.Check(browser, "the account");
        browser.Open($"{demo.Address}/workspace?part=sites");
        browser.Click("button", "Settings");
        browser.See("Hosts, one on each line");
        Accessibility.Check(browser, "sites");
        browser.Open($"{demo.Address}/workspace?part=people");
        browser.See("3 members");
        Accessibility.Check(browser, "people");
        browser.Open($"{demo.Address}/workspace?part=changes");
        browser.See("Export as CSV");
        Accessibility.Check(browser, "changes");
        browser.Open($"{demo.Address}/workspace?part=conversions");
        browser.Click("button", "New conversion");
        browser.See("Counts when");
        Accessibility.Check(browser, "conversions");
        browser.Open($"{demo.Address}/batches");
        browser.See("Drop a CSV");
        Accessibility.Check(browser, "Batches");
        browser.Upload("Sheet", Path.Combine(DatabaseCluster.Root, "samples/community-groups.csv"));
        browser.Click("button", "Preview run");
        browser.See("Create 28 links");
        Accessibility.Check(browser, "a batch, counted");
        browser
            .Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("comunity", StringComparison.Ordinal)), "the faulty row")
            .FindElements(By.CssSelector("[role=gridcell]"))[1]
            .Click();
        browser.See("This row only");
        Accessibility.Check(browser, "a batch, one row");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.Upload("Mail", Path.Combine(DatabaseCluster.Root, "samples/newsletter.html"));
        browser.See("Tagged (preview)");
        Accessibility.Check(browser, "a mail");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.See("newsletter.html");
        Accessibility.Check(browser, "mails");
        browser.Open($"{demo.Address}/batches?view=link-reviews");
        browser.Upload("Links in use", Path.Combine(DatabaseCluster.Root, "samples/old-links.csv"));
        browser.See("73 links");
        Accessibility.Check(browser, "a link review");
        browser.Open($"{demo.Address}/batches?view=link-reviews");
        browser.See("old-links.csv");
        Accessibility.Check(browser, "link reviews");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("row", "Gate poster");
        browser.Find("complementary", "Gate poster");
        browser.Click("button", "Change destination");
        browser.See("empty = never");
        Accessibility.Check(browser, "Ledger");
    }
}

/// <summary>Every view of Arrivals, looked over by axe-core.</summary>
public sealed class ArrivalsAccessibilityTests(VisitedDemo demo) : IClassFixture<VisitedDemo>
{
    [Fact]
    public void Nothing_stands_in_anybodys_way()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/arrivals?compare=before&tall=1");
        browser.Find("row", "Lantern Nights").SendKeys(Keys.ArrowRight);
        browser.Until(() => browser.All("row").FirstOrDefault(r => r.GetAttribute("aria-level") == "3"), "the rows below");
        Accessibility.Check(browser, "Arrivals");
        browser.Open($"{demo.Address}/arrivals?part=visits");
        browser.Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("email", StringComparison.Ordinal)), "a visit").Click();
        browser.See("Where it came from");
        Accessibility.Check(browser, "Visits");
        browser.Open($"{demo.Address}/arrivals?part=pages");
        browser.See("Entered");
        browser.Press("w");
        browser.Find("complementary", "Watch");
        Accessibility.Check(browser, "Pages beside Watch");
        browser.Press("w");
        browser.Open($"{demo.Address}/arrivals?part=map");
        browser.Find("row", "Ireland");
        Accessibility.Check(browser, "Map");
        browser.Open($"{demo.Address}/arrivals?compare=campaigns:school_visits,volunteer_call");
        browser.Find("columnheader", "School Visits");
        Accessibility.Check(browser, "Campaigns side by side");
        browser.Open($"{demo.Address}/ledger?order=-clicks");
        browser
            .Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("Volunteer Call", StringComparison.Ordinal)), "a link")
            .Click();
        browser.Click("button", "Open link page");
        browser.See("In this range");
        Accessibility.Check(browser, "a link's counts");
    }
}
