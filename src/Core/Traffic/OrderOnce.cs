namespace PreciseBeacon.Core.Traffic;

/// <summary>An order counts once however often it is reported (rule 6): only among what people and servers sent.</summary>
public static class OrderOnce
{
    /// <summary>Of each order the one event that counts: verified before unverified, then the first, then by id; never a crawler's.</summary>
    public static IReadOnlySet<Guid> CountingOf(IEnumerable<OrderEvent> events) =>
        events
            .Where(e => e.Verified || !Crawlers.IsCrawler(e.UserAgent))
            .GroupBy(e => (e.SiteId, e.OrderId))
            .Select(g => g.OrderByDescending(e => e.Verified).ThenBy(e => e.At).ThenBy(e => e.Id).First().Id)
            .ToHashSet();
}

/// <summary>A conversion that names an order, as far as it matters for which of them counts.</summary>
/// <param name="Id">The event.</param>
/// <param name="SiteId">The site whose order ids are meant.</param>
/// <param name="OrderId">The order id, unique in the site's shop.</param>
/// <param name="Verified">Said by the shop's server.</param>
/// <param name="At">When it arrived.</param>
/// <param name="UserAgent">What sent it; may be empty.</param>
public sealed record OrderEvent(Guid Id, Guid SiteId, string OrderId, bool Verified, DateTimeOffset At, string UserAgent);
