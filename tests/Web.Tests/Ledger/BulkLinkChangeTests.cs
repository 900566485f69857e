using System.Diagnostics;
using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>Many links changed in one go: counted first, done, seen on each link's own page, and taken back.</summary>
[Collection(nameof(DemoHost))]
public sealed class BulkLinkChangeTests(DemoHost demo)
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    private async Task<(string Word, List<JsonNode> Links)> MadeAsync(int count, bool shorten = true)
    {
        string word = $"w{Guid.NewGuid():N}"[..12];
        using var client = demo.Host.As("editor");
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/many",
            new
            {
                links = Enumerable
                    .Range(0, count)
                    .Select(i => new
                    {
                        destination = $"{Site}/shop?q={word}",
                        campaign = "Seed Swap",
                        placement = "Gate poster",
                        title = $"{word} {i}",
                        shorten,
                        fields = new { utm_content = $"{word}{i}" },
                    }),
            }
        );
        return (word, [.. made["links"]!.AsArray().Select(l => l!["saved"]!)]);
    }

    private async Task<JsonNode> ChangeAsync(object change)
    {
        using var client = demo.Host.As("editor");
        return await client.DoAsync(HttpMethod.Post, "/api/v1/links/bulk", change);
    }

    private async Task<int> UndoAsync(JsonNode answer)
    {
        using var client = demo.Host.As("editor");
        return (await client.DoAsync(HttpMethod.Post, $"/api/v1/links/bulk/{answer.Text("undo")}/undo")).Whole("changed");
    }

    private async Task<string?> LeadsToAsync(JsonNode link)
    {
        using var answer = await demo.Host.ClickAsync("/" + link.Text("shortUrl").Split('/')[^1]);
        return answer.Headers.Location?.OriginalString;
    }

    [Fact]
    public async Task Many_are_led_to_another_page_each_with_its_own_tags_and_back()
    {
        var (_, links) = await MadeAsync(3);
        var (_, bare) = await MadeAsync(1, shorten: false);
        string[] ids = [.. links.Concat(bare).Select(l => l.Text("id"))];
        var counted = await ChangeAsync(
            new
            {
                links = ids,
                leadsTo = $"{Site}/visit",
                count = true,
            }
        );
        Assert.Equal((3, null), (counted.Whole("changed"), counted["undo"]?.ToString()));
        Assert.Equal([("They have no short link", 1)], counted["left"]!.AsArray().Select(l => (l!.Text("why"), l!.Whole("links"))));
        Assert.Contains("/shop?q=", counted["sample"]![0].Text("before"), StringComparison.Ordinal);
        Assert.Equal($"{Site}/visit", counted["sample"]![0].Text("after"));
        await Eventually.Async(async () => (await LeadsToAsync(links[0]))?.Contains("/shop?q=", StringComparison.Ordinal) == true);

        var done = await ChangeAsync(new { links = ids, leadsTo = $"{Site}/visit" });
        Assert.Equal(3, done.Whole("changed"));
        foreach (var link in links)
        {
            string content = link["link"]!["fields"]!.AsArray().Single(f => f!.Text("key") == "utm_content")!.Text("value");
            await Eventually.Async(async () =>
                await LeadsToAsync(link) is { } to
                && to.StartsWith($"{Site}/visit?", StringComparison.Ordinal)
                && to.Contains($"utm_content={content}", StringComparison.Ordinal)
            );
        }

        var events = (await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}/history")).AsArray();
        Assert.Equal(["led", "made"], events.Select(e => e!.Text("what")));
        Assert.True(events[0]!["together"]!.GetValue<bool>());
        Assert.Equal($"{Site}/visit", events[0]!["routeAfter"]!.Text("leadsTo"));

        // One of them was changed again since then, and keeps that.
        using var client = demo.Host.As("editor");
        await client.DoAsync(HttpMethod.Put, $"/api/v1/links/{ids[1]}/route", new { leadsTo = $"{Site}/orchid-week", revision = 1 });
        Assert.Equal(2, await UndoAsync(done));
        await Eventually.Async(async () =>
            await LeadsToAsync(links[0]) == links[0]["link"]!.Text("url")
            && (await LeadsToAsync(links[1]))!.Contains("orchid-week", StringComparison.Ordinal)
        );
    }

    [Fact]
    public async Task Short_links_are_made_for_many_and_taken_back_where_nobody_used_them()
    {
        var (_, links) = await MadeAsync(3, shorten: false);
        string[] ids = [.. links.Select(l => l.Text("id"))];
        Assert.Equal(
            3,
            (
                await ChangeAsync(
                    new
                    {
                        links = ids,
                        shorten = true,
                        count = true,
                    }
                )
            ).Whole("changed")
        );
        Assert.Equal("unshortened", (await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}")).Text("state"));
        var done = await ChangeAsync(new { links = ids, shorten = true });
        var row = await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}");
        Assert.NotEqual(row.Text("shortUrl"), row.Text("codeShortUrl"));
        Assert.Equal("shortened", (await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}/history"))[0].Text("what"));
        await Eventually.Async(async () => await LeadsToAsync(row) == row.Text("url"));
        await Eventually.Async(async () =>
            await demo.Host.ScalarAsync<long>("select uses from links where id = $1", Guid.Parse(ids[0])) > 0
        );

        Assert.Equal(2, await UndoAsync(done));
        Assert.Equal(
            ["live", "unshortened", "unshortened"],
            await Task.WhenAll(ids.Select(async id => (await demo.Host.GetJsonAsync($"/api/v1/links/{id}")).Text("state")))
        );
    }

    [Fact]
    public async Task Topics_are_given_to_many_found_grouped_and_taken_back()
    {
        var (word, links) = await MadeAsync(3);
        string[] ids = [.. links.Select(l => l.Text("id"))];
        var done = await ChangeAsync(new { links = ids[..2], addTopics = new[] { $" Topic  {word.ToUpperInvariant()} " } });
        Assert.Equal(2, done.Whole("changed"));
        string topic = $"topic {word}";
        Assert.Equal(2, (await demo.Host.GetJsonAsync($"/api/v1/links?topic={Uri.EscapeDataString(topic)}")).Whole("total"));
        Assert.Equal(
            1,
            (
                await demo.Host.GetJsonAsync(
                    $"/api/v1/links?topic={Uri.EscapeDataString(topic)}&search={word}%20{links[0].Text("shortUrl").Split('/')[^1]}"
                )
            ).Whole("total")
        );
        var groups = (await demo.Host.GetJsonAsync("/api/v1/links/groups?by=topic")).AsArray();
        Assert.Equal(2, groups.Single(g => g!.Text("name") == topic)!.Whole("links"));

        using var client = demo.Host.As("editor");
        await client.CallAsync(
            HttpMethod.Put,
            $"/api/v1/links/{ids[0]}/naming",
            new { title = "Another title", topics = new[] { "kept" } }
        );
        Assert.Equal(1, await UndoAsync(done));
        Assert.Equal(0, (await demo.Host.GetJsonAsync($"/api/v1/links?topic={Uri.EscapeDataString(topic)}")).Whole("total"));
        var row = await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}");
        Assert.Equal(("Another title", "kept"), (row.Text("title"), row["topics"]![0]!.GetValue<string>()));
        var events = (await demo.Host.GetJsonAsync($"/api/v1/links/{ids[0]}/history")).AsArray();
        Assert.Equal(["filed", "filed", "made"], events.Select(e => e!.Text("what")));
        Assert.Equal("Another title", events[0]!["filingAfter"]!.Text("title"));
        Assert.Equal(
            "topics-refused",
            (
                await client.CallAsync(
                    HttpMethod.Put,
                    $"/api/v1/links/{ids[0]}/naming",
                    new { title = "x", topics = new[] { new string('x', 50) } }
                )
            )
                .Json.Refusal()
                .Rule
        );
        Assert.Equal(
            "title-refused",
            (await client.CallAsync(HttpMethod.Put, $"/api/v1/links/{ids[0]}/naming", new { title = " " })).Json.Refusal().Rule
        );
    }

    [Fact]
    public async Task Groups_count_what_the_search_finds()
    {
        var (word, links) = await MadeAsync(3);
        await ChangeAsync(
            new
            {
                links = new[] { links[0].Text("id") },
                campaign = (await demo.Host.GetJsonAsync("/api/v1/campaigns"))
                    .AsArray()
                    .Single(c => c!.Text("name") == "Bulb Sale")!
                    .Text("id"),
            }
        );
        foreach (
            var (by, expected) in new[]
            {
                ("campaign", "Seed Swap 2|Bulb Sale 1"),
                ("placement", "Gate poster 3"),
                ("channel", "Print and codes 3"),
                ("state", "live 3"),
                ("topic", ""),
            }
        )
        {
            var groups = (await demo.Host.GetJsonAsync($"/api/v1/links/groups?by={by}&search={word}")).AsArray();
            Assert.Equal(expected, string.Join('|', groups.Select(g => $"{g!.Text("name")} {g!.Whole("links")}")));
        }

        using var client = demo.Host.As("editor");
        Assert.Equal("group-unknown", (await client.CallAsync(HttpMethod.Get, "/api/v1/links/groups?by=colour")).Json.Refusal().Rule);
    }

    [Fact]
    public async Task Two_changes_at_once_and_none_are_refused()
    {
        var (_, links) = await MadeAsync(1);
        using var client = demo.Host.As("editor");
        object[] wrong =
        [
            new { links = new[] { links[0].Text("id") } },
            new
            {
                links = new[] { links[0].Text("id") },
                retire = true,
                shorten = true,
            },
        ];
        foreach (object change in wrong)
        {
            Assert.Equal("change-missing", (await client.CallAsync(HttpMethod.Post, "/api/v1/links/bulk", change)).Json.Refusal().Rule);
        }

        Assert.Equal(
            "page-refused",
            (
                await client.CallAsync(
                    HttpMethod.Post,
                    "/api/v1/links/bulk",
                    new { links = new[] { links[0].Text("id") }, leadsTo = "nowhere" }
                )
            )
                .Json.Refusal()
                .Rule
        );
        using var viewer = demo.Host.As("viewer");
        Assert.Equal(
            HttpStatusCode.Forbidden,
            (
                await viewer.CallAsync(HttpMethod.Post, "/api/v1/links/bulk", new { links = new[] { links[0].Text("id") }, retire = true })
            ).Status
        );
    }

    [Fact]
    public async Task Links_saved_together_have_their_ends_too()
    {
        using var client = demo.Host.As("editor");
        var made = await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/many",
            new
            {
                links = new object[]
                {
                    new
                    {
                        destination = $"{Site}/visit",
                        campaign = "Seed Swap",
                        placement = "Gate poster",
                        fields = new { utm_content = $"e{Guid.NewGuid():N}"[..10] },
                        ending = new { uses = 3 },
                    },
                    new
                    {
                        destination = $"{Site}/visit",
                        campaign = "Seed Swap",
                        placement = "Gate poster",
                        fields = new { utm_content = $"e{Guid.NewGuid():N}"[..10] },
                    },
                },
            }
        );
        var routes = await Task.WhenAll(
            made["links"]!.AsArray().Select(l => demo.Host.GetJsonAsync($"/api/v1/links/{l!["saved"]!.Text("id")}/route"))
        );
        Assert.Equal((3, true), (routes[0].Whole("mostUses"), routes[1]["mostUses"] is null));
    }

    /// <summary>Links with an end are stored with as many statements as links without, whether as objects or by COPY.</summary>
    [Theory]
    [InlineData(10)]
    [InlineData(60)]
    public async Task An_end_costs_no_statements_of_its_own(int links)
    {
        using var client = demo.Host.As("editor");
        object[] Links(object? ending) =>
            [
                .. Enumerable
                    .Range(0, links)
                    .Select(i => new
                    {
                        destination = $"{Site}/visit",
                        campaign = "Seed Swap",
                        placement = "Gate poster",
                        fields = new { utm_content = $"c{Guid.NewGuid():N}"[..12] },
                        ending,
                    }),
            ];
        await client.DoAsync(HttpMethod.Post, "/api/v1/links/many", new { links = Links(null) });
        var (without, _) = await CountAsync(() => client.DoAsync(HttpMethod.Post, "/api/v1/links/many", new { links = Links(null) }));
        var (with, made) = await CountAsync(() =>
            client.DoAsync(
                HttpMethod.Post,
                "/api/v1/links/many",
                new
                {
                    links = Links(
                        new
                        {
                            uses = 5,
                            at = "2099-12-24T18:00",
                            fallback = $"{Site}/shop",
                        }
                    ),
                }
            )
        );
        Assert.True(without > 3, $"{without} statements were seen");
        Assert.InRange(with, 1, without + 1); // the workspace's zone is read once
        var route = await demo.Host.GetJsonAsync($"/api/v1/links/{made["links"]![links - 1]!["saved"]!.Text("id")}/route");
        Assert.Equal(
            (5, 5, "2099-12-24T18:00", $"{Site}/shop", 0),
            (route.Whole("mostUses"), route.Whole("usesLeft"), route.Text("endsAtLocal"), route.Text("fallback"), route.Whole("revision"))
        );
        Assert.Null(made["links"]![0]!["link"]);

        var (status, refusal) = await client.CallAsync(HttpMethod.Post, "/api/v1/links/many", new { links = Links(new { uses = 0 }) });
        Assert.Equal((HttpStatusCode.BadRequest, "uses-refused"), (status, refusal.Refusal().Rule));
        var unshortened = new
        {
            destination = $"{Site}/visit",
            campaign = "Seed Swap",
            placement = "Gate poster",
            ending = new { uses = 3 },
            shorten = false,
        };
        Assert.Equal(
            "ending-without-short-link",
            (await client.CallAsync(HttpMethod.Post, "/api/v1/links", unshortened)).Json.Refusal().Rule
        );
    }

    /// <summary>Statements the server sent for one request, told by the trace they belong to.</summary>
    private static async Task<(int Statements, JsonNode Answer)> CountAsync(Func<Task<JsonNode>> ask)
    {
        int count = 0;
        using var asking = new Activity("asking").Start();
        using var listener = new ActivityListener
        {
            ShouldListenTo = source => source.Name == "Npgsql",
            Sample = (ref _) => ActivitySamplingResult.AllData,
            ActivityStopped = activity =>
            {
                if (activity.TraceId == asking.TraceId)
                {
                    Interlocked.Increment(ref count);
                }
            },
        };
        ActivitySource.AddActivityListener(listener);
        var answer = await ask();
        return (count, answer);
    }
}
