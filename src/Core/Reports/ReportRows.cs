using System.Globalization;
using PreciseBeacon.Core.Proofs.Reconciling;

namespace PreciseBeacon.Core.Reports;

/// <summary>One row of a report.</summary>
/// <param name="Keys">What it is about, in the order of the fields asked for; null where visits have no such value.</param>
/// <param name="Figures">Its figures.</param>
/// <param name="Before">The same row's figures in the span compared with; null where nothing is compared, or it was not there.</param>
public sealed record ReportRow(IReadOnlyList<string?> Keys, Figures Figures, Figures? Before = null)
{
    /// <summary>The same row's figures for each of what is compared; empty where nothing is.</summary>
    public IReadOnlyList<Figures> Beside { get; init; } = [];
}

/// <summary>The keys of a row, compared one by one.</summary>
public sealed record RowKey(IReadOnlyList<string?> Keys)
{
    public bool Equals(RowKey? other) => other is not null && Keys.SequenceEqual(other.Keys);

    public override int GetHashCode() => Keys.Aggregate(17, HashCode.Combine);
}

/// <summary>One page of a report's rows.</summary>
/// <param name="Rows">The rows of the page, in order.</param>
/// <param name="Found">How many rows there are in all, after searching.</param>
/// <param name="Rest">The rows that are on no page up to this one, added up; null where there are none. Its visitors are not known.</param>
/// <param name="RestRows">How many these are.</param>
public sealed record ReportPage(IReadOnlyList<ReportRow> Rows, int Found, Figures? Rest, int RestRows);

/// <summary>Puts the rows of a report in order, and cuts out a page.</summary>
public static class ReportRows
{
    private static readonly HashSet<string> MoneyMeasures = new(StringComparer.OrdinalIgnoreCase)
    {
        "revenue",
        "refunds",
        "revenueGained",
        "averageOrder",
        "revenuePerVisit",
        "revenuePerVisitor",
        "cost",
        "costPerClick",
        "costPerVisit",
        "costPerConversion",
        "costPerThousandShown",
        "profit",
    };

    private static readonly HashSet<string> CostMeasures = new(StringComparer.OrdinalIgnoreCase)
    {
        "cost",
        "costPerClick",
        "costPerVisit",
        "costPerConversion",
        "costPerThousandShown",
        "profit",
        "return",
    };

    private static readonly Dictionary<string, FigureKind> OtherMeasures = new(StringComparer.OrdinalIgnoreCase)
    {
        ["shown"] = FigureKind.Shown,
        ["costPerThousandShown"] = FigureKind.Shown,
        ["sent"] = FigureKind.Sent,
        ["delivered"] = FigureKind.Delivered,
        ["opened"] = FigureKind.Opened,
    };

    private static readonly Dictionary<string, Func<Figures, decimal?>> Measures = new(StringComparer.OrdinalIgnoreCase)
    {
        ["clicks"] = f => f.Clicks,
        ["scans"] = f => f.Scans,
        ["visitsPerClick"] = f => f.VisitsPerClick,
        ["visits"] = f => f.Visits,
        ["visitors"] = f => f.Visitors,
        ["newVisitors"] = f => f.NewVisitors,
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
        ["conversionsGained"] = f => f.ConversionsGained,
        ["conversionRate"] = f => f.ConversionRate,
        ["revenue"] = f => f.Revenue,
        ["refunds"] = f => f.Refunds,
        ["revenueGained"] = f => f.RevenueGained,
        ["averageOrder"] = f => f.AverageOrder,
        ["revenuePerVisit"] = f => f.RevenuePerVisit,
        ["revenuePerVisitor"] = f => f.RevenuePerVisitor,
        ["cost"] = f => f.Cost,
        ["costPerClick"] = f => f.CostPerClick,
        ["costPerVisit"] = f => f.CostPerVisit,
        ["costPerConversion"] = f => f.CostPerConversion,
        ["costPerThousandShown"] = f => f.CostPerThousandShown,
        ["profit"] = f => f.Profit,
        ["return"] = f => f.Return,
        ["shown"] = f => f.Others.Shown,
        ["sent"] = f => f.Others.Sent,
        ["delivered"] = f => f.Others.Delivered,
        ["opened"] = f => f.Others.Opened,
    };

    /// <summary>Orders rows by their keys: whole numbers as numbers, days as days.</summary>
    public const string ByKey = "key";

    private const string Falling = "-visits";

    /// <summary>The order of rows where none is asked for: days, hours and the like as they come, everything else by visits, the most first.</summary>
    public static string UsualSort(IReadOnlyList<RowField> rows) =>
        rows.Count > 0 && rows[0].Table is RowTable.Day or RowTable.Hour ? ByKey : Falling;

    /// <summary>What rows can be ordered by.</summary>
    public static IEnumerable<string> MeasureNames => Measures.Keys;

    /// <summary>How large a figure is; null where it can't be given.</summary>
    /// <param name="measure">See <see cref="IsMeasure"/>.</param>
    /// <param name="figures">The figures of a row.</param>
    public static decimal? SizeOf(string measure, Figures figures) =>
        NamedMeasure.Parse(measure) is { } named ? figures.Named.GetValueOrDefault(named.ToString()) : Measures[measure](figures);

    /// <summary>True for what <see cref="SizeOf"/> knows: one of <see cref="MeasureNames"/>, or a <see cref="NamedMeasure"/>.</summary>
    public static bool IsMeasure(string measure) => Measures.ContainsKey(measure) || NamedMeasure.Parse(measure) is not null;

    /// <summary>True for a measure that is money.</summary>
    public static bool IsOfMoney(string measure) => MoneyMeasures.Contains(measure);

    /// <summary>True for a measure that says something of money, if only how much came of how much: who must not see money must not see it.</summary>
    public static bool TellsOfMoney(string measure) => IsOfMoney(measure) || IsOfCosts(measure);

    /// <summary>True for a measure that needs visitors to be counted.</summary>
    public static bool IsOfVisitors(string measure) =>
        measure.Equals("visitors", StringComparison.OrdinalIgnoreCase)
        || measure.Equals("revenuePerVisitor", StringComparison.OrdinalIgnoreCase);

    /// <summary>True for a measure that needs costs to be added up.</summary>
    public static bool IsOfCosts(string measure) => CostMeasures.Contains(measure);

    /// <summary>What other systems have to be asked for a measure; null for what we count ourselves.</summary>
    public static FigureKind? OfOthers(string measure) => OtherMeasures.TryGetValue(measure, out var kind) ? kind : null;

    /// <summary>True for a measure that needs clicks to be counted.</summary>
    public static bool IsOfClicks(string measure) =>
        measure.Equals("costPerClick", StringComparison.OrdinalIgnoreCase)
        || measure.Equals("clicks", StringComparison.OrdinalIgnoreCase)
        || measure.Equals("scans", StringComparison.OrdinalIgnoreCase)
        || measure.Equals("visitsPerClick", StringComparison.OrdinalIgnoreCase);

    /// <summary>True for a measure, with “-” in front or without.</summary>
    public static bool CanSortBy(string sort) => sort.TrimStart('-') is var by && (by == ByKey || IsMeasure(by));

    /// <summary>One page of rows.</summary>
    /// <param name="rows">All rows.</param>
    /// <param name="sort">A measure, or <see cref="ByKey"/>; with “-” in front the largest comes first. Rows without a figure come last either way; what is alike is ordered by its keys.</param>
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
        string by = sort.TrimStart('-');
        Func<Figures, decimal?> measure = by == ByKey ? _ => 0 : figures => SizeOf(by, figures);
        bool falls = sort.StartsWith('-');
        var found =
            search.Length == 0
                ? rows
                : [.. rows.Where(r => r.Keys.Any(k => k is not null && (Has(k, search) || (nameOf(k) is { } name && Has(name, search)))))];
        var ordered = found
            .Select(r => (Row: r, Value: measure(r.Figures)))
            .OrderBy(r => r.Value is null)
            .ThenBy(r => falls ? -r.Value : r.Value)
            .ThenBy(r => r.Row.Keys, by == ByKey && falls ? KeyOrder.Falling : KeyOrder.Rising)
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

    /// <summary>Key by key: none first, whole numbers by their size, everything else by its characters.</summary>
    private sealed class KeyOrder(int sign) : IComparer<IReadOnlyList<string?>>
    {
        public static readonly KeyOrder Rising = new(1);
        public static readonly KeyOrder Falling = new(-1);

        public int Compare(IReadOnlyList<string?>? one, IReadOnlyList<string?>? other)
        {
            for (int i = 0; i < Math.Min(one!.Count, other!.Count); i++)
            {
                int order =
                    int.TryParse(one[i], NumberStyles.None, CultureInfo.InvariantCulture, out int first)
                    && int.TryParse(other[i], NumberStyles.None, CultureInfo.InvariantCulture, out int second)
                        ? first.CompareTo(second)
                        : string.CompareOrdinal(one[i], other[i]);
                if (order != 0)
                {
                    return sign * order;
                }
            }

            return 0;
        }
    }

    private static bool Has(string text, string search) => text.Contains(search, StringComparison.OrdinalIgnoreCase);
}
