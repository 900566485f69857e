using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class OrderOnceTests
{
    private const string Browser = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private const string Robot = "Fernbot/1.0 (crawler; +https://fern.example/bot)";

    /// <summary>Events as (minute, who), which of them counts, from 0, -1 for none, and whose figures; -1 for its own.</summary>
    public static TheoryData<(int, string)[], int, int> Rows =>
        new()
        {
            { [(0, Browser), (1, Browser)], 0, -1 },
            { [(5, Browser), (1, Browser)], 1, -1 },
            { [(0, Robot), (1, Browser)], 1, -1 },
            { [(0, Robot), (1, "")], -1, -1 },
            { [(0, Browser), (9, "placed")], 1, 1 },
            { [(0, Browser), (1, "alone")], 0, 1 },
            { [(5, "alone"), (9, Browser)], 1, 0 },
            { [(5, "alone"), (9, Robot)], 0, 0 },
            { [(5, "alone")], 0, 0 },
            { [(9, "placed"), (1, "placed")], 0, 0 }, // the one that came first, wherever it stands
        };

    [Theory]
    [MemberData(nameof(Rows))]
    public void One_event_of_an_order_counts((int, string)[] given, int counts, int figures)
    {
        var site = Guid.NewGuid();
        var events = given
            .Select(
                (g, i) =>
                    new OrderEvent(
                        Guid.CreateVersion7(DateTimeOffset.UnixEpoch.AddYears(50).AddSeconds(i)),
                        site,
                        "A1",
                        g.Item2 is "placed" or "alone",
                        DateTimeOffset.UnixEpoch.AddMinutes(g.Item1),
                        g.Item2 is "placed" or "alone" ? "" : g.Item2,
                        new OrderFigures("ticket", i, "EUR", null),
                        g.Item2 != "alone"
                    )
            )
            .ToList();
        var counting = OrderOnce.CountingOf(events);
        Assert.Equal(counts < 0 ? [] : [events[counts].Id], counting.Keys);
        if (counts >= 0)
        {
            Assert.Equal(figures < 0 ? null : (decimal?)figures, counting[events[counts].Id]?.Value);
            Assert.Equal(figures < 0 ? counts : figures, OrderOnce.FiguresOf(events)[(site, "A1")].Value);
        }
    }

    [Fact]
    public void Orders_of_two_sites_are_two()
    {
        OrderEvent Of(Guid site) =>
            new(Guid.NewGuid(), site, "A1", false, DateTimeOffset.UnixEpoch, Browser, new OrderFigures("", 1, "EUR", null));
        Assert.Equal(2, OrderOnce.CountingOf([Of(Guid.NewGuid()), Of(Guid.NewGuid())]).Count);
    }

    [Fact]
    public void What_the_server_says_goes_before_what_the_page_said()
    {
        var page = new RawPageEvent
        {
            Id = Guid.NewGuid(),
            WorkspaceId = Guid.Empty,
            SiteId = Guid.Empty,
            At = DateTimeOffset.UnixEpoch,
            Kind = PageEventKind.Conversion,
            Url = "https://marrowmere.example/thanks",
            Visitor = Guid.NewGuid(),
            Name = "forged",
            OrderId = "A1",
            Value = 9_999,
            Currency = "EUR",
            Items = "[1]",
        };
        var says = new OrderFigures("ticket", 18.5m, "EUR", null);
        var counted = OrderOnce.Counted(page, new Dictionary<Guid, OrderFigures?> { [page.Id] = says })!;
        Assert.Equal((page.Id, "ticket", 18.5m, "[1]", true), (counted.Id, counted.Name, counted.Value, counted.Items, counted.Verified));
        Assert.Equal(page.Visitor, counted.Visitor);
        Assert.Null(OrderOnce.Counted(page, new Dictionary<Guid, OrderFigures?>()));
        Assert.Same(page, OrderOnce.Counted(page, new Dictionary<Guid, OrderFigures?> { [page.Id] = null }));
    }
}
