namespace PreciseBeacon.Data.Entities;

/// <summary>A foreign host that short links may lead to, or that somebody asked an owner to approve.</summary>
public sealed class ApprovedHost : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Host { get; set; }

    public bool Approved { get; set; }

    public required string AskedBy { get; set; }

    public DateTimeOffset AskedAt { get; set; }

    public string? DecidedBy { get; set; }

    public DateTimeOffset? DecidedAt { get; set; }
}
