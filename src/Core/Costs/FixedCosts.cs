namespace PreciseBeacon.Core.Costs;

/// <summary>Costs that are paid whatever is used, spread evenly over their span (rules, section 7).</summary>
public static class FixedCosts
{
    /// <summary>What of a fixed cost falls on the days of a range: an equal part on each day of its span that has begun.</summary>
    /// <param name="fixedCost">Money for the whole span.</param>
    /// <param name="starts">The first day of the span, such as its campaign's, or null.</param>
    /// <param name="ends">Its last day, or null; without both all of it falls due on <paramref name="due"/>.</param>
    /// <param name="due">The day a cost without a span of its own is paid on.</param>
    /// <param name="from">The first day of the range.</param>
    /// <param name="to">Its last day.</param>
    /// <param name="today">Today in the workspace's zone: what is to come costs nothing yet.</param>
    /// <returns>Money, not rounded; the parts of ranges side by side add up to the whole.</returns>
    public static decimal Between(
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
