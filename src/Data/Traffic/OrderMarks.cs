using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// An order counts once over all visitors (<see cref="OrderOnce"/>), so working out one visitor's visits may take it from another's, or
/// give it to them.
/// </summary>
internal static class OrderMarks
{
    /// <summary>
    /// Marks the other days and visitors whose conversions are not as the orders of these events say. It is said after conversions are
    /// written, and not when events come: whoever brings the same order at the same time sees nothing of this one yet, but is worked out
    /// later, and then sees both.
    /// </summary>
    /// <param name="connection">In the transaction in which <see cref="VisitWriter"/> replaced the visitors' days.</param>
    /// <param name="events">All events of the visitors worked out.</param>
    /// <param name="counting">The events that count of each order, with what a server said of it.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task AddAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<RawPageEvent> events,
        IReadOnlyDictionary<Guid, OrderFigures?> counting,
        CancellationToken cancel
    )
    {
        var orders = events
            .Where(e => e.Kind == PageEventKind.Conversion && e.OrderId is not null)
            .Select(e => (e.SiteId, e.OrderId))
            .Distinct()
            .ToList();
        if (orders.Count == 0)
        {
            return;
        }

        // Never the days just worked out: what differs on them still would differ for ever.
        await using var command = new NpgsqlCommand(
            """
            insert into visit_due (workspace_id, visitor, day)
            select distinct e.workspace_id, e.visitor, (e.at at time zone w.time_zone)::date
            from unnest($1, $2) as o(site_id, order_id)
            join page_event e on e.site_id = o.site_id and e.order_id = o.order_id and e.kind = $3
            join workspaces w on w.id = e.workspace_id
            left join unnest($4, $5) as counts(id, verified) on counts.id = e.id
            left join conversion c on c.at = e.at and c.id = e.id
            where ((counts.id is null) <> (c.id is null) or counts.verified <> c.verified)
                and not exists (
                    select from visitor_day_due d
                    where d.workspace_id = e.workspace_id and d.visitor = e.visitor and d.day = (e.at at time zone w.time_zone)::date)
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = orders.Select(o => o.SiteId).ToArray() },
                new() { Value = orders.Select(o => o.OrderId!).ToArray() },
                new() { Value = (short)PageEventKind.Conversion },
                new() { Value = counting.Keys.ToArray() },
                new() { Value = counting.Values.Select(v => v is not null).ToArray() },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }
}
