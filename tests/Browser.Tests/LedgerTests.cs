using OpenQA.Selenium;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>A short link is led elsewhere, given an end, and watched as it ends.</summary>
public sealed class LedgerTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public void A_link_is_led_elsewhere_and_ended()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Tomas Birch");
        browser.Open($"{demo.Address}/ledger");
        browser.Click("row", "Gate poster");
        string shortUrl = browser.Until(
            () => browser.Text().Split('\n').FirstOrDefault(l => l.StartsWith($"http://{demo.ShortHost}/", StringComparison.Ordinal)),
            "the short link"
        );
        string ledger = browser.Tab;
        string street = browser.NewTab(shortUrl);
        browser.Find("heading", "Winter Wreath Workshops");

        browser.GoToTab(ledger);
        browser.Click("button", "Change destination");
        browser.Type("textbox", "Destination page", $"http://{demo.GardenHost}/orchid-week");
        browser.Click("button", "Change");
        browser.See($"to http://{demo.GardenHost}/orchid-week");
        browser.GoToTab(street);
        Comes("Orchid Week");
        Assert.Contains("utm_source=gate_poster", browser.Url, StringComparison.Ordinal);
        browser.Open($"{shortUrl}/where");
        browser.See($"http://{demo.GardenHost}/orchid-week");
        browser.Find("link", "Open the page");

        browser.GoToTab(ledger);
        browser.Click("button", "Change destination");
        browser.Type("textbox", "Ends at", "1 Jan 2026", Keys.Tab);
        browser.Click("button", "Change");
        browser.See("has ended");
        browser.GoToTab(street);
        Comes("This link has ended");

        browser.GoToTab(ledger);
        browser.Click("button", "Change destination");
        browser.Type("textbox", "Destination after the end", $"http://{demo.GardenHost}/news");
        browser.Click("button", "Change");
        browser.See("then opens");
        browser.GoToTab(street);
        Comes("News");

        void Comes(string heading) =>
            browser.Until(
                () =>
                {
                    browser.Open(shortUrl);
                    return browser.All("heading").FirstOrDefault(h => h.Text == heading);
                },
                $"the page “{heading}” behind the short link"
            );
    }
}
