namespace PreciseBeacon.Data.Entities;

/// <summary>Placements that are picked as one, such as all community groups.</summary>
public sealed class PlacementSet : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>Its placements, in the order they were put in.</summary>
    public List<Guid> PlacementIds { get; set; } = [];
}
