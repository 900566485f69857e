namespace PreciseBeacon.Core.Reports;

/// <summary>What a placement has cost a campaign so far (rules of the figures: cost per click × clicks, plus the fixed cost spread over the days).</summary>
public static class PlacementCost
{
    /// <summary>The cost up to and with today; null where the placement has no cost at all.</summary>
    /// <param name="costPerClick">Money per click, or null.</param>
    /// <param name="fixedCost">Money for the whole campaign, or null.</param>
    /// <param name="clicks">People's clicks; visits where the links have no short link.</param>
    /// <param name="starts">The campaign's first day, or null.</param>
    /// <param name="ends">Its last day, or null; without both the fixed cost falls due at once.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public static decimal? SoFar(decimal? costPerClick, decimal? fixedCost, long clicks, DateOnly? starts, DateOnly? ends, DateOnly today)
    {
        if (costPerClick is null && fixedCost is null)
        {
            return null;
        }

        decimal spread = fixedCost ?? 0;
        if (starts is { } first && ends is { } last && last >= first)
        {
            int days = last.DayNumber - first.DayNumber + 1;
            int gone = Math.Clamp(today.DayNumber - first.DayNumber + 1, 0, days);
            spread = spread * gone / days;
        }

        return Figures.CostOfClicks(costPerClick ?? 0, clicks) + spread;
    }

    /// <summary>One link's part of it: its own clicks, and an equal share of what its placement costs its campaign, so that the parts of all links add up to the whole (ours).</summary>
    /// <param name="costPerClick">Money per click, or null.</param>
    /// <param name="fixedCost">Money for the whole campaign, or null.</param>
    /// <param name="clicks">People's clicks on the link; visits where it has no short link.</param>
    /// <param name="links">Links the campaign has in the placement, this one included.</param>
    /// <param name="starts">The campaign's first day, or null.</param>
    /// <param name="ends">Its last day, or null.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    /// <returns>Money, not rounded; null where the placement has no cost at all.</returns>
    public static decimal? OfLink(
        decimal? costPerClick,
        decimal? fixedCost,
        long clicks,
        int links,
        DateOnly? starts,
        DateOnly? ends,
        DateOnly today
    ) => SoFar(costPerClick, fixedCost / Math.Max(1, links), clicks, starts, ends, today);
}
