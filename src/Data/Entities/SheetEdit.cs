namespace PreciseBeacon.Data.Entities;

/// <summary>Values that were typed into a sheet's rows in one go, so that they can be taken back and put again.</summary>
public sealed class SheetEdit : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid BatchId { get; set; }

    public Batch? Batch { get; set; }

    /// <summary>1 for the first edit of its sheet.</summary>
    public int Number { get; set; }

    /// <summary>What was done, in a few words.</summary>
    public required string Says { get; set; }

    /// <summary>Typed values of the rows as they were before, as JSON: a list of rows with their values by field, null for none.</summary>
    public required string Before { get; set; }

    /// <summary>The same after.</summary>
    public required string After { get; set; }

    /// <summary>True while it is taken back.</summary>
    public bool TakenBack { get; set; }

    public required string By { get; set; }

    public DateTimeOffset At { get; set; }
}
