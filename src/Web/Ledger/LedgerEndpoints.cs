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
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Conventions;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Every link that was made, its code, and the hosts that wait for an owner.</summary>
public static class LedgerEndpoints
{
    private const int PageSize = 50;
    private const int LargestPage = 500;

    public static void MapLedger(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/v1").WithTags("Ledger");
        group.MapGet("/links", ListAsync).WithName("ListLinks").WithSummary("Lists links of the Ledger.").For(Caller.Readers);
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
        [AsParameters] LedgerQuery asked,
        LinksOfVisits behind,
        BeaconDb db,
        LedgerReader ledger,
        TimeProvider clock,
        CancellationToken cancel,
        int page = 1,
        int size = PageSize
    )
    {
        var (query, refusal) = await behind.NarrowAsync(asked, cancel);
        if (query is null)
        {
            return refusal!;
        }

        page = Math.Clamp(page, 1, 1_000_000);
        size = Math.Clamp(size, 1, LargestPage);
        var now = clock.GetUtcNow();
        var (links, total) = await query.FindAsync(db, now, counted: true, cancel);
        if (LedgerOrder.FigureOf(query.Order) is not null)
        {
            return total > LedgerQuery.Many
                ? Refusal.Unacceptable(
                    "order-many",
                    $"More than {LedgerQuery.Many:N0} links can’t be sorted by this figure; narrow them down first."
                )
                : await AnswerAsync(
                    LedgerOrder.ByFigure(await ledger.ReadAsync(links, cancel), query.Order).Skip((page - 1) * size).Take(size).ToList()
                );
        }

        return await AnswerAsync(await ledger.ReadAsync(links.Skip((page - 1) * size).Take(size), cancel));

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

    /// <summary>Ids of the links a search finds, to be chosen together.</summary>
    private static async Task<Outcome<List<Guid>>> IdsAsync(
        [AsParameters] LedgerQuery asked,
        LinksOfVisits behind,
        BeaconDb db,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        var (query, refusal) = await behind.NarrowAsync(asked, cancel);
        return query is null
            ? refusal!
            : await (await query.OfAsync(db, clock.GetUtcNow(), cancel)).Take(BulkLinkChange.Most).Select(l => l.Id).ToListAsync(cancel);
    }

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
        [AsParameters] LedgerQuery asked,
        string by,
        LinksOfVisits behind,
        LinkGroups groups,
        CancellationToken cancel
    )
    {
        var (query, refusal) = await behind.NarrowAsync(asked, cancel);
        return query is null ? refusal! : await groups.ReadAsync(query, by, cancel);
    }

    private static async Task<Ok<List<LinkGroup>>> TopicsAsync(LinkGroups groups, CancellationToken cancel) =>
        TypedResults.Ok((await groups.ReadAsync(new LedgerQuery { State = "all" }, "topic", cancel)).Value!);

    private static async Task<Outcome<LedgerRow>> OneAsync(Guid id, BeaconDb db, LedgerReader ledger, CancellationToken cancel) =>
        await ledger.ReadAsync(db.Links.Where(l => l.Id == id), cancel) is [var row] ? row : Refusal.NotFound("link");

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
