using Npgsql;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Moves records from a spool into the raw tables. The place moved up to is kept in the same transaction and its row
/// is locked first, so that nothing is lost or doubled whichever side dies, even when an answer to a commit is lost.
/// </summary>
public sealed class SpoolDrain(NpgsqlDataSource database)
{
    private const int LargestBatch = 5_000;

    /// <summary>SQLSTATE class of values a type can't hold (PostgreSQL documentation, appendix A).</summary>
    private const string DataException = "22";

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

        int refused = await WriteAsync(connection, transaction, events, cancel);
        await using var command = new NpgsqlCommand(
            "update spool_position set segment = $2, place = $3, moved = moved + $4, refused = refused + $5, updated_at = now() where spool_id = $1",
            connection
        )
        {
            Parameters =
            {
                new() { Value = spool.Id },
                new() { Value = to.Segment },
                new() { Value = to.Offset },
                new() { Value = (long)(events.Count - refused) },
                new() { Value = (long)refused },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
        await TrafficNotices.TellMovedAsync(connection, cancel);
        await transaction.CommitAsync(cancel);
        spool.Forget(to);
        return events.Count;
    }

    /// <summary>
    /// Writes a batch whole. Where the database refuses a value in it, it is written event by event, so that one event
    /// never holds up the others.
    /// </summary>
    /// <returns>How many events the database refused.</returns>
    private async Task<int> WriteAsync(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RawEvents events,
        CancellationToken cancel
    )
    {
        if (await TryWriteAsync(connection, transaction, events, cancel))
        {
            return 0;
        }

        int refused = 0;
        foreach (var single in events.Singly())
        {
            refused += await TryWriteAsync(connection, transaction, single, cancel) ? 0 : 1;
        }

        return refused;
    }

    private async Task<bool> TryWriteAsync(
        NpgsqlConnection connection,
        NpgsqlTransaction transaction,
        RawEvents events,
        CancellationToken cancel
    )
    {
        await transaction.SaveAsync("batch", cancel);
        try
        {
            await _writer.WriteAsync(connection, events, cancel);
            await transaction.ReleaseAsync("batch", cancel);
            return true;
        }
        catch (PostgresException refusal) when (refusal.SqlState.StartsWith(DataException, StringComparison.Ordinal))
        {
            await transaction.RollbackAsync("batch", cancel);
            return false;
        }
    }

    /// <summary>Writes events straight into the raw tables, for when the spool is full.</summary>
    public async Task WriteStraightAsync(RawEvents events, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await new RawEventWriter().WriteAsync(connection, events, cancel);
        await TrafficNotices.TellMovedAsync(connection, cancel);
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
