using PreciseBeacon.Core.Links;
using PreciseBeacon.Core.ShortLinks;

namespace PreciseBeacon.Core.Composing;

/// <summary>What a link is to be made from, as somebody asks for it: campaign and placement by id or name.</summary>
/// <param name="Destination">The page's address.</param>
/// <param name="Campaign">Id or name of a campaign.</param>
/// <param name="Placement">Id or name of a placement.</param>
/// <param name="Fields">Values by key or label.</param>
/// <param name="Style"><c>query</c> or <c>fragment</c>; the site's own where it is left out.</param>
/// <param name="Existing"><c>replace</c>, <c>keep</c> or <c>refuse</c> tags already there; the workspace's own where it is left out.</param>
/// <param name="Title">What the link is called.</param>
/// <param name="Slug">A chosen slug for the short link in texts; made up where it is left out.</param>
/// <param name="Shorten">False makes no short link and no code.</param>
/// <param name="ShortDomain">Id or host of the short domain; the placement's or the workspace's first where it is left out.</param>
/// <param name="Ending">When its short links end, and where they lead then.</param>
/// <param name="Carries">What its short links do with parameters behind them; <c>overwrite</c> lets a platform fill its placeholders in there.</param>
/// <param name="CodeSlug">A chosen slug for the short link in its QR code, which people print beside it; made up where it is left out.</param>
public sealed record ComposeRequest(
    string? Destination,
    string? Campaign = null,
    string? Placement = null,
    Dictionary<string, string>? Fields = null,
    TagStyle? Style = null,
    ExistingTags? Existing = null,
    string? Title = null,
    string? Slug = null,
    bool Shorten = true,
    string? ShortDomain = null,
    Ending? Ending = null,
    CarriedParameters Carries = CarriedParameters.Nothing,
    string? CodeSlug = null
);
