using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Links that have something in common.</summary>
/// <param name="Key">What the Ledger is narrowed down by to see them; null for those without.</param>
/// <param name="Name">As people read it.</param>
/// <param name="Links">How many.</param>
/// <param name="Uses">Clicks and scans on their short links.</param>
/// <param name="LastUsedAt">The last of them, or null.</param>
public sealed record LinkGroup(string? Key, string Name, int Links, long Uses, DateTimeOffset? LastUsedAt);

/// <summary>The links a search finds, grouped, the largest group first.</summary>
public sealed class LinkGroups(BeaconDb db, TimeProvider clock)
{
    private const int Most = 500;

    /// <summary>Groups them.</summary>
    /// <param name="query">Which links.</param>
    /// <param name="by"><c>campaign</c>, <c>placement</c>, <c>channel</c>, <c>topic</c> or <c>state</c>.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>At most 500 groups; null when they are not grouped like that.</returns>
    public async Task<List<LinkGroup>?> ReadAsync(LedgerQuery query, string by, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var links = await query.FilteredAsync(db, now, cancel);
        switch (by.Trim().ToLowerInvariant())
        {
            case "campaign":
                var campaigns = await db.Campaigns.ToDictionaryAsync(c => c.Id, c => c.Name, cancel);
                return [.. (await ByIdAsync(links.GroupBy(l => l.CampaignId), cancel)).Select(g => Named(g, campaigns, "No campaign"))];
            case "placement":
                var placements = await db.Placements.ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
                return [.. (await ByIdAsync(links.GroupBy(l => l.PlacementId), cancel)).Select(g => Named(g, placements, "No placement"))];
            case "channel":
                // Few placements have each channel, and many links each placement: gathered here instead of joined there.
                var channels = await db.Placements.ToDictionaryAsync(p => p.Id, p => p.Channel, cancel);
                return [.. (await ByIdAsync(links.GroupBy(l => l.PlacementId), cancel))
                    .GroupBy(g => g.Id is { } id ? channels.GetValueOrDefault(id) : null)
                    .Select(g => new LinkGroup(g.Key, g.Key ?? "No channel", g.Sum(x => x.Links), g.Sum(x => x.Uses), g.Max(x => x.LastUsedAt)))
                    .OrderByDescending(g => g.Links)];
            case "topic":
                return await links.Where(l => l.Topics != Array.Empty<string>()).SelectMany(l => l.Topics.Select(t => new { Topic = t, l.Uses, l.LastUsedAt })).GroupBy(t => t.Topic)
                    .OrderByDescending(g => g.Count()).ThenBy(g => g.Key).Take(Most)
                    .Select(g => new LinkGroup(g.Key, g.Key, g.Count(), g.Sum(t => t.Uses), g.Max(t => t.LastUsedAt))).ToListAsync(cancel);
            case "state":
                var waiting = LedgerQuery.Waiting(db);
                return [.. (await links.GroupBy(l =>
                        l.RetiredAt != null ? "retired"
                        : l.IsUnshortened ? "unshortened"
                        : waiting.Contains(l.Id) ? "waiting"
                        : l.EndsAt <= now || l.UsesLeft <= 0 ? "ended"
                        : l.Paused ? "paused" : "live")
                    .Select(g => new LinkGroup(g.Key, g.Key, g.Count(), g.Sum(l => l.Uses), g.Max(l => l.LastUsedAt))).ToListAsync(cancel)).OrderByDescending(g => g.Links)];
            default:
                return null;
        }
    }

    private static Task<List<Counted>> ByIdAsync(IQueryable<IGrouping<Guid?, Link>> groups, CancellationToken cancel) =>
        groups.OrderByDescending(g => g.Count()).ThenBy(g => g.Key).Take(Most).Select(g => new Counted(g.Key, g.Count(), g.Sum(l => l.Uses), g.Max(l => l.LastUsedAt))).ToListAsync(cancel);

    private static LinkGroup Named(Counted group, Dictionary<Guid, string> names, string without) =>
        new(group.Id?.ToString(), group.Id is { } id ? names.GetValueOrDefault(id, without) : without, group.Links, group.Uses, group.LastUsedAt);

    private sealed record Counted(Guid? Id, int Links, long Uses, DateTimeOffset? LastUsedAt);
}
