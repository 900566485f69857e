using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>The spot a link will appear in.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Standing">Its standing values by field key; they may hold fill-ins such as <c>@{page}</c>.</param>
/// <param name="Style">Where it needs the tags, or null for what the site says.</param>
/// <param name="Channel">The channel its visitors belong to, or null.</param>
/// <param name="ToolWrites">What the tool behind it writes by itself, by key; an empty text where the value is not known. Null for none.</param>
/// <param name="Asks">Keys of fields it wants typed for each link, or null.</param>
public sealed record PlacementChoice(
    string Name,
    IReadOnlyDictionary<string, string> Standing,
    TagStyle? Style = null,
    string? Channel = null,
    IReadOnlyDictionary<string, string>? ToolWrites = null,
    IReadOnlyCollection<string>? Asks = null);
