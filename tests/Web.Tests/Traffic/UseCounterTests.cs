using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>Clicks that wait together for a use are counted together: exactly as many get through as are left, and who goes away takes none.</summary>
[Collection(nameof(DemoHost))]
public sealed class UseCounterTests(DemoHost demo)
{
    private const int Uses = 40;
    private static readonly DateTimeOffset Start = new(2026, 6, 2, 10, 0, 0, TimeSpan.Zero);

    private async Task<(Guid Workspace, Guid ShortLink)> LimitedAsync(int uses)
    {
        using var editor = demo.Host.As("editor");
        var link = await editor.DoAsync(
            HttpMethod.Post,
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}/seed-swap",
                campaign = "Seed Swap",
                placement = "Gate poster",
                ending = new { uses },
            }
        );
        return (
            await demo.Host.ScalarAsync<Guid>("select id from workspaces limit 1"),
            await demo.Host.ScalarAsync<Guid>(
                "select id from short_links where link_id = $1 order by id limit 1",
                Guid.Parse(link.Text("id"))
            )
        );
    }

    private static RawHit Hit((Guid Workspace, Guid ShortLink) of, Guid visitor, double milliseconds, Guid? earlier = null) =>
        new(
            Guid.CreateVersion7(),
            of.Workspace,
            Start.AddMilliseconds(milliseconds),
            of.ShortLink,
            visitor,
            earlier,
            HitFlags.None,
            "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            ""
        );

    [Fact]
    public async Task A_crowd_takes_what_is_left_and_double_taps_take_none()
    {
        var link = await LimitedAsync(Uses);
        var visitors = Enumerable.Range(0, 150).Select(_ => Guid.NewGuid()).ToList();
        using var uses = new UseCounter(demo.Host.Database);
        var taps = visitors.SelectMany((v, i) => new[] { Hit(link, v, i * 10), Hit(link, v, (i * 10) + 900) }).ToList();
        bool[] taken = await Task.WhenAll(taps.Select(t => uses.TakeAsync(t, CancellationToken.None)));
        var byVisitor = taps.Zip(taken).GroupBy(t => t.First.Visitor).Select(g => g.Select(t => t.Second).ToArray()).ToList();
        Assert.Equal(Uses, byVisitor.Count(v => v.Any(t => t)));
        Assert.All(byVisitor, v => Assert.Equal(v[0], v[1]));
        Assert.Equal(
            (2L * Uses, 0),
            (
                await demo.Host.ScalarAsync<long>("select count(*) from hit where short_link_id = $1", link.ShortLink),
                await demo.Host.ScalarAsync<int>(
                    "select uses_left from links where id = (select link_id from short_links where id = $1)",
                    link.ShortLink
                )
            )
        );

        // Over the midnight the same person has another hash, and both taps are one.
        var late = await LimitedAsync(1);
        var (evening, morning) = (Guid.NewGuid(), Guid.NewGuid());
        bool[] around = await Task.WhenAll(
            uses.TakeAsync(Hit(late, evening, 0), CancellationToken.None),
            uses.TakeAsync(Hit(late, morning, 500, evening), CancellationToken.None),
            uses.TakeAsync(Hit(late, Guid.NewGuid(), 600, Guid.NewGuid()), CancellationToken.None)
        );
        Assert.Equal([true, true, false], around);
    }

    [Fact]
    public async Task Who_goes_away_before_their_turn_takes_no_use()
    {
        var link = await LimitedAsync(1);
        using var uses = new UseCounter(demo.Host.Database);
        await using var other = await demo.Host.Database.OpenConnectionAsync();
        await using var holding = await other.BeginTransactionAsync();
        await using (
            var hold = new Npgsql.NpgsqlCommand(
                "select 1 from links where id = (select link_id from short_links where id = $1) for update",
                other
            )
        )
        {
            hold.Parameters.Add(new() { Value = link.ShortLink });
            await hold.ExecuteNonQueryAsync();
        }

        // The first one's turn has come and waits for the row; the second waits for its turn, and gives up.
        var first = uses.TakeAsync(Hit(link, Guid.NewGuid(), 0), CancellationToken.None);
        using var away = new CancellationTokenSource(TimeSpan.FromMilliseconds(300));
        await Assert.ThrowsAnyAsync<OperationCanceledException>(() => uses.TakeAsync(Hit(link, Guid.NewGuid(), 5_000), away.Token));
        await holding.RollbackAsync();
        Assert.True(await first);
        Assert.False(await uses.TakeAsync(Hit(link, Guid.NewGuid(), 9_000), CancellationToken.None));
        Assert.Equal(1, await demo.Host.ScalarAsync<long>("select count(*) from hit where short_link_id = $1", link.ShortLink));
    }
}
