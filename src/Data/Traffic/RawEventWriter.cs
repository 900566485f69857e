using Npgsql;
using NpgsqlTypes;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Spooling;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Writes raw events in bulk and marks what has to be worked out again because of them.</summary>
public sealed class RawEventWriter
{
    private static readonly CopyTable<RawHit> Hits = new CopyTable<RawHit>("hit")
        .Column("id", NpgsqlDbType.Uuid, hit => hit.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, hit => hit.WorkspaceId)
        .Column("at", NpgsqlDbType.TimestampTz, hit => hit.At)
        .Column("short_link_id", NpgsqlDbType.Uuid, hit => hit.ShortLinkId)
        .Column("visitor", NpgsqlDbType.Uuid, hit => hit.Visitor)
        .Nullable("earlier_visitor", NpgsqlDbType.Uuid, hit => hit.EarlierVisitor)
        .Column("flags", NpgsqlDbType.Smallint, hit => (short)hit.Flags)
        .Column("user_agent", NpgsqlDbType.Text, hit => hit.UserAgent)
        .Column("referrer", NpgsqlDbType.Text, hit => hit.Referrer)
        .Column("country", NpgsqlDbType.Text, hit => hit.Country)
        .Column("region", NpgsqlDbType.Text, hit => hit.Region)
        .Column("city", NpgsqlDbType.Text, hit => hit.City)
        .Column("page_key", NpgsqlDbType.Bigint, hit => hit.PageKey)
        .Column("typed", NpgsqlDbType.Text, hit => hit.Typed)
        .Nullable("click_id", NpgsqlDbType.Uuid, hit => hit.ClickId);

    private static readonly CopyTable<RawPageEvent> PageEvents = new CopyTable<RawPageEvent>("page_event")
        .Column("id", NpgsqlDbType.Uuid, item => item.Id)
        .Column("workspace_id", NpgsqlDbType.Uuid, item => item.WorkspaceId)
        .Column("site_id", NpgsqlDbType.Uuid, item => item.SiteId)
        .Column("at", NpgsqlDbType.TimestampTz, item => item.At)
        .Column("kind", NpgsqlDbType.Smallint, item => (short)item.Kind)
        .Column("url", NpgsqlDbType.Text, item => item.Url)
        .Column("referrer", NpgsqlDbType.Text, item => item.Referrer)
        .Column("visitor", NpgsqlDbType.Uuid, item => item.Visitor)
        .Nullable("earlier_visitor", NpgsqlDbType.Uuid, item => item.EarlierVisitor)
        .Column("has_id", NpgsqlDbType.Boolean, item => item.HasId)
        .Column("user_agent", NpgsqlDbType.Text, item => item.UserAgent)
        .Column("name", NpgsqlDbType.Text, item => item.Name)
        .Nullable("order_id", NpgsqlDbType.Text, item => item.OrderId)
        .Nullable("value", NpgsqlDbType.Numeric, item => item.Value)
        .Nullable("currency", NpgsqlDbType.Text, item => item.Currency)
        .Nullable("items", NpgsqlDbType.Jsonb, item => item.Items)
        .Nullable("day_visitor", NpgsqlDbType.Uuid, item => item.DayVisitor)
        .Column("country", NpgsqlDbType.Text, item => item.Country)
        .Column("region", NpgsqlDbType.Text, item => item.Region)
        .Column("city", NpgsqlDbType.Text, item => item.City)
        .Column("language", NpgsqlDbType.Text, item => item.Language)
        .Column("from_log", NpgsqlDbType.Boolean, item => item.FromLog)
        .Column("verified", NpgsqlDbType.Boolean, item => item.Verified)
        .Column("placed", NpgsqlDbType.Boolean, item => item.Placed)
        .Nullable("happened_at", NpgsqlDbType.TimestampTz, item => item.HappenedAt);

    private readonly HashSet<DateOnly> _monthsMade = [];

    /// <summary>Writes into an open transaction; the caller commits.</summary>
    /// <param name="connection">In a transaction.</param>
    /// <param name="events">The events.</param>
    /// <param name="cancel">Gives up.</param>
    /// <param name="later">Visits of these events are worked out only when nothing else waits.</param>
    public async Task WriteAsync(NpgsqlConnection connection, RawEvents events, CancellationToken cancel, bool later = false)
    {
        await MakeMonthsAsync(connection, events, cancel);
        await CopyHitsAsync(connection, events.Hits, cancel);
        await CopyPageEventsAsync(connection, events.PageEvents, cancel);
        await MarkHitsDueAsync(connection, events.Hits, cancel);
        await MarkVisitsDueAsync(connection, events.PageEvents, later, cancel);
    }

    private async Task MakeMonthsAsync(NpgsqlConnection connection, RawEvents events, CancellationToken cancel)
    {
        var months = events
            .Hits.Select(h => h.At)
            .Concat(events.PageEvents.Select(e => e.At))
            .Select(at => new DateOnly(at.UtcDateTime.Year, at.UtcDateTime.Month, 1))
            .Distinct()
            .Where(m => !_monthsMade.Contains(m))
            .ToList();
        foreach (var month in months)
        {
            await using var command = new NpgsqlCommand("select make_month($1)", connection) { Parameters = { new() { Value = month } } };
            await command.ExecuteNonQueryAsync(cancel);
        }

        // Remembered only once seen made: a transaction rolled back takes its partitions with it.
        foreach (var month in months.Count == 0 ? [] : await MadeAsync(connection, cancel))
        {
            if (!months.Contains(month))
            {
                _monthsMade.Add(month);
            }
        }
    }

    private static async Task<List<DateOnly>> MadeAsync(NpgsqlConnection connection, CancellationToken cancel)
    {
        var made = new List<DateOnly>();
        await using var command = new NpgsqlCommand("select month from made_month", connection);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            made.Add(reader.GetFieldValue<DateOnly>(0));
        }

        return made;
    }

    private static async Task CopyHitsAsync(NpgsqlConnection connection, List<RawHit> hits, CancellationToken cancel)
    {
        if (hits.Count == 0)
        {
            return;
        }

        await Hits.WriteAsync(connection, hits, cancel);
    }

    private static async Task CopyPageEventsAsync(NpgsqlConnection connection, List<RawPageEvent> events, CancellationToken cancel)
    {
        if (events.Count == 0)
        {
            return;
        }

        await PageEvents.WriteAsync(connection, events, cancel);
    }

    /// <summary>
    /// A short link's clicks by one visitor are worked out again over the stretch of time the new hits cover. What changes
    /// because of that is marked then (<see cref="ClickAggregator"/>): only then does everybody see the hits.
    /// </summary>
    private static async Task MarkHitsDueAsync(NpgsqlConnection connection, List<RawHit> hits, CancellationToken cancel)
    {
        if (hits.Count == 0)
        {
            return;
        }

        var stretches = hits.GroupBy(h => (h.WorkspaceId, h.Visitor, h.ShortLinkId)).ToList();
        await using var command = new NpgsqlCommand(
            "insert into hit_due (workspace_id, visitor, short_link_id, from_at, to_at, hits) select * from unnest($1, $2, $3, $4, $5, $6)",
            connection
        )
        {
            Parameters =
            {
                new() { Value = stretches.Select(s => s.Key.WorkspaceId).ToArray() },
                new() { Value = stretches.Select(s => s.Key.Visitor).ToArray() },
                new() { Value = stretches.Select(s => s.Key.ShortLinkId).ToArray() },
                new() { Value = stretches.Select(s => s.Min(h => h.At)).ToArray() },
                new() { Value = stretches.Select(s => s.Max(h => h.At)).ToArray() },
                new() { Value = stretches.Select(s => s.Count()).ToArray() },
            },
        };
        await command.ExecuteNonQueryAsync(cancel);
    }

    /// <summary>
    /// Marks the days of the new events, whose visits change. A mark is only ever added: one that is being worked off meanwhile may not
    /// have seen these events.
    /// </summary>
    private static async Task MarkVisitsDueAsync(
        NpgsqlConnection connection,
        List<RawPageEvent> events,
        bool later,
        CancellationToken cancel
    )
    {
        if (events.Count == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            with came as (
                select * from unnest($1, $2, $3, $4) as c(workspace_id, visitor, earlier, at)
            ), linked as (
                insert into visitor_link (workspace_id, visitor, earlier)
                select distinct workspace_id, visitor, earlier from came where earlier is not null
                on conflict do nothing
            )
            insert into visit_due (workspace_id, visitor, day, later)
            select distinct c.workspace_id, c.visitor, (c.at at time zone w.time_zone)::date, $5
            from came c
            join workspaces w on w.id = c.workspace_id
            """,
            connection
        );
        command.Parameters.Add(new() { Value = events.Select(e => e.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = events.Select(e => e.Visitor).ToArray() });
        command.Parameters.Add(new() { Value = events.Select(e => e.EarlierVisitor).ToArray() });
        command.Parameters.Add(new() { Value = events.Select(e => e.At).ToArray() });
        command.Parameters.Add(new() { Value = later });
        await command.ExecuteNonQueryAsync(cancel);
    }
}
