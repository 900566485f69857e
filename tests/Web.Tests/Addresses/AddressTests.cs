using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Addresses;

/// <summary>Several short domains, each found to lead here before links are made on it; and hosts that nothing may lead to.</summary>
[Collection(nameof(DemoHost))]
public sealed class AddressTests(DemoHost demo)
{
    private static string Some(string start) => $"{start}{Guid.NewGuid():N}"[..12];

    private async Task<HttpStatusCode> GoAsync(string host, string path, string? leadsTo = null)
    {
        using var client = demo.Host.Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        request.Headers.Host = host;
        request.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
        using var answer = await client.SendAsync(request);
        Assert.True(
            leadsTo is null
                || answer.StatusCode != HttpStatusCode.Found
                || answer.Headers.Location!.OriginalString.StartsWith(leadsTo, StringComparison.Ordinal)
        );
        return answer.StatusCode;
    }

    [Fact]
    public async Task Links_are_made_on_a_domain_once_it_was_found_to_lead_here()
    {
        string host = $"{Some("d")}.localhost:{demo.Host.Port}";
        using var owner = demo.Host.As("owner");
        var added = await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://{host}" });
        Assert.False(added["usable"]!.GetValue<bool>());
        object Link(string? slug) =>
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Seed Swap",
                placement = "Gate poster",
                shortDomain = host,
                slug,
                fields = new { utm_content = Some("c") },
            };
        Assert.Equal("domain-unknown", (await owner.CallAsync(HttpMethod.Post, "/api/v1/links", Link(null))).Json.Refusal().Rule);

        // It is asked from outside, by its name, for what only this application knows.
        var found = await owner.DoAsync(HttpMethod.Post, $"/api/v1/short-domains/{added.Text("id")}/check");
        Assert.NotNull(found["checkedAt"]);

        // One slug can stand on both domains and lead to different pages.
        string slug = Some("s");
        var here = await owner.DoAsync(HttpMethod.Post, "/api/v1/links", Link(slug));
        Assert.Equal($"http://{host}/{slug}", here.Text("shortUrl"));
        Assert.StartsWith($"http://{host}/", here.Text("codeShortUrl"), StringComparison.Ordinal);
        Assert.Equal("slug-taken", (await owner.CallAsync(HttpMethod.Post, "/api/v1/links", Link(slug))).Json.Refusal().Rule);
        var first = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/shop",
                campaign = "Seed Swap",
                placement = "Gate poster",
                slug,
            }
        );
        Assert.Equal($"http://{demo.Host.ShortHost}/{slug}", first.Text("shortUrl"));
        await Eventually.Async(async () =>
            await GoAsync(host, $"/{slug}", $"http://{BeaconHost.GardenHost}/visit") == HttpStatusCode.Found
        );
        await Eventually.Async(async () =>
            await GoAsync(demo.Host.ShortHost, $"/{slug}", $"http://{BeaconHost.GardenHost}/shop") == HttpStatusCode.Found
        );

        // It never serves sign-in, and stays as long as its links do.
        Assert.Equal(HttpStatusCode.NotFound, await GoAsync(host, "/sign-in"));
        Assert.Equal(
            "domain-used",
            (await owner.CallAsync(HttpMethod.Delete, $"/api/v1/short-domains/{added.Text("id")}")).Json.Refusal().Rule
        );

        // Slugs of a shortener that closes come to the domain they stand on.
        var brought = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/slugs/import",
            new { domain = host, rows = new[] { new { slug = $"{slug}-2", page = $"http://{BeaconHost.GardenHost}/shop" } } }
        );
        Assert.Equal(1, brought.Whole("imported"));
        await Eventually.Async(async () => await GoAsync(host, $"/{slug}-2") == HttpStatusCode.Found);
        Assert.Equal(HttpStatusCode.NotFound, await GoAsync(demo.Host.ShortHost, $"/{slug}-2"));
    }

    /// <summary>Every process hears of a new domain a little later than the one it was added on.</summary>
    [Fact]
    public async Task A_domain_answers_from_the_moment_it_was_added()
    {
        for (int i = 0; i < 10; i++)
        {
            string domain = $"{Some("n")}.localhost:{demo.Host.Port}";
            await demo.Host.ScalarAsync<Guid>(
                """
                insert into short_domains (id, workspace_id, host, scheme, is_first, proof)
                select gen_random_uuid(), workspace_id, $1, 'http', false, 'p' from short_domains limit 1 returning id
                """,
                domain
            );
            Assert.Equal(HttpStatusCode.OK, await GoAsync(domain, "/.well-known/short-domain"));
        }
    }

    [Fact]
    public async Task The_domain_put_first_is_taken_where_none_is_chosen()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        var added = await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://other.localhost:{host.Port}" });
        Assert.Equal(
            "domain-unchecked",
            (await owner.CallAsync(HttpMethod.Post, $"/api/v1/short-domains/{added.Text("id")}/make-default")).Json.Refusal().Rule
        );
        await Eventually.Async(async () =>
            (await owner.DoAsync(HttpMethod.Post, $"/api/v1/short-domains/{added.Text("id")}/check"))["usable"]!.GetValue<bool>()
        );
        await owner.CallAsync(HttpMethod.Post, $"/api/v1/short-domains/{added.Text("id")}/make-default");
        var domains = (await host.GetJsonAsync("/api/v1/short-domains")).AsArray();
        Assert.Equal([true, false], domains.Select(d => d!["first"]!.GetValue<bool>()));
        Assert.StartsWith($"http://other.localhost:{host.Port}/", (await host.SaveLinkAsync()).Text("shortUrl"), StringComparison.Ordinal);

        // One nobody used may go, and answers nothing afterwards.
        var spare = await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://spare.localhost:{host.Port}" });
        await owner.CallAsync(HttpMethod.Delete, $"/api/v1/short-domains/{spare.Text("id")}");
        Assert.Equal(2, (await host.GetJsonAsync("/api/v1/short-domains")).AsArray().Count);
    }

    [Fact]
    public async Task A_placement_can_stand_on_a_domain_of_its_own_whoever_makes_its_links()
    {
        await using var host = await BeaconHost.StartAsync();
        string other = $"posters.localhost:{host.Port}";
        using var owner = host.As("owner");
        var domain = await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://{other}" });
        object Placement(string? on) =>
            new
            {
                name = "Harbour poster",
                channel = "Print and codes",
                defaults = new { source = "harbour_poster", medium = "qr" },
                shortDomain = on,
            };
        Assert.Equal(
            "placement-refused",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/placements", Placement(domain.Text("id")))).Json.Refusal().Rule
        );
        await Eventually.Async(async () =>
            (await owner.DoAsync(HttpMethod.Post, $"/api/v1/short-domains/{domain.Text("id")}/check"))["usable"]!.GetValue<bool>()
        );
        var placement = await owner.DoAsync(HttpMethod.Post, "/api/v1/placements", Placement(domain.Text("id")));
        Assert.Equal(domain.Text("id"), placement.Text("shortDomain"));

        // By hand, by a program that only shortens, and from a sheet; another one may still be chosen for a link.
        Assert.StartsWith(
            $"http://{other}/",
            (await host.SaveLinkAsync(placement: "Harbour poster")).Text("shortUrl"),
            StringComparison.Ordinal
        );
        using var tool = host.Anonymous();
        Assert.StartsWith(
            $"http://{other}/",
            await tool.GetStringAsync(
                $"/api/v1/shorten?key=demo-shortener&placement=Harbour%20poster&campaign=Seed%20Swap&url=http://{BeaconHost.GardenHost}/visit"
            ),
            StringComparison.Ordinal
        );
        var sheet = await FromSheetAsync(
            owner,
            $"Page,Placement,Campaign\r\nhttp://{BeaconHost.GardenHost}/shop,Harbour poster,Seed Swap\r\nhttp://{BeaconHost.GardenHost}/shop,Gate poster,Seed Swap\r\n"
        );
        Assert.Equal([other, host.ShortHost], sheet);
        var chosen = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Bulb Sale",
                placement = "Harbour poster",
                shortDomain = host.ShortHost,
            }
        );
        Assert.StartsWith($"http://{host.ShortHost}/", chosen.Text("shortUrl"), StringComparison.Ordinal);

        // What is free is looked up where the slug would stand.
        string slug = new Uri(chosen.Text("shortUrl")).AbsolutePath[1..];
        Assert.Null((await host.GetJsonAsync($"/api/v1/slugs/check?slug={slug}&placement=Harbour%20poster"))["problem"]);
        Assert.NotNull((await host.GetJsonAsync($"/api/v1/slugs/check?slug={slug}&placement=Gate%20poster"))["problem"]);

        async Task<List<string>> FromSheetAsync(HttpClient client, string csv)
        {
            using var form = new MultipartFormDataContent { { new StringContent(csv), "file", "sheet.csv" } };
            using var answer = await client.PostAsync("/api/v1/batches", form);
            var batch = await client.DoAsync(
                HttpMethod.Get,
                $"/api/v1/batches/{JsonNode.Parse(await answer.Content.ReadAsStringAsync()).Text("id")}"
            );
            var recipe = batch["recipe"]!.AsObject();
            recipe["shorten"] = true;
            await client.DoAsync(
                HttpMethod.Put,
                $"/api/v1/batches/{batch.Text("id")}/recipe",
                new { recipe, revision = batch.Whole("revision") }
            );
            await client.DoAsync(HttpMethod.Post, $"/api/v1/batches/{batch.Text("id")}/run");
            await Eventually.Async(async () =>
                (await client.DoAsync(HttpMethod.Get, $"/api/v1/batches/{batch.Text("id")}"))["runs"]!.AsArray()[^1]!["endedAt"] is not null
            );
            string[] lines = (await client.GetStringAsync($"/api/v1/batches/{batch.Text("id")}/result.csv")).Split(
                "\r\n",
                StringSplitOptions.RemoveEmptyEntries
            );
            return
            [
                .. lines
                    .Skip(1)
                    .Select(l =>
                        new Uri(
                            l.Split(',')
                                .First(c =>
                                    c.Contains("localhost", StringComparison.Ordinal) && !c.Contains("garden", StringComparison.Ordinal)
                                )
                        ).Authority
                    ),
            ];
        }
    }

    [Theory]
    [InlineData("https://garden.localhost:5999", "domain-refused")] // a site of the workspace
    [InlineData("https://go.example/path", "domain-refused")]
    [InlineData("mailto:a@b.example", "domain-refused")]
    [InlineData("", "domain-refused")]
    public async Task What_can_be_no_short_domain_is_refused(string address, string rule)
    {
        using var owner = demo.Host.As("owner");
        Assert.Equal(rule, (await owner.CallAsync(HttpMethod.Post, "/api/v1/short-domains", new { address })).Json.Refusal().Rule);
    }

    [Fact]
    public async Task Neither_the_main_host_nor_one_that_is_there_already_becomes_a_short_domain()
    {
        using var owner = demo.Host.As("owner");
        Assert.Equal(
            "domain-refused",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://127.0.0.1:{demo.Host.Port}" }))
                .Json.Refusal()
                .Rule
        );
        Assert.Equal(
            "domain-taken",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = $"http://{demo.Host.ShortHost}" }))
                .Json.Refusal()
                .Rule
        );
    }

    [Fact]
    public async Task A_private_address_is_not_asked_and_said_so()
    {
        using var owner = demo.Host.As("owner");
        var added = await owner.DoAsync(HttpMethod.Post, "/api/v1/short-domains", new { address = "http://10.1.2.3" });
        var looked = await owner.DoAsync(HttpMethod.Post, $"/api/v1/short-domains/{added.Text("id")}/check");
        Assert.False(looked["usable"]!.GetValue<bool>());
        Assert.Contains("private network", looked.Text("problem"), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Short_links_to_a_host_that_is_refused_stop_and_go_on_when_it_is_taken_off_the_list()
    {
        string bad = $"{Some("bad")}.example";
        using var owner = demo.Host.As("owner");
        object To(string page) =>
            new
            {
                destination = page,
                campaign = "Seed Swap",
                placement = "Gate poster",
                fields = new { utm_content = Some("c") },
            };
        var link = await owner.DoAsync(HttpMethod.Post, "/api/v1/links", To($"https://www.{bad}/x"));
        var asked = (await demo.Host.GetJsonAsync("/api/v1/hosts")).AsArray().Single(h => h!.Text("host") == $"www.{bad}")!;
        await owner.CallAsync(HttpMethod.Post, $"/api/v1/hosts/{asked.Text("id")}/approve");
        string slug = "/" + link.Text("shortUrl").Split('/')[^1];
        await Eventually.Async(async () => (await demo.Host.ClickAsync(slug)).StatusCode == HttpStatusCode.Found);

        // Counted first, and nothing changed by that; links with the name elsewhere in their address are not meant.
        await owner.DoAsync(HttpMethod.Post, "/api/v1/links", To($"http://{BeaconHost.GardenHost}/shop?from={bad}"));
        var effect = await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts/count", new { host = bad });
        Assert.Equal(2, effect.Whole("shortLinks"));
        Assert.Equal(HttpStatusCode.Found, (await demo.Host.ClickAsync(slug)).StatusCode);

        await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = $"https://{bad.ToUpperInvariant()}/anything" });
        await Eventually.Async(async () => (await demo.Host.ClickAsync(slug)).StatusCode == HttpStatusCode.NotFound);
        Assert.Equal(
            "host-listed",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = bad })).Json.Refusal().Rule
        );
        var composed = await owner.DoAsync(HttpMethod.Post, "/api/v1/links/compose", To($"https://www.{bad}/y"));
        Assert.False(composed["ready"]!.GetValue<bool>());
        Assert.Contains(composed["notices"]!.AsArray(), n => n!.Text("rule") == "host-refused");
        var own = await demo.Host.SaveLinkAsync();
        Assert.Equal(
            "host-refused",
            (
                await owner.CallAsync(
                    HttpMethod.Put,
                    $"/api/v1/links/{own.Text("id")}/route",
                    new { leadsTo = $"https://{bad}/", revision = 0 }
                )
            )
                .Json.Refusal()
                .Rule
        );

        // Off the list, it leads on: it was approved before.
        var entry = (await demo.Host.GetJsonAsync("/api/v1/refused-hosts")).AsArray().Single(h => h!.Text("host") == bad)!;
        await owner.CallAsync(HttpMethod.Delete, $"/api/v1/refused-hosts/{entry.Text("id")}");
        await Eventually.Async(async () => (await demo.Host.ClickAsync(slug)).StatusCode == HttpStatusCode.Found);
    }

    [Fact]
    public async Task A_short_link_goes_on_only_when_none_of_its_pages_is_refused()
    {
        string bad = $"{Some("bad")}.example",
            other = $"{Some("oth")}.example";
        using var owner = demo.Host.As("owner");
        await ApproveAsync(owner, bad, other);
        JsonNode falling = await demo.Host.SaveLinkAsync(),
            turning = await demo.Host.SaveLinkAsync(),
            led = await demo.Host.SaveLinkAsync();
        await RouteAsync(
            falling,
            new
            {
                leadsTo = falling["link"]!.Text("url").Split('?')[0],
                fallback = $"https://{bad}/after",
                endsAt = "2031-01-01T00:00",
                revision = 0,
            }
        );
        await RouteAsync(
            turning,
            new
            {
                leadsTo = turning["link"]!.Text("url").Split('?')[0],
                turns = new[] { new { leadsTo = $"https://{other}/now", device = "tablet" } },
                revision = 0,
            }
        );

        // One that was led away from the host since is not concerned: the two pairs are the falling link's and that of the link its approval was asked with.
        await RouteAsync(led, new { leadsTo = $"https://{bad}/first", revision = 0 });
        await RouteAsync(led, new { leadsTo = $"http://{BeaconHost.GardenHost}/visit", revision = 1 });
        Assert.Equal(4, (await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts/count", new { host = bad })).Whole("shortLinks"));
        await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = bad });
        await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = other });
        // One after the other: asking for what is gone, again and again, is held back as guessing.
        await Eventually.Async(async () => await AnswerAsync(falling) == HttpStatusCode.NotFound);
        await Eventually.Async(async () => await AnswerAsync(turning) == HttpStatusCode.NotFound);
        Assert.Equal(HttpStatusCode.Found, await AnswerAsync(led));

        // The other host is free again: its link goes on, the first still waits, until it is led past the refused host.
        var entry = (await demo.Host.GetJsonAsync("/api/v1/refused-hosts")).AsArray().Single(h => h!.Text("host") == other)!;
        await owner.CallAsync(HttpMethod.Delete, $"/api/v1/refused-hosts/{entry.Text("id")}");
        await Eventually.Async(async () => await AnswerAsync(turning) == HttpStatusCode.Found);
        Assert.Equal(HttpStatusCode.NotFound, await AnswerAsync(falling));
        await RouteAsync(falling, new { leadsTo = falling["link"]!.Text("url").Split('?')[0], revision = 1 });
        await Eventually.Async(async () => await AnswerAsync(falling) == HttpStatusCode.Found);

        async Task RouteAsync(JsonNode link, object change) =>
            Assert.Equal(
                HttpStatusCode.OK,
                (await owner.CallAsync(HttpMethod.Put, $"/api/v1/links/{link.Text("id")}/route", change)).Status
            );
        async Task<HttpStatusCode> AnswerAsync(JsonNode link) =>
            (await demo.Host.ClickAsync("/" + link.Text("shortUrl").Split('/')[^1])).StatusCode;
    }

    private async Task ApproveAsync(HttpClient owner, params string[] hosts)
    {
        foreach (string host in hosts)
        {
            await owner.DoAsync(
                HttpMethod.Post,
                "/api/v1/links",
                new
                {
                    destination = $"https://{host}/",
                    campaign = "Seed Swap",
                    placement = "Gate poster",
                    fields = new { utm_content = Some("c") },
                }
            );
            var asked = (await demo.Host.GetJsonAsync("/api/v1/hosts")).AsArray().Single(h => h!.Text("host") == host)!;
            await owner.CallAsync(HttpMethod.Post, $"/api/v1/hosts/{asked.Text("id")}/approve");
        }
    }

    [Theory]
    [InlineData("[2001:db8::7]")]
    [InlineData("192.0.2.9")]
    public async Task An_address_in_digits_can_be_refused_too(string host)
    {
        using var owner = demo.Host.As("owner");
        await ApproveAsync(owner, $"{host}:8080");
        Assert.Equal(2, (await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts/count", new { host })).Whole("shortLinks"));
    }

    [Fact]
    public async Task A_site_of_ones_own_can_not_be_refused()
    {
        using var owner = demo.Host.As("owner");
        Assert.Equal(
            "host-own",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = "localhost" })).Json.Refusal().Rule
        );
        Assert.Equal(
            "host-unreadable",
            (await owner.CallAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = "no host" })).Json.Refusal().Rule
        );
    }

    [Fact]
    public async Task A_slug_is_looked_at_while_it_is_typed_and_free_ones_are_offered()
    {
        string slug = Some("fern1");
        using var editor = demo.Host.As("editor");
        await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "Seed Swap",
                placement = "Gate poster",
                slug,
            }
        );
        Task<JsonNode> Look(string typed) =>
            demo.Host.GetJsonAsync(
                $"/api/v1/slugs/check?slug={typed}&page={Uri.EscapeDataString($"http://{BeaconHost.GardenHost}/whats-on/moth-evening")}&placement=Gate%20poster",
                "editor"
            );
        await Eventually.Async(async () => (await Look(slug))["problem"] is not null);
        var alike = await Look(slug.Replace('1', 'l'));
        Assert.Null(alike["problem"]);
        Assert.Contains(slug, alike["alike"]!.AsArray().Select(a => a!.GetValue<string>()));
        Assert.Equal("moth-evening", alike["ideas"]![0]!.GetValue<string>());
        Assert.NotNull((await Look("where"))["problem"]);
    }
}
