using PreciseBeacon.Core.Conventions;
using PreciseBeacon.Data.Entities;

namespace PreciseBeacon.Web.Compose;

/// <summary>A composed link with the rows it was made from.</summary>
public sealed record WorkedLink(
    ComposeRequest Request, ComposedLink Composed, Campaign? Campaign, Placement? Placement, int ConventionVersion, LinkFacts Facts)
{
    public ComposeAnswer Answer => ComposeAnswer.Of(Composed, Request.Title);
}
