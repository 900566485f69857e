using PreciseBeacon.Core.Costs;
using PreciseBeacon.Core.Reports;

namespace PreciseBeacon.CoreTests.Costs;

/// <summary>What placements cost over ranges of days (rules, section 7).</summary>
public sealed class FixedCostsTests
{
    private static readonly DateOnly First = new(2026, 11, 1);
    private static readonly DateOnly Last = new(2026, 11, 30);
    private static readonly DateOnly Today = new(2026, 11, 20);

    private static decimal Between(DateOnly from, DateOnly to, DateOnly? ends = null, DateOnly? due = null) =>
        FixedCosts.Between(300m, First, ends ?? Last, due ?? First, from, to, Today);

    [Fact]
    public void Three_clicks_at_seven_cents_cost_twenty_one() => Assert.Equal(0.21m, new CostRate(null, CostBasis.Click, 0.07m).Of(3));

    [Theory]
    [InlineData("2026-11-01", "2026-11-01", 10)]
    [InlineData("2026-11-01", "2026-11-10", 100)]
    [InlineData("2026-11-05", "2026-11-05", 10)]
    [InlineData("2026-11-11", "2026-12-31", 100)] // ten days until today; the rest is to come
    [InlineData("2026-11-21", "2026-11-30", 0)]
    [InlineData("2026-10-01", "2026-10-31", 0)]
    [InlineData("2020-01-01", "2026-11-02", 20)]
    public void A_fixed_cost_is_spread_evenly_over_its_campaign(string from, string to, int cost) =>
        Assert.Equal(cost, Between(DateOnly.Parse(from, null), DateOnly.Parse(to, null)));

    /// <summary>Ranges side by side add up to the whole, also where a day's part has no end.</summary>
    [Theory]
    [InlineData(7)]
    [InlineData(13)]
    [InlineData(1)]
    public void Parts_add_up(int days)
    {
        var last = First.AddDays(days - 1);
        decimal sum = 0;
        for (var day = First.AddDays(-3); day <= last.AddDays(3); day = day.AddDays(1))
        {
            sum += FixedCosts.Between(100m, First, last, First, day, day, last.AddDays(9));
        }

        Assert.Equal(100m, Math.Round(sum, 20));
    }

    [Fact]
    public void Without_days_of_its_own_a_campaign_is_paid_at_once()
    {
        var due = new DateOnly(2026, 11, 7);
        Assert.Equal(300m, FixedCosts.Between(300m, null, Last, due, First, Today, Today));
        Assert.Equal(0m, FixedCosts.Between(300m, First, null, due, First, due.AddDays(-1), Today));
        Assert.Equal(0m, FixedCosts.Between(300m, null, null, Today.AddDays(1), First, Last, Today));
        Assert.Equal(0m, FixedCosts.Between(300m, null, null, due, due.AddDays(1), Last, Today));
    }

    [Fact]
    public void A_link_without_costs_has_no_profit()
    {
        var free = new Figures
        {
            Revenue = 10m,
            Visits = 4,
            Clicks = 5,
            Conversions = 2,
        };
        Assert.Equal((null, null, null), (free.Profit, free.Return, free.CostPerClick));
        var paid = free with { Cost = 4m };
        Assert.Equal((6m, 1.5m, 0.8m, 1m, 2m), (paid.Profit, paid.Return, paid.CostPerClick, paid.CostPerVisit, paid.CostPerConversion));
        Assert.Null((paid with { Cost = 0m }).Return);
        Assert.Equal(4m, paid.With(free).Cost);
        Assert.Null(free.With(free).Cost);
    }
}
