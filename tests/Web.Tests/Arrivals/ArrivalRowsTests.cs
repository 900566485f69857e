using System.Globalization;
using System.Text.Json.Nodes;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.WebTests.Hosting;

namespace PreciseBeacon.WebTests.Arrivals;

/// <summary>Every row of a report, recomputed in plain SQL over the visits.</summary>
public sealed class ArrivalRowsTests(ArrivalRowsTests.Visited visited) : IClassFixture<ArrivalRowsTests.Visited>
{
    /// <summary>A workspace with some weeks of visits; nothing here changes it.</summary>
    public sealed class Visited : IAsyncLifetime
    {
        public BeaconHost Host { get; private set; } = null!;

        public async Task InitializeAsync()
        {
            Host = await BeaconHost.StartAsync(visits: 2_000);

            // Visits of some days are packed, those of others are read as they are.
            await Eventually.Async(async () =>
            {
                await new VisitSegmentBuilder(Host.Database).PackAsync(TimeSpan.Zero, CancellationToken.None);
                return await Host.ScalarAsync<long>("select count(*) from visit_segment_due") == 0;
            });
            await using var mark = Host.Database.CreateCommand(
                """
                insert into visit_segment_due (workspace_id, day, hour, changed_at)
                select distinct workspace_id, day, hour, now() + interval '1 day' from visit where extract(day from day)::int % 3 = 0 and hour < 12
                """
            );
            await mark.ExecuteNonQueryAsync();
        }

        public async Task DisposeAsync() => await Host.DisposeAsync();
    }

    private BeaconHost Host => visited.Host;

    [Theory]
    [InlineData("content", "s.tags ->> 'utm_content'")]
    [InlineData("term", "s.tags ->> 'utm_term'")]
    [InlineData("field.utm_content", "s.tags ->> 'utm_content'")]
    [InlineData("referrer", "nullif(s.referrer_host, '')")]
    [InlineData("site", "s.site_id::text")]
    [InlineData("link", "v.link_id::text")]
    [InlineData("landingPage", "first.address")]
    [InlineData("lastPage", "last.address")]
    [InlineData("country", "nullif(p.country, '')")]
    [InlineData("region", "nullif(p.region, '')")]
    [InlineData("town", "nullif(p.city, '')")]
    [InlineData("device", "d.kind")]
    [InlineData("model", "nullif(d.model, '')")]
    [InlineData("system", "nullif(d.system, '')")]
    [InlineData("browser", "nullif(d.browser, '')")]
    [InlineData("language", "nullif(d.language, '')")]
    [InlineData(
        "visitorKind",
        "case when not v.has_id then null when exists (select from visit e where e.visitor = v.visitor and e.has_id and (e.started_at, e.id) < (v.started_at, v.id)) then 'returning' else 'new' end"
    )]
    [InlineData("hour", "extract(hour from v.started_at at time zone 'Europe/Dublin')::text")]
    [InlineData("weekday", "extract(isodow from v.day)::text")]
    [InlineData("day", "v.day::text")]
    [InlineData("week", "date_trunc('week', v.day)::date::text")]
    [InlineData("month", "date_trunc('month', v.day)::date::text")]
    public async Task Each_row_is_what_its_visits_come_to(string rows, string key)
    {
        var expected = await ExpectedAsync(key);
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows={rows}&size=500&measures=visits,visitors");
        var found = report["rows"]!.AsArray().ToDictionary(r => r!["keys"]![0]?.GetValue<string>() ?? "", r => Figures(r!["figures"]!));
        Assert.Equal(expected.OrderBy(e => e.Key, StringComparer.Ordinal), found.OrderBy(e => e.Key, StringComparer.Ordinal));
        Assert.Equal(expected.Count, report.Whole("found"));
        Assert.Equal(await TotalAsync(), Figures(report["total"]!));
        Assert.Equal(expected.Values.Sum(e => e.Visits), report["series"]!.AsArray().Sum(d => d!.Whole("visits")));
    }

    /// <summary>A click stands in the row where a visit by its link would, also where nobody arrived.</summary>
    [Theory]
    [InlineData("link", "l.id::text", "", "true")]
    [InlineData("content", "l.values ->> 'utm_content'", "", "true")]
    [InlineData("campaign", "(select value from campaigns g where g.id = l.campaign_id)", "", "true")]
    [InlineData("landingPage", "l.page", "", "true")]
    [InlineData("device", "c.device", "", "true")]
    [InlineData("day", "c.day::text", "", "true")]
    [InlineData("weekday", "extract(isodow from c.day)::text", "", "true")]
    [InlineData("month", "date_trunc('month', c.day)::date::text", "", "true")]
    [InlineData("link", "l.id::text", "&where=device:is:phone", "c.device = 'phone'")]
    [InlineData("content", "l.values ->> 'utm_content'", "&where=weekday:in:1&where=weekday:in:2", "extract(isodow from c.day) in (1, 2)")]
    public async Task Clicks_stand_where_visits_by_their_links_would(string rows, string key, string where, string holds)
    {
        var (first, last) = await SpanAsync();
        foreach (var (from, to) in new[] { (first, last), (first.AddDays(3), last.AddDays(-2)), (last.AddDays(-9), last) })
        {
            var expected = new Dictionary<string, (long Clicks, long Scans)>();
            await using (
                var command = Host.Database.CreateCommand(
                    $"""
                    select coalesce({key}, ''), count(*), count(*) filter (where s.use = 'Code')
                    from click c join short_links s on s.id = c.short_link_id join links l on l.id = s.link_id
                    where c.kind = 'Person' and c.day between $1 and $2 and {holds} group by 1
                    """
                )
            )
            {
                command.Parameters.Add(new() { Value = from });
                command.Parameters.Add(new() { Value = to });
                await using var reader = await command.ExecuteReaderAsync();
                while (await reader.ReadAsync())
                {
                    expected[reader.GetString(0)] = (reader.GetInt64(1), reader.GetInt64(2));
                }
            }

            Assert.NotEmpty(expected);
            var report = await Host.GetJsonAsync(
                $"/api/v1/arrivals?from={from:yyyy-MM-dd}&to={to:yyyy-MM-dd}&rows={rows}{where}&size=5000"
            );
            var found = report["rows"]!
                .AsArray()
                .Where(r => r!["figures"].Whole("clicks") > 0)
                .ToDictionary(
                    r => r!["keys"]![0]?.GetValue<string>() ?? "",
                    r => ((long)r!["figures"].Whole("clicks"), (long)r["figures"].Whole("scans"))
                );
            Assert.Equal(expected.OrderBy(e => e.Key, StringComparer.Ordinal), found.OrderBy(e => e.Key, StringComparer.Ordinal));
            Assert.Equal(expected.Values.Sum(e => e.Clicks), report["total"].Whole("clicks"));
            Assert.Equal(expected.Values.Sum(e => e.Scans), report["total"].Whole("scans"));
        }
    }

    /// <summary>Only visits by a link with a short link could have begun with a click; what clicks do not know is not told.</summary>
    [Fact]
    public async Task Visits_per_click_are_of_visits_by_links()
    {
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows=campaign&size=500&measures=visitsPerClick");
        var byLink = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows=campaign,link&size=5000");
        var shortened = (await Host.ScalarAsync<string[]>("select array_agg(distinct link_id::text) from short_links")).ToHashSet(
            StringComparer.Ordinal
        );
        var visits = byLink["rows"]!
            .AsArray()
            .Where(r => r!["keys"]![1] is { } link && shortened.Contains(link.GetValue<string>()))
            .GroupBy(r => r!["keys"]![0]?.GetValue<string>() ?? "")
            .ToDictionary(g => g.Key, g => g.Sum(r => r!["figures"].Whole("visits")));
        Assert.Contains(byLink["rows"]!.AsArray(), r => r!["keys"]![1] is { } link && !shortened.Contains(link.GetValue<string>()));
        var clicked = report["rows"]!.AsArray().Where(r => r!["figures"].Whole("clicks") > 0).ToList();
        Assert.NotEmpty(clicked);
        Assert.All(clicked, r =>
            Assert.Equal(
                (decimal)visits.GetValueOrDefault(r!["keys"]![0]?.GetValue<string>() ?? "") / r["figures"].Whole("clicks"),
                r["figures"]!["visitsPerClick"]!.GetValue<decimal>(),
                9
            )
        );
        foreach (string rows in new[] { "country", "hour", "referrer", "lastPage", "campaign&where=country:is:IE" })
        {
            var untold = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows={rows}");
            Assert.Null(untold["total"]!["clicks"]);
            Assert.All(untold["rows"]!.AsArray(), r => Assert.Null(r!["figures"]!["clicks"]));
        }

        // Every click has its row before, too.
        var compared = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows=link&compare=before&size=5000");
        var before = await Host.GetJsonAsync(
            $"/api/v1/arrivals?from={compared.Text("comparedFrom")}&to={compared.Text("comparedTo")}&rows=link&size=5000"
        );
        Assert.Equal(before["total"].Whole("clicks"), compared["before"].Whole("clicks"));
        Assert.Equal(before["total"].Whole("clicks"), compared["rows"]!.AsArray().Sum(r => r!["before"].Whole("clicks")));
    }

    /// <summary>The first rows have lines of their own, each point what the same report says of that row and span alone.</summary>
    [Theory]
    [InlineData("day", "source", "")]
    [InlineData("week", "campaign,medium", "&search=e&sort=visits&page=2&size=4")]
    [InlineData("month", "country,hour", "&where=device:is:phone&compare=yearBefore")]
    public async Task Rows_have_lines_of_their_own(string series, string rows, string more)
    {
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows={rows}&series={series}{more}");
        Assert.Equal(series, report.Text("per"));
        var points = report["series"]!.AsArray().Select(p => p!.Text("day")).ToList();
        var all = report["rows"]!.AsArray();
        Assert.Equal(Math.Min(6, all.Count), all.Count(r => r!["series"] is not null));
        string[] fields = rows.Split(',');
        foreach (var row in all.Where(r => r!["series"] is not null))
        {
            long[] line = [.. row!["series"]!.AsArray().Select(p => p!.GetValue<long>())];
            Assert.Equal(row["figures"]!["visits"]!.GetValue<long>(), line.Sum());
            string where = string.Concat(
                fields.Select((f, i) => $"&where={f}:is:{Uri.EscapeDataString(row["keys"]![i]?.GetValue<string>() ?? "")}")
            );
            var alone = await Host.GetJsonAsync(
                $"/api/v1/arrivals?{await RangeAsync()}&rows={series}&size=500{where}{(more.Contains("phone", StringComparison.Ordinal) ? "&where=device:is:phone" : "")}"
            );
            var expected = alone["rows"]!
                .AsArray()
                .ToDictionary(r => r!["keys"]![0]!.GetValue<string>(), r => r!["figures"]!["visits"]!.GetValue<long>());
            Assert.Equal(points.Select(p => expected.GetValueOrDefault(p)), line);
        }

        Assert.Equal(report["total"]!["visits"]!.GetValue<long>(), report["series"]!.AsArray().Sum(p => p!["visits"]!.GetValue<long>()));
    }

    /// <summary>Campaigns side by side say what each one's own report says over its own days.</summary>
    [Fact]
    public async Task Campaigns_stand_side_by_side_each_from_its_own_first_day()
    {
        var plan = (await Host.GetJsonAsync("/api/v1/campaigns")).AsArray();
        var begun = plan.Where(c =>
                c!["startsOn"] is { } starts
                && DateOnly.Parse(starts.GetValue<string>(), CultureInfo.InvariantCulture) < DateOnly.FromDateTime(DateTime.UtcNow)
            )
            .Take(2)
            .ToList();
        var endless = plan.First(c => c!["startsOn"] is null)!;
        string[] named = [begun[0]!.Text("value"), begun[1]!.Text("name"), endless.Text("id")];
        var report = await Host.GetJsonAsync(
            $"/api/v1/arrivals?from=2026-01-01&to=2026-02-09&rows=source,device&size=500&series=day&compare=campaigns:{Uri.EscapeDataString(string.Join(',', named))}"
        );
        var compared = report["campaigns"]!.AsArray();
        Assert.Equal(3, compared.Count);
        Assert.Equal(begun[0]!.Text("startsOn"), compared[0]!.Text("from"));
        for (int i = 0; i < 3; i++)
        {
            var campaign = compared[i]!;
            var days = (
                DateOnly.Parse(campaign.Text("from"), CultureInfo.InvariantCulture),
                DateOnly.Parse(campaign.Text("to"), CultureInfo.InvariantCulture)
            );
            Assert.InRange(days.Item2.DayNumber - days.Item1.DayNumber, 0, 39);
            var alone = await Host.GetJsonAsync(
                $"/api/v1/arrivals?from={campaign.Text("from")}&to={campaign.Text("to")}&rows=source,device&size=500&where=campaign:is:{campaign.Text("value")}"
            );
            Assert.Equal(alone["total"]!.ToJsonString(), campaign["total"]!.ToJsonString());
            var expected = alone["rows"]!.AsArray().ToDictionary(r => r!["keys"]!.ToJsonString(), r => r!["figures"]!.ToJsonString());
            var found = report["rows"]!
                .AsArray()
                .ToDictionary(r => r!["keys"]!.ToJsonString(), r => (i == 0 ? r!["figures"] : r!["beside"]![i - 1])!);
            Assert.All(expected, e => Assert.Equal(e.Value, found[e.Key].ToJsonString()));
            Assert.All(found.Where(f => !expected.ContainsKey(f.Key)), f => Assert.Equal(0, f.Value["visits"]!.GetValue<long>()));
        }

        Assert.True(compared.Sum(c => c!["total"]!["visits"]!.GetValue<long>()) > 0);
    }

    [Theory]
    [InlineData("series=hour")]
    [InlineData("series=")]
    [InlineData("compare=campaigns:")]
    [InlineData("compare=campaigns:seed_swap")]
    [InlineData("compare=campaigns:seed_swap,nothing_of_ours")]
    [InlineData("compare=campaigns:a,b,c,d,e,f,g")]
    public async Task What_can_t_be_compared_or_drawn_is_refused(string query)
    {
        using var viewer = Host.As("viewer");
        Assert.Equal(System.Net.HttpStatusCode.BadRequest, (await viewer.GetAsync($"/api/v1/arrivals?{query}")).StatusCode);
    }

    [Theory]
    [InlineData("channel,campaign,source,medium,content")]
    [InlineData("campaign,country,device")]
    [InlineData("source,landingPage,weekday")]
    public async Task Rows_of_several_levels_add_up_to_the_total(string rows)
    {
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{await RangeAsync()}&rows={rows}&size=20");
        var total = Figures(report["total"]!);
        var rest = report["rest"];
        Assert.Equal(report.Whole("found"), report["rows"]!.AsArray().Count + report.Whole("restRows"));
        Assert.Equal(
            (total.Visits, total.PageViews, total.Bounces, total.Conversions, total.Revenue),
            (
                Sum("visits") + (rest?.Whole("visits") ?? 0),
                Sum("pageViews") + (rest?.Whole("pageViews") ?? 0),
                Sum("bounces") + (rest?.Whole("bounces") ?? 0),
                Sum("conversions") + (rest?.Whole("conversions") ?? 0),
                report["rows"]!.AsArray().Sum(r => Revenue(r!["figures"]!)) + (rest is null ? 0 : Revenue(rest))
            )
        );
        Assert.Null(rest?["visitors"]);

        long Sum(string figure) => report["rows"]!.AsArray().Sum(r => r!["figures"]!.Whole(figure));
    }

    [Theory]
    [InlineData("source")]
    [InlineData("country")]
    [InlineData("landingPage")]
    [InlineData("hour")]
    [InlineData("placement")]
    public async Task Narrowing_to_a_row_gives_that_row(string rows)
    {
        string range = await RangeAsync();
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{range}&rows={rows}&size=500");
        foreach (var row in report["rows"]!.AsArray().Take(3))
        {
            string key = row!["keys"]![0]?.GetValue<string>() ?? "";
            string value = Uri.EscapeDataString(key);
            var only = await Host.GetJsonAsync($"/api/v1/arrivals?{range}&rows=device&where={rows}:is:{value}");
            var others = await Host.GetJsonAsync($"/api/v1/arrivals?{range}&rows=&where={rows}:not:{value}");
            Assert.Equal(Figures(row["figures"]!), Figures(only["total"]!));
            Assert.Equal(report["total"]!.Whole("visits"), only["total"]!.Whole("visits") + others["total"]!.Whole("visits"));
            Assert.Empty(others["rows"]!.AsArray());
        }
    }

    [Fact]
    public async Task A_comparison_is_the_report_of_the_other_span_row_by_row()
    {
        string range = await RangeAsync();
        var compared = await Host.GetJsonAsync($"/api/v1/arrivals?{range}&rows=source&size=500&compare=before");
        var before = await Host.GetJsonAsync(
            $"/api/v1/arrivals?from={compared.Text("comparedFrom")}&to={compared.Text("comparedTo")}&rows=source&size=500"
        );
        Assert.Equal(Figures(before["total"]!), Figures(compared["before"]!));
        Assert.Equal(
            before["rows"]!
                .AsArray()
                .Select(r => (r!["keys"]![0]?.GetValue<string>(), Figures(r["figures"]!)))
                .OrderBy(r => r.Item1, StringComparer.Ordinal),
            compared["rows"]!
                .AsArray()
                .Where(r => r!["before"]!.Whole("visits") > 0)
                .Select(r => (r!["keys"]![0]?.GetValue<string>(), Figures(r["before"]!)))
                .OrderBy(r => r.Item1, StringComparer.Ordinal)
        );
    }

    [Fact]
    public async Task A_report_says_how_far_it_goes()
    {
        var freshness = (await Host.GetJsonAsync("/api/v1/arrivals?rows="))["freshness"]!;
        Assert.Equal(
            await Host.ScalarAsync<DateTime>(
                "select max(ended_at) from visit where (day, hour) = (select day, hour from visit order by day desc, hour desc limit 1)"
            ),
            freshness["upTo"]!.GetValue<DateTimeOffset>().UtcDateTime
        );
        Assert.Equal(0, freshness.Whole("waiting"));
    }

    [Fact]
    public async Task Rows_are_called_by_name_and_found_by_it()
    {
        string range = await RangeAsync();
        var report = await Host.GetJsonAsync($"/api/v1/arrivals?{range}&rows=campaign&size=500");
        var (value, name) = report["names"]!["campaign"]!.AsObject().Select(n => (n.Key, n.Value!.GetValue<string>())).First();
        var found = await Host.GetJsonAsync(
            $"/api/v1/arrivals?{range}&rows=campaign&search={Uri.EscapeDataString(name.ToUpperInvariant())}"
        );
        Assert.Contains(found["rows"]!.AsArray(), r => r!["keys"]![0]!.GetValue<string>() == value);
        Assert.True(found.Whole("found") < report.Whole("found"));
    }

    private sealed record Row(long Visits, long Visitors, long PageViews, long Bounces, long Converting, long Conversions, decimal Revenue);

    private static decimal Revenue(JsonNode figures) =>
        decimal.Parse(figures["revenue"]!["amount"]!.GetValue<string>(), CultureInfo.InvariantCulture);

    private static Row Figures(JsonNode figures) =>
        new(
            figures.Whole("visits"),
            figures.Whole("visitors"),
            figures.Whole("pageViews"),
            figures.Whole("bounces"),
            figures.Whole("convertingVisits"),
            figures.Whole("conversions"),
            Revenue(figures)
        );

    private async Task<Row> TotalAsync() => (await ExpectedAsync("'all'")).Values.Single();

    private async Task<Dictionary<string, Row>> ExpectedAsync(string key)
    {
        await using var command = Host.Database.CreateCommand(
            $"""
            select coalesce({key}, ''), count(*), count(distinct v.visitor), sum(v.page_views)::bigint, count(*) filter (where v.bounced),
                count(*) filter (where v.conversions > 0), sum(v.conversions)::bigint,
                coalesce(sum((select sum(c.value) from conversion c where c.visit_id = v.id and coalesce(c.currency, 'EUR') = 'EUR')), 0)
            from visit v join traffic_source s on s.id = v.source_id
            join visited_page first on first.id = v.landing_page_id join visited_page last on last.id = v.last_page_id
            join visit_place p on p.id = v.place_id join visit_device d on d.id = v.device_id
            where v.day between $1 and $2 group by 1
            """
        );
        var (from, to) = await SpanAsync();
        command.Parameters.Add(new() { Value = from });
        command.Parameters.Add(new() { Value = to });
        var rows = new Dictionary<string, Row>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync())
        {
            rows[reader.GetString(0)] = new Row(
                reader.GetInt64(1),
                reader.GetInt64(2),
                reader.GetInt64(3),
                reader.GetInt64(4),
                reader.GetInt64(5),
                reader.GetInt64(6),
                reader.GetDecimal(7)
            );
        }

        Assert.NotEmpty(rows);
        return rows;
    }

    /// <summary>Parts of a first and a last month with whole ones between them.</summary>
    private async Task<(DateOnly From, DateOnly To)> SpanAsync()
    {
        var last = await Host.ScalarAsync<DateOnly>("select max(day) from visit");
        var to = last.AddDays(-4);
        return (to.AddDays(-75), to);
    }

    private async Task<string> RangeAsync()
    {
        var (from, to) = await SpanAsync();
        return $"from={from:yyyy-MM-dd}&to={to:yyyy-MM-dd}";
    }
}
