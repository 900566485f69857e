using PreciseBeacon.Core.Costs;

namespace PreciseBeacon.CoreTests.Costs;

/// <summary>Which rate holds on which day (rules, section 7; reports, section 3).</summary>
public sealed class CostRatesTests
{
    private static readonly DateOnly Today = new(2026, 11, 20);

    private static readonly CostRate[] OfPlacement =
    [
        new(null, CostBasis.Click, 0.07m),
        new(new DateOnly(2026, 6, 1), CostBasis.Click, 0.09m),
        new(new DateOnly(2026, 9, 1), CostBasis.Visit, 0.20m),
        new(new DateOnly(2026, 7, 1), CostBasis.Span, 310m, new DateOnly(2026, 7, 31)),
    ];

    [Theory]
    [InlineData("2020-01-01", CostBasis.Click, 0.07)]
    [InlineData("2026-05-31", CostBasis.Click, 0.07)]
    [InlineData("2026-06-01", CostBasis.Click, 0.09)]
    [InlineData("2026-07-15", CostBasis.Click, 0.09)] // a span holds beside it
    [InlineData("2026-08-31", CostBasis.Click, 0.09)]
    [InlineData("2026-09-01", CostBasis.Visit, 0.20)]
    [InlineData("2036-01-01", CostBasis.Visit, 0.20)]
    public void The_latest_rate_that_has_begun_holds(string day, CostBasis basis, decimal amount)
    {
        var rate = CostRates.HoldingOn(OfPlacement, DateOnly.Parse(day, null));
        Assert.Equal((basis, amount), (rate!.Basis, rate.Amount));
    }

    [Fact]
    public void Before_the_first_rate_nothing_is_paid() =>
        Assert.Null(CostRates.HoldingOn([new CostRate(Today, CostBasis.Click, 1)], Today.AddDays(-1)));

    [Theory]
    [InlineData("2026-05-31", CostBasis.Click, 0.07)] // the placement's
    [InlineData("2026-08-01", CostBasis.Click, 0.05)] // its own
    [InlineData("2026-10-01", CostBasis.Nothing, 0)]
    public void A_link_has_its_own_rate_from_that_day_on(string day, CostBasis basis, decimal amount)
    {
        CostRate[] own = [new(new DateOnly(2026, 8, 1), CostBasis.Click, 0.05m), new(new DateOnly(2026, 10, 1), CostBasis.Nothing, 0)];
        var rate = CostRates.HoldingOn(own, OfPlacement, DateOnly.Parse(day, null));
        Assert.Equal((basis, amount), (rate!.Basis, rate.Amount));
    }

    [Fact]
    public void Turns_are_the_days_within_a_range_on_which_another_rate_begins() =>
        Assert.Equal([new DateOnly(2026, 9, 1)], CostRates.TurnsIn(OfPlacement, new DateOnly(2026, 6, 1), new DateOnly(2026, 12, 31)));

    /// <summary>Whatever the past was, another cost of a click from today on leaves it alone.</summary>
    [Theory]
    [InlineData(0.10)]
    [InlineData(0.07)]
    [InlineData(null)]
    public void Another_click_cost_never_changes_earlier_days(double? perClick)
    {
        IReadOnlyList<CostRate>[] pasts =
        [
            [],
            [OfPlacement[0]],
            OfPlacement,
            [new(Today, CostBasis.Click, 0.01m)],
        ];
        foreach (var past in pasts)
        {
            var after = CostRates.WithClickCost(past, (decimal?)perClick, Today);
            Assert.Equal((decimal?)perClick, CostRates.ClickCostOn(after, Today));
            Assert.Null(CostRates.WhyWrong(after));
            for (var day = new DateOnly(2026, 1, 1); day < Today; day = day.AddDays(1))
            {
                Assert.Equal(CostRates.HoldingOn(past, day), CostRates.HoldingOn(after, day));
            }
        }
    }

    [Fact]
    public void What_has_no_past_costs_the_same_ever_since() =>
        Assert.Equal([new CostRate(null, CostBasis.Click, 0.5m)], CostRates.WithClickCost([], 0.5m, today: null));

    [Fact]
    public void Only_days_from_the_first_differing_rate_on_can_change()
    {
        Assert.Null(CostRates.FirstDifference(OfPlacement, [.. OfPlacement.Reverse()]));
        Assert.Equal(new DateOnly(2026, 6, 1), CostRates.FirstDifference(OfPlacement, [.. OfPlacement.Where(r => r.Amount != 0.09m)]));
        Assert.Equal(DateOnly.MinValue, CostRates.FirstDifference(OfPlacement, [.. OfPlacement.Skip(1)]));
    }

    [Fact]
    public void Rates_are_stored_and_read_again()
    {
        Assert.Equal(CostRates.InOrder(OfPlacement), CostRates.Parse(CostRates.Write(OfPlacement)));
        Assert.Null(CostRates.Write([]));
    }

    [Theory]
    [InlineData("[{\"from\":null,\"basis\":\"Click\",\"amount\":-1}]", "0 or more")]
    [InlineData("[{\"from\":null,\"basis\":\"Span\",\"amount\":1}]", "first and its last day")]
    [InlineData("[{\"from\":\"2026-02-02\",\"basis\":\"Span\",\"amount\":1,\"to\":\"2026-02-01\"}]", "first and its last day")]
    [InlineData(
        "[{\"from\":\"2026-02-02\",\"basis\":\"Click\",\"amount\":1},{\"from\":\"2026-02-02\",\"basis\":\"Visit\",\"amount\":1}]",
        "2026-02-02"
    )]
    [InlineData("[{\"from\":\"2026-02-02\",\"basis\":\"Click\",\"amount\":1}]", null)]
    public void What_is_wrong_is_said(string json, string? says)
    {
        string? why = CostRates.WhyWrong(CostRates.Parse(json));
        Assert.True(says is null ? why is null : why!.Contains(says, StringComparison.Ordinal), why);
    }
}
