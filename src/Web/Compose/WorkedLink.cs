using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>A composed link with the rows it was made from.</summary>
/// <param name="Page">The page's address as typed, without tags; null when it was refused.</param>
public sealed record WorkedLink(
    ComposeRequest Request, ComposedLink Composed, string? Page, Campaign? Campaign, Placement? Placement, int ConventionVersion, LinkFacts Facts)
{
    public ComposeAnswer Answer => ComposeAnswer.Of(Composed, Request.Title);
}
