using System.Diagnostics;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>One visitor, or one link, with a hundred thousand hits: worked out in bounded steps, the same as in one, and nobody waits.</summary>
public sealed class CrowdTests : IAsyncLifetime
{
    private const int Hits = 100_000;
    private static readonly DateTimeOffset Start = new(2026, 6, 1, 10, 0, 0, TimeSpan.Zero);

    private BeaconHost _host = null!;
    private Guid _workspace;
    private Guid _shortLink;

    public async Task InitializeAsync()
    {
        // Nobody works out or reads but the test itself.
        _host = await BeaconHost.StartAsync(replace: services =>
        {
            foreach (
                var worker in services
                    .Where(s =>
                        s.ImplementationType == typeof(PreciseBeacon.Web.Traffic.AggregationWorker)
                        || s.ImplementationType == typeof(PreciseBeacon.Web.Proofs.FindingWorker)
                    )
                    .ToList()
            )
            {
                services.Remove(worker);
            }
        });
        var link = await _host.SaveLinkAsync();
        _workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        _shortLink = await _host.ScalarAsync<Guid>(
            "select id from short_links where link_id = $1 and use = 'Text'",
            Guid.Parse(link.Text("id"))
        );
        await using var clean = _host.Database.CreateCommand(
            "truncate hit_due, visit_due, hit, page_event, click, click_day, click_month, visit, page_view, conversion, visit_segment, visit_segment_due, visitor_first, link_use_due; update links set uses = 0, last_used_at = null"
        );
        await clean.ExecuteNonQueryAsync();
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    private RawHit Hit(int i, Guid visitor, double secondsApart = 1.5) =>
        new(
            Guid.CreateVersion7(),
            _workspace,
            Start.AddSeconds(i * secondsApart),
            _shortLink,
            visitor,
            null,
            HitFlags.None,
            "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            ""
        );

    private async Task BringAsync(IEnumerable<RawHit> hits)
    {
        foreach (var some in hits.Chunk(5_000))
        {
            var events = new RawEvents();
            events.Hits.AddRange(some);
            await new SpoolDrain(_host.Database).WriteStraightAsync(events, CancellationToken.None);
        }
    }

    [Fact]
    public async Task No_step_is_long_and_neither_the_mover_nor_a_limited_link_waits_for_one()
    {
        var visitor = Guid.NewGuid();

        // Every third hit comes after a pause, so that stretches have clicks and double taps all through.
        await BringAsync(
            Enumerable.Range(0, Hits).Select(i => Hit(i, visitor, secondsApart: 1) with { At = Start.AddSeconds((i / 3 * 10) + (i % 3)) })
        );
        var clicks = new ClickAggregator(_host.Database);
        var longest = TimeSpan.Zero;
        using var done = new CancellationTokenSource();
        var meanwhile = MeanwhileAsync(visitor, done.Token);

        // More are brought all the time, so there may always be some that are due; what was there before is worked out at some time.
        while (await _host.ScalarAsync<long>("select count(*) from click") < Hits)
        {
            long began = Stopwatch.GetTimestamp();
            await clicks.WorkOutAsync(CancellationToken.None);
            longest = Stopwatch.GetElapsedTime(began) is var took && took > longest ? took : longest;
        }

        await done.CancelAsync();
        var (brought, slowest) = await meanwhile;
        Assert.True(longest < TimeSpan.FromSeconds(20), $"the longest step took {longest.TotalSeconds:F2} s"); // a second on an idle machine; it was 108
        Assert.True(brought > 1 && slowest < TimeSpan.FromSeconds(10), $"{brought} brought, one waited {slowest.TotalSeconds:F2} s");
        while (await clicks.WorkOutAsync(CancellationToken.None) > 0) { }

        // Recomputed by the rule alone: within two seconds of the person's hit before it is a double tap.
        Assert.Equal(
            await _host.ScalarAsync<long>(
                "select count(*) from (select at - lag(at) over (partition by visitor, short_link_id order by at, id) as after from hit) h where after is null or after > interval '2 seconds'"
            ),
            await _host.ScalarAsync<long>("select count(*) from click where kind = 'Person'")
        );
        Assert.Equal(
            await _host.ScalarAsync<long>("select count(*) from hit"),
            await _host.ScalarAsync<long>("select count(*) from click")
        );
        Assert.Equal(
            await _host.ScalarAsync<long>("select count(*) from click where kind = 'Person'"),
            await _host.ScalarAsync<long>("select sum(uses)::bigint from links")
        );
        Assert.Equal(
            await _host.ScalarAsync<long>("select count(*) from click where kind = 'Person'"),
            await _host.ScalarAsync<long>("select sum(clicks)::bigint from click_day where kind = 'Person'")
        );
    }

    /// <summary>Brings more hits of the same visitor on the same link, and counts uses, while it is worked out.</summary>
    private async Task<(int Brought, TimeSpan Slowest)> MeanwhileAsync(Guid visitor, CancellationToken done)
    {
        var mover = new SpoolDrain(_host.Database);
        using var uses = new UseCounter(_host.Database);
        int brought = 0;
        var slowest = TimeSpan.Zero;
        for (; !done.IsCancellationRequested; brought++)
        {
            long began = Stopwatch.GetTimestamp();
            await mover.WriteStraightAsync(new RawEvents { Hits = { Hit(Hits * 4 + brought, visitor, 10) } }, CancellationToken.None);
            await uses.TakeAsync(Hit(Hits * 5 + brought, visitor, 10), CancellationToken.None);
            slowest = Stopwatch.GetElapsedTime(began) is var took && took > slowest ? took : slowest;
            await Task.Delay(20, CancellationToken.None);
        }

        return (brought, slowest);
    }

    /// <summary>New hits at two moments far apart leave what lies between them as it is.</summary>
    [Fact]
    public async Task What_lies_between_two_stretches_is_not_sorted_again()
    {
        var visitor = Guid.NewGuid();
        await BringAsync(Enumerable.Range(0, 3_000).Select(i => Hit(i, visitor, secondsApart: 10)));
        var clicks = new ClickAggregator(_host.Database);
        while (await clicks.WorkOutAsync(CancellationToken.None) > 0) { }

        const string Untouched = "select count(*) from click where xmin::text::bigint < $1";
        long now = await _host.ScalarAsync<long>("select txid_current() & 4294967295");
        await BringAsync([Hit(0, visitor) with { At = Start.AddSeconds(1) }]);
        await BringAsync([Hit(0, visitor) with { At = Start.AddSeconds(29_991) }]);
        while (await clicks.WorkOutAsync(CancellationToken.None) > 0) { }

        Assert.Equal(3_000, await _host.ScalarAsync<long>(Untouched, now));
        Assert.Equal(3_002, await _host.ScalarAsync<long>("select count(*) from click"));
        Assert.Equal(2, await _host.ScalarAsync<long>("select count(*) from click where kind = 'DoubleTap'"));
    }

    [Fact]
    public async Task Steps_give_the_same_as_one_however_the_hits_came()
    {
        var visitor = Guid.NewGuid();
        var random = new Random(7);
        var hits = Enumerable
            .Range(0, 12_000)
            .Select(i =>
                Hit(i, visitor) with
                {
                    At = Start.AddMilliseconds((i / 4 * 5_000) + random.Next(4_000)),
                    Flags = random.Next(10) == 0 ? HitFlags.Head : HitFlags.None,
                }
            )
            .ToList();
        await BringAsync(hits.OrderBy(_ => random.Next()));
        var clicks = new ClickAggregator(_host.Database);
        while (await clicks.WorkOutAsync(CancellationToken.None) > 0) { }

        var expected = HitClassifier
            .Sort(hits.OrderBy(h => h.At).ThenBy(h => h.Id.ToString("N"), StringComparer.Ordinal))
            .ToDictionary(s => s.Hit.Id, s => s.Kind.ToString());
        var actual = new Dictionary<Guid, string>();
        await using var command = _host.Database.CreateCommand("select hit_id, kind from click");
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            actual.Add(reader.GetGuid(0), reader.GetString(1));
        }

        Assert.Equal(expected.Count, actual.Count);
        Assert.All(expected, e => Assert.Equal(e.Value, actual[e.Key]));
    }

    [Fact]
    public async Task One_visitor_with_a_hundred_thousand_events_in_a_day_is_worked_out_in_a_moment()
    {
        var visitor = Guid.NewGuid();
        var site = await _host.ScalarAsync<Guid>("select id from sites");
        foreach (int from in Enumerable.Range(0, 20))
        {
            var events = new RawEvents();
            events.PageEvents.AddRange(
                Enumerable
                    .Range(from * 5_000, 5_000)
                    .Select(i => new RawPageEvent
                    {
                        Id = Guid.CreateVersion7(),
                        WorkspaceId = _workspace,
                        SiteId = site,
                        At = Start.AddMilliseconds(i * 300),
                        Kind = i % 2 == 0 ? PageEventKind.Conversion : PageEventKind.View,
                        Name = i % 2 == 0 ? "ticket" : "",
                        Url = $"http://{BeaconHost.GardenHost}/shop?n={i}",
                        Visitor = visitor,
                        UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                    })
            );
            await new SpoolDrain(_host.Database).WriteStraightAsync(events, CancellationToken.None);
        }

        var began = Stopwatch.GetTimestamp();
        while (await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None) > 0) { }

        var took = Stopwatch.GetElapsedTime(began);
        Assert.Equal(
            (1L, 50_000L),
            (await _host.ScalarAsync<long>("select count(*) from visit"), await _host.ScalarAsync<long>("select count(*) from conversion"))
        );
        Assert.True(took < TimeSpan.FromSeconds(90), $"{took.TotalSeconds:F1} s");
    }

    /// <summary>Somebody has a link's row for as long as they like: its uses wait for them, and nothing else does.</summary>
    [Fact]
    public async Task A_link_that_is_being_changed_gets_its_uses_afterwards()
    {
        await BringAsync([Hit(0, Guid.NewGuid()), Hit(100, Guid.NewGuid())]);
        await using var connection = await _host.Database.OpenConnectionAsync();
        await using (var transaction = await connection.BeginTransactionAsync())
        {
            await using var hold = new NpgsqlCommand("select 1 from links for update", connection);
            await hold.ExecuteNonQueryAsync();
            Assert.Equal(
                2,
                await new ClickAggregator(_host.Database).WorkOutAsync(CancellationToken.None).WaitAsync(TimeSpan.FromSeconds(60))
            );
            Assert.Equal(
                (2L, 0L),
                (
                    await _host.ScalarAsync<long>("select count(*) from click"),
                    await _host.ScalarAsync<long>("select sum(uses)::bigint from links")
                )
            );
        }

        await BringAsync([Hit(200, Guid.NewGuid())]);
        await new ClickAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
        Assert.Equal(3L, await _host.ScalarAsync<long>("select sum(uses)::bigint from links"));
    }
}
