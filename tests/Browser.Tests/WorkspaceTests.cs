using System.Text.Json.Nodes;
using PreciseBeacon.Web.Accounts;

namespace PreciseBeacon.BrowserTests;

/// <summary>A second short domain from being added to a click on it, and a host that is never allowed.</summary>
public sealed class WorkspaceTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    [Fact]
    public async Task A_short_domain_is_added_checked_and_used_with_a_slug_that_is_offered()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        string host = demo.ShortHost.Replace("mmr.", "print.", StringComparison.Ordinal);
        browser.Open($"{demo.Address}/workspace?part=domains");
        browser.Type("textbox", "New short domain", $"http://{host}");
        browser.Click("button", "Add and check");
        browser.See($"{host} works: leads here, checked");

        using var client = new HttpClient();
        client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
        async Task<string> IdOf(string list, string name) =>
            JsonNode
                .Parse(await client.GetStringAsync($"{demo.Address}/api/v1/{list}"))!
                .AsArray()
                .Single(p => p!["name"]!.GetValue<string>() == name)!["id"]!.GetValue<string>();
        browser.Open(
            $"{demo.Address}/compose?page={Uri.EscapeDataString($"http://{demo.GardenHost}/orchid-week")}&placement={await IdOf("placements", "Gate poster")}&campaign={await IdOf("campaigns", "Orchid Week")}&say=second%20domain"
        );
        browser.Click("row", "Gate poster");
        browser.Choose("Short domain for all links here", host);
        browser.Type("textbox", "Slug", "where");
        browser.See("is reserved on every short domain");
        browser.Click("button", "orchid-week-");
        browser.Click("button", "Save 1");
        string shortUrl = browser.Until(
            () => browser.Text().Split('\n').FirstOrDefault(l => l.StartsWith($"http://{host}/orchid-week-", StringComparison.Ordinal)),
            "the short link on the second domain"
        );
        browser.Open(shortUrl);
        browser.Find("heading", "Orchid Week");
        Assert.Contains("utm_content=second_domain", browser.Url, StringComparison.Ordinal);
        Assert.Empty(browser.Complaints);
    }

    [Fact]
    public void A_host_is_never_allowed_after_what_it_stops_was_seen()
    {
        using var browser = new Browser();
        demo.SignIn(browser, "Orla Fenwick");
        browser.Open($"{demo.Address}/workspace?part=hosts");
        browser.Type("textbox", "Host", "https://mossgate.example/guide");
        browser.Click("button", "Preview effect");
        browser.See("No short link leads to mossgate.example.");
        browser.Click("button", "Block mossgate.example");
        browser.See("1 on the list");
        browser.Open($"{demo.Address}/compose?page={Uri.EscapeDataString("https://www.mossgate.example/")}&say=x");
        browser.Click("row", "www.mossgate.example");
        browser.See("is blocked, as part of mossgate.example");
        browser.Open($"{demo.Address}/workspace?part=hosts");
        browser.Click("button", "Unblock mossgate.example");
        browser.See("0 on the list");
        Assert.Empty(browser.Complaints);
    }
}
