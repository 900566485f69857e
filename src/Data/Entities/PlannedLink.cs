namespace PreciseBeacon.Data.Entities;

/// <summary>A link somebody means to make for a campaign, and the one made of it.</summary>
public sealed class PlannedLink : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid CampaignId { get; set; }

    public Campaign? Campaign { get; set; }

    /// <summary>The page's address as typed; empty while it is not known.</summary>
    public string Page { get; set; } = "";

    public Guid? PlacementId { get; set; }

    public Placement? Placement { get; set; }

    public string? Content { get; set; }

    public string? Owner { get; set; }

    public DateOnly? DueOn { get; set; }

    public string? Note { get; set; }

    public int Position { get; set; }

    /// <summary>The link made of it; null until then.</summary>
    public Guid? LinkId { get; set; }

    public Link? Link { get; set; }
}
