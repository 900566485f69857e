using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Redirects;

/// <summary>Short links that end after so many uses, lead to other pages by time and device, and hand things on.</summary>
[Collection(nameof(DemoHost))]
public sealed class LinkTurnTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";
    private const string Computer = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private const string Program = "curl/8.5.0"; // among the known crawlers of the data set
    private const string Phone = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";

    private static string SlugOf(JsonNode link, string which = "shortUrl") => "/" + link.Text(which).Split('/')[^1];

    private async Task<string> RouteAsync(JsonNode link, object change)
    {
        using var client = demo.Host.As("editor");
        return (await client.DoAsync(HttpMethod.Put, $"/api/v1/links/{link.Text("id")}/route", change)).Text("url");
    }

    private async Task<string?> LeadsAsync(string path, string userAgent = Phone, HttpStatusCode status = HttpStatusCode.Found)
    {
        using var answer = await demo.Host.ClickAsync(path, userAgent);
        return answer.StatusCode == status ? answer.Headers.Location?.OriginalString ?? "" : null;
    }

    private Task ComesAsync(string path, string location, string userAgent = Phone) =>
        Eventually.Async(async () => await LeadsAsync(path, userAgent) == location);

    [Fact]
    public async Task A_link_ends_after_its_uses_by_text_and_code_together_and_double_taps_and_crawlers_use_none()
    {
        using var client = demo.Host.As("editor");
        using var made = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"{Site}/seed-swap",
                campaign = "Seed Swap",
                placement = "Gate poster",
                ending = new { uses = 3 },
            }
        );
        var link = JsonNode.Parse(await made.Content.ReadAsStringAsync())!;
        await Eventually.Async(async () => await LeadsAsync(SlugOf(link), Program) is not null);
        Assert.Equal(3, (await LeftAsync()));

        Assert.NotNull(await LeadsAsync(SlugOf(link), Phone));
        Assert.NotNull(await LeadsAsync(SlugOf(link), Phone)); // a double tap
        Assert.Equal(2, await LeftAsync());
        Assert.NotNull(await LeadsAsync(SlugOf(link, "codeShortUrl"), Phone)); // the code is another short link of the same link
        Assert.NotNull(await LeadsAsync(SlugOf(link), Computer));
        Assert.NotNull(await LeadsAsync(SlugOf(link), "Mozilla/5.0 (Tablet) Fernleaf/9", HttpStatusCode.Gone));
        Assert.NotNull(await LeadsAsync(SlugOf(link, "codeShortUrl"), Computer, HttpStatusCode.Gone));
        string path = $"/api/v1/links/{link.Text("id")}/route";
        var route = await client.DoAsync(HttpMethod.Get, path);
        Assert.Equal(("ended", 3, 0), (route.Text("state"), route.Whole("mostUses"), route.Whole("usesLeft")));

        // More uses are granted: those that were taken stay taken; and after them it leads to its fallback.
        await client.DoAsync(
            HttpMethod.Put,
            path,
            new
            {
                leadsTo = route.Text("leadsTo"),
                paused = false,
                mostUses = 4,
                fallback = $"{Site}/visit",
                revision = 0,
            }
        );
        await ComesAsync(SlugOf(link), route.Text("url"), "Mozilla/5.0 (Tablet) Fernleaf/9");
        await ComesAsync(SlugOf(link), $"{Site}/visit", "Mozilla/5.0 (Tablet) Fernleaf/10");

        async Task<int> LeftAsync() =>
            await demo.Host.ScalarAsync<int>("select uses_left from links where id = $1", Guid.Parse(link.Text("id")));
    }

    [Fact]
    public async Task Many_at_one_moment_get_exactly_as_many_through_as_are_left()
    {
        using var client = demo.Host.As("editor");
        using var made = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"{Site}/seed-swap",
                campaign = "Seed Swap",
                placement = "Gate poster",
                fields = new { utm_content = "rush" },
                ending = new { uses = 25 },
            }
        );
        var link = JsonNode.Parse(await made.Content.ReadAsStringAsync())!;
        await Eventually.Async(async () => await LeadsAsync(SlugOf(link), Program) is not null);
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 120)
                .Select(async i =>
                {
                    using var answer = await demo.Host.ClickAsync(SlugOf(link), $"{Phone} {i}");
                    return answer.StatusCode;
                })
        );
        Assert.Equal(25, answers.Count(a => a == HttpStatusCode.Found));
        Assert.Equal(95, answers.Count(a => a == HttpStatusCode.Gone));
        Assert.Equal(
            25L,
            await demo.Host.ScalarAsync<long>(
                "select count(*) from hit h join short_links s on s.id = h.short_link_id where s.link_id = $1 and user_agent <> $2",
                Guid.Parse(link.Text("id")),
                Program
            )
        );
    }

    [Fact]
    public async Task Other_pages_by_time_and_device_get_the_links_tags_unless_it_hands_none_on()
    {
        var link = await demo.Host.SaveLinkAsync();
        string first = await RouteAsync(
            link,
            new
            {
                leadsTo = $"{Site}/lantern-nights",
                paused = false,
                revision = 0,
                turns = new object[]
                {
                    new
                    {
                        leadsTo = $"{Site}/over",
                        from = "2020-01-01T00:00",
                        until = "2021-01-01T00:00",
                    },
                    new { leadsTo = $"{Site}/later", from = "2999-01-01T00:00" },
                    new { leadsTo = $"{Site}/app", device = "phone" },
                },
            }
        );
        string tags = first[(first.IndexOf('?', StringComparison.Ordinal))..];
        await ComesAsync(SlugOf(link), $"{Site}/app{tags}");
        await ComesAsync(SlugOf(link), first, Computer);

        await RouteAsync(
            link,
            new
            {
                leadsTo = $"{Site}/lantern-nights?day=1",
                paused = false,
                revision = 1,
                withoutTags = true,
                carries = "keepTags",
            }
        );
        await ComesAsync(SlugOf(link) + "?ref=wall&day=2", $"{Site}/lantern-nights?day=1&ref=wall", Computer);

        await RouteAsync(
            link,
            new
            {
                leadsTo = $"{Site}/lantern-nights?on=@{{click.device}}-@{{click.slug}}",
                paused = false,
                revision = 2,
            }
        );
        await Eventually.Async(async () =>
            (await LeadsAsync(SlugOf(link).ToUpperInvariant(), Computer))?.StartsWith(
                $"{Site}/lantern-nights?on=computer-{SlugOf(link)[1..]}&utm_",
                StringComparison.Ordinal
            ) == true
        );
    }

    /// <summary>RFC 9110, 15.4.2 and RFC 9111, 4.2.2: a 301 may be kept by a browser, so nothing forbids it here; a 302 is never stored.</summary>
    [Fact]
    public async Task A_permanent_redirect_may_be_remembered_and_so_can_not_change()
    {
        var link = await demo.Host.SaveLinkAsync();
        string url = await RouteAsync(
            link,
            new
            {
                leadsTo = $"{Site}/lantern-nights",
                paused = false,
                revision = 0,
                permanent = true,
            }
        );
        await Eventually.Async(async () => await LeadsAsync(SlugOf(link), Phone, HttpStatusCode.MovedPermanently) == url);
        using var answer = await demo.Host.ClickAsync(SlugOf(link));
        Assert.False(answer.Headers.CacheControl!.NoStore);
        using var client = demo.Host.As("editor");
        var (_, problem) = await client.CallAsync(
            HttpMethod.Put,
            $"/api/v1/links/{link.Text("id")}/route",
            new
            {
                leadsTo = $"{Site}/lantern-nights",
                paused = false,
                revision = 1,
                permanent = true,
                mostUses = 5,
            }
        );
        Assert.Equal("permanent-changes", problem.Refusal().Rule);
    }

    [Theory]
    [InlineData("uses-refused", "mostUses", 0)]
    [InlineData("device-unknown", "device", "watch")]
    [InlineData("turn-backwards", "until", "2019-01-01T00:00")]
    [InlineData("end-unreadable", "from", "soon")]
    [InlineData("host-not-approved", "leadsTo", "https://elsewhere-unknown.example/")]
    public async Task What_can_not_be_is_refused_and_nothing_changes(string rule, string key, object value)
    {
        var link = await demo.Host.SaveLinkAsync();
        var turn = new Dictionary<string, object>
        {
            ["leadsTo"] = $"{Site}/app",
            ["from"] = "2020-01-01T00:00",
            [key] = value,
        };
        object change =
            key == "mostUses"
                ? new
                {
                    leadsTo = $"{Site}/visit",
                    paused = false,
                    revision = 0,
                    mostUses = value,
                }
                : new
                {
                    leadsTo = $"{Site}/visit",
                    paused = false,
                    revision = 0,
                    turns = new[] { turn },
                };
        using var client = demo.Host.As("editor");
        string path = $"/api/v1/links/{link.Text("id")}/route";
        Assert.Equal(rule, (await client.CallAsync(HttpMethod.Put, path, change)).Json.Refusal().Rule);
        Assert.Equal(0, (await client.DoAsync(HttpMethod.Get, path)).Whole("revision"));
    }

    /// <summary>A link with an end that cannot be is not stored either.</summary>
    [Fact]
    public async Task A_link_and_its_end_are_stored_together_or_not_at_all()
    {
        using var client = demo.Host.As("editor");
        string page = $"{Site}/visit?only={Guid.NewGuid():N}";
        var (status, problem) = await client.CallAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = page,
                campaign = "Seed Swap",
                placement = "Gate poster",
                ending = new { at = "soon" },
            }
        );
        Assert.Equal((HttpStatusCode.BadRequest, "end-unreadable"), (status, problem.Refusal().Rule));
        Assert.Equal(0, (await demo.Host.GetJsonAsync($"/api/v1/links?search={page[^20..]}")).Whole("total"));
    }
}
