namespace PreciseBeacon.Data.Entities;

/// <summary>One run of a batch: what was asked, how far it is, and what came of it.</summary>
public sealed class BatchRun : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid BatchId { get; set; }

    public Batch? Batch { get; set; }

    /// <summary>1 for the first run of its batch.</summary>
    public int Number { get; set; }

    /// <summary>The recipe it was run with, as JSON.</summary>
    public required string Recipe { get; set; }

    public BatchState State { get; set; }

    /// <summary>The last row that was worked through, from 1.</summary>
    public int Done { get; set; }

    public int Total { get; set; }

    public int Made { get; set; }

    /// <summary>Rows that got a link which existed already.</summary>
    public int Used { get; set; }

    public int Changed { get; set; }

    public int Unchanged { get; set; }

    public int Stopped { get; set; }

    /// <summary>Why it broke off, in one sentence; null otherwise.</summary>
    public string? Problem { get; set; }

    public required string StartedBy { get; set; }

    public DateTimeOffset StartedAt { get; set; }

    public DateTimeOffset? EndedAt { get; set; }
}
