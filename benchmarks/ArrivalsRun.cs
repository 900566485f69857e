using System.Diagnostics;
using System.Globalization;
using Npgsql;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Bench;

/// <summary>
/// Reports over many visits through the API, each beside the same GROUP BY over the raw visits. 26 months, 40,000 traffic sources whose
/// visits follow Zipf's law (exponent 1.1), 300 pages and 60 countries skewed differently for each source, 40 devices, six visitors for
/// every ten visits, two conversions in a hundred visits.
/// </summary>
public static class ArrivalsRun
{
    private const int Port = 5_931;
    private const int Rounds = 9;
    private const int Sources = 40_000;
    private const int Campaigns = 400;

    /// <summary>Measures.</summary>
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    /// <param name="visits">How many visits.</param>
    /// <param name="what"><c>credit</c> for the models of credit, over four conversions in a hundred visits; <c>strays</c> for finding strays where each source has a value of its own; else reports.</param>
    public static async Task<IReadOnlyList<Report>> MeasureAsync(string connection, string root, int visits, string what)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        using var app = Process.Start(
            new ProcessStartInfo(
                "dotnet",
                [
                    Path.Combine(root, "src/Web/bin/Release/net10.0/PreciseBeacon.Web.dll"),
                    $"--urls=http://127.0.0.1:{Port}",
                    $"--ConnectionStrings:Beacon={connection}",
                    $"--Beacon:DataDirectory={data}",
                    "--Beacon:Demo=true",
                    "--Beacon:DemoVisits=0",
                    $"--Beacon:DemoShortHost=mmr.localhost:{Port}",
                    "--Logging:LogLevel:Default=Error",
                ]
            )
            {
                WorkingDirectory = Path.Combine(root, "src/Web"),
            }
        )!;
        try
        {
            using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{Port}"), Timeout = TimeSpan.FromMinutes(5) };
            client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-owner");
            await BatchRun.UpAsync(client);
            await using var database = NpgsqlDataSource.Create(connection + ";Command Timeout=3600");
            var watch = Stopwatch.StartNew();
            await MakeAsync(database, visits, what == "credit" ? 0.04 : 0.02);
            Console.WriteLine(
                string.Create(CultureInfo.InvariantCulture, $"{visits:#,0} visits made and packed in {watch.Elapsed.TotalSeconds:0} s.")
            );
            return what switch
            {
                "credit" => await CreditAsync(client, database),
                "strays" => await StraysAsync(client, database),
                _ => await CompareAsync(client, database),
            };
        }
        finally
        {
            app.Kill();
            await app.WaitForExitAsync();
            Directory.Delete(data, recursive: true);
        }
    }

    private static async Task<IReadOnlyList<Report>> CompareAsync(HttpClient client, NpgsqlDataSource database)
    {
        const string Campaign = "s.tags ->> 'utm_campaign'";
        const string Source = "s.tags ->> 'utm_source'";
        const string Sums =
            "count(*), sum(v.page_views), sum(v.seconds), count(*) filter (where v.bounced), count(*) filter (where v.conversions > 0)";
        const string Visitors = Sums + ", count(distinct v.visitor)";
        const string Additive = "measures=visits,pageViews,bounceRate,conversions,revenue";
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        var month = new DateOnly(today.Year, today.Month, 1);
        var (yearFrom, yearTo) = (month.AddMonths(-12), month.AddDays(-1));
        (string What, string Goal, string Asked, DateOnly From, DateOnly To, string[] Raw)[] questions =
        [
            (
                "Campaign, then source, whole months, with comparison",
                "≤ 150 ms, ≤ 0.2",
                $"rows=campaign,source&compare=before&{Additive}",
                yearFrom,
                yearTo,
                [Campaign, Source, Sums, "compared"]
            ),
            (
                "Campaign, then source, a year that ends today, with comparison",
                "≤ 350 ms, ≤ 0.2",
                $"rows=campaign,source&compare=before&{Additive}",
                today.AddYears(-1),
                today,
                [Campaign, Source, Sums, "compared"]
            ),
            ("Visitors by campaign, whole months", "≤ 400 ms", "rows=campaign", yearFrom, yearTo, [Campaign, Visitors]),
            (
                "Campaign × country, whole months",
                "≤ 1,200 ms, ≤ 0.33",
                $"rows=campaign,country&{Additive}",
                yearFrom,
                yearTo,
                [Campaign, "p.country", Sums]
            ),
            (
                "Source × landing page, whole months",
                "≤ 1,200 ms, ≤ 0.33",
                $"rows=source,landingPage&{Additive}",
                yearFrom,
                yearTo,
                [Source, "v.landing_page_id", Sums]
            ),
            ("Campaign, the last 30 days", "≤ 300 ms", $"rows=campaign&{Additive}", today.AddDays(-29), today, [Campaign, Sums]),
            ("Campaign with visitors, the last 30 days", "≤ 600 ms", "rows=campaign", today.AddDays(-29), today, [Campaign, Visitors]),
        ];
        var reports = new List<Report>();
        foreach (var question in questions)
        {
            string url = $"/api/v1/arrivals?from={question.From:yyyy-MM-dd}&to={question.To:yyyy-MM-dd}&{question.Asked}";
            bool compared = question.Raw[^1] == "compared";
            string[] raw = compared ? question.Raw[..^1] : question.Raw;
            var ours = new List<double>();
            var reference = new List<double>();
            for (int round = -1; round < Rounds; round++)
            {
                double mine = await TimeAsync(async () => (await client.GetAsync(url)).EnsureSuccessStatusCode().Dispose());
                double its = await TimeAsync(async () =>
                {
                    int days = question.To.DayNumber - question.From.DayNumber + 1;
                    await GroupAsync(database, raw, question.From, question.To);
                    if (compared)
                    {
                        await GroupAsync(database, raw, question.From.AddDays(-days), question.From.AddDays(-1));
                    }
                });
                if (round >= 0)
                {
                    ours.Add(mine);
                    reference.Add(its);
                }
            }

            reports.Add(new Report(question.What, question.Goal, ours, reference, "ms"));
        }

        return reports;
    }

    /// <summary>
    /// Strays among 40,000 sources, each with a source value that no list knows, beside a GROUP BY of the same visits by source. A third of
    /// the values are one slip away from a word of the list, so that each has to be looked for among all words.
    /// </summary>
    private static async Task<IReadOnlyList<Report>> StraysAsync(HttpClient client, NpgsqlDataSource database)
    {
        await RunAsync(
            database,
            """
            update traffic_source set tags = jsonb_set(tags, '{utm_source}', to_jsonb(
                case when id % 3 = 0 then overlay((array['the_trellis', 'gate_poster', 'plant_label', 'nattervine', 'wendfar'])[1 + id / 3 % 5] placing chr(97 + id / 15 % 26) from 3 for 1) || id / 390
                else 'source_' || id end))
            """
        );
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        var reports = new List<Report>();
        foreach (int days in (int[])[30, 90, 365])
        {
            var from = today.AddDays(1 - days);
            string url = $"/api/v1/strays?from={from:yyyy-MM-dd}&to={today:yyyy-MM-dd}";
            var ours = new List<double>();
            var reference = new List<double>();
            for (int round = -1; round < Rounds; round++)
            {
                double mine = await TimeAsync(async () => (await client.GetAsync(url)).EnsureSuccessStatusCode().Dispose());
                double its = await TimeAsync(() =>
                    GroupAsync(database, ["s.tags ->> 'utm_source'", "count(*), min(v.day), max(v.day)"], from, today)
                );
                if (round >= 0)
                {
                    ours.Add(mine);
                    reference.Add(its);
                }
            }

            reports.Add(new Report($"Strays among {Sources:#,0} sources, {days} days", "≤ 1,000 ms", ours, reference, "ms"));
        }

        return reports;
    }

    /// <summary>Conversions and revenue of a year by campaign, by each model, beside one model in SQL over the raw visits.</summary>
    private static async Task<IReadOnlyList<Report>> CreditAsync(HttpClient client, NpgsqlDataSource database)
    {
        var today = DateOnly.FromDateTime(DateTime.UtcNow);
        var (from, to) = (today.AddYears(-1), today);
        var reports = new List<Report>();

        // What SQL takes is the same whatever the model, and long: three times for all of them.
        var reference = new List<double>();
        for (int round = 0; round < 3; round++)
        {
            reference.Add(await TimeAsync(() => EqualPartsAsync(database, from, to)));
        }

        foreach (string model in (string[])["last", "lastTagged", "first", "equal", "ends", "fading"])
        {
            string url =
                $"/api/v1/arrivals?from={from:yyyy-MM-dd}&to={to:yyyy-MM-dd}&rows=campaign&measures=visits,conversions,revenue&credit={model}";
            var ours = new List<double>();
            for (int round = -1; round < Rounds; round++)
            {
                double mine = await TimeAsync(async () => (await client.GetAsync(url)).EnsureSuccessStatusCode().Dispose());
                if (round >= 0)
                {
                    ours.Add(mine);
                }
            }

            reports.Add(
                new Report(
                    $"Credit by {model}, a year",
                    "≤ 1,000 ms",
                    ours,
                    [.. Enumerable.Range(0, Rounds).Select(i => reference[i % reference.Count])],
                    "ms"
                )
            );
        }

        return reports;
    }

    private static async Task EqualPartsAsync(NpgsqlDataSource database, DateOnly from, DateOnly to)
    {
        await using var command = database.CreateCommand(
            """
            select t.campaign, sum(1.0 / t.touches), sum(t.value / t.touches) from (
                select s.tags ->> 'utm_campaign' as campaign, c.value, count(*) over (partition by c.id) as touches
                from conversion c join visit v on v.workspace_id = c.workspace_id and v.visitor = c.visitor
                    and v.started_at between c.at - interval '45 days' and c.at
                join traffic_source s on s.id = v.source_id
                where c.workspace_id = (select id from workspaces limit 1) and c.day between $1 and $2
            ) t group by 1
            """
        );
        command.Parameters.Add(new() { Value = from });
        command.Parameters.Add(new() { Value = to });
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) { }
    }

    private static async Task GroupAsync(NpgsqlDataSource database, string[] columns, DateOnly from, DateOnly to)
    {
        string groups = string.Join(", ", Enumerable.Range(1, columns.Length - 1));
        await using var command = database.CreateCommand(
            $"""
            select {string.Join(", ", columns)}
            from visit v join traffic_source s on s.id = v.source_id join visit_place p on p.id = v.place_id
            where v.workspace_id = (select id from workspaces limit 1) and v.day between $1 and $2 group by {groups}
            """
        );
        command.Parameters.Add(new() { Value = from });
        command.Parameters.Add(new() { Value = to });
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) { }
    }

    private static async Task<double> TimeAsync(Func<Task> does)
    {
        long began = Stopwatch.GetTimestamp();
        await does();
        return Stopwatch.GetElapsedTime(began).TotalMilliseconds;
    }

    private static async Task MakeAsync(NpgsqlDataSource database, int visits, double converting)
    {
        await RunAsync(
            database,
            $"""
            insert into traffic_source (workspace_id, hash, site_id, referrer_host, printed, tags)
            select w.id, gen_random_uuid(), (select id from sites limit 1), '', false, jsonb_build_object(
                'utm_campaign', 'campaign_' || i / {Sources
                / Campaigns}, 'utm_source', 'source_' || i / 5 % 20, 'utm_medium', (array['email', 'social', 'cpc', 'qr', 'banner'])[1 + i / 5 % 5],
                'utm_content', 'content_' || i)
            from workspaces w, generate_series(0, {Sources - 1}) i;
            insert into visited_page (workspace_id, key, address) select w.id, i, 'garden.localhost:5081/page-' || i from workspaces w, generate_series(1, 300) i;
            insert into visit_place (country, region, city) select chr(65 + i / 26) || chr(65 + i % 26), '', '' from generate_series(0, 59) i;
            insert into visit_device (kind, language) select (array['phone', 'tablet', 'computer', 'phone'])[1 + i % 4], 'l' || i from generate_series(0, 39) i;
            select make_month((date_trunc('month', now()) - make_interval(months => i))::date) from generate_series(0, 25) i
            """
        );
        for (int month = 25; month >= 0; month--)
        {
            // A power law's inverse distribution function, for ranks from 1 to the number of sources.
            await RunAsync(
                database,
                $"""
                insert into visit (id, workspace_id, visitor, started_at, ended_at, source_id, landing_page_id, last_page_id, place_id, device_id, day,
                    page_views, events, seconds, conversions, hour, has_id, bounced, tagged_inside)
                select gen_random_uuid(), w.id, md5(floor(random() * {visits
                    * 0.6})::text)::uuid, r.at, r.at + make_interval(secs => r.seconds),
                    s.first + (r.rank * 7919) % {Sources}, p.first + (r.rank * 13 + r.page) % 300, p.first + (r.rank * 13 + r.page + r.views) % 300,
                    l.first + (r.rank * 7 + r.place) % 60, d.first + r.device, (r.at at time zone 'UTC')::date,
                    r.views, 0, r.seconds, r.conversions, extract(hour from r.at), r.device % 2 = 0, r.views = 1 and r.conversions = 0, false
                from (select id from workspaces limit 1) w, (select min(id) as first from traffic_source) s, (select min(id) as first from visited_page) p,
                    (select min(id) as first from visit_place) l, (select min(id) as first from visit_device) d,
                    lateral (
                        select least(now(), date_trunc('month', now()) - make_interval(months => {month}) + make_interval(secs => random() * 28 * 86400)) as at,
                            least({Sources - 1}, floor(power(1 + random() * (power({Sources}, -0.1) - 1), -10))::int - 1) as rank,
                            floor(power(random(), 2) * 300)::int as page, floor(power(random(), 3) * 60)::int as place, floor(random() * 40)::int as device,
                            1 + floor(power(random(), 2) * 8)::int as views, floor(random() * 600)::int as seconds, (random() < {converting.ToString(CultureInfo.InvariantCulture)})::int as conversions
                        from generate_series(1, {visits / 26}) i
                    ) r
                """
            );
        }

        await RunAsync(
            database,
            """
            insert into conversion (id, workspace_id, site_id, visit_id, visitor, at, day, kind, value, currency, source_id, landing_page_id, last_page_id,
                place_id, device_id, hour)
            select gen_random_uuid(), workspace_id, (select id from sites limit 1), id, visitor, started_at, day, 'ticket', 10 + (seconds % 50), 'EUR', source_id,
                landing_page_id, last_page_id, place_id, device_id, hour
            from visit where conversions > 0;
            """
        );
        await RunAsync(
            database,
            """
            insert into visitor_first (workspace_id, visitor, visit_id, started_at, day, source_id)
            select distinct on (workspace_id, visitor) workspace_id, visitor, id, started_at, day, source_id from visit where has_id
            order by workspace_id, visitor, started_at, id;
            update visit v set is_new = f.visit_id = v.id, first_source_id = f.source_id from visitor_first f
            where v.has_id and f.workspace_id = v.workspace_id and f.visitor = v.visitor
            """
        );
        await RunAsync(
            database,
            "insert into visit_segment_due (workspace_id, day, hour, changed_at) select distinct workspace_id, day, hour, now() from visit"
        );
        var builder = new VisitSegmentBuilder(database);
        while (await builder.PackAsync(TimeSpan.Zero, CancellationToken.None)) { }

        await RunAsync(database, "vacuum analyze");
    }

    private static async Task RunAsync(NpgsqlDataSource database, string sql)
    {
        await using var command = database.CreateCommand(sql);
        await command.ExecuteNonQueryAsync();
    }
}
