namespace PreciseBeacon.Data.Entities;

/// <summary>A look at links that are already in use: each judged, and mended where that can be done by itself.</summary>
public sealed class LinkReview : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>What was looked at: a file's name, “Pasted links”, or a site.</summary>
    public required string Name { get; set; }

    /// <summary>Links by what came of them.</summary>
    public int Right { get; set; }

    public int Mended { get; set; }

    public int Stuck { get; set; }

    /// <summary>Pages that were read, when a site was looked through; null otherwise.</summary>
    public int? Pages { get; set; }

    /// <summary>What could not be looked at, one sentence each.</summary>
    public List<string> Problems { get; set; } = [];

    /// <summary>Number of the convention's version the links were judged by.</summary>
    public int ConventionVersion { get; set; }

    public required string CreatedBy { get; set; }

    public DateTimeOffset CreatedAt { get; set; }

    public List<ReviewedLink> Links { get; set; } = [];
}
