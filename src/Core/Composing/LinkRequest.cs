using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Composing;

/// <summary>What somebody asks a link to be made from.</summary>
/// <param name="Destination">The page's address as typed.</param>
/// <param name="Fields">Typed values by field key, label or also-read key; an empty text takes a default value away.</param>
/// <param name="Campaign">The campaign, or null.</param>
/// <param name="Placement">The placement, or null.</param>
/// <param name="Style">Where the tags go, or null for what placement or site say.</param>
/// <param name="FoundOn">Host and port of the page the link stands on, or null when it is not known.</param>
/// <param name="Existing">What happens to tags already there, or null for the workspace's setting.</param>
/// <param name="BehindShortLink">True for a link whose clicks come by a short link that drops what a platform put behind it.</param>
public sealed record LinkRequest(
    string Destination,
    IReadOnlyDictionary<string, string> Fields,
    CampaignChoice? Campaign = null,
    PlacementChoice? Placement = null,
    TagStyle? Style = null,
    ExistingTags? Existing = null,
    string? FoundOn = null,
    bool BehindShortLink = false
);

/// <summary>The campaign a link is for.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Value">What the campaign field says, before normalising.</param>
/// <param name="Attributes">Its attributes by name, or null.</param>
/// <param name="Starts">First day, or null for always on.</param>
/// <param name="Ends">Last day, or null when no end is set.</param>
public sealed record CampaignChoice(
    string Name,
    string Value,
    DateOnly? Starts = null,
    DateOnly? Ends = null,
    IReadOnlyDictionary<string, string>? Attributes = null
);

/// <summary>The spot a link will appear in.</summary>
/// <param name="Name">What people call it.</param>
/// <param name="Defaults">Its default values by field key; they may hold fill-ins such as <c>@{page}</c>.</param>
/// <param name="Style">Where it needs the tags, or null for what the site says.</param>
/// <param name="Channel">The channel its visitors belong to, or null.</param>
/// <param name="ToolWrites">What the tool behind it writes by itself, by key; an empty text where the value is not known. Null for none.</param>
/// <param name="Asks">Keys of fields it wants typed for each link, or null.</param>
public sealed record PlacementChoice(
    string Name,
    IReadOnlyDictionary<string, string> Defaults,
    TagStyle? Style = null,
    string? Channel = null,
    IReadOnlyDictionary<string, string>? ToolWrites = null,
    IReadOnlyCollection<string>? Asks = null
);
