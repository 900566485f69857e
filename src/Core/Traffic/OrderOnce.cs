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
