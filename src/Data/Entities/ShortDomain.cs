namespace PreciseBeacon.Data.Entities;

public sealed class ShortDomain : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>ASCII, lower case, with a port where there is one; unique over all workspaces.</summary>
    public required string Host { get; set; }

    /// <summary><c>https</c>, or <c>http</c> on this machine.</summary>
    public required string Scheme { get; set; }

    /// <summary>The whole address of a slug on this domain.</summary>
    public string UrlOf(string slug) => $"{Scheme}://{Host}/{slug}";
}
