namespace PreciseBeacon.Data.Entities;

/// <summary>What the code of a sealed link stands for. Links with equal values share one.</summary>
public sealed class SealedLink : IWorkspaceRow
{
    public Guid WorkspaceId { get; set; }

    public required string Code { get; set; }

    /// <summary>Written values by field key.</summary>
    public Dictionary<string, string> Values { get; set; } = [];

    public DateTimeOffset CreatedAt { get; set; }
}
