using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What a campaign brought in one placement.</summary>
/// <param name="PlacementId">The placement, or null for links and visits without one.</param>
/// <param name="Links">How many links.</param>
/// <param name="Clicks">People's clicks and scans.</param>
/// <param name="Figures">What its visits came to, without visitors.</param>
/// <param name="IsBrokenDown">False for costs that are the campaign's as a whole, so that no placement has them.</param>
public sealed record CampaignResult(Guid? PlacementId, int Links, long Clicks, Figures Figures, bool IsBrokenDown = true);

/// <summary>Reads what a campaign brought, by placement: the same visits that Arrivals says are its own, whether a link led to them or only its value.</summary>
public sealed class CampaignResultsReader(NpgsqlDataSource database, ArrivalsReader arrivals)
{
    /// <summary>Results by placement, most visits first.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="currency">Its currency; revenue in another one is not added.</param>
    /// <param name="campaignId">The campaign.</param>
    /// <param name="written">What its campaign tag says.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyList<CampaignResult>> ReadAsync(
        Guid workspaceId,
        string currency,
        Guid campaignId,
        string written,
        DateOnly today,
        Convention convention,
        CancellationToken cancel
    )
    {
        var links = await LinksAsync(workspaceId, campaignId, cancel);
        var read = await arrivals.ReadAsync(
            new ArrivalsRequest(
                workspaceId,
                currency,
                DateOnly.MinValue,
                DateOnly.MaxValue,
                [new RowField(RowKind.Placement)],
                [new RowCondition(new RowField(RowKind.Campaign), RowTest.Is, [written])],
                WithVisitors: false
            )
            {
                WithClicks = true,
                WithCosts = true,
                Today = today,
            },
            convention,
            cancel
        );

        // A placement's name is its own within a workspace.
        var placements = read.Plan.Placements.ToDictionary(p => p.Name, p => p.Id, StringComparer.Ordinal);
        var (whole, told) = (
            read.Rows.FirstOrDefault(r => r.Keys[0] == AmountRows.NotBrokenDown),
            read.Rows.Where(r => r.Keys[0] != AmountRows.NotBrokenDown).ToList()
        );
        var visits = told.ToLookup(r => r.Keys[0] is { } name ? placements[name] : (Guid?)null);
        return
        [
            .. links
                .Select(l => l.PlacementId)
                .Concat(visits.Select(v => v.Key))
                .Distinct()
                .Select(placement =>
                {
                    var its = links.Where(l => l.PlacementId == placement).ToList();
                    return new CampaignResult(
                        placement,
                        its.Count,
                        its.Sum(l => l.Clicks),
                        visits[placement].Aggregate(Figures.Zero, (sum, row) => sum.With(row.Figures))
                    );
                })
                .OrderByDescending(r => r.Figures.Visits)
                .ThenBy(r => r.PlacementId),
            .. whole is null ? Array.Empty<CampaignResult>() : [new CampaignResult(null, 0, 0, whole.Figures, IsBrokenDown: false)],
        ];
    }

    private async Task<List<(Guid? PlacementId, long Clicks)>> LinksAsync(Guid workspaceId, Guid campaignId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            select l.placement_id, k.clicks
            from links l
            join lateral (
                select coalesce(sum(m.clicks) filter (where m.kind = $3), 0)::bigint as clicks
                from short_links s left join click_month m on m.short_link_id = s.id where s.link_id = l.id
            ) k on true
            where l.workspace_id = $1 and l.campaign_id = $2
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = campaignId });
        command.Parameters.Add(new() { Value = nameof(HitKind.Person) });
        var links = new List<(Guid?, long)>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            links.Add((reader.IsDBNull(0) ? null : reader.GetGuid(0), reader.GetInt64(1)));
        }

        return links;
    }
}
