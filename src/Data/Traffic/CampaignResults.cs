using Npgsql;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What a campaign's links in one placement brought.</summary>
/// <param name="PlacementId">The placement, or null for links without one.</param>
/// <param name="Links">How many links.</param>
/// <param name="Clicks">People's clicks and scans.</param>
/// <param name="UncountedVisits">Visits of links without a short link, whose clicks nobody could count.</param>
/// <param name="Visits">Visits.</param>
/// <param name="ConvertingVisits">Visits with a conversion.</param>
/// <param name="Conversions">Conversions.</param>
/// <param name="Revenue">In the workspace's currency.</param>
public sealed record CampaignResult(
    Guid? PlacementId,
    int Links,
    long Clicks,
    long UncountedVisits,
    long Visits,
    long ConvertingVisits,
    long Conversions,
    decimal Revenue
);

/// <summary>Reads what a campaign's links brought, by placement, in one query.</summary>
public sealed class CampaignResultsReader(NpgsqlDataSource database)
{
    /// <summary>Results by placement, most visits first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="currency">Its currency; revenue in another one is not added.</param>
    /// <param name="campaignId">The campaign.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<CampaignResult>> ReadAsync(Guid workspaceId, string currency, Guid campaignId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select l.placement_id, count(*)::int, coalesce(sum(k.clicks), 0)::bigint,
                coalesce(sum(v.visits) filter (where not k.short), 0)::bigint,
                coalesce(sum(v.visits), 0)::bigint, coalesce(sum(v.converting), 0)::bigint,
                coalesce(sum(c.conversions), 0)::bigint, coalesce(sum(c.revenue), 0)
            from links l
            join lateral (
                select coalesce(sum(m.clicks) filter (where m.kind = $4), 0) as clicks, count(s.id) > 0 as short
                from short_links s left join click_month m on m.short_link_id = s.id where s.link_id = l.id
            ) k on true
            left join (
                select link_id, count(*) as visits, count(*) filter (where conversions > 0) as converting
                from visit where workspace_id = $1 and link_id in (select id from links where workspace_id = $1 and campaign_id = $3) group by link_id
            ) v on v.link_id = l.id
            left join (
                select link_id, count(*) as conversions, sum(value) filter (where coalesce(currency, $2) = $2) as revenue
                from conversion where workspace_id = $1 and link_id in (select id from links where workspace_id = $1 and campaign_id = $3) group by link_id
            ) c on c.link_id = l.id
            where l.workspace_id = $1 and l.campaign_id = $3
            group by l.placement_id
            order by 5 desc, 1
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = currency });
        command.Parameters.Add(new() { Value = campaignId });
        command.Parameters.Add(new() { Value = nameof(HitKind.Person) });
        var results = new List<CampaignResult>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            results.Add(
                new CampaignResult(
                    reader.IsDBNull(0) ? null : reader.GetGuid(0),
                    reader.GetInt32(1),
                    reader.GetInt64(2),
                    reader.GetInt64(3),
                    reader.GetInt64(4),
                    reader.GetInt64(5),
                    reader.GetInt64(6),
                    reader.GetDecimal(7)
                )
            );
        }

        return results;
    }
}
