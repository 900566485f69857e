using System.Net;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Http;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Plan;

/// <summary>Pages by title, from a small website on this machine that the demo is allowed to ask.</summary>
public sealed class PageTests : IAsyncLifetime
{
    private readonly int _sitePort = DatabaseCluster.FreePort();
    private WebApplication _site = null!;
    private BeaconHost _host = null!;
    private HttpClient _client = null!;
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
                <?xml version="1.0"?><sitemapindex xmlns="http://www.sitemaps.org/schemas/sitemap/0.9"><sitemap><loc>http://{Site}/pages.xml</loc></sitemap></sitemapindex>
                """,
                "application/xml"
            ));
        _site.MapGet("/pages.xml", () => Results.Text(
                $"""
                <?xml version="1.0"?><urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9" xmlns:image="urn:pictures">
                <url><loc>http://{Site}/fern-fair</loc><image:image><image:loc>http://{Site}/fern.png</image:loc></image:image></url>
                <url><loc>http://{Site}/away</loc></url><url><loc>http://{Site}/inwards</loc></url><url><loc>https://elsewhere.example/</loc></url></urlset>
                """,
                "application/xml"
            ));
        _site.MapGet("/fern-fair", () => Results.Text("<title>\n Fern &amp; Moss\n Fair </title>", "text/html"));
        _site.MapGet("/away", () => Results.Redirect("https://elsewhere.example/"));
        _site.MapGet("/inwards", () => Results.Redirect($"http://127.0.0.1:{_sitePort}/secret"));
        _site.MapGet("/secret", () => Interlocked.Increment(ref _asked));
        await _site.StartAsync();
        _host = await BeaconHost.StartAsync(more: $"--Beacon:DemoSiteHost={Site}");
        _client = _host.As("editor");
    }

    public async Task DisposeAsync()
    {
        _client.Dispose();
        await _host.DisposeAsync();
        await _site.DisposeAsync();
    }

    private async Task<string> SiteIdAsync() => (await _client.DoAsync(HttpMethod.Get, "/api/v1/pages"))["sites"]![0].Text("id");

    [Fact]
    public async Task Pages_come_from_the_sitemap_with_their_titles_and_are_found_by_words()
    {
        var read = await _client.DoAsync(HttpMethod.Post, $"/api/v1/sites/{await SiteIdAsync()}/read-sitemap");
        Assert.Equal((3, 1), (read.Whole("found"), read.Whole("titled")));
        var problems = read["problems"]!.AsArray().Select(p => p!.GetValue<string>()).ToList();
        Assert.Contains("“https://elsewhere.example/” is on none of the workspace's sites.", problems);
        Assert.Contains(problems, p =>
            p.Contains("127.0.0.1", StringComparison.Ordinal) && p.Contains("not one of", StringComparison.Ordinal)
        );
        Assert.Equal(0, _asked);

        var found = await _client.DoAsync(HttpMethod.Get, "/api/v1/pages?search=moss+FERN");
        Assert.Equal("Fern & Moss Fair", found["pages"]!.AsArray().Single().Text("title"));
        Assert.Empty((await _client.DoAsync(HttpMethod.Get, "/api/v1/pages?search=%25"))["pages"]!.AsArray());

        var pasted = await _client.DoAsync(
            HttpMethod.Post,
            "/api/v1/pages",
            new { text = $"/fern-fair\tFern Fair, renamed\nhttp://{Site}/new Bog garden\nhttps://elsewhere.example/ Not ours\nnonsense" }
        );
        Assert.Equal((2, 1, 2), (pasted.Whole("found"), pasted.Whole("added"), pasted["problems"]!.AsArray().Count));
        Assert.Equal(
            "Fern Fair, renamed",
            (await _client.DoAsync(HttpMethod.Get, "/api/v1/pages?search=fern-fair"))["pages"]![0].Text("title")
        );

        // What is found is found from anywhere.
        var anywhere = await _client.DoAsync(HttpMethod.Get, "/api/v1/find?text=bog");
        Assert.Equal("Bog garden", anywhere["pages"]!.AsArray().Single().Text("title"));
        Assert.NotEmpty((await _client.DoAsync(HttpMethod.Get, "/api/v1/find?text=vale+referral"))["placements"]!.AsArray());
        Assert.NotEmpty((await _client.DoAsync(HttpMethod.Get, "/api/v1/find?text=LANTERN"))["campaigns"]!.AsArray());
        Assert.NotEmpty((await _client.DoAsync(HttpMethod.Get, "/api/v1/find?text=visitor+board"))["links"]!.AsArray());
    }

    /// <summary>Whichever site the database happens to name first.</summary>
    [Fact]
    public async Task A_path_alone_is_on_the_site_that_has_it_already()
    {
        string[] siteNames = [.. (await _client.DoAsync(HttpMethod.Get, "/api/v1/pages"))["sites"]!.AsArray().Select(s => s.Text("name"))];
        Assert.True(siteNames.Length > 1, "Needs two sites.");
        string second = (await _client.DoAsync(HttpMethod.Get, "/api/v1/pages"))["sites"]![1].Text("host");
        foreach (string order in new[] { "asc", "desc" })
        {
            // A row that is written again moves behind the others.
            await _host.ScalarAsync<int>(
                $"with moved as (update sites set largest_value = largest_value + 1 where name = (select name from sites order by name {order} limit 1) returning 1) select count(*)::int from moved"
            );
            await _client.DoAsync(HttpMethod.Post, "/api/v1/pages", new { text = $"http://{second}/only-{order}" });
            var again = await _client.DoAsync(
                HttpMethod.Post,
                "/api/v1/pages",
                new { text = $"/only-{order}\tKnown\n/nowhere-{order}\tNew" }
            );
            Assert.Equal((2, 1), (again.Whole("found"), again.Whole("added")));
            Assert.Equal(
                siteNames[0],
                (await _client.DoAsync(HttpMethod.Get, $"/api/v1/pages?search=nowhere-{order}"))["pages"]!.AsArray().Single().Text("site")
            );
        }
    }

    /// <summary>A site somebody registers may not be used to look into this machine or its network.</summary>
    [Theory]
    [InlineData("127.0.0.1")]
    [InlineData("localhost")]
    [InlineData("[::ffff:127.0.0.1]")]
    public async Task A_site_that_leads_inwards_is_never_asked(string host)
    {
        await _host.ScalarAsync<int>(
            "with changed as (update site_hosts set host = $1 where site_id = (select id from sites where measuring_key = 'demo-garden') returning 1) select count(*)::int from changed",
            $"{host}:{_sitePort}"
        );
        var (status, problem) = await _client.CallAsync(HttpMethod.Post, $"/api/v1/sites/{await SiteIdAsync()}/read-sitemap");
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "sitemap-unreadable"), (status, problem.Refusal().Rule));
        Assert.Equal(0, _asked);
    }
}
