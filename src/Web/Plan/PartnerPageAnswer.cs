using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Plan;

/// <summary>A page for one partner, as those who made it see it.</summary>
/// <param name="Address">Where the partner finds it; whoever has the address may look.</param>
/// <param name="Links">Links on it now.</param>
/// <param name="Openings">How often it was opened by somebody who is not signed in here.</param>
public sealed record PartnerPageAnswer(
    Guid Id,
    string Name,
    string? Note,
    IReadOnlyList<Guid> Placements,
    Guid? CampaignId,
    string? Campaign,
    string? Address,
    int Links,
    string CreatedBy,
    DateTimeOffset CreatedAt,
    DateTimeOffset? RevokedAt,
    int Openings,
    DateTimeOffset? FirstOpenedAt,
    DateTimeOffset? LastOpenedAt
);

/// <summary>What a partner is to get.</summary>
/// <param name="Name">Whom it is for.</param>
/// <param name="Placements">Links of these placements, also ones made later.</param>
/// <param name="Campaign">Only links of this campaign; all where it is left out.</param>
public sealed record PartnerPageRequest(string? Name, IReadOnlyList<Guid>? Placements, Guid? Campaign = null, string? Note = null);
