using System.Globalization;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Links of the Ledger as rows of a file.</summary>
public static class LedgerTable
{
    public static IReadOnlyList<string> Headings { get; } =
        ["Title", "Link", "Page", "Campaign", "Placement", "Channel", "Short link", "Code says", "State", "Clicks", "Scans", "Unique", "Visits", "Conversions", "Revenue", "Last used", "Topics", "Made by", "Made"];

    /// <summary>A link's cells; moments as ISO 8601 in UTC.</summary>
    public static IReadOnlyList<string> Cells(LedgerRow row) =>
    [
        row.Title ?? "", row.Url, row.Destination, row.Campaign ?? "", row.Placement ?? "", row.Channel ?? "", row.ShortUrl ?? "", row.CodeShortUrl ?? "", row.State, Number(row.Clicks), Number(row.Scans),
        Number(row.Unique), Number(row.Visits), Number(row.Conversions), $"{row.Revenue.Amount} {row.Revenue.Currency}", Moment(row.LastUsedAt), string.Join(", ", row.Topics), row.CreatedBy, Moment(row.CreatedAt),
    ];

    private static string Number(long number) => number.ToString(CultureInfo.InvariantCulture);

    private static string Moment(DateTimeOffset? at) => at?.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture) ?? "";
}
