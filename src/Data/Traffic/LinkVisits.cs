using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data.Reports;

namespace PreciseBeacon.Data.Traffic;

/// <summary>What the visits behind one link came to.</summary>
/// <param name="Visits">Visits that arrived with its tags.</param>
/// <param name="Visitors">Distinct visitors among them.</param>
/// <param name="Bounces">Visits with one page view and no conversion.</param>
/// <param name="ConvertingVisits">Visits with at least one conversion.</param>
/// <param name="Conversions">Conversions in them.</param>
/// <param name="Revenue">Revenue in the workspace's currency.</param>
public sealed record LinkVisits(long Visits, long Visitors, long Bounces, long ConvertingVisits, long Conversions, decimal Revenue)
{
    public static readonly LinkVisits None = new(0, 0, 0, 0, 0, 0);
}

/// <summary>Reads the visits behind a page of links in one query.</summary>
public sealed class LinkVisitsReader(NpgsqlDataSource database, ArrivalsReader arrivals)
{
    /// <summary>Figures by link; links without a visit are left out.</summary>
    /// <param name="workspaceId">The workspace.</param>
    /// <param name="currency">Its currency; revenue in another one is not added.</param>
    /// <param name="linkIds">The links.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<IReadOnlyDictionary<Guid, LinkVisits>> ReadAsync(
        Guid workspaceId,
        string currency,
        IReadOnlyList<Guid> linkIds,
        Convention convention,
        CancellationToken cancel
    )
    {
        if (await HasOnlyPackedAsync(workspaceId, cancel))
        {
            return await ReadPackedAsync(workspaceId, currency, linkIds, convention, cancel);
        }

        await using var command = database.CreateCommand(
            """
            select v.link_id, v.visits, v.visitors, v.bounces, v.converting, coalesce(c.conversions, 0), coalesce(c.revenue, 0)
            from (
                select link_id, count(*) as visits, count(distinct visitor) as visitors,
                    count(*) filter (where bounced) as bounces, count(*) filter (where conversions > 0) as converting
                from visit where workspace_id = $1 and link_id = any($3) group by link_id
            ) v
            left join (
                select link_id, count(*) as conversions, sum(value) filter (where coalesce(currency, $2) = $2) as revenue
                from conversion where workspace_id = $1 and link_id = any($3) group by link_id
            ) c on c.link_id = v.link_id
            """
        );
        command.Parameters.Add(new() { Value = workspaceId });
        command.Parameters.Add(new() { Value = currency });
        command.Parameters.Add(new() { Value = linkIds.ToArray() });
        var visits = new Dictionary<Guid, LinkVisits>();
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            visits[reader.GetGuid(0)] = new LinkVisits(
                reader.GetInt64(1),
                reader.GetInt64(2),
                reader.GetInt64(3),
                reader.GetInt64(4),
                reader.GetInt64(5),
                reader.GetDecimal(6)
            );
        }

        return visits;
    }

    /// <summary>Whether visits are there that are no longer kept one by one.</summary>
    private async Task<bool> HasOnlyPackedAsync(Guid workspaceId, CancellationToken cancel)
    {
        await using var command = database.CreateCommand(
            "select exists (select from visit_segment s join workspaces w on w.id = s.workspace_id where w.id = $1 and s.day < w.raw_from)"
        );
        command.Parameters.Add(new() { Value = workspaceId });
        return (bool)(await command.ExecuteScalarAsync(cancel))!;
    }

    private async Task<IReadOnlyDictionary<Guid, LinkVisits>> ReadPackedAsync(
        Guid workspaceId,
        string currency,
        IReadOnlyList<Guid> linkIds,
        Convention convention,
        CancellationToken cancel
    )
    {
        var read = await arrivals.ReadAsync(
            new ArrivalsRequest(workspaceId, currency, DateOnly.MinValue, DateOnly.MaxValue, [new RowField(RowKind.Link)], []),
            convention,
            cancel
        );
        var wanted = linkIds.ToHashSet();
        return read
            .Rows.Where(r => r.Keys[0] is { } link && wanted.Contains(Guid.Parse(link)))
            .ToDictionary(
                r => Guid.Parse(r.Keys[0]!),
                r => new LinkVisits(
                    r.Figures.Visits,
                    r.Figures.Visitors,
                    r.Figures.Bounces,
                    r.Figures.ConvertingVisits,
                    (long)r.Figures.Conversions,
                    r.Figures.Revenue
                )
            );
    }
}
