namespace PreciseBeacon.Data.Entities;

/// <summary>Where a run of a batch stands.</summary>
public enum BatchState
{
    /// <summary>It goes on, also after a restart.</summary>
    Running,

    /// <summary>Every row was worked through.</summary>
    Finished,

    /// <summary>Somebody stopped it; what it made so far stays.</summary>
    Cancelled,

    /// <summary>It broke off; it can be run again and goes on with what is left.</summary>
    Broken,
}
