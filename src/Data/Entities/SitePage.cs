namespace PreciseBeacon.Data.Entities;

/// <summary>A page of one of the workspace's sites, known by its title.</summary>
public sealed class SitePage : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid SiteId { get; set; }

    public Site? Site { get; set; }

    /// <summary>The whole address, as a link would take it.</summary>
    public required string Address { get; set; }

    /// <summary>Null while the page has not been read.</summary>
    public string? Title { get; set; }

    public DateTimeOffset SeenAt { get; set; }
}
