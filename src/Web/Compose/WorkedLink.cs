using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Core.Links;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>
/// A composed link with the rows it was made from. <c>Page</c> is the page's address as typed, without tags, null when
/// it was refused; <c>Settings</c> say how the convention writes links.
/// </summary>
public sealed record WorkedLink(
    ComposeRequest Request, ComposedLink Composed, string? Page, Campaign? Campaign, Placement? Placement, int ConventionVersion, LinkSettings Settings, LinkFacts Facts)
{
    public ComposeAnswer Answer => ComposeAnswer.Of(Composed, Request.Title);
}
