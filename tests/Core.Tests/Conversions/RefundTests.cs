using PreciseBeacon.Core.Conversions;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Conversions;

public sealed class RefundTests
{
    private static readonly DateOnly Day = new(2026, 7, 1);

    /// <summary>Order of 50 EUR: refunds as they came, and which count.</summary>
    [Theory]
    [InlineData("50", "1")]
    [InlineData("50.01", "L")]
    [InlineData("20 30", "1 1")]
    [InlineData("20 31 30", "1 L 1")] // what doesn't fit takes nothing away from what comes after it
    [InlineData("20 USD5 30 0.01", "1 C 1 L")]
    public void Together_they_are_never_more_than_the_order(string refunds, string counts)
    {
        var faults = Refunds.Judge(
            50,
            "EUR",
            refunds.Split(' ').Select(r => r.StartsWith("USD", StringComparison.Ordinal) ? (Of(r[3..]), "USD") : (Of(r), "EUR"))
        );
        Assert.Equal(
            counts.Split(' '),
            faults.Select(f =>
                f switch
                {
                    RefundFault.LargerThanOrder => "L",
                    RefundFault.OtherCurrency => "C",
                    _ => "1",
                }
            )
        );

        static decimal Of(string text) => decimal.Parse(text, System.Globalization.CultureInfo.InvariantCulture);
    }

    [Fact]
    public void Of_an_order_worth_nothing_nothing_goes_back() =>
        Assert.Equal([RefundFault.LargerThanOrder], Refunds.Judge(null, null, [(1, "EUR")]));

    /// <summary>Booked on its own day, in its order's row; days outside only use up what is left of the order.</summary>
    [Fact]
    public void A_refund_stands_in_its_orders_row_on_its_own_day()
    {
        var order = new RefundedOrder(
            50,
            "EUR",
            SourceId: 7,
            LandingPageId: 1,
            LastPageId: 1,
            PlaceId: 1,
            DeviceId: 1,
            Hour: 9,
            VisitorKind: 0,
            [new(Day, 30, "EUR"), new(Day.AddDays(1), 15, "EUR"), new(Day.AddDays(1), 10, "EUR"), new(Day.AddDays(1), 5, "EUR")]
        );
        IReadOnlyList<RowField> rows = [new(RowKind.Campaign), new(RowKind.Day)];
        var sources = new RowMap(RowTable.Source, rows, []);
        sources.Add(7, _ => "lantern_nights");
        var days = new RowMap(RowTable.Day, rows, []);
        days.AddDays(Day.AddDays(1), Day.AddDays(2));
        var (found, elsewhere) = RefundRows.Of(
            [order, order with { SourceId = 8 }],
            [sources, days],
            2,
            Day.AddDays(1),
            Day.AddDays(2),
            "EUR"
        );
        Assert.Equal([("lantern_nights, 2026-07-02", 20m)], found.Select(f => (string.Join(", ", f.Key.Keys), f.Value)));
        Assert.Empty(elsewhere);

        // To a workspace that counts in another currency it is apart.
        (found, elsewhere) = RefundRows.Of([order], [sources, days], 2, Day, Day.AddDays(2), "JPY");
        Assert.Empty(found);
        Assert.Equal([("EUR", 20m)], elsewhere.Select(e => (e.Key, e.Value)));
    }

    [Fact]
    public void What_went_back_is_no_profit()
    {
        var figures = Figures.Zero with { Revenue = 100, Refunds = 30, Cost = 20 };
        Assert.Equal((50m, 2.5m), (figures.Profit, figures.Return));
        Assert.Equal(60, figures.With(figures).Refunds);
    }
}
