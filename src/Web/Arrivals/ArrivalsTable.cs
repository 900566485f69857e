using System.Globalization;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>A report as a table for a file: a column for each field rows are made by, then the figures.</summary>
/// <param name="Rows">The headings, everything together, then the rows in their order.</param>
/// <param name="About">What was asked for and when, name by name.</param>
public sealed record ArrivalsTable(IReadOnlyList<IReadOnlyList<OwnCell>> Rows, IReadOnlyList<IReadOnlyList<OwnCell>> About)
{
    /// <summary>Figures by the name calls have for them, in the order they stand where none are asked for.</summary>
    private static readonly (string Name, Func<FigureAnswer, OwnCell> Cell)[] Figures =
    [
        ("clicks", f => OwnCell.Of(f.Clicks)),
        ("scans", f => OwnCell.Of(f.Scans)),
        ("visitsPerClick", f => OwnCell.OfRate(f.VisitsPerClick)),
        ("visits", f => OwnCell.Of(f.Visits)),
        ("visitors", f => OwnCell.Of(f.Visitors)),
        ("newVisitors", f => OwnCell.Of(f.NewVisitors)),
        ("pageViews", f => OwnCell.Of(f.PageViews)),
        ("pagesPerVisit", f => OwnCell.OfNumber(f.PagesPerVisit)),
        ("secondsPerVisit", f => OwnCell.OfNumber(f.SecondsPerVisit)),
        ("events", f => OwnCell.Of(f.Events)),
        ("stayed", f => OwnCell.Of(f.Stayed)),
        ("bounces", f => OwnCell.Of(f.Bounces)),
        ("bounceRate", f => OwnCell.OfRate(f.BounceRate)),
        ("convertingVisits", f => OwnCell.Of(f.ConvertingVisits)),
        ("conversions", f => OwnCell.OfNumber(f.Conversions)),
        ("verifiedConversions", f => OwnCell.OfNumber(f.VerifiedConversions)),
        ("conversionsGained", f => OwnCell.OfNumber(f.ConversionsGained)),
        ("conversionRate", f => OwnCell.OfRate(f.ConversionRate)),
        ("revenue", f => OwnCell.Of(f.Revenue)),
        ("refunds", f => OwnCell.Of(f.Refunds)),
        ("revenueGained", f => OwnCell.Of(f.RevenueGained)),
        ("averageOrder", f => OwnCell.Of(f.AverageOrder)),
        ("revenuePerVisit", f => OwnCell.Of(f.RevenuePerVisit)),
        ("revenuePerVisitor", f => OwnCell.Of(f.RevenuePerVisitor)),
        ("cost", f => OwnCell.Of(f.Cost)),
        ("costPerClick", f => OwnCell.Of(f.CostPerClick)),
        ("costPerVisit", f => OwnCell.Of(f.CostPerVisit)),
        ("costPerConversion", f => OwnCell.Of(f.CostPerConversion)),
        ("costPerThousandShown", f => OwnCell.Of(f.CostPerThousandShown)),
        ("profit", f => OwnCell.Of(f.Profit)),
        ("return", f => OwnCell.OfRate(f.Return)),
        ("shown", f => OwnCell.Of(f.Shown)),
        ("sent", f => OwnCell.Of(f.Sent)),
        ("delivered", f => OwnCell.Of(f.Delivered)),
        ("opened", f => OwnCell.Of(f.Opened)),
    ];

    /// <summary>The table of an answer.</summary>
    /// <param name="answer">All rows of the report.</param>
    /// <param name="query">What was asked for.</param>
    /// <param name="now">When.</param>
    public static ArrivalsTable Of(ArrivalsAnswer answer, ArrivalsQuery query, DateTimeOffset now)
    {
        string[] fields = [.. Listed(query.Rows ?? "campaign").Select(f => RowField.Parse(f)!.ToString())];
        string[] asked = [.. Listed(query.Measures ?? "")];
        (string Name, Func<FigureAnswer, OwnCell> Cell)[] figures =
            asked.Length == 0 ? Figures : [.. asked.Select(FigureOf).DistinctBy(f => f.Name)];

        // Everything that stands side by side, each with the same figures: campaigns, or the report and the span before it.
        string[] sets =
            answer.Campaigns.Count > 0 ? [.. answer.Campaigns.Select(c => $", {c.Name}")]
            : answer.Before is not null ? ["", ", before"]
            : [""];
        var headings = new List<OwnCell>();
        foreach (string field in fields)
        {
            headings.Add(field);
            if (answer.Names.ContainsKey(field))
            {
                headings.Add($"{field} name");
            }
        }

        headings.AddRange(sets.SelectMany(set => figures.Select(f => (OwnCell)(HeadingOf(f.Name) + set))));
        headings.Add("Currency");
        var everything = fields.SelectMany((field, i) => Named(field, i == 0 ? "Everything" : "", ""));
        return new ArrivalsTable(
            [
                headings,
                [
                    .. everything,
                    .. Cells(answer.Campaigns.Count > 0 ? [.. answer.Campaigns.Select(c => c.Total)] : [answer.Total, answer.Before]),
                ],
                .. answer.Rows.Select(row =>
                    (IReadOnlyList<OwnCell>)
                        [
                            .. fields.SelectMany(
                                (field, i) =>
                                    Named(
                                        field,
                                        row.Keys[i] is AmountRows.NotBrokenDown ? "not broken down" : row.Keys[i] ?? "",
                                        answer.Names.GetValueOrDefault(field)?.GetValueOrDefault(row.Keys[i] ?? "") ?? ""
                                    )
                            ),
                            .. Cells(row.Beside is null ? [row.Figures, row.Before] : [row.Figures, .. row.Beside]),
                        ]
                ),
            ],
            [
                ["From", Day(answer.From)],
                ["To", Day(answer.To)],
                ["Compared from", answer.ComparedFrom is { } from ? Day(from) : ""],
                ["Compared to", answer.ComparedTo is { } to ? Day(to) : ""],
                .. answer.Campaigns.Select(c => (IReadOnlyList<OwnCell>)["Campaign", c.Name, Day(c.From), Day(c.To)]),
                ["Rows by", string.Join(", then ", fields)],
                .. (query.Where ?? []).Select(w => (IReadOnlyList<OwnCell>)["Filter", w]),
                ["Search", query.Search ?? ""],
                .. CreditQuery.Read(query.Credit, query.CreditBeside, query.CreditDays) is ({ } credit, null)
                    ? (IReadOnlyList<IReadOnlyList<OwnCell>>)
                        [
                            ["Credit", credit.ToString()],
                        ]
                    : [],
                ["Rows found", OwnCell.Of(answer.Found)],
                ["Rows in this file", OwnCell.Of(answer.Rows.Count)],
                ["Figures up to", answer.Freshness.UpTo is { } upTo ? Moment(upTo) : ""],
                ["Created", Moment(now)],
            ]
        );

        IEnumerable<OwnCell> Named(string field, string key, string name) => answer.Names.ContainsKey(field) ? [key, name] : [key];

        IEnumerable<OwnCell> Cells(IReadOnlyList<FigureAnswer?> each) =>
            [
                .. sets.SelectMany((_, i) => figures.Select(f => each[i] is { } known ? f.Cell(known) : default)),
                each[0]!.Revenue?.Currency ?? "",
            ];
    }

    private static (string Name, Func<FigureAnswer, OwnCell> Cell) FigureOf(string measure)
    {
        if (NamedMeasure.Parse(measure)?.ToString() is { } named)
        {
            return (named, f => OwnCell.OfNumber(f.Named.GetValueOrDefault(named)));
        }

        return Array.Find(Figures, f => f.Name.Equals(measure, StringComparison.OrdinalIgnoreCase));
    }

    /// <summary>What a figure is called on the screen; a time is a number of seconds in a file.</summary>
    private static string HeadingOf(string measure) => measure == "secondsPerVisit" ? "Seconds per visit" : FigureText.LabelOf(measure);

    private static string[] Listed(string text) => text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);

    private static string Day(DateOnly day) => day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    private static string Moment(DateTimeOffset at) => at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss'Z'", CultureInfo.InvariantCulture);
}
