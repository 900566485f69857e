using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Whatever an address says, its visit is counted, stands in a row, and the row narrows to it.</summary>
public sealed class HostileTagsTests : IAsyncLifetime
{
    private static readonly string[] Values =
    [
        new string('x', 3_000),
        Uri.EscapeDataString(string.Concat(Enumerable.Repeat("草木🌿", 400))),
        "%D9%85%D8%B1%D8%AD%D8%A8%D8%A7", // right to left
        "%F0%9F%8C%BF%E2%80%8D%F0%9F%8C%B8",
        "a%00b%07c",
        "%ED%A0%80half", // half a pair, which is no UTF-8
        "%ff%fe",
        "%3Cscript%3Ealert(1)%3C%2Fscript%3E",
        "'%3B+drop+table+visit%3B--",
        "is:not:contains:in",
        "a,b|c\\d%22e",
        "%2520%2525",
        "=1%2B1",
        "{}",
        "null",
    ];

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 0);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Every_value_has_its_row_and_the_row_its_visit()
    {
        var workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        var site = await _host.ScalarAsync<Guid>("select id from sites limit 1");
        var raw = new RawEvents();
        for (int i = 0; i < Values.Length; i++)
        {
            raw.PageEvents.Add(
                new RawPageEvent
                {
                    Id = Guid.CreateVersion7(),
                    WorkspaceId = workspace,
                    SiteId = site,
                    At = DateTimeOffset.Parse($"2026-06-01T{i:00}:30Z", System.Globalization.CultureInfo.InvariantCulture),
                    Kind = PageEventKind.View,
                    Url = $"http://{BeaconHost.GardenHost}/p{i}?utm_source={Values[i]}&utm_%00odd={i}&utm_medium=email",
                    Visitor = Guid.NewGuid(),
                    UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                }
            );
        }

        await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await Eventually.Async(async () =>
        {
            await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_due") == 0;
        });

        const string Day = "from=2026-06-01&to=2026-06-02";
        var report = await _host.GetJsonAsync($"/api/v1/arrivals?{Day}&rows=source,landingPage");
        Assert.Equal(Values.Length, report["total"]!.Whole("visits"));
        Assert.Equal(Values.Length, report.Whole("found"));
        foreach (var row in report["rows"]!.AsArray())
        {
            string source = Uri.EscapeDataString(row!["keys"]![0]!.GetValue<string>());
            string page = Uri.EscapeDataString(row["keys"]![1]!.GetValue<string>());
            string where = $"where=source:is:{source}&where=landingPage:is:{page}";
            Assert.Equal(1, (await _host.GetJsonAsync($"/api/v1/arrivals?{Day}&rows=medium&{where}"))["total"]!.Whole("visits"));
            Assert.Single((await _host.GetJsonAsync($"/api/v1/visits?{Day}&{where}"))["visits"]!.AsArray());
        }

        // Two conditions on a range without anything: no rows, and no figure where there is nothing to divide by.
        var nothing = await _host.GetJsonAsync(
            "/api/v1/arrivals?from=2020-01-01&to=2020-01-02&rows=source,day&compare=before&where=source:is:a&where=source:not:a"
        );
        Assert.Empty(nothing["rows"]!.AsArray());
        Assert.Equal(
            (0, null, null),
            (nothing["total"]!.Whole("visits"), nothing["total"]!["bounceRate"], nothing["total"]!["averageOrder"])
        );
        Assert.Empty(nothing["series"]!.AsArray());
    }
}
