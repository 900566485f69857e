using System.Text.Json.Nodes;
using FsCheck;
using FsCheck.Fluent;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Compose;

/// <summary>What Compose shows, what the call returns and what is stored are the same, for sentences of any kind.</summary>
[Collection(nameof(DemoHost))]
public sealed class ComposeLawTests(DemoHost demo)
{
    private const int Sentences = 60;

    private static readonly string[] Pages =
    [
        "/lantern-nights",
        "/visit?a=1&b=%2F#top",
        "/shop?utm_source=old",
        "/a%2Fb/é",
        "/",
        "/news?x=1&utm_content=kept",
    ];
    private static readonly string[] Contents = ["", "Header Button", "50% off & more", "größe 2", "{keyword} x", "a+b", "日本", "=cmd"];
    private static readonly string?[] Placements =
    [
        null,
        "Gate poster",
        "The Trellis – header button",
        "Wendfar search ads",
        "Nattervine families up north",
    ];

    [Fact]
    public async Task Shown_answered_and_stored_are_one()
    {
        using var client = demo.Host.As("editor");
        var sentences = (
            from page in Gen.Elements(Pages)
            from content in Gen.Elements(Contents)
            from term in Gen.Elements(Contents)
            from placement in Gen.Elements(Placements)
            from campaign in Gen.Elements<string?>("Lantern Nights", "School Visits", null)
            from existing in Gen.Elements<string?>(null, "keep", "replace")
            select new
            {
                destination = $"http://{BeaconHost.GardenHost}{page}",
                campaign,
                placement,
                existing,
                shorten = true,
                fields = new Dictionary<string, string>
                {
                    ["content"] = content,
                    ["utm_term"] = term,
                    ["utm_id"] = Guid.NewGuid().ToString("N")[..6],
                },
            }
        )
            .Sample(Sentences, 50)
            .ToList();

        var together = (await client.DoAsync(HttpMethod.Post, "/api/v1/links/compose-many", new { links = sentences }))["links"]!.AsArray();
        var saved = (await client.DoAsync(HttpMethod.Post, "/api/v1/links/many", new { links = sentences }))["links"]!.AsArray();
        for (int i = 0; i < sentences.Count; i++)
        {
            var alone = await client.DoAsync(HttpMethod.Post, "/api/v1/links/compose", sentences[i]);
            Assert.Equal(Essence(alone), Essence(together[i]!));
            Assert.Equal(Essence(alone), Essence(saved[i]!["link"] ?? saved[i]!["saved"]!["link"]!));
            Assert.Equal(alone["ready"]!.GetValue<bool>(), saved[i]!["saved"] is not null);
            if (saved[i]!["saved"] is not { } link)
            {
                continue;
            }

            string url = alone.Text("url");
            var row = await client.DoAsync(HttpMethod.Get, $"/api/v1/links/{link.Text("id")}");
            Assert.Equal(url, row.Text("url"));
            Assert.Equal(Strip(alone), Strip(row));
            Assert.Equal(
                alone["fields"]!.AsArray().Where(f => f.Text("value").Length > 0).Select(f => (f.Text("key"), f.Text("value"))),
                row["values"]!.AsArray().Select(v => (v.Text("key"), v.Text("value")))
            );

            // And the short link really leads there.
            await Eventually.Async(async () =>
            {
                using var click = await demo.Host.ClickAsync(new Uri(link.Text("shortUrl")).AbsolutePath, method: HttpMethod.Head);
                return click.Headers.Location?.OriginalString == url;
            });
        }

        // The page's own part is shown as typed in Compose and as sent in the Ledger; the tags are the same text in both.
        static string Strip(JsonNode link) =>
            string.Concat(link["strip"]!.AsArray().Where(s => s.Text("part") == "field").Select(s => s.Text("text")));
        static string Essence(JsonNode link) => $"{link["url"]} {link["parameterText"]} {link["fields"]!.ToJsonString()} {link["ready"]}";
    }

    [Fact]
    public async Task A_thousand_links_are_saved_together_with_progress_and_none_where_one_slug_is_taken()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..8];
        var links = Enumerable
            .Range(0, 1_000)
            .Select(i => new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit?{mark}",
                campaign = "School Visits",
                placement = "Gate poster",
                fields = new { content = $"{mark}_{i}" },
                slug = i == 900 ? "one-" + mark : null,
            })
            .ToList();
        await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/visit",
                campaign = "School Visits",
                placement = "Gate poster",
                slug = "one-" + mark,
            }
        );
        var refused = await LinesAsync(links);
        Assert.Contains(
            $"“one-{mark}” already belongs to another link",
            refused[^1]["refused"]!.GetValue<string>(),
            StringComparison.Ordinal
        );
        Assert.Equal(0L, await CountAsync());

        var told = await LinesAsync(links.Select(l => l with { slug = null }));
        Assert.Equal([0, 200, 400, 600, 800, 1000, 1000], told.Select(l => l.Whole("done")));
        Assert.Equal(1_000, told[^1]["answer"].Whole("saved"));
        Assert.Equal(1_000L, await CountAsync());

        Task<long> CountAsync() => demo.Host.ScalarAsync<long>("select count(*) from links where destination like $1", $"%/visit?{mark}");
        async Task<List<JsonNode>> LinesAsync(object asked)
        {
            using var answer = await client.PostAsync(
                "/api/v1/links/many/with-progress",
                System.Net.Http.Json.JsonContent.Create(new { links = asked })
            );
            return
            [
                .. (await answer.Content.ReadAsStringAsync())
                    .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                    .Select(l => JsonNode.Parse(l)!),
            ];
        }
    }

    [Fact]
    public async Task Many_links_stored_at_once_are_stored_like_single_ones()
    {
        using var client = demo.Host.As("editor");
        string mark = Guid.NewGuid().ToString("N")[..8];
        var links = Enumerable
            .Range(0, 120)
            .Select(i => new
            {
                destination = $"http://{BeaconHost.GardenHost}/a%2Fb/é?{mark}",
                campaign = "Lantern Nights",
                placement = i % 2 == 0 ? "Gate poster" : null,
                fields = new
                {
                    content = $"größe {i}",
                    source = "gate_poster",
                    medium = "qr",
                },
                title = i % 3 == 0 ? null : "Gate “poster”",
            })
            .ToList();
        await client.DoAsync(HttpMethod.Post, "/api/v1/links/many", new { links });
        const string Columns = """
            select string_agg(concat_ws('|', title, destination, url, values, style, convention_version, campaign_id, placement_id, created_by, page, tags_key, placed_at,
                (select string_agg(concat_ws(',', use, l.is_waiting, target, length(slug), short_domain_id), ' ' order by use) from short_links s where s.link_id = l.id)), E'\n' order by url)
            from links l where destination like $1
            """;
        string together = await demo.Host.ScalarAsync<string>(Columns, $"%{mark}");
        await demo.Host.ScalarAsync<long>(
            "with gone as (delete from short_links s using links l where s.link_id = l.id and l.destination like $1 returning 1) select count(*) from gone",
            $"%{mark}"
        );
        await demo.Host.ScalarAsync<long>(
            "with gone as (delete from links where destination like $1 returning 1) select count(*) from gone",
            $"%{mark}"
        );
        foreach (var link in links)
        {
            await client.DoAsync(HttpMethod.Post, "/api/v1/links", link);
        }

        Assert.Equal(await demo.Host.ScalarAsync<string>(Columns, $"%{mark}"), together);
    }

    [Fact]
    public async Task The_existing_link_is_named_and_parameters_need_no_page()
    {
        using var client = demo.Host.As("viewer");
        var saved = await demo.Host.SaveLinkAsync(content: "twin_" + Guid.NewGuid().ToString("N")[..6]);
        string url = saved["link"].Text("url");
        var again = await client.DoAsync(HttpMethod.Post, "/api/v1/links/compose", new { destination = url, existing = "keep" });
        Assert.Equal((saved.Text("id"), saved.Text("shortUrl")), (again["existing"].Text("id"), again["existing"].Text("shortUrl")));

        var snippet = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/snippet",
            new { placement = "Wendfar search ads", campaign = "School Visits" }
        );
        Assert.Equal("utm_source=wendfar&utm_medium=cpc&utm_campaign=school_visits&utm_term={keyword}", snippet.Text("parameterText"));
        Assert.Equal(
            "utm_source%3Dwendfar%26utm_medium%3Dcpc%26utm_campaign%3Dschool_visits%26utm_term%3D{keyword}",
            snippet.Text("encoded")
        );
        Assert.True(snippet["ready"]!.GetValue<bool>());
        var without = await client.DoAsync(HttpMethod.Post, "/api/v1/links/snippet", new { placement = "Nobody's wall" });
        Assert.False(without["ready"]!.GetValue<bool>());
        Assert.Equal("placement-unknown", without["notices"]![0].Text("rule"));
    }
}
