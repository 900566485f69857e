using System.Text.Json;
using Npgsql;
using PreciseBeacon.Core.Proofs.Strays;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Reads the campaigns, placements and links that visits are sorted by, and what strays are assigned to.</summary>
public sealed class PlanOfVisitsReader(NpgsqlDataSource database)
{
    /// <summary>The plan of a workspace, with those links that its visits came by.</summary>
    public async Task<PlanOfVisits> ReadAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var batch = database.CreateBatch();
        foreach (
            string sql in new[]
            {
                "select id, name, value, attributes from campaigns where workspace_id = $1 order by archived_at nulls first, id",
                """
                    select p.id, p.name, p.publisher, p.defaults,
                        (select s.name from placement_sets s where s.workspace_id = $1 and p.id = any(s.placement_ids) order by s.name limit 1)
                    from placements p where p.workspace_id = $1 order by p.id
                    """,
                """
                    select l.id, coalesce(l.title, l.url), l.campaign_id, l.placement_id from links l
                    where l.id in (select link_id from traffic_source where workspace_id = $1 and link_id is not null)
                    order by l.id
                    """,
                "select id, key, field, given, meant from stray_assignment where workspace_id = $1",
            }
        )
        {
            batch.BatchCommands.Add(new NpgsqlBatchCommand(sql) { Parameters = { new() { Value = workspaceId } } });
        }

        await using var reader = await batch.ExecuteReaderAsync(cancel);
        var campaigns = new List<CampaignOfVisit>();
        while (await reader.ReadAsync(cancel))
        {
            campaigns.Add(new CampaignOfVisit(reader.GetGuid(0), reader.GetString(1), reader.GetString(2), TextsOf(reader, 3)));
        }

        await reader.NextResultAsync(cancel);
        var placements = new List<PlacementOfVisit>();
        while (await reader.ReadAsync(cancel))
        {
            placements.Add(
                new PlacementOfVisit(
                    reader.GetGuid(0),
                    reader.GetString(1),
                    reader.IsDBNull(2) ? null : reader.GetString(2),
                    reader.IsDBNull(4) ? null : reader.GetString(4),
                    TextsOf(reader, 3)
                )
            );
        }

        await reader.NextResultAsync(cancel);
        var links = new Dictionary<Guid, LinkOfVisit>();
        while (await reader.ReadAsync(cancel))
        {
            var id = reader.GetGuid(0);
            links[id] = new LinkOfVisit(
                id,
                reader.GetString(1),
                reader.IsDBNull(2) ? null : reader.GetGuid(2),
                reader.IsDBNull(3) ? null : reader.GetGuid(3)
            );
        }

        await reader.NextResultAsync(cancel);
        var strays = new List<StrayAssignment>();
        while (await reader.ReadAsync(cancel))
        {
            strays.Add(
                new StrayAssignment(
                    reader.GetGuid(0),
                    reader.IsDBNull(1) ? null : reader.GetString(1),
                    reader.IsDBNull(2) ? null : reader.GetString(2),
                    TextsOf(reader, 3),
                    TextsOf(reader, 4)
                )
            );
        }

        return new PlanOfVisits(campaigns, placements, links, new StrayAssignments(strays));
    }

    private static Dictionary<string, string> TextsOf(NpgsqlDataReader reader, int column) =>
        JsonSerializer.Deserialize<Dictionary<string, string>>(reader.GetString(column)) ?? [];
}
