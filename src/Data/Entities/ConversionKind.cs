using PreciseBeacon.Core.Conversions;

namespace PreciseBeacon.Data.Entities;

/// <summary>What the owner counts as a conversion; see <see cref="ConversionDefinition"/>.</summary>
public sealed class ConversionKind : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    public required string Name { get; set; }

    public ConversionTest Test { get; set; }

    public required string Text { get; set; }

    /// <summary>In the workspace's currency; null for nothing.</summary>
    public decimal? Value { get; set; }

    public bool TakesValue { get; set; }

    public bool CountsEach { get; set; }

    public required string MadeBy { get; set; }

    public DateTimeOffset MadeAt { get; set; }
}

/// <summary>A month of raw events in which visits meet a definition that is new, changed or gone, and are to be worked out again.</summary>
public sealed class ConversionMonth : IWorkspaceRow
{
    public Guid Id { get; set; } = Guid.CreateVersion7();

    public Guid WorkspaceId { get; set; }

    /// <summary>Its first day, UTC.</summary>
    public DateOnly Month { get; set; }

    public ConversionTest Test { get; set; }

    public required string Text { get; set; }
}
