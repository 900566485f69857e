using System.Globalization;
using Npgsql;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Deletes raw rows, visits and their pages once they are older than a workspace keeps them. What reports are added up from is packed
/// before and stays. A month that nobody needs any more goes as a whole, the rest a few rows at a time.
/// </summary>
public sealed class Retention(NpgsqlDataSource database)
{
    private const int RowsAtOnce = 5_000;

    /// <summary>A visit that goes on over the first midnight needs what came before it.</summary>
    private const int MarginDays = 1;

    private static readonly string[] Partitioned =
    [
        "hit",
        "page_event",
        "click",
        "visit",
        "page_view",
        "visit_event",
        "visit_spot",
        "conversion",
    ];

    /// <summary>Tables with the condition for what goes; $1 the workspace, $2 its first day with raw rows, $3 its zone.</summary>
    private static readonly (string Table, string Goes)[] Rows =
    [
        ("hit", "at < $2::timestamp at time zone $3"),
        ("click", "at < $2::timestamp at time zone $3"),
        ("page_event", $"at < ($2 - {MarginDays})::timestamp at time zone $3"),
        ("conversion", "day < $2 and at < ($2 + 2)::timestamp at time zone $3"),
        ("page_view", "day < $2 and at < ($2 + 2)::timestamp at time zone $3"),
        ("visit_event", "day < $2 and at < ($2 + 2)::timestamp at time zone $3"),
        ("visit_spot", "day < $2 and at < ($2 + 2)::timestamp at time zone $3"),
        ("log_line", "day < $2"),
        ("trial_visit", "day < $2"),
        ("trial_hit", "at < $2::timestamp at time zone $3"),
        ("server_report", "came_at < $2::timestamp at time zone $3"),
        ("visit", "day < $2 and started_at < ($2 + 1)::timestamp at time zone $3"),
    ];

    /// <summary>Does one bounded step.</summary>
    /// <param name="now">The moment from which ages are counted.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>Whether there is more to do.</returns>
    public async Task<bool> StepAsync(DateTimeOffset now, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await DrawLineAsync(connection, now, cancel);
        return await DropMonthAsync(connection, cancel) || await DeleteRowsAsync(connection, cancel);
    }

    /// <summary>How many visits and clicks are there one by one from before a day.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="first">The day, in the workspace's zone.</param>
    /// <param name="zone">The zone, by its IANA name.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<(long Visits, long Clicks)> CountAsync(Guid workspaceId, DateOnly first, string zone, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select (select count(*) from visit where workspace_id = $1 and day < $2),
                (select count(*) from click where workspace_id = $1 and at < $2::timestamp at time zone $3)
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = first });
        command.Parameters.Add(new() { Value = zone });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return (reader.GetInt64(0), reader.GetInt64(1));
    }

    /// <summary>Moves the first day with raw rows on, where everything before it is worked out and packed.</summary>
    private static async Task DrawLineAsync(NpgsqlConnection connection, DateTimeOffset now, CancellationToken cancel)
    {
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        if (!await WorkLock.TryTakeAsync(connection, WorkLock.Visits, cancel))
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            update workspaces w set raw_from = c.first
            from (
                select id, (date_trunc('month', $1 at time zone time_zone) - make_interval(months => raw_months))::date as first from workspaces
            ) c
            where c.id = w.id and (w.raw_from is null or w.raw_from < c.first)
                and not exists (select from visit_due d where d.workspace_id = w.id and d.day < c.first)
                and not exists (select from visit_segment_due d where d.workspace_id = w.id and d.day < c.first)
                and not exists (select from hit_due d where d.workspace_id = w.id and d.from_at < c.first::timestamp at time zone w.time_zone)
            """,
            connection
        );
        command.Parameters.Add(new() { Value = now.ToUniversalTime() });
        if (await command.ExecuteNonQueryAsync(cancel) > 0)
        {
            await RefundReader.KeepOrdersAsync(connection, cancel);
        }

        await transaction.CommitAsync(cancel);
    }

    private static async Task<bool> DropMonthAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var oldest = new NpgsqlCommand(
            """
            select m.month from made_month m
            where m.month + interval '1 month' + interval '2 days' <= (select min(coalesce(raw_from, '-infinity')) from workspaces)
            order by 1 limit 1
            """,
            connection
        );
        if (await oldest.ExecuteScalarAsync(cancel) is not DateOnly month)
        {
            return false;
        }

        string part = month.ToString("_yyyyMM", CultureInfo.InvariantCulture);
        try
        {
            // Dropping a part waits for whoever reads the whole; others would wait behind it.
            await using var drop = new NpgsqlCommand(
                $"set local lock_timeout = '2s'; {string.Concat(Partitioned.Select(t => $"drop table if exists {t}{part}; "))} delete from made_month where to_char(month, '_YYYYMM') = '{part}'",
                connection
            );
            await drop.ExecuteNonQueryAsync(cancel);
            await transaction.CommitAsync(cancel);
            return true;
        }
        catch (PostgresException busy) when (busy.SqlState == PostgresErrorCodes.LockNotAvailable)
        {
            return false;
        }
    }

    private static async Task<bool> DeleteRowsAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        var workspaces = new List<(Guid Id, DateOnly RawFrom, string Zone)>();
        await using (
            var command = new NpgsqlCommand("select id, raw_from, time_zone from workspaces where raw_from is not null", connection)
        )
        await using (var reader = await command.ExecuteReaderAsync(cancel))
        {
            while (await reader.ReadAsync(cancel))
            {
                workspaces.Add((reader.GetGuid(0), reader.GetFieldValue<DateOnly>(1), reader.GetString(2)));
            }
        }

        foreach (var (id, rawFrom, zone) in workspaces)
        {
            foreach (var (table, goes) in Rows)
            {
                await using var delete = new NpgsqlCommand(
                    $"delete from {table} where (tableoid, ctid) in (select tableoid, ctid from {table} where workspace_id = $1 and {goes} limit {RowsAtOnce})",
                    connection
                )
                {
                    Parameters =
                    {
                        new() { Value = id },
                        new() { Value = rawFrom },
                        new() { Value = zone },
                    },
                };
                if (await delete.ExecuteNonQueryAsync(cancel) > 0)
                {
                    return true;
                }
            }
        }

        return false;
    }
}
