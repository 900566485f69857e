using System.Net.Http.Json;
using System.Text.Json.Nodes;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>A number never differs between two places, whatever changes.</summary>
public sealed class SameFiguresTests : IAsyncLifetime
{
    private const string Ever = "from=2020-01-01&size=500";

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 3_000);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Ledger_campaigns_links_visits_and_arrivals_say_the_same()
    {
        await WalkAsync();

        // A word loses an alias: what arrived under it stands for itself again.
        const string Alias = "natter vine";
        var before = await RowsAsync("source");
        Assert.DoesNotContain(Alias, before.Keys);
        await PublishAsync(document =>
        {
            foreach (var word in document["fields"]![0]!["words"]!.AsArray().OfType<JsonObject>())
            {
                if (word["aliases"]?.AsArray() is { } aliases)
                {
                    word["aliases"] = new JsonArray([.. aliases.Where(a => a!.GetValue<string>() != Alias).Select(a => a!.DeepClone())]);
                }
            }
        });
        var after = await RowsAsync("source");
        Assert.True(after[Alias].Visits > 0);
        Assert.Equal(before.Values.Sum(v => v.Visits), after.Values.Sum(v => v.Visits));
        await WalkAsync();

        // The key changes, and the old one is read as well; a channel of one's own comes first.
        await PublishAsync(document =>
        {
            document["fields"]![1]!["key"] = "med";
            document["fields"]![1]!["means"] = "medium";
            document["fields"]![1]!["alsoRead"] = new JsonArray("utm_medium");
            document["choices"] = new JsonArray();
            document["channels"]!
                .AsArray()
                .Insert(
                    0,
                    JsonNode.Parse(
                        """{"name":"Letters","group":"own","conditions":[{"subject":"medium","test":"is","values":["email"]}]}"""
                    )
                );
        });
        Assert.Contains("Letters", (await RowsAsync("channel")).Keys);
        Assert.Equal(after, await RowsAsync("source"));
        await WalkAsync();

        // A link in use goes to another campaign, and its visits with it.
        var moved = (await RowsAsync("link")).Where(r => r.Key.Length > 0).MaxBy(r => r.Value.Visits);
        var campaign = await _host.ScalarAsync<Guid>(
            "select id from campaigns where archived_at is null and id <> (select campaign_id from links where id = $1) order by name limit 1",
            Guid.Parse(moved.Key)
        );
        long its = (await CampaignAsync(campaign))["total"]!.Whole("visits");
        await using (var move = _host.Database.CreateCommand("update links set campaign_id = $1 where id = $2"))
        {
            move.Parameters.Add(new() { Value = campaign });
            move.Parameters.Add(new() { Value = Guid.Parse(moved.Key) });
            await move.ExecuteNonQueryAsync();
        }

        Assert.Equal(its + moved.Value.Visits, (await CampaignAsync(campaign))["total"]!.Whole("visits"));
        await WalkAsync();
    }

    [Fact]
    public async Task Rates_and_imported_costs_are_the_same_everywhere()
    {
        using var editor = _host.As("editor");
        var day = DateOnly.Parse(
            (await _host.GetJsonAsync("/api/v1/arrivals?rows=&measures=visits")).Text("to"),
            System.Globalization.CultureInfo.InvariantCulture
        );
        var placements = (await _host.GetJsonAsync("/api/v1/placements")).AsArray();
        string[] bases = ["click", "visit", "conversion", "nothing"];
        foreach (var (placement, i) in placements.Take(8).Select((p, i) => (p!, i)))
        {
            await editor.DoAsync(
                HttpMethod.Put,
                $"/api/v1/placements/{placement.Text("id")}/rates",
                new
                {
                    correctsPast = true,
                    rates = new object[]
                    {
                        new { basis = bases[i % 4], amount = 0.11m + i },
                        new
                        {
                            from = day.AddDays(-200 + i),
                            basis = bases[(i + 1) % 4],
                            amount = 0.07m * i,
                        },
                        new
                        {
                            from = day.AddDays(-90),
                            to = day.AddDays(5),
                            basis = "span",
                            amount = 33.33m,
                        },
                    },
                }
            );
        }

        var link = (await RowsAsync("link")).Where(r => r.Key.Length > 0).MaxBy(r => r.Value.Visits).Key;
        await editor.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{link}/rates",
            new
            {
                correctsPast = true,
                rates = new[]
                {
                    new
                    {
                        from = day.AddDays(-100),
                        basis = "visit",
                        amount = 0.5m,
                    },
                },
            }
        );
        await WalkAsync();
        using var form = new MultipartFormDataContent();
        string campaign = (await _host.GetJsonAsync("/api/v1/campaigns"))[1]!.Text("name");
        using var file = new StringContent(
            string.Concat(
                Enumerable
                    .Range(1, 60)
                    .SelectMany(d =>
                        new[]
                        {
                            $"{day.AddDays(-d):yyyy-MM-dd},{link},,,{d}.10\n",
                            $"{day.AddDays(-d):yyyy-MM-dd},,{campaign},,{d}00.20\n",
                            $"{day.AddDays(-d):yyyy-MM-dd},,{campaign},{placements[2].Text("name")},{d}.30\n",
                        }
                    )
                    .Prepend("Day,Link,Campaign,Placement,Cost\n")
            )
        );
        form.Add(file, "file", "costs.csv");
        using var answer = await editor.PostAsync("/api/v1/imports/costs", form);
        Assert.Equal(180, (await answer.Content.ReadFromJsonAsync<JsonNode>()).Whole("kept"));
        await WalkAsync();
    }

    private static decimal CostOf(JsonNode node) =>
        node["cost"] is { } cost ? decimal.Parse(cost.Text("amount"), System.Globalization.CultureInfo.InvariantCulture) : 0;

    private async Task<Dictionary<string, decimal>> CostsAsync(string rows) =>
        (await _host.GetJsonAsync($"/api/v1/arrivals?{Ever.Replace("500", "5000", StringComparison.Ordinal)}&rows={rows}&measures=cost"))[
            "rows"
        ]!
            .AsArray()
            .ToDictionary(r => r!["keys"]![0]?.GetValue<string>() ?? "", r => CostOf(r!["figures"]!));

    private async Task WalkAsync()
    {
        var total = FigureOf((await _host.GetJsonAsync($"/api/v1/arrivals?{Ever}&rows="))["total"]!);
        foreach (
            string rows in (string[])
                ["channel", "campaign", "placement", "source", "medium", "country", "landingPage", "day", "link", "site"]
        )
        {
            var found = (await RowsAsync(rows)).Values;
            Assert.Equal(total, new Figure(found.Sum(f => f.Visits), found.Sum(f => f.Conversions), found.Select(f => f.Revenue).Sum()));
        }

        // A campaign's page and its row.
        var campaigns = await RowsAsync("campaign");
        var ofCampaigns = await CostsAsync("campaign");
        var ofLinks = await CostsAsync("link");
        int seen = 0,
            paid = 0;
        foreach (var campaign in (await _host.GetJsonAsync("/api/v1/campaigns")).AsArray())
        {
            var detail = await CampaignAsync(campaign!["id"]!.GetValue<Guid>());
            var row = campaigns.GetValueOrDefault(campaign.Text("value"), new Figure(0, 0, 0));
            Assert.Equal(row, FigureOf(detail["total"]!));
            Assert.Equal(CostOf(detail["total"]!), ofCampaigns.GetValueOrDefault(campaign.Text("value")));
            string value = Uri.EscapeDataString(campaign.Text("value"));
            var placements = await RowsAsync($"placement&where=campaign:is:{value}");
            foreach (var result in detail["results"]!.AsArray())
            {
                Assert.Equal(
                    placements.GetValueOrDefault(result!["placement"]?.GetValue<string>() ?? "", new Figure(0, 0, 0)),
                    FigureOf(result)
                );
                Assert.Equal(FigureOf(result), FigureOf(result["figures"]!));
                paid += CostOf(result) > 0 ? 1 : 0;
                Assert.Equal(result.Whole("clicks"), result["figures"].Whole("clicks"));
            }

            seen += row.Visits > 0 ? 1 : 0;
        }

        Assert.True(seen > 3);
        Assert.True(paid > 2);

        // Costs add up to the same whatever they are told apart by; each row is rounded by itself.
        foreach (string rows in (string[])["channel", "placement", "source", "month", "day", "landingPage", "country", "device"])
        {
            var costs = await CostsAsync(rows);
            Assert.InRange(costs.Values.Sum() - ofCampaigns.Values.Sum(), -0.005m * (costs.Count + 50), 0.005m * (costs.Count + 50));
        }

        // A link in the Ledger, on its own page, and its row.
        var links = await RowsAsync("link");
        seen = 0;
        for (int page = 1; ; page++)
        {
            var ledger = (await _host.GetJsonAsync($"/api/v1/links?state=all&size=100&page={page}"))["links"]!.AsArray();
            foreach (var link in ledger)
            {
                var row = links.GetValueOrDefault(link!.Text("id"), new Figure(0, 0, 0));
                Assert.Equal(row, FigureOf(link!));
                Assert.Equal(CostOf(link!), ofLinks.GetValueOrDefault(link.Text("id")));
                if (row.Visits > 0 && seen++ < 10)
                {
                    var counts = await _host.GetJsonAsync(
                        $"/api/v1/links/{link.Text("id")}/counts?range=own&from=2020-01-01&to=2099-01-01"
                    );
                    Assert.Equal(row.Visits, counts["counts"]!.Whole("visits"));
                    Assert.Equal(row, FigureOf(counts["figures"]!));
                }
            }

            if (ledger.Count < 100)
            {
                break;
            }
        }

        Assert.True(seen > 10);

        // Single visits, counted one by one.
        long single = 0;
        for (string? next = ""; next is not null; )
        {
            var page = await _host.GetJsonAsync($"/api/v1/visits?{Ever}{(next.Length == 0 ? "" : "&after=" + next)}");
            single += page["visits"]!.AsArray().Count;
            next = page["next"]?.GetValue<string>();
        }

        Assert.Equal(total.Visits, single);
    }

    private Task<JsonNode> CampaignAsync(Guid id) => _host.GetJsonAsync($"/api/v1/campaigns/{id}");

    private async Task<Dictionary<string, Figure>> RowsAsync(string rows)
    {
        var found = new Dictionary<string, Figure>();
        for (int page = 1; ; page++)
        {
            var report = await _host.GetJsonAsync($"/api/v1/arrivals?{Ever}&page={page}&rows={rows}");
            foreach (var row in report["rows"]!.AsArray())
            {
                found[row!["keys"]![0]?.GetValue<string>() ?? ""] = FigureOf(row["figures"]!);
            }

            if (found.Count >= report.Whole("found"))
            {
                return found;
            }
        }
    }

    private async Task PublishAsync(Action<JsonNode> change)
    {
        using var owner = _host.As("owner");
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        change(document);
        using var put = await owner.PutAsJsonAsync("/api/v1/convention", new { document, revision = (string?)null });
        Assert.True(put.IsSuccessStatusCode, await put.Content.ReadAsStringAsync());
        string revision = (await put.Content.ReadFromJsonAsync<JsonNode>())!["revision"]!.GetValue<string>();
        using var published = await owner.PostAsync($"/api/v1/convention/publish?revision={revision}", null);
        Assert.True(published.IsSuccessStatusCode, await published.Content.ReadAsStringAsync());
    }

    private sealed record Figure(long Visits, long Conversions, decimal Revenue);

    private static Figure FigureOf(JsonNode node) =>
        new(
            node.Whole("visits"),
            node.Whole("conversions"),
            decimal.Parse(node["revenue"]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)
        );
}
