namespace PreciseBeacon.Data.Entities;

/// <summary>Who changed what, when; kept for good.</summary>
public sealed class ChangeLogEntry : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public DateTimeOffset At { get; set; }

    public required string Who { get; set; }

    /// <summary>What kind of thing was changed, such as <c>link</c>.</summary>
    public required string What { get; set; }

    public Guid ThingId { get; set; }

    /// <summary>Shared by entries of things that were changed in one go, so that it can be taken back as a whole; null for others.</summary>
    public Guid? ChangeId { get; set; }

    /// <summary>JSON, or null when it is new.</summary>
    public string? Before { get; set; }

    /// <summary>JSON, or null when it is gone.</summary>
    public string? After { get; set; }
}
