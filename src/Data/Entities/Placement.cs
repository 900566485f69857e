using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.Data.Entities;

public sealed class Placement : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>The kind of traffic it brings, in the workspace's own words.</summary>
    public required string Channel { get; set; }

    /// <summary>Default values by field key.</summary>
    public Dictionary<string, string> Defaults { get; set; } = [];

    public TagStyle? Style { get; set; }

    /// <summary>Who publishes it or whom it reaches, such as a partner.</summary>
    public string? Publisher { get; set; }

    /// <summary>Words to find it by.</summary>
    public List<string> Tags { get; set; } = [];

    /// <summary>Keys of fields it wants typed for each link.</summary>
    public List<string> Asks { get; set; } = [];

    /// <summary>What the tool behind it writes by itself, by key; an empty text where the value is not known.</summary>
    public Dictionary<string, string> ToolWrites { get; set; } = [];

    /// <summary>Weekdays on which it may be used, by ISO 8601 numbers; none for every day.</summary>
    public List<int> UseDays { get; set; } = [];

    /// <summary>In what form it may be used, such as “comment”.</summary>
    public string? UseForm { get; set; }

    /// <summary>The form it gives share texts, with <c>@{text}</c> in it.</summary>
    public string? ShareForm { get; set; }

    /// <summary>Its short links are made here where none is chosen; null for the workspace's first.</summary>
    public Guid? ShortDomainId { get; set; }

    public ShortDomain? ShortDomain { get; set; }

    /// <summary>What its links cost from which day on: a list of <see cref="Core.Costs.CostRate"/> as JSON; null for none.</summary>
    public string? Rates { get; set; }

    /// <summary>In the workspace's currency, for the whole of a campaign.</summary>
    public decimal? FixedCost { get; set; }

    /// <summary>Set once it is no longer offered; links made with it stay.</summary>
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>Grows with every change, so that two people never overwrite one another.</summary>
    public int Revision { get; set; }

    public int Position { get; set; }
}

/// <summary>Placements that are picked as one, such as all community groups.</summary>
public sealed class PlacementSet : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    /// <summary>Its placements, in the order they were put in.</summary>
    public List<Guid> PlacementIds { get; set; } = [];
}
