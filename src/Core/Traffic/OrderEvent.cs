namespace PreciseBeacon.Core.Traffic;

/// <summary>A conversion that names an order, as far as it matters for which of them counts.</summary>
/// <param name="Id">The event.</param>
/// <param name="SiteId">The site whose order ids are meant.</param>
/// <param name="OrderId">The order id, unique in the site's shop.</param>
/// <param name="Verified">Said by the shop's server.</param>
/// <param name="At">When it arrived.</param>
/// <param name="UserAgent">What sent it; may be empty.</param>
public sealed record OrderEvent(Guid Id, Guid SiteId, string OrderId, bool Verified, DateTimeOffset At, string UserAgent);
