using System.Diagnostics;
using System.Globalization;
using System.Text.RegularExpressions;
using Npgsql;

namespace PreciseBeacon.Bench;

/// <summary>
/// Two thousand reports of pages a second beside a thousand redirects a second, by one application that works visits out and packs them
/// meanwhile; loader, application and database share the machine. How many of what was answered are in the figures for each second, the
/// seconds until the last one is among them, beside how many were asked for.
/// </summary>
public static partial class SteadyRun
{
    private const int Port = 5_950;
    private const int Seconds = 30;

    /// <summary>The demo's site, as the application is told.</summary>
    private static readonly string Site = $"garden.localhost:{RedirectRun.FirstPort + 1}";

    private const int Pairs = 3;
    private const int ReportsPerSecond = 2_000;
    private const int RedirectsPerSecond = 1_000;

    /// <summary>wrk asks again on each connection after so long, so the number of connections says how many requests a second there are.</summary>
    private const int PauseMilliseconds = 40;

    private const int Visitors = 5_000;

    /// <summary>Measures.</summary>
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    public static async Task<IReadOnlyList<Report>> MeasureAsync(string connection, string root)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        string host = $"mmr.localhost:{Port}";
        using var app = RedirectRun.Application(root, connection, data, Port, host);
        try
        {
            string slug = await RedirectRun.MakeLinkAsync(Port);
            await using var database = NpgsqlDataSource.Create(connection);
            var rates = new List<double>();
            var late = new List<double>();
            for (int pair = -1; pair < Pairs; pair++)
            {
                var (rate, behind) = await AskAsync(database, host, slug, pair < 0 ? 5 : Seconds);
                if (pair >= 0)
                {
                    rates.Add(rate);
                    late.Add(behind);
                }
            }

            return
            [
                new Report(
                    "2,000 reports a second beside 1,000 redirects, until all are in the figures",
                    "≥ 0.9 of what was asked",
                    rates,
                    [.. rates.Select(_ => (double)(ReportsPerSecond + RedirectsPerSecond))],
                    "events/s"
                ),
                new Report("The last of them in the figures after", "≤ 1 of 2 s", late, [.. late.Select(_ => 2.0)], "s"),
            ];
        }
        finally
        {
            app.Kill(entireProcessTree: true);
            await app.WaitForExitAsync();
            Directory.Delete(data, recursive: true);
        }
    }

    private static async Task<(double PerSecond, double Behind)> AskAsync(NpgsqlDataSource database, string host, string slug, int seconds)
    {
        long before = await CountAsync(database);
        var watch = Stopwatch.StartNew();
        long[] asked = await Task.WhenAll(
            WrkAsync(RedirectsPerSecond, seconds, host, $"wrk.format('GET', '{slug}', agent(i))"),
            WrkAsync(
                ReportsPerSecond,
                seconds,
                $"127.0.0.1:{Port}",
                $$"""wrk.format('POST', '/measure', agent(i), '{"k":"demo-garden","u":"http://{{Site}}/p' .. i % 40 .. '?utm_source=src' .. i % 30 .. '&utm_medium=email"}')"""
            )
        );
        double sent = watch.Elapsed.TotalSeconds;
        while (await CountAsync(database) - before < asked.Sum())
        {
            if (watch.Elapsed > TimeSpan.FromMinutes(5))
            {
                throw new InvalidOperationException(
                    $"Only {await CountAsync(database) - before:N0} of {asked.Sum():N0} are in the figures."
                );
            }

            await Task.Delay(50);
        }

        Console.Error.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{asked[1] / sent:0} reports and {asked[0] / sent:0} redirects a second for {sent:0.0} s; {watch.Elapsed.TotalSeconds - sent:0.0} s later all were in the figures."
            )
        );
        return (asked.Sum() / watch.Elapsed.TotalSeconds, watch.Elapsed.TotalSeconds - sent);
    }

    /// <summary>Page views of visits and clicks that are worked out.</summary>
    private static async Task<long> CountAsync(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand(
            "select (select coalesce(sum(page_views), 0) from visit)::bigint + (select count(*) from click)"
        );
        return (long)(await command.ExecuteScalarAsync())!;
    }

    /// <summary>Asks at a steady rate.</summary>
    /// <returns>How many were answered.</returns>
    private static async Task<long> WrkAsync(int perSecond, int seconds, string host, string request)
    {
        string script = Path.GetTempFileName();
        try
        {
            await File.WriteAllTextAsync(
                script,
                $$"""
                local requests = {}
                local at = 0
                local function agent(i)
                  return {
                    ["Host"] = "{{host}}", ["Origin"] = "http://{{Site}}", ["Content-Type"] = "text/plain",
                    ["X-Forwarded-For"] = "10.1." .. math.floor(i / 250) .. "." .. i % 250,
                    ["User-Agent"] = "Mozilla/5.0 (Phone; Mobile; Build " .. i .. ") Fernleaf/" .. i % 40
                  }
                end
                function init(args)
                  for i = 1, {{Visitors}} do requests[i] = {{request}} end
                end
                function request()
                  at = at % #requests + 1
                  return requests[at]
                end
                function delay()
                  return {{PauseMilliseconds}}
                end
                """
            );
            int connections = perSecond * PauseMilliseconds / 1_000;
            using var wrk = Process.Start(
                new ProcessStartInfo("wrk", ["-t1", $"-c{connections}", $"-d{seconds}s", "-s", script, $"http://127.0.0.1:{Port}/"])
                {
                    RedirectStandardOutput = true,
                }
            )!;
            string said = await wrk.StandardOutput.ReadToEndAsync();
            await wrk.WaitForExitAsync();
            return said.Contains("Non-2xx", StringComparison.Ordinal)
                ? throw new InvalidOperationException(said)
                : long.Parse(Answered().Match(said).Groups[1].Value, CultureInfo.InvariantCulture);
        }
        finally
        {
            File.Delete(script);
        }
    }

    [GeneratedRegex(@"(\d+) requests in")]
    private static partial Regex Answered();
}
