using System.Globalization;
using System.IO.Compression;
using System.Net;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Ledger;

/// <summary>The Ledger searched, narrowed down, ordered, taken out as a file, and changed many at a time.</summary>
[Collection(nameof(DemoHost))]
public sealed class LedgerTests(DemoHost demo)
{
    private Task<JsonNode> ListAsync(string query) => demo.Host.GetJsonAsync($"/api/v1/links?{query}");

    private static List<string> Ids(JsonNode list) => [.. list["links"]!.AsArray().Select(l => l.Text("id"))];

    /// <summary>Three links that only this test finds.</summary>
    private async Task<(string Word, List<JsonNode> Links)> MadeAsync()
    {
        string word = $"w{Guid.NewGuid():N}"[..12];
        var links = new List<JsonNode>();
        foreach (string end in new[] { "b", "c", "a" })
        {
            using var client = demo.Host.As("editor");
            links.Add(
                await client.DoAsync(
                    HttpMethod.Post,
                    "/api/v1/links",
                    new
                    {
                        destination = $"http://{BeaconHost.GardenHost}/shop?q={word}",
                        campaign = "Seed Swap",
                        placement = "Gate poster",
                        title = $"{word} {end}",
                        fields = new { utm_content = end },
                    }
                )
            );
        }

        return (word, links);
    }

    [Fact]
    public async Task Words_are_found_in_any_order_wherever_they_are()
    {
        var (word, links) = await MadeAsync();
        using var client = demo.Host.As("editor");
        string topic = $"t{Guid.NewGuid():N}"[..10];
        await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links/bulk",
            new { links = new[] { links[1].Text("id") }, addTopics = new[] { topic } }
        );
        string slug = links[2].Text("shortUrl").Split('/')[^1];
        foreach (
            string some in new[] { $"gate {word} swap", $"SEED {word}", $"{word} poster", $"demo-editor {word}", $"shop {word} {word}" }
        )
        {
            Assert.Equal(3, (await ListAsync($"search={Uri.EscapeDataString(some)}")).Whole("total"));
        }

        Assert.Equal([links[1].Text("id")], Ids(await ListAsync($"search={topic}%20swap")));
        Assert.Equal([links[2].Text("id")], Ids(await ListAsync($"search={slug}%20{word}")));
        Assert.Equal([links[0].Text("id")], Ids(await ListAsync($"search={word}%20utm_content%3Db")));
        Assert.Equal(0, (await ListAsync($"search={word}%20lantern")).Whole("total"));
    }

    [Fact]
    public async Task Links_are_sorted_by_what_they_brought_and_cost()
    {
        string campaign = (await demo.Host.GetJsonAsync("/api/v1/campaigns"))
            .AsArray()
            .Single(c => c.Text("name") == "Lantern Nights")
            .Text("id");
        foreach (
            var (order, read) in new (string, Func<JsonNode?, decimal>)[]
            {
                ("visits", l => l.Whole("visits")),
                ("clicks", l => l.Whole("clicks")),
                ("scans", l => l.Whole("scans")),
                ("unique", l => l.Whole("unique")),
                ("conversions", l => l.Whole("conversions")),
                ("revenue", l => decimal.Parse(l!["revenue"].Text("amount"), CultureInfo.InvariantCulture)),
                ("cost", l => l!["cost"] is { } cost ? decimal.Parse(cost.Text("amount"), CultureInfo.InvariantCulture) : decimal.MinValue),
            }
        )
        {
            var falling = (await ListAsync($"campaign={campaign}&order=-{order}&size=20"))["links"]!.AsArray().Select(read).ToList();
            Assert.Equal(falling.OrderDescending(), falling);
            var second = (await ListAsync($"campaign={campaign}&order=-{order}&size=20&page=2"))["links"]!.AsArray().Select(read).ToList();
            Assert.True(second.Count == 0 || second[0] <= falling[^1]);
        }
    }

    [Fact]
    public async Task Links_are_ordered_and_paged_without_gaps_and_counted_whole()
    {
        var (word, links) = await MadeAsync();
        string[] made = [.. links.Select(l => l.Text("id"))];
        Assert.Equal(made.Reverse(), Ids(await ListAsync($"search={word}")));
        Assert.Equal([made[2], made[0], made[1]], Ids(await ListAsync($"search={word}&order=title")));
        Assert.Equal([made[1], made[0], made[2]], Ids(await ListAsync($"search={word}&order=-title")));
        var pages = new List<string>();
        for (int page = 1; page <= 3; page++)
        {
            var list = await ListAsync($"search={word}&order=-uses&size=1&page={page}");
            Assert.Equal((3, 1), (list.Whole("total"), list.Whole("pageSize")));
            pages.AddRange(Ids(list));
        }

        Assert.Equal(made.Order(), pages.Order());

        // What is used comes up, and by its last use.
        await Eventually.Async(async () =>
        {
            using var click = await demo.Host.ClickAsync("/" + links[0].Text("shortUrl").Split('/')[^1]);
            return click.StatusCode == HttpStatusCode.Found;
        });
        await Eventually.Async(async () => Ids(await ListAsync($"search={word}&order=-uses")) is [var first, ..] && first == made[0]);
        Assert.Equal([made[0]], Ids(await ListAsync($"search={word}&order=-used")));
        Assert.Equal(1L, await demo.Host.ScalarAsync<long>("select uses from links where id = $1", Guid.Parse(made[0])));
    }

    [Fact]
    public async Task Links_are_narrowed_down_by_where_they_belong_and_what_they_do()
    {
        var (word, links) = await MadeAsync();
        using var client = demo.Host.As("editor");
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{links[0].Text("id")}/route",
            new
            {
                leadsTo = $"http://{BeaconHost.GardenHost}/shop",
                paused = true,
                revision = 0,
            }
        );
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{links[1].Text("id")}/route",
            new
            {
                leadsTo = $"http://{BeaconHost.GardenHost}/shop",
                paused = false,
                endsAt = "2020-01-01T00:00",
                revision = 0,
            }
        );
        foreach (var (state, index) in new[] { ("paused", 0), ("ended", 1), ("live", 2) })
        {
            var list = await ListAsync($"search={word}&state={state}");
            Assert.Equal([links[index].Text("id")], Ids(list));
            Assert.Equal(state, list["links"]![0].Text("state"));
        }

        string placement = (await ListAsync($"search={word}"))["links"]![0].Text("placementId");
        Assert.Equal(3, (await ListAsync($"search={word}&placement={placement}&channel=Print%20and%20codes")).Whole("total"));
        Assert.Equal(0, (await ListAsync($"search={word}&channel=Direct")).Whole("total"));
        Assert.Equal(0, (await ListAsync($"search={word}&campaign={Guid.NewGuid()}")).Whole("total"));
    }

    [Fact]
    public async Task A_file_is_in_the_order_of_the_figure_the_list_is_in()
    {
        using var client = demo.Host.As("viewer");
        const string Query = "search=lantern&order=-cost";
        var table = Core.Batches.TableText.Read((await client.GetStringAsync($"/api/v1/links.csv?{Query}")).TrimStart('\uFEFF'), ',');
        var shown = (await ListAsync($"{Query}&size=500"))["links"]!.AsArray();
        Assert.Equal(shown.Select(l => l.Text("title")), table.Rows.Select(r => r[0]));
        var costs = shown.Select(l => l!["cost"]?["amount"]?.GetValue<string>()).ToList();
        Assert.Contains(costs, c => c is not null);
        Assert.Equal(costs.Where(c => c is not null), costs.TakeWhile(c => c is not null));
        Assert.NotEqual(
            (await ListAsync("search=lantern&size=500"))["links"]!.AsArray().Select(l => l.Text("title")),
            table.Rows.Select(r => r[0])
        );
    }

    [Fact]
    public async Task A_file_has_what_the_search_finds_and_no_title_runs_as_a_formula()
    {
        var (word, _) = await MadeAsync();
        using var client = demo.Host.As("editor");
        await client.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/shop?q={word}",
                campaign = "Seed Swap",
                placement = "Gate poster",
                title = "=1+1",
                fields = new { utm_content = "formula" },
            }
        );
        string csv = await client.GetStringAsync($"/api/v1/links.csv?search={word}&order=title");
        string[] lines = csv.TrimStart('\uFEFF').Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.StartsWith("Title,Link,Page,Campaign", lines[0], StringComparison.Ordinal);
        Assert.Equal(5, lines.Length);
        Assert.StartsWith("'=1+1,", lines[1], StringComparison.Ordinal);
        byte[] xlsx = await client.GetByteArrayAsync($"/api/v1/links.xlsx?search={word}");
        using var workbook = new ZipArchive(new MemoryStream(xlsx));
        using var sheet = new StreamReader(
            workbook.Entries.Single(e => e.FullName.StartsWith("xl/worksheets/", StringComparison.Ordinal)).Open()
        );
        string cells = await sheet.ReadToEndAsync();
        Assert.Equal(4 * 5, Regex.Count(cells, "s=\"1\"><x:v>[0-9]+</x:v>")); // clicks, scans, unique, visits and conversions of four links
        Assert.Equal(8, Regex.Count(cells, "s=\"2\"><x:v>[0-9]+\\.[0-9]{2}</x:v>")); // revenue and cost, a share of the gate poster's
        string[] headings = lines[0].Split(',');
        string[] formula = lines[1].Split(',');
        Assert.Equal(("formula", "EUR"), (formula[Array.IndexOf(headings, "utm_content")], formula[Array.IndexOf(headings, "Currency")]));
        Assert.Equal(["Placement", "Publisher"], headings[4..6]);
        Assert.Equal(4, (await client.DoAsync(HttpMethod.Get, $"/api/v1/links/ids?search={word}")).AsArray().Count);
    }

    [Fact]
    public async Task Many_are_put_away_or_moved_at_once_their_short_links_go_on_and_it_is_taken_back_as_a_whole()
    {
        var (word, links) = await MadeAsync();
        string[] ids = [.. links.Select(l => l.Text("id"))];
        using var client = demo.Host.As("editor");
        const string Path = "/api/v1/links/bulk";
        await client.DoAsync(HttpMethod.Post, Path, new { links = new[] { ids[0] }, retire = true });
        var answer = await client.DoAsync(HttpMethod.Post, Path, new { links = ids, retire = true });
        Assert.Equal(2, answer.Whole("changed")); // one was archived already
        Assert.Equal(0, (await ListAsync($"search={word}")).Whole("total"));
        Assert.Equal(3, (await ListAsync($"search={word}&state=retired")).Whole("total"));
        await Eventually.Async(async () =>
        {
            using var click = await demo.Host.ClickAsync("/" + links[1].Text("shortUrl").Split('/')[^1]);
            return click.StatusCode == HttpStatusCode.Found;
        });
        await client.DoAsync(HttpMethod.Post, $"{Path}/{answer.Text("undo")}/undo");
        Assert.Equal([ids[2], ids[1]], Ids(await ListAsync($"search={word}")));

        var campaigns = (await client.DoAsync(HttpMethod.Get, "/api/v1/campaigns")).AsArray();
        string other = campaigns.First(c => c.Text("name") == "Orchid Week").Text("id");
        var moved = await client.DoAsync(HttpMethod.Post, Path, new { links = ids, campaign = other });
        var list = await ListAsync($"search={word}&campaign={other}");
        Assert.Equal(2, list.Whole("total"));
        Assert.All(list["links"]!.AsArray(), l => Assert.Contains("seed_swap", l.Text("url"), StringComparison.Ordinal)); // what was sent out stays
        await client.DoAsync(HttpMethod.Post, $"{Path}/{moved.Text("undo")}/undo");
        Assert.Equal(0, (await ListAsync($"search={word}&campaign={other}")).Whole("total"));

        Assert.Equal(
            "links-count",
            (await client.CallAsync(HttpMethod.Post, Path, new { links = Array.Empty<string>(), retire = true })).Json.Refusal().Rule
        );
        Assert.Equal("change-missing", (await client.CallAsync(HttpMethod.Post, Path, new { links = ids })).Json.Refusal().Rule);
        Assert.Equal(
            "not-found",
            (await client.CallAsync(HttpMethod.Post, Path, new { links = ids, campaign = Guid.NewGuid() })).Json.Refusal().Rule
        );
        Assert.Equal("not-found", (await client.CallAsync(HttpMethod.Post, $"{Path}/{Guid.NewGuid()}/undo")).Json.Refusal().Rule);
    }
}
