using System.Collections.Frozen;
using Npgsql;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What the measuring door has to know about a site.</summary>
/// <param name="SiteId">Its id.</param>
/// <param name="WorkspaceId">Whose it is.</param>
/// <param name="Hosts">Its hosts, with ports.</param>
/// <param name="KeepsVisitorIds">Whether it hands over ids of its own for its visitors.</param>
/// <param name="VisitorIdKey">Keys the hashes of those ids.</param>
/// <param name="LargestValue">Most a conversion may be worth, in its currency.</param>
public sealed record MeasuredSite(
    Guid SiteId,
    Guid WorkspaceId,
    FrozenSet<string> Hosts,
    bool KeepsVisitorIds,
    byte[] VisitorIdKey,
    decimal LargestValue
);

/// <summary>Reads the sites that are measured.</summary>
public static class MeasuredSites
{
    /// <summary>Every site of every workspace, by its measuring key.</summary>
    public static async Task<Dictionary<string, MeasuredSite>> ReadAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        var sites = new Dictionary<string, MeasuredSite>(StringComparer.Ordinal);
        await using var command = database.CreateCommand(
            """
            select s.measuring_key, s.id, s.workspace_id, array(select h.host from site_hosts h where h.site_id = s.id), s.keeps_visitor_ids, s.visitor_id_key, s.largest_value
            from sites s
            """
        );
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            sites[reader.GetString(0)] = new MeasuredSite(
                reader.GetGuid(1),
                reader.GetGuid(2),
                reader.GetFieldValue<string[]>(3).ToFrozenSet(StringComparer.OrdinalIgnoreCase),
                reader.GetBoolean(4),
                reader.GetFieldValue<byte[]>(5),
                reader.GetDecimal(6)
            );
        }

        return sites;
    }
}
