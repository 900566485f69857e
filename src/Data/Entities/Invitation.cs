namespace PreciseBeacon.Data.Entities;

/// <summary>A link that is handed over once: it lets somebody join, or lets a member choose a new password.</summary>
public sealed class Invitation : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>SHA-256 of the secret in the link, which is stored nowhere.</summary>
    public required byte[] Hash { get; set; }

    public required string Mail { get; set; }

    /// <summary>What they become; what they are, where a member chooses a new password.</summary>
    public Role Role { get; set; }

    /// <summary>The member who chooses a new password; null for somebody who joins.</summary>
    public Guid? UserId { get; set; }

    public required string MadeBy { get; set; }

    public DateTimeOffset MadeAt { get; set; }

    public DateTimeOffset ExpiresAt { get; set; }

    public DateTimeOffset? UsedAt { get; set; }

    public DateTimeOffset? RevokedAt { get; set; }
}
