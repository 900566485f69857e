using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Reports say the same whether visits are packed, not yet packed, or changed since.</summary>
public sealed class PackingTests : IAsyncLifetime
{
    private static readonly string[] Questions =
    [
        "rows=campaign,source",
        "rows=country",
        "rows=landingPage,hour",
        "rows=day",
        "rows=source&where=device:is:phone&compare=before",
    ];

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 600);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task A_report_is_the_same_before_and_after_packing()
    {
        await MarkAsync("true");
        string before = await ReportsAsync();
        await PackAsync();
        Assert.Equal(before, await ReportsAsync());
        Assert.Equal(
            await _host.ScalarAsync<long>("select count(*) from visit"),
            await _host.ScalarAsync<long>("select sum(visits)::bigint from visit_segment")
        );

        // Days that are over have one segment, those under way one for each hour.
        Assert.Equal(
            (0L, 0L),
            (
                await _host.ScalarAsync<long>(
                    "select count(*) from (select from visit_segment where day < (now() at time zone 'UTC')::date - 1 group by day having count(*) > 1) d"
                ),
                await _host.ScalarAsync<long>(
                    "select count(*) from visit_segment where day >= (now() at time zone 'UTC')::date - 1 and first_hour <> last_hour"
                )
            )
        );
    }

    [Fact]
    public async Task An_event_that_comes_late_is_in_the_next_report_and_in_the_next_packing()
    {
        await PackAsync();
        string from = (await _host.ScalarAsync<DateOnly>("select min(day) from visit")).ToString("yyyy-MM-dd", null);
        string of = $"/api/v1/arrivals?from={from}&rows=day";
        long before = (await _host.GetJsonAsync(of))["total"]!.Whole("visits");

        await KeepAsync(await _host.ScalarAsync<DateTime>("select min(started_at) + interval '3 hours' from visit"));
        Assert.Equal(before + 1, (await _host.GetJsonAsync(of))["total"]!.Whole("visits"));
        Assert.Equal(1L, await _host.ScalarAsync<long>("select count(*) from visit_segment_due where day < current_date - 5"));
        await PackAsync();
        Assert.Equal(before + 1, (await _host.GetJsonAsync(of))["total"]!.Whole("visits"));
        Assert.Equal(
            await _host.ScalarAsync<long>("select count(*) from visit"),
            await _host.ScalarAsync<long>("select sum(visits)::bigint from visit_segment")
        );
    }

    [Fact]
    public async Task Packing_gives_way_to_visits_that_change_meanwhile()
    {
        await PackAsync();
        await MarkAsync("day = (select min(day) from visit)");
        string before = await ReportsAsync();

        // Somebody is just changing a visit of that day, and is not done yet.
        await using var connection = await _host.Database.OpenConnectionAsync();
        await using var transaction = await connection.BeginTransactionAsync();
        await using (
            var change = new Npgsql.NpgsqlCommand(
                """
                update visit set page_views = page_views + 1 where day = (select min(day) from visit);
                update visit_segment_due set changed_at = now() where day = (select min(day) from visit)
                """,
                connection
            )
        )
        {
            await change.ExecuteNonQueryAsync();
        }

        var packing = new VisitSegmentBuilder(_host.Database).PackAsync(TimeSpan.Zero, CancellationToken.None);
        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>(
                "select count(*) from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'"
            ) > 0
        );
        Assert.Equal(before, await ReportsAsync());
        await transaction.CommitAsync();
        Assert.False(await packing);
        string after = await ReportsAsync();
        Assert.NotEqual(before, after);
        await PackAsync();
        Assert.Equal(after, await ReportsAsync());
    }

    [Fact]
    public void Segments_held_in_memory_give_way_to_those_asked_for_later()
    {
        var visits = Enumerable
            .Range(0, 1_000)
            .Select(i => new VisitFacts(Guid.NewGuid(), Guid.NewGuid(), i, 1, 1, 1, 1, 0, 1, 0, 0, 0, false, true))
            .ToList();
        var packed = VisitColumns.Of(visits, [], []);
        var cache = new VisitSegmentCache(mostBytes: packed.Bytes * 10L);
        for (int id = 0; id < 100; id++)
        {
            cache.Add(id, packed);
            Assert.NotNull(cache.Find(0)); // asked for again and again
        }

        Assert.InRange(cache.Bytes, packed.Bytes * 5L, packed.Bytes * 10L);
        Assert.Null(cache.Find(50));
        Assert.NotNull(cache.Find(99));
    }

    private async Task PackAsync()
    {
        var builder = new VisitSegmentBuilder(_host.Database);
        await Eventually.Async(async () =>
        {
            await builder.PackAsync(TimeSpan.Zero, CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_segment_due") == 0;
        });
    }

    /// <summary>Says that hours changed.</summary>
    private async Task MarkAsync(string which)
    {
        await using var mark = _host.Database.CreateCommand(
            $"""
            insert into visit_segment_due (workspace_id, day, hour, changed_at)
            select distinct workspace_id, day, hour, now() from visit where {which}
            on conflict (workspace_id, day, hour) do update set changed_at = excluded.changed_at
            """
        );
        await mark.ExecuteNonQueryAsync();
    }

    private async Task<string> ReportsAsync()
    {
        string to = (await _host.ScalarAsync<DateOnly>("select max(day) from visit")).ToString("yyyy-MM-dd", null);
        var reports = new List<string>();
        foreach (string question in Questions)
        {
            reports.Add((await _host.GetJsonAsync($"/api/v1/arrivals?from=2020-01-01&to={to}&size=500&{question}")).ToJsonString());
        }

        return string.Join('\n', reports);
    }

    private async Task KeepAsync(DateTime at)
    {
        var raw = new RawEvents();
        raw.PageEvents.Add(
            new RawPageEvent
            {
                Id = Guid.CreateVersion7(),
                WorkspaceId = await _host.ScalarAsync<Guid>("select id from workspaces"),
                SiteId = await _host.ScalarAsync<Guid>("select id from sites limit 1"),
                At = at,
                Kind = PageEventKind.View,
                Url = $"http://{BeaconHost.GardenHost}/",
                Visitor = Guid.NewGuid(),
                UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            }
        );
        await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await Eventually.Async(async () =>
        {
            await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_due") == 0;
        });
    }
}
