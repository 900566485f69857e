using PreciseBeacon.Data;
using PreciseBeacon.Data.Entities;
using PreciseBeacon.Data.Links;

namespace PreciseBeacon.Web.Ledger;

/// <summary>Links with their uses, told apart by what the Ledger groups them by.</summary>
public sealed class CountedLinks
{
    /// <summary>The state of archived links, which the Ledger leaves out unless they are asked for, and Plan's counts too.</summary>
    public const string Retired = "retired";

    public Guid? CampaignId { get; init; }

    public Guid? PlacementId { get; init; }

    public required string State { get; init; }

    public int Links { get; init; }

    public long Uses { get; init; }

    /// <summary>All links of the workspace: from their totals, and those with an end, which are few, one by one.</summary>
    public static IQueryable<CountedLinks> All(BeaconDb db, DateTimeOffset now) =>
        db
            .LinkTotals.Select(t => new CountedLinks
            {
                CampaignId = t.CampaignId,
                PlacementId = t.PlacementId,
                State = t.State,
                Links = t.Links,
                Uses = t.Uses,
            })
            .Concat(Each(db.Links.Where(l => l.EndsAt != null || l.UsesLeft != null), now));

    /// <summary>Each link by itself.</summary>
    public static IQueryable<CountedLinks> Each(IQueryable<Link> links, DateTimeOffset now) =>
        links.Select(l => new CountedLinks
        {
            CampaignId = l.CampaignId,
            PlacementId = l.PlacementId,
            State =
                l.RetiredAt != null ? Retired
                : l.IsUnshortened ? "unshortened"
                : l.IsWaiting ? "waiting"
                : l.EndsAt <= now || l.UsesLeft <= 0 ? "ended"
                : l.Paused ? "paused"
                : "live",
            Links = 1,
            Uses = l.Uses,
        });
}
