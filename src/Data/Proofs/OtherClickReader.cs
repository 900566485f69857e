using Npgsql;

namespace PreciseBeacon.Data.Proofs;

/// <summary>Counts requests for short links that are no people's clicks.</summary>
public sealed class OtherClickReader(NpgsqlDataSource database)
{
    /// <summary>Requests for the short links of some links that are no people's clicks, by link and day.</summary>
    public async Task<IReadOnlyList<OtherClicks>> ReadAsync(
        Guid workspaceId,
        IReadOnlyCollection<Guid> links,
        DateOnly from,
        DateOnly to,
        CancellationToken cancel
    )
    {
        await using var command = database.Command(
            """
            select s.link_id, c.day, coalesce(sum(c.clicks) filter (where c.kind = 'DoubleTap'), 0)::bigint,
                coalesce(sum(c.clicks) filter (where c.kind <> 'DoubleTap'), 0)::bigint
            from click_day c join short_links s on s.id = c.short_link_id
            where c.workspace_id = $1 and s.link_id = any($2) and c.day between $3 and $4 and c.kind <> 'Person'
            group by 1, 2
            """,
            workspaceId,
            links.ToArray(),
            from,
            to
        );
        var found = new List<OtherClicks>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            found.Add(new OtherClicks(reader.GetGuid(0), reader.GetFieldValue<DateOnly>(1), reader.GetInt64(2), reader.GetInt64(3)));
        }

        return found;
    }
}

/// <summary>Requests for a link's short links on a day that are no people's clicks.</summary>
/// <param name="LinkId">The link.</param>
/// <param name="Day">The day.</param>
/// <param name="DoubleTaps">Second taps within seconds.</param>
/// <param name="Programs">Crawlers, previews, prefetches and requests for the head alone.</param>
public sealed record OtherClicks(Guid LinkId, DateOnly Day, long DoubleTaps, long Programs);
