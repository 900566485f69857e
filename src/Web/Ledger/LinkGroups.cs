using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Outcomes;
using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Links that have something in common.</summary>
/// <param name="Key">What the Ledger is narrowed down by to see them; null for those without.</param>
/// <param name="Name">As people read it.</param>
/// <param name="Links">How many.</param>
/// <param name="Uses">Clicks and scans on their short links.</param>
public sealed record LinkGroup(string? Key, string Name, int Links, long Uses);

/// <summary>The links a search finds, grouped, the largest group first.</summary>
public sealed class LinkGroups(BeaconDb db, TimeProvider clock)
{
    private const int Most = 500;

    /// <summary>Groups them.</summary>
    /// <param name="query">Which links.</param>
    /// <param name="by"><c>campaign</c>, <c>placement</c>, <c>channel</c>, <c>topic</c> or <c>state</c>.</param>
    /// <param name="cancel">Gives up.</param>
    /// <returns>At most 500 groups; or why they are not grouped: not like that, or not so many that a search finds.</returns>
    public async Task<Outcome<List<LinkGroup>>> ReadAsync(LedgerQuery query, string by, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        IQueryable<Link>? each = null;
        if (query.NeedsEachLink)
        {
            // Where links must be looked at one by one, it is for as many as are counted too.
            (each, int total) = await (query with { Order = null }).FindAsync(db, now, counted: true, cancel);
            if (total > LedgerQuery.Many)
            {
                return Refusal.Unacceptable(
                    "groups-many",
                    $"More than {LedgerQuery.Many:N0} links were found; narrow the search to group them."
                );
            }
        }

        var counted = each is null ? await query.OfTotalsAsync(db, CountedLinks.All(db, now), cancel) : CountedLinks.Each(each, now);
        return await GroupAsync(by, counted, each ?? await query.FilteredAsync(db, now, cancel), cancel) is { } groups
            ? groups
            : Refusal.Invalid("group-unknown", $"Links can't be grouped by “{by}”; use campaign, placement, channel, topic or state.");
    }

    private async Task<List<LinkGroup>?> GroupAsync(
        string by,
        IQueryable<CountedLinks> counted,
        IQueryable<Link> links,
        CancellationToken cancel
    )
    {
        switch (by.Trim().ToLowerInvariant())
        {
            case "campaign":
                var campaigns = await db.Campaigns.ToDictionaryAsync(c => c.Id, c => c.Name, cancel);
                return [.. (await SumAsync(counted.GroupBy(c => c.CampaignId), cancel)).Select(g => Named(g, campaigns, "No campaign"))];
            case "placement":
                var placements = await db.Placements.ToDictionaryAsync(p => p.Id, p => p.Name, cancel);
                return [.. (await SumAsync(counted.GroupBy(c => c.PlacementId), cancel)).Select(g => Named(g, placements, "No placement"))];
            case "channel":
                // Few placements have each channel, and many links each placement: gathered here instead of joined there.
                var channels = await db.Placements.ToDictionaryAsync(p => p.Id, p => p.Channel, cancel);
                return
                [
                    .. (await SumAsync(counted.GroupBy(c => c.PlacementId), cancel))
                        .GroupBy(g => g.Key is { } id ? channels.GetValueOrDefault(id) : null)
                        .Select(g => new LinkGroup(g.Key, g.Key ?? "No channel", g.Sum(x => x.Links), g.Sum(x => x.Uses)))
                        .OrderByDescending(g => g.Links),
                ];
            case "state":
                return
                [
                    .. (await SumAsync(counted.GroupBy(c => c.State), cancel)).Select(g => new LinkGroup(g.Key, g.Key, g.Links, g.Uses)),
                ];
            case "topic":
                return await links
                    .Where(l => l.Topics != Array.Empty<string>())
                    .SelectMany(l => l.Topics.Select(t => new { Topic = t, l.Uses }))
                    .GroupBy(t => t.Topic)
                    .OrderByDescending(g => g.Count())
                    .ThenBy(g => g.Key)
                    .Take(Most)
                    .Select(g => new LinkGroup(g.Key, g.Key, g.Count(), g.Sum(t => t.Uses)))
                    .ToListAsync(cancel);
            default:
                return null;
        }
    }

    private static async Task<List<Group<TKey>>> SumAsync<TKey>(
        IQueryable<IGrouping<TKey, CountedLinks>> groups,
        CancellationToken cancel
    ) =>
        await groups
            .Select(g => new
            {
                g.Key,
                Links = g.Sum(c => c.Links),
                Uses = g.Sum(c => c.Uses),
            })
            .Where(g => g.Links > 0)
            .OrderByDescending(g => g.Links)
            .ThenBy(g => g.Key)
            .Take(Most)
            .Select(g => new Group<TKey>(g.Key, g.Links, g.Uses))
            .ToListAsync(cancel);

    private static LinkGroup Named(Group<Guid?> group, Dictionary<Guid, string> names, string without) =>
        new(group.Key?.ToString(), group.Key is { } id ? names.GetValueOrDefault(id, without) : without, group.Links, group.Uses);

    private sealed record Group<TKey>(TKey Key, int Links, long Uses);
}
