using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>The spot a link will appear in.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Standing">Its standing values by field key.</param>
/// <param name="Style">Where it needs the tags, or null for what the site says.</param>
/// <param name="TagsItself">Keys the tool behind it writes by itself, or null.</param>
/// <param name="Channel">The channel its visitors belong to, or null.</param>
public sealed record PlacementChoice(
    string Name,
    IReadOnlyDictionary<string, string> Standing,
    TagStyle? Style = null,
    string? Channel = null,
    IReadOnlyList<string>? TagsItself = null);
