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
