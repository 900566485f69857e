namespace PreciseBeacon.Core.Plan;

/// <summary>A campaign's budget beside what it has cost.</summary>
/// <param name="Budget">Money for the whole campaign.</param>
/// <param name="Spent">Its cost up to and with today.</param>
/// <param name="Foreseen">
/// Its cost by its last day, if spending goes on as it came: what a day cost so far, over all its days, and all of its fixed costs; null
/// where it has no days of its own, or is over.
/// </param>
public sealed record CampaignBudget(decimal Budget, decimal Spent, decimal? Foreseen)
{
    /// <summary>What was spent of it: 0.5 is half; null for a budget of nothing.</summary>
    public decimal? Share => Budget == 0 ? null : Spent / Budget;

    /// <summary>True where more is spent than there is, or will be.</summary>
    public bool IsOver => Spent > Budget || Foreseen > Budget;

    /// <summary>The budget of a campaign.</summary>
    /// <param name="budget">Money for the whole campaign.</param>
    /// <param name="usedCost">What was spent so far beside fixed costs: for clicks and other uses, and what was imported.</param>
    /// <param name="fixedSoFar">What of the fixed costs fell due so far.</param>
    /// <param name="fixedCost">All fixed costs of its placements.</param>
    /// <param name="dates">Its days.</param>
    /// <param name="today">Today in the workspace's zone.</param>
    public static CampaignBudget Of(
        decimal budget,
        decimal usedCost,
        decimal fixedSoFar,
        decimal fixedCost,
        CampaignDates dates,
        DateOnly today
    )
    {
        decimal? foreseen = null;
        if (dates is { Starts: { } first, Ends: { } last, Days: { } days and > 0 } && today < last)
        {
            int gone = today.DayNumber - first.DayNumber + 1;
            foreseen = fixedCost + (gone < 1 ? usedCost : usedCost / gone * days);
        }

        return new CampaignBudget(budget, usedCost + fixedSoFar, foreseen);
    }
}
