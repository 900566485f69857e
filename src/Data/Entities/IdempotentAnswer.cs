namespace PreciseBeacon.Data.Entities;

/// <summary>The first answer to a request that named an Idempotency-Key.</summary>
public sealed class IdempotentAnswer : IWorkspaceRow
{
    public Guid WorkspaceId { get; set; }

    public required string Key { get; set; }

    /// <summary>SHA-256 of the request's body.</summary>
    public required byte[] RequestHash { get; set; }

    public required string Answer { get; set; }

    public DateTimeOffset CreatedAt { get; set; }
}
