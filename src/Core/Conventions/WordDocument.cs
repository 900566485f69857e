using System.ComponentModel;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A word as written.</summary>
public sealed record WordDocument
{
    public string Written { get; init; } = "";

    [DefaultValue("")]
    public string Label { get; init; } = "";

    public IReadOnlyList<string> Aliases { get; init; } = [];

    public bool Retired { get; init; }

    public string? Successor { get; init; }
}
