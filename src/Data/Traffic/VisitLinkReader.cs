using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>Reads the hits and links that may be behind visits; which of them are is <see cref="VisitLinks"/>' to say.</summary>
internal static class VisitLinkReader
{
    /// <summary>The visits in the same order, with their hits and links.</summary>
    public static async Task<List<Visit>> FindAsync(
        NpgsqlConnection connection,
        IReadOnlyDictionary<Guid, VisitRules> rules,
        IReadOnlyList<Visit> visits,
        CancellationToken cancel
    ) => VisitLinks.Find(visits, await HitsAsync(connection, visits, cancel), await LinksAsync(connection, rules, visits, cancel));

    private static async Task<ILookup<Guid, HitOfVisit>> HitsAsync(
        NpgsqlConnection connection,
        IReadOnlyList<Visit> visits,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand(
            """
            select v.id, h.id, h.at, s.link_id, s.use = 'Code', h.typed
            from unnest($1, $2, $3, $4, $5, $6) as v(id, workspace_id, visitor, at, page, page_key)
            join hit h on h.workspace_id = v.workspace_id and h.visitor = v.visitor and h.at between v.at - $7 and v.at
            join short_links s on s.id = h.short_link_id
            join links l on l.id = s.link_id and (h.page_key = v.page_key or (h.page_key = 0 and l.page = v.page))
            """,
            connection
        );
        command.Parameters.Add(new() { Value = visits.Select(v => v.Id).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.DayVisitor).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.StartedAt).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => v.LandingPage).ToArray() });
        command.Parameters.Add(new() { Value = visits.Select(v => PageKey.Of(v.LandingPage)).ToArray() });
        command.Parameters.Add(new() { Value = VisitLinks.HitWithin });
        var hits = new List<(Guid Visit, HitOfVisit Hit)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            hits.Add(
                (
                    reader.GetGuid(0),
                    new HitOfVisit(
                        reader.GetGuid(1),
                        reader.GetFieldValue<DateTimeOffset>(2),
                        reader.GetGuid(3),
                        reader.GetBoolean(4),
                        reader.GetString(5)
                    )
                )
            );
        }

        return hits.ToLookup(h => h.Visit, h => h.Hit);
    }

    /// <summary>
    /// Exact tags go before open ones, the page the visit began on before other pages, then the earliest made. A link made later never
    /// changes an earlier visit, so working out again gives the same.
    /// </summary>
    private static async Task<ILookup<(Guid WorkspaceId, RawTags Tags, string Page), LinkByTags>> LinksAsync(
        NpgsqlConnection connection,
        IReadOnlyDictionary<Guid, VisitRules> rules,
        IReadOnlyList<Visit> visits,
        CancellationToken cancel
    )
    {
        var tagged = visits.Where(v => v.Tags.Any).Select(v => (v.WorkspaceId, v.Tags, Page: v.LandingPage)).Distinct().ToList();
        var keys = tagged
            .SelectMany(
                (t, i) =>
                    LinkKey
                        .Candidates(t.Tags.Read(rules[t.WorkspaceId].Tags))
                        .Select((key, place) => (Index: i, t.WorkspaceId, t.Page, Key: key, Place: place))
            )
            .ToList();
        var found = new List<((Guid, RawTags, string) Arrived, LinkByTags Link)>();
        if (keys.Count == 0)
        {
            return found.ToLookup(f => f.Arrived, f => f.Link);
        }

        await using var command = new NpgsqlCommand(
            """
            select k.arrived, l.id, l.created_at
            from unnest($1, $2, $3, $4, $5) as k(arrived, workspace_id, page, tags_key, place)
            cross join lateral (
                (select id, page, created_at from links where workspace_id = k.workspace_id and tags_key = k.tags_key and page = k.page
                    order by created_at, id limit 1)
                union
                (select id, page, created_at from links where workspace_id = k.workspace_id and tags_key = k.tags_key
                    order by created_at, id limit 1)
            ) l
            order by k.arrived, k.place, l.page <> k.page, l.created_at, l.id
            """,
            connection
        );
        command.Parameters.Add(new() { Value = keys.Select(k => k.Index).ToArray() });
        command.Parameters.Add(new() { Value = keys.Select(k => k.WorkspaceId).ToArray() });
        command.Parameters.Add(new() { Value = keys.Select(k => k.Page).ToArray() });
        command.Parameters.Add(new() { Value = keys.Select(k => k.Key).ToArray() });
        command.Parameters.Add(new() { Value = keys.Select(k => k.Place).ToArray() });
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add((tagged[reader.GetInt32(0)], new LinkByTags(reader.GetGuid(1), reader.GetFieldValue<DateTimeOffset>(2))));
        }

        return found.ToLookup(f => f.Arrived, f => f.Link);
    }
}
