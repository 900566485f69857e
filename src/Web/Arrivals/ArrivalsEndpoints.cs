using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Arrivals;

/// <summary>The reports of tagged traffic.</summary>
public static class ArrivalsEndpoints
{
    private const int MostLevels = 5;
    private const int MostConditions = 20;
    private const int MostRowsOnPage = 5_000;
    private const int LongestRange = 366 * 10;

    private const int MostLinks = 12;

    /// <summary>Rows with a line of their own in the series (reports, section 4).</summary>
    private const int MostLines = 6;

    private static readonly RowKind?[] Points = [RowKind.Day, RowKind.Week, RowKind.Month];

    public static void MapArrivals(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Arrivals");
        group
            .MapGet("/arrivals", GetAsync)
            .WithName("ReadArrivals")
            .WithSummary("Reports visits, conversions and revenue, by rows.")
            .For(Caller.Readers);
        group
            .MapGet("/arrivals/links", LinksAsync)
            .WithName("ListLinksOfRow")
            .WithSummary("Lists the links a row of the report means.")
            .For(Caller.Readers);
    }

    private static async Task<Outcome<ArrivalsAnswer>> GetAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        CampaignComparison comparison,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        string? compare = null,
        string rows = "campaign",
        string? measures = null,
        [FromQuery] string[]? where = null,
        string? sort = null,
        string? search = null,
        string? series = null,
        int page = 1,
        int size = 50
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = RequestOf(workspace, clock, from, to, rows, where);
        if (request is null)
        {
            return refusal!;
        }

        sort ??= ReportRows.UsualSort(request.Rows);
        if (!ReportRows.CanSortBy(sort) || page < 1 || size is < 1 or > MostRowsOnPage)
        {
            return Refusal.Invalid(
                "order-refused",
                $"Rows are ordered by key or one of {string.Join(", ", ReportRows.MeasureNames)}, with - in front for the largest first; a page has 1 to {MostRowsOnPage} rows."
            );
        }

        string[] asked = (measures ?? "").Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        if (!asked.All(m => ReportRows.MeasureNames.Contains(m, StringComparer.OrdinalIgnoreCase)))
        {
            return Refusal.Invalid("measures-refused", $"Figures are {string.Join(", ", ReportRows.MeasureNames)}, separated by commas.");
        }

        bool withVisitors = asked.Length == 0 || asked.Append(sort.TrimStart('-')).Any(ReportRows.IsOfVisitors);
        bool withClicks = asked.Length == 0 || asked.Append(sort.TrimStart('-')).Any(ReportRows.IsOfClicks);
        RowKind? points = series is null
            ? null
            : Points.FirstOrDefault(p => p.ToString()!.Equals(series, StringComparison.OrdinalIgnoreCase));
        if (series is not null && points is null)
        {
            return Refusal.Invalid("series-refused", "A series is by day, week or month.");
        }

        (DateOnly From, DateOnly To)? span = null;
        IReadOnlyList<ComparedCampaign> campaigns = [];
        bool byCampaign = compare?.StartsWith(CampaignComparison.Word, StringComparison.OrdinalIgnoreCase) == true;
        if (!byCampaign && !string.IsNullOrEmpty(compare) && (span = ComparedSpan.Of(compare, request.From, request.To)) is null)
        {
            return Refusal.Invalid(
                "comparison-refused",
                "A report is compared with before, yearBefore, two days such as 2026-01-01,2026-01-31, or campaigns such as campaigns:seed_swap,bulb_sale."
            );
        }

        request = request with { WithVisitors = withVisitors, WithClicks = withClicks, Points = points ?? request.Points };
        var convention = await conventions.ReadAsync(cancel);
        var whole = request;
        if (byCampaign)
        {
            var (found, unknown) = await comparison.SpansAsync(compare![CampaignComparison.Word.Length..], request, convention, cancel);
            if (found is null)
            {
                return unknown!;
            }

            campaigns = found;
            request = campaigns[0].Of(whole);
        }

        var siteNames = await SiteNamesAsync(db, request.Rows, cancel);
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

        var names = NamesOf(request.Rows, read.Plan, siteNames);
        var shown = PageOf(
            others.Count == 0 ? read.Rows : CampaignComparison.Beside(read.Rows, [.. others.Select(o => o.Rows)]),
            read.Plan
        );
        var keys = shown.Rows.SelectMany(r => r.Keys).OfType<string>().ToHashSet(StringComparer.Ordinal);
        string currency = workspace.Currency;
        return new ArrivalsAnswer(
            request.From,
            request.To,
            [.. shown.Rows.Select(RowOf)],
            shown.Found,
            shown.Rest is { } rest ? FigureAnswer.Of(rest, currency, withVisitors: false, read.HasClicks) : null,
            shown.RestRows,
            AnswerOf(read.Total),
            before is null ? null : AnswerOf(before),
            span?.From,
            span?.To,
            read.Days,
            request.Points.ToString().ToLowerInvariant(),
            names.ToDictionary(
                n => n.Key,
                n => (IReadOnlyDictionary<string, string>)n.Value.Where(v => keys.Contains(v.Key)).ToDictionary()
            ),
            [.. read.RevenueElsewhere.Select(r => Money.Of(r.Value, r.Key))],
            read.Total.VisitsWithId < read.Total.Visits,
            read.Total.Visits == 0 ? null : (decimal)read.Total.VisitsWithId / read.Total.Visits,
            read.Lost,
            [.. read.Full.Select(ManyOf)],
            read.Freshness,
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

        ReportPage PageOf(IReadOnlyList<ReportRow> rows, PlanOfVisits known)
        {
            var called = NamesOf(request.Rows, known, siteNames);
            return ReportRows.PageOf(
                rows,
                sort,
                search?.Trim() ?? "",
                key => called.Values.Select(n => n.GetValueOrDefault(key)).FirstOrDefault(n => n is not null),
                page,
                size
            );
        }

        RowAnswer RowOf(ReportRow row) =>
            new(
                row.Keys,
                AnswerOf(row.Figures),
                row.Before is { } earlier ? AnswerOf(earlier) : null,
                row.Beside.Count == 0 ? null : [.. row.Beside.Select(AnswerOf)],
                read.Lines.TryGetValue(new RowKey(row.Keys), out var line)
                    ? [.. read.Days.Select(d => line.GetValueOrDefault(d.Day))]
                    : null
            );

        FigureAnswer AnswerOf(Figures figures) => FigureAnswer.Of(figures, currency, withVisitors, read.HasClicks);
    }

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
            _ => new ManyValues("tag", key),
        };

    /// <summary>What sites are called, by id; empty where no rows are made by them.</summary>
    private static async Task<Dictionary<string, string>> SiteNamesAsync(
        BeaconDb db,
        IReadOnlyList<RowField> rows,
        CancellationToken cancel
    ) =>
        rows.Any(r => r.Kind == RowKind.Site)
            ? (await db.Sites.AsNoTracking().Include(s => s.Hosts).ToListAsync(cancel)).ToDictionary(
                s => s.Id.ToString(),
                s => s.Hosts.Select(h => h.Host).Order(StringComparer.Ordinal).FirstOrDefault() ?? ""
            )
            : [];

    /// <summary>What campaigns, links and sites are called, by field and key, where rows are made by them.</summary>
    private static Dictionary<string, Dictionary<string, string>> NamesOf(
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

    /// <summary>The links the visits of a row came by, most visits first and at most 12; <paramref name="where"/> names the row.</summary>
    private static async Task<Outcome<List<ArrivalLinkAnswer>>> LinksAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        [FromQuery] string[]? where = null
    )
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var (request, refusal) = RequestOf(workspace, clock, from, to, "", where);
        if (request is null)
        {
            return refusal!;
        }

        var found = await arrivals.LinksAsync(request, await conventions.ReadAsync(cancel), MostLinks, cancel);
        var ids = found.Select(f => f.LinkId).ToList();
        var links = await db
            .Links.AsNoTracking()
            .Where(l => ids.Contains(l.Id))
            .Select(l => new
            {
                l.Id,
                l.Title,
                l.Url,
            })
            .ToDictionaryAsync(l => l.Id, cancel);
        return found
            .Where(f => links.ContainsKey(f.LinkId))
            .Select(f => new ArrivalLinkAnswer(f.LinkId, links[f.LinkId].Title ?? links[f.LinkId].Url, f.Visits))
            .ToList();
    }

    internal static Outcome<ArrivalsRequest> RequestOf(
        Workspace workspace,
        TimeProvider clock,
        DateOnly? from,
        DateOnly? to,
        string rows,
        string[]? where
    )
    {
        var today = WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone);
        var last = to ?? today;
        var first = from ?? last.AddDays(-29);
        if (first > last || last.DayNumber - first.DayNumber > LongestRange)
        {
            return Refusal.Invalid("range-refused", "The range ends before it begins, or is longer than ten years; choose other days.");
        }

        var fields = rows.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(RowField.Parse)
            .ToList();
        if (fields.Count > MostLevels || fields.Contains(null))
        {
            return Refusal.Invalid(
                "rows-refused",
                $"Rows are up to {MostLevels} of {string.Join(", ", RowField.AllNames)}, separated by commas."
            );
        }

        var conditions = (where ?? []).Select(RowCondition.Parse).ToList();
        if (conditions.Count > MostConditions || conditions.Contains(null))
        {
            return Refusal.Invalid(
                "where-refused",
                $"A condition is a field, a test and a value, such as source:is:the_trellis; tests are is, not, contains and in. There are at most {MostConditions}."
            );
        }

        return new ArrivalsRequest(
            workspace.Id,
            workspace.Currency,
            first,
            last,
            [.. fields.OfType<RowField>()],
            RowCondition.Gathered(conditions.OfType<RowCondition>())
        );
    }
}
