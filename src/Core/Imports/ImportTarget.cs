namespace PreciseBeacon.Core.Imports;

/// <summary>What an imported cost belongs to: everything that fulfils all of what it names.</summary>
/// <param name="LinkId">One link; null where it names none.</param>
/// <param name="CampaignId">A campaign of the plan.</param>
/// <param name="PlacementId">A placement of the plan.</param>
/// <param name="Values">Written values by field key.</param>
public sealed record ImportTarget(Guid? LinkId, Guid? CampaignId, Guid? PlacementId, IReadOnlyDictionary<string, string> Values)
{
    private const int ALink = 1_000;

    /// <summary>The same text for the same target, whatever order its values are in.</summary>
    public string Key =>
        string.Join('\u001f', [$"{LinkId}", $"{CampaignId}", $"{PlacementId}", .. ValuesInOrder.Select(v => $"{v.Key}={v.Value}")]);

    /// <summary>How fine it is: how many things it names; a link is finer than whatever else.</summary>
    public int Fineness => (LinkId is null ? 0 : ALink) + (CampaignId is null ? 0 : 1) + (PlacementId is null ? 0 : 1) + Values.Count;

    /// <summary>Whether a link belongs to it.</summary>
    public bool Covers(CoverableLink link) =>
        (LinkId is null || LinkId == link.Id)
        && (CampaignId is null || CampaignId == link.CampaignId)
        && (PlacementId is null || PlacementId == link.PlacementId)
        && Values.All(v => link.Values.TryGetValue(v.Key, out string? value) && value == v.Value);

    /// <summary>Whether it says everything that another one says, and more.</summary>
    public bool SaysMoreThan(ImportTarget other) =>
        Fineness > other.Fineness
        && (other.LinkId is null || other.LinkId == LinkId)
        && (other.CampaignId is null || other.CampaignId == CampaignId)
        && (other.PlacementId is null || other.PlacementId == PlacementId)
        && other.Values.All(v => Values.TryGetValue(v.Key, out string? value) && value == v.Value);

    private IEnumerable<KeyValuePair<string, string>> ValuesInOrder => Values.OrderBy(v => v.Key, StringComparer.Ordinal);
}

/// <summary>A link that imported costs may belong to.</summary>
/// <param name="Id">Its id.</param>
/// <param name="CampaignId">Its campaign.</param>
/// <param name="PlacementId">Its placement.</param>
/// <param name="Values">Its written values by field key.</param>
public sealed record CoverableLink(Guid Id, Guid? CampaignId, Guid? PlacementId, IReadOnlyDictionary<string, string> Values);
