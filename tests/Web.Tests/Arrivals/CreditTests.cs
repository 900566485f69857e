using System.Globalization;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>
/// Credit through the interface. Somebody came ten days ago by a mail, five days ago by a poster, and today without tags to buy for 10.00;
/// of this 3.00 went back.
/// </summary>
public sealed class CreditTests(CreditTests.Buyer buyer) : IClassFixture<CreditTests.Buyer>
{
    private readonly BeaconHost _host = buyer.Host;

    /// <summary>What somebody did, once for all tests.</summary>
    public sealed class Buyer : IAsyncLifetime
    {
        private Guid _workspace;
        private Guid _site;

        public BeaconHost Host { get; private set; } = null!;

        public async Task InitializeAsync()
        {
            Host = await BeaconHost.StartAsync(visits: 0);
            _workspace = await Host.ScalarAsync<Guid>("select id from workspaces");
            _site = await Host.ScalarAsync<Guid>($"select site_id from site_hosts where host = '{BeaconHost.GardenHost}'");
            await KeepAsync(
                View(10, "?utm_source=lettershop&utm_medium=email"),
                View(5, "?utm_source=wallside&utm_medium=print"),
                View(0, ""),
                View(0, "") with
                {
                    At = DateTimeOffset.UtcNow.AddSeconds(-10),
                    Kind = PageEventKind.Conversion,
                    Name = "ticket",
                    Value = 10,
                    Currency = "EUR",
                    OrderId = "A1",
                }
            );
            using var shop = Host.As("measuring");
            await shop.DoAsync(
                HttpMethod.Post,
                "/api/v1/conversions",
                new
                {
                    eventId = "r1",
                    site = "Garden website",
                    refundOf = "A1",
                    value = new { amount = "3.00", currency = "EUR" },
                }
            );
        }

        public async Task DisposeAsync() => await Host.DisposeAsync();

        public RawPageEvent View(int daysAgo, string tags, int visitor = 7) =>
            new()
            {
                Id = Guid.NewGuid(),
                WorkspaceId = _workspace,
                SiteId = _site,
                At = DateTimeOffset.UtcNow.AddDays(-daysAgo).AddSeconds(-20),
                Kind = PageEventKind.View,
                Url = $"http://{BeaconHost.GardenHost}/visit{tags}",
                Visitor = new Guid(visitor, 0, 0, new byte[8]),
                HasId = true,
                UserAgent = "Mozilla/5.0 (X11; Linux x86_64) Fernleaf/12.1",
            };

        public async Task KeepAsync(params RawPageEvent[] events)
        {
            var raw = new RawEvents();
            raw.PageEvents.AddRange(events);
            await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
            await SettleAsync(packed: false);
        }

        public async Task SettleAsync(bool packed)
        {
            await Eventually.Async(async () =>
            {
                await new VisitAggregator(Host.Database).WorkOutAsync(CancellationToken.None);
                return await Host.ScalarAsync<long>("select count(*) from visit_due") == 0;
            });
            if (packed)
            {
                await Eventually.Async(async () =>
                {
                    await new VisitSegmentBuilder(Host.Database).PackAsync(TimeSpan.Zero, CancellationToken.None);
                    return await Host.ScalarAsync<long>("select count(*) from visit_segment_due") == 0;
                });
            }
        }
    }

    [Theory]
    [InlineData("", "direct 1 10.00 3.00")]
    [InlineData("last", "direct 1 10.00 3.00")]
    [InlineData("lastTagged", "wallside 1 10.00 3.00")]
    [InlineData("first", "lettershop 1 10.00 3.00")]
    [InlineData("first&creditDays=7", "wallside 1 10.00 3.00")]
    [InlineData("equal", "direct 0.333333 3.33 1.00", "lettershop 0.333334 3.34 1.00", "wallside 0.333333 3.33 1.00")]
    [InlineData("ends", "direct 0.35 3.50 1.05", "lettershop 0.35 3.50 1.05", "wallside 0.3 3.00 0.90")]
    [InlineData("ends:60-40", "direct 0.4 4.00 1.20", "lettershop 0.6 6.00 1.80")]
    public async Task Conversions_revenue_and_refunds_follow_the_model(string credit, params string[] expected)
    {
        var report = await ReportAsync($"rows=source&credit={credit}");
        Assert.Equal(
            expected,
            report["rows"]!
                .AsArray()
                .Where(r => r!["figures"]!["conversions"]!.GetValue<decimal>() > 0)
                .Select(r =>
                    $"{r!["keys"]![0]} {r["figures"]!["conversions"]} {r["figures"]!["revenue"].Text("amount")} {r["figures"]!["refunds"].Text("amount")}"
                )
                .Order(StringComparer.Ordinal)
        );

        // However it is shared out, it comes to the same; who converted is told by visits.
        var total = report["total"]!;
        Assert.Equal(
            (1m, "10.00", "3.00", 1),
            (
                total["conversions"]!.GetValue<decimal>(),
                total["revenue"].Text("amount"),
                total["refunds"].Text("amount"),
                total.Whole("convertingVisits")
            )
        );
    }

    [Fact]
    public async Task Each_row_says_what_it_gains_by_another_model()
    {
        var report = await ReportAsync("rows=source&credit=lastTagged&creditBeside=ends&sort=-conversionsGained");
        Assert.Equal(
            ["direct 0.35 3.50", "lettershop 0.35 3.50", "wallside -0.7 -7.00"],
            report["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {r["figures"]!["conversionsGained"]} {r["figures"]!["revenueGained"].Text("amount")}")
        );
        Assert.Null((await ReportAsync("rows=source&credit=first"))["total"]!["conversionsGained"]);
    }

    [Fact]
    public async Task Files_and_paper_say_which_model_they_follow()
    {
        using var client = _host.As("viewer");
        string file = await client.GetStringAsync("/api/v1/arrivals.csv?rows=source&credit=equal&measures=conversions,revenue");
        Assert.Contains("0.333334,3.34", file, StringComparison.Ordinal);
        byte[] paper = await client.GetByteArrayAsync("/api/v1/arrivals.pdf?rows=source&credit=equal");
        Assert.Equal("%PDF"u8.ToArray(), paper[..4]);
    }

    [Fact]
    public async Task A_results_page_keeps_the_model_of_its_view()
    {
        using var owner = _host.As("owner");
        var page = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/results-pages",
            new
            {
                name = "First touch",
                address = "rows=source&credit=first",
                withMoney = true,
            }
        );
        using var anybody = _host.Anonymous();
        string path = $"/api/v1/results/{page.Text("url").Split('/')[^1]}/arrivals?measures=conversions,revenue";
        var rows = (await anybody.DoAsync(HttpMethod.Get, path))["rows"]!.AsArray();
        Assert.Equal("10.00", rows.Single(r => r!["keys"]![0]!.GetValue<string>() == "lettershop")!["figures"]!["revenue"].Text("amount"));
    }

    [Theory]
    [InlineData("credit=middle")]
    [InlineData("credit=ends:90-90")]
    [InlineData("credit=first&creditBeside=no")]
    [InlineData("creditBeside=first")]
    [InlineData("credit=first&creditDays=91")]
    public async Task What_is_no_model_is_refused_with_the_way_out(string asked)
    {
        using var client = _host.As("viewer");
        var refusal = (await client.CallAsync(HttpMethod.Get, $"/api/v1/arrivals?{asked}")).Json.Refusal();
        Assert.Equal("credit-refused", refusal.Rule);
    }

    [Fact]
    public async Task The_paths_are_told_visit_by_visit()
    {
        var paths = await _host.GetJsonAsync("/api/v1/arrivals/paths?by=source");
        Assert.Equal(
            ["lettershop", "wallside", "direct"],
            paths["paths"]!.AsArray().Single()!["steps"]!.AsArray().Select(s => s!.GetValue<string>())
        );
        Assert.Equal((1, 1), (paths.Whole("found"), paths.Whole("conversions")));
        paths = await _host.GetJsonAsync("/api/v1/arrivals/paths?by=medium&creditDays=7&where=source:is:direct");
        Assert.Equal("""["qr",null]""", paths["paths"]!.AsArray().Single()!["steps"]!.ToJsonString());
        paths = await _host.GetJsonAsync("/api/v1/arrivals/paths?where=source:is:wallside");
        Assert.Equal(0, paths.Whole("found")); // nobody converted in a visit from there
        using var client = _host.As("viewer");
        foreach (string bad in (string[])["by=country", "by=source,medium", "by=site", "page=0", "creditDays=0"])
        {
            Assert.NotEmpty((await client.CallAsync(HttpMethod.Get, $"/api/v1/arrivals/paths?{bad}")).Json.Refusal().Rule);
        }
    }

    /// <summary>An earlier visit that comes late is the first one of all that were there.</summary>
    [Fact]
    public async Task The_first_source_follows_what_comes_late()
    {
        await buyer.KeepAsync(
            buyer.View(60, "?utm_source=lettershop&utm_medium=email", 8),
            buyer.View(55, "?utm_source=wallside&utm_medium=print", 8),
            buyer.View(50, "", 8)
        );
        await buyer.SettleAsync(packed: true);
        Assert.Equal("lettershop 3", await FirstAsync());
        await buyer.KeepAsync(buyer.View(70, "?utm_source=gatepost&utm_medium=print", 8));
        Assert.Equal("gatepost 4", await FirstAsync());
        await buyer.SettleAsync(packed: true);
        Assert.Equal("gatepost 4", await FirstAsync());
        Assert.Equal("direct 1", await RowsAsync("rows=source&where=first.source:is:gatepost&where=day:is:" + Day(50)));

        // A rebuild finds the same.
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await buyer.SettleAsync(packed: false);
        Assert.Equal("gatepost 4", await FirstAsync());

        // Single visits are filtered by it as well.
        var visits = await _host.GetJsonAsync($"/api/v1/visits?from={Day(90)}&where=first.source:is:gatepost");
        Assert.Equal(4, visits["visits"]!.AsArray().Count);
    }

    private Task<string> FirstAsync() => RowsAsync("rows=first.source");

    private async Task<string> RowsAsync(string asked) =>
        string.Join(
            ", ",
            (await _host.GetJsonAsync($"/api/v1/arrivals?from={Day(90)}&to={Day(40)}&{asked}"))["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {r["figures"]!["visits"]}")
        );

    private Task<JsonNode> ReportAsync(string asked) => _host.GetJsonAsync($"/api/v1/arrivals?from={Day(30)}&{asked}");

    private static string Day(int ago) => DateTimeOffset.UtcNow.AddDays(-ago).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);
}
