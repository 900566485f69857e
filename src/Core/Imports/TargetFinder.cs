namespace PreciseBeacon.Core.Imports;

/// <summary>Finds the targets of a link without trying each of them: by its id, its campaign, its placement, or the first value they name.</summary>
public sealed class TargetFinder
{
    private readonly Dictionary<int, ImportTarget> _targets;
    private readonly ILookup<Guid, int> _byLink;
    private readonly ILookup<Guid, int> _byCampaign;
    private readonly ILookup<Guid, int> _byPlacement;
    private readonly ILookup<(string, string), int> _byValue;

    /// <param name="targets">The targets, by number.</param>
    public TargetFinder(Dictionary<int, ImportTarget> targets)
    {
        _targets = targets;
        _byLink = targets.Where(t => t.Value.LinkId is not null).ToLookup(t => t.Value.LinkId!.Value, t => t.Key);
        var others = targets.Where(t => t.Value.LinkId is null).ToList();
        _byCampaign = others.Where(t => t.Value.CampaignId is not null).ToLookup(t => t.Value.CampaignId!.Value, t => t.Key);
        others = [.. others.Where(t => t.Value.CampaignId is null)];
        _byPlacement = others.Where(t => t.Value.PlacementId is not null).ToLookup(t => t.Value.PlacementId!.Value, t => t.Key);
        _byValue = others
            .Where(t => t.Value.PlacementId is null && t.Value.Values.Count > 0)
            .ToLookup(
                t => t.Value.Values.MinBy(v => v.Key, StringComparer.Ordinal) is var first ? (first.Key, first.Value) : default,
                t => t.Key
            );
    }

    /// <summary>The numbers of the targets a link belongs to, in no order.</summary>
    public IEnumerable<int> Of(CoverableLink link) =>
        _byLink[link.Id]
            .Concat(link.CampaignId is { } campaign ? _byCampaign[campaign] : [])
            .Concat(link.PlacementId is { } placement ? _byPlacement[placement] : [])
            .Concat(link.Values.SelectMany(v => _byValue[(v.Key, v.Value)]))
            .Where(t => _targets[t].Covers(link));
}
