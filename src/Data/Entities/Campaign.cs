namespace PreciseBeacon.Data.Entities;

public sealed class Campaign : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>What the campaign field says on its links.</summary>
    public required string Value { get; set; }

    public DateOnly? StartsOn { get; set; }

    public DateOnly? EndsOn { get; set; }

    /// <summary>Attributes by name, such as department or region.</summary>
    public Dictionary<string, string> Attributes { get; set; } = [];

    public string? Goal { get; set; }

    /// <summary>Who looks after it.</summary>
    public string? Owner { get; set; }

    /// <summary>In the workspace's currency.</summary>
    public decimal? Budget { get; set; }

    /// <summary>Ids, names or categories of the products it advertises, as shops report them.</summary>
    public List<string> Advertises { get; set; } = [];

    /// <summary>Set while it is kept out of sight; null otherwise.</summary>
    public DateTimeOffset? ArchivedAt { get; set; }

    /// <summary>Grows with every change, so that two people never overwrite one another.</summary>
    public int Revision { get; set; }
}
