using System.IO.Hashing;
using System.Text;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Data.Reports;

/// <summary>Amounts as they are found; one link stands for itself throughout.</summary>
internal sealed class FoundAmounts
{
    private readonly Dictionary<Guid, CoveredLinks> _covered = [];
    private readonly Dictionary<string, CoveredLinks> _named = [];

    public List<LinkAmount> All { get; } = [];

    public Dictionary<Guid, LinkOfVisit> Called { get; } = [];

    public void Add(ClickedLink link, LinkOfVisit called, bool scanned, DateOnly? day, decimal amount)
    {
        if (amount == 0)
        {
            return;
        }

        Called.TryAdd(called.Id, called);
        if (!_covered.TryGetValue(link.Id, out var covered))
        {
            _covered[link.Id] = covered = new CoveredLinks(link);
        }

        All.Add(new LinkAmount(covered, scanned, day, amount));
    }

    /// <summary>Imported amounts; where only some links are asked for, only those of single links among them.</summary>
    /// <param name="amounts">Says which links they cover.</param>
    /// <param name="some">The amounts to add, by target and day.</param>
    /// <param name="named">What these links say.</param>
    /// <param name="request">Whether days are told apart.</param>
    /// <param name="currency">ISO 4217; null for the workspace's own, and for what is no money.</param>
    public void Add(
        ImportedAmounts amounts,
        IEnumerable<ImportedAmount> some,
        TargetLinks named,
        CostRequest request,
        string? currency = null
    )
    {
        var added = request.IsByDay
            ? some.Select(r => (r.Target, Day: (DateOnly?)r.Day, r.Amount))
            : some.GroupBy(r => r.Target).Select(g => (Target: g.Key, Day: (DateOnly?)null, Amount: g.Sum(r => r.Amount)));
        foreach (var ofTarget in added.GroupBy(r => r.Target))
        {
            var target = amounts.TargetOf(ofTarget.Key);
            var links = amounts.LinksOf(ofTarget.Key);
            if (request.Links is not null && (target.LinkId is null || links.Count == 0))
            {
                continue;
            }

            var covered =
                links.Count == 0 ? null
                : target.LinkId is not null ? new CoveredLinks(named.Links[links[0]])
                : new CoveredLinks([
                    .. links.DistinctBy(l => (l.Values, named.Links[l].Page, l.CampaignId, l.PlacementId)).Select(l => named.Links[l]),
                ]);
            foreach (var link in covered?.Links ?? [])
            {
                Called.TryAdd(link.Id, named.Called[link.Id]);
            }

            foreach (var (_, day, amount) in ofTarget)
            {
                if (covered is null)
                {
                    AddNamed(target, day, amount, currency);
                }
                else
                {
                    All.Add(new LinkAmount(covered, Scanned: false, day, amount, currency));
                }
            }
        }
    }

    /// <summary>An amount of something that no link belongs to.</summary>
    public void AddNamed(ImportTarget target, DateOnly? day, decimal amount, string? currency = null)
    {
        if (!_named.TryGetValue(target.Key, out var covered))
        {
            var standIn = new Guid(XxHash128.Hash(Encoding.UTF8.GetBytes(target.Key)));
            _named[target.Key] = covered = new CoveredLinks(target, standIn);
            Called[standIn] = new LinkOfVisit(standIn, "", target.CampaignId, target.PlacementId);
        }

        All.Add(new LinkAmount(covered, Scanned: false, day, amount, currency));
    }
}
