using PreciseBeacon.Core.Plan;

namespace PreciseBeacon.CoreTests.Plan;

/// <summary>By hand: 20 days, 100 of fixed costs; on the fifth day 25 of these are due, and clicks have cost 30, so 6 a day.</summary>
public sealed class CampaignBudgetTests
{
    private static readonly CampaignDates December = new(new DateOnly(2026, 12, 1), new DateOnly(2026, 12, 20));

    private static CampaignBudget On(int day, decimal budget = 200, decimal clicks = 30, decimal due = 25, CampaignDates? dates = null) =>
        CampaignBudget.Of(budget, clicks, due, 100, dates ?? December, new DateOnly(2026, 12, 1).AddDays(day - 1));

    [Fact]
    public void Clicks_go_on_as_they_came_and_fixed_costs_fall_due()
    {
        Assert.Equal(new CampaignBudget(200, 55, 220), On(5));
        Assert.True(On(5).IsOver);
        Assert.Equal(0.275m, On(5).Share);
        Assert.False(On(5, budget: 220).IsOver);
    }

    [Fact]
    public void What_is_over_or_has_no_end_foresees_nothing()
    {
        Assert.Null(On(20).Foreseen); // its last day: what is spent is spent
        Assert.Null(On(60).Foreseen);
        Assert.Null(On(5, dates: new CampaignDates(new DateOnly(2026, 12, 1), null)).Foreseen);
        Assert.True(On(60, budget: 50).IsOver);
    }

    [Fact]
    public void Before_it_begins_its_fixed_costs_are_known()
    {
        Assert.Equal(100, On(-3, clicks: 0, due: 0).Foreseen);
        Assert.Equal(103, On(-3, clicks: 3, due: 0).Foreseen); // somebody tried its links
    }

    [Fact]
    public void A_budget_of_nothing_has_no_share() => Assert.Null(On(5, budget: 0).Share);
}
