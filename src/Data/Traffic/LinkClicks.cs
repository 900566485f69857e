using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What was clicked on the short links of one link.</summary>
/// <param name="Clicks">People's clicks on the one for texts.</param>
/// <param name="Scans">People's hits on the one in the code.</param>
/// <param name="Unique">Distinct daily visitors behind both.</param>
/// <param name="Others">Hits that were no person's click.</param>
/// <param name="LastUsedAt">The last click or scan; null when there was none.</param>
public sealed record LinkClicks(long Clicks, long Scans, long Unique, long Others, DateTimeOffset? LastUsedAt)
{
    public static readonly LinkClicks None = new(0, 0, 0, 0, null);
}

/// <summary>Reads click counts of a page of links in one query.</summary>
public sealed class LinkClicksReader(NpgsqlDataSource database)
{
    /// <summary>Counts by link; links without a hit are left out.</summary>
    public async Task<IReadOnlyDictionary<Guid, LinkClicks>> ReadAsync(
        Guid workspaceId,
        IReadOnlyList<Guid> linkIds,
        CancellationToken cancel
    )
    {
        await using var command = database.CreateCommand(
            """
            select s.link_id,
                coalesce(sum(d.people) filter (where s.use = 'Text'), 0)::bigint,
                coalesce(sum(d.people) filter (where s.use = 'Code'), 0)::bigint,
                (select count(distinct c.visitor) from click c
                    where c.kind = $3 and c.short_link_id = any(array_agg(s.id))),
                coalesce(sum(d.others), 0)::bigint,
                (select max(c.at) from click c where c.kind = $3 and c.short_link_id = any(array_agg(s.id)))
            from short_links s
            join lateral (
                select sum(clicks) filter (where kind = $3) as people, sum(clicks) filter (where kind <> $3) as others
                from click_month where short_link_id = s.id
            ) d on d.people is not null or d.others is not null
            where s.workspace_id = $1 and s.link_id = any($2)
            group by s.link_id
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = linkIds.ToArray() });
        command.Parameters.Add(new() { Value = nameof(HitKind.Person) });
        var counts = new Dictionary<Guid, LinkClicks>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            counts[reader.GetGuid(0)] = new LinkClicks(
                reader.GetInt64(1),
                reader.GetInt64(2),
                reader.GetInt64(3),
                reader.GetInt64(4),
                reader.IsDBNull(5) ? null : reader.GetFieldValue<DateTimeOffset>(5)
            );
        }

        return counts;
    }
}
