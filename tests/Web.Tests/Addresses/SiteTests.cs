using System.Net;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Addresses;

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
}
