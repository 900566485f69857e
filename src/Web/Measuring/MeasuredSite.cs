using System.Collections.Frozen;

namespace PreciseBeacon.Web.Measuring;

/// <summary>What the measuring door has to know about a site.</summary>
/// <param name="SiteId">Its id.</param>
/// <param name="WorkspaceId">Whose it is.</param>
/// <param name="Hosts">Its hosts, with ports.</param>
/// <param name="KeepsVisitorIds">Whether it hands over ids of its own for its visitors.</param>
/// <param name="VisitorIdKey">Keys the hashes of those ids.</param>
/// <param name="LargestValue">Most a conversion may be worth, in its currency.</param>
public sealed record MeasuredSite(Guid SiteId, Guid WorkspaceId, FrozenSet<string> Hosts, bool KeepsVisitorIds, byte[] VisitorIdKey, decimal LargestValue);
