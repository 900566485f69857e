using OpenQA.Selenium;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

public sealed class InterfaceTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void The_keyboard_alone_goes_anywhere()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Press("?");
        browser.See("go anywhere");
        browser.Press(Keys.Escape);
        browser.Press(Keys.Control, "k");
        browser.Find("combobox", "Go anywhere");
        browser.Press("L");
        browser.Press("edger");
        browser.Press(Keys.Enter);
        browser.Find("heading", "Ledger");
        Assert.EndsWith("/ledger", browser.Url, StringComparison.Ordinal);
    }

    [Fact]
    public void A_refused_page_says_why_while_the_other_links_go_on()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        string[] pages = [$"http://{demo.GardenHost}/visit", "javascript:alert(1)", "http://2130706433/"];
        browser.Open($"{demo.Address}/compose?{string.Join('&', pages.Select(p => "page=" + Uri.EscapeDataString(p)))}");
        browser.Click("button", "Placements: choose placements");
        browser.Click("option", "Gate poster");
        browser.Press(Keys.Escape);
        browser.Click("button", "Campaigns: choose a campaign");
        browser.Click("option", "School Visits");
        browser.See("1 ready · 2 stopped");
        browser.See("only http and https pages can be measured");
        browser.Click("button", "Save 1");
        browser.See("1 link saved");
    }

    [Fact]
    public void A_viewer_may_look_and_copy_but_not_save()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Wren Castell");
        browser.See("Your role may look and copy, not save.");
        Assert.DoesNotContain(browser.All("button"), b => b.Text.StartsWith("Save", StringComparison.Ordinal));
    }

    [Fact]
    public void Markup_in_names_is_shown_as_text()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        const string Nasty = "<img src=x onerror=\"document.title='broken'\">";
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/visit")}&say={Uri.EscapeDataString(Nasty)}");
        browser.See("<img");
        Assert.NotEqual("broken", browser.Script<string>("return document.title"));
    }

    [Fact]
    public async Task The_first_visit_of_an_empty_installation_makes_its_owner()
    {
        string connection = await DatabaseCluster.NewDatabaseAsync();
        string data = Directory.CreateTempSubdirectory("beacon-empty-").FullName;
        await using (var empty = await BeaconProcess.StartAsync(connection, data, DatabaseCluster.FreePort(), demo: false))
        {
            using var browser = new Browser();
            browser.Open($"http://localhost:{empty.Port}/");
            browser.See("Nobody is here yet");
            browser.Type("textbox", "Your name", "Orla Fenwick");
            browser.Type("textbox", "Mail address", "orla@marrowmere.example");
            browser.Type("textbox", "Password", "too short");
            browser.Type("textbox", "Organisation", "Marrowmere");
            browser.Type("textbox", "Host of your website", "marrowmere.example");
            browser.Type("textbox", "Your short domain", "mmr.example");
            browser.Click("button", "Begin");
            browser.Find("alert", "");
            browser.Type("textbox", "Password", "a much longer password");
            browser.Click("button", "Begin");
            browser.See("Nothing to build yet");
            browser.Open($"http://localhost:{empty.Port}/ledger");
            browser.See("No links yet");
            browser.Open($"http://localhost:{empty.Port}/arrivals");
            browser.See("Nobody has arrived in this range");
        }

        await DatabaseCluster.DropAsync(connection);
        Directory.Delete(data, recursive: true);
    }

    [Theory]
    [InlineData("light")]
    [InlineData("dark")]
    public void Nothing_stands_in_anybodys_way(string theme)
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
        browser.See("Trying bench");
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
        browser.Find("combobox", "Its value is").FindElements(By.TagName("option")).First(o => o.Text == "put together from parts").Click();
        browser.See("Take a name apart");
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
        browser.See("Parameters without a page");
        Check("parameters");
        browser.Open($"{demo.Address}/plan");
        browser.Click("button", "New campaign");
        browser.Find("complementary", "New campaign");
        Check("Plan");
        browser.Click("button", "Attributes");
        browser.See("Another attribute");
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
        foreach (var (part, says) in new[] { ("placements&placement=new", "What its links say by themselves"), ("pages", "Plan your visit"), ("handed-over", "Vale Visitor Board") })
        {
            browser.Open($"{demo.Address}/plan?view={part}");
            browser.See(says);
            Check($"Plan, {part}");
        }

        browser.Open($"{demo.Address}/batches");
        browser.See("Drop a CSV");
        Check("Batches");
        browser.Upload("Sheet", Path.Combine(DatabaseCluster.Root, "samples/community-groups.csv"));
        browser.Click("button", "Count what it would do");
        browser.See("Make 28 links");
        Check("a batch, counted");
        browser.Until(() => browser.All("row").FirstOrDefault(r => r.Text.Contains("comunity", StringComparison.Ordinal)), "the faulty row").FindElements(By.CssSelector("[role=gridcell]"))[1].Click();
        browser.See("For this row alone");
        Check("a batch, one row");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.Upload("Mail", Path.Combine(DatabaseCluster.Root, "samples/newsletter.html"));
        browser.See("As it would go out");
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
        browser.Click("button", "Change where they lead");
        browser.See("empty for never");
        Check("Ledger");
        browser.Open($"{demo.Address}/arrivals");
        browser.See("Visits");
        Check("Arrivals");

        void Check(string view) => Accessibility.Check(browser, $"{view}, {theme}");
    }
}
