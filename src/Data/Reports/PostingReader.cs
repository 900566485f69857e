using Npgsql;

namespace PreciseBeacon.Data.Reports;

/// <summary>What came of a share text after it was posted.</summary>
/// <param name="LinkId">Its link.</param>
/// <param name="Title">The link's title, or its address.</param>
/// <param name="CampaignId">The link's campaign; null for none.</param>
/// <param name="PlacementId">Where it was posted; null for none.</param>
/// <param name="At">When it was marked as placed.</param>
/// <param name="Visits">Visits by the link in the first hour, day and week after that.</param>
/// <param name="Conversions">Conversions of its visits in the same spans.</param>
public sealed record Posting(
    Guid LinkId,
    string Title,
    Guid? CampaignId,
    Guid? PlacementId,
    DateTimeOffset At,
    FirstSpans Visits,
    FirstSpans Conversions
);

/// <summary>How many in the first spans after something happened.</summary>
/// <param name="Hour">In the first hour.</param>
/// <param name="Day">In the first day, the hour among them.</param>
/// <param name="Week">In the first week, the day among them.</param>
public sealed record FirstSpans(long Hour, long Day, long Week);

/// <summary>Reads what came of share texts that are marked as placed, from single visits.</summary>
public sealed class PostingReader(NpgsqlDataSource database)
{
    /// <summary>Postings of a span, the newest first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="from">The first moment.</param>
    /// <param name="until">The moment after the last.</param>
    /// <param name="campaigns">Only of these campaigns; null for all.</param>
    /// <param name="placements">Only of these placements; null for all.</param>
    /// <param name="most">At most so many.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<Posting>> ReadAsync(
        Guid workspaceId,
        DateTimeOffset from,
        DateTimeOffset until,
        IReadOnlyCollection<Guid>? campaigns,
        IReadOnlyCollection<Guid>? placements,
        int most,
        CancellationToken cancel
    )
    {
        // The link's index leads to its visits; their months are known from the posting, so that no other is looked at.
        await using var command = database.CreateCommand(
            """
            select l.id, coalesce(l.title, l.url), l.campaign_id, l.placement_id, l.placed_at, v.hour, v.day, v.week, c.hour, c.day, c.week
            from links l
            cross join lateral (
                select count(*) filter (where started_at < l.placed_at + interval '1 hour') as hour,
                    count(*) filter (where started_at < l.placed_at + interval '1 day') as day, count(*) as week
                from visit where link_id = l.id and started_at >= l.placed_at and started_at < l.placed_at + interval '7 days'
            ) v
            cross join lateral (
                select count(*) filter (where at < l.placed_at + interval '1 hour') as hour,
                    count(*) filter (where at < l.placed_at + interval '1 day') as day, count(*) as week
                from conversion where link_id = l.id and at >= l.placed_at and at < l.placed_at + interval '7 days'
            ) c
            where l.workspace_id = $1 and l.placed_at >= $2 and l.placed_at < $3
                and ($4::uuid[] is null or l.campaign_id = any($4)) and ($5::uuid[] is null or l.placement_id = any($5))
            order by l.placed_at desc, l.id limit $6
            """
        );
        object?[] values =
        [
            workspaceId,
            from.ToUniversalTime(),
            until.ToUniversalTime(),
            campaigns?.ToArray(),
            placements?.ToArray(),
            most,
        ];
        foreach (object? value in values)
        {
            command.Parameters.Add(new() { Value = value ?? DBNull.Value });
        }

        var postings = new List<Posting>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            postings.Add(
                new Posting(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    reader.IsDBNull(2) ? null : reader.GetGuid(2),
                    reader.IsDBNull(3) ? null : reader.GetGuid(3),
                    reader.GetFieldValue<DateTimeOffset>(4),
                    new FirstSpans(reader.GetInt64(5), reader.GetInt64(6), reader.GetInt64(7)),
                    new FirstSpans(reader.GetInt64(8), reader.GetInt64(9), reader.GetInt64(10))
                )
            );
        }

        return postings;
    }
}
