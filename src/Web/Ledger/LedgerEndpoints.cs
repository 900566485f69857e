using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Every link that was made, its code, and the hosts that wait for an owner.</summary>
public static class LedgerEndpoints
{
    private const int PageSize = 50;
    private const int LargestPage = 500;
    private const int WrittenAtOnce = 1_000;
    private const int MostExported = 100_000;

    public static void MapLedger(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Ledger");
        group.MapGet("/links", ListAsync).WithName("ListLinks").WithSummary("Lists links of the Ledger.").For(Caller.Readers);
        group
            .MapGet("/links.csv", CsvAsync)
            .WithName("ReadLedgerCsv")
            .WithSummary("Gives the Ledger as CSV.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: "text/csv");
        group
            .MapGet("/links.xlsx", XlsxAsync)
            .WithName("ReadLedgerWorkbook")
            .WithSummary("Gives the Ledger as a workbook.")
            .For(Caller.Readers)
            .Produces(StatusCodes.Status200OK, contentType: ConventionSheet.ContentType);
        group
            .MapGet("/links/ids", IdsAsync)
            .WithName("ListLinkIds")
            .WithSummary("Lists the ids of all links that are found.")
            .For(Caller.Readers);
        group
            .MapPost("/links/bulk", ChangeManyAsync)
            .WithName("ChangeLinks")
            .WithSummary("Changes many links in one stroke; can count first.")
            .For(Caller.Builders);
        group
            .MapPost("/links/bulk/{id:guid}/undo", UndoManyAsync)
            .WithName("UndoChange")
            .WithSummary("Takes a change of many links back.")
            .For(Caller.Builders);
        group.MapGet("/links/{id:guid}", OneAsync).WithName("ReadLink").WithSummary("Reads a link.").For(Caller.Readers);
        group
            .MapPut("/links/{id:guid}/naming", NameAsync)
            .WithName("NameLink")
            .WithSummary("Changes a link's title, note and topics.")
            .For(Caller.Builders);
        group
            .MapGet("/links/{id:guid}/history", HistoryAsync)
            .WithName("ReadLinkHistory")
            .WithSummary("Reads what happened to a link.")
            .For(Caller.Readers);
        group
            .MapGet("/links/groups", GroupsAsync)
            .WithName("GroupLinks")
            .WithSummary("Groups links by campaign, placement, channel, topic or state.")
            .For(Caller.Readers);
        group
            .MapGet("/links/topics", TopicsAsync)
            .WithName("ListTopics")
            .WithSummary("Lists topics, the most used first.")
            .For(Caller.Readers);
        group
            .MapGet("/links/{id:guid}/route", RouteAsync)
            .WithName("ReadRoute")
            .WithSummary("Reads where a link's short links lead, and until when.")
            .For(Caller.Readers);
        group
            .MapPut("/links/{id:guid}/route", ChangeRouteAsync)
            .WithName("ChangeRoute")
            .WithSummary("Changes where a link's short links lead.")
            .For(Caller.Builders);
        group
            .MapGet("/hosts", HostsAsync)
            .WithName("ListHosts")
            .WithSummary("Lists hosts that links lead to and nobody approved yet.")
            .For(Caller.Readers);
        group
            .MapPost("/hosts/{id:guid}/approve", ApproveAsync)
            .WithName("ApproveHost")
            .WithSummary("Approves a host, so that its links work.")
            .For(Caller.Owner);
    }

    private static async Task<Outcome<LedgerAnswer>> ListAsync(
        [AsParameters] LedgerQuery query,
        BeaconDb db,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel,
        int page = 1,
        int size = PageSize
    )
    {
        page = Math.Clamp(page, 1, 1_000_000);
        size = Math.Clamp(size, 1, LargestPage);
        var now = clock.GetUtcNow();
        var (links, total) = await query.FindAsync(db, now, counted: true, cancel);
        if (FigureOf(query.Order) is not null)
        {
            return total > LedgerQuery.Many
                ? Refusal.Unacceptable(
                    "order-many",
                    $"More than {LedgerQuery.Many:N0} links can’t be sorted by this figure; narrow them down first."
                )
                : await AnswerAsync(
                    ByFigure(await RowsAsync(db, links, clicks, visits, conventions, clock, cancel), query.Order)
                        .Skip((page - 1) * size)
                        .Take(size)
                        .ToList()
                );
        }

        return await AnswerAsync(await RowsAsync(db, links.Skip((page - 1) * size).Take(size), clicks, visits, conventions, clock, cancel));

        async Task<LedgerAnswer> AnswerAsync(List<LedgerRow> rows)
        {
            var waiting = await db
                .ApprovedHosts.Where(h => !h.Approved)
                .OrderBy(h => h.AskedAt)
                .Select(h => new HostAnswer(h.Id, h.Host, h.Approved, h.AskedBy, h.AskedAt))
                .ToListAsync(cancel);
            return new LedgerAnswer(rows, Math.Min(total, LedgerQuery.Many), total > LedgerQuery.Many, page, size, waiting);
        }
    }

    /// <summary>Links in the order of a figure: those without it come last either way, newer ones first among equals; as they are where it is none.</summary>
    private static List<LedgerRow> ByFigure(List<LedgerRow> rows, string? order)
    {
        if (FigureOf(order) is not { } of)
        {
            return rows;
        }

        var known = rows.Where(r => of(r) is not null);
        return
        [
            .. (order!.StartsWith('-') ? known.OrderByDescending(of) : known.OrderBy(of)).ThenByDescending(r => r.CreatedAt),
            .. rows.Where(r => of(r) is null),
        ];
    }

    /// <summary>The figure an order goes by; null where links are ordered by what is kept with them.</summary>
    private static Func<LedgerRow, decimal?>? FigureOf(string? order) =>
        order?.Trim().TrimStart('-') switch
        {
            "clicks" => r => r.Clicks,
            "scans" => r => r.Scans,
            "unique" => r => r.Unique,
            "visits" => r => r.Visits,
            "conversions" => r => r.Conversions,
            "revenue" => r => decimal.Parse(r.Revenue.Amount, CultureInfo.InvariantCulture),
            "cost" => r => r.Cost is { } cost ? decimal.Parse(cost.Amount, CultureInfo.InvariantCulture) : null,
            _ => null,
        };

    private static async Task<IResult> CsvAsync(
        [AsParameters] LedgerQuery query,
        BeaconDb db,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        Results.Bytes(OwnTable.Csv(await LinesAsync(query, db, clicks, visits, conventions, clock, cancel)), OwnTable.CsvType, "links.csv");

    private static async Task<IResult> XlsxAsync(
        [AsParameters] LedgerQuery query,
        BeaconDb db,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        Results.Bytes(
            OwnTable.Xlsx(await LinesAsync(query, db, clicks, visits, conventions, clock, cancel), "Links"),
            ConventionSheet.ContentType,
            "links.xlsx"
        );

    /// <summary>The links as rows of a table, headings first, read in stretches.</summary>
    private static async Task<List<IReadOnlyList<OwnCell>>> LinesAsync(
        LedgerQuery query,
        BeaconDb db,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var convention = await conventions.ReadAsync(cancel);
        var found = new List<LedgerRow>();
        for (int skip = 0; skip < MostExported; skip += WrittenAtOnce)
        {
            var rows = await RowsAsync(
                db,
                (await query.OfAsync(db, clock.GetUtcNow(), cancel)).Skip(skip).Take(WrittenAtOnce),
                clicks,
                visits,
                conventions,
                clock,
                cancel
            );
            found.AddRange(rows);
            if (rows.Count < WrittenAtOnce)
            {
                break;
            }
        }

        return [LedgerTable.Headings(convention), .. ByFigure(found, query.Order).Select(r => LedgerTable.Cells(r, convention))];
    }

    /// <summary>Ids of the links a search finds, to be chosen together.</summary>
    private static async Task<Ok<List<Guid>>> IdsAsync(
        [AsParameters] LedgerQuery query,
        BeaconDb db,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        TypedResults.Ok(
            await (await query.OfAsync(db, clock.GetUtcNow(), cancel)).Take(BulkLinkChange.Most).Select(l => l.Id).ToListAsync(cancel)
        );

    private static async Task<Outcome<ManyLinksAnswer>> ChangeManyAsync(
        BulkLinkChangeRequest change,
        BulkLinkChange many,
        CancellationToken cancel
    ) => await many.ChangeAsync(change, cancel);

    private static async Task<Outcome<ManyLinksAnswer>> UndoManyAsync(Guid id, BulkLinkChange many, CancellationToken cancel) =>
        await many.UndoAsync(id, cancel) is { } changed ? new ManyLinksAnswer(changed, null, [], []) : Refusal.NotFound("change");

    private static async Task<Refusal?> NameAsync(Guid id, LinkNaming naming, LinkMetadataStore filings, CancellationToken cancel) =>
        await filings.ChangeAsync(id, naming, cancel) is { } refusal ? refusal : null;

    private static async Task<Outcome<List<LinkEvent>>> HistoryAsync(Guid id, LinkHistory history, CancellationToken cancel) =>
        await history.ReadAsync(id, cancel) is { } events ? events : Refusal.NotFound("link");

    private static async Task<Outcome<List<LinkGroup>>> GroupsAsync(
        [AsParameters] LedgerQuery query,
        string by,
        LinkGroups groups,
        CancellationToken cancel
    ) => await groups.ReadAsync(query, by, cancel);

    private static async Task<Ok<List<LinkGroup>>> TopicsAsync(LinkGroups groups, CancellationToken cancel) =>
        TypedResults.Ok((await groups.ReadAsync(new LedgerQuery { State = "all" }, "topic", cancel)).Value!);

    private static async Task<Outcome<LedgerRow>> OneAsync(
        Guid id,
        BeaconDb db,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        (await RowsAsync(db, db.Links.Where(l => l.Id == id), clicks, visits, conventions, clock, cancel)) is [var row]
            ? row
            : Refusal.NotFound("link");

    private static async Task<Outcome<RouteAnswer>> RouteAsync(Guid id, LinkRoutes routes, CancellationToken cancel) =>
        await routes.ReadAsync(id, cancel) is { } route ? route : Refusal.NotFound("short link");

    private static async Task<Outcome<RouteAnswer>> ChangeRouteAsync(
        Guid id,
        RouteChange change,
        LinkRoutes routes,
        CancellationToken cancel
    ) =>
        await routes.ChangeAsync(id, change, cancel) is { } refusal
            ? refusal
            : Outcome.Found(await routes.ReadAsync(id, cancel), "short link");

    private static async Task<List<LedgerRow>> RowsAsync(
        BeaconDb db,
        IQueryable<Link> links,
        LinkClicksReader clicks,
        LinkVisitsReader visits,
        ConventionReader conventions,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetUtcNow();
        var rows = await links
            .AsNoTracking()
            .Include(l => l.Campaign)
            .Include(l => l.Placement)
            .Include(l => l.ShortLinks)
                .ThenInclude(s => s.ShortDomain)
            .AsSplitQuery()
            .ToListAsync(cancel);
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        string currency = workspace.Currency;
        var today = WorkspaceDay.At(now, workspace.TimeZone);
        var shared = await SharedAsync(db, rows, cancel);
        Guid[] ids = [.. rows.Select(r => r.Id)];
        var counts = await clicks.ReadAsync(db.CurrentWorkspaceId!.Value, ids, cancel);
        var convention = await conventions.ReadAsync(cancel);
        var arrived = await visits.ReadAsync(db.CurrentWorkspaceId!.Value, currency, ids, convention, cancel);
        var tags = SealedLinks.TagsOf(convention);
        return
        [
            .. rows.Select(row =>
            {
                var count = counts.GetValueOrDefault(row.Id, LinkClicks.None);
                var came = FiguresOf(arrived.GetValueOrDefault(row.Id, LinkVisits.None));
                return new LedgerRow(
                    row.Id,
                    row.Title,
                    row.Url,
                    LinkStrip.Of(row.Url, tags, convention.Settings with { Style = row.Style }),
                    [
                        .. row
                            .Values.OrderBy(v => convention.PlaceOf(v.Key))
                            .Select(v => new LinkValue(v.Key, convention.Find(v.Key)?.Label ?? v.Key, v.Value)),
                    ],
                    row.Destination,
                    row.CampaignId,
                    row.Campaign?.Name,
                    row.PlacementId,
                    row.Placement?.Name,
                    row.Placement?.Publisher,
                    row.Placement?.Channel,
                    StateOf(row, now),
                    UrlOf(row, ShortLinkUse.Text),
                    UrlOf(row, ShortLinkUse.Code),
                    PlaceholdersBehind.UrlToCopy(
                        row.Url,
                        UrlOf(row, ShortLinkUse.Text),
                        row.Carries,
                        convention.Settings.Live | PlaceholderShapes.MergeTags
                    ),
                    row.Carries,
                    row.IsWaiting,
                    count.Clicks,
                    count.Scans,
                    count.Unique,
                    count.Others,
                    count.LastUsedAt,
                    CostOf(row) is { } cost ? Money.Of(cost, workspace.Currency) : null,
                    came.Visits,
                    came.Visitors,
                    came.BounceRate,
                    came.Conversions,
                    came.ConversionRate,
                    Money.Of(came.Revenue, currency),
                    row.Topics,
                    [
                        .. LinkPipeline
                            .Judge(convention, row.Values, row.Placement?.Channel, UrlBehindShortLink(row))
                            .Notices.Where(n => n.Severity != Severity.Info),
                    ],
                    row.CreatedBy,
                    row.CreatedAt
                );

                decimal? CostOf(Link link) =>
                    PlacementCost.OfLink(
                        link.Placement?.CostPerClick,
                        link.CampaignId is null ? null : link.Placement?.FixedCost,
                        link.ShortLinks.Count > 0 ? count.Clicks + count.Scans : came.Visits,
                        shared.GetValueOrDefault((link.CampaignId, link.PlacementId), 1),
                        link.Campaign?.StartsOn,
                        link.Campaign?.EndsOn,
                        today
                    );
            }),
        ];
    }

    /// <summary>How many links share the fixed cost of a placement in a campaign, for the links at hand.</summary>
    private static async Task<Dictionary<(Guid? Campaign, Guid? Placement), int>> SharedAsync(
        BeaconDb db,
        List<Link> rows,
        CancellationToken cancel
    )
    {
        var paid = rows.Where(r => r.CampaignId is not null && r.Placement?.FixedCost is not null).ToList();
        if (paid.Count == 0)
        {
            return [];
        }

        List<Guid?> campaigns = [.. paid.Select(r => r.CampaignId).Distinct()],
            placements = [.. paid.Select(r => r.PlacementId).Distinct()];
        var counts = await db
            .Links.Where(l => campaigns.Contains(l.CampaignId) && placements.Contains(l.PlacementId))
            .GroupBy(l => new { l.CampaignId, l.PlacementId })
            .Select(g => new
            {
                g.Key.CampaignId,
                g.Key.PlacementId,
                Links = g.Count(),
            })
            .ToListAsync(cancel);
        return counts.ToDictionary(c => (c.CampaignId, c.PlacementId), c => c.Links);
    }

    private static Figures FiguresOf(LinkVisits visits) =>
        Figures.Zero with
        {
            Visits = visits.Visits,
            Visitors = visits.Visitors,
            Bounces = visits.Bounces,
            ConvertingVisits = visits.ConvertingVisits,
            Conversions = visits.Conversions,
            Revenue = visits.Revenue,
        };

    private static LinkState StateOf(Link link, DateTimeOffset now) =>
        LinkStates.Of(link.RetiredAt is not null, link.ShortLinks.Count > 0, link.IsWaiting, link.Paused, link.EndsAt, link.UsesLeft, now);

    private static string? UrlBehindShortLink(Link link) =>
        link.ShortLinks.Count > 0 && link.Carries != CarriedParameters.Overwrite ? link.Url : null;

    private static string? UrlOf(Link link, ShortLinkUse use) =>
        link.ShortLinks.FirstOrDefault(s => s.Use == use) is { } found ? found.ShortDomain!.UrlOf(found.Slug) : null;

    private static async Task<Ok<List<HostAnswer>>> HostsAsync(BeaconDb db, CancellationToken cancel) =>
        TypedResults.Ok(
            await db
                .ApprovedHosts.OrderBy(h => h.Host)
                .Select(h => new HostAnswer(h.Id, h.Host, h.Approved, h.AskedBy, h.AskedAt))
                .ToListAsync(cancel)
        );

    private static async Task<Refusal?> ApproveAsync(
        Guid id,
        HttpContext context,
        BeaconDb db,
        HostApproval approval,
        CancellationToken cancel
    ) => await approval.ApproveAsync(id, BeaconClaims.NameOf(context.User), cancel) ? null : Refusal.NotFound("host");
}
