using System.Globalization;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Links of the Ledger as rows of a file, with a column for each field of the convention.</summary>
public static class LedgerTable
{
    private static readonly string[] Own =
    [
        "Title",
        "Link",
        "Page",
        "Campaign",
        "Placement",
        "Publisher",
        "Channel",
        "Short link",
        "QR link",
        "State",
        "Clicks",
        "Scans",
        "Unique",
        "Visits",
        "Conversions",
        "Revenue",
        "Cost",
        "Currency",
        "Last used",
        "Topics",
        "Created by",
        "Created",
    ];

    /// <summary>The headings: ours, then the fields' keys in the convention's order.</summary>
    public static IReadOnlyList<OwnCell> Headings(Convention convention) => [.. Own, .. convention.Fields.Select(f => f.Key)];

    /// <summary>A link's cells; moments as ISO 8601 in UTC. A value of a field the convention no longer has is in the link alone.</summary>
    public static IReadOnlyList<OwnCell> Cells(LedgerRow row, Convention convention) =>
        [
            row.Title,
            row.Url,
            row.Destination,
            row.Campaign,
            row.Placement,
            row.Publisher,
            row.Channel,
            row.ShortUrl,
            row.CodeShortUrl,
            row.State.ToString().ToLowerInvariant(),
            OwnCell.Of(row.Clicks),
            OwnCell.Of(row.Scans),
            OwnCell.Of(row.Unique),
            OwnCell.Of(row.Visits),
            OwnCell.Of(row.Conversions),
            OwnCell.Of(row.Revenue),
            OwnCell.Of(row.Cost),
            row.Revenue.Currency,
            Moment(row.LastUsedAt),
            string.Join(", ", row.Topics),
            row.CreatedBy,
            Moment(row.CreatedAt),
            .. convention.Fields.Select(f => (OwnCell)row.Values.FirstOrDefault(v => v.Key == f.Key)?.Value),
        ];

    private static string Moment(DateTimeOffset? at) =>
        at?.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture) ?? "";
}
