namespace PreciseBeacon.Data.Entities;

/// <summary>A page for one partner, behind an address nobody guesses: their links, texts and codes, and nothing else.</summary>
public sealed class PartnerPage : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>128 bits of randomness in the address; whoever has it may look.</summary>
    public required string Token { get; set; }

    /// <summary>Whom it is for.</summary>
    public required string Name { get; set; }

    /// <summary>A sentence to the reader; null for none.</summary>
    public string? Note { get; set; }

    /// <summary>Links of these placements are on it.</summary>
    public List<Guid> PlacementIds { get; set; } = [];

    /// <summary>Only links of this campaign, or null for all.</summary>
    public Guid? CampaignId { get; set; }

    public Campaign? Campaign { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Set once nobody may look any more.</summary>
    public DateTimeOffset? RevokedAt { get; set; }

    /// <summary>How often a stranger opened it.</summary>
    public int Openings { get; set; }

    public DateTimeOffset? FirstOpenedAt { get; set; }

    public DateTimeOffset? LastOpenedAt { get; set; }
}
