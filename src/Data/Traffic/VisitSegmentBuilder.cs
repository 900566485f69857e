using System.Data;
using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Packs the visits of hours that have settled, a day at a time. Nobody waits for it: it takes no lock that others take, and where visits
/// change meanwhile it gives up and does it again later.
/// </summary>
public sealed class VisitSegmentBuilder(NpgsqlDataSource database)
{
    /// <summary>Days that began so long ago are over everywhere, so that all their visits fit one segment.</summary>
    private const string OverSince = "(now() at time zone 'UTC')::date - 1";

    private static readonly CopyTable<(Guid WorkspaceId, DateOnly Day, short First, short Last, VisitColumns Visits)> Segments =
        new CopyTable<(Guid WorkspaceId, DateOnly Day, short First, short Last, VisitColumns Visits)>("visit_segment")
            .Column("workspace_id", NpgsqlDbType.Uuid, r => r.WorkspaceId)
            .Column("day", NpgsqlDbType.Date, r => r.Day)
            .Column("first_hour", NpgsqlDbType.Smallint, r => r.First)
            .Column("last_hour", NpgsqlDbType.Smallint, r => r.Last)
            .Column("visits", NpgsqlDbType.Integer, r => r.Visits.Count)
            .Column("columns", NpgsqlDbType.Bytea, r => r.Visits.ToBytes());

    /// <summary>Packs one day's hours.</summary>
    /// <param name="settled">How long an hour's visits have not changed before it is packed.</param>
    /// <param name="cancel">Gives up; then nothing has changed.</param>
    /// <returns>False when there was nothing to do, or another process does it.</returns>
    public async Task<bool> PackAsync(TimeSpan settled, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(IsolationLevel.RepeatableRead, cancel);
        try
        {
            if (
                !await WorkLock.TryTakeAsync(connection, WorkLock.Segments, cancel)
                || await NextAsync(connection, settled, cancel) is not { } next
            )
            {
                return false;
            }

            foreach (var (first, last) in next.Spans)
            {
                await PackAsync(connection, next.WorkspaceId, next.Day, first, last, cancel);
            }

            await transaction.CommitAsync(cancel);
            return true;
        }
        catch (PostgresException changed) when (changed.SqlState == PostgresErrorCodes.SerializationFailure)
        {
            // Visits of these hours changed meanwhile; they are still due.
            return false;
        }
    }

    /// <summary>The next day with something to pack, and its hours.</summary>
    private static async Task<(Guid WorkspaceId, DateOnly Day, List<(short First, short Last)> Spans)?> NextAsync(
        NpgsqlConnection connection,
        TimeSpan settled,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            $"""
            with ripe as (
                select workspace_id, day from visit_segment_due where changed_at <= now() - $1
                union all
                select s.workspace_id, s.day from visit_segment s
                where s.last_hour - s.first_hour < 23 and s.day < {OverSince}
                    and not exists (select from visit_segment_due d where d.workspace_id = s.workspace_id and d.day = s.day)
                limit 1
            )
            select r.workspace_id, r.day, r.day < {OverSince} and not exists (
                    select from visit_segment_due d where d.workspace_id = r.workspace_id and d.day = r.day and d.changed_at > now() - $1
                ) or exists (
                    select from visit_segment_due d join visit_segment s on s.workspace_id = d.workspace_id and s.day = d.day
                    where d.workspace_id = r.workspace_id and d.day = r.day and d.changed_at <= now() - $1
                        and d.hour between s.first_hour and s.last_hour and s.first_hour < s.last_hour
                ) as whole,
                (select array_agg(d.hour) from visit_segment_due d
                 where d.workspace_id = r.workspace_id and d.day = r.day and d.changed_at <= now() - $1) as hours
            from ripe r limit 1
            """,
            connection
        );
        command.Parameters.Add(new() { Value = settled });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        if (!await reader.ReadAsync(cancel))
        {
            return null;
        }

        return (
            reader.GetGuid(0),
            reader.GetFieldValue<DateOnly>(1),
            reader.GetBoolean(2) ? [(0, 23)] : [.. reader.GetFieldValue<short[]>(3).Select(hour => (hour, hour))]
        );
    }

    private static async Task PackAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        DateOnly day,
        short first,
        short last,
        CancellationToken cancel
    )
    {
        var hours = Enumerable.Range(first, last - first + 1).Select(hour => new HourOfDay(day, (short)hour)).ToList();
        var packed = new List<VisitColumns>();
        await foreach (var (_, visits) in PackedVisits.ReadAsync(connection, workspaceId, hours, cancel))
        {
            packed.Add(visits);
        }

        // An hour that changed since this transaction began can't be taken off the list by it.
        foreach (
            string sql in (string[])
                [
                    "delete from visit_segment_due where workspace_id = $1 and day = $2 and hour between $3 and $4",
                    "delete from visit_segment where workspace_id = $1 and day = $2 and first_hour >= $3 and last_hour <= $4",
                ]
        )
        {
            await using var command = new NpgsqlCommand(sql, connection)
            {
                Parameters =
                {
                    new() { Value = workspaceId },
                    new() { Value = day },
                    new() { Value = first },
                    new() { Value = last },
                },
            };
            await command.ExecuteNonQueryAsync(cancel);
        }

        await Segments.WriteAsync(connection, packed.Select(v => (workspaceId, day, first, last, v)), cancel);
    }
}
