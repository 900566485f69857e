namespace PreciseBeacon.Data.Entities;

/// <summary>The settings of a report, kept under a name.</summary>
public sealed class SavedView : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>The part of Arrivals' address behind the question mark; a span that moves with the day stays one.</summary>
    public required string Address { get; set; }

    /// <summary>Whose it is; null where a key saved it.</summary>
    public Guid? UserId { get; set; }

    /// <summary>Everybody in the workspace sees it.</summary>
    public bool Shared { get; set; }

    /// <summary>It stands in the head of Arrivals.</summary>
    public bool Pinned { get; set; }

    /// <summary>Its place among views; those alike stand by name.</summary>
    public int Place { get; set; }

    /// <summary>Name of the person or key that saved it last.</summary>
    public required string SavedBy { get; set; }

    public DateTimeOffset SavedAt { get; set; }
}
