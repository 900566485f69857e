using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Time.Testing;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

public sealed class SaltTests
{
    [Fact]
    public async Task A_days_salt_is_shared_kept_half_an_hour_after_midnight_and_then_destroyed()
    {
        // 22:00 UTC is 23:00 in Dublin's summer.
        var clock = new FakeTimeProvider(new DateTimeOffset(2026, 6, 1, 22, 0, 0, TimeSpan.Zero));
        await using var host = await BeaconHost.StartAsync();
        var workspace = await host.ScalarAsync<Guid>("select id from workspaces");
        await using (var none = host.Database.CreateCommand("delete from salt"))
        {
            await none.ExecuteNonQueryAsync();
        }

        var book = new SaltBook(host.Database, clock);
        var other = new SaltBook(host.Database, clock);
        await book.RefreshAsync(CancellationToken.None);
        await other.RefreshAsync(CancellationToken.None);
        byte[] evening = book.At(workspace, clock.GetUtcNow()).Salt;
        Assert.Equal(evening, other.At(workspace, clock.GetUtcNow()).Salt);
        Assert.Null(book.At(workspace, clock.GetUtcNow()).Yesterday);

        clock.Advance(TimeSpan.FromMinutes(70));
        await book.RefreshAsync(CancellationToken.None);
        var night = book.At(workspace, clock.GetUtcNow());
        Assert.NotEqual(evening, night.Salt);
        Assert.Equal(evening, night.Yesterday);
        Assert.Equal(1L, await host.ScalarAsync<long>("select count(*) from salt where salt = $1", evening));

        clock.Advance(TimeSpan.FromMinutes(21));
        await book.RefreshAsync(CancellationToken.None);
        var later = book.At(workspace, clock.GetUtcNow());
        Assert.Equal(night.Salt, later.Salt);
        Assert.Null(later.Yesterday);
        Assert.Equal(0L, await host.ScalarAsync<long>("select count(*) from salt where salt = $1", evening));
    }

    [Fact]
    public async Task No_address_is_stored_anywhere()
    {
        await using var host = await BeaconHost.StartAsync();
        var link = await host.SaveLinkAsync();
        string slug = "/" + link["shortUrl"]!.GetValue<string>().Split('/')[^1];
        await Eventually.Async(async () => (await host.ClickAsync(slug)).StatusCode == System.Net.HttpStatusCode.Found);
        await host.MeasureAsync(new { k = "demo-garden", u = $"http://{BeaconHost.GardenHost}/" });
        await Eventually.Async(async () =>
            await host.ScalarAsync<long>("select (select count(*) from hit) * (select count(*) from page_event)") > 0
        );
        string rows = await host.ScalarAsync<string>(
            "select (select string_agg(h::text, '') from hit h) || (select string_agg(p::text, '') from page_event p)"
        );
        Assert.DoesNotContain("127.0.0.1", rows, StringComparison.Ordinal);
        Assert.DoesNotContain(Convert.ToHexStringLower([127, 0, 0, 1]), rows, StringComparison.Ordinal);
    }
}
