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
                ["latitude"] = 53.3498,
                ["longitude"] = -6.2603,
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

            // Rows by town say where it lies, as soon as somebody came from there.
            using (await host.MeasureAsync(new { k = "demo-garden", u = $"http://{BeaconHost.GardenHost}/visit" })) { }

            foreach (
                string asked in (string[])["rows=region,town&where=country:is:IE", "rows=town&where=country:is:IE&where=region:is:Leinster"]
            )
            {
                await Eventually.Async(async () =>
                    (await host.GetJsonAsync($"/api/v1/arrivals?{asked}&measures=visits"))["rows"]!
                        .AsArray()
                        .Any(r => r!["point"]?.ToJsonString() == """{"latitude":53.35,"longitude":-6.26}""")
                );
            }

            var several = await host.GetJsonAsync("/api/v1/arrivals?rows=town&measures=visits");
            Assert.All(several["rows"]!.AsArray(), r => Assert.Null(r!["point"]));
        }

        File.Delete(file);
    }
}
