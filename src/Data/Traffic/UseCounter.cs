using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Counts the uses of links that end after so many, in one transaction with the hit itself: the link's row is held while
/// it is looked at, so that of any number of clicks at one moment exactly as many get through as are left.
/// </summary>
public sealed class UseCounter(NpgsqlDataSource database) : IDisposable
{
    /// <summary>Connections that counting takes at most; whoever clicks on a limited link waits for others on such links, and for nobody else.</summary>
    private const int Gates = 8;

    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(10);

    // A link's clicks take turns here and not in the database, where each one waiting would hold a connection.
    private readonly (SemaphoreSlim Turn, RawEventWriter Writer)[] _gates =
    [
        .. Enumerable.Range(0, Gates).Select(_ => (new SemaphoreSlim(1, 1), new RawEventWriter())),
    ];

    /// <summary>
    /// Takes one use for a person's hit and keeps the hit. A double tap takes none, and gets the answer of the tap before it
    /// also when that took the last one.
    /// </summary>
    /// <returns>False when none was left; then nothing is kept.</returns>
    /// <exception cref="NpgsqlException">The database can't be reached: nobody knows whether one is left.</exception>
    /// <exception cref="TimeoutException">Too many are being counted: nobody knows yet.</exception>
    public async Task<bool> TakeAsync(RawHit hit, CancellationToken cancel)
    {
        var (turn, writer) = _gates[(uint)hit.ShortLinkId.GetHashCode() % Gates];
        if (!await turn.WaitAsync(LongestWait, cancel))
        {
            throw new TimeoutException("Too many uses of limited links are being counted at once.");
        }

        try
        {
            return await CountAsync(hit, writer, cancel);
        }
        finally
        {
            turn.Release();
        }
    }

    public void Dispose() => Array.ForEach(_gates, g => g.Turn.Dispose());

    private async Task<bool> CountAsync(RawHit hit, RawEventWriter writer, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        Guid link;
        int? left;
        await using (
            var look = Command(
                connection,
                "select l.id, l.uses_left from links l where l.id = (select link_id from short_links where id = $1) for no key update",
                hit.ShortLinkId
            )
        )
        {
            await using var reader = await look.ExecuteReaderAsync(cancel);
            if (!await reader.ReadAsync(cancel))
            {
                return false;
            }

            link = reader.GetGuid(0);
            left = reader.IsDBNull(1) ? null : reader.GetInt32(1);
        }

        bool again = left is not null && await IsDoubleTapAsync(connection, hit, cancel);
        if (left <= 0 && !again)
        {
            return false;
        }

        if (left is not null && !again)
        {
            await using var take = Command(connection, "update links set uses_left = uses_left - 1 where id = $1", link);
            await take.ExecuteNonQueryAsync(cancel);
        }

        await writer.WriteAsync(connection, new RawEvents { Hits = { hit } }, cancel);
        await transaction.CommitAsync(cancel);
        if (left == 1 && !again)
        {
            await TellEndAsync(connection, link);
        }

        return true;
    }

    /// <summary>
    /// Tells every process of the last use, so that the end holds without the database too. One that does not hear of it
    /// asks the database, as for every use before.
    /// </summary>
    private static async Task TellEndAsync(NpgsqlConnection connection, Guid link)
    {
        try
        {
            await using var tell = Command(
                connection,
                "with turn as materialized (select pg_advisory_xact_lock($2)) update short_links set target = target from turn where link_id = $1",
                link
            );
            tell.Parameters.Add(new() { Value = SlugLock.Id });
            await tell.ExecuteNonQueryAsync(CancellationToken.None);
        }
        catch (NpgsqlException)
        {
            // The use is counted; that is what the visitor is answered by.
        }
    }

    private static NpgsqlCommand Command(NpgsqlConnection connection, string sql, Guid value) =>
        new(sql, connection) { CommandTimeout = (int)LongestWait.TotalSeconds, Parameters = { new() { Value = value } } };

    /// <summary>Judged as <see cref="HitClassifier"/> does, by the hits that were kept before this one.</summary>
    private static async Task<bool> IsDoubleTapAsync(NpgsqlConnection connection, RawHit hit, CancellationToken cancel)
    {
        await using var earlier = new NpgsqlCommand(
            "select flags, user_agent from hit where workspace_id = $1 and short_link_id = $2 and visitor = any($3) and at >= $4 and at <= $5",
            connection
        );
        earlier.Parameters.Add(new() { Value = hit.WorkspaceId });
        earlier.Parameters.Add(new() { Value = hit.ShortLinkId });
        earlier.Parameters.Add(new() { Value = hit.EarlierVisitor is { } yesterday ? new[] { hit.Visitor, yesterday } : [hit.Visitor] });
        earlier.Parameters.Add(new() { Value = hit.At - HitClassifier.DoubleTapWithin });
        earlier.Parameters.Add(new() { Value = hit.At });
        await using var reader = await earlier.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (HitClassifier.KindAlone((HitFlags)reader.GetInt16(0), reader.GetString(1)) == HitKind.Person)
            {
                return true;
            }
        }

        return false;
    }
}
