namespace PreciseBeacon.Data.Entities;

/// <summary>
/// Links without an end that have these things in common, counted as they are written: every statement that changes links adds
/// rows with what changed (see <c>link-totals.sql</c>), so that nobody waits for anybody, and the rows of a group are folded into one afterwards.
/// </summary>
public sealed class LinkTotal : IWorkspaceRow
{
    public long Id { get; set; }

    public Guid WorkspaceId { get; set; }

    public Guid? CampaignId { get; set; }

    public Guid? PlacementId { get; set; }

    /// <summary>What the links are: <c>live</c>, <c>paused</c>, <c>waiting</c>, <c>unshortened</c> or <c>retired</c>.</summary>
    public required string State { get; set; }

    /// <summary>How many; below zero where links left.</summary>
    public int Links { get; set; }

    /// <summary>People's clicks and scans on them.</summary>
    public long Uses { get; set; }
}
