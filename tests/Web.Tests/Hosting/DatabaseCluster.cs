using System.Collections.Concurrent;
using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Runtime.CompilerServices;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>A real PostgreSQL of our own for tests; ./test starts one and names it, else one is started here.</summary>
public static class DatabaseCluster
{
    private static readonly Lazy<string> Shared = new(() =>
        Environment.GetEnvironmentVariable("BEACON_TEST_DATABASE") is { Length: > 0 } given
            ? given
            : Start(Path.Combine(FindRoot(), ".run/test/postgres"), FreePort())
    );

    /// <summary>Where databases are made and dropped; what it learns of the server's types is learnt once.</summary>
    private static readonly Lazy<NpgsqlDataSource> Server = new(() => NpgsqlDataSource.Create(Shared.Value));

    /// <summary>The project's root directory.</summary>
    public static string Root { get; } = FindRoot();

    private static readonly ConcurrentDictionary<int, Lazy<Task<string>>> Templates = new();

    /// <summary>
    /// Makes a database and gives its connection string: with all migrations applied, and with the demo where it is asked for.
    /// Both are readied once in a run and copied from then on, which takes a fraction of a second.
    /// </summary>
    /// <param name="demoVisits">Visits of the demo; null for no demo.</param>
    public static async Task<string> NewDatabaseAsync(int? demoVisits = null)
    {
        string template = await Templates.GetOrAdd(demoVisits ?? NoDemo, visits => new(() => MakeTemplateAsync(visits))).Value;
        return await CreateAsync($"test_{Guid.NewGuid():N}", template);
    }

    private const int NoDemo = -1;

    private static async Task<string> MakeTemplateAsync(int visits)
    {
        string name = $"template_{Guid.NewGuid():N}";
        string connection = await CreateAsync(name, "template0");
        string data = Directory.CreateTempSubdirectory("beacon-template-").FullName;
        await using (
            var app = BeaconApp.Build(
                BeaconHost.Arguments(connection, data, FreePort(), demo: visits != NoDemo, Math.Max(0, visits)),
                startData: PreciseBeacon.Demo.DemoModule.Add
            )
        )
        {
            var setup = app.Services.GetRequiredService<DatabaseSetup>();
            Assert.Null(await setup.TryAsync(CancellationToken.None));
            Assert.True(setup.IsDone);
        }

        // Nobody may be connected to what is copied.
        NpgsqlConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
        return name;
    }

    /// <summary>Copies files; that nothing of it is logged in passing is what is quick about it, and nobody restores a test's database.</summary>
    private static async Task<string> CreateAsync(string name, string template)
    {
        await using var command = Server.Value.CreateCommand($"create database {name} template {template} strategy file_copy");
        await command.ExecuteNonQueryAsync();
        return new NpgsqlConnectionStringBuilder(Shared.Value) { Database = name, MaxPoolSize = 20 }.ConnectionString;
    }

    public static async Task DropAsync(string connectionString)
    {
        string name = new NpgsqlConnectionStringBuilder(connectionString).Database!;
        await using var command = Server.Value.CreateCommand($"drop database if exists {name} with (force)");
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>Starts a cluster of its own, for tests that kill it.</summary>
    public static string Start(string directory, int port) =>
        Script("start", directory, port.ToString(System.Globalization.CultureInfo.InvariantCulture)).Trim();

    public static void Stop(string directory, string mode) => Script("stop", directory, mode);

    public static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static string Script(params string[] arguments)
    {
        // A file takes the output: the server inherits it and would keep a pipe open.
        string output = Path.GetTempFileName();
        using var script = Process.Start(
            new ProcessStartInfo("bash", ["-c", "out=$1; shift; scripts/postgres \"$@\" > \"$out\"", "_", output, .. arguments])
            {
                WorkingDirectory = Root,
            }
        )!;
        script.WaitForExit();
        string text = File.ReadAllText(output);
        File.Delete(output);
        return script.ExitCode == 0 ? text : throw new InvalidOperationException($"scripts/postgres {string.Join(' ', arguments)} failed.");
    }

    private static string FindRoot([CallerFilePath] string here = "") =>
        Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../../.."));
}
