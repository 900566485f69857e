using System.Collections.Concurrent;
using Npgsql;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Links;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Counts the uses of links that end after so many, in one transaction with the hits themselves: a link's row is held while
/// it is looked at, so that of any number of clicks at one moment exactly as many get through as are left.
/// </summary>
public sealed class UseCounter(NpgsqlDataSource database) : IDisposable
{
    /// <summary>Connections that counting takes at most; whoever clicks on a limited link waits for others on such links, and for nobody else.</summary>
    private const int Gates = 8;

    /// <summary>So many clicks that wait together are counted in one transaction: a crowd waits no longer for each of its people.</summary>
    private const int MostTogether = 200;

    private static readonly TimeSpan LongestWait = TimeSpan.FromSeconds(10);

    // A link's clicks take turns here and not in the database, where each one waiting would hold a connection.
    private readonly Gate[] _gates = [.. Enumerable.Range(0, Gates).Select(_ => new Gate())];

    /// <summary>
    /// Takes one use for a person's hit and keeps the hit. A double tap takes none, and gets the answer of the tap before it
    /// also when that took the last one.
    /// </summary>
    /// <returns>False when none was left; then nothing is kept.</returns>
    /// <exception cref="NpgsqlException">The database can't be reached: nobody knows whether one is left.</exception>
    /// <exception cref="TimeoutException">Too many are being counted: nobody knows yet.</exception>
    public async Task<bool> TakeAsync(RawHit hit, CancellationToken cancel)
    {
        var gate = _gates[(uint)hit.ShortLinkId.GetHashCode() % Gates];
        var mine = new WaitingHit(hit);
        gate.Waiting.Enqueue(mine);
        try
        {
            if (!await gate.Turn.WaitAsync(LongestWait, cancel))
            {
                throw new TimeoutException("Too many uses of limited links are being counted at once.");
            }
        }
        catch (Exception) when (mine.TryWithdraw())
        {
            throw;
        }
        catch (Exception)
        {
            // Somebody is counting it just now, so its answer is near.
            return await mine.Answer;
        }

        try
        {
            // Whoever had the turn before may have counted this one along with theirs.
            while (!mine.Answer.IsCompleted)
            {
                await CountTogetherAsync(gate);
            }
        }
        finally
        {
            gate.Turn.Release();
        }

        return await mine.Answer;
    }

    public void Dispose() => Array.ForEach(_gates, g => g.Turn.Dispose());

    private async Task CountTogetherAsync(Gate gate)
    {
        var some = new List<WaitingHit>();
        while (some.Count < MostTogether && gate.Waiting.TryDequeue(out var next))
        {
            if (next.TryBegin())
            {
                some.Add(next);
            }
        }

        if (some.Count == 0)
        {
            return;
        }

        some.Sort((a, b) => (a.Hit.At, a.Hit.Id).CompareTo((b.Hit.At, b.Hit.Id)));
        try
        {
            // Nobody who goes away meanwhile takes the others along.
            var taken = await CountAsync([.. some.Select(s => s.Hit)], gate.Writer, CancellationToken.None);
            some.ForEach(s => s.Settle(taken.Contains(s.Hit.Id)));
        }
        catch (Exception failure)
        {
            some.ForEach(s => s.Fail(failure));
        }
    }

    /// <summary>Counts hits in their order.</summary>
    /// <returns>Those that were kept.</returns>
    private async Task<HashSet<Guid>> CountAsync(List<RawHit> hits, RawEventWriter writer, CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        var links = await HoldLinksAsync(connection, hits, cancel);
        var earlier = await TapsBeforeAsync(connection, hits, cancel);
        var kept = new List<RawHit>();
        foreach (var hit in hits)
        {
            if (!links.TryGetValue(hit.ShortLinkId, out var link))
            {
                continue;
            }

            bool again = link.Left is not null && (earlier.Contains(hit.Id) || kept.Exists(k => IsTapBefore(k, hit)));
            if (link.Left is null or > 0 || again)
            {
                link.Taken += again || link.Left is null ? 0 : 1;
                kept.Add(hit);
            }
        }

        if (kept.Count > 0)
        {
            var used = links.Values.Distinct().Where(l => l.Taken > 0).ToList();
            await TakeUsesAsync(connection, used, cancel);
            await WriteAsync(connection, writer, kept, cancel);
            await transaction.CommitAsync(cancel);
            await TellEndsAsync(connection, [.. used.Where(l => l.Left == 0).Select(l => l.Id)]);
        }

        return [.. kept.Select(k => k.Id)];
    }

    /// <summary>A tap of the same person on the same link within a moment, judged as <see cref="HitClassifier"/> does; all hits here are people's.</summary>
    private static bool IsTapBefore(RawHit tap, RawHit hit) =>
        tap.ShortLinkId == hit.ShortLinkId
        && (tap.Visitor == hit.Visitor || tap.Visitor == hit.EarlierVisitor)
        && hit.At - tap.At <= HitClassifier.DoubleTapWithin;

    private static Task WriteAsync(NpgsqlConnection connection, RawEventWriter writer, List<RawHit> kept, CancellationToken cancel)
    {
        var events = new RawEvents();
        events.Hits.AddRange(kept);
        return writer.WriteAsync(connection, events, cancel);
    }

    /// <summary>The links of hits, by short link; nobody else takes uses of them until the transaction ends.</summary>
    private static async Task<Dictionary<Guid, HeldLink>> HoldLinksAsync(
        NpgsqlConnection connection,
        List<RawHit> hits,
        CancellationToken cancel
    )
    {
        await using var hold = Command(
            connection,
            """
            with held as materialized (
                select l.id, l.uses_left from links l
                where l.id in (select link_id from short_links where id = any($1)) order by l.id for no key update
            )
            select s.id, h.id, h.uses_left from held h join short_links s on s.link_id = h.id where s.id = any($1)
            """,
            hits.Select(h => h.ShortLinkId).Distinct().ToArray()
        );
        var byLink = new Dictionary<Guid, HeldLink>();
        var found = new Dictionary<Guid, HeldLink>();
        await using var reader = await hold.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var id = reader.GetGuid(1);
            if (!byLink.TryGetValue(id, out var link))
            {
                byLink[id] = link = new HeldLink(id, reader.IsDBNull(2) ? null : reader.GetInt32(2));
            }

            found[reader.GetGuid(0)] = link;
        }

        return found;
    }

    /// <summary>Those of some hits before which a tap of the same person on the same link was kept.</summary>
    private static async Task<HashSet<Guid>> TapsBeforeAsync(NpgsqlConnection connection, List<RawHit> hits, CancellationToken cancel)
    {
        await using var earlier = Command(
            connection,
            """
            select g.id, h.flags, h.user_agent
            from unnest($1, $2, $3, $4, $5, $6) as g(id, workspace_id, short_link_id, visitor, earlier, at)
            join hit h on h.workspace_id = g.workspace_id and h.short_link_id = g.short_link_id and h.visitor in (g.visitor, g.earlier)
                and h.at >= g.at - $7 and h.at <= g.at and h.at >= $8 and h.at <= $9
            """,
            hits.Select(h => h.Id).ToArray(),
            hits.Select(h => h.WorkspaceId).ToArray(),
            hits.Select(h => h.ShortLinkId).ToArray(),
            hits.Select(h => h.Visitor).ToArray(),
            hits.Select(h => h.EarlierVisitor ?? h.Visitor).ToArray(),
            hits.Select(h => h.At).ToArray(),
            HitClassifier.DoubleTapWithin,
            hits.Min(h => h.At) - HitClassifier.DoubleTapWithin, // said by themselves, so that months without any are not looked into
            hits.Max(h => h.At)
        );
        var found = new HashSet<Guid>();
        await using var reader = await earlier.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (HitClassifier.KindAlone((HitFlags)reader.GetInt16(1), reader.GetString(2)) == HitKind.Person)
            {
                found.Add(reader.GetGuid(0));
            }
        }

        return found;
    }

    private static async Task TakeUsesAsync(NpgsqlConnection connection, List<HeldLink> used, CancellationToken cancel)
    {
        if (used.Count == 0)
        {
            return;
        }

        await using var take = Command(
            connection,
            "update links l set uses_left = l.uses_left - u.taken from unnest($1, $2) as u(id, taken) where l.id = u.id",
            used.Select(l => l.Id).ToArray(),
            used.Select(l => l.Taken).ToArray()
        );
        await take.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>
    /// Tells every process of last uses, so that the end holds without the database too. One that does not hear of it
    /// asks the database, as for every use before.
    /// </summary>
    private static async Task TellEndsAsync(NpgsqlConnection connection, Guid[] ended)
    {
        if (ended.Length == 0)
        {
            return;
        }

        try
        {
            await using var tell = Command(
                connection,
                "with turn as materialized (select pg_advisory_xact_lock($2)) update short_links set target = target from turn where link_id = any($1)",
                ended,
                SlugLock.Id
            );
            await tell.ExecuteNonQueryAsync(CancellationToken.None);
        }
        catch (NpgsqlException)
        {
            // The uses are counted; that is what the visitors are answered by.
        }
    }

    private static NpgsqlCommand Command(NpgsqlConnection connection, string sql, params object[] values)
    {
        var command = new NpgsqlCommand(sql, connection) { CommandTimeout = (int)LongestWait.TotalSeconds };
        foreach (object value in values)
        {
            command.Parameters.Add(new() { Value = value });
        }

        return command;
    }

    /// <summary>Clicks that wait for their turn, and whose turn it is.</summary>
    private sealed class Gate
    {
        public SemaphoreSlim Turn { get; } = new(1, 1);

        public RawEventWriter Writer { get; } = new();

        public ConcurrentQueue<WaitingHit> Waiting { get; } = new();
    }

    /// <summary>A click that waits until it is counted, or goes away before.</summary>
    private sealed class WaitingHit(RawHit hit)
    {
        private const int Waits = 0,
            Begun = 1,
            Withdrawn = 2;

        private readonly TaskCompletionSource<bool> _answer = new(TaskCreationOptions.RunContinuationsAsynchronously);
        private int _state = Waits;

        public RawHit Hit { get; } = hit;

        public Task<bool> Answer => _answer.Task;

        public bool TryBegin() => Interlocked.CompareExchange(ref _state, Begun, Waits) == Waits;

        public bool TryWithdraw() => Interlocked.CompareExchange(ref _state, Withdrawn, Waits) == Waits;

        public void Settle(bool taken) => _answer.TrySetResult(taken);

        public void Fail(Exception failure) => _answer.TrySetException(failure);
    }

    /// <summary>A link whose row is held.</summary>
    private sealed class HeldLink(Guid id, int? uses)
    {
        public Guid Id { get; } = id;

        /// <summary>Uses taken in this transaction.</summary>
        public int Taken { get; set; }

        /// <summary>How many uses are left; null for no limit.</summary>
        public int? Left => uses - Taken;
    }
}
