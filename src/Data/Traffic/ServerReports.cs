using Npgsql;
using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>
/// Keeps conversions and refunds that servers report. Each call is one transaction, and the calls of a workspace follow each other, so that
/// nothing is kept twice and no two refunds together are more than their order.
/// </summary>
public sealed class ServerReports(NpgsqlDataSource database, EventIds ids)
{
    private const int Lock = 7_006;

    /// <summary>Keeps conversions, then refunds.</summary>
    /// <param name="workspaceId">Whose they are.</param>
    /// <param name="conversions">In the order sent; each event id and each order once.</param>
    /// <param name="refunds">Likewise; their event ids are no conversion's.</param>
    /// <param name="now">The moment.</param>
    /// <param name="cancel">Gives up; then nothing is kept.</param>
    /// <returns>What became of each, by its event id.</returns>
    public async Task<IReadOnlyDictionary<string, ServerReportOutcome>> KeepAsync(
        Guid workspaceId,
        IReadOnlyList<ServerConversion> conversions,
        IReadOnlyList<ServerRefund> refunds,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var connection = await database.OpenConnectionAsync(cancel);
        await using var transaction = await connection.BeginTransactionAsync(cancel);
        await using (var locking = new NpgsqlCommand("select pg_advisory_xact_lock($1, hashtext($2))", connection))
        {
            locking.Parameters.Add(new() { Value = Lock });
            locking.Parameters.Add(new() { Value = workspaceId.ToString() });
            await locking.ExecuteNonQueryAsync(cancel);
        }

        var outcomes = await KnownAsync(
            connection,
            workspaceId,
            [.. conversions.Select(c => c.EventId), .. refunds.Select(r => r.EventId)],
            cancel
        );
        var added = await OnceAsync(connection, workspaceId, [.. conversions.Where(c => !outcomes.ContainsKey(c.EventId))], now, cancel);
        foreach (var conversion in conversions.Where(c => !outcomes.ContainsKey(c.EventId)))
        {
            outcomes[conversion.EventId] = added.Contains(conversion.EventId) ? ServerReportOutcome.Kept : ServerReportOutcome.OrderKnown;
        }

        await WriteAsync(connection, workspaceId, [.. conversions.Where(c => added.Contains(c.EventId))], now, outcomes, cancel);
        await RefundAsync(connection, workspaceId, [.. refunds.Where(r => !outcomes.ContainsKey(r.EventId))], now, outcomes, cancel);
        await transaction.CommitAsync(cancel);
        return outcomes;
    }

    private static async Task<Dictionary<string, ServerReportOutcome>> KnownAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        string[] eventIds,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            "select event_id from server_report where workspace_id = $1 and event_id = any($2)",
            connection
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = eventIds });
        var known = new Dictionary<string, ServerReportOutcome>(StringComparer.Ordinal);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            known[reader.GetString(0)] = ServerReportOutcome.Known;
        }

        return known;
    }

    /// <summary>Writes down which reports there are now.</summary>
    /// <returns>The event ids of those that are new, and whose order is.</returns>
    private static async Task<HashSet<string>> OnceAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        List<ServerConversion> conversions,
        DateTimeOffset now,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            insert into server_report (workspace_id, event_id, site_id, order_id, came_at)
            select $1, event_id, site_id, order_id, $2 from unnest($3, $4, $5) as r(event_id, site_id, order_id)
            on conflict do nothing
            returning event_id
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = now },
                new() { Value = conversions.Select(c => c.EventId).ToArray() },
                new() { Value = conversions.Select(c => c.SiteId).ToArray() },
                new() { Value = conversions.Select(c => c.OrderId).ToArray() },
            },
        };
        var added = new HashSet<string>(StringComparer.Ordinal);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            added.Add(reader.GetString(0));
        }

        return added;
    }

    private async Task WriteAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        List<ServerConversion> conversions,
        DateTimeOffset now,
        Dictionary<string, ServerReportOutcome> outcomes,
        CancellationToken cancel
    )
    {
        if (conversions.Count == 0)
        {
            return;
        }

        var places = await ServerPlaces.FindAsync(connection, workspaceId, conversions, cancel);
        var events = new RawEvents();
        for (int i = 0; i < conversions.Count; i++)
        {
            var conversion = conversions[i];
            events.PageEvents.Add(conversion.Placed(ids.Next(now), workspaceId, places[i]));
            if (conversion.ClickId is not null && places[i] is null)
            {
                outcomes[conversion.EventId] = ServerReportOutcome.KeptWithoutClick;
            }
        }

        await new RawEventWriter().WriteAsync(connection, events, cancel);
    }

    private async Task RefundAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        List<ServerRefund> refunds,
        DateTimeOffset now,
        Dictionary<string, ServerReportOutcome> outcomes,
        CancellationToken cancel
    )
    {
        if (refunds.Count == 0)
        {
            return;
        }

        var orders = refunds.Select(r => (r.SiteId, r.OrderId)).Distinct().ToList();
        var figures = OrderOnce.FiguresOf(await PageEventReader.OrderEventsAsync(connection, orders, cancel));
        var before = await BeforeAsync(connection, orders, cancel);
        var kept = new List<ServerRefund>();
        foreach (var order in refunds.GroupBy(r => (r.SiteId, r.OrderId)))
        {
            var earlier = before[order.Key].ToList();
            foreach (var refund in order)
            {
                var fault = figures.TryGetValue(order.Key, out var paid)
                    ? Refunds.Judge(paid.Value, paid.Currency, [.. earlier, (refund.Value, refund.Currency)])[^1]
                    : null;
                outcomes[refund.EventId] = fault switch
                {
                    RefundFault.OtherCurrency => ServerReportOutcome.RefundInOtherCurrency,
                    RefundFault.LargerThanOrder => ServerReportOutcome.RefundTooLarge,
                    _ => paid is null ? ServerReportOutcome.Waiting : ServerReportOutcome.Kept,
                };
                if (fault is null)
                {
                    kept.Add(refund);
                    earlier.Add((refund.Value, refund.Currency));
                }
            }
        }

        await using var command = new NpgsqlCommand(
            """
            with came as (
                select * from unnest($3, $4, $5, $6, $7, $8, $9) as r(id, event_id, site_id, order_id, at, value, currency)
            ), told as (
                insert into server_report (workspace_id, event_id, site_id, came_at) select $1, event_id, site_id, $2 from came
            )
            insert into refund (id, workspace_id, site_id, order_id, day, at, value, currency)
            select r.id, $1, r.site_id, r.order_id, (r.at at time zone w.time_zone)::date, r.at, r.value, r.currency
            from came r join workspaces w on w.id = $1
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = now },
                new() { Value = kept.Select(_ => ids.Next(now)).ToArray() },
                new() { Value = kept.Select(r => r.EventId).ToArray() },
                new() { Value = kept.Select(r => r.SiteId).ToArray() },
                new() { Value = kept.Select(r => r.OrderId).ToArray() },
                new() { Value = kept.Select(r => r.At).ToArray() },
                new() { Value = kept.Select(r => r.Value).ToArray() },
                new() { Value = kept.Select(r => r.Currency).ToArray() },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }

    private static async Task<ILookup<(Guid SiteId, string OrderId), (decimal Value, string Currency)>> BeforeAsync(
        NpgsqlConnection connection,
        List<(Guid SiteId, string OrderId)> orders,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select r.site_id, r.order_id, r.value, r.currency
            from unnest($1, $2) as o(site_id, order_id) join refund r on r.site_id = o.site_id and r.order_id = o.order_id
            order by r.id
            """,
            connection
        );
        command.Parameters.Add(new() { Value = orders.Select(o => o.SiteId).ToArray() });
        command.Parameters.Add(new() { Value = orders.Select(o => o.OrderId).ToArray() });
        var found = new List<((Guid, string) Order, (decimal, string) Refund)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(((reader.GetGuid(0), reader.GetString(1)), (reader.GetDecimal(2), reader.GetString(3))));
        }

        return found.ToLookup(f => f.Order, f => f.Refund);
    }
}

/// <summary>Money that went back for an order, read and accepted.</summary>
/// <param name="EventId">The server's own id of the report; the same again changes nothing.</param>
/// <param name="SiteId">The site whose order it was.</param>
/// <param name="OrderId">The order.</param>
/// <param name="Value">How much, above 0.</param>
/// <param name="Currency">ISO 4217.</param>
/// <param name="At">When, UTC.</param>
public sealed record ServerRefund(string EventId, Guid SiteId, string OrderId, decimal Value, string Currency, DateTimeOffset At);

/// <summary>What became of a server's report.</summary>
public enum ServerReportOutcome
{
    /// <summary>It counts.</summary>
    Kept,

    /// <summary>It counts, but nobody knows the click it names, so it has no source.</summary>
    KeptWithoutClick,

    /// <summary>A refund is kept until its order comes.</summary>
    Waiting,

    /// <summary>The same event came before; nothing changed.</summary>
    Known,

    /// <summary>Another event reported the same order before; nothing changed.</summary>
    OrderKnown,

    /// <summary>With what went back before, the refund is more than its order.</summary>
    RefundTooLarge,

    /// <summary>The order was paid in another currency.</summary>
    RefundInOtherCurrency,
}
