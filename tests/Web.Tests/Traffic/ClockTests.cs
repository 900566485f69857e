using System.Net;
using Microsoft.Extensions.DependencyInjection;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>The machine's clock is set back by more than a day and forward again: no click is lost, none counted twice.</summary>
public sealed class ClockTests
{
    private const int Each = 40;

    [Fact]
    public async Task A_clock_set_back_loses_and_doubles_nothing()
    {
        var clock = new ShiftedClock();
        await using var host = await BeaconHost.StartAsync(replace: services => services.AddSingleton<TimeProvider>(clock));
        var link = await host.SaveLinkAsync();
        string slug = "/" + link.Text("shortUrl").Split('/')[^1];
        await Eventually.Async(async () => (await host.ClickAsync(slug, "curl/8.5.0")).StatusCode == HttpStatusCode.Found);
        int made = 0;
        foreach (var offset in new[] { TimeSpan.Zero, TimeSpan.FromHours(-26), TimeSpan.FromMinutes(-3), TimeSpan.FromHours(1) })
        {
            clock.Offset = offset;
            for (int i = 0; i < Each; i++)
            {
                // Each by another visitor, so that none is a double tap.
                using var answer = await host.ClickAsync(slug, $"Mozilla/5.0 (Phone; Mobile) Fernleaf/12.{made}");
                made += answer.StatusCode == HttpStatusCode.Found ? 1 : 0;
            }
        }

        Assert.Equal(4 * Each, made);
        Task<long> HitsAsync() =>
            host.ScalarAsync<long>(
                "select count(*) from hit h join short_links s on s.id = h.short_link_id where s.link_id = $1 and h.user_agent like '%Fernleaf%'",
                Guid.Parse(link.Text("id"))
            );
        await Eventually.Async(async () => await HitsAsync() >= made);
        await Eventually.Async(async () => (await host.GetJsonAsync($"/api/v1/links/{link.Text("id")}")).Whole("clicks") >= made);
        Assert.Equal(made, await HitsAsync());
        var row = await host.GetJsonAsync($"/api/v1/links/{link.Text("id")}");
        Assert.Equal((made, made), (row.Whole("clicks"), row.Whole("unique")));
        Assert.Equal((long)made, await host.ScalarAsync<long>("select uses from links where id = $1", Guid.Parse(link.Text("id"))));
    }

    private sealed class ShiftedClock : TimeProvider
    {
        public TimeSpan Offset { get; set; }

        public override DateTimeOffset GetUtcNow() => base.GetUtcNow() + Offset;
    }
}
