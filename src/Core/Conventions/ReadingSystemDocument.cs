namespace PreciseBeacon.Core.Conventions;

/// <summary>A system that reads the links, as written.</summary>
public sealed record ReadingSystemDocument
{
    public string Name { get; init; } = "";

    public IReadOnlyList<string> Keys { get; init; } = [];
}
