using Npgsql;

namespace PreciseBeacon.Data;

/// <summary>Commands with their values in order, as <c>$1</c>, <c>$2</c>, ….</summary>
internal static class Commands
{
    /// <summary>A command of a connection of its own.</summary>
    /// <param name="database">The database.</param>
    /// <param name="sql">The command.</param>
    /// <param name="values">Its values; null stands for no value.</param>
    public static NpgsqlCommand Command(this NpgsqlDataSource database, string sql, params object?[] values) =>
        With(database.CreateCommand(sql), values);

    /// <summary>A command of a connection, such as within its transaction.</summary>
    public static NpgsqlCommand Command(this NpgsqlConnection connection, string sql, params object?[] values) =>
        With(new NpgsqlCommand(sql, connection), values);

    /// <summary>Runs a command.</summary>
    /// <returns>How many rows it touched.</returns>
    public static async Task<int> RunAsync(this NpgsqlDataSource database, string sql, CancellationToken cancel, params object?[] values)
    {
        await using var command = database.Command(sql, values);
        return await command.ExecuteNonQueryAsync(cancel);
    }

    private static NpgsqlCommand With(NpgsqlCommand command, object?[] values)
    {
        foreach (object? value in values)
        {
            command.Parameters.Add(new() { Value = value ?? DBNull.Value });
        }

        return command;
    }
}
