using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Redirects;

/// <summary>Short links that lead elsewhere, rest, or end.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinkRouteTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    private static string SlugOf(JsonNode link, string which = "shortUrl") => "/" + link.Text(which).Split('/')[^1];

    private long _sentOn;

    private Task AnswersAsync(string slug, HttpStatusCode status, string? location = null) =>
        Eventually.Async(async () =>
        {
            using var answer = await demo.Host.ClickAsync(slug);
            _sentOn += answer.StatusCode == HttpStatusCode.Found ? 1 : 0;
            return answer.StatusCode == status && (location is null || answer.Headers.GetValues("Location").Single() == location);
        });

    [Fact]
    public async Task A_destination_is_changed_for_text_and_code_alike_and_the_change_is_kept()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("editor");
        string path = $"/api/v1/links/{link.Text("id")}/route";
        var route = await client.DoAsync(HttpMethod.Get, path);
        string first = route.Text("leadsTo"),
            url = route.Text("url");
        Assert.Equal(("live", 0), (route.Text("state"), route.Whole("revision")));

        route = await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = $"{Site}/news?keep=this#here",
                paused = false,
                revision = 0,
            }
        );
        string tags = url[(url.IndexOf("utm_", StringComparison.Ordinal))..];
        string moved = $"{Site}/news?keep=this&{tags}#here";
        Assert.Equal(moved, route.Text("url"));
        await AnswersAsync(SlugOf(link), HttpStatusCode.Found, moved);
        await AnswersAsync(SlugOf(link, "codeShortUrl"), HttpStatusCode.Found, moved);
        var entry = route["history"]![0]!;
        Assert.Equal((first, $"{Site}/news?keep=this#here"), (entry["before"].Text("leadsTo"), entry["after"].Text("leadsTo")));

        // Whoever saw the older version is told; the same said again is no change; and back again it is the old address.
        Assert.Equal(
            HttpStatusCode.Conflict,
            (
                await client.CallAsync(
                    HttpMethod.Put,
                    path,
                    new
                    {
                        leadsTo = first,
                        paused = false,
                        revision = 0,
                    }
                )
            ).Status
        );
        Assert.Equal(
            1,
            (
                await client.DoAsync(
                    HttpMethod.Put,
                    path,
                    new
                    {
                        leadsTo = $"{Site}/news?keep=this#here",
                        paused = false,
                        revision = 1,
                    }
                )
            ).Whole("revision")
        );
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = first,
                paused = false,
                revision = 1,
            }
        );
        await AnswersAsync(SlugOf(link), HttpStatusCode.Found, url);
    }

    [Fact]
    public async Task A_link_is_paused_and_ends_with_a_page_of_its_own_or_a_fallback()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("editor");
        string path = $"/api/v1/links/{link.Text("id")}/route";
        string page = (await client.DoAsync(HttpMethod.Get, path)).Text("leadsTo");
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = page,
                paused = true,
                revision = 0,
            }
        );
        await AnswersAsync(SlugOf(link), HttpStatusCode.NotFound);
        var route = await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = page,
                paused = false,
                endsAt = "2026-01-31T23:59",
                revision = 1,
            }
        );
        Assert.Equal(("ended", "2026-01-31T23:59"), (route.Text("state"), route.Text("endsAtLocal")));
        await AnswersAsync(SlugOf(link), HttpStatusCode.Gone);
        using (var gone = await demo.Host.ClickAsync(SlugOf(link)))
        {
            Assert.Contains("no-store", gone.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        }

        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = page,
                paused = false,
                endsAt = "2026-01-31T23:59",
                fallback = $"{Site}/visit?from=old",
                revision = 2,
            }
        );
        await AnswersAsync(SlugOf(link), HttpStatusCode.Found, $"{Site}/visit?from=old");
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = page,
                paused = false,
                endsAt = "2999-01-01T00:00:00+01:00",
                revision = 3,
            }
        );
        await AnswersAsync(SlugOf(link), HttpStatusCode.Found);
        Assert.Equal(4, (await client.DoAsync(HttpMethod.Get, path))["history"]!.AsArray().Count);

        // Where it leads nowhere nobody is counted; everybody who was sent on is.
        await Eventually.Async(async () => await HitsAsync(link) == _sentOn);
    }

    [Theory]
    [InlineData("javascript:alert(1)", null, null, "page-refused")]
    [InlineData("", null, null, "page-refused")]
    [InlineData("https://elsewhere-unknown.example/", null, null, "host-not-approved")]
    [InlineData(null, "not a day", null, "end-unreadable")]
    [InlineData(null, null, "https://elsewhere-unknown.example/", "host-not-approved")]
    [InlineData(null, null, "ftp://garden.localhost/", "fallback-refused")]
    public async Task What_cannot_be_is_refused_and_nothing_changes(string? leadsTo, string? endsAt, string? fallback, string rule)
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("editor");
        string path = $"/api/v1/links/{link.Text("id")}/route";
        var (_, problem) = await client.CallAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = leadsTo ?? $"{Site}/shop",
                paused = false,
                endsAt,
                fallback,
                revision = 0,
            }
        );
        Assert.Equal(rule, problem.Refusal().Rule);
        Assert.EndsWith(".", problem.Refusal().Says, StringComparison.Ordinal);
        Assert.Equal(0, (await client.DoAsync(HttpMethod.Get, path)).Whole("revision"));
    }

    [Fact]
    public async Task Anybody_may_ask_where_a_link_leads()
    {
        var link = await demo.Host.SaveLinkAsync($"{Site}/orchid-week?x=<b>");
        await AnswersAsync(SlugOf(link), HttpStatusCode.Found);
        using var answer = await demo.Host.ClickAsync(SlugOf(link) + "/where");
        string page = await answer.Content.ReadAsStringAsync();
        Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
        Assert.Contains($"{Site}/orchid-week", page, StringComparison.Ordinal);
        Assert.Contains("Marrowmere Botanic Garden", page, StringComparison.Ordinal);
        Assert.DoesNotContain("<b>", page, StringComparison.Ordinal);
        Assert.DoesNotContain("<script", page, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("no-store", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Host.ClickAsync("/nobody-knows-this/where")).StatusCode);
    }

    private async Task<long> HitsAsync(JsonNode link) =>
        await demo.Host.ScalarAsync<long>(
            "select count(*) from hit h join short_links s on s.id = h.short_link_id where s.link_id = $1",
            Guid.Parse(link.Text("id"))
        );
}
