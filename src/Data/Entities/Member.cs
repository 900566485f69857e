namespace PreciseBeacon.Data.Entities;

public sealed class Member : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid UserId { get; set; }

    public Role Role { get; set; }

    public AppUser? User { get; set; }
}
