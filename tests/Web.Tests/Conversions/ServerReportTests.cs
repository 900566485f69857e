using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Conversions;

/// <summary>Conversions and refunds that a shop's server reports: each once, where it belongs, before what a page says.</summary>
public sealed class ServerReportTests : IAsyncLifetime
{
    private const string Path = "/api/v1/conversions";
    private const string Site = "Garden website";

    private BeaconHost _host = null!;
    private HttpClient _shop = null!;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 0);
        _shop = _host.As("measuring");
    }

    public async Task DisposeAsync()
    {
        _shop.Dispose();
        await _host.DisposeAsync();
    }

    /// <summary>Whichever comes first: the order counts once, in the visit whose page reported it, with what the server says.</summary>
    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task What_the_server_says_goes_before_what_a_page_forged(bool serverFirst)
    {
        if (!serverFirst)
        {
            await BuyAsync("A1", 9_999, "wendfar");
            await Eventually.Async(async () => await RevenueAsync() == "9999.00");
        }

        await SendAsync(Order("e1", "A1", "18.50"));
        if (serverFirst)
        {
            await Eventually.Async(async () => await RevenueAsync() == "18.50");
            await BuyAsync("A1", 9_999, "wendfar");
        }

        await Eventually.Async(async () => await RowAsync("source", "wendfar") is { } row && row["revenue"].Text("amount") == "18.50");
        await Eventually.Async(async () => (await TotalAsync()).Whole("visits") == 1);
        var total = await TotalAsync();
        Assert.Equal((1, 1, 1), (total.Whole("conversions"), total.Whole("verifiedConversions"), total.Whole("convertingVisits")));

        // Working all of it out again gives the same.
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit_due") == 0);
        Assert.True(JsonNode.DeepEquals(total, await TotalAsync()));
    }

    /// <summary>Days later, and without a page of the shop's being measured: the visit is the visitor's last one, which grows no longer by it.</summary>
    [Fact]
    public async Task A_visitor_s_order_belongs_to_the_visit_before_it()
    {
        using (await _host.MeasureAsync(Page("/visit?utm_source=skeinly", "visitor-one"))) { }

        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit") == 1);
        await SendAsync(With(Order("e1", "A1", "20"), ("visitorId", "visitor-one")));
        await Eventually.Async(async () => await RowAsync("source", "skeinly") is { } row && row.Whole("conversions") == 1);
        var total = await TotalAsync();
        Assert.Equal((1, 1, 0), (total.Whole("visits"), total.Whole("pageViews"), total.Whole("bounces")));
        Assert.Equal(0, (await _host.ScalarAsync<int>("select seconds from visit")));

        // Of somebody nobody has seen there is a visit that only the server saw, which says of itself where it came from: from nowhere.
        await SendAsync(With(Order("e2", "A2", "30"), ("visitorId", "visitor-two")));
        await Eventually.Async(async () => await RevenueAsync() == "50.00");
        Assert.Equal((2, 1), ((await TotalAsync()).Whole("visits"), (await TotalAsync()).Whole("pageViews")));

        // What happened stands with the visit, at its own time.
        var visits = (await _host.GetJsonAsync("/api/v1/visits"))["visits"]!.AsArray();
        var steps = new List<JsonNode>();
        foreach (var visit in visits)
        {
            steps.AddRange((await _host.GetJsonAsync($"/api/v1/visits/{visit.Text("id")}"))["steps"]!.AsArray().Select(s => s!));
        }

        Assert.Equal(["A1", "A2"], steps.Where(s => s.Text("kind") == "conversion").Select(s => s.Text("orderId")).Order());
    }

    /// <summary>The purchase is on a partner's page, of which nothing is measured (N61): its server names the click.</summary>
    [Fact]
    public async Task A_click_s_id_finds_the_link_behind_an_order()
    {
        var link = await _host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/lantern-nights?ref=@{{click.id}}");
        string campaign = await _host.ScalarAsync<string>("select value from campaigns where name = 'Lantern Nights'");
        string slug = new Uri(link.Text("shortUrl")).AbsolutePath;
        Assert.EndsWith("ref=", Parameter(await _host.ClickAsync(slug)), StringComparison.Ordinal); // off unless switched on
        await SwitchOnAsync(link.Text("id"));
        string one = "",
            other = "";
        await Eventually.Async(async () => (one = Parameter(await _host.ClickAsync(slug))["ref=".Length..]).Length == 32);
        Uri led;
        using (var answer = await _host.ClickAsync(slug, "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1"))
        {
            led = answer.Headers.Location!;
            other = Parameter(answer)["ref=".Length..];
        }
        Assert.NotEqual(one, other);
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from hit where click_id is not null") >= 2);

        // It is never the hit's own id.
        Assert.Equal(0, await _host.ScalarAsync<long>("select count(*) from hit where click_id = id"));
        await SendAsync(With(Order("e1", "A1", "40"), ("clickId", one)));
        await Eventually.Async(async () => await RowAsync("campaign", campaign) is { } row && row.Whole("conversions") == 1);
        Assert.Equal(
            (1L, 1L),
            (
                await _host.ScalarAsync<long>("select count(*) from visit where hit_id is not null and page_views = 0"),
                await _host.ScalarAsync<long>("select count(*) from conversion where link_id is not null")
            )
        );

        // With a page measured behind the click, it is that visit's, though the site knows the visitor by another id.
        using (await _host.MeasureAsync(Page(led.PathAndQuery, "visitor-one"), userAgent: "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1"))
        { }

        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select count(*) from visit where page_views = 1 and hit_id is not null") == 1
        );
        await SendAsync(With(Order("e2", "A2", "50"), ("clickId", other)));
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>("select count(*) from visit where page_views = 1 and conversions = 1") == 1
        );
        Assert.Equal(2, await _host.ScalarAsync<long>("select count(*) from visit"));

        // Too late, and of nobody.
        await using (
            var old = _host.Database.CreateCommand(
                "select make_month((now() - interval '91 days')::date); update hit set at = at - interval '91 days'"
            )
        )
        {
            await old.ExecuteNonQueryAsync();
        }

        foreach (string id in (string[])[one, "no-such-click", ""])
        {
            var answer = await SendAsync(With(Order($"late{id}", $"late{id}", "1"), ("clickId", id)));
            Assert.Equal(("kept", "click-unknown"), (answer.Text("outcome"), answer.Text("rule")));
        }
    }

    [Fact]
    public async Task The_same_again_changes_nothing()
    {
        await SendAsync(Order("e1", "A1", "10"));
        Assert.Equal("event-known", (await SendAsync(Order("e1", "A1", "11"))).Text("rule"));
        Assert.Equal("event-known", (await SendAsync(Order("e1", "A9", "11"))).Text("rule"));
        Assert.Equal("order-known", (await SendAsync(Order("e2", "A1", "12"))).Text("rule"));

        // A list is answered one by one; what can't be kept holds up nothing else.
        var answer = await _shop.DoAsync(
            HttpMethod.Post,
            Path,
            new JsonArray(
                Order("e3", "A3", "1"),
                Order("e3", "A4", "2"),
                Order("e4", "A3", "3"),
                null,
                Order("e5", "A5", "x"),
                Order("e6", "A6", "4")
            )
        );
        Assert.Equal(
            ["e3 kept", "e3 known", "e4 known", " refused", " refused", "e6 kept"],
            answer["events"]!.AsArray().Select(e => $"{e!["eventId"]} {e.Text("outcome")}")
        );
        await Eventually.Async(async () => await RevenueAsync() == "15.00");
    }

    [Fact]
    public async Task Fifty_at_once_keep_one_event_and_never_refund_more_than_the_order()
    {
        await Task.WhenAll(Enumerable.Range(0, 50).Select(_ => _shop.DoAsync(HttpMethod.Post, Path, Order("e1", "A1", "10"))));
        var outcomes = await Task.WhenAll(
            Enumerable.Range(0, 50).Select(async i => (await _shop.CallAsync(HttpMethod.Post, Path, Refund($"r{i}", "A1", "3"))).Status)
        );
        Assert.Equal(3, outcomes.Count(s => s == HttpStatusCode.OK));
        await Eventually.Async(async () => (await TotalAsync())["refunds"].Text("amount") == "9.00");
        Assert.Equal(1, (await TotalAsync()).Whole("conversions"));
    }

    /// <summary>Partly, repeatedly, too much, in another currency, before the order: booked on its own day, in its order's row.</summary>
    [Fact]
    public async Task A_refund_stands_on_its_own_day_in_its_orders_row()
    {
        Assert.Equal("waiting", (await SendAsync(Refund("r0", "A1", "5"))).Text("outcome"));
        Assert.Equal("0.00", (await TotalAsync())["refunds"].Text("amount"));
        var waiting = await _host.GetJsonAsync("/api/v1/conversion-kinds");
        Assert.Equal(
            (1, "A1", "5.00"),
            (waiting.Whole("waitingRefunds"), waiting["refunds"]![0].Text("orderId"), waiting["refunds"]![0]!["value"].Text("amount"))
        );
        await BuyAsync("A1", 50, "wendfar");
        await Eventually.Async(async () => (await TotalAsync())["refunds"].Text("amount") == "5.00");
        Assert.Equal(0, (await _host.GetJsonAsync("/api/v1/conversion-kinds")).Whole("waitingRefunds"));
        await SendAsync(Order("e1", "A1", "40"));
        string yesterday = DateTimeOffset
            .UtcNow.AddDays(-1)
            .ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", System.Globalization.CultureInfo.InvariantCulture);
        await SendAsync(With(Refund("r1", "A1", "20"), ("at", yesterday)));
        Assert.Equal("refund-larger", await RefusedAsync(Refund("r2", "A1", "15.01")));
        Assert.Equal(
            "refund-currency",
            await RefusedAsync(
                new JsonObject
                {
                    ["eventId"] = "r3",
                    ["site"] = Site,
                    ["refundOf"] = "A1",
                    ["value"] = new JsonObject { ["amount"] = "1", ["currency"] = "USD" },
                }
            )
        );

        // What was refused may be sent again, put right.
        await SendAsync(Refund("r2", "A1", "15"));
        await Eventually.Async(async () =>
            await RowAsync("source", "wendfar") is { } row
            && row["refunds"].Text("amount") == "40.00"
            && row["revenue"].Text("amount") == "40.00"
        );
        var days = (await _host.GetJsonAsync("/api/v1/arrivals?rows=day,source"))["rows"]!.AsArray();
        Assert.Equal(
            [("wendfar", "0.00", "20.00"), ("wendfar", "40.00", "20.00")],
            days.Select(r =>
                    (r!["keys"]![1]!.GetValue<string>(), r["figures"]!["revenue"].Text("amount"), r["figures"]!["refunds"].Text("amount"))
                )
                .OrderBy(r => r.Item2, StringComparer.Ordinal)
        );
        var others = (await _host.GetJsonAsync("/api/v1/arrivals?rows=source&where=source:not:wendfar"))["total"]!;
        Assert.Equal("0.00", others["refunds"].Text("amount"));

        // A second way: what is refunded is what was said, order by order.
        Assert.Equal(40m, await _host.ScalarAsync<decimal>("select sum(value) from refund where order_id = 'A1'"));
        using var client = _host.As("viewer");
        string file = await client.GetStringAsync("/api/v1/arrivals.csv?rows=source");
        Assert.Contains("Refunds", file, StringComparison.Ordinal);
    }

    /// <summary>Once the visit is no longer kept one by one, its refunds still stand where it stood.</summary>
    [Fact]
    public async Task A_refund_outlives_the_single_visits()
    {
        await BuyAsync("A1", 50, "wendfar");
        await SendAsync(Refund("r1", "A1", "20"));
        await Eventually.Async(async () => (await TotalAsync())["refunds"].Text("amount") == "20.00");
        await using (var drop = _host.Database.CreateCommand("update workspaces set raw_from = current_date + 40"))
        {
            await drop.ExecuteNonQueryAsync();
        }

        await using (var connection = await _host.Database.OpenConnectionAsync())
        {
            await PreciseBeacon.Data.Reports.RefundReader.KeepOrdersAsync(connection, CancellationToken.None);
        }

        await using (var drop = _host.Database.CreateCommand("delete from conversion"))
        {
            await drop.ExecuteNonQueryAsync();
        }

        Assert.Equal("20.00", (await RowAsync("source", "wendfar"))!["refunds"].Text("amount"));
        Assert.Equal("refund-larger", await RefusedAsync(Refund("r2", "A1", "31")));
    }

    [Fact]
    public async Task What_can_t_be_kept_says_why()
    {
        foreach (
            var (wrong, rule) in new (JsonObject, string)[]
            {
                (Order("", "A1", "1"), "event-id"),
                (Order(new string('x', 101), "A1", "1"), "event-id"),
                (With(Order("e", "A1", "1"), ("site", "Nobody’s")), "site-unknown"),
                (With(Order("e", "A1", "1"), ("site", null)), "site-unknown"), // there are two
                (Order("e", "A1", "-1"), "value-range"),
                (Order("e", "A1", "1000001"), "value-range"),
                (With(Order("e", "A1", "1"), ("value", new JsonObject { ["amount"] = "1" })), "value-refused"),
                (With(Order("e", "A1", "1"), ("value", new JsonObject { ["amount"] = "1", ["currency"] = "XXY" })), "value-refused"),
                (With(Order("e", "A1", "1"), ("at", "yesterday")), "at-refused"),
                (With(Order("e", "A1", "1"), ("at", "2099-01-01T00:00:00Z")), "at-ahead"),
                (With(Order("e", "A1", "1"), ("at", "2001-01-01T00:00:00Z")), "at-over"),
                (With(Order("e", "A1", "1"), ("orderId", null)), "kind-missing"),
                (With(Order("e", "A1", "1"), ("orderId", null), ("kind", "ticket")), "whose-missing"),
                (With(Order("e", "A1", "1"), ("orderId", new string('x', 101))), "order-id"),
                (With(Order("e", "A1", "1"), ("visitorId", "short")), "visitor-id"),
                (With(Order("e", "A1", "1"), ("visitorId", "long-enough"), ("site", "Orchard website")), "visitor-ids-off"),
                (With(Order("e", "A1", "1"), ("items", new JsonArray((JsonNode?)null))), "items-refused"),
                (Refund("e", "", "1"), "order-id"),
                (Refund("e", "A1", "0"), "value-refused"),
            }
        )
        {
            Assert.Equal(rule, await RefusedAsync(wrong));
        }

        foreach (string body in (string[])["[]", "7", "\"x\"", "null", "{\"eventId\":7}", "{\"value\":{\"amount\":\"x\"}}", "{"])
        {
            using var response = await _shop.PostAsync(Path, new StringContent(body, System.Text.Encoding.UTF8, "application/json"));
            Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
        }

        Assert.Equal(0, await _host.ScalarAsync<long>("select count(*) from server_report"));
        using var viewer = _host.As("viewer");
        Assert.Equal(HttpStatusCode.Forbidden, (await viewer.CallAsync(HttpMethod.Post, Path, Order("e", "A1", "1"))).Status);
        Assert.Equal(HttpStatusCode.Forbidden, (await _shop.GetAsync("/api/v1/arrivals")).StatusCode);
    }

    [Fact]
    public async Task A_thousand_at_once_are_kept_in_one_go()
    {
        var list = new JsonArray([.. Enumerable.Range(0, 1_000).Select(i => (JsonNode)Order($"e{i}", $"A{i}", "1"))]);
        var answer = await _shop.DoAsync(HttpMethod.Post, Path, list);
        Assert.All(answer["events"]!.AsArray(), e => Assert.Equal("kept", e.Text("outcome")));
        await Eventually.Async(async () => await RevenueAsync() == "1000.00");
        list.Add((JsonNode)Order("e1000", "A1000", "1"));
        using var response = await _shop.PostAsync(
            Path,
            new StringContent(list.ToJsonString(), System.Text.Encoding.UTF8, "application/json")
        );
        Assert.Equal(HttpStatusCode.BadRequest, response.StatusCode);
    }

    private static JsonObject Order(string eventId, string order, string amount) =>
        new()
        {
            ["eventId"] = eventId,
            ["site"] = Site,
            ["orderId"] = order,
            ["value"] = new JsonObject { ["amount"] = amount, ["currency"] = "EUR" },
        };

    private static JsonObject Refund(string eventId, string order, string amount) =>
        new()
        {
            ["eventId"] = eventId,
            ["site"] = Site,
            ["refundOf"] = order,
            ["value"] = new JsonObject { ["amount"] = amount, ["currency"] = "EUR" },
        };

    private static JsonObject With(JsonObject report, params (string Name, JsonNode? Value)[] more)
    {
        foreach (var (name, value) in more)
        {
            report[name] = value;
        }

        return report;
    }

    private static object Page(string path, string? visitor = null) =>
        new
        {
            k = DemoData.MeasuringKey,
            u = $"http://{BeaconHost.GardenHost}{path}",
            d = visitor,
        };

    /// <summary>A purchase as a page reports it, after a visit that came from somewhere.</summary>
    private async Task BuyAsync(string order, decimal value, string source)
    {
        using (await _host.MeasureAsync(Page($"/visit?utm_source={source}&utm_medium=cpc", "visitor-one"))) { }

        using (
            await _host.MeasureAsync(
                new
                {
                    k = DemoData.MeasuringKey,
                    u = $"http://{BeaconHost.GardenHost}/thanks",
                    r = $"http://{BeaconHost.GardenHost}/visit",
                    d = "visitor-one",
                    e = "conversion",
                    n = "ticket",
                    o = order,
                    v = value,
                    c = "EUR",
                }
            )
        ) { }
    }

    /// <summary>Sends one report that is taken, and gives what became of it.</summary>
    private async Task<JsonNode> SendAsync(JsonObject report) =>
        (await _shop.DoAsync(HttpMethod.Post, Path, report))["events"]!.AsArray().Single()!;

    private async Task<string> RefusedAsync(JsonObject report) =>
        (await _shop.CallAsync(HttpMethod.Post, Path, report)).Json.Refusal().Rule;

    private async Task SwitchOnAsync(string link)
    {
        using var editor = _host.As("editor");
        await editor.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{link}/route",
            new
            {
                leadsTo = $"http://{BeaconHost.GardenHost}/lantern-nights?ref=@{{click.id}}",
                paused = false,
                revision = 0,
                clickIds = true,
            }
        );
    }

    /// <summary>The first parameter of the address a click leads to.</summary>
    private static string Parameter(HttpResponseMessage answer)
    {
        using (answer)
        {
            return answer.Headers.Location!.Query[1..].Split('&').First(p => p.StartsWith("ref=", StringComparison.Ordinal));
        }
    }

    private async Task<JsonNode> TotalAsync() => (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!;

    private async Task<string> RevenueAsync() => (await TotalAsync())["revenue"].Text("amount");

    /// <summary>The figures of a row; null where there is none.</summary>
    private async Task<JsonNode?> RowAsync(string field, string key) =>
        (await _host.GetJsonAsync($"/api/v1/arrivals?rows={field}"))["rows"]!
            .AsArray()
            .FirstOrDefault(r => r!["keys"]![0]?.GetValue<string>() == key)
            ?["figures"];
}
