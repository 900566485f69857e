using System.Text.Json.Nodes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Demo;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Spots of a site's own pages: reported, worked out, and told with filters.</summary>
public sealed class SpotTests : IAsyncLifetime
{
    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 0);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Spots_are_counted_with_what_followed()
    {
        await SendAsync("one-visitor", "/visit?utm_source=wendfar&utm_medium=cpc", null);
        await SendAsync("one-visitor", "/visit", "seen", "header banner");
        await SendAsync("one-visitor", "/visit", "clicked", "header banner");
        await SendAsync("one-visitor", "/shop", null);
        await SendAsync("one-visitor", "/shop", "seen", "footer");
        await SendAsync("one-visitor", "/thanks", "conversion", "ticket");
        await SendAsync("two-visitor", "/visit", null);
        await SendAsync("two-visitor", "/visit", "seen", "header banner");
        await Eventually.Async(async () => (await SpotsAsync("")).Count == 2 && (await SpotsAsync(""))[0]!.Whole("seenVisits") == 2);
        Assert.Equal(["header banner 2 2 1 1 0.5 1 1", "footer 1 1 0 0 0 1 0"], Lines(await SpotsAsync("")));
        Assert.Equal(["header banner 1 1 0 0 0 0 0"], Lines(await SpotsAsync("where=source:is:direct")));
        Assert.Equal(["footer 1 1 0 0 0 1 0"], Lines(await SpotsAsync("search=FOOT")));
        Assert.Equal("footer", (await SpotsAsync("sort=seen&page=2&size=1"))[0].Text("name"));
        Assert.Equal("header banner", (await SpotsAsync("sort=rate"))[0].Text("name"));
        Assert.Empty(await SpotsAsync("to=2020-01-01"));

        // A visit tells of them; they are no events of its figures.
        var visit = (await _host.GetJsonAsync("/api/v1/visits?where=source:is:wendfar"))["visits"]![0]!;
        var steps = (await _host.GetJsonAsync($"/api/v1/visits/{visit.Text("id")}"))["steps"]!.AsArray();
        Assert.Equal(["page", "seen", "clicked", "page", "seen", "conversion"], steps.Select(s => s!.Text("kind")));
        Assert.Equal(0, (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!.Whole("events"));

        // Working all of it out again gives the same.
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from visit_due") == 0);
        Assert.Equal(2, (await SpotsAsync("")).Count);
    }

    [Theory]
    [InlineData("sort=magic")]
    [InlineData("page=0")]
    [InlineData("size=501")]
    [InlineData("where=nothing")]
    public async Task What_can_not_be_asked_is_refused(string asked)
    {
        using var client = _host.As("viewer");
        Assert.NotEmpty((await client.CallAsync(HttpMethod.Get, $"/api/v1/arrivals/spots?{asked}")).Json.Refusal().Rule);
    }

    /// <summary>A page may make names up without end; a workspace tells apart as many as a day has room for.</summary>
    [Fact]
    public async Task Names_without_end_stand_together()
    {
        for (int v = 0; v < 4; v++)
        {
            await SendAsync($"visitor-{v}", "/visit", null);
            for (int i = 0; i < 30; i++)
            {
                await SendAsync($"visitor-{v}", "/visit", "seen", $"spot {v} {i}");
            }
        }

        await Eventually.Async(async () =>
            (await SpotsAsync("size=500")) is var spots && spots.Sum(s => s!.Whole("seen")) == 120 && spots.Count == 101
        );
        Assert.Equal(20, (await SpotsAsync("search=many"))[0]!.Whole("seen"));
    }

    private async Task<JsonArray> SpotsAsync(string asked) =>
        (await _host.GetJsonAsync($"/api/v1/arrivals/spots?{asked}"))["spots"]!.AsArray();

    private static IEnumerable<string> Lines(JsonArray spots) =>
        spots.Select(s =>
            $"{s.Text("name")} {s!["seen"]} {s["seenVisits"]} {s["clicked"]} {s["clickedVisits"]} {s["clickRate"]} {s["conversionsAfterSeen"]} {s["conversionsAfterClicked"]}"
        );

    private async Task SendAsync(string visitor, string path, string? kind, string? name = null)
    {
        using var answer = await _host.MeasureAsync(
            new
            {
                k = DemoData.MeasuringKey,
                u = $"http://{BeaconHost.GardenHost}{path}",
                r = kind is null && path.StartsWith("/visit", StringComparison.Ordinal) ? "" : $"http://{BeaconHost.GardenHost}/visit",
                d = visitor,
                e = kind,
                n = name,
            }
        );
        answer.EnsureSuccessStatusCode();
    }
}
