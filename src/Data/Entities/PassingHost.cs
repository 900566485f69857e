namespace PreciseBeacon.Data.Entities;

/// <summary>A host people pass through on their way back, such as a payment or sign-in page: coming from it, or from any host below it, begins no visit.</summary>
public sealed class PassingHost : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>ASCII, lower case, without a port: all of its ports are meant.</summary>
    public required string Host { get; set; }

    public required string AddedBy { get; set; }

    public DateTimeOffset AddedAt { get; set; }
}
