using System.Diagnostics;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>The application, or a stand-in, as a process of its own, which can be killed.</summary>
public sealed class BeaconProcess : IAsyncDisposable
{
    /// <summary>A cold start on a machine that others use too.</summary>
    private static readonly TimeSpan StartsWithin = TimeSpan.FromMinutes(2);

    private readonly Process _process;

    private BeaconProcess(Process process, int port) => (_process, Port) = (process, port);

    public int Port { get; }

    public bool HasExited => _process.HasExited;

    /// <summary>Starts the application and waits until it is ready.</summary>
    public static async Task<BeaconProcess> StartAsync(
        string connection,
        string data,
        int port,
        bool demo = true,
        int visits = 0,
        string? siteHost = null,
        params string[] more
    )
    {
        var started = Begin(connection, data, port, demo, visits, siteHost, more);
        await started.WaitAsync("/readyz");
        return started;
    }

    /// <summary>Starts the application where it can't get ready, and waits until it lives.</summary>
    public static async Task<BeaconProcess> StartUnreadyAsync(string connection, string data, int port)
    {
        var started = Begin(connection, data, port, demo: true, visits: 0, siteHost: null);
        await started.WaitAsync("/healthz");
        return started;
    }

    private static BeaconProcess Begin(
        string connection,
        string data,
        int port,
        bool demo,
        int visits,
        string? siteHost,
        params string[] more
    )
    {
        var arguments = BeaconHost.Arguments(connection, data, port, demo, visits).ToList();
        arguments.Add($"--Beacon:PublicUrl=http://localhost:{port}");
        arguments.Add($"--Beacon:ClientDirectory={Path.Combine(DatabaseCluster.Root, "src/client/dist")}");
        if (siteHost is not null)
        {
            arguments.Add($"--Beacon:DemoSiteHost={siteHost}");
        }

        arguments.AddRange(more);
        return Launch("Web", port, arguments);
    }

    /// <summary>Starts the garden's website.</summary>
    /// <param name="letterbox">Where its inbox takes mails by SMTP; nowhere when left out.</param>
    public static async Task<BeaconProcess> StartGardenAsync(int port, string beaconUrl, int? letterbox = null)
    {
        var started = Launch(
            "StandIns",
            port,
            [
                $"--urls=http://127.0.0.1:{port}",
                $"--StandIns:BeaconUrl={beaconUrl}",
                $"--StandIns:SmtpPort={letterbox}",
                "--StandIns:MeasuringKey=demo-garden",
                $"--StandIns:AdSheet={Path.Combine(DatabaseCluster.Root, "samples", "ad-export.xlsx")}",
                "--Logging:LogLevel:Default=Error",
            ]
        );
        await started.WaitAsync("/");
        return started;
    }

    /// <summary>Ends the process as <c>kill -9</c> does: nothing of it runs any more.</summary>
    public async Task KillAsync()
    {
        _process.Kill();
        await _process.WaitForExitAsync();
    }

    public async ValueTask DisposeAsync()
    {
        if (!_process.HasExited)
        {
            await KillAsync();
        }

        _process.Dispose();
    }

    private static BeaconProcess Launch(string project, int port, IReadOnlyList<string> arguments)
    {
        string configuration = AppContext.BaseDirectory.Contains("/Release/", StringComparison.Ordinal) ? "Release" : "Debug";
        string assembly = Path.Combine(
            DatabaseCluster.Root,
            "src",
            project,
            "bin",
            configuration,
            "net10.0",
            $"PreciseBeacon.{project}.dll"
        );
        var start = new ProcessStartInfo("dotnet", [assembly, .. arguments])
        {
            WorkingDirectory = Path.Combine(DatabaseCluster.Root, "src", project),
        };
        return new BeaconProcess(Process.Start(start)!, port);
    }

    private async Task WaitAsync(string path)
    {
        using var client = new HttpClient { BaseAddress = new Uri($"http://127.0.0.1:{Port}") };
        try
        {
            await Eventually.Async(IsUpAsync, StartsWithin);
        }
        catch
        {
            // Nobody else knows of it yet.
            await DisposeAsync();
            throw;
        }

        async Task<bool> IsUpAsync()
        {
            Assert.False(_process.HasExited, "The process ended while it was being waited for.");
            try
            {
                return (await client.GetAsync(path)).IsSuccessStatusCode;
            }
            catch (HttpRequestException)
            {
                return false;
            }
        }
    }
}
