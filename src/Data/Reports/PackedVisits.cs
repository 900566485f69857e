using System.Runtime.CompilerServices;
using Npgsql;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads visits from their rows and packs them.</summary>
internal static class PackedVisits
{
    /// <summary>The visits of some hours, day by day and at most <see cref="VisitColumns.Most"/> at once.</summary>
    /// <param name="connection">Where to read; nothing else may read there meanwhile.</param>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="hours">The hours, each once.</param>
    /// <param name="cancel">Gives up.</param>
    public static async IAsyncEnumerable<(DateOnly Day, VisitColumns Visits)> ReadAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<HourOfDay> hours,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        if (hours.Count == 0)
        {
            yield break;
        }

        var conversions = await ConversionsAsync(connection, workspaceId, hours, cancel);
        var events = await EventsAsync(connection, workspaceId, hours, cancel);
        await using var command = CommandOf(
            connection,
            """
            select v.day, v.id, v.visitor, v.source_id, v.landing_page_id, v.last_page_id, v.place_id, v.device_id, v.hour, v.page_views, v.events,
                v.seconds, v.conversions, v.has_id, v.bounced, v.is_new, coalesce(v.first_source_id, 0),
                floor(extract(epoch from v.started_at - v.day::timestamp at time zone 'UTC'))::integer
            from unnest($2, $3) as h(day, hour) join visit v on v.workspace_id = $1 and v.day = h.day and v.hour = h.hour
            order by v.day
            """,
            workspaceId,
            hours
        );
        var visits = new List<VisitFacts>();
        DateOnly day = default;
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var its = reader.GetFieldValue<DateOnly>(0);
            if (visits.Count == VisitColumns.Most || (visits.Count > 0 && its != day))
            {
                yield return (day, Pack());
            }

            day = its;
            visits.Add(
                new VisitFacts(
                    reader.GetGuid(1),
                    reader.GetGuid(2),
                    reader.GetInt32(3),
                    reader.GetInt32(4),
                    reader.GetInt32(5),
                    reader.GetInt32(6),
                    reader.GetInt32(7),
                    reader.GetInt16(8),
                    reader.GetInt32(9),
                    reader.GetInt32(10),
                    reader.GetInt32(11),
                    reader.GetInt32(12),
                    reader.GetBoolean(13),
                    reader.GetBoolean(14),
                    reader.GetBoolean(15),
                    reader.GetInt32(16),
                    reader.GetInt32(17)
                )
            );
        }

        if (visits.Count > 0)
        {
            yield return (day, Pack());
        }

        VisitColumns Pack()
        {
            var packed = VisitColumns.Of(
                visits,
                visits.SelectMany(v => conversions.Remove(v.Id, out var its) ? its : (IEnumerable<ConversionFacts>)[]),
                visits.SelectMany(v => events.Remove(v.Id, out var its) ? its : (IEnumerable<EventFacts>)[])
            );
            visits.Clear();
            return packed;
        }
    }

    private static async Task<Dictionary<Guid, List<ConversionFacts>>> ConversionsAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<HourOfDay> hours,
        CancellationToken cancel
    )
    {
        await using var command = CommandOf(
            connection,
            """
            select c.visit_id, c.kind, coalesce(c.currency, ''), coalesce(c.value, 0), c.verified
            from unnest($2, $3) as h(day, hour) join conversion c on c.workspace_id = $1 and c.day = h.day and c.hour = h.hour
            order by c.at, c.id
            """,
            workspaceId,
            hours
        );
        var found = new Dictionary<Guid, List<ConversionFacts>>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var conversion = new ConversionFacts(
                reader.GetGuid(0),
                reader.GetString(1),
                reader.GetString(2),
                reader.GetDecimal(3),
                reader.GetBoolean(4)
            );
            if (!found.TryGetValue(conversion.VisitId, out var ofVisit))
            {
                found[conversion.VisitId] = ofVisit = [];
            }

            ofVisit.Add(conversion);
        }

        return found;
    }

    private static async Task<Dictionary<Guid, List<EventFacts>>> EventsAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyCollection<HourOfDay> hours,
        CancellationToken cancel
    )
    {
        await using var command = CommandOf(
            connection,
            """
            select e.visit_id, e.name, e.times
            from unnest($2, $3) as h(day, hour) join visit_event e on e.workspace_id = $1 and e.day = h.day and e.hour = h.hour
            order by e.at, e.visit_id, e.name
            """,
            workspaceId,
            hours
        );
        var found = new Dictionary<Guid, List<EventFacts>>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var its = new EventFacts(reader.GetGuid(0), reader.GetString(1), reader.GetInt32(2));
            if (!found.TryGetValue(its.VisitId, out var ofVisit))
            {
                found[its.VisitId] = ofVisit = [];
            }

            ofVisit.Add(its);
        }

        return found;
    }

    private static NpgsqlCommand CommandOf(
        NpgsqlConnection connection,
        string sql,
        Guid workspaceId,
        IReadOnlyCollection<HourOfDay> hours
    ) =>
        new(sql, connection)
        {
            Parameters =
            {
                new() { Value = workspaceId },
                new() { Value = hours.Select(h => h.Day).ToArray() },
                new() { Value = hours.Select(h => h.Hour).ToArray() },
            },
        };
}

/// <summary>An hour of a workspace's day.</summary>
/// <param name="Day">The day.</param>
/// <param name="Hour">0 to 23.</param>
public readonly record struct HourOfDay(DateOnly Day, short Hour);
