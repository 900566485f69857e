using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Core.Proofs.Strays;

/// <summary>A row of the reports whose visits change by an assignment.</summary>
/// <param name="Field">What the rows are made by.</param>
/// <param name="Key">The row; null for visits without such a value.</param>
/// <param name="Before">Its visits before.</param>
/// <param name="After">Its visits after.</param>
public sealed record StrayEffect(RowField Field, string? Key, long Before, long After)
{
    private static readonly RowKind[] Kinds =
    [
        RowKind.Channel,
        RowKind.Campaign,
        RowKind.Placement,
        RowKind.Source,
        RowKind.Medium,
        RowKind.Content,
        RowKind.Term,
        RowKind.Id,
    ];

    /// <summary>What the reports say before and after, row by row; only rows that change.</summary>
    /// <param name="sources">The traffic sources, with their visits.</param>
    /// <param name="convention">The convention of today.</param>
    /// <param name="before">The plan as it is.</param>
    /// <param name="after">The plan as it will be.</param>
    /// <returns>In the order of what rows are made by, those that change most first.</returns>
    public static IReadOnlyList<StrayEffect> Of(
        IEnumerable<(TrafficSource Source, long Visits)> sources,
        Convention convention,
        PlanOfVisits before,
        PlanOfVisits after
    )
    {
        RowField[] fields =
        [
            .. Kinds.Select(k => new RowField(k)),
            .. convention.Fields.Where(f => convention.MeaningOf(f) == FieldMeaning.ByKey).Select(f => new RowField(RowKind.Field, f.Key)),
        ];
        var read = sources
            .Where(s => s.Visits > 0)
            .AsParallel()
            .Select(s =>
                (s.Visits, Before: new ReadSource(s.Source, convention, before), After: new ReadSource(s.Source, convention, after))
            )
            .ToList();
        return
        [
            .. fields.SelectMany(field =>
            {
                var counts = new Dictionary<(string? Key, bool IsThere), (long Before, long After)>();
                foreach (var (visits, was, becomes) in read)
                {
                    Count(was.KeyOf(field), visits, 0);
                    Count(becomes.KeyOf(field), 0, visits);
                }

                return counts
                    .Where(c => c.Value.Before != c.Value.After)
                    .OrderByDescending(c => Math.Abs(c.Value.After - c.Value.Before))
                    .ThenBy(c => c.Key.Key, StringComparer.Ordinal)
                    .Select(c => new StrayEffect(field, c.Key.Key, c.Value.Before, c.Value.After));

                void Count(string? key, long was, long becomes)
                {
                    var sum = counts.GetValueOrDefault((key, key is not null));
                    counts[(key, key is not null)] = (sum.Before + was, sum.After + becomes);
                }
            }),
        ];
    }
}
