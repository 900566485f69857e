using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Reads raw page events of visitors over stretches of days.</summary>
internal static class PageEventReader
{
    /// <summary>All events of the visitors from the beginning of one day to the end of another (zone of the workspace).</summary>
    /// <returns>The events in the order of time, then id.</returns>
    public static async Task<List<RawPageEvent>> ReadAsync(
        NpgsqlConnection connection,
        IReadOnlyList<(Guid WorkspaceId, Guid Visitor, DateOnly From, DateOnly To)> stretches,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select e.id, e.workspace_id, e.site_id, e.at, e.kind, e.url, e.referrer, e.visitor, e.earlier_visitor, e.has_id,
                e.user_agent, e.name, e.order_id, e.value, e.currency, e.items, e.day_visitor, e.verified, e.country, e.region, e.city, e.language,
                e.placed, e.happened_at
            from unnest($1, $2, $3, $4) as s(workspace_id, visitor, from_day, to_day)
            join workspaces w on w.id = s.workspace_id
            cross join lateral (
                select * from page_event p
                where p.workspace_id = s.workspace_id and p.visitor = s.visitor
                    and p.at >= s.from_day::timestamp at time zone w.time_zone
                    and p.at < (s.to_day + 1)::timestamp at time zone w.time_zone
            ) e
            order by e.at, e.id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = stretches.Select(s => s.WorkspaceId).ToArray() },
                new() { Value = stretches.Select(s => s.Visitor).ToArray() },
                new() { Value = stretches.Select(s => s.From).ToArray() },
                new() { Value = stretches.Select(s => s.To).ToArray() },
            },
        };
        var events = new List<RawPageEvent>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            events.Add(
                new RawPageEvent
                {
                    Id = reader.GetGuid(0),
                    WorkspaceId = reader.GetGuid(1),
                    SiteId = reader.GetGuid(2),
                    At = reader.GetFieldValue<DateTimeOffset>(3),
                    Kind = (PageEventKind)reader.GetInt16(4),
                    Url = reader.GetString(5),
                    Referrer = reader.GetString(6),
                    Visitor = reader.GetGuid(7),
                    EarlierVisitor = reader.IsDBNull(8) ? null : reader.GetGuid(8),
                    HasId = reader.GetBoolean(9),
                    UserAgent = reader.GetString(10),
                    Name = reader.GetString(11),
                    OrderId = reader.IsDBNull(12) ? null : reader.GetString(12),
                    Value = reader.IsDBNull(13) ? null : reader.GetDecimal(13),
                    Currency = reader.IsDBNull(14) ? null : reader.GetString(14),
                    Items = reader.IsDBNull(15) ? null : reader.GetString(15),
                    DayVisitor = reader.IsDBNull(16) ? null : reader.GetGuid(16),
                    Verified = reader.GetBoolean(17),
                    Country = reader.GetString(18),
                    Region = reader.GetString(19),
                    City = reader.GetString(20),
                    Language = reader.GetString(21),
                    Placed = reader.GetBoolean(22),
                    HappenedAt = reader.IsDBNull(23) ? null : reader.GetFieldValue<DateTimeOffset>(23),
                }
            );
        }

        return events;
    }

    /// <summary>Of each order that events name the one conversion that counts, over all visitors (<see cref="OrderOnce"/>).</summary>
    public static async Task<IReadOnlyDictionary<Guid, OrderFigures?>> CountingAsync(
        NpgsqlConnection connection,
        IEnumerable<RawPageEvent> events,
        CancellationToken cancel
    ) =>
        OrderOnce.CountingOf(
            await OrderEventsAsync(
                connection,
                [
                    .. events
                        .Where(e => e.Kind == PageEventKind.Conversion && e.OrderId is not null)
                        .Select(e => (e.SiteId, e.OrderId!))
                        .Distinct(),
                ],
                cancel
            )
        );

    /// <summary>
    /// The events of some orders, over all visitors: the first of each user agent, which is enough to judge by, however often an order is
    /// sent. A server sends it once.
    /// </summary>
    public static async Task<IReadOnlyList<OrderEvent>> OrderEventsAsync(
        NpgsqlConnection connection,
        IReadOnlyCollection<(Guid SiteId, string OrderId)> orders,
        CancellationToken cancel
    )
    {
        if (orders.Count == 0)
        {
            return [];
        }

        await using var command = new NpgsqlCommand(
            """
            select distinct on (e.site_id, e.order_id, e.user_agent, e.verified) e.id, e.site_id, e.order_id, e.verified, e.at, e.user_agent,
                e.name, e.value, e.currency, e.items, e.happened_at, e.placed
            from unnest($1, $2) as o(site_id, order_id)
            join page_event e on e.site_id = o.site_id and e.order_id = o.order_id and e.kind = $3
            order by e.site_id, e.order_id, e.user_agent, e.verified, e.at, e.id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = orders.Select(o => o.SiteId).ToArray() },
                new() { Value = orders.Select(o => o.OrderId).ToArray() },
                new() { Value = (short)PageEventKind.Conversion },
            },
        };
        var found = new List<OrderEvent>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(
                new OrderEvent(
                    reader.GetGuid(0),
                    reader.GetGuid(1),
                    reader.GetString(2),
                    reader.GetBoolean(3),
                    reader.GetFieldValue<DateTimeOffset>(4),
                    reader.GetString(5),
                    new OrderFigures(
                        reader.GetString(6),
                        reader.IsDBNull(7) ? null : reader.GetDecimal(7),
                        reader.IsDBNull(8) ? null : reader.GetString(8),
                        reader.IsDBNull(9) ? null : reader.GetString(9),
                        reader.IsDBNull(10) ? null : reader.GetFieldValue<DateTimeOffset>(10)
                    ),
                    reader.GetBoolean(11)
                )
            );
        }

        return found;
    }
}
