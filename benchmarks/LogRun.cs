using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.AccessLogs;
using PreciseBeacon.Data.Traffic;

namespace PreciseBeacon.Bench;

/// <summary>
/// An access log of a million lines until its visits are stored, raw rows included, beside one compiled expression that cuts the same
/// lines into their parts and does nothing else. The log is of a week: one line in eight is a person's page view (some 41,000 visits by 30,000
/// people with 2,000 user agents, four in ten with tags), five in eight are assets, one in five a crawler's, one in twenty an error.
/// </summary>
public static partial class LogRun
{
    private const int Pairs = 3;
    private const int Lines = 1_000_000;
    private const int People = 30_000;
    private const int Agents = 2_000;

    /// <summary>Measures.</summary>
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    public static async Task<Report> MeasureAsync(string connection, string root)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        string log = Path.Combine(data, "access.log");
        Write(log);
        try
        {
            await DemoDatabase.MakeAsync(connection, root, data);
            await using var database = BeaconDatabase.Open(connection);
            using var countries = new Countries(Path.Combine(AppContext.BaseDirectory, "countries.mmdb"));
            var ours = new List<double>();
            var reference = new List<double>();
            for (int pair = 0; pair < Pairs; pair++)
            {
                reference.Add(Match(log));
                ours.Add(await ReadAsync(database, countries, log));
            }

            return new Report(
                "An access log of a million lines until its visits are stored",
                "≤ 10 times one compiled expression",
                ours,
                reference,
                "s"
            );
        }
        finally
        {
            Directory.Delete(data, recursive: true);
        }
    }

    /// <summary>The combined log format as one expression.</summary>
    [GeneratedRegex(
        """^(\S+) (\S+) (\S+) \[([^\]]+)\] "(\S+) ((?:[^"\\]|\\.)*) HTTP/[^"]*" (\d{3}) (\S+) "((?:[^"\\]|\\.)*)" "((?:[^"\\]|\\.)*)"$""",
        RegexOptions.CultureInvariant
    )]
    private static partial Regex Combined();

    private static double Match(string log)
    {
        var watch = Stopwatch.StartNew();
        int matched = 0;
        foreach (string line in File.ReadLines(log))
        {
            matched += Combined().Match(line) is { Success: true, Groups.Count: 11 } ? 1 : 0;
        }

        return matched == Lines ? watch.Elapsed.TotalSeconds : throw new InvalidOperationException($"Only {matched:N0} lines matched.");
    }

    private static async Task<double> ReadAsync(NpgsqlDataSource database, Countries countries, string log)
    {
        await RunAsync(
            database,
            "truncate page_event, visit, page_view, visit_due, visit_segment_due, log_line, log_salt, log_readings, visitor_link"
        );
        var id = Guid.CreateVersion7();
        await RunAsync(
            database,
            $"""
            insert into log_readings (id, workspace_id, site_id, file_name, octets, octets_read, position, lines, kept, skipped, leaves_measured_days, state, added_by, added_at)
            select '{id}', workspace_id, id, 'access.log', 1, 0, 0, 0, 0, '{"{}"}', false, 'Reading', '', now() from sites where measuring_key = 'demo-garden'
            """
        );
        await using var one = database.CreateCommand("select workspace_id from log_readings");
        var workspace = (Guid)(await one.ExecuteScalarAsync())!;

        // Read and worked out side by side, as the application does it, but without its rests.
        var watch = Stopwatch.StartNew();
        bool read = false;
        var reading = Task.Run(async () =>
        {
            using var reader = new AccessLogReader(
                log,
                id,
                workspace,
                database,
                new EventIds(7),
                countries,
                new TownPoints(countries),
                TimeProvider.System
            );
            while (await reader.StepAsync(CancellationToken.None)) { }

            Console.Error.WriteLine(string.Create(CultureInfo.InvariantCulture, $"read after {watch.Elapsed.TotalSeconds:0.0} s"));
            Volatile.Write(ref read, true);
        });
        var visits = new VisitAggregator(database);
        while (true)
        {
            bool last = Volatile.Read(ref read);
            if (await visits.WorkOutAsync(CancellationToken.None) == 0)
            {
                if (last)
                {
                    break;
                }

                await Task.Delay(5);
            }
        }

        await reading;
        watch.Stop();
        await using var count = database.CreateCommand(
            "select count(*), coalesce(sum(page_views), 0), (select max(kept) from log_readings) from visit"
        );
        await using var counted = await count.ExecuteReaderAsync();
        await counted.ReadAsync();
        Console.Error.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{watch.Elapsed.TotalSeconds:0.0} s; {counted.GetInt64(0):N0} visits, {counted.GetInt64(1):N0} page views"
            )
        );
        return counted.GetInt64(1) == counted.GetInt64(2) && counted.GetInt64(0) > 0
            ? watch.Elapsed.TotalSeconds
            : throw new InvalidOperationException("Not every view is in a visit.");
    }

    private static void Write(string log)
    {
        var random = new Random(7);
        var start = DateTime.UtcNow.Date.AddDays(-8);
        string[] tags =
        [
            "",
            "",
            "",
            "?utm_source=nattervine&utm_medium=social&utm_campaign=seed-swap",
            "?utm_source=wendfar&utm_medium=cpc&utm_campaign=bulb-sale",
        ];
        using var file = new StreamWriter(log);
        for (int i = 0; i < Lines; i++)
        {
            // In the order of time, and each person's pages close together: a person of a thousand who are there at once.
            int person = ((i / 700) + random.Next(1_000)) % People;
            int kind = random.Next(40);
            var at = start.AddMilliseconds(i * 600L);
            string agent =
                kind < 30 || kind >= 38
                    ? $"Mozilla/5.0 (Phone; Mobile; Build {person % Agents}) Fernleaf/{person % 40}.{person % 7}"
                    : "WendfarCrawler/2.1 (+https://wendfar.example/crawler)";
            string target =
                kind < 5 ? $"/page-{random.Next(300)}{tags[person % 5]}"
                : kind < 30 ? $"/assets/{random.Next(60)}.webp"
                : $"/page-{random.Next(300)}";
            file.Write(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{100 + (person % 50)}.{person / 250 % 250}.{person % 250}.{person % 199} - - [{at:dd/MMM/yyyy:HH:mm:ss} +0000] \"GET {target} HTTP/1.1\" {(kind >= 38 ? 404 : 200)} {random.Next(200, 60_000)} \"{(kind is >= 5 and < 30 ? "https://marrowmere.example/" : "-")}\" \"{agent}\"\n"
                )
            );
        }
    }

    private static async Task RunAsync(NpgsqlDataSource database, string sql)
    {
        await using var command = database.CreateCommand(sql);
        command.CommandTimeout = 0;
        await command.ExecuteNonQueryAsync();
    }
}
