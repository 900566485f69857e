using System.Globalization;
using System.Text.Json.Nodes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>
/// Every figure computed a second time, in SQL over the raw events and from the rules alone: over both changes of the clocks, midnights,
/// other currencies, crawlers, orders reported twice, two sites, and referrers of every kind.
/// </summary>
public sealed class SecondComputationTests : IAsyncLifetime
{
    private static readonly (string Rows, string Key)[] Rows =
    [
        ("site", "site::text"),
        ("source", "coalesce(tags ->> 'utm_source', case when tags <> '{}' then null when referrer <> '' then referrer else 'direct' end)"),
        ("medium", "coalesce(tags ->> 'utm_medium', case when tags = '{}' and referrer <> '' then 'referral' end)"),
        ("content", "tags ->> 'utm_content'"),
        ("referrer", "nullif(referrer, '')"),
        ("landingPage", "landing"),
        ("lastPage", "last_page"),
        ("country", "nullif(country, '')"),
        ("device", "device"),
        ("language", "nullif(language, '')"),
        ("visitorKind", "case when has_id then case when is_new then 'new' else 'returning' end end"),
        (
            "first.source",
            """
            (select coalesce(f.tags ->> 'utm_source', case when f.tags <> '{}' then null when f.referrer <> '' then f.referrer else 'direct' end)
             from second_visit f where second_visit.has_id and f.has_id and f.visitor = second_visit.visitor order by f.started, f.visit_id limit 1)
            """
        ),
        ("hour", "hour::text"),
        ("day", "day::text"),
        ("weekday", "extract(isodow from day)::text"),
    ];

    /// <summary>Clocks go on and back on 29 March and 25 October 2026 in Dublin.</summary>
    private static readonly (string From, string To)[] Ranges =
    [
        ("2026-03-01", "2026-11-01"),
        ("2026-03-28", "2026-03-28"),
        ("2026-03-29", "2026-03-29"),
        ("2026-03-30", "2026-03-30"),
        ("2026-03-28", "2026-03-30"),
        ("2026-03-31", "2026-04-01"),
        ("2026-04-01", "2026-10-24"),
        ("2026-10-24", "2026-10-24"),
        ("2026-10-25", "2026-10-25"),
        ("2026-10-26", "2026-10-26"),
        ("2026-10-25", "2026-10-31"),
        ("2026-07-01", "2026-07-01"), // nothing
    ];

    private const string Measures = "visits,visitors,revenue,conversions:ticket,conversions:a%20year%252C%20adopted,events:map%20opened";

    /// <summary>Of views, events and conversions.</summary>
    private static readonly string[][] Names =
    [
        [],
        ["map opened", "video"],
        ["ticket", "a year, adopted"],
    ];

    private BeaconHost _host = null!;

    public async Task InitializeAsync() => _host = await BeaconHost.StartAsync(visits: 0);

    public async Task DisposeAsync() => await _host.DisposeAsync();

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public async Task All_rows_of_all_ranges_are_what_the_rules_say(int seed)
    {
        using (var owner = _host.As("owner"))
        {
            await owner.DoAsync(HttpMethod.Post, "/api/v1/passing-hosts", new { host = "pay.example" });
        }

        await KeepAsync(await EventsAsync(new Random(seed)));
        await using (
            var second = _host.Database.CreateCommand(
                await File.ReadAllTextAsync(Path.Combine(DatabaseCluster.Root, "tests/Web.Tests/Arrivals/second-computation.sql"))
            )
        )
        {
            await second.ExecuteNonQueryAsync();
        }

        await using (var keep = _host.Database.CreateCommand("create table second_visit as select * from second_visits('Europe/Dublin')"))
        {
            await keep.ExecuteNonQueryAsync();
        }

        // Half of it is packed.
        var builder = new VisitSegmentBuilder(_host.Database);
        for (int i = 0; i < 4; i++)
        {
            await builder.PackAsync(TimeSpan.Zero, CancellationToken.None);
        }

        Assert.Equal(
            "",
            await _host.ScalarAsync<string>(
                """
                select coalesce(string_agg(concat_ws(' ', case when s.visit_id is null then 'only ours' else 'only theirs' end, coalesce(s.started, v.started_at), coalesce(s.visitor, v.visitor)), E'\n'), '')
                from second_visit s full join visit v on v.id = s.visit_id where s.visit_id is null or v.id is null
                """
            )
        );
        Assert.InRange(await _host.ScalarAsync<long>("select count(*) from second_visit"), 300, 3_000);
        foreach (var (from, to) in Ranges)
        {
            var total = (await ExpectedAsync("'all'", from, to)).Values.SingleOrDefault() ?? new Figure(0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0);
            foreach (var (rows, key) in Rows)
            {
                var report = await _host.GetJsonAsync($"/api/v1/arrivals?from={from}&to={to}&rows={rows}&size=500&measures={Measures}");
                var found = report["rows"]!
                    .AsArray()
                    .Where(r => r!["figures"].Whole("visits") > 0) // others have a cost, or clicks, alone
                    .ToDictionary(r => r!["keys"]![0]?.GetValue<string>() ?? "", r => FigureOf(r!["figures"]!));
                var expected = await ExpectedAsync(key, from, to);
                string where = $"{rows} {from} {to}";
                Assert.True(
                    expected.Count == found.Count && expected.All(e => found.GetValueOrDefault(e.Key) == e.Value),
                    $"{where}\n{string.Join('\n', expected.Where(e => found.GetValueOrDefault(e.Key) != e.Value).Select(e => $"{e.Key}: {e.Value}, but {found.GetValueOrDefault(e.Key)}"))}"
                );
                Assert.Equal(total, FigureOf(report["total"]!));
            }
        }

        await CreditAsync();
    }

    /// <summary>The six models over several windows, by source, by country (which stays the converting visit's), and with a condition.</summary>
    private async Task CreditAsync()
    {
        await using (
            var second = _host.Database.CreateCommand(
                await File.ReadAllTextAsync(Path.Combine(DatabaseCluster.Root, "tests/Web.Tests/Arrivals/second-credit.sql"))
            )
        )
        {
            await second.ExecuteNonQueryAsync();
        }

        const string Source =
            "coalesce(t.tags ->> 'utm_source', case when t.tags <> '{}' then null when t.referrer <> '' then t.referrer else 'direct' end)";
        (string Rows, string Where, string Key, string Fulfils)[] each =
        [
            ("source", "", Source, "true"),
            ("source", "source:is:src1", Source, $"{Source} = 'src1'"),
            ("source,country", "country:is:IE", $"concat({Source}, ' ', c.country)", "c.country = 'IE'"),
            ("", "source:is:src2", "'all'", $"{Source} = 'src2'"),
        ];
        foreach (string model in (string[])["last", "lastTagged", "first", "equal", "ends", "fading"])
        {
            foreach (var (days, (from, to)) in ((int, (string, string))[])[(45, Ranges[0]), (1, Ranges[4]), (90, Ranges[6])])
            {
                foreach (var (rows, where, key, fulfils) in each)
                {
                    string asked = $"from={from}&to={to}&rows={rows}&where={where}&size=500&measures=conversions,revenue";
                    var report = await _host.GetJsonAsync(
                        $"/api/v1/arrivals?{asked.Replace("&where=&", "&", StringComparison.Ordinal)}&credit={model}&creditDays={days}"
                    );
                    var found = (rows.Length == 0 ? [report["total"]!] : report["rows"]!.AsArray().Select(r => r!["figures"]!))
                        .Zip(rows.Length == 0 ? ["all"] : report["rows"]!.AsArray().Select(r => string.Join(' ', r!["keys"]!.AsArray())))
                        .Select(r => (Key: r.Second, Parts: r.First["conversions"]!.GetValue<decimal>(), Money: MoneyOf(r.First)))
                        .Where(r => r.Parts != 0)
                        .OrderBy(r => r.Key, StringComparer.Ordinal);
                    await using var command = _host.Database.CreateCommand(
                        $"""
                        select coalesce({key}, ''), sum(s.parts) / 1000000.0, sum(s.money)
                        from second_credit('{model}', {days}) s
                        join second_visit t on t.visit_id = s.visit
                        join page_event e on e.id = s.conversion
                        join second_visit c on c.visitor = e.visitor and c.site = e.site_id and e.at between c.started and c.ended
                        where s.day between '{from}' and '{to}' and {fulfils}
                        group by 1 having sum(s.parts) > 0
                        """
                    );
                    var expected = new List<(string Key, decimal Parts, decimal Money)>();
                    await using var reader = await command.ExecuteReaderAsync();
                    while (await reader.ReadAsync())
                    {
                        expected.Add((reader.GetString(0), reader.GetDecimal(1), reader.GetDecimal(2)));
                    }

                    Assert.Equal(expected.OrderBy(e => e.Key, StringComparer.Ordinal), found);
                }
            }
        }
    }

    private static decimal MoneyOf(JsonNode figures) =>
        decimal.Parse(figures["revenue"]!["amount"]!.GetValue<string>(), CultureInfo.InvariantCulture);

    private async Task<List<RawPageEvent>> EventsAsync(Random random)
    {
        var workspace = await _host.ScalarAsync<Guid>("select id from workspaces");
        var sites = new List<(Guid Id, string Host)>();
        await using (var command = _host.Database.CreateCommand("select site_id, host from site_hosts order by host"))
        await using (var reader = await command.ExecuteReaderAsync())
        {
            while (await reader.ReadAsync())
            {
                sites.Add((reader.GetGuid(0), reader.GetString(1)));
            }
        }

        string[] days =
        [
            "2026-03-28",
            "2026-03-29",
            "2026-03-30",
            "2026-03-31",
            "2026-04-01",
            "2026-08-14",
            "2026-10-24",
            "2026-10-25",
            "2026-10-26",
            "2026-10-31",
        ];
        string[] referrers =
        [
            "",
            "",
            "https://nattervine.example/feed",
            "https://Pippinwall.example/a?b=c",
            $"http://{BeaconHost.GardenHost}/visit",
            $"http://{_host.ShortHost}/abc",
            "https://checkout.pay.example:8443/done",
            "https://notpay.example/",
            "android-app://something",
        ];
        string[] tags =
        [
            "",
            "",
            "",
            "?utm_source=src1&utm_medium=email",
            "?utm_source=src2&utm_medium=social&utm_content=a",
            "?utm_content=b#part",
            "?UTM_Source=src3&x=1&utm_source=later",
            "?gone=1",
        ];
        string?[] currencies = ["EUR", "USD", null];
        string[] agents =
        [
            "Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1",
            "Mozilla/5.0 (Desk; x64) Fernleaf/12.1",
            "Fernbot/1.0 (crawler; +https://fern.example/bot)",
        ];
        var events = new List<RawPageEvent>();
        for (int v = 0; v < 90; v++)
        {
            var visitor = NextGuid();
            bool hasId = v % 3 == 0;
            string agent = agents[v % 10 == 9 ? 2 : v % 2];
            string country =
                v % 4 == 0 ? ""
                : v % 2 == 0 ? "IE"
                : "FR";
            for (int stretch = 0; stretch < 5; stretch++)
            {
                // Most begin shortly before a midnight or a change of the clocks.
                var at = DateTimeOffset
                    .Parse($"{days[random.Next(days.Length)]}T00:00Z", CultureInfo.InvariantCulture)
                    .AddMinutes(
                        random.Next(3) switch
                        {
                            0 => random.Next(-90, 150),
                            _ => random.Next(0, 1_440),
                        }
                    );
                for (int step = 0; step < 1 + random.Next(6); step++)
                {
                    at = at.AddSeconds(random.Next(6) == 0 ? 1_700 + random.Next(300) : 1 + random.Next(700))
                        .AddMilliseconds(random.Next(1_000));
                    var site = sites[random.Next(5) == 0 ? random.Next(sites.Count) : 0];
                    var kind = (PageEventKind)(
                        random.Next(8) switch
                        {
                            0 => 1,
                            1 => 2,
                            _ => 0,
                        }
                    );
                    events.Add(
                        new RawPageEvent
                        {
                            Id = NextGuid(),
                            WorkspaceId = workspace,
                            SiteId = site.Id,
                            At = at,
                            Kind = kind,
                            Url = $"http://{site.Host}/p{random.Next(7)}{tags[random.Next(tags.Length)]}",
                            Referrer = referrers[random.Next(referrers.Length)],
                            Visitor = visitor,
                            HasId = hasId,
                            UserAgent = agent,
                            Country = country,
                            Language = v % 5 == 0 ? "" : "ga",
                            Name = Names[(int)kind] is { Length: > 0 } some ? some[random.Next(some.Length)] : "",
                            OrderId = kind == PageEventKind.Conversion && random.Next(3) > 0 ? $"o{random.Next(60)}" : null,
                            Value = kind == PageEventKind.Conversion && random.Next(4) > 0 ? random.Next(10_000) / 100m : null,
                            Currency = kind == PageEventKind.Conversion ? currencies[random.Next(3)] : null,
                        }
                    );
                }
            }
        }

        return events;

        Guid NextGuid()
        {
            byte[] bytes = new byte[16];
            random.NextBytes(bytes);
            return new Guid(bytes);
        }
    }

    private async Task KeepAsync(List<RawPageEvent> events)
    {
        // They come in any order, and are worked out in between.
        foreach (var some in events.OrderBy(e => e.Id).Chunk(400))
        {
            var raw = new RawEvents();
            raw.PageEvents.AddRange(some);
            await new SpoolDrain(_host.Database).WriteStraightAsync(raw, CancellationToken.None);
            await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
        }

        await Eventually.Async(async () =>
        {
            await new VisitAggregator(_host.Database).WorkOutAsync(CancellationToken.None);
            return await _host.ScalarAsync<long>("select count(*) from visit_due") == 0;
        });
    }

    private async Task<Dictionary<string, Figure>> ExpectedAsync(string key, string from, string to)
    {
        await using var command = _host.Database.CreateCommand(
            $"""
            select coalesce({key}, ''), count(*), count(distinct visitor), sum(views)::bigint, sum(named)::bigint,
                count(*) filter (where views = 1 and conversions = 0), count(*) filter (where conversions > 0), sum(conversions)::bigint,
                count(*) filter (where is_new), sum(revenue), sum(tickets)::bigint, sum(adoptions)::bigint, sum(maps)::bigint
            from second_visit where day between '{from}' and '{to}' group by 1
            """
        );
        var rows = new Dictionary<string, Figure>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            rows[reader.GetString(0)] = new Figure(
                reader.GetInt64(1),
                reader.GetInt64(2),
                reader.GetInt64(3),
                reader.GetInt64(4),
                reader.GetInt64(5),
                reader.GetInt64(6),
                reader.GetInt64(7),
                reader.GetInt64(8),
                reader.GetDecimal(9),
                reader.GetInt64(10),
                reader.GetInt64(11),
                reader.GetInt64(12)
            );
        }

        return rows;
    }

    private sealed record Figure(
        long Visits,
        long Visitors,
        long PageViews,
        long Events,
        long Bounces,
        long Converting,
        long Conversions,
        long NewVisitors,
        decimal Revenue,
        long Tickets,
        long Adoptions,
        long Maps
    );

    private static Figure FigureOf(JsonNode figures) =>
        new(
            figures.Whole("visits"),
            figures.Whole("visitors"),
            figures.Whole("pageViews"),
            figures.Whole("events"),
            figures.Whole("bounces"),
            figures.Whole("convertingVisits"),
            figures.Whole("conversions"),
            figures.Whole("newVisitors"),
            MoneyOf(figures),
            figures["named"]!.Whole("conversions:ticket"),
            figures["named"]!.Whole("conversions:a year%2C adopted"),
            figures["named"]!.Whole("events:map opened")
        );
}
