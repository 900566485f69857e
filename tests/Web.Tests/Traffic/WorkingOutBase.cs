using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>A host of one's own whose raw events are brought and worked out by the test.</summary>
public abstract class WorkingOutBase : IAsyncLifetime
{
    protected BeaconHost Host { get; set; } = null!;

    protected Guid Workspace { get; private set; }

    protected Guid Site { get; private set; }

    /// <summary>Settings the application is started with besides.</summary>
    protected virtual string[] More => [];

    public async Task InitializeAsync()
    {
        Host = await BeaconHost.StartAsync(visits: 0, more: More);
        Workspace = await Host.ScalarAsync<Guid>("select id from workspaces");
        Site = await Host.ScalarAsync<Guid>("select id from sites");
    }

    public async Task DisposeAsync() => await Host.DisposeAsync();

    protected RawPageEvent View(string at, string path, Guid visitor, Guid? earlier = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            WorkspaceId = Workspace,
            SiteId = Site,
            At = DateTimeOffset.Parse(at + "Z", System.Globalization.CultureInfo.InvariantCulture),
            Kind = PageEventKind.View,
            Url = $"http://{BeaconHost.GardenHost}{path}",
            Visitor = visitor,
            EarlierVisitor = earlier,
            UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
        };

    protected async Task KeepAsync(params RawPageEvent[] events)
    {
        var raw = new RawEvents();
        raw.PageEvents.AddRange(events);
        await new SpoolDrain(Host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();
    }

    protected async Task WorkOutAsync()
    {
        var clicks = new ClickAggregator(Host.Database);
        var visits = new VisitAggregator(Host.Database);
        await Eventually.Async(async () =>
        {
            await clicks.WorkOutAsync(CancellationToken.None);
            await visits.WorkOutAsync(CancellationToken.None);
            return await Host.ScalarAsync<long>("select (select count(*) from visit_due) + (select count(*) from hit_due)") == 0;
        });
    }

    protected async Task<string> SnapshotAsync()
    {
        var rows = new List<string>();
        foreach (
            string table in new[]
            {
                "click",
                "visit",
                "conversion",
                "page_view",
                "visit_event",
                "visitor_first",
                "click_day",
                "click_month",
            }
        )
        {
            await using var command = Host.Database.CreateCommand($"select to_jsonb(t)::text from {table} t order by 1");
            await using var reader = await command.ExecuteReaderAsync();
            while (await reader.ReadAsync())
            {
                rows.Add($"{table} {reader.GetString(0)}");
            }
        }

        return string.Join('\n', rows);
    }
}
