namespace PreciseBeacon.Core.Plan;

/// <summary>First and last day of a campaign. Days are the workspace's; both ends belong to it.</summary>
/// <param name="Starts">First day, or null for always on.</param>
/// <param name="Ends">Last day, or null while no end is set.</param>
public readonly record struct CampaignDates(DateOnly? Starts, DateOnly? Ends)
{
    /// <summary>True when the last day is before the first.</summary>
    public bool AreTurnedAround => Starts > Ends;

    /// <summary>How many days it runs, both ends counted; null without both.</summary>
    public int? Days => Starts is { } starts && Ends is { } ends ? ends.DayNumber - starts.DayNumber + 1 : null;

    /// <summary>Where it stands on a day.</summary>
    public CampaignState On(DateOnly day)
    {
        if (Ends < day)
        {
            return CampaignState.Over;
        }

        return Starts is null ? CampaignState.AlwaysOn
            : Starts > day ? CampaignState.Ahead
            : CampaignState.Running;
    }

    /// <summary>True when there is a day on which both run.</summary>
    public bool Overlaps(CampaignDates other) =>
        (Starts ?? DateOnly.MinValue) <= (other.Ends ?? DateOnly.MaxValue)
        && (other.Starts ?? DateOnly.MinValue) <= (Ends ?? DateOnly.MaxValue);
}
