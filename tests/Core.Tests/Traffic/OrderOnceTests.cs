using PreciseBeacon.Core.Traffic;

namespace PreciseBeacon.CoreTests.Traffic;

public sealed class OrderOnceTests
{
    private const string Browser = "Mozilla/5.0 (Computer; x86_64) Fernleaf/12.1";
    private const string Robot = "Fernbot/1.0 (crawler; +https://fern.example/bot)";

    /// <summary>Events as (minute, agent, verified), and which of them counts, from 0; -1 for none.</summary>
    public static TheoryData<(int, string, bool)[], int> Rows =>
        new()
        {
            { [(0, Browser, false), (1, Browser, false)], 0 },
            { [(5, Browser, false), (1, Browser, false)], 1 },
            { [(0, Browser, false), (9, Browser, true)], 1 },
            { [(0, Robot, false), (1, Browser, false)], 1 },
            { [(0, Robot, false), (1, "", false)], -1 },
            { [(0, Browser, false), (1, "", true)], 1 },
        };

    [Theory]
    [MemberData(nameof(Rows))]
    public void One_event_of_an_order_counts((int, string, bool)[] given, int counts)
    {
        var site = Guid.NewGuid();
        var events = given
            .Select(g => new OrderEvent(Guid.NewGuid(), site, "A1", g.Item3, DateTimeOffset.UnixEpoch.AddMinutes(g.Item1), g.Item2))
            .ToList();
        Assert.Equal(counts < 0 ? [] : [events[counts].Id], OrderOnce.CountingOf(events));
    }

    [Fact]
    public void Orders_of_two_sites_are_two()
    {
        OrderEvent Of(Guid site) => new(Guid.NewGuid(), site, "A1", false, DateTimeOffset.UnixEpoch, Browser);
        Assert.Equal(2, OrderOnce.CountingOf([Of(Guid.NewGuid()), Of(Guid.NewGuid())]).Count);
    }
}
