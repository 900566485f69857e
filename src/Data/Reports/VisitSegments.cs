using System.Runtime.CompilerServices;
using Npgsql;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>
/// The visits of a range, packed: segments where they are up to date, the rows of visits for the hours that changed since. Within one
/// transaction that sees one state (repeatable read) they are all visits there are, each once.
/// </summary>
public sealed class VisitSegments(VisitSegmentCache cache)
{
    /// <summary>So many segments are fetched at once, so that memory is not filled by those on their way.</summary>
    private const int FetchedAtOnce = 64;

    /// <summary>All visits of a workspace from one day to another, in no order.</summary>
    public async IAsyncEnumerable<(DateOnly Day, VisitColumns Visits)> ReadAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        var (segments, hours) = await ListAsync(connection, workspaceId, from, to, cancel);
        var missing = new List<Segment>();
        foreach (var segment in segments)
        {
            if (cache.Find(segment.Id) is { } held)
            {
                yield return (segment.Day, held);
            }
            else
            {
                missing.Add(segment);
            }
        }

        foreach (var some in missing.Chunk(FetchedAtOnce))
        {
            await using var command = new NpgsqlCommand("select id, day, columns from visit_segment where id = any($1)", connection)
            {
                Parameters = { new() { Value = some.Select(s => s.Id).ToArray() } },
            };
            await using var reader = await command.ExecuteReaderAsync(cancel);
            while (await reader.ReadAsync(cancel))
            {
                var visits = VisitColumns.Read(reader.GetFieldValue<byte[]>(2));
                cache.Add(reader.GetInt64(0), visits);
                yield return (reader.GetFieldValue<DateOnly>(1), visits);
            }
        }

        await foreach (var packed in PackedVisits.ReadAsync(connection, workspaceId, hours, cancel))
        {
            yield return packed;
        }
    }

    /// <summary>The segments that are up to date, and the hours that none of them has.</summary>
    private static async Task<(List<Segment> Segments, HashSet<HourOfDay> Hours)> ListAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        await using var batch = new NpgsqlBatch(connection);
        foreach (
            string sql in (string[])
                [
                    "select day, hour from visit_segment_due where workspace_id = $1 and day between $2 and $3",
                    "select id, day, first_hour, last_hour from visit_segment where workspace_id = $1 and day between $2 and $3",
                ]
        )
        {
            batch.BatchCommands.Add(
                new NpgsqlBatchCommand(sql)
                {
                    Parameters =
                    {
                        new() { Value = workspaceId },
                        new() { Value = from },
                        new() { Value = to },
                    },
                }
            );
        }

        var due = new HashSet<HourOfDay>();
        var segments = new List<Segment>();
        var hours = new HashSet<HourOfDay>();
        await using var reader = await batch.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            due.Add(new HourOfDay(reader.GetFieldValue<DateOnly>(0), reader.GetInt16(1)));
        }

        hours.UnionWith(due);
        await reader.NextResultAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var segment = new Segment(reader.GetInt64(0), reader.GetFieldValue<DateOnly>(1), reader.GetInt16(2), reader.GetInt16(3));
            if (segment.Hours.Any(due.Contains))
            {
                hours.UnionWith(segment.Hours);
            }
            else
            {
                segments.Add(segment);
            }
        }

        return (segments, hours);
    }

    private sealed record Segment(long Id, DateOnly Day, short FirstHour, short LastHour)
    {
        public IEnumerable<HourOfDay> Hours =>
            Enumerable.Range(FirstHour, LastHour - FirstHour + 1).Select(hour => new HourOfDay(Day, (short)hour));
    }
}
