using System.Net;
using PreciseBeacon.Core.Links;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

[Collection(nameof(DemoHost))]
public sealed class PartnerPageTests(DemoHost demo)
{
    private const string Page = $"http://{BeaconHost.GardenHost}/volunteer";

    [Fact]
    public async Task A_partner_sees_their_links_texts_and_codes_and_nothing_else_until_it_is_revoked()
    {
        using var client = demo.Host.As("editor");
        var mine = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/placements",
            new
            {
                name = $"Board {Guid.NewGuid():N}",
                channel = "Partners",
                defaults = new { source = "vale_visitor_board", medium = "referral" },
            }
        );
        var campaign = await client.DoAsync(HttpMethod.Post, "/api/v1/campaigns", new { name = $"<b>Fair</b> {Guid.NewGuid():N}" });
        var link = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = campaign.Text("id"),
                placement = mine.Text("id"),
                title = "<script>alert(1)</script>",
            }
        );
        var other = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = Page,
                campaign = campaign.Text("id"),
                placement = "Gate poster",
            }
        );
        await client.DoAsync(
            HttpMethod.Put,
            "/api/v1/share-texts",
            new
            {
                campaign = campaign.Text("id"),
                page = $"{BeaconHost.GardenHost}/volunteer",
                text = "Lend a hand & dig: @{link}",
                revision = 0,
            }
        );
        var handed = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/partner-pages",
            new
            {
                name = "Vale & Co",
                placements = new[] { mine.Text("id") },
                note = "Thank you.",
            }
        );
        Assert.Equal(1, handed.Whole("links"));

        using var stranger = demo.Host.Anonymous();
        string path = new Uri(handed.Text("address")).AbsolutePath;
        using var page = await stranger.GetAsync(path);
        string html = await page.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, page.StatusCode);
        Assert.Contains(link.Text("shortUrl"), html, StringComparison.Ordinal);
        Assert.Contains($"Lend a hand &amp; dig: {link.Text("shortUrl")}", html, StringComparison.Ordinal);
        Assert.DoesNotContain(other.Text("shortUrl"), html, StringComparison.Ordinal);
        Assert.DoesNotContain("<script", html, StringComparison.OrdinalIgnoreCase);
        Assert.Equal("no-referrer", page.Headers.GetValues("Referrer-Policy").Single());
        Assert.Contains("noindex", page.Headers.GetValues("X-Robots-Tag").Single(), StringComparison.Ordinal);
        Assert.Contains("no-store", page.Headers.CacheControl!.ToString(), StringComparison.Ordinal);

        Assert.Contains(link.Text("shortUrl"), await stranger.GetStringAsync($"{path}/links.csv"), StringComparison.Ordinal);
        Assert.Equal("PK", System.Text.Encoding.ASCII.GetString((await stranger.GetByteArrayAsync($"{path}/links.xlsx"))[..2]));
        Assert.StartsWith("<svg", await stranger.GetStringAsync($"{path}/codes/{link.Text("id")}.svg"), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync($"{path}/codes/{other.Text("id")}.svg")).StatusCode);

        var listed = (await client.DoAsync(HttpMethod.Get, "/api/v1/partner-pages"))
            .AsArray()
            .Single(h => h.Text("id") == handed.Text("id"));
        Assert.Equal(1, listed.Whole("openings")); // files are not counted, nor whoever is signed in
        using (await client.GetAsync(path)) { }

        await client.DoAsync(HttpMethod.Post, $"/api/v1/partner-pages/{handed.Text("id")}/revoke");
        listed = (await client.DoAsync(HttpMethod.Get, "/api/v1/partner-pages")).AsArray().Single(h => h.Text("id") == handed.Text("id"));
        Assert.Equal(1, listed.Whole("openings"));
        Assert.Null(listed!["address"]);
        foreach (string gone in new[] { path, $"{path}/links.csv", $"{path}/links.xlsx", $"{path}/codes/{link.Text("id")}.svg" })
        {
            Assert.Equal(HttpStatusCode.NotFound, (await stranger.GetAsync(gone)).StatusCode);
        }
    }

    [Fact]
    public async Task A_page_for_nobody_or_of_nothing_is_refused()
    {
        using var client = demo.Host.As("editor");
        string one = (await client.DoAsync(HttpMethod.Get, "/api/v1/placements")).AsArray()[0].Text("id");
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.CallAsync(HttpMethod.Post, "/api/v1/partner-pages", new { name = "", placements = new[] { one } })).Status
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await client.CallAsync(HttpMethod.Post, "/api/v1/partner-pages", new { name = "Vale", placements = Array.Empty<string>() })
            ).Status
        );
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (
                await client.CallAsync(
                    HttpMethod.Post,
                    "/api/v1/partner-pages",
                    new { name = "Vale", placements = new[] { Guid.NewGuid() } }
                )
            ).Status
        );
        Assert.Equal(
            HttpStatusCode.NotFound,
            (
                await client.CallAsync(
                    HttpMethod.Post,
                    "/api/v1/partner-pages",
                    new
                    {
                        name = "Vale",
                        placements = new[] { one },
                        campaign = Guid.NewGuid(),
                    }
                )
            ).Status
        );
    }
}
