using System.Runtime.CompilerServices;
using System.Text.RegularExpressions;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Keys that no version of a convention knew: visits did not keep them. Their past is found in the raw events, month by month, and those
/// visits are worked out again, behind what arrives.
/// </summary>
public sealed class NewTagKeys(NpgsqlDataSource database)
{
    /// <summary>Which of some keys past visits did not keep.</summary>
    public async Task<IReadOnlyList<string>> AmongAsync(Guid workspaceId, IEnumerable<string> keys, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        return (await VisitRulesReader.ReadAsync(connection, cancel))[workspaceId].Vocabulary.NewAmong(keys);
    }

    /// <summary>The months with raw events, the newest first.</summary>
    public async Task<IReadOnlyList<DateOnly>> MonthsAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select m.month from made_month m join workspaces w on w.id = $1
            where m.month >= coalesce(date_trunc('month', w.raw_from::timestamp), '-infinity') order by 1 desc
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        var months = new List<DateOnly>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            months.Add(reader.GetFieldValue<DateOnly>(0));
        }

        return months;
    }

    /// <summary>Counts page views that brought keys, a month after the other.</summary>
    /// <returns>After each month how many there are so far, by key; keys nobody brought are left out.</returns>
    public async IAsyncEnumerable<IReadOnlyDictionary<string, long>> CountAsync(
        Guid workspaceId,
        IReadOnlyList<string> keys,
        IReadOnlyList<DateOnly> months,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var views = new Dictionary<string, long>();
        foreach (var month in months)
        {
            await using var command = database.CreateCommand(
                $"""
                select k.key, count(*) from page_event e join unnest($3, $4) as k(key, pattern) on e.url ~* k.pattern
                where e.workspace_id = $1 and {InMonth} and e.kind = $5 group by 1
                """
            );
            object[] values = [workspaceId, month, keys.ToArray(), keys.Select(PatternOf).ToArray(), (short)PageEventKind.View];
            foreach (object value in values)
            {
                command.Parameters.Add(new() { Value = value });
            }

            await using (var reader = await command.ExecuteReaderAsync(cancel))
            {
                while (await reader.ReadAsync(cancel))
                {
                    views[reader.GetString(0)] = views.GetValueOrDefault(reader.GetString(0)) + reader.GetInt64(1);
                }
            }

            yield return views;
        }
    }

    /// <summary>Looks one waiting month through, the newest first, and marks the visits that brought a key.</summary>
    /// <returns>Whether there was one.</returns>
    public async Task<bool> StepAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var next = new NpgsqlCommand(
            """
            delete from new_key_months where id = (
                select id from new_key_months order by month desc, id limit 1 for update skip locked
            ) returning workspace_id, month, keys
            """,
            connection
        );
        Guid workspaceId;
        DateOnly month;
        string[] keys;
        await using (var reader = await next.ExecuteReaderAsync(cancel))
        {
            if (!await reader.ReadAsync(cancel))
            {
                return false;
            }

            (workspaceId, month, keys) = (reader.GetGuid(0), reader.GetFieldValue<DateOnly>(1), reader.GetFieldValue<string[]>(2));
        }

        await using var mark = new NpgsqlCommand(
            $"""
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date, true
            from page_event e join workspaces w on w.id = e.workspace_id
            where e.workspace_id = $1 and {InMonth} and e.url ~* any($3)
            """,
            connection
        )
        {
            CommandTimeout = 0,
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = month },
                new() { Value = Array.ConvertAll(keys, PatternOf) },
            },
        };
        await mark.ExecuteNonQueryAsync(cancel);
        await TrafficNotices.TellMovedAsync(connection, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    private const string InMonth =
        "e.at >= $2::timestamp at time zone 'UTC' and e.at < ($2::timestamp + interval '1 month') at time zone 'UTC'";

    /// <summary>Where a key stands in an address, in its query or its fragment.</summary>
    private static string PatternOf(string key) => $"[?&#;]{Regex.Escape(key)}=";
}
