using Npgsql;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads the orders for which money went back. An order nobody has reported yet is left out.</summary>
public static class RefundReader
{
    /// <summary>Orders with a refund in a range, each with all its refunds.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">First day of the range, in the workspace's zone.</param>
    /// <param name="to">Its last day.</param>
    /// <param name="cancel">Gives up.</param>
    public static async Task<IReadOnlyCollection<RefundedOrder>> ReadAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        // What an order's visit was is kept with its refunds once the visit itself is no longer kept.
        await using var command = new NpgsqlCommand(
            """
            select r.site_id, r.order_id, coalesce(c.value, r.order_value), coalesce(c.currency, r.order_currency),
                coalesce(c.source_id, r.source_id), coalesce(c.landing_page_id, r.landing_page_id),
                coalesce(c.last_page_id, r.last_page_id), coalesce(c.place_id, r.place_id), coalesce(c.device_id, r.device_id),
                coalesce(c.hour, r.hour), coalesce(v.has_id, r.has_id), coalesce(v.is_new, r.is_new), r.day, r.value, r.currency,
                coalesce(c.visitor, r.visitor), coalesce(v.started_at, r.visit_started_at), coalesce(v.first_source_id, r.first_source_id)
            from (select distinct site_id, order_id from refund where workspace_id = $1 and day between $2 and $3) o
            join refund r on r.site_id = o.site_id and r.order_id = o.order_id
            left join lateral (
                select * from conversion where site_id = o.site_id and order_id = o.order_id order by verified desc, at limit 1) c on true
            left join visit v on v.workspace_id = c.workspace_id and v.visitor = c.visitor and v.day = c.day and v.id = c.visit_id
            where c.id is not null or r.source_id is not null
            order by r.id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = from },
                new() { Value = to },
            },
        };
        var orders = new Dictionary<(Guid, string), (RefundedOrder Order, List<DayRefund> Refunds)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var key = (reader.GetGuid(0), reader.GetString(1));
            if (!orders.TryGetValue(key, out var known))
            {
                var refunds = new List<DayRefund>();
                orders[key] = known = (
                    new RefundedOrder(
                        reader.IsDBNull(2) ? null : reader.GetDecimal(2),
                        reader.IsDBNull(3) ? null : reader.GetString(3),
                        reader.GetInt32(4),
                        reader.GetInt32(5),
                        reader.GetInt32(6),
                        reader.GetInt32(7),
                        reader.GetInt32(8),
                        reader.GetInt16(9),
                        VisitorKinds.Of(reader.GetBoolean(10), reader.GetBoolean(11)),
                        refunds
                    )
                    {
                        Visitor = reader.IsDBNull(15) ? 0 : DistinctVisitors.Short(reader.GetGuid(15)),
                        At = reader.IsDBNull(16) ? 0 : reader.GetFieldValue<DateTime>(16).Ticks / TimeSpan.TicksPerSecond,
                        FirstSourceId = reader.IsDBNull(17) ? 0 : reader.GetInt32(17),
                    },
                    refunds
                );
            }

            known.Refunds.Add(new DayRefund(reader.GetFieldValue<DateOnly>(12), reader.GetDecimal(13), reader.GetString(14)));
        }

        return [.. orders.Values.Select(o => o.Order)];
    }

    /// <summary>Refunds whose order nobody has reported, the newest first.</summary>
    /// <param name="database">Where to read.</param>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>These, and how many there are in all.</returns>
    public static async Task<(IReadOnlyList<WaitingRefund> Refunds, long Found)> WaitingAsync(
        NpgsqlDataSource database,
        Guid workspaceId,
        int most,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            """
            select r.order_id, r.day, r.value, r.currency, count(*) over () from refund r
            where r.workspace_id = $1 and r.source_id is null
                and not exists (select from conversion c where c.site_id = r.site_id and c.order_id = r.order_id)
            order by r.id desc limit $2
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = most });
        var refunds = new List<WaitingRefund>();
        long found = 0;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found = reader.GetInt64(4);
            refunds.Add(
                new WaitingRefund(reader.GetString(0), reader.GetFieldValue<DateOnly>(1), reader.GetDecimal(2), reader.GetString(3))
            );
        }

        return (refunds, found);
    }

    /// <summary>Keeps with refunds what their orders' visits were, where those visits are no longer kept one by one.</summary>
    public static async Task KeepOrdersAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        await using var command = new NpgsqlCommand(
            """
            update refund r set order_value = c.value, order_currency = c.currency, source_id = c.source_id,
                landing_page_id = c.landing_page_id, last_page_id = c.last_page_id, place_id = c.place_id, device_id = c.device_id,
                hour = c.hour, has_id = v.has_id, is_new = v.is_new, visitor = c.visitor, visit_started_at = v.started_at,
                first_source_id = v.first_source_id
            from conversion c
            join workspaces w on w.id = c.workspace_id
            join visit v on v.workspace_id = c.workspace_id and v.visitor = c.visitor and v.day = c.day and v.id = c.visit_id
            where r.source_id is null and c.site_id = r.site_id and c.order_id = r.order_id and c.day < w.raw_from
            """,
            connection
        );
        await command.ExecuteNonQueryAsync(cancel);
    }
}

/// <summary>A refund that waits for its order.</summary>
/// <param name="OrderId">The order, as the server names it.</param>
/// <param name="Day">The day the money went back, in the workspace's zone.</param>
/// <param name="Value">How much.</param>
/// <param name="Currency">ISO 4217.</param>
public sealed record WaitingRefund(string OrderId, DateOnly Day, decimal Value, string Currency);
