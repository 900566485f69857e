using System.Diagnostics;
using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Npgsql;

namespace PreciseBeacon.Bench;

/// <summary>
/// Redirects with the click kept and the drain running, beside a bare Kestrel that keeps nothing. Both stand ready the
/// whole time and are loaded in turns by wrk, which runs on the same machine.
/// </summary>
public static partial class RedirectRun
{
    private const int Pairs = 11;
    private const string Seconds = "4s";
    private const string Connections = "64";

    public static async Task<IReadOnlyList<Report>> MeasureAsync(string connection, string root)
    {
        int port = 5_930;
        int barePort = port + 1;
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        using var app = Start(root, Path.Combine(root, "src/Web/bin/Release/net10.0/PreciseBeacon.Web.dll"),
            $"--urls=http://127.0.0.1:{port}", $"--ConnectionStrings:Beacon={connection}", $"--Beacon:PublicUrl=http://127.0.0.1:{port}", $"--Beacon:DataDirectory={data}",
            "--Beacon:Demo=true", "--Beacon:DemoVisits=0", $"--Beacon:DemoShortHost=mmr.localhost:{port}", "--Logging:LogLevel:Default=Error");
        using var bare = Start(root, typeof(RedirectRun).Assembly.Location, "bare", barePort.ToString(CultureInfo.InvariantCulture));
        try
        {
            string slug = await MakeLinkAsync(port);
            var ours = new List<(double PerSecond, double P99)>();
            var reference = new List<(double PerSecond, double P99)>();
            for (int pair = -1; pair < Pairs; pair++)
            {
                var one = await LoadAsync($"http://127.0.0.1:{port}{slug}", $"mmr.localhost:{port}");
                var other = await LoadAsync($"http://127.0.0.1:{barePort}{slug}", $"mmr.localhost:{port}");
                if (pair >= 0)
                {
                    ours.Add(one);
                    reference.Add(other);
                }
            }

            await SayWhatWasKeptAsync(connection);
            return
            [
                new Report("Redirects with the click kept", "≥ 0.7", [.. ours.Select(o => o.PerSecond)], [.. reference.Select(r => r.PerSecond)], "requests/s"),
                new Report("Their 99th percentile", "≤ 2", [.. ours.Select(o => o.P99)], [.. reference.Select(r => r.P99)], "ms"),
            ];
        }
        finally
        {
            app.Kill();
            bare.Kill();
            await app.WaitForExitAsync();
            Directory.Delete(data, recursive: true);
        }
    }

    private static Process Start(string root, string assembly, params string[] arguments) =>
        Process.Start(new ProcessStartInfo("dotnet", [assembly, .. arguments]) { WorkingDirectory = Path.Combine(root, "src/Web") })!;

    private static async Task<string> MakeLinkAsync(int port)
    {
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
        while (true)
        {
            try
            {
                using var saved = await client.PostAsJsonAsync("/api/v1/links", new { destination = "http://garden.localhost:5081/visit", campaign = "Lantern Nights", placement = "Gate poster" });
                if (saved.IsSuccessStatusCode)
                {
                    await Task.Delay(TimeSpan.FromSeconds(1)); // until the slug table has heard of it
                    return "/" + JsonNode.Parse(await saved.Content.ReadAsStringAsync())!["shortUrl"]!.GetValue<string>().Split('/')[^1];
                }
            }
            catch (HttpRequestException)
            {
                // It is not listening yet.
            }

            await Task.Delay(TimeSpan.FromMilliseconds(200));
        }
    }

    private static async Task<(double PerSecond, double P99)> LoadAsync(string url, string host)
    {
        using var wrk = Process.Start(new ProcessStartInfo(
            "wrk", ["-t1", "-c", Connections, "-d", Seconds, "--latency", "-H", $"Host: {host}", "-H", "User-Agent: Mozilla/5.0 (Phone; Mobile) Fernleaf/12.1", url])
        { RedirectStandardOutput = true })!;
        string said = await wrk.StandardOutput.ReadToEndAsync();
        await wrk.WaitForExitAsync();
        if (said.Contains("Non-2xx", StringComparison.Ordinal))
        {
            throw new InvalidOperationException(said);
        }

        var p99 = P99().Match(said);
        double milliseconds = double.Parse(p99.Groups[1].Value, CultureInfo.InvariantCulture) * (p99.Groups[2].Value switch { "us" => 0.001, "s" => 1_000, _ => 1 });
        return (double.Parse(PerSecond().Match(said).Groups[1].Value, CultureInfo.InvariantCulture), milliseconds);
    }

    private static async Task SayWhatWasKeptAsync(string connection)
    {
        await using var database = NpgsqlDataSource.Create(connection);
        await using var command = database.CreateCommand("select coalesce(sum(moved), 0)::bigint from spool_position");
        long moved = (long)(await command.ExecuteScalarAsync())!;
        Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"The drain moved {moved:#,0} clicks into PostgreSQL while this ran; the rest waits in the spool."));
    }

    [GeneratedRegex(@"Requests/sec:\s*([0-9.]+)")]
    private static partial Regex PerSecond();

    [GeneratedRegex(@"99%\s*([0-9.]+)(us|ms|s)")]
    private static partial Regex P99();
}
