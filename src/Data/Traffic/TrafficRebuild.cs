using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Throws away what was worked out and marks all raw events as due, so that it is worked out from scratch. What is older than the raw
/// rows that are kept stays as it is.
/// </summary>
public sealed class TrafficRebuild(NpgsqlDataSource database)
{
    private const int MostTries = 10;

    /// <summary>
    /// Marks everything. Whoever reads meanwhile holds tables in an order of its own; where that ends in a deadlock, it is tried again.
    /// </summary>
    public async Task MarkAllAsync(CancellationToken cancel)
    {
        for (int attempt = 1; ; attempt++)
        {
            try
            {
                await MarkOnceAsync(cancel);
                return;
            }
            catch (PostgresException deadlock) when (deadlock.SqlState == PostgresErrorCodes.DeadlockDetected && attempt < MostTries)
            {
                // The reader has gone on; nothing of ours is done yet.
            }
        }
    }

    private async Task MarkOnceAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var command = new NpgsqlCommand(
            """
            delete from visit_segment s using workspaces w where w.id = s.workspace_id and s.day >= coalesce(w.raw_from, '-infinity');
            delete from visitor_first f using workspaces w where w.id = f.workspace_id and f.day >= coalesce(w.raw_from, '-infinity');
            delete from click_day d using workspaces w where w.id = d.workspace_id and d.day >= coalesce(w.raw_from, '-infinity');
            delete from click_month m using workspaces w where w.id = m.workspace_id and m.month >= coalesce(w.raw_from, '-infinity');
            truncate click, visit, page_view, visit_event, visit_spot, conversion, visit_segment_due, hit_due, visit_due, link_use_due;
            update links l set uses = coalesce(m.clicks, 0), last_used_at = null
            from links o left join (
                select s.link_id, sum(m.clicks)::int as clicks
                from click_month m join short_links s on s.id = m.short_link_id where m.kind = 'Person' group by s.link_id
            ) m on m.link_id = o.id
            where o.id = l.id and (l.uses <> coalesce(m.clicks, 0) or l.last_used_at is not null);
            insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits)
            select h.workspace_id, h.visitor, h.short_link_id, min(h.at), max(h.at), count(*)
            from hit h join workspaces w on w.id = h.workspace_id
            where h.at >= coalesce(w.raw_from::timestamp at time zone w.time_zone, '-infinity') group by 1, 2, 3;
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date, true
            from page_event e join workspaces w on w.id = e.workspace_id
            """,
            connection
        );
        await command.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
