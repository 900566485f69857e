using System.Text.Json;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>What is worked out from raw events: the same however and whenever they come.</summary>
public sealed class WorkingOutTests : WorkingOutBase
{
    [Fact]
    public async Task Working_out_again_from_scratch_gives_the_same_rows()
    {
        await Host.DisposeAsync();
        Host = await BeaconHost.StartAsync(visits: 1_500);
        string before = await SnapshotAsync();
        Assert.True(before.Split('\n').Length > 5_000);
        await new TrafficRebuild(Host.Database).MarkAllAsync(CancellationToken.None);
        await WorkOutAsync();
        Assert.Equal(before, await SnapshotAsync());
    }

    [Fact]
    public async Task Events_that_come_late_or_out_of_order_change_the_visits_they_belong_to()
    {
        var visitor = Guid.NewGuid();
        RawPageEvent[] events =
        [
            View("2026-06-01T10:00", "/?utm_source=a", visitor),
            View("2026-06-01T10:20", "/visit", visitor),
            View("2026-06-01T10:40", "/shop", visitor),
            View("2026-06-01T12:00", "/", visitor),
        ];
        await KeepAsync(events);
        string inOrder = await SnapshotAsync();
        await using (
            var empty = Host.Database.CreateCommand(
                "truncate page_event, visit, page_view, conversion, visit_segment, visit_segment_due, visitor_first"
            )
        )
        {
            await empty.ExecuteNonQueryAsync();
        }

        // The one in the middle last: it joins what looked like two visits.
        await KeepAsync(events[3]);
        await KeepAsync(events[0]);
        await KeepAsync(events[2]);
        Assert.Equal(3L, await Host.ScalarAsync<long>("select count(*) from visit"));
        await KeepAsync(events[1]);
        Assert.Equal(2L, await Host.ScalarAsync<long>("select count(*) from visit"));
        Assert.Equal(inOrder, await SnapshotAsync());
    }

    [Fact]
    public async Task A_visit_goes_on_over_midnight_though_the_salt_has_changed()
    {
        Guid before = Guid.NewGuid(),
            after = Guid.NewGuid();

        // Midnight in Dublin's summer is 23:00 UTC.
        await KeepAsync(View("2026-06-01T22:50", "/?utm_source=a", before));
        await KeepAsync(View("2026-06-01T23:10", "/visit", after, before), View("2026-06-02T02:00", "/", after));
        Assert.Equal(
            """["2026-06-01:2","2026-06-02:1"]""",
            JsonSerializer.Serialize(
                JsonSerializer.Deserialize<string[]>(
                    await Host.ScalarAsync<string>("select jsonb_agg(day || ':' || page_views order by started_at)::text from visit")
                )
            )
        );
    }

    [Fact]
    public async Task An_order_id_counts_once_for_whoever_sent_it_first()
    {
        Guid one = Guid.NewGuid(),
            other = Guid.NewGuid();
        var order = View("2026-06-01T10:00", "/thanks", one) with
        {
            Kind = PageEventKind.Conversion,
            Name = "ticket",
            OrderId = "A1",
            Value = 20m,
            Currency = "EUR",
        };
        await KeepAsync(order, order with { Id = Guid.CreateVersion7(), At = order.At.AddMinutes(1) });
        Assert.Equal(
            (1L, 20m),
            (
                await Host.ScalarAsync<long>("select count(*) from conversion"),
                await Host.ScalarAsync<decimal>("select sum(value) from conversion")
            )
        );

        // An earlier report of the same order arrives later, from somebody else: it is the one that counts.
        await KeepAsync(order with { Id = Guid.CreateVersion7(), Visitor = other, At = order.At.AddMinutes(-5) });
        Assert.Equal(other, await Host.ScalarAsync<Guid>("select visitor from conversion"));
        Assert.Equal(1L, await Host.ScalarAsync<long>("select count(*) from conversion"));

        // So is one that the same person sent days before.
        await KeepAsync(order with { Id = Guid.CreateVersion7(), Visitor = other, At = order.At.AddDays(-5) });
        Assert.Equal("2026-05-27", await Host.ScalarAsync<string>("select string_agg(day::text, ', ') from conversion"));
    }

    /// <summary>A payment page in the middle of a visit takes nothing from its source; listed or not, the past follows.</summary>
    [Fact]
    public async Task Coming_back_from_aHost_people_pass_through_goes_on_with_the_visit()
    {
        var visitor = Guid.NewGuid();
        var back = View("2026-06-01T10:12", "/thanks?utm_source=payments", visitor) with
        {
            Referrer = "https://checkout.pay.example:8443/done?x=1",
        };
        await KeepAsync(
            View("2026-06-01T10:00", "/shop?utm_source=the_trellis", visitor),
            back,
            View("2026-06-01T10:13", "/thanks", visitor) with
            {
                Kind = PageEventKind.Conversion,
                Name = "ticket",
                OrderId = "P1",
                Value = 20m,
                Currency = "EUR",
            },
            // After a pause, the visit begins with the source it had.
            View("2026-06-01T12:00", "/shop", visitor) with
            {
                Referrer = "https://pay.example/",
            },
            View("2026-06-01T12:10", "/", Guid.NewGuid()) with
            {
                Referrer = "https://notpay.example/",
            }
        );
        Assert.Equal("notpay.example:0 pay.example:0 payments:1 the_trellis:0", await SourcesAsync());
        using var owner = Host.As("owner");
        Assert.Equal(
            2,
            (await owner.DoAsync(HttpMethod.Post, "/api/v1/passing-hosts/count", new { host = "PAY.example" })).Whole("visits")
        );
        await owner.DoAsync(HttpMethod.Post, "/api/v1/passing-hosts", new { host = "https://pay.example/anything" });
        await WorkOutAsync();
        Assert.Equal("notpay.example:0 the_trellis:1", await SourcesAsync());
        Assert.Equal(
            (2L, 1L),
            (
                await Host.ScalarAsync<long>(
                    "select count(*) from visit v join traffic_source s on s.id = v.source_id where s.tags ->> 'utm_source' = 'the_trellis'"
                ),
                await Host.ScalarAsync<long>("select count(*) from visit where tagged_inside")
            )
        );

        string id = (await Host.GetJsonAsync("/api/v1/passing-hosts"))["hosts"]![0]!.Text("id");
        await owner.DoAsync(HttpMethod.Delete, $"/api/v1/passing-hosts/{id}", null);
        await WorkOutAsync();
        Assert.Equal("notpay.example:0 pay.example:0 payments:1 the_trellis:0", await SourcesAsync());

        async Task<string> SourcesAsync()
        {
            var report = await Host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-01&rows=source&sort=key");
            return string.Join(' ', report["rows"]!.AsArray().Select(r => $"{r!["keys"]![0]}:{r["figures"]!.Whole("conversions")}"));
        }
    }

    [Fact]
    public async Task AHost_in_the_middle_of_purchases_is_suggested()
    {
        for (int i = 0; i < 4; i++)
        {
            var visitor = Guid.NewGuid();
            string day = DateTime.UtcNow.AddDays(-2).ToString("yyyy-MM-dd", null);
            await KeepAsync(
                View($"{day}T10:00", "/shop?utm_source=the_trellis", visitor),
                View($"{day}T10:05", "/thanks", visitor) with
                {
                    Referrer = "https://pay.example/",
                },
                View($"{day}T10:06", "/thanks", visitor) with
                {
                    Kind = PageEventKind.Conversion,
                    Name = "ticket",
                    OrderId = $"S{i}",
                }
            );
        }

        var suggested = (await Host.GetJsonAsync("/api/v1/passing-hosts"))["suggested"]![0]!;
        Assert.Equal(("pay.example", 4), (suggested.Text("host"), suggested.Whole("visits")));
    }

    /// <summary>Whichever comes late: only the first visit of a visitor with an id is a new visitor's.</summary>
    [Fact]
    public async Task A_visitor_with_an_id_is_new_once_even_when_an_earlier_visit_comes_to_light()
    {
        Guid known = Guid.NewGuid(),
            stranger = Guid.NewGuid();
        await KeepAsync(View("2026-06-03T10:00", "/", known) with { HasId = true }, View("2026-06-03T10:00", "/", stranger));
        await KeepAsync(View("2026-06-05T10:00", "/", known) with { HasId = true });
        Assert.Equal("2026-06-03", await NewOnAsync());
        await KeepAsync(View("2026-06-03T11:00", "/shop", known) with { HasId = true });
        Assert.Equal("2026-06-03", await NewOnAsync());
        await KeepAsync(View("2026-06-01T10:00", "/", known) with { HasId = true });
        Assert.Equal("2026-06-01", await NewOnAsync());
        var report = await Host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=visitorKind&sort=key");
        Assert.Equal(
            [("", 1, 0), ("new", 1, 1), ("returning", 3, 0)],
            report["rows"]!
                .AsArray()
                .Select(r => (r!["keys"]![0]?.GetValue<string>() ?? "", r["figures"]!.Whole("visits"), r["figures"]!.Whole("newVisitors")))
        );

        // The first one turns out to be no visit at all.
        await using (
            var gone = Host.Database.CreateCommand(
                "delete from page_event where at < '2026-06-02'; insert into visit_due (workspace_id, visitor, day) select workspace_id, visitor, day from visit where day = '2026-06-01'"
            )
        )
        {
            await gone.ExecuteNonQueryAsync();
        }

        await WorkOutAsync();
        Assert.Equal("2026-06-03", await NewOnAsync());
        string before = await SnapshotAsync();
        await new TrafficRebuild(Host.Database).MarkAllAsync(CancellationToken.None);
        await WorkOutAsync();
        Assert.Equal(before, await SnapshotAsync());

        Task<string> NewOnAsync() => Host.ScalarAsync<string>("select string_agg(day::text, ',') from visit where is_new");
    }

    /// <summary>Only people's events count for once-only (rule 6).</summary>
    [Fact]
    public async Task An_order_id_a_crawler_sent_first_takes_nothing_from_the_person_who_ordered()
    {
        Guid crawler = Guid.NewGuid(),
            person = Guid.NewGuid();
        var order = View("2026-06-01T10:00", "/thanks", crawler) with
        {
            Kind = PageEventKind.Conversion,
            Name = "ticket",
            OrderId = "B1",
            Value = 20m,
            Currency = "EUR",
            UserAgent = "Fernbot/1.0 (crawler; +https://fern.example/bot)",
        };
        await KeepAsync(order, View("2026-06-01T10:04", "/shop", person));
        await KeepAsync(
            order with
            {
                Id = Guid.CreateVersion7(),
                Visitor = person,
                At = order.At.AddMinutes(5),
                UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            }
        );
        Assert.Equal(person, await Host.ScalarAsync<Guid>("select visitor from conversion"));
        Assert.Equal(
            (1L, 0L),
            (
                await Host.ScalarAsync<long>("select count(*) from conversion"),
                await Host.ScalarAsync<long>("select count(*) filter (where bounced) from visit")
            )
        );
    }
}
