using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Traffic;

/// <summary>What is worked out from raw events: the same however and whenever they come.</summary>
public sealed class WorkingOutTests : IAsyncLifetime
{
    private BeaconHost _host = null!;
    private Guid _workspace;
    private Guid _site;

    public async Task InitializeAsync()
    {
        _host = await BeaconHost.StartAsync(visits: 0);
        _workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        _site = await _host.ScalarAsync<Guid>("select id from sites");
    }

    public async Task DisposeAsync() => await _host.DisposeAsync();

    private RawPageEvent View(string at, string path, Guid visitor, Guid? earlier = null) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            WorkspaceId = _workspace,
            SiteId = _site,
            At = DateTimeOffset.Parse(at + "Z", System.Globalization.CultureInfo.InvariantCulture),
            Kind = PageEventKind.View,
            Url = $"http://{BeaconHost.GardenHost}{path}",
            Visitor = visitor,
            EarlierVisitor = earlier,
            UserAgent = "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
        };

    private async Task KeepAsync(params RawPageEvent[] events)
    {
        var raw = new RawEvents();
        raw.PageEvents.AddRange(events);
        await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
        await WorkOutAsync();
    }

    private async Task WorkOutAsync()
    {
        var clicks = new ClickAggregator(_host.Database);
        var visits = new VisitAggregator(_host.Database);
        await Eventually.Async(async () =>
        {
            await clicks.WorkOutAsync(CancellationToken.None);
            await visits.WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select (select count(*) from visit_due) + (select count(*) from hit_due)") == 0;
        });
    }

    private async Task<string> SnapshotAsync()
    {
        var rows = new List<string>();
        foreach (string table in new[] { "click", "visit", "conversion", "page_view", "visitor_first", "click_day", "click_month" })
        {
            await using var command = _host.Database.CreateCommand($"select to_jsonb(t)::text from {table} t order by 1");
            await using var reader = await command.ExecuteReaderAsync();
            while (await reader.ReadAsync())
            {
                rows.Add($"{table} {reader.GetString(0)}");
            }
        }

        return string.Join('\n', rows);
    }

    [Fact]
    public async Task Working_out_again_from_scratch_gives_the_same_rows()
    {
        await _host.DisposeAsync();
        _host = await BeaconHost.StartAsync(visits: 1_500);
        string before = await SnapshotAsync();
        Assert.True(before.Split('\n').Length > 5_000);
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
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
            var empty = _host.Database.CreateCommand(
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
        Assert.Equal(3L, await _host.ScalarAsync<long>("select count(*) from visit"));
        await KeepAsync(events[1]);
        Assert.Equal(2L, await _host.ScalarAsync<long>("select count(*) from visit"));
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
                    await _host.ScalarAsync<string>("select jsonb_agg(day || ':' || page_views order by started_at)::text from visit")
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
                await _host.ScalarAsync<long>("select count(*) from conversion"),
                await _host.ScalarAsync<decimal>("select sum(value) from conversion")
            )
        );

        // An earlier report of the same order arrives later, from somebody else: it is the one that counts.
        await KeepAsync(order with { Id = Guid.CreateVersion7(), Visitor = other, At = order.At.AddMinutes(-5) });
        Assert.Equal(other, await _host.ScalarAsync<Guid>("select visitor from conversion"));
        Assert.Equal(1L, await _host.ScalarAsync<long>("select count(*) from conversion"));

        // So is one that the same person sent days before.
        await KeepAsync(order with { Id = Guid.CreateVersion7(), Visitor = other, At = order.At.AddDays(-5) });
        Assert.Equal("2026-05-27", await _host.ScalarAsync<string>("select string_agg(day::text, ', ') from conversion"));
    }

    /// <summary>A payment page in the middle of a visit takes nothing from its source; listed or not, the past follows.</summary>
    [Fact]
    public async Task Coming_back_from_a_host_people_pass_through_goes_on_with_the_visit()
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
        using var owner = _host.As("owner");
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
                await _host.ScalarAsync<long>(
                    "select count(*) from visit v join traffic_source s on s.id = v.source_id where s.tags ->> 'utm_source' = 'the_trellis'"
                ),
                await _host.ScalarAsync<long>("select count(*) from visit where tagged_inside")
            )
        );

        string id = (await _host.GetJsonAsync("/api/v1/passing-hosts"))["hosts"]![0]!.Text("id");
        await owner.DoAsync(HttpMethod.Delete, $"/api/v1/passing-hosts/{id}", null);
        await WorkOutAsync();
        Assert.Equal("notpay.example:0 pay.example:0 payments:1 the_trellis:0", await SourcesAsync());

        async Task<string> SourcesAsync()
        {
            var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-01&rows=source&sort=key");
            return string.Join(' ', report["rows"]!.AsArray().Select(r => $"{r!["keys"]![0]}:{r["figures"]!.Whole("conversions")}"));
        }
    }

    [Fact]
    public async Task A_host_in_the_middle_of_purchases_is_suggested()
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

        var suggested = (await _host.GetJsonAsync("/api/v1/passing-hosts"))["suggested"]![0]!;
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
        var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=visitorKind&sort=key");
        Assert.Equal(
            [("", 1, 0), ("new", 1, 1), ("returning", 3, 0)],
            report["rows"]!
                .AsArray()
                .Select(r => (r!["keys"]![0]?.GetValue<string>() ?? "", r["figures"]!.Whole("visits"), r["figures"]!.Whole("newVisitors")))
        );

        // The first one turns out to be no visit at all.
        await using (
            var gone = _host.Database.CreateCommand(
                "delete from page_event where at < '2026-06-02'; insert into visit_due (workspace_id, visitor, day) select workspace_id, visitor, day from visit where day = '2026-06-01'"
            )
        )
        {
            await gone.ExecuteNonQueryAsync();
        }

        await WorkOutAsync();
        Assert.Equal("2026-06-03", await NewOnAsync());
        string before = await SnapshotAsync();
        await new TrafficRebuild(_host.Database).MarkAllAsync(CancellationToken.None);
        await WorkOutAsync();
        Assert.Equal(before, await SnapshotAsync());

        Task<string> NewOnAsync() => _host.ScalarAsync<string>("select string_agg(day::text, ',') from visit where is_new");
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
        Assert.Equal(person, await _host.ScalarAsync<Guid>("select visitor from conversion"));
        Assert.Equal(
            (1L, 0L),
            (
                await _host.ScalarAsync<long>("select count(*) from conversion"),
                await _host.ScalarAsync<long>("select count(*) filter (where bounced) from visit")
            )
        );
    }

    /// <summary>The links of a row are those its visits came by: <c>b1</c> never finds <c>b10</c>, and a channel finds what it claims.</summary>
    [Fact]
    public async Task A_row_knows_the_links_its_visits_came_by()
    {
        using var owner = _host.As("owner");
        var now = DateTime.UtcNow;
        string Moment(int minutes) =>
            now.AddMinutes(minutes).ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
        var links = new[]
        {
            await _host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/visit", "b1", "The Trellis – header button"),
            await _host.SaveLinkAsync($"http://{BeaconHost.GardenHost}/visit", "b10", "The Trellis – header button"),
        };
        for (int i = 0; i < 3; i++)
        {
            await KeepAsync(View(Moment(i + 1), "/", Guid.NewGuid()) with { Url = links[i == 0 ? 0 : 1]["link"].Text("url") });
        }

        await KeepAsync(View(Moment(5), "/visit?utm_source=elsewhere&utm_medium=email&utm_content=b1", Guid.NewGuid()));
        Assert.Equal([(links[0].Text("id"), 1)], await BehindAsync("content:is:b1"));
        Assert.Equal([(links[1].Text("id"), 2)], await BehindAsync("content:is:b10"));
        Assert.Equal([(links[1].Text("id"), 2), (links[0].Text("id"), 1)], await BehindAsync("channel:is:Newsletter and mail"));
        Assert.Equal(
            [(links[1].Text("id"), 2), (links[0].Text("id"), 1)],
            await BehindAsync($"landingPage:is:{BeaconHost.GardenHost}/visit")
        );
        Assert.Empty(await BehindAsync("source:is:elsewhere"));
        Assert.Empty(await BehindAsync("device:is:Tablet"));

        async Task<List<(string, int)>> BehindAsync(string where) =>
            [
                .. (
                    await owner.DoAsync(
                        HttpMethod.Get,
                        $"/api/v1/arrivals/links?from={now:yyyy-MM-dd}&to={now.AddDays(1):yyyy-MM-dd}&where={Uri.EscapeDataString(where)}"
                    )
                )
                    .AsArray()
                    .Select(l => (l!.Text("id"), l!.Whole("visits"))),
            ];
    }

    [Fact]
    public async Task Totals_equal_the_sum_of_their_rows_and_another_currency_is_apart()
    {
        for (int i = 0; i < 12; i++)
        {
            var visitor = Guid.NewGuid();
            var view = View($"2026-06-{i + 1:00}T10:00", $"/?utm_source=s{i % 3}&utm_medium=email&utm_campaign=c{i % 2}", visitor);
            await KeepAsync(
                view,
                view with
                {
                    Id = Guid.CreateVersion7(),
                    At = view.At.AddMinutes(1),
                    Kind = PageEventKind.Conversion,
                    Name = "ticket",
                    OrderId = $"o{i}",
                    Value = 10m + i,
                    Currency = i == 5 ? "GBP" : "EUR",
                }
            );
        }

        var report = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=campaign,source,medium");
        var rows = report["rows"]!.AsArray();
        Assert.Equal(6, rows.Count);
        Assert.Equal(12, report["total"]!["visits"]!.GetValue<int>());
        Assert.Equal(12, rows.Sum(r => r!["figures"]!["visits"]!.GetValue<int>()));
        Assert.Equal("171.00", report["total"]!["revenue"]!["amount"]!.GetValue<string>());
        Assert.Equal(
            171m,
            rows.Sum(r =>
                decimal.Parse(r!["figures"]!["revenue"]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)
            )
        );
        Assert.Equal(
            ("15.00", "GBP"),
            (report["revenueElsewhere"]![0]!["amount"]!.GetValue<string>(), report["revenueElsewhere"]![0]!["currency"]!.GetValue<string>())
        );

        var narrowed = await _host.GetJsonAsync("/api/v1/arrivals?from=2026-06-01&to=2026-06-30&rows=source&where=campaign:is:c1");
        Assert.Equal(6, narrowed["total"]!["visits"]!.GetValue<int>());
        Assert.Equal("c1", rows.Select(r => r!["keys"]![0]!.GetValue<string>()).Distinct().Order().Last());
    }

    [Fact]
    public async Task Whole_months_and_single_days_add_up_to_the_same_as_days_alone()
    {
        await _host.DisposeAsync();
        _host = await BeaconHost.StartAsync(visits: 1_500);
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        foreach (
            var (from, to) in new[]
            {
                (today.AddDays(-120), today),
                (today.AddDays(-12), today.AddDays(-3)),
                (today.AddDays(-400), today),
                (new DateOnly(today.Year, today.Month, 1).AddMonths(-2), new DateOnly(today.Year, today.Month, 1).AddDays(-1)),
            }
        )
        {
            var report = await _host.GetJsonAsync($"/api/v1/arrivals?from={from:yyyy-MM-dd}&to={to:yyyy-MM-dd}&rows=campaign");
            await using var command = _host.Database.CreateCommand(
                """
                select count(*), coalesce(sum(page_views), 0)::bigint, coalesce(sum(conversions), 0)::bigint,
                    (select coalesce(sum(value), 0) from conversion where day between $1 and $2 and currency = 'EUR')
                from visit where day between $1 and $2
                """
            );
            command.Parameters.Add(new() { Value = from });
            command.Parameters.Add(new() { Value = to });
            await using var reader = await command.ExecuteReaderAsync();
            await reader.ReadAsync();
            var total = report["total"]!;
            Assert.Equal(
                (reader.GetInt64(0), reader.GetInt64(1), reader.GetInt64(2), reader.GetDecimal(3)),
                (
                    total["visits"]!.GetValue<long>(),
                    total["pageViews"]!.GetValue<long>(),
                    total["conversions"]!.GetValue<long>(),
                    decimal.Parse(total["revenue"]!["amount"]!.GetValue<string>(), System.Globalization.CultureInfo.InvariantCulture)
                )
            );
            Assert.Equal(total["visits"]!.GetValue<long>(), report["series"]!.AsArray().Sum(d => d!["visits"]!.GetValue<long>()));
            Assert.Equal(to.DayNumber - from.DayNumber > 186 ? "month" : "day", report["per"]!.GetValue<string>());
        }
    }

    [Fact]
    public async Task A_visit_belongs_to_the_link_whose_tags_it_carries()
    {
        using var client = _host.As("editor");
        string exact = await MakeAsync(client, "/visit", "spring");
        string otherPage = await MakeAsync(client, "/shop", "spring");
        string open = await MakeAsync(client, "/visit", "{keyword}");
        var now = DateTime.UtcNow;
        string Moment(int minutes) =>
            now.AddMinutes(minutes).ToString("yyyy-MM-ddTHH:mm:ss", System.Globalization.CultureInfo.InvariantCulture);
        const string Tags = "utm_source=the_trellis&utm_medium=email&utm_campaign=attic_sale&utm_term=";

        await KeepAsync(
            View(Moment(1), $"/visit?{Tags}spring", Guid.NewGuid()),
            View(Moment(2), $"/shop?{Tags}spring", Guid.NewGuid()),
            View(Moment(3), $"/elsewhere?{Tags}spring", Guid.NewGuid()),
            View(Moment(4), $"/visit?{Tags}tulips", Guid.NewGuid()),
            View(Moment(5), "/visit?utm_source=the_trellis", Guid.NewGuid()),
            View(Moment(-60), $"/visit?{Tags}spring", Guid.NewGuid())
        );
        Assert.Equal(
            $"/elsewhere {exact}, /shop {otherPage}, /visit , /visit {exact}, /visit {open}",
            await _host.ScalarAsync<string>(
                """
                select string_agg(distinct replace(c.address, substring(c.address from '^[^/]*'), '') || ' ' || coalesce(v.link_id::text, ''), ', '
                    order by replace(c.address, substring(c.address from '^[^/]*'), '') || ' ' || coalesce(v.link_id::text, ''))
                from visit v join visited_page c on c.id = v.landing_page_id
                """
            )
        );
        var row = await _host.GetJsonAsync($"/api/v1/links/{exact}");
        Assert.Equal((2L, "0.00"), (row["visits"]!.GetValue<long>(), row["revenue"]!["amount"]!.GetValue<string>()));
    }

    /// <summary>The scan is kept before the visit or after it, and the visitor may be known by an id of the site's own.</summary>
    [Theory]
    [InlineData(true, false)]
    [InlineData(true, true)]
    [InlineData(false, false)]
    [InlineData(false, true)]
    public async Task A_visit_through_a_printed_code_is_known_as_one(bool scanFirst, bool known)
    {
        using var client = _host.As("editor");
        string link = await MakeAsync(client, "/visit", "poster");
        var code = await _host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Code'");
        var text = await _host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Text'");
        Guid scanner = Guid.NewGuid(),
            clicker = Guid.NewGuid();
        var at = DateTimeOffset.UtcNow.AddMinutes(1);
        RawHit Hit(Guid shortLink, Guid visitor) =>
            new(
                Guid.CreateVersion7(),
                _workspace,
                at,
                shortLink,
                visitor,
                null,
                HitFlags.None,
                "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                ""
            );
        RawPageEvent Arrived(Guid visitor) =>
            View("2026-06-01T10:00", "/visit?utm_source=the_trellis&utm_medium=email", known ? Guid.NewGuid() : visitor) with
            {
                At = at.AddSeconds(3),
                DayVisitor = known ? visitor : null,
                HasId = known,
            };
        var scans = new RawEvents();
        scans.Hits.AddRange([Hit(code, scanner), Hit(text, clicker)]);
        if (scanFirst)
        {
            await new SpoolDrain(_host.Database).WriteStraightAsync(scans, CancellationToken.None);
        }

        await KeepAsync(Arrived(scanner), Arrived(clicker));
        if (!scanFirst)
        {
            await new SpoolDrain(_host.Database).WriteStraightAsync(scans, CancellationToken.None);
            await WorkOutAsync();
        }

        Assert.Equal(
            "false:1,true:1",
            await _host.ScalarAsync<string>(
                "select string_agg(printed || ':' || visits, ',' order by printed) from (select c.printed, count(*) as visits from visit v join traffic_source c on c.id = v.source_id group by 1) t"
            )
        );

        // A channel may go by it.
        using var owner = _host.As("owner");
        var document = (await _host.GetJsonAsync("/api/v1/convention"))["document"]!.DeepClone();
        document["channels"]!
            .AsArray()
            .Insert(
                0,
                System.Text.Json.Nodes.JsonNode.Parse(
                    """{"name":"Scanned","group":"printed","conditions":[{"subject":"printed","test":"is","values":["yes"]}]}"""
                )
            );
        using var put = await owner.PutAsJsonAsync("/api/v1/convention", new { document, revision = (string?)null });
        string revision = (await put.Content.ReadFromJsonAsync<System.Text.Json.Nodes.JsonNode>())!["revision"]!.GetValue<string>();
        using var published = await owner.PostAsync($"/api/v1/convention/publish?revision={revision}", null);
        var report = await _host.GetJsonAsync("/api/v1/arrivals?rows=channel,group");
        Assert.Equal(
            ["Newsletter and mail/own", "Scanned/printed"],
            report["rows"]!.AsArray().Select(r => string.Join('/', r!["keys"]!.AsArray())).Order(StringComparer.Ordinal)
        );
    }

    /// <summary>The scan answered with the page that was due then; that the link leads elsewhere since changes nothing, nor does a redirect rule.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_scan_counts_as_printed_by_the_page_it_led_to_whatever_the_link_leads_to_later(bool byRule)
    {
        using var client = _host.As("editor");
        string id = await MakeAsync(client, "/visit", "poster");
        string slug = await _host.ScalarAsync<string>($"select '/' || slug from short_links where link_id = '{id}' and use = 'Code'");
        string other = $"http://{BeaconHost.GardenHost}/lantern-nights";
        await Eventually.Async(async () => (await _host.ClickAsync(slug, "curl/8.5.0")).StatusCode == HttpStatusCode.Found);
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{id}/route",
            new
            {
                leadsTo = byRule ? $"http://{BeaconHost.GardenHost}/visit" : other,
                paused = false,
                revision = 0,
                turns = byRule ? new[] { new { leadsTo = other, device = "phone" } } : [],
            }
        );
        // Asked with what counts as no click until the redirector knows; only then does the person come.
        await Eventually.Async(async () =>
            (await _host.ClickAsync(slug, method: HttpMethod.Head)).Headers.Location!.OriginalString.StartsWith(
                other,
                StringComparison.Ordinal
            )
        );
        using (await _host.ClickAsync(slug)) { }

        await Eventually.Async(async () =>
            await _host.ScalarAsync<long>(
                $"select count(*) from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person'"
            ) > 0
        );
        await client.DoAsync(
            HttpMethod.Put,
            $"/api/v1/links/{id}/route",
            new
            {
                leadsTo = $"http://{BeaconHost.GardenHost}/shop",
                paused = false,
                revision = 1,
            }
        );

        var visitor = await _host.ScalarAsync<Guid>(
            $"select visitor from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person' limit 1"
        );
        var at = await _host.ScalarAsync<DateTime>(
            $"select max(c.at) from click c join short_links s on s.id = c.short_link_id where s.link_id = '{id}' and c.kind = 'Person'"
        );
        RawPageEvent Arrived(string path, int after) =>
            View("2026-06-01T10:00", path, visitor) with
            {
                At = new DateTimeOffset(at, TimeSpan.Zero).AddSeconds(after),
            };
        await KeepAsync(Arrived("/lantern-nights?utm_source=a&utm_medium=email", 2), Arrived("/shop?utm_source=b&utm_medium=email", 4));
        Assert.Equal(
            "a:true,b:false",
            await _host.ScalarAsync<string>(
                "select string_agg(distinct (c.tags ->> 'utm_source') || ':' || c.printed, ',') from visit v join traffic_source c on c.id = v.source_id"
            )
        );
    }

    /// <summary>The second tap comes with the next day's hash; it may also be kept before the first one is.</summary>
    [Theory]
    [InlineData(false)]
    [InlineData(true)]
    public async Task A_double_tap_over_midnight_is_one_click(bool lateFirst)
    {
        using var client = _host.As("editor");
        string link = await MakeAsync(client, "/visit", "midnight");
        var text = await _host.ScalarAsync<Guid>($"select id from short_links where link_id = '{link}' and use = 'Text'");
        Guid before = Guid.NewGuid(),
            after = Guid.NewGuid();
        var midnight = new DateTimeOffset(2026, 6, 2, 0, 0, 0, TimeSpan.FromHours(1)); // summer time in Dublin
        RawHit Hit(double seconds, Guid visitor, Guid? earlier) =>
            new(
                Guid.CreateVersion7(),
                _workspace,
                midnight.AddSeconds(seconds).ToUniversalTime(),
                text,
                visitor,
                earlier,
                HitFlags.None,
                "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
                ""
            );
        RawHit[] hits = [Hit(-1, before, null), Hit(0.5, after, before), Hit(60, after, before)];
        foreach (var some in lateFirst ? new[] { hits[1..], hits[..1] } : [hits[..1], hits[1..]])
        {
            var events = new RawEvents();
            events.Hits.AddRange(some);
            await new SpoolDrain(_host.Database).WriteStraightAsync(events, CancellationToken.None);
            await Eventually.Async(async () => await _host.ScalarAsync<long>("select count(*) from hit_due") == 0);
        }

        Assert.Equal(
            "Person,DoubleTap,Person",
            await _host.ScalarAsync<string>($"select string_agg(kind, ',' order by at) from click where short_link_id = '{text}'")
        );
    }

    private static async Task<string> MakeAsync(HttpClient client, string path, string term)
    {
        var answer = await client.PostAsJsonAsync(
            "/api/v1/links",
            new
            {
                destination = $"http://{BeaconHost.GardenHost}{path}",
                fields = new Dictionary<string, string>
                {
                    ["source"] = "the_trellis",
                    ["medium"] = "email",
                    ["campaign"] = "attic_sale",
                    ["term"] = term,
                },
            }
        );
        return (await answer.Content.ReadFromJsonAsync<System.Text.Json.Nodes.JsonNode>())!["id"]!.GetValue<string>();
    }

    [Theory]
    [InlineData("rows=colour")]
    [InlineData("rows=campaign,source,medium,device,country,hour")]
    [InlineData("rows=attribute")]
    [InlineData("rows=source.x")]
    [InlineData("where=source:elsewhere")]
    [InlineData("where=source:like:x")]
    [InlineData("sort=price")]
    [InlineData("page=0")]
    [InlineData("size=5001")]
    [InlineData("compare=lately")]
    [InlineData("compare=2026-02-01,2026-01-01")]
    [InlineData("rows=1")]
    [InlineData("from=2026-06-02&to=2026-06-01")]
    [InlineData("from=yesterday")]
    [InlineData("where=colour:green")]
    public async Task Reports_that_make_no_sense_are_refused(string query)
    {
        using var client = _host.As("viewer");
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, (await client.GetAsync($"/api/v1/arrivals?{query}")).StatusCode);
    }
}
