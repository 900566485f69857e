using System.Globalization;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>A report as a table for a file: a column for each field rows are made by, then the figures.</summary>
/// <param name="Rows">The headings, everything together, then the rows in their order.</param>
/// <param name="About">What was asked for and when, name by name.</param>
public sealed record ArrivalsTable(IReadOnlyList<IReadOnlyList<OwnCell>> Rows, IReadOnlyList<IReadOnlyList<OwnCell>> About)
{
    /// <summary>Figures by the name calls have for them: heading and cell, in the order they stand where none are asked for.</summary>
    private static readonly (string Name, string Heading, Func<FigureAnswer, OwnCell> Cell)[] Figures =
    [
        ("clicks", "Clicks", f => OwnCell.Of(f.Clicks)),
        ("scans", "Scans", f => OwnCell.Of(f.Scans)),
        ("visitsPerClick", "Visits per click", f => OwnCell.OfRate(f.VisitsPerClick)),
        ("visits", "Visits", f => OwnCell.Of(f.Visits)),
        ("visitors", "Visitors", f => OwnCell.Of(f.Visitors)),
        ("newVisitors", "New visitors", f => OwnCell.Of(f.NewVisitors)),
        ("pageViews", "Page views", f => OwnCell.Of(f.PageViews)),
        ("pagesPerVisit", "Pages per visit", f => OwnCell.OfNumber(f.PagesPerVisit)),
        ("secondsPerVisit", "Seconds per visit", f => OwnCell.OfNumber(f.SecondsPerVisit)),
        ("events", "Events", f => OwnCell.Of(f.Events)),
        ("stayed", "Stayed", f => OwnCell.Of(f.Stayed)),
        ("bounces", "Bounces", f => OwnCell.Of(f.Bounces)),
        ("bounceRate", "Bounce rate", f => OwnCell.OfRate(f.BounceRate)),
        ("convertingVisits", "Converted", f => OwnCell.Of(f.ConvertingVisits)),
        ("conversions", "Conversions", f => OwnCell.Of(f.Conversions)),
        ("verifiedConversions", "Verified conversions", f => OwnCell.Of(f.VerifiedConversions)),
        ("conversionRate", "Conversion rate", f => OwnCell.OfRate(f.ConversionRate)),
        ("revenue", "Revenue", f => OwnCell.Of(f.Revenue)),
        ("averageOrder", "Average order", f => OwnCell.Of(f.AverageOrder)),
        ("revenuePerVisit", "Revenue per visit", f => OwnCell.Of(f.RevenuePerVisit)),
        ("revenuePerVisitor", "Revenue per visitor", f => OwnCell.Of(f.RevenuePerVisitor)),
    ];

    /// <summary>The table of an answer.</summary>
    /// <param name="answer">All rows of the report.</param>
    /// <param name="query">What was asked for.</param>
    /// <param name="now">When.</param>
    public static ArrivalsTable Of(ArrivalsAnswer answer, ArrivalsQuery query, DateTimeOffset now)
    {
        string[] fields = [.. Listed(query.Rows ?? "campaign").Select(f => RowField.Parse(f)!.ToString())];
        string[] asked = [.. Listed(query.Measures ?? "")];
        var figures =
            asked.Length == 0
                ? Figures
                : [.. asked.Select(a => Figures.First(f => f.Name.Equals(a, StringComparison.OrdinalIgnoreCase))).Distinct()];
        bool compared = answer.Before is not null;
        var headings = new List<OwnCell>();
        foreach (string field in fields)
        {
            headings.Add(field);
            if (answer.Names.ContainsKey(field))
            {
                headings.Add($"{field} name");
            }
        }

        headings.AddRange(figures.Select(f => (OwnCell)f.Heading));
        headings.AddRange(compared ? figures.Select(f => (OwnCell)$"{f.Heading}, before") : []);
        headings.Add("Currency");
        var everything = fields.SelectMany((field, i) => Named(field, i == 0 ? "Everything" : "", ""));
        return new ArrivalsTable(
            [
                headings,
                [.. everything, .. Cells(answer.Total, answer.Before)],
                .. answer.Rows.Select(row =>
                    (IReadOnlyList<OwnCell>)
                        [
                            .. fields.SelectMany(
                                (field, i) =>
                                    Named(
                                        field,
                                        row.Keys[i] ?? "",
                                        answer.Names.GetValueOrDefault(field)?.GetValueOrDefault(row.Keys[i] ?? "") ?? ""
                                    )
                            ),
                            .. Cells(row.Figures, row.Before),
                        ]
                ),
            ],
            [
                ["From", Day(answer.From)],
                ["To", Day(answer.To)],
                ["Compared from", answer.ComparedFrom is { } from ? Day(from) : ""],
                ["Compared to", answer.ComparedTo is { } to ? Day(to) : ""],
                ["Rows by", string.Join(", then ", fields)],
                .. (query.Where ?? []).Select(w => (IReadOnlyList<OwnCell>)["Filter", w]),
                ["Search", query.Search ?? ""],
                ["Rows found", OwnCell.Of(answer.Found)],
                ["Rows in this file", OwnCell.Of(answer.Rows.Count)],
                ["Figures up to", answer.Freshness.UpTo is { } upTo ? Moment(upTo) : ""],
                ["Created", Moment(now)],
            ]
        );

        IEnumerable<OwnCell> Named(string field, string key, string name) => answer.Names.ContainsKey(field) ? [key, name] : [key];

        IEnumerable<OwnCell> Cells(FigureAnswer now, FigureAnswer? before) =>
            [
                .. figures.Select(f => f.Cell(now)),
                .. compared ? figures.Select(f => before is null ? default : f.Cell(before)) : [],
                now.Revenue.Currency,
            ];
    }

    private static string[] Listed(string text) => text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static string Moment(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
