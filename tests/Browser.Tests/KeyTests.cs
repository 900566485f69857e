using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>A tool that only knows a pattern: its key, its call, the click that follows, and what arrives.</summary>
public sealed class KeyTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task A_tool_shortens_and_what_it_sends_arrives()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace?part=keys");
        browser.Type("textbox", "Purpose", "Posting tool");
        browser.Click("button", "Create key");
        browser.See("It is shown only once");
        browser.Choose("Placement", "Members’ mail");
        string pattern = browser
            .Until(
                () =>
                    browser
                        .Text()
                        .Split('\n')
                        .FirstOrDefault(l =>
                            l.StartsWith($"{demo.Address}/api/v1/shorten?key=pb_", StringComparison.Ordinal)
                            && l.Contains("placement=Members", StringComparison.Ordinal)
                        ),
                "the pattern"
            )
            .Trim();

        // The tool, which knows nothing but the pattern: the long link goes to its end.
        using var tool = new HttpClient();
        string shortUrl = await tool.GetStringAsync($"{pattern}http://{demo.GardenHost}/orchid-week?utm_campaign=orchid_week");
        Assert.StartsWith($"http://{demo.ShortHost}/", shortUrl, StringComparison.Ordinal);
        Assert.Equal(shortUrl, await tool.GetStringAsync($"{pattern}http://{demo.GardenHost}/orchid-week?utm_campaign=orchid_week"));

        browser.Open(shortUrl);
        browser.Until(
            () =>
                browser.Url.Contains("utm_campaign=orchid_week", StringComparison.Ordinal)
                && browser.Url.Contains("utm_medium=email", StringComparison.Ordinal)
                    ? "there"
                    : null,
            "the page, with the placement's tags"
        );
        browser.Open($"{demo.Address}/arrivals");
        browser.Until(
            () => browser.All("row").FirstOrDefault(r => r.Text.Contains("orchid_week", StringComparison.Ordinal)),
            "the campaign"
        );

        browser.Open($"{demo.Address}/workspace?part=keys");
        browser.Click("button", "Revoke Posting tool");
        browser.See("revoked");
        using var later = await tool.GetAsync($"{pattern}http://{demo.GardenHost}/orchid-week");
        Assert.Equal(System.Net.HttpStatusCode.Unauthorized, later.StatusCode);
        Assert.Empty(browser.Complaints);
    }
}
