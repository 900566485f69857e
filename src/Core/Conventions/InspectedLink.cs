using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.Notices;

namespace PreciseBeacon.Core.Conventions;

/// <summary>A tagged URL read back and judged.</summary>
/// <param name="Destination">The page without tags, as shown; null when the URL was refused.</param>
/// <param name="Mended">The link as the convention writes it, or null when the URL was refused.</param>
/// <param name="Others">The page's own pairs, decoded, in order.</param>
/// <param name="Notices">What is wrong with the URL as it was given, gravest first.</param>
public sealed record InspectedLink(
    string? Destination,
    ComposedLink? Mended,
    IReadOnlyList<KeyValuePair<string, string>> Others,
    IReadOnlyList<Notice> Notices)
{
    /// <summary>The campaign its value belongs to, or null.</summary>
    public CampaignChoice? Campaign { get; init; }

    /// <summary>The placement that gives just such values, or null.</summary>
    public PlacementChoice? Placement { get; init; }

    /// <summary>Values by key that campaign and placement do not give by themselves, as somebody would have to type them.</summary>
    public IReadOnlyDictionary<string, string> Typed { get; init; } = new Dictionary<string, string>();
}
