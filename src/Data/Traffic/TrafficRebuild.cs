using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Throws away everything worked out and marks all raw events as due, so that it is worked out from scratch.</summary>
public sealed class TrafficRebuild(NpgsqlDataSource database)
{
    public async Task MarkAllAsync(CancellationToken cancel)
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using var command = new NpgsqlCommand(
            """
            truncate click, visit, page_view, conversion, visit_segment, visit_segment_due, visitor_first, click_day, click_month, hit_due, visit_due, link_use_due;
            update links set uses = 0, last_used_at = null where uses <> 0 or last_used_at is not null;
            insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits)
            select workspace_id, visitor, short_link_id, min(at), max(at), count(*) from hit group by 1, 2, 3;
            insert into visit_due (workspace_id, visitor, day)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date
            from page_event e join workspaces w on w.id = e.workspace_id
            """,
            connection
        );
        await command.ExecuteNonQueryAsync(cancel);
        await transaction.CommitAsync(cancel);
    }
}
