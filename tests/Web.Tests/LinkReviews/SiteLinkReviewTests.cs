using System.Text.Json.Nodes;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.LinkReviews;

/// <summary>A site looked through page by page: the links on it that have tags, with where they stand.</summary>
public sealed class SiteLinkReviewTests : IAsyncLifetime
{
    private const string Tags = "utm_source=the_trellis&utm_medium=email&utm_campaign=lantern_nights";

    private readonly int _sitePort = DatabaseCluster.FreePort();
    private WebApplication _site = null!;
    private BeaconHost _host = null!;
    private int _asked;

    private string Site => $"garden.localhost:{_sitePort}";

    public async Task InitializeAsync()
    {
        var builder = WebApplication.CreateBuilder();
        builder.Configuration["urls"] = $"http://127.0.0.1:{_sitePort}";
        builder.Configuration["Logging:LogLevel:Default"] = "Error";
        _site = builder.Build();
        _site.MapGet("/sitemap.xml", () => Results.Text(
                $"""
                <?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">
                <url><loc>http://{Site}/home</loc></url><url><loc>http://{Site}/news</loc></url><url><loc>http://{Site}/inwards</loc></url><url><loc>http://{Site}/gone</loc></url></urlset>
                """,
                "application/xml"
            ));
        _site.MapGet("/home", () => Results.Text(
                $"""
                <a href="/visit">untagged</a> <a href="/shop?{Tags}">tagged among ourselves</a> <a href="http://{Site}/news?utm_soruce=herald&amp;utm_medium=banner">misspelt</a>
                <a href="https://elsewhere.example/?utm_source=us&utm_medium=referral&utm_campaign=x">away</a> <a href="mailto:a@garden.example">write</a> <a href="#top">up</a> <a href="/shop?{Tags}">again</a>
                <script>document.write('<a href="/never?{Tags}">')</script>
                """,
                "text/html"
            ));
        _site.MapGet("/news", () => Results.Text("<p>Nothing here.</p>", "text/html"));
        _site.MapGet("/inwards", () => Results.Redirect($"http://127.0.0.1:{_sitePort}/secret"));
        _site.MapGet("/secret", () => Interlocked.Increment(ref _asked));
        await _site.StartAsync();
        _host = await BeaconHost.StartAsync(more: $"--Beacon:DemoSiteHost={Site}");
    }

    public async Task DisposeAsync()
    {
        await _host.DisposeAsync();
        await _site.DisposeAsync();
    }

    [Fact]
    public async Task Tagged_links_on_ones_own_pages_are_found_with_their_page()
    {
        using var client = _host.As("editor");
        string site = (await client.DoAsync(HttpMethod.Get, "/api/v1/pages"))["sites"]![0].Text("id");
        using var answer = await client.PostAsync(
            "/api/v1/link-reviews/site",
            new StringContent($"{{\"site\":\"{site}\"}}", System.Text.Encoding.UTF8, "application/json")
        );
        var last = JsonNode.Parse((await answer.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1]);
        string path = $"/api/v1/link-reviews/{last.Text("id")}";
        var review = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal((2, 3), (review.Whole("pages"), review.Whole("right") + review.Whole("mended") + review.Whole("stuck")));
        Assert.Equal(2, review["problems"]!.AsArray().Count);
        Assert.Equal(0, _asked); // a redirect inwards is not followed

        var links = (await client.DoAsync(HttpMethod.Get, $"{path}/links"))["links"]!.AsArray();
        Assert.All(links, l => Assert.Equal($"http://{Site}/home", l.Text("foundOn")));
        string RulesOf(string part) =>
            string.Join(
                ' ',
                links.Single(l => l.Text("link").Contains(part, StringComparison.Ordinal))!["rules"]!
                    .AsArray()
                    .Select(r => r!.GetValue<string>())
            );
        Assert.Contains("tag-inside-site", RulesOf("/shop?"), StringComparison.Ordinal);
        Assert.Contains("key-misspelt", RulesOf("utm_soruce"), StringComparison.Ordinal);
        Assert.Contains("host-not-approved", RulesOf("elsewhere.example"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_site_without_a_sitemap_says_so_and_nothing_is_kept()
    {
        await _site.StopAsync();
        using var client = _host.As("editor");
        string site = (await client.DoAsync(HttpMethod.Get, "/api/v1/pages"))["sites"]![0].Text("id");
        using var answer = await client.PostAsync(
            "/api/v1/link-reviews/site",
            new StringContent($"{{\"site\":\"{site}\"}}", System.Text.Encoding.UTF8, "application/json")
        );
        var last = JsonNode.Parse((await answer.Content.ReadAsStringAsync()).Split('\n', StringSplitOptions.RemoveEmptyEntries)[^1]);
        Assert.EndsWith("Paste a list of links instead, or try again later.", last.Text("refused"), StringComparison.Ordinal);
        Assert.Equal(0L, await _host.ScalarAsync<long>("select count(*) from link_reviews"));
    }
}
