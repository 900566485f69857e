using Npgsql;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Data.Reports;

/// <summary>The links that imported amounts are about.</summary>
/// <param name="Links">What each says.</param>
/// <param name="Called">What they are called.</param>
internal sealed record TargetLinks(IReadOnlyDictionary<CoverableLink, ClickedLink> Links, IReadOnlyDictionary<Guid, LinkOfVisit> Called)
{
    public static readonly TargetLinks None = new(new Dictionary<CoverableLink, ClickedLink>(), new Dictionary<Guid, LinkOfVisit>());

    /// <summary>The links that belong to one of the targets, or only those asked for.</summary>
    public static async Task<TargetLinks> ReadAsync(
        NpgsqlConnection connection,
        CostRequest request,
        IReadOnlyCollection<ImportTarget> targets,
        CancellationToken cancel
    )
    {
        await using var command = new NpgsqlCommand { Connection = connection };
        string Parameter(object value)
        {
            command.Parameters.Add(new() { Value = value });
            return $"${command.Parameters.Count}";
        }

        string workspace = Parameter(request.WorkspaceId);
        List<string> belongs =
        [
            $"id = any({Parameter(targets.Select(t => t.LinkId).OfType<Guid>().ToArray())})",
            $"campaign_id = any({Parameter(targets.Select(t => t.CampaignId).OfType<Guid>().ToArray())})",
            $"placement_id = any({Parameter(targets.Select(t => t.PlacementId).OfType<Guid>().ToArray())})",
            .. targets
                .Where(t => t is { LinkId: null, CampaignId: null, PlacementId: null })
                .SelectMany(t => t.Values)
                .GroupBy(v => v.Key, v => v.Value)
                .Select(g => $"values ->> {Parameter(g.Key)} = any({Parameter(g.Distinct().ToArray())})"),
        ];
        command.CommandText =
            $"select id, coalesce(title, url), campaign_id, placement_id, page, values from links where workspace_id = {workspace} and ({string.Join(" or ", belongs)})"
            + (request.Links is { } only ? $" and id = any({Parameter(only.ToArray())})" : "");
        var links = new Dictionary<CoverableLink, ClickedLink>(ReferenceEqualityComparer.Instance);
        var called = new Dictionary<Guid, LinkOfVisit>();
        var read = new Dictionary<string, (Dictionary<string, string> Values, RawTags Tags)>(StringComparer.Ordinal);
        await using var reader = await command.ExecuteReaderAsync(cancel);
        while (await reader.ReadAsync(cancel))
        {
            if (!read.TryGetValue(reader.GetString(5), out var said))
            {
                var values = LinkRow.ValuesOf(reader);
                read[reader.GetString(5)] = said = (values, RawTags.Of(values));
            }

            var link = LinkRow.CalledOf(reader);
            called[link.Id] = link;
            links[new CoverableLink(link.Id, link.CampaignId, link.PlacementId, said.Values)] = new ClickedLink(
                link.Id,
                said.Tags,
                reader.GetString(4)
            );
        }

        return new TargetLinks(links, called);
    }
}
