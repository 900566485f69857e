using System.Globalization;
using PreciseBeacon.Core.Credit;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Reports.Printing;
using Calendar = PreciseBeacon.Core.Reports.Calendar;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Words a report for paper.</summary>
internal static class ReportPrint
{
    private const int LongestTitle = 100;
    private const int LongestLine = 500;

    /// <summary>The report as it is put on paper.</summary>
    /// <param name="report">Read by its first level of rows, with a series.</param>
    /// <param name="title">What stands at its head; null or empty for the usual.</param>
    /// <param name="stations">Measures on the line.</param>
    /// <param name="columns">Measures behind it.</param>
    /// <param name="notes">Notes on its days.</param>
    /// <param name="now">When it is made.</param>
    public static PrintedReport Of(
        ReadReport report,
        string? title,
        IReadOnlyList<string> stations,
        IReadOnlyList<string> columns,
        IReadOnlyList<string> notes,
        DateTimeOffset now
    )
    {
        var (request, read, shown) = (report.Request, report.Read, report.Shown);
        string currency = report.Workspace.Currency;
        var field = request.Rows[0];
        var names = report.Names.GetValueOrDefault(field.ToString());
        string days = $"{RowNames.Shown(request.From)} to {RowNames.Shown(request.To)}, {read.Total.Visits:N0} visits";
        string[] lines =
        [
            report.Span is { } span ? $"{days}; compared with {RowNames.Shown(span.From)} to {RowNames.Shown(span.To)}" : days,
            .. Only(request.Where),
            .. request.Credit is { } credit ? (string[])[CreditText.Of(credit)] : [],
        ];
        var campaigns = report.Campaigns;
        string name = string.IsNullOrWhiteSpace(title) ? "Arrivals" : title.Trim();
        var here = TimeZoneInfo.ConvertTime(now, TimeZoneInfo.FindSystemTimeZoneById(report.Workspace.TimeZone));
        var printed = new PrintedReport(
            report.Workspace.Name,
            name.Length > LongestTitle ? name[..LongestTitle] : name,
            lines,
            [
                .. PointsOf(request.From, request.To, request.Points)
                    .Select(p => (RowNames.Of(new RowField(request.Points), Calendar.NameOf(request.Points, p)), p))
                    .GroupJoin(read.Days, p => p.p, d => d.Day, (p, d) => (p.Item1, d.Sum(x => x.Visits))),
            ],
            RowNames.LabelOf(field),
            [.. stations.Select(FigureText.LabelOf)],
            [.. columns.Select(FigureText.LabelOf)],
            [
                RowOf("Everything", "", read.Total, report.Before),
                .. shown.Rows.Select(r =>
                {
                    string? known = r.Keys[0] is { } key ? names?.GetValueOrDefault(key) : null;
                    return RowOf(
                        RowNames.Of(field, r.Keys[0], known),
                        field.Kind == RowKind.Campaign && known is not null && known != r.Keys[0] ? r.Keys[0]! : "",
                        r.Figures,
                        r.Before
                    );
                }),
            ],
            shown.RestRows == 0 ? ""
                : shown.RestRows == 1 ? $"One more row: {shown.Rest!.Visits:N0} visits."
                : $"{shown.RestRows:N0} more rows: {shown.Rest!.Visits:N0} visits together.",
            notes,
            string.Create(CultureInfo.InvariantCulture, $"Made on {here:d MMM yyyy} at {here:HH:mm}, {report.Workspace.TimeZone}")
        );
        return campaigns.Count == 0 ? printed : SideBySide();

        // One figure, a column for each campaign: the first figure of the line.
        PrintedReport SideBySide()
        {
            var figure = stations[0];
            IReadOnlyList<Data.Reports.Arrivals> each = [read, .. report.Others];
            bool uneven = campaigns.Any(c => DaysOf(c) != DaysOf(campaigns[0])) && FigureText.IsSum(figure);
            return printed with
            {
                Lines =
                [
                    .. campaigns.Zip(each, (c, r) =>
                        $"{c.Name}: {RowNames.Shown(c.From)} to {RowNames.Shown(c.To)}, {r.Total.Visits:N0} visits"
                    ),
                    $"{FigureText.LabelOf(figure)} of each campaign, from its own first day on",
                    // The last condition is the first campaign itself.
                    .. Only(request.Where.SkipLast(1)),
                ],
                Course = [],
                Courses = [.. campaigns.Zip(each, (c, r) => new PrintedCourse(c.Name, VisitsByDay(c, r)))],
                Stations = [],
                Columns = [.. campaigns.Select(c => c.Name)],
                Rows =
                [
                    BesideOf("Everything", [.. each.Select(r => r.Total)]),
                    .. shown.Rows.Select(r =>
                        BesideOf(
                            RowNames.Of(field, r.Keys[0], r.Keys[0] is { } key ? names?.GetValueOrDefault(key) : null),
                            [r.Figures, .. r.Beside]
                        )
                    ),
                ],
            };

            PrintedRow BesideOf(string called, IReadOnlyList<Figures> beside) =>
                new(
                    called,
                    "",
                    [],
                    [
                        .. beside.Select(
                            (figures, i) =>
                            {
                                decimal? size = SizeOf(figure, figures);
                                string beneath =
                                    uneven ? FigureText.EachDay(size ?? 0, DaysOf(campaigns[i]))
                                    : i == 0 ? ""
                                    : FigureText.Difference(size, SizeOf(figure, beside[0]));
                                return new PrintedFigure(FigureText.Of(figure, size, currency), size, "", beneath, null);
                            }
                        ),
                    ]
                );
        }

        IEnumerable<string> Only(IEnumerable<RowCondition> where) =>
            where.Any() ? [Cut($"Only visits where {string.Join(" and ", where.Select(w => SaysOf(w, report)))}")] : [];

        PrintedRow RowOf(string called, string note, Figures figures, Figures? before) =>
            new(
                called,
                note,
                [.. stations.Select((m, i) => FigureOf(m, i == 0 ? null : stations[i - 1], figures, before))],
                [.. columns.Select(m => FigureOf(m, null, figures, before))]
            );

        PrintedFigure FigureOf(string measure, string? previous, Figures figures, Figures? before)
        {
            decimal? size = SizeOf(measure, figures),
                then = before is null ? null : SizeOf(measure, before);
            return new PrintedFigure(
                FigureText.Of(measure, size, currency),
                size,
                previous is null ? "" : FigureText.Between(previous, measure, figures, currency),
                before is null ? "" : FigureText.Difference(size, then),
                then
            );
        }

        // Clicks are not known of every kind of rows, nor visitors of rows added up. Money compares as it is shown, so that the paper says
        // what the screen says.
        decimal? SizeOf(string measure, Figures figures) =>
            (ReportRows.IsOfClicks(measure) && !read.HasClicks) || (ReportRows.IsOfVisitors(measure) && !report.WithVisitors) ? null
            : ReportRows.SizeOf(measure, figures) is { } amount && ReportRows.IsOfMoney(measure) ? Figures.Shown(amount, currency)
            : ReportRows.SizeOf(measure, figures);
    }

    private static int DaysOf(ComparedCampaign campaign) => campaign.To.DayNumber - campaign.From.DayNumber + 1;

    private static long[] VisitsByDay(ComparedCampaign campaign, Data.Reports.Arrivals read)
    {
        long[] visits = new long[DaysOf(campaign)];
        foreach (var day in read.Days.Where(d => d.Day >= campaign.From && d.Day <= campaign.To))
        {
            visits[day.Day.DayNumber - campaign.From.DayNumber] += day.Visits;
        }

        return visits;
    }

    private static string Cut(string line) => line.Length > LongestLine ? $"{line[..LongestLine]}…" : line;

    private static string SaysOf(RowCondition condition, ReadReport report)
    {
        var names = report.Names.GetValueOrDefault(condition.Field.ToString());
        string test = condition.Test switch
        {
            RowTest.Not => "is not",
            RowTest.Contains => "contains",
            RowTest.In => "is one of",
            _ => "is",
        };
        return $"{RowNames.LabelOf(condition.Field)} {test} {string.Join(
            ", ",
            condition.Values.Select(v => RowNames.Of(condition.Field, v, v is null ? null : names?.GetValueOrDefault(v)))
        )}";
    }

    /// <summary>Every point of a range, those without visits too.</summary>
    private static IEnumerable<DateOnly> PointsOf(DateOnly from, DateOnly to, RowKind points)
    {
        for (
            var day = Calendar.FirstDayOf(points, from);
            day <= to;
            day =
                    points == RowKind.Month ? day.AddMonths(1)
                    : points == RowKind.Week ? day.AddDays(7)
                    : day.AddDays(1)
        )
        {
            yield return day;
        }
    }
}
