using System.Collections.Concurrent;
using Npgsql;

namespace PreciseBeacon.Data.Accounts;

/// <summary>Remembers which keys were used, and writes it down now and then: a program's thousand calls a minute cost one write.</summary>
public sealed class KeyUses(NpgsqlDataSource database)
{
    private readonly ConcurrentDictionary<Guid, DateTimeOffset> _used = new();

    /// <summary>A key was used.</summary>
    public void Mark(Guid key, DateTimeOffset at) => _used[key] = at;

    /// <summary>Writes down what was used since the last time; what can't be written is kept for the next time.</summary>
    /// <exception cref="NpgsqlException">The database can't be reached.</exception>
    public async Task WriteAsync(CancellationToken cancel)
    {
        var used = _used.ToArray();
        if (used.Length == 0)
        {
            return;
        }

        await using var command = database.CreateCommand(
            "update api_keys k set last_used_at = greatest(k.last_used_at, u.at) from unnest($1, $2) as u(id, at) where k.id = u.id"
        );
        command.Parameters.Add(new() { Value = used.Select(u => u.Key).ToArray() });
        command.Parameters.Add(new() { Value = used.Select(u => u.Value).ToArray() });
        await command.ExecuteNonQueryAsync(cancel);
        foreach (var written in used)
        {
            _used.TryRemove(written);
        }
    }
}
