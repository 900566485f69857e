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

    /// <summary>Adds a command to those that go together.</summary>
    public static void Add(this NpgsqlBatch batch, string sql, params object?[] values)
    {
        var command = new NpgsqlBatchCommand(sql);
        Add(command.Parameters, values);
        batch.BatchCommands.Add(command);
    }

    /// <summary>Runs a command.</summary>
    /// <returns>How many rows it touched.</returns>
    public static async Task<int> RunAsync(this NpgsqlDataSource database, string sql, CancellationToken cancel, params object?[] values)
    {
        await using var command = database.Command(sql, values);
        return await command.ExecuteNonQueryAsync(cancel);
    }

    private static NpgsqlCommand With(NpgsqlCommand command, object?[] values)
    {
        Add(command.Parameters, values);
        return command;
    }

    /// <summary>A parameter stands as it is, where a value alone would not say its type.</summary>
    private static void Add(NpgsqlParameterCollection parameters, object?[] values)
    {
        foreach (object? value in values)
        {
            parameters.Add(value as NpgsqlParameter ?? new NpgsqlParameter { Value = value ?? DBNull.Value });
        }
    }
}
