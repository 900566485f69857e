using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Counts the uses of links that end after so many, in one transaction with the hit itself: the link's row is held while
/// it is looked at, so that of any number of clicks at one moment exactly as many get through as are left.
/// </summary>
public sealed class UseCounter(NpgsqlDataSource database)
{
    /// <summary>Takes one use for a person's hit and keeps the hit; a double tap takes none.</summary>
    /// <returns>False when none was left; then nothing is kept.</returns>
    /// <exception cref="NpgsqlException">The database can't be reached: nobody knows whether one is left.</exception>
    public async Task<bool> TakeAsync(RawHit hit, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        Guid link;
        int? left;
        await using (var look = new NpgsqlCommand("select l.id, l.uses_left from links l where l.id = (select link_id from short_links where id = $1) for update", connection))
        {
            look.Parameters.Add(new() { Value = hit.ShortLinkId });
            await using var reader = await look.ExecuteReaderAsync(cancel);
            if (!await reader.ReadAsync(cancel))
            {
                return false;
            }

            link = reader.GetGuid(0);
            left = reader.IsDBNull(1) ? null : reader.GetInt32(1);
        }

        if (left <= 0)
        {
            return false;
        }

        if (left is { } some && !await IsDoubleTapAsync(connection, hit, cancel))
        {
            await using var take = new NpgsqlCommand("update links set uses_left = uses_left - 1 where id = $1", connection) { Parameters = { new() { Value = link } } };
            await take.ExecuteNonQueryAsync(cancel);
            if (some == 1)
            {
                // The last one is told to every process, so that the end holds without the database too.
                await using var tell = new NpgsqlCommand("update short_links set target = target where link_id = $1", connection) { Parameters = { new() { Value = link } } };
                await tell.ExecuteNonQueryAsync(cancel);
            }
        }

        await new RawEventWriter().WriteAsync(connection, new RawEvents { Hits = { hit } }, cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }

    /// <summary>Judged as <see cref="HitSorter"/> does, by the hits that were kept before this one.</summary>
    private static async Task<bool> IsDoubleTapAsync(NpgsqlConnection connection, RawHit hit, CancellationToken cancel)
    {
        await using var earlier = new NpgsqlCommand(
            "select flags, user_agent from hit where workspace_id = $1 and short_link_id = $2 and visitor = any($3) and at >= $4 and at <= $5", connection);
        earlier.Parameters.Add(new() { Value = hit.WorkspaceId });
        earlier.Parameters.Add(new() { Value = hit.ShortLinkId });
        earlier.Parameters.Add(new() { Value = hit.EarlierVisitor is { } yesterday ? new[] { hit.Visitor, yesterday } : [hit.Visitor] });
        earlier.Parameters.Add(new() { Value = hit.At - HitSorter.DoubleTapWithin });
        earlier.Parameters.Add(new() { Value = hit.At });
        await using var reader = await earlier.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (HitSorter.KindAlone((HitFlags)reader.GetInt16(0), reader.GetString(1)) == HitKind.Person)
            {
                return true;
            }
        }

        return false;
    }
}
