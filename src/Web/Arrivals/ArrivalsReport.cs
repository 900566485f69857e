using Microsoft.EntityFrameworkCore;
using Npgsql;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Proofs.Reconciling;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.Reports.Printing;
using PreciseBeacon.Core.Traffic;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>Answers what is asked of Arrivals: as rows for the screen, as a table for a file.</summary>
public sealed class ArrivalsReport(
    BeaconDb db,
    ConventionReader conventions,
    ArrivalsReader arrivals,
    CampaignComparison comparison,
    NpgsqlDataSource database,
    TimeProvider clock
)
{
    /// <summary>Rows on a page at most.</summary>
    public const int MostRows = 5_000;

    /// <summary>Rows in a file at most; a sheet of a workbook holds ten times as many, but nobody reads them.</summary>
    public const int MostRowsInFile = 100_000;

    private const int UsualSize = 50;

    /// <summary>Kinds and names that are offered at most, the commonest first (ours).</summary>
    private const int MostNamed = 100;

    /// <summary>Rows with a line of their own in the series (reports, section 4).</summary>
    private const int MostLines = 6;

    private static readonly RowKind?[] Points = [RowKind.Day, RowKind.Week, RowKind.Month];

    /// <summary>The report as a table, every row on it; refused where there are more than a file holds.</summary>
    public async Task<Outcome<ArrivalsTable>> TableAsync(ArrivalsQuery query, CancellationToken cancel)
    {
        var (answer, refusal) = await AnswerAsync(query with { Page = 1, Size = MostRowsInFile, Series = null }, MostRowsInFile, cancel);
        return answer is null ? refusal!
            : answer.RestRows > 0
                ? Refusal.Invalid(
                    "rows-many",
                    $"The report has {answer.Found:N0} rows; a file holds {MostRowsInFile:N0}. Narrow it by a filter or a search, or export fewer levels."
                )
            : ArrivalsTable.Of(answer, query, clock.GetUtcNow());
    }

    /// <summary>The report on paper: its first level of rows, as many as two pages have room for.</summary>
    public async Task<Outcome<byte[]>> PdfAsync(ArrivalsQuery query, PrintQuery print, CancellationToken cancel)
    {
        string[] stations = Named(print.Stations, FigureText.UsualStations);
        string[] columns = Named(print.Columns, FigureText.UsualColumns);
        if (stations.Length is 0 or > PrintQuery.MostStations || columns.Length > PrintQuery.MostColumns)
        {
            return Refusal.Invalid(
                "figures-many",
                $"A page has room for 1 to {PrintQuery.MostStations} stations and {PrintQuery.MostColumns} columns; choose fewer figures."
            );
        }

        // Campaigns side by side are the columns, so the rows are by something else, and their courses are by day.
        bool byCampaign = query.Compare?.StartsWith(CampaignComparison.Word, StringComparison.OrdinalIgnoreCase) == true;
        string first = (query.Rows ?? "")
            .Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .FirstOrDefault(r => !byCampaign || r != "campaign")
            ?? (byCampaign ? "source" : "campaign");
        var (report, refusal) = await ReadAsync(
            query with
            {
                Rows = first,
                Measures = string.Join(',', stations.Concat(columns).Append("visits")),
                Series = byCampaign ? "day" : query.Series ?? "day",
                Page = 1,
                Size = ReportPdf.MostRows - 1,
            },
            MostRows,
            cancel
        );
        if (report is null)
        {
            return refusal!;
        }

        var notes = await db
            .DayNotes.AsNoTracking()
            .Where(n => n.Day >= report.Request.From && n.Day <= report.Request.To)
            .OrderByDescending(n => n.Day)
            .Take(PrintQuery.MostNotes)
            .Select(n => new { n.Day, n.Text })
            .ToListAsync(cancel);
        return ReportPdf.Draw(
            ReportPrint.Of(
                report,
                print.Title,
                stations,
                columns,
                [.. notes.Select(n => $"{RowNames.Shown(n.Day)}: {n.Text}")],
                clock.GetUtcNow()
            ),
            clock.GetUtcNow(),
            cancel
        );

        static string[] Named(string? asked, IReadOnlyList<string> usual) =>
            [
                .. (asked?.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries) ?? usual)
                    .Where(ReportRows.IsMeasure)
                    .Distinct(StringComparer.OrdinalIgnoreCase),
            ];
    }

    /// <summary>The report.</summary>
    public Task<Outcome<ArrivalsAnswer>> ReadAsync(ArrivalsQuery query, CancellationToken cancel) => AnswerAsync(query, MostRows, cancel);

    private async Task<Outcome<ArrivalsAnswer>> AnswerAsync(ArrivalsQuery query, int mostRows, CancellationToken cancel)
    {
        var (report, refusal) = await ReadAsync(query, mostRows, cancel);
        return report is null ? refusal! : AnswerOf(report, await PointsAsync(report, cancel));
    }

    private async Task<Outcome<ReadReport>> ReadAsync(ArrivalsQuery query, int mostRows, CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = ArrivalsEndpoints.RequestOf(workspace, clock, query.From, query.To, query.Rows ?? "campaign", query.Where);
        if (request is null)
        {
            return refusal!;
        }

        string sort = query.Sort ?? ReportRows.UsualSort(request.Rows);
        var (page, size) = (query.Page ?? 1, query.Size ?? UsualSize);
        if (!ReportRows.CanSortBy(sort) || page < 1 || size < 1 || size > mostRows)
        {
            return Refusal.Invalid(
                "order-refused",
                $"Rows are ordered by key or one of {string.Join(", ", ReportRows.MeasureNames)}, with - in front for the largest first; a page has 1 to {MostRows:N0} rows."
            );
        }

        string[] asked = (query.Measures ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        NamedMeasure[] named = [.. asked.Append(sort.TrimStart('-')).Select(NamedMeasure.Parse).OfType<NamedMeasure>().Distinct()];
        if (!asked.All(ReportRows.IsMeasure) || named.Length > NamedMeasure.Most)
        {
            return Refusal.Invalid(
                "measures-refused",
                $"Figures are {string.Join(", ", ReportRows.MeasureNames)}, and up to {NamedMeasure.Most} such as conversions:ticket and events:video, separated by commas."
            );
        }

        var (credit, badCredit) = CreditQuery.Read(query.Credit, query.CreditBeside, query.CreditDays);
        if (badCredit is not null)
        {
            return badCredit;
        }

        bool withVisitors = asked.Length == 0 || asked.Append(sort.TrimStart('-')).Any(ReportRows.IsOfVisitors);
        bool withClicks = asked.Length == 0 || asked.Append(sort.TrimStart('-')).Any(ReportRows.IsOfClicks);

        // Only where asked for: they bring rows without a visit, and whoever asks for nothing in particular wants the visits.
        bool withCosts = asked.Append(sort.TrimStart('-')).Any(ReportRows.IsOfCosts);
        FigureKind[] ofOthers = [.. asked.Append(sort.TrimStart('-')).Select(ReportRows.OfOthers).OfType<FigureKind>().Distinct()];
        RowKind? points = query.Series is null
            ? null
            : Points.FirstOrDefault(p => p.ToString()!.Equals(query.Series, StringComparison.OrdinalIgnoreCase));
        if (query.Series is not null && points is null)
        {
            return Refusal.Invalid("series-refused", "A series is by day, week or month.");
        }

        (DateOnly From, DateOnly To)? span = null;
        IReadOnlyList<ComparedCampaign> campaigns = [];
        bool byCampaign = query.Compare?.StartsWith(CampaignComparison.Word, StringComparison.OrdinalIgnoreCase) == true;
        if (
            !byCampaign
            && !string.IsNullOrEmpty(query.Compare)
            && (span = ComparedSpan.Of(query.Compare, request.From, request.To)) is null
        )
        {
            return Refusal.Invalid(
                "comparison-refused",
                "A report is compared with before, yearBefore, two days such as 2026-01-01,2026-01-31, or campaigns such as campaigns:seed_swap,bulb_sale."
            );
        }

        request = request with
        {
            WithVisitors = withVisitors,
            WithClicks = withClicks,
            WithCosts = withCosts,
            Others = ofOthers,
            Named = named,
            Credit = credit,
            Points = points ?? request.Points,
        };
        var convention = await conventions.ReadAsync(cancel);
        var whole = request;
        if (byCampaign)
        {
            var (found, unknown) = await comparison.SpansAsync(
                query.Compare![CampaignComparison.Word.Length..],
                request,
                convention,
                cancel
            );
            if (found is null)
            {
                return unknown!;
            }

            campaigns = found;
            request = campaigns[0].Of(whole);
        }

        // Filters are called what rows are called.
        RowField[] fields = [.. request.Rows, .. request.Where.Select(w => w.Field)];
        var siteNames = await SiteNamesAsync(fields, cancel);
        if (points is not null)
        {
            request = request with { Lines = (rows, known) => PageOf(rows, known).Rows.Take(MostLines).Select(r => r.Keys) };
        }

        var (read, before) = await arrivals.CompareAsync(request, span, convention, cancel);
        var others = new List<Data.Reports.Arrivals>();
        foreach (var other in campaigns.Skip(1))
        {
            others.Add(await arrivals.ReadAsync(other.Of(whole), convention, cancel));
        }

        return new ReadReport(
            workspace,
            request,
            read,
            before,
            span,
            PageOf(others.Count == 0 ? read.Rows : CampaignComparison.Beside(read.Rows, [.. others.Select(o => o.Rows)]), read.Plan),
            campaigns,
            others,
            NamesOf(fields, read.Plan, siteNames),
            convention,
            sort,
            withVisitors
        );

        ReportPage PageOf(IReadOnlyList<ReportRow> rows, PlanOfVisits known)
        {
            var called = NamesOf(request.Rows, known, siteNames);
            return ReportRows.PageOf(
                rows,
                sort,
                query.Search?.Trim() ?? "",
                key => called.Values.Select(n => n.GetValueOrDefault(key)).FirstOrDefault(n => n is not null),
                page,
                size
            );
        }
    }

    /// <summary>Where the towns of the rows shown lie, each by the keys of its row; empty where rows are not by the towns of one country.</summary>
    private async Task<Dictionary<RowKey, GeoPoint>> PointsAsync(ReadReport report, CancellationToken cancel)
    {
        var towns = TownRows.Of(report.Request.Rows, report.Request.Where, report.Shown.Rows.Select(r => r.Keys));
        if (towns.Count == 0)
        {
            return [];
        }

        var points = await TownPoints.ReadAsync(database, towns[0].Town.Country, [.. towns.Select(t => t.Town.City).Distinct()], cancel);
        return towns.Where(t => points.ContainsKey(t.Town)).ToDictionary(t => new RowKey(t.Keys), t => points[t.Town]);
    }

    private static ArrivalsAnswer AnswerOf(ReadReport report, Dictionary<RowKey, GeoPoint> points)
    {
        var (workspace, request, read, before, span, shown, campaigns, others, names, convention, sort, withVisitors) = report;
        var keys = shown
            .Rows.SelectMany(r => r.Keys)
            .Concat(request.Where.SelectMany(w => w.Values))
            .OfType<string>()
            .ToHashSet(StringComparer.Ordinal);
        string currency = workspace.Currency;
        return new ArrivalsAnswer(
            request.From,
            request.To,
            [.. shown.Rows.Select(RowOf)],
            shown.Found,
            shown.Rest is { } rest ? FigureAnswer.Of(rest, currency, withVisitors: false, read.HasClicks, request.Named) : null,
            shown.RestRows,
            AnswerOf(read.Total),
            before is null ? null : AnswerOf(before),
            span?.From,
            span?.To,
            read.Days,
            request.Points.ToString().ToLowerInvariant(),
            names.ToDictionary(
                n => n.Key,
                n =>
                    (IReadOnlyDictionary<string, string>)
                        n.Value.Where(v => keys.Contains(v.Key)).OrderBy(v => v.Key, StringComparer.Ordinal).ToDictionary()
            ),
            UnknownOf(request.Rows, shown.Rows, convention, read.Plan),
            sort,
            [.. read.RevenueElsewhere.Select(r => Money.Of(r.Value, r.Key))],
            [.. read.RefundsElsewhere.Select(r => Money.Of(r.Value, r.Key))],
            [.. read.CostElsewhere.Select(c => Money.Of(c.Value, c.Key))],
            read.Total.VisitsWithId < read.Total.Visits,
            read.Total.Visits == 0 ? null : (decimal)read.Total.VisitsWithId / read.Total.Visits,
            read.Lost,
            [.. read.Full.Select(ManyOf)],
            read.Freshness,
            [
                .. read
                    .Occurring.OrderByDescending(o => o.Value)
                    .ThenBy(o => o.Key.ToString(), StringComparer.Ordinal)
                    .Take(MostNamed)
                    .Select(o => new NamedFigure(o.Key.ToString(), o.Value)),
            ],
            [
                .. campaigns.Select(
                    (c, i) =>
                        new ComparedAnswer(
                            c.Value,
                            c.Name,
                            c.From,
                            c.To,
                            AnswerOf((i == 0 ? read : others[i - 1]).Total),
                            (i == 0 ? read : others[i - 1]).Days
                        )
                ),
            ]
        );

        RowAnswer RowOf(ReportRow row) =>
            new(
                row.Keys,
                AnswerOf(row.Figures),
                row.Before is { } earlier ? AnswerOf(earlier) : null,
                row.Beside.Count == 0 ? null : [.. row.Beside.Select(AnswerOf)],
                read.Lines.TryGetValue(new RowKey(row.Keys), out var line)
                    ? [.. read.Days.Select(d => line.GetValueOrDefault(d.Day))]
                    : null,
                points.TryGetValue(new RowKey(row.Keys), out var point) ? new PointAnswer(point.Latitude, point.Longitude) : null
            );

        FigureAnswer AnswerOf(Figures figures) => FigureAnswer.Of(figures, currency, withVisitors, read.HasClicks, request.Named);
    }

    /// <summary>The keys of the rows that nobody knows, by field.</summary>
    private static Dictionary<string, IReadOnlyList<string>> UnknownOf(
        IReadOnlyList<RowField> fields,
        IReadOnlyList<ReportRow> rows,
        Convention convention,
        PlanOfVisits plan
    ) =>
        fields
            .Select(
                (field, i) =>
                    (
                        field,
                        Keys: rows.Select(r => r.Keys[i])
                            .OfType<string>()
                            .Distinct()
                            .Where(key => UnknownValues.IsUnknown(field, key, convention, plan))
                            .Order(StringComparer.Ordinal)
                            .ToList()
                    )
            )
            .Where(f => f.Keys.Count > 0)
            .DistinctBy(f => f.field)
            .ToDictionary(f => f.field.ToString(), f => (IReadOnlyList<string>)f.Keys);

    private static ManyValues ManyOf(string key) =>
        key switch
        {
            ValueBook.Keys => new ManyValues("keys", null),
            ValueBook.Referrers => new ManyValues("referrers", null),
            ValueBook.Pages => new ManyValues("pages", null),
            ValueBook.Typed => new ManyValues("typed", null),
            ValueBook.Models => new ManyValues("models", null),
            ValueBook.Systems => new ManyValues("systems", null),
            ValueBook.Browsers => new ManyValues("browsers", null),
            ValueBook.EventNames => new ManyValues("events", null),
            ValueBook.Spots => new ManyValues("spots", null),
            _ => new ManyValues("tag", key),
        };

    /// <summary>What sites are called, by id; empty where no rows are made by them.</summary>
    private async Task<Dictionary<string, string>> SiteNamesAsync(IReadOnlyList<RowField> rows, CancellationToken cancel) =>
        rows.Any(r => r.Kind == RowKind.Site)
            ? (await db.Sites.AsNoTracking().Include(s => s.Hosts).ToListAsync(cancel)).ToDictionary(
                s => s.Id.ToString(),
                s => s.Hosts.Select(h => h.Host).Order(StringComparer.Ordinal).FirstOrDefault() ?? ""
            )
            : [];

    /// <summary>What campaigns, links and sites are called, by field and key, where rows are made by them.</summary>
    internal static Dictionary<string, Dictionary<string, string>> NamesOf(
        IReadOnlyList<RowField> rows,
        PlanOfVisits plan,
        Dictionary<string, string> siteNames
    ) =>
        rows.Where(r => r.Kind is RowKind.Campaign or RowKind.Link or RowKind.Site)
            .DistinctBy(r => r.ToString())
            .ToDictionary(
                r => r.ToString(),
                r =>
                    r.Kind switch
                    {
                        RowKind.Campaign => plan.Campaigns.GroupBy(c => c.Value).ToDictionary(g => g.Key, g => g.First().Name),
                        RowKind.Link => plan.Links.ToDictionary(l => l.Id.ToString(), l => l.Title),
                        _ => siteNames,
                    }
            );
}
