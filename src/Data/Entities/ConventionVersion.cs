namespace PreciseBeacon.Data.Entities;

/// <summary>One version of a workspace's convention; the published one with the highest number holds.</summary>
public sealed class ConventionVersion : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public int Number { get; set; }

    public DateTimeOffset? PublishedAt { get; set; }

    public List<FieldRow> Fields { get; set; } = [];
}
