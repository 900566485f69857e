using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.BrowserTests;

/// <summary>The pages strangers see on a short domain: on a phone, without script, in the workspace's name.</summary>
public sealed class PublicPageTests(RunningDemo demo) : IClassFixture<RunningDemo>
{
    private const string Name = "Marrowmere Botanic Garden";

    [Theory]
    [InlineData("light")]
    [InlineData("dark")]
    public async Task Strangers_read_on_a_phone_what_became_of_a_link(string theme)
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Address) };
        client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
        var works = await MadeAsync("works", new { });
        var pauses = await MadeAsync("pauses", new { paused = true });
        var ended = await MadeAsync("ended", new { endsAt = "2020-01-01T00:00" });
        using var browser = new Browser();
        browser.OnPhone(theme == "dark");
        foreach (
            var (address, heading, says) in new[]
            {
                ($"{works.Text("shortUrl")}/where", works["link"].Text("url").Length > 0 ? "Gate poster" : "", "leads to the page below"),
                (pauses.Text("shortUrl"), "This link is paused", "please try again later"),
                ($"{pauses.Text("shortUrl")}/where", "Gate poster", "is paused"),
                (ended.Text("shortUrl"), "This link has ended", "ask whoever gave it to you"),
                ($"{ended.Text("shortUrl")}/where", "Gate poster", "has ended"),
                ($"http://{demo.ShortHost}/no-such-slug", "No such link", "check the spelling"),
            }
        )
        {
            browser.Until(
                () =>
                {
                    browser.Open(address);
                    return browser.Text().Contains(says, StringComparison.Ordinal) ? says : null;
                },
                $"“{says}” at {address}"
            );
            Assert.Contains(heading, browser.Find("heading", heading).Text, StringComparison.Ordinal);
            Assert.Contains(Name, browser.Text(), StringComparison.Ordinal);
            Assert.Equal(
                0L,
                browser.Script<long>("return document.scripts.length + document.querySelectorAll('link, img, iframe').length")
            );
            Assert.True(
                browser.Script<bool>("return document.documentElement.scrollWidth <= innerWidth && innerWidth < 500"),
                $"{address} is wider than a phone"
            );
            Assert.True(
                browser.Script<bool>(
                    "return [...document.querySelectorAll('p, h1, a')].every((e) => parseFloat(getComputedStyle(e).fontSize) >= 15)"
                ),
                $"{address} is too small to read"
            );
            Accessibility.Check(browser, $"{address}, {theme}");
        }

        async Task<JsonNode> MadeAsync(string content, object route)
        {
            string page = $"http://{demo.GardenHost}/orchid-week";
            var made = await client.DoAsync(
                HttpMethod.Post,
                "/api/v1/links",
                new
                {
                    destination = page,
                    campaign = "Seed Swap",
                    placement = "Gate poster",
                    title = "Gate poster, north",
                    fields = new { utm_content = $"{content}_{theme}" },
                }
            );
            var change = JsonNode.Parse(System.Text.Json.JsonSerializer.Serialize(route))!.AsObject();
            change["leadsTo"] = page;
            change["revision"] = 0;
            await client.DoAsync(HttpMethod.Put, $"/api/v1/links/{made.Text("id")}/route", change);
            return made;
        }
    }
}
