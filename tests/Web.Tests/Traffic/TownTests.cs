using System.Net;
using System.Text.Json.Nodes;
using PreciseBeacon.CoreTests.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>With a better file of addresses, clicks are counted by town; the address itself is still kept nowhere.</summary>
public sealed class TownTests
{
    [Fact]
    public async Task Clicks_are_counted_by_town_where_a_file_knows_it()
    {
        string file = Path.GetTempFileName();
        PlaceFile.Write(
            file,
            new()
            {
                ["country_code"] = "IE",
                ["state1"] = "Leinster",
                ["city"] = "Dublin",
            }
        );
        await using (var host = await BeaconHost.StartAsync(more: $"--Beacon:CountryFile={file}"))
        {
            var link = await host.SaveLinkAsync();
            string slug = "/" + link.Text("shortUrl").Split('/')[^1];
            await Eventually.Async(async () => (await host.ClickAsync(slug)).StatusCode == HttpStatusCode.Found);
            JsonNode counts = new JsonObject();
            await Eventually.Async(async () =>
            {
                counts = (await host.GetJsonAsync($"/api/v1/links/{link.Text("id")}/counts?range=day"))["counts"]!;
                return counts.Whole("clicks") == 1;
            });
            Assert.Equal("IE", counts["countries"]![0].Text("name"));
            Assert.Equal("Dublin, Leinster, IE", Assert.Single(counts["places"]!.AsArray()).Text("name"));
            Assert.DoesNotContain(
                "127.0.0.1",
                await host.ScalarAsync<string>("select string_agg(h::text, '') from hit h"),
                StringComparison.Ordinal
            );
        }

        File.Delete(file);
    }
}
