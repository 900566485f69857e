namespace PreciseBeacon.Data.Entities;

/// <summary>What happened on a day, such as what was sent or what broke; it stands on every chart of that day.</summary>
public sealed class DayNote : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>In the workspace's zone.</summary>
    public DateOnly Day { get; set; }

    public required string Text { get; set; }

    /// <summary>Name of the person or key that wrote it last.</summary>
    public required string WrittenBy { get; set; }

    public DateTimeOffset WrittenAt { get; set; }
}
