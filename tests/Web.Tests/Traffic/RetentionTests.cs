using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>What had its time goes; what was reported before stays as it was reported.</summary>
public sealed class RetentionTests : IAsyncLifetime
{
    private static readonly string[] Questions = ["rows=campaign,source", "rows=country,hour", "rows=day", "rows=link", "rows=visitorKind"];

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 1_200);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Fact]
    public async Task Reports_stay_when_raw_rows_go()
    {
        await RefundOldestAsync();
        string before = await ReportsAsync();
        string links = await LinksAsync();
        using var owner = _host.As("owner");
        var effect = await owner.DoAsync(HttpMethod.Post, "/api/v1/retention/count", new { months = 2 });
        var first = DateOnly.Parse(effect.Text("from"), System.Globalization.CultureInfo.InvariantCulture);
        Assert.Equal(await _host.ScalarAsync<long>("select count(*) from visit where day < $1", first), effect.Whole("visits"));
        Assert.True(effect.Whole("visits") > 100);
        await owner.DoAsync(HttpMethod.Put, "/api/v1/retention", new { months = 2 });
        await GoAsync();

        Assert.Equal(first, await _host.ScalarAsync<DateOnly>("select raw_from from workspaces"));
        Assert.Equal(effect.Text("from"), (await _host.GetJsonAsync("/api/v1/retention")).Text("rawFrom"));
        Assert.Equal(
            (0L, 0L, 0L, 0L),
            (
                await _host.ScalarAsync<long>("select count(*) from visit where day < $1", first),
                await _host.ScalarAsync<long>("select count(*) from page_event where at < $1::timestamp - interval '2 days'", first),
                await _host.ScalarAsync<long>("select count(*) from hit where at < $1::timestamp - interval '1 day'", first),
                await _host.ScalarAsync<long>("select count(*) from made_month where month < $1::timestamp - interval '2 months'", first)
            )
        );
        Assert.Equal("r1", await _host.ScalarAsync<string>("select string_agg(event_id, ',') from server_report"));
        Assert.Equal(before, await ReportsAsync());
        Assert.Equal(links, await LinksAsync());

        // An event older than that changes nothing, and neither does working everything out again.
        await KeepAsync(first.AddDays(-40));
        Assert.Equal(before, await ReportsAsync());
        string clicks = await ClicksAsync();
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await WorkOutAsync();
        Assert.Equal(before, await ReportsAsync());
        Assert.Equal(links, await LinksAsync());
        Assert.Equal(clicks, await ClicksAsync());
        await GoAsync();
        Assert.Equal(before, await ReportsAsync());
    }

    [Fact]
    public async Task Nothing_goes_before_it_is_packed()
    {
        using var owner = _host.As("owner");
        await owner.DoAsync(HttpMethod.Put, "/api/v1/retention", new { months = 2 });
        await using (
            var mark = _host.Database.CreateCommand(
                "insert into visit_segment_due (workspace_id, day, hour, changed_at) select workspace_id, day, hour, now() + interval '1 day' from visit order by day limit 1 on conflict (workspace_id, day, hour) do update set changed_at = excluded.changed_at"
            )
        )
        {
            await mark.ExecuteNonQueryAsync();
        }

        long visits = await _host.ScalarAsync<long>("select count(*) from visit");
        await new Retention(_host.Database).StepAsync(DateTimeOffset.UtcNow, CancellationToken.None);
        Assert.Equal(visits, await _host.ScalarAsync<long>("select count(*) from visit"));
    }

    /// <summary>Money goes back for the oldest order, and a server told of another one long ago.</summary>
    private async Task RefundOldestAsync()
    {
        string[] order = (
            await _host.ScalarAsync<string>(
                "select s.name || ';' || c.order_id from conversion c join sites s on s.id = c.site_id where c.order_id is not null and c.value > 5 order by c.at limit 1"
            )
        ).Split(';');
        using var shop = _host.As("measuring");
        await shop.DoAsync(
            HttpMethod.Post,
            "/api/v1/conversions",
            new
            {
                eventId = "r1",
                site = order[0],
                refundOf = order[1],
                value = new { amount = "5", currency = "EUR" },
            }
        );
        Assert.Equal("5.00", (await _host.GetJsonAsync("/api/v1/arrivals"))["total"]!["refunds"].Text("amount"));
        await using var old = _host.Database.CreateCommand(
            "insert into server_report select workspace_id, 'old', site_id, 'old', now() - interval '5 years' from server_report"
        );
        await old.ExecuteNonQueryAsync();
    }

    /// <summary>Packs, then deletes until nothing is left to delete.</summary>
    private async Task GoAsync()
    {
        var retention = new Retention(_host.Database);
        await Eventually.Async(async () =>
        {
            await new VisitSegmentBuilder(_host.Database).PackAsync(TimeSpan.Zero, CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_segment_due") == 0;
        });
        await Eventually.Async(async () =>
            await _host.ScalarAsync<bool>("select bool_and(raw_from is not null) from workspaces")
            | !await retention.StepAsync(DateTimeOffset.UtcNow, CancellationToken.None)
        );
        while (await retention.StepAsync(DateTimeOffset.UtcNow, CancellationToken.None)) { }
    }

    private async Task<string> ReportsAsync()
    {
        string to = DateTime.UtcNow.ToString("yyyy-MM-dd", null);
        var reports = new List<string>();
        foreach (string question in Questions)
        {
            reports.Add((await _host.GetJsonAsync($"/api/v1/arrivals?from=2020-01-01&to={to}&size=500&{question}")).ToJsonString());
        }

        return string.Join('\n', reports);
    }

    private async Task<string> LinksAsync() =>
        string.Join(
            '\n',
            (await _host.GetJsonAsync("/api/v1/links?state=all&size=100"))["links"]!
                .AsArray()
                .Select(l =>
                    $"{l!.Text("id")} {l!.Whole("clicks")} {l!.Whole("visits")} {l!.Whole("visitors")} {l!.Whole("conversions")} {l!["revenue"]!["amount"]}"
                )
                .Order(StringComparer.Ordinal)
        );

    private Task<string> ClicksAsync() =>
        _host.ScalarAsync<string>(
            "select string_agg(short_link_id || kind || month || clicks, ',' order by short_link_id, kind, month, device) from click_month"
        );

    private async Task KeepAsync(DateOnly day)
    {
        var raw = new RawEvents();
        raw.PageEvents.Add(
            new RawPageEvent
            {
                Id = Guid.CreateVersion7(),
                WorkspaceId = await _host.ScalarAsync<Guid>("select id from workspaces"),
                SiteId = await _host.ScalarAsync<Guid>("select id from sites limit 1"),
                At = new DateTimeOffset(day.ToDateTime(new TimeOnly(12, 0)), TimeSpan.Zero),
                Kind = PageEventKind.View,
                Url = $"http://{BeaconHost.GardenHost}/",
                Visitor = Guid.NewGuid(),
                UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            }
        );
        await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();
    }

    private async Task WorkOutAsync()
    {
        await Eventually.Async(async () =>
        {
            await new ClickAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
            await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select (select count(*) from visit_due) + (select count(*) from hit_due)") == 0;
        });
    }
}
