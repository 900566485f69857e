using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Measuring;

public sealed class SiteTests
{
    [Fact]
    public async Task The_sites_own_limit_decides_what_a_conversion_may_be_worth()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        var site = (await owner.DoAsync(HttpMethod.Get, "/api/v1/sites"))[0];
        Assert.Equal(1_000_000m, site!["largestValue"]!.GetValue<decimal>());
        Assert.Contains(BeaconHost.GardenHost, site["hosts"]!.AsArray().Select(h => h!.GetValue<string>()));
        Assert.Equal(HttpStatusCode.NoContent, await ReportAsync(600));
        string path = $"/api/v1/sites/{site.Text("id")}";
        Assert.Equal("site-limit", (await owner.CallAsync(HttpMethod.Put, path, new { largestValue = 0 })).Json.Refusal().Rule);
        using (var editor = host.As("editor"))
        {
            Assert.Equal(HttpStatusCode.Forbidden, (await editor.CallAsync(HttpMethod.Put, path, new { largestValue = 5 })).Status);
        }

        await owner.DoAsync(HttpMethod.Put, path, new { largestValue = 500 });
        await Eventually.Async(async () => await ReportAsync(600) == HttpStatusCode.BadRequest);
        Assert.Equal(HttpStatusCode.NoContent, await ReportAsync(500));

        async Task<HttpStatusCode> ReportAsync(int value) =>
            (
                await host.MeasureAsync(
                    new
                    {
                        k = DemoData.MeasuringKey,
                        u = $"http://{BeaconHost.GardenHost}/shop",
                        e = "conversion",
                        n = "order",
                        v = value,
                        c = "EUR",
                    }
                )
            ).StatusCode;
    }

    /// <summary>Nothing, unless an owner picks it; and with it the keys it is read under, so that a page need tell nobody its address.</summary>
    [Fact]
    public async Task Pages_learn_only_the_fields_an_owner_picked()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        var site = (await owner.DoAsync(HttpMethod.Get, "/api/v1/sites"))
            .AsArray()
            .Single(s => s.Text("measuringKey") == DemoData.MeasuringKey);
        string path = $"/api/v1/sites/{site.Text("id")}";
        Assert.Equal("{}", await FieldsAsync());
        Assert.Equal(
            "source-field",
            (await owner.CallAsync(HttpMethod.Put, path, new { sourceFields = new[] { "utm_source", "nothing" } })).Json.Refusal().Rule
        );
        site = await owner.DoAsync(HttpMethod.Put, path, new { sourceFields = new[] { "utm_source", "utm_source" } });
        Assert.Equal(["utm_source"], site["sourceFields"]!.AsArray().Select(f => f!.GetValue<string>()));
        Assert.Contains(" data-keep-source", site.Text("snippet"), StringComparison.Ordinal); // the garden keeps ids
        var fields = JsonNode.Parse(await FieldsAsync())!;
        Assert.Equal(["utm_source"], fields.AsObject().Select(f => f.Key));
        Assert.Equal("utm_source", fields["utm_source"]![0]!.GetValue<string>());

        // What else is changed leaves it as it is; an empty list takes it back.
        await owner.DoAsync(HttpMethod.Put, path, new { largestValue = 500 });
        Assert.NotEqual("{}", await FieldsAsync());
        await owner.DoAsync(HttpMethod.Put, path, new { sourceFields = Array.Empty<string>() });
        Assert.Equal("{}", await FieldsAsync());
        using var stranger = host.Anonymous();
        Assert.Equal(HttpStatusCode.Forbidden, (await stranger.GetAsync("/measure/fields?k=nobody")).StatusCode);

        async Task<string> FieldsAsync()
        {
            using var client = host.Anonymous();
            using var answer = await client.GetAsync($"/measure/fields?k={DemoData.MeasuringKey}");
            Assert.Equal("*", answer.Headers.GetValues("Access-Control-Allow-Origin").Single());
            Assert.False(answer.Headers.Contains("Set-Cookie"));
            return await answer.Content.ReadAsStringAsync();
        }
    }

    /// <summary>A new owner's way: add the site, put the tag in, see it measured.</summary>
    [Fact]
    public async Task A_site_is_added_and_measured_at_once()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        var site = await owner.DoAsync(
            HttpMethod.Post,
            "/api/v1/sites",
            new { hosts = new[] { "https://Shop.Fern.example/basket", "http://localhost:7000" } }
        );
        Assert.Equal("shop.fern.example", site.Text("name"));
        Assert.Equal(["localhost:7000", "shop.fern.example"], site["hosts"]!.AsArray().Select(h => h!.GetValue<string>()));
        Assert.Equal(["localhost:7000"], site["plainHosts"]!.AsArray().Select(h => h!.GetValue<string>()));
        Assert.True(site["honoursOptOut"]!.GetValue<bool>());
        Assert.Null(site["lastMeasuredAt"]);
        Assert.Contains($"/beacon.js\" data-key=\"{site.Text("measuringKey")}\"", site.Text("snippet"), StringComparison.Ordinal);

        // A page on a host that was forgotten is refused and said.
        await ReportAsync(site, "https://www.fern.example", HttpStatusCode.Forbidden);
        site = await ReadUntilAsync(s => s["foreignHost"] is not null);
        Assert.Equal("www.fern.example", site.Text("foreignHost"));
        site = await owner.DoAsync(
            HttpMethod.Put,
            $"/api/v1/sites/{site.Text("id")}",
            new { hosts = new[] { "shop.fern.example", "http://localhost:7000", "www.fern.example" } }
        );
        Assert.Null(site["foreignHost"]);
        Assert.Equal(3, site["hosts"]!.AsArray().Count);
        await ReportAsync(site, "https://www.fern.example", HttpStatusCode.NoContent);
        site = await ReadUntilAsync(s => s["lastMeasuredAt"] is not null);
        Assert.Equal("https://www.fern.example/basket", site.Text("lastMeasuredPage"));
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>(
                "select count(*) from visit v join traffic_source t on t.id = v.source_id where t.site_id = $1",
                Guid.Parse(site.Text("id"))
            ) == 1
        );

        // Another key ends the old one; a site that is stopped has none; what was measured keeps the site.
        string old = site.Text("measuringKey");
        var renewed = await owner.DoAsync(HttpMethod.Post, $"/api/v1/sites/{site.Text("id")}/key");
        Assert.NotEqual(old, renewed.Text("measuringKey"));
        await ReportAsync(site, "https://www.fern.example", HttpStatusCode.Forbidden);
        await ReportAsync(renewed, "https://www.fern.example", HttpStatusCode.NoContent);
        Assert.Equal("site-measured", (await owner.CallAsync(HttpMethod.Delete, $"/api/v1/sites/{site.Text("id")}")).Json.Refusal().Rule);
        await owner.DoAsync(HttpMethod.Put, $"/api/v1/sites/{site.Text("id")}", new { isMeasured = false });
        await ReportAsync(renewed, "https://www.fern.example", HttpStatusCode.Forbidden);
        await owner.DoAsync(HttpMethod.Put, $"/api/v1/sites/{site.Text("id")}", new { isMeasured = true });
        await ReportAsync(renewed, "https://www.fern.example", HttpStatusCode.NoContent);

        async Task ReportAsync(JsonNode of, string origin, HttpStatusCode status)
        {
            using var answer = await host.MeasureAsync(new { k = of.Text("measuringKey"), u = $"{origin}/basket?step=1#top" }, origin);
            Assert.Equal(status, answer.StatusCode);
        }

        async Task<JsonNode> ReadUntilAsync(Func<JsonNode, bool> holds)
        {
            JsonNode? found = null;
            await Eventually.Async(async () =>
                (found = (await host.GetJsonAsync("/api/v1/sites")).AsArray().First(s => s.Text("id") == site.Text("id"))) is { } now
                && holds(now)
            );
            return found!;
        }
    }

    [Fact]
    public async Task What_a_site_can_t_be_says_why()
    {
        await using var host = await BeaconHost.StartAsync();
        using var owner = host.As("owner");
        string other = (
            await owner.DoAsync(HttpMethod.Post, "/api/v1/sites", new { hosts = new[] { "fern.example" }, name = "Fern" })
        ).Text("id");
        foreach (
            var (wrong, rule) in new (object, string)[]
            {
                (new { hosts = Array.Empty<string>() }, "site-hosts"),
                (new { hosts = new[] { "  " } }, "site-hosts"),
                (new { hosts = new[] { "moss.example", "not a host" } }, "site-hosts"),
                (new { hosts = Enumerable.Range(0, 51).Select(i => $"h{i}.example") }, "site-hosts"),
                (new { hosts = new[] { "FERN.example" } }, "host-of-site"),
                (new { hosts = new[] { BeaconHost.GardenHost } }, "host-of-site"),
                (new { hosts = new[] { host.ShortHost } }, "host-short"),
                (new { hosts = new[] { $"127.0.0.1:{host.Port}" } }, "host-own"),
                (new { hosts = new[] { "moss.example" }, name = "Fern" }, "site-name-taken"),
                (new { hosts = new[] { "moss.example" }, name = new string('x', 101) }, "site-name"),
                (new { hosts = new[] { "moss.example" }, style = "sealed" }, "site-style"),
                (new { hosts = new[] { "moss.example" }, largestValue = 1.234m }, "site-limit"),
            }
        )
        {
            Assert.Equal(rule, (await owner.CallAsync(HttpMethod.Post, "/api/v1/sites", wrong)).Json.Refusal().Rule);
        }

        Assert.Equal(
            "site-name",
            (await owner.CallAsync(HttpMethod.Put, $"/api/v1/sites/{other}", new { name = " " })).Json.Refusal().Rule
        );
        using (var editor = host.As("editor"))
        {
            Assert.Equal(
                HttpStatusCode.Forbidden,
                (await editor.CallAsync(HttpMethod.Post, "/api/v1/sites", new { hosts = new[] { "m.example" } })).Status
            );
        }

        await owner.DoAsync(HttpMethod.Delete, $"/api/v1/sites/{other}");
        Assert.DoesNotContain((await host.GetJsonAsync("/api/v1/sites")).AsArray(), s => s.Text("id") == other);
    }

    /// <summary>The browser says it with every request; what such a visitor does leaves nothing behind.</summary>
    [Theory]
    [InlineData("Sec-GPC", "1", 0)]
    [InlineData("DNT", "1", 0)]
    [InlineData("DNT", "0", 1)]
    public async Task Who_asks_not_to_be_followed_is_not_measured(string header, string value, long kept)
    {
        await using var host = await BeaconHost.StartAsync(visits: 0);
        using var owner = host.As("owner");
        var site = (await owner.DoAsync(HttpMethod.Get, "/api/v1/sites"))
            .AsArray()
            .First(s => s.Text("measuringKey") == DemoData.MeasuringKey);
        await owner.DoAsync(HttpMethod.Put, $"/api/v1/sites/{site.Text("id")}", new { honoursOptOut = true });
        using var client = host.Anonymous();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/measure")
        {
            Content = new StringContent($$"""{"k":"{{DemoData.MeasuringKey}}","u":"http://{{BeaconHost.GardenHost}}/visit"}"""),
        };
        request.Headers.Add("Origin", $"http://{BeaconHost.GardenHost}");
        request.Headers.Add(header, value);
        request.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1");
        Assert.Equal(HttpStatusCode.NoContent, (await client.SendAsync(request)).StatusCode);

        // Somebody else comes after; when that is there, the first would be too.
        using (await host.MeasureAsync(new { k = DemoData.MeasuringKey, u = $"http://{BeaconHost.GardenHost}/shop" })) { }

        await Eventually.Async(async () => await host.ScalarAsync<long>("select count(*) from page_event where url like '%/shop'") == 1);
        Assert.Equal(kept, await host.ScalarAsync<long>("select count(*) from page_event where url like '%/visit'"));
    }
}
