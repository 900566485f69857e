using PreciseBeacon.Core.ShortLinks;
using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.Web.Redirects;

/// <summary>What the redirector has to know about a short link.</summary>
/// <param name="ShortLinkId">Its id.</param>
/// <param name="WorkspaceId">Whose it is.</param>
/// <param name="Target">Where it leads, ASCII; null while it leads nowhere.</param>
/// <param name="Conditions">What keeps it from simply redirecting; null for most links.</param>
public sealed record SlugEntry(Guid ShortLinkId, Guid WorkspaceId, string? Target, RouteConditions? Conditions = null)
{
    /// <summary>Key of the page it leads to by itself.</summary>
    public long PageKey { get; } = Core.Traffic.PageKey.OfAddress(Target);
}
