using OpenQA.Selenium;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
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
        browser.See("Your role can view and copy, but not save.");
        Assert.DoesNotContain(browser.All("button"), b => b.Text.StartsWith("Save", StringComparison.Ordinal));
    }

    [Fact]
    public void Markup_in_names_is_shown_as_text()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        const string Nasty = "<img src=x onerror=\"document.title='broken'\">";
        browser.Open(
            $"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/visit")}&say={Uri.EscapeDataString(Nasty)}"
        );
        browser.See("<img");
        Assert.NotEqual("broken", browser.Script<string>("return document.title"));
    }

    [Fact]
    public async Task An_empty_installation_gets_its_owner_and_first_links_in_a_few_steps()
    {
        string connection = await DatabaseCluster.NewDatabaseAsync();
        string data = Directory.CreateTempSubdirectory("beacon-empty-").FullName;
        await using (var empty = await BeaconProcess.StartAsync(connection, data, DatabaseCluster.FreePort(), demo: false))
        {
            using var browser = new Browser();
            browser.Open($"http://localhost:{empty.Port}/");
            browser.See("Set up your workspace");
            browser.Type("textbox", "Your name", "Orla Fenwick");
            browser.Type("textbox", "Mail address", "orla@marrowmere.example");
            browser.Type("textbox", "Password", "too short");
            browser.Type("textbox", "Organisation", "Marrowmere");
            browser.Type("textbox", "Host of your website", "marrowmere.example");
            browser.Click("button", "Create workspace");
            browser.Find("alert", "");
            browser.Type("textbox", "Password", "a much longer password");
            browser.Click("button", "Create workspace");
            browser.See("No links yet");
            browser.Open($"http://localhost:{empty.Port}/ledger");
            browser.See("No links yet");
            browser.Open($"http://localhost:{empty.Port}/arrivals");
            browser.See("No visits in this range");

            // The first correct link, with a campaign that wasn't there yet.
            browser.Open($"http://localhost:{empty.Port}/compose");
            int before = browser.Actions;
            browser.Click("button", "Placements: choose placements");
            browser.Click("option", "Newsletter – main button");
            browser.Press(Keys.Escape);
            browser.Type("combobox", "Pages", "https://marrowmere.example/spring", Keys.Enter);
            browser.Click("button", "Campaigns: choose a campaign");
            browser.Type("combobox", "Campaigns", "Spring Sale");
            browser.Click("option", "New: Spring Sale");
            browser.Click("button", "Add campaign");
            browser.See("1 ready · 0 stopped");
            browser.Click("button", "Save 1");
            browser.See("1 link saved");
            Assert.InRange(browser.Actions - before, 1, 12);
            Assert.DoesNotContain(
                "need a look",
                browser.Text().Replace("0 need a look", "", StringComparison.Ordinal),
                StringComparison.Ordinal
            );

            // Thirty groups become placements from one list.
            browser.Open($"http://localhost:{empty.Port}/plan?view=placements");
            before = browser.Actions;
            browser.Click("button", "Add many");
            browser.Type("textbox", "Names or cells", string.Join('\n', Enumerable.Range(1, 30).Select(i => $"Allotment group {i:00}")));
            browser.Choose("Channel of all", "Communities");
            browser.Click("button", "Preview");
            browser.Click("button", "Create 30 placements");
            browser.See("30 placements created.");
            Assert.InRange(browser.Actions - before, 1, 6);

            // Ten of them get a link each.
            browser.Open($"http://localhost:{empty.Port}/compose");
            browser.See("Choose where people come from");
            before = browser.Actions;
            browser.Click("button", "Placements: choose placements");
            for (int i = 1; i <= 10; i++)
            {
                browser.Click("option", $"Allotment group {i:00}");
            }

            browser.Press(Keys.Escape);
            browser.Type("combobox", "Pages", "https://marrowmere.example/plots", Keys.Enter);
            browser.Click("button", "Campaigns: choose a campaign");
            browser.Click("option", "Spring Sale");
            browser.See("10 ready · 0 stopped");
            browser.Click("button", "Save 10");
            browser.See("10 links saved");
            Assert.InRange(browser.Actions - before, 1, 26);
        }

        await DatabaseCluster.DropAsync(connection);
        Directory.Delete(data, recursive: true);
    }
}
