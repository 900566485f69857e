namespace PreciseBeacon.Data.Entities;

public sealed class Member : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid UserId { get; set; }

    public Role Role { get; set; }

    /// <summary>Keys of the columns the person has the Ledger show; null for the usual ones.</summary>
    public List<string>? LedgerColumns { get; set; }

    public AppUser? User { get; set; }
}

/// <summary>What a member or a key may do; see the access table in Web.</summary>
public enum Role
{
    Owner,
    Editor,
    Viewer,

    /// <summary>Keys only: may shorten and nothing else.</summary>
    Shortener,

    /// <summary>Keys only: may report conversions and nothing else.</summary>
    Measuring,
}
