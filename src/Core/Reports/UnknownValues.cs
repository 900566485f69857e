using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Core.Reports;

/// <summary>
/// Which values of rows neither the plan nor the convention's word lists know (reports, section 4). A source that is a host name is
/// never one of them: visits without tags have the host they came from as their source.
/// </summary>
public static class UnknownValues
{
    /// <summary>True where values of the row's kind are known from somewhere, and this one is not among them.</summary>
    /// <param name="row">What the rows are made by.</param>
    /// <param name="key">The row's key; null for visits without such a value, which is never unknown.</param>
    /// <param name="convention">Today's convention.</param>
    /// <param name="plan">Today's campaigns.</param>
    public static bool IsUnknown(RowField row, string? key, Convention convention, PlanOfVisits plan) =>
        key is not (null or ValueLimits.Many or PrivateAddress.Removed or AmountRows.NotBrokenDown)
        && (
            row.Kind == RowKind.Campaign
                ? !plan.KnowsCampaign(key)
                : FieldOf(row, convention) is { Words: { } words } && !words.Knows(key) && !IsUntagged(row.Kind, key)
        );

    /// <summary>The field whose values rows are made by; null where they are not made by one.</summary>
    public static Field? FieldOf(RowField row, Convention convention)
    {
        FieldMeaning? meaning = row.Kind switch
        {
            RowKind.Campaign => FieldMeaning.Campaign,
            RowKind.Source => FieldMeaning.Source,
            RowKind.Medium => FieldMeaning.Medium,
            RowKind.Content => FieldMeaning.Content,
            RowKind.Term => FieldMeaning.Term,
            RowKind.Id => FieldMeaning.Id,
            _ => null,
        };
        return row.Kind == RowKind.Field ? convention.Find(row.Name)
            : meaning is { } means && convention.IndexOf(means) is var at and >= 0 ? convention.Fields[at]
            : null;
    }

    /// <summary>True for what a visit without tags has: the host it came from, and the trade's words.</summary>
    private static bool IsUntagged(RowKind kind, string key) =>
        (kind == RowKind.Source && (key == TrafficSource.Direct || key.Contains('.', StringComparison.Ordinal)))
        || (kind == RowKind.Medium && key == TrafficSource.Referral);
}
