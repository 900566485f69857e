using PreciseBeacon.Core.Links;

namespace PreciseBeacon.Core.Conventions;

/// <summary>What somebody asks a link to be made from.</summary>
/// <param name="Destination">The page's address as typed.</param>
/// <param name="Fields">Typed values by field key, label or also-read key; an empty text takes a standing value away.</param>
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
    bool BehindShortLink = false);
