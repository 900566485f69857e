using System.Globalization;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Extensions.Primitives;
using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>
/// What a view of Arrivals asks of the report, read from the part of its address behind the question mark. What an address asks for
/// wrongly is as if it were not there. What is only shown, such as stations and columns, is the interface's to read.
/// </summary>
/// <param name="From">The first day.</param>
/// <param name="To">The last day.</param>
/// <param name="Compare">What it is compared with, as calls have it; null for nothing.</param>
/// <param name="Rows">What rows are by, outermost first; never empty.</param>
/// <param name="Where">Its conditions.</param>
/// <param name="Search">What rows are searched for; null for nothing.</param>
/// <param name="Sort">The order of the rows; null for the usual one.</param>
/// <param name="Credit">How credit is given; null where conversions stand with their own visits.</param>
public sealed record ViewSettings(
    DateOnly From,
    DateOnly To,
    string? Compare,
    IReadOnlyList<RowField> Rows,
    IReadOnlyList<string> Where,
    string? Search,
    string? Sort,
    CreditChoice? Credit = null
)
{
    private const int MostRows = 5;

    private static readonly RowField[] UsualRows = [new(RowKind.Campaign), new(RowKind.Source), new(RowKind.Medium)];

    /// <summary>True where campaigns are compared, each from its own first day.</summary>
    public bool IsByCampaign => Compare?.StartsWith(CampaignComparison.Word, StringComparison.OrdinalIgnoreCase) == true;

    /// <summary>Reads an address.</summary>
    /// <param name="address">The part behind the question mark.</param>
    /// <param name="today">The day it is in the workspace, by which spans move.</param>
    public static ViewSettings Read(string address, DateOnly today)
    {
        var query = QueryHelpers.ParseQuery(address);
        var (from, to) = SpanOf(query, today);
        RowField[] rows = [.. (TextOf(query, "rows") ?? "").Split(',').Select(RowField.Parse).OfType<RowField>().Distinct().Take(MostRows)];
        string? compare = TextOf(query, "compare");
        string? sort = TextOf(query, "sort");
        bool isByCampaign = compare?.StartsWith(CampaignComparison.Word, StringComparison.OrdinalIgnoreCase) == true;
        return new ViewSettings(
            from,
            to,
            compare is not null && (isByCampaign || ComparedSpan.Of(compare, from, to) is not null) ? compare : null,
            rows.Length > 0 ? rows : UsualRows,
            [.. query.GetValueOrDefault("where").OfType<string>().Where(w => RowCondition.Parse(w) is not null)],
            TextOf(query, "search"),
            sort is not null && ReportRows.CanSortBy(sort) ? sort : null,
            CreditOf(query)
        );
    }

    private static (DateOnly From, DateOnly To) SpanOf(Dictionary<string, StringValues> query, DateOnly today) =>
        TextOf(query, "span") is { } code && ReportSpan.Of(code, today) is { } span ? span
        : DayOf(query, "from") is { } from && DayOf(query, "to") is { } to && from <= to ? (from, to)
        : ReportSpan.Of(ReportSpan.Usual, today)!.Value;

    private static CreditChoice? CreditOf(Dictionary<string, StringValues> query)
    {
        int? days = int.TryParse(TextOf(query, "creditDays"), NumberStyles.None, CultureInfo.InvariantCulture, out int read) ? read : null;
        return CreditChoice.TryRead(TextOf(query, "credit"), TextOf(query, "creditBeside"), days, out var choice) ? choice : null;
    }

    private static string? TextOf(Dictionary<string, StringValues> query, string name) =>
        query.TryGetValue(name, out var values) && !string.IsNullOrWhiteSpace(values[0]) ? values[0] : null;

    private static DateOnly? DayOf(Dictionary<string, StringValues> query, string name) =>
        DateOnly.TryParseExact(TextOf(query, name), "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day)
            ? day
            : null;
}
