namespace PreciseBeacon.Core.Plan;

/// <summary>Where a campaign stands on a day.</summary>
public enum CampaignState
{
    /// <summary>It has no first day.</summary>
    AlwaysOn,

    /// <summary>Its first day is still to come.</summary>
    Ahead,

    /// <summary>It has begun and has not ended.</summary>
    Running,

    /// <summary>Its last day has gone by.</summary>
    Over,
}
