using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Core.Reports;
using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Reports;
using PreciseBeacon.Data.Traffic;
using PreciseBeacon.Web.Arrivals;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Reads links with everything the Ledger says of them: what was counted, what they cost, what the convention of today says.</summary>
public sealed class LedgerReader(
    BeaconDb db,
    LinkClicksReader clicks,
    LinkVisitsReader visits,
    LinkCostReader costs,
    ConventionReader conventions,
    TimeProvider clock
)
{
    /// <summary>What the Ledger says of links, in their order.</summary>
    /// <param name="links">Of the workspace, and few enough to hold.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<List<LedgerRow>> ReadAsync(IQueryable<Link> links, CancellationToken cancel)
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
        Guid[] ids = [.. rows.Select(r => r.Id)];
        var counts = await clicks.ReadAsync(db.CurrentWorkspaceId!.Value, ids, cancel);
        var convention = await conventions.ReadAsync(cancel);
        var arrived = await visits.ReadAsync(db.CurrentWorkspaceId!.Value, currency, ids, convention, cancel);
        var cost = await costs.ReadAsync(db.CurrentWorkspaceId!.Value, currency, ids, today, convention, cancel);
        var tags = SealedLinks.TagsOf(convention);
        return
        [
            .. rows.Select(row =>
            {
                var count = counts.GetValueOrDefault(row.Id, LinkClicks.None);
                var came = FiguresOf(arrived.GetValueOrDefault(row.Id, Data.Traffic.LinkVisits.None));
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
                    cost.TryGetValue(row.Id, out decimal paid) ? Money.Of(paid, currency) : null,
                    came.Visits,
                    came.Visitors,
                    came.BounceRate,
                    (long)came.Conversions,
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
            }),
        ];
    }

    private static Figures FiguresOf(Data.Traffic.LinkVisits visits) =>
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
}
