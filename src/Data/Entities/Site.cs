using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Data.Entities;

/// <summary>A set of hosts the workspace sends people to.</summary>
public sealed class Site : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>What its pages say in every report.</summary>
    public required string MeasuringKey { get; set; }

    /// <summary>The site hands over an id it keeps for each visitor itself.</summary>
    public bool KeepsVisitorIds { get; set; }

    /// <summary>Keys the hashes of those ids.</summary>
    public required byte[] VisitorIdKey { get; set; }

    /// <summary>Most a reported conversion may be worth, in its currency; more is refused as absurd.</summary>
    public decimal LargestValue { get; set; } = 1_000_000m;

    public TagStyle Style { get; set; }

    /// <summary>Visitors whose browser asks not to be followed (Do Not Track, Global Privacy Control) are not measured.</summary>
    public bool HonoursOptOut { get; set; }

    /// <summary>Keys of the fields that its pages may learn of where their visitor came from; none unless an owner picks some.</summary>
    public List<string> SourceFields { get; set; } = [];

    /// <summary>Since when its pages are not measured any more; null while they are.</summary>
    public DateTimeOffset? StoppedAt { get; set; }

    /// <summary>When the last report of a page was taken; null before the first.</summary>
    public DateTimeOffset? LastMeasuredAt { get; set; }

    /// <summary>The page it came from: host and path.</summary>
    public string? LastMeasuredPage { get; set; }

    /// <summary>A host that is none of the site's and used its key last; null for none.</summary>
    public string? ForeignHost { get; set; }

    /// <summary>When it did.</summary>
    public DateTimeOffset? ForeignAt { get; set; }

    public List<SiteHost> Hosts { get; set; } = [];
}

public sealed class SiteHost : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public Guid SiteId { get; set; }

    /// <summary>ASCII, lower case, with a port where there is one.</summary>
    public required string Host { get; set; }

    public bool AnswersHttps { get; set; }
}
