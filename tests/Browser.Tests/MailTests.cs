using OpenQA.Selenium;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>An HTML mail from the file to the inbox, to the click, to Arrivals; and links in use, looked at.</summary>
public sealed class MailTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    private static string Sample(string name) => Path.Combine(DatabaseCluster.Root, "samples", name);

    /// <summary>Opens the mail in the inbox, in another tab, and clicks one of its links.</summary>
    private static void ClickInInbox(Browser browser)
    {
        browser.NewTab(browser.Find("link", "Open inbox").GetAttribute("href")!);
        browser.IntoFrame("Mail");
        browser.Click("link", "Book an evening");
        browser.OutOfFrame();
        browser.Find("heading", "Lantern Nights");
    }

    [Fact]
    public void A_newsletter_is_tagged_sent_clicked_and_seen_to_arrive()
    {
        string mail = Path.Combine(Path.GetTempPath(), $"newsletter-{Guid.NewGuid():N}.html");
        File.WriteAllText(
            mail,
            File.ReadAllText(Sample("newsletter.html"))
                .Replace("https://marrowmere.example", $"http://{demo.GardenHost}", StringComparison.Ordinal)
        );
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches?view=mails");
        browser.Upload("Mail", mail);
        File.Delete(mail);
        browser.See("14 links");
        browser.Choose("Placement", "The Trellis – header button");
        browser.Choose("Campaign", "Lantern Nights");
        browser.See("8 ready");
        browser.See("unchanged: lets people unsubscribe");
        browser.See("unchanged: leads to another site");
        browser.Type("textbox", "Content of link 4", "mail test button", Keys.Enter);
        browser.Until(
            () =>
                browser.Find("textbox", "Content of link 4").GetAttribute("value") == "mail test button"
                && !browser.Text().Contains("stopped", StringComparison.Ordinal)
                    ? "kept"
                    : null,
            "the typed content"
        );
        browser.Click("button", "Write 8 links");
        browser.See("8 links are written into the mail.");

        // Before and after are shut in: the frame shows the mail, and nothing of it runs here.
        browser.IntoFrame("Tagged mail");
        browser.See("The lake is lit again");
        Assert.Contains(
            "utm_content=mail_test_button",
            browser.Find("link", "Book an evening").GetAttribute("href"),
            StringComparison.Ordinal
        );
        browser.OutOfFrame();
        browser.Click("button", "Send a test mail");
        string here = browser.Tab;
        ClickInInbox(browser);
        Assert.Contains("utm_content=mail_test_button", browser.Url, StringComparison.Ordinal);

        browser.GoToTab(here);
        browser.Open($"{demo.Address}/arrivals?rows=content");
        browser.Find("heading", "Arrivals");

        // The page hears of the visit by itself.
        browser.See("mail_test_button");
    }

    [Fact]
    public async Task A_mails_links_are_tried_as_they_are_clicked_and_nothing_is_counted()
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Address) };
        client.DefaultRequestHeaders.Authorization = new("Bearer", "demo-editor");
        string html = (await File.ReadAllTextAsync(Sample("newsletter.html"))).Replace(
            "https://marrowmere.example",
            $"http://{demo.GardenHost}",
            StringComparison.Ordinal
        );
        using var brought = await client.PostAsync("/api/v1/mails?name=trial.html", new StringContent(html));
        string id = System.Text.Json.Nodes.JsonNode.Parse(await brought.Content.ReadAsStringAsync())!["id"]!.GetValue<string>();
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches?mail={id}");
        browser.Click("button", "Trial");
        browser.See("Write the links into the mail first.");
        browser.Choose("Placement", "The Trellis – footer link");
        browser.Choose("Campaign", "Lantern Nights");
        browser.Click("button", "Write 8 links");
        browser.See("8 links are written into the mail.");
        browser.Click("button", "Send it for a trial");
        browser.See("0 of 8 links tried");
        Accessibility.Check(browser, "the trial of a mail");
        string here = browser.Tab;
        ClickInInbox(browser);
        browser.GoToTab(here);
        browser.See("1 of 8 links tried");
        browser.See("The link works. It arrives as Newsletter and mail");
        browser.Open($"{demo.Address}/arrivals?rows=placement");
        browser.Find("heading", "Arrivals");
        Assert.DoesNotContain("The Trellis – footer link", browser.Text(), StringComparison.Ordinal);
    }

    [Fact]
    public void Links_in_use_are_counted_by_rule_and_mended()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/batches?view=link-reviews");
        browser.Upload("Links in use", Sample("old-links.csv"));
        browser.Find("heading", "old-links.csv");
        browser.See("73 links");
        browser.Click("button", "key misspelt");
        browser.Until(() => browser.All("row").Count is > 1 and < 10 ? "few" : null, "only the links with misspelt keys");
        browser.See("utm_soruce");
        browser.Find("link", "Report");
        byte[] sheet = browser.Download("CSV");
        Assert.Contains("Repaired link", System.Text.Encoding.UTF8.GetString(sheet), StringComparison.Ordinal);

        // The garden's own pages carry no tags among themselves.
        browser.Click("button", "All link reviews");
        browser.Click("button", "Crawl");
        browser.See("No tagged links found.");
    }
}
