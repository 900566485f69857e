using System.Diagnostics;
using System.Globalization;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>A PostgreSQL of one test's own, which can be killed, stopped and started again. Those with the demo are copied from one that has it.</summary>
public sealed class OwnCluster : IAsyncDisposable
{
    private static readonly Lazy<Task<string>> Demo = new(MakeDemoAsync);

    private readonly string _directory;
    private readonly int _port = DatabaseCluster.FreePort();

    private OwnCluster(string directory) => _directory = directory;

    public string Connection { get; private set; } = "";

    /// <summary>The server's own process.</summary>
    public int ProcessId =>
        int.Parse(File.ReadLines(Path.Combine(_directory, "cluster", "postmaster.pid")).First(), CultureInfo.InvariantCulture);

    /// <summary>Starts one that has the demo.</summary>
    public static async Task<OwnCluster> StartAsync()
    {
        string directory = NewDirectory();
        Run("cp", "-a", (await Demo.Value) + "/.", directory);
        var cluster = new OwnCluster(directory);
        cluster.Start();
        return cluster;
    }

    /// <summary>Starts it, again after it was stopped.</summary>
    public void Start() => Connection = DatabaseCluster.Start(_directory, _port) + ";Timeout=5;Command Timeout=10";

    /// <summary>Stops it; <c>immediate</c> ends it without ceremony, as when it is killed.</summary>
    public void Stop(string mode = "immediate") => DatabaseCluster.Stop(_directory, mode);

    /// <summary>Sends a signal, such as <c>STOP</c>, to the server and every process it has made.</summary>
    public void Signal(string name) => Run("bash", "-c", $"kill -{name} {ProcessId} $(pgrep -P {ProcessId})");

    public ValueTask DisposeAsync()
    {
        NpgsqlConnection.ClearAllPools();
        Stop();
        Directory.Delete(_directory, recursive: true);
        return ValueTask.CompletedTask;
    }

    private static async Task<string> MakeDemoAsync()
    {
        string directory = NewDirectory();
        string data = Directory.CreateTempSubdirectory("beacon-template-").FullName;
        string connection = DatabaseCluster.Start(directory, DatabaseCluster.FreePort());
        await using (
            var app = BeaconApp.Build(
                BeaconHost.Arguments(connection, data, DatabaseCluster.FreePort(), demo: true, 0),
                startData: PreciseBeacon.Demo.DemoModule.Add
            )
        )
        {
            Assert.Null(await app.Services.GetRequiredService<DatabaseSetup>().TryAsync(CancellationToken.None));
        }

        DatabaseCluster.Stop(directory, "fast");
        Directory.Delete(data, recursive: true);
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(directory, recursive: true);
        return directory;
    }

    private static string NewDirectory() => Directory.CreateTempSubdirectory("beacon-cluster-").FullName;

    private static void Run(string program, params string[] arguments)
    {
        using var process = Process.Start(new ProcessStartInfo(program, arguments))!;
        process.WaitForExit();
        Assert.Equal(0, process.ExitCode);
    }
}
