using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>Groups without a search are summed from totals kept as links are written: after any change they say what counting each link says.</summary>
public sealed class LinkTotalsTests
{
    private const string Site = $"http://{BeaconHost.GardenHost}";

    /// <summary>What a link is, worked out for each one by itself.</summary>
    private static string Counted(string named, string condition) =>
        $"""
            select coalesce(string_agg(concat_ws(' ', named, links, uses), '|' order by named), '') from (
                select {named} as named, count(*) as links, sum(uses)::bigint as uses from (
                    select l.*, p.channel, p.name as placement, c.name as campaign,
                        case when l.retired_at is not null then 'retired'
                            when not exists (select 1 from short_links s where s.link_id = l.id) then 'unshortened'
                            when l.is_waiting then 'waiting'
                            when l.ends_at <= now() or l.uses_left <= 0 then 'ended'
                            when l.paused then 'paused' else 'live' end as state
                    from links l left join placements p on p.id = l.placement_id left join campaigns c on c.id = l.campaign_id) each
                where {condition} group by 1) groups
            """;

    [Fact]
    public async Task Groups_say_what_counting_every_link_says_whatever_was_changed()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        await CompareAsync(host);

        // Made in many ways: by itself, many at once, without short links, to a host nobody approved.
        var one = await host.SaveLinkAsync();
        var many = (
            await owner.DoAsync(
                HttpMethod.Post,
                "/api/v1/links/many",
                new
                {
                    links = Enumerable
                        .Range(0, 6)
                        .Select(i => new
                        {
                            destination = $"{Site}/shop",
                            campaign = "Seed Swap",
                            placement = i % 2 == 0 ? "Gate poster" : "Station poster",
                            shorten = i < 5,
                            fields = new { utm_content = $"total{i}" },
                        }),
                }
            )
        )["links"]!.AsArray().Select(l => l!["saved"]!.Text("id")).ToList();
        await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = "https://strange.example/",
                campaign = "Bulb Sale",
                placement = "Gate poster",
            }
        );
        await CompareAsync(host);

        // Used, paused, ended by a date and by uses, archived, moved, given short links, approved, refused.
        await host.ClickAsync("/" + one.Text("shortUrl").Split('/')[^1]);
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select uses from links where id = $1", Guid.Parse(one.Text("id"))) == 1
        );
        await CompareAsync(host);
        await RouteAsync(
            many[0],
            new
            {
                leadsTo = $"{Site}/shop",
                paused = true,
                revision = 0,
            }
        );
        await RouteAsync(
            many[1],
            new
            {
                leadsTo = $"{Site}/shop",
                endsAt = "2020-01-01T00:00",
                revision = 0,
            }
        );
        await RouteAsync(
            many[2],
            new
            {
                leadsTo = $"{Site}/shop",
                mostUses = 5,
                revision = 0,
            }
        );
        await CompareAsync(host);
        await RouteAsync(many[1], new { leadsTo = $"{Site}/shop", revision = 1 });
        await ManyAsync(new { links = many[3..5], retire = true });
        string bulbs = (await host.GetJsonAsync("/api/v1/campaigns")).AsArray().Single(c => c!.Text("name") == "Bulb Sale")!.Text("id");
        await ManyAsync(new { links = new[] { one.Text("id"), many[0] }, campaign = bulbs });
        await ManyAsync(new { links = many[5..], shorten = true });
        await CompareAsync(host);
        var asked = (await host.GetJsonAsync("/api/v1/hosts")).AsArray().Single(h => h!.Text("host") == "strange.example")!;
        await owner.CallAsync(HttpMethod.Post, $"/api/v1/hosts/{asked.Text("id")}/approve");
        await CompareAsync(host);
        await owner.DoAsync(HttpMethod.Post, "/api/v1/refused-hosts", new { host = "strange.example" });
        await CompareAsync(host);

        // Folded into few rows, the sums are the same; folded by several at once, too.
        long rows = await host.ScalarAsync<long>("select count(*) from link_totals");
        await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => LinkTotals.FoldAsync(host.Database, CancellationToken.None)));
        Assert.InRange(await host.ScalarAsync<long>("select count(*) from link_totals"), 1, rows - 1);
        Assert.Equal(
            0,
            await host.ScalarAsync<long>(
                "select count(*) from (select 1 from link_totals group by workspace_id, campaign_id, placement_id, state having count(*) > 1) twice"
            )
        );
        await CompareAsync(host);

        async Task RouteAsync(string id, object change) =>
            Assert.Equal(HttpStatusCode.OK, (await owner.CallAsync(HttpMethod.Put, $"/api/v1/links/{id}/route", change)).Status);
        Task ManyAsync(object change) => owner.DoAsync(HttpMethod.Post, "/api/v1/links/bulk", change);
    }

    [Fact]
    public async Task What_a_search_finds_is_grouped_up_to_as_many_as_are_counted()
    {
        await using var host = await BeaconHost.StartAsync();
        int before = (await host.GetJsonAsync("/api/v1/links/groups?by=state"))
            .AsArray()
            .Single(g => g!.Text("name") == "unshortened")!
            .Whole("links");
        await using var fill = host.Database.CreateCommand(
            """
            insert into links (id, workspace_id, title, destination, url, values, style, convention_version, campaign_id, created_by, created_at, page, tags_key, is_unshortened)
            select gen_random_uuid(), w.id, 'Sedge ' || g, 'http://x.example/' || g, 'http://x.example/' || g, '{}', 'Query', 1, (select id from campaigns where name = 'Bulb Sale'), 'Test', now(), 'x.example/', gen_random_uuid(), true
            from generate_series(1, 10000) g, workspaces w
            """
        );
        await fill.ExecuteNonQueryAsync();
        var groups = (await host.GetJsonAsync("/api/v1/links/groups?by=campaign&search=sedge&order=-used")).AsArray();
        Assert.Equal([("Bulb Sale", 10_000)], groups.Select(g => (g!.Text("name"), g!.Whole("links"))));

        fill.CommandText = fill.CommandText.Replace("generate_series(1, 10000)", "generate_series(10001, 10001)", StringComparison.Ordinal);
        await fill.ExecuteNonQueryAsync();
        using var owner = host.As("owner");
        var refusal = (await owner.CallAsync(HttpMethod.Get, "/api/v1/links/groups?by=campaign&search=sedge")).Json.Refusal();
        Assert.Equal("groups-many", refusal.Rule);
        Assert.Contains("narrow the search", refusal.Says, StringComparison.Ordinal);
        Assert.Equal(
            before + 10_001,
            (await host.GetJsonAsync("/api/v1/links/groups?by=state"))
                .AsArray()
                .Single(g => g!.Text("name") == "unshortened")!
                .Whole("links")
        );
    }

    private static async Task CompareAsync(BeaconHost host)
    {
        foreach (
            var (by, named) in new[]
            {
                ("campaign", "coalesce(campaign, 'No campaign')"),
                ("placement", "coalesce(placement, 'No placement')"),
                ("channel", "coalesce(channel, 'No channel')"),
                ("state", "state"),
            }
        )
        {
            foreach (
                var (asked, condition) in new[]
                {
                    ("", "state <> 'retired'"),
                    ("&state=all", "true"),
                    ("&state=live", "state = 'live'"),
                    ("&state=ended", "state = 'ended'"),
                    ("&state=waiting&channel=Print%20and%20codes", "state = 'waiting' and channel = 'Print and codes'"),
                }
            )
            {
                string expected = await host.ScalarAsync<string>(Counted(named, condition));
                var groups = (await host.GetJsonAsync($"/api/v1/links/groups?by={by}{asked}")).AsArray();
                Assert.Equal(
                    Sorted(expected.Split('|', StringSplitOptions.RemoveEmptyEntries)),
                    Sorted(groups.Select(g => $"{g!.Text("name")} {g!.Whole("links")} {g!.Whole("uses")}"))
                );
            }
        }

        static string Sorted(IEnumerable<string> groups) => $"{string.Join('|', groups.Order(StringComparer.Ordinal))}";
    }
}
