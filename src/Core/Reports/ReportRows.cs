namespace PreciseBeacon.Core.Reports;

/// <summary>One row of a report.</summary>
/// <param name="Keys">What it is about, in the order of the fields asked for; null where visits have no such value.</param>
/// <param name="Figures">Its figures.</param>
/// <param name="Before">The same row's figures in the span compared with; null where nothing is compared, or it was not there.</param>
public sealed record ReportRow(IReadOnlyList<string?> Keys, Figures Figures, Figures? Before = null);

/// <summary>One page of a report's rows.</summary>
/// <param name="Rows">The rows of the page, in order.</param>
/// <param name="Found">How many rows there are in all, after searching.</param>
/// <param name="Rest">The rows that are on no page up to this one, added up; null where there are none. Its visitors are not known.</param>
/// <param name="RestRows">How many these are.</param>
public sealed record ReportPage(IReadOnlyList<ReportRow> Rows, int Found, Figures? Rest, int RestRows);

/// <summary>Puts the rows of a report in order, and cuts out a page.</summary>
public static class ReportRows
{
    private static readonly Dictionary<string, Func<Figures, decimal?>> Measures = new(StringComparer.OrdinalIgnoreCase)
    {
        ["visits"] = f => f.Visits,
        ["visitors"] = f => f.Visitors,
        ["pageViews"] = f => f.PageViews,
        ["events"] = f => f.Events,
        ["pagesPerVisit"] = f => f.PagesPerVisit,
        ["secondsPerVisit"] = f => f.SecondsPerVisit,
        ["bounces"] = f => f.Bounces,
        ["stayed"] = f => f.Stayed,
        ["bounceRate"] = f => f.BounceRate,
        ["convertingVisits"] = f => f.ConvertingVisits,
        ["conversions"] = f => f.Conversions,
        ["verifiedConversions"] = f => f.VerifiedConversions,
        ["conversionRate"] = f => f.ConversionRate,
        ["revenue"] = f => f.Revenue,
        ["averageOrder"] = f => f.AverageOrder,
        ["revenuePerVisit"] = f => f.RevenuePerVisit,
        ["revenuePerVisitor"] = f => f.RevenuePerVisitor,
    };

    /// <summary>What rows can be ordered by.</summary>
    public static IEnumerable<string> MeasureNames => Measures.Keys;

    /// <summary>True for a measure that needs visitors to be counted.</summary>
    public static bool IsOfVisitors(string measure) =>
        measure.Equals("visitors", StringComparison.OrdinalIgnoreCase)
        || measure.Equals("revenuePerVisitor", StringComparison.OrdinalIgnoreCase);

    /// <summary>True for a measure, with “-” in front or without.</summary>
    public static bool CanSortBy(string sort) => Measures.ContainsKey(sort.TrimStart('-'));

    /// <summary>One page of rows.</summary>
    /// <param name="rows">All rows.</param>
    /// <param name="sort">A measure; with “-” in front the largest comes first. Rows without a figure come last either way; what is alike is ordered by its keys.</param>
    /// <param name="search">Only rows one of whose keys, or the name of one, holds this, whatever the case; empty for all.</param>
    /// <param name="nameOf">What a key is called, where that is not the key itself.</param>
    /// <param name="page">From 1.</param>
    /// <param name="size">Rows on a page, at least 1.</param>
    public static ReportPage PageOf(
        IReadOnlyCollection<ReportRow> rows,
        string sort,
        string search,
        Func<string, string?> nameOf,
        int page,
        int size
    )
    {
        var measure = Measures[sort.TrimStart('-')];
        bool falls = sort.StartsWith('-');
        var found =
            search.Length == 0
                ? rows
                : [.. rows.Where(r => r.Keys.Any(k => k is not null && (Has(k, search) || (nameOf(k) is { } name && Has(name, search)))))];
        var ordered = found
            .Select(r => (Row: r, Value: measure(r.Figures)))
            .OrderBy(r => r.Value is null)
            .ThenBy(r => falls ? -r.Value : r.Value)
            .ThenBy(r => string.Join('\n', r.Row.Keys), StringComparer.Ordinal)
            .Select(r => r.Row)
            .ToList();
        var rest = ordered.Skip(page * size).ToList();
        return new ReportPage(
            [.. ordered.Skip((page - 1) * size).Take(size)],
            ordered.Count,
            rest.Count == 0 ? null : rest.Aggregate(Figures.Zero, (sum, row) => sum.With(row.Figures)),
            rest.Count
        );
    }

    private static bool Has(string text, string search) => text.Contains(search, StringComparison.OrdinalIgnoreCase);
}
