using System.Diagnostics;
using System.Net;
using System.Net.Sockets;
using System.Runtime.CompilerServices;
using Npgsql;

namespace PreciseBeacon.WebTests.Hosting;

/// <summary>A real PostgreSQL of our own for tests; ./test starts one and names it, else one is started here.</summary>
public static class DatabaseCluster
{
    private static readonly Lazy<string> Shared = new(() =>
        Environment.GetEnvironmentVariable("BEACON_TEST_DATABASE") is { Length: > 0 } given
            ? given
            : Start(Path.Combine(FindRoot(), ".run/test/postgres"), FreePort()));

    /// <summary>The project's root directory.</summary>
    public static string Root { get; } = FindRoot();

    /// <summary>Makes an empty database and gives its connection string.</summary>
    public static async Task<string> NewDatabaseAsync()
    {
        string name = $"test_{Guid.NewGuid():N}";
        await using var server = NpgsqlDataSource.Create(Shared.Value);
        await using var command = server.CreateCommand($"create database {name}");
        await command.ExecuteNonQueryAsync();
        return new NpgsqlConnectionStringBuilder(Shared.Value) { Database = name, MaxPoolSize = 20 }.ConnectionString;
    }

    public static async Task DropAsync(string connectionString)
    {
        NpgsqlConnection.ClearAllPools();
        string name = new NpgsqlConnectionStringBuilder(connectionString).Database!;
        await using var server = NpgsqlDataSource.Create(Shared.Value);
        await using var command = server.CreateCommand($"drop database if exists {name} with (force)");
        await command.ExecuteNonQueryAsync();
    }

    /// <summary>Starts a cluster of its own, for tests that kill it.</summary>
    public static string Start(string directory, int port) => Script("start", directory, port.ToString(System.Globalization.CultureInfo.InvariantCulture)).Trim();

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
        using var script = Process.Start(new ProcessStartInfo("bash", ["-c", "out=$1; shift; scripts/postgres \"$@\" > \"$out\"", "_", output, .. arguments]) { WorkingDirectory = Root })!;
        script.WaitForExit();
        string text = File.ReadAllText(output);
        File.Delete(output);
        return script.ExitCode == 0 ? text : throw new InvalidOperationException($"scripts/postgres {string.Join(' ', arguments)} failed.");
    }

    private static string FindRoot([CallerFilePath] string here = "") => Path.GetFullPath(Path.Combine(Path.GetDirectoryName(here)!, "../../.."));
}
