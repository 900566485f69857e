namespace PreciseBeacon.Core.Credit;

/// <summary>How the credit for a conversion is given to the touches before it (rules, section 7).</summary>
public enum CreditModel
{
    /// <summary>All of it to the converting visit itself.</summary>
    Last,

    /// <summary>All of it to the last touch that came by a link or with tags; where there is none, to the last.</summary>
    LastTagged,

    /// <summary>All of it to the first touch.</summary>
    First,

    /// <summary>As much to each touch.</summary>
    Equal,

    /// <summary>Fixed shares to the first and the last touch; those between share the rest.</summary>
    Ends,

    /// <summary>The longer ago a touch is the less it gets: half as much for each half-life.</summary>
    Fading,
}
