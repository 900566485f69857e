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
/// <param name="SourceFields">Fields its pages may learn of where their visitor came from, each with the keys it is read under, in lower case.</param>
/// <param name="HonoursOptOut">Whether visitors whose browser asks not to be followed are left out.</param>
public sealed record MeasuredSite(
    Guid SiteId,
    Guid WorkspaceId,
    FrozenSet<string> Hosts,
    bool KeepsVisitorIds,
    byte[] VisitorIdKey,
    decimal LargestValue,
    bool HonoursOptOut,
    IReadOnlyDictionary<string, IReadOnlyList<string>> SourceFields
);

/// <summary>Reads the sites that are measured.</summary>
public static class MeasuredSites
{
    /// <summary>Every site of every workspace that is measured, by its measuring key.</summary>
    public static async Task<Dictionary<string, MeasuredSite>> ReadAsync(NpgsqlDataSource database, CancellationToken cancel)
    {
        var sites = new Dictionary<string, MeasuredSite>(StringComparer.Ordinal);
        await using var command = database.CreateCommand(
            """
            select s.measuring_key, s.id, s.workspace_id, array(select h.host from site_hosts h where h.site_id = s.id), s.keeps_visitor_ids, s.visitor_id_key, s.largest_value, s.honours_opt_out,
                array(select f.key from field_row f where f.convention_version_id = v.id and f.key = any(s.source_fields) order by f.position),
                array(select array_to_string(array_prepend(f.key, f.also_read), ' ') from field_row f
                    where f.convention_version_id = v.id and f.key = any(s.source_fields) order by f.position)
            from sites s
            left join lateral (
                select id from convention_versions
                where workspace_id = s.workspace_id and published_at is not null
                order by number desc limit 1
            ) v on true
            where s.stopped_at is null
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
                reader.GetDecimal(6),
                reader.GetBoolean(7),
                reader
                    .GetFieldValue<string[]>(8)
                    .Zip(reader.GetFieldValue<string[]>(9))
                    .ToDictionary(
                        f => f.First,
                        f => (IReadOnlyList<string>)f.Second.ToLowerInvariant().Split(' ', StringSplitOptions.RemoveEmptyEntries),
                        StringComparer.Ordinal
                    )
            );
        }

        return sites;
    }

    /// <summary>Whether anything was measured on a site that is still known.</summary>
    public static async Task<bool> AnyVisitAsync(NpgsqlDataSource database, Guid workspaceId, Guid siteId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            "select exists (select from traffic_source where workspace_id = $1 and site_id = $2)"
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = siteId });
        return (bool)(await command.ExecuteScalarAsync(cancel))!;
    }

    /// <summary>Writes down what pages said last; what is known to be later stays.</summary>
    public static async Task SayLastAsync(NpgsqlDataSource database, IReadOnlyCollection<LastReport> reports, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            """
            update sites s set last_measured_at = r.at, last_measured_page = r.page
            from unnest($1, $2, $3, $4) as r(site_id, at, page, of_site)
            where r.of_site and s.id = r.site_id and (s.last_measured_at is null or s.last_measured_at < r.at)
            """
        );
        AddColumns(command, reports);
        await command.ExecuteNonQueryAsync(cancel);
        await using var foreign = database.CreateCommand(
            """
            update sites s set foreign_at = r.at, foreign_host = r.page
            from unnest($1, $2, $3, $4) as r(site_id, at, page, of_site)
            where not r.of_site and s.id = r.site_id and (s.foreign_at is null or s.foreign_at < r.at)
            """
        );
        AddColumns(foreign, reports);
        await foreign.ExecuteNonQueryAsync(cancel);
    }

    private static void AddColumns(NpgsqlCommand command, IReadOnlyCollection<LastReport> reports)
    {
        command.Parameters.Add(new() { Value = reports.Select(r => r.SiteId).ToArray() });
        command.Parameters.Add(new() { Value = reports.Select(r => r.At.ToUniversalTime()).ToArray() });
        command.Parameters.Add(new() { Value = reports.Select(r => r.Page).ToArray() });
        command.Parameters.Add(new() { Value = reports.Select(r => r.OfSite).ToArray() });
    }
}

/// <summary>The last that was heard of a site.</summary>
/// <param name="SiteId">The site.</param>
/// <param name="At">When.</param>
/// <param name="Page">Host and path of the page that reported; of a foreign one the host alone.</param>
/// <param name="OfSite">False for a page that is on none of its hosts and used its key.</param>
public readonly record struct LastReport(Guid SiteId, DateTimeOffset At, string Page, bool OfSite);
