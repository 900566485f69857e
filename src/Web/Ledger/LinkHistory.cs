using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Web.ResultsPages;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Something that was done with a link. At most one of the pairs is there.</summary>
/// <param name="At">When.</param>
/// <param name="Who">Name of the person or key.</param>
/// <param name="What">What it was.</param>
/// <param name="Together">It was one of several changed in one go.</param>
/// <param name="FilingBefore">Title, campaign, topics and whether it was archived, before.</param>
/// <param name="FilingAfter">The same after.</param>
/// <param name="RouteBefore">Where its short links led before.</param>
/// <param name="RouteAfter">Where after.</param>
/// <param name="ShortUrl">The short link that was made, or null.</param>
public sealed record LinkEvent(
    DateTimeOffset At,
    string Who,
    LinkEventKind What,
    bool Together = false,
    LinkMetadata? FilingBefore = null,
    LinkMetadata? FilingAfter = null,
    RouteSettings? RouteBefore = null,
    RouteSettings? RouteAfter = null,
    string? ShortUrl = null
);

/// <summary>Everything that was done with a link, newest first.</summary>
public sealed class LinkHistory(BeaconDb db)
{
    private const int Most = 500;
    private static readonly JsonSerializerOptions Kept = new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter() } };

    /// <summary>Reads it; null when there is no such link.</summary>
    public async Task<List<LinkEvent>?> ReadAsync(Guid id, CancellationToken cancel)
    {
        if (
            await db.Links.AsNoTracking().Where(l => l.Id == id).Select(l => new { l.CreatedAt, l.CreatedBy }).SingleOrDefaultAsync(cancel)
            is not { } link
        )
        {
            return null;
        }

        var entries = await db
            .ChangeLog.AsNoTracking()
            .Where(c => c.ThingId == id)
            .OrderByDescending(c => c.At)
            .ThenByDescending(c => c.Id)
            .Take(Most)
            .ToListAsync(cancel);
        List<LinkEvent> events =
        [
            .. entries.Select(e =>
                e.What switch
                {
                    LinkMetadata.What => new LinkEvent(
                        e.At,
                        e.Who,
                        LinkEventKind.Filed,
                        e.ChangeId is not null,
                        FilingBefore: Read<LinkMetadata>(e.Before),
                        FilingAfter: Read<LinkMetadata>(e.After)
                    ),
                    LinkRoutes.What => new LinkEvent(
                        e.At,
                        e.Who,
                        LinkEventKind.Led,
                        e.ChangeId is not null,
                        RouteBefore: Read<RouteSettings>(e.Before),
                        RouteAfter: Read<RouteSettings>(e.After)
                    ),
                    BulkLinkChange.Shortened => new LinkEvent(
                        e.At,
                        e.Who,
                        e.After is null ? LinkEventKind.Unshortened : LinkEventKind.Shortened,
                        e.ChangeId is not null,
                        ShortUrl: e.After is null ? null : JsonDocument.Parse(e.After).RootElement.GetProperty("text").GetString()
                    ),
                    ResultPageStore.What => new LinkEvent(
                        e.At,
                        e.Who,
                        e.After is null ? LinkEventKind.ResultsPageWithdrawn : LinkEventKind.ResultsPageMade
                    ),
                    "link-placed" => new LinkEvent(
                        e.At,
                        e.Who,
                        e.After!.Contains("true", StringComparison.Ordinal) ? LinkEventKind.Placed : LinkEventKind.NotPlaced
                    ),
                    "link-rates" => new LinkEvent(e.At, e.Who, LinkEventKind.Priced),
                    _ => new LinkEvent(e.At, e.Who, LinkEventKind.Other),
                }
            ),
        ];
        events.Add(new LinkEvent(link.CreatedAt, link.CreatedBy, LinkEventKind.Made));
        return [.. events.OrderByDescending(e => e.At)];
    }

    private static T? Read<T>(string? json) => json is null ? default : JsonSerializer.Deserialize<T>(json, Kept);
}

/// <summary>What was done with a link.</summary>
public enum LinkEventKind
{
    Made,

    /// <summary>Its title, campaign, topics or place among the archived was changed.</summary>
    Filed,

    /// <summary>Its short links were led elsewhere, paused or given an end.</summary>
    Led,
    Shortened,
    Unshortened,
    Placed,
    NotPlaced,
    ResultsPageMade,
    ResultsPageWithdrawn,

    /// <summary>It was given rates of its own.</summary>
    Priced,
    Other,
}
