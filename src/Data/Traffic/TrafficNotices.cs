using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What processes tell each other of traffic, so that none of them looks in vain. Told with the commit of what it is about.</summary>
public static class TrafficNotices
{
    /// <summary>Raw events were stored, and wait to be worked out.</summary>
    public const string Moved = "traffic_moved";

    /// <summary>Clicks or visits of a workspace changed; the payload is its id.</summary>
    public const string Changed = "traffic_changed";

    /// <summary>Hears both from now on.</summary>
    public static Task ListenAsync(NpgsqlConnection connection, CancellationToken cancel) =>
        RunAsync(connection, $"listen {Moved}; listen {Changed}", cancel);

    internal static Task TellMovedAsync(NpgsqlConnection connection, CancellationToken cancel) =>
        RunAsync(connection, $"notify {Moved}", cancel);

    internal static Task TellChangedAsync(NpgsqlConnection connection, IEnumerable<Guid> workspaces, CancellationToken cancel) =>
        RunAsync(connection, $"select pg_notify('{Changed}', w::text) from unnest($1) w", cancel, workspaces.Distinct().ToArray());

    private static async Task RunAsync(NpgsqlConnection connection, string sql, CancellationToken cancel, params object[] values)
    {
        await using var command = new NpgsqlCommand(sql, connection);
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        await command.ExecuteNonQueryAsync(cancel);
    }
}
