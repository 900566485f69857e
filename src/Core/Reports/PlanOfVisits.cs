using System.IO.Hashing;
using System.Runtime.InteropServices;
using PreciseBeacon.Core.Proofs.Strays;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Finds the campaign and the placement of a visit (reports, section 1). The campaign: that of the link it came by, else the one whose
/// written value its campaign tag says, else the tag itself, unknown. The placement: the link's, else the only one all of whose values
/// its tags say; where several fit equally well, none.
/// </summary>
public sealed class PlanOfVisits
{
    /// <summary>No campaign, placement or link is known.</summary>
    public static readonly PlanOfVisits Empty = new([], [], new Dictionary<Guid, LinkOfVisit>());

    private readonly Dictionary<Guid, CampaignOfVisit> _campaigns;
    private readonly Dictionary<string, CampaignOfVisit> _byValue;
    private readonly Dictionary<Guid, PlacementOfVisit> _placements;
    private readonly IReadOnlyDictionary<Guid, LinkOfVisit> _links;
    private readonly List<(PlacementOfVisit Placement, List<(string Key, string Value)> Values)> _byTags;

    /// <param name="campaigns">Every campaign, archived ones too.</param>
    /// <param name="placements">Every placement, retired ones too.</param>
    /// <param name="links">The links visits came by, by their id.</param>
    /// <param name="strays">What strays are assigned to; null for nothing.</param>
    public PlanOfVisits(
        IReadOnlyList<CampaignOfVisit> campaigns,
        IReadOnlyList<PlacementOfVisit> placements,
        IReadOnlyDictionary<Guid, LinkOfVisit> links,
        StrayAssignments? strays = null
    )
    {
        Strays = strays ?? StrayAssignments.None;
        _campaigns = campaigns.ToDictionary(c => c.Id);
        _byValue = campaigns.GroupBy(c => c.Value, StringComparer.Ordinal).ToDictionary(g => g.Key, g => g.First(), StringComparer.Ordinal);
        _placements = placements.ToDictionary(p => p.Id);
        _links = links;
        Stamp = StampOf(campaigns, placements, links.Values) ^ Strays.Stamp;
        _byTags =
        [
            .. placements
                .Select(p => (p, p.Values.Where(v => v.Value.Length > 0).Select(v => (v.Key, v.Value)).ToList()))
                .Where(p => p.Item2.Count > 0 && !p.Item2.Any(v => Plan.FillIns.In(v.Value))),
        ];
    }

    /// <summary>A number for what it says: another plan has another one, but for a chance of one in 2⁶⁴ (XXH3).</summary>
    public ulong Stamp { get; }

    /// <summary>What strays are assigned to.</summary>
    public StrayAssignments Strays { get; }

    /// <summary>Every campaign.</summary>
    public IEnumerable<CampaignOfVisit> Campaigns => _campaigns.Values;

    /// <summary>True for the written value of a campaign.</summary>
    public bool KnowsCampaign(string value) => _byValue.ContainsKey(value);

    /// <summary>Every placement.</summary>
    public IEnumerable<PlacementOfVisit> Placements => _placements.Values;

    /// <summary>The links visits came by.</summary>
    public IEnumerable<LinkOfVisit> Links => _links.Values;

    /// <summary>The same plan with more links.</summary>
    public PlanOfVisits With(IEnumerable<LinkOfVisit> links) =>
        new([.. Campaigns], [.. Placements], Links.Concat(links).DistinctBy(l => l.Id).ToDictionary(l => l.Id), Strays);

    /// <summary>The same plan with other strays assigned.</summary>
    public PlanOfVisits With(StrayAssignments strays) => new([.. Campaigns], [.. Placements], _links, strays);

    /// <summary>A link by its id; null where it is not known.</summary>
    public LinkOfVisit? LinkOf(Guid? id) => id is { } known ? _links.GetValueOrDefault(known) : null;

    /// <summary>The campaign of a visit; null where none is known.</summary>
    /// <param name="linkId">The link it came by, or null.</param>
    /// <param name="written">What its campaign tag says after aliases; null without one.</param>
    public CampaignOfVisit? CampaignOf(Guid? linkId, string? written) =>
        LinkOf(linkId)?.CampaignId is { } id && _campaigns.TryGetValue(id, out var campaign) ? campaign
        : written is not null ? _byValue.GetValueOrDefault(written)
        : null;

    /// <summary>The placement of a visit; null where none is known, or more than one fits.</summary>
    /// <param name="linkId">The link it came by, or null.</param>
    /// <param name="values">What its tags say, by field key, after aliases.</param>
    public PlacementOfVisit? PlacementOf(Guid? linkId, IReadOnlyDictionary<string, string> values)
    {
        if (LinkOf(linkId) is { } link)
        {
            return link.PlacementId is { } id ? _placements.GetValueOrDefault(id) : null;
        }

        PlacementOfVisit? only = null;
        if (values.Count > 0)
        {
            foreach (var (placement, due) in _byTags)
            {
                if (due.TrueForAll(v => values.GetValueOrDefault(v.Key) == v.Value))
                {
                    if (only is not null)
                    {
                        return null;
                    }

                    only = placement;
                }
            }
        }

        return only;
    }

    private static ulong StampOf(
        IEnumerable<CampaignOfVisit> campaigns,
        IEnumerable<PlacementOfVisit> placements,
        IEnumerable<LinkOfVisit> links
    )
    {
        var hash = new XxHash3();
        foreach (var campaign in campaigns)
        {
            Add(campaign.Id, campaign.Name, campaign.Value);
            AddAll(campaign.Attributes);
        }

        foreach (var placement in placements)
        {
            Add(placement.Id, placement.Name, placement.Publisher, placement.Set);
            AddAll(placement.Values);
        }

        foreach (var link in links.OrderBy(l => l.Id))
        {
            Add(link.Id, link.Title, link.CampaignId?.ToString(), link.PlacementId?.ToString());
        }

        return hash.GetCurrentHashAsUInt64();

        void Add(Guid id, params ReadOnlySpan<string?> texts)
        {
            hash.Append(id.ToByteArray());
            foreach (string? text in texts)
            {
                hash.Append(text is null ? [1] : [0]);
                hash.Append(MemoryMarshal.AsBytes((text ?? "").AsSpan()));
            }
        }

        void AddAll(IReadOnlyDictionary<string, string> values)
        {
            foreach (var (key, value) in values.OrderBy(v => v.Key, StringComparer.Ordinal))
            {
                Add(Guid.Empty, key, value);
            }
        }
    }
}

/// <summary>A campaign as reports know it.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">What people call it.</param>
/// <param name="Value">What the campaign field says on its links.</param>
/// <param name="Attributes">By their name.</param>
public sealed record CampaignOfVisit(Guid Id, string Name, string Value, IReadOnlyDictionary<string, string> Attributes);

/// <summary>A placement as reports know it.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Name">What people call it.</param>
/// <param name="Publisher">Null where it has none.</param>
/// <param name="Set">The set it is in, the first by name; null where it is in none.</param>
/// <param name="Values">Its default values by field key.</param>
public sealed record PlacementOfVisit(Guid Id, string Name, string? Publisher, string? Set, IReadOnlyDictionary<string, string> Values);

/// <summary>A link that visits came by.</summary>
public sealed record LinkOfVisit(Guid Id, string Title, Guid? CampaignId, Guid? PlacementId);
