using System.Diagnostics;
using System.Net;
using System.Net.ServerSentEvents;
using PreciseBeacon.Web.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>An open page hears of traffic instead of asking for it.</summary>
public sealed class LiveTests : IAsyncLifetime
{
    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 0);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    /// <summary>Within two seconds on a machine that has nothing else to do; here only that it is not by looking now and then.</summary>
    [Fact]
    public async Task What_arrives_is_told_and_is_then_in_the_report()
    {
        using var viewer = _host.As("viewer");
        using var answer = await viewer.GetAsync("/api/v1/live", HttpCompletionOption.ResponseHeadersRead);
        Assert.Equal((HttpStatusCode.OK, "text/event-stream"), (answer.StatusCode, answer.Content.Headers.ContentType?.MediaType));
        await using var stream = await answer.Content.ReadAsStreamAsync();
        var events = SseParser.Create(stream).EnumerateAsync().GetAsyncEnumerator();
        Assert.Equal("still", await NextAsync());

        string page = $"http://{BeaconHost.GardenHost}/?utm_source=the_trellis&utm_medium=email";
        (await _host.MeasureAsync(new { k = "demo-garden", u = page })).EnsureSuccessStatusCode().Dispose();
        var watch = Stopwatch.StartNew();
        while (await NextAsync() != "changed") { }

        Assert.True(watch.Elapsed < TimeSpan.FromSeconds(15), $"It took {watch.Elapsed}.");
        Assert.Equal(1, (await _host.GetJsonAsync("/api/v1/arrivals?rows=source"))["total"]!.Whole("visits"));

        async Task<string> NextAsync()
        {
            Assert.True(await events.MoveNextAsync().AsTask().WaitAsync(TimeSpan.FromMinutes(1)));
            return events.Current.EventType;
        }
    }

    /// <summary>Each visit comes once, as it is sorted; one that goes on is no new one.</summary>
    [Fact]
    public async Task Each_arrival_is_told_once()
    {
        string page = $"http://{BeaconHost.GardenHost}/";
        await MeasureAsync("before", page);
        await Eventually.Async(async () => (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!.Whole("visits") == 1);

        using var viewer = _host.As("viewer");
        using var answer = await viewer.GetAsync("/api/v1/watch", HttpCompletionOption.ResponseHeadersRead);
        await using var stream = await answer.Content.ReadAsStreamAsync();
        var events = SseParser.Create(stream).EnumerateAsync().GetAsyncEnumerator();
        await MoveAsync();
        Assert.Equal("still", events.Current.EventType);

        await MeasureAsync("poster", $"{page}?utm_source=gate_poster&utm_medium=qr");
        await MeasureAsync("poster", $"{page}shop");
        await MeasureAsync("mail", $"{page}?utm_source=the_trellis&utm_medium=email");
        var told = new List<string>();
        while (told.Count < 2)
        {
            await MoveAsync();
            if (events.Current.EventType == "arrival")
            {
                told.Add(System.Text.Json.Nodes.JsonNode.Parse(events.Current.Data).Text("source"));
            }
        }

        Assert.Equal(["gate_poster", "the_trellis"], told.Order(StringComparer.Ordinal));

        async Task MoveAsync() => Assert.True(await events.MoveNextAsync().AsTask().WaitAsync(TimeSpan.FromMinutes(1)));

        async Task MeasureAsync(string visitor, string address)
        {
            using var measured = await _host.MeasureAsync(
                new { k = "demo-garden", u = address },
                userAgent: $"Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1 {visitor}"
            );
            measured.EnsureSuccessStatusCode();
        }
    }

    [Fact]
    public async Task Nobody_without_an_account_hears_anything()
    {
        using var anybody = _host.Anonymous();
        Assert.Equal(HttpStatusCode.Unauthorized, (await anybody.GetAsync("/api/v1/live")).StatusCode);
    }

    [Fact]
    public async Task A_workspace_hears_only_of_its_own_and_of_many_changes_once()
    {
        var live = new LiveTraffic();
        Guid mine = Guid.NewGuid(),
            other = Guid.NewGuid();
        using var listener = live.Listen(mine);
        using (live.Listen(other))
        {
            live.Tell(other);
            Assert.False(listener.WaitAsync(CancellationToken.None).IsCompleted);
        }

        Assert.Equal(1, live.Listeners);
        using var again = live.Listen(mine);
        for (int i = 0; i < 100; i++)
        {
            live.Tell(mine);
        }

        await again.WaitAsync(CancellationToken.None);
        var next = again.WaitAsync(CancellationToken.None);
        Assert.False(next.IsCompleted);
        live.TellAll();
        await next.WaitAsync(TimeSpan.FromSeconds(10));
    }
}
