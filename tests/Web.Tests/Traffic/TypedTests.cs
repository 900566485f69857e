using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>What people type behind a short link is kept with the hit, and makes rows.</summary>
public sealed class TypedTests : IAsyncLifetime
{
    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync();

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task What_is_typed_behind_a_short_link_makes_rows_of_its_visits()
    {
        var link = await _host.SaveLinkAsync();
        string path = new Uri(link.Text("codeShortUrl")).AbsolutePath;
        string url = await _host.ScalarAsync<string>("select url from links where id = $1", Guid.Parse(link.Text("id")));
        string long_ = new('x', 2_000);
        foreach (
            (string typed, string browser) in new[]
            {
                ("?table=7", "Fernleaf/1"),
                ("?table=7", "Fernleaf/2"),
                ("?who=rosa@marrowmere.example&table=8", "Fernleaf/3"),
                ($"?{long_}", "Fernleaf/4"),
                ("", "Fernleaf/5"),
                ("?", "Fernleaf/6"),
            }
        )
        {
            string agent = $"Mozilla/5.0 (Phone; Mobile) {browser}";
            using (await _host.ClickAsync(path + typed, agent)) { }

            using (await _host.MeasureAsync(new { k = "demo-garden", u = url }, userAgent: agent)) { }
        }

        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit where hit_id is not null") == 6);
        var report = await _host.GetJsonAsync($"/api/v1/arrivals?rows=typed&where=link:is:{link.Text("id")}");
        Assert.Equal(
            [
                "table=7 2",
                "who=(removed)&table=8 1".Replace("(removed)", "%28removed%29", StringComparison.Ordinal),
                $"{long_[..999]} 1",
                " 2",
            ],
            report["rows"]!
                .AsArray()
                .Select(r => $"{r!["keys"]![0]} {r["figures"]!["visits"]}")
                .OrderBy(r =>
                    r[..2] switch
                    {
                        "ta" => 0,
                        "wh" => 1,
                        "xx" => 2,
                        _ => 3,
                    }
                )
        );
        var narrowed = await _host.GetJsonAsync("/api/v1/arrivals?rows=source&where=typed:contains:TABLE");
        Assert.Equal(3, narrowed["total"]!.Whole("visits"));
        Assert.Equal(0, await _host.ScalarAsync<long>("select count(*) from hit where typed like '%@%'"));
    }
}
