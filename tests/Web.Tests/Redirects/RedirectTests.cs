using System.Net;
using PreciseBeacon.Web.Redirects;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Redirects;

[Collection(nameof(DemoHost))]
public sealed class RedirectTests(DemoHost demo)
{
    private static string SlugOf(System.Text.Json.Nodes.JsonNode link, string which = "shortUrl") =>
        "/" + link[which]!.GetValue<string>().Split('/')[^1];

    /// <summary>RFC 9110, section 15.4.3 (302) and RFC 9111, section 5.2.2.5 (no-store).</summary>
    [Fact]
    public async Task A_known_slug_redirects_whatever_its_case_and_is_never_stored()
    {
        var link = await demo.Host.SaveLinkAsync();
        foreach (string slug in new[] { SlugOf(link), SlugOf(link).ToUpperInvariant(), SlugOf(link, "codeShortUrl") })
        {
            await Eventually.Async(async () => (await demo.Host.ClickAsync(slug)).StatusCode == HttpStatusCode.Found);
            using var answer = await demo.Host.ClickAsync(slug);
            Assert.Equal(link["link"]!["url"]!.GetValue<string>(), answer.Headers.GetValues("Location").Single());
            Assert.Equal("no-store, private", answer.Headers.CacheControl?.ToString());
            Assert.Equal(["Cache-Control", "Date", "Location"], answer.Headers.Select(h => h.Key).Order());
        }
    }

    /// <summary>Whoever saves a link may follow it at once, also where word of it comes late; nobody is told that there is no such link.</summary>
    [Fact]
    public async Task A_link_works_the_moment_it_is_saved()
    {
        await using var host = await BeaconHost.StartAsync();
        await using (
            var late = host.Database.CreateCommand(
                """
                create or replace function tell_slug_change() returns trigger language plpgsql as $$
                begin
                    perform pg_advisory_xact_lock(7001);
                    insert into slug_change (short_link_id) select id from changed;
                    return null;
                end $$
                """
            )
        )
        {
            await late.ExecuteNonQueryAsync();
        }

        foreach (string ending in new[] { "", "/where", "" })
        {
            var link = await host.SaveLinkAsync();
            using var answer = await host.ClickAsync(SlugOf(link) + ending);
            Assert.Equal(ending.Length == 0 ? HttpStatusCode.Found : HttpStatusCode.OK, answer.StatusCode);
        }

        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from hit") == 2);
        using var unknown = await host.ClickAsync("/no-such-link");
        Assert.Equal(HttpStatusCode.NotFound, unknown.StatusCode);
    }

    [Fact]
    public async Task A_slash_at_its_end_changes_nothing()
    {
        var link = await demo.Host.SaveLinkAsync();
        await Eventually.Async(async () => (await demo.Host.ClickAsync(SlugOf(link))).StatusCode == HttpStatusCode.Found);
        using var answer = await demo.Host.ClickAsync(SlugOf(link) + "/");
        Assert.Equal(
            (HttpStatusCode.Found, link["link"]!["url"]!.GetValue<string>()),
            (answer.StatusCode, answer.Headers.GetValues("Location").Single())
        );
        using var where = await demo.Host.ClickAsync(SlugOf(link) + "/where/");
        Assert.Equal(HttpStatusCode.OK, where.StatusCode);
    }

    /// <summary>The last use is taken by a tap; whoever's finger slipped sees the same page twice, and everybody else the end.</summary>
    [Fact]
    public async Task The_double_tap_on_the_last_use_sees_the_same_answer_twice()
    {
        using var editor = demo.Host.As("editor");
        var link = await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/seed-swap",
                campaign = "Seed Swap",
                placement = "Gate poster",
                ending = new { uses = 1 },
            }
        );
        await Eventually.Async(async () => (await demo.Host.ClickAsync(SlugOf(link), "curl/8.5.0")).StatusCode == HttpStatusCode.Found);
        using var first = await demo.Host.ClickAsync(SlugOf(link));
        using var second = await demo.Host.ClickAsync(SlugOf(link));
        using var other = await demo.Host.ClickAsync(SlugOf(link), "Mozilla/5.0 (Tablet) Fernleaf/9");
        Assert.Equal(
            (HttpStatusCode.Found, HttpStatusCode.Found, HttpStatusCode.Gone),
            (first.StatusCode, second.StatusCode, other.StatusCode)
        );
        await Eventually.Async(async () => (await demo.Host.ClickAsync(SlugOf(link))).StatusCode == HttpStatusCode.Gone);
        Assert.Equal(0, await demo.Host.ScalarAsync<int>("select uses_left from links where id = $1", Guid.Parse(link.Text("id"))));
    }

    [Theory]
    [InlineData("/")]
    [InlineData("/sign-in")]
    [InlineData("/api/v1/links")]
    [InlineData("/api/account")]
    [InlineData("/openapi/v1.json")]
    [InlineData("/compose")]
    [InlineData("/measure")]
    public async Task A_short_domain_serves_nothing_else(string path)
    {
        using var answer = await demo.Host.ClickAsync(path);
        Assert.Equal(HttpStatusCode.NotFound, answer.StatusCode);
        Assert.Contains("no-store", answer.Headers.CacheControl!.ToString(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_slug_on_the_main_host_is_not_found()
    {
        var link = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.Anonymous();
        Assert.Equal(HttpStatusCode.NotFound, (await client.GetAsync(SlugOf(link))).StatusCode);
    }

    [Fact]
    public async Task A_link_to_a_strangers_host_waits_for_an_owner()
    {
        var link = await demo.Host.SaveLinkAsync("https://elsewhere.example/prize");
        Assert.True(link["waiting"]!.GetValue<bool>());
        Assert.Equal(HttpStatusCode.NotFound, (await demo.Host.ClickAsync(SlugOf(link))).StatusCode);

        var host = await demo.Host.ScalarAsync<Guid>("select id from approved_hosts where host = 'elsewhere.example'");
        using var editor = demo.Host.As("editor");
        Assert.Equal(HttpStatusCode.Forbidden, (await editor.PostAsync($"/api/v1/hosts/{host}/approve", null)).StatusCode);
        using var owner = demo.Host.As("owner");
        Assert.Equal(HttpStatusCode.NoContent, (await owner.PostAsync($"/api/v1/hosts/{host}/approve", null)).StatusCode);
        await Eventually.Async(async () => (await demo.Host.ClickAsync(SlugOf(link))).StatusCode == HttpStatusCode.Found);
    }

    [Fact]
    public async Task Guessing_slugs_is_slowed_down_and_known_ones_still_work()
    {
        await using var host = await BeaconHost.StartAsync();
        var link = await host.SaveLinkAsync();

        // Asking before the slug is known is a guess too.
        int early = 0;
        await Eventually.Async(async () =>
        {
            bool known = (await host.ClickAsync(SlugOf(link))).StatusCode == HttpStatusCode.Found;
            early += known ? 0 : 1;
            return known;
        });
        var slowed = await host.ClickAsync("/guess0");
        Assert.Equal(HttpStatusCode.NotFound, slowed.StatusCode);

        // On a busy machine some guesses grow again while these are made.
        for (int i = 1; i < 10 * GuessThrottle.MostGuesses && slowed.StatusCode == HttpStatusCode.NotFound; i++)
        {
            slowed = await host.ClickAsync($"/guess{i}");
            Assert.True(early + i >= GuessThrottle.MostGuesses || slowed.StatusCode == HttpStatusCode.NotFound, $"guess {i}");
        }

        Assert.Equal(HttpStatusCode.TooManyRequests, slowed.StatusCode);
        Assert.Equal(TimeSpan.FromMinutes(1), slowed.Headers.RetryAfter?.Delta);
        Assert.Equal(HttpStatusCode.Found, (await host.ClickAsync(SlugOf(link))).StatusCode);
    }

    /// <summary>Behind a proxy the visitor's address is believed only from a proxy that was named.</summary>
    [Theory]
    [InlineData("--Beacon:TrustedProxies:0=127.0.0.1", 2)]
    [InlineData("--Beacon:TrustedProxies:0=192.0.2.9", 1)]
    [InlineData("--Beacon:Demo=true", 1)]
    public async Task Forwarded_addresses_are_believed_only_from_trusted_proxies(string setting, int visitors)
    {
        await using var host = await BeaconHost.StartAsync(more: setting);
        string slug = SlugOf(await host.SaveLinkAsync());
        await Eventually.Async(async () => (await host.ClickAsync(slug, userAgent: "")).StatusCode == HttpStatusCode.Found);
        foreach (string address in new[] { "198.51.100.1", "198.51.100.2" })
        {
            using var client = host.Anonymous();
            using var request = new HttpRequestMessage(HttpMethod.Get, slug);
            request.Headers.Host = host.ShortHost;
            request.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
            request.Headers.TryAddWithoutValidation("X-Forwarded-For", address);
            Assert.Equal(HttpStatusCode.Found, (await client.SendAsync(request)).StatusCode);
        }

        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from hit where user_agent <> ''") == 2);
        Assert.Equal(visitors, await host.ScalarAsync<long>("select count(distinct visitor) from hit where user_agent <> ''"));
    }

    [Fact]
    public async Task Clicks_are_counted_as_people_double_taps_and_others()
    {
        await using var host = await BeaconHost.StartAsync();
        await using (
            var price = host.Database.CreateCommand(
                "update placements set rates = '[{\"from\":null,\"basis\":\"Click\",\"amount\":0.07}]', fixed_cost = null where name = 'Gate poster'"
            )
        )
        {
            await price.ExecuteNonQueryAsync();
        }

        var link = await host.SaveLinkAsync();
        string slug = SlugOf(link);
        await Eventually.Async(async () => (await host.ClickAsync(slug, userAgent: "")).StatusCode == HttpStatusCode.Found);
        using var first = await host.ClickAsync(slug);
        using var again = await host.ClickAsync(slug);
        using var head = await host.ClickAsync(slug, method: HttpMethod.Head);
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select count(*) from click where kind in ('Person', 'DoubleTap', 'Head')") == 3
        );

        // The other two clicks come a minute apart, as the rules' own check has it.
        await using (
            var later = host.Database.CreateCommand(
                """
                insert into hit select gen_random_uuid(), workspace_id, at + n * interval '1 minute', short_link_id, visitor, null, 0, user_agent, ''
                from hit, generate_series(1, 2) n where id = (select hit_id from click where kind = 'Person');
                insert into hit_due select workspace_id, visitor, short_link_id, min(at), max(at) from hit where user_agent <> '' group by 1, 2, 3
                on conflict do nothing
                """
            )
        )
        {
            await later.ExecuteNonQueryAsync();
        }

        await Eventually.Async(async () => (await host.GetJsonAsync($"/api/v1/links/{link["id"]}"))["clicks"]!.GetValue<long>() == 3);
        var row = await host.GetJsonAsync($"/api/v1/links/{link["id"]}");
        Assert.Equal(
            (3, 1, "0.21"),
            (row["clicks"]!.GetValue<int>(), row["unique"]!.GetValue<int>(), row["cost"]!["amount"]!.GetValue<string>())
        );
        Assert.True(row["others"]!.GetValue<int>() >= 3);
    }
}
