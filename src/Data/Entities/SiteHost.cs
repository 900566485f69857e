namespace PreciseBeacon.Data.Entities;

public sealed class SiteHost : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid SiteId { get; set; }

    /// <summary>ASCII, lower case, with a port where there is one.</summary>
    public required string Host { get; set; }

    public bool AnswersHttps { get; set; }
}
