using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>Values that are filled in or forged cost little, and take nothing from those that came before.</summary>
public sealed class ManyValuesTests : IAsyncLifetime
{
    private BeaconHost _host = null!;
    private Guid _workspace;
    private Guid _site;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 0);
        _workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        _site = await _host.ScalarAsync<Guid>("select id from sites limit 1");
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Beyond_a_thousand_new_values_a_day_they_stand_together()
    {
        const int Values = 1_700;
        await KeepAsync(Enumerable.Range(0, Values).Select(i => View("2026-06-01", i, $"/?utm_source=the_trellis&utm_content=v{i}")));
        await KeepAsync([View("2026-06-02", 1, "/?utm_source=the_trellis&utm_content=tomorrow")]);
        await KeepAsync([View("2026-06-01", 3, "/?utm_source=the_trellis&utm_content=v3")]);
        await ExpectAsync();

        // The same visits from scratch, whatever order they are worked out in.
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await WorkOutAsync();
        await ExpectAsync();

        async Task ExpectAsync()
        {
            var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-02&rows=content&size=10");
            Assert.Equal(Values + 2, report["total"]!.Whole("visits"));
            Assert.Equal(1_000 + 1 + 1, report.Whole("found"));
            var first = report["rows"]![0]!;
            Assert.Equal((ValueLimits.Many, Values - 1_000), (first["keys"]![0]!.GetValue<string>(), first["figures"]!.Whole("visits")));
            Assert.Equal(
                "tag utm_content",
                string.Join(',', report["manyValues"]!.AsArray().Select(m => $"{m!.Text("of")} {m.Text("key")}"))
            );
            Assert.Equal(1_002, await _host.ScalarAsync<long>("select count(*) from traffic_source"));

            // A visit keeps what it brought.
            var many = await _host.GetJsonAsync(
                $"/api/v1/visits?from=2026-06-01&to=2026-06-02&size=5&where={Uri.EscapeDataString($"content:is:{ValueLimits.Many}")}"
            );
            Assert.All(many["visits"]!.AsArray(), v => Assert.StartsWith("v", v!.Text("content"), StringComparison.Ordinal));
        }
    }

    [Fact]
    public async Task Forged_keys_referrers_and_pages_have_their_limits_too()
    {
        await KeepAsync(
            Enumerable
                .Range(0, 1_200)
                .Select(i => View("2026-06-01", i, $"/p{i}?utm_source=a&utm_forged{i}={i}") with { Referrer = $"https://r{i}.example/" })
        );
        var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-01&rows=referrer&size=1");
        Assert.Equal(1_001, report.Whole("found"));
        Assert.Equal(50, await _host.ScalarAsync<long>("select count(distinct k) from traffic_source, jsonb_object_keys(tags) k"));
        Assert.Equal(["keys", "referrers"], report["manyValues"]!.AsArray().Select(m => m!.Text("of")).Order(StringComparer.Ordinal));
        Assert.Equal(1_200, (await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-01&rows=landingPage")).Whole("found"));
        Assert.Equal(
            1_200,
            (await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-01&rows=source"))["rows"]![0]!["figures"]!.Whole(
                "visits"
            )
        );
    }

    private RawPageEvent View(string day, int number, string path) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            WorkspaceId = _workspace,
            SiteId = _site,
            At = DateTimeOffset.Parse(day + "T08:00Z", System.Globalization.CultureInfo.InvariantCulture).AddSeconds(number),
            Kind = PageEventKind.View,
            Url = $"http://{BeaconHost.GardenHost}{path}",
            Visitor = Guid.NewGuid(),
            UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
        };

    private async Task KeepAsync(IEnumerable<RawPageEvent> events)
    {
        foreach (var some in events.Chunk(500))
        {
            var raw = new RawEvents();
            raw.PageEvents.AddRange(some);
            await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        }

        await WorkOutAsync();
    }

    private async Task WorkOutAsync()
    {
        var visits = new VisitAggregator(_host.Database);
        await Eventually.Async(async () =>
        {
            await visits.WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_due") == 0;
        });
    }
}
