using Npgsql;

namespace PreciseBeacon.Data;

/// <summary>The one pool of connections a process has.</summary>
public static class BeaconDatabase
{
    /// <summary>Connections a process opens at most, unless set otherwise: three processes share a server of 100 (ours).</summary>
    public const int MostConnections = 25;

    /// <summary>How long somebody waits for a connection that others have before it is given up.</summary>
    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(15);

    /// <summary>A query that was given up is not waited for: the server may have stopped answering.</summary>
    private const int NoWait = -1;

    /// <summary>Opens the pool; nothing is connected yet.</summary>
    /// <param name="connectionString">Where the database is.</param>
    /// <param name="most">Most connections open at once, 5 to 1,000.</param>
    public static NpgsqlDataSource Open(string connectionString, int most = MostConnections) =>
        NpgsqlDataSource.Create(
            new NpgsqlConnectionStringBuilder(connectionString)
            {
                MaxPoolSize = Math.Clamp(most, 5, 1_000),
                MinPoolSize = 0,
                Timeout = (int)LongestWait.TotalSeconds,
                CancellationTimeout = NoWait,
            }
        );

    /// <summary>Asks the database for anything at all.</summary>
    /// <exception cref="NpgsqlException">It can't be reached.</exception>
    public static async Task AskAsync(NpgsqlDataSource database)
    {
        await using var command = database.CreateCommand("select 1");
        command.CommandTimeout = 1;
        await command.ExecuteNonQueryAsync();
    }
}
