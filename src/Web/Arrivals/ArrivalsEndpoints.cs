using Microsoft.AspNetCore.Http.HttpResults;
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
    private const int MostRowsOnPage = 500;
    private const int LongestRange = 366 * 10;

    private const int MostLinks = 12;

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
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        string? compare = null,
        string rows = "campaign",
        string? measures = null,
        string[]? where = null,
        string? sort = null,
        string? search = null,
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
        (DateOnly From, DateOnly To)? span = null;
        if (!string.IsNullOrEmpty(compare) && (span = ComparedSpan.Of(compare, request.From, request.To)) is null)
        {
            return Refusal.Invalid(
                "comparison-refused",
                "A report is compared with before, yearBefore, or two days such as 2026-01-01,2026-01-31."
            );
        }

        var (read, before) = await arrivals.CompareAsync(
            request with
            {
                WithVisitors = withVisitors,
            },
            span,
            await conventions.ReadAsync(cancel),
            cancel
        );
        var names = await NamesAsync(db, request.Rows, read.Plan, cancel);
        var shown = ReportRows.PageOf(
            read.Rows,
            sort,
            search?.Trim() ?? "",
            key => names.Values.Select(n => n.GetValueOrDefault(key)).FirstOrDefault(n => n is not null),
            page,
            size
        );
        var keys = shown.Rows.SelectMany(r => r.Keys).OfType<string>().ToHashSet(StringComparer.Ordinal);
        string currency = workspace.Currency;
        return new ArrivalsAnswer(
            request.From,
            request.To,
            [.. shown.Rows.Select(r => new RowAnswer(r.Keys, AnswerOf(r.Figures), r.Before is { } earlier ? AnswerOf(earlier) : null))],
            shown.Found,
            shown.Rest is { } rest ? FigureAnswer.Of(rest, currency, withVisitors: false) : null,
            shown.RestRows,
            AnswerOf(read.Total),
            before is null ? null : AnswerOf(before),
            span?.From,
            span?.To,
            read.Days,
            request.ByMonth ? "month" : "day",
            names.ToDictionary(
                n => n.Key,
                n => (IReadOnlyDictionary<string, string>)n.Value.Where(v => keys.Contains(v.Key)).ToDictionary()
            ),
            [.. read.RevenueElsewhere.Select(r => Money.Of(r.Value, r.Key))],
            read.Total.VisitsWithId < read.Total.Visits,
            read.Total.Visits == 0 ? null : (decimal)read.Total.VisitsWithId / read.Total.Visits,
            read.Lost,
            [.. read.Full.Select(ManyOf)],
            read.Freshness
        );

        FigureAnswer AnswerOf(Figures figures) => FigureAnswer.Of(figures, currency, withVisitors);
    }

    private static ManyValues ManyOf(string key) =>
        key switch
        {
            ValueBook.Keys => new ManyValues("keys", null),
            ValueBook.Referrers => new ManyValues("referrers", null),
            ValueBook.Pages => new ManyValues("pages", null),
            ValueBook.Models => new ManyValues("models", null),
            ValueBook.Systems => new ManyValues("systems", null),
            ValueBook.Browsers => new ManyValues("browsers", null),
            _ => new ManyValues("tag", key),
        };

    /// <summary>What campaigns, links and sites are called, by field and key, where rows are made by them.</summary>
    private static async Task<Dictionary<string, Dictionary<string, string>>> NamesAsync(
        BeaconDb db,
        IReadOnlyList<RowField> rows,
        PlanOfVisits plan,
        CancellationToken cancel
    )
    {
        var names = new Dictionary<string, Dictionary<string, string>>();
        foreach (var field in rows)
        {
            switch (field.Kind)
            {
                case RowKind.Campaign:
                    names[field.ToString()] = plan.Campaigns.GroupBy(c => c.Value).ToDictionary(g => g.Key, g => g.First().Name);
                    break;
                case RowKind.Link:
                    names[field.ToString()] = plan.Links.ToDictionary(l => l.Id.ToString(), l => l.Title);
                    break;
                case RowKind.Site:
                    names[field.ToString()] = (await db.Sites.AsNoTracking().Include(s => s.Hosts).ToListAsync(cancel)).ToDictionary(
                        s => s.Id.ToString(),
                        s => s.Hosts.Select(h => h.Host).Order(StringComparer.Ordinal).FirstOrDefault() ?? ""
                    );
                    break;
                default:
                    break;
            }
        }

        return names;
    }

    /// <summary>The links the visits of a row came by, most visits first and at most 12; <paramref name="where"/> names the row.</summary>
    private static async Task<Outcome<List<ArrivalLinkAnswer>>> LinksAsync(
        BeaconDb db,
        ConventionReader conventions,
        ArrivalsReader arrivals,
        TimeProvider clock,
        CancellationToken cancel,
        DateOnly? from = null,
        DateOnly? to = null,
        string[]? where = null
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
