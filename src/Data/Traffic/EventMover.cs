using Npgsql;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Moves records from a spool into the raw tables. The place moved up to is kept in the same transaction and its row
/// is locked first, so that nothing is lost or doubled whichever side dies, even when an answer to a commit is lost.
/// </summary>
public sealed class EventMover(NpgsqlDataSource database)
{
    private const int LargestBatch = 10_000;

    private readonly RawEventWriter _writer = new();

    /// <summary>Moves one batch.</summary>
    /// <returns>How many records were moved; 0 when there was nothing left.</returns>
    public async Task<int> MoveAsync(Spool spool, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        var from = await LockPositionAsync(connection, spool.Id, cancel);
        var events = new RawEvents();
        var to = spool.Read(from, record =>
        {
            EventRecord.Read(record.Span, events);
            return events.Count < LargestBatch;
        });
        if (events.Count == 0)
        {
            return 0;
        }

        await _writer.WriteAsync(connection, events, cancel);
        await using var command = new NpgsqlCommand(
            "update spool_position set segment = $2, place = $3, moved = moved + $4, updated_at = now() where spool_id = $1", connection)
        {
            Parameters =
            {
                new() { Value = spool.Id },
                new() { Value = to.Segment },
                new() { Value = to.Offset },
                new() { Value = (long)events.Count },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
        spool.Forget(to);
        return events.Count;
    }

    /// <summary>Writes events straight into the raw tables, for when the spool is full.</summary>
    public async Task WriteStraightAsync(RawEvents events, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await new RawEventWriter().WriteAsync(connection, events, cancel);
        await transaction.CommitAsync(cancel);
    }

    private static async Task<SpoolPosition> LockPositionAsync(NpgsqlConnection connection, Guid spoolId, CancellationToken cancel)
    {
        await using (var insert = new NpgsqlCommand("insert into spool_position (spool_id) values ($1) on conflict do nothing", connection))
        {
            insert.Parameters.Add(new() { Value = spoolId });
            await insert.ExecuteNonQueryAsync(cancel);
        }

        await using var command = new NpgsqlCommand("select segment, place from spool_position where spool_id = $1 for update", connection);
        command.Parameters.Add(new() { Value = spoolId });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        await reader.ReadAsync(cancel);
        return new SpoolPosition(reader.GetInt64(0), reader.GetInt64(1));
    }
}
