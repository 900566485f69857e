namespace PreciseBeacon.Data.Entities;

/// <summary>The share text of a page, for one campaign or for all.</summary>
public sealed class PageText : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>Null for a text that serves whichever campaign.</summary>
    public Guid? CampaignId { get; set; }

    public Campaign? Campaign { get; set; }

    /// <summary>Host and path of the page, as links keep it.</summary>
    public required string Page { get; set; }

    public required string Text { get; set; }

    public required string WrittenBy { get; set; }

    public DateTimeOffset WrittenAt { get; set; }

    public int Revision { get; set; }
}
