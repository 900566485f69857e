using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Finds where conversions that servers reported belong, by the click or the visitor they name.</summary>
internal static class ServerPlaces
{
    /// <summary>The place of each, in the same order; null where neither its click nor its visitor is known.</summary>
    public static async Task<ServerPlace?[]> FindAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyList<ServerConversion> conversions,
        CancellationToken cancel
    )
    {
        var places = new ServerPlace?[conversions.Count];
        await ByVisitorAsync(connection, workspaceId, conversions, places, cancel);
        await ByClickAsync(connection, workspaceId, conversions, places, cancel);
        return places;
    }

    /// <summary>With the last page the visitor saw there; a page that reports late makes no difference later, since the place is kept.</summary>
    private static async Task ByVisitorAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyList<ServerConversion> conversions,
        ServerPlace?[] places,
        CancellationToken cancel
    )
    {
        int[] named = [.. Enumerable.Range(0, conversions.Count).Where(i => conversions[i].Visitor is not null)];
        if (named.Length == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            select c.number, e.at
            from unnest($1, $2, $3, $4) as c(number, site_id, visitor, at)
            cross join lateral (
                select at from page_event
                where workspace_id = $5 and visitor = c.visitor and at <= c.at and at > c.at - $6 and site_id = c.site_id
                order by at desc limit 1) e
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = named },
                new() { Value = named.Select(i => conversions[i].SiteId).ToArray() },
                new() { Value = named.Select(i => conversions[i].Visitor!.Value).ToArray() },
                new() { Value = named.Select(i => conversions[i].At).ToArray() },
                new() { Value = workspaceId },
                new() { Value = ServerConversion.LongestAfter },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            int number = reader.GetInt32(0);
            places[number] = new ServerPlace(conversions[number].Visitor!.Value, reader.GetFieldValue<DateTimeOffset>(1), HasId: true);
        }
    }

    /// <summary>
    /// With the visit that the click began on the site. Where no page of it was measured, as on a partner's site, when it would have begun
    /// at the latest: whatever page reports after the click is then before it.
    /// </summary>
    private static async Task ByClickAsync(
        NpgsqlConnection connection,
        Guid workspaceId,
        IReadOnlyList<ServerConversion> conversions,
        ServerPlace?[] places,
        CancellationToken cancel
    )
    {
        int[] named = [.. Enumerable.Range(0, conversions.Count).Where(i => conversions[i].ClickId is not null)];
        if (named.Length == 0)
        {
            return;
        }

        await using var command = new NpgsqlCommand(
            """
            select c.number, h.visitor, h.at, l.url, v.visitor, v.ended_at, v.has_id
            from unnest($1, $2, $3, $4) as c(number, site_id, click_id, at)
            join hit h on h.click_id = c.click_id and h.workspace_id = $5 and h.at <= c.at + $8 and h.at > c.at - $6
            join short_links s on s.id = h.short_link_id
            join links l on l.id = s.link_id
            left join lateral (
                select v.visitor, v.ended_at, v.has_id
                from visit v join traffic_source t on t.id = v.source_id and t.site_id = c.site_id
                where v.link_id = l.id and v.hit_id = h.id and v.started_at between h.at and h.at + $7
                limit 1) v on true
            """,
            connection
        )
        {
            Parameters =
            {
                new() { Value = named },
                new() { Value = named.Select(i => conversions[i].SiteId).ToArray() },
                new() { Value = named.Select(i => conversions[i].ClickId!.Value).ToArray() },
                new() { Value = named.Select(i => conversions[i].At).ToArray() },
                new() { Value = workspaceId },
                new() { Value = ServerConversion.LongestAfter },
                new() { Value = VisitLinks.HitWithin },
                new() { Value = ServerConversion.ClockSkew },
            },
        };
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            var clicked = reader.GetGuid(1);
            places[reader.GetInt32(0)] = reader.IsDBNull(4)
                ? new ServerPlace(
                    clicked,
                    reader.GetFieldValue<DateTimeOffset>(2) + VisitLinks.HitWithin,
                    HasId: false,
                    reader.GetString(3)
                )
                : new ServerPlace(
                    reader.GetGuid(4),
                    reader.GetFieldValue<DateTimeOffset>(5),
                    reader.GetBoolean(6),
                    DayVisitor: clicked == reader.GetGuid(4) ? null : clicked
                );
        }
    }
}
