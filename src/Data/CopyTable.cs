using Npgsql;
using NpgsqlTypes;

namespace PreciseBeacon.Data;

/// <summary>
/// Writes rows into a table by binary COPY. Its columns are said once, each with its type and where its value comes from, so that the
/// two can't drift apart.
/// </summary>
/// <typeparam name="TRow">What a row is made from.</typeparam>
/// <param name="table">The table.</param>
public sealed class CopyTable<TRow>(string table)
{
    private readonly List<(string Name, Func<NpgsqlBinaryImporter, TRow, CancellationToken, Task> Write)> _columns = [];

    /// <summary>A column that always has a value.</summary>
    public CopyTable<TRow> Column<T>(string name, NpgsqlDbType type, Func<TRow, T> value)
        where T : notnull => Add(name, (copy, row, cancel) => copy.WriteAsync(value(row), type, cancel));

    /// <summary>A column that may be null.</summary>
    public CopyTable<TRow> Nullable<T>(string name, NpgsqlDbType type, Func<TRow, T?> value)
        where T : class =>
        Add(name, (copy, row, cancel) => value(row) is { } given ? copy.WriteAsync(given, type, cancel) : copy.WriteNullAsync(cancel));

    /// <summary>A column that may be null.</summary>
    public CopyTable<TRow> Nullable<T>(string name, NpgsqlDbType type, Func<TRow, T?> value)
        where T : struct =>
        Add(name, (copy, row, cancel) => value(row) is { } given ? copy.WriteAsync(given, type, cancel) : copy.WriteNullAsync(cancel));

    /// <summary>Writes rows, within the transaction the connection is in.</summary>
    /// <returns>How many there were.</returns>
    /// <exception cref="PostgresException">A row breaks a rule of the table; then none is written.</exception>
    public async Task<int> WriteAsync(NpgsqlConnection connection, IEnumerable<TRow> rows, CancellationToken cancel)
    {
        string names = string.Join(", ", _columns.Select(c => c.Name));
        await using var copy = await connection.BeginBinaryImportAsync($"copy {table} ({names}) from stdin (format binary)", cancel);
        int count = 0;
        foreach (var row in rows)
        {
            await copy.StartRowAsync(cancel);
            foreach (var (_, write) in _columns)
            {
                await write(copy, row, cancel);
            }

            count++;
        }

        await copy.CompleteAsync(cancel);
        return count;
    }

    private CopyTable<TRow> Add(string name, Func<NpgsqlBinaryImporter, TRow, CancellationToken, Task> write)
    {
        _columns.Add((name, write));
        return this;
    }
}
