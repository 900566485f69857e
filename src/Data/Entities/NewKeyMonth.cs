namespace PreciseBeacon.Data.Entities;

/// <summary>A month of raw events that is to be looked through for keys the convention did not know before.</summary>
public sealed class NewKeyMonth : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>Its first day, UTC.</summary>
    public DateOnly Month { get; set; }

    /// <summary>The keys, as the convention writes them.</summary>
    public required List<string> Keys { get; set; }
}
