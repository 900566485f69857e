namespace PreciseBeacon.Data.Entities;

/// <summary>A page with one link's counts, behind an address nobody guesses.</summary>
public sealed class ResultPage : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid LinkId { get; set; }

    public Link? Link { get; set; }

    /// <summary>128 bits of randomness in the address; whoever has it may look.</summary>
    public required string Token { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    /// <summary>Set once nobody may look any more.</summary>
    public DateTimeOffset? RevokedAt { get; set; }
}
