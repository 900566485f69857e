namespace PreciseBeacon.Core.Conventions;

/// <summary>A name pattern as written.</summary>
public sealed record PatternDocument
{
    /// <summary><c>_</c> or <c>-</c>.</summary>
    public string Separator { get; init; } = "_";

    public IReadOnlyList<NamePart> Parts { get; init; } = [];

    public NamePattern ToPattern() => new(Separator.Length > 0 ? Separator[0] : '_', Parts);
}
