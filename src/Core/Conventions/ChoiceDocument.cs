namespace PreciseBeacon.Core.Conventions;

/// <summary>A dependent choice as written; see <see cref="Choice"/>.</summary>
public sealed record ChoiceDocument
{
    public string Field { get; init; } = "";

    public string Word { get; init; } = "";

    public string Narrows { get; init; } = "";

    public IReadOnlyList<string> To { get; init; } = [];
}
