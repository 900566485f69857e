namespace PreciseBeacon.Data.Entities;

/// <summary>A host that nothing may lead to, nor to any host below it, whoever approves it.</summary>
public sealed class RefusedHost : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>ASCII, lower case, without a port: all of its ports are meant.</summary>
    public required string Host { get; set; }

    public required string RefusedBy { get; set; }

    public DateTimeOffset RefusedAt { get; set; }
}
