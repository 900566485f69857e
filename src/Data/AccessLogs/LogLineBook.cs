using System.Buffers.Binary;
using System.Security.Cryptography;
using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>
/// Remembers lines of logs by a keyed fingerprint, with how often each stood there, so that the same or an overlapping file adds nothing
/// when it is read again. Identical lines within one file are different views.
/// </summary>
public static class LogLineBook
{
    /// <summary>The key of a workspace's fingerprints, made where there is none.</summary>
    public static async Task<byte[]> KeyAsync(NpgsqlConnection connection, Guid workspaceId, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            insert into log_key (workspace_id, key) values ($1, $2)
            on conflict (workspace_id) do update set key = log_key.key returning key
            """,
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = RandomNumberGenerator.GetBytes(SipHash.KeyLength) });
        return (byte[])(await command.ExecuteScalarAsync(cancel))!;
    }

    /// <summary>The fingerprint of a line: 64 bits, so that of a million lines of one day two are taken for one with a chance of one in 37 million.</summary>
    public static long FingerprintOf(byte[] key, ReadOnlySpan<byte> line)
    {
        Span<byte> hash = stackalloc byte[16];
        SipHash.Hash(key, line, hash);
        return BinaryPrimitives.ReadInt64LittleEndian(hash);
    }

    /// <summary>Takes lines up.</summary>
    /// <param name="connection">In a transaction; the caller commits.</param>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="readingId">The file they stand in.</param>
    /// <param name="lines">Lines by day and fingerprint, each with how often it stands here.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>How many of each are new; those of which none is are left out.</returns>
    public static async Task<Dictionary<(DateOnly Day, long Fingerprint), int>> TakeUpAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        Guid readingId,
        IReadOnlyDictionary<(DateOnly Day, long Fingerprint), int> lines,
        CancellationToken cancel
    )
    {
        // How often a line stands in this file grows along with it; only what goes beyond what was known is new.
        await using var command = new NpgsqlCommand(
            """
            with given as (
                select g.day, g.fingerprint, g.times,
                    coalesce(k.times, 0) as known,
                    g.times + case when k.reading_id = $2 then k.times_here else 0 end as here
                from unnest($3, $4, $5) as g(day, fingerprint, times)
                left join log_line k on k.workspace_id = $1 and k.day = g.day and k.fingerprint = g.fingerprint
            ), kept as (
                insert into log_line (workspace_id, day, fingerprint, times, reading_id, times_here)
                select $1, day, fingerprint, greatest(known, here), $2, here from given order by 2, 3
                on conflict (workspace_id, day, fingerprint) do update
                set times = excluded.times, reading_id = excluded.reading_id, times_here = excluded.times_here
            )
            select day, fingerprint, here - known from given where here > known
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = readingId },
                new() { Value = lines.Keys.Select(l => l.Day).ToArray() },
                new() { Value = lines.Keys.Select(l => l.Fingerprint).ToArray() },
                new() { Value = lines.Values.ToArray() },
            },
        };
        var fresh = new Dictionary<(DateOnly, long), int>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var line = (reader.GetFieldValue<DateOnly>(0), reader.GetInt64(1));
            fresh[line] = Math.Min(lines[line], reader.GetInt32(2));
        }

        return fresh;
    }
}
