namespace PreciseBeacon.Data.Entities;

/// <summary>One version of a workspace's convention; the published one with the highest number holds.</summary>
public sealed class ConventionVersion : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public int Number { get; set; }

    public DateTimeOffset? PublishedAt { get; set; }

    /// <summary>Changes with every save of the draft, so that nobody overwrites what they have not seen.</summary>
    public Guid Revision { get; set; } = Guid.NewGuid();

    /// <summary>Who saved it last.</summary>
    public string? SavedBy { get; set; }

    /// <summary>Style, sealing, choices, severities and reading systems, as JSON.</summary>
    public string Settings { get; set; } = "{}";

    /// <summary>The channels in order, as JSON.</summary>
    public string Channels { get; set; } = "[]";

    /// <summary>Kinds of sites by host, as JSON.</summary>
    public string Referrers { get; set; } = "[]";

    public List<FieldRow> Fields { get; set; } = [];
}
