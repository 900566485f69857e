namespace PreciseBeacon.Data.Entities;

public sealed class ShortLink : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid LinkId { get; set; }

    public Link? Link { get; set; }

    public Guid ShortDomainId { get; set; }

    public ShortDomain? ShortDomain { get; set; }

    /// <summary>Lower case; unique on its domain.</summary>
    public required string Slug { get; set; }

    public ShortLinkUse Use { get; set; }

    /// <summary>Where it leads, ASCII.</summary>
    public required string Target { get; set; }

    public DateTimeOffset CreatedAt { get; set; }
}

/// <summary>What a slug is for; one for text is never printed as a code, so that scans and clicks stay apart.</summary>
public enum ShortLinkUse
{
    Text,
    Code,
}
