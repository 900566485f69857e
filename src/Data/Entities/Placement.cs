using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Data.Entities;

public sealed class Placement : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>The kind of traffic it brings, in the workspace's own words.</summary>
    public required string Channel { get; set; }

    /// <summary>Standing values by field key.</summary>
    public Dictionary<string, string> Standing { get; set; } = [];

    public TagStyle? Style { get; set; }

    /// <summary>Keys the tool behind it writes by itself.</summary>
    public List<string> TagsItself { get; set; } = [];

    /// <summary>In the workspace's currency.</summary>
    public decimal? CostPerClick { get; set; }

    public int Position { get; set; }
}
