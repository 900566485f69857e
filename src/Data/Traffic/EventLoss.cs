using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Events that could be kept nowhere, counted by day, so that reports can say so.</summary>
public static class EventLoss
{
    /// <summary>Adds to a day's count.</summary>
    public static async Task AddAsync(NpgsqlDataSource database, Guid workspace, DateOnly day, long lost, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            insert into event_loss (workspace_id, day, lost) values ($1, $2, $3)
            on conflict (workspace_id, day) do update set lost = event_loss.lost + excluded.lost
            """
        );
        command.Parameters.Add(new() { Value = workspace });
        command.Parameters.Add(new() { Value = day });
        command.Parameters.Add(new() { Value = lost });
        await command.ExecuteNonQueryAsync(cancel);
    }
}
