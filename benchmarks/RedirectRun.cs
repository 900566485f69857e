using System.Diagnostics;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Npgsql;

namespace PreciseBeacon.Bench;

/// <summary>
/// Redirects with the click kept and the drain running, beside a bare Kestrel that keeps nothing. Both stand ready the
/// whole time and are loaded in turns by wrk, which runs on the same machine: one process with few slugs, one with a
/// million, or three on one database behind a balancer, each beside the same number of bare ones.
/// </summary>
public static class RedirectRun
{
    private const int Pairs = 11;
    private const int Million = 1_000_000;
    private const int Asked = 10_000;
    internal const int FirstPort = 5_950;
    private const int FirstBarePort = 5_960;
    private const int BalancedPort = 5_970;

    /// <summary>Measures.</summary>
    /// <param name="connection">An empty database.</param>
    /// <param name="root">The project's root.</param>
    /// <param name="slugs">True with a million slugs.</param>
    /// <param name="processes">How many processes; more than one stand behind a balancer.</param>
    public static async Task<IReadOnlyList<Report>> MeasureAsync(string connection, string root, bool slugs = false, int processes = 1)
    {
        string data = Directory.CreateTempSubdirectory("beacon-bench-").FullName;
        string host = $"mmr.localhost:{FirstPort}";
        var running = new List<Process>();
        try
        {
            Process App(int i) => Application(root, connection, data, FirstPort + i, host);

            running.Add(App(0));
            var load = new Load(64, [await MakeLinkAsync(FirstPort)]);
            if (slugs)
            {
                await End(running[0]);
                load = load with { Slugs = await FillAsync(connection) };
                running[0] = App(0);
                var watch = Stopwatch.StartNew();
                await UntilAsync(FirstPort, host, [.. load.Slugs]);
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"A start with {Million:#,0} slugs took {watch.Elapsed.TotalSeconds:0.0} s until all that are asked led on; then the application held {Megabytes(running[0]):0} MB."
                    )
                );
            }

            running.AddRange(Enumerable.Range(1, processes - 1).Select(App));
            running.AddRange(
                Enumerable
                    .Range(0, processes)
                    .Select(i =>
                        Start(
                            root,
                            typeof(RedirectRun).Assembly.Location,
                            "bare",
                            (FirstBarePort + i).ToString(CultureInfo.InvariantCulture)
                        )
                    )
            );
            for (int i = 0; i < processes; i++)
            {
                await UntilAsync(FirstPort + i, host, load.Slugs[0]);
                await UntilAsync(FirstBarePort + i, host, load.Slugs[0]);
            }

            if (processes > 1)
            {
                running.Add(Balance(data, processes));
                await UntilAsync(BalancedPort, host, load.Slugs[0]);
            }

            var (ours, bare) = processes > 1 ? (BalancedPort, BalancedPort + 1) : (FirstPort, FirstBarePort);
            string what =
                processes > 1 ? $"Redirects by {processes} processes behind a balancer"
                : slugs ? "Redirects with a million slugs"
                : "Redirects with the click kept";
            var reports = await CompareAsync(what, load, host, ours, bare);
            await SayWhatWasKeptAsync(connection);
            return reports;
        }
        finally
        {
            foreach (var process in running)
            {
                await End(process);
            }

            Directory.Delete(data, recursive: true);
        }
    }

    private static async Task<IReadOnlyList<Report>> CompareAsync(string what, Load load, string host, int port, int barePort)
    {
        var ours = new List<(double PerSecond, double P99)>();
        var reference = new List<(double PerSecond, double P99)>();
        for (int pair = -1; pair < Pairs; pair++)
        {
            var one = await load.RunAsync(port, host);
            var other = await load.RunAsync(barePort, host);
            if (pair >= 0)
            {
                ours.Add(one);
                reference.Add(other);
            }
        }

        return
        [
            new Report(what, "≥ 0.8", [.. ours.Select(o => o.PerSecond)], [.. reference.Select(r => r.PerSecond)], "requests/s"),
            new Report("Their 99th percentile", "≤ 1.6", [.. ours.Select(o => o.P99)], [.. reference.Select(r => r.P99)], "ms"),
        ];
    }

    /// <summary>Starts the application with the demo's plan and no visits.</summary>
    internal static Process Application(string root, string connection, string data, int port, string shortHost) =>
        Start(
            root,
            Path.Combine(root, "src/Web/bin/Release/net10.0/PreciseBeacon.Web.dll"),
            $"--urls=http://127.0.0.1:{port}",
            $"--ConnectionStrings:Beacon={connection}",
            $"--Beacon:PublicUrl=http://127.0.0.1:{FirstPort}",
            $"--Beacon:DataDirectory={data}",
            "--Beacon:Demo=true",
            "--Beacon:DemoVisits=0",
            $"--Beacon:DemoShortHost={shortHost}",
            $"--Beacon:DemoSiteHost=garden.localhost:{FirstPort + 1}",
            "--Beacon:TrustedProxies:0=127.0.0.1",
            "--Logging:LogLevel:Default=Error"
        );

    private static Process Start(string root, string assembly, params string[] arguments) =>
        Process.Start(new ProcessStartInfo("dotnet", [assembly, .. arguments]) { WorkingDirectory = Path.Combine(root, "src/Web") })!;

    private static async Task End(Process process)
    {
        if (!process.HasExited)
        {
            process.Kill(entireProcessTree: true);
            await process.WaitForExitAsync();
        }
    }

    /// <summary>Debian's nginx: one address for the applications, the next one for the bare ones.</summary>
    private static Process Balance(string directory, int processes)
    {
        string Upstream(string name, int first) =>
            $"upstream {name} {{ {string.Concat(Enumerable.Range(first, processes).Select(p => $"server 127.0.0.1:{p}; "))} keepalive 64; }}";
        string Server(string name, int port) =>
            $"server {{ listen 127.0.0.1:{port}; location / {{ proxy_pass http://{name}; proxy_http_version 1.1; proxy_set_header Connection \"\"; proxy_set_header Host $http_host; proxy_set_header X-Forwarded-For $remote_addr; }} }}";
        string file = Path.Combine(directory, "nginx.conf");
        File.WriteAllText(
            file,
            $$"""
            worker_processes 1;
            daemon off;
            pid {{directory}}/nginx.pid;
            error_log {{directory}}/nginx.log;
            events { worker_connections 1024; }
            http {
              access_log off;
              keepalive_requests 1000000;
              {{Upstream("ours", FirstPort)}}
              {{Upstream("bare", FirstBarePort)}}
              {{Server("ours", BalancedPort)}}
              {{Server("bare", BalancedPort + 1)}}
            }
            """
        );
        return Process.Start(new ProcessStartInfo("/usr/sbin/nginx", ["-c", file]))!;
    }

    /// <summary>Makes a link as soon as the application answers.</summary>
    /// <returns>The path of its short link.</returns>
    internal static async Task<string> MakeLinkAsync(int port)
    {
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{port}") };
        client.DefaultRequestHeaders.Add("Authorization", "Bearer demo-editor");
        while (true)
        {
            try
            {
                using var saved = await client.PostAsJsonAsync(
                    "/api/v1/links",
                    new
                    {
                        destination = $"http://garden.localhost:{FirstPort + 1}/visit",
                        campaign = "Lantern Nights",
                        placement = "Gate poster",
                    }
                );
                if (saved.IsSuccessStatusCode)
                {
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

    /// <summary>Waits until a slug is redirected.</summary>
    private static async Task UntilAsync(int port, string host, params string[] slugs)
    {
        using var client = new HttpClient(new SocketsHttpHandler { AllowAutoRedirect = false });
        foreach (string slug in slugs)
        {
            while (!await LeadsOnAsync(client, $"http://127.0.0.1:{port}{slug}", host))
            {
                await Task.Delay(TimeSpan.FromMilliseconds(50));
            }
        }
    }

    private static async Task<bool> LeadsOnAsync(HttpClient client, string address, string host)
    {
        try
        {
            using var request = new HttpRequestMessage(HttpMethod.Get, address);
            request.Headers.Host = host;
            using var answer = await client.SendAsync(request);
            return answer.StatusCode == HttpStatusCode.Found;
        }
        catch (HttpRequestException)
        {
            return false; // It is not listening yet.
        }
    }

    /// <summary>Puts a million slugs of half a million links beside those there are.</summary>
    /// <returns>Paths of some of them, evenly taken.</returns>
    private static async Task<IReadOnlyList<string>> FillAsync(string connection)
    {
        await using var database = NpgsqlDataSource.Create(connection);
        await using var command = database.CreateCommand(
            $"""
            set session_replication_role = replica;
            insert into links (id, workspace_id, title, destination, url, values, style, convention_version, created_by, created_at, page, tags_key)
            select gen_random_uuid(), w.id, 'Label ' || g, 'http://garden.localhost:5081/shop?item=' || g,
                'http://garden.localhost:5081/shop?item=' || g || '&utm_source=plant_label&utm_medium=print&utm_campaign=school_visits&utm_content=label_' || g, '{"{}"}', 'Query', 1, 'Bench', now(), 'garden.localhost:5081/shop', gen_random_uuid()
            from generate_series(1, {Million / 2}) g, workspaces w;
            insert into short_links (id, workspace_id, link_id, short_domain_id, slug, use, target, created_at)
            select gen_random_uuid(), l.workspace_id, l.id, d.id, 's' || row_number() over (), u.use, l.url, now() from links l, short_domains d, (values ('Text'), ('Code')) u(use) where l.title like 'Label %';
            set session_replication_role = origin;
            analyze links; analyze short_links
            """
        );
        command.CommandTimeout = 1_200;
        await command.ExecuteNonQueryAsync();
        return [.. Enumerable.Range(0, Asked).Select(i => $"/s{1 + (i * (Million / Asked))}")];
    }

    private static async Task SayWhatWasKeptAsync(string connection)
    {
        await using var database = NpgsqlDataSource.Create(connection);
        await using var command = database.CreateCommand("select coalesce(sum(moved), 0)::bigint from spool_position");
        long moved = (long)(await command.ExecuteScalarAsync())!;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"The drain moved {moved:#,0} clicks into PostgreSQL while this ran; the rest waits in the spool."
            )
        );
    }

    /// <summary>Memory that is resident (proc(5), VmRSS).</summary>
    private static double Megabytes(Process process) =>
        double.Parse(
            File.ReadLines($"/proc/{process.Id}/status")
                .First(l => l.StartsWith("VmRSS", StringComparison.Ordinal))
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)[1],
            CultureInfo.InvariantCulture
        ) / 1024;
}
