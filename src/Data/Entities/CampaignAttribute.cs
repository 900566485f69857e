namespace PreciseBeacon.Data.Entities;

/// <summary>An attribute campaigns of this workspace have, such as department or region.</summary>
public sealed class CampaignAttribute : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>Values to choose from, in order; none for free text.</summary>
    public List<string> Values { get; set; } = [];

    public int Position { get; set; }
}
