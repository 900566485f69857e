using Npgsql;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>What the reading of logs needs to know across workspaces.</summary>
public static class AccessLogReadings
{
    /// <summary>The workspaces of those readings that are still to be read.</summary>
    public static async Task<IReadOnlyDictionary<Guid, Guid>> WorkspacesAsync(
        NpgsqlDataSource database,
        IReadOnlyList<Guid> readings,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand("select id, workspace_id from log_readings where id = any($1) and state = $2");
        command.Parameters.Add(new() { Value = readings.ToArray() });
        command.Parameters.Add(new() { Value = nameof(LogReadingState.Reading) });
        var found = new Dictionary<Guid, Guid>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found[reader.GetGuid(0)] = reader.GetGuid(1);
        }

        return found;
    }

    /// <summary>How many visitors' days wait to be worked out because of files, counted up to a number.</summary>
    public static async Task<long> WaitingAsync(NpgsqlDataSource database, int most, CancellationToken cancel)
    {
        await using var command = database.CreateCommand("select count(*) from (select from visit_due where later limit $1) d");
        command.Parameters.Add(new() { Value = most });
        return (long)(await command.ExecuteScalarAsync(cancel))!;
    }
}
