namespace PreciseBeacon.Core.Traffic;

/// <summary>
/// An order counts once however often it is reported (rule 6): only among what people and servers sent. What the shop's server says of it
/// goes before what a page said, since whoever reads a page can forge its reports.
/// </summary>
public static class OrderOnce
{
    /// <summary>
    /// Of each order the one event that counts, by its id, with what the shop's server said of it; null where no server did. The server's
    /// event counts itself where it names its click or its visitor, or where no page reported the order; else the first that a person's
    /// page sent counts, in its place, with the server's figures. A crawler's never counts.
    /// </summary>
    public static IReadOnlyDictionary<Guid, OrderFigures?> CountingOf(IEnumerable<OrderEvent> events)
    {
        var counting = new Dictionary<Guid, OrderFigures?>();
        foreach (var order in events.GroupBy(e => (e.SiteId, e.OrderId)))
        {
            var (server, page) = FirstOf(order);
            if ((server is { Placed: true } || page is null ? server : page) is { } one)
            {
                counting[one.Id] = server?.Says;
            }
        }

        return counting;
    }

    /// <summary>What counts of each order: what its server says, else what the first of its pages said.</summary>
    public static IReadOnlyDictionary<(Guid SiteId, string OrderId), OrderFigures> FiguresOf(IEnumerable<OrderEvent> events) =>
        events
            .GroupBy(e => (e.SiteId, e.OrderId))
            .Select(order => (order.Key, Of: FirstOf(order)))
            .Where(o => (o.Of.Server ?? o.Of.Page) is not null)
            .ToDictionary(o => o.Key, o => (o.Of.Server ?? o.Of.Page)!.Says);

    /// <summary>An event as it counts: itself, with the server's figures, or null where another one of its order counts.</summary>
    public static RawPageEvent? Counted(RawPageEvent item, IReadOnlyDictionary<Guid, OrderFigures?> counting) =>
        item.OrderId is null ? item
        : counting.TryGetValue(item.Id, out var verified) ? verified?.Of(item) ?? item
        : null;

    private static (OrderEvent? Server, OrderEvent? Page) FirstOf(IEnumerable<OrderEvent> order) =>
        (
            order.Where(e => e.Verified).OrderBy(e => e.Id).FirstOrDefault(),
            order.Where(e => !e.Verified && !Crawlers.IsCrawler(e.UserAgent)).OrderBy(e => e.At).ThenBy(e => e.Id).FirstOrDefault()
        );
}

/// <summary>A conversion that names an order, as far as it matters for which of them counts.</summary>
/// <param name="Id">The event.</param>
/// <param name="SiteId">The site whose order ids are meant.</param>
/// <param name="OrderId">The order id, unique in the site's shop.</param>
/// <param name="Verified">Said by the shop's server.</param>
/// <param name="At">Where it stands in its visitor's time.</param>
/// <param name="UserAgent">What sent it; may be empty.</param>
/// <param name="Says">What it says of the order.</param>
/// <param name="Placed">It is known whose it is: false only for a server's that names neither click nor visitor.</param>
public sealed record OrderEvent(
    Guid Id,
    Guid SiteId,
    string OrderId,
    bool Verified,
    DateTimeOffset At,
    string UserAgent,
    OrderFigures Says,
    bool Placed = true
);

/// <summary>What was said of an order.</summary>
/// <param name="Kind">Kind of the conversion.</param>
/// <param name="Value">Its value; null for none.</param>
/// <param name="Currency">ISO 4217; null for no value.</param>
/// <param name="Items">What was bought, as a JSON array; null where nothing was said.</param>
/// <param name="HappenedAt">When it happened by the server; null where it is the event's own moment.</param>
public sealed record OrderFigures(string Kind, decimal? Value, string? Currency, string? Items, DateTimeOffset? HappenedAt = null)
{
    /// <summary>A page's event with what the server said; items stay the page's where the server names none.</summary>
    public RawPageEvent Of(RawPageEvent item) =>
        item with
        {
            Name = Kind,
            Value = Value,
            Currency = Currency,
            Items = Items ?? item.Items,
            HappenedAt = HappenedAt,
            Verified = true,
        };
}
