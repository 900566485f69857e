namespace PreciseBeacon.Core.ShortLinks;

/// <summary>What a short link does at a moment.</summary>
public enum RouteOutcome
{
    /// <summary>It redirects.</summary>
    Redirects,

    /// <summary>Somebody has paused it.</summary>
    Paused,

    /// <summary>It has ended, and leads nowhere any more.</summary>
    Ended,
}
