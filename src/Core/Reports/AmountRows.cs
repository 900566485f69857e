using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Imports;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>Sorts what links cost into the rows of a report: a cost stands where a visit by its link would.</summary>
public static class AmountRows
{
    /// <summary>
    /// The key of costs that have no value for a row, such as an imported cost by device. It begins with a character that no stored value
    /// has (U+001F).
    /// </summary>
    public const string NotBrokenDown = "\u001fnot-broken-down";

    /// <summary>
    /// Whether a report can say what costs fulfil its conditions: all of a kind that links have a value for. Rows may be of any kind; what
    /// has no value for them is <see cref="NotBrokenDown"/>.
    /// </summary>
    public static bool CanTell(IReadOnlyList<RowCondition> where) => where.All(w => IsTold(w.Field));

    /// <summary>Money by row in the workspace's currency, not rounded.</summary>
    /// <param name="costs">Costs of the range.</param>
    /// <param name="rows">What rows are made by.</param>
    /// <param name="where">What costs fulfil; see <see cref="CanTell"/>.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="plan">The plan to read by; it knows the links.</param>
    public static Dictionary<RowKey, decimal> Of(
        IEnumerable<LinkAmount> costs,
        IReadOnlyList<RowField> rows,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan
    )
    {
        var found = new Dictionary<RowKey, decimal>();
        foreach (var (cost, keyOf) in Read(costs.Where(c => c.Currency is null), where, convention, plan))
        {
            var key = new RowKey([.. rows.Select(keyOf)]);
            found[key] = found.GetValueOrDefault(key) + cost.Amount;
        }

        return found;
    }

    /// <summary>Money in other currencies, which is never added up with the rest, by ISO 4217 code.</summary>
    public static Dictionary<string, decimal> Elsewhere(
        IEnumerable<LinkAmount> costs,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan
    ) =>
        Read(costs.Where(c => c.Currency is not null), where, convention, plan)
            .GroupBy(c => c.Cost.Currency!, StringComparer.Ordinal)
            .ToDictionary(g => g.Key, g => g.Sum(c => c.Cost.Amount));

    /// <summary>The costs that fulfil all conditions, each with what it says of a field.</summary>
    private static IEnumerable<(LinkAmount Cost, Func<RowField, string?> KeyOf)> Read(
        IEnumerable<LinkAmount> costs,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan
    )
    {
        foreach (var alike in costs.GroupBy(c => (c.Covered, c.Scanned)))
        {
            var said = new Dictionary<RowField, string?>();
            var sources = alike
                .Key.Covered.Links.Select(l => (Link: l, Source: ClickRows.SourceOf(l, alike.Key.Scanned, convention, plan)))
                .ToList();
            foreach (var cost in alike)
            {
                string? KeyOf(RowField field)
                {
                    if (field.Table == RowTable.Day)
                    {
                        return cost.Day is { } day ? Calendar.NameOf(field.Kind, day) : null;
                    }

                    return said.TryGetValue(field, out string? known) ? known : said[field] = Said(field, alike.Key.Covered, sources);
                }

                if (where.All(c => Holds(c, KeyOf(c.Field))))
                {
                    yield return (cost, KeyOf);
                }
            }
        }
    }

    /// <summary>What is not broken down is not known to be anything, nor not to be.</summary>
    private static bool Holds(RowCondition condition, string? key) =>
        (key != NotBrokenDown || condition.Test is RowTest.Is or RowTest.In) && condition.Holds(key);

    /// <summary>What all links a cost covers say alike.</summary>
    private static string? Said(RowField field, CoveredLinks covered, List<(ClickedLink Link, ReadSource Source)> sources)
    {
        if (!IsTold(field) || (field.Kind == RowKind.Link && covered.Only is null) || (covered.IsNamedOnly && !covered.Names(field)))
        {
            return NotBrokenDown;
        }

        string? first = ClickRows.KeyOf(field, sources[0].Source, sources[0].Link, device: "", day: null);
        for (int i = 1; i < sources.Count; i++)
        {
            if (ClickRows.KeyOf(field, sources[i].Source, sources[i].Link, device: "", day: null) != first)
            {
                return NotBrokenDown;
            }
        }

        return covered.IsNamedOnly ? first ?? NotBrokenDown : first;
    }

    private static bool IsTold(RowField field) => field.IsOfClicks && field.Table != RowTable.Device;
}

/// <summary>What links cost.</summary>
/// <param name="Covered">What it was paid for.</param>
/// <param name="Scanned">It is paid for scans of a printed code.</param>
/// <param name="Day">The day; null where days are not told apart.</param>
/// <param name="Amount">Money, not rounded.</param>
/// <param name="Currency">ISO 4217; null for the workspace's own.</param>
public sealed record LinkAmount(CoveredLinks Covered, bool Scanned, DateOnly? Day, decimal Amount, string? Currency = null);

/// <summary>What a cost was paid for: one link, several together, or something named that no link belongs to.</summary>
public sealed class CoveredLinks
{
    private readonly ImportTarget? _target;
    private readonly bool _together;

    /// <summary>One link, or one of several that say the same.</summary>
    public CoveredLinks(ClickedLink link) => Links = [link];

    /// <summary>All links of something, as a campaign has them; those that say the same once.</summary>
    /// <param name="links">At least one.</param>
    public CoveredLinks(IReadOnlyList<ClickedLink> links) => (Links, _together) = (links, true);

    /// <summary>Something that no link belongs to: a link that says what the target names stands for it.</summary>
    public CoveredLinks(ImportTarget target, Guid standIn)
    {
        _target = target;
        Links = [new ClickedLink(standIn, RawTags.Of(target.Values), "")];
    }

    /// <summary>At least one.</summary>
    public IReadOnlyList<ClickedLink> Links { get; }

    /// <summary>The link, where the cost is that of one alone; null where it is one of several together, even if they are only one today.</summary>
    public ClickedLink? Only => _together || IsNamedOnly ? null : Links[0];

    /// <summary>True where no link is covered.</summary>
    public bool IsNamedOnly => _target is not null;

    /// <summary>Whether what is named says something of a field.</summary>
    public bool Names(RowField field) =>
        field.Kind switch
        {
            RowKind.Campaign or RowKind.Attribute => _target!.CampaignId is not null || _target.Values.Count > 0,
            RowKind.Placement or RowKind.Set or RowKind.Publisher => _target!.PlacementId is not null,
            RowKind.Link or RowKind.LandingPage or RowKind.Channel or RowKind.Group => false,
            _ => _target!.Values.Count > 0,
        };
}
