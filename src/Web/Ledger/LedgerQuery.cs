using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Which links of the Ledger are wanted, and in which order.</summary>
/// <param name="Search">A part of title, address or slug.</param>
/// <param name="Campaign">Links of this campaign.</param>
/// <param name="Placement">Links of this placement.</param>
/// <param name="Channel">Links of placements of this channel.</param>
/// <param name="State"><c>live</c>, <c>paused</c>, <c>ended</c>, <c>waiting</c>, <c>unshortened</c>, <c>retired</c> or <c>all</c>; everything that is not retired when left out.</param>
/// <param name="Order"><c>made</c>, <c>title</c>, <c>uses</c> or <c>used</c>; a <c>-</c> in front turns it round. Newest first when left out.</param>
public sealed record LedgerQuery(
    [FromQuery(Name = "search")] string? Search = null,
    [FromQuery(Name = "campaign")] Guid? Campaign = null,
    [FromQuery(Name = "placement")] Guid? Placement = null,
    [FromQuery(Name = "channel")] string? Channel = null,
    [FromQuery(Name = "state")] string? State = null,
    [FromQuery(Name = "order")] string? Order = null)
{
    /// <summary>The links in their order.</summary>
    public async Task<IQueryable<Link>> OfAsync(BeaconDb db, DateTimeOffset now, CancellationToken cancel)
    {
        var links = await FilteredAsync(db, now, cancel);
        string order = TypedText.OrNull(Order) ?? "-made";
        return order.TrimStart('-') switch
        {
            // Indexes are read from either end; the id settles equal ones, so that no page shows a link twice.
            "title" => order[0] == '-' ? links.OrderByDescending(l => l.Title).ThenByDescending(l => l.Id) : links.OrderBy(l => l.Title).ThenBy(l => l.Id),
            "uses" => order[0] == '-' ? links.OrderByDescending(l => l.Uses).ThenByDescending(l => l.Id) : links.OrderBy(l => l.Uses).ThenBy(l => l.Id),
            "used" => order[0] == '-'
                ? links.Where(l => l.LastUsedAt != null).OrderByDescending(l => l.LastUsedAt).ThenByDescending(l => l.Id)
                : links.OrderBy(l => l.LastUsedAt).ThenBy(l => l.Id),
            _ => order[0] == '-' ? links.OrderByDescending(l => l.CreatedAt).ThenByDescending(l => l.Id) : links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Id),
        };
    }

    /// <summary>The links, in no order.</summary>
    public async Task<IQueryable<Link>> FilteredAsync(BeaconDb db, DateTimeOffset now, CancellationToken cancel)
    {
        var links = db.Links.AsQueryable();
        links = Campaign is { } campaign ? links.Where(l => l.CampaignId == campaign) : links;
        links = Placement is { } placement ? links.Where(l => l.PlacementId == placement) : links;
        if (TypedText.OrNull(Channel) is { } channel)
        {
            // Known before links are looked at, a channel's placements lead to them by their index.
            var placements = await db.Placements.Where(p => p.Channel == channel).Select(p => (Guid?)p.Id).ToListAsync(cancel);
            links = links.Where(l => placements.Contains(l.PlacementId));
        }

        links = State?.Trim().ToLowerInvariant() switch
        {
            "all" => links,
            "retired" => links.Where(l => l.RetiredAt != null),
            "waiting" => links.Where(l => l.RetiredAt == null && l.ShortLinks.Any(s => s.State == ShortLinkState.Waiting)),
            "unshortened" => links.Where(l => l.RetiredAt == null && l.ShortLinks.Count == 0),
            "paused" => links.Where(l => l.RetiredAt == null && l.Paused && (l.EndsAt == null || l.EndsAt > now) && (l.UsesLeft == null || l.UsesLeft > 0)),
            "ended" => links.Where(l => l.RetiredAt == null && (l.EndsAt <= now || l.UsesLeft <= 0)),
            "live" => links.Where(l => l.RetiredAt == null && !l.Paused && (l.EndsAt == null || l.EndsAt > now) && (l.UsesLeft == null || l.UsesLeft > 0) && l.ShortLinks.Any(s => s.State == ShortLinkState.Live)),
            _ => links.Where(l => l.RetiredAt == null),
        };
        if (TypedText.OrNull(Search) is not { } search)
        {
            return links;
        }

        // Each side of the union has an index of its own; asked together in one condition, none would be used.
        string pattern = LikePattern.Anywhere(search);
        var found = db.Links.Where(l => EF.Functions.ILike(l.Title!, pattern, LikePattern.Escape) || EF.Functions.ILike(l.Url, pattern, LikePattern.Escape)).Select(l => l.Id)
            .Union(db.ShortLinks.Where(s => EF.Functions.ILike(s.Slug, pattern, LikePattern.Escape)).Select(s => s.LinkId));
        return links.Where(l => found.Contains(l.Id));
    }
}
