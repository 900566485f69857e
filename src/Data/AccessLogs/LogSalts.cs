using System.Security.Cryptography;
using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.AccessLogs;

/// <summary>
/// Salts for the days of logs. Where the day's own salt still lives it is used, so that visits meet the clicks that led to them; it is
/// destroyed half an hour after its day. Logs of earlier days get a salt of their own, shared by all logs of that day and destroyed a day
/// after the last one was read.
/// </summary>
public static class LogSalts
{
    /// <summary>How long a log's salt is kept after it was used last.</summary>
    public static readonly TimeSpan Kept = TimeSpan.FromHours(24);

    /// <summary>The salts of some days, made where there are none.</summary>
    public static async Task<Dictionary<DateOnly, byte[]>> OfAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<DateOnly> days,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        var inOrder = days.Order().ToArray();
        await using var command = new NpgsqlCommand(
            """
            with own as (
                select day, salt from salt where workspace_id = $1 and day = any($2)
            ), made as (
                insert into log_salt (workspace_id, day, salt, used_at)
                select $1, g.day, g.salt, $4 from unnest($2, $3) as g(day, salt)
                where not exists (select from own where own.day = g.day)
                on conflict (workspace_id, day) do update set used_at = excluded.used_at
                returning day, salt
            )
            select day, salt from own union all select day, salt from made
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = inOrder },
                new() { Value = inOrder.Select(_ => RandomNumberGenerator.GetBytes(VisitorHash.SaltLength)).ToArray() },
                new() { Value = now.ToUniversalTime() },
            },
        };
        var salts = new Dictionary<DateOnly, byte[]>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            salts[reader.GetFieldValue<DateOnly>(0)] = reader.GetFieldValue<byte[]>(1);
        }

        return salts;
    }

    /// <summary>Destroys those that had their time.</summary>
    public static async Task DestroyOldAsync(NpgsqlConnection connection, DateTimeOffset now, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand("delete from log_salt where used_at < $1", connection);
        command.Parameters.Add(new() { Value = (now - Kept).ToUniversalTime() });
        await command.ExecuteNonQueryAsync(cancel);
    }
}
