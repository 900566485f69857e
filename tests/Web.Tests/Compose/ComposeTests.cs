using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Compose;

[Collection(nameof(DemoHost))]
public sealed class ComposeTests(DemoHost demo)
{
    private const string Page = $"http://{BeaconHost.GardenHost}/lantern-nights";

    private static async Task<(HttpStatusCode Status, JsonNode Json)> PostAsync(
        HttpClient client,
        string path,
        object body,
        string? key = null
    )
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, path) { Content = JsonContent.Create(body) };
        if (key is not null)
        {
            request.Headers.Add("Idempotency-Key", key);
        }

        using var response = await client.SendAsync(request);
        return (response.StatusCode, JsonNode.Parse(await response.Content.ReadAsStringAsync())!);
    }

    [Fact]
    public async Task Plain_keys_work_without_campaign_or_placement()
    {
        using var client = demo.Host.As("viewer");
        var (status, link) = await PostAsync(
            client,
            "/api/v1/links/compose",
            new
            {
                destination = Page + "?x=1#y",
                fields = new
                {
                    utm_source = "the_trellis",
                    medium = "E-Mail",
                    Campaign = "Spring  Sale",
                },
            }
        );
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(Page + "?x=1&utm_source=the_trellis&utm_medium=email&utm_campaign=spring_sale#y", link["url"]!.GetValue<string>());
        Assert.Equal("utm_source=the_trellis&utm_medium=email&utm_campaign=spring_sale", link["parameterText"]!.GetValue<string>());
        Assert.True(link["ready"]!.GetValue<bool>());
        Assert.Equal("typed", link["fields"]![0]!["from"]!.GetValue<string>());
    }

    [Fact]
    public async Task One_refused_page_does_not_hold_up_the_other_links()
    {
        using var client = demo.Host.As("editor");
        string[] pages = ["javascript:alert(1)", Page + "/one", "https://u:p@marrowmere.example", "http://2130706433/", Page + "/two", ""];
        var (status, answer) = await PostAsync(
            client,
            "/api/v1/links/many",
            new
            {
                links = pages.Select(p => new
                {
                    destination = p,
                    campaign = "Lantern Nights",
                    placement = "Gate poster",
                }),
            }
        );
        Assert.Equal(HttpStatusCode.OK, status);
        Assert.Equal(2, answer["saved"]!.GetValue<int>());
        Assert.Equal([false, true, false, false, true, false], answer["links"]!.AsArray().Select(l => l!["saved"] is not null));
        Assert.All(answer["links"]!.AsArray().Where(l => l!["saved"] is null), l =>
            Assert.Equal("destination-refused", l!["link"]!["notices"]![0]!["rule"]!.GetValue<string>())
        );
    }

    [Fact]
    public async Task A_stopped_link_is_not_saved_and_says_why()
    {
        using var client = demo.Host.As("editor");
        var (status, problem) = await PostAsync(
            client,
            "/api/v1/links",
            new
            {
                destination = Page,
                placement = "Gate poster",
                fields = new { medium = "emial" },
                campaign = "Lantern Nights",
            }
        );
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Equal("word-unknown", problem["rule"]!.GetValue<string>());
        Assert.Equal("email", problem["repair"]!["value"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_same_request_twice_gives_the_first_answer_even_at_one_moment()
    {
        using var client = demo.Host.As("editor");
        string key = Guid.NewGuid().ToString();
        object body = new
        {
            destination = Page + "/once",
            campaign = "Lantern Nights",
            placement = "Gate poster",
        };
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => PostAsync(client, "/api/v1/links", body, key)));
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.Created, a.Status));
        Assert.Single(answers.Select(a => a.Json["id"]!.GetValue<string>()).Distinct());
        Assert.Equal(1L, await demo.Host.ScalarAsync<long>("select count(*) from links where destination = $1", Page + "/once"));

        var (status, problem) = await PostAsync(
            client,
            "/api/v1/links",
            new
            {
                destination = Page + "/other",
                campaign = "Lantern Nights",
                placement = "Gate poster",
            },
            key
        );
        Assert.Equal((HttpStatusCode.UnprocessableEntity, "key-reused"), (status, problem["rule"]!.GetValue<string>()));
    }

    [Fact]
    public async Task Text_and_code_have_slugs_of_their_own_and_a_chosen_slug_is_taken_once()
    {
        using var client = demo.Host.As("editor");
        object body = new
        {
            destination = Page + "/chosen",
            campaign = "Lantern Nights",
            placement = "Gate poster",
            slug = "Lantern-Gate",
            title = "<b>Gate</b>",
        };
        var (_, link) = await PostAsync(client, "/api/v1/links", body);
        Assert.Equal($"http://{demo.Host.ShortHost}/lantern-gate", link["shortUrl"]!.GetValue<string>());
        Assert.NotEqual(link["shortUrl"]!.GetValue<string>(), link["codeShortUrl"]!.GetValue<string>());

        var (status, problem) = await PostAsync(client, "/api/v1/links", body);
        Assert.Equal((HttpStatusCode.Conflict, "slug-taken"), (status, problem["rule"]!.GetValue<string>()));
        var (reserved, _) = await PostAsync(client, "/api/v1/links", new { destination = Page, slug = "where" });
        Assert.Equal(HttpStatusCode.BadRequest, reserved);
    }

    [Fact]
    public async Task A_code_can_have_a_chosen_slug_too_and_the_two_never_share_one()
    {
        using var client = demo.Host.As("editor");
        object Body(string? slug, string? codeSlug) =>
            new
            {
                destination = Page + "/printed",
                campaign = "Lantern Nights",
                placement = "Gate poster",
                slug,
                codeSlug,
            };
        var (_, link) = await PostAsync(client, "/api/v1/links", Body(null, "Printed-Gate"));
        Assert.Equal($"http://{demo.Host.ShortHost}/printed-gate", link["codeShortUrl"]!.GetValue<string>());

        var found = await demo.Host.GetJsonAsync("/api/v1/links?search=printed-gate");
        Assert.Equal(1, found["total"]!.GetValue<int>());

        var (taken, problem) = await PostAsync(client, "/api/v1/links", Body("printed-gate", null));
        Assert.Equal((HttpStatusCode.Conflict, "slug-taken"), (taken, problem["rule"]!.GetValue<string>()));
        var (twice, same) = await PostAsync(client, "/api/v1/links", Body("one-slug", "ONE-slug"));
        Assert.Equal((HttpStatusCode.Conflict, "slug-taken"), (twice, same["rule"]!.GetValue<string>()));
        var (reserved, _) = await PostAsync(client, "/api/v1/links", Body(null, "where"));
        Assert.Equal(HttpStatusCode.BadRequest, reserved);
    }

    [Fact]
    public async Task Several_people_may_ask_for_one_new_host_at_one_moment()
    {
        using var client = demo.Host.As("editor");
        var answers = await Task.WhenAll(
            Enumerable
                .Range(0, 4)
                .Select(i =>
                    PostAsync(
                        client,
                        "/api/v1/links",
                        new
                        {
                            destination = $"https://new-partner.example/{i}",
                            campaign = "Lantern Nights",
                            placement = "Gate poster",
                        }
                    )
                )
        );
        Assert.All(answers, a => Assert.Equal(HttpStatusCode.Created, a.Status));
        Assert.All(answers, a => Assert.True(a.Json["waiting"]!.GetValue<bool>()));
        Assert.Equal(1L, await demo.Host.ScalarAsync<long>("select count(*) from approved_hosts where host = 'new-partner.example'"));
    }

    [Theory]
    [InlineData("/api/v1/links/compose", "{}")]
    [InlineData("/api/v1/links/compose", "{\"destination\":\"https://m.example\",\"fields\":{\"a\":null}}")]
    [InlineData("/api/v1/links/compose", "[1]")]
    [InlineData("/api/v1/links/compose", "nonsense")]
    [InlineData("/api/v1/links/compose-many", "{}")]
    [InlineData("/api/v1/links/compose-many", "{\"links\":[]}")]
    [InlineData("/api/v1/links/compose-many", "{\"links\":[null]}")]
    [InlineData("/api/v1/links/inspect", "{}")]
    public async Task Malformed_requests_are_refused_as_problems(string path, string body)
    {
        using var client = demo.Host.As("owner");
        using var response = await client.PostAsync(path, new StringContent(body, System.Text.Encoding.UTF8, "application/json"));
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        Assert.Equal("application/problem+json", response.Content.Headers.ContentType?.MediaType);
    }

    [Fact]
    public async Task A_tagged_link_is_read_back_and_mended()
    {
        using var client = demo.Host.As("viewer");
        var (_, read) = await PostAsync(
            client,
            "/api/v1/links/inspect",
            new { url = Page + "?q=1?utm_soruce=natter%20vine&amp;utm_medium=E-mail&utm_campaign=x" }
        );
        Assert.Equal(Page + "?q=1&utm_source=nattervine&utm_medium=email&utm_campaign=x", read["mendedUrl"]!.GetValue<string>());
        Assert.Equal(Page + "?q=1", read["destination"]!.GetValue<string>());
    }

    [Fact]
    public async Task The_ledger_finds_links_and_takes_search_signs_literally()
    {
        var saved = await demo.Host.SaveLinkAsync(content: "hundred_percent");
        string slug = saved["shortUrl"]!.GetValue<string>().Split('/')[^1];
        Assert.Equal(1, (await demo.Host.GetJsonAsync($"/api/v1/links?search={slug}"))["total"]!.GetValue<int>());
        Assert.Equal(1, (await demo.Host.GetJsonAsync("/api/v1/links?search=hundred_percent"))["total"]!.GetValue<int>());
        Assert.Equal(0, (await demo.Host.GetJsonAsync("/api/v1/links?search=hundred%25percent"))["total"]!.GetValue<int>());
        Assert.Equal(0, (await demo.Host.GetJsonAsync("/api/v1/links?search=%5C"))["total"]!.GetValue<int>());
    }

    [Theory]
    [InlineData("code.svg", "image/svg+xml")]
    [InlineData("code.png", "image/png")]
    public async Task A_code_is_drawn_in_the_size_asked_for_and_no_monster_is(string file, string type)
    {
        var saved = await demo.Host.SaveLinkAsync();
        using var client = demo.Host.As("viewer");
        using var code = await client.GetAsync($"/api/v1/links/{saved["id"]}/{file}?mm=40&correction=H");
        Assert.Equal(type, code.Content.Headers.ContentType?.MediaType);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.GetAsync($"/api/v1/links/{saved["id"]}/{file}?mm=1")).StatusCode);
        Assert.Equal(
            HttpStatusCode.BadRequest,
            (await client.GetAsync($"/api/v1/links/{saved["id"]}/code.png?mm=2000&dpi=2400")).StatusCode
        );
    }

    /// <summary>The two rules of <c>samples/old-links.csv</c> that speak when names are looked up.</summary>
    [Theory]
    [InlineData("Lantern Night", "Gate poster", "campaign-unknown")]
    [InlineData("Lantern Nights", "The Trelis", "placement-unknown")]
    public async Task A_name_nobody_has_stops_the_link(string campaign, string placement, string rule)
    {
        using var client = demo.Host.As("editor");
        using var answer = await client.PostAsJsonAsync(
            "/api/v1/links/compose",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign,
                placement,
            }
        );
        Assert.Contains(rule, await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }
}
