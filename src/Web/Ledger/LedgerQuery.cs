using Microsoft.AspNetCore.Mvc;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Web.Hosting;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Which links of the Ledger are wanted, and in which order.</summary>
public sealed record LedgerQuery
{
    /// <summary>Words in any order, each a part of title, address, slug, campaign, placement, publisher or maker, or a topic.</summary>
    [FromQuery(Name = "search")]
    public string? Search { get; init; }

    /// <summary>Links of this campaign.</summary>
    [FromQuery(Name = "campaign")]
    public Guid? Campaign { get; init; }

    /// <summary>Links of this placement.</summary>
    [FromQuery(Name = "placement")]
    public Guid? Placement { get; init; }

    /// <summary>Links of placements of this channel.</summary>
    [FromQuery(Name = "channel")]
    public string? Channel { get; init; }

    /// <summary><c>live</c>, <c>paused</c>, <c>ended</c>, <c>waiting</c>, <c>unshortened</c>, <c>retired</c> or <c>all</c>; everything that is not retired when left out.</summary>
    [FromQuery(Name = "state")]
    public string? State { get; init; }

    /// <summary>
    /// <c>made</c>, <c>title</c>, <c>uses</c> or <c>used</c>, or, among at most 10,000 links, <c>clicks</c>, <c>scans</c>, <c>unique</c>, <c>visits</c>,
    /// <c>conversions</c>, <c>revenue</c> or <c>cost</c>; a <c>-</c> in front turns it round. Newest first when left out.
    /// </summary>
    [FromQuery(Name = "order")]
    public string? Order { get; init; }

    /// <summary>Links with this topic.</summary>
    [FromQuery(Name = "topic")]
    public string? Topic { get; init; }

    /// <summary>The first day of visits the links are behind; 30 days in all where only conditions are given.</summary>
    [FromQuery(Name = "visitsFrom")]
    public DateOnly? VisitsFrom { get; init; }

    /// <summary>The last day of visits the links are behind.</summary>
    [FromQuery(Name = "visitsTo")]
    public DateOnly? VisitsTo { get; init; }

    /// <summary>Conditions of visits the links are behind, each a field, a test and a value.</summary>
    [FromQuery(Name = "visitsWhere")]
    public string[]? VisitsWhere { get; init; }

    /// <summary>The only links that are looked at, at most <see cref="Many"/>; null for all.</summary>
    internal IReadOnlyList<Guid>? Among { get; init; }

    /// <summary>Links that are counted; nobody leafs further, and counting costs more than a page.</summary>
    public const int Many = 10_000;

    /// <summary>The links in their order.</summary>
    public async Task<IQueryable<Link>> OfAsync(BeaconDb db, DateTimeOffset now, CancellationToken cancel) =>
        (await FindAsync(db, now, counted: false, cancel)).Links;

    /// <summary>The links in their order, and how many there are, counted up to one more than <see cref="Many"/>.</summary>
    /// <param name="db">The database.</param>
    /// <param name="now">The moment ends are compared with.</param>
    /// <param name="counted">False where nobody wants to know how many.</param>
    /// <param name="cancel">Gives up.</param>
    public async Task<(IQueryable<Link> Links, int Total)> FindAsync(
        BeaconDb db,
        DateTimeOffset now,
        bool counted,
        CancellationToken cancel
    )
    {
        var narrowed = await NarrowedAsync(db, now, cancel);
        var (links, total) = TypedText.OrNull(Search) is { } search
            ? await SearchedAsync(db, narrowed, search, cancel)
            : (narrowed, counted ? await narrowed.Take(Many + 1).CountAsync(cancel) : 0);
        return (Ordered(links), total);
    }

    private IOrderedQueryable<Link> Ordered(IQueryable<Link> links)
    {
        string order = TypedText.OrNull(Order) ?? "-made";
        return order.TrimStart('-') switch
        {
            // Indexes are read from either end; the id settles equal ones, so that no page shows a link twice.
            "title" => order[0] == '-'
                ? links.OrderByDescending(l => l.Title).ThenByDescending(l => l.Id)
                : links.OrderBy(l => l.Title).ThenBy(l => l.Id),
            "uses" => order[0] == '-'
                ? links.OrderByDescending(l => l.Uses).ThenByDescending(l => l.Id)
                : links.OrderBy(l => l.Uses).ThenBy(l => l.Id),
            "used" => order[0] == '-'
                ? links.Where(l => l.LastUsedAt != null).OrderByDescending(l => l.LastUsedAt).ThenByDescending(l => l.Id)
                : links.OrderBy(l => l.LastUsedAt).ThenBy(l => l.Id),
            _ => order[0] == '-'
                ? links.OrderByDescending(l => l.CreatedAt).ThenByDescending(l => l.Id)
                : links.OrderBy(l => l.CreatedAt).ThenBy(l => l.Id),
        };
    }

    /// <summary>The links, in no order.</summary>
    public async Task<IQueryable<Link>> FilteredAsync(BeaconDb db, DateTimeOffset now, CancellationToken cancel)
    {
        var links = await NarrowedAsync(db, now, cancel);
        return TypedText.OrNull(Search) is { } search ? (await LedgerSearch.ReadAsync(db, search, Many, cancel)).Among(links) : links;
    }

    /// <summary>Whether links must be looked at one by one to know which are wanted.</summary>
    public bool NeedsEachLink => Among is not null || TypedText.OrNull(Search) is not null || TypedText.OrNull(Topic) is not null;

    /// <summary>The wanted ones of links that were counted together.</summary>
    public async Task<IQueryable<CountedLinks>> OfTotalsAsync(BeaconDb db, IQueryable<CountedLinks> counted, CancellationToken cancel)
    {
        counted = Campaign is { } campaign ? counted.Where(c => c.CampaignId == campaign) : counted;
        counted = Placement is { } placement ? counted.Where(c => c.PlacementId == placement) : counted;
        if (TypedText.OrNull(Channel) is { } channel)
        {
            var placements = await db.Placements.Where(p => p.Channel == channel).Select(p => (Guid?)p.Id).ToListAsync(cancel);
            counted = counted.Where(c => placements.Contains(c.PlacementId));
        }

        string state = State?.Trim().ToLowerInvariant() ?? "";
        return state switch
        {
            "all" => counted,
            "retired" or "waiting" or "unshortened" or "paused" or "ended" or "live" => counted.Where(c => c.State == state),
            _ => counted.Where(c => c.State != CountedLinks.Retired),
        };
    }

    /// <summary>The links without the search.</summary>
    private async Task<IQueryable<Link>> NarrowedAsync(BeaconDb db, DateTimeOffset now, CancellationToken cancel)
    {
        var links = db.Links.AsQueryable();
        links = Among is { } among ? links.Where(l => among.Contains(l.Id)) : links;
        links = Campaign is { } campaign ? links.Where(l => l.CampaignId == campaign) : links;
        links = Placement is { } placement ? links.Where(l => l.PlacementId == placement) : links;
        if (TypedText.OrNull(Channel) is { } channel)
        {
            // Known before links are looked at, a channel's placements lead to them by their index.
            var placements = await db.Placements.Where(p => p.Channel == channel).Select(p => (Guid?)p.Id).ToListAsync(cancel);
            links = links.Where(l => placements.Contains(l.PlacementId));
        }

        if (TypedText.OrNull(Topic) is { } topic)
        {
            string[] wanted = [topic.ToLowerInvariant()];
            links = links.Where(l => l.Topics != Array.Empty<string>() && wanted.All(w => l.Topics.Contains(w)));
        }

        links = State?.Trim().ToLowerInvariant() switch
        {
            "all" => links,
            "retired" => links.Where(l => l.RetiredAt != null),
            "waiting" => links.Where(l => l.RetiredAt == null && l.IsWaiting && !l.IsUnshortened),
            "unshortened" => links.Where(l => l.RetiredAt == null && l.IsUnshortened),
            "paused" => links.Where(l =>
                l.RetiredAt == null
                && l.Paused
                && !l.IsWaiting
                && !l.IsUnshortened
                && (l.EndsAt == null || l.EndsAt > now)
                && (l.UsesLeft == null || l.UsesLeft > 0)
            ),
            "ended" => links.Where(l => l.RetiredAt == null && !l.IsWaiting && !l.IsUnshortened && (l.EndsAt <= now || l.UsesLeft <= 0)),
            "live" => links.Where(l =>
                l.RetiredAt == null
                && !l.Paused
                && !l.IsWaiting
                && !l.IsUnshortened
                && (l.EndsAt == null || l.EndsAt > now)
                && (l.UsesLeft == null || l.UsesLeft > 0)
            ),
            _ => links.Where(l => l.RetiredAt == null),
        };
        return links;
    }

    /// <summary>
    /// What a search finds. Where that is much, going through all in the order asked for comes upon a page of it sooner than
    /// finding and ordering every one, and counting stops; where it is not, it is looked up by its ids.
    /// </summary>
    private static async Task<(IQueryable<Link> Links, int Total)> SearchedAsync(
        BeaconDb db,
        IQueryable<Link> narrowed,
        string search,
        CancellationToken cancel
    )
    {
        var found = (await LedgerSearch.ReadAsync(db, search, Many, cancel)).Among(narrowed);
        var ids = await found.Select(l => l.Id).Take(Many + 1).ToListAsync(cancel);
        return (ids.Count > Many ? found : narrowed.Where(l => ids.Contains(l.Id)), ids.Count);
    }
}
