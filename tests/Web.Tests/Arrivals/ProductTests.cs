using System.Globalization;
using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Products: what was bought, and what of it in visits of a campaign that advertises it.</summary>
public sealed class ProductTests : IAsyncLifetime
{
    private const string Path = "/api/v1/arrivals/products";

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 0);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    /// <summary>Two of the advertised lantern, by id; one of a category, in other letters; the rest is not advertised, nor is what others brought.</summary>
    [Fact]
    public async Task What_a_campaign_advertises_is_told_from_everything_else()
    {
        await AdvertiseAsync("L-1", "BULBS", " ", "bulbs");
        var lantern = new
        {
            id = "L-1",
            name = "Lantern",
            category = "light",
            count = 2,
            value = 4.5m,
        };
        var bulbs = new
        {
            name = "Tulip",
            category = "Bulbs",
            value = 3,
        }; // one where no count is said
        string campaign = (await CampaignAsync()).Text("value");
        await BuyAsync(
            "A1",
            campaign,
            "EUR",
            lantern,
            bulbs,
            new
            {
                name = "Honey",
                count = 3,
                value = 2,
            }
        );
        await BuyAsync("A2", "elsewhere", "EUR", lantern);
        await BuyAsync("A3", campaign, "USD", lantern); // pieces are pieces, money of another currency is none of ours
        await Eventually.Async(async () => (await ReadAsync(""))["total"].Whole("orders") == 3);
        var read = await ReadAsync("");
        Assert.Equal(
            ["Lantern L-1 light 3 6 18.00 4 9.00", "Honey   1 3 6.00 0 0.00", "Tulip  Bulbs 1 1 3.00 1 3.00"],
            read["products"]!.AsArray().Select(SaysOf)
        );
        Assert.Equal("   3 10 27.00 5 12.00", SaysOf(read["total"]));
        Assert.Equal(3, read.Whole("found"));

        // Narrowed, searched, ordered, and a page at a time; the total is that of what was narrowed to.
        Assert.Equal(
            ["Lantern L-1 light 1 2 9.00 0 0.00"],
            (await ReadAsync("?where=campaign:is:elsewhere"))["products"]!.AsArray().Select(SaysOf)
        );
        var searched = await ReadAsync("?search=bulb");
        Assert.Equal(("Tulip", 1), (searched["products"]![0].Text("name"), searched["total"].Whole("pieces")));
        Assert.Equal(["Lantern", "Tulip", "Honey"], Names(await ReadAsync("?sort=advertised")));
        Assert.Equal(["Lantern", "Honey", "Tulip"], Names(await ReadAsync("?sort=pieces")));
        Assert.Equal(["Tulip"], Names(await ReadAsync("?sort=pieces&size=2&page=2")));
        Assert.Empty(Names(await ReadAsync("?from=2020-01-01&to=2020-01-02")));

        // A second way: the items as they came, one by one.
        Assert.Equal(
            27m,
            await _host.ScalarAsync<decimal>(
                "select sum((i->>'count')::int * (i->>'value')::numeric) from page_event, jsonb_array_elements(items) i where currency = 'EUR'"
            )
        );

        // What it advertises today sorts the past anew.
        await AdvertiseAsync("honey");
        Assert.Equal("   3 10 27.00 3 6.00", SaysOf((await ReadAsync(""))["total"]));
        await AdvertiseAsync();
        Assert.Equal("   3 10 27.00 0 0.00", SaysOf((await ReadAsync(""))["total"]));
    }

    [Fact]
    public async Task A_campaign_advertises_so_many_products_and_no_more()
    {
        using var owner = _host.As("owner");
        var (status, json) = await owner.CallAsync(
            HttpMethod.Put,
            $"/api/v1/campaigns/{(await CampaignAsync()).Text("id")}",
            await ChangeAsync([.. Enumerable.Range(0, 201).Select(i => $"P{i}")])
        );
        Assert.Equal(HttpStatusCode.BadRequest, status);
        Assert.Contains("200 products", json!.Text("detail"), StringComparison.Ordinal);
    }

    private static IEnumerable<string> Names(JsonNode read) => read["products"]!.AsArray().Select(p => p.Text("name"));

    private static string SaysOf(JsonNode? product) =>
        string.Join(
            ' ',
            (string?)product!["name"],
            (string?)product["id"],
            (string?)product["category"],
            product.Whole("orders").ToString(CultureInfo.InvariantCulture),
            product.Whole("pieces").ToString(CultureInfo.InvariantCulture),
            product["value"].Text("amount"),
            product.Whole("advertisedPieces").ToString(CultureInfo.InvariantCulture),
            product["advertisedValue"].Text("amount")
        );

    private Task<JsonNode> ReadAsync(string query) => _host.GetJsonAsync(Path + query, "viewer");

    private async Task<JsonNode> CampaignAsync() =>
        (await _host.GetJsonAsync("/api/v1/campaigns")).AsArray().Single(c => c.Text("name") == "Lantern Nights")!;

    private async Task<object> ChangeAsync(string[] advertises)
    {
        var campaign = await CampaignAsync();
        return new
        {
            name = "Lantern Nights",
            value = campaign.Text("value"),
            startsOn = (string?)campaign["startsOn"],
            endsOn = (string?)campaign["endsOn"],
            revision = campaign.Whole("revision"),
            advertises,
        };
    }

    private async Task AdvertiseAsync(params string[] advertises)
    {
        using var owner = _host.As("owner");
        await owner.DoAsync(HttpMethod.Put, $"/api/v1/campaigns/{(await CampaignAsync()).Text("id")}", await ChangeAsync(advertises));
    }

    private async Task BuyAsync(string order, string campaign, string currency, params object[] items)
    {
        using (
            await _host.MeasureAsync(
                new
                {
                    k = DemoData.MeasuringKey,
                    u = $"http://{BeaconHost.GardenHost}/shop?utm_source=skeinly&utm_campaign={campaign}",
                    d = $"visitor-{order}",
                    e = "conversion",
                    n = "order",
                    o = order,
                    v = 20,
                    c = currency,
                    i = items,
                }
            )
        ) { }
    }
}
