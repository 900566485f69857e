using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>
/// Events that belong together may be brought by two processes at once, neither of which sees what the other has not committed: what is
/// worked out in between is put right by whoever commits last.
/// </summary>
public sealed class ConcurrentMoveTests : IAsyncLifetime
{
    private const string Phone = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1";

    private static readonly DateTimeOffset Ten = new(2026, 6, 1, 10, 0, 0, TimeSpan.Zero);

    /// <summary>Of Dublin, in summer time.</summary>
    private static readonly DateTimeOffset Midnight = new(2026, 6, 1, 23, 0, 0, TimeSpan.Zero);

    private readonly Guid _visitor = Guid.NewGuid();
    private BeaconHost _host = null!;
    private Guid _workspace;
    private Guid _shortLink;

    public async Task InitializeAsync()
    {
        // Nobody works out but the test itself.
        _host = await BeaconHost.StartAsync(
            replace: services => services.Remove(services.Single(s => s.ImplementationType == typeof(AggregationWorker))),
            visits: 0
        );
        var link = await _host.SaveLinkAsync();
        _workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        _shortLink = await _host.ScalarAsync<Guid>(
            "select id from short_links where link_id = $1 and use = 'Text'",
            Guid.Parse(link.Text("id"))
        );
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task A_visit_finds_its_click_though_that_is_committed_after_the_visit_was_worked_out()
    {
        var click = Hit(Ten, _visitor);
        var view = await ViewAsync(Ten.AddSeconds(1), _visitor);
        await BringAsync(first: new RawEvents { Hits = { click } }, meanwhile: new RawEvents { PageEvents = { view } });
        Assert.Equal(click.Id, await _host.ScalarAsync<Guid>("select hit_id from visit"));
    }

    [Fact]
    public async Task A_tap_after_midnight_is_a_double_one_though_the_first_is_committed_later()
    {
        var tomorrow = Guid.NewGuid();
        await BringAsync(
            first: new RawEvents { Hits = { Hit(Midnight.AddSeconds(-0.5), _visitor) } },
            meanwhile: new RawEvents { Hits = { Hit(Midnight.AddSeconds(0.5), tomorrow) with { EarlierVisitor = _visitor } } }
        );
        Assert.Equal("Person, DoubleTap", await _host.ScalarAsync<string>("select string_agg(kind, ', ' order by at) from click"));
    }

    [Fact]
    public async Task An_order_counts_once_though_two_report_it_at_the_same_time()
    {
        var other = Guid.NewGuid();
        var order = await ViewAsync(Ten, _visitor) with
        {
            Kind = PageEventKind.Conversion,
            Name = "ticket",
            OrderId = "A1",
            Value = 20m,
            Currency = "EUR",
        };
        await BringAsync(
            first: new RawEvents { PageEvents = { order } },
            meanwhile: new RawEvents { PageEvents = { order with { Id = Guid.CreateVersion7(), Visitor = other, At = Ten.AddSeconds(1) } } }
        );
        Assert.Equal(_visitor.ToString(), await _host.ScalarAsync<string>("select string_agg(visitor::text, ', ') from conversion"));
    }

    private async Task<RawPageEvent> ViewAsync(DateTimeOffset at, Guid visitor) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            WorkspaceId = _workspace,
            SiteId = await _host.ScalarAsync<Guid>("select id from sites"),
            At = at,
            Kind = PageEventKind.View,
            Url = $"http://{BeaconHost.GardenHost}/lantern-nights",
            Visitor = visitor,
            UserAgent = Phone,
        };

    private RawHit Hit(DateTimeOffset at, Guid visitor) =>
        new(Guid.CreateVersion7(), _workspace, at, _shortLink, visitor, null, HitFlags.None, Phone, "");

    /// <summary>Writes events, has others written, committed and worked out before those are committed, and works out the rest.</summary>
    private async Task BringAsync(RawEvents first, RawEvents meanwhile)
    {
        await using var connection = await _host.Database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await new RawEventWriter().WriteAsync(connection, first, CancellationToken.None);
        await new SpoolDrain(_host.Database).WriteStraightAsync(meanwhile, CancellationToken.None);
        await WorkOutAsync();
        await transaction.CommitAsync();
        await WorkOutAsync();
    }

    private async Task WorkOutAsync()
    {
        var clicks = new ClickAggregator(_host.Database);
        var visits = new VisitAggregator(_host.Database);
        while (await clicks.WorkOutAsync(CancellationToken.None) + await visits.WorkOutAsync(CancellationToken.None) > 0) { }
    }
}
