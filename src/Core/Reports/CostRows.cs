using PreciseBeacon.Core.Conventions;

namespace PreciseBeacon.Core.Reports;

/// <summary>Sorts what links cost into the rows of a report: a cost stands where a visit by its link would.</summary>
public static class CostRows
{
    /// <summary>
    /// Whether a report's rows and conditions are all of a kind that costs have a value for: what a link says and leads to, and the day.
    /// What a placement is paid says nothing of devices.
    /// </summary>
    public static bool CanTell(IReadOnlyList<RowField> rows, IReadOnlyList<RowCondition> where) =>
        ClickRows.CanTell(rows, where) && rows.Concat(where.Select(w => w.Field)).All(f => f.Table != RowTable.Device);

    /// <summary>Money by row, not rounded.</summary>
    /// <param name="costs">Costs of the range.</param>
    /// <param name="rows">What rows are made by; see <see cref="CanTell"/>.</param>
    /// <param name="where">What costs fulfil.</param>
    /// <param name="convention">The convention to read by.</param>
    /// <param name="plan">The plan to read by; it knows the links.</param>
    public static Dictionary<RowKey, decimal> Of(
        IEnumerable<LinkCost> costs,
        IReadOnlyList<RowField> rows,
        IReadOnlyList<RowCondition> where,
        Convention convention,
        PlanOfVisits plan
    )
    {
        var found = new Dictionary<RowKey, decimal>();
        foreach (var ofLink in costs.GroupBy(c => (c.Link, c.Scanned)))
        {
            var (link, scanned) = ofLink.Key;
            var source = ClickRows.SourceOf(link, scanned, convention, plan);
            foreach (var cost in ofLink)
            {
                string? KeyOf(RowField field) => ClickRows.KeyOf(field, source, link, device: "", cost.Day);
                if (where.All(c => c.Holds(KeyOf(c.Field))))
                {
                    var key = new RowKey([.. rows.Select(KeyOf)]);
                    found[key] = found.GetValueOrDefault(key) + cost.Amount;
                }
            }
        }

        return found;
    }
}

/// <summary>What a link cost.</summary>
/// <param name="Link">The link, or one of several that say the same.</param>
/// <param name="Scanned">It is paid for scans of its printed code.</param>
/// <param name="Day">The day; null where days are not told apart.</param>
/// <param name="Amount">Money in the workspace's currency, not rounded.</param>
public sealed record LinkCost(ClickedLink Link, bool Scanned, DateOnly? Day, decimal Amount);
