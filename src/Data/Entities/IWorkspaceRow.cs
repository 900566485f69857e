namespace PreciseBeacon.Data.Entities;

/// <summary>A row that belongs to one workspace and is never seen from another.</summary>
public interface IWorkspaceRow
{
    Guid WorkspaceId { get; set; }
}
