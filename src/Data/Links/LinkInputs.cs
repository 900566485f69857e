using Microsoft.EntityFrameworkCore;
using PreciseBeacon.Core.Composing;
using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;
using PreciseBeacon.Data.Conventions;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Data.Links;

/// <summary>All that links of a workspace are composed from and judged by.</summary>
/// <param name="Convention">The convention that holds.</param>
/// <param name="Facts">What is known about the outside.</param>
/// <param name="Campaigns">The campaigns, by id or name.</param>
/// <param name="Placements">The placements, by id or name.</param>
public sealed record LinkInputs(Convention Convention, LinkFacts Facts, NamedThings<Campaign> Campaigns, NamedThings<Placement> Placements)
{
    /// <summary>A campaign as the rules know it.</summary>
    public static CampaignChoice? ChoiceOf(Campaign? campaign) =>
        campaign is null
            ? null
            : new CampaignChoice(campaign.Name, campaign.Value, campaign.StartsOn, campaign.EndsOn, campaign.Attributes);

    /// <summary>A placement as the rules know it.</summary>
    public static PlacementChoice? ChoiceOf(Placement? placement) =>
        placement is null
            ? null
            : new PlacementChoice(
                placement.Name,
                placement.Defaults,
                placement.Style,
                placement.Channel,
                placement.ToolWrites,
                placement.Asks
            );
}

/// <summary>Reads what links are made from. A few queries, however many links.</summary>
public sealed class LinkInputsReader(BeaconDb db, ConventionReader conventions, TimeProvider clock)
{
    /// <summary>Reads all of it.</summary>
    /// <param name="cancel">Gives up reading.</param>
    /// <param name="alsoLive">Shapes of placeholders that stay literal here, besides the workspace's own.</param>
    /// <param name="tellPlacements">True where a link's placement is to be told by its values; that costs composing every placement once.</param>
    public async Task<LinkInputs> ReadAsync(
        CancellationToken cancel,
        PlaceholderShapes alsoLive = PlaceholderShapes.None,
        bool tellPlacements = true
    ) => await ReadAsync(await conventions.ReadAsync(cancel, alsoLive), cancel, tellPlacements);

    /// <summary>Reads the rest, for any convention.</summary>
    public async Task<LinkInputs> ReadAsync(Convention convention, CancellationToken cancel, bool tellPlacements = true)
    {
        var campaigns = await db.Campaigns.AsNoTracking().ToListAsync(cancel);
        var placements = await db.Placements.AsNoTracking().ToListAsync(cancel);
        var facts = await FactsAsync(cancel) with
        {
            Campaigns = CampaignWords.Of(convention, campaigns.Select(c => LinkInputs.ChoiceOf(c)!)),
            Placements = KnownPlacements.Of(convention, tellPlacements ? placements.Select(p => LinkInputs.ChoiceOf(p)!) : []),
        };
        return new LinkInputs(convention, facts, new(campaigns, c => c.Id, c => c.Name), new(placements, p => p.Id, p => p.Name));
    }

    /// <summary>What is known about the outside alone.</summary>
    public async Task<LinkFacts> FactsAsync(CancellationToken cancel)
    {
        var workspace = await db.Workspaces.AsNoTracking().SingleAsync(w => w.Id == db.CurrentWorkspaceId, cancel);
        var hosts = await db
            .SiteHosts.Join(
                db.Sites,
                h => h.SiteId,
                s => s.Id,
                (h, s) =>
                    new
                    {
                        h.Host,
                        h.AnswersHttps,
                        s.Style,
                    }
            )
            .ToListAsync(cancel);
        var approved = await db.ApprovedHosts.Where(h => h.Approved).Select(h => h.Host).ToListAsync(cancel);
        return new LinkFacts(
            hosts.ToDictionary(h => h.Host, h => h.Style),
            approved.ToHashSet(),
            hosts.Where(h => h.AnswersHttps).Select(h => h.Host).ToHashSet(),
            WorkspaceDay.At(clock.GetUtcNow(), workspace.TimeZone)
        )
        {
            RefusedHosts = (await db.RefusedHosts.Select(h => h.Host).ToListAsync(cancel)).ToHashSet(),
            ShortHosts = (await db.ShortDomains.Select(d => d.Host).ToListAsync(cancel)).ToHashSet(),
        };
    }
}
