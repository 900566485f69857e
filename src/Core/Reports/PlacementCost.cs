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

        decimal spread = FixedBetween(fixedCost ?? 0, starts, ends, due: DateOnly.MinValue, DateOnly.MinValue, today, today);
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

    /// <summary>What of a fixed cost falls on the days of a range: an equal part on each day of its campaign that has begun.</summary>
    /// <param name="fixedCost">Money for the whole campaign.</param>
    /// <param name="starts">The campaign's first day, or null.</param>
    /// <param name="ends">Its last day, or null; without both all of it falls due on <paramref name="due"/>.</param>
    /// <param name="due">The day a campaign without days of its own is paid on.</param>
    /// <param name="from">The first day of the range.</param>
    /// <param name="to">Its last day.</param>
    /// <param name="today">Today in the workspace's zone: what is to come costs nothing yet.</param>
    /// <returns>Money, not rounded; the parts of ranges side by side add up to the whole.</returns>
    public static decimal FixedBetween(
        decimal fixedCost,
        DateOnly? starts,
        DateOnly? ends,
        DateOnly due,
        DateOnly from,
        DateOnly to,
        DateOnly today
    )
    {
        var last = to < today ? to : today;
        if (starts is not { } first || ends is not { } end || end < first)
        {
            return due >= from && due <= last ? fixedCost : 0;
        }

        int days = end.DayNumber - first.DayNumber + 1;
        return (fixedCost * GoneBy(last) / days) - (fixedCost * (from == DateOnly.MinValue ? 0 : GoneBy(from.AddDays(-1))) / days);

        int GoneBy(DateOnly day) => Math.Clamp(day.DayNumber - first.DayNumber + 1, 0, days);
    }
}
